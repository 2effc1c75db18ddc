package web

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/paper"
	"chromaqua/core/shelf"
	"chromaqua/internal/store"
)

// paperView is the page of the paper on hand.
type paperView struct {
	page
	*store.PaperRevision
	Items  []paperItem
	Papers []shelf.Paper
	Kinds  []paper.Kind
	Edges  []card.Edge
	Unit   length.Unit
}

type paperItem struct {
	paper.Item
	Named string
	Cost  string
	W, H  float64 // as drawn, 14 in being 80
}

func (s *Server) paperPage(w http.ResponseWriter, r *http.Request) error {
	return s.showPaper(w, r, http.StatusOK, "")
}

func (s *Server) showPaper(w http.ResponseWriter, r *http.Request, status int, message string) error {
	rev, err := s.store.Paper(r.Context())
	if err != nil {
		return err
	}
	rev.Stock.Sort()
	v := paperView{page: page{Title: "Paper on hand", Place: "paper", Message: message}, PaperRevision: rev, Papers: shelf.Papers(), Kinds: paper.Kinds(), Edges: card.Edges(), Unit: unitOf(r)}
	for _, it := range rev.Stock.Items {
		v.Items = append(v.Items, paperItem{it, it.Name(), money(it.Price), min(80, it.Size.W.MM()/355.6*80), min(80, it.Size.H.MM()/355.6*80)})
	}
	s.render(w, r, status, "paper.html", v)
	return nil
}

// unitOf is the ruler a page without a card of its own is shown in.
func unitOf(r *http.Request) length.Unit {
	if r.FormValue("unit") == length.Millimetres.String() {
		return length.Millimetres
	}
	return length.Inches
}

// money prints hundredths.
func money(n int) string { return fmt.Sprintf("%d.%02d", n/100, n%100) }

// changePaper lets f change the paper on hand and saves it on top of the
// revision the form was made from.
func (s *Server) changePaper(w http.ResponseWriter, r *http.Request, f func(*paper.Stock) (what string, err error)) error {
	rev, err := s.store.Paper(r.Context())
	if err != nil {
		return err
	}
	what, err := f(rev.Stock)
	if err = asRefused(err); err == nil {
		err = refused(rev.Stock.Check())
	}
	if err == nil {
		err = s.store.SavePaper(r.Context(), rev.ID, baseOf(r, rev.Seq), rev.Stock, what)
	}
	if err != nil {
		status, words := s.explain(r, err)
		return s.showPaper(w, r, status, words.Error())
	}
	http.Redirect(w, r, "/paper?unit="+unitOf(r).String(), http.StatusSeeOther)
	return nil
}

// baseOf returns the revision a form was made from; a form without it speaks of
// the latest.
func baseOf(r *http.Request, latest int64) int64 {
	base, err := strconv.ParseInt(r.PostFormValue("base"), 10, 64)
	if err != nil {
		return latest
	}
	return base
}

func (s *Server) editPaper(w http.ResponseWriter, r *http.Request) error {
	r.Body = http.MaxBytesReader(w, r.Body, maxForm)
	if err := r.ParseForm(); err != nil {
		return refusedForm(err)
	}
	return s.changePaper(w, r, func(st *paper.Stock) (string, error) {
		switch id := r.PostForm.Get("id"); r.PostForm.Get("edit") {
		case "add":
			it, err := itemOf(r)
			if err != nil {
				return "", err
			}
			st.Add(it)
			return "added " + it.Name(), nil
		case "quantity":
			it, err := st.Item(id)
			if err != nil {
				return "", err
			}
			n, err := strconv.Atoi(strings.TrimSpace(r.PostForm.Get("quantity")))
			if err != nil {
				return "", fmt.Errorf("%.20q is no number of sheets", r.PostForm.Get("quantity"))
			}
			it.Qty = n
			return "counted " + it.Name(), nil
		case "remove":
			it, err := st.Item(id)
			if err != nil {
				return "", err
			}
			what := "removed " + it.Name()
			st.Remove(id)
			return what, nil
		case "dies-add":
			d, err := diesOf(r)
			if err != nil {
				return "", err
			}
			st.PutDieSet(d)
			return "added the die set " + d.Name, nil
		case "dies-remove":
			st.RemoveDieSet(r.PostForm.Get("name"))
			return "removed a die set", nil
		case "least":
			size, err := length.ParseSize(r.PostForm.Get("least"), unitOf(r))
			if err != nil {
				return "", err
			}
			st.Least = size
			return "keep leftovers from " + size.With(unitOf(r)), nil
		}
		return "", errOldPage
	})
}

