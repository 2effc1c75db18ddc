package solver

import (
	"cmp"
	"slices"

	"chromaqua/core/order"
)

// blocks are the operations that wet arcs and joins tie together: once one of a
// block is begun, the others cannot wait for long.
type blocks struct {
	block  []int32   // by operation; -1 alone
	member [][]int32 // by block
	queue  [][]int32 // the same, each after what must come before it
	local  []int32   // place of an operation within its block
	pairs  [][]pair  // by block: a square, from × to
}

// A pair is what one member of a block demands of another.
type pair struct {
	min, clock, deadline order.Seconds // as of a demand
	tied                 bool
}

func (p *problem) findBlocks() blocks {
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
	for i := range int32(p.n) {
		for _, e := range p.demands(i) {
			if e.deadline < open {
				parent[find(i)] = find(e.to)
			}
		}
	}
	group := map[int32][]int32{}
	for i := range int32(p.n) {
		r := find(i)
		group[r] = append(group[r], i)
	}
	b := blocks{block: make([]int32, p.n), local: make([]int32, p.n)}
	for i := range int32(p.n) {
		b.block[i] = -1
	}
	for i := range int32(p.n) { // by first member, so that numbering is stable
		if g := group[find(i)]; len(g) > 1 && g[0] == i {
			for k, m := range g {
				b.block[m], b.local[m] = int32(len(b.member)), int32(k)
			}
			b.member = append(b.member, g)
			b.pairs = append(b.pairs, p.square(g))
		}
	}
	return b
}

// sort puts the members of each block in an order of all operations.
func (b *blocks) sort(place []int32) {
	for _, members := range b.member {
		q := slices.Clone(members)
		slices.SortFunc(q, func(x, y int32) int { return cmp.Compare(place[x], place[y]) })
		b.queue = append(b.queue, q)
	}
}

// square fills in what the members of a block demand of each other.
func (p *problem) square(members []int32) []pair {
	at := map[int32]int{}
	for k, m := range members {
		at[m] = k
	}
	out := make([]pair, len(members)*len(members))
	for k := range out {
		out[k].deadline = never
	}
	for k, m := range members {
		for _, e := range p.demands(m) {
			j, inside := at[e.to]
			if !inside {
				continue
			}
			q := &out[k*len(members)+j]
			q.min, q.clock, q.tied = max(q.min, order.Seconds(e.min)), max(q.clock, order.Seconds(e.clock)), true
			if e.deadline < open {
				q.deadline = min(q.deadline, order.Seconds(e.deadline))
			}
		}
	}
	return out
}

// between is what a demands of b, both of one block.
func (b *blocks) between(x, y int32) *pair {
	k := b.block[x]
	return &b.pairs[k][int(b.local[x])*len(b.member[k])+int(b.local[y])]
}

// Misfits returns the pairs of operations that are to meet while wet and cannot, even
// if nothing else is in the way and the members of their block follow each other as
// they stand in the instance. Without misfits there is an order.
func Misfits(in *order.Instance) ([]order.Conflict, error) {
	p, err := pose(in)
	if err != nil {
		return nil, err
	}
	var out []order.Conflict
	for _, members := range p.queue {
		if a, b, ok := p.misfit(members); !ok {
			out = append(out, order.Conflict{A: p.ops[a].ID, B: p.ops[b].ID, Why: "have to meet while wet and cannot in time"})
		}
	}
	return out, nil
}

// misfit works through a block from a dry card and returns the first two members of
// which the later comes too late for the earlier.
func (p *problem) misfit(members []int32) (a, b int32, ok bool) {
	start, end := p.fromDry(members)
	for k, y := range members {
		for j, x := range members[:k] {
			if start[k]-end[j] > p.between(x, y).deadline {
				return x, y, false
			}
		}
	}
	return 0, 0, true
}

// fromDry begins the members of a block one after the other, as soon as each may.
func (p *problem) fromDry(members []int32) (start, end []order.Seconds) {
	t, brush := order.Seconds(0), 0
	for k, y := range members {
		s := t
		if c := p.ops[y].Color; c != 0 && c != brush {
			if k > 0 {
				s += p.in.Rinse
			}
			brush = c
		}
		for j, x := range members[:k] {
			q := p.between(x, y)
			s = max(s, end[j]+q.min, end[j]+q.clock)
		}
		start, end = append(start, s), append(end, s+p.ops[y].Dur)
		if p.ops[y].Attended {
			t = end[k]
		}
	}
	return start, end
}
