package steps_test

import (
	"context"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/drying"
	"chromaqua/core/length"
	"chromaqua/core/order"
	"chromaqua/core/order/solver"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/steps"
	"chromaqua/core/technique"
)

// many is a board made by code with so many sites and one area of all its inner cells.
func many(t testing.TB, sites int, techniques ...technique.Kind) *panel.Board {
	c := card.New("many", length.Millimetres)
	_, err := c.Lay(card.Scan{
		Image: "0123456789abcdef0123456789abcdef0123456789abcdef0123456789abcdef", Title: "Made", WidthPX: 200, HeightPX: 260, Width: c.PanelSize().W,
	}, "")
	require.NoError(t, err)
	c.Line().X, c.Line().Y = 0, 0
	s := paneltest.Sites(rand.New(rand.NewPCG(4, 4)), c.PanelSize(), sites)
	var cells []int
	for _, cell := range s.Cells {
		if !cell.Outside {
			cells = append(cells, cell.ID)
		}
	}
	id := c.AddArea("Scales")
	require.NoError(t, panel.Resolve(c, s).Assign(id, cells))
	a, err := c.AreaByID(id)
	require.NoError(t, err)
	for _, kind := range techniques {
		w := card.Wash{Technique: kind}
		if kind.Tool() != technique.CleanWater {
			w = wash(kind, "PB29")
		}
		a.Washes = append(a.Washes, w)
	}
	require.NoError(t, c.Check())
	return panel.Resolve(c, s)
}

// compiledInTime compiles a board and puts it in order; nothing here may take long.
func compiledInTime(t testing.TB, b *panel.Board) *steps.Plan {
	ctx, cancel := context.WithTimeout(context.Background(), time.Minute)
	defer cancel()
	p, err := steps.Compile(b, steps.UsualBench())
	require.NoError(t, err)
	s, err := solver.Solve(ctx, p.Instance, solver.Budget{Iterations: 20, Seed: 1})
	require.NoError(t, err)
	require.Len(t, s.Ops, len(p.Steps)*p.Instance.Copies)
	require.NoError(t, ctx.Err())
	return p
}

// An area of two thousand cells is a handful of rounds; with five drop-ins each cell
// would be a step or more, which is said, and the rest is planned.
func TestAnAreaOfTwoThousandCells(t *testing.T) {
	b := many(t, 2200, technique.Flat)
	require.Greater(t, len(b.Areas[0].Cells), 1500)
	p := compiledInTime(t, b)
	assert.Empty(t, p.Notes)
	assert.Less(t, len(p.Steps), 20)

	b.Card.Areas[0].Washes = append(b.Card.Areas[0].Washes, wash(technique.WetOnWet, "PV19"), wash(technique.WetOnWet, "PY3"), card.Wash{Technique: technique.Lift}, wash(technique.Glaze, "PB29"))
	_, err := steps.Compile(panel.Resolve(b.Card, b.Sheet), steps.UsualBench())
	assert.ErrorContains(t, err, "Scales would take 7973 steps: ") // four a cell, and a glaze in five rounds
	assert.ErrorContains(t, err, "run together")
	ground := b.Card.AddArea("Ground")
	require.NoError(t, panel.Resolve(b.Card, b.Sheet).Assign(ground, []int{1}))
	b.Card.Areas[1].Washes = []card.Wash{wash(technique.Flat, "PB29")}
	p = compiledInTime(t, panel.Resolve(b.Card, b.Sheet))
	require.Len(t, p.Notes, 1)
	assert.Contains(t, p.Notes[0].Why, "planned without it")
	assert.Equal(t, 0, p.Notes[0].Area)
	assert.Contains(t, named(t, p, "Ground").Title, "Ground")
}

// A speck of a cell is painted like any other.
func TestATinyCell(t *testing.T) {
	b := many(t, 40, technique.Flat, technique.WetOnWet)
	b.Cells[len(b.Cells)-1].AreaMM2, b.Cells[len(b.Cells)-1].InscribedMM = 0.2, 0.1
	p := compiledInTime(t, b)
	for _, s := range p.Steps {
		if s.On != nil {
			assert.Positive(t, s.Dry)
			assert.GreaterOrEqual(t, s.Open, time.Duration(0))
		}
	}
}

// All areas joined to all: what cannot all be wet at once is kept apart and named.
func TestAllJoinedToAll(t *testing.T) {
	b := many(t, 24, technique.Flat)
	c := b.Card
	cells := b.Areas[0].Cells
	c.Areas = nil
	for i := 0; i+1 < len(cells); i += 2 {
		id := c.AddArea("")
		require.NoError(t, panel.Resolve(c, b.Sheet).Assign(id, cells[i:i+2]))
		c.Areas[len(c.Areas)-1].Washes = []card.Wash{wash(technique.Flat, "PB29"), wash(technique.WetOnWet, "PV19")}
	}
	for i := range c.Areas {
		for j := range i {
			c.SetJoin(c.Areas[i].ID, c.Areas[j].ID, true)
		}
	}
	p := compiledInTime(t, panel.Resolve(c, b.Sheet))
	require.NotEmpty(t, p.Notes)
	for _, n := range p.Notes {
		assert.NotEmpty(t, n.What+n.Why+n.Way)
		assert.Contains(t, []steps.Subject{steps.TwoAreas, steps.OneWash}, n.Subject)
		assert.NotEmpty(t, n.Cells)
	}
}

// In a cold, damp room everything takes long, and nothing hangs.
func TestAColdDampRoom(t *testing.T) {
	b := many(t, 30, technique.WetOnWet, technique.WetOnWet, technique.Lift)
	b.Card.Room = drying.Room{Celsius: 5, Humidity: 0.95, Air: 0}
	b.Card.Drying = card.Air
	require.NoError(t, b.Card.Check())
	p := compiledInTime(t, b)
	assert.Greater(t, named(t, p, "Scales").Dry, 2*time.Hour)
}

// Two hundred copies of a card of many steps are planned in lots, which is said.
func TestTwoHundredCopies(t *testing.T) {
	b := many(t, 90, technique.Flat, technique.WetOnWet, technique.Glaze)
	b.Card.Copies = 200
	p := compiledInTime(t, b)
	require.Greater(t, len(p.Steps)*200, order.MaxPlaced)
	require.Len(t, p.Notes, 1)
	assert.Equal(t, 12, p.Instance.Copies, "as many as the rack holds, and one in hand")
	assert.Contains(t, p.Notes[0].Why, "paint 17 such lots")
	assert.Equal(t, steps.WholeCard, p.Notes[0].Subject)
}

// BenchmarkCompile150 compiles a card of a hundred and fifty cells and more.
func BenchmarkCompile150(b *testing.B) {
	board := many(b, 150, technique.Flat, technique.WetOnWet, technique.Glaze)
	made := 0
	for b.Loop() {
		p, err := steps.Compile(board, steps.UsualBench())
		if err != nil {
			b.Fatal(err)
		}
		made = len(p.Steps)
	}
	b.ReportMetric(float64(len(board.Cells)), "cells")
	b.ReportMetric(float64(made), "steps")
}
