// Package cut is the cut sheet: cards cut from the paper on hand.
package cut

import (
	"cmp"
	"embed"
	"errors"
	"fmt"
	"html/template"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"

	"chromaqua/core/cutting"
	"chromaqua/core/length"
	"chromaqua/core/paper"
	"chromaqua/core/wording"
	"chromaqua/internal/desk"
	"chromaqua/internal/sheet"
	"chromaqua/internal/store"
	"chromaqua/internal/web/board"
	"chromaqua/internal/web/drawer"
	"chromaqua/internal/web/page"
)

//go:embed *.html
var files embed.FS

// Entry is the drawer's row in the table of drawers.
var Entry = drawer.Entry{
	Room: page.Room{Files: files},
	Link: page.Link{Place: "cut", Name: "Cut sheet", Path: "/cut"},
	Routes: func(k drawer.Kit, r chi.Router) {
		d := &place{k}
		r.Get("/cut", d.Handle(d.cutPage))
		r.Get("/cut.{as:pdf|svg}", d.Handle(d.cutSheet))
		r.Post("/cut", d.Handle(d.cutNow))
	},
}

type place struct{ drawer.Kit }

// cutView is the cut sheet.
type cutView struct {
	page.Page
	Unit     length.Unit
	Cards    []desk.CutCard
	Stock    []cutStock
	Query    template.URL // of this page, for its files
	Base     int64        // revision of the paper
	Plan     *planView
	What     *planView // the same job on the paper of "what if"
	WhatName string
	Failed   string
	Fields   []field // the job, to send again
	job      desk.CutJob
}

type field struct{ Name, Value string }

type cutStock struct {
	paper.Item
	Named string
	Used  bool // it may be used
	If    bool // "what if" asks for it
}

// planView is a plan to look at.
type planView struct {
	Bill   paper.Bill
	Price  string
	Proven bool
	Parts  []paper.Part
	Sheets []sheetView
	Cuts   []fenceView
	Waste  string
}

type sheetView struct {
	Number int
	Name   string
	Size   length.Size
	View   board.Box
	Text   float64
	Parts  []placedView
	Left   []placedView
	Lines  []cutLineView
}

type placedView struct {
	Box  board.Box
	Name string
	Kept bool
}

type cutLineView struct {
	board.Line
	Number int
	X, Y   float64 // of its number
}

// fenceView is a setting of the trimmer's fence with the cuts it serves.
type fenceView struct {
	Fence length.Length
	Cuts  []madeCut
}

// madeCut is one cut as it is listed.
type madeCut struct {
	Number int
	Sheet  int
	Across bool
	Size   length.Size // of the piece that is cut
}

// job reads what a request asks to be cut: copies by card, and paper not to use.
func (d *place) job(r *http.Request) (v *cutView, st *store.PaperRevision, err error) {
	v = &cutView{Page: page.Page{Title: "Cut sheet", Place: "cut"}, Unit: page.UnitOf(r)}
	cards, _, err := d.Cards(r.Context(), store.Shown)
	if err != nil {
		return nil, nil, err
	}
	keep := func(name, value string) { v.Fields = append(v.Fields, field{name, value}) }
	for _, rev := range cards {
		c := desk.CutCard{Rev: rev}
		name := fmt.Sprintf("n-%d", rev.ID)
		if text := strings.TrimSpace(r.FormValue(name)); text != "" {
			if c.Copies, err = strconv.Atoi(text); err != nil || c.Copies < 0 || c.Copies > paper.MaxCopies {
				return v, nil, desk.Refuse(fmt.Errorf("%.20q copies of %q: write a whole number up to %d", text, rev.Card.Name, paper.MaxCopies))
			}
		}
		if c.Copies > 0 {
			v.job.Cards = append(v.job.Cards, c)
			keep(name, strconv.Itoa(c.Copies))
		}
		v.Cards = append(v.Cards, c)
	}
	if st, err = d.Paper(r.Context()); err != nil {
		return nil, nil, err
	}
	st.Stock.Sort()
	v.Base = st.Seq
	v.job.Skip = r.Form["skip"]
	for _, it := range st.Stock.Items {
		used := !slices.Contains(v.job.Skip, it.ID)
		if !used {
			keep("skip", it.ID)
		}
		v.Stock = append(v.Stock, cutStock{it, it.Name(), used, r.FormValue("if") == it.ID})
	}
	keep("unit", v.Unit.String())
	q := url.Values{}
	for _, f := range v.Fields {
		q.Add(f.Name, f.Value)
	}
	v.Query = template.URL(q.Encode())
	return v, st, nil
}

// planned plans the job of a request.
func (d *place) planned(r *http.Request) (*cutView, *desk.CutPlan, *store.PaperRevision, error) {
	v, st, err := d.job(r)
	if err != nil || len(v.job.Cards) == 0 {
		return v, nil, st, err
	}
	p, err := d.Cut(r.Context(), v.job, st)
	return v, p, st, err
}

func (d *place) cutPage(w http.ResponseWriter, r *http.Request) error {
	return d.showCut(w, r, http.StatusOK, "")
}

func (d *place) showCut(w http.ResponseWriter, r *http.Request, status int, message string) error {
	v, p, st, err := d.planned(r)
	if err != nil {
		var words error
		if status, words = d.Explain(r, err); v == nil || status >= http.StatusInternalServerError {
			return err
		}
		v.Failed = wording.Sentence(words.Error())
	}
	v.Message = message
	if p != nil {
		v.Plan = planViewOf(p, st.Stock)
		if err := d.whatIf(r, v, st); err != nil {
			return err
		}
	}
	d.Render(w, r, status, "cut.html", v)
	return nil
}

