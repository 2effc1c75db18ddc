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
	"chromaqua/core/technique"
)

func painted(t testing.TB) *card.Card {
	c := card.New("x", length.Millimetres)
	for _, name := range []string{"Sky", "Rock"} {
		a, err := c.AreaByID(c.AddArea(name))
		require.NoError(t, err)
		a.Washes = []card.Wash{
			{Technique: technique.Flat, Strength: pigment.Tea, Mix: []card.Part{{CI: "PB29", Parts: 1}}},
			{Technique: technique.Lift},
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
	assert.Equal(t, technique.Glaze, c.Areas[0].Washes[1].Technique)
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

// Several coats of one area, and a strength beside them, go to the washes they are about.
func TestLessonsOfOneArea(t *testing.T) {
	c := painted(t)
	a := &c.Areas[0]
	wash := func(kind technique.Kind, ci string) card.Wash {
		return card.Wash{Technique: kind, Strength: pigment.Tea, Mix: []card.Part{{CI: ci, Parts: 1}}}
	}
	a.Washes = []card.Wash{wash(technique.Flat, "PB29"), wash(technique.WetOnWet, "PV19"), wash(technique.Glaze, "PY150"), wash(technique.Stipple, "PR254")}
	all := lesson.From(c, []lesson.Added{{"a1", 0}, {"a1", 1}, {"a1", 3}, {"a1", -1}, {"a1", 4}}, []lesson.Seen{{"a1", photo.Paler, true}, {"a2", photo.Darker, true}, {"a2", photo.AsPlanned, true}})
	var ids, says []string
	for _, l := range all {
		ids, says = append(ids, l.ID), append(says, l.Says)
	}
	assert.Equal(t, []string{
		"Sky: a second coat of ultramarine", "Sky: a second coat of rose", "Sky: a second coat of bright red",
		"Sky: milk instead of tea", "Rock: weak tea instead of tea",
	}, says)
	assert.Equal(t, "in the photo it is too pale", all[3].Why)
	assert.Equal(t, "in the photo it is too dark", all[4].Why)
	lesson.Take(c, all, ids)
	require.NoError(t, c.Check())
	var laid []string
	for _, w := range c.Areas[0].Washes {
		laid = append(laid, w.Mix[0].CI+" "+string(w.Technique)+" "+string(w.Strength))
	}
	assert.Equal(t, []string{
		"PB29 flat tea", "PB29 glaze tea", "PV19 wet-on-wet tea", "PV19 glaze tea", "PY150 glaze milk", "PR254 stipple tea", "PR254 stipple tea",
	}, laid)
	assert.Equal(t, pigment.WeakTea, c.Areas[1].Washes[0].Strength)
	c.Areas[0].Washes[0].Mix[0].CI = "PBk7"
	assert.Equal(t, "PB29", c.Areas[0].Washes[1].Mix[0].CI, "a coat has a mix of its own")
}

// A coat over a wash that is the area's strongest settles that it was too pale; a full area takes
// no more.
func TestWhatALessonSettles(t *testing.T) {
	c := painted(t)
	pale := []lesson.Seen{{"a1", photo.Paler, true}}
	assert.Len(t, lesson.From(c, []lesson.Added{{"a1", 0}}, pale), 1)
	c.Areas[0].Washes[1] = card.Wash{Technique: technique.Glaze, Strength: pigment.Paste, Mix: []card.Part{{CI: "PB29", Parts: 1}}}
	assert.Empty(t, lesson.From(c, nil, pale), "it cannot be stronger")
	c.Areas[0].Washes[1].Strength = "dust"
	assert.Empty(t, lesson.From(c, nil, pale), "of a strength that is not known nothing is said")
	coat := lesson.From(c, []lesson.Added{{"a1", 0}}, nil)
	for len(c.Areas[0].Washes) < card.MaxWashes {
		c.Areas[0].Washes = append(c.Areas[0].Washes, card.Wash{Technique: technique.Lift})
	}
	lesson.Take(c, coat, []string{coat[0].ID})
	assert.Len(t, c.Areas[0].Washes, card.MaxWashes)
	c.Areas[0].Washes = nil
	assert.Empty(t, lesson.From(c, nil, pale), "it is not painted any more")

	c = painted(t)
	assert.Empty(t, lesson.From(c, nil, []lesson.Seen{{"a1", photo.AsPlanned, true}}))
	all := lesson.From(c, []lesson.Added{{"gone", 0}, {"a1", 9}, {"a1", 0}, {"a1", 0}, {"a2", 1}}, []lesson.Seen{{"gone", photo.Paler, true}, {"a2", photo.Paler, true}})
	require.Len(t, all, 3, "what teaches nothing stops nothing")
	assert.Equal(t, "Rock: milk instead of tea", all[2].Says)
	c.Areas[1].Washes = c.Areas[1].Washes[:0]
	lesson.Take(c, all[2:], []string{all[2].ID})
	assert.Empty(t, c.Areas[1].Washes, "the wash has gone meanwhile")
	c.Areas = c.Areas[:1]
	lesson.Take(c, all, []string{all[1].ID, all[2].ID})
	assert.Len(t, c.Areas, 1, "and so has the area")
	for i, want := range []pigment.Strength{pigment.Tea, pigment.Milk, pigment.Cream, pigment.Paste} {
		c.Areas[0].Washes[0].Strength = pigment.Strengths()[i]
		up := lesson.From(c, nil, pale)
		require.Len(t, up, 1)
		lesson.Take(c, up, []string{up[0].ID})
		assert.Equal(t, want, c.Areas[0].Washes[0].Strength)
	}
}
