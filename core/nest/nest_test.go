package nest

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"chromaqua/core/length"
)

const eighth = length.Inch / 8

func inches(w, h float64) length.Size {
	return length.Size{W: length.Length(w * float64(length.Inch)), H: length.Length(h * float64(length.Inch))}
}

func card() []Ring {
	return []Ring{{Name: "front", Usual: eighth}, {Name: "mat", Usual: eighth}, {Name: "panel", Usual: 2 * eighth, Yields: true}, {Name: "stamp"}}
}

func ExampleSolve() {
	rings := []Ring{{Name: "front", Usual: eighth}, {Name: "mat", Usual: eighth}, {Name: "panel", Size: inches(4, 6)}}
	found, err := Solve(rings, 0)
	fmt.Println(found[0].Size.With(length.Inches), err)
	rings[0].Size = inches(5, 7)
	found, _ = Solve(rings, 0)
	fmt.Println(found[0].Margin.Left.With(length.Inches), found[1].Margin.Left.With(length.Inches))
	// Output:
	// 4 1/2 × 6 1/2 in <nil>
	// 3/8 in 1/8 in
}

// From whichever end it starts, what is given stays and the rest follows.
func TestStartFromAnyEnd(t *testing.T) {
	for _, c := range []struct {
		name string
		at   int
		size length.Size
		want [4]length.Size
	}{
		{"front", 0, inches(4.25, 5.5), [4]length.Size{inches(4.25, 5.5), inches(4, 5.25), inches(3.75, 5), inches(3.25, 4.5)}},
		{"mat", 1, inches(4, 5.25), [4]length.Size{inches(4.25, 5.5), inches(4, 5.25), inches(3.75, 5), inches(3.25, 4.5)}},
		{"panel", 2, inches(4, 6), [4]length.Size{inches(4.5, 6.5), inches(4.25, 6.25), inches(4, 6), inches(3.5, 5.5)}},
		{"stamp", 3, inches(2, 3), [4]length.Size{inches(3, 4), inches(2.75, 3.75), inches(2.5, 3.5), inches(2, 3)}},
	} {
		t.Run(c.name, func(t *testing.T) {
			rings := card()
			rings[c.at].Size = c.size
			found, err := Solve(rings, 0)
			require.NoError(t, err)
			for i, f := range found {
				assert.Equal(t, c.want[i], f.Size, rings[i].Name)
				if i == c.at {
					assert.Empty(t, f.WFrom)
				} else {
					assert.Equal(t, []int{c.at}, f.WFrom)
				}
			}
		})
	}
}

func TestMarginsBetweenGivenSizes(t *testing.T) {
	rings := card()[:3]
	rings[0].Size, rings[2].Size = inches(4.25, 5.5), inches(3.5, 5)
	found, err := Solve(rings, 0)
	require.NoError(t, err)
	assert.Equal(t, Sides{2 * eighth, 2 * eighth, eighth, eighth}, found[0].Margin, "the border yields")
	assert.Equal(t, Sides{eighth, eighth, eighth, eighth}, found[1].Margin, "the reveal stays usual")
	assert.Equal(t, []int{0, 2}, found[1].WFrom)

	one := length.Inch / 16
	rings[0].Margin.Left = &one
	found, err = Solve(rings, 0)
	require.NoError(t, err)
	assert.Equal(t, one, found[0].Margin.Left)
	assert.Equal(t, 4*eighth-one, found[0].Margin.Right, "the other side takes the rest")

	rings[0].Margin = Margin{}
	rings[2].Size = inches(4.125, 5.5)
	found, err = Solve(rings, 0)
	require.NoError(t, err)
	assert.Equal(t, eighth/4, found[0].Margin.Left, "too little for the usual: all share")
	assert.Zero(t, found[1].Margin.Top)
}

// A stamp's border gives way before the card's.
func TestTheStampsBorderYields(t *testing.T) {
	rings := card()
	rings[0].Size, rings[3].Size = inches(4.25, 5.5), inches(2, 3)
	found, err := Solve(rings, 0)
	require.NoError(t, err)
	assert.Equal(t, inches(3.75, 5), found[2].Size)
	assert.Equal(t, length.Inch, found[2].Margin.Top)
}

func TestFightsNameTheTwo(t *testing.T) {
	rings := card()[:3]
	rings[0].Size, rings[2].Size = inches(4.25, 5.5), inches(5, 5)
	_, err := Solve(rings, 0)
	require.ErrorContains(t, err, "the front and the panel fight")
	assert.ErrorContains(t, err, "4 1/4 in wide")

	rings[2].Size = inches(4, 5)
	rings[0].Margin, rings[1].Margin = Even(eighth), Even(eighth)
	_, err = Solve(rings, 0)
	require.ErrorContains(t, err, "come to 1/2 in where 1/4 in is left")
	var fight *Fight
	require.ErrorAs(t, err, &fight)
	assert.Contains(t, fight.With(length.Millimetres), "12.7 mm")

	rings[2].Size = length.Size{}
	rings[1].Margin = Even(3 * length.Inch)
	_, err = Solve(rings, 0)
	assert.ErrorContains(t, err, "what is to show round the panel takes 6 in of it")

	_, err = Solve(card(), 0)
	assert.ErrorIs(t, err, ErrNothingGiven)
}

