package pigment

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"math"
	"runtime"
	"slices"
	"sync"

	"gonum.org/v1/gonum/mat"
)

// Limits of a search for recipes.
const (
	MaxRecipePaints = 60 // to choose from: 1.6 million candidates in threes
	MaxInRecipe     = 3  // more turn to mud
)

// A Recipe is a mix, as simple as parts can be, that comes near a wanted colour.
type Recipe struct {
	Parts    []RecipePart
	Strength Strength
	Dry      Spectrum
	Away     float64 // ΔE00 from what was wanted, dry
}

// RecipePart is so many parts of one of the paints that were to choose from.
type RecipePart struct{ Paint, Parts int }

// The ratios of a mix, in every order that differs.
var (
	pairRatios   = orders([][]int{{1, 1}, {2, 1}, {3, 1}, {4, 1}, {6, 1}, {3, 2}})
	tripleRatios = orders([][]int{{1, 1, 1}, {3, 1, 1}, {2, 1, 1}, {2, 2, 1}, {3, 2, 1}})
)

// Three paints are tried in tripleCorners ratios first, in equal parts and with each
// three times. When none of those comes within cornersMiss of what has to be beaten,
// what lies between them is left out: of 150 colours at random, the best mix of all
// was found for 147, and none was missed by more than 0.3 ΔE.
const (
	tripleCorners = 4
	cornersMiss   = 4.0
)

// orders lists the permutations of each ratio, without those that are the same.
func orders(ratios [][]int) (out [][]int) {
	var permute func(left, taken []int)
	permute = func(left, taken []int) {
		if len(left) == 0 && !slices.ContainsFunc(out, func(o []int) bool { return slices.Equal(o, taken) }) {
			out = append(out, slices.Clone(taken))
		}
		for i, v := range left {
			rest := slices.Delete(slices.Clone(left), i, i+1)
			permute(rest, append(taken, v))
		}
	}
	for _, r := range ratios {
		permute(r, nil)
	}
	return out
}

const (
	paintCost = 0.25 // ΔE a further paint has to be worth
	keptRough = 48   // candidates that are looked at in full
)

// Recipes returns the n mixes of up to most of the paints that dry nearest to a
// wanted colour on ground, the best first. Every single paint, every pair and
// triple in simple ratios is tried at every strength, but for triples whose corners
// are far off: roughly, in eight bands, and the best in all of them. It stops early with ctx's error.
func Recipes(ctx context.Context, want Lab, ground Spectrum, paints []Paint, most, n int) ([]Recipe, error) {
	switch {
	case len(paints) == 0:
		return nil, errors.New("there are no paints to mix from; choose some")
	case len(paints) > MaxRecipePaints:
		return nil, fmt.Errorf("%d paints are more than %d; choose fewer to mix from", len(paints), MaxRecipePaints)
	case most < 1 || most > MaxInRecipe:
		return nil, fmt.Errorf("a mix takes one to %d paints; more turn to mud", MaxInRecipe)
	case math.IsNaN(want.L + want.A + want.B):
		return nil, errors.New("the wanted colour is none")
	}
	s := newSearch(want, ground, paints)
	workers := min(runtime.GOMAXPROCS(0), len(paints))
	found := make([]shortlist, workers)
	var wg sync.WaitGroup
	for w := range workers {
		wg.Go(func() {
			for i := w; i < len(paints) && ctx.Err() == nil; i += workers {
				s.simple(i, most, &found[w])
			}
			for i := w; i < len(paints) && most == 3 && ctx.Err() == nil; i += workers {
				s.triples(i, &found[w])
			}
		})
	}
	wg.Wait()
	if err := ctx.Err(); err != nil {
		return nil, err
	}
	var best []candidate
	for i := range found {
		best = append(best, found[i].kept...)
	}
	slices.SortFunc(best, candidate.compare)
	out := make([]Recipe, 0, keptRough)
	for _, c := range best[:min(len(best), keptRough)] {
		out = append(out, s.recipe(c))
	}
	slices.SortStableFunc(out, func(a, b Recipe) int {
		return cmp.Compare(a.Away+paintCost*float64(len(a.Parts)), b.Away+paintCost*float64(len(b.Parts)))
	})
	return out[:min(n, len(out))], nil
}

