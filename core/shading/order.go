package shading

import (
	"cmp"
	"math"
	"slices"
)

// What tells front from behind, in log odds, and what is one line. Found on drawings whose
// order is known; the tests hold them on others.
const (
	mostBend    = 32.0 // degrees: a line that runs on bends no more at a junction
	leastFork   = 18.0 // and no other bends as little
	silhouette  = 4.0  // only one side of a line borders the page
	bulging     = 1.2  // for each quarter turn, the inside
	bulgingMost = 1.3
	ring        = 3.0 // a line that closes on itself
	ending      = 3.0 // the silhouette ends on a line
	endingIn    = 1.4 // an inner line does
	unowned     = 0.35
	rounds      = 4
)

type end struct{ arc, at int }

// A stem leaves a junction.
type stem struct {
	end
	d vec
}

// A vote is a junction at which others end on a line: what they border lies behind it.
type vote struct {
	left  bool // the left side of the chain lies in front
	sure  float64
	stems []int
	edge  bool // one of them is the silhouette
	at    vec
}

// A chain is a line as it was drawn in one go: arcs that run on smoothly.
type chain struct {
	arcs        []int
	back        []bool
	votes       []vote
	odds        float64 // that its left side lies in front
	turn        float64 // radians to the left
	mm          float64
	pageL, page float64 // mm of the page left and right
	loop        bool
}

// chains joins arcs at junctions, and takes down where lines end on others.
func (n *net) chains(line float64, outside func(int) bool) []*chain {
	link := map[end]end{}
	type pending struct {
		vote
		to end
	}
	var votes []pending
	groups := n.groups(line)
	for _, g := range sortedKeys(groups) {
		stems := groups[g]
		first, second, ok := runsOn(stems)
		if !ok {
			continue
		}
		link[stems[first.i].end], link[stems[first.j].end] = stems[first.j].end, stems[first.i].end
		along := stems[first.j].d.less(stems[first.i].d).unit()
		var left, right []int
		for k, o := range stems {
			switch {
			case k == first.i || k == first.j:
			case along.cross(o.d) < 0:
				left = append(left, k)
			default:
				right = append(right, k)
			}
		}
		if len(left) > 0 && len(right) > 0 { // a crossing: the other line runs on as well
			if b, found := best(stems, first); found && b.bend < mostBend {
				link[stems[b.i].end], link[stems[b.j].end] = stems[b.j].end, stems[b.i].end
			}
			continue
		}
		if len(left)+len(right) == 0 {
			continue
		}
		v := vote{left: len(left) == 0, at: n.junctions[g]}
		v.sure = clamp((mostBend-first.bend)/20) * clamp((second-first.bend)/30)
		for _, k := range append(left, right...) {
			a := n.arcs[stems[k].arc]
			v.stems = append(v.stems, stems[k].arc)
			v.edge = v.edge || outside(a.left) || outside(a.right)
		}
		votes = append(votes, pending{v, stems[first.j].end})
	}
	all := n.follow(link)
	place := map[int]int{}
	for _, c := range all {
		for k, a := range c.arcs {
			place[a] = k
		}
	}
	for _, p := range votes {
		c := all[n.arcs[p.to.arc].chain]
		if forward := (p.to.at == 0) != c.back[place[p.to.arc]]; !forward {
			p.left = !p.left
		}
		c.votes = append(c.votes, p.vote)
	}
	for _, c := range all {
		n.measure(c, outside)
	}
	return all
}

func clamp(v float64) float64 { return max(0, min(1, v)) }

func sortedKeys[V any](m map[int]V) (out []int) {
	for k := range m {
		out = append(out, k)
	}
	slices.Sort(out)
	return out
}

// groups are the stems that leave each junction; junctions nearer together than a line is
// thick are one.
func (n *net) groups(line float64) map[int][]stem {
	up := make([]int, len(n.junctions))
	for i := range up {
		up[i] = i
	}
	root := func(i int) int {
		for up[i] != i {
			up[i] = up[up[i]]
			i = up[i]
		}
		return i
	}
	short := 1.3*line + 0.15
	within := func(a *arc) bool {
		return a.junction[0] >= 0 && a.junction[1] >= 0 && a.junction[0] != a.junction[1] && a.mm < short
	}
	for _, a := range n.arcs {
		if within(a) {
			up[root(a.junction[0])] = root(a.junction[1])
		}
	}
	out := map[int][]stem{}
	for i, a := range n.arcs {
		if within(a) {
			continue
		}
		for e := range 2 {
			if a.junction[e] < 0 {
				continue
			}
			d, ok := a.leaving(e, line)
			if !ok {
				d = a.pts[len(a.pts)-1].less(a.pts[0]).unit()
				if e == 1 {
					d = d.times(-1)
				}
			}
			g := root(a.junction[e])
			out[g] = append(out[g], stem{end{i, e}, d})
		}
	}
	return out
}

