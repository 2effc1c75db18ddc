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

// turnsOf are the turns of three steps, the second unattended and what the third waits for,
// in the order of pairs of a step and a card.
func turnsOf(cards int, ops ...[2]int) (out []string, turns []steps.Turn) {
	p := &steps.Plan{Steps: make([]steps.Step, 3), Instance: &order.Instance{Copies: cards, Arcs: []order.Arc{{From: 0, To: 1}, {From: 1, To: 2}}}}
	p.Steps[1].Unattended = true
	s := &order.Schedule{}
	for _, o := range ops {
		s.Ops = append(s.Ops, order.Placed{Op: o[0], Copy: o[1]})
	}
	turns = p.Turns(s)
	for _, t := range turns {
		out = append(out, fmt.Sprintf("%d: step %d on %s", t.Number, t.Step, t.On(cards)))
	}
	return out, turns
}

// What is done alike on several cards in a row is one step, and so is what lies unattended,
// once the last card is ready for it.
func TestTurns(t *testing.T) {
	got, turns := turnsOf(3, [2]int{0, 0}, [2]int{1, 0}, [2]int{0, 2}, [2]int{1, 2}, [2]int{0, 1}, [2]int{1, 1}, [2]int{2, 2}, [2]int{2, 0}, [2]int{2, 1})
	assert.Equal(t, []string{"1: step 0 on all 3 cards", "2: step 1 on all 3 cards", "3: step 2 on all 3 cards"}, got)
	assert.Equal(t, []int{1, 3, 5}, turns[1].Placed)
	assert.Equal(t, []int{0, 2, 1}, turns[1].Copies)
}

// A card does not lie under its weight in its tape, nor is it mounted before: what lies
// unattended begins sooner where something waits for it, and where the schedule ends.
func TestWhatLiesUnattendedBeginsWhenItIsNeeded(t *testing.T) {
	got, _ := turnsOf(3, [2]int{0, 0}, [2]int{1, 0}, [2]int{2, 0}, [2]int{0, 1}, [2]int{1, 1}, [2]int{0, 2}, [2]int{1, 2}, [2]int{2, 1}, [2]int{2, 2})
	assert.Equal(t, []string{"1: step 0 on card 1", "2: step 1 on card 1", "3: step 2 on card 1", "4: step 0 on cards 2 and 3", "5: step 1 on cards 2 and 3", "6: step 2 on cards 2 and 3"}, got)
	got, _ = turnsOf(3, [2]int{0, 0}, [2]int{1, 0}, [2]int{0, 1})
	assert.Equal(t, []string{"1: step 0 on cards 1 and 2", "2: step 1 on card 1"}, got)
}

func TestCardsOfATurn(t *testing.T) {
	on := func(of int, copies ...int) string { return steps.Turn{Copies: copies}.On(of) }
	assert.Empty(t, on(1, 0))
	assert.Equal(t, "both cards", on(2, 1, 0))
	assert.Equal(t, "all 3 cards", on(3, 2, 1, 0))
	assert.Equal(t, "cards 1 to 3", on(4, 2, 0, 1))
	assert.Equal(t, "cards 2 and 3", on(4, 2, 1))
	assert.Equal(t, "cards 1, 2 and 4", on(5, 3, 0, 1))
}

// A bench under way knows its steps again: a title that begins with its piece has the key it
// had without, and says it of each of two pieces.
func TestKeysDoWithoutThePieceInATitle(t *testing.T) {
	keyOf := func(piece, title string, item int) string {
		p := &steps.Plan{
			Pieces: []panel.Piece{{ID: card.ThePanel, Name: card.ThePanel, Many: 1}, {ID: "p1", Name: piece, Many: 2}},
			Steps:  []steps.Step{{Kind: steps.Emboss, Title: title, Piece: 1, Item: item}},
		}
		return p.Keys()[0]
	}
	key := func(title string, item int) string { return keyOf("ray", title, item) }
	assert.Equal(t, key("Melt the powder", 1), key("Ray 2, melt the powder", 1))
	assert.NotEqual(t, key("Ray 2, melt the powder", 1), key("Ray 1, melt the powder", 0))
	assert.NotEqual(t, key("Melt the powder", 1), key("Powder the ink", 1))
	assert.Equal(t, key("Cut ray 2 and tape it down", 1), keyOf("skate", "Cut skate 2 and tape it down", 1), "its piece was renamed meanwhile")
	stamped := func(title string) string {
		p := &steps.Plan{Pieces: []panel.Piece{{ID: card.ThePanel}}, Steps: []steps.Step{{Kind: steps.Line, Deed: "i1", Title: title}}}
		return p.Keys()[0]
	}
	assert.Equal(t, stamped("Stamp Crab (1 of 2)"), stamped("Stamp Crab (1 of 3)"), "another stamp comes over it")
	assert.NotEqual(t, key("Cut ray 2 and tape it down", 1), key("Cut ray 2", 1))
}
