package web

import (
	"bytes"
	"encoding/json"
	"fmt"
	"hash/fnv"
	"html/template"
	"math"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"chromaqua/core/advice"
	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/lineart"
	"chromaqua/core/panel"
	"chromaqua/core/steps"
	"chromaqua/internal/store"
)

// patience is how long a page waits for a reading before it shows progress.
const patience = 250 * time.Millisecond

// laid is a revision with its cells, as far as they have been read.
type laid struct {
	rev      *store.Revision
	reading  *reading     // nil without a line
	board    *panel.Board // nil until read
	facts    advice.Facts // what is known of it, with the looks of its areas
	plan     compiled     // of it at the bench it is painted at, when there is a board
	orderKey orderKey
	heatCM2  float64 // the largest patch that is heated where drying is mixed
	err      error   // why there is no board, when reading failed
}

// lay lays a revision out, waiting at most for patience; an urgent one goes
// before others. With a studio it is planned at its bench too, and the maker's tests
// count for its watch-outs.
func (s *Server) lay(rev *store.Revision, at *studio, urgent bool, patience time.Duration) *laid {
	l := &laid{rev: rev}
	if rev.Card.Line() != nil {
		l.reading = s.readings.of(rev.Card, urgent)
		switch {
		case !l.reading.finished(patience):
		case l.reading.err != nil:
			l.err = l.reading.err
		default:
			l.board = panel.Resolve(rev.Card, l.reading.sheet)
		}
	}
	if at == nil {
		l.facts = advice.Gather(rev.Card, l.board, nil, nil)
		return l
	}
	if l.board != nil {
		l.orderKey = orderKey{revisionKey{rev.ID, rev.Seq}, at.benchKey}
		l.plan = s.orders.plan(l.orderKey, l.board, at.bench)
	}
	l.heatCM2 = at.bench.HeatCM2
	l.facts = advice.Gather(rev.Card, l.board, l.plan.plan, at.tests)
	return l
}

// boardView is the picture of the panel.
type boardView struct {
	Card        int64
	W, H        float64 // mm
	Unit        length.Unit
	Margin      float64 // mm round the panel, for the rulers
	Top         []tick
	Left        []tick
	Paper       string // its colour
	LineURL     string // "" without a line
	Mode        string // the station, which decides what is marked
	Masked      *box   // of the panel within its masked border
	Groups      []groupView
	Leaks       []leakView
	Corrections []correctionView
	Frames      []frameView
	Ahead       *aheadView // nil when there is no order
	Marks       []markView
	Drawn       string // names the picture apart from its colours, see drawn
	Known       bool   // the page that asks has the picture; only colours are sent

	Reading bool // under way
	Stage   string
	Percent int
	Stopped bool
	Failed  string
}

// boardDrawn is the header in which a page names the picture it has.
const boardDrawn = "Board-Drawn"

// drawn names what the picture shows apart from its colours, "" when there is no
// line: pages whose boards have one name need only be recoloured.
func (v *boardView) drawn() string {
	if v.LineURL == "" {
		return ""
	}
	h := fnv.New64a()
	fmt.Fprintln(h, v.Mode, v.LineURL, v.W, v.H, v.Unit, v.Paper, v.Masked, v.Marks, v.Leaks, v.Corrections, v.Frames)
	for _, g := range v.Groups {
		fmt.Fprintln(h, g.ID, g.Name, g.Fill)
		if g.Look != nil {
			fmt.Fprintln(h, g.Look.Grade)
		}
		for _, t := range g.Traces {
			fmt.Fprintln(h, t.Kind, t.Wash)
		}
		for _, c := range g.Cells {
			fmt.Fprint(h, c.ID, " ")
		}
	}
	return strconv.FormatUint(h.Sum64(), 36)
}

// tick is a mark on a ruler.
type tick struct {
	At, Len float64 // mm
	Label   string
}

// groupView is the cells of one area, or the free ones.
type groupView struct {
	Area   int // its number from 1; 0 for free cells
	ID     string
	Name   string
	Colour template.CSS // custom properties for the looks
	Fill   template.CSS
	Look   *panel.Look // nil for free cells
	Layers string      // its looks after each of its washes, for looking ahead
	Traces []traceView // what lies on it without covering it
	Cells  []cellView
}

