package wash

import (
	"context"
	"image"
	"image/color"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/drying"
)

// testRate is how fast water goes from a box of the card in a still room.
var testRate = drying.StillRoom.Rate(40 * 42)

func cardOf(t *testing.T, h Hand, seed uint32) *image.RGBA {
	m, err := TestCard(PaperOf(drying.Cotton, ColdPressed), h, testRate, seed).Play(context.Background(), Dry, nil)
	require.NoError(t, err)
	q := m.Picture()
	img, err := q.Draw(context.Background(), 150, image.Rectangle{Max: q.Size(150)}, View{}, nil)
	require.NoError(t, err)
	return img
}

// A card painted by another hand, on another sheet, tells that hand.
func TestTheCardTellsTheHand(t *testing.T) {
	for seed, h := range map[uint32]Hand{5: {1, 1, 1}, 6: {1.7, 0.6, 1.5}, 7: {0.6, 1.6, 0.6}} {
		f, err := ReadTestCard(cardOf(t, h, seed), 150/25.4)
		require.NoError(t, err)
		got, err := FitHand(context.Background(), f, PaperOf(drying.Cotton, ColdPressed), testRate)
		require.NoError(t, err)
		t.Logf("%+v read as %+v, %+v", h, f, got)
		assert.InEpsilon(t, h.Spread, got.Spread, 0.35)
		assert.InEpsilon(t, h.Rim, got.Rim, 0.40)
		assert.InEpsilon(t, h.Grain, got.Grain, 0.35)
	}
}

// A card that is not painted, or in part, is refused with what to do.
func TestBareCards(t *testing.T) {
	img := image.NewRGBA(image.Rect(0, 0, TestW*6, TestH*6))
	for i := range img.Pix {
		img.Pix[i] = 255
	}
	_, err := ReadTestCard(img, 6)
	require.ErrorIs(t, err, ErrBareTest)
	for y := 15 * 6; y < 57*6; y++ {
		for x := 17 * 6; x < 57*6; x++ {
			img.SetRGBA(x, y, color.RGBA{90, 110, 220, 255})
		}
	}
	_, err = ReadTestCard(img, 6)
	require.ErrorIs(t, err, ErrNoDrop)
}
