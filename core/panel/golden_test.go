package panel_test

import (
	"context"
	"fmt"
	"image"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
	"chromaqua/internal/golden"
)

// tones writes a tone.
func tones(t panel.Tone) string { return t.Dry + " " + t.Wet + " " + t.Grey }

// What is found and seen on random boards is what it was.
func TestBoardsAreWhatTheyWere(t *testing.T) {
	var b strings.Builder
	for seed := uint64(1); seed <= 6; seed++ {
		d := paneltest.Random(t, seed)
		fmt.Fprintf(&b, "board %d\n", seed)
		looks := d.Looks()
		from := panel.PaletteOf(d.Card)
		for i, a := range d.Areas {
			fmt.Fprintf(&b, " %s cells %v %.1f mm² edge %.1f inscribed %.2f centre %.1f %.1f lost %d itself %t alike %v stencil %t\n", a.Name, a.Cells, a.MM2, a.EdgeMM, a.InscribedMM, a.Centre.X, a.Centre.Y, len(a.Lost), d.TouchesItself(i), d.Alike(i), d.OnStencil(i))
			l := looks[i]
			fmt.Fprintf(&b, "  %v: %s | %s | %q\n", plain(a.Washes), tones(l.Dense), tones(l.Thin), l.Grade)
			for _, trace := range l.Traces {
				fmt.Fprintf(&b, "  trace %s %d %s\n", trace.Technique, trace.Wash, tones(trace.Tone))
			}
			fmt.Fprintf(&b, "  whites %q depth %q %q\n", from.Whites(a.Washes), from.DepthOf(a.Area, nil, 40), from.DepthOf(a.Area, nil, 75))
			for k, w := range a.Washes {
				if w.Technique.Covers() {
					for _, c := range from.CoatsOver(a.Washes[:k], w, 3) {
						fmt.Fprintf(&b, "  coat %s\n", c.Dry)
					}
				}
				if len(w.Mix) > 0 {
					thin, thick := from.Misjudged(w)
					fmt.Fprintf(&b, "  misjudged %s %s alone %s\n", thin.Dry, thick.Dry, from.ToneOf(w.Mix, w.Strength).Dry)
				} else {
					before, after := from.LeftBy(a.Washes[:k+1])
					fmt.Fprintf(&b, "  left %s %s\n", before.Dry, after.Dry)
				}
			}
		}
		fmt.Fprintf(&b, " edges %.2f tight %.1f\n", d.Edges, d.Tight)
		for _, c := range d.Contacts() {
			fmt.Fprintf(&b, " contact %+v\n", c)
		}
		for _, c := range d.Touching {
			fmt.Fprintf(&b, " touch %d %d %.2f %.2f\n", c.A, c.B, c.BorderMM, c.LineMM)
		}
		if j := d.Judge(looks); j != nil {
			fmt.Fprintf(&b, " judged %s %s %.2f white %.4f %s %s %v %v\n", j.Darkest, j.Lightest, j.Range, j.White, j.Harmony, j.Temperature, j.Strongest, j.Mats)
		}
		fmt.Fprintf(&b, " free %v similar %v %v\n", d.Free(), d.Similar(1), d.Similar(len(d.Cells)/2))
		for _, w := range []float64{8, 25} {
			for _, p := range d.RoomFor(length.Size{W: length.FromMM(w), H: length.FromMM(w / 3)}) {
				fmt.Fprintf(&b, " words %.1f %.1f %.1f %.1f\n", p.X, p.Y, p.W, p.H)
			}
		}
		for _, id := range []int{1, len(d.Cells)} {
			fmt.Fprintf(&b, " spot %+v\n", d.SpotOf(id))
		}
	}
	for seed := uint64(7); seed <= 60; seed++ {
		d := paneltest.Random(t, seed)
		if j := d.Judge(d.Looks()); j != nil {
			fmt.Fprintf(&b, "board %d judged %s %s %.2f white %.4f %s, %s %v %v\n", seed, j.Darkest, j.Lightest, j.Range, j.White, j.Harmony, j.Temperature, j.Strongest, j.Mats)
		}
	}
	golden.Same(t, "boards", b.String())
}

