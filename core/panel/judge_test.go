package panel_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/pigment"
	"chromaqua/core/technique"
)

func TestJudging(t *testing.T) {
	c, s := paneltest.Card(t, 3, 1)
	judge := func() *panel.Judgement {
		b := panel.Resolve(c, s)
		return b.Judge(b.Looks())
	}
	assert.Nil(t, judge(), "nothing is painted")
	paneltest.Area(t, c, s, "Blue", [][2]int{{0, 0}}, flat("PB29", pigment.Milk))
	j := judge()
	assert.Equal(t, "cool throughout", j.Temperature)
	assert.Contains(t, j.Harmony, "one family")
	assert.Equal(t, [2]string{}, j.Strongest)
	panelMM2 := c.PanelSize().W.MM() * c.PanelSize().H.MM()
	assert.InDelta(t, 1-20*20/panelMM2, j.White, 0.02)
	require.Len(t, j.Mats, 2)
	assert.Equal(t, "deep, from Blue", j.Mats[0].Words)
	assert.Equal(t, pigment.Strong, j.Mats[0].Contrast, "against white paper")

	paneltest.Area(t, c, s, "Orange", [][2]int{{1, 0}}, flat("PO62", pigment.Milk))
	paneltest.Area(t, c, s, "Pale", [][2]int{{2, 0}}, flat("PY3", pigment.WeakTea))
	j = judge()
	assert.Equal(t, [2]string{"Pale", "Blue"}, [2]string{j.Lightest, j.Darkest})
	assert.Greater(t, j.Range, 30.0)
	assert.Contains(t, j.Harmony, "opposite")
	assert.Contains(t, j.Temperature, "mostly warm")
	assert.Equal(t, [2]string{"Orange", "Pale"}, j.Strongest)
	assert.Len(t, j.Mats, 2, "the purest covers most as well")
	paneltest.Area(t, c, s, "Outside", [][2]int{{-1, 0}}, flat("PBr7", pigment.WeakTea))
	assert.Equal(t, "the accent of Orange", judge().Mats[2].Words)

	for i := range c.Areas {
		c.Areas[i].Washes = []card.Wash{flat("PBk7", pigment.Tea)}
	}
	assert.Equal(t, "greys only", judge().Harmony)
}

// A nearly dry brush leaves the paper's hollows white, and what lies on it covers
// both.
func TestDryBrush(t *testing.T) {
	full, broken := flat("PB29", pigment.Milk), flat("PB29", pigment.Milk)
	broken.Technique = technique.DryBrush
	white := panel.LookOf("cotton-cp", nil).Dense.Lab.L
	whole, skimmed := panel.LookOf("cotton-cp", []card.Wash{full}).Dense.Lab.L, panel.LookOf("cotton-cp", []card.Wash{broken}).Dense.Lab.L
	assert.Greater(t, skimmed, whole+3)
	assert.Less(t, skimmed, white-3)
	glazed := panel.Palette{Paper: "cotton-cp"}.Dry([]card.Wash{broken, flat("PY3", pigment.Tea)})
	assert.Less(t, glazed.Lab().L, skimmed)
	assert.Greater(t, glazed.Lab().B, panel.LookOf("cotton-cp", []card.Wash{broken}).Dense.Lab.B, "yellow lies over it")
}

// Each technique shows how its colour runs, and is never darker where it is thin.
func TestHowColoursRun(t *testing.T) {
	as := func(k technique.Kind, ci string) card.Wash {
		w := flat(ci, pigment.Milk)
		w.Technique = k
		return w
	}
	for kind, grade := range map[technique.Kind]technique.Grade{
		technique.Flat: technique.Even, technique.Glaze: technique.Even, technique.DryBrush: technique.Even, technique.WetOnWet: technique.Even, technique.Variegated: technique.Even,
		technique.PullOut: technique.Corner, technique.Graded: technique.Down, technique.Shadow: technique.Up, technique.Halo: technique.Out,
	} {
		l := panel.LookOf("cotton-cp", []card.Wash{as(kind, "PB29")})
		assert.Equal(t, grade, l.Grade, kind)
		if grade == technique.Even {
			assert.Equal(t, l.Dense, l.Thin, kind)
		} else {
			assert.Greater(t, l.Thin.Lab.L, l.Dense.Lab.L+10, kind)
		}
	}
	over := func(k technique.Kind) panel.Look {
		return panel.LookOf("cotton-cp", []card.Wash{as(technique.Flat, "PY3"), as(k, "PB29")})
	}
	assert.Equal(t, technique.Out, over(technique.WetOnWet).Grade)
	side := over(technique.Variegated)
	assert.Equal(t, technique.Across, side.Grade)
	assert.Equal(t, panel.LookOf("cotton-cp", []card.Wash{as(technique.Flat, "PY3")}).Dense, side.Dense, "yellow at one end")
	assert.Equal(t, panel.LookOf("cotton-cp", []card.Wash{as(technique.Flat, "PB29")}).Dense, side.Thin, "blue at the other")
	both := panel.LookOf("cotton-cp", []card.Wash{as(technique.Graded, "PB29"), as(technique.WetOnWet, "PY3")})
	assert.Equal(t, technique.Down, both.Grade, "what runs in a line is seen first")
}

