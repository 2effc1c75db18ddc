package run

import (
	"context"
	"math"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/drying"
	"chromaqua/core/learned"
	"chromaqua/core/order"
	"chromaqua/core/pigment"
	"chromaqua/core/steps"
	"chromaqua/core/technique"
)

// planned is the order of the small card as it may be told, with a pass of the heat tool.
func planned(heat ...order.Pass) *order.Replanned {
	return &order.Replanned{Schedule: order.Schedule{Makespan: 11_000, Heat: heat, Ops: []order.Placed{
		{Op: ground, Start: 0, End: 60}, {Op: dropIn, Start: 110, End: 170}, {Op: leftSide, Start: 200, End: 260}, {Op: rightSide, Start: 300, End: 360},
		{Op: glaze, Start: 1100, End: 1160}, {Op: flatten, Start: 2400, End: 9600}, {Op: mount, Start: 9620, End: 9920},
	}}}
}

// What the bench shows while the ground is wet, number by number.
func TestAMoment(t *testing.T) {
	w := small(t)
	for i := range w.Ops {
		w.Ops[i].Step.Cells = []int{1}
	}
	at := func(s int, events []Event) *Moment {
		return w.Of(events, dusk.Add(time.Duration(s)*time.Second), known()).Moment(planned())
	}
	m := at(100, past(map[int]int{ground: 60}))
	assert.Equal(t, Do, m.Act)
	assert.Equal(t, dropIn, m.Op)
	assert.Equal(t, order.Seconds(110), m.Best)
	assert.Equal(t, []int{1, 7}, []int{m.Done, m.Of})
	assert.Equal(t, order.Seconds(4*60+300), m.HandsOn, "what lies under weight takes no hands")
	assert.Equal(t, order.Seconds(11_000), m.Finish)
	require.Len(t, m.Next, 3)
	assert.Equal(t, []int{leftSide, rightSide, glaze}, []int{m.Next[0].Op, m.Next[1].Op, m.Next[2].Op})
	assert.Equal(t, order.Seconds(80), m.Change, "when the ground has lost its gloss, of all that is to come")
	assert.Empty(t, m.Keep, "nothing that is left lies beside it")

	m = at(230, past(map[int]int{ground: 60}, tell(220, Started, dropIn, "")))
	assert.Equal(t, []any{Do, dropIn, true, order.Seconds(220)}, []any{m.Act, m.Op, m.On, m.Since})
	assert.Equal(t, order.Seconds(3*60+300), m.HandsOn, "what is at hand is not left")
	assert.Equal(t, leftSide, m.Next[0].Op)

	m = at(400, past(map[int]int{ground: 60}))
	assert.Equal(t, []any{TooLate, dropIn}, []any{m.Act, m.Op})
	m = at(1500, past(map[int]int{ground: 60, dropIn: 120, leftSide: 200, rightSide: 260}))
	assert.Equal(t, glaze, m.Op)
	assert.Equal(t, Do, m.Act, "all is long dry")
	m = at(1050, past(map[int]int{ground: 60, dropIn: 120, leftSide: 200, rightSide: 260}))
	assert.Equal(t, []any{Look, glaze}, []any{m.Act, m.Op})
	m = at(500, past(map[int]int{ground: 60, dropIn: 120, leftSide: 200, rightSide: 260}))
	assert.Equal(t, []any{Wait, glaze}, []any{m.Act, m.Op})
	assert.Equal(t, []int{glaze}, m.Keep)
	m = at(500, past(map[int]int{ground: 60}, Event{At: dusk.Add(490 * time.Second), Kind: Paused}))
	assert.Equal(t, Rest, m.Act)

	all := map[int]int{ground: 60, dropIn: 120, leftSide: 200, rightSide: 260, glaze: 2000, flatten: 3600, mount: 12_000}
	m = at(12_001, past(all))
	assert.Equal(t, []any{Finished, 7, order.Seconds(0)}, []any{m.Act, m.Done, m.HandsOn})
	m = at(100, past(map[int]int{ground: 60}, Event{At: dusk.Add(90 * time.Second), Kind: Ended}))
	assert.Equal(t, Finished, m.Act, "it was ended")
}

