package web

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"html/template"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"chromaqua/core/cutting"
	"chromaqua/core/length"
	"chromaqua/core/paper"
	"chromaqua/internal/sheet"
	"chromaqua/internal/store"
)

// A cut plan is looked for in so many tries, so that the same job has the same
// plan; the limit in time guards against very large jobs.
const (
	cutTries  = 150
	cutLimit  = 2 * time.Second
	keptPlans = 24
)

// cutPlan is a job planned on the paper on hand.
type cutPlan struct {
	in    *cutting.Instance
	parts []paper.Part
	plan  *cutting.Plan
	steps []cutting.Step
	bill  paper.Bill
}

// cutView is the cut sheet.
type cutView struct {
	page
	Unit     length.Unit
	Cards    []cutCard
	Stock    []cutStock
	Query    template.URL // of this page, for its files
	Base     int64        // revision of the paper
	Plan     *planView
	What     *planView // the same job on the paper of "what if"
	WhatName string
	Failed   string
	Fields   []field // the job, to send again
	jobs     []paper.Job
}

type field struct{ Name, Value string }

type cutCard struct {
	*store.Revision
	Copies int
}

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
	View   box
	Text   float64
	Parts  []placedView
	Left   []placedView
	Lines  []cutLineView
}

type placedView struct {
	Box  box
	Name string
	Kept bool
}

