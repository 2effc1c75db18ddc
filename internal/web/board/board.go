// Package board draws the panel: its cells in the colours they are painted in, the
// line, and what a station marks on them.
package board

import (
	"fmt"
	"hash/fnv"
	"html/template"
	"math"
	"slices"
	"strconv"
	"strings"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/lineart"
	"chromaqua/core/panel"
	"chromaqua/core/steps"
	"chromaqua/core/technique"
	"chromaqua/internal/desk"
	"chromaqua/internal/web/page"
)

// View is the picture of the panel. What a station needs beyond its cells it adds.
type View struct {
	Card        string // its address
	Name        string // of the piece
	Unit        length.Unit
	W, H        float64 // mm
	Margin      float64 // mm round the panel, for the rulers
	Figure      float64 // mm, size of their figures
	Top         []tick
	Left        []tick
	Paper       string // its colour
	LineURL     string // "" without a line
	Glints      bool   // something on it glints
	Painted     string // address of the picture of its washes, "" where nothing is painted
	Masked      *Box   // of the panel within its masked border
	Groups      []group
	OnMass      []group      // what is painted on the mass of a solid
	Films       []film       // over the cells, where areas lie over one another
	Scattered   []trace      // drops on areas that lie over others
	Strokes     []stroke     // drawn by hand
	Edges       []edge       // of zones
	Words       []Words      // that are put on
	Kept        []Kept       // what stays white or pale, hatched
	Fronts      []*Front     // how large washes are laid
	Leaks       []Leak       // ringed
	Corrections []Correction // drawn over the line
	Frames      []Frame      // of images that can be taken hold of
	Ahead       *Ahead       // nil when there is no order
	Shadows     *Shadows     // nil where none are shown
	Marks       []Mark
	Chooses     bool   // cells are chosen on it
	Tools       []Tool // of the pointer, the first in hand
	Plain       bool   // it is not looked at with half-closed eyes
	AtLine      bool   // a line image is laid here, not elsewhere
	Square      string // address to which what cannot be read is sent, to be squared as a photo
	Says        string // until something is pointed at
	Drawn       string // names the picture apart from its colours, see [View.Name]
	Known       bool   // the page that asks has the picture; only colours are sent

	Reading bool // under way
	Stage   string
	Percent int
	Stopped bool
	Failed  string
}

// DrawnHeader is the header in which a page names the picture it has.
const DrawnHeader = "Board-Drawn"

// Settle names the picture and says whether the page that asks has it already.
func (v *View) Settle(has string) {
	v.Drawn = v.name()
	v.Known = v.Drawn != "" && v.Drawn == has
}

// name names what the picture shows apart from its colours, "" when there is no
// line: pages whose boards have one name need only be recoloured.
func (v *View) name() string {
	if v.LineURL == "" {
		return ""
	}
	h := fnv.New64a()
	fmt.Fprintln(h, v.Chooses, v.Tools, v.LineURL, v.W, v.H, v.Unit, v.Paper, v.Masked, v.Marks, v.Leaks, v.Corrections, v.Frames, v.Words, v.Kept, len(v.Fronts))
	if v.Shadows != nil {
		fmt.Fprintln(h, *v.Shadows)
	}
	for _, f := range v.Fronts {
		fmt.Fprintln(h, *f)
	}
	for _, g := range v.Groups {
		fmt.Fprintln(h, g.ID, g.Name, g.Fill)
		if g.Look != nil {
			fmt.Fprintln(h, g.Look.Grade)
		}
		for _, t := range g.Traces {
			fmt.Fprintln(h, t.Kind, t.Wash, t.falls())
		}
		for _, c := range g.Cells {
			fmt.Fprint(h, c.ID, " ")
		}
	}
	for _, f := range v.Films {
		fmt.Fprintln(h, f.Path, f.Look.Grade, len(f.Traces))
	}
	fmt.Fprintln(h, v.Edges)
	for _, s := range v.Strokes {
		fmt.Fprintln(h, s.Path, s.Wide)
	}
	return strconv.FormatUint(h.Sum64(), 36)
}

