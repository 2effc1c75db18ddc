package shelf_test

import (
	"bytes"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/length"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
)

func TestMixedPaints(t *testing.T) {
	sepia := shelf.Own{Name: "sepia", What: shelf.OwnPaint, Form: shelf.Tube}
	for _, like := range []string{"2 Burnt Umber + lamp  black", "2 burnt umber + PBk7", "2 pbr7 + PBk7"} {
		sepia.Like = like
		require.NoError(t, sepia.Check())
		got, err := sepia.Pigments()
		require.NoError(t, err)
		assert.Equal(t, []shelf.Portion{{CI: "PBr7", Parts: 2}, {CI: "PBk7", Parts: 1}}, got, like)
	}
	brown, black := library(t, "PBr7"), library(t, "PBk7")
	m, err := sepia.Mixture()
	require.NoError(t, err)
	assert.InDelta(t, (2*brown.K[9]+black.K[9])/3, m.K[9], 1e-12)
	_, alone := sepia.Pigment()
	assert.False(t, alone)
	ci, alone := shelf.Own{Name: "blue", What: shelf.OwnPaint, Like: "2 pb29"}.Pigment()
	assert.True(t, alone)
	assert.Equal(t, "PB29", ci, "parts of one pigment are that pigment")
	for like, why := range map[string]string{
		"":                         "write pigments as",
		"PB29 PV19":                "no pigment",
		"0 PB29":                   "parts are 1 to 9",
		"PB29 + PB29":              "stands twice",
		"PB29 + ":                  "write pigments as",
		"PX1":                      "no pigment",
		"PB29 + PV19 + PBr7 + PY3": "more than 3",
	} {
		sepia.Like = like
		assert.ErrorContains(t, sepia.Check(), why, like)
		_, err := sepia.Mixture()
		assert.Error(t, err)
	}
}

func library(t *testing.T, ci string) pigment.Paint {
	t.Helper()
	p, err := pigment.ByCI(ci)
	require.NoError(t, err)
	return p.Paint()
}

// Gouache covers what the same pigment lets through; what was measured counts.
func TestForms(t *testing.T) {
	black, err := pigment.Paper("black")
	require.NoError(t, err)
	over := func(f shelf.Form) float64 {
		m, err := shelf.Own{What: shelf.OwnPaint, Like: "PB29", Form: f}.Mixture()
		require.NoError(t, err)
		r := m.Over(&black, 2.5)
		return r.Lab().L
	}
	assert.Greater(t, over(shelf.Gouache), over(shelf.Pan)+10)
	assert.Equal(t, over(""), over(shelf.Pan))
	measured := library(t, "PV19")
	m, err := shelf.Own{What: shelf.OwnPaint, Like: "PB29", Form: shelf.Gouache, Paint: &measured}.Mixture()
	require.NoError(t, err)
	assert.Equal(t, measured, m)

	var own []shelf.Own
	for _, f := range shelf.PaintForms() {
		assert.NotEmpty(t, f.Form.Words())
		assert.NotEmpty(t, f.Note)
		own = append(own, shelf.Own{Name: f.Name, What: shelf.OwnPaint, Like: "PB29", Form: f.Form})
	}
	var table bytes.Buffer
	require.NoError(t, shelf.WriteCSV(&table, own))
	back, err := shelf.ReadCSV(&table, length.Millimetres)
	require.NoError(t, err)
	assert.Equal(t, own, back)
	assert.ErrorContains(t, shelf.Own{Name: "x", What: shelf.OwnPaint, Like: "PB29", Form: "powder"}.Check(), "use one of pan, tube")
	assert.Empty(t, shelf.Form("powder").Words())
}
