// Package reserve answers "to mask, to paint round, to paint over, or to put white on
// after?". It weighs the ways against each other: the minutes each takes, hands-on and
// waiting, and the chance that it spoils the panel.
//
// Chances are estimates that rise smoothly, so that a little more or less of anything flips
// no advice; tests of the maker's own outrank them where there are any.
package reserve

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"time"

	"chromaqua/core/cover"
	"chromaqua/core/length"
	"chromaqua/core/mask"
)

// A Case is one thing that is kept, and what it is kept from.
type Case struct {
	mask.Shape
	Unit length.Unit // reasons are told in

	GroundMM2    float64 // of the wash it is kept from
	Front, Along float64 // mm, how wide that is laid, and how far it is led
	Open         time.Duration
	Fill         float64 // belly of the brush, mm
	Pace         float64
	Dry          bool // hardly any water: a sponge, a stencil brush, stamping

	Shift float64 // ΔE00 that the wash below makes to what comes on it; 0 for what is lost in it
	White int     // coats of opaque white until it is as wanted; 0 where none is put on

	Pulp, Rough bool
	Lifts       float64       // share of tests in which fluid tore this paper; below 0 without any
	Unheated    time.Duration // more that the ground waits when no heat may come to it

	Chance     bool // places do not matter: dots that may fall anywhere
	Stamp      bool // it is there as a stamp, to be embossed clear
	Stencilled bool // it is there as a stencil
	Keeps      bool // what it keeps is a colour that lies there first
	Taped      bool // tape lies along it anyway
}

// An Option is one way of keeping it, with what speaks for it and against.
type Option struct {
	Way     mask.Way
	HandsOn time.Duration // more than with the ground laid freely
	Waiting time.Duration
	Risk    float64 // the chance that the panel is spoilt
	Score   float64 // minutes: hands-on, a fifth of the waiting, and the risk of an hour's work
	Reason  string  // in one line
	Barred  string  // why it is not feasible, "" for one that is
}

// What a minute of waiting and a spoilt panel weigh, and when two ways are as good.
const (
	waitWeighs = 0.2
	redo       = 60.0 // minutes
	nearShare  = 0.2
	nearMin    = 2.0
	shiftMost  = 9.0 // ΔE00, from which on nothing hides a wash
)

// ramp rises smoothly from 0 at lo to 1 at hi.
func ramp(x, lo, hi float64) float64 {
	u := min(1, max(0, (x-lo)/(hi-lo)))
	return u * u * (3 - 2*u)
}

// spoilt is the chance that one of several things goes wrong.
func spoilt(risks ...float64) float64 {
	well := 1.0
	for _, r := range risks {
		well *= 1 - min(0.99, max(0, r))
	}
	return 1 - well
}

// tooSmall is the chance that what is so narrow cannot be kept in a way.
func tooSmall(narrow, never, always float64) float64 { return 0.99 * (1 - ramp(narrow, never, always)) }

// Compare weighs all ways, the best first; ways that are not feasible come last.
func Compare(c Case) []Option {
	var out []Option
	for _, w := range mask.Ways() {
		o := c.option(w)
		o.Way = w
		o.Weigh()
		out = append(out, o)
	}
	slices.SortStableFunc(out, func(a, b Option) int { return cmp.Compare(a.Score, b.Score) })
	first := First(&c, out)
	best := out[first]
	copy(out[1:first+1], out[:first])
	out[0] = best
	return out
}

// Weigh sums an option up, anew where its minutes are known better.
func (o *Option) Weigh() {
	o.Score = o.HandsOn.Minutes() + waitWeighs*o.Waiting.Minutes() + redo*o.Risk
	if o.Barred != "" {
		o.Score = math.Inf(1)
	}
}

// First is which of the ways, the best first, is recommended: fluid never is on wood pulp
// where it can be painted round.
func First(c *Case, all []Option) int {
	if c.Pulp && all[0].Way.Facts().Soft {
		return max(0, slices.IndexFunc(all, func(o Option) bool { return o.Way == mask.Round && o.Barred == "" }))
	}
	return 0
}

// Either returns how many of the first options are as good as each other.
func Either(all []Option) int {
	n := 1
	for n < len(all) && all[n].Barred == "" && all[n].Score-all[0].Score <= max(nearMin, nearShare*all[0].Score) {
		n++
	}
	return n
}

// near words a length as the maker's ruler has it.
func (c *Case) near(mm float64) string { return length.FromMM(mm).Near(c.Unit) }

