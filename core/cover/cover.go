// Package cover answers "can this wash be laid before its edge dries, and how?". It
// leads a brush over a region in bands as wide as its belly, looks how long each place
// waits until its neighbour is laid, and picks the way whose longest wait is least.
//
// Holes do not close a wash: the front parts round them and is taken up again on both
// sides. Bands are cut in with a small brush in chunks and then filled, as a hand does.
// Speeds are general figures for a quick hand; Pace makes them the maker's.
package cover

import (
	"errors"
	"math"
	"time"
)

// GridMM is the side of the squares that a region is given in, mm.
const GridMM = 0.5

// MaxSquares bounds a region: a sheet of some 40 × 40 cm.
const MaxSquares = 640_000

// Region is what is to be covered: squares of [GridMM], row by row. What is not In is cut
// in along, but for what is masked: that may be gone over or left, as is quicker. Where the
// squares end lies tape, over which the brush runs.
type Region struct {
	W, H   int
	In     []bool
	Masked []bool // nil where nothing is
}

// Check reports a region that cannot be looked at.
func (r *Region) Check() error {
	switch {
	case r.W < 1 || r.H < 1 || len(r.In) != r.W*r.H:
		return errors.New("a region has a square for each place of its width and height")
	case r.Masked != nil && len(r.Masked) != len(r.In):
		return errors.New("what is masked is marked for each square, or for none")
	case len(r.In) > MaxSquares:
		return errors.New("the region is larger than a sheet that is painted in one wash")
	}
	return nil
}

// Brush is a brush by its belly, mm, and the water it gives off, ml.
type Brush struct{ Belly, CapacityML float64 }

// Hand is what a region is covered with and how quickly.
type Hand struct {
	Fill, CutIn Brush
	Pace        float64 // times what a quick hand takes
	Water       float64 // laid, g/m²
}

// Speeds of a quick hand.
const (
	CutIn  = 12.0 // mm/s along smooth contours
	Slowly = 5.0  // mm/s where they are curved tightly
	Stroke = 40.0 // mm/s of the brush in the middle
	Useful = 0.6  // share of the belly that covers new ground
	Reload = 3.0  // s

	strip   = 3.0  // mm along an edge that the small brush lays as it cuts in
	chunkMM = 30.0 // cut in before that much is filled
	jump    = 1.5  // s to take the wash up elsewhere
	swap    = 2.0  // s to change the brush
	tight   = 3.0  // mm, the radius of a hole that is cut round slowly
	edgeMM  = 2.0  // of edge have to wait so long for it to be seen
	inside  = 0.8  // of half its belly a brush reaches into a narrow place
	alongUp = math.Pi / 4
)

// A Sweep is one way of covering a region.
type Sweep struct {
	Total time.Duration // it takes in all
	Wait  time.Duration // the longest that neighbouring places wait for each other
	At    []float32     // s from the start, by square; below 0 where nothing is laid
	Start int           // the square at which it begins
	Parts int           // fronts that are open at once, at most
	Seam  [][2]int      // pairs of squares between which the wait is longest
	Band  float64       // mm, how wide it goes
	Plain bool          // it goes straight from one side to the other
	Angle float64       // degrees clockwise from rightwards, where it is plain
}

// Likely is the chance that an edge is seen to have dried, when the longest wait is so
// much of the time it stays open: 5 % at 0.45, 50 % at 1. The spread of hands and papers
// is an estimate.
func Likely(rho float64) float64 {
	if rho <= 0 {
		return 0
	}
	return 0.5 * math.Erfc(-math.Log(rho)/0.5/math.Sqrt2)
}

// WaitOf is the part of the open time that a longest wait takes: hands are not as even as
// the sum.
func WaitOf(wait, open time.Duration) float64 {
	if open <= 0 {
		return math.Inf(1)
	}
	return 1.15 * wait.Seconds() / open.Seconds()
}

// Quick estimates the longest wait from sums alone: the front, mm, the length it is led
// along, and the edges to cut in, mm. Good to a fifth from five holes up.
func Quick(front, along, edges float64, h Hand) time.Duration {
	s := h.Pace * (front/(Stroke*Useful) + 1.75*edges*h.Fill.Belly/(along*CutIn) + 2*swap*math.Ceil(front/chunkMM)*min(1, edges/60))
	return time.Duration(s * float64(time.Second))
}
