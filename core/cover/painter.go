package cover

import (
	"cmp"
	"math"
	"slices"
	"time"
)

// way is how the pieces of bands follow each other.
type way uint8

// The ways a hand takes.
const (
	there  way = iota // band by band, each from the same side
	around            // band by band, to and fro
	oldest            // wherever the edge has been open longest
	branch            // one branch to its end, then the oldest
)

var allWays = []way{there, around, oldest, branch}

// A painter leads a brush over a ground. What it needs is used again.
type painter struct {
	hand  Hand
	bands bands
	wave  wave
	field []float32

	t     []float32 // s, by square; below 0 before it is laid
	along []int32
	order []int32 // squares of a piece as they are laid
	count []int32
	queue []int32
	done  []bool
	since []float32 // by piece, when the oldest edge beside it was laid
	seq   []int32
	top   []float32
}

// laid is how a ground was covered.
type laid struct {
	total, wait float64 // s
	start       int
	parts       int
}

// lay covers the ground in the bands at hand, beginning with one of their pieces. Fine, a
// chunk of a piece is cut in before it is filled; otherwise that is spread over it.
func (p *painter) lay(g *ground, w way, first int32, fine, fronts bool) (out laid) {
	b := &p.bands
	n := len(b.pieces)
	p.t, p.along, p.done, p.since = sized(p.t, len(g.in)), sized(p.along, len(g.in)), sized(p.done, n), sized(p.since, n)
	fill(p.t, -1)
	fill(p.done, false)
	fill(p.since, math.MaxFloat32)
	p.inBands(w)
	now, last := float32(0), int32(-1)
	x, y := -1, -1
	pace := float32(p.hand.Pace)
	for step := range b.live {
		k := first
		switch {
		case w == there || w == around:
			k = p.seq[step]
		case last >= 0:
			k = p.next(w, last)
		}
		p.inOrder(g, k, w, fine)
		at := p.order[0]
		if x < 0 {
			out.start = int(at)
		} else if math.Hypot(float64(int(at)%g.w-x), float64(int(at)/g.w-y))*g.mm > 2*p.hand.Fill.Belly {
			now += pace * jump
		}
		begun := now
		changes := p.changes(g, k, fine)
		brush := -1
		for _, i := range p.order {
			if fine {
				kind := 0
				if g.small[i] {
					kind = 1
				}
				if brush >= 0 && kind != brush {
					now += pace * swap
				}
				brush = kind
			}
			now += pace*g.cost[i] + changes
			p.t[i] = now
		}
		end := int(p.order[len(p.order)-1])
		x, y = end%g.w, end/g.w
		p.done[k], last = true, k
		for _, j := range b.borders(k) {
			p.since[j] = min(p.since[j], begun)
		}
		if fronts {
			out.parts = max(out.parts, p.fronts(g))
		}
	}
	out.total, out.wait = float64(now), p.longest(g)
	return out
}

// inBands lists the pieces band by band where a way goes so.
func (p *painter) inBands(w way) {
	if w != there && w != around {
		return
	}
	b := &p.bands
	p.seq = append(p.seq[:0], b.live...)
	key := func(k int32) float32 { return b.pieces[k].x - 1.0001*b.pieces[k].y }
	slices.SortStableFunc(p.seq, func(x, y int32) int {
		s, t := &b.pieces[x], &b.pieces[y]
		if s.band != t.band {
			return cmp.Compare(s.band, t.band)
		}
		if w == around && s.band%2 == 1 {
			return cmp.Compare(key(y), key(x))
		}
		return cmp.Compare(key(x), key(y))
	})
}

// next is the piece that is laid after another.
func (p *painter) next(w way, last int32) int32 {
	b, best := &p.bands, int32(-1)
	if w == branch {
		for _, j := range b.borders(last) {
			if !p.done[j] && (best < 0 || b.pieces[j].band < b.pieces[best].band) {
				best = j
			}
		}
		if best >= 0 {
			return best
		}
	}
	for _, j := range b.live {
		if !p.done[j] && (best < 0 || p.since[j] < p.since[best]) {
			best = j
		}
	}
	return best
}

// changes is what changing brushes takes on each square of a piece where that is spread.
func (p *painter) changes(g *ground, k int32, fine bool) float32 {
	if fine {
		return 0
	}
	of := &p.bands.pieces[k]
	small := 0
	for _, i := range p.order {
		if g.small[i] {
			small++
		}
	}
	if small == 0 || small == len(p.order) {
		return 0
	}
	long := float64(p.along[p.order[len(p.order)-1]]+1) * g.mm
	return float32(p.hand.Pace * 2 * swap * math.Ceil(long/chunkMM) / float64(of.to-of.from))
}

