package paint_test

import (
	"bytes"
	"context"
	"image"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/order"
	"chromaqua/core/order/solver"
	"chromaqua/core/paint"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/panel/paneltest/jobs"
	"chromaqua/core/pigment"
	"chromaqua/core/steps"
	"chromaqua/core/technique"
	"chromaqua/core/wash"
)

// planned is a card of 2 × 1 cells with washes on the first, planned.
func planned(t testing.TB, change func(*card.Card), washes ...card.Wash) (*steps.Plan, *order.Schedule) {
	c, s := paneltest.Card(t, 2, 1)
	paneltest.Area(t, c, s, "Sea", [][2]int{{0, 0}}, washes...)
	if change != nil {
		change(c)
	}
	require.NoError(t, c.Check())
	p, err := steps.Compile(panel.Resolve(c, s), steps.UsualBench())
	require.NoError(t, err)
	o, err := solver.Solve(context.Background(), p.Instance, solver.Budget{Iterations: 50, Seed: 1})
	require.NoError(t, err)
	return p, o
}

func of(k technique.Kind, ci string, s pigment.Strength) card.Wash {
	return card.Wash{Technique: k, Strength: s, Mix: []card.Part{{CI: ci, Parts: 1}}}
}

// drawn is a painted card at a time.
func drawn(t testing.TB, p *steps.Plan, s *order.Schedule, at float64) (*image.RGBA, []wash.Event) {
	q := paint.Of(p, s, 0, 0, wash.UsualHand())
	m, err := q.Play(context.Background(), at, nil)
	require.NoError(t, err)
	img, err := paint.Draw(context.Background(), p.Pieces[0].Board, m.Picture(), paint.Shot{DPI: 100})
	require.NoError(t, err)
	return img, m.Events()
}

// inCell is the mean colour inside the middle of a cell.
func inCell(t testing.TB, b *panel.Board, img *image.RGBA, column int) pigment.Lab {
	var sum [3]float64
	n := 0.0
	cell := b.Cells[paneltest.CellAt(t, b.Card, b.Sheet, column, 0)-1]
	for dy := -6.0; dy <= 6; dy += 0.3 {
		for dx := -6.0; dx <= 6; dx += 0.3 {
			c := img.RGBAAt(int((cell.Label.X+dx)/0.254), int((cell.Label.Y+dy)/0.254))
			l := pigment.FromSRGB([3]float64{float64(c.R) / 255, float64(c.G) / 255, float64(c.B) / 255})
			for k := range sum {
				sum[k] += l[k]
			}
			n++
		}
	}
	return pigment.RGB{sum[0] / n, sum[1] / n, sum[2] / n}.Lab()
}

// A flat wash comes to what the flat look says.
func TestAFlatWashIsAsItLooks(t *testing.T) {
	for _, ci := range []string{"PB29", "PV19", "PY150", "PBr7", "PG7"} {
		for _, strength := range []pigment.Strength{pigment.Tea, pigment.Milk} {
			w := of(technique.Flat, ci, strength)
			p, s := planned(t, nil, w)
			img, events := drawn(t, p, s, wash.Dry)
			want := p.Pieces[0].Board.Looks()[0].Dense.Lab
			got := inCell(t, p.Pieces[0].Board, img, 0)
			assert.Less(t, pigment.Difference(want, got), 2.0, "%s %s: %v, the flat look is %v", ci, strength, got, want)
			assert.Empty(t, events)
			bare := inCell(t, p.Pieces[0].Board, img, 1)
			assert.Greater(t, bare.L, 95.0, "the cell beside it stays white")
		}
	}
}

// Every technique leaves something of its own, over a wash and by itself.
func TestEveryTechniqueIsSeen(t *testing.T) {
	base := of(technique.Flat, "PB28", pigment.Tea)
	p, s := planned(t, nil, base)
	plain, _ := drawn(t, p, s, wash.Dry)
	seen := map[string]technique.Kind{}
	for _, k := range technique.Kinds() {
		f := k.Facts()
		if f.Pulls { // needs a line that gives colour: its own test
			continue
		}
		w := of(k, "PR108", pigment.Milk)
		if k.Tool() == technique.CleanWater {
			w.Mix, w.Strength = nil, ""
		}
		washes := []card.Wash{base, w}
		if f.Spreads {
			washes = []card.Wash{of(technique.WetPencil, "PB28", pigment.Tea), w}
		}
		p, s := planned(t, nil, washes...)
		img, _ := drawn(t, p, s, wash.Dry)
		different := 0
		for i := 0; i < len(img.Pix); i += 4 {
			for c := range 3 {
				if d := int(img.Pix[i+c]) - int(plain.Pix[i+c]); d > 6 || d < -6 {
					different++
					break
				}
			}
		}
		assert.Greater(t, different, 25, "%s changes nothing", k)
		if like, known := seen[string(img.Pix)]; known && k.Facts().Tool != technique.DrawnLine { // one pen is as another
			t.Errorf("%s looks like %s", k, like)
		}
		seen[string(img.Pix)] = k
	}
}

// A vanishing line gives its colour to water.
func TestTheLineRuns(t *testing.T) {
	w := card.Wash{Technique: technique.LinePull}
	p, s := planned(t, func(c *card.Card) { c.Images[0].Medium = &card.Medium{Ink: "blend"} }, w)
	if p.Pieces[0].Board.Pulled(0).Load == 0 {
		t.Fatal("the ink gives nothing")
	}
	img, _ := drawn(t, p, s, wash.Dry)
	assert.Greater(t, pigment.Difference(inCell(t, p.Pieces[0].Board, img, 0), inCell(t, p.Pieces[0].Board, img, 1)), 2.0)
}

