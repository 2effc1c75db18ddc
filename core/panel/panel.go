// Package panel answers "what is on the panel?": it lays the line image on the
// sheet, finds which cell each area of a card means, which areas touch, and
// how their washes look wet, dry and in grey.
package panel

import (
	"context"
	"errors"
	"fmt"
	"image"
	"math"

	"golang.org/x/image/draw"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/lineart"
)

// Resolutions the panel is composed at: the image's own, within these.
const (
	MinDPI = 150
	MaxDPI = 600
)

// paperGrey is the level lineart.Flatten gives bare paper.
const paperGrey = 240

// ErrOffPanel means that no part of the line lies on the panel.
var ErrOffPanel = errors.New("the image lies wholly off the panel; move it back or press Centre")

// Compose lays the card's line image, given as its scan, on a blank sheet of
// the panel's size and returns the sheet with its resolution. What overhangs
// is cut off.
func Compose(c *card.Card, scan *image.Gray) (*image.Gray, float64, error) {
	l := c.Line
	if l == nil {
		return nil, 0, errors.New("the card has no line image yet")
	}
	if scan.Bounds().Dx() != l.WidthPX || scan.Bounds().Dy() != l.HeightPX {
		return nil, 0, fmt.Errorf("the stored image is %d × %d pixels, the card speaks of %d × %d; place the image again", scan.Bounds().Dx(), scan.Bounds().Dy(), l.WidthPX, l.HeightPX)
	}
	own := l.DPI()
	if own < lineart.MinDPI || own > lineart.MaxDPI {
		return nil, 0, fmt.Errorf("at %s wide the scan would have %.0f dpi; that cannot be its real width, measure the image again", l.Width.With(c.Unit), own)
	}
	flat, err := lineart.Flatten(scan, own)
	if err != nil {
		return nil, 0, err
	}
	dpi := min(MaxDPI, max(MinDPI, own))
	px := func(v length.Length) int { return int(math.Round(v.MM() / 25.4 * dpi)) }
	p := c.PanelSize()
	w, h := px(p.W), px(p.H)
	if h > 0 && w > lineart.MaxPixels/h {
		return nil, 0, lineart.ErrTooLarge
	}
	sheet := image.NewGray(image.Rect(0, 0, w, h))
	for i := range sheet.Pix {
		sheet.Pix[i] = paperGrey
	}
	at := image.Rect(px(l.X), px(l.Y), px(l.X)+px(l.Width), px(l.Y)+px(l.Height()))
	if at.Intersect(sheet.Rect).Empty() {
		return nil, 0, ErrOffPanel
	}
	switch {
	case dpi == own:
		paste(sheet, flat, at.Min)
	case dpi < own:
		draw.ApproxBiLinear.Scale(sheet, at, shrink(flat, int(own/dpi)), shrunk(flat, int(own/dpi)), draw.Src, nil)
	default:
		draw.CatmullRom.Scale(sheet, at, flat, flat.Rect, draw.Src, nil)
	}
	drawMarks(sheet, l, dpi)
	return sheet, dpi, nil
}

// onPanel is a point of the line's image on the panel, mm from its top left
// corner.
func onPanel(l *card.Line, p card.UV) lineart.Point {
	w := l.Width.MM()
	return lineart.Point{X: l.X.MM() + p.U*w, Y: l.Y.MM() + p.V*w}
}

// onImage is the reverse of onPanel.
func onImage(l *card.Line, p lineart.Point) card.UV {
	w := l.Width.MM()
	round := func(v float64) float64 { return math.Round(v*1e5) / 1e5 } // a hundredth of a millimetre is enough
	return card.UV{U: round((p.X - l.X.MM()) / w), V: round((p.Y - l.Y.MM()) / w)}
}

// penGrey is the level of a pen's stroke on the sheet.
const penGrey = 40

// drawMarks draws the maker's pen strokes on the sheet.
func drawMarks(sheet *image.Gray, l *card.Line, dpi float64) {
	px := dpi / 25.4
	for _, m := range l.Marks {
		if m.Kind != card.Pen {
			continue
		}
		for i, to := range m.Points[1:] {
			a, b := onPanel(l, m.Points[i]), onPanel(l, to)
			stroke(sheet, a.X*px, a.Y*px, b.X*px, b.Y*px, card.PenMM/2*px)
		}
	}
}

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