// levels is how much of a picture is how dark, in a grid of 6 × 6 places.
func levels(m *image.Gray) string {
	var b strings.Builder
	for j := range 6 {
		for i := range 6 {
			sum, n := 0, 0
			for y := m.Rect.Dy() * j / 6; y < m.Rect.Dy()*(j+1)/6; y++ {
				for x := m.Rect.Dx() * i / 6; x < m.Rect.Dx()*(i+1)/6; x++ {
					sum, n = sum+int(m.Pix[y*m.Stride+x]), n+1
				}
			}
			fmt.Fprintf(&b, "%5d", (20*sum+n)/(2*n)) // tenths
		}
		b.WriteString("\n")
	}
	return b.String()
}

// What is composed of images that lie over each other, turned, mirrored, stamped off,
// kept bare or painted through, is what it was.
func TestComposedPanelsAreWhatTheyWere(t *testing.T) {
	var b strings.Builder
	changes := map[string]func(*card.Card){
		"as it lies":   func(*card.Card) {},
		"turned":       func(c *card.Card) { c.Images[1].Turn = 30 },
		"mirrored":     func(c *card.Card) { c.Images[0].Mirror, c.Images[0].X = true, c.Images[0].X+5*length.Millimetre },
		"smaller":      func(c *card.Card) { c.Images[1].Width /= 2 },
		"ghosts":       func(c *card.Card) { c.Images[0].Ghost, c.Images[1].Ghost = 1, 3 },
		"off":          func(c *card.Card) { c.Images[1].X = 300 * length.Millimetre },
		"solid, rough": func(c *card.Card) { c.Images[0].Kind, c.Paper = shelf.SolidImage, "cotton-rough" },
		"stencil":      func(c *card.Card) { c.Images[1].Kind = shelf.Stencil },
		"relief":       func(c *card.Card) { c.Images[1].Kind = shelf.ReliefImage },
		"bare and pen": func(c *card.Card) {
			c.Images[0].Marks = []card.Mark{{Kind: card.Bare, Points: []card.UV{{U: 0, V: 0}, {U: 0.5, V: 0}, {U: 0.5, V: 0.5}}}, {Kind: card.Pen, Points: []card.UV{{U: 0.2, V: 0.2}, {U: 0.8, V: 0.4}, {U: 0.9, V: 0.1}}}}
		},
		"vanishing": func(c *card.Card) { c.Look, c.Ink = shelf.Vanishing, "pale" },
	}
	var names []string
	for name := range changes {
		names = append(names, name)
	}
	slices.Sort(names)
	for _, name := range names {
		c, scan := two(t)
		changes[name](c)
		made, err := panel.Compose(context.Background(), c, scans(c, scan))
		if err != nil {
			fmt.Fprintf(&b, "%s: %v\n", name, err)
			continue
		}
		fmt.Fprintf(&b, "%s at %.1f dpi\n%sshown\n%s", name, made.DPI, levels(made.Found), levels(made.Shown))
		for i, l := range made.Laid {
			fmt.Fprintf(&b, " %d off %t hidden %v mass %.1f rings %d\n", i, l.Off, l.Hidden, l.MassMM2, len(l.Silhouette.Rings))
		}
	}
	golden.Same(t, "composed", b.String())
}

// Whose cells are whose where images lie over each other, how far one may lie over
// another before a mask is cut, and where cells are found again when the line has moved.
func TestCellsOfSeveralImagesAreWhatTheyWere(t *testing.T) {
	var b strings.Builder
	for _, right := range []float64{0, 10, 19, 20, 39, 39.5, 40, 40.2, 40.4, 41} {
		c, scan := two(t)
		c.Images[1].X, c.Images[1].Y = c.Images[0].X+length.FromMM(right), c.Images[0].Y+length.FromMM(1)
		d := read(t, c, scan)
		fmt.Fprintf(&b, "%g mm to the right, hidden %v %v\n", right, d.Laid[0].Hidden, d.Laid[1].Hidden)
		for i := range d.Cells {
			spot := d.SpotOf(d.Cells[i].ID)
			fmt.Fprintf(&b, " %s %.2f %.2f %.1f, edge %.1f, tight %.1f\n", spot.On, spot.UV.U, spot.UV.V, spot.MM2, d.Edges[i], d.Tight[i])
		}
	}
	for _, down := range []float64{18, 19.5, 19.9, 20, 20.1, 20.2, 20.3, 20.4, 20.5} {
		c, scan := two(t)
		c.Images[1].X, c.Images[1].Y = c.Images[0].X+length.FromMM(40.2), c.Images[0].Y+length.FromMM(down)
		made, err := panel.Compose(context.Background(), c, scans(c, scan))
		require.NoError(t, err)
		fmt.Fprintf(&b, "corner to corner, %g mm down, hidden %v\n", down, made.Laid[1].Hidden)
	}
	for seed := uint64(1); seed <= 3; seed++ {
		d := paneltest.Random(t, seed)
		for _, by := range []float64{0.7, 0.97, 1.05, 1.4} {
			for _, off := range []float64{-4, 0.5, 6} {
				c, err := d.Card.Clone()
				require.NoError(t, err)
				for i := range c.Areas {
					for j := range c.Areas[i].Cells {
						spot := &c.Areas[i].Cells[j]
						spot.MM2 *= by
						spot.UV.U += off / c.Line().Width.MM()
					}
				}
				moved := panel.Resolve(c, d.Sheet)
				fmt.Fprintf(&b, "board %d, %g of the size, %g mm off:", seed, by, off)
				for _, a := range moved.Areas {
					fmt.Fprintf(&b, " %v lost %d;", a.Cells, len(a.Lost))
				}
				b.WriteString("\n")
			}
		}
	}
	golden.Same(t, "cells", b.String())
}

