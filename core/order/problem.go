package order

import "fmt"

// never is later than any schedule.
const never = 1 << 60

// An edge is a demand from one operation on the start of another.
type edge struct {
	to       int32
	min      int // s after its end
	clock    int // s on the drying clock after its end
	deadline int // latest, on the clock after its end; never when there is none
}

// problem is an instance with operations numbered 0…n-1 and its demands as
// edges. An operation's exclusions and joins are edges too, in force from
// whichever of the two is placed first.
type problem struct {
	in    *Instance
	ops   []Op
	index map[int]int32
	n     int // operations of one copy
	total int // n × copies; copy·n + operation numbers them all
	boost int // factor − 1 when heat is allowed, else 0

	opOf, copyOf, color []int32 // by number, of all copies

	next   [][]edge  // precedence: arcs out of each operation
	either [][]edge  // order-free: exclusions and joins, listed both ways
	before [][]int32 // what must be placed before an operation: see link
	after  [][]int32 // its inverse
	block  []int32   // operations tied by wet arcs and joins share a number; -1 alone
	member [][]int32 // by block

	pair map[[2]int32]edge // all edges between members of one block
	tail []int             // heat-aware least time from an operation's end to the finish
	head []int             // heat-aware least time from the start to an operation's start

	masks, unmasks int // how many of each kind, when both occur
}

func compile(in *Instance) (*problem, error) {
	if err := in.Check(); err != nil {
		return nil, err
	}
	p := &problem{in: in, ops: in.Ops, n: len(in.Ops), total: len(in.Ops) * in.Copies, index: map[int]int32{}, pair: map[[2]int32]edge{}}
	if in.Heat.Allowed {
		p.boost = in.Heat.Factor - 1
	}
	for x := range p.total {
		p.opOf = append(p.opOf, int32(x%p.n))
		p.copyOf = append(p.copyOf, int32(x/p.n))
		p.color = append(p.color, int32(in.Ops[x%p.n].Color))
	}
	for i, o := range in.Ops {
		p.index[o.ID] = int32(i)
		switch o.Kind {
		case "mask":
			p.masks++
		case "unmask":
			p.unmasks++
		}
	}
	if p.masks == 0 || p.unmasks == 0 {
		p.masks, p.unmasks = 0, 0
	}
	p.next, p.either = make([][]edge, p.n), make([][]edge, p.n)
	p.addArcs()
	p.addExclusions()
	p.findBlocks()
	if err := p.link(); err != nil {
		return nil, err
	}
	return p, nil
}

// A relation is a set of pairs of operations.
type relation struct {
	n   int
	bit []bool
}

func (p *problem) newRelation() relation { return relation{p.n, make([]bool, p.n*p.n)} }

func (r relation) has(a, b int32) bool { return r.bit[int(a)*r.n+int(b)] }
func (r relation) add(a, b int32)      { r.bit[int(a)*r.n+int(b)] = true }

func (p *problem) addArcs() {
	for _, a := range p.in.Arcs {
		f, t := p.index[a.From], p.index[a.To]
		e := edge{to: t, min: a.Min, deadline: never}
		switch a.Type {
		case Dry:
			e.clock = p.ops[f].Dry
		case Bone:
			e.clock = p.ops[f].Bone
		case Wet:
			e.deadline = a.Max
		}
		p.next[f] = append(p.next[f], e)
	}
}

// addExclusions lists, for each operation, those that must not start before it
// is dry because their regions touch, and those it is joined with.
func (p *problem) addExclusions() {
	joined := map[[2]int32]bool{}
	for _, j := range p.in.Joins {
		a, b := p.index[j.A], p.index[j.B]
		joined[[2]int32{a, b}], joined[[2]int32{b, a}] = true, true
		p.either[a] = append(p.either[a], edge{to: b, deadline: j.Max})
		p.either[b] = append(p.either[b], edge{to: a, deadline: j.Max})
	}
	on := map[int][]int32{}
	for i, o := range p.ops {
		for _, r := range o.Regions {
			on[r] = append(on[r], int32(i))
		}
	}
	seen := p.newRelation()
	exclude := func(x, y int32) {
		if x == y || seen.has(x, y) || joined[[2]int32{x, y}] {
			return
		}
		seen.add(x, y)
		p.either[x] = append(p.either[x], edge{to: y, clock: p.ops[x].Dry, deadline: never})
	}
	for _, t := range p.in.Adjacent {
		for _, x := range on[t[0]] {
			for _, y := range on[t[1]] {
				exclude(x, y)
				exclude(y, x)
			}
		}
	}
}

