package colour

import (
	"fmt"
	"slices"
	"strings"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/length"
	"chromaqua/core/panel"
	"chromaqua/core/pigment"
	"chromaqua/core/settings"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
	"chromaqua/core/wording"
	"chromaqua/internal/desk"
	"chromaqua/internal/web/board"
)

// view is what the station shows.
type view struct {
	Areas      []areaView
	Open       *areaOpen   // nil when no area is
	Next       *areaView   // to go on with, nil when there is no other
	Pans       []board.Pan // on the maker's shelf, all when there are none
	Others     []board.Pan
	Groups     []groupView // proposed as areas
	More       int         // groups that are not shown
	Techniques []technique.Group
	Pens       []penChoice
	Rare       []technique.Group // behind the usual ones
	Wanted     *wantedView
	Judgement  *panel.Judgement
	Washes     settings.Washes // as a test card showed them
	Shadows    *board.Shadows  // where the cells are dark, nil where that is not known
	Measured   []card.Measured // paints of the maker's it could be painted with
	Free       int             // cells that belong to no area, the outside not counted
	Shapes     []card.Shape
	Ends       []card.ZoneEdge
}

// groupView is cells that look alike.
type groupView struct {
	Cells []int
	Value string // as a form sends them
	Words string
}

// groupsShown bounds what is proposed at once.
const groupsShown = 24

// propose proposes areas of the cells that look alike.
func (v *view) propose(l *desk.Laid) {
	for _, g := range l.Board.Groups() {
		if len(v.Groups) == groupsShown {
			v.More++
			continue
		}
		largest := l.Board.Cells[g[0]-1]
		words := wording.Count(len(g), "cell") + ", " + length.FromMM(2*largest.InscribedMM).Near(l.Rev.Card.Unit) + " across"
		switch {
		case largest.Outside:
			words = "all round the drawing"
		case len(g) > 1:
			words += " at most"
		}
		v.Groups = append(v.Groups, groupView{g, string(change.Cells(g)), words})
	}
}

type areaView struct {
	*panel.Area
	Number int
	Look   panel.Look
	Open   bool
}

// Words say how many cells it has and how they are painted.
func (a areaView) Words() string {
	words := wording.Count(len(a.Cells), "cell")
	if len(a.Zones) > 0 {
		words = "a zone"
	}
	switch {
	case a.White:
		return words + ", kept paper white"
	case len(a.Washes) == 0:
		return words + ", no wash yet"
	}
	var how []string
	for _, w := range a.Washes {
		how = append(how, w.Technique.Name())
	}
	return words + ", " + strings.Join(how, " + ")
}

// areaOpen is the area that is open.
type areaOpen struct {
	areaView
	Tabs    []washTab
	Wash    washView // the one in hand
	Begin   bool     // it is not there yet, its first dip makes it
	Gives   string   // the colour its line gives to water, "" for none
	Same    []sameView
	Touches []touchView
	Whites  string // how opaque white covers it
	Alike   []*panel.Area
	Besides []board.Beside // which lies in front, where the line tells of it

	TouchesItself bool       // across a line that is not raised
	Zone          *card.Zone // its first, nil for an area of cells
}

// washTab leads to a wash of the open area, or to one that is not there yet.
type washTab struct {
	Nth       int
	Technique technique.Kind
	Hex       string
	New, Here bool
}

// sameView is a way another area is painted.
type sameView struct{ ID, Name, Hex string }

// AlikeIDs are the areas that look like it, as the edit wants them.
func (a *areaOpen) AlikeIDs() string {
	var ids []string
	for _, o := range a.Alike {
		ids = append(ids, o.ID)
	}
	return strings.Join(ids, " ")
}

// penChoice is what a zone is drawn with at once.
type penChoice struct {
	Technique technique.Kind
	With      string
}

// pens are the tools that draw, and a wet brush that drags colour.
func pens() (out []penChoice) {
	for _, t := range technique.Kinds() {
		if t.Tool() == technique.DrawnLine {
			out = append(out, penChoice{t, t.Facts().With})
		}
	}
	return append(out, penChoice{technique.LinePull, "a wet brush that drags colour out"})
}