// A coat is warmed when the order has a pass for it before the next step, as long as that is
// not over, it is not dry, and it is not the whole card that is warmed.
func TestWhatIsWarmed(t *testing.T) {
	w := small(t)
	done := past(map[int]int{ground: 60, dropIn: 120, leftSide: 200, rightSide: 260})
	act := func(s int, events []Event, p order.Pass) []any {
		m := w.Of(events, dusk.Add(time.Duration(s)*time.Second), known()).Moment(planned(p))
		if m.Heat != nil {
			assert.Equal(t, p, *m.Heat)
		}
		return []any{m.Act, m.Op}
	}
	pass := order.Pass{Start: 400, End: 440, Op: dropIn, For: order.TouchDry}
	assert.Equal(t, []any{Warm, dropIn}, act(390, done, pass))
	assert.Equal(t, []any{Warm, dropIn}, act(439, done, pass))
	assert.Equal(t, []any{Wait, glaze}, act(440, done, pass), "it is over")
	pass.End = 1100
	assert.Equal(t, []any{Warm, dropIn}, act(390, done, pass), "up to the step itself")
	pass.End = 1101
	assert.Equal(t, []any{Wait, glaze}, act(390, done, pass), "it comes after the next step")
	pass.End, pass.For = 440, order.WholeCard
	assert.Equal(t, []any{Wait, glaze}, act(390, done, pass))
	pass.For = order.BoneDry
	dry := append(append([]Event{}, done...), Event{Seq: 90, At: dusk.Add(385 * time.Second), Kind: DryNow, Step: w.Ops[dropIn].Key, Goal: Touch})
	assert.Equal(t, []any{Warm, dropIn}, act(390, dry, pass), "touch-dry is not bone dry")
	pass.For = order.TouchDry
	assert.Equal(t, Do, act(390, dry, pass)[0])
	pass.Op = glaze
	assert.Equal(t, []any{Wait, glaze}, act(390, done, pass), "nothing was laid there")
}

// What "it is dry now" is about: what is asked, else what is to be dry first.
func TestNearest(t *testing.T) {
	w := small(t)
	nearest := func(s int, events []Event) []any {
		op, goal, ok := w.Of(events, dusk.Add(time.Duration(s)*time.Second), known()).Moment(planned()).Nearest()
		return []any{op, goal, ok}
	}
	assert.Equal(t, []any{ground, Dull, true}, nearest(100, past(map[int]int{ground: 60})), "what the next step needs")
	assert.Equal(t, []any{dropIn, Touch, true}, nearest(500, past(map[int]int{ground: 60, dropIn: 120, leftSide: 200, rightSide: 260})))
	pause := Event{At: dusk.Add(490 * time.Second), Kind: Paused}
	assert.Equal(t, []any{dropIn, Touch, true}, nearest(500, past(map[int]int{ground: 60, dropIn: 120, leftSide: 200}, pause)), "at rest, what dries first; the ground has its times")
	assert.Equal(t, []any{0, Goal(""), false}, nearest(1, past(nil)))
	dry := tell(980, DryNow, dropIn, Touch)
	ended := Event{At: dusk.Add(985 * time.Second), Kind: Ended}
	assert.Equal(t, []any{dropIn, Bone, true}, nearest(990, past(map[int]int{dropIn: 60}, dry, ended)), "from there on bone dry")
	assert.Equal(t, []any{0, Goal(""), false}, nearest(3000, past(map[int]int{flatten: 60}, ended)), "what lies does not dry")
}

