package panel

import (
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/lineart"
)

// A Patch is a place with one stack of washes: a cell, or what pieces of zones cut out of
// one. The ids of cells that no zone crosses are those of their patches.
type Patch struct {
	ID    int
	Cell  int   // 0 on ink that is too thick to be a cell's
	Parts []int // pieces of zones that cover it
	MM2   float64
	At    lineart.Point
}

// overlay is how pieces of zones lie over the cells; nil where there are none.
type overlay struct {
	parts   []Part
	patches []Patch
	of      map[int][]int // ids of the patches of a cell or piece of a zone
	touch   []Contact     // of patches
	near    []Contact     // of pieces of zones with each other and with cells
	sig     []int32       // by square, the patch's place in patches plus 1
}

// leastSquares is how many squares the smallest patch has.
const leastSquares = 12 // as leastMM2

// node is a patch while it is cut out: the one it is cut from, and by which piece.
type node struct {
	from int32
	part int // 0 for a cell itself
	cell int
	thin bool // drawn by hand: it stays, however small
}

// layOver lays pieces of zones over the cells.
func (b *Board) layOver(zones []*zoned) *overlay {
	g := b.Sheet.gridOf()
	o := &overlay{of: map[int][]int{}}
	nodes := make([]node, len(b.Cells)+1)
	sig := make([]int32, len(g.cell))
	for i, c := range g.cell {
		sig[i] = int32(c)
	}
	for i := range b.Cells {
		nodes[i+1].cell = i + 1
	}
	children := map[[2]int32]int32{}
	for _, z := range zones {
		first := len(b.Cells) + len(o.parts) + 1
		for _, p := range z.parts {
			p.ID = len(b.Cells) + len(o.parts) + 1
			o.parts = append(o.parts, p)
		}
		w := z.box.Dx()
		last, to := [2]int32{-1, -1}, int32(0)
		for k, l := range z.at {
			if l == 0 {
				continue
			}
			i := (z.box.Min.Y+k/w)*g.w + z.box.Min.X + k%w
			part := first + int(l) - 1
			if key := [2]int32{sig[i], int32(part)}; key != last {
				known := false
				last = key
				if to, known = children[key]; !known {
					to = int32(len(nodes))
					children[key] = to
					nodes = append(nodes, node{from: sig[i], part: part, cell: nodes[sig[i]].cell, thin: z.thin || nodes[sig[i]].thin})
				}
			}
			sig[i] = to
		}
	}
	g.merge(nodes, sig, len(b.Cells))
	o.number(b, g, nodes, sig)
	o.meet(b, g)
	return o
}

// merge gives what is too small to be a patch to the neighbour within the same cell that
// it borders most.
func (g *grid) merge(nodes []node, sig []int32, cells int) {
	for least := leastSquares; ; least *= 2 {
		count := make([]int, len(nodes))
		for _, s := range sig {
			count[s]++
		}
		border := map[[2]int32]int{}
		kept := 0
		for i, s := range sig {
			if i%g.w+1 < g.w && sig[i+1] != s {
				border[[2]int32{s, sig[i+1]}]++
				border[[2]int32{sig[i+1], s}]++
			}
			if i+g.w < len(sig) && sig[i+g.w] != s {
				border[[2]int32{s, sig[i+g.w]}]++
				border[[2]int32{sig[i+g.w], s}]++
			}
		}
		to := make([]int32, len(nodes))
		most := make([]int, len(nodes))
		for i := range to {
			to[i] = int32(i)
		}
		for k, n := range border {
			s, t := k[0], k[1]
			small := count[s] < least && nodes[s].part > 0 && !nodes[s].thin || int(s) <= cells && s > 0 && count[s] < least && count[s] > 0
			if !small || count[t] < least || nodes[t].cell != nodes[s].cell || nodes[s].cell == 0 {
				continue
			}
			if n > most[s] || n == most[s] && t < to[s] {
				most[s], to[s] = n, t
			}
		}
		for i, s := range sig {
			sig[i] = to[s]
		}
		for s := range count {
			if s > 0 && count[s] > 0 && to[s] == int32(s) {
				kept++
			}
		}
		if kept <= MaxPatches || least > len(sig) {
			return
		}
	}
}