type washView struct {
	card.Wash
	Index   int
	Name    string
	Parts   []partView
	Ratios  []ratioView // of a mix of two
	Shades  []shadeView // the same mix at every strength
	Coat    panel.Tone  // alone on the paper
	Weaker  panel.Tone  // mixed a quarter too weak
	Heavier panel.Tone
	Coats   []panel.Tone // one to six of it, over what lies below
	Left    *leftView    // of what lies below, when it is done with clean water

	MayGoWet bool // into the wash below while that is wet, or over it

	from  panel.Palette
	among []card.Wash // all washes of the area, with the one to begin
}

// leftView is what clean water leaves of a wash.
type leftView struct{ Before, After panel.Tone }

// ratioView is another way to mix two paints.
type ratioView struct {
	Words, Value string
	Becomes      string
	Now          bool
}

// ratios are the mixes of two paints that are a tap away, parts of each.
var ratios = [][2]int{{1, 1}, {2, 1}, {3, 1}, {1, 2}, {1, 3}}

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

// Explained is how its technique is done, in a sentence.
func (w washView) Explained() string {
	return wording.Upper(w.Technique.Name()) + ": " + w.Technique.Facts().How
}

// Misjudged says how much it matters when the water is misjudged.
func (w washView) Misjudged() string {
	return pigment.Apart(pigment.Difference(w.Weaker.Lab, w.Heavier.Lab))
}

type touchView struct {
	Area    *panel.Area
	Joined  bool
	Meeting string
	Value   string
	Apart   string // why they cannot run together though they are to, "" when they can
}

// viewOf is what the station shows of a card whose cells are known, with an area open,
// by its id, and one of its washes in hand, by its number from 1; without one, the last.
func viewOf(l *desk.Laid, own []shelf.Own, open string, nth int) *view {
	b := l.Board
	palette := panel.PaletteOf(b.Card)
	v := &view{
		Techniques: technique.Groups(false), Rare: technique.Groups(true), Pens: pens(), Judgement: b.Judge(l.Facts.Looks), Measured: panel.Unused(b.Card, own), Free: len(b.Free()), Shapes: card.Shapes(), Ends: card.ZoneEdges(),
	}
	v.propose(l)
	v.lay(board.Pans(palette, panel.NamesOf(own)), append(panel.PaintsOf(own), panel.MetalsOf(own)...))
	for i := range b.Areas {
		a := areaView{Area: &b.Areas[i], Number: i + 1, Look: l.Facts.Looks[i], Open: b.Areas[i].ID == open}
		if a.Open {
			v.Open = opened(l, a, b.Areas[i].Palette(), nth)
		}
		v.Areas = append(v.Areas, a)
	}
	if v.Open != nil {
		v.Next = nextOf(v.Areas, v.Open.Number-1)
	}
	return v
}

// lay lays out the pans: those of the maker's paints, and the others.
func (v *view) lay(all []board.Pan, mine []pigment.Pigment) {
	for _, p := range all {
		if len(mine) == 0 || slices.ContainsFunc(mine, func(m pigment.Pigment) bool { return m.CI == p.CI }) {
			v.Pans = append(v.Pans, p)
		} else {
			v.Others = append(v.Others, p)
		}
	}
}

// nextOf is the area to go on with after the one at i: the next that has no wash, or
// else the next.
func nextOf(areas []areaView, i int) *areaView {
	after := make([]*areaView, 0, len(areas))
	for k := 1; k < len(areas); k++ {
		after = append(after, &areas[(i+k)%len(areas)])
	}
	if k := slices.IndexFunc(after, func(a *areaView) bool { return !a.White && len(a.Washes) == 0 }); k >= 0 {
		return after[k]
	}
	if len(after) == 0 {
		return nil
	}
	return after[0]
}

