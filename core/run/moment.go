package run

import (
	"cmp"
	"maps"
	"math"
	"slices"

	"chromaqua/core/drying"
	"chromaqua/core/order"
)

// Act is what the maker does now.
type Act uint8

// The acts.
const (
	Do       Act = iota // the step itself
	Look                // see whether what it waits for has come about
	Wait                // until then
	Warm                // dry a coat with the heat tool
	TooLate             // what it was to go into is wet no more
	Rest                // paused
	Finished            // nothing is left
)

// A Moment is what the bench shows.
type Moment struct {
	Act   Act
	Op    int // the step at hand; of what is warmed when Finished is not the act
	On    bool
	Since order.Seconds // it was begun, with On
	*Check
	Heat    *order.Pass
	Full    bool          // the rack holds as many wet cards as it can: one has to dry first
	Best    order.Seconds // when it likely can begin, s since the run began
	Next    []order.Placed
	Finish  order.Seconds
	Drying  []Drying
	Keep    []int         // operations whose places must not be touched now, for what is wet beside
	Change  order.Seconds // until the picture changes by itself; 0 never
	Done    int
	Of      int
	HandsOn order.Seconds // left
}

// Drying is a coat that dries.
type Drying struct {
	Op    int
	Stage drying.Stage
	Shine order.Seconds // until its gloss has gone, 0 when it has
	Next  order.Seconds // until it has come to its next goal
	Touch order.Seconds // until it is touch-dry, 0 when it is
	Bone  order.Seconds
	Share float64 // of the way to touch-dry, 0 to 1
	Sure  bool    // it was looked at
	Lies  bool    // nobody attends to it: it rests or sets until Touch
}

// nextShown is how many steps are shown ahead.
const nextShown = 3

// Moment is what there is to do, in an order.
func (s *State) Moment(by *order.Replanned) *Moment {
	m := &Moment{Of: len(s.Ops), Drying: s.onTop(s.drying()), Finish: by.Makespan}
	for _, c := range s.coats {
		if c != nil {
			m.Done++
		}
	}
	var left []order.Placed
	for _, p := range by.Ops {
		if s.coats[p.Op] == nil && !(s.isOn && s.doing == p.Op) {
			left = append(left, p)
			m.HandsOn += map[bool]order.Seconds{true: p.End - p.Start}[s.In.Ops[p.Op].Attended]
		}
	}
	defer s.changes(m)
	switch {
	case s.Ended, len(left) == 0 && !s.isOn:
		m.Act = Finished
		return m
	case s.isOn:
		m.Op, m.On, m.Since, m.Check = s.doing, true, s.since, s.Check(s.doing)
		m.Next = left[:min(nextShown, len(left))]
	default:
		at := max(0, slices.IndexFunc(left, func(p order.Placed) bool { return len(s.Check(p.Op).Before) == 0 }))
		first := left[at]
		left = slices.Delete(left, at, at+1)
		m.Op, m.Check, m.Best = first.Op, s.Check(first.Op), first.Start
		m.Next = left[:min(nextShown, len(left))]
		if h := s.warmNext(by, first); h != nil {
			m.Heat = h
		}
	}
	m.Keep = s.keepOff()
	switch {
	case s.Paused:
		m.Act = Rest
	case m.On:
	case m.Heat != nil:
		m.Act, m.Op = Warm, m.Heat.Op
	case s.full(m) > 0:
		m.Act, m.Full, m.In = Wait, true, max(m.In, s.full(m))
	case m.Met() == NotYet && len(m.Late) > 0:
		m.Act = TooLate
	case m.Met() == NotYet:
		m.Act = Wait
	case m.Met() == Likely:
		m.Act = Look
	}
	return m
}

// full is how long it likely takes until there is room for another wet card, when the step
// at hand is on a card that is not in the rack.
func (s *State) full(m *Moment) order.Seconds {
	if len(s.Cards)-1 <= s.In.Rack {
		return 0
	}
	dry := map[int]order.Seconds{} // by card that is wet and not at hand
	for _, c := range s.coats {
		if c == nil || c.skipped || s.need(c.op, touch) == 0 || s.Ops[c.op].Card == s.Ops[m.Op].Card {
			continue
		}
		if left, _ := s.left(c, touch); left > 0 {
			dry[s.Ops[c.op].Card] = max(dry[s.Ops[c.op].Card], left)
		}
	}
	if len(dry) <= s.In.Rack {
		return 0
	}
	return slices.Sorted(maps.Values(dry))[len(dry)-s.In.Rack-1]
}

