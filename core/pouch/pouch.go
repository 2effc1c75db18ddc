// Package pouch answers "what do I cut and where do I fold it?" for envelopes
// made to measure, from a square or from a strip of paper, with their lining and
// address band. What is cut to a size is an exact length, on a mark of the
// ruler; the places of corners and creases are millimetres, since most of them
// are irrational.
package pouch

import (
	"errors"
	"fmt"
	"math"

	"chromaqua/core/fold"
	"chromaqua/core/length"
)

// A Pouch is an envelope made to measure: the paper it is cut from, its shape
// before folding, and its creases. Points are millimetres with the middle of
// the envelope's front at the origin, x to the right and y down.
type Pouch struct {
	Paper   length.Size // cut to this
	Inside  length.Size // what it holds, long side first
	Outline []Point     // its shape, cut out of the paper, once round
	Creases []Crease    // in the order they are folded, all towards you
	Slant   float64     // of the paper's edges to the envelope's, degrees

	Liner []Point // shape of its lining: the inside that is seen, less a margin
	Band  Band

	cut   string   // the first step, with a place for the paper's size
	steps []string // the others
}

// Band is a strip folded round the closed envelope, for the address.
type Band struct {
	Size  length.Size
	Folds [2]length.Length // from its left end; the front lies between
}

// Steps says in words how it is made, with lengths in unit u.
func (p *Pouch) Steps(u length.Unit) []string {
	return append([]string{fmt.Sprintf(p.cut, p.Paper.With(u))}, p.steps...)
}

// Extras says in words how the lining and the band are made.
func (p *Pouch) Extras(u length.Unit) []string {
	x0, y0, x1, y1 := Bounds(p.Liner)
	size := length.Size{W: length.FromMM(x1 - x0), H: length.FromMM(y1 - y0)}
	return []string{
		fmt.Sprintf("Lining: cut it %s as drawn, slide it in before the card, and glue it along the upper flap only.", size.Near(u)),
		fmt.Sprintf("Address band: cut a strip of %s, score it at %s and %s, fold it round the closed envelope and glue its ends together on the back.", p.Band.Size.With(u), p.Band.Folds[0].With(u), p.Band.Folds[1].With(u)),
	}
}

// A Shape is one piece of paper as it is cut and scored, mm.
type Shape struct {
	Name    string
	Outline []Point
	Creases []Crease
}

// Shapes lists what is cut: the envelope, its lining, its band.
func (p *Pouch) Shapes() []Shape {
	w, h := p.Band.Size.W.MM(), p.Band.Size.H.MM()
	band := Shape{Name: "address band", Outline: []Point{{0, 0}, {w, 0}, {w, h}, {0, h}}}
	for _, at := range p.Band.Folds {
		band.Creases = append(band.Creases, Crease{Point{at.MM(), 0}, Point{at.MM(), h}})
	}
	return []Shape{{"envelope", p.Outline, p.Creases}, {Name: "lining", Outline: p.Liner}, band}
}

// Bounds is where an outline lies.
func Bounds(outline []Point) (x0, y0, x1, y1 float64) {
	for i, p := range outline {
		if i == 0 {
			x0, y0, x1, y1 = p.X, p.Y, p.X, p.Y
		}
		x0, y0, x1, y1 = min(x0, p.X), min(y0, p.Y), max(x1, p.X), max(y1, p.Y)
	}
	return x0, y0, x1, y1
}

// Point is a place, mm.
type Point struct {
	X float64 `json:"x_mm"`
	Y float64 `json:"y_mm"`
}

// Crease is a fold line.
type Crease struct {
	From Point `json:"from"`
	To   Point `json:"to"`
}

// Measures of envelopes made to measure, general figures.
const (
	glueOverlap  = 15 * length.Millimetre // of flaps that are glued to each other
	stripFlap    = length.Inch            // at either end of a strip's pocket
	linerMargin  = 3 * length.Millimetre  // of the lining, where the flap is glued
	linerPlay    = length.Millimetre      // so that it slides in
	leastBand    = 3 * length.Inch / 2
	bandPlay     = 2 * length.Millimetre // round the envelope's own thickness
	maxClearance = 2 * length.Inch
	maxSlant     = 45.0 // degrees; a strip folded steeper will not lie flat
)

