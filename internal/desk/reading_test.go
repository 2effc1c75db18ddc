package desk

import (
	"context"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/internal/store"
)

// A fault of the program that one picture brings about is told as a failed reading; the
// next picture is read.
func TestAFaultIsAFailedReading(t *testing.T) {
	s, err := store.Open(context.Background(), filepath.Join(t.TempDir(), "studio.db"))
	require.NoError(t, err)
	defer s.Close()
	d := New(s)
	defer d.Close()
	read := 0
	d.readings.reader = func(context.Context, *card.Card, *Reading) error {
		if read++; read == 1 {
			panic("index out of range")
		}
		return nil
	}
	for i, want := range []string{"brought the program to a fault", ""} {
		c := card.New("x", length.Millimetres)
		_, err := c.Lay(card.Scan{Image: string(rune('a' + i)), Title: "x", WidthPX: 100, HeightPX: 100, Width: 20 * length.Millimetre}, "")
		require.NoError(t, err)
		r := d.readings.of(c, true)
		require.True(t, r.Finished(10*time.Second))
		if want == "" {
			assert.NoError(t, r.Err)
		} else {
			assert.ErrorContains(t, r.Err, want)
		}
	}
}
