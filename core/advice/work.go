package advice

import (
	"fmt"
	"math"
	"slices"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/drying"
	"chromaqua/core/lineart"
	"chromaqua/core/mount"
	"chromaqua/core/panel"
	"chromaqua/core/shelf"
	"chromaqua/core/steps"
	"chromaqua/core/wording"
)

// mediaFight: an image of its own ink runs under what is washed over it, while the rest of
// the line holds.
func mediaFight(f Facts) (out []Watch) {
	for i := range f.Card.Images {
		m := &f.Card.Images[i]
		k := f.Card.InkOf(m)
		look := f.Card.LookOf(m)
		if m.Medium == nil || !m.Inked() || k.Holds || look != shelf.Crisp && look != shelf.Soft || f.Card.Late(m.ID) {
			continue
		}
		var over []string
		var cells []int
		for _, a := range f.Board.Areas {
			wet := slices.ContainsFunc(a.Washes, func(w card.Wash) bool { return w.Technique.Covers() })
			if wet && f.Board.InkOver(i, a.Cells) && (len(f.Card.Images) == 1 || slices.ContainsFunc(a.Area.Cells, func(s card.Spot) bool { return s.On == m.ID })) {
				over, cells = append(over, a.Name), append(cells, a.Cells...)
			}
		}
		if len(over) == 0 {
			continue
		}
		slices.Sort(cells)
		out = append(out, Watch{
			Severity: Stop, Cells: slices.Compact(cells),
			What: fmt.Sprintf("%s is put on with %s, and %s goes over it.", m.Title, k.Name, wording.And(over)),
			Why:  "The rest of the line may hold, but this part runs into the paint. Take an ink that holds, or want it pulled.",
			ways: []Fix{
				{Label: "Put it on as the rest", Change: change.Medium{Image: m.ID}},
				{Label: "Want it pulled", Change: change.Medium{Image: m.ID, Ink: &change.Material{ID: m.Medium.Ink}, Look: shelf.Pulled}},
			},
		})
	}
	return out
}

// dampFor is how long paint has to be left before powder, at least, for the wait to be
// worth a word.
const dampFor = 15 * time.Minute

// powderOnDamp: an embossing over paint waits for it to be bone dry.
func powderOnDamp(f Facts) (out []Watch) {
	for i := range f.Card.Images {
		m := &f.Card.Images[i]
		if !m.Inked() || !f.Card.InkOf(m).Raises() || !f.Card.Late(m.ID) {
			continue
		}
		var below *steps.Step
		for k := range f.Plan.Steps {
			s := &f.Plan.Steps[k]
			if s.On != nil && s.Water > 0 && f.Board.InkOver(i, s.Cells) && (below == nil || s.Bone > below.Bone) && f.under(m, s) {
				below = s
			}
		}
		if below == nil || below.Bone < dampFor {
			continue
		}
		out = append(out, Watch{
			Severity: Note, Cells: below.Cells,
			What: fmt.Sprintf("%s is embossed over %s, which takes about %.0f min to be bone dry by air.", m.Title, f.Board.Areas[below.On.Area].Name, below.Bone.Minutes()),
			Why:  "Powder clings to whatever is damp, and cold to the back of the hand is damp. Dust it with the pouch first.",
		})
	}
	return out
}

// under reports whether an image is said to lie over what a step paints.
func (f Facts) under(m *card.Image, s *steps.Step) bool {
	a := f.Board.Areas[s.On.Area].ID
	ref := card.WashRef(a, max(0, s.On.Wash))
	return f.Card.LiesOver(card.Ref(m.ID), card.Ref(a)) || f.Card.LiesOver(card.Ref(m.ID), ref)
}

// imageUnderTape: tape lies on what is printed.
func imageUnderTape(f Facts) []Watch {
	border := f.Card.Painting.Border.MM()
	if border <= 0 || !f.Card.Inked() {
		return nil
	}
	const much = 2.0 // mm² of ink under the tape
	w, h := f.Card.PanelSize().W.MM(), f.Card.PanelSize().H.MM()
	mm := 25.4 / f.Board.DPI
	ink := 0.0
	for y := range f.Board.H {
		inside := float64(y)*mm >= border && float64(y)*mm < h-border
		for x := range f.Board.W {
			if px := float64(x) * mm; inside && px >= border && px < w-border {
				continue
			}
			if f.Board.Labels[y*f.Board.W+x] == 0 {
				ink += mm * mm
			}
		}
	}
	if ink < much {
		return nil
	}
	p := f.Card.Painting
	return []Watch{{
		Severity: Mind,
		What:     fmt.Sprintf("The tape covers part of what is printed: the border of %s cuts it off.", p.Border.With(f.Card.Unit)),
		Why:      "The line ends at the tape as if it were cut, and tape may lift ink that is not quite dry. Make the border narrower, or move the image.",
		ways:     []Fix{{Label: "Paint to the edge, without a masked border", Change: change.Painting{Border: "0", Tape: change.Typed(p.Tape.Typed(f.Card.Unit)), Spare: change.Typed(p.Spare.Typed(f.Card.Unit))}}},
	}}
}

