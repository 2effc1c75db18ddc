package card_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/mask"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
)

// kept is a card with two areas and a zone, on which something is kept.
func kept(t testing.TB) (*card.Card, *card.Reserve) {
	c := card.New("kept", length.Millimetres)
	a, b := c.AddArea("Ground"), c.AddArea("Subject")
	wash := card.Wash{Technique: technique.Flat, Strength: "tea", Mix: []card.Part{{CI: "PB29", Parts: 1}}}
	c.Areas[0].Washes, c.Areas[1].Washes = []card.Wash{wash, wash}, []card.Wash{wash}
	z, err := c.AddZone(card.Zone{Shape: card.DotsAt, Width: length.Millimetre, Points: []card.UV{{U: 0.5, V: 0.5}}}, 100)
	require.NoError(t, err)
	_, err = c.AddReserve(card.Reserve{Name: "Moon", Way: mask.Fluid, Zones: []string{z}, Areas: []string{b}, From: []string{a}, Under: card.WashRef(a, 0)})
	require.NoError(t, err)
	require.NoError(t, c.Check())
	return c, &c.Reserves[0]
}

func TestReservesThatCannotBe(t *testing.T) {
	for name, spoil := range map[string]func(*card.Card, *card.Reserve){
		"a way nobody knows":   func(_ *card.Card, r *card.Reserve) { r.Way = "glue" },
		"nothing kept":         func(_ *card.Card, r *card.Reserve) { r.Zones, r.Areas = nil, nil },
		"no name":              func(_ *card.Card, r *card.Reserve) { r.Name = "" },
		"no such zone":         func(_ *card.Card, r *card.Reserve) { r.Zones = []string{"z9"} },
		"no such area":         func(_ *card.Card, r *card.Reserve) { r.From = []string{"a9"} },
		"no such wash":         func(_ *card.Card, r *card.Reserve) { r.Off = "a1/7" },
		"a cell off the piece": func(_ *card.Card, r *card.Reserve) { r.Cells = []card.Spot{{UV: card.UV{U: 1e6}}} },
		"another kind of mask": func(_ *card.Card, r *card.Reserve) {
			r.Own = &shelf.Own{Name: "pen", What: shelf.OwnMask, Like: "mask pen"}
		},
		"no mask at all":        func(_ *card.Card, r *card.Reserve) { r.Own = &shelf.Own{Name: "ink", What: shelf.OwnInk, Like: "dye"} },
		"an id that is taken":   func(_ *card.Card, r *card.Reserve) { r.ID = "a1" },
		"more than are planned": func(c *card.Card, r *card.Reserve) { c.Reserves = make([]card.Reserve, card.MaxReserves+1) },
	} {
		c, r := kept(t)
		spoil(c, r)
		assert.Error(t, c.Check(), name)
	}
	c, _ := kept(t)
	for n := len(c.Reserves); n < card.MaxReserves; n++ {
		_, err := c.AddReserve(card.Reserve{Name: "More", Areas: []string{"a1"}})
		require.NoError(t, err)
	}
	_, err := c.AddReserve(card.Reserve{Name: "More", Areas: []string{"a1"}})
	assert.ErrorContains(t, err, "are the most")
}

// What is gone is said no more of; what has nothing left is gone too.
func TestReservesAreTidied(t *testing.T) {
	c, _ := kept(t)
	c.Renumber("a1", func(n int) int { return n + 1 })
	assert.Equal(t, card.Ref("a1/2"), c.Reserves[0].Under)
	c.RemoveArea("a2")
	c.Areas[0].Washes = c.Areas[0].Washes[:1]
	c.Tidy()
	assert.Equal(t, card.Ref(""), c.Reserves[0].Under, "the wash is gone")
	assert.Empty(t, c.Reserves[0].Areas)
	require.NoError(t, c.Check())
	c.RemoveArea("a1")
	c.Tidy()
	assert.Empty(t, c.Reserves[0].From)
	c.RemoveZone(c.Zones[0].ID)
	c.Tidy()
	assert.Empty(t, c.Reserves)
	c, r := kept(t)
	c.RemoveReserve(r.ID)
	assert.Empty(t, c.Zones, "drawn for it alone")
	assert.Len(t, c.Areas, 2)
}

// A piece that is copied keeps what it keeps, under ids of its own; a file brings it back.
func TestReservesGoAlong(t *testing.T) {
	c, _ := kept(t)
	id, err := c.CopyPiece(card.ThePanel)
	require.NoError(t, err)
	p, err := c.PieceByID(id)
	require.NoError(t, err)
	require.Len(t, p.Reserves, 1)
	r := p.Reserves[0]
	assert.NotEqual(t, c.Reserves[0].ID, r.ID)
	assert.Equal(t, []string{p.Zones[0].ID}, r.Zones)
	assert.Equal(t, []string{p.Areas[0].ID}, r.From)
	assert.Equal(t, card.WashRef(p.Areas[0].ID, 0), r.Under)
	require.NoError(t, c.Check())
	doc, err := c.Encode()
	require.NoError(t, err)
	back, err := card.Decode(doc)
	require.NoError(t, err)
	assert.Equal(t, c.Reserves, back.Reserves)
	var plain map[string]any
	require.NoError(t, json.Unmarshal(doc, &plain))
	assert.InDelta(t, card.Version, plain["version"], 0)
}

// What is painted over lies below what comes on it.
func TestLetBelow(t *testing.T) {
	c, r := kept(t)
	r.From, r.Areas, r.Way = []string{"a2"}, []string{"a1"}, mask.Over
	require.NoError(t, c.LetBelow(r))
	assert.True(t, c.LiesOver("a1", "a2"))
	c, r = kept(t)
	require.NoError(t, c.LetBelow(r))
	assert.Empty(t, c.Over, "it lies so anyway, or is not painted over")
}