// candidate is a mix as it is tried: indices into paints and ratios.
type candidate struct {
	rough    float64
	paints   [MaxInRecipe]int8 // -1 where there is none
	parts    [MaxInRecipe]int8
	strength int8
}

func (a candidate) compare(b candidate) int {
	return cmp.Or(cmp.Compare(a.rough, b.rough), slices.Compare(a.paints[:], b.paints[:]), slices.Compare(a.parts[:], b.parts[:]), cmp.Compare(a.strength, b.strength))
}

// shortlist keeps the best candidates.
type shortlist struct{ kept []candidate }

// worst is what a candidate has to beat.
func (l *shortlist) worst() float64 {
	if len(l.kept) < keptRough {
		return math.Inf(1)
	}
	return l.kept[len(l.kept)-1].rough
}

func (l *shortlist) take(c candidate) {
	i, _ := slices.BinarySearchFunc(l.kept, c, candidate.compare)
	l.kept = slices.Insert(l.kept, i, c)
	if len(l.kept) > keptRough {
		l.kept = l.kept[:keptRough]
	}
}

// nodes are the bands that candidates are tried in.
var nodes = [...]int{6, 9, 13, 16, 19, 21, 24, 27} // 440, 470, 510, 540, 570, 590, 620 and 650 nm

const nodeCount = len(nodes)

// fromNodes turns reflectances in nodes into linear sRGB, without haze. It is fitted to the
// generic paints, alone and in pairs, at every strength on white paper.
var fromNodes = sync.OnceValue(func() (w [3][nodeCount]float64) {
	ground := library.Papers["white"]
	var rows, want []float64
	for i := range library.Pigments {
		for j := range i + 1 {
			p, err := Mix(Part{library.Pigments[i].Paint(), 1}, Part{library.Pigments[j].Paint(), 1})
			if err != nil {
				panic(err) // two parts are a mix
			}
			for _, s := range Strengths() {
				load, err := s.Load()
				if err != nil {
					panic(err)
				}
				r := p.Over(&ground, load)
				for _, b := range nodes {
					rows = append(rows, r[b])
				}
				c := r.Linear()
				want = append(want, c[:]...)
			}
		}
	}
	n := len(want) / 3
	var fit mat.Dense
	if err := fit.Solve(mat.NewDense(n, nodeCount, rows), mat.NewDense(n, 3, want)); err != nil {
		panic("pigment: the nodes do not span the library: " + err.Error())
	}
	for c := range w {
		for k := range w[c] {
			w[c][k] = fit.At(k, c)
		}
	}
	return w
})

// search is what all candidates are tried against.
type search struct {
	paints []Paint
	ground Spectrum
	want   Lab
	near   metric
	k, s   [][nodeCount]float64 // of each paint
	sinks  [][nodeCount]float64
	g      [nodeCount]float64
	rgb    [3][nodeCount]float64
}

func newSearch(want Lab, ground Spectrum, paints []Paint) *search {
	s := &search{paints: paints, ground: ground, want: want, near: metricAt(want), rgb: fromNodes()}
	for i, b := range nodes {
		s.g[i] = ground[b]
	}
	for _, p := range paints {
		var k, sc, sinks [nodeCount]float64
		for i, b := range nodes {
			k[i], sc[i], sinks[i] = max(minK, p.K[b]), p.S[b], p.Sinks[b]
		}
		s.k, s.s, s.sinks = append(s.k, k), append(s.s, sc), append(s.sinks, sinks)
	}
	return s
}

// simple tries paint i alone, and every pair it is the first of.
func (s *search) simple(i, most int, to *shortlist) {
	s.try(to, candidate{paints: [3]int8{int8(i), -1, -1}, parts: [3]int8{1}})
	for j := i + 1; j < len(s.paints) && most > 1; j++ {
		for _, r := range pairRatios {
			s.try(to, candidate{paints: [3]int8{int8(i), int8(j), -1}, parts: [3]int8{int8(r[0]), int8(r[1])}})
		}
	}
}

