package wash

import (
	"context"
	"image"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Tints that are looked up between places are those that would be found at every pixel, but
// for what no eye tells; and most of a wash is found so.
func TestCalmPlaces(t *testing.T) {
	b := newBench(t, 60, 40, func(x, y float64) uint16 {
		if math.Mod(x, 30) < 0.4 {
			return 0
		}
		return uint16(1 + int(x/30))
	})
	b.wash(1, 0, 0.5, 60, "PB29", "PV19")
	b.wash(2, 0, 0.8, 60, "PB29", "PY150")
	b.wash(2, 4000, 0.4, 38, "PY150")
	s := b.wash(1, 9000, 1, 20, "PW6")
	s.Mark = Mark{Kind: Dots, At: []Disc{{5, 5, 0.5}, {12, 20, 0.3}, {20, 31, 0.8}}}
	q := b.play(Dry).Picture()
	const dpi = 300
	size := q.Size(dpi)
	looked, err := q.Draw(context.Background(), dpi, image.Rectangle{Max: size}, View{}, nil)
	require.NoError(t, err)
	d := drawer{Picture: q, mm: 25.4 / dpi, x1: size.X}
	found := make([]uint8, len(looked.Pix))
	for y := range size.Y {
		d.row(y, found[y*looked.Stride:(y+1)*looked.Stride])
	}
	var off []int
	sum := 0
	for i, v := range found {
		by := int(looked.Pix[i]) - int(v)
		sum += by
		off = append(off, max(by, -by))
	}
	slices.Sort(off)
	assert.Less(t, math.Abs(float64(sum)/float64(len(off))), 0.2, "they are no darker or lighter")
	assert.LessOrEqual(t, off[len(off)*98/100], 2)
	assert.LessOrEqual(t, off[len(off)*999/1000], 4)
	assert.Less(t, off[len(off)-1], 24, "nothing small is missed")

	calm := 0
	d.calm = newCalm(&d)
	for y := range size.Y {
		d.calm.rowOf(&d, y)
		for range size.X {
			if _, even := d.calm.tint(texture{}); even {
				calm++
			}
		}
	}
	assert.Greater(t, calm, size.X*size.Y*6/10)
}
