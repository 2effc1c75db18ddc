package panel

import (
	"context"
	"errors"
	"fmt"
	"image"
	"math"
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/grey"
	"chromaqua/core/length"
	"chromaqua/core/lineart"
	"chromaqua/core/shelf"
)

// Resolutions the panel is composed at: that of its image within these, of the
// finest of several up to what cells are found at.
const (
	MinDPI     = 150
	MaxDPI     = 600
	SeveralDPI = 300
)

// ErrOffPanel means that no part of any image lies on the panel.
var ErrOffPanel = errors.New("the image lies wholly off the panel; move it back or press Centre")

// Scans are the pictures of a card's images by their SHA-256.
type Scans map[string]*image.Gray

// Composed is what lies on a panel.
type Composed struct {
	Found *image.Gray // every line in full, to find cells in
	Shown *image.Gray // what is seen on the paper; the same picture when nothing is faint
	DPI   float64
	Laid  []Laid // by image of the card

	mass  []int8   // the image whose mass each pixel is, from 1; nil where none is worked
	inked []images // which images darken each pixel of Found; nil for a single one
}

// Laid is an image as it lies on the panel.
type Laid struct {
	Silhouette lineart.Outline // what it covers, mm on the panel; only found when there are several
	Hidden     []int           // images in front that hide some of its line
	Off        bool            // it lies wholly off the panel
	MassMM2    float64         // of a solid
	OverMM     float64         // how far its ink reaches over the panel's edge
}

// Compose lays the card's images on a blank sheet of the panel's size, those in
// front over those behind, whose lines they hide. What overhangs is cut off.
func Compose(ctx context.Context, c *card.Card, scans Scans) (*Composed, error) {
	if c.Line() == nil {
		return nil, errors.New("the card has no line image yet")
	}
	k := composer{card: c, flat: map[flatKey]*image.Gray{}, masks: make([]*image.Alpha, len(c.Images))}
	k.Laid = make([]Laid, len(c.Images))
	for i := range c.Images {
		if err := k.flatten(&c.Images[i], scans); err != nil {
			return nil, err
		}
		k.sources = append(k.sources, k.source(&c.Images[i]))
	}
	if err := k.blank(); err != nil {
		return nil, err
	}
	if len(c.Images) > 1 {
		if err := k.silhouettes(ctx); err != nil {
			return nil, err
		}
	}
	off := 0
	for _, i := range k.inTurn() {
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		if k.lay(i); k.Laid[i].Off {
			off++
		}
	}
	if off == len(c.Images) {
		return nil, ErrOffPanel
	}
	for i := range c.Images {
		k.pen(&c.Images[i])
	}
	return &k.Composed, nil
}

// inTurn lists the images as they are laid on the sheet: those that lie behind first,
// for what is in front hides them, and last those that are put over others as they are.
func (k *composer) inTurn() (out []int) {
	for i := range slices.Backward(k.card.Images) {
		if !k.over(i) {
			out = append(out, i)
		}
	}
	for i := range k.card.Images {
		if k.over(i) {
			out = append(out, i)
		}
	}
	return out
}

// over reports whether an image is put over another, which nothing masks then.
func (k *composer) over(i int) bool {
	return slices.ContainsFunc(k.card.Over, func(o card.Over) bool {
		_, err := k.card.ImageByID(string(o.Below))
		return string(o.Above) == k.card.Images[i].ID && err == nil
	})
}

// composer lays images on the sheet.
type composer struct {
	Composed
	card  *card.Card
	flat  map[flatKey]*image.Gray
	masks []*image.Alpha // on the sheet, by image; nil where nothing is hidden

	sources []*image.Gray // by image: its flattened scan as it takes ink
}

// flatKey is what a flattened scan depends on.
type flatKey struct {
	image string
	width length.Length
}

func (k *composer) flatOf(m *card.Image) *image.Gray { return k.flat[flatKey{m.Image, m.Width}] }

// An ImageError says which of several images cannot be read.
type ImageError struct {
	ID, Title string
	Err       error
}

