package steps

import (
	"fmt"
	"slices"

	"chromaqua/core/order"
)

// A chain is the goes of an area that are wet together first: one of its first wash,
// and what is dropped into that; of one task.
type chain struct{ task, area, nth int }

// settled is what could not be tied together in time.
type settled struct {
	dried map[pair]bool     // operations that wait until the one below is dry
	apart map[[2]chain]bool // chains that are kept apart
}

func newSettled() *settled { return &settled{map[pair]bool{}, map[[2]chain]bool{}} }

// settle lets go of what ties two operations: within an area the later waits until
// the earlier is dry; of two areas their goes are kept apart.
func (c *compiler) settle(m order.Conflict) {
	a, b := &c.steps[m.A], &c.steps[m.B]
	if a.On.Area == b.On.Area {
		c.dried[pair{a.ID, b.ID}] = true
		return
	}
	t := c.taskOf(a)
	c.settled.apart[[2]chain{t.chainOf(a), t.chainOf(b)}] = true
}

// taskOf is the task a step belongs to.
func (c *compiler) taskOf(s *Step) *task {
	return c.tasks[slices.IndexFunc(c.tasks, func(t *task) bool { return t.index == s.Piece && t.item == s.Item })]
}

// number is the task's place among all.
func (c *task) number() int {
	return slices.IndexFunc(c.tasks, func(t *task) bool { return t.index == c.index && t.item == c.item })
}

func (c *task) chainOf(s *Step) chain {
	for n, id := range c.done[s.On.Area][max(0, s.On.Wash)] {
		if id == s.ID {
			return chain{c.number(), s.On.Area, n}
		}
	}
	return chain{c.number(), s.On.Area, 0}
}

func (c *task) areSplit(x, y chain) bool {
	return c.settled.apart[[2]chain{x, y}] || c.settled.apart[[2]chain{y, x}]
}

// chains are those of an area with the operations of each.
func (c *task) chains(area int) map[chain][]int {
	if len(c.lays[area].groups) == 0 {
		return nil
	}
	g := c.lays[area].groups[0]
	out := map[chain][]int{}
	for n := range g.goes {
		for k := g.from; k < g.to; k++ {
			at := chain{c.number(), area, n}
			out[at] = append(out[at], c.done[area][k][n])
		}
	}
	return out
}

// joins ties goes of areas that may run into each other, where they touch across a
// line that is not raised.
func (c *task) joins() {
	goOf := map[int]chain{} // by cell
	for i := range c.board.Areas {
		for at, ops := range c.chains(i) {
			for _, id := range c.steps[ops[0]].Cells {
				goOf[id] = at
			}
		}
	}
	seen := map[[2]chain]bool{}
	together := c.blocks()
	for _, t := range c.contacts {
		x, okX := goOf[t.A]
		y, okY := goOf[t.B]
		if !okX || !okY || t.Raised || x.area == y.area || !c.board.Card.Joined(c.board.Areas[x.area].ID, c.board.Areas[y.area].ID) {
			continue
		}
		if x.area > y.area {
			x, y = y, x
		}
		if seen[[2]chain{x, y}] {
			continue
		}
		seen[[2]chain{x, y}] = true
		xs, ys := c.chains(x.area)[x], c.chains(y.area)[y]
		if c.areSplit(x, y) || c.tangled(together, xs, ys) {
			c.note(c.apart(x, y))
			continue
		}
		together.join(xs, ys)
		c.join(xs, ys)
	}
}

// blocks are the operations that are wet together, by one of them: what comes before one of
// them comes before all.
type blocks map[int][]int

// blocks are those that go into the wet of each other.
func (c *task) blocks() blocks {
	out := blocks{}
	for i := range c.board.Areas {
		for _, ops := range c.chains(i) {
			out.join(ops, ops)
		}
	}
	return out
}

func (b blocks) join(xs, ys []int) {
	var all []int
	for _, id := range slices.Concat(xs, ys) {
		all = append(append(all, id), b[id]...)
	}
	slices.Sort(all)
	all = slices.Compact(all)
	for _, id := range all {
		b[id] = all
	}
}

// tangled reports whether something has to be done between two chains, a mask laid or taken
// off or a wash that goes below both, so that they cannot be wet together.
func (c *task) tangled(b blocks, xs, ys []int) bool {
	if len(c.board.Reserves) == 0 {
		return false
	}
	mine := map[int]bool{}
	for _, id := range slices.Concat(xs, ys) {
		mine[id] = true
		for _, o := range b[id] {
			mine[o] = true
		}
	}
	then := map[int][]int{}
	for _, a := range c.in.Arcs {
		then[a.From] = append(then[a.From], a.To)
	}
	seen := map[int]bool{}
	var todo []int
	for id := range mine {
		for _, to := range then[id] {
			if !mine[to] {
				todo = append(todo, to)
			}
		}
	}
	for len(todo) > 0 {
		id := todo[len(todo)-1]
		todo = todo[:len(todo)-1]
		if mine[id] {
			return true
		}
		if seen[id] {
			continue
		}
		seen[id] = true
		todo = append(append(todo, then[id]...), b[id]...)
	}
	return false
}

