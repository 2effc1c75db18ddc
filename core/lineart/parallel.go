package lineart

import (
	"runtime"
	"sync"
)

// parallelRows calls f on consecutive bands that cover rows 0…h-1, at most
// one per processor, and waits for all of them.
func parallelRows(h int, f func(y0, y1 int)) {
	n := min(runtime.GOMAXPROCS(0), max(1, h/32))
	var wg sync.WaitGroup
	for i := range n {
		wg.Go(func() { f(h*i/n, h*(i+1)/n) })
	}
	wg.Wait()
}