// The maker's own paints are what they were: known better where measured, by estimate
// for gouache, and only for cards that use their pigment.
func TestOwnPaints(t *testing.T) {
	blue, err := pigment.ByCI("PB29")
	require.NoError(t, err)
	paint := blue.Paint()
	own := []shelf.Own{
		{What: shelf.OwnInk, Name: "night", Like: "pen"},
		{What: shelf.OwnPaint, Name: "Ultra", Like: "PB29", Paint: &paint},
		{What: shelf.OwnPaint, Name: "Ultra 2", Like: "PB29"},
		{What: shelf.OwnPaint, Name: "Rose gouache", Like: "PV19", Form: shelf.Gouache},
		{What: shelf.OwnPaint, Name: "Green mix", Like: "2 PY3 + PG7"},
		{What: shelf.OwnPaint, Name: "broken", Like: "?"},
	}
	var b strings.Builder
	fmt.Fprintf(&b, "ingredients %v\n", panel.IngredientsOf(own))
	for _, p := range panel.PaintsOf(own) {
		fmt.Fprintf(&b, "paint %s\n", p.CI)
	}
	c, _ := paneltest.Card(t, 2, 1)
	a, err := c.AreaByID(c.AddArea("x"))
	require.NoError(t, err)
	a.Washes = []card.Wash{{Technique: technique.Flat, Strength: pigment.Tea, Mix: []card.Part{{CI: "PB29", Parts: 1}, {CI: "PV19", Parts: 1}}}}
	for _, m := range panel.Unused(c, own) {
		fmt.Fprintf(&b, "unused %s %s %.4f %.4f\n", m.CI, m.Name, m.K[10], m.S[10])
	}
	c.Measure(panel.Unused(c, own)...)
	fmt.Fprintf(&b, "then %d, on the chart %s\n", len(panel.Unused(c, own)), tones(panel.ChartPalette(own).ToneOf(a.Washes[0].Mix, pigment.Milk)))
	for _, way := range []panel.Way{{From: "PB29", To: "PG7"}, {Turn: 120}} {
		d, err := c.Clone()
		require.NoError(t, err)
		require.NoError(t, way.Recolour(context.Background(), d, panel.PaintsOf(own)))
		fmt.Fprintf(&b, "%s: %v\n", way.Words(d, nil), plain(d.Areas[0].Washes))
	}
	pairs, err := panel.ChartPalette(own).Chart([]string{"PB29", "PY3", "PV19"})
	require.NoError(t, err)
	for _, p := range pairs {
		fmt.Fprintf(&b, "pair %s %s", p.A.CI, p.B.CI)
		for _, row := range p.Rows {
			for _, tone := range row {
				b.WriteString(" " + tone.Dry)
			}
		}
		b.WriteString("\n")
	}
	golden.Same(t, "own", b.String())
}

// plain are washes as goldens show them.
func plain(washes []card.Wash) (out []string) {
	for _, w := range washes {
		out = append(out, fmt.Sprintf("{%s %v %s %t}", w.Technique, w.Mix, w.Strength, w.OverDry))
	}
	return out
}