func (e *ImageError) Error() string { return e.Title + ": " + e.Err.Error() }
func (e *ImageError) Unwrap() error { return e.Err }

// flatten evens out the light of an image's scan.
func (k *composer) flatten(m *card.Image, scans Scans) error {
	if k.flatOf(m) != nil {
		return nil
	}
	scan := scans[m.Image]
	if scan == nil {
		return fmt.Errorf("the picture of %q is missing; place the image again", m.Title)
	}
	if scan.Bounds().Dx() != m.WidthPX || scan.Bounds().Dy() != m.HeightPX {
		return fmt.Errorf("the stored image is %d × %d pixels, the card speaks of %d × %d; place the image again", scan.Bounds().Dx(), scan.Bounds().Dy(), m.WidthPX, m.HeightPX)
	}
	own := m.DPI()
	if own < lineart.MinDPI || own > lineart.MaxDPI {
		return fmt.Errorf("at %s wide the scan of %q would have %.0f dpi; that cannot be its real width, measure the image again", m.Width.With(k.card.Unit), m.Title, own)
	}
	flat, err := lineart.Flatten(scan, own)
	if err != nil && len(k.card.Images) > 1 {
		return &ImageError{m.ID, m.Title, err}
	}
	k.flat[flatKey{m.Image, m.Width}] = flat
	finest := float64(MaxDPI)
	if len(k.card.Images) > 1 {
		finest = SeveralDPI
	}
	k.DPI = min(finest, max(MinDPI, k.DPI, own))
	return err
}

// blank makes the bare sheets; there are two when something on the panel is
// fainter than its line.
func (k *composer) blank() error {
	p := k.card.PanelSize()
	w, h := k.px(p.W), k.px(p.H)
	if h > 0 && w > lineart.MaxPixels/h {
		return lineart.ErrTooLarge
	}
	sheet := func() *image.Gray {
		m := image.NewGray(image.Rect(0, 0, w, h))
		for i := range m.Pix {
			m.Pix[i] = grey.Paper
		}
		return m
	}
	k.Found = sheet()
	k.Shown = k.Found
	if len(k.card.Images) > 1 {
		k.inked = make([]images, w*h)
	}
	for i := range k.card.Images {
		m := &k.card.Images[i]
		worked := k.card.Worked(m)
		if worked && k.mass == nil {
			k.mass = make([]int8, w*h)
		}
		if (worked || k.tone(m) != nil) && k.Shown == k.Found {
			k.Shown = sheet()
		}
	}
	return nil
}

func (k *composer) px(l length.Length) int { return int(math.Round(l.MM() / 25.4 * k.DPI)) }

// silhouettes finds what each image covers, and so hides.
func (k *composer) silhouettes(ctx context.Context) error {
	type key struct {
		flatKey
		made string // what it is made with, and its marks
	}
	found := map[key]lineart.Outline{}
	for i := range k.card.Images {
		m := &k.card.Images[i]
		at := key{flatKey{m.Image, m.Width}, fmt.Sprint(m.Kind, m.Marks)}
		own, ok := found[at]
		if !ok {
			d, err := lineart.Find(ctx, penned(k.sources[i], m), m.DPI(), nil)
			switch {
			case ctx.Err() != nil:
				return ctx.Err()
			case err == nil:
				own = d.Silhouette()
			case !errors.Is(err, lineart.ErrBlank) || k.sources[i] == k.flatOf(m):
				return &ImageError{m.ID, m.Title, err} // else nothing of it is inked
			}
			found[at] = own
		}
		w := m.Width.MM()
		var here lineart.Outline
		for _, ring := range own.Rings {
			var turned []lineart.Point
			for _, p := range ring {
				turned = append(turned, OnPanel(m, card.UV{U: p.X / w, V: p.Y / w}))
			}
			here.Rings = append(here.Rings, turned)
		}
		k.Laid[i].Silhouette = here
		if m.Inked() {
			k.masks[i] = grey.Fill(k.Found.Rect, here.Rings, func(p lineart.Point) (x, y float64) { return p.X * k.DPI / 25.4, p.Y * k.DPI / 25.4 })
		}
	}
	return nil
}