// FromSquare returns the envelope for a card from a square of paper laid as a
// diamond, with clearance each way; the paper's size is rounded up to a mark on
// ruler u. The square's side is
//
//	max((W + H)/√2 + o, √2·(H + o/2))
//
// for an inside W × H, W ≥ H: the first leaves o/2 of paper outside each of the front's
// corners, so that neighbouring flaps overlap by o along their slanting edges; the
// second lets the lower and the upper flap overlap by o.
func FromSquare(card length.Size, clearance length.Length, u length.Unit) (*Pouch, error) {
	in, err := pocket(card, clearance)
	if err != nil {
		return nil, err
	}
	w, h := in.W.MM()/2, in.H.MM()/2
	side := max((2*w+2*h)/math.Sqrt2+glueOverlap.MM(), math.Sqrt2*(2*h+glueOverlap.MM()/2))
	square := roundedUp(side, u)
	if square > length.Max {
		return nil, fmt.Errorf("the square would be %s wide; no paper is that large", square.With(length.Millimetres))
	}
	reach := square.MM() / math.Sqrt2 // from the middle to a corner of the square
	p := &Pouch{Paper: length.Size{W: square, H: square}, Inside: in, Slant: 45}
	// Each quarter of the outline: a flap's tip, cut off where it would stand
	// out beyond the opposite crease, and the notch at the front's corner.
	tipX, tipY := min(reach, 3*w), min(reach, 3*h)
	for _, q := range [4][2]float64{{1, -1}, {1, 1}, {-1, 1}, {-1, -1}} {
		corner := []Point{
			{q[0] * (reach - tipY), q[1] * tipY}, {q[0] * w, q[1] * (reach - w)},
			{q[0] * w, q[1] * h},
			{q[0] * (reach - h), q[1] * h}, {q[0] * tipX, q[1] * (reach - tipX)},
		}
		if q[0]*q[1] > 0 { // once round, clockwise from the upper tip
			for i, j := 0, len(corner)-1; i < j; i, j = i+1, j-1 {
				corner[i], corner[j] = corner[j], corner[i]
			}
		}
		for _, c := range corner {
			if n := len(p.Outline); n == 0 || math.Hypot(c.X-p.Outline[n-1].X, c.Y-p.Outline[n-1].Y) > 1e-9 {
				p.Outline = append(p.Outline, c)
			}
		}
	}
	p.Creases = []Crease{
		{Point{-w, -h}, Point{-w, h}}, {Point{w, -h}, Point{w, h}},
		{Point{-w, h}, Point{w, h}}, {Point{-w, -h}, Point{w, -h}},
	}
	// The lining keeps off the flap's slanting edges, where it is glued.
	edge, tip := reach-linerMargin.MM()*math.Sqrt2, tipY-linerMargin.MM()
	inner, foot := w-linerPlay.MM(), h-linerPlay.MM()
	shoulder := min(edge-inner, tip)
	p.Liner = []Point{{-inner, foot}, {-inner, -shoulder}}
	if half := min(inner, edge-tip); half > 0 {
		p.Liner = append(p.Liner, Point{-half, -tip}, Point{half, -tip})
	} else {
		p.Liner = append(p.Liner, Point{0, -edge})
	}
	p.Liner = append(p.Liner, Point{inner, -shoulder}, Point{inner, foot})
	p.Band = bandRound(in, u)
	p.cut = "Cut a square, %s, and lay it as a diamond."
	p.steps = []string{
		"Cut the four notches out at the corners of the front, and the tips where the outline cuts them.",
		"Score the four creases.",
		"Fold the left and the right flap in.",
		"Fold the lower flap up and glue it to the two.",
		"Put the card in, fold the upper flap down and seal it.",
	}
	return p, nil
}

