package standin

import (
	"image"
	"math"
	"math/rand/v2"

	"chromaqua/core/lineart"
	"chromaqua/core/photo"
	"chromaqua/core/pigment"
	"chromaqua/core/proof"
)

// Camera is how the practice camera sees a painted panel that lies on a table.
type Camera struct {
	Seed  uint64
	Wide  int     // pixels of the photo, which is three by four
	Tilt  float64 // degrees off straight above
	Turn  float64 // degrees, clockwise
	Light float64 // how much darker the darkest side is, 0 to 0.8
	Shade float64 // how much of the light a shadow takes that falls across it, 0 for none
	Noise float64 // of the levels, standard deviation
	Blur  float64 // pixels
	Fills float64 // of the photo's shorter side, that the panel takes; 0.7 when 0
	Table [3]float64
	Grid  float64 // mm between the lines of the cutting mat it is, 0 for a plain table
	Drop  float64 // mm that its own shadow reaches beside the panel, away from the light
	Cast  float64 // by how much red and blue may be off
	Level float64 // exposure of white paper, 0.8 when 0
}

// The lines of a cutting mat: how wide, mm, and how much of the way to white.
const gridLine, gridPale = 0.8, 0.5

// dropDark is how much of the light the panel's own shadow takes.
const dropDark = 0.45

// Tables are what panels are photographed on, linear light.
func Tables() [][3]float64 {
	return [][3]float64{{0.10, 0.06, 0.035}, {0.02, 0.022, 0.025}, {0.30, 0.22, 0.13}, {0.08, 0.12, 0.16}, {0.17, 0.17, 0.16}, {0.05, 0.09, 0.05}, {0.48, 0.44, 0.36}, {0.70, 0.69, 0.67}}
}

// Slips are what went otherwise than planned when a panel was painted.
type Slips struct {
	Missing []int           // cells that were not painted
	Short   []int           // areas that lack their last wash
	Over    []lineart.Point // colour over a line
	Blooms  []lineart.Point
	Load    float64 // of paint, on the whole; 1 when 0
}

// Snapshot is a photo the practice camera took, and what is true of it.
type Snapshot struct {
	Photo   *image.RGBA
	To      proof.Projection // from the panel, mm, to the photo
	Colours []pigment.Lab    // of each cell as it was painted
}

// Slip makes up slips: so many cells in a hundred are forgotten, one area in three lacks its
// last wash when short, and here and there something runs over.
func Slip(p *photo.Plan, seed uint64, missing float64, short, over bool) (s Slips) {
	rng := rand.New(rand.NewPCG(seed, 11))
	for i := range p.Cells {
		c := &p.Cells[i]
		if c.Area >= 0 && rng.Float64() < missing {
			s.Missing = append(s.Missing, c.ID)
		}
	}
	for a := range p.Areas {
		if short && len(p.Areas[a].Stages) > 2 && rng.Float64() < 1.0/3 {
			s.Short = append(s.Short, a)
		}
	}
	for i := range p.Cells {
		c := &p.Cells[i]
		if !over || c.Area < 0 {
			continue
		}
		if q, ok := beside(p, c, rng); ok && rng.Float64() < 0.15 {
			s.Over = append(s.Over, q)
		}
		if p.Areas[c.Area].Even && c.Radius > 7 && rng.Float64() < 0.2 {
			s.Blooms = append(s.Blooms, c.At)
		}
	}
	return s
}

// beside is a place just over the line of a painted cell, in a bare one.
func beside(p *photo.Plan, c *photo.Cell, rng *rand.Rand) (lineart.Point, bool) {
	for range 12 {
		sin, cos := math.Sincos(rng.Float64() * 2 * math.Pi)
		for d := 0.0; d < 40; d += 0.25 {
			q := lineart.Point{X: c.At.X + d*cos, Y: c.At.Y + d*sin}
			id := p.CellAt(q)
			if id == c.ID || id == 0 {
				continue
			}
			in := lineart.Point{X: q.X + 1.1*cos, Y: q.Y + 1.1*sin}
			if p.CellAt(in) == id && p.Cells[id-1].Area == -1 && p.Cells[id-1].Radius > 2.5 {
				return in, true
			}
			break
		}
	}
	return lineart.Point{}, false
}

// Photograph takes a photo of a panel that was painted with slips. It is simulated, and has
// to be labelled so.
func (k Camera) Photograph(p *photo.Plan, s Slips) (*Snapshot, error) {
	rng := rand.New(rand.NewPCG(k.Seed, 7))
	w, h := k.Wide, k.Wide*3/4
	fills := k.Fills
	if fills == 0 {
		fills = 0.7
	}
	// The camera stands so far off that the panel's longer side takes so much of the photo.
	focal := 1.2 * float64(w)
	perMM := fills * float64(h) / max(p.W, p.H)
	away := focal / perMM
	panel := paint(p, s, 1.15*perMM, rng)
	sinT, cosT := math.Sincos(k.Tilt * math.Pi / 180)
	axis := rng.Float64() * 2 * math.Pi
	sinA, cosA := math.Sincos(axis)
	sinZ, cosZ := math.Sincos(k.Turn * math.Pi / 180)
	dx, dy := 0.04*float64(w)*(rng.Float64()-0.5), 0.04*float64(h)*(rng.Float64()-0.5)
	seen := func(q lineart.Point) lineart.Point {
		x, y := q.X-p.W/2, q.Y-p.H/2
		x, y = x*cosZ-y*sinZ, x*sinZ+y*cosZ
		// Tilted about an axis in the table: along it nothing changes, across it the panel
		// goes away from the camera or comes nearer.
		along, across := x*cosA+y*sinA, -x*sinA+y*cosA
		z := away + across*sinT
		across *= cosT
		x, y = along*cosA-across*sinA, along*sinA+across*cosA
		return lineart.Point{X: float64(w)/2 + dx + focal*x/z, Y: float64(h)/2 + dy + focal*y/z}
	}
	var from, to []lineart.Point
	for _, c := range []lineart.Point{{}, {X: p.W}, {X: p.W, Y: p.H}, {Y: p.H}} {
		from, to = append(from, c), append(to, seen(c))
	}
	h1, err := proof.Project(from, to, nil)
	if err != nil {
		return nil, err
	}
	back, err := h1.Inverse()
	if err != nil {
		return nil, err
	}
	return &Snapshot{k.expose(panel, back, w, h, rng), h1, panel.colours}, nil
}

