package photo

import (
	"cmp"
	"math"
	"slices"

	"chromaqua/core/lineart"
	"chromaqua/core/pigment"
)

// Verdict is how a cell or an area was painted.
type Verdict string

// The verdicts.
const (
	AsPlanned Verdict = "as planned"
	Forgotten Verdict = "not painted"
	Short     Verdict = "too pale by a coat" // as it was before its last wash
	Paler     Verdict = "paler"
	Darker    Verdict = "darker"
	Other     Verdict = "another colour"
	Unsure    Verdict = "cannot be told"
)

// CellReading is what was read of one cell.
type CellReading struct {
	ID      int
	Colour  pigment.Lab
	Places  int     // of the grid, that were read in it
	Off     float64 // ΔE00 from what was planned
	Verdict Verdict
}

// AreaReading is what was read of an area: of those of its cells that were painted.
type AreaReading struct {
	Area     int
	Colour   pigment.Lab
	Off      float64
	Verdict  Verdict
	Leans    string // how it is off, in words, as "warmer, a little darker"
	Missing  []int  // cells that were not painted
	Sure     bool
	WasPlans pigment.Lab // the colour that was planned, on the whole
}

// Kind is what a mark in a photo is.
type Kind string

// The kinds.
const (
	OverLine Kind = "colour over the line"
	Bloom    Kind = "a bloom or a hard edge"
)

// Mark is something seen at a place.
type Mark struct {
	Kind Kind
	At   lineart.Point
	MM2  float64
	Cell int
	From int // the cell whose colour it is, 0 for none
}

// Limits of what is told, ΔE00 but where said.
const (
	leastPlaces = 6    // of the grid, to tell a cell's colour by
	tellApart   = 5.0  // two stages closer than this are not told apart
	forgotten   = 0.42 // nearer to bare paper than this, of the way to the plan
	asPlanned   = 6.5
	clearly     = 0.75 // a stage is another when so much nearer
	overFrom    = 9.0  // colour where there should be none
	leastOver   = 1.2  // mm² of it
	overReach   = 3.0  // mm, from the line
	bloomFrom   = 7.0  // lightness off what is round it
	leastBloom  = 5.0  // mm²
)

// judge reads every cell, then every area, then what lies where it should not.
func (s *squared) judge(r *Reading) {
	sums := make([][][3]float64, len(s.Cells)) // thinned samples
	for i, in := range s.inside {
		if in {
			c := s.cell[i] - 1
			sums[c] = append(sums[c], s.colour[i])
		}
	}
	paper := s.Paper.Lab()
	for k := range s.Cells {
		c := &s.Cells[k]
		v := CellReading{ID: c.ID, Places: len(sums[k]), Verdict: Unsure}
		if v.Places >= leastPlaces {
			v.Colour = trimmed(sums[k])
			v.Off = pigment.Difference(c.Colour, v.Colour)
			if c.Area >= 0 {
				v.Verdict = AsPlanned
				if whole := pigment.Difference(paper, c.Colour); whole < tellApart {
					v.Verdict = Unsure // so pale that it is hardly told from paper
				} else if pigment.Difference(paper, v.Colour) < forgotten*whole && v.Off > tellApart/2 {
					v.Verdict = Forgotten
				}
			} else if c.Area == -1 {
				v.Verdict = AsPlanned
			}
		}
		r.Cells = append(r.Cells, v)
	}
	lying := s.lying()
	for a := range s.Areas {
		v := s.area(a, r.Cells)
		if l := lying[a]; l != nil && v.Verdict == Unsure && len(l.all) > 10*leastPlaces {
			v = s.film(a, l)
		}
		r.Areas = append(r.Areas, v)
	}
	s.over(r)
	s.blooms(r)
}

// trimmed is the mean of colours without the tenth at either end of their light.
func trimmed(all [][3]float64) pigment.Lab {
	slices.SortFunc(all, func(a, b [3]float64) int { return cmp.Compare(a[0]+a[1]+a[2], b[0]+b[1]+b[2]) })
	cut := len(all) / 10
	all = all[cut : len(all)-cut]
	var sum pigment.RGB
	for _, c := range all {
		for i := range sum {
			sum[i] += c[i] / float64(len(all))
		}
	}
	return sum.Clip().Lab()
}

