package photo

import (
	"image"
	"image/color"
	"math"

	"chromaqua/core/lineart"
	"chromaqua/core/pigment"
	"chromaqua/core/proof"
)

// squared is the panel in a photo, upright: its colours on a grid, and the cell each place of
// the grid is in.
type squared struct {
	*Plan
	w, h   int
	colour [][3]float64
	cell   []int  // its number from 1, 0 on the line
	inside []bool // well within its cell, away from line and border
	seen   []bool // it lies in the photo
}

// insideMM is how far from a line a place has to be to be of its cell's colour: cameras and
// sharpening smear the line.
const insideMM = 0.45

func square(w *work, to proof.Projection, p *Plan) *squared {
	s := &squared{Plan: p, w: int(p.W * readPerMM), h: int(p.H * readPerMM)}
	n := s.w * s.h
	s.colour, s.cell, s.inside, s.seen = make([][3]float64, n), make([]int, n), make([]bool, n), make([]bool, n)
	clear := make([]bool, n)
	for y := range s.h {
		for x := range s.w {
			i, q := y*s.w+x, s.at(y*s.w+x)
			s.colour[i], s.seen[i] = w.at(to.Apply(q))
			s.cell[i] = p.CellAt(q)
			clear[i] = s.cell[i] > 0 && p.InkAt(q) > lightLine
		}
	}
	r := int(math.Ceil(insideMM * readPerMM))
	for y := range s.h {
		for x := range s.w {
			s.inside[y*s.w+x] = s.within(x, y, r, clear)
		}
	}
	return s
}

// lightLine is the level above which a place of the line's picture is bare.
const lightLine = 200

// within reports whether all round a place is its own cell.
func (s *squared) within(x, y, r int, clear []bool) bool {
	i := y*s.w + x
	if !clear[i] || !s.seen[i] {
		return false
	}
	for _, d := range [8][2]int{{r, 0}, {-r, 0}, {0, r}, {0, -r}, {r * 7 / 10, r * 7 / 10}, {-r * 7 / 10, r * 7 / 10}, {r * 7 / 10, -r * 7 / 10}, {-r * 7 / 10, -r * 7 / 10}} {
		xx, yy := x+d[0], y+d[1]
		if xx < 0 || yy < 0 || xx >= s.w || yy >= s.h || s.cell[yy*s.w+xx] != s.cell[i] || !clear[yy*s.w+xx] {
			return false
		}
	}
	return true
}

// at is the place of a number of the grid, mm.
func (s *squared) at(i int) lineart.Point {
	return lineart.Point{X: (float64(i%s.w) + 0.5) / readPerMM, Y: (float64(i/s.w) + 0.5) / readPerMM}
}

// How the light is found.
const (
	anchors   = 5000 // places it is fitted to
	paintedBy = 0.08 // what a painted place counts of a bare one
	runsBy    = 0.3  // what one counts whose colour runs
	leastBare = 0.03 // of the panel, that has to be bare for the light to be sure
	evenOff   = 0.06 // of the logarithm, by which a place may be off before it counts less
)

// even divides the light out: bare paper becomes what the plan's paper is. Where little is
// bare, painted cells help, each counting little: most are as planned.
func (s *squared) even(r *Reading) error {
	var at []int
	var base []float64
	var want [][3]float64
	bare, total := 0, 0
	step := max(1, s.w*s.h/(8*anchors))
	for i := 0; i < len(s.inside); i += step {
		if !s.inside[i] {
			continue
		}
		total++
		c := &s.Cells[s.cell[i]-1]
		switch {
		case c.Area == -1:
			bare++
			at, base, want = append(at, i), append(base, 1), append(want, s.Paper)
		default:
			colour := c.Colour
			if c.Area == Mixed {
				_, colour = s.SeenAt(s.at(i))
			}
			rgb := colour.RGB()
			at, base, want = append(at, i), append(base, paintedBy), append(want, [3]float64{max(0.01, rgb[0]), max(0.01, rgb[1]), max(0.01, rgb[2])})
		}
	}
	if len(at) < 50 {
		return ErrSmall
	}
	s.weigh(at, base)
	if float64(bare) < leastBare*float64(total) {
		r.Unsure = append(r.Unsure, "Hardly any paper is bare to even the light by: colours are judged against each other, and a panel that is too pale all over would not be noticed.")
	}
	ratio := make([][3]float64, len(at)) // logarithms
	for k, i := range at {
		for c := range 3 {
			ratio[k][c] = math.Log(max(1e-4, s.colour[i][c]) / want[k][c])
		}
	}
	var field [3]light
	weights := append([]float64{}, base...)
	for round := range 8 {
		for c := range 3 {
			field[c] = quadratic(at, weights, s.w, s.h, func(k int) float64 { return ratio[k][c] })
		}
		for k, i := range at {
			off := 0.0
			for c := range 3 {
				d := ratio[k][c] - field[c].at(i, s.w, s.h)
				off += d * d
			}
			patience := evenOff * evenOff * math.Pow(4, float64(max(0, 4-round)))
			weights[k] = base[k] / (1 + off/patience) / (1 + off/patience)
		}
	}
	least, most := math.Inf(1), 0.0
	for _, i := range at {
		lit := 0.0
		for c := range 3 {
			lit += math.Exp(field[c].at(i, s.w, s.h)) / 3
		}
		least, most = min(least, lit), max(most, lit)
	}
	for i := range s.colour {
		for c := range 3 {
			s.colour[i][c] /= math.Exp(field[c].at(i, s.w, s.h))
		}
	}
	if r.Lit = most / least; least < darkest {
		return ErrDark
	}
	return nil
}

// weigh lets painted areas count alike, however large they are: most of them are as planned,
// while the largest may not be. What runs, or lies over other areas, counts less, since its
// colour at one place is not the one on the whole.
func (s *squared) weigh(at []int, base []float64) {
	of := func(i int) int { return s.Cells[s.cell[i]-1].Area }
	count := map[int]float64{}
	for _, i := range at {
		count[of(i)]++
	}
	for k, i := range at {
		a := of(i)
		if a == -1 {
			continue
		}
		base[k] *= float64(len(at)) / float64(len(count)) / count[a]
		if a == Mixed || !s.Areas[a].Even {
			base[k] *= runsBy
		}
	}
}

// picture is the panel, upright and evened.
func (s *squared) picture() *image.RGBA {
	out := image.NewRGBA(image.Rect(0, 0, s.w, s.h))
	for i, c := range s.colour {
		e := pigment.RGB(c).Clip().Encoded()
		out.SetRGBA(i%s.w, i/s.w, color.RGBA{uint8(255*e[0] + 0.5), uint8(255*e[1] + 0.5), uint8(255*e[2] + 0.5), 255})
	}
	return out
}
