package picture_test

import (
	"bytes"
	"context"
	"encoding/binary"
	"hash/crc32"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"math"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/image/tiff"

	"chromaqua/core/length"
	"chromaqua/core/lineart"
	"chromaqua/internal/picture"
)

func encode(t testing.TB, m image.Image, kind string) []byte {
	var buf bytes.Buffer
	if kind == "jpeg" {
		require.NoError(t, jpeg.Encode(&buf, m, nil))
	} else {
		require.NoError(t, png.Encode(&buf, m))
	}
	return buf.Bytes()
}

func TestGreyLaysTransparentPicturesOnWhite(t *testing.T) {
	m := image.NewNRGBA(image.Rect(0, 0, 20, 20))
	m.SetNRGBA(3, 4, color.NRGBA{A: 255})
	for _, kind := range []string{"png", "jpeg"} {
		data := encode(t, m, kind)
		info, err := picture.Inspect(data)
		require.NoError(t, err)
		assert.Equal(t, picture.Info{Media: "image/" + kind, Width: 20, Height: 20}, info)
	}
	g, err := picture.Grey(encode(t, m, "png"))
	require.NoError(t, err)
	assert.Equal(t, uint8(255), g.GrayAt(0, 0).Y, "clear is paper")
	assert.Equal(t, uint8(0), g.GrayAt(3, 4).Y)
}

// header is a PNG that claims a size and has no pixels: what it costs to open
// must not depend on the claim.
func header(w, h uint32) []byte {
	b := []byte("\x89PNG\r\n\x1a\n\x00\x00\x00\rIHDR")
	b = binary.BigEndian.AppendUint32(b, w)
	b = binary.BigEndian.AppendUint32(b, h)
	b = append(b, 8, 0, 0, 0, 0)
	return binary.BigEndian.AppendUint32(b, crc32.ChecksumIEEE(b[12:]))
}

func TestUnusableFilesAreRefused(t *testing.T) {
	good := encode(t, image.NewGray(image.Rect(0, 0, 200, 200)), "png")
	for _, tc := range []struct {
		name string
		data []byte
		want error
		why  string
	}{
		{"text", []byte("dear diary"), picture.ErrKind, ""},
		{"nothing", nil, picture.ErrKind, ""},
		{"a GIF", []byte("GIF89a\x01\x00\x01\x00"), picture.ErrKind, ""},
		{"one pixel", encode(t, image.NewGray(image.Rect(0, 0, 1, 1)), "png"), lineart.ErrTooSmall, ""},
		{"30 000 × 30 000", header(30_000, 30_000), lineart.ErrTooLarge, "30000 × 30000"},
		{"sides that overflow", header(1<<31-1, 1<<31-1), nil, ""},
		{"cut short", good[:len(good)/2], nil, "damaged or cut short"},
		{"too many bytes", make([]byte, picture.MaxBytes+1), nil, "larger than"},
	} {
		t.Run(tc.name, func(t *testing.T) {
			_, err := picture.Grey(tc.data)
			require.Error(t, err)
			if tc.want != nil {
				assert.ErrorIs(t, err, tc.want)
			}
			assert.ErrorContains(t, err, tc.why)
		})
	}
}

func TestInkIsClearWherePaperIs(t *testing.T) {
	m := image.NewGray(image.Rect(0, 0, 400, 100))
	for i := range m.Pix {
		m.Pix[i] = 240
	}
	for y := range 100 {
		for x := 190; x < 210; x++ {
			m.SetGray(x, y, color.Gray{Y: 20})
		}
	}
	data, err := picture.Ink(m, 200)
	require.NoError(t, err)
	out, err := png.Decode(bytes.NewReader(data))
	require.NoError(t, err)
	assert.Equal(t, image.Rect(0, 0, 200, 50), out.Bounds())
	alpha := func(x, y int) uint32 { _, _, _, a := out.At(x, y).RGBA(); return a }
	assert.Zero(t, alpha(10, 10))
	assert.Equal(t, uint32(0xffff), alpha(100, 25))
}

func FuzzGrey(f *testing.F) {
	f.Add(encode(f, image.NewGray(image.Rect(0, 0, 20, 20)), "png"))
	f.Add(encode(f, image.NewGray(image.Rect(0, 0, 20, 20)), "jpeg"))
	f.Add(header(20, 20))
	f.Fuzz(func(t *testing.T, data []byte) {
		g, err := picture.Grey(data)
		if err == nil && len(g.Pix) > lineart.MaxPixels {
			t.Fatal("larger than the limit")
		}
	})
}