func (c *Case) option(w mask.Way) Option {
	switch w {
	case mask.Round:
		return c.round()
	case mask.Over:
		return c.over()
	case mask.After:
		return c.after()
	case mask.Tape:
		return c.tape()
	}
	return c.masked(w)
}

// waits is how long the front of the ground waits when so much edge is cut in along.
func (c *Case) waits(edge float64) float64 {
	wait := cover.Quick(c.Front, max(c.Along, 1), edge, cover.Hand{Fill: cover.Brush{Belly: c.Fill}, Pace: c.Pace})
	return cover.WaitOf(wait, c.Open)
}

// hardEdge is the chance that an edge that dries spoils the ground: two in three can be saved.
func hardEdge(rho float64) float64 { return cover.Likely(rho) * 0.35 }

// cutIn is how long some edge takes to be cut in along, and the chance that a stray brush
// spoils what is kept.
func (c *Case) cutIn(edge float64) (time.Duration, float64) {
	fine := 1 - ramp(c.Widest, 1.5, 4)
	speed := cover.CutIn - fine*(cover.CutIn-cover.Slowly)
	strays := edge * (1.0/1500 + fine*(1.0/400-1.0/1500))
	// A stray takes minutes to lift, and is seen by how far it shifts the colour.
	return seconds(c.Pace * (edge/speed + 2*float64(c.Pieces))), strays * 4.5 / redo * max(0.25, ramp(c.Shift, 2, 12))
}

func (c *Case) round() Option {
	if c.Dry {
		return Option{Barred: "a sponge or a stencil brush cannot go round anything"}
	}
	hands, slip := c.cutIn(c.EdgeMM)
	rho := c.waits(c.EdgeMM)
	crook := 1 - math.Exp(-c.Straight/1500)
	share := min(1, c.EdgeMM*3/c.GroundMM2)
	o := Option{HandsOn: hands, Risk: spoilt(hardEdge(rho), slip, tooSmall(c.Narrow, 0.8, 2.4), crook, 0.25*ramp(share, 0.25, 0.8), 0.01)}
	o.Reason = c.near(c.EdgeMM) + " to cut in along"
	switch {
	case c.Narrow < 1.2:
		o.Reason += "; it is too fine for a brush to go round"
	case rho > 0.8:
		o.Reason += ", so that the wash’s edge dries before it is met"
	case crook > 0.08:
		o.Reason += ", " + c.near(c.Straight) + " of it straight, which no free hand keeps"
	case share > 0.5:
		o.Reason += ": the wash is laid in bits"
	default:
		o.Reason += ", and the edge stays open"
	}
	return o
}

func (c *Case) over() Option {
	switch {
	case c.Keeps:
		return Option{Barred: "it would cover the colour that is to be kept"}
	case c.Shift > shiftMost:
		return Option{Barred: "what comes on it does not hide the wash"}
	case c.Dry:
		return Option{Barred: "there is nothing to come on it"}
	}
	o := Option{Risk: spoilt(0.9 * ramp(c.Shift, 2.5, shiftMost)), Reason: "what comes on it hides the wash"}
	if c.Shift > 4 {
		o.Reason = "the wash would show through a little"
	}
	return o
}

func (c *Case) after() Option {
	if c.White == 0 {
		return Option{Barred: "no coat of white makes it as it is wanted"}
	}
	n := float64(max(1, c.Pieces))
	each := c.MM2 / n
	hands := float64(c.White) * (n*(1.5+1.5*ramp(each, 2, 30)) + c.MM2/20)
	if c.Chance {
		hands = 60
	}
	o := Option{
		HandsOn: seconds(hands), Waiting: time.Duration(c.White) * 4 * time.Minute,
		Risk:   spoilt(0.02*float64(c.White), 0.9*ramp(each, 4, 120), 0.3*ramp(c.MM2, 150, 1500)),
		Reason: fmt.Sprintf("%d coats, since white sinks", c.White),
	}
	if c.White == 1 {
		o.Reason = "one coat"
	}
	if each > 4 {
		o.Reason += "; on places of that size it looks chalky"
	}
	return o
}

