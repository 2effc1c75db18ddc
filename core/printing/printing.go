// Package printing answers "how does a line come onto the painting paper through a
// printer?": on which sheet each piece lies and where it is cut out, what the printer
// does not reach, and how much larger it has to print for the line to be of true size.
package printing

import (
	"context"
	"errors"
	"fmt"
	"slices"

	"chromaqua/core/cutting"
	"chromaqua/core/length"
	"chromaqua/core/wording"
)

// Tone is how dark a line is printed.
type Tone string

// The tones. Pale is for a line that the paint is to swallow.
const (
	Black Tone = "black"
	Grey  Tone = "grey"
	Sepia Tone = "sepia"
	Pale  Tone = "very pale"
)

// Tones lists them, the usual first.
func Tones() []Tone { return []Tone{Black, Grey, Sepia, Pale} }

// Grain is how the grain of the paper in the printer runs.
type Grain string

// The ways.
const (
	GrainUnknown Grain = ""
	GrainLong    Grain = "long side"
	GrainShort   Grain = "short side"
)

// A Page is a size of paper that printers take.
type Page struct {
	ID, Name string
	Size     length.Size
}

// Own is the page of whoever cuts the paper before it is printed: each piece is one.
const Own = "own"

// Pages lists the sizes, the usual of each unit first.
func Pages(u length.Unit) []Page {
	const mm = length.Millimetre
	metric := []Page{{"a4", "ISO A4", length.Size{W: 210 * mm, H: 297 * mm}}, {"a5", "ISO A5", length.Size{W: 148 * mm, H: 210 * mm}}}
	inch := []Page{{"letter", "US letter", length.Size{W: 17 * length.Inch / 2, H: 11 * length.Inch}}, {"half", "half US letter", length.Size{W: 11 * length.Inch / 2, H: 17 * length.Inch / 2}}}
	all := slices.Concat(metric, inch)
	if u == length.Inches {
		all = slices.Concat(inch, metric)
	}
	return append(all, Page{Own, "each piece on its own paper", length.Size{}})
}

// Limits and usual figures of a printer.
const (
	UsualEdge = 5 * length.Millimetre // which most printers do not reach, an estimate
	MaxEdge   = 30 * length.Millimetre
	BarMM     = 100.0 // length of the bar that tells a printer's scale
	MinBar    = 80.0  // of that bar as measured, mm
	MaxBar    = 120.0
	MaxParts  = 200 // that are printed at once

	apart = 10 // mm between two pieces, for their crop marks
	strip = 16 // mm at the foot of a sheet for its bar
)

// Job is what is to be printed how.
type Job struct {
	Page   string
	Edge   length.Length // that the printer does not reach, all round
	Grain  Grain
	Tone   Tone
	Mirror bool    // for a transfer, which turns it round again
	Bar    float64 // mm that the bar of 100 mm measured on this printer; 0 when nobody has
}

// Usual is how a line is printed until the maker says otherwise.
func Usual(u length.Unit) Job {
	j := Job{Page: Pages(u)[0].ID, Edge: UsualEdge, Tone: Black}
	if u == length.Inches {
		j.Edge = 3 * length.Inch / 16
	}
	return j
}

// Check reports the first thing wrong.
func (j Job) Check() error {
	switch {
	case !slices.ContainsFunc(Pages(length.Inches), func(p Page) bool { return p.ID == j.Page }):
		return fmt.Errorf("%.20q is no paper for a printer; choose one that is listed", j.Page)
	case j.Edge < 0 || j.Edge > MaxEdge:
		return fmt.Errorf("a printer leaves 0 to %.0f mm of the paper's edge; the test page shows what yours leaves", MaxEdge.MM())
	case j.Grain != GrainUnknown && j.Grain != GrainLong && j.Grain != GrainShort:
		return fmt.Errorf("grain runs along the long or the short side, not along %.20q", string(j.Grain))
	case !slices.Contains(Tones(), j.Tone):
		return fmt.Errorf("%.20q is no tone of a line; choose one that is listed", string(j.Tone))
	case j.Bar != 0 && !(j.Bar >= MinBar && j.Bar <= MaxBar):
		return fmt.Errorf("the bar of 100 mm measures %.0f to %.0f mm on any printer; measure it on the test page", MinBar, MaxBar)
	}
	return nil
}