// Limits of what can be told, to the letter.
func TestLimitsOfEvents(t *testing.T) {
	x := func(n int) string { return strings.Repeat("x", n) }
	for _, c := range []struct {
		good, bad Event
	}{
		{Event{Kind: Noted, Text: strings.Repeat("é", MaxText)}, Event{Kind: Noted, Text: x(MaxText + 1)}},
		{Event{Kind: Done, Step: x(300)}, Event{Kind: Done, Step: x(301)}},
		{Event{Kind: Paused, Fix: x(80)}, Event{Kind: Paused, Fix: x(81)}},
		{Event{Kind: Paused, Title: x(400)}, Event{Kind: Paused, Title: x(401)}},
		{Event{Kind: Paused, Card: MaxCards - 1}, Event{Kind: Paused, Card: MaxCards}},
		{Event{Kind: Paused, Card: 0}, Event{Kind: Paused, Card: -1}},
		{Event{Kind: Paused, Long: 3600}, Event{Kind: Paused, Long: 3601}},
		{Event{Kind: Paused, Long: 0}, Event{Kind: Paused, Long: math.NaN()}},
		{Event{Kind: Repaired, Step: "x", Fix: "too-dark/0/towel"}, Event{Kind: Repaired, Step: "x", Fix: "too-dark/1/towel"}},
		{Event{Kind: Repaired, Step: "x", Fix: "bloom/2/splatter"}, Event{Kind: Repaired, Step: "x", Fix: "bloom/3/splatter"}},
		{Event{Kind: Repaired, Step: "x", Fix: "bloom/2/splatter"}, Event{Kind: Repaired, Step: "x", Fix: "bloom//splatter"}},
		{Event{Kind: StillWet, Step: "x", Goal: Bone}, Event{Kind: StillWet, Step: "x"}},
	} {
		assert.NoError(t, c.good.Check(), "%+v", c.good)
		assert.Error(t, c.bad.Check(), "%.60v", c.bad)
	}
	for kind := range named {
		assert.ErrorContains(t, (&Event{Kind: kind}).Check(), "which step", kind)
	}
	trouble, remedy := FixWords("what/ever/this")
	assert.Equal(t, []string{"what/ever/this", ""}, []string{trouble, remedy})
}

// What is expected by now: drying by what the paper has turned out to need, steps by the pace.
func TestTimesAsExpected(t *testing.T) {
	w := small(t)
	b := known()
	for range learned.MaxSeen {
		b.Add(learned.Pace, "wash", learned.Just(time.Minute, time.Minute))
	}
	in := w.Of(past(nil), dusk, b).rescaled()
	pace := learned.Of(learned.Pace, b[learned.Pace]["wash"]).Factor() / 0.5
	assert.InDelta(t, 2, pace, 0.1, "twice as slow as was planned with")
	assert.Equal(t, order.Seconds(math.Ceil(60*pace)), in.Ops[ground].Dur)
	assert.Equal(t, order.Seconds(7200), in.Ops[flatten].Dur, "weight knows no pace")
	drier := learned.Book{}
	for range learned.MaxSeen {
		drier.Add(learned.Air, "cotton", learned.Just(time.Second, 20*time.Second))
	}
	w.In.Ops[ground].HeatDry, w.In.Ops[ground].HeatBone = 80, 90
	in = w.Of(past(nil), dusk, drier).rescaled()
	f := learned.Of(learned.Air, drier[learned.Air]["cotton"]).Factor() / 2
	assert.Equal(t, order.Seconds(math.Ceil(900*f)), in.Ops[ground].Dry)
	assert.Equal(t, order.Seconds(math.Ceil(1200*f)), in.Ops[ground].Bone)
	assert.Equal(t, in.Ops[ground].Dry, in.Ops[ground].HeatDry, "heat takes no longer than air")
	assert.Equal(t, in.Ops[ground].Bone, in.Ops[ground].HeatBone)
	assert.Equal(t, []order.Seconds{40, 60}, []order.Seconds{in.Ops[glaze].HeatDry, in.Ops[glaze].HeatBone}, "nor longer than it did")
	assert.Equal(t, order.Seconds(300*f), in.Arcs[0].Max)
	assert.Equal(t, order.Seconds(200*f), in.Joins[0].Max)
	assert.Equal(t, order.Seconds(100*f), in.Joins[0].Back)
	assert.Equal(t, order.Seconds(900), w.In.Ops[ground].Dry, "the plan itself stays")
	assert.Equal(t, order.Seconds(300), w.In.Arcs[0].Max)
}

