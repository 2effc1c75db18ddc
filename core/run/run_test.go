package run_test

import (
	"context"
	"fmt"
	"math"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/drying"
	"chromaqua/core/learned"
	"chromaqua/core/order"
	"chromaqua/core/run"
	"chromaqua/core/technique"
)

// told makes events, each so many seconds after the beginning.
func told(from ...any) (out []run.Event) {
	for i := 0; i < len(from); i += 2 {
		e := from[i+1].(run.Event)
		e.Seq, e.At = int64(i/2+1), evening.Add(time.Duration(from[i].(int))*time.Second)
		out = append(out, e)
	}
	return out
}

// timer is a flat wash, hand-sized, on cotton, in a still room: planned to be dull, touch-
// dry and bone dry after so many seconds.
func timer(t testing.TB) (w *run.Work, dull, touch, bone int) {
	w, err := run.NewTimer(&run.Timer{Technique: technique.Flat, Paper: "cotton-cp", Size: "hand-sized", Room: drying.StillRoom})
	require.NoError(t, err)
	on, laid := drying.Cotton, drying.FlatWash
	until := func(s drying.Stage) int { return int(order.Ceil(on.Until(s, laid, 7500, drying.StillRoom))) }
	return w, until(drying.Damp), until(drying.TouchDry), until(drying.BoneDry)
}

func at(s int) time.Time { return evening.Add(time.Duration(s) * time.Second) }

func stage(t testing.TB, w *run.Work, events []run.Event, s int) (string, run.Goal, int) {
	st, next, left, ok := w.Of(events, at(s), nil).TimerStage()
	require.True(t, ok)
	return st.String(), next, int(left)
}

func laid() []run.Event { return told(0, run.Event{Kind: run.Began}, 0, run.LaidNow()) }

func ExampleWork_Of() {
	w, _ := run.NewTimer(&run.Timer{Technique: technique.Flat, Paper: "cotton-cp", Size: "hand-sized", Room: drying.StillRoom})
	events := told(0, run.Event{Kind: run.Began}, 0, run.LaidNow())
	for _, minutes := range []int{1, 8, 16, 30} {
		stage, next, left, _ := w.Of(events, at(60*minutes), nil).TimerStage()
		fmt.Printf("%2d min: %s, %s in %d s\n", minutes, stage, next, left)
	}
	// Output:
	//  1 min: sheen, dull in 310 s
	//  8 min: damp, touch-dry in 558 s
	// 16 min: damp, touch-dry in 78 s
	// 30 min: bone dry, bone dry in 0 s
}

func TestAWashDriesByItsClock(t *testing.T) {
	w, dull, touch, bone := timer(t)
	name, next, left := stage(t, w, laid(), 10)
	assert.Equal(t, "sheen", name)
	assert.Equal(t, run.Dull, next)
	assert.InDelta(t, dull-10, left, 1)
	name, next, left = stage(t, w, laid(), touch-5)
	assert.Equal(t, "damp", name)
	assert.Equal(t, run.Touch, next, "what is likely dull by now is not asked for any more once that is sure")
	assert.InDelta(t, 5, left, 2)
	name, _, _ = stage(t, w, laid(), 5*bone)
	assert.Equal(t, "bone dry", name)
}

