package run

import (
	"math"
	"time"

	"chromaqua/core/drying"
	"chromaqua/core/learned"
	"chromaqua/core/order"
)

// State is where the work stands at a moment.
type State struct {
	*Work              // with what repairs have added
	Zero     time.Time // when the run began
	At       time.Time
	Now      order.Seconds // since then
	Paused   bool
	Ended    bool
	Room     drying.Room   // as last read
	RoomRead bool          // whether it was read at all
	Lost     []Event       // what was done, and is in the plan no more
	Notes    []Event       // and pictures
	Repairs  []Event       // what went wrong, and what was done about it
	Dropped  map[int]bool  // cards that are spoiled
	Seen     learned.Book  // what was learned in this run
	Finish   order.Seconds // of the last event

	doing  int // operation that was begun expressly
	since  order.Seconds
	isOn   bool
	free   order.Seconds // when the maker was last at hand
	last   *order.Op     // that the maker did, nil at first
	brush  int           // the colour in it, 0 for none
	broken bool          // there was a pause since
	coats  []*coat       // by operation, nil for what is not done
	speed  []float64     // how fast each coat's clock runs in the room as it is
	air    map[string]learned.Belief
	pace   map[string]learned.Belief
}

// goals by number, in the order in which they come about.
const (
	dull = iota
	touch
	bone
	goals
)

var goalOf = map[Goal]int{Dull: dull, Touch: touch, Bone: bone}

// A coat is what an operation has left, as far as events tell. Its clock counts the
// seconds that were planned for it: it is touch-dry once that has run for as long as
// planned, times what the paper and the wash turn out to need.
type coat struct {
	op         int
	start, end order.Seconds
	skipped    bool
	into       bool // another went into it, which has its times now

	from order.Seconds // since when its clock runs as it does
	ran  float64       // by then

	met    [goals]bool    // it was looked at, and had come to that,
	metAt  [goals]float64 // when its clock had run so far;
	not    [goals]float64 // or had not yet
	heated [goals]float64 // s under the heat tool towards that
	warm   [goals]bool    // it was heated until it looked like that, and not felt yet
	until  order.Seconds  // when it was last heated
}

// Of is the state of the work after some events, at a moment. What was seen on other
// evenings is in the book.
func (w *Work) Of(events []Event, at time.Time, before learned.Book) *State {
	list := standing(events)
	s := &State{Work: w.with(list), Dropped: map[int]bool{}, Seen: learned.Book{}, Room: drying.StillRoom, At: at}
	if len(list) > 0 {
		s.Zero = list[0].At
		if last := list[len(list)-1].At; s.At.Before(last) {
			s.At = last
		}
	} else {
		s.Zero = at
	}
	s.Now = s.seconds(s.At)
	s.coats, s.speed = make([]*coat, len(s.Ops)), make([]float64, len(s.Ops))
	for i := range s.speed {
		s.speed[i] = 1
	}
	for i := range list {
		s.take(&list[i])
	}
	s.believe(before)
	return s
}

func (s *State) seconds(t time.Time) order.Seconds {
	return order.Seconds(min(float64(order.MaxSeconds), t.Sub(s.Zero).Seconds()))
}

// take takes an event into account.
func (s *State) take(e *Event) {
	t := s.seconds(e.At)
	s.Finish = t
	switch e.Kind {
	case Began:
		s.free = t
	case RoomRead:
		s.read(*e.Room, t)
		return // the sensor's, not the maker's
	case Paused:
		s.Paused, s.broken = true, true
	case Resumed:
		s.Paused = false
	case Noted, Pictured, Turned, Went:
		s.Notes = append(s.Notes, *e)
		return
	case Ended:
		s.Ended = true
	case Spoiled:
		s.Dropped[e.Card] = true
		for i := range s.Ops {
			if s.Ops[i].Card == e.Card && s.coats[i] == nil {
				s.skip(i, t)
			}
		}
	case Follows:
	default:
		s.onStep(e, t)
	}
	s.free = t
}

// onStep takes an event of one step into account.
func (s *State) onStep(e *Event, t order.Seconds) {
	op, ok := s.Find(e.Card, e.Step)
	if !ok {
		if e.Kind == Done {
			s.Lost = append(s.Lost, *e)
		}
		return
	}
	switch e.Kind {
	case Started:
		if s.coats[op] == nil {
			s.doing, s.since, s.isOn = op, t, true
		}
	case Done:
		s.done(op, t)
	case Skipped:
		if s.coats[op] == nil {
			s.skip(op, t)
			s.unmask(op, t)
		}
	case Repaired:
		s.Repairs = append(s.Repairs, *e)
		s.repair(op, e.Fix, t)
	case DryNow, StillWet, Heated:
		if c := s.coats[op]; c != nil && !c.skipped {
			s.look(c, e, t)
		}
	}
}

// skip counts an operation as done that left nothing.
func (s *State) skip(op int, t order.Seconds) {
	s.coats[op] = &coat{op: op, start: t, end: t, skipped: true}
	if s.isOn && s.doing == op {
		s.isOn = false
	}
}