func TestOverhang(t *testing.T) {
	rings := card()[:3]
	rings[0].Size = inches(4.25, 5.5)
	rings[1].Margin = Even(-eighth)
	found, err := Solve(rings, 0)
	require.NoError(t, err)
	assert.Equal(t, inches(4.25, 5.5), found[2].Size)
}

// Whatever is given: sizes and margins add up to the nanometre, and what is
// given stays.
func TestEverythingAddsUp(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 6).Draw(t, "rings")
		size := rapid.Int64Range(0, int64(10*length.Inch))
		margin := rapid.Int64Range(-int64(eighth), int64(length.Inch))
		rings := make([]Ring, n)
		for i := range rings {
			r := &rings[i]
			r.Name, r.Usual = fmt.Sprint("ring ", i), length.Length(margin.Draw(t, "usual"))
			r.Yields = rapid.Bool().Draw(t, "yields")
			if rapid.Bool().Draw(t, "given") {
				r.Size = length.Size{W: length.Length(size.Draw(t, "w")), H: length.Length(size.Draw(t, "h"))}
			}
			for _, s := range []Side{Left, Right, Top, Bottom} {
				if rapid.IntRange(0, 3).Draw(t, "side") == 0 {
					l := length.Length(margin.Draw(t, "margin"))
					*r.Margin.Of(s) = &l
				}
			}
		}
		mark := length.Length(rapid.SampledFrom([]int64{0, int64(length.Sixteenth), int64(length.Millimetre / 2)}).Draw(t, "mark"))
		found, err := Solve(rings, mark)
		if err != nil {
			return
		}
		for i, f := range found {
			if w := rings[i].Size.W; w != 0 && f.Size.W != w {
				t.Fatalf("ring %d was given as %d and became %d", i, w, f.Size.W)
			}
			if i == n-1 {
				continue
			}
			for _, s := range []Side{Left, Right, Top, Bottom} {
				if g := *rings[i].Margin.Of(s); g != nil && f.Margin.Of(s) != *g {
					t.Fatalf("the margin %s of ring %d was given as %d and became %d", s, i, *g, f.Margin.Of(s))
				}
			}
			in := found[i+1].Size
			if f.Size.W != in.W+f.Margin.Left+f.Margin.Right || f.Size.H != in.H+f.Margin.Top+f.Margin.Bottom {
				t.Fatalf("ring %d does not add up: %+v round %+v", i, f, in)
			}
		}
	})
}

// What merely follows lands on the ruler's marks; what is given and what shows by the
// maker's word stay, to the nanometre.
func TestWhatFollowsLandsOnMarks(t *testing.T) {
	const half = length.Millimetre / 2
	on := func(rings []Ring) (out []bool) {
		found, err := Solve(rings, half)
		require.NoError(t, err)
		for _, f := range found {
			out = append(out, f.Size.W%half == 0 && f.Size.H%half == 0)
		}
		return out
	}
	a2 := inches(4.25, 5.5) // 107.95 × 139.7 mm
	inwards := card()[:3]
	inwards[0].Size = a2
	assert.Equal(t, []bool{false, true, true}, on(inwards))
	outwards := card()[:3]
	outwards[2].Size = inches(3, 4)
	assert.Equal(t, []bool{true, true, false}, on(outwards))
	between := card()
	between[0].Size, between[3].Size = a2, inches(2, 3)
	assert.Equal(t, []bool{false, true, true, false}, on(between))
	kept := card()[:3]
	kept[0].Size, kept[0].Margin = a2, Even(eighth)
	assert.Equal(t, []bool{false, false, true}, on(kept), "what is to show is given")
	tight := card()[:3]
	tight[0].Size, tight[2].Size = length.Size{W: 100*length.Millimetre + 100_000, H: 80 * length.Millimetre}, length.Size{W: 100 * length.Millimetre, H: 80 * length.Millimetre}
	found, err := Solve(tight, half)
	require.NoError(t, err)
	assert.GreaterOrEqual(t, found[0].Margin.Left, length.Length(0), "nothing overhangs for the sake of a mark")
	assert.GreaterOrEqual(t, found[1].Margin.Left, length.Length(0))
}

func BenchmarkSolve(b *testing.B) {
	rings := card()
	rings[0].Size = inches(4.25, 5.5)
	for b.Loop() {
		_, _ = Solve(rings, 0)
	}
}
