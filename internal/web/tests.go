package web

import (
	"bytes"
	"cmp"
	"context"
	"fmt"
	"image"
	"image/png"
	"maps"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/go-chi/chi/v5"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/panel"
	"chromaqua/core/proof"
	"chromaqua/core/shelf"
	"chromaqua/internal/picture"
	"chromaqua/internal/sheet"
	"chromaqua/internal/standin"
	"chromaqua/internal/store"
)

// testsView is the page of the maker's tests.
type testsView struct {
	page
	Tests  []testView
	Own    []shelf.Own
	Inks   []shelf.Ink
	Papers []shelf.Paper
	Form   testForm
	Hidden int64 // the test that was just put away, 0 for none
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

func (s *Server) testsPage(w http.ResponseWriter, r *http.Request) error {
	return s.showTests(w, r, http.StatusOK, "")
}

func (s *Server) showTests(w http.ResponseWriter, r *http.Request, status int, message string) error {
	tests, err := s.store.Tests(r.Context(), false)
	if err != nil {
		return err
	}
	own, err := s.store.Materials(r.Context())
	if err != nil {
		return err
	}
	v := testsView{Own: own,
		page: page{Title: "Tests", Place: "tests", Message: message}, Inks: shelf.Inks(), Papers: shelf.Papers(),
		Habits: slices.Sorted(maps.Keys(standin.Inks())),
		Form:   testForm{r.FormValue("ink"), r.FormValue("paper"), r.FormValue("minutes")},
	}
	v.Hidden, _ = strconv.ParseInt(r.URL.Query().Get("hidden"), 10, 64) // 0 when there is none
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
			view.After = "after " + strings.TrimPrefix(about(t.Waited), "about ")
		}
		if t.Heat {
			view.After += " and the heat tool"
		}
		v.Tests = append(v.Tests, view)
	}
	s.render(w, r, status, "tests.html", v)
	return nil
}

// addTest reads the scan of a test strip and keeps it with what it tells.
func (s *Server) addTest(w http.ResponseWriter, r *http.Request) error {
	data, name, err := sentFile(w, r, picture.MaxBytes)
	if err == nil {
		err = s.readTest(r, data, name, false)
	}
	return s.afterTest(w, r, err)
}

// practiseTest lets the practice scanner scan a strip of an ink with a habit.
func (s *Server) practiseTest(w http.ResponseWriter, r *http.Request) error {
	r.Body = http.MaxBytesReader(w, r.Body, maxForm)
	habit, ok := standin.Inks()[r.FormValue("habit")]
	if !ok {
		return s.afterTest(w, r, refused(fmt.Errorf("the practice scanner knows no ink that %q; choose one that is listed", r.FormValue("habit"))))
	}
	const pxPerMM = 8
	var buf bytes.Buffer
	scanner := standin.Usual(uint64(time.Now().UnixNano()))
	if err := png.Encode(&buf, scanner.Scan(standin.Strip(habit, pxPerMM), pxPerMM)); err != nil {
		return err
	}
	return s.afterTest(w, r, s.readTest(r, buf.Bytes(), "Practice strip, "+r.FormValue("habit"), true))
}

func (s *Server) afterTest(w http.ResponseWriter, r *http.Request, err error) error {
	if err = asRefused(err); err != nil {
		status, words := s.explain(r, err)
		return s.showTests(w, r, status, upperFirst(words.Error())+".")
	}
	http.Redirect(w, r, "/tests", http.StatusSeeOther)
	return nil
}

// readTest reads a strip and stores what it tells.
func (s *Server) readTest(r *http.Request, data []byte, name string, practice bool) error {
	rec := proof.Record{Heat: r.FormValue("heat") == "true", Practice: practice}
	e := &editing{ctx: r.Context(), store: s.store}
	var err error
	if rec.Ink, rec.OwnInk, err = e.tested(shelf.OwnInk, r.FormValue("ink")); err != nil {
		return err
	}
	if rec.Paper, rec.OwnPaper, err = e.tested(shelf.OwnPaper, r.FormValue("paper")); err != nil {
		return err
	}
	minutes, err := number(strings.TrimSpace(r.FormValue("minutes")), "minutes it dried")
	if err != nil {
		return err
	}
	if !(minutes >= 0 && minutes <= proof.MaxWaited.Minutes()) {
		return fmt.Errorf("an ink is tested after 0 to %.0f minutes of drying", proof.MaxWaited.Minutes())
	}
	rec.Waited = time.Duration(minutes * float64(time.Minute))
	if err := rec.Check(); err != nil {
		return err
	}
	release, err := s.openPicture(r)
	if err != nil {
		return err
	}
	defer release()
	m, err := newImage(data, name)
	if err != nil {
		return err
	}
	scan, err := picture.Colour(data)
	if err != nil {
		return err
	}
	t, err := proof.ReadStrip(scan)
	if err != nil {
		return err
	}
	rec.Image, rec.WaterTest = m.Hash, *t
	_, err = s.store.AddTest(r.Context(), rec, m)
	return err
}

// tested returns what a form says was tested, by id, and by name when it is the
// maker's own.
func (e *editing) tested(what shelf.What, choice string) (id, own string, err error) {
	id, o, err := e.material(what, choice)
	if o != nil {
		own = o.Name
	}
	return id, own, err
}

