package run_test

import (
	"context"
	"fmt"
	"maps"
	"math"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/learned"
	"chromaqua/core/order"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest/jobs"
	"chromaqua/core/run"
	"chromaqua/core/steps"
)

// evening is when runs of the tests begin.
var evening = time.Date(2026, 11, 28, 18, 0, 0, 0, time.UTC)

// jobPlan compiles a job of the collection.
func jobPlan(t testing.TB, number int, dry card.Drying) *steps.Plan {
	for _, j := range jobs.All() {
		if j.Number != number {
			continue
		}
		s := j.Make()
		s.Card.Drying = dry
		pieces, err := s.Pieces(context.Background())
		require.NoError(t, err)
		p, err := steps.CompileAll(pieces, s.Card, steps.UsualBench())
		require.NoError(t, err)
		return p
	}
	t.Fatalf("no job %d", number)
	return nil
}

func workOf(t testing.TB, plans ...*steps.Plan) *run.Work {
	var cards []run.Card
	for i, p := range plans {
		cards = append(cards, run.Card{Name: fmt.Sprint("card ", i+1), Plan: p})
	}
	w, err := run.NewWork(cards, 11)
	require.NoError(t, err)
	return w
}

// A film is a coat as it really is. It knows nothing of clocks and beliefs.
type film struct {
	op                int
	end               time.Time
	dull, touch, bone time.Time
	gone              bool // another went into it
}

// A painter is a stand-in for a maker: works at their own pace, on paper that dries as it
// does, looks when asked, answers truly, forgets, telephones and blunders.
type painter struct {
	t      testing.TB
	r      *rand.Rand
	base   *run.Work
	w      *run.Work // with what repairs have added
	now    time.Time
	events []run.Event
	before learned.Book // of other evenings
	films  map[int]*film
	old    *order.Schedule

	slow, noise, pace, heat float64
	asked                   int
	unsafe                  []string
}

func newPainter(t testing.TB, w *run.Work, first *order.Schedule, seed uint64) *painter {
	r := rand.New(rand.NewPCG(seed, 74))
	p := &painter{
		t: t, r: r, base: w, w: w, now: evening, films: map[int]*film{}, old: first,
		slow: math.Exp(math.Log(0.6) + r.Float64()*math.Log(1.7/0.6)), noise: 0.1,
		pace: math.Exp(0.4 * r.NormFloat64()), heat: math.Exp(0.2 * r.NormFloat64()),
	}
	p.tell(run.Event{Kind: run.Began})
	return p
}

func (p *painter) tell(e run.Event) {
	e.Seq, e.At = int64(len(p.events)+1), p.now
	require.NoError(p.t, e.Check())
	p.events = append(p.events, e)
}

func (p *painter) on(kind run.Kind, op int, goal run.Goal) {
	o := &p.w.Ops[op]
	p.tell(run.Event{Kind: kind, Card: o.Card, Step: o.Key, Goal: goal})
}

// wait lets time pass.
func (p *painter) wait(d time.Duration) { p.now = p.now.Add(d) }

// paint paints a step: its film is as wet as the step says and dries as fast as it does.
func (p *painter) paint(op int) {
	st, in := p.w.Ops[op].Step, p.w.In.Ops[op]
	took := time.Duration(float64(in.Dur.Duration()) * p.pace * math.Exp(0.2*p.r.NormFloat64()))
	if in.Attended {
		p.wait(took)
	}
	k := math.Exp(p.noise * p.r.NormFloat64())
	if st.Water > 0 {
		k *= p.slow
	}
	f := &film{op: op, end: p.now}
	f.dull = p.now.Add(time.Duration(k * float64(st.Open)))
	f.touch = p.now.Add(time.Duration(k * float64(in.Dry.Duration())))
	f.bone = p.now.Add(time.Duration(k * float64(in.Bone.Duration())))
	if !in.Attended {
		f.end = p.now.Add(in.Dur.Duration())
	}
	base := op - st.ID
	if p.w.Ops[op].Again == nil {
		for _, b := range st.IntoWet {
			if o := p.films[base+b]; o != nil {
				o.gone = true
			}
		}
	}
	p.films[op] = f
	p.on(run.Done, op, "")
}

// see is whether a film has really come to a goal.
func (f *film) see(g run.Goal, now time.Time) bool {
	switch g {
	case run.Dull:
		return !now.Before(f.dull)
	case run.Touch:
		return !now.Before(f.touch)
	}
	return !now.Before(f.bone)
}