// traceView is one trace on all cells of an area.
type traceView struct {
	Kind   card.Technique
	Area   int // its number
	Wash   int // its number, from 1
	Colour template.CSS
	Dry    string
	Path   string // where it lies, 1/100 mm
}

// tracesOf are the traces of an area, once its cells are known.
func tracesOf(g *groupView) (out []traceView) {
	for _, t := range g.Look.Traces {
		var path strings.Builder
		v := traceView{Kind: t.Technique, Area: g.Area, Wash: t.Wash + 1, Colour: colours(t.Tone), Dry: t.Tone.Dry}
		for _, c := range g.Cells {
			if t.Technique == card.Highlight {
				path.WriteString(dab(c.Cell))
			} else {
				path.WriteString(c.Path)
			}
		}
		v.Path = path.String()
		out = append(out, v)
	}
	return out
}

// dab is the outline of a highlight on a cell, towards the upper left.
func dab(c lineart.Cell) string {
	const turn = -40 * math.Pi / 180
	r := 100 * c.InscribedMM
	x, y := 100*c.Label.X-0.35*r, 100*c.Label.Y-0.35*r
	dx, dy := 0.3*r*math.Cos(turn), 0.3*r*math.Sin(turn)
	arc := fmt.Sprintf("A%.0f %.0f -40 0 0", 0.3*r, max(8, 0.1*r))
	return fmt.Sprintf("M%.0f %.0f%s %.0f %.0f%s %.0f %.0fZ", x-dx, y-dy, arc, x+dx, y+dy, arc, x-dx, y-dy)
}

type cellView struct {
	lineart.Cell
	Path  string
	Label string
}

type leakView struct {
	lineart.Leak
	N     int
	Label string
}

func (l *laid) leaks() (out []leakView) {
	for i, k := range l.board.Leaks {
		out = append(out, leakView{k, i, fmt.Sprintf("gap of %.1f mm in the line between cells %d and %d", k.WidthMM, k.A, k.B)})
	}
	return out
}

// correctionView is a correction of the line as drawn.
type correctionView struct {
	Kind  card.MarkKind
	Image string // id of the image it goes with
	N     int    // among those of that image
	Path  string
	Label string
}

