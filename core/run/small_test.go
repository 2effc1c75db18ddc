package run

import (
	"math"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/drying"
	"chromaqua/core/learned"
	"chromaqua/core/order"
	"chromaqua/core/panel"
	"chromaqua/core/steps"
)

// The operations of a small card.
const (
	ground = iota
	dropIn
	glaze
	flatten
	mount
	leftSide
	rightSide
)

var dusk = time.Date(2026, 11, 28, 18, 0, 0, 0, time.UTC)

// small is a card by hand: a ground with something dropped in, a glaze over it, weight,
// mounting; and two areas that run into each other.
func small(t testing.TB) *Work {
	wash := order.Op{Kind: "wash", Dur: 60, Dry: 900, Bone: 1200, HeatDry: 40, HeatBone: 60, Attended: true, Color: 1}
	ops := []order.Op{wash, wash, wash, {Kind: "flatten", Dur: 7200}, {Kind: "mount", Dur: 300, Attended: true}, wash, wash}
	in := &order.Instance{Copies: 1, Rinse: 10, Swap: 5, Heat: order.Heat{Allowed: true, Factor: 1, Min: 8},
		Regions: []order.Region{{ID: 1}, {ID: 2}, {ID: 3}, {ID: 4}}, Adjacent: [][2]int{{1, 2}, {2, 3}, {3, 4}}}
	var list []steps.Step
	for i := range ops {
		ops[i].ID = i
		s := steps.Step{ID: i, Kind: steps.Kind(ops[i].Kind), Title: string(ops[i].Kind), Unattended: !ops[i].Attended, Dur: ops[i].Dur.Duration()}
		if ops[i].Kind == "wash" {
			s.Water, s.Gloss, s.Open, s.Dry, s.Bone = drying.FlatWash, 2*time.Minute, 5*time.Minute, 15*time.Minute, 20*time.Minute
			ops[i].Regions = []int{map[int]int{ground: 1, dropIn: 1, glaze: 1, leftSide: 3, rightSide: 4}[i]}
		}
		list = append(list, s)
	}
	list[mount].Mounts = []int{0}
	list[dropIn].IntoWet = []int{ground}
	in.Ops = ops
	in.Arcs = []order.Arc{
		{From: ground, To: dropIn, Type: order.Wet, Max: 300}, {From: dropIn, To: glaze, Type: order.Dry, Min: 30},
		{From: glaze, To: flatten, Type: order.Bone}, {From: flatten, To: mount, Type: order.After, Min: 20},
	}
	in.Joins = []order.Join{{A: leftSide, B: rightSide, Max: 200, Back: 100}}
	w, err := NewWork([]Card{{Name: "small", Plan: &steps.Plan{Instance: in, Steps: list, Pieces: []panel.Piece{{ID: "panel", Many: 1}}}}}, 1)
	require.NoError(t, err)
	for i := range w.Ops {
		o := &w.Ops[i]
		o.Key, o.paper, o.largest, o.room = string(rune('a'+i)), "cotton", 500, drying.StillRoom
		o.air, o.heat, o.pace = learned.Factor{By: 2}, learned.Factor{By: 4}, learned.Factor{By: 0.5}
		w.byKey[key{0, o.Key}] = i
	}
	return w
}

// past is what was done: operations with the second at which each ended, and more events.
func past(done map[int]int, more ...Event) (out []Event) {
	out = append(out, Event{Seq: 1, At: dusk, Kind: Began})
	for s := range 20_000 {
		for op := range 7 {
			if at, ok := done[op]; ok && at == s {
				out = append(out, Event{Seq: int64(len(out) + 1), At: dusk.Add(time.Duration(s) * time.Second), Kind: Done, Step: string(rune('a' + op))})
			}
		}
		for _, e := range more {
			if int(e.At.Sub(dusk).Seconds()) == s {
				e.Seq = int64(len(out) + 1)
				out = append(out, e)
			}
		}
	}
	return out
}

func tell(s int, kind Kind, op int, goal Goal) Event {
	return Event{At: dusk.Add(time.Duration(s) * time.Second), Kind: kind, Step: string(rune('a' + op)), Goal: goal}
}

// checked is the check of an operation at a second, with nothing believed beyond the plan.
func checked(t testing.TB, op, at int, events []Event) *Check {
	s := small(t).Of(events, dusk.Add(time.Duration(at)*time.Second), known())
	return s.Check(op)
}