// inspect notes what is not safe about a step that the bench says to do now: wet paint
// where it touches, unless it goes into that while it shines.
func (p *painter) inspect(op int) {
	o := &p.w.Ops[op]
	plan := p.w.Plan(op)
	b := plan.Pieces[o.Step.Piece].Board
	for other, f := range p.films {
		q := &p.w.Ops[other]
		if f.gone || q.Card != o.Card || !handled(o.Step, q.Step) || q.Step.Water == 0 || b == nil {
			continue
		}
		switch o.Step.Kind {
		case steps.Untape, steps.Flatten, steps.Press, steps.Trim, steps.CutOut, steps.Mount:
			if !f.see(run.Bone, p.now) {
				p.unsafe = append(p.unsafe, fmt.Sprintf("%s while %s is not bone dry", p.w.Title(op), p.w.Title(other)))
			}
			continue
		case steps.Paint, steps.Wet, steps.Splatter, steps.Detail:
		default:
			continue
		}
		if f.see(run.Touch, p.now) || !meet(b, o.Step.Cells, q.Step.Cells) {
			continue
		}
		into := slices.Contains(o.Step.IntoWet, q.Step.ID) || slices.Contains(o.Step.Joined, q.Step.ID) || slices.Contains(q.Step.Joined, o.Step.ID)
		if !into || f.see(run.Dull, p.now) {
			p.unsafe = append(p.unsafe, fmt.Sprintf("%s: %s is wet (into %v), %v after it", p.w.Title(op), p.w.Title(other), into, p.now.Sub(f.end)))
		}
	}
}

// meet reports whether cells are the same, or touch across a line that is not raised.
func meet(b *panel.Board, x, y []int) bool {
	if b.Overlap(x, y) {
		return true
	}
	px, py := b.PatchesOf(x), b.PatchesOf(y)
	for _, t := range b.PatchContacts() {
		if !t.Raised && (slices.Contains(px, t.A) && slices.Contains(py, t.B) || slices.Contains(px, t.B) && slices.Contains(py, t.A)) {
			return true
		}
	}
	return false
}

// state is where the bench says the work stands.
func (p *painter) state() (*run.State, *run.Moment) {
	s := p.base.Of(p.events, p.now, p.before)
	p.w = s.Work
	next, err := s.GoOn(context.Background(), p.old, 20)
	require.NoError(p.t, err)
	p.old = &next.Schedule
	return s, s.Moment(next)
}

// work does what the bench says until it is finished.
func (p *painter) work() *run.State {
	for range 3000 {
		s, m := p.state()
		switch {
		case m.Act == run.Rest:
			p.wait(20 * time.Minute)
			p.tell(run.Event{Kind: run.Resumed})
			continue
		case m.Act != run.Finished && p.r.IntN(60) == 0:
			p.tell(run.Event{Kind: run.Paused})
			continue
		case p.r.IntN(80) == 0 && len(p.events) < 400:
			p.blunder(s)
			continue
		}
		switch m.Act {
		case run.Finished:
			return s
		case run.Do:
			p.inspect(m.Op)
			p.paint(m.Op)
		case run.Look:
			ask := m.Ask()[0]
			p.wait(5 * time.Second)
			p.answer(ask.On, ask.Goal)
		case run.Warm:
			p.warm(m)
		case run.TooLate:
			if p.r.IntN(3) == 0 {
				p.on(run.Skipped, m.Op, "")
				continue
			}
			p.wait(max(time.Second, m.In.Duration()))
		case run.Wait:
			if p.r.IntN(3) == 0 {
				p.wait(time.Duration(p.r.Float64() * float64(m.In.Duration())))
				if op, goal, ok := m.Nearest(); ok && goal != run.Bone && p.films[op] != nil && p.films[op].see(goal, p.now) {
					p.on(run.DryNow, op, goal)
				}
				continue
			}
			p.wait(max(time.Second, m.In.Duration()))
		}
	}
	p.t.Fatal("the work does not come to an end")
	return nil
}

func (p *painter) answer(op int, goal run.Goal) {
	p.asked++
	if f := p.films[op]; f == nil || f.see(goal, p.now) {
		p.on(run.DryNow, op, goal)
	} else {
		p.on(run.StillWet, op, goal)
	}
}

