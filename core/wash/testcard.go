package wash

import (
	"context"
	"errors"
	"image"
	"math"
	"slices"

	"chromaqua/core/pigment"
)

// A card of test washes: two boxes, mm from its top left corner. In the left one flat wash of
// ultramarine as thin as tea; in the right golden yellow as thin as tea, and into its middle,
// a minute later, one drop of rose. It is as large as other test cards, and has their marks.
const (
	TestW, TestH   = 124.0, 76.0
	testTop        = 15.0
	testBottom     = 57.0
	flatLeft       = 17.0
	flatRight      = 57.0
	dropLeft       = 66.0
	dropRight      = 106.0
	testDrop       = 2.5  // mm, radius of the drop
	testDropAfter  = 60.0 // s
	testDPI        = 150.0
	leastHand      = 0.4
	mostHand       = 2.5
	bareDensity    = 0.04
	flatTestLoad   = 0.25
	yellowTestLoad = 0.35
)

// TestBoxes are the two boxes: left, top, right, bottom.
func TestBoxes() [2][4]float64 {
	return [2][4]float64{{flatLeft, testTop, flatRight, testBottom}, {dropLeft, testTop, dropRight, testBottom}}
}

// TestCard is the card as a hand paints it on a paper, in a room where water goes at a rate,
// g/m² per minute.
func TestCard(paper Paper, hand Hand, rate float64, seed uint32) *Painting {
	w, h := int(math.Round(TestW/PlateMM)), int(math.Round(TestH/PlateMM))
	labels := make([]uint16, w*h)
	for i := range labels {
		x, y := (float64(i%w)+0.5)*PlateMM, (float64(i/w)+0.5)*PlateMM
		for k, b := range TestBoxes() {
			if x > b[0] && x < b[2] && y > b[1] && y < b[3] {
				labels[i] = uint16(k + 1)
			}
		}
	}
	white, err := pigment.Paper("white")
	if err != nil {
		panic("wash: " + err.Error()) // the library has it
	}
	p := &Painting{Fine: true, Plate: NewPlate(w, h, labels), Paper: paper, Ground: Sampled(&white), Hand: hand, Seed: seed, Rate: []float64{rate, rate, rate}}
	for _, ci := range []string{"PB29", "PY150", "PV19"} {
		g, err := pigment.ByCI(ci)
		if err != nil {
			panic("wash: " + err.Error())
		}
		paint := g.Paint()
		p.Paints = append(p.Paints, PaintOf(&paint, float64(g.Staining), float64(g.Granulation)))
	}
	wash := func(id, paint int, label uint16, start float64, load, water float32) Stroke {
		return Stroke{ID: id, Start: start, Dur: 20, Laid: water, Left: water, Load: load, Mix: []Portion{{paint, 1}}, Cells: []uint16{label}, Band: 8}
	}
	drop := wash(2, 2, 2, 20+testDropAfter, 1.6, 25)
	drop.Dur, drop.Dropped, drop.IntoWet = 1, true, true
	drop.Mark = Mark{Kind: Falling, At: []Disc{{(dropLeft + dropRight) / 2, (testTop + testBottom) / 2, testDrop}}}
	p.Strokes = []Stroke{wash(0, 0, 1, 0, flatTestLoad, 46), wash(1, 1, 2, 0, yellowTestLoad, 60), drop}
	return p
}

// Figures are what is read off a card of test washes.
type Figures struct {
	Spread float64 // root mean square width of the drop, mm
	Rim    float64 // by how much the rim is denser than the middle, a share
	Grain  float64 // how uneven the middle is, between 0.4 and 1.8 mm, a share
}

// Errors of reading a card, worded for whoever scanned it.
var (
	ErrBareTest = errors.New("the left box is not painted: lay one flat wash of ultramarine in it, as thin as tea")
	ErrNoDrop   = errors.New("no drop is seen in the right box: lay golden yellow in it, wait a minute, and let one drop of rose fall into its middle")
)

// ReadTestCard reads a card that is squared and evened: 1 is its own white, TestW × TestH mm.
func ReadTestCard(m *image.RGBA, pxPerMM float64) (f Figures, err error) {
	red, green := densities(m, 0), densities(m, 1)
	at := func(d []float64, x, y float64) float64 {
		px := min(m.Rect.Dx()-1, max(0, int(x*pxPerMM)))
		py := min(m.Rect.Dy()-1, max(0, int(y*pxPerMM)))
		return d[py*m.Rect.Dx()+px]
	}
	const in = 7.0
	middle := meanOf(func(add func(float64)) {
		for y := testTop + in; y < testBottom-in; y += 0.3 {
			for x := flatLeft + in; x < flatRight-in; x += 0.3 {
				add(at(red, x, y))
			}
		}
	})
	if middle < bareDensity {
		return f, ErrBareTest
	}
	f.Rim = rimRead(func(x, y float64) float64 { return at(red, x, y) }, middle)
	f.Grain = grainRead(red, m.Rect.Dx(), pxPerMM, middle)
	if f.Spread = spreadRead(func(x, y float64) float64 { return at(green, x, y) }); f.Spread == 0 {
		return f, ErrNoDrop
	}
	return f, nil
}