// known is a book that makes paper as planned: twice the estimate, surely.
func known() learned.Book {
	b := learned.Book{}
	for range learned.MaxSeen {
		b.Add(learned.Air, "cotton", learned.Just(2*time.Minute, time.Minute))
	}
	return b
}

func TestWhatIsAsked(t *testing.T) {
	assert.Equal(t, []int{ground}, checked(t, dropIn, 10, past(nil)).Before)

	c := checked(t, dropIn, 100, past(map[int]int{ground: 60}))
	require.Len(t, c.Needs, 1)
	assert.Equal(t, Need{On: ground, Goal: Dull, Wet: true, Met: Surely, In: c.Needs[0].In}, c.Needs[0])
	assert.InDelta(t, 260, int(c.Needs[0].In), 8)
	assert.Equal(t, Surely, c.Met())

	c = checked(t, dropIn, 340, past(map[int]int{ground: 60}))
	assert.Equal(t, Likely, c.Met(), "towards its end it is asked whether it shines")
	assert.Equal(t, Surely, checked(t, dropIn, 345, past(map[int]int{ground: 60}, tell(340, StillWet, ground, Dull))).Met())
	assert.Equal(t, []int{ground}, checked(t, dropIn, 341, past(map[int]int{ground: 60}, tell(340, DryNow, ground, Dull))).Late)
	c = checked(t, dropIn, 600, past(map[int]int{ground: 60}))
	assert.Equal(t, []int{ground}, c.Late)
	assert.Equal(t, NotYet, c.Met())
	assert.Equal(t, Touch, c.Needs[0].Goal, "late, it waits until that is touch-dry")

	c = checked(t, glaze, 130, past(map[int]int{ground: 60, dropIn: 120}))
	assert.Equal(t, NotYet, c.Met())
	assert.InDelta(t, 900-10, int(c.In), 30)
	c = checked(t, glaze, 1080, past(map[int]int{ground: 60, dropIn: 120}))
	assert.Equal(t, Likely, c.Met())
	assert.Equal(t, []Need{{On: dropIn, Goal: Touch, Met: Likely}}, c.Ask())
	assert.Equal(t, Surely, checked(t, glaze, 1081, past(map[int]int{ground: 60, dropIn: 120}, tell(1080, DryNow, dropIn, Touch))).Met())
	assert.Equal(t, Surely, checked(t, glaze, 1600, past(map[int]int{ground: 60, dropIn: 120})).Met(), "long over")

	// Areas that join may follow each other while wet, in either order, each in its time.
	for _, c := range []struct {
		first, then, at int
		want            Met
	}{{leftSide, rightSide, 150, Surely}, {leftSide, rightSide, 450, NotYet}, {rightSide, leftSide, 110, Surely}, {rightSide, leftSide, 250, NotYet}} {
		assert.Equal(t, c.want, checked(t, c.then, c.at, past(map[int]int{c.first: 60})).Met(), "%+v", c)
	}
	// What lies beside it has to be touch-dry; what shares no border does not matter.
	assert.Equal(t, Surely, checked(t, rightSide, 130, past(map[int]int{ground: 120})).Met())
}

// What nobody attends to lasts as long as it is said to, and can be ended sooner.
func TestWhatLies(t *testing.T) {
	done := map[int]int{ground: 60, dropIn: 120, glaze: 2000, flatten: 5000}
	c := checked(t, mount, 6000, past(done))
	assert.Equal(t, order.Seconds(5000+7200+20-6000), c.In)
	assert.Equal(t, NotYet, c.Met())
	done[mount] = 0
	delete(done, mount)
	early := append(past(done), Event{Seq: 99, At: dusk.Add(9000 * time.Second), Kind: Done, Step: string(rune('a' + flatten))})
	c = checked(t, mount, 9021, early)
	assert.Equal(t, Surely, c.Met())
	s := small(t).Of(past(done), dusk.Add(6000*time.Second), known())
	d, ok := s.Coat(flatten)
	require.True(t, ok)
	assert.True(t, d.Lies)
	assert.Equal(t, order.Seconds(6200), d.Touch)
}