// area reads an area by those of its cells that were painted.
func (s *squared) area(a int, cells []CellReading) AreaReading {
	v := AreaReading{Area: a, Verdict: Unsure}
	stages := s.Areas[a].Stages
	if len(stages) > 0 {
		v.WasPlans = stages[len(stages)-1].mid()
	}
	var sum pigment.Lab
	weight, unsure, seen := 0.0, 0, 0
	for k := range s.Cells {
		c := &cells[k]
		if s.Cells[k].Area != a || c.Places < leastPlaces {
			continue
		}
		seen++
		switch c.Verdict {
		case Forgotten:
			v.Missing = append(v.Missing, c.ID)
			continue
		case Unsure:
			unsure++
		}
		w := float64(c.Places)
		sum.L, sum.A, sum.B, weight = sum.L+w*c.Colour.L, sum.A+w*c.Colour.A, sum.B+w*c.Colour.B, weight+w
	}
	if len(stages) < 2 || seen == 0 {
		return v
	}
	if weight == 0 {
		v.Verdict, v.Sure, v.Colour = Forgotten, true, s.Paper.Lab()
		v.Off = pigment.Difference(v.WasPlans, v.Colour)
		return v
	}
	v.Colour = pigment.Lab{L: sum.L / weight, A: sum.A / weight, B: sum.B / weight}
	last := stages[len(stages)-1]
	v.Off = s.distance(v.Colour, last)
	v.Leans = pigment.Leaning(last.mid(), v.Colour)
	v.Sure = unsure == 0
	v.Verdict = s.stageOf(stages, &v)
	return v
}

// film is what was read of an area where it lies over or under others.
type film struct {
	all  [][3]float64
	plan pigment.Lab
}

// lying gathers the places of cells on which several areas lie by the one that is uppermost.
func (s *squared) lying() map[int]*film {
	out := map[int]*film{}
	for i, in := range s.inside {
		if !in || s.Cells[s.cell[i]-1].Area != Mixed {
			continue
		}
		a, colour := s.SeenAt(s.at(i))
		if a < 0 {
			continue
		}
		f := out[a]
		if f == nil {
			f = &film{}
			out[a] = f
		}
		n := float64(len(f.all))
		f.plan = pigment.Lab{L: (f.plan.L*n + colour.L) / (n + 1), A: (f.plan.A*n + colour.A) / (n + 1), B: (f.plan.B*n + colour.B) / (n + 1)}
		f.all = append(f.all, s.colour[i])
	}
	return out
}

// film judges an area that lies over others by its colour there, on the whole.
func (s *squared) film(a int, f *film) AreaReading {
	v := AreaReading{Area: a, WasPlans: f.plan, Colour: trimmed(f.all), Verdict: AsPlanned}
	v.Off = pigment.Difference(f.plan, v.Colour)
	v.Leans = pigment.Leaning(f.plan, v.Colour)
	switch {
	case v.Off < 1.3*asPlanned:
	case v.Colour.L > f.plan.L+asPlanned:
		v.Verdict = Paler
	case v.Colour.L < f.plan.L-asPlanned:
		v.Verdict = Darker
	default:
		v.Verdict = Other
	}
	return v
}

// distance is how far a colour is from a stage, wherever in it: a colour that runs may be
// anything from its densest to its thinnest on the whole of an area.
func (s *squared) distance(c pigment.Lab, at Stage) float64 {
	// On the whole of an area it lies near the middle; a quarter of the way is free.
	best := math.Inf(1)
	for _, t := range []float64{0.3, 0.4, 0.5, 0.6, 0.7} {
		mix := pigment.Lab{L: at.Dense.L + t*(at.Thin.L-at.Dense.L), A: at.Dense.A + t*(at.Thin.A-at.Dense.A), B: at.Dense.B + t*(at.Thin.B-at.Dense.B)}
		best = min(best, pigment.Difference(mix, c))
	}
	return best
}

// stageOf judges an area by which of its stages its colour is nearest to.
func (s *squared) stageOf(stages []Stage, v *AreaReading) Verdict {
	n := len(stages) - 1
	before := stages[n-1]
	if n > 1 {
		apart := pigment.Difference(before.mid(), stages[n].mid())
		d := s.distance(v.Colour, before)
		switch {
		case apart < tellApart && v.Off < asPlanned:
			v.Sure = v.Sure && apart >= tellApart
			return AsPlanned
		case d < clearly*v.Off && v.Off > tellApart/2:
			return Short
		}
	}
	switch {
	case v.Off < asPlanned:
		return AsPlanned
	case v.Colour.L > stages[n].mid().L+asPlanned/2:
		return Paler
	case v.Colour.L < stages[n].mid().L-asPlanned/2:
		return Darker
	}
	return Other
}

