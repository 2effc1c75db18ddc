package run

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"chromaqua/core/order"
)

// The brush is rinsed and a card taken up before a step begins; neither is its pace.
func TestRinsingIsNoPace(t *testing.T) {
	took := func(change func(*Work), done map[int]int, last int) order.Seconds {
		w := small(t)
		change(w)
		s := w.Of(past(done), dusk.Add(3000*time.Second), nil)
		return s.coats[last].end - s.coats[last].start
	}
	same := func(w *Work) { w.In.Ops[ground].Color, w.In.Ops[leftSide].Color = 1, 1 }
	other := func(w *Work) { w.In.Ops[ground].Color, w.In.Ops[leftSide].Color = 1, 2 }
	both := map[int]int{ground: 70, leftSide: 140}
	assert.Equal(t, order.Seconds(60), took(same, both, ground), "the brush is clean at first, and has another colour to take up")
	assert.Equal(t, order.Seconds(70), took(same, both, leftSide))
	assert.Equal(t, order.Seconds(60), took(other, both, leftSide))
	assert.Equal(t, order.Seconds(70), took(func(w *Work) {}, both, leftSide), "clean water needs none")
	assert.Equal(t, order.Seconds(55), took(func(w *Work) { other(w); w.In.Ops[leftSide].Job = 1 }, both, leftSide), "it is another card")
	assert.Equal(t, order.Seconds(0), took(other, map[int]int{ground: 70, leftSide: 75}, leftSide), "done before that could be")
	between := func(w *Work) { other(w); w.In.Ops[rightSide].Color = 1 }
	assert.Equal(t, order.Seconds(60), took(between, map[int]int{ground: 70, leftSide: 140, rightSide: 210}, rightSide), "the first colour again")
}
