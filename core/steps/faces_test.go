package steps_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/order"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest/jobs"
	"chromaqua/core/steps"
	"chromaqua/core/technique"
)

// The base is cut whole, scored and folded, once; its faces are worked on one after the
// other, since it lies on the one before.
func TestFacesOfTheBase(t *testing.T) {
	s := jobs.Bare()
	for _, face := range []card.Face{card.FrontFace, card.InsideRight} {
		id, err := s.Card.AddPiece(card.BasePiece)
		require.NoError(t, err)
		p, err := s.Card.PieceByID(id)
		require.NoError(t, err)
		p.Name, p.Face = "Base, "+string(face), face
		alone, err := s.Card.Alone(id)
		require.NoError(t, err)
		zone, err := alone.AddZone(card.Zone{Shape: card.All}, alone.PanelSize().W.MM())
		require.NoError(t, err)
		a, err := alone.AreaByID(alone.AddArea("Splatter " + string(face)))
		require.NoError(t, err)
		a.Lies, a.Zones, a.Washes = true, []string{zone}, []card.Wash{wash(technique.Splatter, "PB29")}
		require.NoError(t, s.Card.Return(id, alone))
	}
	require.NoError(t, s.Card.Check())
	pieces, err := s.Pieces(context.Background())
	require.NoError(t, err)
	p, err := steps.CompileAll(pieces, s.Card, steps.UsualBench())
	require.NoError(t, err)

	cut := named(t, p, "Cut, score and fold Base, front")
	assert.Contains(t, cut.Detail, s.Card.Blank().Size.With(s.Card.Unit), "the whole of it, not its front")
	assert.Contains(t, cut.Detail, "scored between")
	turned := named(t, p, "Turn the card base to its inside right")
	assert.NotContains(t, turned.Caution, "Blades")
	off := named(t, p, "Take the tape off Base, front")
	a, ok := arc(p, off, turned)
	require.True(t, ok, "its front is done before")
	assert.Equal(t, order.After, a.Type)
	require.NoError(t, p.Instance.Check())
}

// What is painted larger is trimmed however it was held; what was cut to size is not.
func TestTrimming(t *testing.T) {
	freed := func(spare length.Length, hold ...card.Hold) steps.Step {
		p := compiled(t, func(c *card.Card, s *panel.Sheet) {
			twoAreas(t)(c, s)
			c.Painting.Spare, c.Hold = spare, hold
		})
		for i := range p.Steps {
			if k := p.Steps[i].Kind; k == steps.Untape || k == steps.Hold && i > 3 {
				return p.Steps[i]
			}
		}
		return steps.Step{}
	}
	s := freed(0)
	assert.Equal(t, "Take the tape off the panel", s.Title)
	assert.Empty(t, s.Caution)
	s = freed(8 * length.Millimetre)
	assert.Equal(t, "Take the tape off the panel and trim it to 96 × 127.5 mm", s.Title)
	assert.Contains(t, s.Caution, "Blades")
	s = freed(8*length.Millimetre, card.Hold{How: card.OnBlock})
	assert.Equal(t, "Free the panel from its block and trim it to 96 × 127.5 mm", s.Title)
	s = freed(8*length.Millimetre, card.Hold{How: card.LooseSheet})
	assert.Equal(t, "Take the panel up and trim it to 96 × 127.5 mm", s.Title)
	assert.Contains(t, s.Caution, "Blades")
}

// How a wash ends is said as it is laid: a bead is led where there is one, and nothing is
// cut in with a brush that drops fall from.
func TestEndsAndDropsAreAsTheirTechnique(t *testing.T) {
	laid := func(kind technique.Kind, edge card.ZoneEdge) steps.Step { // over a flat wash
		p := compiled(t, func(c *card.Card, _ *panel.Sheet) {
			wide := c.PanelSize().W.MM()
			zone, err := c.AddZone(card.Zone{Shape: card.Below, Edge: edge, Points: []card.UV{{U: 0, V: 0.5}, {U: 1, V: 0.5}}}, wide)
			require.NoError(t, err)
			a, err := c.AreaByID(c.AddArea("Ground"))
			require.NoError(t, err)
			a.Lies, a.Zones, a.Washes = true, []string{zone}, []card.Wash{wash(technique.Flat, "PB29"), wash(kind, "PV19")}
		})
		for i := range p.Steps {
			if on := p.Steps[i].On; on != nil && on.Wash == 1 {
				return p.Steps[i]
			}
		}
		return steps.Step{}
	}
	assert.Contains(t, laid(technique.Glaze, card.HardEdge).Detail, "lead the bead along the drawn line")
	assert.Contains(t, laid(technique.Glaze, card.SoftEdge).Detail, "clean damp brush while it shines")
	dry := laid(technique.DryBrush, card.HardEdge)
	assert.Contains(t, dry.Detail, "Stop at the drawn line.")
	assert.NotContains(t, dry.Detail, "bead")
	assert.Contains(t, laid(technique.DryBrush, card.SoftEdge).Detail, "Press less and less")
	for _, kind := range []technique.Kind{technique.WetOnWet, technique.Variegated} {
		wet := laid(kind, card.HardEdge)
		assert.NotEmpty(t, wet.IntoWet)
		assert.NotContains(t, wet.Detail, "edge", "it ends where the wash ends that it goes into")
	}
	assert.NotContains(t, laid(technique.Shadow, card.HardEdge).Detail, "ends hard", "it is drawn out until it is nothing")
	assert.Contains(t, laid(technique.CastShadow, card.HardEdge).Detail, "ends hard")
	assert.Contains(t, laid(technique.Halo, card.SoftEdge).Detail, "Draw its edge out")
	drops := laid(technique.Splatter, card.HardEdge)
	assert.NotContains(t, drops.Detail, "edge")
	require.Len(t, drops.Tools, 1)
	assert.Contains(t, drops.Tools[0], "round")
	assert.Contains(t, laid(technique.Glaze, card.HardEdge).Tools[len(laid(technique.Glaze, card.HardEdge).Tools)-1], "flat")
}
