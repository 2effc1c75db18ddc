package steps_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/lineart"
	"chromaqua/core/order"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/shelf"
	"chromaqua/core/steps"
)

// The line is stamped where it can be stamped again, before the panel is taped down.
func TestTheLineComesBeforeTheTape(t *testing.T) {
	p := compiled(t, twoAreas(t))
	hold, line, tape := p.Steps[0], p.Steps[1], p.Steps[2]
	assert.Equal(t, "Cut the panel and lay it in the positioner", hold.Title)
	for _, pair := range [][2]steps.Step{{hold, line}, {line, tape}} {
		a, ok := arc(p, pair[0], pair[1])
		require.True(t, ok)
		assert.Equal(t, order.After, a.Type, "its ink may dry while it is taped")
	}
	p = compiled(t, func(c *card.Card, s *panel.Sheet) { twoAreas(t)(c, s); c.Ink = "laser" })
	assert.Equal(t, "Cut the panel", p.Steps[0].Title, "what is printed needs no positioner")
}

// Raised neighbours of two areas may be wet together, unless the line has been mended
// with the flat pen between them.
func TestAWallIsNoWallWhereItWasMended(t *testing.T) {
	for _, mended := range []bool{false, true} {
		p := compiled(t, func(c *card.Card, s *panel.Sheet) {
			twoAreas(t)(c, s)
			c.Ink = "embossed"
			if mended {
				x, y := c.Line().X.MM()+paneltest.EdgeMM+paneltest.CellMM, c.Line().Y.MM()+paneltest.EdgeMM
				panel.Mark(c.Line(), card.Pen, []lineart.Point{{X: x, Y: y + 5}, {X: x, Y: y + 8}})
			}
		})
		assert.Equal(t, mended, len(p.Instance.Adjacent) == 1)
		assert.Equal(t, !mended, len(p.Instance.Raised) == 1)
	}
}

// A panel that was wetted is flattened before it is mounted, for longer when it was
// soaked; a folder flattens what is pressed in it.
func TestFlattening(t *testing.T) {
	lies := func(technique card.Technique, change func(*card.Card)) time.Duration {
		p := compiled(t, func(c *card.Card, s *panel.Sheet) {
			c.Drying = card.Air
			paneltest.Area(t, c, s, "Left", [][2]int{{0, 0}}, wash(technique, "PB29"))
			change(c)
		})
		for _, s := range p.Steps {
			if s.Kind == steps.Flatten {
				assert.True(t, s.Unattended)
				assert.False(t, p.Instance.Ops[s.ID].Attended)
				a, ok := arc(p, s, p.Steps[len(p.Steps)-1])
				require.True(t, ok)
				assert.Equal(t, order.After, a.Type)
				return s.Dur
			}
		}
		return 0
	}
	as := func(*card.Card) {}
	assert.Equal(t, 2*time.Hour, lies(card.Flat, as))
	assert.Equal(t, 8*time.Hour, lies(card.WetOnWet, as))
	assert.Zero(t, lies(card.DryBrush, as))
	assert.Equal(t, 2*time.Hour, lies(card.DryBrush, func(c *card.Card) { c.Drying = card.Heat }))
	assert.Zero(t, lies(card.Flat, func(c *card.Card) { c.Line().Kind = shelf.ReliefImage }))
}

// An ink that heat does not help is waited for by the clock on the wall.
func TestSolventInkIsAired(t *testing.T) {
	p := compiled(t, func(c *card.Card, s *panel.Sheet) { twoAreas(t)(c, s); c.Ink, c.Drying = "solvent", card.Heat })
	ink, err := shelf.InkByID("solvent")
	require.NoError(t, err)
	op := p.Instance.Ops[1]
	assert.Equal(t, order.Floor(ink.AirDry), op.Dry)
	assert.Zero(t, op.HeatDry)
	assert.Equal(t, 1, p.Instance.Heat.Factor, "so that heat does nothing for it")
	assert.Contains(t, p.Steps[1].Caution, "window")
}

