package lineart

import (
	"cmp"
	"math"
	"math/bits"
	"slices"
)

// acrossMM is the thickest line two cells can touch across.
const acrossMM = 1.5

// A site is the pixel of a cell nearest to some pixel.
type site struct {
	x, y int32
	cell uint16
}

// A lineScan goes down the rows of a drawing and tells for every pixel of line
// which pixel of a cell is nearest, within a reach.
type lineScan struct {
	*working
	scan   *ringScan // its sites are the cells
	around [][]step  // the steps of each ring in all four quarters
	row    siteRow
	above  siteRow // the row before
}

// A siteRow holds the sites of a row's pixels of line.
type siteRow struct {
	near []uint64 // which pixels have one
	site []site
}

// scanLine stands above row y.
func (w *working) scanLine(cells bitmap, reachMM float64, y int) *lineScan {
	reach := reachMM / w.mm
	rings := ringsWithin(int32(reach * reach))
	s := &lineScan{working: w, scan: cells.scan(rings, y)}
	for _, row := range []*siteRow{&s.row, &s.above} {
		row.near, row.site = make([]uint64, cells.stride), make([]site, w.w)
	}
	for _, r := range rings {
		var around []step
		for _, st := range r.steps {
			for _, q := range [4]step{st, {-st.dx, st.dy}, {st.dx, -st.dy}, {-st.dx, -st.dy}} {
				if !slices.Contains(around, q) {
					around = append(around, q)
				}
			}
		}
		s.around = append(s.around, around)
	}
	return s
}

// next finds the sites of row y; rows come one after the other.
func (s *lineScan) next(y int) {
	s.row, s.above = s.above, s.row
	s.scan.row(y)
	for i, cell := range s.scan.sites.row(y) {
		s.row.near[i] = s.scan.near[i] &^ cell
	}
	for _, hit := range s.scan.hits {
		for word := hit.pixels; word != 0; word &= word - 1 {
			x := int(hit.word*64) + bits.TrailingZeros64(word)
			s.row.site[x] = s.nearest(x, y, s.around[hit.ring])
		}
	}
}

// nearest is the first pixel of a cell that one of the steps leads to.
func (s *lineScan) nearest(x, y int, steps []step) site {
	for _, st := range steps {
		if p := s.inCell(x+st.dx, y+st.dy); p.cell != 0 {
			return p
		}
	}
	return site{}
}

// inCell is a pixel of a cell, its own site; cell 0 is none.
func (w *working) inCell(x, y int) site {
	if x < 0 || y < 0 || x >= w.w || y >= w.h {
		return site{}
	}
	return site{int32(x), int32(y), w.label[y*w.w+x]}
}

// at is the site of pixel x of a row; cell 0 is none.
func (r *siteRow) at(x int) site {
	if x < 0 || r.near[x/64]>>(x%64)&1 == 0 {
		return site{}
	}
	return r.site[x]
}

// pair is two cells, the lower number first.
type pair struct{ a, b uint16 }

// crossings counts how often two cells meet across the line, by the squared
// distance of their pixels.
type crossings struct {
	of       map[pair][]int32
	farthest int // squared; what meets across more does not touch

	last  pair // and its counts: the next meeting is nearly always one of the same two
	count []int32
}

// meet counts two sites side by side if they are of different cells.
func (c *crossings) meet(p, q site) {
	if p.cell != q.cell && p.cell != 0 && q.cell != 0 {
		c.add(p, q)
	}
}

func (c *crossings) add(p, q site) {
	dx, dy := int(p.x-q.x), int(p.y-q.y)
	d := dx*dx + dy*dy
	if d > c.farthest {
		return
	}
	if now := (pair{min(p.cell, q.cell), max(p.cell, q.cell)}); now != c.last {
		if c.last, c.count = now, c.of[now]; c.count == nil {
			c.count = make([]int32, c.farthest+1)
			c.of[now] = c.count
		}
	}
	c.count[d]++
}

// findNeighbours walks the borders between the areas nearest to each cell: a
// place where they meet lies on the line between two cells, whose thickness
// there is the distance between the two nearest cell pixels.
func (w *working) findNeighbours() error {
	across := acrossMM/w.mm + 1
	cells := w.ink.not()
	parts := make([]crossings, bands(w.h))
	parallelBands(w.h, func(band, y0, y1 int) {
		found := crossings{of: map[pair][]int32{}, farthest: int(across * across)}
		scan := w.scanLine(cells, acrossMM/2+w.mm, max(0, y0-1))
		if y0 > 0 {
			scan.next(y0 - 1)
		}
		for y := y0; y < y1; y++ {
			scan.next(y)
			for i, word := range scan.row.near {
				for ; word != 0; word &= word - 1 {
					x := i*64 + bits.TrailingZeros64(word)
					p := scan.row.site[x]
					found.meet(p, scan.row.at(x-1))
					found.meet(p, scan.above.at(x))
					for _, st := range [4]step{{-1, 0}, {1, 0}, {0, -1}, {0, 1}} {
						found.meet(p, w.inCell(x+st.dx, y+st.dy))
					}
				}
			}
		}
		parts[band] = found
	})
	for _, t := range w.touching {
		parts[0].meet(w.inCell(int(t[0].x), int(t[0].y)), w.inCell(int(t[1].x), int(t[1].y)))
	}
	all := parts[0].of
	for _, part := range parts[1:] {
		for p, count := range part.of {
			if all[p] == nil {
				all[p] = count
				continue
			}
			for d, n := range count {
				all[p][d] += n
			}
		}
	}
	for p, count := range all {
		w.neighbours = append(w.neighbours, w.neighbour(p, count))
	}
	slices.SortFunc(w.neighbours, func(a, b Neighbour) int {
		return cmp.Or(cmp.Compare(a.A, b.A), cmp.Compare(a.B, b.B))
	})
	return nil
}

// neighbour measures the border of two cells.
func (w *working) neighbour(p pair, count []int32) Neighbour {
	all := 0
	for _, n := range count {
		all += int(n)
	}
	thickness := func(rank int) float64 {
		for d, n := range count {
			if rank -= int(n); rank < 0 {
				return max(0, math.Sqrt(float64(d))-1) * w.mm
			}
		}
		return 0
	}
	return Neighbour{
		A: int(p.a), B: int(p.b),
		BorderMM: float64(all) * w.mm * math.Pi / 4,
		LineMin:  thickness(all / 50), LineMed: thickness(all / 2),
	}
}
