package log

import (
	"bytes"
	"errors"
	"net/http"
	"strconv"
	"time"

	"github.com/go-chi/chi/v5"

	"chromaqua/core/card"
	"chromaqua/core/run"
	"chromaqua/internal/album"
	"chromaqua/internal/bench"
	"chromaqua/internal/desk"
	"chromaqua/internal/picture"
	"chromaqua/internal/store"
	"chromaqua/internal/web/page"
)

// photoView is a photo held against the plan.
type photoView struct {
	store.Photo
	*album.Reading        // nil when it was not read
	Of             string // the piece it shows
	Picture        string // its address
	Planned        string // that of the planned panel
	AsWashes       string // and of it painted
}

// photosOf are the photos of one making, of those of the card.
func photosOf(all []store.Photo, c *card.Card, address func(piece string) string, of album.Of) (out []photoView) {
	for i := range all {
		p := &all[i]
		if !of.Shows(p) {
			continue
		}
		v := photoView{Photo: *p, Reading: album.ReadingOf(p), Of: c.PieceName(p.Piece), Picture: page.CardAddress(address(card.ThePanel), "photos/"+strconv.FormatInt(p.ID, 10)+".jpg")}
		v.Planned, v.AsWashes = page.CardAddress(address(p.Piece), "panel.svg"), page.CardAddress(address(p.Piece), "painted.svg")+"?dpi=100"
		out = append(out, v)
	}
	return out
}

// ofForm is what a photo belongs to, as a form says it; the piece is the one at hand.
func ofForm(r *http.Request, rev *store.Revision) (of album.Of, err error) {
	of.Card, of.Piece = rev.ID, rev.Piece
	if of.Piece == "" {
		of.Piece = card.ThePanel
	}
	if piece := r.FormValue("piece"); piece != "" {
		if of.Piece = piece; piece != card.ThePanel {
			if _, err := rev.Whole.PieceByID(piece); err != nil {
				return of, err
			}
		}
	}
	for name, to := range map[string]*int64{"run": &of.Run, "entry": &of.Entry} {
		if text := r.FormValue(name); text != "" {
			if *to, err = strconv.ParseInt(text, 10, 64); err != nil || *to < 1 {
				return of, page.ErrOldPage
			}
		}
	}
	if (of.Run == 0) == (of.Entry == 0) {
		return of, errors.New("say which making the photo belongs to")
	}
	return of, nil
}

// takePhoto reads a photo that was sent, or has the practice camera take one.
func (p *place) takePhoto(w http.ResponseWriter, r *http.Request) error {
	rev, err := p.host.Revision(r)
	if err != nil {
		return err
	}
	id, err := p.take(w, r, rev)
	if err == nil {
		err = p.tellPhoto(r, rev, id)
	}
	if err != nil {
		return p.refused(w, r, rev, err)
	}
	http.Redirect(w, r, page.CardAddress(rev.Address(), "log?photo="+strconv.FormatInt(id, 10)+"#photo-"+strconv.FormatInt(id, 10)), http.StatusSeeOther)
	return nil
}

// tellPhoto tells a run at the bench that a photo was taken of it.
func (p *place) tellPhoto(r *http.Request, rev *store.Revision, id int64) error {
	photo, err := p.host.PhotoByID(r.Context(), id)
	if err != nil || photo.Run == 0 {
		return err
	}
	return p.host.Benches.Tell(r.Context(), photo.Run, run.Event{Kind: run.Pictured, Text: "a photo of the " + rev.Whole.PieceName(photo.Piece) + " was taken"})
}

func (p *place) take(w http.ResponseWriter, r *http.Request, rev *store.Revision) (int64, error) {
	practice := r.URL.Query().Has("practice")
	var file *page.File
	var err error
	if practice {
		err = page.Read(w, r)
	} else {
		file, err = page.SentFile(w, r, picture.MaxBytes)
	}
	if err != nil {
		return 0, err
	}
	of, err := ofForm(r, rev)
	if err != nil {
		return 0, desk.Refuse(err)
	}
	made, _, err := p.madeFrom(r, rev, of)
	if err != nil {
		return 0, err
	}
	if practice {
		return p.album.Practise(r.Context(), of, made, uint64(time.Now().UnixNano())%1000)
	}
	data, err := file.Data()
	if err != nil {
		return 0, err
	}
	return p.album.Add(r.Context(), of, made, data)
}

// madeFrom is the card as it was when a making began, and the log of its run: as it is now,
// and none, for what was entered by hand.
func (p *place) madeFrom(r *http.Request, rev *store.Revision, of album.Of) (*store.Revision, *bench.Log, error) {
	if of.Run == 0 {
		return rev.At(""), nil, nil
	}
	l, err := p.host.Benches.Log(r.Context(), of.Run)
	if err != nil {
		return nil, nil, err
	}
	at := l.Of(rev.ID)
	if len(at) == 0 {
		return nil, nil, store.ErrNotFound
	}
	return l.Places[at[0]].Rev.At(""), l, nil
}

// refused shows the log again with what went wrong.
func (p *place) refused(w http.ResponseWriter, r *http.Request, rev *store.Revision, err error) error {
	status, words := p.host.Explain(r, err)
	return p.host.ShowAt(w, r, p, rev, status, words.Error())
}

// dropPhoto takes a photo away.
func (p *place) dropPhoto(w http.ResponseWriter, r *http.Request) error {
	if err := page.Read(w, r); err != nil {
		return err
	}
	rev, err := p.host.Revision(r)
	if err != nil {
		return err
	}
	id, err := strconv.ParseInt(r.FormValue("photo"), 10, 64)
	if err != nil {
		return page.ErrOldPage
	}
	photo, err := p.host.PhotoByID(r.Context(), id)
	if err != nil || photo.Card != rev.ID {
		return errors.Join(err, store.ErrNotFound)
	}
	if err := p.host.RemovePhoto(r.Context(), id); err != nil {
		return err
	}
	http.Redirect(w, r, page.CardAddress(rev.Address(), "log"), http.StatusSeeOther)
	return nil
}

// photoPicture sends a photo as it was taken, or squared and evened.
func (p *place) photoPicture(w http.ResponseWriter, r *http.Request) error {
	id, err := strconv.ParseInt(chi.URLParam(r, "photo"), 10, 64)
	if err != nil {
		return store.ErrNotFound
	}
	photo, err := p.host.PhotoByID(r.Context(), id)
	if err != nil {
		return err
	}
	data := photo.Data
	if r.URL.Query().Has("squared") && len(photo.Squared) > 0 {
		data = photo.Squared
	}
	w.Header().Set("Content-Type", "image/jpeg")
	w.Header().Set("Cache-Control", "private, max-age=31536000, immutable")
	http.ServeContent(w, r, "", photo.Made, bytes.NewReader(data))
	return nil
}
