package fold

import (
	"cmp"
	"slices"
	"strings"

	"chromaqua/core/length"
)

// Ease is the least an envelope must leave round a card each way, half of what its
// girth must be less than the envelope's. With twice as much the card slips in easily.
const Ease = length.Millimetre

// A Layer is one thickness in the stack of a card.
type Layer struct {
	Name      string
	Thickness length.Length
	Holds     bool   // it is what holds the next on the one below
	Ring      string // as which it lies on the front, "" for what does not
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
	SpareW   length.Length // envelope less card along the long side, lying flat; negative when too small
	SpareH   length.Length // and along the short side
	BulkW    length.Length // what the card's thickness takes of that
	BulkH    length.Length
}

// Good reports whether the card goes in.
func (f Fit) Good() bool { return f.Verdict != TooThick && f.Verdict != TooSmall }

// Room is what is left along the long and the short side with the card inside;
// negative when it does not go in.
func (f Fit) Room() (long, short length.Length) { return f.SpareW - f.BulkW, f.SpareH - f.BulkH }

// Why says in unit u what there is to spare, or what is missing.
func (f Fit) Why(u length.Unit) string {
	var over []string
	if f.SpareW < 0 {
		over = append(over, (-f.SpareW).Near(u)+" too long")
	}
	if f.SpareH < 0 {
		over = append(over, (-f.SpareH).Near(u)+" too wide")
	}
	long, short := f.Room()
	switch {
	case len(over) > 0:
		return strings.Join(over, ", ")
	case f.Verdict == TooSmall:
		return "less than " + Ease.Near(u) + " to spare"
	case f.Verdict == TooThick:
		spare, bulk, way := f.SpareW, f.BulkW, "length"
		if short < long {
			spare, bulk, way = f.SpareH, f.BulkH, "width"
		}
		return "its thickness takes " + bulk.With(u) + " of the " + spare.With(u) + " to spare along its " + way + ", and " + Ease.With(u) + " has to be left"
	}
	return long.Near(u) + " and " + short.Near(u) + " to spare"
}

// slides is the room beyond which a card slides about. ISO 269 gives a C5 envelope
// 19 mm over an A5 card, so that this is still usual.
const slides = 3 * length.Inch / 4

// FitInto holds a card against an envelope: half its girth each way, and [Ease], have
// to go into the inside.
func FitInto(b Body, e Envelope) Fit {
	long, short := max(e.Inside.W, e.Inside.H), min(e.Inside.W, e.Inside.H)
	front, needs := b.Front, b.Needs()
	if front.W < front.H {
		front, needs = front.Turned(), needs.Turned()
	}
	f := Fit{
		Envelope: e,
		SpareW:   long - front.W, SpareH: short - front.H,
		BulkW: needs.W - front.W, BulkH: needs.H - front.H,
	}
	roomW, roomH := f.Room()
	switch least := min(roomW, roomH); {
	case min(f.SpareW, f.SpareH) < Ease:
		f.Verdict = TooSmall
	case least < Ease:
		f.Verdict = TooThick
	case max(roomW, roomH) > slides:
		f.Verdict = Loose
	case least < 2*Ease:
		f.Verdict = Snug
	default:
		f.Verdict = Fits
	}
	return f
}

// FitAll holds a card against every standard envelope: those it goes into
// first, the closest fit leading, then the others, the nearest miss leading.
func FitAll(b Body) []Fit {
	var fits []Fit
	for _, e := range Envelopes() {
		fits = append(fits, FitInto(b, e))
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
	long, short := f.Room()
	return max(0, Ease-long) + max(0, Ease-short)
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
		blank := BlankFor(f.Front, side, length.Inches) // all that counts here is its size
		o.Blank = blank.Size
		o.Up, o.Leftovers = nUp(piece, blank.Size)
		if o.Up == 0 {
			return
		}
		for _, fit := range FitAll(Plain(f.Front, thick)) {
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
