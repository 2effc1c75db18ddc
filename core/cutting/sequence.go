package cutting

import (
	"fmt"
	"slices"
)

// pending is a cut that has not been made; piece is "" until the cut that makes
// its piece has been.
type pending struct {
	sheet int
	n     *node
	piece string
	child [2]*pending
}

// settings are the two fences a cut can be made with: measured from either side
// of the piece.
func (p *pending) settings(kerf int64) [2]int64 {
	side := p.n.w
	if p.n.axis == Y {
		side = p.n.h
	}
	return [2]int64{p.n.at, side - p.n.at - kerf}
}

// sequence orders the cuts of all sheets so that the trimmer's fence is set
// seldom: the setting that serves most of the cuts at hand comes next, and one
// that no later cut needs again before one that does.
func sequence(trees []*node, kerf int64) []Cut {
	var all []*pending
	var list func(sheet int, n *node) *pending
	list = func(sheet int, n *node) *pending {
		if n == nil || n.axis == "" {
			return nil
		}
		p := &pending{sheet: sheet, n: n}
		all = append(all, p)
		p.child[0], p.child[1] = list(sheet, n.child[0]), list(sheet, n.child[1])
		return p
	}
	for i, t := range trees {
		if p := list(i, t); p != nil {
			p.piece = fmt.Sprintf("S%d", i)
		}
	}
	s := &sequencer{kerf: kerf, later: map[int64]int{}}
	for _, p := range all {
		for _, f := range distinct(p.settings(kerf)) {
			s.later[f]++
		}
		if p.piece != "" {
			s.ready = append(s.ready, p)
		}
	}
	for len(s.ready) > 0 {
		s.make(s.next())
	}
	return s.cuts
}

func distinct(f [2]int64) []int64 {
	if f[0] == f[1] {
		return f[:1]
	}
	return f[:]
}

type sequencer struct {
	kerf  int64
	ready []*pending
	later map[int64]int // cuts, made or not ready yet, that a setting serves
	cuts  []Cut
	names int
}

// next chooses the setting.
func (s *sequencer) next() int64 {
	now := map[int64]int{}
	var seen []int64 // in a fixed order
	for _, p := range s.ready {
		for _, f := range distinct(p.settings(s.kerf)) {
			if f <= 0 {
				continue
			}
			if now[f]++; now[f] == 1 {
				seen = append(seen, f)
			}
		}
	}
	return slices.MaxFunc(seen, func(a, b int64) int {
		doneA, doneB := now[a] == s.later[a], now[b] == s.later[b]
		switch {
		case doneA != doneB && doneA:
			return 1
		case doneA != doneB:
			return -1
		case now[a] != now[b]:
			return now[a] - now[b]
		}
		return int(max(-1, min(1, a-b))) // large settings first: big pieces are cut down early
	})
}

// make makes every cut that a setting serves, those included that come up on
// the way.
func (s *sequencer) make(fence int64) {
	for i := 0; i < len(s.ready); {
		p := s.ready[i]
		f := p.settings(s.kerf)
		if f[0] != fence && f[1] != fence {
			i++
			continue
		}
		s.ready = slices.Delete(s.ready, i, i+1)
		for _, v := range distinct(f) {
			s.later[v]--
		}
		c := Cut{Sheet: p.sheet, Piece: p.piece, Axis: p.n.axis, At: p.n.at, Fence: fence}
		for k := range c.Out {
			s.names++
			c.Out[k] = fmt.Sprintf("P%d", s.names)
			if next := p.child[k]; next != nil {
				next.piece = c.Out[k]
				s.ready = append(s.ready, next)
			}
		}
		s.cuts = append(s.cuts, c)
	}
}
