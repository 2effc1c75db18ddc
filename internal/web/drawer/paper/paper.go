// Package paper is the drawer of the paper on hand.
package paper

import (
	"bytes"
	"context"
	"embed"
	"fmt"
	"net/http"
	"strings"

	"github.com/go-chi/chi/v5"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/length"
	"chromaqua/core/paper"
	"chromaqua/core/shelf"
	"chromaqua/core/wording"
	"chromaqua/internal/desk"
	"chromaqua/internal/store"
	"chromaqua/internal/web/drawer"
	"chromaqua/internal/web/page"
)

//go:embed *.html
var files embed.FS

// Entry is the drawer's row in the table of drawers.
var Entry = drawer.Entry{
	Room: page.Room{Files: files},
	Link: page.Link{Place: "paper", Name: "Paper", Path: "/paper"},
	Routes: func(k drawer.Kit, r chi.Router) {
		d := &place{k}
		r.Get("/paper", d.Handle(d.paperPage))
		r.Get("/paper.csv", d.Handle(d.paperCSV))
		r.Post("/paper/edit", d.Handle(d.editPaper))
		r.Post("/paper/import", d.Handle(d.importPaper))
		k.Moves(r, drawer.Place{At: at, Head: d.head, Show: d.showPaper})
	},
}

// at is the address of the page.
const at = "/paper"

type place struct{ drawer.Kit }

func (d *place) head(ctx context.Context) (store.Head, error) {
	rev, err := d.Paper(ctx)
	if err != nil {
		return store.Head{}, err
	}
	return rev.Head, nil
}

// paperView is the page of the paper on hand.
type paperView struct {
	page.Page
	drawer.History
	Stock  *paper.Stock
	Items  []paperItem
	Papers []shelf.Paper
	Kinds  []paper.Kind
	Edges  []card.Edge

	Supplies []supplyView
	Whats    []paper.What
}

// supplyView is a supply with what one of it costs.
type supplyView struct {
	paper.Supply
	Cost string
	Low  bool // next to nothing is left
}

type paperItem struct {
	paper.Item
	Named string
	Cost  string
	W, H  float64 // as drawn, 14 in being 80
}

func (d *place) paperPage(w http.ResponseWriter, r *http.Request) error {
	return d.showPaper(w, r, http.StatusOK, "")
}

func (d *place) showPaper(w http.ResponseWriter, r *http.Request, status int, message string) error {
	rev, err := d.Paper(r.Context())
	if err != nil {
		return err
	}
	rev.Stock.Sort()
	v := paperView{Page: page.Page{Title: "Paper on hand", Place: "paper", Message: message}, History: drawer.HistoryOf(r, at, rev.Head), Stock: rev.Stock, Papers: shelf.Papers(), Kinds: paper.Kinds(), Edges: card.Edges()}
	for _, it := range rev.Stock.Items {
		v.Items = append(v.Items, paperItem{it, it.Name(), page.Money(it.Price), min(80, it.Size.W.MM()/355.6*80), min(80, it.Size.H.MM()/355.6*80)})
	}
	v.Whats = paper.Whats()
	for _, u := range rev.Stock.Supplies {
		v.Supplies = append(v.Supplies, supplyView{u, page.PlainNumber(float64(u.Price) / 1e4), u.Left < 1})
	}
	d.Render(w, r, status, "paper.html", v)
	return nil
}

// changePaper lets f change the paper on hand and saves it on top of the
// revision the form was made from.
func (d *place) changePaper(w http.ResponseWriter, r *http.Request, f func(*paper.Stock) (what string, err error)) error {
	rev, err := d.Paper(r.Context())
	if err != nil {
		return err
	}
	what, err := f(rev.Stock)
	if err = page.Refused(err); err == nil {
		err = desk.Refuse(rev.Stock.Check())
	}
	if err == nil {
		var base int64
		if base, err = page.BaseOf(r); err == nil {
			err = d.SavePaper(r.Context(), rev.ID, base, rev.Stock, what)
		}
	}
	if err != nil {
		status, words := d.Explain(r, err)
		return d.showPaper(w, r, status, words.Error())
	}
	http.Redirect(w, r, "/paper?unit="+page.UnitOf(r).String(), http.StatusSeeOther)
	return nil
}

func (d *place) editPaper(w http.ResponseWriter, r *http.Request) error {
	if err := page.Read(w, r); err != nil {
		return err
	}
	edit, ok := edits[r.PostForm.Get("edit")]
	if !ok {
		edit = func(*http.Request, *paper.Stock) (string, error) { return "", page.ErrOldPage }
	}
	return d.changePaper(w, r, func(st *paper.Stock) (string, error) { return edit(r, st) })
}

// edits are the changes a form may ask for; each says what it did.
var edits = map[string]func(*http.Request, *paper.Stock) (what string, err error){
	"supply-add": addSupply, "supply-left": countSupply, "supply-remove": removeSupply,
	"add": addItem, "quantity": countItem, "remove": removeItem, "dies-add": addDies, "dies-remove": removeDies, "least": setLeast,
}

