package solver

import (
	"math"
	"slices"

	"chromaqua/core/order"
)

// never is later than any schedule.
const never = 1 << 60

// A demand is what one operation asks of the start of another.
type demand struct {
	to       int32
	min      int32 // s after its end
	clock    int32 // s on the drying clock after its end
	deadline int32 // latest, on the clock after its end; open when there is none
	goal     int8  // what the clock stands for: a dryness that heat can bring about
}

// open is the deadline of a demand that has none.
const open = math.MaxInt32

// What the clock of a demand stands for.
const (
	byClock int8 = iota // nothing that heat would bring about sooner
	byTouch
	byBone
)

// problem is an instance with operations numbered 0…n-1 and its demands.
// An operation's exclusions and joins are demands too, in force from whichever of
// the two is placed first.
type problem struct {
	in    *order.Instance
	ops   []order.Op
	index map[int]int32
	n     int           // operations of one copy
	total int           // n × copies; copy·n + operation numbers them all
	cards int           // jobs × copies
	aimed bool          // heat dries one coat at a time
	boost order.Seconds // factor − 1 when heat dries a whole card, else 0

	opOf, cardOf, color []int32 // by number, of all copies

	next   [][]demand // precedence: arcs out of each operation
	either [][]demand // order-free: exclusions and joins, listed both ways
	out    []demand   // both, of operation o from outAt[o] to outAt[o+1]
	outAt  []int32
	asked  [][]asking // where heat is aimed: what is demanded of each operation
	before [][]int32  // what must be placed before an operation: see link
	after  [][]int32  // its inverse
	place  []int32    // of each operation in an order of all: that of the instance, if it can be
	blocks

	tail []order.Seconds // heat-aware least time from an operation's end to the finish
	head []order.Seconds // heat-aware least time from the start to an operation's start

	// unmaskIn is the least time from an operation's start to the last mask's
	// coming off, where the mask keeps heat away; 0 where it does not depend on it.
	unmaskIn []order.Seconds

	masks, unmasks int // how many of each kind, when both occur

	begun *begun // nil for an order from the start
}

// compile makes the problem of an instance, ready to be solved.
func compile(in *order.Instance) (*problem, error) {
	p, err := pose(in)
	if err == nil && p.aimed {
		p.ask()
	}
	return p, err
}

// pose makes the problem of an instance as far as it takes to tell what fits.
func pose(in *order.Instance) (*problem, error) {
	if err := in.Check(); err != nil {
		return nil, err
	}
	p := &problem{in: in, ops: in.Ops, n: len(in.Ops), total: len(in.Ops) * in.Copies, index: map[int]int32{}, aimed: in.Aimed()}
	if in.Heat.Allowed && !p.aimed {
		p.boost = order.Seconds(in.Heat.Factor - 1)
	}
	p.number()
	p.next, p.either = make([][]demand, p.n), make([][]demand, p.n)
	p.addArcs()
	p.addExclusions()
	p.list()
	p.blocks = p.findBlocks()
	return p, p.link()
}

// number numbers operations and cards.
func (p *problem) number() {
	jobs := 1
	for i, o := range p.ops {
		p.index[o.ID] = int32(i)
		jobs = max(jobs, o.Job+1)
		switch o.Kind {
		case order.Mask:
			p.masks++
		case order.Unmask:
			p.unmasks++
		}
	}
	if p.masks == 0 || p.unmasks == 0 {
		p.masks, p.unmasks = 0, 0
	}
	p.cards = jobs * p.in.Copies
	for x := range p.total {
		o := x % p.n
		p.opOf = append(p.opOf, int32(o))
		p.cardOf = append(p.cardOf, int32(x/p.n*jobs+p.ops[o].Job))
		p.color = append(p.color, int32(p.ops[o].Color))
	}
}

// copyOf is the copy of its card that an operation belongs to.
func (p *problem) copyOf(x int32) int { return int(x) / p.n }

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
		e := demand{to: t, min: int32(a.Min), clock: int32(a.Clock), deadline: open}
		switch a.Type {
		case order.Dry:
			e.clock, e.goal = dryness(a.Clock, p.ops[f].Dry, byTouch)
		case order.Bone:
			e.clock, e.goal = dryness(a.Clock, p.ops[f].Bone, byBone)
		case order.Wet:
			e.deadline = int32(a.Max)
		}
		p.next[f] = append(p.next[f], e)
	}
}

// dryness is the clock of a demand for a dryness that takes need, and what it stands
// for: where more is asked, heat does not settle it.
func dryness(least, need order.Seconds, goal int8) (clock int32, stands int8) {
	if least > need {
		return int32(least), byClock
	}
	return int32(need), goal
}

