// Package practice answers "would I have done it at the right moment?": washes that dry,
// a moment to choose, and what would have come of it.
package practice

import (
	"fmt"
	"math"
	"math/rand/v2"
	"time"

	"chromaqua/core/drying"
)

// Task is what is to be done at the right moment.
type Task string

// The tasks.
const (
	DropIn Task = "drop-in" // while it shines
	Stop   Task = "stop"    // the last moment to touch it
	Lift   Task = "lift"    // once the gloss has gone, before it is dry
	Over   Task = "over"    // a second coat: touch-dry
	Stamp  Task = "stamp"   // bone dry
)

// A rule is when a task goes well: between two moments of the drying, and what comes of
// doing it sooner or later.
type rule struct {
	Task
	Asks          string
	from, to      drying.Stage // its first and last good stage
	near          bool         // the nearer to the end of it the better
	well          string
	sooner, later string
}

var rules = []rule{
	{DropIn, "Drop another colour in, so that it spreads softly.", drying.Gloss, drying.Gloss, false,
		"It spreads softly and stays where you want it.",
		"In the puddle it swims away, and settles where it likes.",
		"The sheen is going: water pushes the colour aside into a bloom."},
	{Stop, "Touch it one last time, as late as you dare.", drying.Gloss, drying.Sheen, true,
		"You were still in time, and know now where that is.",
		"It was safe, and there was time left.",
		"Too late: it was damp, and the touch leaves a bloom."},
	{Lift, "Lift a light out with a thirsty brush.", drying.Sheen, drying.Damp, false,
		"A soft light stays.",
		"It still swims: the colour flows back.",
		"It is dry: nothing comes up without water."},
	{Over, "Lay a second coat over it.", drying.TouchDry, drying.BoneDry, false,
		"The glaze lies clean on it.",
		"It was damp below: the brush lifts it and blooms come.",
		""},
	{Stamp, "Stamp a line over it.", drying.BoneDry, drying.BoneDry, false,
		"The line is crisp.",
		"Damp paper feathers the ink.",
		""},
}

// An Exercise is a wash that dries before one's eyes, and what is to be done with it. It
// follows from its seed alone.
type Exercise struct {
	Seed  uint64
	Task  Task
	Asks  string
	Paper string
	Room  drying.Room
	MM2   float64
	Load  drying.GramsPerSquareMetre
	Speed float64          // how many times faster than on the desk it dries
	Ends  [5]time.Duration // of puddle, gloss, sheen, damp, touch-dry, as it is shown
	rule  rule
	on    drying.Surface
}

// shownFor is how long an exercise takes to be bone dry as it is shown.
const shownFor = 24 * time.Second

// Of is the exercise of a seed: wash, paper, room and task are drawn from it.
func Of(seed uint64) *Exercise {
	r := rand.New(rand.NewPCG(seed, 0x9a7e))
	e := &Exercise{Seed: seed, rule: rules[r.IntN(len(rules))]}
	e.Task, e.Asks = e.rule.Task, e.rule.Asks
	papers := []struct {
		name string
		on   drying.Surface
	}{{"cotton", drying.Cotton}, {"wood pulp", drying.Pulp}, {"hot press", drying.Sealed}}
	p := papers[r.IntN(len(papers))]
	e.Paper, e.on = p.name, p.on
	e.Room = drying.Room{Celsius: float64(16 + r.IntN(10)), Humidity: float64(35+5*r.IntN(8)) / 100, Air: drying.StillRoom.Air}
	e.MM2 = []float64{100, 900, 7500}[r.IntN(3)]
	e.Load = []drying.GramsPerSquareMetre{drying.Glaze + 15, drying.Loaded, drying.WetOnWet, 115}[r.IntN(4)]
	dry := e.on.Until(drying.BoneDry, e.Load, e.MM2, e.Room)
	e.Speed = float64(dry) / float64(shownFor)
	for i, s := range []drying.Stage{drying.Gloss, drying.Sheen, drying.Damp, drying.TouchDry, drying.BoneDry} {
		e.Ends[i] = time.Duration(float64(e.on.Until(s, e.Load, e.MM2, e.Room)) / e.Speed)
	}
	return e
}

// Says says what lies on the desk.
func (e *Exercise) Says(in drying.Degrees) string {
	size := map[float64]string{100: "a petal", 900: "a thumb's length", 7500: "a hand's width"}[e.MM2]
	return fmt.Sprintf("%s of %s, %s and %.0f %%, shown %.0f times faster", size, e.Paper, in.Say(e.Room.Celsius), 100*e.Room.Humidity, e.Speed)
}

// Share is the share of water that is left at a moment as it is shown, of what was laid.
func (e *Exercise) Share(at time.Duration) float64 {
	real := time.Duration(float64(at) * e.Speed)
	return float64(e.on.LoadAfter(real, e.Load, e.MM2, e.Room) / e.Load)
}

// A Result is what came of acting at a moment.
type Result struct {
	Stage drying.Stage
	Good  bool
	Score int // 0 to 100
	Says  string
}

// Judge says what would have come of doing it at a moment as it is shown.
func (e *Exercise) Judge(at time.Duration) Result {
	real := time.Duration(float64(at) * e.Speed)
	stage := e.on.Stage(e.on.LoadAfter(real, e.Load, e.MM2, e.Room))
	from, to := e.bounds()
	switch {
	case stage < e.rule.from:
		return Result{stage, false, missBy(from - at), e.rule.sooner}
	case stage > e.rule.to:
		return Result{stage, false, missBy(at - to), e.rule.later}
	case e.rule.near: // the later the better
		share := float64(at-from) / float64(max(1, to-from))
		if share < 0.5 {
			return Result{stage, true, 60 + int(60*share), e.rule.sooner}
		}
		return Result{stage, true, min(100, 90+int(20*(share-0.5))), e.rule.well}
	}
	return Result{stage, true, 100, e.rule.well}
}

// bounds are when the task begins and ceases to go well, as it is shown.
func (e *Exercise) bounds() (from, to time.Duration) {
	ends := map[drying.Stage]time.Duration{drying.Puddle: e.Ends[0], drying.Gloss: e.Ends[1], drying.Sheen: e.Ends[2], drying.Damp: e.Ends[3], drying.TouchDry: e.Ends[4], drying.BoneDry: 24 * time.Hour}
	if e.rule.from > drying.Puddle {
		from = ends[e.rule.from-1]
	}
	return from, ends[e.rule.to]
}

// missBy scores how far off a miss was: half a second costs little, six all.
func missBy(d time.Duration) int {
	return int(math.Round(55 * max(0, 1-d.Seconds()/6)))
}
