package shading

import (
	"math"

	"chromaqua/core/lineart"
)

// A mark is ink inside a cell that is none of its outline: a stroke, a dot, a spur.
type mark struct {
	cell   int
	at     vec // its middle
	way    vec // along it
	long   float64
	wide   float64
	mm2    float64
	rooted bool // it grows out of the outline
}

// dot reports whether a mark is no longer than wide, about.
func (k *mark) dot(line float64) bool { return k.long < 1.6*line+0.35 }

// findMarks finds the ink that lies farther from every border than the line is thick there.
func (m *Map) findMarks(white []uint16) {
	border, paper := make([]bool, len(white)), make([]bool, len(white))
	for i := range white {
		x, y := i%m.w, i/m.w
		border[i] = x+1 < m.w && m.labels[i] != m.labels[i+1] || y+1 < m.h && m.labels[i] != m.labels[i+m.w]
		paper[i] = white[i] != 0
	}
	d2, near := lineart.Nearest(m.w, m.h, border)
	thick2, _ := lineart.Nearest(m.w, m.h, paper)
	clear := (m.line/2 + 0.22) / m.mm
	in := make([]bool, len(white))
	for i := range white {
		if paper[i] || m.labels[i] == 0 || near[i] < 0 || float64(d2[i]) <= clear*clear {
			continue
		}
		local := math.Sqrt(float64(thick2[near[i]])) + 0.25/m.mm // the line is as thick as at the nearest border
		in[i] = float64(d2[i]) > local*local
	}
	seen := make([]bool, len(in))
	var pixels []int32
	for s, on := range in {
		if !on || seen[s] {
			continue
		}
		pixels = append(pixels[:0], int32(s))
		seen[s] = true
		touch := math.Inf(1)
		for k := 0; k < len(pixels); k++ {
			x, y := int(pixels[k])%m.w, int(pixels[k])/m.w
			touch = min(touch, float64(d2[pixels[k]]))
			for yy := max(0, y-1); yy <= min(m.h-1, y+1); yy++ {
				for xx := max(0, x-1); xx <= min(m.w-1, x+1); xx++ {
					if q := yy*m.w + xx; in[q] && !seen[q] {
						seen[q] = true
						pixels = append(pixels, int32(q))
					}
				}
			}
		}
		if k := m.measured(pixels); k.mm2 >= 0.04 {
			k.cell = int(m.labels[s])
			k.rooted = touch < (clear+1.6)*(clear+1.6)
			m.marks = append(m.marks, k)
		}
	}
}

// measured is a mark by its pixels.
func (m *Map) measured(pixels []int32) (k mark) {
	var sx, sy, xx, yy, xy float64
	for _, p := range pixels {
		x, y := float64(int(p)%m.w)+0.5, float64(int(p)/m.w)+0.5
		sx, sy, xx, yy, xy = sx+x, sy+y, xx+x*x, yy+y*y, xy+x*y
	}
	n := float64(len(pixels))
	cx, cy := sx/n, sy/n
	a, b, c := xx/n-cx*cx, yy/n-cy*cy, xy/n-cx*cy
	sin, cos := math.Sincos(0.5 * math.Atan2(2*c, a-b))
	k.at, k.way, k.mm2 = vec{X: cx * m.mm, Y: cy * m.mm}, vec{X: cos, Y: sin}, n*m.mm*m.mm
	k.long = max(math.Sqrt(12*((a+b)/2+math.Hypot((a-b)/2, c)))*m.mm, 0.9*k.mm2/max(m.line, 0.2))
	k.wide = k.mm2 / max(k.long, 0.1)
	return k
}
