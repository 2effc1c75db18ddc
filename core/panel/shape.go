package panel

import (
	"math"
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/lineart"
	"chromaqua/core/mask"
)

// How straight a run of an outline has to be for tape, mm off its chord.
const straightMM = 0.4

// Shape is what is kept, for [mask.Way.Times] and the comparison of ways.
func (b *Board) Shape(r *Reserve) mask.Shape {
	s := mask.Shape{Pieces: len(r.Parts), MM2: r.MM2, EdgeMM: r.EdgeMM, Widest: r.Widest, Narrow: r.Narrow}
	for _, id := range r.Parts {
		o := b.Part(id).Outline
		mm, runs := b.straight(o)
		s.Straight, s.Runs = s.Straight+mm, s.Runs+runs
	}
	s.Straight = min(s.Straight, r.EdgeMM)
	s.Plain = r.EdgeMM > 0 && r.Tight < r.EdgeMM/4
	return s
}

// straight is how much of an outline runs straight for at least [mask.LeastTape], the
// edges of the piece apart, and in how many runs.
func (b *Board) straight(o lineart.Outline) (mm float64, runs int) {
	const step = 1.0 // mm
	w, h := float64(b.W)*25.4/b.DPI, float64(b.H)*25.4/b.DPI
	for _, ring := range o.Rings {
		at := resampled(ring, step)
		if len(at) < 3 {
			continue
		}
		first := corner(at)
		at = append(slices.Concat(at[first:], at[:first]), at[first])
		for from := 0; from+1 < len(at); {
			to := from + 1
			for to+1 < len(at) && bends(at[from:to+2]) <= straightMM {
				to++
			}
			long := math.Hypot(at[to].X-at[from].X, at[to].Y-at[from].Y)
			mid := lineart.Point{X: (at[to].X + at[from].X) / 2, Y: (at[to].Y + at[from].Y) / 2}
			if long >= mask.LeastTape && mid.X > frameMM && mid.Y > frameMM && mid.X < w-frameMM && mid.Y < h-frameMM {
				mm, runs = mm+long, runs+1
			}
			from = to
		}
	}
	return mm, runs
}

// corner is where a ring turns most sharply, so that no straight run is cut in two there.
func corner(at []lineart.Point) (best int) {
	most, n := -1.0, len(at)
	for i, p := range at {
		a, c := at[(i+n-2)%n], at[(i+2)%n]
		turn := math.Abs(math.Remainder(math.Atan2(c.Y-p.Y, c.X-p.X)-math.Atan2(p.Y-a.Y, p.X-a.X), 2*math.Pi))
		if turn > most {
			best, most = i, turn
		}
	}
	return best
}

// bends is how far points lie from the chord of the first and the last, at most.
func bends(at []lineart.Point) (most float64) {
	a, z := at[0], at[len(at)-1]
	long := math.Hypot(z.X-a.X, z.Y-a.Y)
	if long == 0 {
		return math.Inf(1)
	}
	for _, p := range at {
		most = max(most, math.Abs((p.X-a.X)*(z.Y-a.Y)-(p.Y-a.Y)*(z.X-a.X))/long)
	}
	return most
}

// drawnSize is how wide what is drawn by hand is, which squares show too coarsely.
func (b *Board) drawnSize(r *Reserve) {
	if len(r.Zones) == 0 || len(r.Cells)+len(r.Areas) > 0 {
		return
	}
	widest, narrow := 0.0, math.Inf(1)
	for _, id := range r.Zones {
		z, err := b.Card.ZoneByID(id)
		if err != nil || !z.Shape.Drawn() {
			return
		}
		widest, narrow = max(widest, z.Width.MM()/2), min(narrow, z.Width.MM())
	}
	r.Widest, r.Narrow = widest, narrow
	if dots := b.Dots(r); dots != nil {
		r.MM2, r.EdgeMM = 0, 0
		for _, d := range dots {
			r.MM2, r.EdgeMM = r.MM2+math.Pi*d.R*d.R, r.EdgeMM+2*math.Pi*d.R
		}
		r.Tight = r.EdgeMM
	}
}

// frameMM is how near to the edges of the piece an outline is no edge of what is kept.
const frameMM = 0.8

// innerEdge is how long an outline is, the edges of the piece apart, mm.
func (b *Board) innerEdge(o lineart.Outline) (mm float64) {
	const step = 0.5
	w, h := float64(b.W)*25.4/b.DPI, float64(b.H)*25.4/b.DPI
	all, inner := 0, 0
	for _, ring := range o.Rings {
		for _, p := range resampled(ring, step) {
			if all++; p.X > frameMM && p.Y > frameMM && p.X < w-frameMM && p.Y < h-frameMM {
				inner++
			}
		}
	}
	if all == 0 {
		return 0
	}
	return o.Length() * float64(inner) / float64(all)
}

// Template is the outlines of what is kept as exactly as they were drawn: those of cells as
// they were found, those of zones as the maker drew them, within the piece.
func (b *Board) Template(r *Reserve) (out []lineart.Outline) {
	drawn := true
	for _, id := range r.Zones {
		z, err := b.Card.ZoneByID(id)
		drawn = drawn && err == nil && z.Shape != card.Along && z.Shape != card.Outlines && !z.Round
	}
	for _, id := range r.Parts {
		if id <= len(b.Cells) || !drawn {
			out = append(out, b.Part(id).Outline)
		}
	}
	if !drawn {
		return out
	}
	for _, id := range r.Zones {
		if z, err := b.Card.ZoneByID(id); err == nil {
			out = append(out, b.drawnOutlines(z)...)
		}
	}
	return out
}

// drawnOutlines are the outlines of a zone within the piece.
func (b *Board) drawnOutlines(z *card.Zone) (out []lineart.Outline) {
	const around = 32 // points of a dot
	size := b.Card.PanelSize()
	w, h := size.W.MM(), size.H.MM()
	piece := []lineart.Point{{X: 0, Y: 0}, {X: w, Y: 0}, {X: w, Y: h}, {X: 0, Y: h}}
	if z.Shape == card.DotsAt {
		for _, d := range b.Dots(&Reserve{Reserve: &card.Reserve{Zones: []string{z.ID}}}) {
			var ring []lineart.Point
			for k := range around {
				sin, cos := math.Sincos(2 * math.Pi * float64(k) / around)
				ring = append(ring, lineart.Point{X: d.X + d.R*cos, Y: d.Y + d.R*sin})
			}
			out = append(out, lineart.Outline{Rings: [][]lineart.Point{ring}})
		}
		return out
	}
	ring := ZoneOutline(b.Card, z)
	for i, p := range ring {
		ring[i] = lineart.Point{X: min(w, max(0, p.X)), Y: min(h, max(0, p.Y))}
	}
	rings := [][]lineart.Point{ring}
	if leavesOut(z.Shape) {
		rings = [][]lineart.Point{piece, ring}
	}
	return []lineart.Outline{{Rings: rings}}
}
