package tests

import (
	"context"
	"fmt"
	"image"
	"net/http"
	"time"

	"chromaqua/core/drying"
	"chromaqua/core/paint"
	"chromaqua/core/proof"
	"chromaqua/core/settings"
	"chromaqua/core/shelf"
	"chromaqua/core/wash"
	"chromaqua/core/wording"
	"chromaqua/internal/picture"
	"chromaqua/internal/sheet"
	"chromaqua/internal/standin"
	"chromaqua/internal/web/page"
)

// washesView is the page on which the maker's washes are measured.
type washesView struct {
	page.Page
	Papers []shelf.Paper
	Paper  string
	Now    settings.Washes // as they are known
	Base   int64
	Found  *settings.Washes
	Truth  *wash.Hand // of the practice scanner
	Says   [3]string
	Steps  string
}

func (d *place) washesPage(w http.ResponseWriter, r *http.Request) error {
	return d.showWashes(w, r, http.StatusOK, "", nil, nil)
}

func (d *place) showWashes(w http.ResponseWriter, r *http.Request, status int, message string, found *settings.Washes, truth *wash.Hand) error {
	now, err := d.Settings(r.Context())
	if err != nil {
		return err
	}
	v := washesView{Page: page.Page{Title: "Measure your washes", Place: "tests", Message: message}, Papers: shelf.Papers(), Paper: r.FormValue("paper"), Now: now.Settings.Washes, Base: now.Seq, Found: found, Truth: truth, Steps: sheet.WashesSteps}
	if found != nil {
		v.Says = [3]string{beside(found.Spread, "spread"), beside(found.Rim, "make rims"), beside(found.Grain, "grain")}
	}
	d.Render(w, r, status, "washes.html", v)
	return nil
}

// beside says how a factor stands beside the usual.
func beside(f float64, does string) string {
	switch {
	case f < 0.87:
		return fmt.Sprintf("They %s less than usual, × %.2f.", does, f)
	case f > 1.15:
		return fmt.Sprintf("They %s more than usual, × %.2f.", does, f)
	}
	return fmt.Sprintf("They %s about as usual, × %.2f.", does, f)
}

// measureWashes reads a scan of the card and keeps what it shows.
func (d *place) measureWashes(w http.ResponseWriter, r *http.Request) error {
	file, err := page.SentFile(w, r, picture.MaxBytes)
	var found *settings.Washes
	if err == nil {
		found, err = d.fitWashes(r, func(context.Context, wash.Paper, float64) (image.Image, error) {
			data, err := file.Data()
			if err != nil {
				return nil, err
			}
			return picture.Colour(data)
		})
	}
	if err == nil {
		err = d.keepWashes(r, *found)
	}
	return d.afterWashes(w, r, found, nil, err)
}

// practiseWashes lets the practice scanner paint and scan a card; nothing is kept.
func (d *place) practiseWashes(w http.ResponseWriter, r *http.Request) error {
	if err := page.Read(w, r); err != nil {
		return err
	}
	const pxPerMM = 6
	seed := uint64(time.Now().UnixNano())
	hand := standin.SomeHand(seed)
	found, err := d.fitWashes(r, func(ctx context.Context, p wash.Paper, rate float64) (image.Image, error) {
		card, err := standin.Washes(ctx, p, hand, rate, seed, pxPerMM)
		if err != nil {
			return nil, err
		}
		return standin.Usual(seed).Scan(card, pxPerMM), nil
	})
	return d.afterWashes(w, r, found, &hand, err)
}

// forgetWashes takes the usual hand again.
func (d *place) forgetWashes(w http.ResponseWriter, r *http.Request) error {
	if err := page.Read(w, r); err != nil {
		return err
	}
	return d.afterWashes(w, r, nil, nil, d.keepWashes(r, settings.Washes{}))
}

func (d *place) keepWashes(r *http.Request, found settings.Washes) error {
	now, err := d.Settings(r.Context())
	if err != nil {
		return err
	}
	next := now.Settings
	next.Washes = found
	return d.SaveSettings(r.Context(), now.ID, now.Seq, next, "measured washes")
}

func (d *place) fitWashes(r *http.Request, scanOf func(ctx context.Context, p wash.Paper, rate float64) (image.Image, error)) (*settings.Washes, error) {
	of, err := shelf.PaperByID(r.FormValue("paper"))
	if err != nil {
		return nil, err
	}
	release, err := d.OpenPicture(r.Context())
	if err != nil {
		return nil, err
	}
	defer release()
	box := wash.TestBoxes()[0]
	paper, rate := paint.PaperOf(of), drying.StillRoom.Rate((box[2]-box[0])*(box[3]-box[1]))
	scan, err := scanOf(r.Context(), paper, rate)
	if err != nil {
		return nil, err
	}
	const pxPerMM = 6
	level, err := proof.Level(scan, pxPerMM)
	if err != nil {
		return nil, err
	}
	f, err := wash.ReadTestCard(level, pxPerMM)
	if err != nil {
		return nil, err
	}
	h, err := wash.FitHand(r.Context(), f, paper, rate)
	if err != nil {
		return nil, err
	}
	return &settings.Washes{Spread: h.Spread, Rim: h.Rim, Grain: h.Grain, Paper: of.Name}, nil
}

func (d *place) afterWashes(w http.ResponseWriter, r *http.Request, found *settings.Washes, truth *wash.Hand, err error) error {
	if err = page.Refused(err); err != nil {
		status, words := d.Explain(r, err)
		return d.showWashes(w, r, status, wording.Sentence(words.Error()), nil, nil)
	}
	return d.showWashes(w, r, http.StatusOK, "", found, truth)
}

// washesCard sends the card to print.
func (d *place) washesCard(w http.ResponseWriter, r *http.Request) error {
	return page.SendFile(w, "application/pdf", "Card of test washes", ".pdf", (&sheet.Washes{Unit: page.UnitOf(r)}).WritePDF)
}
