package line

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/printing"
	"chromaqua/internal/desk"
	"chromaqua/internal/sheet"
	"chromaqua/internal/store"
	"chromaqua/internal/web/page"
	"chromaqua/internal/web/station"
)

// printView is how the line of pieces is printed on the paper that is painted.
type printView struct {
	printing.Job
	Asked  bool // it is looked at
	Pages  []printing.Page
	Tones  []printing.Tone
	Pieces []printed
	Edge   string // as typed
	Bar    string
	Plan   *printing.Plan
	Why    string // there is none
	PDF    string
	Test   string
}

// printed is a piece whose line may be printed.
type printed struct {
	ID, Name string
	On       bool
}

// jobOf reads what is to be printed how from an address: what is not said is as usual, and
// the piece that is shown.
func jobOf(q url.Values, c *card.Card, piece string) (j printing.Job, of []string, err error) {
	j, of = printing.Usual(c.Unit), q["of"]
	if len(of) == 0 {
		of = []string{piece}
	}
	if v := q.Get("paper"); v != "" {
		j.Page = v
	}
	if v := q.Get("tone"); v != "" {
		j.Tone = printing.Tone(v)
	}
	j.Grain, j.Mirror = printing.Grain(q.Get("grain")), q.Get("mirror") != ""
	if v := strings.TrimSpace(q.Get("edge")); v != "" {
		if j.Edge, err = length.ParseOffset(v, c.Unit); err != nil {
			return j, of, fmt.Errorf("the edge that is not printed: %w", err)
		}
	}
	if v := strings.TrimSpace(strings.TrimSuffix(q.Get("bar"), "mm")); v != "" {
		if j.Bar, err = strconv.ParseFloat(strings.Replace(strings.TrimSpace(v), ",", ".", 1), 64); err != nil {
			return j, of, fmt.Errorf("%.20q is no length of the bar in mm", v)
		}
	}
	return j, of, j.Check()
}

// printOf is what is shown of printing: a plan of it only where it was asked for.
func (p *place) printOf(v *station.Visit, piece string) *printView {
	q := v.URL.Query()
	whole := v.Rev.Whole
	j, of, err := jobOf(q, whole, piece)
	out := &printView{Job: j, Asked: q.Has("print"), Pages: printing.Pages(whole.Unit), Tones: printing.Tones(), Edge: j.Edge.Typed(whole.Unit), Bar: q.Get("bar")}
	for _, id := range whole.PieceIDs() {
		if made, err := whole.PieceByID(id); err == nil && made.Kind == card.WholeCard {
			continue // it goes into no printer
		}
		out.Pieces = append(out.Pieces, printed{id, whole.PieceName(id), slices.Contains(of, id)})
	}
	to := url.Values{}
	for _, name := range []string{"paper", "edge", "grain", "tone", "mirror", "bar"} {
		if s := q.Get(name); s != "" {
			to.Set(name, s)
		}
	}
	out.Test = page.CardAddress(v.Rev.Address(), "print-test.pdf") + "?" + to.Encode()
	to["of"] = of
	out.PDF = page.CardAddress(v.Rev.Address(), "print.pdf") + "?" + to.Encode()
	if !out.Asked {
		return out
	}
	if err == nil {
		out.Plan, _, err = p.layPrint(v.Context(), v.Rev, j, of)
	}
	if err != nil {
		out.Why = err.Error()
	}
	return out
}

// layPrint lays the lines of pieces on sheets.
func (p *place) layPrint(ctx context.Context, rev *store.Revision, j printing.Job, of []string) (*printing.Plan, []*printing.Line, error) {
	var lines []*printing.Line
	var parts []printing.Part
	for _, id := range rev.Whole.PieceIDs() {
		if !slices.Contains(of, id) {
			continue
		}
		alone, err := rev.Whole.Alone(id)
		if err != nil {
			return nil, nil, err
		}
		scans, err := desk.Scans(ctx, p.host.Store, alone)
		if err != nil {
			return nil, nil, err
		}
		l, err := printing.LineOf(ctx, rev.Whole, id, scans)
		if err != nil {
			return nil, nil, err
		}
		if l != nil {
			lines, parts = append(lines, l), append(parts, l.Part)
		}
	}
	plan, err := printing.Lay(ctx, j, parts, rev.Whole.Unit)
	return plan, lines, err
}

// printPDF sends what is printed.
func (p *place) printPDF(w http.ResponseWriter, r *http.Request) error {
	rev, err := p.host.Revision(r)
	if err != nil {
		return err
	}
	j, of, err := jobOf(r.URL.Query(), rev.Whole, card.ThePanel)
	if err != nil {
		return desk.Refuse(err)
	}
	plan, lines, err := p.layPrint(r.Context(), rev, j, of)
	if err != nil {
		return desk.Refuse(err)
	}
	doc := &sheet.Printed{Title: rev.Whole.Name + ", line", Plan: plan, Lines: lines}
	return page.SendFile(w, "application/pdf", rev.Whole.Name, ", line.pdf", doc.WritePDF)
}

var errOwnPaper = errors.New("a test page is printed on a sheet of a size that printers take; choose one first")

// printTest sends the page that tells what a printer does.
func (p *place) printTest(w http.ResponseWriter, r *http.Request) error {
	rev, err := p.host.Revision(r)
	if err != nil {
		return err
	}
	j, _, err := jobOf(r.URL.Query(), rev.Whole, card.ThePanel)
	if err != nil {
		return desk.Refuse(err)
	}
	all := printing.Pages(rev.Whole.Unit)
	at := slices.IndexFunc(all, func(s printing.Page) bool { return s.ID == j.Page && s.ID != printing.Own })
	if at < 0 {
		return desk.Refuse(errOwnPaper)
	}
	return page.SendFile(w, "application/pdf", "Test page of a printer", ".pdf", (&sheet.PrintTest{Page: all[at]}).WritePDF)
}