// What is seen is told over the bare estimate, whatever the plan already knew.
func TestSeenOverTheEstimate(t *testing.T) {
	w := small(t)
	s := w.Of(past(map[int]int{ground: 60}, tell(960, DryNow, ground, Touch)), dusk.Add(961*time.Second), nil)
	assert.InDelta(t, math.Log(2), s.Seen[learned.Air]["cotton"][0].Hi, 1e-3, "900 s where the bare estimate is 450")
	assert.InDelta(t, math.Log(0.5), s.Seen[learned.Pace]["wash"][0].Hi, 1e-3, "60 s where the bare estimate is 120")

	warm := tell(100, Heated, ground, Touch)
	warm.Long = 30
	s = w.Of(past(map[int]int{ground: 60}, warm, tell(110, DryNow, ground, Touch)), dusk.Add(111*time.Second), nil)
	assert.InDelta(t, math.Log(3), s.Seen[learned.Heat]["cotton"][0].Hi, 1e-3, "30 s where the bare estimate is 10")
	assert.Empty(t, s.Seen[learned.Air]["cotton"], "of air it tells nothing")
	s = w.Of(past(map[int]int{ground: 60}, warm, tell(110, StillWet, ground, Touch)), dusk.Add(111*time.Second), nil)
	assert.InDelta(t, math.Log(3), s.Seen[learned.Heat]["cotton"][0].Lo, 1e-3)
	left, met := s.left(s.coats[ground], touch)
	assert.Positive(t, left)
	assert.Equal(t, NotYet, met)
}

// A step that was begun expressly lasts from then, and what was broken off tells nothing.
func TestBegunAndBroken(t *testing.T) {
	w := small(t)
	s := w.Of(past(map[int]int{ground: 260}, tell(200, Started, ground, "")), dusk.Add(261*time.Second), nil)
	assert.Equal(t, order.Seconds(200), s.coats[ground].start)
	s = w.Of(past(nil, tell(200, Started, ground, "")), dusk.Add(230*time.Second), nil)
	assert.True(t, s.isOn)
	assert.Equal(t, order.Seconds(1), s.Check(leftSide).In, "one thing at a time")
	s = w.Of(past(nil, tell(200, Started, ground, ""), tell(210, Skipped, ground, "")), dusk.Add(230*time.Second), nil)
	assert.False(t, s.isOn)
	pause := Event{At: dusk.Add(30 * time.Second), Kind: Paused}
	s = w.Of(past(map[int]int{ground: 60}, pause, Event{At: dusk.Add(40 * time.Second), Kind: Resumed}), dusk.Add(61*time.Second), nil)
	assert.Empty(t, s.Seen[learned.Pace])
	s = w.Of(past(map[int]int{ground: 60, leftSide: 1900}), dusk.Add(1901*time.Second), nil)
	assert.Len(t, s.Seen[learned.Pace]["wash"], 1, "who was away for half an hour did not paint all the while")
	assert.Equal(t, order.Seconds(1900-240), s.coats[leftSide].start)
}

// A washed coat in its stages, and the sureness of what was looked at.
func TestDryingList(t *testing.T) {
	w := small(t)
	at := func(s int, more ...Event) []Drying {
		return w.Of(past(map[int]int{ground: 60}, more...), dusk.Add(time.Duration(s)*time.Second), known()).drying()
	}
	for s, want := range map[int]drying.Stage{100: drying.Gloss, 200: drying.Sheen, 400: drying.Damp, 1000: drying.TouchDry} {
		d := at(s)
		require.Len(t, d, 1)
		assert.Equal(t, want, d[0].Stage, s)
		assert.False(t, d[0].Sure)
	}
	assert.True(t, at(1001, tell(1000, DryNow, ground, Touch))[0].Sure)
	assert.True(t, at(301, tell(300, DryNow, ground, Dull))[0].Sure)
	assert.Empty(t, at(1400))
	assert.InDelta(t, 0.5, at(510)[0].Share, 0.01)
}

