package pdfpage_test

import (
	"bytes"
	"context"
	"image"
	"image/png"
	"math/rand/v2"
	"strings"
	"testing"

	"codeberg.org/go-pdf/fpdf"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/internal/pdfpage"
)

// pages is a PDF of A5 pages.
func pages(t testing.TB, draw ...func(*fpdf.Fpdf)) []byte {
	p := fpdf.New("P", "mm", "A5", "")
	p.SetLineWidth(0.5)
	for _, d := range draw {
		p.AddPage()
		d(p)
	}
	var out bytes.Buffer
	require.NoError(t, p.Output(&out))
	return out.Bytes()
}

func square(p *fpdf.Fpdf) { p.Rect(20, 30, 60, 40, "D") }

// A page is drawn at its true size and cut to what is on it, pale and fine lines too.
func TestDraw(t *testing.T) {
	ctx := context.Background()
	data := pages(t, square, func(p *fpdf.Fpdf) {
		p.SetDrawColor(200, 190, 190)
		p.SetLineWidth(0.05)
		p.Rect(10, 10, 100, 150, "D")
	})
	assert.True(t, pdfpage.Is(data))
	assert.False(t, pdfpage.Is([]byte("PDF")))
	d, err := pdfpage.Draw(ctx, data, 1)
	require.NoError(t, err)
	assert.InDelta(t, 60.5+2*2, d.Width.MM(), 0.2)
	assert.InDelta(t, 40.5+2*2, float64(d.Rect.Dy())/float64(d.Rect.Dx())*d.Width.MM(), 0.2)
	dark := 0
	for _, v := range d.Pix {
		if v < 128 {
			dark++
		}
	}
	const px = 300 / 25.4
	assert.InEpsilon(t, 200*0.5*px*px, dark, 0.2, "a line of 200 mm")

	d, err = pdfpage.Draw(ctx, data, 2)
	require.NoError(t, err)
	assert.InDelta(t, 104, d.Width.MM(), 0.3)
}

// What is no line art is refused, with what to do.
func TestWhatIsNoLineArt(t *testing.T) {
	photo := image.NewGray(image.Rect(0, 0, 300, 300))
	for i := range photo.Pix {
		photo.Pix[i] = uint8(i%300/2 + i/600)
	}
	var buf bytes.Buffer
	require.NoError(t, png.Encode(&buf, photo))
	data := pages(t, func(*fpdf.Fpdf) {}, func(p *fpdf.Fpdf) {
		p.SetFont("Helvetica", "", 10)
		p.MultiCell(0, 5, strings.Repeat("low tide at the pier, ", 40), "", "L", false)
	}, func(p *fpdf.Fpdf) {
		p.RegisterImageOptionsReader("photo", fpdf.ImageOptions{ImageType: "PNG"}, &buf)
		p.ImageOptions("photo", 20, 20, 80, 80, false, fpdf.ImageOptions{}, 0, "")
	}, func(p *fpdf.Fpdf) {
		square(p)
		p.SetFillColor(120, 170, 200)
		p.Rect(25, 35, 50, 30, "F")
	}, square)
	for page, why := range map[int]string{1: "there is nothing on page 1", 2: "holds a text of", 3: "shaded or a photo", 4: "shaded or a photo", 6: "has 5 pages", 0: "none of them", -1: "none of them"} {
		_, err := pdfpage.Draw(context.Background(), data, page)
		assert.ErrorContains(t, err, why)
	}
	locked := fpdf.New("P", "mm", "A5", "")
	locked.SetProtection(0, "tide", "pool")
	locked.AddPage()
	var out bytes.Buffer
	require.NoError(t, locked.Output(&out))
	_, err := pdfpage.Draw(context.Background(), out.Bytes(), 1)
	assert.ErrorContains(t, err, "password")
	_, err = pdfpage.Draw(context.Background(), []byte("%PDF-1.7 and nothing"), 1)
	assert.ErrorContains(t, err, "damaged")
	_, err = pdfpage.Draw(context.Background(), make([]byte, pdfpage.MaxBytes+1), 1)
	assert.ErrorContains(t, err, "larger than 24 MB")
	stopped, stop := context.WithCancel(context.Background())
	stop()
	_, err = pdfpage.Draw(stopped, data, 5)
	assert.ErrorIs(t, err, context.Canceled)
}

// A torn file is drawn or refused, and never takes the program down.
func TestTornFiles(t *testing.T) {
	good := pages(t, square, square)
	rng := rand.New(rand.NewPCG(1, 2))
	for range 40 {
		torn := bytes.Clone(good[:len(good)/2+rng.IntN(len(good)/2)])
		for range 1 + rng.IntN(20) {
			torn[9+rng.IntN(len(torn)-9)] = byte(rng.Uint32())
		}
		if d, err := pdfpage.Draw(context.Background(), torn, 1); err == nil {
			assert.Positive(t, d.Width)
		}
	}
}