// A TIFF is read as any picture, and kept as a PNG.
func TestTIFFIsKeptAsPNG(t *testing.T) {
	m := image.NewGray(image.Rect(0, 0, 40, 30))
	m.Pix[5] = 200
	var buf bytes.Buffer
	require.NoError(t, tiff.Encode(&buf, m, &tiff.Options{Compression: tiff.Deflate}))
	g, err := picture.Grey(buf.Bytes())
	require.NoError(t, err)
	assert.Equal(t, m.Pix, g.Pix)
	kept, _, err := picture.Stored(context.Background(), buf.Bytes())
	require.NoError(t, err)
	info, err := picture.Inspect(kept)
	require.NoError(t, err)
	assert.Equal(t, picture.Info{Media: "image/png", Width: 40, Height: 30}, info)
	_, _, err = picture.Stored(context.Background(), buf.Bytes()[:buf.Len()/2])
	assert.Error(t, err)
	same := encode(t, m, "png")
	kept, _, err = picture.Stored(context.Background(), same)
	require.NoError(t, err)
	assert.Equal(t, same, kept)
}

// Whatever is called a TIFF is read or refused, never a crash.
func FuzzTIFF(f *testing.F) {
	m := image.NewGray(image.Rect(0, 0, 20, 20))
	for _, c := range []tiff.CompressionType{tiff.Uncompressed, tiff.Deflate} {
		var buf bytes.Buffer
		require.NoError(f, tiff.Encode(&buf, m, &tiff.Options{Compression: c, Predictor: true}))
		f.Add(buf.Bytes())
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		if info, err := picture.Inspect(data); err == nil && info.Width*info.Height < 1<<20 {
			_, _ = picture.Grey(data)
			_, _, _ = picture.Stored(context.Background(), data)
		}
	})
}

func TestStraighten(t *testing.T) {
	m := image.NewGray(image.Rect(0, 0, 60, 40))
	for i := range m.Pix {
		m.Pix[i] = 255
	}
	m.SetGray(42, 20, color.Gray{}) // right of the middle
	data := encode(t, m, "png")
	turned, err := picture.Straighten(data, 90, 0, 0, 0, 0)
	require.NoError(t, err)
	g, err := picture.Grey(turned)
	require.NoError(t, err)
	assert.Equal(t, m.Rect, g.Rect)
	dark := image.Point{}
	for y := range 40 {
		for x := range 60 {
			if g.GrayAt(x, y).Y < g.GrayAt(dark.X, dark.Y).Y {
				dark = image.Pt(x, y)
			}
		}
	}
	assert.InDelta(t, 30, dark.X, 1, "clockwise, right becomes below")
	assert.InDelta(t, 32, dark.Y, 1)
	cut, err := picture.Straighten(data, 0, 10, 5, 4, 3)
	require.NoError(t, err)
	g, err = picture.Grey(cut)
	require.NoError(t, err)
	assert.Equal(t, image.Rect(0, 0, 46, 32), g.Rect)
	assert.Less(t, g.GrayAt(32, 15).Y, uint8(128), "the dot is where it was, less what was cut off")
	for _, bad := range [][4]int{{30, 0, 30, 0}, {-1, 0, 0, 0}} {
		_, err = picture.Straighten(data, 0, bad[0], bad[1], bad[2], bad[3])
		assert.ErrorContains(t, err, "cut less")
	}
}

func TestAnSVGIsKeptAsPNG(t *testing.T) {
	drawing := []byte("\n<!-- a note --><svg width='50mm' viewBox='0 0 10 10'><circle cx='5' cy='5' r='4'/></svg>")
	data, width, err := picture.Stored(context.Background(), drawing)
	require.NoError(t, err)
	assert.Equal(t, 50*length.Millimetre, width)
	assert.True(t, bytes.HasPrefix(data, []byte("\x89PNG")))
	again, width, err := picture.Stored(context.Background(), data)
	require.NoError(t, err)
	assert.Equal(t, data, again)
	assert.Zero(t, width)
	_, _, err = picture.Stored(context.Background(), []byte("<svg"))
	assert.ErrorContains(t, err, "damaged")
}

