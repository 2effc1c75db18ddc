package sheet

import (
	"context"
	"errors"
	"fmt"
	"io"

	"codeberg.org/go-pdf/fpdf"

	"chromaqua/core/guide"
	"chromaqua/core/length"
	"chromaqua/core/lineart"
	"chromaqua/core/mask"
	"chromaqua/core/panel"
)

// Guide is the templates of a piece's masks at true size: where fluid and tape lie on it,
// and what is cut of paper or film, nested on pages.
type Guide struct {
	Unit   length.Unit
	Title  string
	W, H   float64       // of the piece, mm
	Places []guide.Shape // laid on it, each where it lies
	Shapes []guide.Shape // cut out
	laid   []guide.Laid
	pages  int
}

// The part of a page that cut-outs are nested on, mm.
const guideW, guideH = 182.0, 232.0

// Guides gathers the templates of a board: guides for fluid a little inside the line, tape,
// paper and film at it. A board without masks has none.
func Guides(b *panel.Board) (*Guide, error) {
	size := b.Card.PanelSize()
	g := &Guide{Unit: b.Card.Unit, Title: b.Card.Name + ", masks", W: size.W.MM(), H: size.H.MM()}
	for i := range b.Reserves {
		r := &b.Reserves[i]
		way := r.Way.Or()
		if !way.Facts().Lays || way == mask.Spatter {
			continue
		}
		for _, o := range b.Template(r) {
			switch way {
			case mask.Fluid:
				o = guide.Inset(o, guide.Inside)
			case mask.Paper, mask.Film:
				g.Shapes = append(g.Shapes, guide.Shape{Name: r.Name, Many: 1, Outline: guide.Simplify(o, guide.Exact)})
			}
			g.Places = append(g.Places, guide.Shape{Name: r.Name, Outline: guide.Simplify(o, guide.Exact)})
		}
	}
	if len(g.Places) == 0 {
		return nil, errors.New("no mask is laid on this piece, so there is no template")
	}
	if len(g.Shapes) == 0 {
		return g, nil
	}
	var err error
	g.laid, g.pages, err = guide.Lay(context.Background(), g.Shapes, guideW, guideH)
	return g, err
}

// WritePDF writes a page with the piece and what is laid on it, and pages of cut-outs.
func (g *Guide) WritePDF(w io.Writer) error {
	p := newPDF("A4")
	p.SetTitle(g.Title, true)
	p.SetAutoPageBreak(false, 0)
	p.AddPageFormat("P", fpdf.SizeType{Wd: max(210, g.W+2*margin), Ht: max(297, g.H+2*margin+50)})
	heading(p, g.Title, 16)
	top := p.GetY() + 3
	p.SetLineWidth(0.2)
	p.Rect(margin, top, g.W, g.H, "D")
	for _, s := range g.Places {
		outlinePDF(p, s.Outline, margin, top)
	}
	scaleBar(p, g.Unit, margin, top+g.H+6)
	p.SetXY(margin, top+g.H+12)
	p.SetFont(figures, "", 11)
	p.MultiCell(0, 5.4, fmt.Sprintf("The piece, and where its masks lie. Guides for fluid lie %.1f mm inside the line, since it spreads; the others at it.", guide.Inside), "", "L", false)
	for page := range g.pages {
		p.AddPageFormat("P", fpdf.SizeType{Wd: 210, Ht: 297})
		heading(p, g.Title+", to be cut", 16)
		top := p.GetY() + 3
		p.SetLineWidth(0.2)
		for _, l := range g.laid {
			if l.Page == page {
				outlinePDF(p, g.Shapes[l.Shape].Outline, margin+l.DX, top+l.DY)
			}
		}
		scaleBar(p, g.Unit, margin, top+guideH+2)
	}
	return p.Output(w)
}

// outlinePDF draws an outline moved by so much, mm.
func outlinePDF(p *fpdf.Fpdf, o lineart.Outline, dx, dy float64) {
	for _, ring := range o.Rings {
		var points []fpdf.PointType
		for _, q := range ring {
			points = append(points, fpdf.PointType{X: dx + q.X, Y: dy + q.Y})
		}
		p.Polygon(points, "D")
	}
}

// WriteSVG writes what is cut, nested, for a cutter; where nothing is, the guides in place.
func (g *Guide) WriteSVG(w io.Writer) error {
	s := &svgWriter{w: w}
	wide, high := g.W, g.H
	if len(g.laid) > 0 {
		wide, high = guideW, guideH*float64(g.pages)
	}
	s.printf(`<svg xmlns="http://www.w3.org/2000/svg" width="%.3[1]fmm" height="%.3[2]fmm" viewBox="0 0 %.3[1]f %.3[2]f" fill="none" stroke="#1e2a3a" stroke-width="0.2"><title>`, wide, high)
	s.text(g.Title)
	s.printf("</title>\n")
	n := 0
	draw := func(shape guide.Shape, dx, dy float64) {
		n++
		s.printf(`<g id="mask-%d" transform="translate(%.3f %.3f)"><title>`, n, dx, dy)
		s.text(shape.Name)
		s.printf(`</title><path d="`)
		s.outline(shape.Outline)
		s.printf("\"/></g>\n")
	}
	for _, l := range g.laid {
		draw(g.Shapes[l.Shape], l.DX, l.DY+guideH*float64(l.Page))
	}
	if len(g.laid) == 0 {
		for _, shape := range g.Places {
			draw(shape, 0, 0)
		}
	}
	s.printf("</svg>\n")
	return s.err
}

// outline writes an outline as the data of a path, mm.
func (s *svgWriter) outline(o lineart.Outline) {
	for _, ring := range o.Rings {
		for k, q := range ring {
			s.printf("%s%.3f %.3f", map[bool]string{true: "M", false: "L"}[k == 0], q.X, q.Y)
		}
		s.printf("Z")
	}
}
