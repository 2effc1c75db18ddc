package webtest

import (
	"bytes"
	"image/png"
	"sync"
	"testing"

	"github.com/stretchr/testify/require"

	"chromaqua/core/pigment"
	"chromaqua/internal/standin"
)

// strips keeps scans by habit: with the race detector one takes seconds.
var strips sync.Map

// StripPNG is a scan of a strip of an ink with a habit.
func StripPNG(t testing.TB, habit string) []byte {
	if data, ok := strips.Load(habit); ok {
		return data.([]byte)
	}
	const pxPerMM = 5
	var buf bytes.Buffer
	require.NoError(t, png.Encode(&buf, standin.Usual(3).Scan(standin.Strip(standin.Inks()[habit], pxPerMM), pxPerMM)))
	strips.Store(habit, buf.Bytes())
	return buf.Bytes()
}

// SwatchPNG is a scan of a swatch card painted with a paint like a generic one.
func SwatchPNG(t testing.TB, ci string) []byte {
	p, err := pigment.ByCI(ci)
	require.NoError(t, err)
	const pxPerMM = 5
	scan := standin.Usual(4).Scan(standin.Swatches(standin.Another(p.Paint(), 4), 0.03, 4, pxPerMM), pxPerMM)
	var buf bytes.Buffer
	require.NoError(t, png.Encode(&buf, scan))
	return buf.Bytes()
}