// A photo whose camera was turned is stored upright: what Exif says is top left is.
func TestPhotosAreSetUpright(t *testing.T) {
	scene := image.NewRGBA(image.Rect(0, 0, 120, 90)) // dark top left, as it should be seen
	for y := range 90 {
		for x := range 120 {
			v := uint8(240)
			if x < 50 && y < 30 {
				v = 20
			}
			scene.SetRGBA(x, y, color.RGBA{R: v, G: v, B: v, A: 255})
		}
	}
	for orientation := 1; orientation <= 8; orientation++ {
		w, h := 120, 90
		if orientation >= 5 {
			w, h = h, w
		}
		as := image.NewRGBA(image.Rect(0, 0, w, h)) // as the camera stored it
		for y := range 90 {
			for x := range 120 {
				px, py := x, y
				switch orientation {
				case 2:
					px = 119 - x
				case 3:
					px, py = 119-x, 89-y
				case 4:
					py = 89 - y
				case 5:
					px, py = y, x
				case 6:
					px, py = y, 119-x
				case 7:
					px, py = 89-y, 119-x
				case 8:
					px, py = 89-y, x
				}
				as.Set(px, py, scene.At(x, y))
			}
		}
		var buf bytes.Buffer
		require.NoError(t, jpeg.Encode(&buf, as, &jpeg.Options{Quality: 95}))
		exif := append([]byte("Exif\x00\x00MM\x00\x2a\x00\x00\x00\x08\x00\x01\x01\x12\x00\x03\x00\x00\x00\x01\x00"), byte(orientation), 0, 0, 0, 0, 0, 0)
		photo := append([]byte{0xff, 0xd8, 0xff, 0xe1, 0, byte(len(exif) + 2)}, exif...)
		photo = append(photo, buf.Bytes()[2:]...)
		kept, _, err := picture.Stored(context.Background(), photo)
		require.NoError(t, err, orientation)
		g, err := picture.Grey(kept)
		require.NoError(t, err)
		require.Equal(t, image.Rect(0, 0, 120, 90), g.Rect, orientation)
		for _, p := range []struct {
			x, y int
			dark bool
		}{{10, 10, true}, {40, 20, true}, {110, 10, false}, {10, 80, false}, {110, 80, false}} {
			assert.Equal(t, p.dark, g.GrayAt(p.x, p.y).Y < 128, "orientation %d at %d, %d", orientation, p.x, p.y)
		}
		assert.Equal(t, orientation == 1, bytes.Equal(kept, photo), "only what lies wrong is written anew")
	}
}

// What scanners and phones write besides is read too, or says why not.
func TestOtherPictures(t *testing.T) {
	for _, name := range []string{"small.webp", "cmyk.jpg", "g4.tiff"} {
		data, err := os.ReadFile("testdata/" + name)
		require.NoError(t, err)
		kept, _, err := picture.Stored(context.Background(), data)
		require.NoError(t, err, name)
		info, err := picture.Inspect(kept)
		require.NoError(t, err)
		assert.Contains(t, []string{"image/png", "image/jpeg"}, info.Media, name)
		g, err := picture.Grey(kept)
		require.NoError(t, err)
		assert.Less(t, g.GrayAt(30, 25).Y, uint8(100), name)
		assert.Greater(t, g.GrayAt(100, 70).Y, uint8(200), name)
	}
	fax, err := os.ReadFile("testdata/g3.tiff")
	require.NoError(t, err)
	_, _, err = picture.Stored(context.Background(), fax)
	assert.ErrorContains(t, err, "fax machines")
}

// Whatever is asked to be turned and cut off: a picture comes out within the limits, or
// it is said why not.
func FuzzStraighten(f *testing.F) {
	m := encode(f, image.NewGray(image.Rect(0, 0, 60, 40)), "png")
	f.Add(0.0, 0, 0, 0, 0)
	f.Add(1.5, 4, 0, 2, 1)
	f.Add(-180.0, -5, 60, 1<<40, -1<<40)
	f.Add(math.NaN(), 0, 0, 0, 0)
	f.Add(math.Inf(1), 29, 19, 29, 19)
	f.Fuzz(func(t *testing.T, degrees float64, left, top, right, bottom int) {
		data, err := picture.Straighten(m, degrees, left, top, right, bottom)
		if err != nil {
			return
		}
		info, err := picture.Inspect(data)
		require.NoError(t, err)
		assert.LessOrEqual(t, max(info.Width, info.Height), 80)
	})
}

// A phone of 48 million pixels is read, at half its size; one that cannot be says so.
func TestPhotosOfManyPixels(t *testing.T) {
	var buf bytes.Buffer
	require.NoError(t, jpeg.Encode(&buf, image.NewGray(image.Rect(0, 0, 8064, 6048)), &jpeg.Options{Quality: 20}))
	m, err := picture.Photo(buf.Bytes())
	require.NoError(t, err)
	assert.Equal(t, image.Pt(4032, 3024), m.Bounds().Size())
	_, err = picture.Colour(buf.Bytes())
	assert.ErrorIs(t, err, lineart.ErrTooLarge)
	buf.Reset()
	require.NoError(t, jpeg.Encode(&buf, image.NewGray(image.Rect(0, 0, 12000, 9000)), &jpeg.Options{Quality: 20}))
	_, err = picture.Photo(buf.Bytes())
	assert.ErrorIs(t, err, lineart.ErrTooLarge)
}
