// Package picture reads picture files that come from outside: scans and
// drawings as PNG, JPEG, TIFF, WebP, SVG or a page of a PDF, within limits that keep memory bounded.
package picture

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"math"
	"slices"
	"strconv"
	"strings"

	"github.com/rwcarlsen/goexif/exif"
	"golang.org/x/image/draw"
	"golang.org/x/image/math/f64"
	_ "golang.org/x/image/tiff" // registers the format
	_ "golang.org/x/image/webp" // and this one

	"chromaqua/core/length"
	"chromaqua/core/lineart"
	"chromaqua/internal/pdfpage"
	"chromaqua/internal/svg"
)

// Limits of a picture file.
const (
	MaxBytes   = 48 << 20
	MaxPixels  = lineart.MaxPixels
	MaxDecoded = 192 << 20 // bytes of memory it takes when it is opened
	MaxPhoto   = 52_000_000
	finePhoto  = 26_000_000 // pixels from which on a phone's are finer than its lens
)

// Info is what a picture file says of itself.
type Info struct {
	Media         string // image/png, image/jpeg, image/tiff or image/webp
	Width, Height int    // pixels
}

// ErrKind means the file is no picture this program reads.
var ErrKind = errors.New("this is not a PNG, JPEG, TIFF, WebP or SVG picture, nor a PDF; save or scan it as one of those and try again")

// Inspect reads a picture's header and refuses what could not be worked with.
func Inspect(data []byte) (Info, error) { return inspect(data, MaxPixels) }

func inspect(data []byte, maxPixels int) (Info, error) {
	if len(data) > MaxBytes {
		return Info{}, fmt.Errorf("the file is larger than %d MB; scan at 600 dpi or less, in grey", MaxBytes>>20)
	}
	c, kind, err := image.DecodeConfig(bytes.NewReader(data))
	if err != nil {
		return Info{}, ErrKind
	}
	switch {
	case c.Width < lineart.MinSidePX || c.Height < lineart.MinSidePX:
		return Info{}, lineart.ErrTooSmall
	case c.Width > maxPixels/c.Height:
		return Info{}, fmt.Errorf("the picture is %d × %d pixels: %w", c.Width, c.Height, lineart.ErrTooLarge)
	case c.Width*c.Height > MaxDecoded/bytesOf(c.ColorModel):
		return Info{}, fmt.Errorf("the picture has %d million pixels of 16 bits a colour, which are too many; save it with 8 bits, or scan it in grey", c.Width*c.Height/1_000_000)
	}
	return Info{"image/" + kind, c.Width, c.Height}, nil
}

// bytesOf is what a pixel of a colour model takes in memory.
func bytesOf(m color.Model) int {
	switch m {
	case color.GrayModel:
		return 1
	case color.Gray16Model:
		return 2
	case color.RGBA64Model, color.NRGBA64Model:
		return 8
	}
	return 4
}

// Stored returns a picture as it is kept, which every browser can show: a TIFF, a WebP
// or an SVG becomes a PNG, a photo whose camera was turned is set upright, others stay
// as they are. It may say how wide it really is, an SVG by its size, a scan by its
// resolution; width is 0 otherwise. Drawing an SVG ends early with ctx's error.
func Stored(ctx context.Context, data []byte) (kept []byte, width length.Length, err error) {
	if svg.Is(data) {
		d, err := svg.Draw(ctx, data)
		if err != nil {
			return nil, 0, err
		}
		kept, err = asPNG(d.Gray)
		return kept, d.Width, err
	}
	info, err := Inspect(data)
	if err != nil {
		return nil, 0, err
	}
	turned := info.Media == "image/jpeg" && orientation(data) > 1
	if !turned && (info.Media == "image/png" || info.Media == "image/jpeg") {
		return data, widthOf(data, info), nil
	}
	m, err := Colour(data)
	if err != nil {
		return nil, 0, err
	}
	if turned { // a camera says nothing of what it stood before
		kept, err = asJPEG(upright(m, orientation(data)))
		return kept, 0, err
	}
	kept, err = asPNG(m)
	return kept, widthOf(data, info), err
}

// Kept is [Stored] of a picture, and of a PDF that page, from 1, cut to what is on it.
func Kept(ctx context.Context, data []byte, page int) (kept []byte, width length.Length, err error) {
	if !pdfpage.Is(data) {
		return Stored(ctx, data)
	}
	d, err := pdfpage.Draw(ctx, data, page)
	if err != nil {
		return nil, 0, err
	}
	kept, err = asPNG(d.Gray)
	return kept, d.Width, err
}

