package wash

import (
	"context"
	"image"
	"image/png"
	"math"
	"os"
	"testing"

	"github.com/stretchr/testify/require"

	"chromaqua/core/drying"
	"chromaqua/core/pigment"
)

// A bench paints rectangles on a sheet.
type bench struct {
	t *testing.T
	*Painting
}

// swatches are n × m rectangles on a sheet of mm, label 1 the first.
func newBench(t *testing.T, wmm, hmm float64, label func(x, y float64) uint16) *bench {
	w, h := int(wmm/PlateMM), int(hmm/PlateMM)
	labels := make([]uint16, w*h)
	for i := range labels {
		labels[i] = label((float64(i%w)+0.5)*PlateMM, (float64(i/w)+0.5)*PlateMM)
	}
	white, err := pigment.Paper("white")
	require.NoError(t, err)
	b := &bench{t: t, Painting: &Painting{Plate: NewPlate(w, h, labels), Paper: PaperOf(drying.Cotton, ColdPressed), Ground: Sampled(&white), Hand: UsualHand(), Seed: 11}}
	b.Rate = make([]float64, b.Plate.Cells+1)
	for l := range b.Rate {
		b.Rate[l] = drying.StillRoom.Rate(b.Plate.MM2(uint16(l)))
	}
	return b
}

func plain(x, y float64) uint16 { return 1 }

func (b *bench) mix(cis ...string) (out []Portion) {
	for _, ci := range cis {
		pg, err := pigment.ByCI(ci)
		require.NoError(b.t, err)
		paint := pg.Paint()
		own := PaintOf(&paint, float64(pg.Staining), float64(pg.Granulation))
		at := -1
		for i := range b.Paints {
			if b.Paints[i] == own {
				at = i
			}
		}
		if at < 0 {
			at = len(b.Paints)
			b.Paints = append(b.Paints, own)
		}
		out = append(out, Portion{at, 1 / float32(len(cis))})
	}
	return out
}

// wash lays an even wash on a cell and returns it for changes.
func (b *bench) wash(label uint16, start float64, load, water float32, cis ...string) *Stroke {
	b.Strokes = append(b.Strokes, Stroke{ID: len(b.Strokes), Start: start, Dur: 6, Laid: water, Left: water, Load: load, Mix: b.mix(cis...), Cells: []uint16{label}, Band: 6})
	return &b.Strokes[len(b.Strokes)-1]
}

func (b *bench) region(key string, in func(x, y float64) bool) *Region {
	return NewRegion(b.Plate, key, 0, in)
}

func (b *bench) play(at float64) *Moment {
	m, err := b.Play(context.Background(), at, nil)
	require.NoError(b.t, err)
	return m
}

func (b *bench) save(m *Moment, file string, dpi float64) {
	q := m.Picture()
	img, err := q.Draw(context.Background(), dpi, image.Rectangle{Max: q.Size(dpi)}, View{}, nil)
	require.NoError(b.t, err)
	f, err := os.Create(file)
	require.NoError(b.t, err)
	defer f.Close()
	require.NoError(b.t, png.Encode(f, img))
}