// number lists the patches that are left. What is whole keeps the id of its cell.
func (o *overlay) number(b *Board, g *grid, nodes []node, sig []int32) {
	type sum struct {
		n    int
		x, y float64
	}
	sums := make([]sum, len(nodes))
	for i, s := range sig {
		if s == 0 {
			continue
		}
		sums[s].n++
		sums[s].x += float64(i % g.w)
		sums[s].y += float64(i / g.w)
	}
	at := make([]int32, len(nodes))
	add := func(s int, p Patch) {
		o.patches = append(o.patches, p)
		at[s] = int32(len(o.patches))
	}
	for i, c := range b.Cells { // cells that no square shows are patches too
		if s := i + 1; sums[s].n > 0 || !slices.ContainsFunc(nodes[len(b.Cells)+1:], func(n node) bool { return n.cell == s }) {
			add(s, Patch{ID: s, Cell: s, MM2: c.AreaMM2, At: c.Label})
		}
	}
	next := len(b.Cells) + len(o.parts) + 1
	for s := len(b.Cells) + 1; s < len(nodes); s++ {
		if sums[s].n == 0 {
			continue
		}
		n := float64(sums[s].n)
		p := Patch{ID: next, Cell: nodes[s].cell, MM2: n * gridMM * gridMM, At: lineart.Point{X: (sums[s].x/n + 0.5) * gridMM, Y: (sums[s].y/n + 0.5) * gridMM}}
		for k := int32(s); nodes[k].part > 0; k = nodes[k].from {
			p.Parts = append(p.Parts, nodes[k].part)
		}
		slices.Sort(p.Parts)
		add(s, p)
		next++
	}
	for i := range o.patches {
		p := &o.patches[i]
		if p.Cell > 0 {
			if whole := at[p.Cell] > 0; whole && p.ID == p.Cell {
				p.MM2 = max(gridMM*gridMM, b.Cells[p.Cell-1].AreaMM2-o.cutOut(p.Cell))
			}
			o.of[p.Cell] = append(o.of[p.Cell], p.ID)
		}
		for _, part := range p.Parts {
			o.of[part] = append(o.of[part], p.ID)
		}
	}
	o.sig = make([]int32, len(sig))
	for i, s := range sig {
		o.sig[i] = at[s]
	}
}

// cutOut is what pieces of zones cut out of a cell, mm².
func (o *overlay) cutOut(cell int) (mm2 float64) {
	for _, p := range o.patches {
		if p.Cell == cell && p.ID != cell {
			mm2 += p.MM2
		}
	}
	return mm2
}

// meet finds the patches that touch: within a cell, and across the line where their cells
// do.
func (o *overlay) meet(b *Board, g *grid) {
	raised := map[[2]int]bool{}
	left := map[[2]int]bool{} // contacts of cells that no squares have shown yet
	for _, t := range b.cellContacts() {
		k := [2]int{min(t.A, t.B), max(t.A, t.B)}
		raised[k], left[k] = t.Raised, true
	}
	seen := map[[2]int]int{} // place in touch plus 1
	add := func(p, q *Patch, up bool) {
		k := [2]int{min(p.ID, q.ID), max(p.ID, q.ID)}
		if at := seen[k]; at > 0 {
			o.touch[at-1].Raised = o.touch[at-1].Raised && up
			return
		}
		o.touch = append(o.touch, Contact{A: k[0], B: k[1], Raised: up})
		seen[k] = len(o.touch)
	}
	side := func(s, t int32) {
		if s == t || s == 0 || t == 0 {
			return
		}
		p, q := &o.patches[s-1], &o.patches[t-1]
		if p.Cell == q.Cell || p.Cell == 0 || q.Cell == 0 {
			add(p, q, false)
			return
		}
		k := [2]int{min(p.Cell, q.Cell), max(p.Cell, q.Cell)}
		if up, touch := raised[k]; touch {
			delete(left, k)
			add(p, q, up)
		} else if slices.ContainsFunc(p.Parts, func(id int) bool { return slices.Contains(q.Parts, id) }) {
			add(p, q, false) // one piece of a zone goes over both
		}
	}
	for i, s := range o.sig {
		if i%g.w+1 < g.w {
			side(s, o.sig[i+1])
		}
		if i+g.w < len(o.sig) {
			side(s, o.sig[i+g.w])
		}
	}
	byID := map[int]*Patch{}
	for i := range o.patches {
		byID[o.patches[i].ID] = &o.patches[i]
	}
	for k := range left {
		for _, p := range o.of[k[0]] {
			for _, q := range o.of[k[1]] {
				add(byID[p], byID[q], raised[k])
			}
		}
	}
	slices.SortFunc(o.touch, func(x, y Contact) int { return slices.Compare([]int{x.A, x.B}, []int{y.A, y.B}) })
	o.partsNear(byID)
}

