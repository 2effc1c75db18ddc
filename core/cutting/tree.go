package cutting

// A node is a rectangle of a sheet and what becomes of it: it is cut in two, is
// a part, or is left over. Positions are relative to the node.
type node struct {
	w, h  int64
	axis  Axis  // "" for a leaf
	at    int64 // where the cut begins; the second child begins at + kerf
	child [2]*node
	part  int // index of the part that a leaf is, -1 when it is left over
}

func waste(w, h int64) *node { return &node{w: w, h: h, part: -1} }

// cut divides a rectangle; what kerf leaves of the second piece may be nothing.
func cut(w, h int64, axis Axis, at, kerf int64, first, second *node) *node {
	return &node{w: w, h: h, axis: axis, at: at, child: [2]*node{first, second}, part: -1}
}

// count adds the parts of a tree to counts.
func (n *node) count(counts []int) {
	if n == nil {
		return
	}
	if n.part >= 0 {
		counts[n.part]++
	}
	n.child[0].count(counts)
	n.child[1].count(counts)
}

// largest returns the area of the largest leftover, mm².
func (n *node) largest() float64 {
	switch {
	case n == nil:
		return 0
	case n.axis != "":
		return max(n.child[0].largest(), n.child[1].largest())
	case n.part < 0:
		return mm2(n.w, n.h)
	}
	return 0
}

// mm2 is an area in square millimetres: square nanometres overflow.
func mm2(w, h int64) float64 { return float64(w) / 1e6 * float64(h) / 1e6 }

// trimmed places part p of size pw × ph in the corner of a w × h rectangle. Of
// the two ways to cut it out, it takes the one that leaves the larger piece.
func trimmed(w, h, kerf int64, p int, pw, ph int64, rest func(w, h int64) *node) *node {
	leaf := &node{w: pw, h: ph, part: p}
	spareW, spareH := w-pw-kerf, h-ph-kerf
	wide := mm2(max(0, spareW), h) >= mm2(w, max(0, spareH)) // a strip along the height is the larger
	if wide {
		return cutX(w, h, pw, kerf, cutY(pw, h, ph, kerf, leaf, rest), rest)
	}
	return cutY(w, h, ph, kerf, cutX(w, ph, pw, kerf, leaf, rest), rest)
}

// cutX cuts first off the left of a w × h rectangle; rest says what becomes of
// the remainder.
func cutX(w, h, at, kerf int64, first *node, rest func(w, h int64) *node) *node {
	if at == w {
		return first
	}
	return cut(w, h, X, at, kerf, first, remainder(w-at-kerf, h, rest))
}

// cutY cuts first off the bottom.
func cutY(w, h, at, kerf int64, first *node, rest func(w, h int64) *node) *node {
	if at == h {
		return first
	}
	return cut(w, h, Y, at, kerf, first, remainder(w, h-at-kerf, rest))
}

func remainder(w, h int64, rest func(w, h int64) *node) *node {
	if w <= 0 || h <= 0 {
		return nil // gone with the kerf
	}
	return rest(w, h)
}

// place writes a tree's parts and leftovers into a sheet.
func (n *node) place(x, y, kerf int64, parts []Part, s *Sheet) {
	switch {
	case n == nil:
	case n.axis == X:
		n.child[0].place(x, y, kerf, parts, s)
		n.child[1].place(x+n.at+kerf, y, kerf, parts, s)
	case n.axis == Y:
		n.child[0].place(x, y, kerf, parts, s)
		n.child[1].place(x, y+n.at+kerf, kerf, parts, s)
	case n.part >= 0:
		s.Placements = append(s.Placements, Placement{parts[n.part].ID, Rect{x, y, n.w, n.h}})
	default:
		s.Leftovers = append(s.Leftovers, Rect{x, y, n.w, n.h})
	}
}

// drop turns parts that are not wanted into leftovers: want counts what still
// is. A rectangle that becomes all leftover is not cut.
func (n *node) drop(want []int) *node {
	switch {
	case n == nil:
		return nil
	case n.axis != "":
		c := *n
		c.child[0], c.child[1] = n.child[0].drop(want), n.child[1].drop(want)
		if empty(c.child[0]) && empty(c.child[1]) {
			return waste(n.w, n.h)
		}
		return &c
	case n.part >= 0 && want[n.part] > 0:
		want[n.part]--
		return n
	}
	return waste(n.w, n.h)
}

func empty(n *node) bool { return n == nil || n.axis == "" && n.part < 0 }