// What is taken back is the last that can be.
func TestWhatCanBeTakenBack(t *testing.T) {
	room := drying.StillRoom
	all := past(map[int]int{ground: 60}, Event{At: dusk.Add(70 * time.Second), Kind: RoomRead, Room: &room})
	assert.Equal(t, int64(2), LastToTakeBack(all).Seq)
	assert.Nil(t, LastToTakeBack(all[:1]))
	assert.Nil(t, LastToTakeBack(nil))
	assert.Nil(t, LastToTakeBack(append(all, Event{Seq: 9, At: dusk, Kind: TookBack, Of: 2})))
	first := []Event{{Seq: 1, At: dusk, Kind: Paused}}
	assert.Equal(t, int64(1), LastToTakeBack(first).Seq)
	for n, ok := range map[int]bool{64: true, 65: false} {
		e := Event{Kind: Paused, Once: string(make([]byte, n))}
		assert.Equal(t, ok, e.Check() == nil, n)
	}
}

// A card in the rack makes room once it is dry.
func TestRackPlaces(t *testing.T) {
	two, done := threeCards(t)
	begin := Event{Seq: 1, At: dusk, Kind: Began}
	s := two.Of([]Event{begin, done(0, 60), done(1, 1030), done(2, 1100)}, dusk.Add(1101*time.Second), known())
	assert.Equal(t, map[int]int{1: 1, 2: 2}, s.Rack(), "the first was dry before the second was laid down")
	s = two.Of([]Event{begin, done(0, 60), done(1, 130)}, dusk.Add(131*time.Second), known())
	assert.Equal(t, map[int]int{0: 1, 1: 2}, s.Rack())
}

// In another room all clocks run faster or slower, those of windows too.
func TestAnotherRoom(t *testing.T) {
	warm := drying.Room{Celsius: 28, Humidity: 0.35, Air: 0.1}
	faster := warm.Rate(500) / drying.StillRoom.Rate(500)
	require.Greater(t, faster, 1.3)
	read := Event{At: dusk.Add(60 * time.Second), Kind: RoomRead, Room: &warm}
	c := checked(t, dropIn, 100, past(map[int]int{ground: 60}, read))
	assert.InDelta(t, 300/faster-40, float64(c.Needs[0].In), 4)
	c = checked(t, glaze, 130, past(map[int]int{ground: 60, dropIn: 120}, read))
	assert.InDelta(t, 900/faster-10, float64(c.In), 12)
	s := small(t).Of(past(map[int]int{ground: 60}, read), dusk.Add(100*time.Second), known())
	assert.InDelta(t, 40*faster/900, s.drying()[0].Share, 0.01)
	in := s.rescaled()
	assert.InDelta(t, 900/faster, float64(in.Ops[ground].Dry), 8)
	assert.InDelta(t, 300/faster, float64(in.Arcs[0].Max), 4)
	assert.InDelta(t, 200/faster, float64(in.Joins[0].Max), 4)
	assert.InDelta(t, 100/faster, float64(in.Joins[0].Back), 4)
	answers, ok := s.Answers(ground)
	require.True(t, ok)
	assert.InDelta(t, (120-40*faster)/faster, float64(answers[0].Until), 3, "until its gloss is lost")
	dull := small(t).Of(past(map[int]int{ground: 60}, read), dusk.Add(400*time.Second), known())
	answers, _ = dull.Answers(ground)
	assert.InDelta(t, 900/faster-340, float64(answers[0].Until), 6, "until it is touch-dry")
}

// A mask that was not laid is not taken off.
func TestASkippedMask(t *testing.T) {
	in := &order.Instance{Copies: 1, Regions: []order.Region{}, Ops: []order.Op{
		{ID: 0, Kind: order.Mask, Dur: 60, Attended: true}, {ID: 1, Kind: "wash", Dur: 60, Attended: true}, {ID: 2, Kind: order.Unmask, Dur: 60, Attended: true},
	}}
	list := []steps.Step{{ID: 0, Kind: steps.Mask, Deed: "r1"}, {ID: 1, Kind: steps.Paint, Deed: "a1/w0"}, {ID: 2, Kind: steps.Unmask, Deed: "r1"}}
	w, err := NewWork([]Card{{Name: "masked", Plan: &steps.Plan{Instance: in, Steps: list, Pieces: []panel.Piece{{ID: "panel", Many: 1}}}}}, 1)
	require.NoError(t, err)
	skip := func(op int) *State {
		return w.Of([]Event{{Seq: 1, At: dusk, Kind: Began}, {Seq: 2, At: dusk, Kind: Skipped, Step: w.Ops[op].Key}}, dusk, nil)
	}
	assert.Equal(t, 2, len(skip(0).Log()))
	assert.True(t, skip(0).coats[2].skipped)
	assert.Nil(t, skip(0).coats[1])
	assert.Len(t, skip(1).Log(), 1)
	assert.Len(t, skip(2).Log(), 1)
}

