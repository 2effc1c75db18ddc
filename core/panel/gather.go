package panel

import (
	"cmp"
	"math"
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/lineart"
)

// Similar returns the free cells, and those of the same area, that are like
// the given one: within a third of its size and of much the same slenderness.
func (b *Board) Similar(id int) []int {
	if id < 1 || id > len(b.Cells) {
		return nil
	}
	ref := b.Cells[id-1]
	out := []int{id}
	for i, c := range b.Cells {
		if c.ID == id || c.Outside != ref.Outside || b.owner[i] > 0 && b.owner[i] != b.owner[id-1] {
			continue
		}
		if similar(c, ref) {
			out = append(out, c.ID)
		}
	}
	return out
}

// similar reports two cells within a third of each other's size and of much the
// same slenderness.
func similar(a, b lineart.Cell) bool {
	slender := func(c lineart.Cell) float64 { return c.InscribedMM / math.Sqrt(c.AreaMM2) }
	size, shape := a.AreaMM2/b.AreaMM2, slender(a)/slender(b)
	return size > 0.67 && size < 1.5 && shape > 0.75 && shape < 1.33
}

// Alike returns the other areas, as indices, that look like an area: each has a
// cell like its largest, and they are painted otherwise or not at all. What is kept
// white is left alone.
func (b *Board) Alike(area int) (out []int) {
	a := &b.Areas[area]
	if len(a.Cells) == 0 || len(a.Zones) > 0 {
		return nil
	}
	ref := b.Cells[a.Cells[0]-1]
	for i, o := range b.Areas {
		like := func(id int) bool { return similar(b.Cells[id-1], ref) && b.Cells[id-1].Outside == ref.Outside }
		if i != area && !o.White && len(o.Zones) == 0 && !card.PaintedAlike(a.Area, o.Area) && slices.ContainsFunc(o.Cells, like) {
			out = append(out, i)
		}
	}
	return out
}

// Groups proposes areas: the cells that belong to none, put together that look alike. Cells
// do that by size and slenderness, and those that stand round one and the same smaller
// cell, as petals round an eye, when they are of much the same size. What lies outside the
// drawing is a group of its own. The largest groups come first, in each the largest cell.
func (b *Board) Groups() (out [][]int) {
	round := b.around()
	var free []lineart.Cell
	for _, c := range b.Cells {
		if _, owned := b.AreaOf(c.ID); !owned {
			free = append(free, c)
		}
	}
	slices.SortStableFunc(free, func(x, y lineart.Cell) int { return cmp.Compare(y.AreaMM2, x.AreaMM2) })
	alike := func(leader, c lineart.Cell) bool {
		if leader.Outside || c.Outside {
			return leader.Outside && c.Outside
		}
		return similar(c, leader) || c.AreaMM2/leader.AreaMM2 > inPattern && slices.ContainsFunc(round[c.ID], func(hub int) bool { return slices.Contains(round[leader.ID], hub) })
	}
	for _, c := range free {
		if i := slices.IndexFunc(out, func(g []int) bool { return alike(b.Cells[g[0]-1], c) }); i >= 0 {
			out[i] = append(out[i], c.ID)
		} else {
			out = append(out, []int{c.ID})
		}
	}
	size := func(g []int) (mm2 float64) {
		for _, id := range g {
			mm2 += b.Cells[id-1].AreaMM2
		}
		return mm2
	}
	slices.SortStableFunc(out, func(x, y []int) int { return cmp.Compare(size(y), size(x)) })
	return out
}

const (
	inPattern = 0.4 // of the largest cell of a pattern is what another of it has at least
	hubSize   = 0.7 // of a cell is what the one it stands round has at most
	minRound  = 3   // cells make a pattern round another
)

// around lists, for each cell, the smaller cells inside the drawing that it stands round
// together with others.
func (b *Board) around() map[int][]int {
	by := map[int][]int{}
	for _, n := range b.Neighbours {
		for _, pair := range [][2]int{{n.A, n.B}, {n.B, n.A}} {
			c, hub := b.Cells[pair[0]-1], b.Cells[pair[1]-1]
			if !c.Outside && !hub.Outside && hub.AreaMM2 < hubSize*c.AreaMM2 {
				by[hub.ID] = append(by[hub.ID], c.ID)
			}
		}
	}
	out := map[int][]int{}
	for hub, cells := range by {
		if len(cells) < minRound {
			continue
		}
		for _, c := range cells {
			out[c] = append(out[c], hub)
		}
	}
	return out
}
