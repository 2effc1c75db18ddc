package panel_test

import (
	"image"
	"image/color"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/shelf"
)

// Cells that look alike are one group, largest first; what belongs to an area is in none.
func TestGroups(t *testing.T) {
	c, s := paneltest.Card(t, 3, 2)
	b := panel.Resolve(c, s)
	groups := b.Groups()
	require.Len(t, groups, 2, "the squares, and what is round them")
	assert.ElementsMatch(t, [][]int{{1}, {2, 3, 4, 5, 6, 7}}, groups)
	paneltest.Area(t, c, s, "one", [][2]int{{0, 0}, {1, 0}})
	groups = panel.Resolve(c, s).Groups()
	assert.ElementsMatch(t, []int{1, 4}, []int{len(groups[0]), len(groups[1])})
}

// drawn is a scan of 60 mm on a card, and its cells.
func drawn(t *testing.T, scan *image.Gray) (*panel.Sheet, *panel.Board) {
	c := card.New("drawn", length.Millimetres)
	const hash = "0123456789abcdef0123456789abcdef0123456789abcdef0123456789abcdef"
	_, err := c.Lay(card.Scan{Image: hash, Title: "Drawn", WidthPX: scan.Rect.Dx(), HeightPX: scan.Rect.Dy(), Width: 60 * length.Millimetre}, shelf.LineImage)
	require.NoError(t, err)
	s, err := panel.Read(t.Context(), c, panel.Scans{hash: scan}, nil)
	require.NoError(t, err)
	return s, panel.Resolve(c, s)
}

// flower is a scan of petals, of very different lengths, round an eye.
func flower() *image.Gray {
	m := image.NewGray(image.Rect(0, 0, 600, 600))
	reach := []float64{120, 200, 130, 210, 125, 190}
	for y := range 600 {
		for x := range 600 {
			dx, dy := float64(x)-300, float64(y)-300
			r, turn := math.Hypot(dx, dy), math.Mod(math.Atan2(dy, dx)+2*math.Pi, 2*math.Pi)/(math.Pi/3)
			n := int(turn) % 6
			edge := 55 + reach[n]
			line := math.Abs(r-50) < 3 || r > 50 && r < edge && math.Abs(turn-math.Round(turn))*r*math.Pi/3 < 3 || r > 50 && math.Abs(r-edge) < 3
			if next := 55 + reach[(n+5)%6]; turn-float64(n) < 0.02 && r < max(edge, next) && r > 50 {
				line = line || math.Abs(turn-float64(n))*r < 6
			}
			v := uint8(240)
			if line {
				v = 20
			}
			m.SetGray(x, y, color.Gray{Y: v})
		}
	}
	return m
}

// Petals round one eye are a pattern though some are a third larger than others.
func TestGroupsKnowPatterns(t *testing.T) {
	s, b := drawn(t, flower())
	var petals, largest []int
	for _, cell := range s.Cells {
		if !cell.Outside && cell.AreaMM2 > 100 {
			petals = append(petals, cell.ID)
		}
	}
	require.Len(t, petals, 6)
	for _, g := range b.Groups() {
		if !s.Cells[g[0]-1].Outside && len(g) > len(largest) {
			largest = g
		}
	}
	assert.ElementsMatch(t, petals, largest)
	assert.Less(t, len(b.Similar(petals[0])), 6, "by size and shape alone they are not one")
}

// Two shapes of which one is half as large are not alike, unless they stand round one eye.
func TestGroupsKeepShapesApart(t *testing.T) {
	m := image.NewGray(image.Rect(0, 0, 600, 400))
	for i := range m.Pix {
		m.Pix[i] = 245
	}
	for _, r := range []image.Rectangle{image.Rect(40, 40, 290, 290), image.Rect(320, 40, 570, 165)} {
		for y := r.Min.Y; y < r.Max.Y; y++ {
			for x := r.Min.X; x < r.Max.X; x++ {
				if x < r.Min.X+5 || x >= r.Max.X-5 || y < r.Min.Y+5 || y >= r.Max.Y-5 {
					m.SetGray(x, y, color.Gray{Y: 20})
				}
			}
		}
	}
	_, b := drawn(t, m)
	assert.Len(t, b.Groups(), 3)
}

// Who holds a cell is known, and that nobody does.
func TestHolders(t *testing.T) {
	c, s := paneltest.Card(t, 3, 1)
	paneltest.Area(t, c, s, "Left", [][2]int{{0, 0}})
	paneltest.Area(t, c, s, "Right", [][2]int{{2, 0}})
	b := panel.Resolve(c, s)
	held := map[string]int{}
	for id := -1; id <= len(b.Cells)+1; id++ {
		if a := b.HolderOf(id); a != nil {
			held[a.Name] = id
			assert.Equal(t, a.ID, c.Areas[map[string]int{"Left": 0, "Right": 1}[a.Name]].ID)
		}
	}
	assert.Len(t, held, 2)
	assert.NotEqual(t, held["Left"], held["Right"])
	last := len(b.Cells)
	require.NoError(t, b.Assign("a2", []int{last}))
	assert.Equal(t, "Right", panel.Resolve(c, s).HolderOf(last).Name)
}
