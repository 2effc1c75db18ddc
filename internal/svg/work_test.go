package svg_test

import (
	"context"
	"fmt"
	"image"
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"chromaqua/internal/svg"
)

// heavy are drawings that are small files and much work.
func heavy() map[string]string {
	const head = `<svg xmlns="http://www.w3.org/2000/svg" width="14in" height="14in" viewBox="0 0 1000 1000">`
	r := rand.New(rand.NewPCG(1, 2))
	var rings, cross, star, curves, wide, boxes, clips, dashes, dots strings.Builder
	for i := range 6000 {
		x := 499.0 * float64(i) / 6000
		fmt.Fprintf(&rings, "M%.2f %.2fH%.2fV%.2fH%.2fz", x, x, 1000-x, 1000-x, x)
	}
	for range 5000 {
		fmt.Fprintf(&cross, `<path d="M%.1f 0L%.1f 1000" stroke="#000" stroke-width="3"/>`, 1000*r.Float64(), 1000*r.Float64())
		fmt.Fprintf(&star, "L%.1f %.1f", 1000*r.Float64(), 1000*r.Float64())
		fmt.Fprintf(&wide, `<path d="M%.1f 0L%.1f 1000" stroke="#000" stroke-width="900" stroke-linejoin="round" stroke-linecap="round"/>`, 1000*r.Float64(), 1000*r.Float64())
		fmt.Fprintf(&boxes, `<rect width="1000" height="1000" fill-opacity=".5"/>`)
	}
	for range 20_000 {
		fmt.Fprintf(&curves, "C%.0f %.0f %.0f %.0f %.0f %.0f", 1000*r.Float64(), 1000*r.Float64(), 1000*r.Float64(), 1000*r.Float64(), 1000*r.Float64(), 1000*r.Float64())
		fmt.Fprintf(&dots, "M%.0f %.0fz", 1000*r.Float64(), 1000*r.Float64())
	}
	clips.WriteString(`<clipPath id="c"><circle cx="500" cy="500" r="480"/></clipPath>`)
	for range 2000 {
		clips.WriteString(`<g clip-path="url(#c)"><path d="M0 0L1000 1000" stroke="#000"/></g>`)
	}
	for range 300 {
		fmt.Fprintf(&dashes, `<circle cx="500" cy="500" r="%.1f" fill="none" stroke="#000" stroke-dasharray=".2 .1"/>`, 480*r.Float64())
	}
	all := map[string]string{
		"even-odd rings": `<path fill-rule="evenodd" d="` + rings.String() + `"/>`, "rings": `<path d="` + rings.String() + `"/>`,
		"crossing strokes": cross.String(), "a star": `<path fill="none" stroke="#000" d="M0 0` + star.String() + `"/>`, "an even-odd star": `<path fill-rule="evenodd" d="M0 0` + star.String() + `"/>`,
		"wide strokes": wide.String(), "long curves": `<path fill="none" stroke="#000" stroke-width="2" stroke-linejoin="round" d="M0 0` + curves.String() + `"/>`,
		"boxes": boxes.String(), "clips": clips.String(), "dashes": dashes.String(), "round dots": `<path stroke="#000" stroke-width="80" stroke-linecap="round" d="` + dots.String() + `"/>`,
	}
	for name, body := range all {
		all[name] = head + body + "</svg>"
	}
	return all
}

// Whatever a drawing is made of, it is drawn or refused with words within a bounded
// amount of work.
func TestHeavyDrawings(t *testing.T) {
	if testing.Short() {
		t.Skip("it takes a while")
	}
	for name, file := range heavy() {
		d, err := svg.Draw(context.Background(), []byte(file))
		if err != nil {
			assert.ErrorContains(t, err, "too much work", name)
			continue
		}
		dark := 0
		for _, v := range d.Pix {
			if v < 128 {
				dark++
			}
		}
		assert.Positive(t, dark, name)
	}
}

// BenchmarkHeavy is how long the worst of drawings take, drawn or refused.
func BenchmarkHeavy(b *testing.B) {
	for name, file := range heavy() {
		b.Run(strings.ReplaceAll(name, " ", "-"), func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				_, err := svg.Draw(context.Background(), []byte(file))
				b.ReportMetric(map[bool]float64{true: 1}[err != nil], "refused")
			}
		})
	}
}

// Nobody draws on for one who has gone.
func TestDrawingStops(t *testing.T) {
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	_, err := svg.Draw(ctx, []byte(heavy()["crossing strokes"]))
	assert.ErrorIs(t, err, context.Canceled)
}

