package lineart

import "slices"

// A run is a maximal horizontal stretch of equal pixels [x0, x1) in row y.
type run struct{ y, x0, x1 int32 }

// runsOf lists the runs of an image row by row; find appends those of one row.
func runsOf(h int, find func(runs []run, y int) []run) []run {
	parts := make([][]run, bands(h))
	parallelBands(h, func(band, y0, y1 int) {
		for y := y0; y < y1; y++ {
			parts[band] = find(parts[band], y)
		}
	})
	return slices.Concat(parts...)
}

// runsIn lists the runs of mask that equal value.
func runsIn(mask []bool, w, h int, value bool) []run {
	return runsOf(h, func(runs []run, y int) []run {
		row := mask[y*w : (y+1)*w]
		for x := 0; x < w; x++ {
			if row[x] != value {
				continue
			}
			x0 := x
			for x < w && row[x] == value {
				x++
			}
			runs = append(runs, run{int32(y), int32(x0), int32(x)})
		}
		return runs
	})
}

// components groups runs into connected components by union-find; diagonal contact
// counts when diagonal is set. It returns the component of each run, numbered from
// 0.
func components(runs []run, diagonal bool) (comp []int32, n int) {
	reach := int32(0)
	if diagonal {
		reach = 1
	}
	parent := make([]int32, len(runs))
	above, start := 0, 0 // where the row before begins that may still touch, and this row
	for i, r := range runs {
		parent[i] = int32(i)
		if i > 0 && runs[i-1].y != r.y {
			above, start = start, i
			if runs[i-1].y != r.y-1 {
				above = i // the row before is empty
			}
		}
		for above < start && runs[above].x1+reach <= r.x0 {
			above++
		}
		for a := above; a < start && runs[a].x0 < r.x1+reach; a++ {
			union(parent, int32(a), int32(i))
		}
	}
	comp = make([]int32, len(runs))
	for i := range comp {
		// A root is the lowest index of its set, so it is numbered first.
		if root := find(parent, int32(i)); root == int32(i) {
			comp[i] = int32(n)
			n++
		} else {
			comp[i] = comp[root]
		}
	}
	return comp, n
}

func find(parent []int32, i int32) int32 {
	for parent[i] != i {
		parent[i] = parent[parent[i]]
		i = parent[i]
	}
	return i
}

func union(parent []int32, a, b int32) {
	a, b = find(parent, a), find(parent, b)
	if a < b {
		parent[b] = a
	} else {
		parent[a] = b
	}
}

// removeSmall flips the components of mask equal to value that have fewer than
// least pixels. Ink joins diagonally, white does not.
func removeSmall(mask []bool, w, h int, value bool, least int) {
	runs := runsIn(mask, w, h, value)
	comp, n := components(runs, value)
	size := make([]int, n)
	for i, r := range runs {
		size[comp[i]] += int(r.x1 - r.x0)
	}
	for i, r := range runs {
		if size[comp[i]] < least {
			row := mask[int(r.y)*w:]
			for x := r.x0; x < r.x1; x++ {
				row[x] = !value
			}
		}
	}
}
