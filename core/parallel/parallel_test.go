package parallel_test

import (
	"sync/atomic"
	"testing"

	"github.com/stretchr/testify/assert"

	"chromaqua/core/parallel"
)

func TestEveryOneOnce(t *testing.T) {
	for _, n := range []int{0, 1, 2, 15, 16, 17, 1000} {
		each, rows := make([]atomic.Int32, n), make([]atomic.Int32, n)
		parallel.Each(n, func(i int) { each[i].Add(1) })
		parallel.Rows(n, func(y0, y1 int) {
			for y := y0; y < y1; y++ {
				rows[y].Add(1)
			}
		})
		for i := range n {
			assert.Equal(t, int32(1), each[i].Load(), "%d of %d", i, n)
			assert.Equal(t, int32(1), rows[i].Load(), "row %d of %d", i, n)
		}
	}
}
