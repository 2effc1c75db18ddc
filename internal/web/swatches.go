package web

import (
	"fmt"
	"image"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/go-chi/chi/v5"

	"chromaqua/core/card"
	"chromaqua/core/panel"
	"chromaqua/core/pigment"
	"chromaqua/core/proof"
	"chromaqua/core/shelf"
	"chromaqua/internal/picture"
	"chromaqua/internal/sheet"
	"chromaqua/internal/standin"
)

// swatchesView is the page on which a paint is measured.
type swatchesView struct {
	page
	Paints []pigment.Pigment
	CI     string
	Name   string
	Found  *foundPaint
}

// foundPaint is what was found from a card of swatches.
type foundPaint struct {
	Name     string
	Practice bool
	Patches  []patchView
	Mean     float64
	Words    string
}

type patchView struct {
	Strength   pigment.Strength
	OnBar      bool
	Seen, Made string
	Away       float64
	Generic    float64 // how far the generic pigment is off
}

func (s *Server) swatchesPage(w http.ResponseWriter, r *http.Request) error {
	return s.showSwatches(w, r, http.StatusOK, "", nil)
}

func (s *Server) showSwatches(w http.ResponseWriter, r *http.Request, status int, message string, found *foundPaint) error {
	s.render(w, r, status, "swatches.html", swatchesView{
		page: page{Title: "Measure a paint", Place: "tests", Message: message}, Paints: pigment.Library(),
		CI: r.FormValue("ci"), Name: r.FormValue("name"), Found: found,
	})
	return nil
}

// measurePaint reads a scan of swatches and keeps the paint on the shelf.
func (s *Server) measurePaint(w http.ResponseWriter, r *http.Request) error {
	data, _, err := sentFile(w, r, picture.MaxBytes)
	var found *foundPaint
	if err == nil {
		found, err = s.fitPaint(r, false, func(pigment.Paint) (image.Image, error) { return picture.Colour(data) })
	}
	return s.afterSwatches(w, r, found, err)
}

// practiseSwatches lets the practice scanner paint and scan a card; nothing is
// kept.
func (s *Server) practiseSwatches(w http.ResponseWriter, r *http.Request) error {
	r.Body = http.MaxBytesReader(w, r.Body, maxForm)
	found, err := s.fitPaint(r, true, func(p pigment.Paint) (image.Image, error) {
		const pxPerMM = 6
		seed := uint64(time.Now().UnixNano())
		return standin.Usual(seed).Scan(standin.Swatches(standin.Another(p, seed), 0.05, seed, pxPerMM), pxPerMM), nil
	})
	return s.afterSwatches(w, r, found, err)
}

func (s *Server) fitPaint(r *http.Request, practice bool, scanOf func(pigment.Paint) (image.Image, error)) (*foundPaint, error) {
	generic, err := pigment.ByCI(r.FormValue("ci"))
	if err != nil {
		return nil, err
	}
	name := strings.TrimSpace(r.FormValue("name"))
	if !practice {
		if err := card.CheckName("paint", name); err != nil {
			return nil, err
		}
	}
	release, err := s.openPicture(r)
	if err != nil {
		return nil, err
	}
	defer release()
	like := generic.Paint()
	scan, err := scanOf(like)
	if err != nil {
		return nil, err
	}
	patches, err := proof.ReadSwatches(scan)
	if err != nil {
		return nil, err
	}
	f, err := pigment.Fit(patches, &like)
	if err != nil {
		return nil, err
	}
	found := &foundPaint{Name: name, Practice: practice, Mean: f.Mean(), Words: leftOver(f.Mean())}
	strengths := pigment.Strengths()
	for i, p := range patches {
		usual := like.Over(&p.Ground, p.Load)
		found.Patches = append(found.Patches, patchView{
			Strength: strengths[i%len(strengths)], OnBar: i >= len(strengths),
			Seen: p.Seen.RGB().Hex(), Made: f.Made[i].RGB().Hex(), Away: f.Away[i], Generic: pigment.Difference(p.Seen, usual.Lab()),
		})
	}
	if practice {
		return found, nil
	}
	return found, s.store.PutMaterials(r.Context(), []shelf.Own{{
		Name: name, What: shelf.OwnPaint, Like: generic.CI, Paint: &f.Paint,
		Note: fmt.Sprintf("measured from swatches; ΔE %.1f left", f.Mean()),
	}})
}

