package lineart

// A run is a maximal horizontal stretch of equal pixels [x0, x1) in row y.
type run struct{ y, x0, x1 int32 }

// components groups the pixels of mask equal to value into connected
// components by run-length union-find; diagonal contact counts when diagonal
// is set. It returns the runs and, for each, its component, numbered from 0.
func components(mask []bool, w, h int, value, diagonal bool) (runs []run, comp []int32, n int) {
	reach := int32(0)
	if diagonal {
		reach = 1
	}
	var parent []int32
	prev0, prev1 := 0, 0
	for y := range h {
		row := mask[y*w : (y+1)*w]
		start, above := len(runs), prev0
		for x := 0; x < w; {
			if row[x] != value {
				x++
				continue
			}
			x0 := x
			for x < w && row[x] == value {
				x++
			}
			r := run{int32(y), int32(x0), int32(x)}
			id := int32(len(runs))
			runs, parent = append(runs, r), append(parent, id)
			for above < prev1 && runs[above].x1+reach <= r.x0 {
				above++
			}
			for a := above; a < prev1 && runs[a].x0 < r.x1+reach; a++ {
				union(parent, int32(a), id)
			}
		}
		prev0, prev1 = start, len(runs)
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
	return runs, comp, n
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
	runs, comp, n := components(mask, w, h, value, value)
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