// tick is a mark on a ruler.
type tick struct {
	At, Len float64 // mm
	Label   string
}

// group is the cells of one area, or the free ones.
type group struct {
	Area   int // its number from 1; 0 for free cells
	ID     string
	Name   string
	Colour template.CSS // custom properties for the looks
	Fill   template.CSS
	Look   *panel.Look // nil for free cells
	Layers string      // its looks after each of its washes, for looking ahead
	Traces []trace     // what lies on it without covering it
	Cells  []cell
}

// film is a place on which areas lie over one another.
type film struct {
	group
	Path string
}

// edge is the outline of a piece of a zone.
type edge struct {
	ID         int
	Area, Path string
	Free       string // where no line follows it
}

// filmStart keeps the numbers of films apart from those of areas.
const filmStart = 1000

// openPath prints lines as an SVG path in hundredths of a millimetre.
func openPath(lines [][]lineart.Point) string {
	var b strings.Builder
	for _, line := range lines {
		for i, p := range line {
			fmt.Fprintf(&b, "%c%.0f %.0f", "ML"[min(i, 1)], 100*p.X, 100*p.Y)
		}
	}
	return b.String()
}

// overlay adds what lies over the cells.
func (v *View) overlay(l *desk.Laid) {
	b := l.Board
	for i, f := range b.Films() {
		n := filmStart + i
		path := desk.PathOf(f.Outline)
		if len(f.Kept) == 1 { // squares show dots too coarsely
			if dots := b.Dots(&b.Reserves[f.Kept[0]]); dots != nil {
				path = scattered(dots)
			}
		}
		made := film{group{Area: n, Look: &f.Look, Colour: Colours(f.Look.Dense), Fill: fillOf(n, &f.Look)}, path}
		for _, t := range tracesOf(&made.group, nil) {
			if t.Kind != technique.Drops { // they fall on areas, see below
				t.Path = path
				made.Traces = append(made.Traces, t)
			}
		}
		v.Films = append(v.Films, made)
	}
	for i, a := range b.Areas {
		for _, t := range v.Groups[i+1].Traces {
			if t.Kind == technique.Drops && (a.Lies || len(a.Area.Zones) > 0) {
				v.Scattered = append(v.Scattered, t)
			}
		}
		if s := strokesOf(l, i); len(s) > 0 {
			v.Strokes = append(v.Strokes, s...)
			continue
		}
		for _, p := range b.ZoneParts(i) {
			v.Edges = append(v.Edges, edge{p.ID, a.ID, desk.PathOf(p.Outline), openPath(b.FreeEdges(p))})
		}
	}
}

type cell struct {
	lineart.Cell
	Path  string
	Label string
}

type Leak struct {
	lineart.Leak
	N     int
	Label string
}

// LeaksOf are the gaps of the line.
func LeaksOf(l *desk.Laid) (out []Leak) {
	for i, k := range l.Board.Leaks {
		out = append(out, Leak{k, i, fmt.Sprintf("gap of %.1f mm in the line between cells %d and %d", k.WidthMM, k.A, k.B)})
	}
	return out
}

// Correction is a correction of the line as drawn.
type Correction struct {
	Kind  card.MarkKind
	Image string // id of the image it goes with
	N     int    // among those of that image
	Path  string
	Label string
}

// CorrectionsOf are the corrections of the line.
func CorrectionsOf(l *desk.Laid) (out []Correction) {
	u := l.Rev.Card.Unit
	for _, m := range l.Board.Marks() {
		v := Correction{Kind: m.Kind, Image: m.Image.ID, N: m.N}
		for i, p := range m.At {
			v.Path += fmt.Sprintf("%c%.2f %.2f", "ML"[min(i, 1)], p.X, p.Y)
		}
		at := m.At[0]
		where := fmt.Sprintf("at %s from the left, %s from the top", length.FromMM(at.X).Near(u), length.FromMM(at.Y).Near(u))
		switch m.Kind {
		case card.Join:
			v.Label = "cells made one " + where
		case card.Bare:
			v.Path += "Z"
			v.Label = "a part of " + m.Image.Title + " not inked, " + where
		default:
			v.Label = "a stroke of the pen " + where
		}
		out = append(out, v)
	}
	return out
}