// Scale is how much larger all has to be for it to come out at its true size.
func (j Job) Scale() float64 {
	if j.Bar == 0 {
		return 1
	}
	return BarMM / j.Bar
}

// page is the paper in the printer.
func (j Job) page() Page {
	all := Pages(length.Inches)
	return all[slices.IndexFunc(all, func(p Page) bool { return p.ID == j.Page })]
}

// A Part is one piece as it is cut before it is worked on.
type Part struct {
	Name  string
	Size  length.Size
	Many  int
	Fold  bool // it is folded along its height, which the grain has to run along
	Drawn Box  // of what is printed on it, from its top left corner, mm
}

// Box is a rectangle, mm; one without a width is empty.
type Box struct{ X0, Y0, X1, Y1 float64 }

// Wide is how wide a box is, mm.
func (b Box) Wide() float64 { return max(0, b.X1-b.X0) }

// High is how high a box is, mm.
func (b Box) High() float64 { return max(0, b.Y1-b.Y0) }

// Sheet is one sheet of paper with what is printed on it.
type Sheet struct {
	Size    length.Size
	Own     bool // it is the piece itself: there is nothing to cut out
	Placed  []Placed
	Reached Box // by the printer
	Bar     Box // that tells its scale; empty where there is no room for it
}

// Placed is one part on a sheet, as large as it is printed, by its top left corner, mm.
type Placed struct {
	Part   int
	X, Y   float64
	W, H   float64
	Turned bool // by a quarter, clockwise
}

// Plan is how parts are printed.
type Plan struct {
	Job
	Parts  []Part
	Sheets []Sheet
	Notes  []string // what to mind, in words
}

var errNothing = errors.New("there is no line to print on any piece; put an image on one, or words that are printed")

// Lay lays parts on sheets, as few as it takes. It fails when a part does not find room,
// with what to do.
func Lay(ctx context.Context, j Job, parts []Part, u length.Unit) (*Plan, error) {
	if err := j.Check(); err != nil {
		return nil, err
	}
	many := 0
	for _, p := range parts {
		many += p.Many
	}
	if many == 0 {
		return nil, errNothing
	}
	if many > MaxParts {
		return nil, fmt.Errorf("%d pieces are more than the %d that are printed at once; print some of them", many, MaxParts)
	}
	p := &Plan{Job: j, Parts: parts}
	var err error
	if j.Page == Own {
		p.each(u)
	} else {
		err = p.together(ctx, u)
	}
	if err != nil {
		return nil, err
	}
	if s := j.Scale(); s != 1 {
		p.Notes = append(p.Notes, fmt.Sprintf("All is printed at %.1f %% for your printer, by its bar of %.1f mm.", 100*s, j.Bar))
	} else if j.Bar == 0 {
		p.Notes = append(p.Notes, "Nobody has measured this printer's bar yet: print the test page first, at 100 %, not fitted to the page.")
	}
	return p, nil
}

// each puts every part on a sheet of its own size.
func (p *Plan) each(u length.Unit) {
	s, edge := p.Scale(), p.Edge.MM()
	for i, q := range p.Parts {
		w, h := q.Size.W.MM(), q.Size.H.MM()
		reached := Box{edge, edge, w - edge, h - edge}
		for range q.Many {
			p.Sheets = append(p.Sheets, Sheet{Size: q.Size, Own: true, Placed: []Placed{{Part: i, W: w * s, H: h * s}}, Reached: reached})
		}
		if d := q.Drawn; d.X1 > d.X0 && (d.X0*s < reached.X0 || d.Y0*s < reached.Y0 || d.X1*s > reached.X1 || d.Y1*s > reached.Y1) {
			p.Notes = append(p.Notes, fmt.Sprintf("The line of %s reaches into the %s at the edge that the printer leaves white. Print it on a larger page and cut it out, or move it inwards.", q.Name, p.Edge.Near(u)))
		}
	}
}

