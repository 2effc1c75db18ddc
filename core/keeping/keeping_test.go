package keeping_test

import (
	"context"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/cover"
	"chromaqua/core/drying"
	"chromaqua/core/keeping"
	"chromaqua/core/length"
	"chromaqua/core/mask"
	"chromaqua/core/order"
	"chromaqua/core/order/solver"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/core/steps"
	"chromaqua/core/technique"
)

// night is a drawing of cells under a dark sky that goes round it all, with what changes
// keep on it.
func night(t testing.TB, cells int, all ...change.Change) *panel.Board {
	c, s := paneltest.Card(t, cells, cells)
	return darkened(t, panel.Resolve(c, s), all...)
}

func darkened(t testing.TB, b *panel.Board, all ...change.Change) *panel.Board {
	do := func(ch change.Change) {
		made, _, err := change.Try(ch, b.Card, b.Sheet)
		require.NoError(t, err, change.NameOf(ch))
		b = panel.Resolve(made, b.Sheet)
	}
	do(change.NewZone{Shape: card.All, Name: "Night", Round: true})
	a := &b.Card.Areas[len(b.Card.Areas)-1]
	a.Washes = append(a.Washes, card.Wash{Technique: technique.Flat, Mix: []card.Part{{CI: "PB15:3", Parts: 1}}, Strength: pigment.Milk})
	b = panel.Resolve(b.Card, b.Sheet)
	for _, ch := range all {
		do(ch)
	}
	return b
}

// large is a card of 150 cells that fit on its panel, and its sheet.
func large(t testing.TB) (*card.Card, *panel.Sheet) {
	c, _ := paneltest.Card(t, 10, 15)
	m := c.Line()
	m.Width, m.X, m.Y = 80*length.Millimetre, 10*length.Millimetre, 6*length.Millimetre
	s, err := panel.Read(context.Background(), c, panel.Scans{m.Image: paneltest.Scan(10, 15)}, nil)
	require.NoError(t, err)
	require.Greater(t, len(s.Cells), 150)
	return c, s
}

// fresh is a night over 150 cells in six areas with sky, snow and sill, on a sheet of which
// nothing is remembered.
func fresh(t testing.TB, of *card.Card, s *panel.Sheet) *panel.Board {
	c, err := of.Clone()
	require.NoError(t, err)
	for n := range 6 {
		var cells []int
		for i := range 25 {
			cells = append(cells, 2+25*n+i)
		}
		painted(t, c, s, string(rune('A'+n)), cells, card.Wash{Technique: technique.Flat, Mix: []card.Part{{CI: "PY42", Parts: 1}}, Strength: pigment.Tea})
	}
	return darkened(t, panel.Resolve(c, s.Anew()), snow, sill)
}

func deskOf(b *panel.Board) *keeping.Desk {
	return &keeping.Desk{Pieces: []panel.Piece{{Board: b, ID: card.ThePanel, Name: card.ThePanel, Many: 1}}, Card: b.Card, Bench: steps.UsualBench()}
}

var (
	snow = change.Strew{Count: 60, Least: "0.6 mm", Most: "1.4 mm", Name: "Snow"}
	sill = change.KeepZone{NewZone: change.NewZone{Shape: card.Below, Points: "0 x 90 mm; 110 x 90 mm", Name: "Sill"}}
)

func weighed(t testing.TB, b *panel.Board) []keeping.Kept {
	all, err := deskOf(b).Weigh(context.Background(), 0)
	require.NoError(t, err)
	return all
}

// done is how long a card takes, put in order as it is compared.
func done(t testing.TB, b *panel.Board) order.Seconds {
	p, err := steps.Compile(b, steps.UsualBench())
	require.NoError(t, err)
	s, err := solver.Solve(context.Background(), p.Instance, solver.Budget{Iterations: 40, Seed: 1})
	require.NoError(t, err)
	return s.Makespan
}