// What is told counts: dry now, still wet, a warmer room; and an event that is taken back
// does not.
func TestWhatIsToldCounts(t *testing.T) {
	w, _, touch, bone := timer(t)
	key := w.Ops[0].Key
	dry := run.Event{Kind: run.DryNow, Step: key, Goal: run.Touch}
	early := append(laid(), told(0, run.Event{}, 0, run.Event{}, touch*6/10, dry)[2:]...)
	name, next, left := stage(t, w, early, touch*6/10+1)
	assert.Equal(t, "touch-dry", name)
	assert.Equal(t, run.Bone, next)
	assert.InDelta(t, float64(bone-touch)*0.6, left, float64(bone-touch)/8, "the rest goes as the first part did")

	wet := append(laid(), told(0, run.Event{}, 0, run.Event{}, touch+30, run.Event{Kind: run.StillWet, Step: key, Goal: run.Touch})[2:]...)
	name, _, left = stage(t, w, wet, touch+31)
	assert.Equal(t, "damp", name)
	assert.Greater(t, float64(left), float64(touch+30)*1.12-float64(touch+31)-3)
	assert.Less(t, left, touch/2)

	gone := append(append([]run.Event{}, early...), run.Event{Seq: 4, At: at(touch * 7 / 10), Kind: run.TookBack, Of: 3})
	name, _, _ = stage(t, w, gone, touch*7/10+1)
	assert.Equal(t, "damp", name)
	assert.Empty(t, w.Of(gone, at(touch), nil).Seen)

	warm := drying.Room{Celsius: 28, Humidity: 0.4, Air: 0.1}
	room := append(laid(), told(0, run.Event{}, 0, run.Event{}, 100, run.Event{Kind: run.RoomRead, Room: &warm})[2:]...)
	faster := warm.Rate(7500) / drying.StillRoom.Rate(7500)
	_, _, left = stage(t, w, room, 100)
	_, _, still := stage(t, w, laid(), 100)
	assert.InDelta(t, float64(still)/faster, left, 2)
}

// The book learns from what was seen, and a slip of the finger teaches nothing.
func TestWhatIsLearned(t *testing.T) {
	w, _, touch, _ := timer(t)
	key := w.Ops[0].Key
	seen := func(s int, kind run.Kind) []learned.Seen {
		events := append(laid(), told(0, run.Event{}, 0, run.Event{}, s, run.Event{Kind: kind, Step: key, Goal: run.Touch})[2:]...)
		return w.Of(events, at(s), nil).Seen[learned.Air]["cotton cold press 300 gsm"]
	}
	assert.InDelta(t, math.Log(0.8), seen(touch*8/10, run.DryNow)[0].Hi, 0.01)
	assert.InDelta(t, math.Log(1.3), seen(touch*13/10, run.StillWet)[0].Lo, 0.01)
	assert.True(t, math.IsInf(seen(touch*13/10, run.StillWet)[0].Hi, 1))
	assert.Empty(t, seen(2, run.DryNow), "dry after two seconds is a slip")
	assert.Empty(t, seen(touch*9, run.StillWet))
}

// A clock that was set back, a press that comes twice, and presses out of turn change
// nothing that has been.
func TestClockAndPresses(t *testing.T) {
	w := workOf(t, jobPlan(t, 1, card.Air))
	first, second := w.Ops[0].Key, w.Ops[1].Key
	events := told(0, run.Event{Kind: run.Began}, 60, run.Event{Kind: run.Done, Step: first}, 20, run.Event{Kind: run.Done, Step: second}, 90, run.Event{Kind: run.Done, Step: second})
	s := w.Of(events, at(10), nil)
	assert.Equal(t, order.Seconds(90), s.Now, "the time is never before what has happened")
	assert.Equal(t, []int{0, 1}, s.Laid())
	again := w.Of(events[:3], at(95), nil)
	assert.Equal(t, again.Laid(), w.Of(events, at(95), nil).Laid())

	lost := w.Of(told(0, run.Event{Kind: run.Began}, 5, run.Event{Kind: run.Done, Step: "panel.0/wash/a99/w0/1", Title: "Old sky"}), at(9), nil)
	require.Len(t, lost.Lost, 1)
	assert.Equal(t, "Old sky", lost.Lost[0].Title)
}

