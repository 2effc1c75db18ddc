package paint_test

import (
	"context"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/paint"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/pigment"
	"chromaqua/core/technique"
	"chromaqua/core/wash"
)

// The dark of a cell goes where the maker drags it, and the paint follows; without it, paint
// is pulled out of the usual corner.
func TestPaintFollowsTheShadow(t *testing.T) {
	c, s := paneltest.Card(t, 2, 1)
	paneltest.Area(t, c, s, "Sea", [][2]int{{0, 0}}, of(technique.PullOut, "PB29", pigment.Milk))
	board := panel.Resolve(c, s)
	id := paneltest.CellAt(t, c, s, 0, 0)
	cell := board.Cells[id-1]
	require.Contains(t, paint.Shadows(board), id)
	for _, at := range [][2]float64{{-7, 0}, {7, 0}, {0, -7}} {
		spot := board.SpotOf(id)
		p := cell.Label
		p.X, p.Y = p.X+at[0], p.Y+at[1]
		c.Shadows.Darks = []card.Dark{{Cell: spot, Kind: card.Moved, At: board.UVOn(spot.On, p)}}
		require.NoError(t, c.Check())
		got := paint.Shadows(panel.Resolve(c, s))[id]
		assert.True(t, got.Taken)
		assert.InDelta(t, p.X, got.Dark.X, 0.1)
		plan, order := planned(t, func(other *card.Card) { other.Shadows = c.Shadows }, c.Areas[0].Washes...)
		q := paint.Of(plan, order, 0, 0, wash.UsualHand())
		m, err := q.Play(context.Background(), wash.Dry, nil)
		require.NoError(t, err)
		img, err := paint.Draw(context.Background(), plan.Pieces[0].Board, m.Picture(), paint.Shot{DPI: 100})
		require.NoError(t, err)
		light := func(x, y float64) float64 {
			r := img.RGBAAt(int((cell.Label.X+x)/0.254), int((cell.Label.Y+y)/0.254))
			return float64(r.R) + float64(r.G)
		}
		near, far := 0.0, 0.0
		for k := range 9 {
			dx, dy := float64(k%3-1), float64(k/3-1)
			near += light(at[0]+dx, at[1]+dy)
			far += light(-at[0]+dx, -at[1]+dy)
		}
		assert.Less(t, near+300, far, "dark at %v", at)
	}
	c.Shadows.Darks[0].Kind = card.NoDark
	assert.False(t, paint.Shadows(panel.Resolve(c, s))[id].Taken)
	c.Shadows = card.Shadows{Sun: "right"}
	a := paint.Shadows(panel.Resolve(c, s))[id]
	c.Shadows = card.Shadows{Sun: "left"}
	b := paint.Shadows(panel.Resolve(c, s))[id]
	assert.Greater(t, math.Hypot(a.Dark.X-b.Dark.X, a.Dark.Y-b.Dark.Y), 2.0, "the light turns what only it tells")
}