// A pair is two stems, and by how much a line bends that is both.
type pair struct {
	i, j int
	bend float64
}

func (p pair) shares(o pair) bool { return p.i == o.i || p.i == o.j || p.j == o.i || p.j == o.j }

func pairsOf(stems []stem) (out []pair) {
	for i := range stems {
		for j := i + 1; j < len(stems); j++ {
			out = append(out, pair{i, j, 180 - stems[i].d.degrees(stems[j].d)})
		}
	}
	slices.SortStableFunc(out, func(a, b pair) int { return cmp.Compare(a.bend, b.bend) })
	return out
}

// runsOn is the straightest pair, if it is plainly one line, and how much the next one bends
// that shares a stem with it.
func runsOn(stems []stem) (first pair, second float64, ok bool) {
	all := pairsOf(stems)
	if len(all) == 0 || all[0].bend > mostBend {
		return first, 0, false
	}
	first, second = all[0], 180
	for _, p := range all[1:] {
		if p.shares(first) {
			second = min(second, p.bend)
		}
	}
	return first, second, second-first.bend >= leastFork
}

// best is the straightest pair that shares no stem with another.
func best(stems []stem, with pair) (pair, bool) {
	for _, p := range pairsOf(stems) {
		if !p.shares(with) {
			return p, true
		}
	}
	return pair{}, false
}

// follow makes chains of linked arcs.
func (n *net) follow(link map[end]end) (all []*chain) {
	for i, a := range n.arcs {
		if a.chain >= 0 {
			continue
		}
		at := end{i, 0} // back to the start
		for range len(n.arcs) {
			p, on := link[at]
			if !on {
				break
			}
			if at = (end{p.arc, 1 - p.at}); at == (end{i, 0}) {
				break
			}
		}
		start, c := at, &chain{loop: a.closed}
		for n.arcs[at.arc].chain < 0 {
			n.arcs[at.arc].chain = len(all)
			c.arcs, c.back = append(c.arcs, at.arc), append(c.back, at.at == 1)
			next, on := link[end{at.arc, 1 - at.at}]
			if !on {
				break
			}
			if at = next; at == start {
				c.loop = true
			}
		}
		all = append(all, c)
	}
	return all
}

// sides are the cells left and right of the kth arc of a chain.
func (n *net) sides(c *chain, k int) (l, r int) {
	a := n.arcs[c.arcs[k]]
	if c.back[k] {
		return a.right, a.left
	}
	return a.left, a.right
}

// measure finds how long a chain is, how it turns, and where it borders the page.
func (n *net) measure(c *chain, outside func(int) bool) {
	var pts []vec
	for k, i := range c.arcs {
		a := n.arcs[i]
		l, r := n.sides(c, k)
		c.mm += a.mm
		if outside(l) {
			c.pageL += a.mm
		}
		if outside(r) {
			c.page += a.mm
		}
		along := slices.Clone(a.pts)
		if c.back[k] {
			slices.Reverse(along)
		}
		pts = append(pts, along...)
	}
	const step = 0.8 // mm
	var last vec
	for i := 0; i < len(pts); {
		j := i
		for j < len(pts) && pts[i].to(pts[j]) < step {
			j++
		}
		if j == len(pts) {
			break
		}
		d := pts[j].less(pts[i]).unit()
		if last != (vec{}) {
			c.turn -= math.Atan2(last.cross(d), last.dot(d)) // y down: to the left is below 0
		}
		last, i = d, j
	}
}

// own is what a chain says of itself.
func (c *chain) own() (s float64) {
	if c.pageL > 1.5 && c.page < 0.3*c.pageL {
		s -= silhouette
	}
	if c.page > 1.5 && c.pageL < 0.3*c.page {
		s += silhouette
	}
	s += bulging * max(-bulgingMost, min(bulgingMost, c.turn/(math.Pi/2)))
	switch {
	case c.loop && c.turn > 4:
		s += ring
	case c.loop && c.turn < -4:
		s -= ring
	}
	return s
}