// together packs parts on sheets of one size.
func (p *Plan) together(ctx context.Context, u length.Unit) error {
	page, edge, s := p.page(), p.Edge.MM(), p.Scale()
	paper := page.Size
	w, h := paper.W.MM()-2*edge, paper.H.MM()-2*edge-strip
	in := &cutting.Instance{Name: "print", Stock: []cutting.Stock{{ID: "page", Type: "page", W: nm(w), H: nm(h), Qty: MaxParts, Grain: p.grain(), Cost: 1}}}
	for i, q := range p.Parts {
		if q.Many == 0 {
			continue
		}
		part := cutting.Part{ID: fmt.Sprint(i), Type: "page", W: nm(q.Size.W.MM()*s + apart), H: nm(q.Size.H.MM()*s + apart), Qty: q.Many, Rotate: true, Grain: cutting.Any}
		if q.Fold && p.Grain != GrainUnknown {
			part.Grain = cutting.AlongH
		}
		if !finds(in.Stock[0], part) {
			return fmt.Errorf("%s, %s, does not find room on %s beside its crop marks and the edge that the printer leaves%s; take a larger page, or print each piece on its own paper",
				q.Name, q.Size.With(u), page.Name, map[bool]string{true: ", with its grain along the fold"}[part.Grain == cutting.AlongH])
		}
		in.Parts = append(in.Parts, part)
	}
	made, err := cutting.Solve(ctx, in, cutting.Budget{Tries: 20, Seed: 1})
	if err != nil {
		return fmt.Errorf("the pieces cannot be laid on %s: %w", page.Name, err)
	}
	for _, sh := range made.Sheets {
		out := Sheet{Size: paper, Reached: Box{edge, edge, paper.W.MM() - edge, paper.H.MM() - edge}}
		foot := paper.H.MM() - edge - strip/2
		out.Bar = Box{edge + 2, foot - 1.2, edge + 2 + BarMM*s, foot + 1.2}
		if out.Bar.X1 > out.Reached.X1 {
			out.Bar = Box{}
		}
		for _, pl := range sh.Placements {
			i := slices.IndexFunc(in.Parts, func(q cutting.Part) bool { return q.ID == pl.Part })
			var of int
			if _, err := fmt.Sscan(pl.Part, &of); err != nil {
				return fmt.Errorf("the pieces cannot be laid on %s: %w", page.Name, err)
			}
			out.Placed = append(out.Placed, Placed{
				Part: of, X: edge + mm(pl.X) + apart/2, Y: edge + h - mm(pl.Y+pl.H) + apart/2,
				W: mm(pl.W) - apart, H: mm(pl.H) - apart, Turned: pl.W != in.Parts[i].W,
			})
		}
		p.Sheets = append(p.Sheets, out)
	}
	if p.Grain == GrainUnknown && slices.ContainsFunc(p.Parts, func(q Part) bool { return q.Fold && q.Many > 0 }) {
		p.Notes = append(p.Notes, "What is folded has to lie with the grain along its fold: say how the grain of this paper runs, by bending it both ways.")
	}
	return nil
}

// grain is that of a page whose height is its long side.
func (p *Plan) grain() cutting.Grain {
	switch p.Grain {
	case GrainLong:
		return cutting.AlongY
	case GrainShort:
		return cutting.AlongX
	}
	return cutting.NoGrain
}

// finds reports whether a part finds room on a page by itself.
func finds(s cutting.Stock, q cutting.Part) bool {
	upright := q.W <= s.W && q.H <= s.H && (q.Grain != cutting.AlongH || s.Grain == cutting.AlongY)
	across := q.H <= s.W && q.W <= s.H && (q.Grain != cutting.AlongH || s.Grain == cutting.AlongX)
	return upright || across
}

// Says sums a plan up: "3 pieces on 2 sheets of ISO A4".
func (p *Plan) Says() string {
	many := 0
	for _, q := range p.Parts {
		many += q.Many
	}
	if p.Page == Own {
		return wording.Count(many, "piece") + ", each on its own paper"
	}
	return fmt.Sprintf("%s on %s of %s", wording.Count(many, "piece"), wording.Count(len(p.Sheets), "sheet"), p.page().Name)
}

func nm(v float64) int64 { return int64(length.FromMM(v)) }
func mm(v int64) float64 { return length.Length(v).MM() }
