package panel

import (
	"math"
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/lineart"
	"chromaqua/core/mask"
	"chromaqua/core/pigment"
	"chromaqua/core/technique"
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

// Opaque white that is put on something once all is painted: how near it has to come to the
// paper, ΔE00, and how often it is put on at most, since it sinks as it dries.
const (
	whiteNear = 8
	whiteMost = 5
)

// whiteCoat is one coat of it.
func whiteCoat() card.Wash {
	return card.Wash{Technique: technique.Flat, Mix: []card.Part{{CI: pigment.OpaqueWhite, Parts: 1}}, Strength: pigment.Cream, OverDry: true}
}

// WhiteCoats is how many coats of opaque white make what lies on something nearly white
// again; ok is false where as many as are put on do not.
func (b *Board) WhiteCoats(r *Reserve) (n int, ok bool) {
	paper := b.palette.Dry(nil)
	wanted := paper.Lab()
	all := b.stacked(stack{areas: r.Grounds})
	for n = 1; n <= whiteMost; n++ {
		all = append(all, whiteCoat())
		seen := b.palette.Dry(all)
		if pigment.Difference(wanted, seen.Lab()) <= whiteNear {
			return n, true
		}
	}
	return whiteMost, false
}

// whiteOn are the coats of opaque white on something that is kept so.
func (b *Board) whiteOn(r *Reserve) (out []card.Wash) {
	if r.Way != mask.After {
		return nil
	}
	n, _ := b.WhiteCoats(r)
	for range n {
		out = append(out, whiteCoat())
	}
	return out
}

// Kept are the parts of the piece that something is kept on, each with its outline.
func (b *Board) Kept(r *Reserve) (out []lineart.Outline) {
	for _, id := range r.Parts {
		out = append(out, b.Part(id).Outline)
	}
	return out
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