func TestLookAtTheSampler(t *testing.T) {
	out := os.Getenv("SAMPLER")
	if out == "" {
		t.Skip("SAMPLER names no file")
	}
	const cw, ch = 23.0, 17.65
	box := func(c, r int) (x0, y0, x1, y1 float64) {
		return 2.7 + float64(c)*cw, 2.7 + float64(r)*ch, 0.7 + float64(c+1)*cw, 0.7 + float64(r+1)*ch
	}
	b := newBench(t, 95.25, 127, func(x, y float64) uint16 {
		for r := range 7 {
			for c := range 4 {
				if x0, y0, x1, y1 := box(c, r); x > x0 && x < x1 && y > y0 && y < y1 {
					if r == 6 && c < 3 {
						if m := (x0 + x1) / 2; x > m+0.3 {
							return uint16(40 + c)
						} else if x > m-0.3 {
							return 0
						}
					}
					return uint16(1 + r*4 + c)
				}
			}
		}
		return 0
	})
	id := func(c, r int) uint16 { return uint16(1 + r*4 + c) }
	mid := func(c, r int) (x, y float64) {
		x0, y0, x1, y1 := box(c, r)
		return (x0 + x1) / 2, (y0 + y1) / 2
	}
	// granulating, strengths
	for c := range 4 {
		b.wash(id(c, 0), 0, []float32{0.35, 0.75, 1.4, 0.75}[c], 46, "PB29", "PBr7")
		b.wash(id(c, 1), 0, []float32{0.15, 0.35, 1, 2.5}[c], 46, "PBr7")
	}
	rate := b.Rate[1]
	until := func(w float64) float64 { return (46 - w) / rate * 60 }
	for c := range 4 { // drop-in, early to dry
		b.wash(id(c, 2), 0, 0.6, 60, "PY150")
		x, y := mid(c, 2)
		d := b.wash(id(c, 2), []float64{10, until(34) + 14/rate*60, until(26) + 14/rate*60, 3000}[c], 1.6, 25, "PV19")
		d.Dropped, d.IntoWet, d.Dur, d.Mark = true, true, 1, Mark{Kind: Falling, At: []Disc{{x, y, 3}}}
	}
	for c := range 4 { // clean drop, gloss to dry
		b.wash(id(c, 3), 0, 0.45, 46, "PB15:3")
		x, y := mid(c, 3)
		d := b.wash(id(c, 3), []float64{10, until(36), until(21), 2400}[c], 0, 110)
		d.Dropped, d.Mix, d.Dur, d.Mark = true, nil, 1, Mark{Kind: Falling, At: []Disc{{x, y, 2.2}}}
	}
	// joined, lapped, graded, variegated
	for c, wait := range []float64{14, 1500} {
		x0, _, x1, _ := box(c, 4)
		m := (x0 + x1) / 2
		b.wash(id(c, 4), 0, 0.5, 46, "PV19").Within = b.region("l"+string(rune(c)), func(x, y float64) bool { return x < m+1 })
		b.wash(id(c, 4), wait, 0.5, 46, "PV19").Within = b.region("r"+string(rune(c)), func(x, y float64) bool { return x > m-1 })
	}
	_, y0, _, y1 := box(2, 4)
	g := b.wash(id(2, 4), 0, 0.9, 60, "PB29")
	g.Tilt = true
	g.Amount = &Amount{"down", func(x, y float64, _ uint16) float32 { return float32(max(0, 1.25-1.3*(y-y0)/(y1-y0))) }}
	vx0, _, vx1, _ := box(3, 4)
	v := b.wash(id(3, 4), 0, 1, 75, "PY150")
	v.Amount = &Amount{"va", func(x, y float64, _ uint16) float32 { return float32(clamp64(1.5-2.4*(x-vx0)/(vx1-vx0), 0, 1)) }}
	v = b.wash(id(3, 4), 10, 0.6, 10, "PB28")
	v.Dropped, v.IntoWet = true, true
	v.Amount = &Amount{"vb", func(x, y float64, _ uint16) float32 { return float32(clamp64(-0.9+2.4*(x-vx0)/(vx1-vx0), 0, 1)) }}
	// pulled out, dry brush, lifted, glazed
	x0, _, _, _ := box(0, 5)
	v = b.wash(id(0, 5), 0, 1.1, 38, "PB29", "PBr7")
	v.Left = 20
	v.Amount = &Amount{"pull", func(x, y float64, _ uint16) float32 { return 0.01 + 1.5*exp(float32((x-x0)/4.5)) }}
	v = b.wash(id(1, 5), 0, 1.4, 24, "PBr7")
	v.Mark = Mark{Kind: Skim, Share: 0.45}
	b.wash(id(2, 5), 0, 0.8, 46, "PB29")
	_, my := mid(2, 5)
	v = b.wash(id(2, 5), until(30), 0, 0)
	v.Mix, v.Take, v.Softens = nil, &Take{0.75, 0.4}, true
	v.Amount = &Amount{"lift", func(x, y float64, _ uint16) float32 {
		return float32(clamp64(1.5-math.Abs(y-my-0.2*(x-x0-50))/1.4, 0, 1))
	}}
	b.wash(id(3, 5), 0, 0.6, 46, "PY150")
	gx, gy := mid(3, 5)
	b.wash(id(3, 5), 3000, 0.5, 35, "PV19").Within = b.region("glaze", func(x, y float64) bool { return math.Abs(x-gx-3) < 7 && math.Abs(y-gy) < 4 })
	// neighbours: flat wet, raised wet, flat dry; halo
	for c := range 3 {
		b.Borders = append(b.Borders, Border{id(c, 6), uint16(40 + c), []float32{FlatLine, RaisedLine, FlatLine}[c]})
		b.wash(id(c, 6), 0, 0.6, 62, "PY150")
		b.wash(uint16(40+c), []float64{40, 40, 1500}[c], 0.8, 80, "PV19")
	}
	hx, hy := mid(3, 6)
	v = b.wash(id(3, 6), 0, 0.9, 40, "PB28")
	v.Left = 20
	v.Amount = &Amount{"halo", func(x, y float64, _ uint16) float32 {
		d := math.Hypot(x-hx, (y-hy)*1.2)
		if d < 3 {
			return 0
		}
		return 1.3 * exp(float32((d-3)/2))
	}}
	m := b.play(Dry)
	for _, e := range m.Events() {
		t.Logf("%+v", e)
	}
	b.save(m, out, 240)
}
