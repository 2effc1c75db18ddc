// Package evening answers "on which evenings do I paint this?": an order cut into
// sittings where everything may rest.
package evening

import (
	"errors"
	"fmt"
	"time"

	"chromaqua/core/order"
)

// Limits of a wish.
const (
	MinEach = 10 * time.Minute
	MaxEach = 12 * time.Hour
	MaxDays = 200 // that a job is looked ahead
)

// A Wish is how the maker wants to work.
type Wish struct {
	Each  time.Duration // of one sitting
	Ready time.Time     // the day on which it must be ready, at any hour of it
	At    time.Duration // the hour of the evening, since midnight
}

// A Sitting is what is done in one go.
type Sitting struct {
	Begins time.Time
	Long   order.Seconds // attended work and the waits within
	Ops    []int         // indices into the schedule's operations
	Rests  []int         // of those, what lies by itself until the next sitting
	Over   bool          // longer than was asked for: nothing in it can rest
}

// ErrTooLate means that there are too few evenings left.
var ErrTooLate = errors.New("there are not enough evenings left")

// Cut cuts an order into sittings of the wished length, one a day, the last on the day
// before it must be ready. Where nothing may be parted a sitting is longer, and says so.
func Cut(in *order.Instance, s *order.Schedule, w Wish, now time.Time) ([]Sitting, error) {
	if w.Each < MinEach || w.Each > MaxEach {
		return nil, fmt.Errorf("a sitting is %.0f minutes to %.0f hours long", MinEach.Minutes(), MaxEach.Hours())
	}
	c := newCutter(in, s)
	var out []Sitting
	for from := 0; from < len(s.Ops); {
		to := c.fill(from, order.Floor(w.Each))
		long, rests := c.long(from, to)
		one := Sitting{Long: long, Rests: rests, Over: long > order.Floor(w.Each)}
		for i := from; i < to; i++ {
			one.Ops = append(one.Ops, i)
		}
		out = append(out, one)
		from = to
	}
	day := time.Date(w.Ready.Year(), w.Ready.Month(), w.Ready.Day(), 0, 0, 0, 0, now.Location())
	for k := range out {
		out[k].Begins = day.AddDate(0, 0, k-len(out)).Add(w.At)
	}
	if len(out) > 0 && out[0].Begins.Before(now.Add(-time.Hour)) {
		left := max(0, int(day.Sub(now).Hours()/24))
		return out, fmt.Errorf("%w: it takes %d sittings, and before that day there are %d; make them longer, or let it be ready later", ErrTooLate, len(out), left)
	}
	return out, nil
}

// cutter knows what may be parted.
type cutter struct {
	in   *order.Instance
	s    *order.Schedule
	op   map[int]*order.Op
	at   map[[2]int]int // index of an operation of a copy
	into map[int][]order.Arc
	near map[int][]int
	cut  []bool // before which index the work may rest
}

func newCutter(in *order.Instance, s *order.Schedule) *cutter {
	c := &cutter{in: in, s: s, op: map[int]*order.Op{}, at: map[[2]int]int{}, into: map[int][]order.Arc{}, near: in.Beside(), cut: make([]bool, len(s.Ops)+1)}
	for i := range in.Ops {
		c.op[in.Ops[i].ID] = &in.Ops[i]
	}
	for i, o := range s.Ops {
		c.at[[2]int{o.Copy, o.Op}] = i
	}
	for i := range c.cut {
		c.cut[i] = true
	}
	tie := func(a, b int) {
		for copy := range in.Copies {
			x, y := c.at[[2]int{copy, a}], c.at[[2]int{copy, b}]
			for i := min(x, y) + 1; i <= max(x, y); i++ {
				c.cut[i] = false
			}
		}
	}
	for _, a := range in.Arcs {
		c.into[a.To] = append(c.into[a.To], a)
		if a.Type == order.Wet {
			tie(a.From, a.To)
		}
	}
	for _, j := range in.Joins {
		tie(j.A, j.B)
	}
	return c
}

// fill is how far one gets in a sitting from an operation: to the last place where it may
// be cut, and to the first if none is in time.
func (c *cutter) fill(from int, each order.Seconds) int {
	best := 0
	for to := from + 1; to <= len(c.s.Ops); to++ {
		if !c.cut[to] {
			continue
		}
		long, _ := c.long(from, to)
		if best > 0 && long > each {
			return best
		}
		best = to
		if long > each {
			return best
		}
	}
	return best
}

// long is how long operations from…to take when all before is dry, and what of them lies
// by itself at the end. Heat dries as it does in the schedule.
func (c *cutter) long(from, to int) (end order.Seconds, rests []int) {
	type done struct{ end, touch, bone order.Seconds }
	was := map[[2]int]done{}
	brush, card, free := 0, -1, order.Seconds(0)
	for i := from; i < to; i++ {
		p := c.s.Ops[i]
		o := c.op[p.Op]
		t := free
		if o.Attended {
			if col := o.Color; col != 0 && col != brush {
				t, brush = t+c.in.Rinse, col
			}
			if at := p.Copy*order.MaxJobs + o.Job; card >= 0 && at != card {
				t += c.in.Swap
			}
		}
		for _, a := range c.into[p.Op] {
			if d, here := was[[2]int{p.Copy, a.From}]; here {
				t = max(t, d.end+a.Min)
				switch a.Type {
				case order.Dry:
					t = max(t, d.touch)
				case order.Bone:
					t = max(t, d.bone)
				}
			}
		}
		for _, n := range c.near[p.Op] {
			if d, here := was[[2]int{p.Copy, n}]; here {
				t = max(t, d.touch)
			}
		}
		d := done{end: t + o.Dur}
		d.touch, d.bone = d.end+c.dried(p, order.TouchDry), d.end+c.dried(p, order.BoneDry)
		was[[2]int{p.Copy, p.Op}] = d
		if o.Attended {
			free, card, end = d.end, p.Copy*order.MaxJobs+o.Job, d.end
		} else {
			rests = append(rests, i)
		}
	}
	return end, rests
}

// dried is how long after its end a coat is that dry in the schedule, heat included.
func (c *cutter) dried(p order.Placed, goal order.Goal) order.Seconds {
	return max(0, c.s.DryAt(c.in, p, goal)-p.End)
}
