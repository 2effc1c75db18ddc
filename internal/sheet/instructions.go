package sheet

import (
	"fmt"
	"io"
	"slices"
	"strings"

	"codeberg.org/go-pdf/fpdf"

	"chromaqua/core/guide"
	"chromaqua/core/length"
	"chromaqua/core/lineart"
	"chromaqua/core/panel"
	"chromaqua/core/steps"
	"chromaqua/core/wording"
)

// Measures of instructions, mm: the picture after each step, and how finely it is drawn.
const (
	stepPicture = 44.0
	leastRow    = 12.0
	drawnTo     = 0.35
	leastSteps  = 80.0 // is left of a page that the steps begin on
	crumb       = 0.02 // of an outline's length
)

// WriteInstructions writes what somebody else needs to make the card: what to cut and mix,
// then each step with the picture of the board after it.
func (b *Bench) WriteInstructions(w io.Writer) error {
	d := &doc{Bench: b, unit: b.Card.Unit}
	d.start()
	d.pdf.SetTitle(d.card().Name+", instructions", true)
	d.cutAndMix()
	room(d.pdf, leastSteps)
	d.heading("Step by step", 16)
	t := &telling{doc: d, turns: d.Plan.Turns(d.Schedule), laid: map[laidKey]int{}, shapes: map[int][]lineart.Outline{}, lined: map[int]bool{}, told: steps.Told{}}
	for _, turn := range t.turns {
		if err := t.step(turn); err != nil {
			return err
		}
	}
	return d.pdf.Output(w)
}

// telling is instructions being written: what is painted so far.
type telling struct {
	*doc
	turns  []steps.Turn
	laid   map[laidKey]int           // washes on a cell, or a piece of a zone
	shapes map[int][]lineart.Outline // of the cells of a piece, as finely as they are seen
	lined  map[int]bool              // pieces whose line the document has
	told   steps.Told                // cautions
}

type laidKey struct{ copy, piece, item, area, cell int }

func (t *telling) step(turn steps.Turn) error {
	p := t.pdf
	st := &t.Plan.Steps[turn.Step]
	picture := st.On != nil || len(st.Inks) > 0
	high := 0.0
	if picture {
		t.lay(st, turn.Copies)
		size := t.Plan.Pieces[st.Piece].Board.Card.PanelSize()
		high = stepPicture * size.H.MM() / size.W.MM()
		if most := 56.0; high > most {
			high = most
		}
	}
	left := margin + stepPicture + 6
	title := fmt.Sprintf("%d  %s%s", turn.Number, st.Title, onCards(st, turn.On(t.Plan.Instance.Copies)))
	pw, _ := p.GetPageSize()
	p.SetFont(figures, "B", 12)
	heading := p.SplitText(title, pw-margin-left)
	p.SetFont(figures, "", 11)
	lines := p.SplitText(t.words(st, turn), pw-margin-left)
	row := max(leastRow, high+3, 6*float64(len(heading))+5*float64(len(lines))+3.4)
	room(p, row+6)
	y := p.GetY()
	if picture {
		if err := t.picture(turn, margin, y, high); err != nil {
			return err
		}
	}
	p.SetY(y)
	put := func(lines []string, style string, size, high float64) {
		p.SetFont(figures, style, size)
		for _, line := range lines {
			p.SetX(left)
			p.CellFormat(0, high, line, "", 1, "L", false, 0, "")
		}
	}
	put(heading, "B", 12, 6)
	put(lines, "", 11, 5)
	p.SetXY(margin, max(y+row, p.GetY()+2))
	return p.Error()
}

// lay remembers what a step has painted on some of the cards.
func (t *telling) lay(st *steps.Step, copies []int) {
	if st.On == nil || st.On.Wash == steps.Wetting {
		return
	}
	for _, on := range copies {
		for _, id := range st.Cells {
			t.laid[laidKey{on, st.Piece, st.Item, st.On.Area, id}] = st.On.Wash + 1
		}
	}
}

