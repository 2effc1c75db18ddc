package panel

import (
	"math"
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/lineart"
	"chromaqua/core/mask"
)

// A Reserve is what stays white or pale as it lies on the piece.
type Reserve struct {
	*card.Reserve
	Parts   []int // ids of cells and pieces of zones
	Patches []int
	Grounds []int // areas it is kept from, as indices
	MM2     float64
	EdgeMM  float64
	Tight   float64     // of that, curved tightly, mm
	Widest  float64     // radius that fits into the widest part, mm
	Narrow  float64     // width of the narrowest part, mm
	Lost    []card.Spot // cells that are no longer found
}

// reserveZones are the pieces of zones of what is kept, to be laid over the cells.
func (b *Board) reserveZones(n int) (zones []*zoned, parts [][]int, names string) {
	parts = make([][]int, len(b.Card.Reserves))
	for i := range b.Card.Reserves {
		r := &b.Card.Reserves[i]
		if len(r.Zones) == 0 {
			continue
		}
		z, name := b.zonesOf(&Area{Area: &card.Area{ID: r.ID, Zones: r.Zones}}, nil)
		names += name + "\n"
		for range z.parts {
			n++
			parts[i] = append(parts[i], len(b.Cells)+n)
		}
		zones = append(zones, z)
	}
	return zones, parts, names
}