// Ahead are the operations of a card that may have been done before the run began, and of
// which nothing was told yet.
func (s *State) Ahead(card int) (out []int) {
	for op := range s.Ops {
		if o := &s.Ops[op]; o.Card == card && o.Step.Ahead && s.coats[op] == nil {
			out = append(out, op)
		}
	}
	return out
}

// unmask skips the taking off of a mask that was not laid.
func (s *State) unmask(op int, t order.Seconds) {
	if o := &s.Ops[op]; s.In.Ops[op].Kind == order.Mask {
		if on, off := s.Plan(op).MaskSteps(string(o.Step.Deed)); on == o.Step.ID && off >= 0 {
			if x := op + off - on; s.coats[x] == nil {
				s.skip(x, t)
			}
		}
	}
}

// done takes a step as done that ended at t. What nobody attends to begins then; told
// again, it has ended.
func (s *State) done(op int, t order.Seconds) {
	o := &s.In.Ops[op]
	if c := s.coats[op]; c != nil {
		if !o.Attended && !c.skipped && c.end > t {
			c.end, c.from = t, t
		}
		return
	}
	c := &coat{op: op, start: t, end: t, from: t}
	if o.Attended {
		began := min(t, max(s.free+s.Setup(op), s.ready(op)))
		c.start = max(began, t-paceWithin*o.Dur) // who was away did not do it all the while
		if s.isOn && s.doing == op {
			began, c.start = s.since, s.since
		}
		s.pacing(op, t-began)
		if s.last = o; o.Color != 0 {
			s.brush = o.Color
		}
	} else {
		c.end = t + o.Dur
		c.from = c.end
	}
	for _, base := range s.Ops[op].Step.IntoWet {
		if b := s.coats[op-s.Ops[op].Step.ID+base]; b != nil && s.Ops[op].Again == nil {
			b.into = true
		}
	}
	s.coats[op], s.isOn, s.broken = c, false, false
}

// ready is when the last of what an operation waits for was dry, by the plan.
func (s *State) ready(op int) (t order.Seconds) {
	for _, a := range s.into[op] {
		c := s.coats[a.From]
		if c == nil || c.skipped {
			continue
		}
		need := map[order.ArcType]order.Seconds{order.Dry: s.In.Ops[a.From].Dry, order.Bone: s.In.Ops[a.From].Bone}[a.Type]
		if c.until == 0 && !c.met[touch] {
			t = max(t, c.end+need)
		}
	}
	return t
}

// Setup is how long the maker is about an operation before it begins: takes up its card,
// rinses the brush. The order counts that apart, so that nobody's pace is learned from it.
func (s *State) Setup(op int) (t order.Seconds) {
	o := &s.In.Ops[op]
	if s.last != nil && s.last.Job != o.Job {
		t = s.In.Swap
	}
	if o.Color != 0 && o.Color != s.brush {
		t += s.In.Rinse
	}
	return t
}

// A step that took a quarter to four times as long as planned tells something of the
// maker's pace; one that was broken off, or that nobody noticed, does not.
const paceWithin = 4

// pacing learns from how long a step took.
func (s *State) pacing(op int, took order.Seconds) {
	planned, o := s.In.Ops[op].Dur, &s.Ops[op]
	if s.broken || planned == 0 || took*paceWithin < planned || took > paceWithin*planned {
		return
	}
	estimate := time.Duration(float64(planned.Duration()) / o.pace.By)
	s.Seen.Add(learned.Pace, s.Plan(op).Pace(o.Step), learned.Just(took.Duration(), estimate))
}

// clock is how far the clock of a coat has run at t.
func (s *State) clock(c *coat, t order.Seconds) float64 {
	return c.ran + float64(max(0, t-c.from))*s.speed[c.op]
}

// read lets every coat go on drying in another room.
func (s *State) read(r drying.Room, t order.Seconds) {
	for _, c := range s.coats {
		if c != nil && t > c.from {
			c.ran, c.from = s.clock(c, t), t
		}
	}
	for i := range s.Ops {
		if o := &s.Ops[i]; o.washed {
			s.speed[i] = r.Rate(o.largest) / o.room.Rate(o.largest)
		}
	}
	s.Room, s.RoomRead = r, true
}

// need is how long the clock of an operation's coat runs until it has come to a goal, as
// planned.
func (s *State) need(op, goal int) float64 {
	switch goal {
	case dull:
		return float64(s.Ops[op].open)
	case touch:
		return float64(s.In.Ops[op].Dry)
	}
	return float64(s.In.Ops[op].Bone)
}

// soonest is by how much sooner than it was told something may have come about that
// nobody had asked for: the maker saw it, but not at once.
const soonest = 0.65

