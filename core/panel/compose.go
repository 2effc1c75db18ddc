package panel

import (
	"context"
	"errors"
	"fmt"
	"image"
	"math"

	"golang.org/x/image/vector"

	"chromaqua/core/card"
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

// paperGrey is the level lineart.Flatten gives bare paper.
const paperGrey = 240

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
}

// Laid is an image as it lies on the panel.
type Laid struct {
	Silhouette lineart.Outline // what it covers, mm on the panel; only found when there are several
	Hidden     []int           // images in front that hide some of its line
	Off        bool            // it lies wholly off the panel
	MassMM2    float64         // of a solid
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
	for i := len(c.Images) - 1; i >= 0; i-- { // what is in front comes last
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
		return fmt.Errorf("%s: %w", m.Title, err)
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
			m.Pix[i] = paperGrey
		}
		return m
	}
	k.Found = sheet()
	k.Shown = k.Found
	for i := range k.card.Images {
		if k.tone(&k.card.Images[i]) != nil {
			k.Shown = sheet()
			break
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
				return fmt.Errorf("%s: %w", m.Title, err) // else nothing of it is inked
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
			k.masks[i] = fill(k.Found.Rect, here.Rings, func(p lineart.Point) (x, y float64) { return p.X * k.DPI / 25.4, p.Y * k.DPI / 25.4 })
		}
	}
	return nil
}

// fill returns the inside of rings on a sheet, cropped to where they lie on it.
func fill(sheet image.Rectangle, rings [][]lineart.Point, at func(lineart.Point) (x, y float64)) *image.Alpha {
	x0, y0, x1, y1 := math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)
	for _, ring := range rings {
		for _, p := range ring {
			x, y := at(p)
			x0, y0, x1, y1 = min(x0, x), min(y0, y), max(x1, x), max(y1, y)
		}
	}
	if !(x0 <= x1) {
		return nil
	}
	near := func(v float64) int { return int(max(-1, min(1<<17, v))) }
	box := image.Rect(near(x0), near(y0), near(x1)+1, near(y1)+1).Intersect(sheet)
	if box.Empty() {
		return nil
	}
	r := vector.NewRasterizer(box.Dx(), box.Dy())
	for _, ring := range rings {
		for i, p := range ring {
			x, y := at(p)
			x, y = x-float64(box.Min.X), y-float64(box.Min.Y)
			if i == 0 {
				r.MoveTo(float32(x), float32(y))
			} else {
				r.LineTo(float32(x), float32(y))
			}
		}
		r.ClosePath()
	}
	out := image.NewAlpha(box)
	r.Draw(out, box, image.Opaque, image.Point{})
	return out
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
		if bare := fill(flat.Rect, [][]lineart.Point{ring}, func(p lineart.Point) (x, y float64) { return p.X, p.Y }); bare != nil {
			flat = cleared(flat, bare)
		}
	}
	if m.Is(shelf.Stencil) {
		flat = edges(flat, m.DPI())
	}
	return flat
}

// penned is the picture of an image with the strokes of the pen that go with it.
func penned(src *image.Gray, m *card.Image) *image.Gray {
	if m.Strokes() == 0 {
		return src
	}
	out, wide := copied(src), float64(m.WidthPX)
	drawPen(out, m, m.DPI(), func(p card.UV) (x, y float64) { return p.U * wide, p.V * wide })
	return out
}

func copied(src *image.Gray) *image.Gray {
	out := image.NewGray(src.Rect)
	copy(out.Pix, src.Pix)
	return out
}

// cleared is a picture with bare paper where the mask is.
func cleared(src *image.Gray, mask *image.Alpha) *image.Gray {
	out := copied(src)
	clearUnder(out, mask)
	return out
}

func clearUnder(m *image.Gray, mask *image.Alpha) {
	for y := mask.Rect.Min.Y; y < mask.Rect.Max.Y; y++ {
		row := m.Pix[m.PixOffset(mask.Rect.Min.X, y):]
		for x, a := range mask.Pix[mask.PixOffset(mask.Rect.Min.X, y):][:mask.Rect.Dx()] {
			if a != 0 {
				row[x] += uint8((paperGrey - int(min(paperGrey, row[x]))) * int(a) / 255)
			}
		}
	}
}

// edgeMM is how wide the edge of a stencil's opening is drawn, mm.
const edgeMM = 0.3