// reserve finds what is kept, once areas have their cells. Where it is painted over, the
// areas it is kept from go on below it.
func (b *Board) reserve(parts [][]int) {
	for i := range b.Card.Reserves {
		r := Reserve{Reserve: &b.Card.Reserves[i], Narrow: math.Inf(1)}
		r.Parts = parts[i]
		for _, s := range r.Cells {
			id := b.cellAt(s)
			if id == 0 {
				r.Lost = append(r.Lost, s)
			} else if !slices.Contains(r.Parts, id) {
				r.Parts = append(r.Parts, id)
			}
		}
		for k := range b.Areas {
			if slices.Contains(r.Areas, b.Areas[k].ID) {
				for _, id := range b.Areas[k].Cells {
					if !slices.Contains(r.Parts, id) {
						r.Parts = append(r.Parts, id)
					}
				}
			}
		}
		for _, id := range r.Parts {
			p := b.Part(id)
			r.MM2, r.EdgeMM, r.Tight = r.MM2+p.AreaMM2, r.EdgeMM+b.innerEdge(p.Outline), r.Tight+p.TightMM
			r.Widest, r.Narrow = max(r.Widest, p.InscribedMM), min(r.Narrow, 2*p.InscribedMM)
		}
		b.drawnSize(&r)
		r.Patches = b.PatchesOf(r.Parts)
		r.Grounds = b.groundsOf(&r)
		b.Reserves = append(b.Reserves, r)
		if r.Way == mask.Over {
			b.goOnBelow(&b.Reserves[len(b.Reserves)-1])
		}
	}
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

// groundsOf are the areas something is kept from: those that are named, or all that lie over
// it or touch it and are not what is kept.
func (b *Board) groundsOf(r *Reserve) (out []int) {
	near := map[int]bool{}
	for _, t := range b.Neighbours {
		if slices.Contains(r.Parts, t.A) {
			near[t.B] = true
		}
		if slices.Contains(r.Parts, t.B) {
			near[t.A] = true
		}
	}
	zoned := len(r.Parts) > 0 && slices.Max(r.Parts) > len(b.Cells)
	for k := range b.Areas {
		a := &b.Areas[k]
		switch {
		case len(r.From) > 0:
			if slices.Contains(r.From, a.ID) {
				out = append(out, k)
			}
			continue
		case slices.Contains(r.Areas, a.ID) || len(a.Washes) == 0:
			continue
		}
		over := (zoned || a.Lies) && b.Overlap(a.Cells, r.Parts)
		touches := !zoned && slices.ContainsFunc(a.Cells, func(id int) bool { return near[id] && !slices.Contains(r.Parts, id) })
		owns := !zoned && !a.Lies && slices.ContainsFunc(a.Cells, func(id int) bool { return slices.Contains(r.Parts, id) })
		if over || touches && !owns {
			out = append(out, k)
		}
	}
	return out
}

// goOnBelow lets the areas that something is kept from cover it too.
func (b *Board) goOnBelow(r *Reserve) {
	for _, k := range r.Grounds {
		a := &b.Areas[k]
		for _, id := range r.Parts {
			if id <= len(b.Cells) && !slices.Contains(a.Cells, id) && !b.Overlap(a.Cells, []int{id}) {
				a.add(b.Part(id))
			}
		}
	}
}

// isKept reports whether a cell is kept, so that it is not forgotten.
func (b *Board) isKept(cell int) bool {
	return slices.ContainsFunc(b.Reserves, func(r Reserve) bool { return slices.Contains(r.Parts, cell) })
}

// KeptFrom are what is kept from an area, as indices.
func (b *Board) KeptFrom(area int) (out []int) {
	for i := range b.Reserves {
		if slices.Contains(b.Reserves[i].Grounds, area) {
			out = append(out, i)
		}
	}
	return out
}

// Keeps reports whether a wash of an area does not come onto something that is kept, though
// it goes there: it is painted round, or covered meanwhile.
func (b *Board) Keeps(r *Reserve, area, wash int) bool {
	switch r.Way.Or() {
	case mask.Over, mask.After:
		return false
	case mask.Round:
		return slices.Contains(r.Grounds, area)
	}
	return slices.Contains(r.Grounds, area) && b.Within(r, area, wash)
}

// Within reports whether a wash is laid while something is kept: over what it is kept over,
// and before a mask is off.
func (b *Board) Within(r *Reserve, area, wash int) bool {
	at := b.place[card.WashRef(b.Areas[area].ID, wash)]
	under, said := b.placeOf(r.Under)
	if said && at <= under {
		return false
	}
	off, said := b.placeOf(r.Off)
	return !said || at < off
}

// placeOf is where in the stack a reference lies; of an area, its last wash.
func (b *Board) placeOf(at card.Ref) (place int, said bool) {
	if at == "" {
		return 0, false
	}
	if place, said = b.place[at]; said {
		return place, true
	}
	for k, a := range b.Areas {
		if a.ID == string(at) && len(a.Washes) > 0 {
			return b.place[card.WashRef(a.ID, len(b.Areas[k].Washes)-1)], true
		}
	}
	return 0, false
}

// Bared are the patches of an area that its washes never reach, since they are painted round.
func (b *Board) Bared(area int) (out []int) {
	for _, i := range b.KeptFrom(area) {
		if r := &b.Reserves[i]; r.Way.Or() == mask.Round {
			out = append(out, r.Patches...)
		}
	}
	return out
}

// Reaches are the patches of some cells or pieces of zones of an area that its washes come
// onto, what is masked included.
func (b *Board) Reaches(area int, parts []int) []int {
	all := b.PatchesOf(parts)
	if len(b.Reserves) == 0 {
		return all
	}
	bare := b.Bared(area)
	if len(bare) == 0 {
		return all
	}
	return slices.DeleteFunc(slices.Clone(all), func(id int) bool { return slices.Contains(bare, id) })
}

// whiteOn are the coats of opaque white that are put on something once all is painted.
func whiteOn(r *Reserve) []card.Wash {
	if r.Way != mask.After {
		return nil
	}
	coat := card.Wash{Technique: card.Flat, Mix: []card.Part{{CI: opaqueWhite, Parts: 1}}, Strength: card.Highlight.Facts().Starts.Strength, OverDry: true}
	return []card.Wash{coat, coat}
}

// Kept are the parts of the piece that something is kept on, each with its outline.
func (b *Board) Kept(r *Reserve) (out []lineart.Outline) {
	for _, id := range r.Parts {
		out = append(out, b.Part(id).Outline)
	}
	return out
}

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

// Borders are how long the border of what is kept with some cells or pieces of zones is, mm,
// and what of their outlines lies within them.
func (b *Board) Borders(r *Reserve, parts []int) (beside, within float64) {
	for _, t := range b.Neighbours {
		if slices.Contains(r.Parts, t.A) && slices.Contains(parts, t.B) || slices.Contains(r.Parts, t.B) && slices.Contains(parts, t.A) {
			beside += t.BorderMM
		}
	}
	for _, id := range r.Parts {
		if id > len(b.Cells) && b.Overlap(parts, []int{id}) {
			within += b.innerEdge(b.Part(id).Outline)
		}
	}
	return beside, within
}

// LaidUnder tells which washes lie below a mask: those up to what it is laid over.
func (b *Board) LaidUnder(r *Reserve) func(area, wash int) bool {
	under, said := b.placeOf(r.Under)
	return func(area, wash int) bool {
		return said && b.place[card.WashRef(b.Areas[area].ID, wash)] <= under
	}
}

// PaintedOver are the contacts inside an area across which it goes in one sweep, since what
// is kept there is painted over.
func (b *Board) PaintedOver(inside []Contact, area int) (out []Contact) {
	for _, i := range b.KeptFrom(area) {
		if r := &b.Reserves[i]; r.Way == mask.Over {
			for _, t := range inside {
				if slices.Contains(r.Parts, t.A) || slices.Contains(r.Parts, t.B) {
					out = append(out, t)
				}
			}
		}
	}
	return out
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