// Mark is a number on the picture.
type Mark struct {
	X, Y, R float64 // mm
	Scale   float64 // of its words and circle
	Text    string
	Area    string
}

// New draws the panel of a card as far as its cells are known.
func New(l *desk.Laid) View {
	c := l.Rev.Card
	p := c.PanelSize()
	v := View{
		Card: l.Rev.Address(), Name: l.Rev.Whole.PieceName(l.Rev.Piece), W: p.W.MM(), H: p.H.MM(), Unit: c.Unit,
		Top: ruler(p.W, c.Unit), Left: ruler(p.H, c.Unit), Paper: panel.PaletteOf(c).Look(nil).Dense.Dry,
	}
	if m := c.Painting.Border.MM(); m > 0 {
		v.Masked = &Box{m, m, v.W - 2*m, v.H - 2*m}
	}
	v.Margin = max(7, 0.062*max(v.W, v.H))
	v.Figure = v.Margin/2 - 0.4
	if c.Unit == length.Millimetres { // whose figures are wide
		v.Margin = max(10.5, 0.083*max(v.W, v.H))
		v.Figure = 0.3 * v.Margin
	}
	switch {
	case l.Reading == nil:
		return v
	case l.Err != nil:
		if l.Reading.Stopped() {
			v.Stopped = true
		} else {
			v.Failed = l.Err.Error()
		}
		return v
	case l.Board == nil:
		v.Reading = true
		stage, share := l.Reading.State()
		v.Stage, v.Percent = stage, int(share*100)
		return v
	}
	v.LineURL = page.CardAddress(l.Rev.Address(), "line.png") + "?v=" + desk.ReadingKeyOf(c).Short()
	if l.Plan.Err == nil && c.Painted() {
		v.Painted = page.CardAddress(l.Rev.Address(), "painted.jpg") + "?v=" + l.PlanName()
		v.Glints = slices.ContainsFunc(c.Areas, func(a card.Area) bool {
			return slices.ContainsFunc(a.Washes, panel.Glints)
		})
	}
	v.Groups, v.Words = groupsOf(l), wordsOf(&c.Work)
	v.OnMass = onMass(l, v.Groups)
	v.overlay(l)
	return v
}

// ruler returns the marks along one edge: eighths of an inch or millimetres.
func ruler(l length.Length, u length.Unit) (out []tick) {
	step, per, medium := length.Inch/8, 8, 4
	if u == length.Millimetres {
		step, per, medium = length.Millimetre, 10, 5
	}
	for i := 0; length.Length(i)*step <= l; i++ {
		t := tick{At: (length.Length(i) * step).MM(), Len: 1}
		switch {
		case i%per == 0:
			t.Len = 2.6
			t.Label = strconv.Itoa(i / per)
			if u == length.Millimetres {
				t.Label = strconv.Itoa(i)
			}
		case i%medium == 0:
			t.Len = 1.7
		}
		out = append(out, t)
	}
	return out
}

func groupsOf(l *desk.Laid) []group {
	b := l.Board
	out := make([]group, len(b.Areas)+1)
	for i, a := range b.Areas {
		look := &l.Facts.Looks[i]
		out[i+1] = group{Area: i + 1, ID: a.ID, Name: a.Name, Look: look, Colour: Colours(look.Dense), Fill: fillOf(i+1, look)}
		if a.White {
			out[i+1].Fill = "fill:url(#hatch)"
		}
	}
	for i, c := range b.Cells {
		g, who := &out[0], "free"
		if area, owned := b.AreaOf(c.ID); owned {
			g, who = &out[area+1], b.Areas[area].Name
		}
		g.Cells = append(g.Cells, cell{c, l.Reading.Paths[i], fmt.Sprintf("Cell %d, %s, %s", c.ID, cellSize(c, b.Card.Unit), who)})
	}
	for i := range out[1:] {
		out[i+1].Traces = tracesOf(&out[i+1], func(wash int) []panel.Drop { return b.Scatter(i, wash) })
	}
	return out
}

