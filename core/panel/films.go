package panel

import (
	"cmp"
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/lineart"
)

// A Film is a place on which areas lie that no cell is the whole of: pieces of zones, and
// cells that several areas share.
type Film struct {
	Areas   []int // bottom first
	Look    Look  // of all their washes, as they lie
	Outline lineart.Outline
}

// Films lists the films of the board, those of fewest areas first.
func (b *Board) Films() []Film {
	if !b.Overlaid() {
		return nil
	}
	if b.overlay == nil {
		return b.sharedCells()
	}
	on := map[int][]int{} // areas by patch
	for i, a := range b.Areas {
		for _, id := range b.PatchesOf(a.Cells) {
			on[id] = append(on[id], i)
		}
	}
	g := b.Sheet.gridOf()
	labels := make([]uint16, len(g.cell))
	var sets [][]int
	label := make([]uint16, len(b.overlay.patches)+1)
	for k, p := range b.overlay.patches {
		areas := on[p.ID]
		owned := p.ID == p.Cell && len(areas) == 1 && !b.Areas[areas[0]].Lies
		if len(areas) == 0 || owned {
			continue
		}
		at := slices.IndexFunc(sets, func(s []int) bool { return slices.Equal(s, areas) })
		if at < 0 {
			sets = append(sets, areas)
			at = len(sets) - 1
		}
		label[k+1] = uint16(at + 1)
	}
	for i, s := range b.overlay.sig {
		labels[i] = label[s]
	}
	var out []Film
	for i, r := range lineart.Regions(labels, g.w, g.h, gridMM, len(sets)) {
		out = append(out, b.film(sets[i], r.Outline))
	}
	slices.SortStableFunc(out, func(x, y Film) int { return cmp.Compare(len(x.Areas), len(y.Areas)) })
	return out
}

// sharedCells are the films of cells that areas share where there are no zones.
func (b *Board) sharedCells() (out []Film) {
	on := map[int][]int{}
	for i, a := range b.Areas {
		for _, id := range a.Cells {
			on[id] = append(on[id], i)
		}
	}
	for _, c := range b.Cells {
		if areas := on[c.ID]; len(areas) > 1 || len(areas) == 1 && b.Areas[areas[0]].Lies {
			out = append(out, b.film(areas, b.Part(c.ID).Outline))
		}
	}
	return out
}

// LookAt is what a point of the piece looks like once all is painted, mm from its top left
// corner; ok is false on bare paper.
func (b *Board) LookAt(p lineart.Point) (l Look, ok bool) {
	var on []int
	cell := b.At(p)
	for i := range b.Areas {
		a := &b.Areas[i]
		if len(a.Washes) > 0 && slices.ContainsFunc(a.Cells, func(id int) bool {
			if id <= len(b.Cells) {
				return id == cell
			}
			part := b.Part(id)
			return b.within(&part, p)
		}) {
			on = append(on, i)
		}
	}
	if len(on) == 0 {
		return Look{}, false
	}
	return b.film(on, lineart.Outline{}).Look, true
}

// film is what areas look like over one another.
func (b *Board) film(areas []int, o lineart.Outline) Film {
	washes := b.stacked(areas)
	palette := b.palette
	for _, i := range areas {
		if p := b.Areas[i].palette.pulled; p.Load > 0 {
			palette.pulled = p
		}
	}
	return Film{Areas: b.inTurn(areas), Outline: o, Look: palette.Look(washes)}
}

// inTurn are areas by where their first wash lies, bottom first.
func (b *Board) inTurn(areas []int) []int {
	out := slices.Clone(areas)
	slices.SortStableFunc(out, func(x, y int) int {
		return cmp.Compare(b.place[card.WashRef(b.Areas[x].ID, 0)], b.place[card.WashRef(b.Areas[y].ID, 0)])
	})
	return out
}

// stacked are the washes of areas as they lie over one another. What is not laid into the
// wash of its own area is laid over dry.
func (b *Board) stacked(areas []int) (out []card.Wash) {
	last := -1
	for _, d := range b.Deeds {
		if d.Kind != card.WashDeed || !slices.Contains(areas, d.Area) {
			continue
		}
		w := b.Areas[d.Area].Washes[d.Wash]
		if last != d.Area && w.Technique.IntoWet() && w.Technique.Tool() != card.CleanWater {
			w.OverDry = true
		}
		out, last = append(out, w), d.Area
	}
	return out
}

// ZoneParts are the pieces of an area's zones.
func (b *Board) ZoneParts(area int) (out []Part) {
	for _, id := range b.Areas[area].Cells {
		if p := b.Part(id); p.Zone {
			out = append(out, p)
		}
	}
	return out
}

// FreeEdges are the stretches of a piece of a zone's outline that neither the line nor the
// edge of the sheet follows.
func (b *Board) FreeEdges(p Part) (out [][]lineart.Point) {
	const near = 0.8 // mm
	w, h := float64(b.W)*25.4/b.DPI, float64(b.H)*25.4/b.DPI
	free := func(q lineart.Point) bool {
		if q.X < near || q.Y < near || q.X > w-near || q.Y > h-near {
			return false
		}
		for _, d := range [...][2]float64{{0, 0}, {near, 0}, {-near, 0}, {0, near}, {0, -near}} {
			if b.At(lineart.Point{X: q.X + d[0], Y: q.Y + d[1]}) == 0 {
				return false
			}
		}
		return true
	}
	for _, ring := range p.Outline.Rings {
		at := resampled(ring, near)
		var run []lineart.Point
		for _, q := range at {
			if free(q) {
				run = append(run, q)
				continue
			}
			if len(run) > 1 {
				out = append(out, run)
			}
			run = nil
		}
		if len(run) == len(at) && len(run) > 0 {
			run = append(run, run[0])
		}
		if len(run) > 1 {
			out = append(out, run)
		}
	}
	return out
}
