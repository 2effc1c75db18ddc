package steps_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"chromaqua/core/card"
	"chromaqua/core/order"
	"chromaqua/core/panel"
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
	assert.Equal(t, "both cards", steps.Turn{Copies: []int{1, 0}}.On(2))
	assert.Equal(t, "all 3 cards", steps.Turn{Copies: []int{2, 1, 0}}.On(3))
}

// A bench under way knows its steps again: a title that begins with its piece has the key it
// had without, and says it of each of two pieces.
func TestKeysDoWithoutThePieceInATitle(t *testing.T) {
	key := func(title string, item int) string {
		p := &steps.Plan{
			Pieces: []panel.Piece{{ID: card.ThePanel, Name: card.ThePanel, Many: 1}, {ID: "p1", Name: "ray", Many: 2}},
			Steps:  []steps.Step{{Kind: steps.Emboss, Title: title, Piece: 1, Item: item}},
		}
		return p.Keys()[0]
	}
	assert.Equal(t, key("Melt the powder", 1), key("Ray 2, melt the powder", 1))
	assert.NotEqual(t, key("Ray 2, melt the powder", 1), key("Ray 1, melt the powder", 0))
	assert.NotEqual(t, key("Melt the powder", 1), key("Powder the ink", 1))
}
