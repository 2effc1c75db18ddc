package lineart

// A run is a maximal horizontal stretch of marked pixels [x0, x1) in row y.
type run struct{ y, x0, x1 int32 }

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

// small lists the runs of the components of marked pixels that have fewer than
// least.
func (b bitmap) small(diagonal bool, least int) (out []run) {
	runs := b.runs()
	comp, n := components(runs, diagonal)
	size := make([]int, n)
	for i, r := range runs {
		size[comp[i]] += int(r.x1 - r.x0)
	}
	for i, r := range runs {
		if size[comp[i]] < least {
			out = append(out, r)
		}
	}
	return out
}
