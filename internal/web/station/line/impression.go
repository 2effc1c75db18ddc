package line

import (
	"context"
	"fmt"
	"image"
	"net/http"
	"slices"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/panel"
	"chromaqua/core/proof"
	"chromaqua/internal/desk"
	"chromaqua/internal/picture"
	"chromaqua/internal/standin"
	"chromaqua/internal/store"
	"chromaqua/internal/web/page"
)

// impressionView is the page that shows an impression held against its image.
type impressionView struct {
	page.Page
	Card     *store.Revision
	Proof    *proof.Impression
	Picture  string // address of the image it was made with
	Practice bool
	Unit     length.Unit
}

// impression checks a scan of the stamped panel against the card's image.
// Nothing is stored: it is looked at while the paper is in the positioner.
func (p *place) impression(w http.ResponseWriter, r *http.Request) error {
	file, err := page.SentFile(w, r, picture.MaxBytes)
	if err != nil {
		return p.host.Refused(w, r, err)
	}
	return p.checkImpression(w, r, func(*image.Gray, float64) (*image.Gray, error) {
		data, err := file.Data()
		if err != nil {
			return nil, err
		}
		return picture.Grey(data)
	}, false)
}

// practiseImpression lets the practice scanner scan a weak impression.
func (p *place) practiseImpression(w http.ResponseWriter, r *http.Request) error {
	return p.checkImpression(w, r, func(ref *image.Gray, dpi float64) (*image.Gray, error) {
		sc := standin.Usual(uint64(time.Now().UnixNano()))
		return standin.Grey(sc.Scan(standin.Weak(ref, dpi/25.4, sc.Seed), dpi/25.4)), nil
	}, true)
}

func (p *place) checkImpression(w http.ResponseWriter, r *http.Request, scanOf func(ref *image.Gray, dpi float64) (*image.Gray, error), practice bool) error {
	rev, err := p.host.Revision(r)
	if err != nil {
		return err
	}
	if rev.Card.Line() == nil {
		return p.host.Refused(w, r, desk.Refuse(fmt.Errorf("the card has no line image to hold an impression against; choose one first")))
	}
	release, err := p.host.OpenPicture(r.Context())
	if err != nil {
		return err
	}
	defer release()
	ref, refDPI, address, err := p.reference(r.Context(), rev)
	if err != nil {
		return p.host.Refused(w, r, page.Refused(err))
	}
	scan, err := scanOf(ref, refDPI)
	if err != nil {
		return p.host.Refused(w, r, desk.Refuse(err))
	}
	dpi := refDPI
	if !practice {
		width, err := picture.RealWidth(r.FormValue("width"), rev.Card.Unit, scan.Bounds().Dx())
		if err != nil {
			return p.host.Refused(w, r, desk.Refuse(fmt.Errorf("width of the scan: %w", err)))
		}
		dpi = float64(scan.Bounds().Dx()) / (width.MM() / 25.4)
	}
	found, err := proof.CheckScan(r.Context(), ref, refDPI, scan, dpi)
	if err != nil {
		return p.host.Refused(w, r, page.Refused(err))
	}
	p.host.Render(w, r, http.StatusOK, "impression.html", impressionView{
		Page: page.Page{Title: rev.Card.Name + ", impression"}, Card: rev, Proof: found, Practice: practice, Unit: rev.Card.Unit,
		Picture: address,
	})
	return nil
}

// reference is what an impression of a card is held against, with its resolution
// and its address: the image itself, which may reach beyond the panel, or all that
// is stamped on the panel when there is more than one.
func (p *place) reference(ctx context.Context, rev *store.Revision) (ref *image.Gray, dpi float64, address string, err error) {
	scans, err := desk.Scans(ctx, p.host.Store, rev.Card)
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
	return made.Found, made.DPI, page.CardAddress(rev.Address(), "line.png"), nil
}