// densities are −log10 of what a channel reflects, by pixel.
func densities(m *image.RGBA, channel int) []float64 {
	out := make([]float64, m.Rect.Dx()*m.Rect.Dy())
	var of [256]float64
	for v := range of {
		l := pigment.FromSRGB([3]float64{float64(v) / 255, 0, 0})[0]
		of[v] = -math.Log10(max(0.004, l))
	}
	for y := range m.Rect.Dy() {
		for x := range m.Rect.Dx() {
			out[y*m.Rect.Dx()+x] = of[m.Pix[m.PixOffset(m.Rect.Min.X+x, m.Rect.Min.Y+y)+channel]]
		}
	}
	return out
}

func meanOf(each func(add func(float64))) float64 {
	sum, n := 0.0, 0.0
	each(func(v float64) { sum, n = sum+v, n+1 })
	return sum / max(1, n)
}

// rimRead is by how much the first millimetre behind the left and right edges of the flat wash
// is denser than what lies two to four millimetres behind them, in the middle of the rows.
func rimRead(at func(x, y float64) float64, middle float64) float64 {
	var all []float64
	for y := testTop + 6; y < testBottom-6; y += 0.25 {
		for _, way := range []float64{1, -1} {
			x := flatLeft - 2
			if way < 0 {
				x = flatRight + 2
			}
			for k := 0; k < 60 && at(x, y) < 0.5*middle; k++ {
				x += way * 0.1
			}
			over := func(from, to float64) float64 {
				return meanOf(func(add func(float64)) {
					for d := from; d < to; d += 0.1 {
						add(at(x+way*d, y))
					}
				})
			}
			all = append(all, over(0.2, 1)/max(bareDensity, over(2, 4))-1)
		}
	}
	slices.Sort(all)
	return all[len(all)/2]
}

// grainRead is how uneven the middle of the flat wash is between 0.4 and 1.8 mm: finer than that
// scanners blur.
func grainRead(d []float64, w int, pxPerMM, middle float64) float64 {
	box := func(x, y, r float64) float64 {
		return meanOf(func(add func(float64)) {
			for py := int((y - r) * pxPerMM); py <= int((y+r)*pxPerMM); py++ {
				for px := int((x - r) * pxPerMM); px <= int((x+r)*pxPerMM); px++ {
					add(d[py*w+px])
				}
			}
		})
	}
	square := meanOf(func(add func(float64)) {
		for y := testTop + 6.0; y < testBottom-6; y += 0.5 {
			for x := flatLeft + 6.0; x < flatRight-6; x += 0.5 {
				v := (box(x, y, 0.2) - box(x, y, 0.9)) / middle
				add(v * v)
			}
		}
	})
	return math.Sqrt(square)
}

// spreadRead is how wide the drop lies, 0 where there is none.
func spreadRead(at func(x, y float64) float64) float64 {
	const in = 3.0
	var edge []float64
	for x := dropLeft + in; x < dropRight-in; x += 0.5 {
		edge = append(edge, at(x, testTop+in), at(x, testBottom-in))
	}
	slices.Sort(edge)
	base := edge[len(edge)/2]
	var sum, sx, sy, ss float64
	for y := testTop + in; y < testBottom-in; y += 0.25 {
		for x := dropLeft + in; x < dropRight-in; x += 0.25 {
			if v := at(x, y) - base - 0.02; v > 0 {
				sum, sx, sy, ss = sum+v, sx+v*x, sy+v*y, ss+v*(x*x+y*y)
			}
		}
	}
	if sum < 20 {
		return 0
	}
	mx, my := sx/sum, sy/sum
	return math.Sqrt(max(0, ss/sum-mx*mx-my*my))
}

// FitHand finds the hand whose card reads like one: the card is simulated with hands from
// [leastHand] to [mostHand] times the usual. What lies outside is taken as the end.
func FitHand(ctx context.Context, f Figures, paper Paper, rate float64) (Hand, error) {
	factors := []float64{leastHand, 0.65, 1, 1.6, mostHand}
	var of [3][]float64
	for _, k := range factors {
		m, err := TestCard(paper, Hand{k, k, k}, rate, 21).Play(ctx, Dry, nil)
		if err != nil {
			return Hand{}, err
		}
		q := m.Picture()
		img, err := q.Draw(ctx, testDPI, image.Rectangle{Max: q.Size(testDPI)}, View{}, nil)
		if err != nil {
			return Hand{}, err
		}
		g, err := ReadTestCard(img, testDPI/25.4)
		if err != nil {
			return Hand{}, err
		}
		for i, v := range [3]float64{g.Spread, g.Rim, g.Grain} {
			of[i] = append(of[i], v)
		}
	}
	return Hand{between(factors, of[0], f.Spread), between(factors, of[1], f.Rim), between(factors, of[2], f.Grain)}, nil
}

// between is the factor at which a figure comes to a value, by the logarithm of the factor.
func between(factors, figures []float64, v float64) float64 {
	for i := 1; i < len(factors); i++ {
		a, b := figures[i-1], figures[i]
		if v <= a && i == 1 {
			return factors[0]
		}
		if v <= b && b > a {
			t := (v - a) / (b - a)
			return math.Exp(math.Log(factors[i-1]) + t*math.Log(factors[i]/factors[i-1]))
		}
	}
	return factors[len(factors)-1]
}
