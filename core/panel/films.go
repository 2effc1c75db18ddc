package panel

import (
	"cmp"
	"fmt"
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/lineart"
	"chromaqua/core/technique"
)

// A Film is a place on which areas lie that no cell is the whole of: pieces of zones, and
// cells that several areas share.
type Film struct {
	Areas   []int // bottom first
	Look    Look  // of all their washes, as they lie
	Outline lineart.Outline
	Kept    []int // what is kept there, as indices
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
		for _, id := range b.Reaches(i, a.Cells) {
			on[id] = append(on[id], i)
		}
	}
	kept := map[int][]int{} // reserves by patch
	for i := range b.Reserves {
		for _, id := range b.Reserves[i].Patches {
			kept[id] = append(kept[id], i)
		}
	}
	g := b.Sheet.gridOf()
	labels := make([]uint16, len(g.cell))
	var sets []stack
	label := make([]uint16, len(b.overlay.patches)+1)
	for k, p := range b.overlay.patches {
		s := stack{on[p.ID], kept[p.ID]}
		owned := p.ID == p.Cell && len(s.areas) == 1 && !b.Areas[s.areas[0]].Lies && len(s.kept) == 0
		if bare := len(s.areas) == 0; owned || bare && (len(s.kept) == 0 || p.ID == p.Cell) {
			continue
		}
		at := slices.IndexFunc(sets, s.equal)
		if at < 0 {
			sets = append(sets, s)
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

// A stack is the areas that come onto a place, and what is kept there, as indices.
type stack struct{ areas, kept []int }

func (s stack) equal(o stack) bool {
	return slices.Equal(s.areas, o.areas) && slices.Equal(s.kept, o.kept)
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
			out = append(out, b.film(stack{areas: areas}, b.Part(c.ID).Outline))
		}
	}
	return out
}

// LookAt is what a point of the piece looks like once all is painted, mm from its top left
// corner; ok is false on bare paper.
func (b *Board) LookAt(p lineart.Point) (l Look, ok bool) {
	l, _, ok = b.Seeing()(p)
	return l, ok
}

// Seeing tells what places look like, and the area that lies uppermost there: -1 where only
// what is kept from paint is seen. What it has seen it remembers; it is for one goroutine.
func (b *Board) Seeing() func(p lineart.Point) (l Look, area int, ok bool) {
	type sight struct {
		look Look
		area int
		ok   bool
	}
	known := map[string]sight{}
	return func(p lineart.Point) (Look, int, bool) {
		s := b.stackAt(p)
		key := fmt.Sprint(s.areas, s.kept)
		v, seen := known[key]
		if !seen {
			if v.ok = len(b.stacked(s)) > 0; v.ok {
				f := b.film(s, lineart.Outline{})
				if v.look, v.area = f.Look, -1; len(f.Areas) > 0 {
					v.area = f.Areas[len(f.Areas)-1]
				}
			}
			known[key] = v
		}
		return v.look, v.area, v.ok
	}
}

// stackAt is what lies over one another at a place.
func (b *Board) stackAt(p lineart.Point) (s stack) {
	cell := b.At(p)
	for i := range b.Areas {
		a := &b.Areas[i]
		if len(a.Washes) > 0 && slices.ContainsFunc(a.Cells, func(id int) bool { return b.covers(id, cell, p) }) {
			s.areas = append(s.areas, i)
		}
	}
	for i := range b.Reserves {
		if r := &b.Reserves[i]; slices.ContainsFunc(r.Parts, func(id int) bool { return b.covers(id, cell, p) }) {
			s.kept = append(s.kept, i)
		}
	}
	return s
}

// covers reports whether a point in a cell lies in that cell or piece of a zone.
func (b *Board) covers(id, cell int, p lineart.Point) bool {
	if id <= len(b.Cells) {
		return id == cell
	}
	part := b.Part(id)
	return b.within(&part, p)
}

// film is what a place looks like.
func (b *Board) film(s stack, o lineart.Outline) Film {
	washes := b.stacked(s)
	palette := b.palette
	for _, i := range s.areas {
		if p := b.Areas[i].palette.pulled; p.Load > 0 {
			palette.pulled = p
		}
	}
	return Film{Areas: b.inTurn(s.areas), Outline: o, Look: palette.Look(washes), Kept: s.kept}
}

// inTurn are areas by where their first wash lies, bottom first.
func (b *Board) inTurn(areas []int) []int {
	out := slices.Clone(areas)
	slices.SortStableFunc(out, func(x, y int) int {
		return cmp.Compare(b.place[card.WashRef(b.Areas[x].ID, 0)], b.place[card.WashRef(b.Areas[y].ID, 0)])
	})
	return out
}

// stacked are the washes that come onto a place as they lie over one another. What is not
// laid into the wash of its own area is laid over dry; opaque white that is put on after
// lies over all.
func (b *Board) stacked(s stack) (out []card.Wash) {
	last := -1
	for _, d := range b.Deeds {
		if d.Kind != card.WashDeed || !slices.Contains(s.areas, d.Area) || b.keptOff(s.kept, d) {
			continue
		}
		w := b.Areas[d.Area].Washes[d.Wash]
		if last != d.Area && w.Technique.IntoWet() && w.Technique.Tool() != technique.CleanWater {
			w.OverDry = true
		}
		out, last = append(out, w), d.Area
	}
	for _, i := range s.kept {
		out = append(out, b.whiteOn(&b.Reserves[i])...)
	}
	return out
}

// keptOff reports whether one of some reserves keeps a wash off.
func (b *Board) keptOff(kept []int, d card.Deed) bool {
	return slices.ContainsFunc(kept, func(i int) bool { return b.Keeps(&b.Reserves[i], d.Area, d.Wash) })
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
