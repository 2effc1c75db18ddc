package lineart

import "math"

// Limits for closing a passage, by how many of its banks are broken line ends.
var closeBelowMM = [3]float64{0.20, 0.90, 1.15}

const (
	stubScore  = 1.2  // projection over spread that makes a bank a stub
	stubMeanMM = 0.25 // and its least mean projection
	maxGapMM   = 1.3  // how far across a passage the opposite bank is sought
)

// A verdict is what judge finds at a saddle.
type verdict struct {
	width float64 // mm between the banks
	stubs int
	banks [2]int32 // pixels of ink
	open  bool
}

// judge looks at the two banks of the passage at (x, y): the nearest ink p and
// the nearest ink q on the opposite side. A bank is a stub when its ink runs
// away from the gap, as the end of a broken line does, rather than along it.
func (f *flooding) judge(x, y int, d2 int32) verdict {
	px, py, ok := f.nearestInk(x, y, math.Sqrt(float64(d2))+1.5, func(int, int) bool { return true })
	if !ok {
		return verdict{open: true}
	}
	ax, ay := float64(px-x), float64(py-y)
	an := math.Hypot(ax, ay)
	qx, qy, ok := f.nearestInk(x, y, maxGapMM/f.mm, func(dx, dy int) bool {
		dot := ax*float64(dx) + ay*float64(dy)
		return dot < -0.4*an*math.Hypot(float64(dx), float64(dy))
	})
	if !ok {
		return verdict{open: true}
	}
	ux, uy := float64(px-qx), float64(py-qy)
	gap := math.Hypot(ux, uy)
	ux, uy = ux/gap, uy/gap
	v := verdict{width: max(0, gap-1) * f.mm, banks: [2]int32{int32(py*f.w + px), int32(qy*f.w + qx)}}
	if v.width <= closeBelowMM[2] {
		if f.stub(px, py, ux, uy) {
			v.stubs++
		}
		if f.stub(qx, qy, -ux, -uy) {
			v.stubs++
		}
	}
	v.open = v.width > closeBelowMM[v.stubs]
	return v
}

// nearestInk returns the ink pixel nearest to (x, y) within r pixels whose
// offset satisfies allowed.
func (f *flooding) nearestInk(x, y int, r float64, allowed func(dx, dy int) bool) (px, py int, ok bool) {
	best := int(r * r)
	ri := int(r)
	for dy := -ri; dy <= ri; dy++ {
		yy := y + dy
		if yy < 0 || yy >= f.h || dy*dy > best {
			continue
		}
		row := f.ink[yy*f.w : (yy+1)*f.w]
		for xx := max(0, x-ri); xx <= min(f.w-1, x+ri); xx++ {
			dx := xx - x
			if d := dx*dx + dy*dy; row[xx] && d <= best && d > 0 && allowed(dx, dy) && (d < best || !ok) {
				best, px, py, ok = d, xx, yy, true
			}
		}
	}
	return px, py, ok
}

// stub reports whether the ink connected to (px, py) nearby extends along u
// more than it spreads across u.
func (f *flooding) stub(px, py int, ux, uy float64) bool {
	r := min(3.5, max(1.3, 1.4*f.line)) / f.mm
	ri := int(r)
	side := 2*ri + 1
	seen := make([]bool, side*side)
	stack := []int32{int32(ri*side + ri)}
	seen[stack[0]] = true
	var n, along, across, across2 float64
	for len(stack) > 0 {
		i := int(stack[len(stack)-1])
		stack = stack[:len(stack)-1]
		dx, dy := i%side-ri, i/side-ri
		fx, fy := float64(dx), float64(dy)
		s := -fx*uy + fy*ux
		n++
		along += fx*ux + fy*uy
		across += s
		across2 += s * s
		for ny := max(-ri, dy-1); ny <= min(ri, dy+1); ny++ {
			for nx := max(-ri, dx-1); nx <= min(ri, dx+1); nx++ {
				j := (ny+ri)*side + nx + ri
				gx, gy := px+nx, py+ny
				if seen[j] || gx < 0 || gy < 0 || gx >= f.w || gy >= f.h || nx*nx+ny*ny > ri*ri || !f.ink[gy*f.w+gx] {
					continue
				}
				seen[j] = true
				stack = append(stack, int32(j))
			}
		}
	}
	mean := along / n * f.mm
	spread := math.Sqrt(max(0, across2/n-(across/n)*(across/n))) * f.mm
	return mean >= stubMeanMM && mean/(spread+0.02) >= stubScore
}