// addExclusions lists, for each operation, those that must not start before it
// is dry because their regions touch, and those it is joined with.
func (p *problem) addExclusions() {
	for _, j := range p.in.Joins {
		a, b := p.index[j.A], p.index[j.B]
		back := j.Max
		if j.Back > 0 {
			back = j.Back
		}
		p.either[a] = append(p.either[a], demand{to: b, deadline: int32(j.Max)})
		p.either[b] = append(p.either[b], demand{to: a, deadline: int32(back)})
	}
	beside := p.in.Beside()
	for x, o := range p.ops {
		for _, y := range beside[o.ID] {
			p.either[x] = append(p.either[x], demand{to: p.index[y], clock: int32(o.Dry), deadline: open, goal: byTouch})
		}
	}
}

// list gathers all demands of each operation in one place.
func (p *problem) list() {
	for i := range p.n {
		p.outAt = append(p.outAt, int32(len(p.out)))
		p.out = append(append(p.out, p.next[i]...), p.either[i]...)
	}
	p.outAt = append(p.outAt, int32(len(p.out)))
}

// ask lists what is demanded of each operation.
func (p *problem) ask() {
	p.asked = make([][]asking, p.n)
	for i := range int32(p.n) {
		for _, e := range p.demands(i) {
			p.asked[e.to] = append(p.asked[e.to], asking{i, e.min, e.clock, e.goal})
		}
	}
}

// An asking is a demand seen from where it leads.
type asking struct {
	by, min, clock int32
	goal           int8
}

// demands are those of an operation.
func (p *problem) demands(o int32) []demand { return p.out[p.outAt[o]:p.outAt[o+1]] }

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
	p.place = make([]int32, p.n)
	for i, o := range order {
		p.place[o] = int32(i)
	}
	p.blocks.sort(p.place)
	p.measurePaths(order)
	return nil
}

// topological lists the operations so that each comes after those that must come
// before it, otherwise in the order of the instance.
func (p *problem) topological() ([]int32, error) {
	left := make([]int, p.n)
	var ready, line []int32
	for i := range left {
		if left[i] = len(p.before[i]); left[i] == 0 {
			ready = append(ready, int32(i))
		}
	}
	for len(ready) > 0 {
		k := 0
		for i, x := range ready {
			if x < ready[k] {
				k = i
			}
		}
		x := ready[k]
		ready = slices.Delete(ready, k, k+1)
		line = append(line, x)
		for _, y := range p.after[x] {
			if left[y]--; left[y] == 0 {
				ready = append(ready, y)
			}
		}
	}
	if len(line) == p.n {
		return line, nil
	}
	for i, l := range left {
		if l == 0 {
			continue
		}
		for _, b := range p.before[i] {
			if left[b] > 0 {
				return nil, &order.Conflict{A: p.ops[b].ID, B: p.ops[i].ID, Why: "wait for each other in a circle of arcs"}
			}
		}
	}
	return nil, order.ErrNoOrder
}

// quick is the least time, heat included, in which a demand of o is met.
func (p *problem) quick(o int32, e demand) order.Seconds {
	clock := order.Seconds(e.clock)
	switch {
	case p.boost > 0:
		clock = (clock + p.boost) / (p.boost + 1)
	case p.aimed && e.goal == byTouch && clock == p.ops[o].Dry:
		clock = min(clock, p.in.HeatFor(&p.ops[o], order.TouchDry, 0, clock))
	case p.aimed && e.goal == byBone && clock == p.ops[o].Bone:
		op := &p.ops[o] // heated at once, or until touch-dry and then aired or heated again
		after := max(0, op.Bone-op.Dry)
		clock = min(clock, p.in.HeatFor(op, order.BoneDry, 0, clock), p.in.HeatFor(op, order.TouchDry, 0, op.Dry)+min(after, p.in.HeatFor(op, order.BoneDry, 0, after)))
	}
	return max(order.Seconds(e.min), clock)
}

func (p *problem) measurePaths(line []int32) {
	p.tail, p.head, p.unmaskIn = make([]order.Seconds, p.n), make([]order.Seconds, p.n), make([]order.Seconds, p.n)
	for i := range p.head {
		if p.ops[i].Color != 0 {
			p.head[i] = p.in.Rinse // the brush is clean at first
		}
	}
	for _, x := range line {
		for _, e := range p.next[x] {
			p.head[e.to] = max(p.head[e.to], p.head[x]+p.ops[x].Dur+p.quick(x, e))
		}
	}
	for i := len(line) - 1; i >= 0; i-- {
		x := line[i]
		for _, e := range p.next[x] {
			p.tail[x] = max(p.tail[x], p.quick(x, e)+p.ops[e.to].Dur+p.tail[e.to])
			if u := p.unmaskIn[e.to]; u > 0 {
				p.unmaskIn[x] = max(p.unmaskIn[x], p.ops[x].Dur+order.Seconds(max(e.min, e.clock))+u)
			}
		}
		if p.ops[x].Kind == order.Unmask && p.masks > 0 && p.in.Heat.Allowed && !p.in.Heat.WithMask {
			p.unmaskIn[x] = max(p.unmaskIn[x], p.ops[x].Dur, 1)
		}
	}
}

// least is the least time from the start of an operation to the finish in any order.
func (p *problem) least(x int32) order.Seconds {
	o := p.opOf[x]
	return p.ops[o].Dur + p.tail[o]
}
