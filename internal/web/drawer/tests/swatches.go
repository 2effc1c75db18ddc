package tests

import (
	"image"
	"net/http"
	"strings"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/pigment"
	"chromaqua/core/proof"
	"chromaqua/core/shelf"
	"chromaqua/core/wording"
	"chromaqua/internal/picture"
	"chromaqua/internal/sheet"
	"chromaqua/internal/standin"
	"chromaqua/internal/web/drawer"
	"chromaqua/internal/web/page"
)

// swatchesView is the page on which a paint is measured.
type swatchesView struct {
	page.Page
	drawer.History // of the shelf, to which a paint is added
	Paints         []pigment.Pigment
	CI             string
	Name           string
	Found          *foundPaint
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

func (d *place) swatchesPage(w http.ResponseWriter, r *http.Request) error {
	return d.showSwatches(w, r, http.StatusOK, "", nil)
}

func (d *place) showSwatches(w http.ResponseWriter, r *http.Request, status int, message string, found *foundPaint) error {
	shelf, err := d.ShelfHead(r.Context())
	if err != nil {
		return err
	}
	d.Render(w, r, status, "swatches.html", swatchesView{
		Page: page.Page{Title: "Measure a paint", Place: "tests", Message: message}, History: drawer.HistoryOf(r, "/shelf", shelf), Paints: pigment.Library(),
		CI: r.FormValue("ci"), Name: r.FormValue("name"), Found: found,
	})
	return nil
}

// measurePaint reads a scan of swatches and keeps the paint on the shelf.
func (d *place) measurePaint(w http.ResponseWriter, r *http.Request) error {
	file, err := page.SentFile(w, r, picture.MaxBytes)
	var found *foundPaint
	if err == nil {
		found, err = d.fitPaint(r, false, func(pigment.Paint) (image.Image, error) {
			data, err := file.Data()
			if err != nil {
				return nil, err
			}
			return picture.Colour(data)
		})
	}
	return d.afterSwatches(w, r, found, err)
}

// practiseSwatches lets the practice scanner paint and scan a card; nothing is
// kept.
func (d *place) practiseSwatches(w http.ResponseWriter, r *http.Request) error {
	if err := page.Read(w, r); err != nil {
		return err
	}
	found, err := d.fitPaint(r, true, func(p pigment.Paint) (image.Image, error) {
		const pxPerMM = 6
		seed := uint64(time.Now().UnixNano())
		return standin.Usual(seed).Scan(standin.Swatches(standin.Another(p, seed), 0.05, seed, pxPerMM), pxPerMM), nil
	})
	return d.afterSwatches(w, r, found, err)
}

func (d *place) fitPaint(r *http.Request, practice bool, scanOf func(pigment.Paint) (image.Image, error)) (*foundPaint, error) {
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
	release, err := d.OpenPicture(r.Context())
	if err != nil {
		return nil, err
	}
	defer release()
	base, err := page.BaseOf(r)
	if err != nil {
		return nil, err
	}
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
		usual := pigment.Seen(like.Over(&p.Ground, p.Load), pigment.Dry)
		found.Patches = append(found.Patches, patchView{
			Strength: strengths[i%len(strengths)], OnBar: i >= len(strengths),
			Seen: p.Seen.RGB().Hex(), Made: f.Made[i].RGB().Hex(), Away: f.Away[i], Generic: pigment.Difference(p.Seen, usual.Lab()),
		})
	}
	if practice {
		return found, nil
	}
	return found, d.PutMaterials(r.Context(), base, []shelf.Own{{
		Name: name, What: shelf.OwnPaint, Like: generic.CI, Paint: &f.Paint,
		Note: "measured from swatches; they and the computed colours are " + pigment.Apart(f.Mean()),
	}}, "measured "+name)
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

func (d *place) afterSwatches(w http.ResponseWriter, r *http.Request, found *foundPaint, err error) error {
	if err = page.Refused(err); err != nil {
		status, words := d.Explain(r, err)
		return d.showSwatches(w, r, status, wording.Sentence(words.Error()), nil)
	}
	return d.showSwatches(w, r, http.StatusOK, "", found)
}

// swatchCard sends the card to print.
func (d *place) swatchCard(w http.ResponseWriter, r *http.Request) error {
	return page.SendDrawing(w, r, "Swatch card", &sheet.Swatches{Unit: page.UnitOf(r)})
}