// openPicture waits for the one place in which pictures that come in are opened;
// release frees it.
func (s *Server) openPicture(r *http.Request) (release func(), err error) {
	select {
	case s.decoding <- struct{}{}:
		return func() { <-s.decoding }, nil
	case <-r.Context().Done():
		return nil, r.Context().Err()
	}
}

// hideTest puts a test away, or brings it back.
func (s *Server) hideTest(w http.ResponseWriter, r *http.Request) error {
	id, err := strconv.ParseInt(chi.URLParam(r, "test"), 10, 64)
	if err != nil {
		return store.ErrNotFound
	}
	hide := chi.URLParam(r, "do") == "hide"
	if err := s.store.HideTest(r.Context(), id, hide); err != nil {
		return err
	}
	to := "/tests"
	if hide {
		to += "?hidden=" + strconv.FormatInt(id, 10)
	}
	http.Redirect(w, r, to, http.StatusSeeOther)
	return nil
}

// strip sends the test strip to print.
func (s *Server) strip(w http.ResponseWriter, r *http.Request) error {
	doc := sheet.Strip{Unit: unitOf(r), Lines: r.URL.Query().Get("lines") == "printed"}
	return sendDrawing(w, "Ink test strip", "application/pdf", ".pdf", doc.WritePDF)
}

// impressionView is the page that shows an impression held against its image.
type impressionView struct {
	page
	Card     *store.Revision
	Proof    *proof.Impression
	Picture  string // address of the image it was made with
	Practice bool
	Unit     length.Unit
}

// impression checks a scan of the stamped panel against the card's image.
// Nothing is stored: it is looked at while the paper is in the positioner.
func (s *Server) impression(w http.ResponseWriter, r *http.Request) error {
	data, _, err := sentFile(w, r, picture.MaxBytes)
	if err != nil {
		return s.impressionFailed(w, r, err)
	}
	return s.checkImpression(w, r, func(*image.Gray, float64) (*image.Gray, error) { return picture.Grey(data) }, false)
}

// practiseImpression lets the practice scanner scan a weak impression.
func (s *Server) practiseImpression(w http.ResponseWriter, r *http.Request) error {
	return s.checkImpression(w, r, func(ref *image.Gray, dpi float64) (*image.Gray, error) {
		sc := standin.Usual(uint64(time.Now().UnixNano()))
		return standin.Grey(sc.Scan(standin.Weak(ref, dpi/25.4, sc.Seed), dpi/25.4)), nil
	}, true)
}

func (s *Server) checkImpression(w http.ResponseWriter, r *http.Request, scanOf func(ref *image.Gray, dpi float64) (*image.Gray, error), practice bool) error {
	rev, err := s.revision(r)
	if err != nil {
		return err
	}
	if rev.Card.Line() == nil {
		return s.impressionFailed(w, r, refused(fmt.Errorf("the card has no line image to hold an impression against; choose one first")))
	}
	release, err := s.openPicture(r)
	if err != nil {
		return err
	}
	defer release()
	ref, refDPI, address, err := s.reference(r.Context(), rev)
	if err != nil {
		return s.impressionFailed(w, r, asRefused(err))
	}
	scan, err := scanOf(ref, refDPI)
	if err != nil {
		return s.impressionFailed(w, r, refused(err))
	}
	dpi := refDPI
	if !practice {
		width, err := realWidth(r.FormValue("width"), rev.Card.Unit, scan.Bounds().Dx())
		if err != nil {
			return s.impressionFailed(w, r, refused(fmt.Errorf("width of the scan: %w", err)))
		}
		dpi = float64(scan.Bounds().Dx()) / (width.MM() / 25.4)
	}
	p, err := proof.CheckScan(r.Context(), ref, refDPI, scan, dpi)
	if err != nil {
		return s.impressionFailed(w, r, asRefused(err))
	}
	s.render(w, r, http.StatusOK, "impression.html", impressionView{
		page: page{Title: rev.Card.Name + ", impression"}, Card: rev, Proof: p, Practice: practice, Unit: rev.Card.Unit,
		Picture: address,
	})
	return nil
}

// reference is what an impression of a card is held against, with its resolution
// and its address: the image itself, which may reach beyond the panel, or all that
// is stamped on the panel when there is more than one.
func (s *Server) reference(ctx context.Context, rev *store.Revision) (ref *image.Gray, dpi float64, address string, err error) {
	scans, err := scansOf(ctx, s.store, rev.Card)
	if err != nil {
		return nil, 0, "", err
	}
	if m := rev.Card.Line(); len(rev.Card.Images) == 1 && !m.Mirror && !slices.ContainsFunc(m.Marks, func(k card.Mark) bool { return k.Kind == card.Bare }) {
		return scans[m.Image], m.DPI(), "/images/" + m.Image, nil
	}
	inked := *rev.Card
	inked.Images = slices.DeleteFunc(slices.Clone(inked.Images), func(m card.Image) bool { return !m.Inked() })
	made, err := panel.Compose(ctx, &inked, scans)
	if err != nil {
		return nil, 0, "", err
	}
	return made.Found, made.DPI, cardPath(rev.ID, "line.png"), nil
}

// impressionFailed says at the Line station why an impression could not be
// checked.
func (s *Server) impressionFailed(w http.ResponseWriter, r *http.Request, err error) error {
	status, words := s.explain(r, err)
	rev, revErr := s.revision(r)
	if revErr != nil {
		return revErr
	}
	return s.showStation(w, r, rev, status, words.Error())
}