// levels are what a camera makes of light, in 4096 steps.
var levels = func() (out [4096]float64) {
	for i := range out {
		out[i] = 255 * pigment.RGB{float64(i) / 4095}.Encoded()[0]
	}
	return out
}()

// expose renders what the camera sees.
func (k Camera) expose(panel *painted, back proof.Projection, w, h int, rng *rand.Rand) *image.RGBA {
	table := k.Table
	if table == ([3]float64{}) {
		all := Tables()
		table = all[rng.IntN(len(all))]
	}
	wood, fine := newField(rng, float64(w)/14), newField(rng, float64(w)/160)
	angle := rng.Float64() * 2 * math.Pi
	lx, ly := math.Cos(angle), math.Sin(angle)
	cast := [3]float64{1 + k.Cast*(2*rng.Float64()-1), 1, 1 + k.Cast*(2*rng.Float64()-1)}
	level := k.Level
	if level == 0 {
		level = 0.8
	}
	light := make([][3]float64, w*h)
	// A shadow, of whoever leans over, has an edge a few millimetres soft.
	falls := 2 * math.Pi * float64(k.Seed%97) / 97
	sx, sy := math.Cos(falls), math.Sin(falls)
	for y := range h {
		for x := range w {
			q := back.Apply(lineart.Point{X: float64(x) + 0.5, Y: float64(y) + 0.5})
			c, on := panel.see(q)
			if !on {
				v := 0.85 + 0.2*wood.smooth(x, y*5) + 0.1*fine.at(x, y)
				for i := range c {
					c[i] = table[i] * v
				}
				if k.onLine(q) {
					for i := range c {
						c[i] += (1 - c[i]) * gridPale
					}
				}
				dim := 1 - dropDark*k.under(lineart.Point{X: q.X - k.Drop*lx, Y: q.Y - k.Drop*ly}, panel.p)
				for i := range c {
					c[i] *= dim
				}
			}
			side := (lx*(float64(x)/float64(w)-0.5) + ly*(float64(y)/float64(h)-0.5)) / math.Sqrt2
			lit := level * (1 - k.Light*(0.5+side))
			if k.Shade > 0 {
				within := (sx*(float64(x)/float64(w)-0.5)+sy*(float64(y)/float64(h)-0.5))/0.03 + 0.5
				lit *= 1 - k.Shade*min(1, max(0, within))
			}
			for i := range c {
				light[y*w+x][i] = c[i] * lit * cast[i]
			}
		}
	}
	if k.Blur > 0 {
		light = blurred(light, w, h, k.Blur)
	}
	m := image.NewRGBA(image.Rect(0, 0, w, h))
	for i, c := range light {
		for n := range 3 {
			level := levels[int(4095*min(1, max(0, c[n]))+0.5)]
			m.Pix[4*i+n] = uint8(min(255, max(0, level+k.Noise*rng.NormFloat64())))
		}
		m.Pix[4*i+3] = 255
	}
	return recompressed(m, 86)
}

// onLine reports whether a place of the table, mm, lies on a line of the mat. They run along
// the panel, beside it.
func (k Camera) onLine(q lineart.Point) bool {
	if k.Grid == 0 {
		return false
	}
	across, down := math.Mod(math.Abs(q.X+0.3*k.Grid), k.Grid), math.Mod(math.Abs(q.Y+0.6*k.Grid), k.Grid)
	return min(across, down) < gridLine
}

// under is how deep in its shadow what lies under a panel is: all where its border is as far off
// as the shadow reaches.
func (k Camera) under(q lineart.Point, p *photo.Plan) float64 {
	in := min(q.X, q.Y, p.W-q.X, p.H-q.Y)
	if k.Drop == 0 || in <= 0 {
		return 0
	}
	return min(1, in/k.Drop)
}

// blurred spreads light over a disc, by two boxes each way.
func blurred(light [][3]float64, w, h int, by float64) [][3]float64 {
	r := max(1, int(by+0.5))
	for range 2 {
		for _, step := range [][2]int{{1, 0}, {0, 1}} {
			out := make([][3]float64, len(light))
			for y := range h {
				for x := range w {
					n := 0.0
					for d := -r; d <= r; d++ {
						xx, yy := x+d*step[0], y+d*step[1]
						if xx < 0 || yy < 0 || xx >= w || yy >= h {
							continue
						}
						n++
						for k := range 3 {
							out[y*w+x][k] += light[yy*w+xx][k]
						}
					}
					for k := range 3 {
						out[y*w+x][k] /= n
					}
				}
			}
			light = out
		}
	}
	return light
}
