package svg_test

import (
	"context"
	"fmt"
	"image"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/length"
	"chromaqua/internal/picture"
	"chromaqua/internal/svg"
)

// drawn renders shapes on a sheet of 80 × 60 mm, ten units a millimetre.
func drawn(t testing.TB, shapes string) *svg.Drawing {
	d, err := svg.Draw(context.Background(), []byte(`<?xml version="1.0"?><!DOCTYPE svg PUBLIC "-//W3C//DTD SVG 1.1//EN" "">
<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="80mm" height="60mm" viewBox="0 0 800 600">`+shapes+`</svg>`))
	require.NoError(t, err)
	return d
}

// inked reports which of some places, in units of the drawing, are dark.
func inked(d *svg.Drawing, places ...image.Point) (out []bool) {
	k := float64(d.Rect.Dx()) / 800
	for _, p := range places {
		out = append(out, d.GrayAt(int(float64(p.X)*k), int(float64(p.Y)*k)).Y < 128)
	}
	return out
}

func at(x, y int) image.Point { return image.Pt(x, y) }

func TestShapesOfAnSVG(t *testing.T) {
	d := drawn(t, "")
	assert.Equal(t, 80*length.Millimetre, d.Width)
	assert.Equal(t, image.Rect(0, 0, 945, 709), d.Rect, "300 dpi")
	for name, tc := range map[string]struct {
		shapes      string
		dark, clear []image.Point
	}{
		"line":                {`<line x1="20" y1="560" x2="780" y2="560" stroke="black" stroke-width="6"/>`, []image.Point{at(400, 560)}, []image.Point{at(400, 570)}},
		"circle filled":       {`<circle cx="100" cy="100" r="50"/>`, []image.Point{at(100, 60)}, []image.Point{at(100, 40)}},
		"rect stroked":        {`<rect x="100" y="100" width="200" height="100" fill="none" stroke="#000" stroke-width="8"/>`, []image.Point{at(100, 150), at(200, 200)}, []image.Point{at(200, 150)}},
		"white over line":     {`<path d="M0 300H800" stroke="black" stroke-width="10"/><ellipse cx="400" cy="300" rx="80" ry="40" fill="#fff" stroke="#000" stroke-width="6"/>`, []image.Point{at(100, 300), at(320, 300)}, []image.Point{at(400, 300)}},
		"scaled stroke":       {`<g transform="scale(10)"><path d="M10 10V50" stroke="black" stroke-width="2" fill="none"/></g>`, []image.Point{at(92, 300), at(108, 300)}, []image.Point{at(85, 300)}},
		"turned":              {`<g transform="translate(400 300) rotate(90)"><rect x="0" y="-10" width="200" height="20"/></g>`, []image.Point{at(400, 450)}, []image.Point{at(550, 300)}},
		"even-odd":            {`<path fill-rule="evenodd" d="M100 100h200v200h-200zM150 150h100v100h-100z"/>`, []image.Point{at(120, 200)}, []image.Point{at(200, 200)}},
		"even-odd in a style": {`<g style="fill-rule:evenodd"><path d="M100 100h200v200h-200zM150 150h100v100h-100z"/></g>`, []image.Point{at(120, 200)}, []image.Point{at(200, 200)}},
		"non-zero":            {`<path d="M100 100h200v200h-200zM150 150h100v100h-100z"/>`, []image.Point{at(120, 200), at(200, 200)}, nil},
		"classes":             {`<style>.a{fill:none;stroke:#000;stroke-width:8}</style><polygon class="a" points="600,300 700,300 650,400"/>`, []image.Point{at(650, 300)}, []image.Point{at(650, 330)}},
		"polyline":            {`<polyline points="100,100 200,200 300,100" fill="none" stroke="black" stroke-width="10"/>`, []image.Point{at(150, 150), at(250, 150)}, []image.Point{at(200, 120)}},
		"used again":          {`<defs><circle id="c" r="20"/><g id="g"><use href="#c" x="100"/></g></defs><use xlink:href="#g" x="200" y="300" transform="translate(50 0)"/>`, []image.Point{at(350, 300)}, []image.Point{at(0, 0), at(250, 300)}},
		"symbol":              {`<symbol id="s"><circle cx="20" cy="20" r="15"/></symbol><use href="#s" x="500" y="500"/>`, []image.Point{at(520, 520)}, []image.Point{at(20, 20)}},
		"hidden":              {`<circle cx="100" cy="100" r="50" display="none"/><g style="display: none"><circle cx="300" cy="100" r="50"/></g>`, nil, []image.Point{at(100, 100), at(300, 100)}},
		"half clear":          {`<circle cx="100" cy="100" r="50" fill="black" fill-opacity="0.2"/>`, nil, []image.Point{at(100, 100)}},
		"no script":           {`<script>alert(1)</script><foreignObject><text>no</text></foreignObject><circle cx="100" cy="100" r="50" onclick="x()"/>`, []image.Point{at(100, 100)}, nil},
		"nothing used":        {`<use href="#nobody"/><circle cx="100" cy="100" r="50" fill="url(#gone)"/>`, nil, []image.Point{at(100, 100)}},
	} {
		d := drawn(t, tc.shapes)
		assert.NotContains(t, inked(d, tc.dark...), false, name)
		assert.NotContains(t, inked(d, tc.clear...), true, name)
	}
}

