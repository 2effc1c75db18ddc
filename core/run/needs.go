package run

import (
	"math"
	"slices"

	"chromaqua/core/drying"
	"chromaqua/core/order"
)

// sureSpreads is how many spreads beyond the likely time something is sure without
// having been looked at.
const sureSpreads = 2

// Met is how surely something has come about.
type Met uint8

// The degrees.
const (
	NotYet Met = iota
	Likely     // as far as is known: look before you go on
	Surely     // it was looked at, or is long over
)

// A Need is what an operation asks of a coat.
type Need struct {
	On   int  // the operation that laid it
	Goal Goal // that it must have come to,
	Wet  bool // or must not have come to yet
	Met  Met
	In   order.Seconds // until it likely comes about: the goal, or with Wet its end
}

// A Check is what an operation asks before it may begin.
type Check struct {
	Needs  []Need
	Before []int // what has to be done first
	Late   []int // coats it was to go into, and that are wet no more
	In     order.Seconds
}

// Met is how surely all needs are met.
func (c *Check) Met() Met {
	least := Surely
	if len(c.Before) > 0 || c.In > 0 {
		return NotYet
	}
	for _, n := range c.Needs {
		least = min(least, n.Met)
	}
	return least
}

// Ask lists the needs that had better be looked at, that which comes about last first.
func (c *Check) Ask() (out []Need) {
	for _, n := range c.Needs {
		if n.Met == Likely {
			out = append(out, n)
		}
	}
	return out
}

// Check judges whether an operation may begin now.
func (s *State) Check(op int) *Check {
	c := &Check{}
	for _, a := range s.into[op] {
		base := s.coats[a.From]
		if base == nil {
			c.Before = append(c.Before, a.From)
			continue
		}
		c.In = max(c.In, base.end+a.Min-s.Now)
		switch a.Type {
		case order.Dry:
			c.add(s.dryness(base, touch))
		case order.Bone:
			c.add(s.dryness(base, bone))
		case order.Wet:
			s.window(c, base, a.Clock, a.Max)
		}
	}
	for _, j := range s.joins[op] {
		if base := s.coats[j.A]; j.B == op && base != nil {
			s.window(c, base, 0, j.Max)
		}
		if base := s.coats[j.B]; j.A == op && base != nil {
			most := j.Max
			if j.Back > 0 {
				most = j.Back
			}
			s.window(c, base, 0, most)
		}
	}
	for _, other := range s.near[op] {
		if base := s.coats[other]; base != nil && s.need(other, touch) > 0 {
			c.add(s.dryness(base, touch))
		}
	}
	if s.isOn && s.doing != op && s.In.Ops[op].Attended {
		c.In = max(c.In, 1)
	}
	slices.SortStableFunc(c.Needs, func(a, b Need) int { return int(b.In - a.In) })
	for _, n := range c.Needs {
		if n.Met == NotYet {
			c.In = max(c.In, n.In)
		}
	}
	return c
}

// add adds a need that is not settled.
func (c *Check) add(n Need) {
	if n.Met == Surely && !n.Wet {
		return
	}
	for i, o := range c.Needs {
		if o.On == n.On && o.Wet == n.Wet {
			if goalOf[n.Goal] > goalOf[o.Goal] {
				c.Needs[i] = n
			}
			return
		}
	}
	c.Needs = append(c.Needs, n)
}

// dryness is the need that a coat has come to a goal.
func (s *State) dryness(c *coat, goal int) Need {
	left, met := s.left(c, goal)
	n := Need{On: c.op, Goal: [...]Goal{Dull, Touch, Bone}[goal], In: left, Met: met}
	if left > 0 {
		n.Met = NotYet
	}
	return n
}

// left is how long it likely takes until a coat has come to a goal, and how surely it
// has.
func (s *State) left(c *coat, goal int) (order.Seconds, Met) {
	need := s.need(c.op, goal)
	if c.skipped || need == 0 {
		return max(0, c.end-s.Now), Surely
	}
	for g := goal; g < goals; g++ {
		if c.met[g] {
			return 0, Surely
		}
	}
	if c.warm[goal] {
		return 0, Likely
	}
	f, spread := s.factor(c)
	ran, speed := s.clock(c, s.Now), s.speed[c.op]
	rest := (need*f - ran) / speed
	switch {
	case goal == bone && c.met[touch]: // from there on
		rest = min(rest, ((need-s.need(c.op, touch))*f-(ran-c.metAt[touch]))/speed)
	case goal == bone && c.warm[touch]:
		rest = min(rest, (need-s.need(c.op, touch))*f/speed-float64(s.Now-c.until))
	}
	rest += float64(max(0, c.end-s.Now))
	switch {
	case rest > 0:
		return order.Seconds(math.Ceil(rest)), NotYet
	case ran >= need*f*math.Exp(sureSpreads*spread):
		return 0, Surely
	}
	return 0, Likely
}

// window is the need that a coat is still wet: its clock has run for at least one time
// and at most another, as planned. Where it has run too far, the coat has to be touch-dry.
func (s *State) window(c *Check, base *coat, least, most order.Seconds) {
	goal := dull
	if most > s.Ops[base.op].open {
		goal = touch
	}
	if base.skipped {
		c.Late = append(c.Late, base.op)
		return
	}
	f, spread := s.factor(base)
	ran, speed := s.clock(base, s.Now), s.speed[base.op]
	c.In = max(c.In, order.Seconds(math.Ceil((float64(least)*f-ran)/speed)))
	if base.met[goal] || base.warm[goal] || ran > float64(most)*f {
		c.Late = append(c.Late, base.op)
		c.add(s.dryness(base, touch))
		return
	}
	n := Need{On: base.op, Goal: [...]Goal{Dull, Touch, Bone}[goal], Wet: true, Met: Likely, In: order.Seconds((float64(most)*f - ran) / speed)}
	if ran <= float64(most)*f*math.Exp(-sureSpreads*spread) || base.not[goal] > 0 && ran-base.not[goal] <= stillShines*speed {
		n.Met = Surely
	}
	c.add(n)
}

// stillShines is how long a look that it still shines holds, s.
const stillShines = 25

// Stage is how wet a coat is.
func (s *State) stage(c *coat) drying.Stage {
	f, _ := s.factor(c)
	ran := s.clock(c, s.Now)
	is := func(g int) bool { left, _ := s.left(c, g); return left == 0 }
	switch o := &s.Ops[c.op]; {
	case is(bone):
		return drying.BoneDry
	case is(touch):
		return drying.TouchDry
	case is(dull):
		return drying.Damp
	case ran >= float64(o.gloss)*f:
		return drying.Sheen
	case o.Step.Water > 110:
		return drying.Puddle
	}
	return drying.Gloss
}
