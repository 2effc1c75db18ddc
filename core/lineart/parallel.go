package lineart

import (
	"runtime"
	"sync"
)

// parallel calls f for 0…n-1, shared out among the processors, and waits.
func parallel(n int, f func(i int)) {
	procs := min(runtime.GOMAXPROCS(0), n)
	var wg sync.WaitGroup
	for p := range procs {
		wg.Go(func() {
			for i := n * p / procs; i < n*(p+1)/procs; i++ {
				f(i)
			}
		})
	}
	wg.Wait()
}

// bands is how many bands rows are cut into, at most one per processor.
func bands(h int) int { return min(runtime.GOMAXPROCS(0), max(1, h/32)) }

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