// What a repair adds comes after what is done on its place and before what is to come, and
// nothing is handled before that is dry.
func TestWhatARepairWaitsFor(t *testing.T) {
	w := small(t)
	fix := func(name string, done map[int]int) *State {
		return w.Of(past(done, Event{At: dusk.Add(3000 * time.Second), Kind: Repaired, Step: "a", Fix: name}), dusk.Add(3001*time.Second), known())
	}
	arcs := func(s *State) map[[2]int]order.ArcType {
		out := map[[2]int]order.ArcType{}
		for _, a := range s.In.Arcs[len(w.In.Arcs):] {
			out[[2]int{a.From, a.To}] = a.Type
		}
		return out
	}
	s := fix("bloom/2/another-coat", map[int]int{ground: 60, dropIn: 120})
	assert.Equal(t, map[[2]int]order.ArcType{
		{ground, 7}: order.Dry, {dropIn, 7}: order.Dry, {7, glaze}: order.Dry, {7, flatten}: order.Bone, {7, mount}: order.Bone,
	}, arcs(s))
	s = fix("bloom/2/another-coat", map[int]int{ground: 60})
	assert.Equal(t, order.Dry, arcs(s)[[2]int{dropIn, 7}], "what goes into the wet goes first")
	s = fix("over-line/2/cover", map[int]int{ground: 60, dropIn: 120, glaze: 2000})
	assert.Equal(t, order.Seconds(90), s.In.Ops[7].Dur)
	assert.Zero(t, s.In.Ops[7].Color)
	s = fix("warped/2/press", map[int]int{ground: 60, dropIn: 120, glaze: 2000})
	assert.False(t, s.In.Ops[7].Attended)
	assert.Equal(t, order.Bone, arcs(s)[[2]int{glaze, 7}])
	assert.Equal(t, order.Bone, arcs(s)[[2]int{7, mount}])
	assert.NotContains(t, arcs(s), [2]int{7, flatten})
	s = fix("weak-line/2/again", map[int]int{ground: 60})
	assert.Equal(t, order.Bone, arcs(s)[[2]int{ground, 7}], "a stamp wants bone dry paper")
	s = fix("blotchy/1/hands-off", map[int]int{ground: 60})
	assert.Len(t, s.Ops, 7)
	s = fix("bloom/2/another-coat", nil)
	assert.Len(t, s.Ops, 8, "told of what is not done yet, it is planned all the same")
}

// Which remedies take colour out, wet paper again, or hurt pulp.
func TestWhatRemediesDo(t *testing.T) {
	var lifts, wets, hurts []string
	add := func(to *[]string, is bool, id string) {
		if is && !slices.Contains(*to, id) {
			*to = append(*to, id)
		}
	}
	for _, row := range troubles {
		for _, list := range row.By {
			for _, r := range list {
				add(&lifts, r.Lifts, r.ID)
				add(&wets, r.Effect == WetAgain, r.ID)
				add(&hurts, r.NoPulp, r.ID)
			}
		}
	}
	assert.Equal(t, []string{"towel", "thirsty", "re-wet"}, lifts)
	assert.Equal(t, []string{"re-wet", "scrub", "fill-dry", "mist"}, wets)
	assert.Equal(t, []string{"re-wet", "scrub", "mist"}, hurts)
}

// A wet card more than the rack holds has to wait until one is dry.
func TestTheRackIsFull(t *testing.T) {
	three, done := threeCards(t)
	events := []Event{{Seq: 1, At: dusk, Kind: Began}, done(0, 60), done(1, 130)}
	third := &order.Replanned{Schedule: order.Schedule{Ops: []order.Placed{{Op: 14, Start: 960, End: 1020}}}}
	m := three.Of(events, dusk.Add(140*time.Second), known()).Moment(third)
	assert.Equal(t, Wait, m.Act)
	assert.True(t, m.Full)
	assert.InDelta(t, 900-80, float64(m.In), 20, "until the first is dry")
	m = three.Of(events, dusk.Add(1000*time.Second), known()).Moment(third)
	assert.Equal(t, Do, m.Act, "one is dry")
	three.In.Rack = 2
	m = three.Of(events, dusk.Add(140*time.Second), known()).Moment(third)
	assert.Equal(t, Do, m.Act)
}