// What is said of a way is what comes of it: the minutes are those of the card in order.
func TestMinutesAreThoseOfTheOrder(t *testing.T) {
	b := night(t, 3, snow, sill)
	was := done(t, b)
	for _, k := range weighed(t, b) {
		planned := 0
		for _, ch := range k.Choices {
			if ch.Total == 0 {
				assert.NotEmpty(t, ch.Barred, ch.Way)
				continue
			}
			planned++
			made, _, err := change.Try(change.KeepBy{Ways: k.ID + "=" + string(ch.Way)}, b.Card, b.Sheet)
			require.NoError(t, err)
			then := done(t, panel.Resolve(made, b.Sheet))
			assert.Equal(t, then, ch.Total, "%s by %s", k.Name, ch.Way)
			assert.Equal(t, (then - was).Duration(), ch.Costs)
			assert.Equal(t, ch.Way == mask.Round, ch.Now)
			assert.NotEmpty(t, ch.Reason)
		}
		assert.Greater(t, planned, 4)
	}
}

func TestSnowAndSill(t *testing.T) {
	all := weighed(t, night(t, 3, snow, sill))
	var near []mask.Way
	for _, ch := range all[0].Choices[:all[0].Either] {
		near = append(near, ch.Way)
	}
	assert.Subset(t, []mask.Way{mask.Pen, mask.After, mask.Spatter}, near)
	assert.Equal(t, mask.Tape, all[1].Best())
	c, n := keeping.Decide(all)
	assert.Equal(t, 2, n)
	decided := night(t, 3, snow, sill, c)
	assert.Equal(t, mask.Tape, decided.Reserves[1].Way)
	_, n = keeping.Decide(weighed(t, decided))
	assert.Zero(t, n, "what is decided stays so")
}

// The recommended way is never slower than another that is as safe by more than 1 % of the
// whole order.
func TestNothingAsSafeIsSooner(t *testing.T) {
	for _, m := range [][]change.Change{
		{snow, sill},
		{change.KeepZone{NewZone: change.NewZone{Shape: card.DotsAt, Points: "20 x 20 mm; 80 x 30 mm; 50 x 110 mm", Width: "3 mm"}}},
		{change.KeepZone{NewZone: change.NewZone{Shape: card.Within, Points: "30 x 20 mm; 80 x 20 mm; 80 x 60 mm; 30 x 60 mm"}}},
		{change.KeepZone{NewZone: change.NewZone{Shape: card.Rim, Width: "8 mm"}}},
		{change.Strew{Count: 12, Least: "3 mm", Most: "8 mm"}},
	} {
		for _, k := range weighed(t, night(t, 4, m...)) {
			best := k.Choices[0]
			for _, ch := range k.Choices[1:] {
				if ch.Total > 0 && ch.Risk <= best.Risk+0.001 && ch.Risk >= best.Risk-0.01 {
					assert.LessOrEqual(t, float64(best.Total), 1.01*float64(ch.Total), "%s: %s against %s", k.Name, best.Way, ch.Way)
				}
			}
		}
	}
}

// The maker's own tests of fluid on a paper outrank what is generally known.
func TestOwnTestsAreHeeded(t *testing.T) {
	b := night(t, 3, change.Strew{Count: 8, Least: "4 mm", Most: "8 mm", Name: "Flakes"})
	d := deskOf(b)
	way := func() (out keeping.Choice) {
		all, err := d.Weigh(context.Background(), 0)
		require.NoError(t, err)
		i := slices.IndexFunc(all[0].Choices, func(c keeping.Choice) bool { return c.Way == mask.Fluid })
		return all[0].Choices[i]
	}
	was := way()
	d.Bench.Masks = []shelf.Own{{Name: "blue jar", What: shelf.OwnMask, Like: "fluid", Tried: []shelf.Tried{{Paper: b.Card.Paper, Tore: 4, Clean: 1}}}}
	torn := way()
	assert.Greater(t, torn.Risk, was.Risk+0.5)
	assert.Contains(t, torn.Reason, "tore this paper in your own test")
	d.Bench.Masks[0].Tried[0] = shelf.Tried{Paper: "kraft", Tore: 4}
	assert.Equal(t, was.Risk, way().Risk, "on another paper")
}