// darkEdge is the lightness below which a cut white edge catches the eye.
const darkEdge = 50

// edgeWhite: a dark figure that is cut out and popped up shows the white of its paper.
func edgeWhite(f Facts) (out []Watch) {
	for i := range f.Card.Pieces {
		p := &f.Card.Pieces[i]
		if p.Outline == nil || p.Outline.Darken || !mount.HeldBy(f.Card, p.ID).Facts().Raised {
			continue
		}
		dark := ""
		darkest := float64(darkEdge)
		for _, a := range p.Areas {
			if len(a.Washes) == 0 || len(a.Cells) == 0 {
				continue
			}
			if l := panel.LookOf(p.Paper, a.Washes).Dense.Lab.L; l < darkest {
				dark, darkest = a.Name, l
			}
		}
		if dark == "" {
			continue
		}
		u := f.Card.Unit
		out = append(out, Watch{
			Severity: Mind,
			What:     fmt.Sprintf("The %s is popped up, and its cut edge stays white beside %s.", p.Name, dark),
			Why:      "On foam the edge of the paper is seen from the side. Run a marker of the same colour round it before it is mounted.",
			ways:     []Fix{{Label: "Darken its edge", Change: change.CutAlong{Piece: p.ID, Image: p.Outline.Image, Margin: change.Typed(p.Outline.Margin.Typed(u)), Partial: p.Outline.Partial, Darken: true}}},
		})
	}
	return out
}

// Thin paper lets ink through to its other side.
var goesThrough = []string{"solvent", "dye"}

// thinPaperBleeds: what shows on the other side of a leaf or the base.
func thinPaperBleeds(f Facts) (out []Watch) {
	for i := range f.Card.Pieces {
		p := &f.Card.Pieces[i]
		paper := p.PaperFacts()
		if p.Kind != card.BasePiece && p.Kind != card.Leaf || paper.Wets {
			continue
		}
		for _, k := range p.Inks() {
			if !slices.Contains(goesThrough, k.ID) || !slices.ContainsFunc(p.Images, func(m card.Image) bool { return m.Inked() }) {
				continue
			}
			out = append(out, Watch{
				Severity: Mind,
				What:     fmt.Sprintf("%s goes through %s: the %s shows it on its other side.", wording.Upper(k.Name), paper.Name, p.Name),
				Why:      "Both sides of it are seen. Take a pigment ink, or work on a piece of its own that is mounted there.",
			})
		}
	}
	return out
}

// A rect is where a piece lies on the panel, mm.
type rect struct{ x0, y0, x1, y1 float64 }

// lieOf is where a piece lies on the panel; ok is false for one that lies elsewhere. What
// is turned counts by its middle and size alone.
func lieOf(f Facts, p *card.Piece) (r rect, ok bool) {
	if p.Place == nil || p.Place.On != card.ThePanel {
		return rect{}, false
	}
	on, size := f.Card.PanelSize(), f.Card.SizeOf(p)
	x, y := on.W.MM()/2+p.Place.X.MM(), on.H.MM()/2+p.Place.Y.MM()
	w, h := size.W.MM()/2, size.H.MM()/2
	if math.Abs(math.Remainder(p.Place.Turn, 180)) > 45 {
		w, h = h, w
	}
	return rect{x - w, y - h, x + w, y + h}, true
}

func (r rect) holds(p lineart.Point) bool {
	return p.X >= r.x0 && p.X <= r.x1 && p.Y >= r.y0 && p.Y <= r.y1
}

