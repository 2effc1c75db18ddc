package lineart

import (
	"runtime"
	"sync"
	"sync/atomic"
)

// parallel calls f for 0…n-1, shared out among the processors, and waits.
func parallel(n int, f func(i int)) {
	var wg sync.WaitGroup
	var next atomic.Int64
	for range min(runtime.GOMAXPROCS(0), n) {
		wg.Go(func() {
			for i := int(next.Add(1)) - 1; i < n; i = int(next.Add(1)) - 1 {
				f(i)
			}
		})
	}
	wg.Wait()
}

// bands is how many bands rows are cut into: a few for each processor, since
// some take longer than others.
func bands(h int) int { return min(4*runtime.GOMAXPROCS(0), max(1, h/32)) }

// parallelBands calls f on consecutive bands that cover rows 0…h-1, numbered from
// 0 to bands(h)-1, and waits for all of them.
func parallelBands(h int, f func(band, y0, y1 int)) {
	n := bands(h)
	parallel(n, func(i int) { f(i, h*i/n, h*(i+1)/n) })
}

// parallelRows is parallelBands for what need not know its band.
func parallelRows(h int, f func(y0, y1 int)) {
	parallelBands(h, func(_, y0, y1 int) { f(y0, y1) })
}