// paste copies src into dst with its top left corner at p; what overhangs is cut
// off. The general image/draw takes ten times as long for grey on grey.
func paste(dst, src *image.Gray, p image.Point) {
	at := src.Rect.Add(p).Intersect(dst.Rect)
	for y := at.Min.Y; y < at.Max.Y; y++ {
		copy(dst.Pix[dst.PixOffset(at.Min.X, y):dst.PixOffset(at.Max.X-1, y)+1], src.Pix[src.PixOffset(at.Min.X-p.X, y-p.Y):])
	}
}

// shrink averages k × k blocks, so that a bilinear step afterwards cannot miss
// a hairline.
func shrink(m *image.Gray, k int) *image.Gray {
	if k <= 1 {
		return m
	}
	out := image.NewGray(shrunk(m, k))
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

func shrunk(m *image.Gray, k int) image.Rectangle {
	return image.Rect(0, 0, m.Rect.Dx()/max(1, k), m.Rect.Dy()/max(1, k))
}

// Sheet is the line as it lies on the panel, read into cells. It depends on
// the panel's size and the line's place only, not on how cells are gathered.
type Sheet struct {
	*lineart.Drawing
	Grey   *image.Gray       // the composed sheet
	Edges  []float64         // length of each cell's outline, mm; Edges[i] for cell i+1
	Shapes []lineart.Outline // the cells grown under the line
}

// Read composes the card's panel from the scan of its line and finds the
// cells; see [Compose] and [lineart.Find].
func Read(ctx context.Context, c *card.Card, scan *image.Gray, progress lineart.Progress) (*Sheet, error) {
	grey, dpi, err := Compose(c, scan)
	if err != nil {
		return nil, err
	}
	d, err := lineart.FindCorrected(ctx, grey, dpi, corrections(c.Line), progress)
	if err != nil {
		return nil, err
	}
	s := &Sheet{Drawing: d, Grey: grey, Shapes: d.Shapes()}
	for _, o := range d.Outlines() {
		s.Edges = append(s.Edges, o.Length())
	}
	return s, nil
}

// corrections are those that concern cells rather than the line.
func corrections(l *card.Line) lineart.Corrections {
	by := lineart.Corrections{LeastMM2: l.Specks}
	for _, m := range l.Marks {
		if m.Kind == card.Join {
			by.Joined = append(by.Joined, [2]lineart.Point{onPanel(l, m.Points[0]), onPanel(l, m.Points[1])})
		}
	}
	return by
}

// Board is a card with its cells: what everything after the Line station
// computes from.
type Board struct {
	*Sheet
	Card     *card.Card
	Areas    []Area
	Owner    []int // area of each cell, -1 when free; Owner[i] for cell i+1
	Touching []Touch
}

// Area is one of the card's areas as it lies on the panel.
type Area struct {
	*card.Area
	Cells       []int // cell ids
	MM2         float64
	EdgeMM      float64       // total outline
	InscribedMM float64       // radius that fits its smallest cell
	Centre      lineart.Point // label point of its largest cell
	Lost        []card.Spot   // cells it speaks of that are no longer found
	tried       bool
}

// Touch is a pair of areas, as indices, that have cells in contact.
type Touch struct {
	A, B     int
	BorderMM float64
	LineMM   float64 // median thickness of the line between them
}

// Resolve finds the cells each area of c means on the sheet.
func Resolve(c *card.Card, s *Sheet) *Board {
	b := &Board{Card: c, Sheet: s, Owner: make([]int, len(s.Cells))}
	for i := range b.Owner {
		b.Owner[i] = -1
	}
	for i := range c.Areas {
		b.Areas = append(b.Areas, Area{Area: &c.Areas[i]})
	}
	// Spots that still lie on a cell come first; only then may the others take
	// what is left.
	for _, find := range []func(card.Spot) int{b.under, b.nearest} {
		for i := range b.Areas {
			a := &b.Areas[i]
			spots := a.Area.Cells
			if a.tried {
				spots = a.Lost
			}
			a.tried, a.Lost = true, nil
			for _, s := range spots {
				if id := find(s); id != 0 && b.Owner[id-1] < 0 {
					b.Owner[id-1] = i
					a.add(b.Cells[id-1], b.Edges[id-1])
				} else {
					a.Lost = append(a.Lost, s)
				}
			}
		}
	}
	b.Touching = b.touching()
	return b
}

func (a *Area) add(c lineart.Cell, edge float64) {
	if len(a.Cells) == 0 || c.InscribedMM < a.InscribedMM {
		a.InscribedMM = c.InscribedMM
	}
	if len(a.Cells) == 0 { // cells are kept largest first
		a.Centre = c.Label
	}
	a.Cells = append(a.Cells, c.ID)
	a.MM2 += c.AreaMM2
	a.EdgeMM += edge
}

// under returns the cell a spot lies on, 0 when that is none.
func (b *Board) under(s card.Spot) int { return b.At(b.point(s)) }

// nearest returns the free cell of much the same size whose label point is
// nearest to a spot that has come to lie on a line or off the panel; 0 when
// there is none near. The outside may lie far off: its label point wanders.
func (b *Board) nearest(s card.Spot) int {
	const reach = 6 // mm
	p := b.point(s)
	best, least := 0, math.Inf(1)
	for i, c := range b.Cells {
		if b.Owner[i] >= 0 || c.AreaMM2 < 0.6*s.MM2 || c.AreaMM2 > 1.7*s.MM2 {
			continue
		}
		if d := math.Hypot(c.Label.X-p.X, c.Label.Y-p.Y); d < least && (d < reach || c.Outside) {
			best, least = c.ID, d
		}
	}
	return best
}

// point returns where on the panel a spot lies, mm.
func (b *Board) point(s card.Spot) lineart.Point {
	l := b.Card.Line
	w := l.Width.MM()
	return lineart.Point{X: l.X.MM() + s.U*w, Y: l.Y.MM() + s.V*w}
}

// SpotOf returns the spot that points at a cell.
func (b *Board) SpotOf(id int) card.Spot {
	c := b.Cells[id-1]
	at := onImage(b.Card.Line, c.Label)
	return card.Spot{U: at.U, V: at.V, MM2: math.Round(c.AreaMM2*100) / 100}
}

// Assign makes cells belong to the area with that id, taking them from
// whichever area had them; with an empty id they become free. The board's card
// is changed; resolve it again to see the result.
func (b *Board) Assign(areaID string, cells []int) error {
	to := -1
	for i, a := range b.Card.Areas {
		if a.ID == areaID {
			to = i
		}
	}
	if to < 0 && areaID != "" {
		_, err := b.Card.AreaByID(areaID)
		return err
	}
	for _, id := range cells {
		if id < 1 || id > len(b.Cells) {
			return fmt.Errorf("there is no cell %d on this panel; the line was changed meanwhile, choose the cells again", id)
		}
	}
	for _, id := range cells {
		b.Owner[id-1] = to
	}
	for i := range b.Card.Areas {
		b.Card.Areas[i].Cells = []card.Spot{}
		if i < len(b.Areas) { // one that was just added has none yet
			b.Card.Areas[i].Cells = append(b.Card.Areas[i].Cells, b.Areas[i].Lost...)
		}
	}
	for i, owner := range b.Owner {
		if owner >= 0 {
			a := &b.Card.Areas[owner]
			a.Cells = append(a.Cells, b.SpotOf(i+1))
		}
	}
	return nil
}

// touching sums up the contacts between cells of different areas.
func (b *Board) touching() []Touch {
	at := map[[2]int]int{}
	var out []Touch
	for _, n := range b.Neighbours {
		x, y := b.Owner[n.A-1], b.Owner[n.B-1]
		if x < 0 || y < 0 || x == y {
			continue
		}
		k := [2]int{min(x, y), max(x, y)}
		i, ok := at[k]
		if !ok {
			i = len(out)
			at[k] = i
			out = append(out, Touch{A: k[0], B: k[1], LineMM: n.LineMed})
		}
		out[i].BorderMM += n.BorderMM
		out[i].LineMM = min(out[i].LineMM, n.LineMed)
	}
	return out
}

// Similar returns the free cells, and those of the same area, that are like
// the given one: within a third of its size and of much the same slenderness.
func (b *Board) Similar(id int) []int {
	if id < 1 || id > len(b.Cells) {
		return nil
	}
	ref := b.Cells[id-1]
	slender := func(c lineart.Cell) float64 { return c.InscribedMM / math.Sqrt(c.AreaMM2) }
	out := []int{id}
	for i, c := range b.Cells {
		if c.ID == id || c.Outside != ref.Outside || b.Owner[i] >= 0 && b.Owner[i] != b.Owner[id-1] {
			continue
		}
		size, shape := c.AreaMM2/ref.AreaMM2, slender(c)/slender(ref)
		if size > 0.67 && size < 1.5 && shape > 0.75 && shape < 1.33 {
			out = append(out, c.ID)
		}
	}
	return out
}