// partsNear finds which pieces of zones touch each other and cells.
func (o *overlay) partsNear(byID map[int]*Patch) {
	seen := map[[2]int]bool{}
	whole := func(p *Patch) []int {
		if p.Cell == 0 {
			return p.Parts
		}
		return append([]int{p.Cell}, p.Parts...)
	}
	for _, t := range o.touch {
		for _, x := range whole(byID[t.A]) {
			for _, y := range whole(byID[t.B]) {
				k := [2]int{min(x, y), max(x, y)}
				if x == y || seen[k] || len(byID[t.A].Parts)+len(byID[t.B].Parts) == 0 {
					continue
				}
				seen[k] = true
				o.near = append(o.near, Contact{A: k[0], B: k[1], Raised: t.Raised})
			}
		}
	}
}

// PatchesOf lists the ids of the patches of cells and pieces of zones.
func (b *Board) PatchesOf(parts []int) (out []int) {
	switch {
	case b.overlay == nil:
		return parts
	case len(parts) == 1:
		return b.overlay.of[parts[0]]
	}
	for _, id := range parts {
		out = append(out, b.overlay.of[id]...)
	}
	slices.Sort(out)
	return slices.Compact(out)
}

// cellOf is the cell a patch lies in, 0 for none.
func (b *Board) cellOf(patch int) int {
	if b.overlay == nil || patch <= len(b.Cells) {
		return patch
	}
	for _, p := range b.overlay.patches {
		if p.ID == patch {
			return p.Cell
		}
	}
	return 0
}

// Patches lists all patches of the board.
func (b *Board) Patches() (out []Patch) {
	if b.overlay != nil {
		return b.overlay.patches
	}
	for _, c := range b.Cells {
		out = append(out, Patch{ID: c.ID, Cell: c.ID, MM2: c.AreaMM2, At: c.Label})
	}
	return out
}

// PatchContacts lists every pair of patches in contact.
func (b *Board) PatchContacts() []Contact {
	if b.overlay == nil {
		return b.cellContacts()
	}
	return b.overlay.touch
}

// Overlap reports whether some of one group of cells or pieces of zones share a place with
// some of another.
func (b *Board) Overlap(x, y []int) bool {
	if len(x) == 0 || len(y) == 0 {
		return false
	}
	in := map[int]bool{}
	for _, id := range b.PatchesOf(x) {
		in[id] = true
	}
	return slices.ContainsFunc(b.PatchesOf(y), func(id int) bool { return in[id] })
}

// LiesOver reports whether a wash of one area lies over one of another, as the card has it.
func (b *Board) LiesOver(area, wash, below, belowWash int) bool {
	at := func(area, wash int) int { return b.place[card.WashRef(b.Areas[area].ID, wash)] }
	return at(area, wash) > at(below, belowWash)
}

// InkOver reports whether ink of an image lies in or beside some cells, or those that
// pieces of zones cover.
func (b *Board) InkOver(image int, parts []int) bool {
	for _, id := range parts {
		if id <= len(b.Cells) {
			if b.Beside(image, id) {
				return true
			}
			continue
		}
		for _, p := range b.overlay.patches {
			if p.Cell > 0 && slices.Contains(p.Parts, id) && b.Beside(image, p.Cell) {
				return true
			}
		}
	}
	return false
}

// InkMeets reports whether ink of two images lies in or beside the same cell inside the
// drawing.
func (b *Board) InkMeets(x, y int) bool {
	return slices.ContainsFunc(b.Cells, func(c lineart.Cell) bool { return !c.Outside && b.Beside(x, c.ID) && b.Beside(y, c.ID) })
}

// Overlaid reports whether some areas may share a place.
func (b *Board) Overlaid() bool {
	return b.overlay != nil || slices.ContainsFunc(b.Areas, func(a Area) bool { return a.Lies })
}

// PatchAt tells the patch at a place of the piece, mm.
func (b *Board) PatchAt() func(x, y float64) int {
	g := b.Sheet.gridOf()
	return func(x, y float64) int {
		i := min(g.h-1, max(0, int(y/gridMM)))*g.w + min(g.w-1, max(0, int(x/gridMM)))
		if b.overlay == nil {
			return int(g.cell[i])
		}
		if s := b.overlay.sig[i]; s > 0 {
			return b.overlay.patches[s-1].ID
		}
		return 0
	}
}
