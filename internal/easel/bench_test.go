package easel_test

import (
	"context"
	"image"
	"path/filepath"
	"runtime"
	"testing"

	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/drying"
	"chromaqua/core/order"
	"chromaqua/core/order/solver"
	"chromaqua/core/paint"
	"chromaqua/core/panel"
	"chromaqua/core/pigment"
	"chromaqua/core/shading"
	"chromaqua/core/steps"
	"chromaqua/core/wash"
	"chromaqua/internal/demo"
	"chromaqua/internal/desk"
	"chromaqua/internal/store"
)

// crab is the sample studio's hermit crab, planned.
func crab(t testing.TB) (*card.Card, panel.Scans, *steps.Plan, *order.Schedule) {
	ctx := context.Background()
	st, err := store.Open(ctx, filepath.Join(t.TempDir(), "studio.db"))
	require.NoError(t, err)
	t.Cleanup(func() { st.Close() })
	require.NoError(t, demo.Fill(ctx, st))
	rev, err := st.Card(ctx, 4)
	require.NoError(t, err)
	require.Contains(t, rev.Card.Name, "Hermit crab")
	scans, err := desk.Scans(ctx, st, rev.Card)
	require.NoError(t, err)
	sheet, err := panel.Read(ctx, rev.Card, scans, nil)
	require.NoError(t, err)
	p, err := steps.Compile(panel.Resolve(rev.Card, sheet), steps.UsualBench())
	require.NoError(t, err)
	s, err := solver.Solve(ctx, p.Instance, solver.Budget{Iterations: 300, Seed: 1})
	require.NoError(t, err)
	return rev.Card, scans, p, s
}

// BenchmarkPaint paints the crab beside finding its cells: whole, after a change of a small
// area, at 300 to the inch.
func BenchmarkPaint(b *testing.B) {
	c, scans, p, s := crab(b)
	ctx := context.Background()
	draw := func(q *paint.Painting, kept *wash.Kept, dpi float64) {
		m, err := q.Play(ctx, wash.Dry, kept)
		require.NoError(b, err)
		pic := m.Picture()
		_, err = pic.Draw(ctx, dpi, image.Rectangle{Max: pic.Size(dpi)}, wash.View{}, nil)
		require.NoError(b, err)
	}
	b.Run("finding the cells", func(b *testing.B) {
		for b.Loop() {
			_, err := panel.Read(ctx, c, scans, nil)
			require.NoError(b, err)
		}
	})
	b.Run("shading", func(b *testing.B) {
		for b.Loop() {
			shading.Find(p.Pieces[0].Board.Drawing, shading.UpperLeft())
		}
	})
	b.Run("whole, 150 dpi", func(b *testing.B) {
		for b.Loop() {
			draw(paint.Of(p, s, 0, 0, wash.UsualHand()), nil, 150)
		}
	})
	b.Run("a small area changed, 150 dpi", func(b *testing.B) {
		kept := &wash.Kept{}
		q := paint.Of(p, s, 0, 0, wash.UsualHand())
		first, err := q.Play(ctx, wash.Dry, kept)
		require.NoError(b, err)
		eyes := 0
		for i, st := range q.Strokes {
			if q.StepOf(st.ID).On != nil && p.Pieces[0].Board.Areas[q.StepOf(st.ID).On.Area].Name == "Eyes" {
				eyes = i
			}
		}
		n := float32(0)
		for b.Loop() {
			n += 0.01
			q.Strokes[eyes].Load = 0.5 + n
			m, err := q.Play(ctx, wash.Dry, kept)
			require.NoError(b, err)
			pic := m.Picture()
			r := m.Changed(first)
			_, err = pic.Draw(ctx, 150, r, wash.View{}, nil)
			require.NoError(b, err)
		}
	})
	b.Run("drawing alone, 300 dpi", func(b *testing.B) {
		m, err := paint.Of(p, s, 0, 0, wash.UsualHand()).Play(ctx, wash.Dry, nil)
		require.NoError(b, err)
		pic := m.Picture()
		for b.Loop() {
			_, err = pic.Draw(ctx, 300, image.Rectangle{Max: pic.Size(300)}, wash.View{}, nil)
			require.NoError(b, err)
		}
	})
}

// A panel of 12 × 12 in at 300 to the inch, of 400 areas that all are wet at once: it is
// painted, tells how far it is, stops when it is told to, and needs no more memory than its
// picture and some tens of megabytes.
func TestALargePanel(t *testing.T) {
	const across = 20
	w := int(12 * 25.4 / wash.PlateMM)
	labels := make([]uint16, w*w)
	for i := range labels {
		if x, y := i%w, i/w; x%90 > 2 && y%90 > 2 && x/90 < across && y/90 < across {
			labels[i] = uint16(1 + x/90 + across*(y/90))
		}
	}
	white, err := pigment.Paper("white")
	require.NoError(t, err)
	blue, err := pigment.ByCI("PB29")
	require.NoError(t, err)
	paintOf := blue.Paint()
	p := &wash.Painting{Plate: wash.NewPlate(w, w, labels), Paper: wash.PaperOf(drying.Cotton, wash.ColdPressed), Ground: wash.Sampled(&white), Hand: wash.UsualHand(), Seed: 3,
		Paints: []wash.Paint{wash.PaintOf(&paintOf, 1, 3)}, Rate: []float64{3}}
	for l := range across * across {
		p.Strokes = append(p.Strokes, wash.Stroke{ID: l, Start: float64(l), Dur: 5, Laid: 60, Left: 60, Load: 0.5, Mix: []wash.Portion{{Paint: 0, Share: 1}}, Cells: []uint16{uint16(l + 1)}, Band: 6})
		if l%across > 0 {
			p.Borders = append(p.Borders, wash.Border{A: uint16(l), B: uint16(l + 1), Cross: wash.FlatLine})
		}
	}
	m, err := p.Play(context.Background(), wash.Dry, nil)
	require.NoError(t, err)
	require.NotEmpty(t, m.Events(), "it runs everywhere")
	pic := m.Picture()
	size := pic.Size(300)
	require.Equal(t, image.Pt(3600, 3600), size)
	runtime.GC()
	var before, after runtime.MemStats
	runtime.ReadMemStats(&before)
	last := 0.0
	ctx, stop := context.WithCancel(context.Background())
	_, err = pic.Draw(ctx, 300, image.Rectangle{Max: size}, wash.View{}, func(done float64) {
		if last = done; done > 0.2 {
			stop()
		}
	})
	require.ErrorIs(t, err, context.Canceled)
	require.Greater(t, last, 0.1)
	require.Less(t, last, 0.9)
	runtime.ReadMemStats(&after)
	t.Logf("canvas and tooth %d MB, drawing %d MB more", before.HeapAlloc>>20, (after.TotalAlloc-before.TotalAlloc)>>20)
	require.Less(t, before.HeapAlloc>>20, uint64(260))
	require.Less(t, (after.TotalAlloc-before.TotalAlloc)>>20, uint64(100), "the picture itself takes 52")
}
