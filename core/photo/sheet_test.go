package photo_test

import (
	"context"
	"image"
	"image/color"
	"image/draw"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/lineart"
	"chromaqua/core/panel"
	"chromaqua/core/parallel"
	"chromaqua/core/photo"
	"chromaqua/internal/standin"
)

// sharp reports whether the photo of a number is as large as cells are told by; for corners a
// smaller one does.
func sharp(n int) bool { return n%8 == 0 }

// phone is how a phone sees a panel of a number: on each table, in each light, held by each hand.
func phone(n int) standin.Camera {
	wide := 1280
	if sharp(n) {
		wide = 2400
	}
	return standin.Camera{
		Seed: uint64(n), Wide: wide, Tilt: float64(n * 7 % 22), Turn: float64(n*11%31) - 15, Light: 0.1 * float64(n%5),
		Shade: []float64{0, 0, 0.35, 0, 0.5}[n*3%5], Noise: 2 + float64(n%3), Blur: []float64{0, 1}[n%2],
		Fills: 0.68 + 0.02*float64(n%8), Table: standin.Tables()[(n+n/8)%8], Grid: []float64{0, 12.7, 0, 10, 0}[n/5%5], Drop: []float64{0, 3, 0, 1.5}[n/3%4], Cast: 0.06,
	}
}

// Phone photos of stamped panels, tilted, shadowed, on tables dark and light: the corners are
// found, and the panel is squared so that nearly all cells are that a flat scan shows.
func TestPhonePhotos(t *testing.T) {
	if testing.Short() {
		t.Skip("200 photos are left to the full run")
	}
	const photos = 200
	const another = 4 // one in so many is taken for a panel of another size, too
	plans := make([]*photo.Plan, len(drawings))
	for i, name := range drawings {
		c, s := sheetOf(t, name)
		plans[i] = photo.PlanOf(panel.Resolve(c, s), s.Grey)
	}
	off, refused := make([]float64, photos), make([]error, photos)
	misfit, taller := make([]bool, photos), make([]bool, photos)
	scanned, taken := make([]hits, photos), make([]hits, photos)
	parallel.Each(photos, func(n int) {
		p := plans[n%len(plans)]
		shot, err := phone(n).Photograph(p, standin.Slips{})
		if err != nil {
			refused[n] = err
			return
		}
		sheet, err := photo.FindSheet(t.Context(), shot.Photo, p.W, p.H)
		if err != nil {
			refused[n], off[n] = err, math.Inf(1)
			return
		}
		misfit[n] = misfits(sheet)
		if n%another == 0 {
			other, err := photo.FindSheet(t.Context(), shot.Photo, p.W, 1.12*p.H)
			taller[n] = err == nil && misfits(other)
		}
		if off[n], err = offBy(shot, p, sheet); err != nil {
			refused[n] = err
			return
		}
		if !sharp(n) || off[n] > 2 {
			return
		}
		flat, err := photo.Flatten(t.Context(), shot.Photo, sheet.Corners, p.W, p.H)
		if err != nil {
			refused[n] = err
			return
		}
		taken[n] = hitsOf(t, p, flat.Grey, flat.DPI)
		perMM := float64(p.Line.Rect.Dx()) / p.W
		scan := standin.Scanner{Seed: uint64(n), Light: 0.12, Noise: 3, Quality: 88}.Scan(p.Line, perMM)
		scanned[n] = hitsOf(t, p, standin.Grey(scan), perMM*25.4)
	})
	near := 0
	var scan, phones hits
	for n, d := range off {
		if d <= 0.5 {
			near++
		} else {
			t.Logf("photo %d, %s, %+v: corners %.2f mm off, %v", n, drawings[n%len(drawings)], phone(n), d, refused[n])
		}
		scan, phones = scan.and(scanned[n]), phones.and(taken[n])
	}
	t.Logf("corners within 0.5 mm in %d of %d; cells of flat scans %.4f of %d, of photos %.4f of %d", near, photos, scan.share(), scan.of, phones.share(), phones.of)
	assert.GreaterOrEqual(t, float64(near), 0.95*float64(photos))
	assert.GreaterOrEqual(t, phones.share(), scan.share()-0.02)
	wrongly, rightly := count(misfit), count(taller)
	t.Logf("proportions: %d panels wrongly doubted, %d of %d of another size told", wrongly, rightly, photos/another)
	assert.LessOrEqual(t, wrongly, photos/100)
	assert.GreaterOrEqual(t, float64(rightly), 0.9*photos/another)
}

