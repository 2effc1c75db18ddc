package panel_test

import (
	"context"
	"image"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/lineart"
	"chromaqua/core/panel"
)

// FuzzRead lays pictures of any shape and pattern anywhere on a panel, with marks of the
// pen on them: what cells there are lie on the panel and add up to no more than it.
func FuzzRead(f *testing.F) {
	f.Add([]byte{40, 40, 255, 0, 255}, 10.0, 10.0, 30.0, 0.0, 5.0, 5.0)
	f.Add([]byte{200, 9, 0, 255}, -20.0, 100.0, 200.0, 45.0, -1.0, 300.0)
	f.Add([]byte{16, 16, 128}, 0.0, 0.0, 1.0, 180.0, 0.0, 0.0)
	f.Add([]byte{90, 120, 255, 255, 255, 0, 255, 255}, 5.0, 5.0, 80.0, -30.0, 40.0, 60.0)
	f.Fuzz(func(t *testing.T, data []byte, x, y, width, turn, penX, penY float64) {
		for _, v := range []float64{x, y, width, turn, penX, penY} {
			if !(math.Abs(v) < 2000) {
				return
			}
		}
		if len(data) < 3 {
			return
		}
		scan := image.NewGray(image.Rect(0, 0, 16+int(data[0]), 16+int(data[1])))
		for i := range scan.Pix {
			scan.Pix[i] = data[2+(i/7+i/scan.Stride/5)%(len(data)-2)]
		}
		hash := strings.Repeat("ab", 32)
		c := card.New("fuzzed", length.Millimetres)
		_, err := c.Lay(card.Scan{Image: hash, Title: "x", WidthPX: scan.Rect.Dx(), HeightPX: scan.Rect.Dy(), Width: length.FromMM(math.Abs(width))}, "")
		if err != nil {
			return
		}
		c.Line().X, c.Line().Y, c.Line().Turn = length.FromMM(x), length.FromMM(y), turn
		panel.Mark(c.Line(), card.Pen, []lineart.Point{{X: penX, Y: penY}, {X: penX + 9, Y: penY + 4}})
		if c.Check() != nil {
			return
		}
		s, err := panel.Read(context.Background(), c, panel.Scans{hash: scan}, nil)
		if err != nil {
			assert.NotEmpty(t, err.Error())
			return
		}
		size := c.PanelSize()
		sum := 0.0
		for _, cell := range s.Cells {
			require.Positive(t, cell.AreaMM2)
			assert.True(t, cell.Label.X >= 0 && cell.Label.X <= size.W.MM() && cell.Label.Y >= 0 && cell.Label.Y <= size.H.MM(), "%+v", cell.Label)
			assert.Equal(t, cell.ID, s.At(cell.Label), "it is found where it is labelled")
			sum += cell.AreaMM2
		}
		assert.LessOrEqual(t, sum, size.W.MM()*size.H.MM()*1.001)
	})
}