// opened is what is shown of the area that is open.
func opened(l *desk.Laid, of areaView, palette panel.Palette, nth int) *areaOpen {
	b, i, washes := l.Board, of.Number-1, of.Washes
	a := &areaOpen{areaView: of, Touches: touchesOf(l, i), TouchesItself: b.TouchesItself(i), Whites: palette.Whites(washes)}
	if len(of.Zones) > 0 {
		a.Zone, _ = b.Card.ZoneByID(of.Zones[0]) // cards that are kept have passed Check
	}
	if nth < 1 || nth > len(washes)+1 {
		nth = max(1, len(washes))
	}
	for k, w := range washes {
		a.Tabs = append(a.Tabs, washTab{Nth: k + 1, Technique: w.Technique, Hex: palette.Look(washes[:k+1]).Dense.Dry, Here: k+1 == nth})
	}
	if len(washes) < card.MaxWashes {
		a.Tabs = append(a.Tabs, washTab{Nth: len(washes) + 1, New: true, Here: nth == len(washes)+1})
	}
	if a.Begin = nth > len(washes); a.Begin {
		a.Wash = washView{Index: len(washes), from: palette, among: append(slices.Clone(washes), of.NextWash())}
		a.Same = sameAs(b, i, l.Facts.Looks)
		if b.Pulled(i).Load > 0 {
			a.Gives = palette.Look([]card.Wash{{Technique: technique.LinePull}}).Dense.Dry
		}
	} else {
		a.Wash = washOf(palette, l.Rev.Card.Called, nth-1, washes)
	}
	if len(washes) > 0 {
		for _, o := range b.Alike(i) {
			a.Alike = append(a.Alike, &b.Areas[o])
		}
	}
	return a
}

// sameAs are the ways the other areas are painted, each once.
func sameAs(b *panel.Board, area int, looks []panel.Look) (out []sameView) {
	var seen []*card.Area
	for k := range b.Areas {
		o := b.Areas[k].Area
		if k == area || len(o.Washes) == 0 || slices.ContainsFunc(seen, func(s *card.Area) bool { return card.PaintedAlike(s, o) }) {
			continue
		}
		seen = append(seen, o)
		out = append(out, sameView{o.ID, o.Name, looks[k].Dense.Dry})
	}
	return out
}

// coatsShown is how many coats are looked ahead.
const coatsShown = 6

// washOf is one of the washes of an area, by its number from 0.
func washOf(from panel.Palette, names card.Names, index int, washes []card.Wash) washView {
	w := washes[index]
	v := washView{Wash: w, Index: index, Name: names.Mix(w.Mix), from: from, among: washes}
	v.MayGoWet = index > 0 && w.Technique.IntoWet() && w.Technique.Tool() == technique.PaintedBrush
	if len(w.Mix) == 0 {
		before, after := from.LeftBy(washes[:index+1])
		v.Left = &leftView{before, after}
		return v
	}
	if w.Technique.Covers() {
		v.Coats = from.CoatsOver(washes[:index], w, coatsShown)
	}
	if len(w.Mix) == 2 {
		for _, r := range ratios {
			mix := []card.Part{{CI: w.Mix[0].CI, Parts: r[0]}, {CI: w.Mix[1].CI, Parts: r[1]}}
			v.Ratios = append(v.Ratios, ratioView{
				Words: fmt.Sprintf("%d:%d", r[0], r[1]), Value: card.WriteMix(mix), Now: slices.Equal(mix, w.Mix),
				Becomes: v.becomes(func(c *card.Wash) error { c.Mix = mix; return nil }),
			})
		}
	}
	v.Coat = from.ToneOf(w.Mix, w.Strength)
	for _, p := range w.Mix {
		v.Parts = append(v.Parts, partView{Part: p, Name: names.Of(p.CI), Hex: from.ToneOf([]card.Part{p}, pigment.Milk).Dry})
	}
	for _, s := range pigment.Strengths() {
		v.Shades = append(v.Shades, shadeView{s, from.ToneOf(w.Mix, s), s == w.Strength})
	}
	v.Weaker, v.Heavier = from.Misjudged(w)
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
