package proof_test

import (
	"image"
	"testing"

	"github.com/stretchr/testify/assert"

	"chromaqua/core/proof"
)

// pictureOf makes a picture of any shape out of bytes: the first two say how large, the
// others repeat over it.
func pictureOf(data []byte) *image.RGBA {
	if len(data) < 3 {
		return image.NewRGBA(image.Rect(0, 0, 16, 16))
	}
	w, h := 16+int(data[0])*8, 16+int(data[1])*8
	m := image.NewRGBA(image.Rect(0, 0, w, h))
	for i := range m.Pix {
		m.Pix[i] = data[2+i/4*7/64%(len(data)-2)]
		if i%4 == 3 {
			m.Pix[i] = 255
		}
	}
	return m
}

// FuzzScans reads strips and swatch cards out of pictures that are none: they are refused,
// or tell figures that can be.
func FuzzScans(f *testing.F) {
	f.Add([]byte{255, 0, 0})
	f.Add([]byte{0, 255, 255})
	f.Add([]byte{60, 90, 0, 255, 255, 0, 128})
	f.Fuzz(func(t *testing.T, data []byte) {
		m := pictureOf(data)
		if r, err := proof.ReadStrip(m); err == nil {
			assert.False(t, r.BleedMM < 0 || r.BleedMM != r.BleedMM)
		}
		if all, err := proof.ReadSwatches(m); err == nil {
			assert.NotEmpty(t, all)
		}
	})
}

// Pictures of all shapes are refused as no strip, down to a single row.
func TestPicturesThatAreNoStrip(t *testing.T) {
	for _, size := range []image.Point{{2_000_000, 16}, {16, 500_000}, {16, 16}, {17, 4000}, {4000, 17}, {3000, 100}} {
		m := image.NewGray(image.Rectangle{Max: size})
		_, err := proof.ReadStrip(m)
		assert.Error(t, err, size)
		_, err = proof.ReadSwatches(m)
		assert.Error(t, err, size)
	}
}