func (l *laid) corrections() (out []correctionView) {
	u := l.rev.Card.Unit
	for _, m := range l.board.Marks() {
		v := correctionView{Kind: m.Kind, Image: m.Image.ID, N: m.N}
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

// markView is a number on the picture.
type markView struct {
	X, Y, R float64 // mm
	Text    string
	Area    string
}

func (l *laid) view(mode string) boardView {
	c := l.rev.Card
	p := c.PanelSize()
	v := boardView{
		Card: l.rev.ID, W: p.W.MM(), H: p.H.MM(), Unit: c.Unit, Mode: mode,
		Top: ruler(p.W, c.Unit), Left: ruler(p.H, c.Unit), Paper: panel.PaletteOf(c).Look(nil).Dense.Dry,
	}
	if m := c.Painting.Border.MM(); m > 0 {
		v.Masked = &box{m, m, v.W - 2*m, v.H - 2*m}
	}
	v.Margin = max(7, 0.062*max(v.W, v.H))
	switch {
	case l.reading == nil:
		return v
	case l.err != nil:
		if l.reading.ctxStopped() {
			v.Stopped = true
		} else {
			v.Failed = l.err.Error()
		}
		return v
	case l.board == nil:
		v.Reading = true
		stage, share := l.reading.State()
		v.Stage, v.Percent = stage, int(share*100)
		return v
	}
	v.LineURL = cardPath(l.rev.ID, "line.png") + "?v=" + keyOf(c).Short()
	v.Groups = l.groups(&v)
	v.Leaks, v.Corrections = l.leaks(), l.corrections()

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

func (l *laid) groups(v *boardView) []groupView {
	b := l.board
	out := make([]groupView, len(b.Areas)+1)
	for i, a := range b.Areas {
		look := &l.facts.Looks[i]
		out[i+1] = groupView{Area: i + 1, ID: a.ID, Name: a.Name, Look: look, Colour: colours(look.Dense), Fill: fillOf(i+1, look)}
		if v.Mode == "order" {
			out[i+1].Layers = layersOf(panel.PaletteOf(b.Card), a.Washes)
		}
		if a.White {
			out[i+1].Fill = "fill:url(#hatch)"
		}
	}
	for i, c := range b.Cells {
		g := &out[b.Owner[i]+1]
		who := "free"
		if g.Area > 0 {
			who = g.Name
		}
		g.Cells = append(g.Cells, cellView{c, l.reading.paths[i], fmt.Sprintf("Cell %d, %s, %s", c.ID, cellSize(c, b.Card.Unit), who)})
	}
	for i := range out[1:] {
		out[i+1].Traces = tracesOf(&out[i+1])
	}
	return out
}

// layersOf lists an area's looks after each of its washes, the first with none:
// dry, wet and grey at the densest and at the thinnest place.
func layersOf(from panel.Palette, washes []card.Wash) string {
	var all []string
	for k := range len(washes) + 1 {
		all = append(all, sixColours(from.Look(washes[:k])))
	}
	return strings.Join(all, ";")
}

// sixColours are a look's, dry, wet and grey at its densest and at its thinnest.
func sixColours(l panel.Look) string {
	return strings.Join([]string{l.Dense.Dry, l.Dense.Wet, l.Dense.Grey, l.Thin.Dry, l.Thin.Wet, l.Thin.Grey}, " ")
}

// aheadView is the panel as it looks after each wash, in the order they are laid.
type aheadView struct {
	Steps  string // "area wash cells|label" by step, a line each: what the step paints
	Washes int
}

// ahead lists the goes in the order they are laid; of several cards, on the first.
func (p *planned) ahead() *aheadView {
	v := &aheadView{}
	var lines []string
	for _, t := range p.turns() {
		st := &p.plan.Steps[t.op]
		if st.Area < 0 || t.copies[0] > 0 {
			continue
		}
		lines = append(lines, fmt.Sprintf("%d %d %s|after step %d, %s", st.Area+1, st.Wash+1, cellList(st.Cells), t.number, st.Title))
	}
	v.Steps, v.Washes = strings.Join(lines, "\n"), len(lines)
	return v
}

// areaWords words an area.
func areaWords(mm2 float64, u length.Unit) string {
	if u == length.Inches {
		return fmt.Sprintf("%.2f sq in", mm2/645.16)
	}
	return fmt.Sprintf("%.0f mm²", mm2)
}

// cellSize words the size of a cell.
func cellSize(c lineart.Cell, u length.Unit) string {
	across := fmt.Sprintf("%.1f mm", 2*c.InscribedMM)
	if u == length.Inches {
		across = length.FromMM(2 * c.InscribedMM).Near(u)
	}
	return areaWords(c.AreaMM2, u) + ", " + across + " across at most"
}

// colours sets the custom properties a tone is drawn with.
func colours(t panel.Tone) template.CSS {
	return template.CSS("--dry:" + t.Dry + ";--wet:" + t.Wet + ";--grey:" + t.Grey)
}

func fillOf(area int, l *panel.Look) template.CSS {
	if l.Grade != panel.Even {
		return template.CSS(fmt.Sprintf("fill:url(#grade-%d)", area))
	}
	return ""
}

// watchView is a watch-out with what its button sends.
type watchView struct {
	advice.Watch
	Here bool // it belongs to the station that is open
}

// cellList prints cells for the board to light up.
func cellList(cells []int) string {
	ids := make([]string, len(cells))
	for i, id := range cells {
		ids[i] = strconv.Itoa(id)
	}
	return strings.Join(ids, " ")
}

// watches returns a card's watch-outs: what stops it, then those of the open
// station, then the others, each worst first.
func (l *laid) watches(station string) (out []watchView) {
	for _, w := range advice.Watches(l.facts) {
		out = append(out, watchView{w, string(w.Station) == station})
	}
	rank := func(w watchView) int {
		switch {
		case w.Severity == advice.Stop:
			return 0
		case w.Here:
			return 1
		}
		return 2
	}
	slices.SortStableFunc(out, func(a, b watchView) int { return rank(a) - rank(b) })
	return out
}

// pictures of the latest revisions shown are kept: each takes some 60 kB, and
// reading a panel again for its thumbnail a quarter of a second.
const (
	keptPictures    = 300
	picturePatience = time.Minute
)

// panelPicture serves the finished panel as an SVG of its true size, in another
// colouring where the address asks for one.
func (s *Server) panelPicture(w http.ResponseWriter, r *http.Request) error {
	rev, err := s.revision(r)
	if err != nil {
		return err
	}
	way, err := wayOf(r)
	if err != nil {
		return refused(err)
	}
	w.Header().Set("Content-Type", "image/svg+xml")
	w.Header().Set("Cache-Control", "private, no-cache")
	if way != (panel.Way{}) {
		return s.wayPicture(w, r, rev, way)
	}
	key := revisionKey{rev.ID, rev.Seq}
	if svg, ok := s.pictures.Get(key); ok {
		_, err := w.Write(svg)
		return err
	}
	var svg bytes.Buffer
	drawn, err := s.drawPanel(&svg, rev)
	if err != nil {
		return err
	}
	if rev.Card.Line() == nil || drawn {
		s.pictures.Add(key, svg.Bytes())
	}
	_, err = w.Write(svg.Bytes())
	return err
}

// drawPanel draws the finished panel of a card, and says whether its cells are
// known.
func (s *Server) drawPanel(svg *bytes.Buffer, rev *store.Revision) (drawn bool, err error) {
	l := s.lay(rev, nil, false, picturePatience)
	var v struct {
		boardView
		Line template.URL // the line as a data address: an image may not load others
	}
	v.boardView = l.view("picture")
	if l.board != nil {
		v.Line = template.URL("data:image/png;base64," + base64Of(l.reading.line))
	}
	return l.board != nil, templates.ExecuteTemplate(svg, "panel.svg.html", v)
}

// similarCells returns the cells that are like one, as JSON.
func (s *Server) similarCells(w http.ResponseWriter, r *http.Request) error {
	id, err := strconv.Atoi(r.URL.Query().Get("cell"))
	if err != nil {
		return refused(fmt.Errorf("%.20q is no cell number", r.URL.Query().Get("cell")))
	}
	rev, read, err := s.panelOf(r)
	if err != nil {
		return err
	}
	ids := panel.Resolve(rev.Card, read.sheet).Similar(id)
	if ids == nil {
		ids = []int{}
	}
	w.Header().Set("Content-Type", "application/json")
	w.Header().Set("Cache-Control", "no-store")
	return json.NewEncoder(w).Encode(ids)
}

// marks numbers the areas in the middle of their largest cells; text gives
// each its number.
func (l *laid) marks(text func(area int) string) (out []markView) {
	for i, a := range l.board.Areas {
		if len(a.Cells) > 0 && text(i) != "" {
			out = append(out, l.mark(a.Centre, text(i), a.ID))
		}
	}
	return out
}

// goMarks letters the goes in which the first wash of each area is laid.
func (l *laid) goMarks(p *steps.Plan) (out []markView) {
	for i := range p.Steps {
		if st := &p.Steps[i]; st.Area >= 0 && st.Wash == 0 {
			out = append(out, l.mark(l.board.Cells[slices.Min(st.Cells)-1].Label, st.Name(), l.board.Areas[st.Area].ID))
		}
	}
	return out
}

// mark is a number at a place, moved so that it is wholly on the panel.
func (l *laid) mark(at lineart.Point, text, area string) markView {
	w, h := l.rev.Card.PanelSize().W.MM(), l.rev.Card.PanelSize().H.MM()
	return markView{X: math.Min(w-4, math.Max(4, at.X)), Y: math.Min(h-4, math.Max(4, at.Y)), R: 2.6, Text: text, Area: area}
}

type box struct{ X, Y, W, H float64 }

type line struct{ X1, Y1, X2, Y2 float64 }

// CX and CY are the middle of the box.
func (b box) CX() float64 { return b.X + b.W/2 }
func (b box) CY() float64 { return b.Y + b.H/2 }

// Right and Bottom are its far edges.
func (b box) Right() float64  { return b.X + b.W }
func (b box) Bottom() float64 { return b.Y + b.H }