// triples tries every three paints of which i is the first: their corners, and what
// lies between those where it may come near enough.
func (s *search) triples(i int, to *shortlist) {
	for j := i + 1; j < len(s.paints); j++ {
		for k := j + 1; k < len(s.paints); k++ {
			nearest := math.Inf(1)
			for n, r := range tripleRatios {
				if n == tripleCorners && nearest > to.worst()+cornersMiss {
					break
				}
				nearest = min(nearest, s.try(to, candidate{paints: [3]int8{int8(i), int8(j), int8(k)}, parts: [3]int8{int8(r[0]), int8(r[1]), int8(r[2])}}))
			}
		}
	}
}

// try tries a mix at every strength and returns how near it comes, roughly; infinity
// when that is too far to matter. The loads of the five strengths are 3, 7, 20,
// 50 and 120 times a twentieth, so that one exponential serves them all.
func (s *search) try(to *shortlist, c candidate) (nearest float64) {
	var x [MaxInRecipe]float64
	sum, used := 0.0, 0
	for n, p := range c.parts {
		if c.paints[n] >= 0 {
			sum += float64(p)
			used++
		}
	}
	for n, p := range c.parts {
		x[n] = float64(p) / sum
	}
	var lin [5]RGB
	for b := range nodeCount {
		var k, sc, sinks float64
		for n := range used {
			p := c.paints[n]
			k += x[n] * s.k[p][b]
			sc += x[n] * s.s[p][b]
			sinks += x[n] * s.sinks[p][b]
		}
		if sinks > 0 {
			s.sinking(&lin, b, k, sc, sinks)
			continue
		}
		a := math.Sqrt(k * (k + 2*sc))
		e := math.Exp(-2 * a / 20) // squared already
		e2 := e * e
		e3 := e2 * e
		e7 := e3 * e3 * e
		e20 := e7 * e7 * e3 * e3
		e50 := e20 * e20 * e7 * e3
		g := s.g[b]
		for n, ee := range [5]float64{e3, e7, e20, e50, e50 * e50 * e20} {
			m, q := 1-ee, a*(1+ee)
			r := (sc*m + g*(q-(k+sc)*m)) / (q + (k+sc-g*sc)*m)
			lin[n][0] += s.rgb[0][b] * r
			lin[n][1] += s.rgb[1][b] * r
			lin[n][2] += s.rgb[2][b] * r
		}
	}
	cost := paintCost * float64(used)
	nearest = math.Inf(1)
	for n := range lin {
		worst := to.worst()
		rgb := lin[n].dried().Clip()
		y := rgbToXYZ[1][0]*rgb[0] + rgbToXYZ[1][1]*rgb[1] + rgbToXYZ[1][2]*rgb[2]
		if at := s.near.lightness(116*math.Cbrt(y)-16) + cost; at > worst+cornersMiss {
			continue
		}
		c.rough = s.near.rough(rgb.Lab()) + cost
		if nearest = min(nearest, c.rough); c.rough < worst {
			c.strength = int8(n)
			to.take(c)
		}
	}
	return nearest
}

// sinking adds what a mix that sinks reflects in node b, at every strength.
func (s *search) sinking(lin *[5]RGB, b int, k, sc, sinks float64) {
	for n, x := range [5]float64{0.15, 0.35, 1, 2.5, 6} {
		S := sc - sinks*sunk/(sunk+x)
		m, q, _ := flux(k, S, x)
		r := (S*m + s.g[b]*(q-(k+S)*m)) / (q + (k+S-s.g[b]*S)*m)
		for c := range lin[n] {
			lin[n][c] += s.rgb[c][b] * r
		}
	}
}

func (s *search) recipe(c candidate) Recipe {
	r := Recipe{Strength: Strengths()[c.strength]}
	var parts []Part
	for n, p := range c.paints {
		if p >= 0 {
			r.Parts = append(r.Parts, RecipePart{int(p), int(c.parts[n])})
			parts = append(parts, Part{s.paints[p], float64(c.parts[n])})
		}
	}
	paint, err := Mix(parts...)
	if err != nil {
		panic("pigment: " + err.Error()) // candidates have parts
	}
	load, err := r.Strength.Load()
	if err != nil {
		panic("pigment: " + err.Error())
	}
	r.Dry = Seen(paint.Over(&s.ground, load), Dry)
	r.Away = Difference(s.want, r.Dry.Lab())
	return r
}