// A panel whose corners are taped down is found by its sides; the tape is no part of it.
func TestTapedCorners(t *testing.T) {
	c, s := sheetOf(t, "hermit-crab")
	p := photo.PlanOf(panel.Resolve(c, s), s.Grey)
	snap, err := standin.Camera{Seed: 6, Wide: 1600, Tilt: 7, Turn: 4, Light: 0.1, Noise: 2, Table: standin.Tables()[0], Grid: 10}.Photograph(p, standin.Slips{})
	require.NoError(t, err)
	for i, q := range corners(p) {
		at := snap.To.Apply(q)
		draw.Draw(snap.Photo, image.Rect(int(at.X)-50, int(at.Y)-50, int(at.X)+50, int(at.Y)+50), image.NewUniform(color.RGBA{R: 205, G: uint8(150 + 5*i), B: 90, A: 255}), image.Point{}, draw.Src)
	}
	sheet, err := photo.FindSheet(t.Context(), snap.Photo, p.W, p.H)
	require.NoError(t, err)
	off, err := offBy(snap, p, sheet)
	require.NoError(t, err)
	assert.Less(t, off, 0.5)
}

// A table nearly as light as the paper parts it less than a shadow that falls across both, or
// than the panel's own shadow does.
func TestOnALightTable(t *testing.T) {
	c, s := sheetOf(t, "hermit-crab")
	p := photo.PlanOf(panel.Resolve(c, s), s.Grey)
	tables := standin.Tables()
	for name, k := range map[string]standin.Camera{
		"a shadow across it": {Seed: 4, Shade: 0.5, Table: tables[7]},
		"a mat":              {Seed: 13, Grid: 12.7, Light: 0.3, Table: tables[7]},
		"its own shadow":     {Seed: 8, Drop: 3, Light: 0.2, Table: tables[7]},
		"a mat, a shadow":    {Seed: 18, Grid: 10, Shade: 0.5, Drop: 1.5, Table: tables[6]},
	} {
		k.Wide, k.Tilt, k.Turn, k.Noise = 1600, 8, -6, 2
		shot, err := k.Photograph(p, standin.Slips{})
		require.NoError(t, err)
		sheet, err := photo.FindSheet(t.Context(), shot.Photo, p.W, p.H)
		require.NoError(t, err, name)
		off, err := offBy(shot, p, sheet)
		require.NoError(t, err)
		assert.Less(t, off, 0.5, name)
		assert.Empty(t, sheet.Unsure, name)
	}
}

// A white panel on a white table is seen by its shadow, which ends in an edge of its own.
func TestItsShadowIsNoEdge(t *testing.T) {
	const w, h, perMM, reach = 60.0, 80.0, 8, 4.0
	m := image.NewRGBA(image.Rect(0, 0, 100*perMM, 120*perMM))
	for y := range m.Rect.Dy() {
		for x := range m.Rect.Dx() {
			mmX, mmY := float64(x)/perMM-20, float64(y)/perMM-20
			level := 220.0
			switch in := min(mmX, mmY, w+reach-mmX, h+reach-mmY); {
			case mmX >= 0 && mmX < w && mmY >= 0 && mmY < h:
				level = 238
			case in > 0:
				level *= 1 - 0.3*min(1, in/2)
			}
			m.SetRGBA(x, y, color.RGBA{R: uint8(level), G: uint8(level), B: uint8(level), A: 255})
		}
	}
	sheet, err := photo.FindSheet(t.Context(), m, w, h)
	require.NoError(t, err)
	for i, c := range []lineart.Point{{}, {X: w}, {X: w, Y: h}, {Y: h}} {
		q := sheet.Corners[i]
		assert.InDelta(t, 0, math.Hypot(q.X/perMM-20-c.X, q.Y/perMM-20-c.Y), 0.3, "corner %d", i)
	}
}