// warm points the heat tool at a coat for as long as is said; whether that is enough is
// another matter.
func (p *painter) warm(m *run.Moment) {
	long := (m.Heat.End - m.Heat.Start).Duration()
	p.wait(long)
	goal := run.Touch
	if m.Heat.For == order.BoneDry {
		goal = run.Bone
	}
	if f := p.films[m.Op]; f != nil && p.r.Float64()*1.2 < 1/p.heat {
		f.dull, f.touch = minTime(f.dull, p.now), minTime(f.touch, p.now)
		if goal == run.Bone {
			f.bone = minTime(f.bone, p.now)
		}
	}
	o := &p.w.Ops[m.Op]
	p.tell(run.Event{Kind: run.Heated, Card: o.Card, Step: o.Key, Goal: goal, Long: long.Seconds()})
}

func minTime(a, b time.Time) time.Time {
	if a.Before(b) {
		return a
	}
	return b
}

// blunder is something that goes wrong on a coat, and what the bench has to say to that.
func (p *painter) blunder(s *run.State) {
	for _, op := range slices.Sorted(maps.Keys(p.films)) {
		f := p.films[op]
		if p.r.IntN(4) > 0 {
			continue
		}
		answers, ok := s.Answers(op)
		if !ok || f.gone {
			continue
		}
		a := answers[p.r.IntN(len(answers))]
		if len(a.Remedies) == 0 {
			continue
		}
		r := a.Remedies[p.r.IntN(len(a.Remedies))]
		o := &p.w.Ops[op]
		p.tell(run.Event{Kind: run.Repaired, Card: o.Card, Step: o.Key, Fix: run.Fix(a.ID, a.Phase, r)})
		if r.Effect == run.WetAgain {
			in := p.w.In.Ops[op]
			f.end, f.dull = p.now, p.now.Add(time.Duration(p.slow*float64(o.Step.Open)))
			f.touch, f.bone = p.now.Add(time.Duration(p.slow*float64(in.Dry.Duration()))), p.now.Add(time.Duration(p.slow*float64(in.Bone.Duration())))
		}
		return
	}
}

// Two hundred makers, each with a pace, paper and luck of their own: the bench never says
// to do what would bleed, and knows their paper after ten answers.
func TestMakers(t *testing.T) {
	const makers, evenings = 25, 8
	type job struct {
		number int
		dry    card.Drying
	}
	kinds := []job{{1, card.Air}, {4, card.Air}, {5, card.Mixed}, {6, card.Air}, {2, card.Mixed}, {8, card.Air}}
	works := map[job]*run.Work{}
	firsts := map[job]*order.Schedule{}
	for _, k := range kinds {
		w := workOf(t, jobPlan(t, k.number, k.dry))
		s, err := w.Order(context.Background())
		require.NoError(t, err)
		works[k], firsts[k] = w, s
	}
	done, off, asked, events, unsafe := 0, 0.0, 0, 0, 0
	worst, within := 0.0, 0
	for seed := range uint64(makers) {
		book := learned.Book{}
		slow := 0.0
		for n := range uint64(evenings) {
			k := kinds[(seed+n)%uint64(len(kinds))]
			p := newPainter(t, works[k], firsts[k], 1000*n+seed)
			if n > 0 {
				p.slow = slow
			}
			p.before, slow = book, p.slow
			s := p.work()
			for _, u := range p.unsafe {
				t.Errorf("maker %d, job %d, paper × %.2f: %s", seed, k.number, p.slow, u)
			}
			unsafe += len(p.unsafe)
			asked, events = asked+p.asked, events+len(p.events)
			for kind, names := range s.Seen {
				for name, seen := range names {
					book[kind] = maps.Clone(book[kind])
					for _, o := range seen {
						book.Add(kind, name, o)
					}
				}
			}
		}
		for _, seen := range book[learned.Air] {
			if len(seen) < 10 {
				continue
			}
			d := math.Abs(math.Log(learned.Of(learned.Air, seen[:10]).Factor() / slow))
			done, off, worst = done+1, off+d, max(worst, d)
			if d < math.Log(1.2) {
				within++
			}
		}
	}
	t.Logf("%d unsafe; %.1f answers and %.0f events a run; %d papers known after ten answers, to × %.2f in the mean, × %.2f at worst, %d within × 1.2",
		unsafe, float64(asked)/makers/evenings, float64(events)/makers/evenings, done, math.Exp(off/float64(done)), math.Exp(worst), within)
	require.GreaterOrEqual(t, done, makers/2, "papers of which ten answers are known")
	require.GreaterOrEqual(t, within*25, done*24, "within × 1.2 after ten answers")
}

// handled reports whether a step is done to the piece that another was on.
func handled(o, q *steps.Step) bool {
	if o.Kind == steps.Mount {
		return slices.Contains(o.Mounts, q.Piece)
	}
	return q.Piece == o.Piece && q.Item == o.Item
}