// source is the flattened scan of an image as it takes ink: without what is kept
// bare, and as the edges of its openings when it is a stencil.
func (k *composer) source(m *card.Image) *image.Gray {
	flat := k.flatOf(m)
	wide := float64(m.WidthPX)
	for _, mark := range m.Marks {
		if mark.Kind != card.Bare {
			continue
		}
		var ring []lineart.Point
		for _, p := range mark.Points {
			ring = append(ring, lineart.Point{X: p.U * wide, Y: p.V * wide})
		}
		if bare := grey.Fill(flat.Rect, [][]lineart.Point{ring}, func(p lineart.Point) (x, y float64) { return p.X, p.Y }); bare != nil {
			flat = grey.Cleared(flat, bare)
		}
	}
	if m.Is(shelf.Stencil) || m.Is(shelf.ResistImage) {
		flat = grey.Edges(flat, max(1, int(math.Round(edgeMM/2*m.DPI()/25.4))))
	}
	return flat
}

// penned is the picture of an image with the strokes of the pen that go with it.
func penned(src *image.Gray, m *card.Image) *image.Gray {
	if m.Strokes() == 0 {
		return src
	}
	out, wide := grey.Copy(src), float64(m.WidthPX)
	drawPen(out, m, m.DPI(), func(p card.UV) (x, y float64) { return p.U * wide, p.V * wide })
	return out
}

// edgeMM is how wide the edge of a stencil's opening is drawn, and of a worked mass, mm.
const edgeMM = 0.3

// lay puts the ith image on the sheet.
func (k *composer) lay(i int) {
	m := &k.card.Images[i]
	src := k.sources[i]
	k.Laid[i].OverMM = overhang(m, src, k.card.PanelSize())
	turned := m.Turn != 0 || m.Mirror || m.DPI() != k.DPI
	var on *image.Gray
	if turned {
		on = k.transformed(m, src)
	} else {
		on = &image.Gray{Pix: src.Pix, Stride: src.Stride, Rect: src.Rect.Add(image.Pt(k.px(m.X), k.px(m.Y)))}
	}
	at := on.Rect.Intersect(k.Found.Rect)
	if at.Empty() {
		k.Laid[i].Off = true
		return
	}
	over := k.over(i)
	if mask := k.masks[i]; mask != nil && !over {
		k.uninked(mask)
		grey.Clear(k.Found, mask)
		if k.Shown != k.Found {
			grey.Clear(k.Shown, mask)
		}
	}
	for j := range i {
		if !over && !k.over(j) && m.Inked() && k.masks[j] != nil && k.hides(k.masks[j], on) {
			k.Laid[i].Hidden = append(k.Laid[i].Hidden, j)
		}
	}
	if m.Is(shelf.SolidImage) {
		k.Laid[i].MassMM2 = float64(grey.Dark(on, at)) * (25.4 / k.DPI) * (25.4 / k.DPI)
	}
	k.ink(i, on, at)
	found := on
	if k.card.Worked(m) { // a cell is what its edge goes round
		k.massOf(i, on, at)
		found = grey.Edges(on, max(1, int(math.Round(edgeMM/2*k.DPI/25.4))))
	}
	grey.Darken(k.Found, found, at, nil)
	if k.Shown != k.Found {
		grey.Darken(k.Shown, on, at, k.tone(m))
	}
}

// massOf remembers where the mass of an image lies.
func (k *composer) massOf(i int, on *image.Gray, at image.Rectangle) {
	for y := at.Min.Y; y < at.Max.Y; y++ {
		row := on.Pix[on.PixOffset(at.Min.X, y):][:at.Dx()]
		to := k.mass[y*k.Found.Rect.Dx()+at.Min.X:]
		for x, v := range row {
			if v < grey.Ink {
				to[x] = int8(i + 1)
			}
		}
	}
}