// A pause and what is late move the finish; a card that is spoiled drops out.
func TestTheOrderFollows(t *testing.T) {
	p := jobPlan(t, 4, card.Air)
	w := workOf(t, p, p)
	first, err := w.Order(context.Background())
	require.NoError(t, err)
	begin := told(0, run.Event{Kind: run.Began})
	s := w.Of(begin, at(0), nil)
	next, err := s.GoOn(context.Background(), first, 50)
	require.NoError(t, err)
	early := next.Makespan
	m := s.Moment(next)
	assert.Equal(t, run.Do, m.Act)
	assert.Equal(t, len(w.Ops), m.Of)
	late := w.Of(begin, at(1200), nil)
	next, err = late.GoOn(context.Background(), first, 50)
	require.NoError(t, err)
	assert.GreaterOrEqual(t, next.Makespan, early+1100)

	spoiled := w.Of(append(begin, told(0, run.Event{}, 30, run.Event{Kind: run.Spoiled, Card: 1})[1:]...), at(31), nil)
	next, err = spoiled.GoOn(context.Background(), first, 50)
	require.NoError(t, err)
	m = spoiled.Moment(next)
	for _, n := range m.Next {
		assert.Zero(t, w.Ops[n.Op].Card)
	}
	assert.Equal(t, len(w.Ops)/2, m.Done)

	paused := w.Of(append(begin, told(0, run.Event{}, 30, run.Event{Kind: run.Paused})[1:]...), at(31), nil)
	next, err = paused.GoOn(context.Background(), first, 50)
	require.NoError(t, err)
	assert.Equal(t, run.Rest, paused.Moment(next).Act)
}

// Wet cards lie in the first free place until they are taken up again.
func TestRack(t *testing.T) {
	p := jobPlan(t, 1, card.Air)
	w := workOf(t, p, p, p)
	wash := -1
	for i, o := range w.Ops[:len(p.Steps)] {
		if o.Step.Water > 0 {
			wash = i
			break
		}
	}
	n := len(p.Steps)
	key := w.Ops[wash].Key
	done := func(card int) run.Event { return run.Event{Kind: run.Done, Card: card, Step: key} }
	assert.Equal(t, n, w.In.Ops[n].ID)
	s := w.Of(told(0, run.Event{Kind: run.Began}, 10, done(0), 40, done(1), 70, done(2)), at(71), nil)
	assert.Equal(t, map[int]int{0: 1, 1: 2, 2: 3}, s.Rack())
	hand, ok := s.Hand()
	assert.True(t, ok)
	assert.Equal(t, 2, hand)
	later := w.Of(told(0, run.Event{Kind: run.Began}, 10, done(0), 40, done(1), 20_000, done(2)), at(20_001), nil)
	assert.Equal(t, 1, later.Rack()[2], "a place is free once its card is dry")
}

// A second coat is a step more, after the first and before what waits for that; hands off
// makes the next step wait until it is bone dry; wood pulp is not scrubbed.
func TestRepairsChangeThePlan(t *testing.T) {
	w, _, touch, bone := timer(t)
	key := w.Ops[0].Key
	fix := func(name string) []run.Event {
		return append(laid(), told(0, run.Event{}, 0, run.Event{}, touch*4, run.Event{Kind: run.Repaired, Step: key, Fix: name})[2:]...)
	}
	s := w.Of(fix("bloom/2/another-coat"), at(touch*4), nil)
	require.Len(t, s.Ops, 2)
	assert.Equal(t, run.AnotherGo, s.Ops[1].Again.Effect)
	assert.Equal(t, w.In.Ops[0].Dry, s.In.Ops[1].Dry)
	assert.Len(t, w.Ops, 1, "the plan itself stays")
	next, err := s.GoOn(context.Background(), &order.Schedule{Ops: []order.Placed{{Op: 0}}}, 20)
	require.NoError(t, err)
	assert.Equal(t, 1, s.Moment(next).Op)

	wetted := w.Of(fix("too-dark/2/re-wet"), at(touch*4+1), nil)
	st, _, _, _ := wetted.TimerStage()
	assert.Equal(t, drying.Sheen, st, "it is wet again")
	dry := w.Of(fix("too-dark/2/leave"), at(touch*4+bone), nil)
	st, _, _, _ = dry.TimerStage()
	assert.Equal(t, drying.BoneDry, st)

	answers, ok := dry.Answers(0)
	require.True(t, ok)
	assert.Equal(t, run.Dried, answers[0].Phase)
	assert.Zero(t, answers[0].Until)
	now := w.Of(laid(), at(touch/2+dullOf(t)), nil)
	answers, ok = now.Answers(0)
	require.True(t, ok)
	assert.Equal(t, run.Dulls, answers[0].Phase)
	assert.Positive(t, answers[0].Until)

	pulp, err := run.NewTimer(&run.Timer{Technique: technique.Flat, Paper: "pulp-cp", Size: "petal", Room: drying.StillRoom})
	require.NoError(t, err)
	scrubbed := append(laid(), told(0, run.Event{}, 0, run.Event{}, 9000, run.Event{Kind: run.Repaired, Step: key, Fix: "hard-edge/2/scrub"})[2:]...)
	name, _, _ := stage(t, pulp, scrubbed, 9001)
	assert.Equal(t, "bone dry", name, "pulp is not scrubbed")
	name, _, _ = stage(t, w, scrubbed, 9001)
	assert.Equal(t, "sheen", name)
	answers, _ = pulp.Of(laid(), at(9000), nil).Answers(0)
	for _, a := range answers {
		for _, r := range a.Remedies {
			assert.False(t, r.NoPulp, r.ID)
		}
	}
}

