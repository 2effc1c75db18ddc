package lineart

import (
	"runtime"

	"chromaqua/core/parallel"
)

// bands is how many bands rows are cut into: a few for each processor, since
// some take longer than others.
func bands(h int) int { return min(4*runtime.GOMAXPROCS(0), max(1, h/32)) }

// parallelBands calls f on consecutive bands that cover rows 0…h-1, numbered from
// 0 to bands(h)-1, and waits for all of them.
func parallelBands(h int, f func(band, y0, y1 int)) {
	n := bands(h)
	parallel.Each(n, func(i int) { f(i, h*i/n, h*(i+1)/n) })
}

// parallelRows is parallelBands for what need not know its band.
func parallelRows(h int, f func(y0, y1 int)) {
	parallelBands(h, func(_, y0, y1 int) { f(y0, y1) })
}