// edges draws the edges between dark and light: where both are within half of
// edgeMM.
func edges(src *image.Gray, dpi float64) *image.Gray {
	r := max(1, int(math.Round(edgeMM/2*dpi/25.4)))
	w, h := src.Rect.Dx(), src.Rect.Dy()
	lo, hi := make([]uint8, w*h), make([]uint8, w*h)
	for y := range h {
		row := src.Pix[y*src.Stride:][:w]
		for x := range w {
			a, b := row[x], row[x]
			for _, v := range row[max(0, x-r):min(w, x+r+1)] {
				a, b = min(a, v), max(b, v)
			}
			lo[y*w+x], hi[y*w+x] = a, b
		}
	}
	out := image.NewGray(src.Rect)
	for y := range h {
		for x := range w {
			a, b := uint8(255), uint8(0)
			for j := max(0, y-r); j < min(h, y+r+1); j++ {
				a, b = min(a, lo[j*w+x]), max(b, hi[j*w+x])
			}
			out.Pix[y*out.Stride+x] = paperGrey - min(paperGrey, b-a)
		}
	}
	return out
}

// lay puts the ith image on the sheet.
func (k *composer) lay(i int) {
	m := &k.card.Images[i]
	src := k.sources[i]
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
	if mask := k.masks[i]; mask != nil {
		clearUnder(k.Found, mask)
		if k.Shown != k.Found {
			clearUnder(k.Shown, mask)
		}
	}
	for j := range i {
		if m.Inked() && k.masks[j] != nil && k.hides(k.masks[j], on) {
			k.Laid[i].Hidden = append(k.Laid[i].Hidden, j)
		}
	}
	if m.Is(shelf.SolidImage) {
		k.Laid[i].MassMM2 = float64(dark(on, at)) * (25.4 / k.DPI) * (25.4 / k.DPI)
	}
	darken(k.Found, on, at, nil)
	if k.Shown != k.Found {
		darken(k.Shown, on, at, k.tone(m))
	}
}

// inkGrey is the level below which a pixel counts as ink.
const inkGrey = 150

func dark(m *image.Gray, at image.Rectangle) (n int) {
	for y := at.Min.Y; y < at.Max.Y; y++ {
		for _, v := range m.Pix[m.PixOffset(at.Min.X, y):][:at.Dx()] {
			if v < inkGrey {
				n++
			}
		}
	}
	return n
}

// hiddenMM2 is how much ink has to lie under another image for a mask, mm².
const hiddenMM2 = 0.3

// hides reports whether a mask covers some of an image's ink.
func (k *composer) hides(mask *image.Alpha, on *image.Gray) bool {
	at := mask.Rect.Intersect(on.Rect)
	n := 0
	for y := at.Min.Y; y < at.Max.Y; y++ {
		row := on.Pix[on.PixOffset(at.Min.X, y):]
		for x, a := range mask.Pix[mask.PixOffset(at.Min.X, y):][:at.Dx()] {
			if a > 127 && row[x] < inkGrey {
				n++
			}
		}
	}
	return float64(n)*(25.4/k.DPI)*(25.4/k.DPI) > hiddenMM2
}

// darken lays src over dst as ink; tone, when there is one, is how dark it comes.
func darken(dst, src *image.Gray, at image.Rectangle, tone func(x, y int, v uint8) uint8) {
	for y := at.Min.Y; y < at.Max.Y; y++ {
		d := dst.Pix[dst.PixOffset(at.Min.X, y):][:at.Dx()]
		for x, v := range src.Pix[src.PixOffset(at.Min.X, y):][:at.Dx()] {
			if tone != nil {
				v = tone(at.Min.X+x, y, v)
			}
			d[x] = min(d[x], v)
		}
	}
}

// transformed lays a picture on the sheet turned, mirrored or scaled, with
// bilinear interpolation; it is averaged down first so that no hairline is
// missed. Only what lies on the sheet is made.
func (k *composer) transformed(m *card.Image, src *image.Gray) *image.Gray {
	step := max(1, int(m.DPI()/k.DPI))
	src = shrink(src, step)
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
			row[i] = bilinear(src, u0+x*(ux-u0)+y*(uy-u0), v0+x*(vx-v0)+y*(vy-v0))
		}
	}
	return out
}

// bilinear is the level of a picture at a place, pixels; off the picture is bare
// paper.
func bilinear(m *image.Gray, u, v float64) uint8 {
	u, v = u-0.5, v-0.5
	x, y := int(math.Floor(u)), int(math.Floor(v))
	at := func(x, y int) float64 {
		if x < 0 || y < 0 || x >= m.Rect.Dx() || y >= m.Rect.Dy() {
			return paperGrey
		}
		return float64(m.Pix[y*m.Stride+x])
	}
	fx, fy := u-float64(x), v-float64(y)
	top := at(x, y) + fx*(at(x+1, y)-at(x, y))
	low := at(x, y+1) + fx*(at(x+1, y+1)-at(x, y+1))
	return uint8(top + fy*(low-top) + 0.5)
}