// What the order goes on from: when each coat was laid as far as its wetness goes, and when it
// is dry.
func TestProgress(t *testing.T) {
	w := small(t)
	at := func(s int, events []Event) map[int]order.Past {
		st := w.Of(events, dusk.Add(time.Duration(s)*time.Second), known())
		out := map[int]order.Past{}
		was := st.progress(st.rescaled())
		assert.Equal(t, order.Seconds(s), was.Now)
		for _, p := range was.Done {
			out[p.Op] = p
		}
		return out
	}
	p := at(100, past(map[int]int{ground: 60}))[ground]
	assert.Equal(t, []order.Seconds{0, 60}, []order.Seconds{p.Start, p.End})
	assert.InDelta(t, 60, float64(p.Laid), 1)
	assert.InDelta(t, 960, float64(p.Coat.Touch), 20)
	assert.InDelta(t, 1260, float64(p.Coat.Bone), 30)
	p = at(200, past(map[int]int{ground: 60}, tell(190, DryNow, ground, Touch)))[ground]
	assert.Equal(t, -order.MaxSeconds, p.Laid, "nothing goes into it any more")
	assert.Equal(t, order.Seconds(60), p.Coat.Touch, "dry since it was laid, for all that it matters")
	p = at(200, past(nil, tell(190, Skipped, ground, "")))[ground]
	assert.Equal(t, -order.MaxSeconds, p.Laid)
	p = at(230, past(nil, tell(200, Started, ground, "")))[ground]
	assert.Equal(t, []order.Seconds{200, 320, 320}, []order.Seconds{p.Start, p.End, p.Laid}, "as long as it takes at the usual pace")
	p = at(400, past(nil, tell(200, Started, ground, "")))[ground]
	assert.Equal(t, []order.Seconds{200, 400, 400}, []order.Seconds{p.Start, p.End, p.Laid}, "longer than it should")
	p = at(300, past(map[int]int{flatten: 100}))[flatten]
	assert.Equal(t, []order.Seconds{100, 7300}, []order.Seconds{p.Start, p.End})
}

// A schedule of one card's own plan, of what was done to it so far.
func TestDoneSoFar(t *testing.T) {
	w := small(t)
	s := w.Of(past(map[int]int{dropIn: 200, ground: 60}, tell(300, Skipped, glaze, ""), tell(1000, DryNow, dropIn, Touch), tell(1010, Started, leftSide, "")), dusk.Add(1030*time.Second), known())
	d := s.Done(0)
	assert.Equal(t, []order.Placed{{Op: ground, Start: 0, End: 60}, {Op: dropIn, Start: 60, End: 200}, {Op: leftSide, Start: 1010, End: 1030}}, d.Ops)
	assert.Equal(t, []order.Pass{{Start: 200, End: 1030, Op: dropIn, For: order.BoneDry}}, d.Heat, "what is dry has dried by now")
	assert.Empty(t, s.Done(1).Ops, "another card")
	again := w.Of(past(map[int]int{ground: 60}, Event{At: dusk.Add(2000 * time.Second), Kind: Repaired, Step: "a", Fix: "bloom/2/another-coat"}, Event{At: dusk.Add(2100 * time.Second), Kind: Done, Step: "a+1"}), dusk.Add(2101*time.Second), known())
	require.Len(t, again.Laid(), 2)
	assert.Len(t, again.Done(0).Ops, 1, "a repair is no step of the plan")
	now := w.Of(past(nil, tell(1010, Started, leftSide, "")), dusk.Add(1010*time.Second), known()).Done(0)
	assert.Equal(t, order.Seconds(1011), now.Ops[0].End, "a moment at least")
	n, lo, hi := s.Known(ground)
	assert.Len(t, s.Seen[learned.Air]["cotton"], 1)
	assert.Equal(t, learned.MaxSeen, n, "as much as is kept in mind, with what was seen")
	assert.Less(t, lo, 2.0)
	assert.Greater(t, hi, 2.0)
	_, met := s.left(s.coats[dropIn], touch)
	assert.Equal(t, Surely, met)
}

