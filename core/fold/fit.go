package fold

import (
	"cmp"
	"slices"
	"strings"

	"chromaqua/core/length"
)

// Clearance is the least a card must be smaller than its envelope in either
// direction, before its thickness is counted.
const Clearance = length.Sixteenth

// A Layer is one thickness in the stack of a card.
type Layer struct {
	Name      string
	Thickness length.Length
	Holds     bool // it is what holds the next on the one below
}

// Thickness adds up a stack.
func Thickness(stack []Layer) (sum length.Length) {
	for _, l := range stack {
		sum += l.Thickness
	}
	return sum
}

// Verdict says how a card goes into an envelope.
type Verdict string

// The verdicts, best first.
const (
	Fits     Verdict = "fits"
	Snug     Verdict = "snug"
	Loose    Verdict = "loose"
	TooThick Verdict = "too thick"
	TooSmall Verdict = "too small"
)

// A Fit is one envelope held against one card. The envelope is turned so that
// its long side lies along the card's.
type Fit struct {
	Envelope Envelope
	Verdict  Verdict
	SpareW   length.Length // envelope less card along the long side; negative when too small
	SpareH   length.Length // and along the short side
	Need     length.Length // clearance and stack thickness, needed both ways
}

// Good reports whether the card goes in.
func (f Fit) Good() bool { return f.Verdict != TooThick && f.Verdict != TooSmall }

// Why says in unit u what there is to spare, or what is missing.
func (f Fit) Why(u length.Unit) string {
	var over []string
	if f.SpareW < 0 {
		over = append(over, (-f.SpareW).Near(u)+" too long")
	}
	if f.SpareH < 0 {
		over = append(over, (-f.SpareH).Near(u)+" too wide")
	}
	switch {
	case len(over) > 0:
		return strings.Join(over, ", ")
	case f.Verdict == TooSmall:
		return "less than " + Clearance.Near(u) + " to spare"
	case f.Verdict == TooThick:
		return "its thickness needs " + f.Need.Near(u) + " each way"
	}
	return f.SpareW.Near(u) + " and " + f.SpareH.Near(u) + " to spare"
}

// loose is the spare room beyond which a card slides about.
const loose = 3 * length.Inch / 4

// FitInto holds a front with a stack of the given thickness against an
// envelope. A thick card bows the envelope, so each side needs the clearance
// and the thickness.
func FitInto(front length.Size, thick length.Length, e Envelope) Fit {
	w, h := max(front.W, front.H), min(front.W, front.H)
	f := Fit{
		Envelope: e,
		SpareW:   max(e.Inside.W, e.Inside.H) - w,
		SpareH:   min(e.Inside.W, e.Inside.H) - h,
		Need:     Clearance + thick,
	}
	switch least := min(f.SpareW, f.SpareH); {
	case least < Clearance:
		f.Verdict = TooSmall
	case least < f.Need:
		f.Verdict = TooThick
	case max(f.SpareW, f.SpareH) > loose:
		f.Verdict = Loose
	case least < f.Need+length.Inch/32:
		f.Verdict = Snug
	default:
		f.Verdict = Fits
	}
	return f
}

// FitAll holds a card against every standard envelope: those it goes into
// first, the closest fit leading, then the others, the nearest miss leading.
func FitAll(front length.Size, thick length.Length) []Fit {
	var fits []Fit
	for _, e := range Envelopes() {
		fits = append(fits, FitInto(front, thick, e))
	}
	slices.SortStableFunc(fits, func(a, b Fit) int {
		if a.Good() != b.Good() {
			if a.Good() {
				return -1
			}
			return 1
		}
		if a.Good() {
			return cmp.Compare(a.SpareW+a.SpareH, b.SpareW+b.SpareH)
		}
		return cmp.Compare(a.miss(), b.miss())
	})
	return fits
}

// miss is how much is missing for the card to go in.
func (f Fit) miss() length.Length {
	return max(0, f.Need-f.SpareW) + max(0, f.Need-f.SpareH)
}

// MinFront is the least width and height of a front.
const MinFront = length.Inch / 2

// An Option is a card that can be made from a piece of paper.
type Option struct {
	Format    Format
	Side      Side
	Blank     length.Size
	Up        int           // how many blanks the piece gives
	Leftovers []length.Size // what remains after cutting them, largest first
	Envelopes []Fit         // standard envelopes for the finished card
}

// FromPaper answers which cards a piece of paper makes: every standard format,
// folded at the side or the top, and the piece itself folded in half either
// way. thick is the finished stack. Formats that use most of the piece lead.
func FromPaper(piece length.Size, thick length.Length) []Option {
	var out []Option
	try := func(f Format, side Side) {
		o := Option{Format: f, Side: side}
		blank := BlankFor(f.Front, side)
		o.Blank = blank.Size
		o.Up, o.Leftovers = nUp(piece, blank.Size)
		if o.Up == 0 {
			return
		}
		for _, fit := range FitAll(f.Front, thick) {
			if fit.Good() {
				o.Envelopes = append(o.Envelopes, fit)
			}
		}
		out = append(out, o)
	}
	for _, f := range Formats() {
		// A landscape front has the same two blanks, turned.
		try(f, Left)
		try(f, Top)
	}
	if min(piece.W, piece.H)/2 < MinFront {
		return sorted(out)
	}
	half := Format{ID: "free", Name: "your piece, folded in half", Basis: "free size"}
	half.Front = length.Size{W: piece.W / 2, H: piece.H}
	try(half, Left)
	half.Front = length.Size{W: piece.W, H: piece.H / 2}
	try(half, Top)
	return sorted(out)
}

// sorted puts formats that fit an envelope well first, and of those the ones
// that use most of the paper.
func sorted(out []Option) []Option {
	used := func(o Option) float64 { return float64(o.Up) * o.Blank.W.MM() * o.Blank.H.MM() }
	slices.SortStableFunc(out, func(a, b Option) int {
		return cmp.Or(cmp.Compare(b.goodFit(), a.goodFit()), cmp.Compare(used(b), used(a)))
	})
	return out
}

// goodFit is 1 when a standard envelope holds the card without rattling.
func (o Option) goodFit() int {
	for _, f := range o.Envelopes {
		if f.Verdict != Loose {
			return 1
		}
	}
	return 0
}

// nUp returns how many blanks a piece gives, cut in one grid either way
// round, and what is left over.
func nUp(piece, blank length.Size) (up int, leftovers []length.Size) {
	for _, b := range []length.Size{blank, blank.Turned()} {
		nx, ny := int(piece.W/b.W), int(piece.H/b.H)
		if nx*ny <= up {
			continue
		}
		up = nx * ny
		usedW, usedH := b.W*length.Length(nx), b.H*length.Length(ny)
		leftovers = nil
		// The longer strip is kept whole.
		strips := []length.Size{{W: piece.W - usedW, H: piece.H}, {W: usedW, H: piece.H - usedH}}
		if (piece.W-usedW).MM()*usedH.MM() < (piece.H-usedH).MM()*usedW.MM() {
			strips = []length.Size{{W: piece.W - usedW, H: usedH}, {W: piece.W, H: piece.H - usedH}}
		}
		for _, s := range strips {
			if s.W > 0 && s.H > 0 {
				leftovers = append(leftovers, s)
			}
		}
		slices.SortFunc(leftovers, func(a, b length.Size) int { return cmp.Compare(b.W.MM()*b.H.MM(), a.W.MM()*a.H.MM()) })
	}
	return up, leftovers
}
