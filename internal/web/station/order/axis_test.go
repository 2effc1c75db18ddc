package order

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"chromaqua/core/order"
)

// spans are placed operations, each from and to so many minutes; the third of three lies by
// itself.
func spans(all ...[3]int) *order.Schedule {
	s := &order.Schedule{}
	for _, a := range all {
		s.Ops = append(s.Ops, order.Placed{Op: a[0], Start: order.Seconds(60 * a[1]), End: order.Seconds(60 * a[2])})
		s.Makespan = max(s.Makespan, order.Seconds(60*a[2]))
	}
	return s
}

var threeOps = &order.Instance{Ops: []order.Op{{Attended: true}, {Attended: true}, {}}}

// The longest time in which nobody has to be there is left out, wherever it is, if it would
// crowd the rest.
func TestAxis(t *testing.T) {
	left := func(s *order.Schedule) [2]int {
		a := axisOf(threeOps, s)
		if !a.broken() {
			return [2]int{}
		}
		return [2]int{int(a.from) / 60, int(a.to) / 60}
	}
	assert.Equal(t, [2]int{40, 500}, left(spans([3]int{0, 0, 10}, [3]int{1, 30, 40}, [3]int{2, 40, 500})), "at the end")
	assert.Equal(t, [2]int{60, 500}, left(spans([3]int{0, 0, 10}, [3]int{2, 10, 500}, [3]int{1, 50, 60}, [3]int{0, 500, 510})), "what is done meanwhile is seen")
	assert.Equal(t, [2]int{10, 180}, left(spans([3]int{0, 0, 10}, [3]int{0, 180, 190})), "paint dries as long")
	assert.Equal(t, [2]int{}, left(spans([3]int{0, 0, 10}, [3]int{2, 10, 70})), "an hour is not left out")
	assert.Equal(t, [2]int{10, 71}, left(spans([3]int{0, 0, 10}, [3]int{2, 10, 71})))
	assert.Equal(t, [2]int{}, left(spans([3]int{0, 0, 170}, [3]int{2, 170, 255})), "nor half of the rest")
	assert.Equal(t, [2]int{170, 256}, left(spans([3]int{0, 0, 170}, [3]int{2, 170, 256})))
	assert.Equal(t, [2]int{40, 500}, left(spans([3]int{0, 0, 40}, [3]int{1, 5, 10}, [3]int{0, 500, 510})), "one in the other")
	heated := spans([3]int{0, 0, 10}, [3]int{2, 10, 500})
	heated.Heat = []order.Pass{{Start: 12 * 60, End: 14 * 60}}
	assert.Equal(t, [2]int{14, 500}, left(heated), "the heat tool is in somebody's hands")
	assert.Equal(t, [2]int{}, left(&order.Schedule{}))
}

// What lies by itself while nobody is there is told apart from waiting for paint.
func TestLying(t *testing.T) {
	lying := func(s *order.Schedule) int { return int(axisOf(threeOps, s).lying(threeOps, s)) / 60 }
	assert.Equal(t, 460, lying(spans([3]int{0, 0, 40}, [3]int{2, 40, 500})))
	assert.Equal(t, 100, lying(spans([3]int{0, 0, 40}, [3]int{2, 60, 160}, [3]int{0, 500, 510})))
	assert.Equal(t, 130, lying(spans([3]int{0, 0, 40}, [3]int{2, 60, 160}, [3]int{2, 90, 190}, [3]int{0, 500, 510})), "two at once")
	assert.Equal(t, 440, lying(spans([3]int{0, 0, 10}, [3]int{2, 10, 500}, [3]int{1, 50, 60}, [3]int{0, 500, 510})))
	assert.Zero(t, lying(spans([3]int{0, 0, 40}, [3]int{0, 500, 510})))
	assert.Zero(t, lying(spans([3]int{0, 0, 40}, [3]int{2, 40, 60})))
}

// Before and behind what is left out have room by their length; labels do not cover each
// other.
func TestTicks(t *testing.T) {
	labels := func(s *order.Schedule) (out []string) {
		last := -100.0
		for _, k := range axisOf(threeOps, s).ticks() {
			assert.Greater(t, k.X, last+30)
			last = k.X
			out = append(out, k.Label)
		}
		return out
	}
	assert.Equal(t, []string{"0:00", "0:05", "0:10", "0:15", "0:20", "0:25", "0:30"}, labels(spans([3]int{0, 0, 30})))
	assert.Equal(t, []string{"0:00", "0:30", "1:00", "8:00", "8:30", "9:00"}, labels(spans([3]int{0, 0, 70}, [3]int{2, 70, 470}, [3]int{0, 470, 570})))
	assert.Equal(t, []string{"0:00", "0:15", "0:30", "0:45", "1:00"}, labels(spans([3]int{0, 0, 70}, [3]int{2, 70, 470}, [3]int{0, 470, 475})))
	s := spans([3]int{0, 0, 70}, [3]int{2, 70, 470}, [3]int{0, 470, 570})
	a := axisOf(threeOps, s)
	assert.InDelta(t, chartLeft, a.x(0), 1e-9)
	assert.InDelta(t, chartWidth-chartRight, a.x(a.end), 1e-9)
	assert.InDelta(t, chartBroken, a.x(a.to)-a.x(a.from), 1e-9)
	assert.InDelta(t, float64(100)/70, (a.x(a.end)-a.x(a.to))/(a.x(a.from)-a.x(0)), 1e-9)
	a = axisOf(threeOps, spans([3]int{0, 0, 70}, [3]int{2, 70, 470}, [3]int{0, 470, 475}))
	assert.InDelta(t, chartAfter, a.x(a.end)-a.x(a.to), 1e-9)
}