// A large wash says how long its edge stays open and waits; the same is not worked out
// twice, and what is masked does not make it wait longer.
func TestFronts(t *testing.T) {
	b := night(t, 4)
	plan := func(b *panel.Board) *steps.Plan {
		p, err := steps.Compile(b, steps.UsualBench())
		require.NoError(t, err)
		return p
	}
	all := keeping.Fronts(plan(b), 0)
	require.Len(t, all, 1)
	f := all[0]
	assert.Greater(t, f.Open, 4*time.Minute)
	assert.Positive(t, f.Sweep.Wait)
	assert.InDelta(t, 1.15*f.Sweep.Wait.Seconds()/f.Open.Seconds(), f.Rho, 1e-9)
	assert.InDelta(t, cover.Likely(f.Rho), f.Chance(), 1e-9)
	again := keeping.Fronts(plan(b), 0)[0]
	assert.Equal(t, f.Sweep, again.Sweep)
	strewn := night(t, 4, change.Strew{Count: 40, Least: "4 mm", Most: "8 mm", Name: "Flakes"})
	round := keeping.Fronts(plan(strewn), 0)[0]
	fluid := keeping.Fronts(plan(night(t, 4, change.Strew{Count: 40, Least: "4 mm", Most: "8 mm", Name: "Flakes"}, change.KeepBy{Ways: "r1=fluid"})), 0)[0]
	assert.Greater(t, round.Sweep.Wait, f.Sweep.Wait, "there is much to cut in along")
	assert.LessOrEqual(t, fluid.Sweep.Wait.Seconds(), 1.03*round.Sweep.Wait.Seconds())
	assert.Less(t, fluid.Sweep.Total, round.Sweep.Total)
}

// Each piece has its own fronts, once for all its copies.
func TestFrontsOfPieces(t *testing.T) {
	one, other := night(t, 3, sill), night(t, 4)
	d := deskOf(one)
	d.Pieces[0].Many = 3
	d.Pieces = append(d.Pieces, panel.Piece{Board: other, ID: "inside", Name: "inside", Many: 2}, panel.Piece{ID: "band", Name: "band", Many: 1})
	p, err := steps.CompileAll(d.Pieces, d.Card, d.Bench)
	require.NoError(t, err)
	for piece, b := range []*panel.Board{one, other} {
		alone, err := steps.Compile(b, d.Bench)
		require.NoError(t, err)
		want, is := keeping.Fronts(alone, 0), keeping.Fronts(p, piece)
		require.Len(t, is, len(want))
		for i := range is {
			assert.Equal(t, want[i].Sweep, is[i].Sweep)
			assert.Equal(t, want[i].Parts, is[i].Parts)
		}
	}
	assert.Empty(t, keeping.Fronts(p, 2), "nothing is drawn on it")
	assert.Empty(t, keeping.Fronts(p, 3), "there is no such piece")
}

// A wider brush is a way out where the place takes one and the maker has none.
func TestAWiderBrushHelps(t *testing.T) {
	b := night(t, 3, sill)
	b.Card.Room = drying.Room{Celsius: 42, Humidity: 0.1, Air: 2}
	wider := func(brushes []shelf.Brush) (f keeping.Front, out *keeping.WayOut) {
		bench := steps.UsualBench()
		bench.Brushes = brushes
		p, err := steps.Compile(b, bench)
		require.NoError(t, err)
		f = keeping.Fronts(p, 0)[0]
		all := keeping.WaysOut(b, &f, bench)
		require.NotEmpty(t, all)
		if i := slices.IndexFunc(all, func(w keeping.WayOut) bool { return w.Label == "A wider brush" }); i >= 0 {
			out = &all[i]
		}
		return f, out
	}
	usual := shelf.Brushes()
	_, w := wider(usual)
	assert.Nil(t, w, "the widest is taken already")
	_, w = wider(append(usual, shelf.Brush{Name: "mop", Belly: 90, Point: 9, CapacityML: 20}))
	assert.Nil(t, w, "it is wider than the place")
	f, w := wider(usual[:len(usual)-1])
	require.NotNil(t, w)
	assert.Contains(t, w.Says, usual[len(usual)-1].Name)
	assert.Less(t, w.Rho, f.Rho)
	assert.Negative(t, w.More)
}

// The sweep and the advice for a card of 150 cells, beside finding its cells.
func BenchmarkAdvice(b *testing.B) {
	of, sheet := large(b)
	b.Run("finding 150 cells", func(b *testing.B) {
		for b.Loop() {
			large(b)
		}
	})
	b.Run("sweep and advice", func(b *testing.B) {
		for b.Loop() {
			board := fresh(b, of, sheet)
			weighed(b, board)
			p, err := steps.Compile(board, steps.UsualBench())
			require.NoError(b, err)
			keeping.Fronts(p, 0)
		}
	})
}