// onMass are the groups that are painted on the mass of a solid, with the cells that are.
func onMass(l *desk.Laid, groups []group) (out []group) {
	for _, g := range groups[1:] {
		a := &l.Board.Areas[g.Area-1]
		if _, on := l.Board.OnMass(g.Area - 1); !on || len(a.Washes) == 0 || a.White {
			continue
		}
		g.Cells = slices.DeleteFunc(slices.Clone(g.Cells), func(c cell) bool { return l.Board.Mass(c.ID) < 0 })
		out = append(out, g)
	}
	return out
}

// layersOf lists an area's looks after each of its washes, the first with none:
// dry, wet and grey at the densest and at the thinnest place.
func layersOf(from panel.Palette, washes []card.Wash) string {
	var all []string
	for k := range len(washes) + 1 {
		all = append(all, SixColours(from.Look(washes[:k])))
	}
	return strings.Join(all, ";")
}

// LookAhead lets the board be shown as it is after each of its goes.
func (v *View) LookAhead(b *panel.Board, a *Ahead) {
	v.Ahead = a
	for i, area := range b.Areas {
		v.Groups[i+1].Layers = layersOf(area.Palette(), area.Washes)
	}
}

// SixColours are a look's, dry, wet and grey at its densest and at its thinnest.
func SixColours(l panel.Look) string {
	return strings.Join([]string{l.Dense.Dry, l.Dense.Wet, l.Dense.Grey, l.Thin.Dry, l.Thin.Wet, l.Thin.Grey}, " ")
}

// Ahead is the goes of a card, for the board to be shown as it is after each.
type Ahead struct {
	Steps   string // "area wash start end cells|label" by step, a line each: what it paints, and when, s
	Minutes int    // until the last is laid
}

// cellSize words the size of a cell.
func cellSize(c lineart.Cell, u length.Unit) string {
	return length.Area(c.AreaMM2, u) + ", " + length.FromMM(2*c.InscribedMM).Near(u) + " across at most"
}

// Colours sets the custom properties a tone is drawn with.
func Colours(t panel.Tone) template.CSS {
	return template.CSS("--dry:" + t.Dry + ";--wet:" + t.Wet + ";--grey:" + t.Grey)
}

func fillOf(area int, l *panel.Look) template.CSS {
	if l.Grade != technique.Even {
		return template.CSS(fmt.Sprintf("fill:url(#grade-%d)", area))
	}
	return ""
}

// MarksOf numbers the areas in the middle of their largest cells; text gives
// each its number.
func MarksOf(l *desk.Laid, text func(area int) string) (out []Mark) {
	for i, a := range l.Board.Areas {
		if len(a.Cells) > 0 && text(i) != "" {
			out = append(out, markOf(l, a.Centre, text(i), a.ID))
		}
	}
	return out
}

// GoMarks letters the goes in which the first wash of each area is laid.
func GoMarks(l *desk.Laid, p *steps.Plan) (out []Mark) {
	for i := range p.Steps {
		if st := &p.Steps[i]; st.On != nil && st.On.Wash == 0 && st.Item == 0 && p.Pieces[st.Piece].ID == l.PieceID() {
			out = append(out, markOf(l, l.Board.Part(slices.Min(st.Cells)).Label, st.Name(), l.Board.Areas[st.On.Area].ID))
		}
	}
	return out
}

// markOf is a number at a place, moved so that it is wholly on the panel.
func markOf(l *desk.Laid, at lineart.Point, text, area string) Mark {
	w, h := l.Rev.Card.PanelSize().W.MM(), l.Rev.Card.PanelSize().H.MM()
	k := min(1, max(w, h)/80) // small pieces have small marks
	return Mark{Scale: k, X: math.Min(w-4, math.Max(4, at.X)), Y: math.Min(h-4, math.Max(4, at.Y)), R: 2.6, Text: text, Area: area}
}