// onCards names the cards of a turn behind what is done on them, or for them; "" where there
// is only one.
func onCards(st *steps.Step, cards string) string {
	switch {
	case cards == "":
		return ""
	case st.On != nil:
		return ", on " + cards
	}
	return ", for " + cards
}

// intoWet says what comes while what a step lays is wet, and how soon by air; "" where
// nothing does.
func (t *telling) intoWet(turn steps.Turn) string {
	var said []string
	for _, f := range t.Plan.Followers(t.turns, turn) {
		said = append(said, fmt.Sprintf("Step %d comes %s, %s.", f.Number, f.While, f.Window()))
	}
	return strings.Join(said, " ")
}

// words are what is said of a step beside its title.
func (t *telling) words(st *steps.Step, turn steps.Turn) string {
	text := strings.TrimSpace(t.lies(st) + " " + st.Detail)
	if len(st.Tools) > 0 {
		text += " " + wording.Upper(st.Brush()) + "."
	}
	if st.Unattended {
		text += " Leave it for " + wording.Time(st.Dur)
		if turn.Meanwhile {
			text += fmt.Sprintf("; go on with step %d meanwhile", turn.Number+1)
		}
		text += "."
	} else if next := t.intoWet(turn); next != "" {
		text += " " + next
	} else if st.Dry > 0 && st.Kind != steps.Mask { // how long that takes is in its detail
		text += fmt.Sprintf(" Touch-dry after about %.0f min.", max(1, st.Dry.Minutes()))
	}
	if caution, at := t.told.Say(st.Caution, turn.Number); caution != "" {
		text += " Mind: " + caution
	} else if at > 0 {
		text += fmt.Sprintf(" Mind, as at step %d.", at)
	}
	return text
}

// picture draws the piece of a turn as it looks after it, on its first card, what the step
// painted or put on outlined.
func (t *telling) picture(turn steps.Turn, x, y, high float64) error {
	p, st, on := t.pdf, &t.Plan.Steps[turn.Step], turn.Copies[0]
	t.piece = &t.Plan.Pieces[st.Piece]
	t.Board = t.piece.Board
	size := t.Board.Card.PanelSize()
	scale := min(stepPicture/size.W.MM(), high/size.H.MM())
	p.TransformBegin()
	p.TransformScale(100*scale, 100*scale, x, y)
	fillHex(p, panel.LookOf(t.Board.Card.Paper, nil).Dense.Dry)
	p.Rect(x, y, size.W.MM(), size.H.MM(), "F")
	painted, err := t.painted(st.Piece, st, x, y, size.W.MM(), size.H.MM())
	if err != nil {
		return err
	}
	for a := range t.Board.Areas {
		if !painted {
			t.area(laidKey{copy: on, piece: st.Piece, item: st.Item, area: a}, x, y)
		}
	}
	p.SetDrawColor(0xb8, 0xb0, 0xa0)
	p.SetLineWidth(0.15 / scale)
	p.Rect(x, y, size.W.MM(), size.H.MM(), "D")
	p.SetDrawColor(0x0a, 0x6e, 0x70)
	p.SetLineWidth(1.1 / scale * 0.35)
	for _, id := range st.Cells {
		t.outline(st.Piece, id, x, y, "D")
	}
	t.ringed(st, x, y)
	p.SetDrawColor(0x1e, 0x2a, 0x3a)
	p.SetLineWidth(0.2)
	err = t.lineSoFar(turn, x, y, size.W.MM(), size.H.MM())
	p.TransformEnd()
	return err
}

// ringed outlines what a step puts on, where other images lie beside it.
func (t *telling) ringed(st *steps.Step, x, y float64) {
	for _, i := range st.Inks {
		if len(t.Board.Card.Images) > len(st.Inks) {
			t.path(guide.Simplify(t.Board.CutLine(i), drawnTo), x, y, "D")
		}
	}
}