// From touch-dry on, bone dry follows after the rest of the planned time: from when it was
// felt, or from the end of the heat.
func TestTheWayToBoneDry(t *testing.T) {
	left := func(at int, more ...Event) float64 {
		s := small(t).Of(past(map[int]int{ground: 60}, more...), dusk.Add(time.Duration(at)*time.Second), known())
		l, _ := s.left(s.coats[ground], bone)
		return float64(l)
	}
	assert.InDelta(t, 1200-440, left(500), 25, "by the clock")
	warm := tell(400, Heated, ground, Touch)
	warm.Long = 40
	assert.InDelta(t, 300-100, left(500, warm), 10, "from the end of the heat")
	assert.InDelta(t, 300-50, left(1010, tell(960, DryNow, ground, Touch)), 12, "from when it was felt")
}

// Salt and spritz go in once the gloss has gone, and not before.
func TestAWindowThatOpens(t *testing.T) {
	w := small(t)
	w.In.Arcs[0].Clock = 120
	w.index()
	at := func(s int) *Check {
		return w.Of(past(map[int]int{ground: 60}), dusk.Add(time.Duration(s)*time.Second), known()).Check(dropIn)
	}
	assert.InDelta(t, 80, float64(at(100).In), 4)
	assert.Equal(t, NotYet, at(100).Met())
	assert.Equal(t, order.Seconds(0), max(0, at(190).In))
	assert.NotEqual(t, NotYet, at(190).Met())
}

// The log is of what was done: its last step that somebody attended to ends it.
func TestHowLongItLasted(t *testing.T) {
	w := small(t)
	s := w.Of(past(map[int]int{ground: 60, flatten: 100}, tell(300, Skipped, mount, "")), dusk.Add(400*time.Second), known())
	assert.Equal(t, order.Seconds(60), s.Lasted())
	_, held := w.Of(past(nil), dusk, nil).Hand()
	assert.False(t, held)
	_, _, _, laid := w.Of(past(nil), dusk, nil).TimerStage()
	assert.False(t, laid)
}

// Joins and what goes into the wet count as meeting; what repairs add has an end.
func TestAdditions(t *testing.T) {
	w := small(t)
	assert.True(t, w.meets(leftSide, rightSide))
	assert.True(t, w.meets(rightSide, leftSide))
	assert.True(t, w.meets(ground, dropIn))
	assert.False(t, w.meets(dropIn, ground))
	assert.False(t, w.meets(leftSide, ground))
	events := past(map[int]int{ground: 60})
	for n := range MaxAdded + 5 {
		events = append(events, Event{Seq: int64(100 + n), At: dusk.Add(2000 * time.Second), Kind: Repaired, Step: "a", Fix: "bloom/2/another-coat"})
	}
	assert.Len(t, w.Of(events, dusk.Add(2001*time.Second), nil).Ops, len(w.Ops)+MaxAdded)
	for took, n := range map[int]int{240: 1, 14: 0, 15: 1} {
		s := w.Of(past(map[int]int{ground: 100 + took}, tell(100, Started, ground, "")), dusk.Add(time.Hour), nil)
		assert.Len(t, s.Seen[learned.Pace]["wash"], n, took)
	}
	s := w.Of(past(map[int]int{ground: 341}, tell(100, Started, ground, "")), dusk.Add(time.Hour), nil)
	assert.Empty(t, s.Seen[learned.Pace]["wash"], "four times as long as planned is no pace")
}

// threeCards are three small cards on a bench whose rack holds one, and the event with which
// the ground of one is laid.
func threeCards(t testing.TB) (w *Work, done func(card, s int) Event) {
	one := small(t).Cards[0]
	w, err := NewWork([]Card{one, one, one}, 1)
	require.NoError(t, err)
	for i := range w.Ops {
		o := &w.Ops[i]
		o.Key, o.paper, o.air, o.largest, o.room = string(rune('a'+i%7)), "cotton", learned.Factor{By: 2}, 500, drying.StillRoom
		w.byKey[key{o.Card, o.Key}] = i
	}
	return w, func(card, s int) Event {
		return Event{Seq: int64(s), At: dusk.Add(time.Duration(s) * time.Second), Kind: Done, Card: card, Step: "a"}
	}
}
