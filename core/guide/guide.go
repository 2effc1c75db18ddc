// Package guide answers "where exactly do I lay it, and what do I cut?": outlines of masks as
// templates of true size. Guides for what is painted on lie a little inside the line, since
// fluid spreads; what is cut lies at it.
package guide

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"math"
	"slices"

	"chromaqua/core/cutting"
	"chromaqua/core/lineart"
)

// How far inside the line a guide for fluid lies, and how exactly outlines are kept, mm.
const (
	Inside = 0.2
	Exact  = 0.1

	step  = 0.15 // mm between points that are moved
	apart = 4.0  // mm between cut-outs on a page
)

// MaxShapes bounds what is laid on pages at once.
const MaxShapes = cutting.MaxParts

// Inset moves an outline inwards by so much, mm: each point of what is left is as far from the
// outline, to a tenth of that and a little. What is narrower than twice that is gone.
func Inset(o lineart.Outline, by float64) lineart.Outline {
	var out lineart.Outline
	for _, ring := range o.Rings {
		var moved []lineart.Point
		at := resample(ring, step)
		n := len(at)
		for i, p := range at {
			a, b := at[(i+n-1)%n], at[(i+1)%n]
			long := math.Hypot(b.X-a.X, b.Y-a.Y)
			if long == 0 {
				continue
			}
			for _, side := range [2]float64{1, -1} {
				q := lineart.Point{X: p.X - side*by*(b.Y-a.Y)/long, Y: p.Y + side*by*(b.X-a.X)/long}
				if o.Contains(q) && far(o, q) >= by-0.02 {
					moved = append(moved, q)
					break
				}
			}
		}
		if len(moved) > 2 && math.Abs(lineart.Area(moved)) > by*by {
			out.Rings = append(out.Rings, moved)
		}
	}
	return out
}

// Simplify takes points away that lie nearer than that to the line between others.
func Simplify(o lineart.Outline, within float64) lineart.Outline {
	var out lineart.Outline
	for _, ring := range o.Rings {
		if len(ring) < 4 {
			out.Rings = append(out.Rings, ring)
			continue
		}
		half := len(ring) / 2
		a := thin(ring[:half+1], within)
		b := thin(append(slices.Clone(ring[half:]), ring[0]), within)
		out.Rings = append(out.Rings, slices.Concat(a[:len(a)-1], b[:len(b)-1]))
	}
	return out
}

// thin is Douglas and Peucker's simplification of a line (1973).
func thin(line []lineart.Point, within float64) []lineart.Point {
	first, last := line[0], line[len(line)-1]
	most, at := within, 0
	for i := 1; i+1 < len(line); i++ {
		if d := toStretch(line[i], first, last); d > most {
			most, at = d, i
		}
	}
	if at == 0 {
		return []lineart.Point{first, last}
	}
	return append(thin(line[:at+1], within), thin(line[at:], within)[1:]...)
}

// A Shape is something to be cut, so many times.
type Shape struct {
	Name    string
	Many    int
	Outline lineart.Outline
}

// A Laid is a shape on a page: by which page, and where its outline is moved to.
type Laid struct {
	Shape, Page int
	DX, DY      float64 // mm
}

// Lay nests shapes on pages of one size, mm, by the boxes round them. What is larger than a
// page is refused.
func Lay(ctx context.Context, shapes []Shape, w, h float64) ([]Laid, int, error) {
	if len(shapes) > MaxShapes {
		return nil, 0, fmt.Errorf("%d cut-outs are more than %d; lay some of them with fluid", len(shapes), MaxShapes)
	}
	nm := func(mm float64) int64 { return int64(math.Round(mm * 1e6)) }
	in := &cutting.Instance{Name: "cut-outs", Stock: []cutting.Stock{{ID: "page", Type: "page", W: nm(w), H: nm(h), Qty: MaxShapes, Grain: cutting.NoGrain, Cost: 1}}}
	for i, s := range shapes {
		x0, y0, x1, y1 := Box(s.Outline)
		if x1-x0+apart > w || y1-y0+apart > h {
			return nil, 0, fmt.Errorf("%s is larger than the page; cut it in parts", s.Name)
		}
		in.Parts = append(in.Parts, cutting.Part{ID: fmt.Sprint(i), Type: "page", W: nm(x1 - x0 + apart), H: nm(y1 - y0 + apart), Qty: max(1, s.Many), Grain: cutting.Any})
	}
	if len(in.Parts) == 0 {
		return nil, 0, errors.New("there is nothing to cut")
	}
	plan, err := cutting.Solve(ctx, in, cutting.Budget{Tries: 5, Seed: 1})
	if err != nil {
		return nil, 0, err
	}
	var out []Laid
	for page, sheet := range plan.Sheets {
		for _, pl := range sheet.Placements {
			i := slices.IndexFunc(in.Parts, func(p cutting.Part) bool { return p.ID == pl.Part })
			x0, y0, _, _ := Box(shapes[i].Outline)
			out = append(out, Laid{i, page, float64(pl.X)/1e6 + apart/2 - x0, h - float64(pl.Y+pl.H)/1e6 + apart/2 - y0})
		}
	}
	slices.SortStableFunc(out, func(a, b Laid) int { return cmp.Or(cmp.Compare(a.Page, b.Page), cmp.Compare(a.Shape, b.Shape)) })
	return out, len(plan.Sheets), nil
}

// Box is the box round an outline, mm.
func Box(o lineart.Outline) (x0, y0, x1, y1 float64) {
	x0, y0, x1, y1 = math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)
	for _, ring := range o.Rings {
		for _, p := range ring {
			x0, y0, x1, y1 = min(x0, p.X), min(y0, p.Y), max(x1, p.X), max(y1, p.Y)
		}
	}
	return x0, y0, x1, y1
}

// resample is a ring with a point every step or so.
func resample(ring []lineart.Point, step float64) (out []lineart.Point) {
	for i, p := range ring {
		q := ring[(i+1)%len(ring)]
		n := max(1, int(math.Ceil(math.Hypot(q.X-p.X, q.Y-p.Y)/step)))
		for k := range n {
			t := float64(k) / float64(n)
			out = append(out, lineart.Point{X: p.X + t*(q.X-p.X), Y: p.Y + t*(q.Y-p.Y)})
		}
	}
	return out
}

// far is how far a point is from an outline.
func far(o lineart.Outline, p lineart.Point) float64 {
	least := math.Inf(1)
	for _, ring := range o.Rings {
		for i, a := range ring {
			least = min(least, toStretch(p, a, ring[(i+1)%len(ring)]))
		}
	}
	return least
}

func toStretch(p, a, b lineart.Point) float64 {
	x, y := b.X-a.X, b.Y-a.Y
	t := 0.0
	if long := x*x + y*y; long > 0 {
		t = min(1, max(0, ((p.X-a.X)*x+(p.Y-a.Y)*y)/long))
	}
	return math.Hypot(p.X-a.X-t*x, p.Y-a.Y-t*y)
}