// addItem puts new paper into the drawer.
func addItem(r *http.Request, st *paper.Stock) (string, error) {
	var form struct {
		Kind   paper.Kind   `json:"kind"`
		Paper  string       `json:"paper"`
		Colour string       `json:"colour"`
		Grain  paper.Grain  `json:"grain"`
		Size   change.Typed `json:"size"`
		Qty    *int         `json:"quantity"`
		Weight *int         `json:"weight"`
		Price  string       `json:"price"`
	}
	if err := page.Decode(r, &form); err != nil {
		return "", err
	}
	it := paper.Item{Kind: form.Kind, Paper: form.Paper, Colour: form.Colour, Grain: form.Grain}
	var err error
	if it.Size, err = length.ParseSize(string(form.Size), page.UnitOf(r)); err != nil {
		return "", fmt.Errorf("size: %w", err)
	}
	for _, f := range []struct{ from, to *int }{{form.Qty, &it.Qty}, {form.Weight, &it.Weight}} {
		if f.from != nil {
			*f.to = *f.from
		}
	}
	if it.Price, err = paper.ParsePrice(form.Price); err != nil {
		return "", err
	}
	if err := it.Check(); err != nil {
		return "", err
	}
	st.Add(it)
	return "added " + it.Name(), nil
}

// countItem says how many sheets there are.
func countItem(r *http.Request, st *paper.Stock) (string, error) {
	var form struct {
		ID  string `json:"id"`
		Qty int    `json:"quantity" words:"number of sheets"`
	}
	if err := page.Decode(r, &form); err != nil {
		return "", err
	}
	it, err := st.Item(form.ID)
	if err != nil {
		return "", err
	}
	it.Qty = form.Qty
	return "counted " + it.Name(), nil
}

// removeItem takes paper out of the drawer.
func removeItem(r *http.Request, st *paper.Stock) (string, error) {
	it, err := st.Item(r.PostForm.Get("id"))
	if err != nil {
		return "", err
	}
	what := "removed " + it.Name()
	st.Remove(it.ID)
	return what, nil
}

// addDies puts a die set into the drawer.
func addDies(r *http.Request, st *paper.Stock) (string, error) {
	var form struct {
		Name  string    `json:"name"`
		Edge  card.Edge `json:"edge"`
		Sizes string    `json:"sizes"`
	}
	if err := page.Decode(r, &form); err != nil {
		return "", err
	}
	d := card.DieSet{Name: form.Name, Edge: form.Edge}
	for i, text := range strings.FieldsFunc(form.Sizes, func(r rune) bool { return r == ';' || r == '\n' }) {
		size, err := length.ParseSize(strings.TrimSpace(text), page.UnitOf(r))
		if err != nil {
			return "", fmt.Errorf("die %d: %w", i+1, err)
		}
		d.Sizes = append(d.Sizes, size)
	}
	if err := d.Check(); err != nil {
		return "", err
	}
	st.PutDieSet(d)
	return "added the die set " + d.Name, nil
}

// removeDies takes a die set out of the drawer.
func removeDies(r *http.Request, st *paper.Stock) (string, error) {
	st.RemoveDieSet(r.PostForm.Get("name"))
	return "removed a die set", nil
}

// setLeast says which leftovers are kept.
func setLeast(r *http.Request, st *paper.Stock) (string, error) {
	size, err := length.ParseSize(r.PostForm.Get("least"), page.UnitOf(r))
	if err != nil {
		return "", err
	}
	st.Least = size
	return "keep leftovers from " + size.With(page.UnitOf(r)), nil
}

func (d *place) paperCSV(w http.ResponseWriter, r *http.Request) error {
	rev, err := d.Paper(r.Context())
	if err != nil {
		return err
	}
	return page.SendFile(w, "text/csv; charset=utf-8", "Paper on hand", ".csv", rev.Stock.WriteCSV)
}

// importPaper adds the paper of a table, all of it or none.
func (d *place) importPaper(w http.ResponseWriter, r *http.Request) error {
	file, err := page.SentFile(w, r, paper.MaxCSV)
	return d.changePaper(w, r, func(st *paper.Stock) (string, error) {
		if err != nil {
			return "", err
		}
		data, err := file.Data()
		if err != nil {
			return "", err
		}
		items, err := paper.ReadCSV(bytes.NewReader(data), page.UnitOf(r))
		if err != nil {
			return "", fmt.Errorf("nothing was imported: %w", err)
		}
		for _, it := range items {
			st.Add(it)
		}
		return "imported " + wording.Count(len(items), "kind") + " of paper", nil
	})
}

// addSupply puts a supply on the shelf; of one that is there already there is more.
func addSupply(r *http.Request, st *paper.Stock) (string, error) {
	left, err := change.ParseNumber(r.PostForm.Get("left"))
	if err != nil {
		return "", fmt.Errorf("how much: %w", err)
	}
	u := paper.Supply{What: paper.What(r.PostForm.Get("what")), Name: r.PostForm.Get("name"), Left: left, Unit: strings.TrimSpace(r.PostForm.Get("unit"))}
	if text := strings.TrimSpace(r.PostForm.Get("price")); text != "" {
		price, err := change.ParseNumber(text)
		if err != nil {
			return "", fmt.Errorf("price: %w", err)
		}
		u.Price = int(price*1e4 + 0.5)
	}
	if err := st.AddSupply(u); err != nil {
		return "", err
	}
	return "added " + u.Name, nil
}

// countSupply says how much of a supply is left.
func countSupply(r *http.Request, st *paper.Stock) (string, error) {
	u, err := st.Supply(r.PostForm.Get("id"))
	if err != nil {
		return "", err
	}
	if u.Left, err = change.ParseNumber(r.PostForm.Get("left")); err != nil {
		return "", fmt.Errorf("how much: %w", err)
	}
	return "counted " + u.Name, nil
}

// removeSupply takes a supply off the shelf.
func removeSupply(r *http.Request, st *paper.Stock) (string, error) {
	u, err := st.Supply(r.PostForm.Get("id"))
	if err != nil {
		return "", err
	}
	what := "removed " + u.Name
	st.RemoveSupply(u.ID)
	return what, nil
}