// judge sets each chain's odds: its own, and what ends on it. What an ending says hangs on
// who owns the line that ends, hence the rounds.
func (n *net) judge(all []*chain, outside func(int) bool) {
	for _, c := range all {
		c.odds = c.own()
	}
	soft := func(x float64) float64 { return 4 * math.Tanh(x/4) } // many alike say little more than two
	for range rounds {
		next := make([]float64, len(all))
		for i, c := range all {
			left, right := 0.0, 0.0
			for _, v := range c.votes {
				if f := n.frontAt(c, v); f <= 0 || outside(f) { // the page is never in front
					continue
				}
				w := ending
				if !v.edge {
					w = endingIn
					if !slices.ContainsFunc(v.stems, func(s int) bool {
						o := all[n.arcs[s].chain]
						return o != c && math.Abs(o.odds) > 0.7
					}) {
						w *= unowned
					}
				}
				if v.left {
					left += w * v.sure
				} else {
					right += w * v.sure
				}
			}
			next[i] = c.own() + soft(left) - soft(right)
		}
		for i, c := range all {
			c.odds = next[i]
		}
	}
}

// frontAt is the cell that a vote speaks for: on its side of the chain, next to the place.
func (n *net) frontAt(c *chain, v vote) (cell int) {
	least := math.Inf(1)
	for k, i := range c.arcs {
		a := n.arcs[i]
		for _, p := range [2]vec{a.pts[0], a.pts[len(a.pts)-1]} {
			if d := p.to(v.at); d < least {
				least = d
				l, r := n.sides(c, k)
				if cell = r; v.left {
					cell = l
				}
			}
		}
	}
	return cell
}

// orders are the pairs of touching cells with what their borders say, the surest first.
func (n *net) orders(all []*chain, outside func(int) bool) (out []Order) {
	back := make([]bool, len(n.arcs))
	for _, c := range all {
		for k, i := range c.arcs {
			back[i] = c.back[k]
		}
	}
	type both struct{ a, b int }
	sum, mm := map[both]float64{}, map[both]float64{}
	for i, a := range n.arcs {
		if a.left <= 0 || a.right <= 0 || outside(a.left) || outside(a.right) || a.mm < 0.4 {
			continue
		}
		s := math.Tanh(all[a.chain].odds / 2)
		if back[i] {
			s = -s
		}
		k := both{a.left, a.right}
		if a.left > a.right {
			k, s = both{a.right, a.left}, -s
		}
		sum[k], mm[k] = sum[k]+s*a.mm, mm[k]+a.mm
	}
	for k, l := range mm {
		o := Order{Front: k.a, Behind: k.b, Score: math.Abs(sum[k] / l), MM: l}
		if sum[k] < 0 {
			o.Front, o.Behind = k.b, k.a
		}
		out = append(out, o)
	}
	slices.SortFunc(out, func(x, y Order) int {
		return cmp.Or(cmp.Compare(y.Score, x.Score), cmp.Compare(x.Front, y.Front), cmp.Compare(x.Behind, y.Behind))
	})
	return out
}

// layers numbers the cells from the front, from the surest order down; one that would close a
// circle is left out, and stays an order: petals of a spiral do overlap in one.
func layers(orders []Order, cells int) (layer []int, circles int) {
	behind := make([][]int, cells+1)
	var reaches func(from, to int, seen map[int]bool) bool
	reaches = func(from, to int, seen map[int]bool) bool {
		if from == to {
			return true
		}
		seen[from] = true
		return slices.ContainsFunc(behind[from], func(b int) bool { return !seen[b] && reaches(b, to, seen) })
	}
	for i := range orders {
		o := &orders[i]
		switch {
		case o.Score < Decided:
		case reaches(o.Behind, o.Front, map[int]bool{}):
			o.Circle = true
			circles++
		default:
			behind[o.Front] = append(behind[o.Front], o.Behind)
		}
	}
	layer = make([]int, cells+1)
	for range cells {
		changed := false
		for f, all := range behind {
			for _, b := range all {
				if layer[b] <= layer[f] {
					layer[b], changed = layer[f]+1, true
				}
			}
		}
		if !changed {
			break
		}
	}
	return layer, circles
}
