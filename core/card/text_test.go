package card_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/joint"
	"chromaqua/core/length"
	"chromaqua/core/mount"
)

// Words take the room of a plain face: 0.38 of a line for a letter, a whole for one of a script
// of squares, nothing for what stands over another.
func TestWordsTakeTheirRoom(t *testing.T) {
	for _, tc := range []struct {
		text string
		w, h float64
	}{
		{"calm waters", 11 * 0.38 * 8, 8},
		{"a", 8, 8},
		{"sea\nyou soon", 8 * 0.38 * 8, 16},
		{"海の日", 3 * 8, 8},
		{"e\u0301e\u0301e\u0301e\u0301", 4 * 0.38 * 8, 8},
		{"سلام", 4 * 0.38 * 8, 8},
	} {
		text := card.Text{Text: tc.text, Height: 8 * mm}
		size := text.Size()
		assert.InDelta(t, tc.w, size.W.MM(), 1e-9, tc.text)
		assert.InDelta(t, tc.h, size.H.MM(), 1e-9, tc.text)
	}
	long := card.Text{Text: "  with every\ntide a thought of you "}
	assert.Equal(t, "“with every tide a though…”", long.Words())
	assert.Equal(t, "“hi”", (&card.Text{Text: "hi"}).Words())
}

// What cannot be written, or set, says why.
func TestWordsAndEmbellishmentsThatCannotBe(t *testing.T) {
	good := func() *card.Text { return &card.Text{Text: "hello", By: card.TextStamped, Height: 6 * mm} }
	for why, spoil := range map[string]func(*card.Text){
		"are missing":         func(x *card.Text) { x.Text = " \n " },
		"at most 500":         func(x *card.Text) { x.Text = strings.Repeat("e", card.MaxText+1) },
		"at most 20 lines":    func(x *card.Text) { x.Text = strings.Repeat("e\n", card.MaxTextLines) },
		"cannot be written":   func(x *card.Text) { x.Text = "a\x07b" },
		"no way of putting":   func(x *card.Text) { x.By = "sung" },
		"high or more":        func(x *card.Text) { x.Height = mm / 2 },
		"1 to 6 times":        func(x *card.Text) { x.Times = 7 },
		"far off":             func(x *card.Text) { x.X = -3 * length.Max },
		"no ink \"ketchup\"":  func(x *card.Text) { x.Ink = "ketchup" },
		"far off their piece": func(x *card.Text) { x.Turn = 400 },
	} {
		c := whole()
		text := good()
		c.AddAct(card.Handling{Kind: card.PutWords, Text: text})
		require.NoError(t, c.Check())
		spoil(text)
		assert.ErrorContains(t, c.Check(), why)
	}
	for why, x := range map[string]card.Handling{
		"too little":        {Kind: card.PutWords},
		"or too much":       {Kind: card.Flatten, Text: good()},
		"says too little":   {Kind: card.Embellish},
		"no act":            {Kind: "polish"},
		"no embellishment":  {Kind: card.Embellish, Item: &card.Embellishment{Kind: "anchor"}},
		"1 to 500":          {Kind: card.Embellish, Item: &card.Embellishment{Kind: joint.Gem, Count: 10_000}},
		"stands up to":      {Kind: card.Embellish, Item: &card.Embellishment{Kind: joint.Gem, Height: 3 * length.Inch}},
		"far off its piece": {Kind: card.Embellish, Item: &card.Embellishment{Kind: joint.Gem, X: 3 * length.Max}},
		"embellishment":     {Kind: card.Embellish, Item: &card.Embellishment{Kind: joint.Gem, Name: strings.Repeat("x", 200)}},
	} {
		c := whole()
		c.AddAct(x)
		assert.ErrorContains(t, c.Check(), why)
	}
	c := whole()
	for range card.MaxActs + 1 {
		c.AddAct(card.Handling{Kind: card.Flatten})
	}
	assert.ErrorContains(t, c.Check(), "more than 40")
}

// Every kind of embellishment is known whole; the highest of them makes the card as thick.
func TestEmbellishmentsMakeTheCardThick(t *testing.T) {
	for _, f := range joint.Items() {
		assert.NotEmpty(t, f.How, f.Item)
		assert.Positive(t, f.Each, f.Item)
		assert.Positive(t, f.Height, f.Item)
	}
	c := whole()
	c.Extra = 0
	assert.Zero(t, c.Highest())
	c.AddAct(card.Handling{Kind: card.Embellish, Item: &card.Embellishment{Kind: joint.Sequin, Count: 5}})
	assert.Equal(t, mm, c.Highest())
	id, err := c.AddPiece(card.WholeCard)
	require.NoError(t, err)
	p, err := c.PieceByID(id)
	require.NoError(t, err)
	p.Acts = []card.Handling{{ID: "x9", Kind: card.Embellish, Item: &card.Embellishment{Kind: joint.Gem, Height: 4 * mm}}}
	require.NoError(t, c.Check())
	assert.Equal(t, 4*mm, c.Highest())
	high := mount.Body(c).Thickness()
	p.Acts = nil
	c.Acts = nil
	assert.Equal(t, high-4*mm, mount.Body(c).Thickness())
	c.Extra = 6 * mm
	assert.Equal(t, 6*mm, c.Highest())
	p.Count = 2
	assert.ErrorContains(t, c.Check(), "the whole card is one")
}

// What is printed lies below all else; other words above all paint, until the maker puts them
// elsewhere.
func TestWordsLieWhereTheyArePut(t *testing.T) {
	c := whole()
	put := c.AddAct(card.Handling{Kind: card.PutWords, Text: &card.Text{Text: "b", By: card.TextWritten, Height: 6 * mm}})
	first := c.AddAct(card.Handling{Kind: card.PutWords, Text: &card.Text{Text: "a", By: card.TextPrinted, Height: 6 * mm}})
	deeds, err := c.Deeds()
	require.NoError(t, err)
	assert.Equal(t, card.Ref(first), deeds[0].Ref)
	assert.Equal(t, card.Ref(put), deeds[len(deeds)-1].Ref)
	assert.Equal(t, "to put “b” on, written", c.DeedName(card.Ref(put)))
	assert.Equal(t, "there", c.HandlingDone(card.Ref(put)))
	c.RemoveAct(put)
	_, err = c.ActByID(put)
	assert.ErrorContains(t, err, "taken away")
}
