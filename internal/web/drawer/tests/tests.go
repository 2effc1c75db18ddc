// Package tests is the drawer of tests: of inks with water, of paints by swatches.
package tests

import (
	"bytes"
	"cmp"
	"embed"
	"fmt"
	"image/png"
	"maps"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/go-chi/chi/v5"

	"chromaqua/core/change"
	"chromaqua/core/proof"
	"chromaqua/core/shelf"
	"chromaqua/core/wording"
	"chromaqua/internal/desk"
	"chromaqua/internal/picture"
	"chromaqua/internal/sheet"
	"chromaqua/internal/standin"
	"chromaqua/internal/store"
	"chromaqua/internal/web/drawer"
	"chromaqua/internal/web/page"
)

//go:embed *.html
var files embed.FS

// Entry is the drawer's row in the table of drawers.
var Entry = drawer.Entry{
	Room: page.Room{Files: files},
	Link: page.Link{Place: "tests", Name: "Tests", Path: "/tests"},
	Routes: func(k drawer.Kit, r chi.Router) {
		d := &place{k}
		r.Get("/tests", d.Handle(d.testsPage))
		r.Post("/tests", d.Handle(d.addTest))
		r.Post("/tests/practice", d.Handle(d.practiseTest))
		r.Post("/tests/{test}/hide", d.Handle(d.hideTest))
		k.Moves(r, drawer.Place{At: at, Head: k.TestsHead, Show: d.showTests})
		r.Get("/strip.pdf", d.Handle(d.strip))
		r.Get("/washes", d.Handle(d.washesPage))
		r.Post("/washes", d.Handle(d.measureWashes))
		r.Post("/washes/practice", d.Handle(d.practiseWashes))
		r.Post("/washes/forget", d.Handle(d.forgetWashes))
		r.Get("/washes.pdf", d.Handle(d.washesCard))
		r.Get("/swatches", d.Handle(d.swatchesPage))
		r.Post("/swatches", d.Handle(d.measurePaint))
		r.Post("/swatches/practice", d.Handle(d.practiseSwatches))
		r.Get("/swatches.{as:svg|pdf}", d.Handle(d.swatchCard))
	},
}

// at is the address of the page.
const at = "/tests"

type place struct{ drawer.Kit }

// testsView is the page of the maker's tests.
type testsView struct {
	page.Page
	drawer.History
	Tests  []testView
	Own    []shelf.Own
	Inks   []shelf.Ink
	Papers []shelf.Paper
	Form   testForm
	Gone   bool // one was just put away
	Habits []string
}

// testForm is what was entered, to be shown again when it is refused.
type testForm struct{ Ink, Paper, Minutes string }

type testView struct {
	store.Test
	InkName, PaperName string
	Severity           string // the mark that goes with the verdict
	After              string
}

func (d *place) testsPage(w http.ResponseWriter, r *http.Request) error {
	return d.showTests(w, r, http.StatusOK, "")
}

func (d *place) showTests(w http.ResponseWriter, r *http.Request, status int, message string) error {
	tests, err := d.Tests(r.Context(), false)
	if err != nil {
		return err
	}
	own, err := d.Materials(r.Context())
	if err != nil {
		return err
	}
	head, err := d.TestsHead(r.Context())
	if err != nil {
		return err
	}
	v := testsView{Own: own, History: drawer.HistoryOf(r, at, head), Gone: r.URL.Query().Has("gone"),
		Page: page.Page{Title: "Tests", Place: "tests", Message: message}, Inks: shelf.Inks(), Papers: shelf.Papers(),
		Habits: slices.Sorted(maps.Keys(standin.Inks())),
		Form:   testForm{r.FormValue("ink"), r.FormValue("paper"), r.FormValue("minutes")},
	}
	for _, t := range tests {
		view := testView{Test: t, InkName: t.Ink, PaperName: t.Paper, Severity: map[proof.Verdict]string{proof.Holds: "note", proof.Soft: "mind", proof.Runs: "stop"}[t.Verdict]}
		if k, err := shelf.InkByID(t.Ink); err == nil {
			view.InkName = cmp.Or(t.OwnInk, k.Name)
		}
		if p, err := shelf.PaperByID(t.Paper); err == nil {
			view.PaperName = cmp.Or(t.OwnPaper, p.Name)
		}
		view.After = "at once"
		if t.Waited > 0 {
			view.After = "after " + strings.TrimPrefix(page.About(t.Waited), "about ")
		}
		if t.Heat {
			view.After += " and the heat tool"
		}
		v.Tests = append(v.Tests, view)
	}
	d.Render(w, r, status, "tests.html", v)
	return nil
}

