package colour

import (
	"slices"
	"strings"

	"chromaqua/core/card"
	"chromaqua/core/panel"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/internal/desk"
	"chromaqua/internal/web/board"
)

// view is what the station shows.
type view struct {
	Areas      []areaView
	Pans       []board.Pan
	Strengths  []pigment.Strength
	Techniques []card.TechniqueGroup
	Wanted     *wantedView
	Judgement  *panel.Judgement
	Measured   []card.Measured // paints of the maker's it could be painted with
	Free       int             // cells that belong to no area, the outside not counted
}

type areaView struct {
	*panel.Area
	Number  int
	Look    panel.Look
	Washes  []washView
	Open    bool
	Touches []touchView
	Whites  string // how opaque white covers it
	Alike   []*panel.Area

	TouchesItself bool // across a line that is not raised
}

// AlikeIDs are the areas that look like it, as the edit wants them.
func (a areaView) AlikeIDs() string {
	var ids []string
	for _, o := range a.Alike {
		ids = append(ids, o.ID)
	}
	return strings.Join(ids, " ")
}

type washView struct {
	card.Wash
	Index   int
	Name    string
	Parts   []partView
	Shades  []shadeView // the same mix at every strength
	Coat    panel.Tone  // alone on the paper
	Weaker  panel.Tone  // mixed a quarter too weak
	Heavier panel.Tone
	Off     float64      // ΔE00 from weaker to heavier
	Coats   []panel.Tone // one to six of it, over what lies below
	Left    *leftView    // of what lies below, when it is done with clean water

	MayGoWet bool // into the wash below while that is wet, or over it

	from  panel.Palette
	among []card.Wash // all washes of the area
}

// leftView is what clean water leaves of a wash.
type leftView struct{ Before, After panel.Tone }

type partView struct {
	card.Part
	Name string
	Hex  string
}

type shadeView struct {
	Strength pigment.Strength
	Tone     panel.Tone
	Now      bool
}

// Becomes is how the area looks when a paint has so many parts more in the wash, so
// that the board can show it at once; "" when that cannot be.
func (w washView) Becomes(ci string, parts int) string {
	return w.becomes(func(c *card.Wash) error { return c.Dip(ci, parts) })
}

// BecomesAs is how the area looks with the wash in another strength.
func (w washView) BecomesAs(s pigment.Strength) string {
	return w.becomes(func(c *card.Wash) error { c.Strength = s; return nil })
}

func (w washView) becomes(change func(*card.Wash) error) string {
	washes := slices.Clone(w.among)
	c := &washes[w.Index]
	c.Mix = slices.Clone(c.Mix)
	if err := change(c); err != nil {
		return ""
	}
	return board.SixColours(w.from.Look(washes))
}

type touchView struct {
	Area    *panel.Area
	Joined  bool
	Meeting string
	Value   string
	Apart   string // why they cannot run together though they are to, "" when they can
}

// viewOf is what the station shows of a card whose cells are known, with an area open,
// by its id.
func viewOf(l *desk.Laid, own []shelf.Own, open string) *view {
	b := l.Board
	palette := panel.PaletteOf(b.Card)
	v := &view{
		Strengths: pigment.Strengths(), Techniques: card.TechniqueGroups(), Pans: board.Pans(palette, panel.NamesOf(own)),
		Judgement: b.Judge(l.Facts.Looks), Measured: panel.Unused(b.Card, own), Free: len(b.Free()),
	}
	for i := range b.Areas {
		a := areaView{Area: &b.Areas[i], Number: i + 1, Look: l.Facts.Looks[i], Open: b.Areas[i].ID == open}
		if a.Open {
			a.opened(l, i, palette)
		} else {
			for _, w := range a.Area.Washes {
				a.Washes = append(a.Washes, washView{Wash: w})
			}
		}
		v.Areas = append(v.Areas, a)
	}
	return v
}

// opened adds what is shown of the area that is open.
func (a *areaView) opened(l *desk.Laid, i int, palette panel.Palette) {
	b := l.Board
	for k, w := range a.Area.Washes {
		v := washOf(palette, l.Rev.Card.Called, k, w)
		v.from, v.among = palette, a.Area.Washes
		v.MayGoWet = k > 0 && w.Technique.IntoWet() && w.Technique.Tool() == card.PaintedBrush
		switch {
		case w.Technique.Covers():
			v.Coats = palette.CoatsOver(a.Area.Washes[:k], w, coatsShown)
		case len(w.Mix) == 0:
			before, after := palette.LeftBy(a.Area.Washes[:k+1])
			v.Left = &leftView{before, after}
		}
		a.Washes = append(a.Washes, v)
	}
	a.Touches = touchesOf(l, i)
	a.TouchesItself = b.TouchesItself(i)
	a.Whites = palette.Whites(a.Area.Washes)
	if len(a.Washes) > 0 {
		for _, o := range b.Alike(i) {
			a.Alike = append(a.Alike, &b.Areas[o])
		}
	}
}

// coatsShown is how many coats are looked ahead.
const coatsShown = 6

func washOf(from panel.Palette, names card.Names, index int, w card.Wash) washView {
	v := washView{Wash: w, Index: index, Name: names.Mix(w.Mix)}
	if len(w.Mix) == 0 {
		return v
	}
	v.Coat = from.ToneOf(w.Mix, w.Strength)
	for _, p := range w.Mix {
		v.Parts = append(v.Parts, partView{Part: p, Name: names.Of(p.CI), Hex: from.ToneOf([]card.Part{p}, pigment.Milk).Dry})
	}
	for _, s := range pigment.Strengths() {
		v.Shades = append(v.Shades, shadeView{s, from.ToneOf(w.Mix, s), s == w.Strength})
	}
	v.Weaker, v.Heavier = from.Misjudged(w)
	v.Off = pigment.Difference(v.Weaker.Lab, v.Heavier.Lab)
	return v
}

// touchesOf lists what an area touches and what would happen there.
func touchesOf(l *desk.Laid, area int) (out []touchView) {
	b := l.Board
	for _, t := range b.Touching {
		other := t.A
		switch area {
		case t.A:
			other = t.B
		case t.B:
		default:
			continue
		}
		a, o := &b.Areas[area], &b.Areas[other]
		v := touchView{Area: o, Joined: b.Card.Joined(a.ID, o.ID)}
		if v.Joined && l.Plan.Plan != nil {
			v.Apart = l.Plan.Plan.Apart(area, other)
		}
		x, okX := a.Wet()
		y, okY := o.Wet()
		if okX && okY {
			v.Meeting = string(pigment.Meet(panel.Ground(b.Card.Paper), x, y))
			v.Value = string(pigment.Compare(l.Facts.Looks[area].Dense.Lab, l.Facts.Looks[other].Dense.Lab))
		}
		out = append(out, v)
	}
	return out
}
