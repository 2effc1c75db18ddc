package card

import (
	"cmp"
	"errors"
	"fmt"
	"math"
	"slices"

	"chromaqua/core/length"
)

// Limits of zones.
const (
	MaxZones      = 32  // on one piece
	MaxZonePoints = 500 // of one, once it is simplified
	MaxZoneDrawn  = 20_000
	zoneExactMM   = 0.2 // as exactly as a zone is kept
	MinRim        = length.Millimetre / 2
	MinPenWide    = length.Millimetre / 5
	MaxPenWide    = 2 * length.Inch
)

// Zone is a part of a piece that no printed line bounds, as the maker draws it. Its points
// are shares of a width, as those of a [Spot]: of the image it goes with, or of the piece.
type Zone struct {
	ID     string        `json:"id"`
	Shape  Shape         `json:"shape"`
	On     string        `json:"on,omitempty"` // id of the image it goes with; the piece when empty
	Points []UV          `json:"points,omitempty"`
	Width  length.Length `json:"width,omitzero"`   // of a rim, a stroke, a dot
	Breaks []int         `json:"breaks,omitempty"` // points from which another stroke begins, by their index
	Edge   ZoneEdge      `json:"edge,omitempty"`   // hard when empty
	Water  bool          `json:"water,omitempty"`  // clean water is drawn to its edge first
	Round  bool          `json:"round,omitempty"`  // it keeps off what is drawn
}

// Shape is how a zone lies to its points.
type Shape string

// The shapes.
const (
	Within Shape = "ring"   // within them
	All    Shape = "all"    // of the piece; it has no points
	Rest   Shape = "rest"   // all but what is within them
	Below  Shape = "below"  // of the line through them, to the bottom of the piece
	Above  Shape = "above"  // of the line through them, to the top
	Middle Shape = "middle" // between the lines through its first half and its second
	Rim    Shape = "rim"    // along the edges of the piece, so wide; it has no points

	// What is drawn by hand is so wide as its pen.
	Along    Shape = "along"    // strokes through them, each from a break on
	DotsAt   Shape = "dots"     // a dot on each of them
	Outlines Shape = "outlines" // along the lines of the cells it is kept within; it has no points
)

// Drawn reports whether a zone of that shape is drawn by hand, with a pen so wide.
func (s Shape) Drawn() bool { return s == Along || s == DotsAt || s == Outlines }

// Pointless reports whether a zone of that shape has no points.
func (s Shape) Pointless() bool { return s == All || s == Rim || s == Outlines }

// Shapes lists them in the order they are offered.
func Shapes() []Shape {
	return []Shape{Within, All, Rest, Below, Above, Middle, Rim, Along, DotsAt, Outlines}
}

var shapeWords = map[Shape]string{Within: "inside what I draw", All: "all over", Rest: "all but what I draw", Below: "below a line", Above: "above a line", Middle: "a band across the middle", Rim: "along the edges", Along: "a stroke along what I draw", DotsAt: "dots where I tap", Outlines: "along the lines of the cells"}

// Words names a shape for a choice.
func (s Shape) Words() string { return shapeWords[s] }

// ZoneEdge is how a zone ends.
type ZoneEdge string

// The edges.
const (
	HardEdge    ZoneEdge = "hard"    // on dry paper
	SoftEdge    ZoneEdge = "soft"    // drawn out with clean water
	RunningEdge ZoneEdge = "running" // left to run on wet paper
)

// ZoneEdges lists them, the default first.
func ZoneEdges() []ZoneEdge { return []ZoneEdge{HardEdge, SoftEdge, RunningEdge} }

var edgeWords = map[ZoneEdge]string{HardEdge: "hard: it ends on dry paper", SoftEdge: "soft: drawn out with clean water", RunningEdge: "running: left to run on wet paper"}

// Words says how it ends.
func (e ZoneEdge) Words() string { return edgeWords[e.Or()] }

// Or is the edge, or the usual one.
func (e ZoneEdge) Or() ZoneEdge {
	return cmp.Or(e, HardEdge)
}

// ZoneByID returns a zone of the piece.
func (w *Work) ZoneByID(id string) (*Zone, error) {
	for i := range w.Zones {
		if w.Zones[i].ID == id {
			return &w.Zones[i], nil
		}
	}
	return nil, errors.New("that zone is gone: it was removed or undone meanwhile; nothing was changed")
}

// AddZone keeps a zone under the first free id "z<n>", its points as exactly as they are
// painted; wide is the width they are shares of, mm.
func (c *Card) AddZone(z Zone, wide float64) (string, error) {
	if len(c.Zones) >= MaxZones {
		return "", fmt.Errorf("%d zones are the most a piece takes; take one away first", MaxZones)
	}
	if len(z.Points) > MaxZoneDrawn {
		return "", fmt.Errorf("%d points are more than a hand draws; draw the zone again", len(z.Points))
	}
	z.ID = c.freeID("z", len(c.Zones))
	switch {
	case z.Shape == DotsAt && len(z.Points) > MaxZonePoints:
		return "", fmt.Errorf("%d dots are more than %d; make two zones of them", len(z.Points), MaxZonePoints)
	case z.Shape == DotsAt:
	case len(z.Breaks) > 0:
		z.Points, z.Breaks = z.thinned(zoneExactMM / wide)
	default:
		z.Points = simplified(z.Points, zoneExactMM/wide)
	}
	c.Zones = append(c.Zones, z)
	return z.ID, z.check(&c.Work)
}

// RemoveZone takes a zone away, from the areas it is part of too.
func (c *Card) RemoveZone(id string) {
	c.Zones = slices.DeleteFunc(c.Zones, func(z Zone) bool { return z.ID == id })
	for i := range c.Areas {
		a := &c.Areas[i]
		a.Zones = slices.DeleteFunc(a.Zones, func(z string) bool { return z == id })
	}
}