// orientation is how a camera was held, 1 for upright, by the picture's Exif (2.32,
// tag 274): 1 to 8.
func orientation(data []byte) int {
	n := 1
	readExif(data, func(x *exif.Exif) {
		tag, err := x.Get(exif.Orientation)
		if err != nil {
			return
		}
		if said, err := tag.Int(0); err == nil && said >= 1 && said <= 8 {
			n = said
		}
	})
	return n
}

// readExif lets read look into a picture's Exif, when it has some. Where a tag is torn it
// stops: the library panics on some.
func readExif(data []byte, read func(*exif.Exif)) {
	defer func() { _ = recover() }()
	if x, err := exif.Decode(bytes.NewReader(data)); err == nil {
		read(x)
	}
}

// upright turns and mirrors a picture as its orientation says.
func upright(m image.Image, orientation int) image.Image {
	b := m.Bounds()
	w, h := b.Dx(), b.Dy()
	if orientation >= 5 {
		w, h = h, w
	}
	out := image.NewRGBA(image.Rect(0, 0, w, h))
	r, d := float64(b.Dx()), float64(b.Dy())
	at := map[int]f64.Aff3{
		2: {-1, 0, r, 0, 1, 0}, 3: {-1, 0, r, 0, -1, d}, 4: {1, 0, 0, 0, -1, d},
		5: {0, 1, 0, 1, 0, 0}, 6: {0, -1, d, 1, 0, 0}, 7: {0, -1, d, -1, 0, r}, 8: {0, 1, 0, -1, 0, r},
	}[orientation]
	draw.NearestNeighbor.Transform(out, at, m, b, draw.Src, nil)
	return out
}

func asJPEG(m image.Image) ([]byte, error) {
	var buf bytes.Buffer
	err := jpeg.Encode(&buf, m, &jpeg.Options{Quality: 95})
	return buf.Bytes(), err
}

func asPNG(m image.Image) ([]byte, error) {
	var buf bytes.Buffer
	if err := png.Encode(&buf, m); err != nil {
		return nil, err
	}
	if buf.Len() > MaxBytes {
		return nil, fmt.Errorf("as a PNG the picture would be larger than %d MB; scan it in grey", MaxBytes>>20)
	}
	return buf.Bytes(), nil
}

// Straighten turns a picture clockwise by degrees and cuts its edges off, in
// pixels of the turned picture, which is as large as the picture was; what turns
// in at the corners is white. It returns a PNG.
func Straighten(data []byte, degrees float64, left, top, right, bottom int) ([]byte, error) {
	m, err := Colour(data)
	if err != nil {
		return nil, err
	}
	b := m.Bounds()
	w, h := b.Dx()-left-right, b.Dy()-top-bottom
	if min(left, top, right, bottom) < 0 || w < lineart.MinSidePX || h < lineart.MinSidePX {
		return nil, errors.New("so much cut off leaves no picture; cut less")
	}
	var out draw.Image = image.NewRGBA(image.Rect(0, 0, w, h))
	if _, grey := m.(*image.Gray); grey {
		out = image.NewGray(image.Rect(0, 0, w, h))
	}
	draw.Draw(out, out.Bounds(), image.White, image.Point{}, draw.Src)
	sin, cos := math.Sincos(degrees * math.Pi / 180)
	cx, cy := float64(b.Dx())/2, float64(b.Dy())/2
	turn := f64.Aff3{
		cos, -sin, cx - cos*(cx+float64(b.Min.X)) + sin*(cy+float64(b.Min.Y)) - float64(left),
		sin, cos, cy - sin*(cx+float64(b.Min.X)) - cos*(cy+float64(b.Min.Y)) - float64(top),
	}
	draw.CatmullRom.Transform(out, turn, m, b, draw.Over, nil)
	var buf bytes.Buffer
	err = png.Encode(&buf, out)
	return buf.Bytes(), err
}

// Colour decodes a picture.
func Colour(data []byte) (image.Image, error) { return colour(data, MaxPixels) }

func colour(data []byte, maxPixels int) (image.Image, error) {
	if _, err := inspect(data, maxPixels); err != nil {
		return nil, err
	}
	m, _, err := image.Decode(bytes.NewReader(data))
	switch isTIFF := bytes.HasPrefix(data, []byte("II*\x00")) || bytes.HasPrefix(data, []byte("MM\x00*")); {
	case err != nil && isTIFF:
		return nil, errTIFF
	case err != nil:
		return nil, errDamaged
	}
	return m, nil
}

var errTIFF = errors.New("the TIFF is damaged, or compressed in a way that is not read, as by some fax machines; save it again as PNG, or as TIFF with LZW")