// walk numbers the squares of a piece by how far they are from one of them, and returns the
// farthest.
func (p *painter) walk(g *ground, k, from int32) int32 {
	of := p.bands.of
	piece := &p.bands.pieces[k]
	for _, i := range p.bands.squares[piece.from:piece.to] {
		p.along[i] = -1
	}
	p.queue = append(p.queue[:0], from)
	p.along[from] = 0
	for n := 0; n < len(p.queue); n++ {
		i := p.queue[n]
		for _, j := range g.near[4*i : 4*i+4] {
			if j >= 0 && of[j] == k && p.along[j] < 0 {
				p.along[j] = p.along[i] + 1
				p.queue = append(p.queue, j)
			}
		}
	}
	return p.queue[len(p.queue)-1]
}

// inOrder lists the squares of a piece as they are laid: from the end beside which the edge
// has been open longer.
func (p *painter) inOrder(g *ground, k int32, w way, fine bool) {
	b := &p.bands
	piece := &b.pieces[k]
	squares := b.squares[piece.from:piece.to]
	end := p.walk(g, k, squares[0])
	far := p.walk(g, k, end)
	length := p.along[far]
	var a, t, at, n float64
	for _, i := range squares {
		for _, j := range g.near[4*i : 4*i+4] {
			if j >= 0 && b.of[j] != k && p.t[j] >= 0 {
				x, y := float64(p.along[i]), float64(p.t[j])
				a, t, at, n = a+x, t+y, at+x*y, n+1
			}
		}
	}
	if flip := n > 0 && at-a*t/n < 0; n > 0 && flip != (w == around) {
		for _, i := range squares {
			p.along[i] = length - p.along[i]
		}
	}
	chunk, most := int32(1<<30), int(length)+1
	if fine {
		chunk = int32(chunkMM / g.mm)
		most = (int(length)/int(chunk) + 1) * 2 * int(chunk)
	}
	place := func(i int32) int32 {
		a := p.along[i]
		if !fine {
			return a
		}
		if g.small[i] {
			return a/chunk*2*chunk + a%chunk
		}
		return a/chunk*2*chunk + chunk + a%chunk
	}
	p.count = sized(p.count, most+1)
	fill(p.count, 0)
	for _, i := range squares {
		p.count[place(i)+1]++
	}
	for s := range most {
		p.count[s+1] += p.count[s]
	}
	p.order = sized(p.order, len(squares))
	for _, i := range squares {
		s := place(i)
		p.order[p.count[s]] = i
		p.count[s]++
	}
}

// longest is the wait that [edgeMM] of edge reach.
func (p *painter) longest(g *ground) float64 {
	n := max(1, int(edgeMM/g.mm))
	p.top = p.top[:0]
	low := float32(-1)
	for i, t := range p.t {
		if t < 0 {
			continue
		}
		for _, k := range [2]int{1, 3} {
			j := g.near[4*i+k]
			if j < 0 {
				continue
			}
			d := t - p.t[j]
			if d < 0 {
				d = -d
			}
			if d <= low {
				continue
			}
			at, _ := slices.BinarySearchFunc(p.top, d, func(a, b float32) int { return cmp.Compare(b, a) })
			p.top = slices.Insert(p.top, at, d)
			if len(p.top) > n {
				p.top = p.top[:n]
			}
			if len(p.top) == n {
				low = p.top[n-1]
			}
		}
	}
	if len(p.top) == 0 {
		return 0
	}
	return float64(p.top[len(p.top)-1])
}

// fronts counts how many open edges lie so far apart that they are fronts of their own.
func (p *painter) fronts(g *ground) int {
	b := &p.bands
	var open []int32
	for _, k := range b.live {
		if !p.done[k] && p.since[k] < math.MaxFloat32 {
			open = append(open, k)
		}
	}
	reach := 2 * p.hand.Fill.Belly / g.mm
	seen := make([]bool, len(open))
	n := 0
	for s := range open {
		if seen[s] {
			continue
		}
		n++
		todo := []int{s}
		seen[s] = true
		for len(todo) > 0 {
			at := todo[len(todo)-1]
			todo = todo[:len(todo)-1]
			for o := range open {
				if !seen[o] && b.apart(open[at], open[o]) <= reach {
					seen[o] = true
					todo = append(todo, o)
				}
			}
		}
	}
	return n
}

// apart is how far the boxes of two pieces are apart, in squares.
func (b *bands) apart(k, l int32) float64 {
	p, q := &b.pieces[k], &b.pieces[l]
	return math.Hypot(float64(max(0, q.x0-p.x1, p.x0-q.x1)), float64(max(0, q.y0-p.y1, p.y0-q.y1)))
}

func seconds(s float64) time.Duration { return time.Duration(s * float64(time.Second)) }