// A sliver of the table along an edge goes, a line that runs off the panel stays: straight off
// it, or so aslant that it runs along the edge for a while.
func TestSliversAndLinesAtTheEdge(t *testing.T) {
	const w, h, perMM = 60.0, 80.0, 10
	m := image.NewRGBA(image.Rect(0, 0, w*perMM, h*perMM))
	for y := range m.Rect.Dy() {
		for x := range m.Rect.Dx() {
			c := color.Gray{Y: 235}
			mmX, mmY := float64(x)/perMM, float64(y)/perMM
			switch {
			case mmX > w-0.3: // table
				c.Y = 40
			case math.Abs(mmX-0.12*(mmY-30)) < 0.25, math.Abs(mmX-40) < 0.25 && mmY > 60: // lines
				c.Y = 25
			}
			m.Set(x, y, c)
		}
	}
	flat, err := photo.Flatten(t.Context(), m, [4]lineart.Point{{}, {X: w * perMM}, {X: w * perMM, Y: h * perMM}, {Y: h * perMM}}, w, h)
	require.NoError(t, err)
	dark := func(x, y float64) bool {
		k := flat.DPI / 25.4
		return flat.Grey.GrayAt(min(int(x*k), flat.Grey.Rect.Dx()-1), min(int(y*k), flat.Grey.Rect.Dy()-1)).Y < 128
	}
	for y := 1.0; y < h; y += 3 {
		assert.False(t, dark(w, y), "the table at %g mm", y)
	}
	for y := 29.0; y < 32; y += 0.5 {
		assert.True(t, dark(0, y), "the line that runs off aslant, at %g mm", y)
	}
	assert.True(t, dark(40, h), "the line that runs straight off")
}

// offBy is how far a corner of a sheet is off at most, mm.
func offBy(shot *standin.Snapshot, p *photo.Plan, s *photo.Sheet) (mm float64, err error) {
	back, err := shot.To.Inverse()
	if err != nil {
		return 0, err
	}
	for i, c := range corners(p) {
		q := back.Apply(s.Corners[i])
		mm = max(mm, math.Hypot(q.X-c.X, q.Y-c.Y))
	}
	return mm, nil
}

// misfits reports whether the proportions of a sheet are doubted.
func misfits(s *photo.Sheet) bool {
	return strings.Contains(strings.Join(s.Unsure, " "), "times as wide as high")
}

func count(all []bool) (n int) {
	for _, is := range all {
		if is {
			n++
		}
	}
	return n
}