func (p *problem) findBlocks() {
	parent := make([]int32, p.n)
	for i := range parent {
		parent[i] = int32(i)
	}
	var find func(int32) int32
	find = func(i int32) int32 {
		if parent[i] != i {
			parent[i] = find(parent[i])
		}
		return parent[i]
	}
	for _, lists := range [][][]edge{p.next, p.either} {
		for i, list := range lists {
			for _, e := range list {
				if e.deadline < never {
					parent[find(int32(i))] = find(e.to)
				}
			}
		}
	}
	group := map[int32][]int32{}
	for i := range parent {
		r := find(int32(i))
		group[r] = append(group[r], int32(i))
	}
	p.block = make([]int32, p.n)
	for i := range parent {
		p.block[i] = -1
	}
	for i := range parent { // by first member, so that numbering is stable
		r := find(int32(i))
		if g := group[r]; len(g) > 1 && g[0] == int32(i) {
			for _, m := range g {
				p.block[m] = int32(len(p.member))
			}
			p.member = append(p.member, g)
		}
	}
	for _, g := range p.member {
		for _, a := range g {
			for _, lists := range [2][]edge{p.next[a], p.either[a]} {
				for _, e := range lists {
					if p.block[e.to] == p.block[a] {
						k := [2]int32{a, e.to}
						old, has := p.pair[k]
						if has {
							e.min, e.clock, e.deadline = max(e.min, old.min), max(e.clock, old.clock), min(e.deadline, old.deadline)
						}
						p.pair[k] = e
					}
				}
			}
		}
	}
}

// link fills before and after: an operation comes after its predecessors, and
// no member of a block comes before the outside predecessors of all of it,
// since once a block is begun its other members cannot wait for them.
func (p *problem) link() error {
	p.before, p.after = make([][]int32, p.n), make([][]int32, p.n)
	seen := p.newRelation()
	add := func(a, b int32) {
		if !seen.has(a, b) {
			seen.add(a, b)
			p.before[b] = append(p.before[b], a)
			p.after[a] = append(p.after[a], b)
		}
	}
	for i, list := range p.next {
		a := int32(i)
		for _, e := range list {
			add(a, e.to)
			if b := p.block[e.to]; b >= 0 && p.block[a] != b {
				for _, m := range p.member[b] {
					add(a, m)
				}
			}
		}
	}
	order, err := p.topological()
	if err != nil {
		return err
	}
	p.measurePaths(order)
	return nil
}

func (p *problem) topological() ([]int32, error) {
	left := make([]int, p.n)
	var ready, order []int32
	for i := range left {
		if left[i] = len(p.before[i]); left[i] == 0 {
			ready = append(ready, int32(i))
		}
	}
	for len(ready) > 0 {
		x := ready[0]
		ready = ready[1:]
		order = append(order, x)
		for _, y := range p.after[x] {
			if left[y]--; left[y] == 0 {
				ready = append(ready, y)
			}
		}
	}
	if len(order) < p.n {
		for i, l := range left {
			if l > 0 {
				return nil, fmt.Errorf("operation %d waits for itself in a circle of arcs: %w", p.ops[i].ID, ErrNoOrder)
			}
		}
	}
	return order, nil
}

// quick is the least time in which the drying clock can advance by c.
func (p *problem) quick(c int) int {
	return (c + p.boost) / (p.boost + 1)
}

func (p *problem) measurePaths(order []int32) {
	p.tail, p.head = make([]int, p.n), make([]int, p.n)
	for i := range p.head {
		if p.ops[i].Color != 0 {
			p.head[i] = p.in.Rinse // the brush is clean at first
		}
	}
	for _, x := range order {
		for _, e := range p.next[x] {
			p.head[e.to] = max(p.head[e.to], p.head[x]+p.ops[x].Dur+max(e.min, p.quick(e.clock)))
		}
	}
	for i := len(order) - 1; i >= 0; i-- {
		x := order[i]
		for _, e := range p.next[x] {
			p.tail[x] = max(p.tail[x], max(e.min, p.quick(e.clock))+p.ops[e.to].Dur+p.tail[e.to])
		}
	}
}