// What clips, dashes and drawings in drawings leave.
func TestWhatIsCutOff(t *testing.T) {
	for name, tc := range map[string]struct {
		shapes      string
		dark, clear []image.Point
	}{
		"clip":              {`<clipPath id="c"><rect x="100" y="100" width="100" height="400"/></clipPath><g clip-path="url(#c)"><rect x="0" y="200" width="800" height="50"/></g><rect x="500" y="400" width="50" height="50"/>`, []image.Point{at(150, 225), at(525, 425)}, []image.Point{at(50, 225), at(300, 225)}},
		"clip by use":       {`<defs><circle id="k" cx="400" cy="300" r="100"/><clipPath id="c"><use href="#k"/></clipPath></defs><rect width="800" height="600" clip-path="url('#c')"/>`, []image.Point{at(400, 300)}, []image.Point{at(250, 300)}},
		"clip in clip":      {`<clipPath id="a"><rect width="400" height="600"/></clipPath><clipPath id="b"><rect width="800" height="300"/></clipPath><g clip-path="url(#a)"><g clip-path="url(#b)"><rect width="800" height="600"/></g></g>`, []image.Point{at(200, 150)}, []image.Point{at(600, 150), at(200, 450)}},
		"clip even-odd":     {`<clipPath id="c"><path clip-rule="evenodd" d="M100 100h200v200h-200zM150 150h100v100h-100z"/></clipPath><rect width="800" height="600" clip-path="url(#c)"/>`, []image.Point{at(120, 200)}, []image.Point{at(200, 200)}},
		"clipped by none":   {`<rect width="100" height="100" clip-path="url(#gone)"/>`, []image.Point{at(50, 50)}, nil},
		"dashes":            {`<path d="M0 300H800" stroke="#000" stroke-width="10" stroke-dasharray="100 60"/>`, []image.Point{at(50, 300), at(210, 300)}, []image.Point{at(130, 300), at(290, 300)}},
		"shifted dashes":    {`<path d="M0 300H800" stroke="#000" stroke-width="10" stroke-dasharray="100,60" stroke-dashoffset="100"/>`, []image.Point{at(110, 300)}, []image.Point{at(30, 300), at(190, 300)}},
		"odd dashes":        {`<path d="M0 300H800" stroke="#000" stroke-width="10" style="stroke-dasharray:100"/>`, []image.Point{at(50, 300), at(250, 300)}, []image.Point{at(150, 300)}},
		"dashed ring":       {`<rect x="100" y="100" width="400" height="400" fill="none" stroke="#000" stroke-width="10" stroke-dasharray="400 400"/>`, []image.Point{at(300, 100), at(300, 500)}, []image.Point{at(500, 300), at(100, 300)}},
		"nested":            {`<svg x="400" y="0" width="200" height="200" viewBox="0 0 10 10"><rect x="-5" width="20" height="5"/></svg>`, []image.Point{at(500, 50)}, []image.Point{at(500, 150), at(350, 50), at(650, 50)}},
		"nested, fitted":    {`<svg width="400" height="200" viewBox="0 0 10 10"><rect width="10" height="10"/></svg>`, []image.Point{at(200, 100)}, []image.Point{at(50, 100), at(350, 100)}},
		"nested, stretched": {`<svg width="400" height="200" viewBox="0 0 10 10" preserveAspectRatio="none"><rect width="10" height="10"/></svg>`, []image.Point{at(50, 100), at(350, 100)}, nil},
		"nested, left":      {`<svg width="400" height="200" viewBox="0 0 10 10" preserveAspectRatio="xMinYMid meet"><rect width="10" height="10"/></svg>`, []image.Point{at(50, 100)}, []image.Point{at(350, 100)}},
		"symbol, sized":     {`<symbol id="s" viewBox="0 0 10 10"><circle cx="5" cy="5" r="5"/></symbol><use href="#s" x="100" y="100" width="200" height="200"/>`, []image.Point{at(200, 200), at(120, 200)}, []image.Point{at(110, 110), at(350, 200)}},
		"hidden again":      {`<g visibility="hidden"><circle cx="100" cy="100" r="50"/><circle cx="300" cy="100" r="50" visibility="visible"/></g>`, []image.Point{at(300, 100)}, []image.Point{at(100, 100)}},
		"caps":              {`<g stroke="#000" stroke-width="40"><path d="M100 100h100" stroke-linecap="square"/><path d="M100 300h100" stroke-linecap="round"/><path d="M100 500h100"/></g>`, []image.Point{at(85, 85), at(85, 300)}, []image.Point{at(82, 318), at(85, 500)}},
		"joins":             {`<g stroke="#000" stroke-width="40" fill="none"><path d="M100 200h100v-100"/><path d="M400 200h100v-100" stroke-linejoin="bevel"/><path d="M600 200h100v-100" stroke-linejoin="round"/></g>`, []image.Point{at(217, 217), at(505, 205), at(712, 212)}, []image.Point{at(517, 217), at(718, 218)}},
		"mirrored":          {`<g transform="translate(800 0) scale(-1 1)"><path d="M100 100h200v100" fill="none" stroke="#000" stroke-width="20"/></g>`, []image.Point{at(600, 100), at(500, 150)}, []image.Point{at(200, 100)}},
		"arcs":              {`<path d="M300 300a100 100 0 1 0 200 0" stroke="#000" fill="none" stroke-width="10"/>`, []image.Point{at(400, 400)}, []image.Point{at(400, 200)}},
		"smooth curves":     {`<path d="M100 300C100 200 200 200 200 300S300 400 300 300T400 300" stroke="#000" fill="none" stroke-width="12"/>`, []image.Point{at(150, 225), at(250, 375)}, []image.Point{at(150, 375)}},
		"terse numbers":     {`<path d="M.5.5L10-5e0M100,100h50v50h-50z"/>`, []image.Point{at(125, 125)}, nil},
		"half a path":       {`<path d="M100 100h50v50h-50z M200 200 oops"/>`, []image.Point{at(125, 125)}, nil},
		"colour by name":    {`<rect width="100" height="100" fill="white"/><rect x="200" width="100" height="100" fill="rgb(0 0 0)"/><rect x="400" width="100" height="100" fill="rgba(0,0,0,.1)"/><g color="#fff"><rect x="600" width="100" height="100" fill="currentColor"/></g>`, []image.Point{at(250, 50)}, []image.Point{at(50, 50), at(450, 50), at(650, 50)}},
		"stronger rules":    {`<style>/* a */ #i{fill:#fff} .c{fill:#000} rect{fill:#fff} @media print{.c{fill:#fff}}</style><rect id="i" class="c" width="100" height="100"/><rect class="c" x="200" width="100" height="100"/><rect x="400" width="100" height="100" style="fill:#000 !important"/>`, []image.Point{at(250, 50), at(450, 50)}, []image.Point{at(50, 50)}},
	} {
		d := drawn(t, tc.shapes)
		assert.NotContains(t, inked(d, tc.dark...), false, name)
		assert.NotContains(t, inked(d, tc.clear...), true, name)
	}
	for body, why := range map[string]string{
		`<svg viewBox="0 0 9 9"><clipPath id="c" clipPathUnits="objectBoundingBox"><rect width="1" height="1"/></clipPath><rect width="9" height="9" clip-path="url(#c)"/></svg>`: "measured by what it clips",
		`<svg viewBox="0 0 9 9"><rect transform="spin(9)" width="9" height="9"/></svg>`:                                                                                           "far outside",
	} {
		_, err := svg.Draw(context.Background(), []byte(body))
		assert.ErrorContains(t, err, why)
	}
}

// A disc holds as much as it should, by either rule and any stroke, to a thousandth.
func TestCoverageIsExact(t *testing.T) {
	ink := func(shapes string) (sum float64) {
		d := drawn(t, shapes)
		for _, v := range d.Pix {
			sum += float64(255-v) / 255
		}
		k := float64(d.Rect.Dx()) / 800
		return sum / (k * k)
	}
	disc := math.Pi * 200 * 200
	for name, tc := range map[string]struct {
		shapes string
		want   float64
	}{
		"filled":   {`<circle cx="400" cy="300" r="200"/>`, disc},
		"even-odd": {`<circle cx="400" cy="300" r="200" fill-rule="evenodd"/>`, disc},
		"ring":     {`<circle cx="400" cy="300" r="200" fill="none" stroke="#000" stroke-width="50"/>`, 2 * math.Pi * 200 * 50},
		"square":   {`<rect x="100" y="100" width="300.5" height="200.25"/>`, 300.5 * 200.25},
		"slanted":  {`<path d="M100 100L700 120L690 500L110 480z"/>`, 224_200},
	} {
		assert.InEpsilon(t, tc.want, ink(tc.shapes), 0.002, name)
	}
}