// whatIf plans the same job with one paper instead of the others of its kind.
func (d *place) whatIf(r *http.Request, v *cutView, st *store.PaperRevision) error {
	id := r.FormValue("if")
	it, err := st.Stock.Item(id)
	if id == "" || err != nil {
		return nil // a paper that is gone is not compared
	}
	v.WhatName = it.Name() + ", " + it.Size.With(v.Unit)
	job := v.job
	job.Only = id
	p, err := d.Cut(r.Context(), job, st)
	if err != nil {
		_, words := d.Explain(r, err)
		v.Failed = "With that paper alone: " + words.Error() + "."
		return nil
	}
	v.What = planViewOf(p, st.Stock)
	return nil
}

// planViewOf draws a plan; distances on it are millimetres from the sheet's top left.
func planViewOf(p *desk.CutPlan, st *paper.Stock) *planView {
	v := &planView{Bill: p.Bill, Price: page.Money(p.Bill.Price), Proven: p.Plan.Proven, Parts: p.Parts, Waste: strconv.Itoa(int(p.Bill.Waste*100+0.5)) + " %"}
	mm := func(nm int64) float64 { return float64(nm) / 1e6 }
	for i, sh := range p.Plan.Sheets {
		it, err := st.Item(sh.Stock)
		if err != nil {
			continue
		}
		h := mm(int64(it.Size.H))
		at := func(r cutting.Rect) board.Box { return board.At(mm(r.X), h-mm(r.Y+r.H), mm(r.W), mm(r.H)) }
		s := sheetView{Number: i + 1, Name: it.Name(), Size: it.Size, View: board.At(0, 0, mm(int64(it.Size.W)), h)}
		s.Text = max(s.View.W, s.View.H) * 0.035
		for _, pl := range sh.Placements {
			s.Parts = append(s.Parts, placedView{at(pl.Rect), pl.Part, true})
		}
		for _, r := range sh.Leftovers {
			s.Left = append(s.Left, placedView{Box: at(r), Kept: st.Keeps(length.Size{W: length.Length(r.W), H: length.Length(r.H)})})
		}
		v.Sheets = append(v.Sheets, s)
	}
	for n, c := range p.Steps {
		s := &v.Sheets[c.Sheet]
		l := board.Between(mm(c.Line.X1), s.View.H-mm(c.Line.Y1), mm(c.Line.X2), s.View.H-mm(c.Line.Y2))
		mark := cutLineView{Line: l, Number: n + 1, X: (l.X1 + l.X2) / 2, Y: (l.Y1 + l.Y2) / 2}
		s.Lines = append(s.Lines, mark)
		if k := len(v.Cuts); k == 0 || v.Cuts[k-1].Fence != length.Length(c.Fence) {
			v.Cuts = append(v.Cuts, fenceView{Fence: length.Length(c.Fence)})
		}
		f := &v.Cuts[len(v.Cuts)-1]
		f.Cuts = append(f.Cuts, madeCut{n + 1, c.Sheet + 1, c.Axis == cutting.Y, length.Size{W: length.Length(c.From.W), H: length.Length(c.From.H)}})
	}
	return v
}

// cutNow takes the sheets of a plan out of the stock and puts its leftovers in.
func (d *place) cutNow(w http.ResponseWriter, r *http.Request) error {
	if err := page.Read(w, r); err != nil {
		return err
	}
	v, p, st, err := d.planned(r)
	base, old := page.BaseOf(r)
	switch {
	case err != nil, old != nil:
		status, words := d.Explain(r, cmp.Or(err, old))
		return d.showCut(w, r, status, words.Error())
	case p == nil:
		return d.showCut(w, r, http.StatusUnprocessableEntity, "there is nothing to cut; say how many of which card")
	case base != st.Seq:
		return d.showCut(w, r, http.StatusConflict, "the paper on hand was changed meanwhile; this is the plan on what is there now, and nothing was taken out")
	}
	if err := st.Stock.Cut(p.Plan); err != nil {
		return d.showCut(w, r, http.StatusConflict, err.Error())
	}
	cards := []string{}
	for _, c := range v.job.Cards {
		cards = append(cards, c.Rev.Card.Name)
	}
	switch err := d.SavePaper(r.Context(), st.ID, st.Seq, st.Stock, "cut for "+strings.Join(cards, ", ")); {
	case errors.Is(err, store.ErrStale):
		return d.showCut(w, r, http.StatusConflict, err.Error())
	case err != nil:
		return err
	}
	http.Redirect(w, r, "/paper?unit="+v.Unit.String(), http.StatusSeeOther)
	return nil
}

func (d *place) cutDocument(r *http.Request) (*sheet.Cutting, error) {
	v, p, st, err := d.planned(r)
	if err != nil {
		return nil, err
	}
	if p == nil {
		return nil, desk.Refuse(errors.New("there is nothing to cut; say how many of which card"))
	}
	return &sheet.Cutting{Unit: v.Unit, Stock: st.Stock, Plan: p.Plan, Steps: p.Steps, Parts: p.Parts}, nil
}

// cutSheet sends the cut sheet to print.
func (d *place) cutSheet(w http.ResponseWriter, r *http.Request) error {
	doc, err := d.cutDocument(r)
	if err != nil {
		return err
	}
	return page.SendDrawing(w, r, "Cut sheet", doc)
}