var errDamaged = errors.New("the picture is damaged or cut short; save or scan it again")

// Grey decodes a picture to grey on white paper.
func Grey(data []byte) (*image.Gray, error) {
	m, err := Colour(data)
	if err != nil {
		return nil, err
	}
	if g, ok := m.(*image.Gray); ok && g.Rect.Min == (image.Point{}) {
		return g, nil
	}
	b := m.Bounds()
	g := image.NewGray(image.Rect(0, 0, b.Dx(), b.Dy()))
	draw.Draw(g, g.Rect, image.White, image.Point{}, draw.Src)
	draw.Draw(g, g.Rect, m, b.Min, draw.Over)
	return g, nil
}

// Ink returns the line of a flattened sheet as a PNG that is clear where the
// paper is, at most side pixels along its longer side.
func Ink(sheet *image.Gray, side int) ([]byte, error) {
	b := sheet.Bounds()
	if k := max(b.Dx(), b.Dy()); k > side {
		small := image.NewGray(image.Rect(0, 0, b.Dx()*side/k, b.Dy()*side/k))
		draw.ApproxBiLinear.Scale(small, small.Rect, sheet, b, draw.Src, nil)
		sheet, b = small, small.Rect
	}
	const (
		clear = 225 // grey from which on it is paper
		solid = 80  // and up to which it is full ink
	)
	out := image.NewPaletted(b, make(color.Palette, 32))
	for i := range out.Palette {
		out.Palette[i] = color.NRGBA{R: 0x1e, G: 0x22, B: 0x2a, A: uint8(i * 255 / 31)}
	}
	for i, v := range sheet.Pix {
		out.Pix[i] = uint8(31 * max(0, min(clear-solid, clear-int(v))) / (clear - solid))
	}
	var buf bytes.Buffer
	err := (&png.Encoder{CompressionLevel: png.BestCompression}).Encode(&buf, out)
	return buf.Bytes(), err
}

// RealWidth reads how wide a picture of so many pixels really is: a length, or its
// resolution, "300 dpi".
func RealWidth(text string, bare length.Unit, pixels int) (length.Length, error) {
	number, is := strings.CutSuffix(strings.ToLower(strings.TrimSpace(text)), "dpi")
	if !is {
		return length.Parse(text, bare)
	}
	dpi, err := strconv.ParseFloat(strings.TrimSpace(number), 64)
	if err != nil || !(dpi >= lineart.MinDPI && dpi <= 4*lineart.MaxDPI) {
		return 0, fmt.Errorf("%.20q is no resolution of a scan; give one such as 300 dpi", text)
	}
	return length.FromMM(float64(pixels) / dpi * 25.4), nil
}

// Photo decodes a photo as it was seen, turned upright as its camera says. One with more
// pixels than there is detail in is halved.
func Photo(data []byte) (image.Image, error) {
	if heic(data) {
		return nil, errHEIC
	}
	m, err := colour(data, MaxPhoto)
	if err != nil {
		return nil, err
	}
	if b := m.Bounds(); b.Dx()*b.Dy() > finePhoto {
		half := image.NewRGBA(image.Rect(0, 0, b.Dx()/2, b.Dy()/2))
		draw.ApproxBiLinear.Scale(half, half.Rect, m, b, draw.Src, nil)
		m = half
	}
	if n := orientation(data); n > 1 {
		m = upright(m, n)
	}
	return m, nil
}

// heic reports whether a file is a photo as some phones keep it, which few programs read.
func heic(data []byte) bool {
	return len(data) > 12 && string(data[4:8]) == "ftyp" && slices.Contains([]string{"heic", "heix", "mif1", "heif", "hevc"}, string(data[8:12]))
}

var errHEIC = errors.New("this photo is HEIC, as some phones keep them. Send it from the phone's browser, or set its camera to “most compatible”: then it comes as JPEG")

// Small is a picture as a JPEG, at most so many pixels along its longer side, without
// anything else the camera wrote into it.
func Small(m image.Image, side int) ([]byte, error) {
	b := m.Bounds()
	if k := float64(side) / float64(max(b.Dx(), b.Dy())); k < 1 {
		out := image.NewRGBA(image.Rect(0, 0, max(1, int(float64(b.Dx())*k)), max(1, int(float64(b.Dy())*k))))
		draw.ApproxBiLinear.Scale(out, out.Rect, m, b, draw.Src, nil)
		m = out
	}
	var buf bytes.Buffer
	err := jpeg.Encode(&buf, m, &jpeg.Options{Quality: 85})
	return buf.Bytes(), err
}