// tape lies where the outline is straight; the rest is cut in along.
func (c *Case) tape() Option {
	if c.Straight < mask.LeastTape || c.Runs == 0 {
		return Option{Barred: "nothing of it is straight for long enough"}
	}
	curved := max(0, c.EdgeMM-c.Straight)
	hands, slip := time.Duration(0), 0.0
	if curved > 0.03*c.EdgeMM {
		hands, slip = c.cutIn(curved)
	} else {
		curved = 0
	}
	t := mask.Tape.Times(c.Shape)
	seep, tear := 0.006*float64(c.Runs), 0.005
	if c.Rough {
		seep *= 3
	}
	if c.Pulp {
		tear = 0.05
	}
	o := Option{HandsOn: hands + t.Lay + t.Off, Waiting: 3 * time.Minute, Risk: spoilt(seep, tear, slip, hardEdge(c.waits(curved)), 0.95*ramp(curved/c.EdgeMM, 0.6, 0.9))}
	o.Reason = c.near(c.Straight) + " of it are straight"
	if c.Taped {
		o.Waiting = 0
		o.Reason += ", and the tape lies there anyway"
	}
	if curved > 0 {
		o.Reason += "; " + c.near(curved) + " are cut in along"
	}
	return o
}

// lifting is the chance that fluid takes paper along.
func (c *Case) lifting() float64 {
	lift := 0.012
	if c.Pulp {
		lift = 0.35
	}
	if c.Rough {
		lift += 0.01
	}
	if c.Lifts >= 0 {
		lift = c.Lifts
	}
	return lift
}

// masked are the masks that cover all of it.
func (c *Case) masked(w mask.Way) Option {
	f, t := w.Facts(), w.Times(c.Shape)
	o := Option{HandsOn: t.Lay + t.Off, Waiting: t.Dry + c.Unheated}
	if f.Heat {
		o.Waiting = 3 * time.Minute
	}
	freed := hardEdge(c.waits(0))
	switch w {
	case mask.Pen:
		o.Risk = spoilt(c.lifting(), freed, tooSmall(c.Narrow, 0.3, 0.6), 0.6*ramp(c.MM2, 150, 900), 0.5*ramp(c.Narrow, 3, 8))
		o.Reason = "a dab each"
		if c.MM2 > 300 || c.Narrow > 4 {
			o.Reason = "so large a place is dabbed unevenly"
		}
	case mask.Fluid:
		ragged := 0.015 + 0.00002*c.EdgeMM
		o.Risk = spoilt(c.lifting()*(1+ramp(c.MM2, 500, 4000)), ragged, freed, tooSmall(c.Narrow, 0.5, 1.2))
		o.Reason = "the wash runs freely over any outline"
	case mask.Spatter:
		if !c.Chance {
			return Option{Barred: "drops fall where they will"}
		}
		if 2*c.Widest > f.Most {
			return Option{Barred: "drops are not so large"}
		}
		o.Risk, o.Reason = spoilt(c.lifting(), 0.02, freed), "seconds for as many dots as are wanted, of paper white"
	case mask.Paper:
		wet := 0.6
		if c.Dry {
			wet = 0.01
		}
		o.Waiting = 0
		o.Risk = spoilt(wet, tooSmall(c.Narrow, 2, 5))
		o.Reason = "cut once, used again"
		if !c.Dry {
			o.Reason = "a wet wash creeps under paper"
		}
	case mask.Film:
		grip := 0.04
		if c.Rough {
			grip = 0.3
		} else if c.Pulp {
			grip = 0.12
		}
		o.HandsOn += time.Minute
		o.Risk = spoilt(grip, 0.02, freed, tooSmall(c.Narrow, 2, 4))
		o.Reason = "it is cut at the line, by hand or by a machine"
		if c.Rough {
			o.Reason = "film does not hold on rough paper"
		}
	case mask.Stencil:
		if !c.Stencilled {
			return Option{Barred: "there is no stencil of it"}
		}
		o.Waiting, o.Reason = 0, "a stencil of it is there"
		o.HandsOn += seconds(c.GroundMM2 / 2500 * 30)
		if o.Risk = 0.02; !c.Dry {
			o.Risk, o.Reason = 0.5, "a wet wash creeps under a stencil"
		}
	case mask.Resist:
		if !c.Stamp {
			return Option{Barred: "there is no stamp of it"}
		}
		o.Waiting = 0
		if o.Risk, o.Reason = spoilt(0.02, 0.03), "stamped at once, and it keeps the colour under it"; !c.Keeps {
			o.Risk, o.Reason = spoilt(0.25, 0.03), "it is on the paper for good, raised and glossy"
		}
	}
	if f.Soft && c.Pulp {
		o.Reason = "fluid tears wood pulp"
	} else if f.Soft && c.Lifts > 0.2 {
		o.Reason = "fluid tore this paper in your own test"
	} else if c.Unheated > 5*time.Minute && f.Soft {
		o.Reason += "; no heat until it is off"
	}
	return o
}

func seconds(s float64) time.Duration { return time.Duration(s * float64(time.Second)) }
