package board

import (
	"fmt"
	"html/template"
	"math"
	"strings"

	"chromaqua/core/card"
	"chromaqua/core/lineart"
	"chromaqua/core/panel"
	"chromaqua/core/technique"
	"chromaqua/internal/desk"
)

// trace is one trace on all cells of an area.
type trace struct {
	Kind   technique.Trace
	Area   int // its number
	Wash   int // its number, from 1
	Colour template.CSS
	Dry    string
	Path   string // where it lies, 1/100 mm
}

// tracesOf are the traces of an area, once its cells are known. drops places what a wash
// scatters.
func tracesOf(g *group, drops func(wash int) []panel.Drop) (out []trace) {
	for _, t := range g.Look.Traces {
		var path strings.Builder
		kind := t.Technique.Facts().Trace
		v := trace{Kind: kind, Area: g.Area, Wash: t.Wash + 1, Colour: Colours(t.Tone), Dry: t.Tone.Dry}
		for _, c := range g.Cells {
			if kind == technique.Dabs {
				path.WriteString(dab(c.Cell))
			} else {
				path.WriteString(c.Path)
			}
		}
		if v.Path = path.String(); kind == technique.Drops && drops != nil {
			v.Path = scattered(drops(t.Wash))
		}
		out = append(out, v)
	}
	return out
}

// falls is where drops of a trace lie, "" for one whose place follows from its cells.
func (t *trace) falls() string {
	if t.Kind == technique.Drops {
		return t.Path
	}
	return ""
}

// stroke is what is drawn by hand with one pen, 1/100 mm.
type stroke struct {
	Area   string
	Path   string
	Wide   int
	Filled bool // the path goes round it
	Colour template.CSS
	Dry    string
}

// strokesOf are the strokes, dots and outlines of an area, none where it is not drawn by hand.
func strokesOf(l *desk.Laid, area int) (out []stroke) {
	b, tone := l.Board, l.Facts.Looks[area].Mark()
	for _, id := range b.Areas[area].Area.Zones {
		z, err := b.Card.ZoneByID(id)
		if err != nil || !z.Shape.Drawn() {
			continue
		}
		s := stroke{Area: b.Areas[area].ID, Wide: int(100 * z.Width.MM()), Colour: Colours(tone), Dry: tone.Dry}
		if len(b.Areas[area].Washes) == 0 {
			s.Colour, s.Dry = Colours(panel.Tone{Dry: unsaid, Wet: unsaid, Grey: unsaid}), unsaid
		}
		if z.Shape == card.Outlines {
			s.Filled = true
			for _, p := range b.ZoneParts(area) {
				s.Path += desk.PathOf(p.Outline)
			}
		} else {
			for _, line := range panel.StrokesOf(b.Card, z) {
				if len(line) == 1 { // a dot: the round end of a line
					line = append(line, lineart.Point{X: line[0].X + 0.01, Y: line[0].Y})
				}
				s.Path += openPath([][]lineart.Point{line})
			}
		}
		out = append(out, s)
	}
	return out
}

// unsaid is the colour of a stroke of which no pen is said.
const unsaid = "#8a8f98"

// scattered draws drops, 1/100 mm.
func scattered(drops []panel.Drop) string {
	var b strings.Builder
	for _, d := range drops {
		x, y, r := math.Round(100*d.X), math.Round(100*d.Y), max(4, math.Round(100*d.R))
		fmt.Fprintf(&b, "M%.0f %.0fa%.0f %.0f 0 1 0 1 0z", x, y-r, r, r)
	}
	return b.String()
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
