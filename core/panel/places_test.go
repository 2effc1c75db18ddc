package panel_test

import (
	"context"
	"fmt"
	"image"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/lineart"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/pigment"
	"chromaqua/core/technique"
	"chromaqua/internal/golden"
)

// Ink that reaches over the edge counts, an empty corner of the picture does not; how far
// is said to the pixel, turned and mirrored too.
func TestHowFarInkReachesOver(t *testing.T) {
	scan := image.NewGray(image.Rect(0, 0, 600, 400)) // 60 × 40 mm, its ink a bar in the middle
	for i := range scan.Pix {
		scan.Pix[i] = 240
	}
	for y := 150; y < 250; y++ {
		for x := 200; x < 400; x++ {
			if y < 160 || y >= 240 || x < 210 || x >= 390 {
				scan.Pix[y*600+x] = 20
			}
		}
	}
	const hash = "0123456789abcdef0123456789abcdef0123456789abcdef0123456789abcdef"
	for _, tc := range []struct {
		x, y, turn float64
		want       float64
	}{
		{10, 10, 0, 0}, {-15, 10, 0, 0}, {-20, 10, 0, 0}, {-25, 10, 0, 5}, {10, -20, 0, 5}, {66, 10, 0, 10}, {10, 112.5, 0, 10},
		{-25, 10, 90, 0}, {-28, 10, 90, 3}, // upright, the bar is 10 mm wide
	} {
		c := card.New("over", length.Millimetres)
		_, err := c.Lay(card.Scan{Image: hash, Title: "Bar", WidthPX: 600, HeightPX: 400, Width: 60 * length.Millimetre}, "")
		require.NoError(t, err)
		c.Line().X, c.Line().Y, c.Line().Turn = length.FromMM(tc.x), length.FromMM(tc.y), tc.turn
		made, err := panel.Compose(context.Background(), c, panel.Scans{hash: scan})
		require.NoError(t, err)
		assert.InDelta(t, tc.want, made.Laid[0].OverMM, 0.25, "%v", tc)
	}
}

// A stroke that closes a gap runs a little into the line on either side.
func TestTheStrokeThatClosesAGap(t *testing.T) {
	c, s := paneltest.Card(t, 2, 1)
	own, drawing := *s, *s.Drawing
	own.Drawing = &drawing
	b := panel.Resolve(c, &own)
	drawing.Leaks = []lineart.Leak{{Banks: [2]lineart.Point{{X: 20, Y: 30}, {X: 23, Y: 34}}, WidthMM: 5, A: 1, B: 2}}
	require.NoError(t, b.CloseLeak(0))
	marks := c.Line().Marks
	require.Len(t, marks, 1)
	from, to := panel.OnPanel(c.Line(), marks[0].Points[0]), panel.OnPanel(c.Line(), marks[0].Points[1])
	assert.InDelta(t, 20-0.2*0.6, from.X, 1e-3)
	assert.InDelta(t, 30-0.2*0.8, from.Y, 1e-3)
	assert.InDelta(t, 23+0.2*0.6, to.X, 1e-3)
	assert.InDelta(t, 34+0.2*0.8, to.Y, 1e-3)
}

// What lies below all else: papers by their colour, and what of an area's own is wet.
func TestGroundsAndWetness(t *testing.T) {
	grounds := map[string]string{}
	for _, id := range []string{"cotton-cp", "cotton-cream", "kraft", "no-such"} {
		g := panel.Ground(id)
		grounds[id] = g.Hex()
	}
	assert.Equal(t, grounds["cotton-cp"], grounds["no-such"])
	assert.NotEqual(t, grounds["cotton-cp"], grounds["cotton-cream"])
	assert.NotEqual(t, grounds["cotton-cp"], grounds["kraft"])
	c, s := paneltest.Card(t, 2, 1)
	mix := []card.Part{{CI: "PB29", Parts: 1}}
	for kind, wet := range map[technique.Kind]bool{technique.Flat: true, technique.DryBrush: true, technique.Pencil: false, technique.Splatter: false, technique.PenLine: false} {
		c.Areas = nil
		paneltest.Area(t, c, s, "Left", [][2]int{{0, 0}}, card.Wash{Technique: kind, Strength: pigment.Tea, Mix: mix})
		_, is := panel.Resolve(c, s).Areas[0].Wet()
		assert.Equal(t, wet, is, kind)
	}
	c.Areas[0].Washes = nil
	_, is := panel.Resolve(c, s).Areas[0].Wet()
	assert.False(t, is)
}

// Looks of hundreds of random stacks of washes are what they were: dense and thin, with
// what lifting leaves of paints that stain more and less.
func TestLooksAreWhatTheyWere(t *testing.T) {
	var paints []string
	for _, p := range pigment.Library() {
		paints = append(paints, p.CI)
	}
	var b strings.Builder
	for seed := range uint64(250) {
		r := rand.New(rand.NewPCG(seed, 8))
		c := card.New("stack", length.Millimetres)
		c.Paper = []string{"cotton-cp", "kraft", "cotton-cream"}[r.IntN(3)]
		c.Areas = []card.Area{{ID: "a1", Name: "x", Cells: []card.Spot{}}}
		a := &c.Areas[0]
		for range 1 + r.IntN(5) {
			was := len(a.Washes)
			w := card.Wash{Technique: paneltest.Pick(r, paneltest.Usual()), Strength: pigment.Strengths()[r.IntN(5)], OverDry: r.IntN(3) == 0}
			if w.Technique.Tool() == technique.CleanWater {
				w.Strength = ""
			} else {
				for range 1 + r.IntN(2) {
					_ = w.Dip(paneltest.Pick(r, paints), 1+r.IntN(3))
				}
			}
			if a.Washes = append(a.Washes, w); c.Check() != nil {
				a.Washes = a.Washes[:was]
			}
		}
		look := panel.PaletteOf(c).Look(a.Washes)
		fmt.Fprintf(&b, "%d %s: %s %s | %s %s %q", seed, c.Paper, look.Dense.Dry, look.Dense.Wet, look.Thin.Dry, look.Thin.Grey, look.Grade)
		for _, trace := range look.Traces {
			fmt.Fprintf(&b, "; %s %d %s", trace.Technique, trace.Wash, trace.Tone.Dry)
		}
		for _, w := range a.Washes {
			if len(w.Mix) > 0 {
				thin, thick := panel.PaletteOf(c).Misjudged(w)
				fmt.Fprintf(&b, "; %s %s", thin.Dry, thick.Dry)
			}
		}
		b.WriteString("\n")
	}
	golden.Same(t, "looks", b.String())
}
