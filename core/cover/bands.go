package cover

import (
	"cmp"
	"math"
	"slices"
)

// A piece is a connected part of a band, as it is laid in one stroke or a few side by side.
type piece struct {
	from, to int32 // its squares in bands.squares
	band     int32
	into     int32 // the piece it was given to, since it is too small; itself otherwise
	x, y     float32

	x0, y0, x1, y1 int32 // the box it lies in
}

// bands are a ground in bands and their connected pieces.
type bands struct {
	of      []int32 // piece by square
	pieces  []piece
	squares []int32 // by piece
	live    []int32 // pieces that stand for themselves
	near    []int32 // by piece, those it borders, rising
	nearAt  []int32 // where those begin

	todo  []int32
	pairs []uint64
	order []int32
	more  []int32
}

// part cuts a ground into bands of a field so wide. Pieces smaller than a quarter of a band's
// square go to the neighbour they border most.
func (b *bands) part(g *ground, field []float32, wide float64) {
	b.pieces, b.squares = b.pieces[:0], b.squares[:0]
	b.of = sized(b.of, len(g.in))
	fill(b.of, -1)
	per := float32(1 / wide)
	for s, in := range g.in {
		if !in || b.of[s] >= 0 {
			continue
		}
		id, k := int32(len(b.pieces)), int32(field[s]*per)
		p := piece{from: int32(len(b.squares)), band: k, into: id}
		b.of[s] = id
		b.squares = append(b.squares, int32(s))
		for n := int(p.from); n < len(b.squares); n++ {
			i := b.squares[n]
			for _, j := range g.near[4*i : 4*i+4] {
				if j >= 0 && b.of[j] < 0 && int32(field[j]*per) == k {
					b.of[j] = id
					b.squares = append(b.squares, j)
				}
			}
		}
		p.to = int32(len(b.squares))
		b.pieces = append(b.pieces, p)
	}
	b.merge(g, int32(max(1, wide*wide/4/g.mm/g.mm)))
	b.gather(g)
}

// merge gives small pieces to those they border most.
func (b *bands) merge(g *ground, least int32) {
	b.order = b.order[:0]
	for k := range b.pieces {
		if p := &b.pieces[k]; p.to-p.from < least {
			b.order = append(b.order, int32(k))
		}
	}
	slices.SortStableFunc(b.order, func(x, y int32) int {
		p, q := &b.pieces[x], &b.pieces[y]
		return cmp.Compare(p.to-p.from, q.to-q.from)
	})
	b.more = sized(b.more, len(b.pieces))
	fill(b.more, 0)
	for _, k := range b.order {
		p := &b.pieces[k]
		best, most := int32(-1), int32(0)
		b.todo = b.todo[:0]
		for _, i := range b.squares[p.from:p.to] {
			for _, j := range g.near[4*i : 4*i+4] {
				if j < 0 {
					continue
				}
				if o := b.root(b.of[j]); o != k {
					if b.more[o] == 0 {
						b.todo = append(b.todo, o)
					}
					b.more[o]++
				}
			}
		}
		for _, o := range b.todo {
			if b.more[o] > most || b.more[o] == most && o < best {
				best, most = o, b.more[o]
			}
			b.more[o] = 0
		}
		if best >= 0 && b.root(best) != k {
			p.into = best
		}
	}
}

// root is the piece another was given to in the end.
func (b *bands) root(k int32) int32 {
	for b.pieces[k].into != k {
		k = b.pieces[k].into
	}
	return k
}

// gather lists the squares of what is left, with their middles and neighbours.
func (b *bands) gather(g *ground) {
	old := b.pieces
	b.live = b.live[:0]
	b.more = sized(b.more, len(old))
	for k := range old {
		r := b.root(int32(k))
		if r == int32(k) {
			b.live = append(b.live, r)
		}
		b.more[k] = r
	}
	size := sized(b.order, len(old)+1)
	fill(size, 0)
	for k, p := range old {
		size[b.more[k]+1] += p.to - p.from
	}
	for k := range old {
		size[k+1] += size[k]
	}
	if len(b.live) < len(old) {
		moved := sized(b.todo, len(b.squares))
		at := append([]int32{}, size...)
		for k, p := range old {
			r := b.more[k]
			for _, i := range b.squares[p.from:p.to] {
				b.of[i] = r
				moved[at[r]] = i
				at[r]++
			}
		}
		b.squares, b.todo = moved, b.squares[:0]
	}
	for _, k := range b.live {
		p := &b.pieces[k]
		p.from, p.to = size[k], size[k+1]
		var x, y float32
		p.x0, p.y0, p.x1, p.y1 = math.MaxInt32, math.MaxInt32, 0, 0
		for _, i := range b.squares[p.from:p.to] {
			u, v := i%int32(g.w), i/int32(g.w)
			x, y = x+float32(u), y+float32(v)
			p.x0, p.y0, p.x1, p.y1 = min(p.x0, u), min(p.y0, v), max(p.x1, u), max(p.y1, v)
		}
		n := float32(p.to - p.from)
		p.x, p.y = x/n, y/n
	}
	b.order = size
	b.contacts(g)
}

// contacts lists the neighbours of each piece.
func (b *bands) contacts(g *ground) {
	b.pairs = b.pairs[:0]
	var last uint64
	for _, i := range b.squares {
		p := b.of[i]
		for _, j := range g.near[4*i : 4*i+4] {
			if j >= 0 && b.of[j] != p {
				if k := uint64(p)<<32 | uint64(b.of[j]); k != last {
					b.pairs = append(b.pairs, k)
					last = k
				}
			}
		}
	}
	slices.Sort(b.pairs)
	b.pairs = slices.Compact(b.pairs)
	b.near, b.nearAt = b.near[:0], sized(b.nearAt, len(b.pieces)+1)
	n := 0
	for k := range b.pieces {
		b.nearAt[k] = int32(len(b.near))
		for n < len(b.pairs) && b.pairs[n]>>32 == uint64(k) {
			b.near = append(b.near, int32(b.pairs[n]&0xffffffff))
			n++
		}
	}
	b.nearAt[len(b.pieces)] = int32(len(b.near))
}

// borders are the pieces one borders.
func (b *bands) borders(k int32) []int32 { return b.near[b.nearAt[k]:b.nearAt[k+1]] }

// first is the piece that lies foremost.
func (b *bands) first() int32 {
	best := b.live[0]
	for _, k := range b.live {
		if b.pieces[k].band < b.pieces[best].band {
			best = k
		}
	}
	return best
}

func sized[T any](s []T, n int) []T {
	if cap(s) < n {
		return make([]T, n)
	}
	return s[:n]
}

func fill[T any](s []T, v T) {
	for i := range s {
		s[i] = v
	}
}
