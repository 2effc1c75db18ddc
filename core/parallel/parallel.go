// Package parallel shares work out among the processors.
package parallel

import (
	"runtime"
	"sync"
	"sync/atomic"
)

// Each calls f for 0…n-1, shared out among the processors, and waits.
func Each(n int, f func(i int)) {
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

// Rows calls f on bands that cover rows 0…h-1, and waits.
func Rows(h int, f func(y0, y1 int)) {
	n := min(32, max(1, h/16))
	Each(n, func(i int) { f(h*i/n, h*(i+1)/n) })
}