// itemOf reads the form for new paper.
func itemOf(r *http.Request) (it paper.Item, err error) {
	get := func(name string) string { return strings.TrimSpace(r.PostForm.Get(name)) }
	it = paper.Item{Kind: paper.Kind(get("kind")), Paper: get("paper"), Colour: get("colour"), Grain: paper.Grain(get("grain"))}
	if it.Size, err = length.ParseSize(get("size"), unitOf(r)); err != nil {
		return it, fmt.Errorf("size: %w", err)
	}
	for name, to := range map[string]*int{"quantity": &it.Qty, "weight": &it.Weight} {
		if get(name) == "" {
			continue
		}
		if *to, err = strconv.Atoi(get(name)); err != nil {
			return it, fmt.Errorf("%s: %.20q is no whole number", name, get(name))
		}
	}
	if it.Price, err = paper.ParsePrice(get("price")); err != nil {
		return it, err
	}
	return it, it.Check()
}

// diesOf reads the form for a new die set.
func diesOf(r *http.Request) (card.DieSet, error) {
	d := card.DieSet{Name: strings.TrimSpace(r.PostForm.Get("name")), Edge: card.Edge(r.PostForm.Get("edge"))}
	for i, text := range strings.FieldsFunc(r.PostForm.Get("sizes"), func(r rune) bool { return r == ';' || r == '\n' }) {
		size, err := length.ParseSize(strings.TrimSpace(text), unitOf(r))
		if err != nil {
			return d, fmt.Errorf("die %d: %w", i+1, err)
		}
		d.Sizes = append(d.Sizes, size)
	}
	return d, d.Check()
}

func (s *Server) paperCSV(w http.ResponseWriter, r *http.Request) error {
	rev, err := s.store.Paper(r.Context())
	if err != nil {
		return err
	}
	var buf bytes.Buffer
	if err := rev.Stock.WriteCSV(&buf); err != nil {
		return err
	}
	download(w, "text/csv; charset=utf-8", "Paper on hand", ".csv")
	_, _ = w.Write(buf.Bytes())
	return nil
}

// importPaper adds the paper of a table, all of it or none.
func (s *Server) importPaper(w http.ResponseWriter, r *http.Request) error {
	data, _, err := sentFile(w, r, paper.MaxCSV)
	return s.changePaper(w, r, func(st *paper.Stock) (string, error) {
		if err != nil {
			return "", err
		}
		items, err := paper.ReadCSV(bytes.NewReader(data), unitOf(r))
		if err != nil {
			return "", fmt.Errorf("nothing was imported: %w", err)
		}
		for _, it := range items {
			st.Add(it)
		}
		return "imported " + plural(len(items), "kind") + " of paper", nil
	})
}

// movePaper goes one step back or forth through the revisions of the paper on hand.
func (s *Server) movePaper(to step) func(http.ResponseWriter, *http.Request) error {
	return func(w http.ResponseWriter, r *http.Request) error {
		r.Body = http.MaxBytesReader(w, r.Body, maxForm)
		rev, err := s.store.Paper(r.Context())
		if err != nil {
			return err
		}
		return s.moveOnly(w, r, rev.Head, to, "/paper?unit="+unitOf(r).String(), s.showPaper)
	}
}

// A step is one through the revisions of a document.
type step func(ctx context.Context, id, base int64) error

// moveOnly takes a step with a document of which there is one, and goes back to its
// page; show says there what a second tab has to know.
func (s *Server) moveOnly(w http.ResponseWriter, r *http.Request, now store.Head, to step, page string, show func(http.ResponseWriter, *http.Request, int, string) error) error {
	switch err := to(r.Context(), now.ID, baseOf(r, now.Seq)); {
	case errors.Is(err, store.ErrStale):
		return show(w, r, http.StatusConflict, err.Error())
	case err != nil:
		return err
	}
	http.Redirect(w, r, page, http.StatusSeeOther)
	return nil
}
