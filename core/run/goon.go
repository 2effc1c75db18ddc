package run

import (
	"context"
	"math"

	"chromaqua/core/order"
	"chromaqua/core/order/solver"
)

// GoOn puts what is left in order again, beginning with the old order, in so many tries;
// with none, in as many as a screen has time for.
func (s *State) GoOn(ctx context.Context, old *order.Schedule, tries int) (*order.Replanned, error) {
	in := s.rescaled()
	if tries == 0 {
		tries = solver.ReplanTries(in)
	}
	return solver.Replan(ctx, in, old, s.progress(in), solver.Budget{Iterations: tries, Seed: 1})
}

// rescaled is the instance with times as they are expected by now: drying in this room
// and with what was learned, and steps at the maker's pace.
func (s *State) rescaled() *order.Instance {
	in := *s.In
	in.Ops = append([]order.Op(nil), in.Ops...)
	in.Arcs = append([]order.Arc(nil), in.Arcs...)
	in.Joins = append([]order.Join(nil), in.Joins...)
	by := make([]float64, len(in.Ops))
	up := func(t order.Seconds, f float64) order.Seconds {
		return min(order.MaxSeconds, order.Seconds(math.Ceil(float64(t)*f-1e-9)))
	}
	down := func(t order.Seconds, f float64) order.Seconds {
		return min(order.MaxSeconds, order.Seconds(float64(t)*f+1e-9))
	}
	for i := range in.Ops {
		o := &in.Ops[i]
		f, _ := s.usual(i)
		by[i] = f / s.speed[i]
		o.Dry, o.Bone = up(o.Dry, by[i]), up(o.Bone, by[i])
		if o.Attended {
			pace := s.pace[s.Plan(i).Pace(s.Ops[i].Step)].Factor() / s.Ops[i].pace.By
			o.Dur = max(1, up(o.Dur, pace))
		}
		if o.HeatDry > 0 {
			o.HeatDry, o.HeatBone = min(o.HeatDry, o.Dry), min(o.HeatBone, o.Bone)
		}
	}
	for i := range in.Arcs {
		if a := &in.Arcs[i]; a.Type == order.Wet {
			a.Clock, a.Max = up(a.Clock, by[a.From]), down(a.Max, by[a.From])
			a.Clock = min(a.Clock, a.Max)
		}
	}
	for i := range in.Joins {
		j := &in.Joins[i]
		j.Max = down(j.Max, by[j.A])
		if j.Back > 0 {
			j.Back = max(1, down(j.Back, by[j.B]))
		}
	}
	return &in
}

// progress is how far the order has been carried out, in the times of an instance as
// rescaled.
func (s *State) progress(in *order.Instance) order.Progress {
	was := order.Progress{Now: max(0, s.Now)}
	for op, c := range s.coats {
		if c == nil {
			continue
		}
		p := order.Past{Placed: order.Placed{Op: op, Start: c.start, End: max(c.start, c.end)}}
		switch {
		case c.skipped:
			p.Laid = -order.MaxSeconds
		default:
			f, _ := s.factor(c)
			usual, _ := s.usual(op)
			ran, open := s.clock(c, s.Now), float64(s.Ops[op].open)
			p.Laid = max(c.end, s.Now) - order.Seconds((ran-open*(f-usual))/s.speed[op])
			if c.met[dull] || c.warm[dull] {
				p.Laid = -order.MaxSeconds
			}
		}
		coat := order.CoatOf(p.Laid, in.Ops[op])
		coat.Touch, coat.Bone = s.dryAt(c, touch), s.dryAt(c, bone)
		p.Coat = &coat
		was.Done = append(was.Done, p)
	}
	if s.isOn {
		was.Done = append(was.Done, order.Past{
			Placed: order.Placed{Op: s.doing, Start: s.since, End: max(s.Now, s.since+in.Ops[s.doing].Dur)},
			Laid:   max(s.Now, s.since+in.Ops[s.doing].Dur),
		})
	}
	return was
}

func (s *State) dryAt(c *coat, goal int) order.Seconds {
	left, met := s.left(c, goal)
	if met == Surely && left == 0 {
		return c.end
	}
	return s.Now + left
}
