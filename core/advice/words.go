package advice

import (
	"fmt"
	"math"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/length"
	"chromaqua/core/lineart"
)

// corners are where words reach to, mm from the top left corner of their piece.
func corners(t *card.Text) (out [4]lineart.Point) {
	size := t.Size()
	sin, cos := math.Sincos(t.Turn * math.Pi / 180)
	for i := range out {
		x, y := size.W.MM()/2, size.H.MM()/2
		if i == 0 || i == 3 {
			x = -x
		}
		if i < 2 {
			y = -y
		}
		out[i] = lineart.Point{X: t.X.MM() + x*cos - y*sin, Y: t.Y.MM() + x*sin + y*cos}
	}
	return out
}

// as is the change that leaves words as they are, but for what is done to them.
func as(x *card.Handling, u length.Unit, with func(*change.PutWords)) change.Change {
	t := x.Text
	c := change.PutWords{
		Act: x.ID, Text: t.Text, By: t.By, Ink: t.Ink, Times: t.Times, Turn: change.Number(t.Turn),
		Height: change.Typed(t.Height.Typed(u)), X: change.Typed(t.X.Typed(u)), Y: change.Typed(t.Y.Typed(u)),
	}
	with(&c)
	return c
}

// wordsOverhang: words end where their piece does.
func wordsOverhang(f Facts) (out []Watch) {
	size := f.Card.PanelSize()
	w, h := size.W.MM(), size.H.MM()
	for i := range f.Card.Acts {
		x := &f.Card.Acts[i]
		if x.Text == nil {
			continue
		}
		over := 0.0
		for _, p := range corners(x.Text) {
			over = max(over, -p.X, -p.Y, p.X-w, p.Y-h)
		}
		if over < 0.5 {
			continue
		}
		fits := min(x.Text.Height.MM(), 0.9*x.Text.Height.MM()*min(w/x.Text.Size().W.MM(), h/x.Text.Size().H.MM()))
		high := length.FromMM(math.Floor(2*fits) / 2)
		watch := Watch{
			Severity: Mind,
			What:     fmt.Sprintf("%s reach over the edge, by about %s.", x.Text.Words(), length.FromMM(over).Near(f.Card.Unit)),
			Why:      "Reckoned by a plain face; measure your proof. Make them smaller, in two lines, or move them in.",
		}
		if high >= card.MinText {
			middle := as(x, f.Card.Unit, func(c *change.PutWords) {
				c.X, c.Y, c.Height = change.Typed((size.W / 2).Typed(f.Card.Unit)), change.Typed((size.H / 2).Typed(f.Card.Unit)), change.Typed(high.Typed(f.Card.Unit))
			})
			watch.ways = []Fix{{Label: "Make a line " + high.Near(f.Card.Unit) + " high, in the middle", Change: middle}}
		}
		out = append(out, watch)
	}
	return out
}

// wordsOnLine: words are read where nothing lies behind them.
func wordsOnLine(f Facts) (out []Watch) {
	if f.Card.Line() == nil {
		return nil
	}
	for i := range f.Card.Acts {
		x := &f.Card.Acts[i]
		if x.Text == nil || x.Text.Turn != 0 || !f.inked(x.Text) {
			continue
		}
		watch := Watch{
			Severity: Note,
			What:     fmt.Sprintf("%s stand on the drawing.", x.Text.Words()),
			Why:      "Words are hard to read on lines, and hide what the card is about.",
		}
		for _, p := range f.Board.RoomFor(x.Text.Size()) {
			watch.ways = append(watch.ways, Fix{Label: "Put them where there is room", Change: as(x, f.Card.Unit, func(c *change.PutWords) {
				c.X, c.Y = change.Typed(length.FromMM(p.X+p.W/2).Typed(f.Card.Unit)), change.Typed(length.FromMM(p.Y+p.H/2).Typed(f.Card.Unit))
			})})
		}
		out = append(out, watch)
	}
	return out
}

// legible is how light paint has to be for dark words to be read on it, L*.
const legible = 50

// wordsLost: dark words are not read on dark paint.
func wordsLost(f Facts) (out []Watch) {
	for i := range f.Card.Acts {
		x := &f.Card.Acts[i]
		if x.Text == nil || x.First() || !f.dark(corners(x.Text)) {
			continue
		}
		watch := Watch{
			Severity: Mind,
			What:     fmt.Sprintf("%s are hardly read: dark ink on dark paint.", x.Text.Words()),
			Why:      "Put them where it is pale, on a strip of their own, or emboss them in white.",
		}
		size := x.Text.Size()
		for _, p := range f.Board.RoomFor(size) {
			w, h := p.X+p.W, p.Y+p.H
			if f.dark([4]lineart.Point{{X: p.X, Y: p.Y}, {X: w, Y: p.Y}, {X: w, Y: h}, {X: p.X, Y: h}}) {
				continue
			}
			watch.ways = append(watch.ways, Fix{Label: "Put them where it is pale", Change: as(x, f.Card.Unit, func(c *change.PutWords) {
				c.X, c.Y = change.Typed(length.FromMM(p.X+p.W/2).Typed(f.Card.Unit)), change.Typed(length.FromMM(p.Y+p.H/2).Typed(f.Card.Unit))
			})})
		}
		out = append(out, watch)
	}
	return out
}

// dark reports whether most of what lies between four corners is too dark for words.
func (f Facts) dark(at [4]lineart.Point) bool {
	const steps = 5
	dark := 0
	for i := range steps {
		for k := range steps {
			u, v := (float64(i)+0.5)/steps, (float64(k)+0.5)/steps
			p := lineart.Point{
				X: at[0].X + u*(at[1].X-at[0].X) + v*(at[3].X-at[0].X),
				Y: at[0].Y + u*(at[1].Y-at[0].Y) + v*(at[3].Y-at[0].Y),
			}
			if l, ok := f.Board.LookAt(p); ok && (l.Dense.Lab.L+l.Thin.Lab.L)/2 < legible {
				dark++
			}
		}
	}
	return dark > steps*steps/2
}

// inked reports whether words stand on ink of the line, or on what they must not hide.
func (f Facts) inked(t *card.Text) bool {
	const step = 0.5
	at, size := corners(t), f.Card.PanelSize()
	for y := max(0, at[0].Y); y < min(at[2].Y, size.H.MM()); y += step {
		for x := max(0, at[0].X); x < min(at[2].X, size.W.MM()); x += step {
			id := f.Board.At(lineart.Point{X: x, Y: y})
			if id == 0 {
				return true
			}
			if a := f.Board.HolderOf(id); a != nil && a.Focal {
				return true
			}
		}
	}
	return false
}