// pieceHides: a piece lies on what the card is about.
func pieceHides(f Facts) (out []Watch) {
	for i := range f.Card.Pieces {
		p := &f.Card.Pieces[i]
		r, lies := lieOf(f, p)
		if !lies {
			continue
		}
		for _, a := range f.Board.Areas {
			if !a.Focal || len(a.Cells) == 0 {
				continue
			}
			var hidden []int
			under := 0.0
			for _, id := range a.Cells {
				if cell := f.Board.Part(id); r.holds(cell.Label) {
					hidden, under = append(hidden, id), under+cell.AreaMM2
				}
			}
			if under < a.MM2/4 {
				continue
			}
			out = append(out, Watch{
				Severity: Mind, Cells: hidden,
				What: fmt.Sprintf("The %s lies on %s and hides %.0f %% of it.", p.Name, a.Name, 100*under/a.MM2),
				Why:  a.Name + " is what the card is about. Move the piece, or let it be about something else.",
			})
		}
	}
	return out
}

// stampedUnderPiece: an image is put where a piece will lie.
func stampedUnderPiece(f Facts) (out []Watch) {
	for i := range f.Card.Images {
		m := &f.Card.Images[i]
		if !m.Inked() {
			continue
		}
		for k := range f.Card.Pieces {
			p := &f.Card.Pieces[k]
			r, lies := lieOf(f, p)
			if !lies {
				continue
			}
			inside := 0
			const n = 8
			for at := range n * n {
				u, v := (float64(at%n)+0.5)/n, (float64(at/n)+0.5)/n*m.Height().MM()/m.Width.MM()
				if r.holds(panel.OnPanel(m, card.UV{U: u, V: v})) {
					inside++
				}
			}
			if inside*10 < n*n*9 {
				continue
			}
			out = append(out, Watch{
				Severity: Note,
				What:     fmt.Sprintf("%s is put where the %s will lie.", m.Title, p.Name),
				Why:      "Nobody sees it there. It does no harm as a guide; else leave it out, or put it on the piece.",
			})
		}
	}
	return out
}

// heldTooWeakly: full washes want tape that stands water, or a block.
func heldTooWeakly(f Facts) []Watch {
	wettest := drying.GramsPerSquareMetre(0)
	for _, a := range f.Card.Areas {
		for _, w := range a.Washes {
			if w.Technique.Covers() {
				wettest = max(wettest, w.Technique.Laid())
			}
		}
	}
	if wettest < drying.Glaze || len(f.Card.Hold) == 0 {
		return nil
	}
	held := f.Card.Hold[0]
	for _, h := range f.Card.Hold {
		if held = h; h.How.Facts().Wet {
			break
		}
	}
	w := Watch{Severity: Mind}
	switch {
	case !held.How.Facts().Wet:
		w.What = fmt.Sprintf("A full wash is planned on a piece that is %s.", held.How.Facts().Words)
		w.Why = "It buckles as it drinks, and paint runs into the hollows. Tape it down, or work on a block."
	case held.How == card.TapedDown && !held.Tape.Facts().Wet:
		w.What = fmt.Sprintf("A full wash is planned on a piece held by %s.", held.Tape)
		w.Why = "It is weak, and lets go of wet paper: water creeps under it. Take painter's tape."
	default:
		return nil
	}
	n := slices.IndexFunc(f.Card.Hold, func(h card.Hold) bool { return h.How == held.How && h.From == held.From && h.Tape == held.Tape })
	w.ways = []Fix{{Label: "Tape it with painter's tape", Change: change.Hold{N: n, How: card.TapedDown, From: held.From, Tape: card.PaintersTape}}}
	return []Watch{w}
}

// overRaised: a stamp prints only on what lies flat.
func overRaised(f Facts) (out []Watch) {
	for i := range f.Card.Images {
		m := &f.Card.Images[i]
		if !m.Inked() || f.Card.InkOf(m).Method != shelf.Stamped || !f.Card.Late(m.ID) {
			continue
		}
		for k := range f.Card.Images {
			o := &f.Card.Images[k]
			if k == i || !o.Inked() || !f.Card.InkOf(o).Raises() || f.Card.Late(o.ID) || !f.Board.InkMeets(i, k) {
				continue
			}
			out = append(out, Watch{
				Severity: Mind,
				What:     fmt.Sprintf("%s is stamped over the raised line of %s.", m.Title, o.Title),
				Why:      "The stamp rides on the line and prints only what lies flat beside it. Stamp it first, or put it where nothing is raised.",
				ways:     []Fix{{Label: "Stamp it before any paint", Change: change.AsUsual{}}},
			})
		}
	}
	return out
}