// FromStrip returns the envelope for a card from a strip of paper whose two
// long edges are folded in along parallel slanting lines until they meet. The
// sleeve is d = S/(2·cos θ) wide, so θ = arccos(S/(2(w + c))) for a card w wide
// with clearance c. The strip must be
//
//	(h + flaps)/cos θ + 2·d·sin θ
//
// long for both layers to cover pocket and flaps; it is rounded up to a mark on
// ruler u. A strip of width 0 takes the natural choice, twice the card.
func FromStrip(card length.Size, clearance, strip length.Length, u length.Unit) (*Pouch, error) {
	in, err := pocket(card, clearance)
	if err != nil {
		return nil, err
	}
	if strip == 0 {
		strip = 2 * (in.W - clearance)
	}
	if strip < 0 || strip > length.Max {
		return nil, fmt.Errorf("a strip %s wide cannot be", strip.With(length.Millimetres))
	}
	d, s := in.W.MM(), strip.MM()
	cos := s / (2 * d)
	slant := math.Acos(min(1, cos)) * 180 / math.Pi
	switch {
	case cos > 1:
		return nil, fmt.Errorf("a strip %s wide is too wide: at most twice the pocket's %s, so that its edges meet", strip.With(length.Millimetres), in.W.With(length.Millimetres))
	case slant > maxSlant:
		return nil, fmt.Errorf("a strip %s wide is too narrow: its folds would slant by %.0f°; take one nearly twice the pocket's %s", strip.With(length.Millimetres), slant, in.W.With(length.Millimetres))
	}
	sin := math.Sqrt(1 - cos*cos)
	tall := in.H.MM() + 2*stripFlap.MM()
	if tall*sin > d*cos { // the creases would run off the strip's long edges
		return nil, fmt.Errorf("a strip %s wide slants too much for a pocket that deep; take one nearer to twice the pocket's %s", strip.With(length.Millimetres), in.W.With(length.Millimetres))
	}
	long := tall/cos + 2*d*sin
	p := &Pouch{Paper: length.Size{W: roundedUp(long, u), H: strip}, Inside: in, Slant: slant}
	if p.Paper.W > length.Max {
		return nil, fmt.Errorf("the strip would be %s long; no paper is that large", p.Paper.W.With(length.Millimetres))
	}
	// On the envelope the sleeve stands upright and the strip's edges slant. A
	// point (x, y) along and across the strip, from its middle, lies at:
	at := func(x, y float64) Point { return Point{x*sin - y*cos, x*cos + y*sin} }
	l := p.Paper.W.MM() / 2
	p.Outline = []Point{at(-l, -s/2), at(l, -s/2), at(l, s/2), at(-l, s/2)}
	for _, x := range []float64{-d / 2, d / 2} {
		p.Creases = append(p.Creases, across(p.Outline, x))
	}
	side, foot, top := d/2-linerPlay.MM(), in.H.MM()/2-linerPlay.MM(), in.H.MM()/2+stripFlap.MM()-linerMargin.MM()
	p.Liner = []Point{{-side, foot}, {-side, -top}, {side, -top}, {side, foot}}
	p.Band = bandRound(in, u)
	p.cut = "Cut a strip of %s."
	p.steps = []string{
		fmt.Sprintf("Score the two parallel lines, slanted by %.1f° to its long edges.", slant),
		"Fold both edges in: they meet along a slanting seam. Tape the seam, or glue a strip 15 mm wide under it.",
		"Square both ends where the sleeve is double all across.",
		"Fold the lower end back by an inch and glue it.",
		"Put the card in, fold the upper end over and seal it.",
	}
	return p, nil
}

// bandRound is the address band of an envelope: a third as high, round its long
// way.
func bandRound(in length.Size, u length.Unit) Band {
	front := roundedUp((in.W + bandPlay).MM(), u)
	back := roundedUp(front.MM()/2, u)
	overlap := roundedUp(glueOverlap.MM(), u)
	high := min(in.H, max(leastBand, roundedUp(in.H.MM()/3, u)))
	return Band{
		Size:  length.Size{W: overlap + back + front + back, H: high},
		Folds: [2]length.Length{overlap + back, overlap + back + front},
	}
}

// roundedUp is a length in millimetres as a trimmer is set: the next sixteenth
// of an inch or half millimetre.
func roundedUp(mm float64, u length.Unit) length.Length {
	mark := u.Mark()
	return (length.FromMM(mm) + mark - 1) / mark * mark
}

// across returns where the upright line at x crosses a convex outline that lies
// on both sides of it.
func across(outline []Point, x float64) Crease {
	var hits []Point
	for i, a := range outline {
		b := outline[(i+1)%len(outline)]
		if (a.X-x)*(b.X-x) < 0 {
			t := (x - a.X) / (b.X - a.X)
			hits = append(hits, Point{x, a.Y + t*(b.Y-a.Y)})
		}
	}
	if hits[0].Y > hits[1].Y {
		hits[0], hits[1] = hits[1], hits[0]
	}
	return Crease{hits[0], hits[1]}
}

// pocket is the inside of an envelope for a card, long side first.
func pocket(card length.Size, clearance length.Length) (length.Size, error) {
	if min(card.W, card.H) < fold.MinFront || max(card.W, card.H) > length.Max {
		return length.Size{}, errors.New("a card measures half an inch to 2 m either way")
	}
	if clearance < 0 || clearance > maxClearance {
		return length.Size{}, fmt.Errorf("a clearance of %s is outside 0 to %s", clearance.With(length.Inches), maxClearance.With(length.Inches))
	}
	return length.Size{W: max(card.W, card.H) + clearance, H: min(card.W, card.H) + clearance}, nil
}