// The steps before and after painting say what this card needs.
func TestTapingAndMounting(t *testing.T) {
	p := compiled(t, func(c *card.Card, s *panel.Sheet) {
		twoAreas(t)(c, s)
		c.Painting = card.Painting{Border: 3 * length.Millimetre, Spare: 10 * length.Millimetre, Tape: length.Inch}
		require.NoError(t, c.AddLayer(card.Mat))
		over := -length.Millimetre
		require.NoError(t, c.Show(card.PanelRing, "", &over))
	})
	last := p.Steps[len(p.Steps)-1]
	assert.Contains(t, p.Steps[0].Title, "Cut a sheet of")
	assert.Contains(t, p.Steps[2].Detail, "3 mm of the panel all round, which stays white")
	assert.Contains(t, named(t, p, "Take the tape off").Title, "trim to")
	assert.Equal(t, "Mount the panel with mat 2, mat 1 on the card", last.Title)
	assert.Contains(t, last.Detail, "Trim the panel flush with the mat 2")
	assert.NotEmpty(t, last.Caution)

	p = compiled(t, func(c *card.Card, s *panel.Sheet) {
		twoAreas(t)(c, s)
		c.Window, c.Layers = &card.Window{}, nil
	})
	assert.Contains(t, p.Steps[0].Title, "out of the painted sheet")
	assert.Equal(t, "Mount the panel on the card", p.Steps[len(p.Steps)-1].Title)
}

// Several impressions are stamped from the front backwards; what is masked has to
// be dry before it is covered.
func TestImpressions(t *testing.T) {
	several := func(change func(*card.Card)) *steps.Plan {
		return compiled(t, func(c *card.Card, s *panel.Sheet) {
			twoAreas(t)(c, s)
			rear, err := c.Lay(c.Line().Scan, shelf.LineImage)
			require.NoError(t, err)
			require.NoError(t, c.Repeat(rear, 1, 0, 0, 0))
			c.Images[1].Ghost, c.Images[2].Ghost = 1, 2
			change(c)
			laid := *s
			laid.Laid = []panel.Laid{{}, {Hidden: []int{0}}, {Hidden: []int{0}}}
			*s = laid
		})
	}
	keep := func(p *steps.Plan) (out []steps.Step) {
		for _, s := range p.Steps {
			if s.Kind == steps.Line {
				out = append(out, s)
			}
		}
		return out
	}
	p := several(func(*card.Card) {})
	stamps := keep(p)
	require.Len(t, stamps, 3)
	assert.Equal(t, "Stamp Grid (1 of 3)", stamps[0].Title)
	assert.Contains(t, stamps[1].Detail, "Cut the mask right at the line. Lay the paper mask over Grid, then stamp Grid, stamped off once on scrap paper first")
	assert.NotContains(t, stamps[2].Detail, "Cut the mask", "it is there already")
	assert.Greater(t, stamps[1].Dur, stamps[2].Dur)
	assert.Equal(t, 2+3*2+1, arcs(p, order.Dry), "two masks on dry ink, two first washes after three impressions, the glaze")
	require.NoError(t, p.Instance.Check())
	stamps = keep(several(func(c *card.Card) { c.Ink = "laser" }))
	require.Len(t, stamps, 1, "what is printed needs no masks")
	assert.Contains(t, stamps[0].Detail, "Grid, Grid, stamped off once")
}

// Relief is pressed when the maker's school says, and again when water has
// flattened it.
func TestReliefIsPressed(t *testing.T) {
	pressings := func(r card.Relief, technique card.Technique) (out []string) {
		p := compiled(t, func(c *card.Card, s *panel.Sheet) {
			c.Line().Kind, c.Relief = shelf.ReliefImage, r
			paneltest.Area(t, c, s, "Left", [][2]int{{0, 0}}, wash(technique, "PB29"))
		})
		require.NoError(t, p.Instance.Check())
		for _, s := range p.Steps {
			assert.NotEqual(t, steps.Line, s.Kind, "a folder leaves no ink")
			if s.Kind == steps.Press {
				out = append(out, s.Title)
			}
		}
		return out
	}
	assert.Equal(t, []string{"Press the panel in its folder"}, pressings("", card.Flat))
	assert.Equal(t, []string{"Press the panel in its folder", "Press the panel in its folder again"}, pressings(card.Unpainted, card.Flat))
	assert.Equal(t, []string{"Press the panel in its folder"}, pressings(card.Unpainted, card.DryBrush))
	assert.Equal(t, []string{"Press the panel in its folder", "Touch up the ridges"}, pressings(card.Twice, card.Flat))
}

func TestStencils(t *testing.T) {
	p := compiled(t, func(c *card.Card, s *panel.Sheet) {
		c.Line().Kind = shelf.Stencil
		paneltest.Area(t, c, s, "Left", [][2]int{{0, 0}}, wash(card.DryBrush, "PB29"))
	})
	for _, s := range p.Steps {
		if s.Kind == steps.Paint {
			assert.Contains(t, s.Detail, "Hold the stencil down")
			assert.Contains(t, s.Detail, "nearly dry")
		}
	}
}