// addTest reads the scan of a test strip and keeps it with what it tells.
func (d *place) addTest(w http.ResponseWriter, r *http.Request) error {
	file, err := page.SentFile(w, r, picture.MaxBytes)
	if err == nil {
		err = d.readTest(r, file.Data, file.Name, false)
	}
	return d.afterTest(w, r, err)
}

// practiseTest lets the practice scanner scan a strip of an ink with a habit.
func (d *place) practiseTest(w http.ResponseWriter, r *http.Request) error {
	if err := page.Read(w, r); err != nil {
		return err
	}
	habit, ok := standin.Inks()[r.FormValue("habit")]
	if !ok {
		return d.afterTest(w, r, desk.Refuse(fmt.Errorf("the practice scanner knows no ink that %q; choose one that is listed", r.FormValue("habit"))))
	}
	const pxPerMM = 8
	var buf bytes.Buffer
	scanner := standin.Usual(uint64(time.Now().UnixNano()))
	if err := png.Encode(&buf, scanner.Scan(standin.Strip(habit, pxPerMM), pxPerMM)); err != nil {
		return err
	}
	return d.afterTest(w, r, d.readTest(r, func() ([]byte, error) { return buf.Bytes(), nil }, "Practice strip, "+r.FormValue("habit"), true))
}

func (d *place) afterTest(w http.ResponseWriter, r *http.Request, err error) error {
	if err = page.Refused(err); err != nil {
		status, words := d.Explain(r, err)
		return d.showTests(w, r, status, wording.Sentence(words.Error()))
	}
	http.Redirect(w, r, at, http.StatusSeeOther)
	return nil
}

// readTest reads a strip and stores what it tells.
func (d *place) readTest(r *http.Request, scan func() ([]byte, error), name string, practice bool) error {
	var form struct {
		Ink     change.Material `json:"ink"`
		Paper   change.Material `json:"paper"`
		Minutes float64         `json:"minutes" words:"minutes it dried"`
		Heat    bool            `json:"heat"`
	}
	if err := page.Decode(r, &form); err != nil {
		return err
	}
	base, err := page.BaseOf(r)
	if err != nil {
		return err
	}
	rec := proof.Record{Heat: form.Heat, Practice: practice}
	if rec.Ink, rec.OwnInk, err = d.tested(r, shelf.OwnInk, form.Ink); err != nil {
		return err
	}
	if rec.Paper, rec.OwnPaper, err = d.tested(r, shelf.OwnPaper, form.Paper); err != nil {
		return err
	}
	if !(form.Minutes >= 0 && form.Minutes <= proof.MaxWaited.Minutes()) {
		return fmt.Errorf("an ink is tested after 0 to %.0f minutes of drying", proof.MaxWaited.Minutes())
	}
	rec.Waited = time.Duration(form.Minutes * float64(time.Minute))
	if err := rec.Check(); err != nil {
		return err
	}
	release, err := d.OpenPicture(r.Context())
	if err != nil {
		return err
	}
	defer release()
	data, err := scan()
	if err != nil {
		return err
	}
	m, err := desk.NewImage(r.Context(), data, name, 1)
	if err != nil {
		return err
	}
	strip, err := picture.Colour(data)
	if err != nil {
		return err
	}
	t, err := proof.ReadStrip(strip)
	if err != nil {
		return err
	}
	rec.Image, rec.WaterTest = m.Hash, *t
	_, err = d.AddTest(r.Context(), base, rec, m)
	return err
}

// tested returns what a form says was tested, by id, and by name when it is the
// maker's own.
func (d *place) tested(r *http.Request, what shelf.What, choice change.Material) (id, own string, err error) {
	id, o, err := d.Material(r.Context(), what, choice.ID, choice.Own)
	if o != nil {
		own = o.Name
	}
	return id, own, err
}

// hideTest puts a test away.
func (d *place) hideTest(w http.ResponseWriter, r *http.Request) error {
	if err := page.Read(w, r); err != nil {
		return err
	}
	id, err := strconv.ParseInt(chi.URLParam(r, "test"), 10, 64)
	if err != nil {
		return store.ErrNotFound
	}
	base, err := page.BaseOf(r)
	if err == nil {
		err = d.HideTest(r.Context(), base, id)
	}
	if err != nil {
		return d.afterTest(w, r, err)
	}
	http.Redirect(w, r, at+"?gone", http.StatusSeeOther)
	return nil
}

// strip sends the test strip to print.
func (d *place) strip(w http.ResponseWriter, r *http.Request) error {
	doc := sheet.Strip{Unit: page.UnitOf(r), Lines: r.URL.Query().Get("lines") == "printed"}
	return page.SendFile(w, "application/pdf", "Ink test strip", ".pdf", doc.WritePDF)
}