type cutLineView struct {
	line
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
func (s *Server) job(r *http.Request) (v *cutView, st *store.PaperRevision, err error) {
	v = &cutView{page: page{Title: "Cut sheet", Place: "cut"}, Unit: unitOf(r)}
	cards, err := s.store.Cards(r.Context(), store.Shown)
	if err != nil {
		return nil, nil, err
	}
	keep := func(name, value string) { v.Fields = append(v.Fields, field{name, value}) }
	for _, rev := range cards {
		c := cutCard{Revision: rev}
		name := fmt.Sprintf("n-%d", rev.ID)
		if text := strings.TrimSpace(r.FormValue(name)); text != "" {
			if c.Copies, err = strconv.Atoi(text); err != nil || c.Copies < 0 || c.Copies > paper.MaxCopies {
				return v, nil, refused(fmt.Errorf("%.20q copies of %q: write a whole number up to %d", text, rev.Card.Name, paper.MaxCopies))
			}
		}
		if c.Copies > 0 {
			v.jobs = append(v.jobs, paper.Job{Card: rev.Card, Copies: c.Copies})
			keep(name, strconv.Itoa(c.Copies))
		}
		v.Cards = append(v.Cards, c)
	}
	if st, err = s.store.Paper(r.Context()); err != nil {
		return nil, nil, err
	}
	st.Stock.Sort()
	v.Base = st.Seq
	skip := r.Form["skip"]
	for _, it := range st.Stock.Items {
		used := !slices.Contains(skip, it.ID)
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

// planFor plans jobs on the paper that use allows. key names all that the plan
// depends on.
func (s *Server) planFor(ctx context.Context, key string, jobs []paper.Job, st *paper.Stock, use func(paper.Item) bool) (*cutPlan, error) {
	if p, ok := s.plans.Get(key); ok {
		return p, nil
	}
	parts, err := paper.Parts(jobs)
	if err != nil {
		return nil, refused(err)
	}
	p := &cutPlan{in: st.Instance("cut sheet", parts, use), parts: parts}
	ctx, cancel := context.WithTimeout(ctx, cutLimit)
	defer cancel()
	if p.plan, err = cutting.Solve(ctx, p.in, cutting.Budget{Tries: cutTries, Seed: 1}); err != nil {
		return nil, refused(paper.Worded(err, parts))
	}
	if p.steps, err = p.plan.Steps(p.in); err != nil {
		return nil, err
	}
	p.bill = st.BillOf(p.plan)
	s.plans.Add(key, p)
	return p, nil
}

// planKey names a job on the paper as it is; the cards' revisions are part of
// it, since a card may have changed since.
func planKey(v *cutView, st *store.PaperRevision, what string) string {
	key := fmt.Sprint(st.Seq, "|", v.Query, "|", what)
	for _, c := range v.Cards {
		if c.Copies > 0 {
			key += fmt.Sprint("|", c.ID, ".", c.Seq)
		}
	}
	return key
}

// usable allows the items that are not skipped.
func (v *cutView) usable(it paper.Item) bool {
	return slices.ContainsFunc(v.Stock, func(c cutStock) bool { return c.ID == it.ID && c.Used })
}

// planned plans the job of a request.
func (s *Server) planned(r *http.Request) (*cutView, *cutPlan, *store.PaperRevision, error) {
	v, st, err := s.job(r)
	if err != nil || len(v.jobs) == 0 {
		return v, nil, st, err
	}
	p, err := s.planFor(r.Context(), planKey(v, st, ""), v.jobs, st.Stock, v.usable)
	return v, p, st, err
}

func (s *Server) cutPage(w http.ResponseWriter, r *http.Request) error {
	return s.showCut(w, r, http.StatusOK, "")
}

func (s *Server) showCut(w http.ResponseWriter, r *http.Request, status int, message string) error {
	v, p, st, err := s.planned(r)
	if err != nil {
		var words error
		if status, words = s.explain(r, err); v == nil || status >= http.StatusInternalServerError {
			return err
		}
		v.Failed = upperFirst(words.Error()) + "."
	}
	v.Message = message
	if p != nil {
		v.Plan = p.view(st.Stock)
		if err := s.whatIf(r, v, st); err != nil {
			return err
		}
	}
	s.render(w, r, status, "cut.html", v)
	return nil
}

// whatIf plans the same job with one paper instead of the others of its kind.
func (s *Server) whatIf(r *http.Request, v *cutView, st *store.PaperRevision) error {
	id := r.FormValue("if")
	it, err := st.Stock.Item(id)
	if id == "" || err != nil {
		return nil // a paper that is gone is not compared
	}
	v.WhatName = it.Name() + ", " + it.Size.With(v.Unit)
	p, err := s.planFor(r.Context(), planKey(v, st, id), v.jobs, st.Stock, func(o paper.Item) bool { return v.usable(o) && (o.Paper != it.Paper || o.ID == id) })
	if err != nil {
		_, words := s.explain(r, err)
		v.Failed = "With that paper alone: " + words.Error() + "."
		return nil
	}
	v.What = p.view(st.Stock)
	return nil
}

// view draws a plan; distances on it are millimetres from the sheet's top left.
func (p *cutPlan) view(st *paper.Stock) *planView {
	v := &planView{Bill: p.bill, Price: money(p.bill.Price), Proven: p.plan.Proven, Parts: p.parts, Waste: strconv.Itoa(int(p.bill.Waste*100+0.5)) + " %"}
	mm := func(nm int64) float64 { return float64(nm) / 1e6 }
	for i, sh := range p.plan.Sheets {
		it, err := st.Item(sh.Stock)
		if err != nil {
			continue
		}
		h := mm(int64(it.Size.H))
		at := func(r cutting.Rect) box { return box{mm(r.X), h - mm(r.Y+r.H), mm(r.W), mm(r.H)} }
		s := sheetView{Number: i + 1, Name: it.Name(), Size: it.Size, View: box{0, 0, mm(int64(it.Size.W)), h}}
		s.Text = max(s.View.W, s.View.H) * 0.035
		for _, pl := range sh.Placements {
			s.Parts = append(s.Parts, placedView{at(pl.Rect), pl.Part, true})
		}
		for _, r := range sh.Leftovers {
			s.Left = append(s.Left, placedView{Box: at(r), Kept: st.Keeps(length.Size{W: length.Length(r.W), H: length.Length(r.H)})})
		}
		v.Sheets = append(v.Sheets, s)
	}
	for n, c := range p.steps {
		s := &v.Sheets[c.Sheet]
		l := line{mm(c.Line.X1), s.View.H - mm(c.Line.Y1), mm(c.Line.X2), s.View.H - mm(c.Line.Y2)}
		mark := cutLineView{line: l, Number: n + 1, X: (l.X1 + l.X2) / 2, Y: (l.Y1 + l.Y2) / 2}
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
func (s *Server) cutNow(w http.ResponseWriter, r *http.Request) error {
	r.Body = http.MaxBytesReader(w, r.Body, maxForm)
	if err := r.ParseForm(); err != nil {
		return refusedForm(err)
	}
	v, p, st, err := s.planned(r)
	switch {
	case err != nil:
		status, words := s.explain(r, err)
		return s.showCut(w, r, status, words.Error())
	case p == nil:
		return s.showCut(w, r, http.StatusUnprocessableEntity, "there is nothing to cut; say how many of which card")
	case baseOf(r, st.Seq) != st.Seq:
		return s.showCut(w, r, http.StatusConflict, "the paper on hand was changed meanwhile; this is the plan on what is there now, and nothing was taken out")
	}
	if err := st.Stock.Cut(p.plan); err != nil {
		return s.showCut(w, r, http.StatusConflict, err.Error())
	}
	cards := []string{}
	for _, c := range v.Cards {
		if c.Copies > 0 {
			cards = append(cards, c.Card.Name)
		}
	}
	switch err := s.store.SavePaper(r.Context(), st.ID, st.Seq, st.Stock, "cut for "+strings.Join(cards, ", ")); {
	case errors.Is(err, store.ErrStale):
		return s.showCut(w, r, http.StatusConflict, err.Error())
	case err != nil:
		return err
	}
	http.Redirect(w, r, "/paper?unit="+v.Unit.String(), http.StatusSeeOther)
	return nil
}

func (s *Server) cutDocument(r *http.Request) (*sheet.Cutting, error) {
	v, p, st, err := s.planned(r)
	if err != nil {
		return nil, err
	}
	if p == nil {
		return nil, refused(errors.New("there is nothing to cut; say how many of which card"))
	}
	return &sheet.Cutting{Unit: v.Unit, Stock: st.Stock, Plan: p.plan, Steps: p.steps, Parts: p.parts}, nil
}

func (s *Server) cutPDF(w http.ResponseWriter, r *http.Request) error {
	doc, err := s.cutDocument(r)
	if err != nil {
		return err
	}
	var buf bytes.Buffer
	if err := doc.WritePDF(&buf); err != nil {
		return err
	}
	download(w, "application/pdf", "Cut sheet", ".pdf")
	_, _ = w.Write(buf.Bytes())
	return nil
}

func (s *Server) cutSVG(w http.ResponseWriter, r *http.Request) error {
	doc, err := s.cutDocument(r)
	if err != nil {
		return err
	}
	var buf bytes.Buffer
	if err := doc.WriteSVG(&buf); err != nil {
		return err
	}
	download(w, "image/svg+xml", "Cut sheet", ".svg")
	_, _ = w.Write(buf.Bytes())
	return nil
}
