package lesson_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/lesson"
	"chromaqua/core/photo"
	"chromaqua/core/pigment"
)

func painted(t testing.TB) *card.Card {
	c := card.New("x", length.Millimetres)
	for _, name := range []string{"Sky", "Rock"} {
		a, err := c.AreaByID(c.AddArea(name))
		require.NoError(t, err)
		a.Washes = []card.Wash{
			{Technique: card.Flat, Strength: pigment.Tea, Mix: []card.Part{{CI: "PB29", Parts: 1}}},
			{Technique: card.Lift},
		}
	}
	require.NoError(t, c.Check())
	return c
}

// A coat that was added is laid next time; an area that came out too pale is mixed stronger;
// what was as planned, is unsure or is gone teaches nothing.
func TestLessons(t *testing.T) {
	c := painted(t)
	all := lesson.From(c, []lesson.Added{{Area: "a1", Wash: 0}, {Area: "a1", Wash: 0}, {Area: "gone", Wash: 0}, {Area: "a2", Wash: 9}}, []lesson.Seen{
		{Area: "a1", Verdict: photo.Short, Sure: true}, // the coat settles it
		{Area: "a2", Verdict: photo.Paler, Sure: true}, {Area: "a2", Verdict: photo.Darker, Sure: true},
		{Area: "a2", Verdict: photo.AsPlanned, Sure: true}, {Area: "a2", Verdict: photo.Darker}, {Area: "gone", Verdict: photo.Paler, Sure: true},
	})
	require.Len(t, all, 2)
	assert.Equal(t, "Sky: a second coat of ultramarine", all[0].Says)
	assert.Equal(t, "Rock: milk instead of tea", all[1].Says)
	assert.NotEmpty(t, all[0].Why+all[1].Why)

	lesson.Take(c, all, []string{all[0].ID})
	require.NoError(t, c.Check())
	assert.Len(t, c.Areas[0].Washes, 3)
	assert.Equal(t, card.Glaze, c.Areas[0].Washes[1].Technique)
	assert.Equal(t, pigment.Tea, c.Areas[1].Washes[0].Strength, "only what was asked for")
	lesson.Take(c, all, []string{all[1].ID})
	assert.Equal(t, pigment.Milk, c.Areas[1].Washes[0].Strength)

	c.Areas[1].Washes[0].Strength = pigment.WeakTea
	assert.Empty(t, lesson.From(c, nil, []lesson.Seen{{Area: "a2", Verdict: photo.Darker, Sure: true}}), "it cannot be weaker")
	id, err := c.CopyPiece(card.ThePanel)
	require.NoError(t, err)
	p, err := c.PieceByID(id)
	require.NoError(t, err)
	on := lesson.From(c, nil, []lesson.Seen{{Area: p.Areas[0].ID, Verdict: photo.Paler, Sure: true}})
	require.Len(t, on, 1, "on pieces too")
}