// look takes what was seen of a coat into account, and learns from it.
func (s *State) look(c *coat, e *Event, t order.Seconds) {
	g, ran := goalOf[e.Goal], s.clock(c, t)
	switch e.Kind {
	case StillWet:
		c.not[g] = max(c.not[g], ran)
		for k := g; k < goals; k++ {
			if c.warm[k] {
				c.warm[k] = false
				s.heatSeen(c, k, true)
			}
			c.met[k] = false
		}
		if c.heated == [goals]float64{} {
			s.learn(c, g, learned.Beyond(seconds(ran), s.bare(c.op, g)))
		}
	case DryNow:
		if c.met[g] {
			return
		}
		if c.warm[g] {
			s.heatSeen(c, g, false)
		} else if c.heated == [goals]float64{} {
			s.learn(c, g, s.dryBy(c, g, ran))
		}
		for k := 0; k <= g; k++ {
			if !c.met[k] {
				c.met[k], c.metAt[k], c.warm[k] = true, ran, false
			}
		}
	case Heated:
		for k := 0; k <= g; k++ {
			c.heated[k] += e.Long
			c.warm[k] = !c.met[k]
		}
		c.until = t
	}
}

// dryBy is what it says that a coat had come to a goal when its clock had run so far.
func (s *State) dryBy(c *coat, g int, ran float64) learned.Seen {
	bare := s.bare(c.op, g)
	switch {
	case c.not[g] > 0 && c.not[g] < ran:
		return learned.Between(seconds(c.not[g]), seconds(ran), bare)
	case ran < s.need(c.op, g):
		return learned.Between(seconds(soonest*ran), seconds(ran), bare)
	}
	return learned.By(seconds(ran), bare)
}

func seconds(s float64) time.Duration { return time.Duration(s * float64(time.Second)) }

// bare is how long a coat's clock would run until a goal had nothing been learned.
func (s *State) bare(op, goal int) time.Duration {
	return seconds(s.need(op, goal) / s.Ops[op].air.By)
}

// learn learns how a paper dries. Of bone dry nothing is learned: no finger feels it.
func (s *State) learn(c *coat, goal int, seen learned.Seen) {
	if o := &s.Ops[c.op]; o.washed && goal != bone && s.need(c.op, goal) > 0 && !seen.Slip() {
		s.Seen.Add(learned.Air, o.paper, seen)
	}
}

// heatSeen learns from a pass of the heat tool that was long enough, or too short.
func (s *State) heatSeen(c *coat, g int, short bool) {
	o, in := &s.Ops[c.op], &s.In.Ops[c.op]
	need := in.HeatDry
	if g == bone {
		need = in.HeatBone
	}
	if !o.washed || need == 0 || c.heated[g] == 0 || g == dull {
		return
	}
	bare := seconds(float64(need) / o.heat.By)
	if short {
		s.Seen.Add(learned.Heat, o.paper, learned.Beyond(seconds(c.heated[g]), bare))
	} else {
		s.Seen.Add(learned.Heat, o.paper, learned.By(seconds(c.heated[g]), bare))
	}
}

// believe sums up what is known by now of papers and pace.
func (s *State) believe(before learned.Book) {
	s.air, s.pace = map[string]learned.Belief{}, map[string]learned.Belief{}
	all := func(k learned.Kind, name string) learned.Belief {
		return learned.Of(k, append(append([]learned.Seen(nil), before[k][name]...), s.Seen[k][name]...))
	}
	for i := range s.Ops {
		o := &s.Ops[i]
		if _, known := s.air[o.paper]; !known && o.washed {
			s.air[o.paper] = all(learned.Air, o.paper)
		}
		if pace := s.Plan(i).Pace(o.Step); s.In.Ops[i].Attended {
			if _, known := s.pace[pace]; !known {
				s.pace[pace] = all(learned.Pace, pace)
			}
		}
	}
}

// inkSpread is how surely ink, fluid and glue dry as they are said to: an estimate.
const inkSpread = 0.15

// usual is how much longer than planned coats of an operation take, and how surely.
func (s *State) usual(op int) (factor, spread float64) {
	if o := &s.Ops[op]; o.washed {
		b := s.air[o.paper]
		return b.Factor() / o.air.By, b.Single()
	}
	return 1, inkSpread
}

// Of one coat that was looked at.
const (
	felt      = 0.1 // the spread of what comes after
	waitAgain = 1.12
)

// factor is how much longer than planned a coat takes, and how surely, with all that was
// seen of it.
func (s *State) factor(c *coat) (factor, spread float64) {
	f, spread := s.usual(c.op)
	lo, hi := f*math.Exp(-sureSpreads*spread), f*math.Exp(sureSpreads*spread)
	for g := range goals {
		if need := s.need(c.op, g); c.met[g] && need > 0 && c.heated[g] == 0 {
			f, spread = min(max(c.metAt[g]/need, lo), hi), felt
		}
	}
	for g := range goals {
		if need := s.need(c.op, g); c.not[g] > 0 && need > 0 && f < waitAgain*c.not[g]/need {
			f = waitAgain * c.not[g] / need
		}
	}
	return f, spread
}