// leftOver words what is left between swatches and the fitted paint.
func leftOver(mean float64) string {
	switch {
	case mean < 1.5:
		return "The paint is met well."
	case mean < 4:
		return "The paint is met as well as uneven swatches allow."
	}
	return "The swatches do not agree with each other, or with the pigment that was named. Paint them again in one go, or name another pigment."
}

func (s *Server) afterSwatches(w http.ResponseWriter, r *http.Request, found *foundPaint, err error) error {
	if err = asRefused(err); err != nil {
		status, words := s.explain(r, err)
		return s.showSwatches(w, r, status, upperFirst(words.Error())+".", nil)
	}
	return s.showSwatches(w, r, http.StatusOK, "", found)
}

// swatchCard sends the card to print.
func (s *Server) swatchCard(w http.ResponseWriter, r *http.Request) error {
	doc := sheet.Swatches{Unit: unitOf(r)}
	if chi.URLParam(r, "as") == "svg" {
		return sendDrawing(w, "Swatch card", "image/svg+xml", ".svg", doc.WriteSVG)
	}
	return sendDrawing(w, "Swatch card", "application/pdf", ".pdf", doc.WritePDF)
}

// measuredOf lists the maker's measured paints, one for each pigment.
func measuredOf(own []shelf.Own) (out []card.Measured) {
	for _, o := range own {
		if ci, ok := o.Pigment(); ok && o.Paint != nil && !has(out, ci) {
			out = append(out, card.Measured{CI: ci, Name: o.Name, K: o.Paint.K, S: o.Paint.S})
		}
	}
	return out
}

func has(paints []card.Measured, ci string) bool {
	return slices.ContainsFunc(paints, func(m card.Measured) bool { return m.CI == ci })
}

// knownOf lists the paints of which the shelf knows more than the pigment: those
// that were measured, and gouache of pigments that were not.
func knownOf(own []shelf.Own) []card.Measured {
	out := measuredOf(own)
	for _, o := range own {
		ci, ok := o.Pigment()
		if !ok || o.Form != shelf.Gouache || has(out, ci) {
			continue
		}
		if paint, err := o.Mixture(); err == nil {
			out = append(out, card.Measured{CI: ci, Name: o.Name + ", gouache by estimate", K: paint.K, S: paint.S})
		}
	}
	return out
}

// unused lists the paints known better that a card could be painted with and is not.
func unused(c *card.Card, own []shelf.Own) (out []card.Measured) {
	for _, m := range knownOf(own) {
		if c.Uses(m.CI) && !slices.Contains(c.Measured, m) {
			out = append(out, m)
		}
	}
	return out
}

// useMeasured paints a card with the maker's measured paints, or with the generic
// ones again.
func (e *editing) useMeasured() (string, error) {
	if e.get("measured") == "generic" {
		e.card.Measured = nil
		return "paints with generic pigments", nil
	}
	own, err := e.store.Materials(e.ctx)
	if err != nil {
		return "", err
	}
	found := unused(e.card, own)
	e.card.Measure(found...)
	return "paints with " + plural(len(found), "measured paint"), nil
}

// chartPalette is what the colours of shelf and charts are made of: white paper and
// the maker's paints.
func chartPalette(own []shelf.Own) panel.Palette {
	c := &card.Card{Paper: shelf.Papers()[0].ID}
	c.Measure(measuredOf(own)...)
	return panel.PaletteOf(c)
}
