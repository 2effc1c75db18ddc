package order

// Beside lists, by operation, those on places that touch its own across a line that does
// not hold: they must not be wet together. What is joined may be, and is left out. Pairs
// stand both ways, in the order of the instance's places.
func (in *Instance) Beside() map[int][]int {
	joined := map[[2]int]bool{}
	for _, j := range in.Joins {
		joined[[2]int{j.A, j.B}], joined[[2]int{j.B, j.A}] = true, true
	}
	on := map[int][]int{}
	job := map[int]int{}
	for _, o := range in.Ops {
		job[o.ID] = o.Job
		for _, r := range o.Regions {
			on[r] = append(on[r], o.ID)
		}
	}
	out, seen := map[int][]int{}, map[[2]int]bool{}
	add := func(x, y int) {
		if pair := [2]int{x, y}; x != y && job[x] == job[y] && !joined[pair] && !seen[pair] {
			seen[pair] = true
			out[x] = append(out[x], y)
		}
	}
	for _, t := range in.Adjacent {
		for _, x := range on[t[0]] {
			for _, y := range on[t[1]] {
				add(x, y)
				add(y, x)
			}
		}
	}
	return out
}
