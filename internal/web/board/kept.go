package board

import (
	"fmt"
	"math"
	"strings"
	"time"

	"chromaqua/core/cover"
	"chromaqua/core/keeping"
	"chromaqua/core/mask"
	"chromaqua/internal/desk"
)

// Kept is something that stays white or pale, on the picture.
type Kept struct {
	ID, Name, Path string
	Masked         bool // something lies on it meanwhile
	White          bool // it is paper in the end
	Open           bool // it is spoken of
}

// KeptOf are what is kept on a piece, the one with an id spoken of.
func KeptOf(l *desk.Laid, open string) (out []Kept) {
	for i := range l.Board.Reserves {
		r := &l.Board.Reserves[i]
		k := Kept{ID: r.ID, Name: r.Name, Masked: r.Way.Or().Facts().Lays, White: r.Way != mask.Over && len(r.Areas) == 0 && r.Under == "", Open: r.ID == open}
		if dots := l.Board.Dots(r); dots != nil {
			k.Path = scattered(dots)
		} else {
			for _, o := range l.Board.Kept(r) {
				k.Path += desk.PathOf(o)
			}
		}
		out = append(out, k)
	}
	return out
}

// Front is how a large wash is laid: where it begins, where it has come after every eighth
// of its time, and where neighbouring places wait longest for each other.
type Front struct {
	Area, Lines string
	X, Y        float64 // where it begins, mm
	DX, DY      float64 // whither it is led, of length 1; 0 where it spreads
	Seam        string
	SX, SY      float64
	Waits       string
	Cut         string // a division that is proposed, across the wash
	Bad         bool
}

// Degrees is whither it is led, clockwise from rightwards.
func (f *Front) Degrees() float64 { return math.Atan2(f.DY, f.DX) * 180 / math.Pi }

// FrontOf draws one.
func FrontOf(l *desk.Laid, f *keeping.Front, cut []int) *Front {
	r, s := f.Region, &f.Sweep
	at := func(i int) (x, y float64) {
		return (float64(i%r.W) + 0.5) * cover.GridMM, (float64(i/r.W) + 0.5) * cover.GridMM
	}
	v := &Front{Area: l.Board.Areas[f.Area].ID, Waits: fmt.Sprintf("%.0f s", s.Wait.Seconds()), Bad: f.Rho > keeping.Closes, Lines: eighths(r, s)}
	v.X, v.Y = at(s.Start)
	if s.Plain {
		v.DY, v.DX = math.Sincos(s.Angle * math.Pi / 180)
	}
	var seam strings.Builder
	for _, p := range s.Seam {
		x0, y0 := at(p[0])
		x1, y1 := at(p[1])
		mx, my := (x0+x1)/2, (y0+y1)/2
		across, down := (y1-y0)/2, (x1-x0)/2
		fmt.Fprintf(&seam, "M%.0f %.0fL%.0f %.0f", 100*(mx-across), 100*(my-down), 100*(mx+across), 100*(my+down))
		v.SX, v.SY = mx, my
	}
	v.Seam = seam.String()
	var way strings.Builder
	on := false
	for _, i := range cut {
		x, y := at(i)
		if r.In[i] {
			fmt.Fprintf(&way, "%c%.0f %.0f", map[bool]byte{false: 'M', true: 'L'}[on], 100*x, 100*y)
		}
		on = r.In[i]
	}
	v.Cut = way.String()
	return v
}

// eighths draws where the wash has come after every eighth of its time, 1/100 mm.
func eighths(r *cover.Region, s *cover.Sweep) string {
	eighth := func(i int) int {
		if i < 0 || i >= len(s.At) || s.At[i] < 0 {
			return -1
		}
		return min(7, int(8*s.At[i]/float32(max(s.Total, time.Second).Seconds())))
	}
	var out strings.Builder
	const side = 100 * cover.GridMM
	line := func(from, n int, upright bool) {
		x, y := float64(from%r.W)*side, float64(from/r.W)*side
		if upright {
			fmt.Fprintf(&out, "M%.0f %.0fv%.0f", x+side, y, side*float64(n))
		} else {
			fmt.Fprintf(&out, "M%.0f %.0fh%.0f", x, y+side, side*float64(n))
		}
	}
	parted := func(i, j int) bool {
		a, b := eighth(i), eighth(j)
		return a >= 0 && b >= 0 && a != b
	}
	for y := range r.H {
		for x := 0; x < r.W; x++ {
			i, n := y*r.W+x, 0
			for x+n < r.W && parted(i+n, i+n+r.W) {
				n++
			}
			if n > 0 {
				line(i, n, false)
				x += n
			}
		}
	}
	for x := range r.W - 1 {
		for y := 0; y < r.H; y++ {
			i, n := y*r.W+x, 0
			for y+n < r.H && parted(i+n*r.W, i+n*r.W+1) {
				n++
			}
			if n > 0 {
				line(i, n, true)
				y += n
			}
		}
	}
	return out.String()
}
