package cutting

import (
	"cmp"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
)

// pending is a cut that has not been made, on all sheets that are cut alike.
type pending struct {
	sheets []int
	n      *node
	fence  [2]int64 // the settings it can be made with: measured from either side of the piece
	child  [2]int   // the cuts of the two pieces, -1 for none
	first  bool     // of its sheet
}

// sequence orders the cuts of all sheets so that the trimmer's fence is set
// seldom. Each cut can be measured from either side of its piece; a small set of
// settings that serves all cuts is found first, then several ways of going
// through it are tried and the one with the fewest changes is taken.
func sequence(trees []*node, kerf int64) []Cut {
	s := &sequencer{rng: rand.New(rand.NewPCG(1, 7))}
	alike := map[*node][]int{}
	for i, t := range trees {
		alike[t] = append(alike[t], i)
	}
	for i, t := range trees {
		if alike[t][0] != i {
			continue
		}
		if k := s.list(alike[t], t, kerf); k >= 0 {
			s.all[k].first = true
		}
	}
	if len(s.all) == 0 {
		return nil
	}
	s.cover()
	var best []visit
	for run := range max(2, min(maxRuns, runWork/len(s.all))) {
		if v := s.run(run); best == nil || len(v) < len(best) {
			best = v
		}
	}
	return s.cuts(best)
}

// Limits of the search for an order: runs, and cuts looked at in all.
const (
	maxRuns = 20
	runWork = 20_000
)

type sequencer struct {
	all []pending
	own []int64 // the setting of the cover that each cut belongs to
	rng *rand.Rand
}

// visit is one setting of the fence and the cuts made with it, in order.
type visit struct {
	fence int64
	cuts  []int
}

func (s *sequencer) list(sheets []int, n *node, kerf int64) int {
	if n == nil || n.axis == "" {
		return -1
	}
	side := n.w
	if n.axis == Y {
		side = n.h
	}
	at := len(s.all)
	s.all = append(s.all, pending{sheets: sheets, n: n, fence: [2]int64{n.at, side - n.at - kerf}})
	a, b := s.list(sheets, n.child[0], kerf), s.list(sheets, n.child[1], kerf)
	s.all[at].child = [2]int{a, b}
	return at
}

// settings are the fences a cut can be made with.
func (p *pending) settings() []int64 {
	if p.fence[1] <= 0 || p.fence[0] == p.fence[1] {
		return p.fence[:1]
	}
	return p.fence[:]
}

// cover finds few settings that serve every cut, the busiest first, and gives
// each cut one of them.
func (s *sequencer) cover() {
	s.own = make([]int64, len(s.all))
	count := map[int64]int{}
	for i := range s.all {
		for _, f := range s.all[i].settings() {
			count[f]++
		}
	}
	open := make([]int, len(s.all))
	for i := range open {
		open[i] = i
	}
	for len(open) > 0 {
		best := int64(-1)
		for f, n := range count {
			if best < 0 || n > count[best] || n == count[best] && f > best {
				best = f
			}
		}
		open = slices.DeleteFunc(open, func(i int) bool {
			fences := s.all[i].settings()
			if !slices.Contains(fences, best) {
				return false
			}
			s.own[i] = best
			for _, f := range fences {
				count[f]--
			}
			return true
		})
	}
}

// run goes through all cuts once; the first run is the plain rule, later ones
// vary it by chance.
func (s *sequencer) run(n int) []visit {
	ready := make([]int, 0, len(s.all))
	left := map[int64]int{}
	for i := range s.all {
		left[s.own[i]]++
		if s.all[i].first {
			ready = append(ready, i)
		}
	}
	noise := 0.0
	if n > 0 {
		noise = 1.5 * s.rng.Float64()
	}
	var out []visit
	for len(ready) > 0 {
		best, bestScore := visit{}, math.Inf(-1)
		for _, f := range s.offered(ready) {
			v := visit{f, s.made(ready, f)}
			own := 0
			for _, i := range v.cuts {
				if s.own[i] == f {
					own++
				}
			}
			score := math.Log(float64(len(v.cuts))) + noise*s.rng.NormFloat64()
			switch {
			case left[f] == 0: // not in the cover: its cuts have a setting of their own
				score -= 100
			case own == left[f]:
				score += 10 // it need not be set again
			default:
				score -= math.Log(float64(left[f] - own + 1))
			}
			if score > bestScore {
				best, bestScore = v, score
			}
		}
		for _, i := range best.cuts {
			left[s.own[i]]--
		}
		ready = s.after(ready, best.cuts)
		out = append(out, best)
	}
	return out
}

// offered lists the settings that serve a cut that is ready, in a fixed order.
func (s *sequencer) offered(ready []int) (out []int64) {
	for _, i := range ready {
		out = append(out, s.all[i].settings()...)
	}
	slices.SortFunc(out, func(a, b int64) int { return cmp.Compare(b, a) }) // large pieces are cut down early
	return slices.Compact(out)
}

// made lists the cuts that a setting serves, those included that come up on the
// way.
func (s *sequencer) made(ready []int, fence int64) (out []int) {
	queue := ready
	for len(queue) > 0 {
		var next []int
		for _, i := range queue {
			p := &s.all[i]
			if p.fence[0] != fence && p.fence[1] != fence {
				continue
			}
			out = append(out, i)
			for _, c := range p.child {
				if c >= 0 {
					next = append(next, c)
				}
			}
		}
		queue = next
	}
	return out
}

// after is what is ready once cuts have been made.
func (s *sequencer) after(ready, made []int) (out []int) {
	done := map[int]bool{}
	for _, i := range made {
		done[i] = true
	}
	for _, i := range ready {
		if !done[i] {
			out = append(out, i)
		}
	}
	for _, i := range made {
		for _, c := range s.all[i].child {
			if c >= 0 && !done[c] {
				out = append(out, c)
			}
		}
	}
	return out
}

// cuts words the visits, sheet by sheet, naming the pieces.
func (s *sequencer) cuts(visits []visit) (out []Cut) {
	piece := make([][]string, len(s.all)) // by cut and place in its sheets
	for i, p := range s.all {
		piece[i] = make([]string, len(p.sheets))
		if p.first {
			for k, sheet := range p.sheets {
				piece[i][k] = fmt.Sprintf("S%d", sheet)
			}
		}
	}
	names := 0
	for _, v := range visits {
		for _, i := range v.cuts {
			p := &s.all[i]
			for k, sheet := range p.sheets {
				c := Cut{Sheet: sheet, Piece: piece[i][k], Axis: p.n.axis, At: p.n.at, Fence: v.fence}
				for side := range c.Out {
					names++
					c.Out[side] = fmt.Sprintf("P%d", names)
					if next := p.child[side]; next >= 0 {
						piece[next][k] = c.Out[side]
					}
				}
				out = append(out, c)
			}
		}
	}
	return out
}
