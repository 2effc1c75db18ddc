package proof_test

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/pigment"
	"chromaqua/core/proof"
	"chromaqua/core/shelf"
	"chromaqua/internal/standin"
)

func near(t testing.TB, want, got proof.Point, within float64) {
	assert.InDelta(t, want.X, got.X, within)
	assert.InDelta(t, want.Y, got.Y, within)
}

// A projection follows from four points exactly, carries any other, and back; with more of them
// those that weigh most are met best; of points on one line nothing follows.
func TestProjections(t *testing.T) {
	rng := rand.New(rand.NewPCG(3, 14))
	for range 50 {
		h := proof.Projection{1 + rng.Float64(), rng.Float64() - 0.5, 100 * rng.Float64(), rng.Float64() - 0.5, 1 + rng.Float64(), 50 * rng.Float64(), 0.002 * rng.Float64(), -0.002 * rng.Float64()}
		from := []proof.Point{{X: 0, Y: 0}, {X: 95, Y: 3}, {X: 90, Y: 130}, {X: -4, Y: 126}}
		var to []proof.Point
		for _, p := range from {
			to = append(to, h.Apply(p))
		}
		got, err := proof.Project(from, to, nil)
		require.NoError(t, err)
		back, err := got.Inverse()
		require.NoError(t, err)
		for range 5 {
			p := proof.Point{X: 100 * rng.Float64(), Y: 130 * rng.Float64()}
			near(t, h.Apply(p), got.Apply(p), 1e-6)
			near(t, p, back.Apply(got.Apply(p)), 1e-6)
		}
		off := to[0]
		off.X += 8
		both, err := proof.Project(append(from, from[0]), append(to, off), []float64{1, 1, 1, 1, 1})
		require.NoError(t, err)
		between := both.Apply(from[0]).X - to[0].X
		assert.True(t, between > 1 && between < 7, "%v", between)
		sure, err := proof.Project(append(from, from[0]), append(to, off), []float64{1, 1, 1, 1, 1e-8})
		require.NoError(t, err)
		near(t, to[0], sure.Apply(from[0]), 1e-3)
	}
	line := []proof.Point{{X: 0, Y: 0}, {X: 1, Y: 1}, {X: 2, Y: 2}, {X: 3, Y: 3}}
	for _, bad := range [][2][]proof.Point{{line, line}, {line[:3], line[:3]}, {line, line[:3]}, {{line[0], line[0], line[0], line[0]}, line}} {
		_, err := proof.Project(bad[0], bad[1], nil)
		assert.Error(t, err)
	}
	_, err := (proof.Projection{1, 1, 0, 1, 1, 0, 0, 0}).Inverse()
	assert.Error(t, err)
}

// A scan that lies askew, unevenly lit, is the strip again when it is levelled: its paper is
// white, and what is printed and painted on it is where it was, to a tenth of a millimetre, as
// dark as it was.
func TestLevelledIsTheStripAgain(t *testing.T) {
	const px = 4
	b := standin.Inks()["runs"]
	sheet := standin.Strip(b, stripPX)
	for i, tune := range []func(*standin.Scanner){nil, func(s *standin.Scanner) { s.Tilt, s.Light = 4, 0.2 }, func(s *standin.Scanner) { s.Tilt, s.Light, s.Noise = -5, 0.1, 3 }} {
		m, err := proof.Level(strip(b, tune), px)
		require.NoError(t, err)
		require.Equal(t, int(proof.StripW*px), m.Rect.Dx())
		require.Equal(t, int(proof.StripH*px), m.Rect.Dy())
		white, err := pigment.Paper("white")
		require.NoError(t, err)
		paper := white.Linear().Encoded()
		sum, n, far := 0.0, 0.0, 0
		for y := 2; y < m.Rect.Dy()-2; y++ {
			for x := 2; x < m.Rect.Dx()-2; x++ {
				at := func(px float64) int { return int((px + 0.5) / 4 * stripPX) }
				want := sheet.RGBAAt(at(float64(x)), at(float64(y)))
				got := m.RGBAAt(x, y)
				for k, v := range [3]float64{float64(want.R) / 248, float64(want.G) / 247, float64(want.B) / 243} {
					off := math.Abs(v*paper[k]*255 - float64([3]uint8{got.R, got.G, got.B}[k]))
					if sum, n = sum+off, n+1; off > 40 {
						far++
					}
				}
			}
		}
		assert.Less(t, sum/n, 4.0, "scan %d, in the mean, of 255", i)
		assert.Less(t, float64(far)/n, 0.01, "scan %d, at edges alone", i)
	}
}

// What can be told of a test, to its limits; and what a verdict turns on.
func TestRecordsAndVerdicts(t *testing.T) {
	good := proof.Record{Of: proof.Of{Ink: "pigment-quick", Paper: "cotton-cp"}}
	require.NoError(t, good.Check())
	for _, change := range []func(r *proof.Record, more int){
		func(r *proof.Record, more int) { r.OwnInk = strings.Repeat("x", 8*shelf.MaxText+more) },
		func(r *proof.Record, more int) {
			r.OwnInk, r.OwnPaper = strings.Repeat("x", 4*shelf.MaxText), strings.Repeat("x", 4*shelf.MaxText+more)
		},
		func(r *proof.Record, more int) {
			r.Waited = proof.MaxWaited
			if more > 0 {
				r.Waited++
			}
		},
		func(r *proof.Record, more int) {
			if more > 0 {
				r.Waited = -1
			}
		},
	} {
		r := good
		change(&r, 0)
		assert.NoError(t, r.Check())
		change(&r, 1)
		assert.Error(t, r.Check())
	}
	for _, of := range []proof.Of{{Ink: "soot", Paper: "cotton-cp"}, {Ink: "pigment-quick", Paper: "vellum"}} {
		assert.Error(t, proof.Record{Of: of}.Check())
	}
	for _, c := range []struct {
		bleed, tint, loss float64
		want              proof.Verdict
	}{
		{0, 0, 0, proof.Holds}, {0.149, 1.49, 0.049, proof.Holds}, {0.15, 0, 0, proof.Soft}, {0, 1.5, 0, proof.Soft}, {0, 0, 0.05, proof.Soft},
		{0.499, 3.99, 0.149, proof.Soft}, {0.5, 0, 0, proof.Runs}, {0, 4, 0, proof.Runs}, {0, 0, 0.15, proof.Runs},
	} {
		assert.Equal(t, c.want, proof.VerdictOf(c.bleed, c.tint, c.loss), "%+v", c)
	}
	of := good.Of
	other := of
	other.OwnInk = "mine"
	tests := []proof.Record{{Of: other}, {Of: of, Practice: true}, {Of: of, Image: "latest"}, {Of: of, Image: "before"}}
	assert.Equal(t, "latest", proof.Latest(tests, of).Image)
	assert.Nil(t, proof.Latest(tests[:2], of))
}
