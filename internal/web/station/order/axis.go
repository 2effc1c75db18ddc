package order

import (
	"cmp"
	"fmt"
	"slices"

	"chromaqua/core/order"
)

// What the axis leaves room for, in the chart's own units.
const (
	chartBroken = 46.0 // for a long time that is left out
	chartAfter  = 34.0 // at least, for what comes after it
	chartRight  = 20.0
)

// leastBreak is the shortest time that is left out.
const leastBreak = order.Seconds(3600)

// An axis puts times on the chart; a long time in which nobody has to be there is left
// out of it.
type axis struct {
	from, to order.Seconds // left out
	end      order.Seconds
}

// axisOf leaves out the longest time in which nobody has to be there, where it is longer
// than half of all the rest.
func axisOf(in *order.Instance, s *order.Schedule) axis {
	a := axis{end: s.Makespan}
	var busy [][2]order.Seconds
	for _, at := range s.Ops {
		if in.Ops[at.Op].Attended {
			busy = append(busy, [2]order.Seconds{at.Start, at.End})
		}
	}
	for _, h := range s.Heat {
		busy = append(busy, [2]order.Seconds{h.Start, h.End})
	}
	busy = append(busy, [2]order.Seconds{a.end, a.end})
	slices.SortFunc(busy, func(x, y [2]order.Seconds) int { return cmp.Compare(x[0], y[0]) })
	hands := order.Seconds(0)
	for _, b := range busy {
		if b[0]-hands > a.to-a.from {
			a.from, a.to = hands, b[0]
		}
		hands = max(hands, b[1])
	}
	if long := a.to - a.from; long <= max(leastBreak, (a.end-long)/2) {
		a.from, a.to = a.end, a.end
	}
	return a
}

func (a axis) broken() bool { return a.to > a.from }

// lying is how much of what is left out something lies by itself.
func (a axis) lying(in *order.Instance, s *order.Schedule) order.Seconds {
	from, to := a.to, a.from
	for _, at := range s.Ops {
		if !in.Ops[at.Op].Attended && at.Start < a.to && at.End > a.from {
			from, to = min(from, max(a.from, at.Start)), max(to, min(a.to, at.End))
		}
	}
	return max(0, to-from)
}

// x is where a time stands.
func (a axis) x(t order.Seconds) float64 {
	width := chartWidth - chartLeft - chartRight
	if !a.broken() {
		return chartLeft + float64(t)*width/float64(max(1, a.end))
	}
	width -= chartBroken
	after := max(chartAfter, width*float64(a.end-a.to)/float64(max(1, a.end-a.to+a.from)))
	before := width - after
	switch {
	case t <= a.from:
		return chartLeft + float64(t)*before/float64(max(1, a.from))
	case t <= a.to:
		return chartLeft + before + chartBroken*float64(t-a.from)/float64(a.to-a.from)
	}
	return chartLeft + before + chartBroken + after*float64(t-a.to)/float64(max(1, a.end-a.to))
}

// ticks mark the axis in whole minutes that leave room for labels, but for what is left out
// and what is too close behind it.
func (a axis) ticks() (out []tickView) {
	const most, room = 6, 40.0
	shown := a.end - (a.to - a.from)
	step := order.Seconds(60)
	for _, m := range []order.Seconds{1, 2, 5, 10, 15, 20, 30, 60, 120, 240, 480, 1440} {
		step = m * 60
		if shown/step <= most {
			break
		}
	}
	for t := order.Seconds(0); t <= a.end; t += step {
		x := a.x(t)
		if a.broken() && t > a.from && (t < a.to || x-out[len(out)-1].X < room || a.end-t < step/2) {
			continue
		}
		out = append(out, tickView{x, fmt.Sprintf("%d:%02d", t/3600, t/60%60)})
	}
	return out
}