// join lets two chains run into each other: each begins while what lies there of the
// other is open.
func (c *task) join(xs, ys []int) {
	for _, x := range xs {
		for _, y := range ys {
			c.in.Joins = append(c.in.Joins, order.Join{A: x, B: y, Max: c.openTo(x, y), Back: c.openTo(y, x)})
			c.steps[x].Joined = append(c.steps[x].Joined, y)
			c.steps[y].Joined = append(c.steps[y].Joined, x)
		}
	}
}

// openTo is how long after an operation another may run into what it left; what takes
// water away neither opens nor closes anything.
func (c *task) openTo(from, to int) order.Seconds {
	if c.steps[from].Water == 0 || c.steps[to].Water == 0 {
		return order.MaxSeconds
	}
	return max(1, order.Floor(c.steps[from].Open))
}

// regions makes places of the instance: patches that are always painted together are
// one, and places touch where patches do.
func (c *task) regions() {
	signature := map[int][]int{} // operations by patch
	for _, s := range c.steps {
		if s.Piece != c.index || s.Item != c.item {
			continue
		}
		cells := c.board.PatchesOf(s.Cells)
		if s.On != nil {
			cells = c.board.Reaches(s.On.Area, s.Cells)
		}
		for _, id := range cells {
			signature[id] = append(signature[id], s.ID)
		}
	}
	region := map[int]int{}
	c.named, c.opsOn = map[string]int{}, map[int][]int{}
	size := c.board.Card.PanelSize()
	beside := 2 * float64(c.number()) // pieces lie side by side
	for _, patch := range c.board.Patches() {
		ops, painted := signature[patch.ID]
		if !painted {
			continue
		}
		region[patch.ID] = c.regionOf(ops, order.Region{X: beside + patch.At.X/size.W.MM(), Y: patch.At.Y / size.H.MM()}) // of its largest patch
	}
	seen := map[[2]int]bool{}
	for _, t := range c.board.PatchContacts() {
		a, okA := region[t.A]
		b, okB := region[t.B]
		if !okA || !okB || a == b {
			continue
		}
		if c.board.Overlaid() {
			if a, b, okA = c.parted(a, b); !okA {
				continue
			}
		}
		k := [2]int{min(a, b), max(a, b)}
		if seen[k] && !t.Raised {
			continue
		}
		if t.Raised {
			c.in.Raised = append(c.in.Raised, k)
			continue
		}
		seen[k] = true
		c.in.Adjacent = append(c.in.Adjacent, k)
	}
	c.in.Raised = slices.DeleteFunc(c.in.Raised, func(k [2]int) bool { return seen[k] })
	slices.SortFunc(c.in.Raised, func(a, b [2]int) int { return slices.Compare(a[:], b[:]) })
	c.in.Raised = slices.Compact(c.in.Raised)
}

// regionOf is the place that these operations share, made at a point the first time.
func (c *task) regionOf(ops []int, at order.Region) int {
	key := fmt.Sprint(ops)
	r, known := c.named[key]
	if !known {
		r = len(c.in.Regions)
		c.named[key], at.ID = r, r
		c.in.Regions = append(c.in.Regions, at)
		c.opsOn[r] = ops
		for _, op := range ops {
			c.in.Ops[op].Regions = append(c.in.Ops[op].Regions, r)
		}
	}
	return r
}

// parted are the places of what two touching places do not share: where one wash goes over
// both, what lies over or under it there waits for it as the stack says, and does not
// stand beside it. ok is false when one is wholly within the other.
func (c *task) parted(a, b int) (x, y int, ok bool) {
	var onlyA, onlyB []int
	x, y = 0, 0
	opsA, opsB := c.opsOn[a], c.opsOn[b]
	for x < len(opsA) || y < len(opsB) { // both rise
		switch {
		case y == len(opsB) || x < len(opsA) && opsA[x] < opsB[y]:
			onlyA = append(onlyA, opsA[x])
			x++
		case x == len(opsA) || opsB[y] < opsA[x]:
			onlyB = append(onlyB, opsB[y])
			y++
		default:
			x, y = x+1, y+1
		}
	}
	shared := len(onlyA) < len(opsA)
	if !shared {
		return a, b, true
	}
	if len(onlyA) == 0 || len(onlyB) == 0 {
		return 0, 0, false
	}
	return c.regionOf(onlyA, c.in.Regions[a]), c.regionOf(onlyB, c.in.Regions[b]), true
}