// overhang is how far ink of an image's picture reaches over the edge of a panel, mm. An
// empty corner of the picture does not count.
func overhang(m *card.Image, src *image.Gray, p length.Size) (mm float64) {
	const every = 0.2 // mm
	over := func(q lineart.Point) float64 { return max(0, -q.X, -q.Y, q.X-p.W.MM(), q.Y-p.H.MM()) }
	far := 0.0
	for _, q := range Corners(m) {
		far = max(far, over(q))
	}
	if far < every {
		return 0
	}
	wide := float64(m.WidthPX)
	step := max(1, int(every*m.DPI()/25.4))
	for y := 0; y < src.Rect.Dy(); y += step {
		row := src.Pix[y*src.Stride:][:src.Rect.Dx()]
		for x := 0; x < len(row); x += step {
			if row[x] < grey.Ink {
				mm = max(mm, over(OnPanel(m, card.UV{U: float64(x) / wide, V: float64(y) / wide})))
			}
		}
	}
	return mm
}

// hiddenMM2 is how much ink has to lie under another image for a mask, mm².
const hiddenMM2 = 0.3

// hides reports whether a mask covers some of an image's ink.
func (k *composer) hides(mask *image.Alpha, on *image.Gray) bool {
	n := grey.Covered(mask, on)
	return float64(n)*(25.4/k.DPI)*(25.4/k.DPI) > hiddenMM2
}

// transformed lays a picture on the sheet turned, mirrored or scaled, with
// bilinear interpolation; it is averaged down first so that no hairline is
// missed. Only what lies on the sheet is made.
func (k *composer) transformed(m *card.Image, src *image.Gray) *image.Gray {
	step := max(1, int(m.DPI()/k.DPI))
	src = grey.Shrink(src, step)
	box := image.Rectangle{}
	for i, p := range Corners(m) {
		x, y := int(math.Floor(p.X*k.DPI/25.4)), int(math.Floor(p.Y*k.DPI/25.4))
		corner := image.Rect(x, y, x+2, y+2)
		if i == 0 {
			box = corner
		}
		box = box.Union(corner)
	}
	out := image.NewGray(box.Intersect(k.Found.Rect))
	// A step of one pixel on the sheet is the same everywhere on the scan.
	wide := float64(m.WidthPX) / float64(step)
	mm := 25.4 / k.DPI
	from := func(x, y float64) (u, v float64) {
		at := share(m, lineart.Point{X: x * mm, Y: y * mm})
		return at.U * wide, at.V * wide
	}
	u0, v0 := from(0, 0)
	ux, vx := from(1, 0)
	uy, vy := from(0, 1)
	for y := out.Rect.Min.Y; y < out.Rect.Max.Y; y++ {
		row := out.Pix[out.PixOffset(out.Rect.Min.X, y):]
		for i := range out.Rect.Dx() {
			x, y := float64(out.Rect.Min.X+i)+0.5, float64(y)+0.5
			row[i] = grey.At(src, u0+x*(ux-u0)+y*(uy-u0), v0+x*(vx-v0)+y*(vy-v0))
		}
	}
	return out
}

// pen draws the maker's strokes on the sheet where an image lies.
func (k *composer) pen(m *card.Image) {
	at := func(p card.UV) (x, y float64) {
		q := OnPanel(m, p)
		return q.X * k.DPI / 25.4, q.Y * k.DPI / 25.4
	}
	drawPen(k.Found, m, k.DPI, at)
	if k.Shown != k.Found {
		drawPen(k.Shown, m, k.DPI, at)
	}
}

// drawPen draws the strokes of an image on a picture; at is where a point of the
// image lies on it, pixels.
func drawPen(to *image.Gray, m *card.Image, dpi float64, at func(card.UV) (x, y float64)) {
	for _, mark := range m.Marks {
		if mark.Kind != card.Pen {
			continue
		}
		for i, end := range mark.Points[1:] {
			x0, y0 := at(mark.Points[i])
			x1, y1 := at(end)
			grey.Stroke(to, x0, y0, x1, y1, card.PenMM/2*dpi/25.4)
		}
	}
}