// warmNext is the pass of the heat tool that comes before the next step.
func (s *State) warmNext(by *order.Replanned, next order.Placed) *order.Pass {
	for i, h := range by.Heat {
		if h.End <= next.Start {
			goal := touch
			if h.For == order.BoneDry {
				goal = bone
			}
			if c := s.coats[h.Op]; c != nil && h.End > s.Now && h.For != order.WholeCard {
				if left, _ := s.left(c, goal); left > 0 {
					return &by.Heat[i]
				}
			}
		}
	}
	return nil
}

// drying lists what dries, what is touch-dry first first.
func (s *State) drying() (out []Drying) {
	for _, c := range s.coats {
		if c == nil || c.skipped || c.into {
			continue
		}
		if !s.In.Ops[c.op].Attended && c.end > s.Now {
			out = append(out, Drying{Op: c.op, Touch: c.end - s.Now, Next: c.end - s.Now, Stage: drying.Damp, Lies: true})
			continue
		}
		if s.need(c.op, touch) == 0 {
			continue
		}
		d := Drying{Op: c.op, Stage: s.stage(c), Shine: s.shines(c)}
		var met Met
		d.Touch, _ = s.left(c, touch)
		if d.Bone, met = s.left(c, bone); d.Bone == 0 && (met == Surely || d.Touch == 0) {
			continue // what is likely bone dry is asked for when it matters
		}
		d.Sure = c.met[touch] || c.met[dull] && d.Touch > 0
		f, _ := s.factor(c)
		d.Share = min(1, s.clock(c, s.Now)/max(1, s.need(c.op, touch)*f))
		for _, next := range [goals]order.Seconds{s.leftTo(c, dull), d.Touch, d.Bone} {
			if next > 0 {
				d.Next = next
				break
			}
		}
		out = append(out, d)
	}
	slices.SortStableFunc(out, func(a, b Drying) int {
		return cmp.Or(cmp.Compare(a.Touch, b.Touch), cmp.Compare(a.Bone, b.Bone))
	})
	return out
}

// onTop leaves out coats that a later one lies all over and outlasts: their place is as wet
// as that is, and is told of once.
func (s *State) onTop(all []Drying) []Drying {
	over := func(d, by Drying) bool {
		below, above := s.coats[d.Op], s.coats[by.Op]
		return !by.Lies && above.start >= below.end && by.Touch >= d.Touch && by.Bone >= d.Bone && s.Ops[d.Op].Card == s.Ops[by.Op].Card && s.onPiece(d.Op, by.Op) &&
			!slices.ContainsFunc(s.Ops[d.Op].Step.Cells, func(id int) bool { return !slices.Contains(s.Ops[by.Op].Step.Cells, id) })
	}
	return slices.DeleteFunc(slices.Clone(all), func(d Drying) bool {
		return !d.Lies && len(s.Ops[d.Op].Step.Cells) > 0 && slices.ContainsFunc(all, func(by Drying) bool { return by.Op != d.Op && over(d, by) })
	})
}

// shines is for how long a coat likely keeps its gloss.
func (s *State) shines(c *coat) order.Seconds {
	f, _ := s.factor(c)
	return max(0, order.Seconds(math.Ceil((float64(s.Ops[c.op].gloss)*f-s.clock(c, s.Now))/s.speed[c.op])))
}

func (s *State) leftTo(c *coat, goal int) order.Seconds {
	left, _ := s.left(c, goal)
	return left
}

// keepOff lists the operations that must not be begun for what is wet on or beside their
// places.
func (s *State) keepOff() (out []int) {
	for op := range s.Ops {
		if s.coats[op] != nil || len(s.Ops[op].Step.Cells) == 0 {
			continue
		}
		c := s.Check(op)
		for _, n := range c.Needs {
			if n.Met == NotYet && !n.Wet {
				out = append(out, op)
				break
			}
		}
	}
	return out
}

// changes fills in when the picture changes by itself.
func (s *State) changes(m *Moment) {
	sooner := func(t order.Seconds) {
		if t > 0 && (m.Change == 0 || t < m.Change) {
			m.Change = t
		}
	}
	for _, d := range m.Drying {
		sooner(d.Shine)
		sooner(d.Next)
	}
	if m.Check != nil {
		sooner(m.In)
		for _, n := range m.Needs {
			sooner(n.In)
		}
	}
}

// Nearest is the coat that is taken to be meant by who says that something is dry now: what
// is asked for, else the one that is to be dry first.
func (m *Moment) Nearest() (op int, goal Goal, ok bool) {
	if m.Check != nil && m.Act != Rest {
		for _, n := range append(m.Ask(), m.Needs...) {
			return n.On, n.Goal, true
		}
	}
	for _, d := range m.Drying {
		switch {
		case d.Lies:
		case d.Touch > 0 || !d.Sure:
			return d.Op, Touch, true
		case d.Bone > 0:
			return d.Op, Bone, true
		}
	}
	return 0, "", false
}