// Clean water takes colour out, less of what stains; what skims or is dabbed on
// leaves traces in a colour of their own.
func TestWaterAndTraces(t *testing.T) {
	look := func(ci string, s pigment.Strength, then technique.Kind, with string) panel.Look {
		a := &card.Area{Washes: []card.Wash{flat(ci, s), flat(with, pigment.Cream)}}
		require.NoError(t, a.LayAs(1, then))
		return panel.LookOf("cotton-cp", a.Washes)
	}
	bare := panel.LookOf("cotton-cp", []card.Wash{flat("PB29", pigment.Milk)}).Dense
	for kind, grade := range map[technique.Kind]technique.Grade{technique.Lift: technique.In, technique.Soften: technique.Out} {
		l := look("PB29", pigment.Milk, kind, "PB29")
		assert.Equal(t, grade, l.Grade)
		assert.Equal(t, bare, l.Dense, "what is not touched stays")
		assert.Greater(t, l.Thin.Lab.L, bare.Lab.L+5)
	}
	gained := func(ci string) float64 {
		l := look(ci, pigment.Milk, technique.Lift, ci)
		return l.Thin.Lab.L - l.Dense.Lab.L
	}
	assert.Greater(t, gained("PG18"), 3*gained("PG7"), "viridian lifts, phthalo stains")

	for _, kind := range []technique.Kind{technique.Splatter, technique.Highlight, technique.PenLine, technique.Blot} {
		l := look("PB29", pigment.Milk, kind, "PW6")
		require.Len(t, l.Traces, 1, kind)
		assert.Equal(t, bare, l.Dense, "between the marks of %s it stays", kind)
		away := pigment.Difference(l.Traces[0].Tone.Lab, bare.Lab)
		assert.Greater(t, away, 5.0, kind)
		assert.Equal(t, kind != technique.PenLine, l.Traces[0].Tone.Lab.L > bare.Lab.L, kind)
	}
	under := panel.LookOf("cotton-cp", []card.Wash{flat("PB29", pigment.Milk), {Technique: technique.Splatter, Strength: pigment.Cream, Mix: []card.Part{{CI: "PW6", Parts: 1}}}, flat("PY3", pigment.Milk)})
	assert.Greater(t, under.Traces[0].Tone.Lab.B, 15.0, "a glaze lies over the drops as well")

	pencil := look("PY3", pigment.Tea, technique.Pencil, "PB29")
	assert.Equal(t, panel.LookOf("cotton-cp", []card.Wash{flat("PY3", pigment.Tea)}).Dense, pencil.Traces[0].Tone, "in the hollows one sees what lies below")
	mica := look("PB29", pigment.Milk, technique.Shimmer, "PY42")
	assert.Greater(t, mica.Traces[0].Tone.Lab.L, mica.Dense.Lab.L+10)
}

// A card that carries a measured paint is seen with it; others are not.
func TestMeasuredPaintsAreSeen(t *testing.T) {
	c, s := paneltest.Card(t, 2, 1)
	paneltest.Area(t, c, s, "Blue", [][2]int{{0, 0}}, flat("PB29", pigment.Milk))
	generic := panel.Resolve(c, s).Looks()[0]
	pale, err := pigment.ByCI("PB29")
	require.NoError(t, err)
	m := card.Measured{CI: "PB29", Name: "weak pan", K: pale.K, S: pale.S}
	for i := range m.K {
		m.K[i] /= 4
	}
	c.Measure(m)
	b := panel.Resolve(c, s)
	assert.Greater(t, b.Looks()[0].Dense.Lab.L, generic.Dense.Lab.L+5)
	wet, ok := b.Areas[0].Wet()
	require.True(t, ok)
	assert.Equal(t, m.K, wet.Paint.K)
	assert.Equal(t, generic, panel.LookOf(c.Paper, c.Areas[0].Washes), "on its own it is the generic one")
	assert.Equal(t, pigment.Paint{K: m.K, S: m.S}, panel.PaletteOf(c).Blends(panel.Ingredients([]pigment.Pigment{*pale}))[0])
}