func dullOf(t testing.TB) int {
	_, dull, touch, _ := timer(t)
	return max(0, dull-touch/2) + 30
}

func TestEventsAreChecked(t *testing.T) {
	for why, e := range map[string]run.Event{
		"says of which step":    {Kind: run.Done},
		"is on no bench":        {Kind: run.Paused, Card: run.MaxCards},
		"nothing that happens":  {Kind: "danced"},
		"nothing to look for":   {Kind: run.DryNow, Step: "x", Goal: "blue"},
		"no remedy":             {Kind: run.Repaired, Step: "x", Fix: "too-dark/9/towel"},
		"a temperature and a":   {Kind: run.RoomRead},
		"outside 5 to 45":       {Kind: run.RoomRead, Room: &drying.Room{Celsius: 451, Humidity: 0.5}},
		"too long to be told":   {Kind: run.Done, Step: strings.Repeat("x", 400)},
		"at most 2000 letters":  {Kind: run.Noted, Text: strings.Repeat("é", 2001)},
		"heating takes at most": {Kind: run.Heated, Step: "x", Goal: run.Touch, Long: math.Inf(1)},
	} {
		assert.ErrorContains(t, e.Check(), why)
	}
	assert.NoError(t, (&run.Event{Kind: run.Heated, Step: "x", Goal: run.Touch, Long: 20}).Check())
}

func TestTimersAreChecked(t *testing.T) {
	good := run.Timer{Technique: technique.Flat, Paper: "cotton-cp", Size: "petal", Room: drying.StillRoom}
	require.NoError(t, good.Check())
	for why, change := range map[string]func(*run.Timer){
		"no size of a wash": func(m *run.Timer) { m.Size = "whale" }, "paper": func(m *run.Timer) { m.Paper = "vellum of the moon" },
		"leaves no water": func(m *run.Timer) { m.Technique = "humming" }, "outside": func(m *run.Timer) { m.Room.Celsius = 90 },
	} {
		m := good
		change(&m)
		assert.ErrorContains(t, m.Check(), why)
	}
}

// BenchmarkState works out the state after 400 events.
func BenchmarkState(b *testing.B) {
	p := jobPlan(b, 1, card.Air)
	var plans = []*run.Card{}
	for i := range 12 {
		plans = append(plans, &run.Card{Name: fmt.Sprint(i), Plan: p})
	}
	var cards []run.Card
	for _, c := range plans {
		cards = append(cards, *c)
	}
	w, err := run.NewWork(cards, 11)
	require.NoError(b, err)
	events := told(0, run.Event{Kind: run.Began})
	for n := 0; len(events) < 400; n++ {
		o := &w.Ops[n%len(w.Ops)]
		kind := run.Event{Kind: run.Done, Card: o.Card, Step: o.Key}
		if n >= len(w.Ops) {
			kind.Kind, kind.Goal = run.DryNow, run.Touch
		}
		kind.Seq, kind.At = int64(len(events)+1), evening.Add(time.Duration(n)*20*time.Second)
		events = append(events, kind)
	}
	for b.Loop() {
		w.Of(events, at(9000), nil)
	}
	b.ReportMetric(float64(len(w.Ops)), "operations")
}