// metric is ΔE00 near one colour: its weights there, for whatever lies about it.
type metric struct {
	at         Lab
	g          float64 // a* is stretched by this
	cos, sin   float64 // of its hue
	sL, sC, sH float64
}

func metricAt(at Lab) metric {
	c7 := math.Pow(at.Chroma(), 7)
	m := metric{at: at, g: 1.5 - 0.5*math.Sqrt(c7/(c7+6103515625)), cos: 1}
	c := math.Hypot(m.g*at.A, at.B)
	if c > 0 {
		m.cos, m.sin = m.g*at.A/c, at.B/c
	}
	h := hue(m.g*at.A, at.B)
	t := 1 - 0.17*math.Cos(h-radians(30)) + 0.24*math.Cos(2*h) + 0.32*math.Cos(3*h+radians(6)) - 0.20*math.Cos(4*h-radians(63))
	l50 := (at.L - 50) * (at.L - 50)
	m.sL, m.sC, m.sH = 1+0.015*l50/math.Sqrt(20+l50), 1+0.045*c, 1+0.015*c*t
	return m
}

// lightness is the part of the difference that lightness alone makes.
func (m *metric) lightness(l float64) float64 { return math.Abs(l-m.at.L) / m.sL }

// rough is the difference from a colour.
func (m *metric) rough(c Lab) float64 {
	dL, dA, dB := c.L-m.at.L, m.g*(c.A-m.at.A), c.B-m.at.B
	dC, dH := dA*m.cos+dB*m.sin, dB*m.cos-dA*m.sin
	return math.Sqrt(dL*dL/(m.sL*m.sL) + dC*dC/(m.sC*m.sC) + dH*dH/(m.sH*m.sH))
}

// Apart words how far two colours are apart to the eye, from their ΔE00.
func Apart(away float64) string {
	switch {
	case away < 1:
		return "not to be told apart"
	case away < 2.5:
		return "hardly to be told apart"
	case away < 8:
		return "a shade apart"
	}
	return "far apart"
}

// Nearness says in a word how near a difference is.
func Nearness(away float64) string {
	switch {
	case away < 1:
		return "cannot be told apart"
	case away < 2.5:
		return "very close"
	case away < 5:
		return "close"
	case away < 10:
		return "near"
	}
	return "the nearest these give"
}

// Leaning says how a colour differs from the one that was wanted: "darker and
// duller"; "" when it hardly does.
func Leaning(want, got Lab) string {
	m := metricAt(want)
	dL := (got.L - want.L) / m.sL
	dA, dB := m.g*(got.A-want.A), got.B-want.B
	dC, dH := (dA*m.cos+dB*m.sin)/m.sC, (dB*m.cos-dA*m.sin)/m.sH
	word := func(v float64, more, less string) string {
		if v > 0 {
			return more
		}
		return less
	}
	type lean struct {
		by   float64
		word string
	}
	leans := []lean{{math.Abs(dL), word(dL, "lighter", "darker")}, {math.Abs(dC), word(dC, "cleaner", "duller")}, {math.Abs(dH), turning(dA, dB, want)}}
	slices.SortStableFunc(leans, func(a, b lean) int { return cmp.Compare(b.by, a.by) })
	switch {
	case leans[0].by < 0.8:
		return ""
	case leans[1].by < max(0.8, leans[0].by/3):
		return leans[0].word
	}
	return leans[0].word + " and " + leans[1].word
}

// turning is the hue towards which a colour of this hue turns when it moves by dA
// and dB.
func turning(dA, dB float64, at Lab) string {
	// What lies along the way is what it was already; what counts is across.
	c := max(1e-9, at.Chroma())
	along := (dA*at.A + dB*at.B) / (c * c)
	dA, dB = dA-along*at.A, dB-along*at.B
	if math.Abs(dA) > math.Abs(dB) {
		if dA > 0 {
			return "redder"
		}
		return "greener"
	}
	if dB > 0 {
		return "yellower"
	}
	return "bluer"
}
