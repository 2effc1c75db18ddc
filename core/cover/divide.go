package cover

import (
	"container/heap"
	"math"
)

// A Cut divides a region in two from frame to frame, under what is left out wherever it
// can, so that each half is laid by itself.
type Cut struct {
	Path   []int   // squares, from frame to frame
	WashMM float64 // of it that goes across the wash, where it will be seen
	Halves [2]Region
}

// What a millimetre of a cut costs across the wash and under what is left out, and the
// middle part of the region it keeps to.
const (
	washCost, hiddenCost = 1.0, 0.02
	middleFrom, middleTo = 0.3, 0.7
)

// Divide finds the cut across a region's longer side that is seen least; ok is false where
// it would leave nothing on one side.
func Divide(r *Region) (c Cut, ok bool) {
	long := r.W >= r.H // cut from top to bottom
	at := func(along, across int) int {
		if long {
			return across*r.W + along
		}
		return along*r.W + across
	}
	n, across := r.W, r.H
	if !long {
		n, across = r.H, r.W
	}
	from, to := int(middleFrom*float64(n)), int(math.Ceil(middleTo*float64(n)))
	if to-from < 1 {
		return Cut{}, false
	}
	cost := func(along, across int) float64 {
		if r.In[at(along, across)] {
			return washCost * GridMM
		}
		return hiddenCost * GridMM
	}
	w := to - from
	dist, back := make([]float64, w*across), make([]int, w*across)
	q := &frontier{}
	for i := range dist {
		dist[i], back[i] = math.Inf(1), -1
	}
	for x := range w {
		dist[x] = cost(from+x, 0)
		heap.Push(q, reached{dist[x], x})
	}
	end := -1
	for q.Len() > 0 {
		now := heap.Pop(q).(reached)
		if now.cost > dist[now.at] {
			continue
		}
		x, y := now.at%w, now.at/w
		if y == across-1 {
			end = now.at
			break
		}
		for _, d := range [4][2]int{{-1, 0}, {1, 0}, {0, -1}, {0, 1}} {
			u, v := x+d[0], y+d[1]
			if u < 0 || v < 0 || u >= w || v >= across {
				continue
			}
			if k, c := v*w+u, now.cost+cost(from+u, v); c < dist[k] {
				dist[k], back[k] = c, now.at
				heap.Push(q, reached{c, k})
			}
		}
	}
	wall := make([]bool, len(r.In))
	for i := end; i >= 0; i = back[i] {
		k := at(from+i%w, i/w)
		c.Path = append(c.Path, k)
		wall[k] = true
		if r.In[k] {
			c.WashMM += GridMM
		}
	}
	return c, r.halve(&c, wall, at)
}

// halve parts the squares on either side of a wall; those of the wall go with the second.
func (r *Region) halve(c *Cut, wall []bool, at func(along, across int) int) bool {
	first := make([]bool, len(r.In))
	todo := []int{at(0, 0)}
	if wall[todo[0]] {
		return false
	}
	first[todo[0]] = true
	for len(todo) > 0 {
		i := todo[len(todo)-1]
		todo = todo[:len(todo)-1]
		x := i % r.W
		for _, j := range [4]int{i - 1, i + 1, i - r.W, i + r.W} {
			if j < 0 || j >= len(first) || j == i-1 && x == 0 || j == i+1 && x == r.W-1 || first[j] || wall[j] {
				continue
			}
			first[j] = true
			todo = append(todo, j)
		}
	}
	var n [2]int
	for k := range c.Halves {
		c.Halves[k] = Region{W: r.W, H: r.H, In: make([]bool, len(r.In)), Masked: r.Masked}
	}
	for i, in := range r.In {
		k := 1
		if first[i] {
			k = 0
		}
		if c.Halves[k].In[i] = in; in {
			n[k]++
		}
	}
	return n[0] > 0 && n[1] > 0
}

// reached is a square on the way of a cut.
type reached struct {
	cost float64
	at   int
}

// frontier is what has been reached, cheapest first.
type frontier []reached

func (q frontier) Len() int { return len(q) }
func (q frontier) Less(a, b int) bool {
	return q[a].cost < q[b].cost || q[a].cost == q[b].cost && q[a].at < q[b].at
}
func (q frontier) Swap(a, b int) { q[a], q[b] = q[b], q[a] }
func (q *frontier) Push(x any)   { *q = append(*q, x.(reached)) }
func (q *frontier) Pop() any {
	old := *q
	x := old[len(old)-1]
	*q = old[:len(old)-1]
	return x
}