// What is no panel alone on its table is refused with what to do, or doubted aloud.
func TestBadPhonePhotos(t *testing.T) {
	c, s := sheetOf(t, "hermit-crab")
	p := photo.PlanOf(panel.Resolve(c, s), s.Grey)
	usual := standin.Camera{Seed: 4, Wide: 1600, Tilt: 6, Turn: 3, Light: 0.1, Noise: 2, Table: standin.Tables()[1]}
	shot := func(k standin.Camera) *image.RGBA {
		snap, err := k.Photograph(p, standin.Slips{})
		require.NoError(t, err)
		return snap.Photo
	}
	good := shot(usual)
	sheet, err := photo.FindSheet(t.Context(), good, p.W, p.H)
	require.NoError(t, err)
	assert.Empty(t, sheet.Unsure)
	flat, err := photo.Flatten(t.Context(), good, sheet.Corners, p.W, p.H)
	require.NoError(t, err)
	assert.Empty(t, flat.Unsure)

	over := func(m *image.RGBA, c color.Color, r ...image.Rectangle) *image.RGBA {
		out := image.NewRGBA(m.Rect)
		copy(out.Pix, m.Pix)
		for _, r := range r {
			draw.Draw(out, r, image.NewUniform(c), image.Point{}, draw.Src)
		}
		return out
	}
	at := sheet.Corners
	skin := color.RGBA{R: 214, G: 160, B: 128, A: 255}
	hand := over(good, skin, image.Rect(int(at[0].X)-160, int(at[0].Y)+200, int(at[0].X)+140, int(at[0].Y)+420))
	two := over(good, color.White, image.Rect(90, 140, int(at[0].X)-50, 700))
	for name, tc := range map[string]struct {
		photo *image.RGBA
		says  string
	}{
		"a hand on it": {hand, "edge"},
		"two panels":   {two, "More than one thing"},
		"aslant":       {shot(standin.Camera{Seed: 4, Wide: 1600, Tilt: 38, Noise: 2, Fills: 0.6}), "aslant"},
	} {
		sheet, err := photo.FindSheet(t.Context(), tc.photo, p.W, p.H)
		require.NoError(t, err, name)
		assert.Contains(t, strings.Join(sheet.Unsure, " "), tc.says, name)
	}
	another, err := photo.FindSheet(t.Context(), good, p.W, p.H*0.7)
	require.NoError(t, err)
	assert.Contains(t, strings.Join(another.Unsure, " "), "times as wide as high")
	for says, k := range map[string]standin.Camera{
		"blurred": {Seed: 4, Wide: 1600, Noise: 2, Blur: 3}, "coarse": {Seed: 4, Wide: 800, Noise: 2}, "shadow": {Seed: 4, Wide: 1600, Noise: 2, Shade: 0.5},
	} {
		m := shot(k)
		sheet, err := photo.FindSheet(t.Context(), m, p.W, p.H)
		require.NoError(t, err, says)
		flat, err := photo.Flatten(t.Context(), m, sheet.Corners, p.W, p.H)
		require.NoError(t, err, says)
		assert.Contains(t, strings.Join(flat.Unsure, " "), says)
	}
	plain := image.NewRGBA(image.Rect(0, 0, 900, 700))
	for want, m := range map[error]image.Image{
		photo.ErrNoSheet: over(plain, color.Gray{Y: 120}, plain.Rect),
		photo.ErrDark:    plain,
		photo.ErrSmall:   image.NewRGBA(image.Rect(0, 0, 300, 900)),
		photo.ErrOutside: good.SubImage(image.Rect(int(at[0].X)+60, 0, 1600, 1200)),
	} {
		_, err := photo.FindSheet(t.Context(), m, p.W, p.H)
		assert.ErrorIs(t, err, want)
	}
	crossed := at
	crossed[0], crossed[1] = crossed[1], crossed[0]
	far := at
	far[2].X = 1e9
	for _, bad := range [][4]lineart.Point{crossed, far, {}} {
		_, err := photo.Flatten(t.Context(), good, bad, p.W, p.H)
		assert.ErrorIs(t, err, photo.ErrCorners)
	}
	gone, cancel := context.WithCancel(t.Context())
	cancel()
	_, err = photo.Flatten(gone, good, at, p.W, p.H)
	assert.ErrorIs(t, err, context.Canceled)
}

func corners(p *photo.Plan) [4]lineart.Point {
	return [4]lineart.Point{{}, {X: p.W}, {X: p.W, Y: p.H}, {Y: p.H}}
}

// hits is how many cells of a plan were found again.
type hits struct{ found, of int }

func (h hits) and(o hits) hits { return hits{h.found + o.found, h.of + o.of} }
func (h hits) share() float64  { return float64(h.found) / float64(max(1, h.of)) }

// hitsOf counts the cells of a plan that one cell of a picture covers, and that cover it, by
// seven tenths of both together.
func hitsOf(t testing.TB, p *photo.Plan, m *image.Gray, dpi float64) (h hits) {
	found, err := lineart.Find(context.Background(), m, dpi, nil)
	if !assert.NoError(t, err) {
		return h
	}
	const step = 0.25 // mm
	type pair struct{ a, b int }
	both, as, bs := map[pair]int{}, map[int]int{}, map[int]int{}
	for y := step / 2; y < p.H; y += step {
		for x := step / 2; x < p.W; x += step {
			q := lineart.Point{X: x, Y: y}
			a, b := p.CellAt(q), found.At(q)
			both[pair{a, b}]++
			as[a]++
			bs[b]++
		}
	}
	for _, c := range p.Cells {
		h.of++
		for k, n := range both {
			if k.a == c.ID && k.b > 0 && float64(n) >= 0.7*float64(as[k.a]+bs[k.b]-n) {
				h.found++
				break
			}
		}
	}
	return h
}
