package steps_test

import (
	"context"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/joint"
	"chromaqua/core/length"
	"chromaqua/core/lineart"
	"chromaqua/core/order"
	"chromaqua/core/order/solver"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/panel/paneltest/jobs"
	"chromaqua/core/shelf"
	"chromaqua/core/steps"
	"chromaqua/core/technique"
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
	lies := func(kind technique.Kind, change func(*card.Card)) time.Duration {
		p := compiled(t, func(c *card.Card, s *panel.Sheet) {
			c.Drying = card.Air
			paneltest.Area(t, c, s, "Left", [][2]int{{0, 0}}, wash(kind, "PB29"))
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
	assert.Equal(t, 2*time.Hour, lies(technique.Flat, as))
	assert.Equal(t, 8*time.Hour, lies(technique.WetOnWet, as))
	assert.Zero(t, lies(technique.DryBrush, as))
	assert.Equal(t, 2*time.Hour, lies(technique.DryBrush, func(c *card.Card) { c.Drying = card.Heat }))
	assert.Zero(t, lies(technique.Flat, func(c *card.Card) { c.Line().Kind = shelf.ReliefImage }))
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
	assert.Contains(t, named(t, p, "Take the tape off").Title, "and trim it to")
	assert.Equal(t, "Mount the panel on mat 2", last.Title)
	assert.Contains(t, last.Detail, "trim the panel flush with mat 2 from behind")
	assert.NotEmpty(t, last.Caution)

	p = compiled(t, func(c *card.Card, s *panel.Sheet) {
		twoAreas(t)(c, s)
		c.Window, c.Layers = &card.Window{}, nil
	})
	assert.Contains(t, p.Steps[0].Title, "out of the painted sheet")
	assert.Equal(t, "Mount the panel on the card base", p.Steps[len(p.Steps)-1].Title)
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
	assert.Contains(t, stamps[1].Detail, "Grid is stamped off once on scrap paper first. Then take the mask off, straight up.")
	assert.Contains(t, stamps[2].Detail, "stamped off 2 times")
	var masks []string
	for _, s := range p.Steps {
		if strings.Contains(s.Title, "mask") {
			masks = append(masks, s.Title)
			assert.Equal(t, steps.Hold, s.Kind)
		}
	}
	assert.Equal(t, []string{"Cut 1 paper mask of Grid", "Lay the paper mask over Grid", "Lay the paper mask over Grid"}, masks, "it is cut once")
	assert.Equal(t, 2+3*2+1, arcs(p, order.Dry), "two masks on dry ink, two first washes after three impressions, the glaze")
	require.NoError(t, p.Instance.Check())
	stamps = keep(several(func(c *card.Card) { c.Ink = "laser" }))
	require.Len(t, stamps, 1, "what is printed needs no masks")
	assert.Equal(t, "Print 3 × Grid", stamps[0].Title)
	assert.Equal(t, "With laser print (toner). Mind: thick watercolour paper may not go through the printer, and toner flakes off texture.", stamps[0].Detail, "nothing of it is stamped off")
	stamps = keep(several(func(c *card.Card) {
		c.Ink = "laser"
		for range 3 {
			require.NoError(t, c.Repeat(c.Images[0].ID, 1, 0, 0, 0))
		}
		for i := range c.Images {
			c.Images[i].Title = string(rune('A' + i))
		}
	}))
	assert.Equal(t, "Print A, B and 4 more", stamps[0].Title)
}

// What the maker decided is said where it is done: paper, impressions, parts left bare,
// powder step by step, areas that run into each other, and what holds each layer.
func TestTheStepsSayWhatWasDecided(t *testing.T) {
	say := func(change func(*card.Card)) (titles []string, all string) {
		p := compiled(t, func(c *card.Card, s *panel.Sheet) {
			twoAreas(t)(c, s)
			change(c)
		})
		for _, s := range p.Steps {
			titles, all = append(titles, s.Title), all+s.Title+" "+s.Detail+" "+s.Caution+"\n"
		}
		assert.NotContains(t, all, "; holds")
		assert.NotContains(t, all, "..")
		assert.NotContains(t, all, "  ")
		return titles, all
	}
	_, all := say(func(c *card.Card) {
		c.Paper, c.Ink = "cotton-rough", "permanent"
		c.Base.Paper, c.Base.Colour = "kraft", "sand"
		c.Layers[0].Paper, c.Layers[0].Colour, c.Layers[0].By = "card-colour", "sea green", joint.FullFoam
		c.Line().Marks = []card.Mark{{Kind: card.Bare, Points: []card.UV{{U: 0.1}, {U: 0.2}, {V: 0.1}}}}
		c.SetJoin("a1", "a2", true)
	})
	for _, said := range []string{
		"96 × 127.5 mm of cotton rough 300 gsm.", "With oil- or resin-based permanent ink. 3 times and more, in the positioner", "1 part of Grid stays bare: wipe the ink off before you stamp.",
		"Foam all over, to its edges", "Strong double-sided tape", "It may run into Right",
	} {
		assert.Contains(t, all, said)
	}
	titles, all := say(func(c *card.Card) { c.Ink, c.Paper, c.Panel.By = "embossed", "cotton-hp", joint.FullFoam })
	assert.Equal(t, []string{"Cut the panel and lay it in the positioner", "Dust the panel with the anti-static pouch", "Stamp Grid", "Powder the ink, and brush stray grains off", "Melt the powder"}, titles[:5])
	assert.Contains(t, all, "Once.")
	assert.Contains(t, all, "Foam all over, to its edges.")
	assert.Contains(t, all, steps.PowderCaution)
	assert.Contains(t, all, steps.HeatCaution)
	_, all = say(func(c *card.Card) { in := card.UsualInsert(); in.Colour = "ivory"; c.Insert = &in })
	assert.Contains(t, all, "Mount the leaf on the inside right Thin double-sided tape at its edges and a cross")
}

// Powder goes on while the ink is sticky, also where many cards are stamped.
func TestPowderGoesOnStickyInk(t *testing.T) {
	p := compiled(t, func(c *card.Card, s *panel.Sheet) {
		twoAreas(t)(c, s)
		c.Ink, c.Paper, c.Copies = "embossed", "cotton-hp", 8
	})
	id := func(title string) int { return named(t, p, title).ID }
	stamp, powder, melt := id("Stamp Grid"), id("Powder the ink"), id("Melt the powder")
	s, err := solver.Solve(context.Background(), p.Instance, solver.Budget{Iterations: 400, Seed: 1})
	require.NoError(t, err)
	at := map[[2]int]order.Placed{}
	for _, o := range s.Ops {
		at[[2]int{o.Op, o.Copy}] = o
	}
	for k := range 8 {
		wait := at[[2]int{powder, k}].Start - at[[2]int{stamp, k}].End
		assert.GreaterOrEqual(t, wait, order.Seconds(0))
		assert.LessOrEqual(t, wait, order.Seconds(300), "card %d", k)
		assert.GreaterOrEqual(t, at[[2]int{melt, k}].Start, at[[2]int{powder, k}].End)
	}
}

// A caution is said in full where it begins, and marked after that.
func TestToldOnce(t *testing.T) {
	told := steps.Told{}
	text, at := told.Say("Blades.", 4)
	assert.Equal(t, "Blades.", text)
	assert.Zero(t, at)
	text, at = told.Say("Blades.", 7)
	assert.Empty(t, text)
	assert.Equal(t, 4, at)
	text, at = told.Say("", 8)
	assert.Empty(t, text)
	assert.Zero(t, at)
}

// Relief is pressed when the maker's school says, and again when water has
// flattened it.
func TestReliefIsPressed(t *testing.T) {
	pressings := func(r card.Relief, kind technique.Kind) (out []string) {
		p := compiled(t, func(c *card.Card, s *panel.Sheet) {
			c.Line().Kind, c.Relief = shelf.ReliefImage, r
			paneltest.Area(t, c, s, "Left", [][2]int{{0, 0}}, wash(kind, "PB29"))
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
	assert.Equal(t, []string{"Press the panel in its folder"}, pressings("", technique.Flat))
	assert.Equal(t, []string{"Press the panel in its folder", "Press the panel in its folder again"}, pressings(card.Unpainted, technique.Flat))
	assert.Equal(t, []string{"Press the panel in its folder"}, pressings(card.Unpainted, technique.DryBrush))
	assert.Equal(t, []string{"Press the panel in its folder", "Touch up the ridges"}, pressings(card.Twice, technique.Flat))
}

func TestStencils(t *testing.T) {
	p := compiled(t, func(c *card.Card, s *panel.Sheet) {
		c.Line().Kind = shelf.Stencil
		paneltest.Area(t, c, s, "Left", [][2]int{{0, 0}}, wash(technique.DryBrush, "PB29"))
	})
	for _, s := range p.Steps {
		if s.Kind == steps.Paint {
			assert.Contains(t, s.Detail, "Hold the stencil down")
			assert.Contains(t, s.Detail, "nearly dry")
		}
	}
}

// Tape goes along each side of a sheet that is taped, and again where it is taped again; what
// shares a sheet is taped as one.
func TestTapeTaken(t *testing.T) {
	taken := func(made *jobs.Studio) map[string]float64 {
		pieces, err := made.Pieces(context.Background())
		require.NoError(t, err)
		p, err := steps.CompileAll(pieces, made.Card, steps.UsualBench())
		require.NoError(t, err)
		out := map[string]float64{}
		for _, s := range p.Steps {
			if s.Taped != nil {
				out[s.Title] = s.Taped.MM
			}
		}
		return out
	}
	by := map[int]map[string]float64{}
	for _, j := range jobs.All() {
		by[j.Number] = taken(j.Make())
	}
	assert.Equal(t, map[string]float64{"Tape the panel to its board": 2 * (96 + 127.5), "Tape Words strip to its board": 184.15, "Tape the panel to its board again": 447}, by[3])
	assert.Equal(t, map[string]float64{"Cut the panel and tape it down": 2*127.5 + 96, "Tape Otter to its board": 304.8, "Tape the panel to its board again": 351}, by[15], "left, right and bottom")
	assert.Equal(t, map[string]float64{"Tape the panel to its board": 2 * 96}, by[19], "top and bottom")
	assert.Empty(t, by[2], "a block")
	const gap = 6.35
	assert.InDelta(t, 2*(3*gap+2*40+2*gap+40), taken(jobs.Bits())["Tape the sheet to its board"], 1e-9, "two tags of 40 mm side by side")
}