// In time: before anything is painted it is white, while it is wet it is darker than dry.
func TestThroughTime(t *testing.T) {
	p, s := planned(t, func(c *card.Card) { c.Drying = card.Air }, of(technique.Flat, "PB29", pigment.Milk))
	b := p.Pieces[0].Board
	end := 0.0
	for _, o := range s.Ops {
		if p.Steps[o.Op].Kind == steps.Paint {
			end = float64(o.End)
		}
	}
	first, _ := drawn(t, p, s, 0)
	wet, _ := drawn(t, p, s, end+5)
	dry, _ := drawn(t, p, s, wash.Dry)
	assert.Greater(t, inCell(t, b, first, 0).L, 95.0)
	assert.Less(t, inCell(t, b, wet, 0).L, inCell(t, b, dry, 0).L)
}

// The same card is the same picture; a careful hand's is another than a loose one's.
func TestCarefulAndLoose(t *testing.T) {
	w := of(technique.Flat, "PB29", pigment.Milk)
	p, s := planned(t, nil, w)
	one, _ := drawn(t, p, s, wash.Dry)
	two, _ := drawn(t, p, s, wash.Dry)
	assert.True(t, bytes.Equal(one.Pix, two.Pix))
	p, s = planned(t, func(c *card.Card) { c.Areas[0].Loose = true }, w)
	loose, _ := drawn(t, p, s, wash.Dry)
	assert.False(t, bytes.Equal(one.Pix, loose.Pix))
}

// Sizes nobody can hold are refused in words.
func TestSizes(t *testing.T) {
	p, _ := planned(t, nil, of(technique.Flat, "PB29", pigment.Milk))
	for _, dpi := range []float64{0, -3, 5000} {
		_, err := paint.Size(p.Pieces[0].Board, dpi)
		require.ErrorContains(t, err, "ask for")
	}
}

// Metal glints wherever it is laid, the more the more of it there is; how it is held to the
// light decides which flakes do. Paint that lies over it dulls it.
func TestMetal(t *testing.T) {
	// sparkle is how much a cell changes as the sheet is turned to the light: the root mean
	// square over its pixels, 8 bits.
	sparkle := func(washes ...card.Wash) float64 {
		p, s := planned(t, nil, washes...)
		m, err := paint.Of(p, s, 0, 0, wash.UsualHand()).Play(context.Background(), math.Inf(1), nil)
		require.NoError(t, err)
		b := p.Pieces[0].Board
		var held [2]*image.RGBA
		for i, glance := range []float64{-0.5, 0.5} {
			held[i], err = paint.Draw(context.Background(), b, m.Picture(), paint.Shot{DPI: 150, View: wash.View{Glance: glance}})
			require.NoError(t, err)
		}
		cell := b.Cells[paneltest.CellAt(t, b.Card, b.Sheet, 0, 0)-1]
		sum, n := 0.0, 0
		for y := int((cell.Label.Y - 5) * 150 / 25.4); y < int((cell.Label.Y+5)*150/25.4); y++ {
			for x := int((cell.Label.X - 5) * 150 / 25.4); x < int((cell.Label.X+5)*150/25.4); x++ {
				d := float64(held[0].RGBAAt(x, y).R) - float64(held[1].RGBAAt(x, y).R)
				sum, n = sum+d*d, n+1
			}
		}
		return math.Sqrt(sum / float64(n))
	}
	gold, weak := of(technique.Flat, "PW20-gold", pigment.Cream), of(technique.Flat, "PW20-gold", pigment.WeakTea)
	laid, thin, pearl := sparkle(gold), sparkle(weak), sparkle(of(technique.Flat, "PW20-pearl", pigment.Cream))
	dulled, shimmer := sparkle(gold, of(technique.Glaze, "PB29", pigment.Milk)), sparkle(of(technique.Flat, "PY42", pigment.Tea), of(technique.Shimmer, "PY42", pigment.Tea))
	t.Logf("gold %.1f, thin %.1f, pearl %.1f, glazed %.1f, shimmer %.1f, ochre %.1f", laid, thin, pearl, dulled, shimmer, sparkle(of(technique.Flat, "PY42", pigment.Cream)))
	assert.Zero(t, sparkle(of(technique.Flat, "PY42", pigment.Cream)))
	assert.Greater(t, laid, 10.0)
	for name, less := range map[string]float64{"thin": thin, "glazed": dulled} {
		assert.Less(t, less, 0.8*laid, name)
		assert.Greater(t, less, 0.3, name)
	}
	assert.Greater(t, pearl, 1.0)
	assert.Greater(t, shimmer, 1.0)
}

// Two rays are painted alike, each when its own steps come.
func TestItemsArePaintedByTheirOwnSteps(t *testing.T) {
	s := jobs.All()[12].Make()
	pieces, err := s.Pieces(t.Context())
	require.NoError(t, err)
	p, err := steps.CompileAll(pieces, s.Card, steps.UsualBench())
	require.NoError(t, err)
	sch, err := solver.Solve(t.Context(), p.Instance, solver.Budget{Iterations: 50, Seed: 1})
	require.NoError(t, err)
	ray := slices.IndexFunc(p.Pieces, func(q panel.Piece) bool { return q.Many == 2 })
	starts := func(item int) (out []float64) {
		for _, st := range paint.Of(p, sch, ray, item, wash.UsualHand()).Strokes {
			out = append(out, st.Start)
		}
		slices.Sort(out)
		return out
	}
	var want [2][]float64
	for _, o := range sch.Ops {
		if st := &p.Steps[o.Op]; st.Piece == ray && st.On != nil {
			want[st.Item] = append(want[st.Item], float64(o.Start))
		}
	}
	require.NotEmpty(t, want[0])
	assert.Equal(t, want[0], starts(0))
	assert.Equal(t, want[1], starts(1))
	assert.NotEqual(t, want[0], want[1])
}