// over marks colour that lies beyond its line: in a cell that is bare on the whole, or of
// another colour, near a line across which that colour belongs.
func (s *squared) over(r *Reading) {
	grid := make([]int, len(s.cell)) // the cell a place's colour comes from, from 1
	reach := int(overReach * readPerMM)
	paper := s.Paper.Lab()
	for i, in := range s.inside {
		if !in {
			continue
		}
		own := s.cell[i]
		c := r.Cells[own-1]
		if s.Cells[own-1].Area != -1 || c.Places < leastPlaces {
			continue
		}
		lab := pigment.RGB(s.colour[i]).Clip().Lab()
		if pigment.Difference(lab, paper) < overFrom {
			continue
		}
		if from := s.neighbour(i, own, reach, lab, r); from > 0 {
			grid[i] = from
		}
	}
	for _, g := range pieces(grid, s.w, s.h) {
		mm2 := float64(len(g)) / (readPerMM * readPerMM)
		if mm2 < leastOver {
			continue
		}
		r.Marks = append(r.Marks, Mark{OverLine, s.middle(g), mm2, s.cell[g[0]], grid[g[0]]})
	}
}

// neighbour is the painted cell within reach whose colour a place has, 0 for none.
func (s *squared) neighbour(i, own, reach int, lab pigment.Lab, r *Reading) int {
	x, y := i%s.w, i/s.w
	best, from := overFrom, 0
	for _, d := range [8][2]int{{1, 0}, {-1, 0}, {0, 1}, {0, -1}, {1, 1}, {-1, 1}, {1, -1}, {-1, -1}} {
		for k := 2; k <= reach; k += 2 {
			xx, yy := x+k*d[0], y+k*d[1]
			if xx < 0 || yy < 0 || xx >= s.w || yy >= s.h {
				break
			}
			o := s.cell[yy*s.w+xx]
			if o == 0 || o == own {
				continue
			}
			if s.Cells[o-1].Area >= 0 && r.Cells[o-1].Places >= leastPlaces {
				if diff := pigment.Difference(lab, r.Cells[o-1].Colour); diff < 1.6*best && (from == 0 || diff < best) {
					best, from = diff, o
				}
			}
			break
		}
	}
	return from
}

// blooms marks places in evenly painted cells that are much lighter or darker than all round
// them.
func (s *squared) blooms(r *Reading) {
	const wide = 18 // places of the grid: 3.6 mm
	grid := make([]int, len(s.cell))
	light := make([]float64, len(s.cell))
	for i := range s.cell {
		light[i] = pigment.RGB(s.colour[i]).Clip().Lab().L
	}
	for i, in := range s.inside {
		if !in {
			continue
		}
		own := s.cell[i]
		c := &s.Cells[own-1]
		if c.Area < 0 || !s.Areas[c.Area].Even || r.Cells[own-1].Verdict == Forgotten || c.MM2 < 4*leastBloom {
			continue
		}
		x, y := i%s.w, i/s.w
		var round []float64
		for _, d := range [12][2]int{{1, 0}, {-1, 0}, {0, 1}, {0, -1}, {1, 1}, {-1, 1}, {1, -1}, {-1, -1}, {2, 0}, {-2, 0}, {0, 2}, {0, -2}} {
			xx, yy := x+d[0]*wide, y+d[1]*wide
			if xx >= 0 && yy >= 0 && xx < s.w && yy < s.h && s.inside[yy*s.w+xx] && s.cell[yy*s.w+xx] == own {
				round = append(round, light[yy*s.w+xx])
			}
		}
		if len(round) < 4 {
			continue
		}
		slices.Sort(round)
		if d := light[i] - round[len(round)/2]; math.Abs(d) > bloomFrom {
			grid[i] = own
		}
	}
	for _, g := range pieces(grid, s.w, s.h) {
		if mm2 := float64(len(g)) / (readPerMM * readPerMM); mm2 >= leastBloom {
			r.Marks = append(r.Marks, Mark{Bloom, s.middle(g), mm2, s.cell[g[0]], 0})
		}
	}
}

// pieces are the connected places of a grid that have the same number, but for 0.
func pieces(grid []int, w, h int) (out [][]int) {
	seen := make([]bool, len(grid))
	for start, v := range grid {
		if v == 0 || seen[start] {
			continue
		}
		piece := []int{start}
		seen[start] = true
		for k := 0; k < len(piece); k++ {
			i := piece[k]
			x := i % w
			for _, j := range [4]int{i - 1, i + 1, i - w, i + w} {
				if j >= 0 && j < len(grid) && !(j == i-1 && x == 0) && !(j == i+1 && x == w-1) && grid[j] == v && !seen[j] {
					seen[j] = true
					piece = append(piece, j)
				}
			}
		}
		out = append(out, piece)
	}
	return out
}

func (s *squared) middle(piece []int) (at lineart.Point) {
	for _, i := range piece {
		p := s.at(i)
		at.X, at.Y = at.X+p.X/float64(len(piece)), at.Y+p.Y/float64(len(piece))
	}
	return at
}