// Cards on one bench: places are numbered on, the same mix is the same colour, heat is as
// careful as the most careful of them.
func TestCardsOnABench(t *testing.T) {
	plan := func(strength pigment.Strength, allowed, masked bool) *steps.Plan {
		p := *small(t).Cards[0].Plan
		in := *p.Instance
		in.Heat.Allowed, in.Heat.WithMask, in.Raised = allowed, masked, [][2]int{{1, 4}}
		p.Instance, p.Steps = &in, append([]steps.Step{}, p.Steps...)
		for i := range p.Steps {
			if p.Steps[i].Water > 0 {
				p.Steps[i].Mix = 1
			}
		}
		p.Mixes = []steps.Mix{{Parts: []card.Part{{CI: "PB29", Parts: 1}}, Strength: strength}}
		return &p
	}
	tea, milk := plan(pigment.Tea, true, true), plan(pigment.Milk, false, false)
	w, err := NewWork([]Card{{"one", tea}, {"two", milk}, {"three", tea}}, 2)
	require.NoError(t, err)
	assert.Equal(t, []int{1, 2, 1}, []int{w.In.Ops[0].Color, w.In.Ops[7].Color, w.In.Ops[14].Color})
	assert.Zero(t, w.In.Ops[mount].Color)
	assert.Equal(t, []int{0, 1, 2}, []int{w.In.Ops[0].Job, w.In.Ops[7].Job, w.In.Ops[14].Job})
	assert.Equal(t, []int{1}, w.In.Ops[0].Regions)
	assert.Equal(t, []int{6}, w.In.Ops[7].Regions)
	assert.Equal(t, []int{11}, w.In.Ops[14].Regions)
	assert.Equal(t, [][2]int{{1, 2}, {2, 3}, {3, 4}, {6, 7}, {7, 8}, {8, 9}, {11, 12}, {12, 13}, {13, 14}}, w.In.Adjacent)
	assert.Equal(t, [][2]int{{1, 4}, {6, 9}, {11, 14}}, w.In.Raised)
	assert.Len(t, w.In.Regions, 12)
	assert.Equal(t, 14, w.In.Regions[11].ID)
	assert.Equal(t, order.Arc{From: 7, To: 8, Type: order.Wet, Max: 300}, w.In.Arcs[4])
	assert.Equal(t, order.Join{A: 19, B: 20, Max: 200, Back: 100}, w.In.Joins[2])
	assert.True(t, w.In.Heat.Allowed, "where one allows it")
	assert.False(t, w.In.Heat.WithMask, "where one forbids it")
	assert.Equal(t, []order.Seconds{40, 60}, []order.Seconds{w.In.Ops[0].HeatDry, w.In.Ops[0].HeatBone})
	assert.Equal(t, []order.Seconds{900, 1200}, []order.Seconds{w.In.Ops[7].HeatDry, w.In.Ops[7].HeatBone}, "no heat for this card")
	assert.Equal(t, []any{2, 1, 10, 5}, []any{w.In.Rack, w.In.Copies, int(w.In.Rinse), int(w.In.Swap)})
	assert.Equal(t, "the wash of card 2", strings.Replace(w.Spoken(7), w.Plan(7).Spoken(w.Ops[7].Step), "the wash", 1))
	assert.NotContains(t, small(t).Spoken(0), "card")

	for _, same := range []bool{true, false} { // as copies, in waves; or each for itself
		cards := []Card{{"one", tea}, {"two", tea}, {"three", plan(pigment.Tea, true, true)}}
		if same {
			cards[2].Plan = tea
		}
		w, err := NewWork(cards, 2)
		require.NoError(t, err)
		s, err := w.Order(context.Background())
		require.NoError(t, err)
		require.Len(t, s.Ops, 21)
		seen := map[int]bool{}
		for _, o := range s.Ops {
			assert.Zero(t, o.Copy)
			seen[o.Op] = true
		}
		assert.Len(t, seen, 21)
		for _, h := range s.Heat {
			assert.Zero(t, h.Copy)
			assert.Equal(t, w.Ops[h.Op].Card, h.Job)
		}
		next, err := w.Of(past(nil), dusk, nil).GoOn(context.Background(), s, 5)
		require.NoError(t, err)
		assert.Len(t, next.Ops, 21)
	}

	_, err = NewWork(nil, 1)
	require.ErrorIs(t, err, ErrNoCards)
	_, err = NewWork(make([]Card, MaxCards+1), 1)
	require.ErrorIs(t, err, ErrManyCards)
	many := make([]Card, MaxCards)
	for i := range many {
		many[i] = Card{"x", tea}
	}
	_, err = NewWork(many, 1)
	assert.Equal(t, MaxCards*7 > order.MaxOps, err != nil)
}

