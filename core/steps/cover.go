package steps

import (
	"math"
	"time"

	"chromaqua/core/panel"
	"chromaqua/core/shelf"
)

// BrushFor returns the largest brush that suits an area's smallest cell: a
// point at most half and a belly at most twice the radius that fits it. The
// smallest brush serves where none does.
func BrushFor(a *panel.Area) shelf.Brush {
	all := shelf.Brushes()
	best := all[0]
	for _, b := range all {
		if b.Point <= a.InscribedMM/2 && b.Belly <= 2*a.InscribedMM && b.Belly >= best.Belly {
			best = b
		}
	}
	return best
}

// CoverTime estimates how long it takes to cover an area with a brush: cutting
// in along its edge, filling it, and reloading. ml is the water it takes.
func CoverTime(a *panel.Area, b shelf.Brush, ml float64) time.Duration {
	const (
		cutIn  = 12.0 // mm/s along smooth contours
		sweep  = 40.0 // mm/s of the brush in the middle
		useful = 0.6  // share of the belly that covers new ground
		reload = 3.0  // s
		settle = 2.0  // s to find the next cell
	)
	s := a.EdgeMM/cutIn + a.MM2/(b.Belly*sweep*useful) + reload*math.Ceil(ml/b.CapacityML) + settle*float64(len(a.Cells))
	return time.Duration(s * float64(time.Second))
}