func TestSVGSizes(t *testing.T) {
	for head, want := range map[string]struct {
		real length.Length
		w, h int
	}{
		`width="2in" height="1in" viewBox="0 0 4 2"`:             {2 * length.Inch, 600, 300},
		`width="10cm" viewBox="0 0 100 200"`:                     {100 * length.Millimetre, 1181, 2362},
		`width="400" height="200"`:                               {0, 2400, 1200},
		`viewBox="-5 -5 10 20"`:                                  {0, 1200, 2400},
		`width="100%" height="100%" viewBox="0,0,1e2,100"`:       {0, 2400, 2400},
		`width="1900mm" height="1900mm" viewBox="0 0 1900 1900"`: {1900 * length.Millimetre, 4200, 4200},
	} {
		d, err := svg.Draw(context.Background(), []byte("<svg "+head+"><path d='M0 0h1'/></svg>"))
		require.NoError(t, err, head)
		assert.Equal(t, want.real, d.Width, head)
		assert.Equal(t, image.Rect(0, 0, want.w, want.h), d.Rect, head)
	}
}

func TestHostileSVG(t *testing.T) {
	deep := strings.Repeat("<g>", 70) + strings.Repeat("</g>", 70)
	laughs := `<defs><g id="a0"><path d="M0 0h1"/></g>`
	for i := range 12 {
		laughs += fmt.Sprintf(`<g id="a%d">%s</g>`, i+1, strings.Repeat(fmt.Sprintf(`<use href="#a%d"/>`, i), 10))
	}
	laughs += `</defs><use href="#a12"/>`
	for name, tc := range map[string]struct{ body, why string }{
		"entities":          {`<!DOCTYPE svg [<!ENTITY a "aaaa">]><svg viewBox="0 0 9 9">&a;</svg>`, "entities"},
		"a file":            {`<!DOCTYPE svg [<!ENTITY x SYSTEM "file:///etc/passwd">]><svg viewBox="0 0 9 9"><text>&x;</text></svg>`, "entities"},
		"outside":           {`<svg viewBox="0 0 9 9"><use href="http://example.org/a.svg#x"/></svg>`, "outside it"},
		"style outside":     {`<svg viewBox="0 0 9 9"><style>@import "http://example.org/a.css";</style></svg>`, "outside it"},
		"a picture":         {`<svg viewBox="0 0 9 9"><image href="data:image/png;base64,AA"/></svg>`, "holds a picture"},
		"text":              {`<svg viewBox="0 0 9 9"><text>Hi</text></svg>`, "text into paths"},
		"a gigantic box":    {`<svg viewBox="0 0 1e30 1e30"/>`, "no usable size"},
		"no size":           {`<svg/>`, "no usable size"},
		"a thread":          {`<svg viewBox="0 0 100000 1"/>`, "no usable size"},
		"nested":            {`<svg viewBox="0 0 9 9">` + deep + `</svg>`, "deeper than"},
		"used endlessly":    {`<svg viewBox="0 0 9 9">` + laughs + `</svg>`, "more than"},
		"uses itself":       {`<svg viewBox="0 0 9 9"><g id="a"><use href="#a"/></g></svg>`, "deeper than"},
		"many":              {`<svg viewBox="0 0 9 9">` + strings.Repeat("<g/>", 20_001) + `</svg>`, "more than"},
		"far":               {`<svg viewBox="0 0 9 9"><path d="M0 0L1e9 1e9"/></svg>`, "far outside"},
		"far by steps":      {`<svg viewBox="0 0 9 9"><path d="M0 0` + strings.Repeat("l9e5 9e5", 50) + `" stroke="#000"/></svg>`, "far outside"},
		"far by transforms": {`<svg viewBox="0 0 9 9"><g transform="scale(100000)"><circle r="900"/></g></svg>`, "far outside"},
		"cut short":         {`<svg viewBox="0 0 9 9"><g>`, "damaged"},
		"two roots":         {`<svg viewBox="0 0 9 9"/><svg/>`, "damaged"},
		"no svg":            {`<html><svg/></html>`, "damaged"},
		"huge":              {`<svg viewBox="0 0 9 9">` + strings.Repeat(" ", svg.MaxBytes) + `</svg>`, "larger than 8 MB"},
	} {
		_, err := svg.Draw(context.Background(), []byte(tc.body))
		assert.ErrorContains(t, err, tc.why, name)
	}
}

// The sample drawings are rendered as the pictures beside them show.
func TestSVGAgainstAnotherRenderer(t *testing.T) {
	files, err := filepath.Glob("../demo/drawings/*.svg")
	require.NoError(t, err)
	require.NotEmpty(t, files)
	for _, f := range files {
		file, err := os.ReadFile(f)
		require.NoError(t, err)
		want, err := os.ReadFile(strings.TrimSuffix(f, ".svg") + ".png")
		require.NoError(t, err)
		ref, err := picture.Grey(want)
		require.NoError(t, err)
		d, err := svg.Draw(context.Background(), file)
		require.NoError(t, err)
		off, n := 0, 0
		for y := range min(ref.Rect.Dy(), d.Rect.Dy()) {
			for x := range min(ref.Rect.Dx(), d.Rect.Dx()) {
				a, b := int(ref.GrayAt(x, y).Y), int(d.GrayAt(x, y).Y)
				n++
				if max(a-b, b-a) > 100 {
					off++
				}
			}
		}
		assert.Less(t, float64(off)/float64(n), 0.004, f)
	}
}

func FuzzDraw(f *testing.F) {
	f.Add([]byte(`<svg viewBox="0 0 9 9"><style>.a{fill:red}</style><defs><g id="a"><path class="a" d="M0 0q1 1 2 2a3 3 0 1 0 4 4z"/></g></defs><use href="#a" x="1"/></svg>`))
	f.Fuzz(func(t *testing.T, data []byte) {
		if d, err := svg.Draw(context.Background(), data); err == nil {
			require.False(t, d.Rect.Empty())
		}
	})
}
