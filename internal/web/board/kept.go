package board

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"chromaqua/core/cover"
	"chromaqua/core/keeping"
	"chromaqua/core/lineart"
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
	Turns       []Turn // where the front has parted
	Bad         bool
}

// Turn is one of several places that are laid in turn in the same eighth of the time.
type Turn struct {
	X, Y float64 // mm
	Text string  // "3a"
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
	v.Turns = turnsOf(r, s)
	var seam strings.Builder
	for k, p := range s.Seam {
		x0, y0 := at(p[0])
		x1, y1 := at(p[1])
		mx, my := (x0+x1)/2, (y0+y1)/2
		across, down := (y1-y0)/2, (x1-x0)/2
		fmt.Fprintf(&seam, "M%.0f %.0fL%.0f %.0f", 100*(mx-across), 100*(my-down), 100*(mx+across), 100*(my+down))
		if k == len(s.Seam)/2 {
			v.SX, v.SY = mx, my
		}
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

// eighthOf tells in which eighth of the time each square is laid, below 0 where it is not.
func eighthOf(s *cover.Sweep) func(i int) int {
	total := float32(max(s.Total, time.Second).Seconds())
	return func(i int) int {
		if s.At[i] < 0 {
			return -1
		}
		return min(7, int(8*s.At[i]/total))
	}
}

// turnsOf are the places where the front has parted: large pieces of one eighth, lettered as
// they are come to.
func turnsOf(r *cover.Region, s *cover.Sweep) (out []Turn) {
	const large = 200 // squares
	eighth := eighthOf(s)
	seen := make([]bool, len(s.At))
	type piece struct {
		n     int
		x, y  float64
		first float32
	}
	pieces := map[int][]piece{}
	for i := range s.At {
		k := eighth(i)
		if k < 0 || seen[i] {
			continue
		}
		p := piece{first: s.At[i]}
		seen[i] = true
		for todo := []int{i}; len(todo) > 0; {
			at := todo[len(todo)-1]
			todo = todo[:len(todo)-1]
			x, y := at%r.W, at/r.W
			p.n, p.x, p.y, p.first = p.n+1, p.x+float64(x), p.y+float64(y), min(p.first, s.At[at])
			for _, d := range [4][2]int{{-1, 0}, {1, 0}, {0, -1}, {0, 1}} {
				if u, v := x+d[0], y+d[1]; u >= 0 && v >= 0 && u < r.W && v < r.H && !seen[v*r.W+u] && eighth(v*r.W+u) == k {
					seen[v*r.W+u] = true
					todo = append(todo, v*r.W+u)
				}
			}
		}
		if p.n >= large {
			pieces[k] = append(pieces[k], p)
		}
	}
	for k := range 8 {
		all := pieces[k]
		slices.SortFunc(all, func(a, b piece) int { return cmp.Compare(a.first, b.first) })
		for i, p := range all {
			if n := float64(p.n); len(all) > 1 {
				out = append(out, Turn{(p.x/n + 0.5) * cover.GridMM, (p.y/n + 0.5) * cover.GridMM, fmt.Sprintf("%d%c", k+1, 'a'+i%26)})
			}
		}
	}
	return out
}

// eighths draws where the wash has come after every eighth of its time, 1/100 mm.
func eighths(r *cover.Region, s *cover.Sweep) string {
	eighth := eighthOf(s)
	parted := func(i, j int) bool {
		a, b := eighth(i), eighth(j)
		return a >= 0 && b >= 0 && a != b
	}
	wide := r.W + 1 // corners of squares
	joins := map[int][]int{}
	join := func(a, b int) { joins[a], joins[b] = append(joins[a], b), append(joins[b], a) }
	for i := range s.At {
		x, y := i%r.W, i/r.W
		if x+1 < r.W && parted(i, i+1) {
			join(y*wide+x+1, (y+1)*wide+x+1)
		}
		if y+1 < r.H && parted(i, i+r.W) {
			join((y+1)*wide+x, (y+1)*wide+x+1)
		}
	}
	var lines [][]lineart.Point
	for _, line := range chained(joins) {
		var at []lineart.Point
		for _, c := range line {
			at = append(at, lineart.Point{X: float64(c%wide) * cover.GridMM, Y: float64(c/wide) * cover.GridMM})
		}
		lines = append(lines, smoothed(at))
	}
	return openPath(lines)
}

// chained are the lines that go from corner to corner, those with ends first.
func chained(joins map[int][]int) (out [][]int) {
	var corners []int
	for c := range joins {
		corners = append(corners, c)
	}
	slices.Sort(corners)
	take := func(a, b int) {
		joins[a] = slices.DeleteFunc(joins[a], func(c int) bool { return c == b })
	}
	for _, loose := range []bool{true, false} {
		for _, c := range corners {
			for len(joins[c]) > 0 && (!loose || len(joins[c]) == 1) {
				line := []int{c}
				for at := c; len(joins[at]) > 0; {
					next := joins[at][0]
					take(at, next)
					take(next, at)
					line, at = append(line, next), next
				}
				out = append(out, line)
			}
		}
	}
	return out
}

// smoothed is a line of squares without its steps.
func smoothed(line []lineart.Point) []lineart.Point {
	const reach = 4
	out := make([]lineart.Point, len(line))
	for i := range line {
		k := min(reach, i, len(line)-1-i)
		for _, p := range line[i-k : i+k+1] {
			out[i].X, out[i].Y = out[i].X+p.X/float64(2*k+1), out[i].Y+p.Y/float64(2*k+1)
		}
	}
	return out
}