func (w *Work) checkZones() error {
	if len(w.Zones) > MaxZones {
		return fmt.Errorf("%d zones are more than %d; take some away", len(w.Zones), MaxZones)
	}
	for i := range w.Zones {
		z := &w.Zones[i]
		if err := z.check(w); err != nil {
			return fmt.Errorf("zone %s: %w", z.ID, err)
		}
	}
	for _, a := range w.Areas {
		for i, id := range a.Zones {
			if _, err := w.ZoneByID(id); err != nil {
				return fmt.Errorf("area %q speaks of zone %.20q, which its piece does not have", a.Name, id)
			}
			if slices.Contains(a.Zones[:i], id) {
				return fmt.Errorf("area %q names zone %s twice", a.Name, id)
			}
		}
	}
	return nil
}

func (z *Zone) check(w *Work) error {
	least := map[Shape]int{Within: 3, All: 0, Rest: 3, Below: 2, Above: 2, Middle: 4, Rim: 0, Along: 2, DotsAt: 1, Outlines: 0}
	n, known := least[z.Shape]
	switch {
	case !known:
		return fmt.Errorf("%q is no shape; use ring, all, rest, below, above, middle, rim, along, dots or outlines", string(z.Shape))
	case z.Shape.Pointless() && len(z.Points) > 0:
		return errors.New("what goes all over, or along edges or lines, has no points")
	case z.Shape == Rim && (z.Width < MinRim || z.Width > length.Max/4), z.Shape != Rim && !z.Shape.Drawn() && z.Width != 0:
		return fmt.Errorf("a rim is %s wide or more", MinRim)
	case z.Shape.Drawn() && (z.Width < MinPenWide || z.Width > MaxPenWide):
		return fmt.Errorf("a stroke or a dot is %s to %s wide", MinPenWide, MaxPenWide)
	case len(z.Breaks) > 0 && z.Shape != Along:
		return errors.New("only strokes have breaks")
	case len(z.Points) < n || len(z.Points) > MaxZonePoints:
		return fmt.Errorf("it is drawn with %d to %d points, not %d; draw it again", n, MaxZonePoints, len(z.Points))
	case z.Shape == Middle && len(z.Points)%2 != 0:
		return errors.New("a band has as many points above as below")
	case !slices.Contains(ZoneEdges(), z.Edge.Or()):
		return fmt.Errorf("%q is no edge; use hard, soft or running", string(z.Edge))
	}
	if z.On != "" {
		if _, err := w.imageByID(z.On); err != nil {
			return fmt.Errorf("it goes with image %.20q, which its piece does not have", z.On)
		}
	}
	for i, at := range z.Breaks {
		if before := slices.Concat([]int{0}, z.Breaks)[i]; at < before+2 || at > len(z.Points)-2 {
			return fmt.Errorf("stroke %d has fewer than two points; draw it again", i+1)
		}
	}
	for _, p := range z.Points {
		if !(p.U > -1e3 && p.U < 1e3 && p.V > -1e3 && p.V < 1e3) {
			return errors.New("it lies far off the piece")
		}
	}
	return nil
}

// Strokes are the points of each stroke of a zone that has some.
func (z *Zone) Strokes() (out [][]UV) {
	from := 0
	for _, at := range append(slices.Clone(z.Breaks), len(z.Points)) {
		if at > from && at <= len(z.Points) {
			out = append(out, z.Points[from:at])
		}
		from = at
	}
	return out
}

// thinned are the points of all strokes, simplified, and where they break.
func (z *Zone) thinned(within float64) (points []UV, breaks []int) {
	for ; ; within *= 2 {
		points, breaks = nil, nil
		for i, s := range z.Strokes() {
			if i > 0 {
				breaks = append(breaks, len(points))
			}
			points = append(points, thinned(s, within)...)
		}
		if len(points) <= MaxZonePoints || !(within < 1e3) {
			return points, breaks
		}
	}
}

// simplified is a line without the points that lie nearer than that to it (Douglas and
// Peucker 1973), coarser where it takes that to keep to [MaxZonePoints].
func simplified(line []UV, within float64) []UV {
	for ; ; within *= 2 {
		if out := thinned(line, within); len(out) <= MaxZonePoints || !(within < 1e3) {
			return out
		}
	}
}

func thinned(line []UV, within float64) []UV {
	if len(line) < 3 {
		return slices.Clone(line)
	}
	keep := make([]bool, len(line))
	keep[0], keep[len(line)-1] = true, true
	for todo := [][2]int{{0, len(line) - 1}}; len(todo) > 0; {
		from, to := todo[len(todo)-1][0], todo[len(todo)-1][1]
		todo = todo[:len(todo)-1]
		far, at := within, 0
		for i := from + 1; i < to; i++ {
			if d := off(line[i], line[from], line[to]); d > far {
				far, at = d, i
			}
		}
		if at > 0 {
			keep[at] = true
			todo = append(todo, [2]int{from, at}, [2]int{at, to})
		}
	}
	var out []UV
	for i, p := range line {
		if keep[i] {
			out = append(out, p)
		}
	}
	return out
}

// off is how far a point lies from the stretch between two others.
func off(p, a, b UV) float64 {
	u, v := b.U-a.U, b.V-a.V
	t := 0.0
	if long := u*u + v*v; long > 0 {
		t = min(1, max(0, ((p.U-a.U)*u+(p.V-a.V)*v)/long))
	}
	return math.Hypot(p.U-a.U-t*u, p.V-a.V-t*v)
}