// shrink averages k × k blocks.
func shrink(m *image.Gray, k int) *image.Gray {
	if k <= 1 {
		return m
	}
	out := image.NewGray(image.Rect(0, 0, m.Rect.Dx()/k, m.Rect.Dy()/k))
	for y := range out.Rect.Dy() {
		for x := range out.Rect.Dx() {
			sum := 0
			for j := range k {
				for _, v := range m.Pix[(y*k+j)*m.Stride+x*k:][:k] {
					sum += int(v)
				}
			}
			out.Pix[y*out.Stride+x] = uint8(sum / (k * k))
		}
	}
	return out
}

// How faint things come, as shares of the line's dark. A stamp that has been
// stamped off leaves about half of its ink each time.
const (
	stampedOff  = 0.5
	reliefShade = 0.14 // pressed paper casts a little shadow
	guideShade  = 0.2  // where a stencil is held or a die laid; nothing is printed
)

// GhostShare is the share of its ink a stamp leaves when it has been stamped off
// n times first, an estimate.
func GhostShare(n int) float64 { return math.Pow(stampedOff, float64(n)) }

// tone is how an image comes on the paper where that is not as its scan shows it.
func (k *composer) tone(m *card.Image) func(x, y int, v uint8) uint8 {
	share := GhostShare(m.Ghost)
	switch {
	case m.Is(shelf.ReliefImage):
		share = reliefShade
	case m.Is(shelf.Stencil), m.Is(shelf.DieImage):
		share = guideShade
	}
	fade := func(v uint8) uint8 { return uint8(paperGrey - share*float64(paperGrey-min(paperGrey, v))) }
	missed := k.card.PaperFacts().Texture.Misses(1)
	switch {
	case m.Is(shelf.SolidImage) && missed > 0:
		return func(x, y int, v uint8) uint8 {
			if v < inkGrey && grain(float64(x)*25.4/k.DPI, float64(y)*25.4/k.DPI) < missed {
				return paperGrey
			}
			return fade(v)
		}
	case share < 1:
		return func(_, _ int, v uint8) uint8 { return fade(v) }
	}
	return nil
}

// grainMM is the size of the grain of textured paper, mm.
const grainMM = 0.7

// grain is how high the paper's texture stands at a place, mm: 0 to 1, each share
// as often as another.
func grain(x, y float64) float64 {
	x, y = x/grainMM, y/grainMM
	i, j := math.Floor(x), math.Floor(y)
	fx, fy := x-i, y-j
	at := func(i, j float64) float64 {
		n := uint32(int32(i))*0x9E3779B1 ^ uint32(int32(j))*0x85EBCA77
		n ^= n >> 15
		n *= 0x2C1B3C6D
		n ^= n >> 13
		return float64(n) / (1 << 32)
	}
	// A sum of two grains, one half as fine, spread out again towards an even share.
	low := at(i, j)*(1-fx)*(1-fy) + at(i+1, j)*fx*(1-fy) + at(i, j+1)*(1-fx)*fy + at(i+1, j+1)*fx*fy
	return min(1, max(0, 0.5+(low-0.5)*1.6))
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
			stroke(to, x0, y0, x1, y1, card.PenMM/2*dpi/25.4)
		}
	}
}

// penGrey is the level of a pen's stroke on the sheet.
const penGrey = 40

// stroke draws a line with round ends of radius r, all in pixels.
func stroke(sheet *image.Gray, x0, y0, x1, y1, r float64) {
	box := image.Rect(int(min(x0, x1)-r)-1, int(min(y0, y1)-r)-1, int(max(x0, x1)+r)+2, int(max(y0, y1)+r)+2).Intersect(sheet.Rect)
	dx, dy := x1-x0, y1-y0
	long2 := dx*dx + dy*dy
	for y := box.Min.Y; y < box.Max.Y; y++ {
		for x := box.Min.X; x < box.Max.X; x++ {
			px, py := float64(x)+0.5-x0, float64(y)+0.5-y0
			t := 0.0
			if long2 > 0 {
				t = min(1, max(0, (px*dx+py*dy)/long2))
			}
			cover := r + 0.5 - math.Hypot(px-t*dx, py-t*dy)
			if cover <= 0 {
				continue
			}
			i := sheet.PixOffset(x, y)
			old := float64(sheet.Pix[i])
			sheet.Pix[i] = uint8(old + min(1, cover)*(min(old, penGrey)-old))
		}
	}
}