// lineSoFar lays the line over the colours, but for images that are put on later.
func (t *telling) lineSoFar(turn steps.Turn, x, y, w, h float64) error {
	st, later := &t.Plan.Steps[turn.Step], map[int]bool{}
	for _, o := range t.turns[turn.Number:] {
		if next := &t.Plan.Steps[o.Step]; next.Piece == st.Piece && next.Item == st.Item && slices.Contains(o.Copies, turn.Copies[0]) {
			for _, i := range next.Inks {
				later[i] = true
			}
		}
	}
	if len(later) == 0 {
		return t.smallLine(st.Piece, x, y, w, h)
	}
	for i := range t.Board.Card.Images {
		if later[i] {
			continue
		}
		for _, ring := range guide.Simplify(t.Board.CutLine(i), drawnTo).Rings {
			var within []fpdf.PointType
			for _, q := range ring {
				within = append(within, fpdf.PointType{X: x + q.X, Y: y + q.Y})
			}
			t.pdf.ClipPolygon(within, false)
			err := t.smallLine(st.Piece, x, y, w, h)
			t.pdf.ClipEnd()
			if err != nil {
				return err
			}
		}
	}
	return nil
}

// lies says how large what a stamp leaves is and where it lies on its piece, "" where a step
// puts several on: they lie on a sheet already.
func (t *telling) lies(st *steps.Step) string {
	if len(st.Inks) != 1 {
		return ""
	}
	b := t.Plan.Pieces[st.Piece].Board
	x0, y0, x1, y1 := guide.Box(b.CutLine(st.Inks[0]))
	if x1 <= x0 || y1 <= y0 {
		return ""
	}
	u := b.Card.Unit
	return fmt.Sprintf("About %s, %s from the left edge and %s from the top.", length.Size{W: length.FromMM(x1 - x0), H: length.FromMM(y1 - y0)}.Near(u), length.FromMM(x0).Near(u), length.FromMM(y0).Near(u))
}

// area fills what is painted of an area so far.
func (t *telling) area(of laidKey, x, y float64) {
	area := &t.Board.Areas[of.area]
	palette := area.Palette()
	for _, id := range area.Cells {
		of.cell = id
		n := t.laid[of]
		if n == 0 {
			continue
		}
		look := palette.Look(area.Washes[:n])
		fillHex(t.pdf, look.Dense.Dry)
		t.outline(of.piece, id, x, y, "f*")
	}
}

// outline draws one cell, or a piece of a zone.
func (t *telling) outline(piece, id int, x, y float64, style string) {
	all := t.shapes[piece]
	if all == nil {
		for _, o := range t.Board.Shapes {
			all = append(all, guide.Simplify(o, drawnTo))
		}
		t.shapes[piece] = all
	}
	o := lineart.Outline{}
	if id <= len(all) {
		o = all[id-1]
	} else {
		o = guide.Simplify(t.Board.Part(id).Outline, drawnTo)
	}
	if style == "D" { // crumbs between the strokes of a line are no edges
		o.Rings = slices.DeleteFunc(slices.Clone(o.Rings), func(r []lineart.Point) bool {
			return lineart.Outline{Rings: [][]lineart.Point{r}}.Length() < crumb*o.Length()
		})
	}
	t.path(o, x, y, style)
}

// smallLine lays the line over the colours; the document has each once.
func (t *telling) smallLine(piece int, x, y, w, h float64) error {
	if t.lined[piece] {
		t.pdf.ImageOptions("line "+t.piece.ID, x, y, w, h, false, fpdf.ImageOptions{ImageType: "PNG"}, 0, "")
		return t.pdf.Error()
	}
	if len(t.Lines[t.piece.ID]) == 0 {
		return nil
	}
	t.lined[piece] = true
	return t.line(x, y, w, h)
}
