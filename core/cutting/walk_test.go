package cutting_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"chromaqua/core/cutting"
)

// Two cuts by hand: what lies beyond a cut begins a blade's width after it.
func TestStepsByHand(t *testing.T) {
	in := &cutting.Instance{Kerf: 2, Stock: []cutting.Stock{{ID: "s", W: 100, H: 60}}}
	p := &cutting.Plan{Sheets: []cutting.Sheet{{Stock: "s"}}, Cuts: []cutting.Cut{
		{Piece: "S0", Axis: cutting.X, At: 30, Out: [2]string{"a", "b"}},
		{Piece: "b", Axis: cutting.Y, At: 20, Out: [2]string{"c", "d"}},
		{Piece: "d", Axis: cutting.X, At: 10, Out: [2]string{"e", "f"}},
	}}
	got, err := p.Steps(in)
	require.NoError(t, err)
	require.Len(t, got, 3)
	for i, want := range []struct {
		from cutting.Rect
		line cutting.Line
	}{
		{cutting.Rect{W: 100, H: 60}, cutting.Line{X1: 30, X2: 30, Y2: 60}},
		{cutting.Rect{X: 32, W: 68, H: 60}, cutting.Line{X1: 32, X2: 100, Y1: 20, Y2: 20}},
		{cutting.Rect{X: 32, Y: 22, W: 68, H: 38}, cutting.Line{X1: 42, X2: 42, Y1: 22, Y2: 60}},
	} {
		assert.Equal(t, want.from, got[i].From)
		assert.Equal(t, want.line, got[i].Line)
	}
	_, err = (&cutting.Plan{Sheets: []cutting.Sheet{{Stock: "x"}}}).Steps(in)
	assert.ErrorContains(t, err, `no stock "x"`)
	p.Cuts[1].Piece = "z"
	_, err = p.Steps(in)
	assert.ErrorContains(t, err, `no piece "z"`)
}

// No cut goes through a part, and each side of a part is a side of its sheet or lies on a cut.
func TestCutsGoRoundParts(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		in := instances(t)
		p := solve(t, in, 10)
		all, err := p.Steps(in)
		require.NoError(t, err)
		for n, sheet := range p.Sheets {
			for _, r := range sheet.Placements {
				sides := map[string]bool{"left": r.X == 0, "bottom": r.Y == 0}
				for _, s := range in.Stock {
					if s.ID == sheet.Stock {
						sides["right"], sides["top"] = r.X+r.W == s.W, r.Y+r.H == s.H
					}
				}
				for _, c := range all { // what lies beyond a cut begins after the blade
					l := c.Line
					across, up := l.X1 <= r.X && r.X+r.W <= l.X2, l.Y1 <= r.Y && r.Y+r.H <= l.Y2
					switch {
					case c.Sheet != n:
					case l.X1 == l.X2:
						require.False(t, r.X < l.X1 && l.X1 < r.X+r.W && l.Y1 < r.Y+r.H && r.Y < l.Y2, "a cut goes through %s", r.Part)
						sides["right"] = sides["right"] || up && l.X1 == r.X+r.W
						sides["left"] = sides["left"] || up && l.X1+in.Kerf == r.X
					default:
						require.False(t, r.Y < l.Y1 && l.Y1 < r.Y+r.H && l.X1 < r.X+r.W && r.X < l.X2, "a cut goes through %s", r.Part)
						sides["top"] = sides["top"] || across && l.Y1 == r.Y+r.H
						sides["bottom"] = sides["bottom"] || across && l.Y1+in.Kerf == r.Y
					}
				}
				for side, cut := range sides {
					require.True(t, cut, "the %s side of %s at %d, %d", side, r.Part, r.X, r.Y)
				}
			}
		}
	})
}
