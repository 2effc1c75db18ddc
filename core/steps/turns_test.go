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
	p := &steps.Plan{Steps: make([]steps.Step, 3), Instance: &order.Instance{Copies: cards, Ops: make([]order.Op, 3), Arcs: []order.Arc{{From: 0, To: 1}, {From: 1, To: 2}}}}
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

// Before a turn the hands wait, beside the heat tool and a rinse; what lies unattended keeps
// nobody.
func TestPauses(t *testing.T) {
	p := &steps.Plan{Steps: make([]steps.Step, 4), Instance: &order.Instance{Copies: 1, Rinse: 5, Ops: make([]order.Op, 4)}}
	p.Steps[1].Unattended, p.Instance.Ops[3].Color = true, 2
	turns := p.Turns(&order.Schedule{
		Ops:  []order.Placed{{Op: 0, Start: 0, End: 30}, {Op: 1, Start: 30, End: 500}, {Op: 2, Start: 100, End: 110}, {Op: 3, Start: 115, End: 120}},
		Heat: []order.Pass{{Op: 0, Start: 30, End: 50}, {Op: 0, Start: 60, End: 64}},
	})
	var waits, heated []order.Seconds
	for _, turn := range turns {
		waits, heated = append(waits, turn.Wait), append(heated, turn.Heated())
	}
	assert.Equal(t, []order.Seconds{0, 0, 46, 0}, waits)
	assert.Equal(t, []order.Seconds{0, 0, 24, 0}, heated)
	assert.True(t, turns[2].Waits())
	assert.False(t, turns[3].Waits())
	assert.False(t, steps.Turn{Wait: 19}.Waits(), "too short to be worth saying")
	assert.Equal(t, order.Seconds(115), turns[3].Start)
	assert.Equal(t, order.Seconds(120), turns[3].End)
}

// What lies is left alone while the next turn is taken; not where that waits for the first
// card to be taken up.
func TestMeanwhile(t *testing.T) {
	p := &steps.Plan{Steps: make([]steps.Step, 3), Instance: &order.Instance{Copies: 2, Ops: make([]order.Op, 3)}}
	p.Steps[1].Unattended = true
	meanwhile := func(next order.Seconds) []bool {
		var out []bool
		for _, turn := range p.Turns(&order.Schedule{Ops: []order.Placed{
			{Op: 0, End: 10}, {Op: 0, Copy: 1, Start: 10, End: 20}, {Op: 1, Start: 20, End: 100}, {Op: 1, Copy: 1, Start: 30, End: 110}, {Op: 2, Start: next, End: next + 5},
		}}) {
			out = append(out, turn.Meanwhile)
		}
		return out
	}
	assert.Equal(t, []bool{false, true, false}, meanwhile(99))
	assert.Equal(t, []bool{false, false, false}, meanwhile(100), "the second card lies longer")
}

// What goes into the wet of a turn, and what is to run into it, is told of with its window;
// not what came before it, nor what waits until it is dry.
func TestFollowers(t *testing.T) {
	p := &steps.Plan{Steps: make([]steps.Step, 6), Instance: &order.Instance{
		Copies: 1, Ops: make([]order.Op, 6),
		Arcs: []order.Arc{
			{From: 1, To: 4, Type: order.Wet, Clock: 60, Max: 240}, {From: 1, To: 2, Type: order.Wet, Max: 135},
			{From: 1, To: 3, Type: order.Wet, Max: 300}, {From: 1, To: 5, Type: order.Dry},
		},
		Joins: []order.Join{{A: 0, B: 1, Max: 30}, {A: 2, B: 1, Max: 50, Back: 70}, {A: 5, B: 0, Max: 90}, {A: 1, B: 5, Max: 80}},
	}}
	p.Steps[3].Kind = steps.Emboss
	s := &order.Schedule{}
	for op := range p.Steps {
		s.Ops = append(s.Ops, order.Placed{Op: op})
	}
	turns := p.Turns(s)
	said := func(i int) (out []string) {
		for _, f := range p.Followers(turns, turns[i]) {
			out = append(out, fmt.Sprintf("%d %s, %s", f.Number, f.While, f.Window()))
		}
		return out
	}
	assert.Equal(t, []string{"2 while it shines, within about 30 s", "6 while it shines, within about 90 s"}, said(0))
	assert.Equal(t, []string{
		"3 while it shines, within about 2 1/2 min", "4 while the ink is sticky, within about 5 min", "5 once its gloss is gone, after about 60 s to 4 min", "6 while it shines, within about 80 s",
	}, said(1))
	assert.Empty(t, said(2), "the other one was laid before")
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