// A timer names the driest it likely is, and counts to the next.
func TestWhatATimerNames(t *testing.T) {
	w, err := NewTimer(&Timer{Technique: technique.Flat, Paper: "cotton-cp", Size: "spot", Room: drying.StillRoom})
	require.NoError(t, err)
	none := w.Of(nil, dusk, nil)
	dull, touched, boned := none.need(0, dull), none.need(0, touch), none.need(0, bone)
	at := func(s float64) []any {
		_, next, left, ok := w.Of([]Event{{Seq: 1, At: dusk, Kind: Began}, {Seq: 2, At: dusk, Kind: Done, Step: timerStep}}, dusk.Add(seconds(s)), nil).TimerStage()
		return []any{next, left > 0, ok}
	}
	assert.Equal(t, []any{Dull, true, true}, at(dull/2))
	assert.Equal(t, []any{Touch, true, true}, at((dull+touched)/2))
	assert.Equal(t, []any{Bone, true, true}, at((touched+boned)/2))
	assert.Equal(t, []any{Bone, false, true}, at(boned+5))
	assert.Equal(t, []any{Goal(""), false, true}, at(20*boned), "sure by now")
}

// Where cards lie that are wet while another is at hand: until when they were, or will be.
func TestWetUntil(t *testing.T) {
	w := small(t)
	until := func(s int, more ...Event) float64 {
		st := w.Of(past(map[int]int{ground: 60}, more...), dusk.Add(time.Duration(s)*time.Second), known())
		return float64(st.wetUntil(st.coats[ground]))
	}
	assert.InDelta(t, 960, until(100), 20)
	assert.InDelta(t, 960, until(1500), 20, "it was dry by then")
	warm := tell(300, Heated, ground, Touch)
	warm.Long = 40
	assert.InDelta(t, 300, until(400, warm), 0, "it was heated")
}

// A place that was gone over is told of once, by what lies on top; a coat that is not gone
// over everywhere, on another piece or outlasts the other is told of too.
func TestWhatLiesOnTopIsToldOf(t *testing.T) {
	dries := func(events map[int]int, change func(*Work)) (out []int) {
		w := small(t)
		w.Ops[ground].Step.Cells, w.Ops[glaze].Step.Cells, w.Ops[leftSide].Step.Cells = []int{1, 2}, []int{1, 2, 3}, []int{4}
		change(w)
		for _, d := range w.Of(past(events), dusk.Add(710*time.Second), known()).Moment(planned()).Drying {
			out = append(out, d.Op)
		}
		slices.Sort(out)
		return out
	}
	gone := map[int]int{ground: 60, leftSide: 61, glaze: 700}
	assert.Equal(t, []int{glaze, leftSide}, dries(gone, func(*Work) {}))
	assert.Equal(t, []int{ground, glaze, leftSide}, dries(gone, func(w *Work) { w.Ops[glaze].Step.Cells = []int{1} }))
	assert.Equal(t, []int{ground, glaze, leftSide}, dries(gone, func(w *Work) { w.Ops[glaze].Step.Item = 1 }))
	assert.Equal(t, []int{ground, glaze, leftSide}, dries(gone, func(w *Work) {
		w.In.Ops[glaze].Dry, w.In.Ops[glaze].Bone = 20, 30
	}), "it is dry before what is below")
	assert.Equal(t, []int{ground, leftSide}, dries(map[int]int{glaze: 600, leftSide: 61, ground: 700}, func(w *Work) { w.Ops[ground].Step.Cells = []int{1, 2, 3} }), "whatever was done first lies below")
}
