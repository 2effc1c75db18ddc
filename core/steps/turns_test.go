package steps_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"chromaqua/core/order"
	"chromaqua/core/steps"
)

// What is done alike on several cards in a row is one step, and what lies unattended
// counts once, wherever it begins.
func TestTurns(t *testing.T) {
	p := &steps.Plan{Steps: make([]steps.Step, 3)}
	p.Steps[1].Unattended = true
	at := func(op, copy int) order.Placed { return order.Placed{Op: op, Copy: copy} }
	turns := p.Turns(&order.Schedule{Ops: []order.Placed{at(0, 0), at(0, 1), at(0, 3), at(1, 0), at(0, 2), at(1, 1), at(2, 2), at(2, 1), at(2, 3)}})
	var got []string
	for _, turn := range turns {
		got = append(got, fmt.Sprintf("%d: step %d on %s", turn.Number, turn.Step, turn.On(4)))
	}
	assert.Equal(t, []string{"1: step 0 on cards 1, 2 and 4", "2: step 1 on cards 1 to 2", "3: step 0 on card 3", "4: step 2 on cards 2 to 4"}, got)
	assert.Equal(t, []int{3, 5}, turns[1].Placed)
	assert.Empty(t, turns[0].On(1))
	assert.Equal(t, "all 2 cards", steps.Turn{Copies: []int{1, 0}}.On(2))
}
