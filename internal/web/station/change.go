package station

import (
	"bytes"
	"cmp"
	"context"
	"fmt"
	"net/http"
	"net/url"
	"reflect"
	"strconv"

	"chromaqua/core/advice"
	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/length"
	"chromaqua/core/panel"
	"chromaqua/internal/desk"
	"chromaqua/internal/picture"
	"chromaqua/internal/store"
	"chromaqua/internal/web/page"
)

// Edit is a change that forms ask for by the name it has in package change.
type Edit struct {
	Name string
	Do   func(*Editing) (change.Done, error)
}

// Editing is a card while a form changes it.
type Editing struct {
	*http.Request
	Card  *card.Card // or the piece at hand alone
	whole *card.Card
	done  bool // the card was changed as a whole
	piece string
	host  *Host
}

// Make makes a change on the card.
func (e *Editing) Make(c change.Change) (change.Done, error) {
	if _, ofWhole := c.(change.OnWhole); ofWhole {
		if err := e.whole.Return(e.piece, e.Card); err != nil {
			return change.Done{}, err
		}
		e.done = true
		return c.Do(e.whole)
	}
	return change.Make(c, e.Card, func() (*panel.Board, error) { return e.host.Board(e.Context(), e.Card) })
}

// Checked reports what is wrong with the card as it is now.
func (e *Editing) Checked() error {
	if err := e.whole.Return(e.piece, e.Card); err != nil {
		return err
	}
	return e.whole.Check()
}

// Plain are the edits of which the form says all.
func Plain(of ...change.Change) (out []Edit) {
	for _, c := range of {
		kind := reflect.TypeOf(c)
		out = append(out, Edit{change.NameOf(c), func(e *Editing) (change.Done, error) {
			into := reflect.New(kind)
			if err := page.Decode(e.Request, into.Interface()); err != nil {
				return change.Done{}, err
			}
			return e.Make(into.Elem().Interface().(change.Change))
		}})
	}
	return out
}

// ownEdits are those of the card as a whole, which every station offers.
func (h *Host) ownEdits() []Edit {
	return append(Plain(change.Name{}, change.Notes{}, change.Unit{}), Edit{change.NameOf(change.Silence{}), func(e *Editing) (change.Done, error) {
		var c change.Silence
		if err := page.Decode(e.Request, &c); err != nil {
			return change.Done{}, err
		}
		if err := advice.Check(c.Rule); err != nil {
			return change.Done{}, err
		}
		return e.Make(c)
	}})
}

// edit makes the change a form names, as a new revision.
func (h *Host) edit(w http.ResponseWriter, r *http.Request) error {
	if err := page.Read(w, r); err != nil {
		return err
	}
	return h.Change(w, r, func(e *Editing) (change.Done, error) {
		edit, ok := h.edits[r.PostForm.Get("edit")]
		if !ok {
			return change.Done{}, page.ErrOldPage
		}
		return edit.Do(e)
	})
}

// Change loads the card of a request, lets f change it, saves it on top of the
// revision the form was made from, and goes back to the station. What cannot be done
// is shown there, with the card as it is.
func (h *Host) Change(w http.ResponseWriter, r *http.Request, f func(*Editing) (change.Done, error)) error {
	rev, err := h.Revision(r)
	if err != nil {
		return err
	}
	base, err := page.BaseOf(r)
	if err != nil {
		return h.Refused(w, r, err)
	}
	if base != rev.Seq {
		return h.ShowBack(w, r, rev, http.StatusConflict, store.ErrStale.Error())
	}
	before, err := rev.Whole.Encode()
	if err != nil {
		return err
	}
	own, err := h.Materials(r.Context())
	if err != nil {
		return err
	}
	names := panel.NamesOf(own)
	rev.Card.Called = names // whichever is dipped in is called by its name
	e := &Editing{Request: r, Card: rev.Card, whole: rev.Whole, piece: rev.Piece, host: h}
	done, err := f(e)
	if err == nil && e.done { // what is at hand alone is as it was
		rev.Whole.Call(names)
	} else if err == nil {
		err = rev.Back(names)
	}
	if err = page.Refused(err); err == nil {
		err = desk.Refuse(rev.Whole.Check())
	}
	if err == nil {
		after, encodeErr := rev.Whole.Encode()
		if encodeErr != nil {
			return encodeErr
		}
		if !bytes.Equal(before, after) {
			err = h.Save(r.Context(), rev.ID, base, rev.Whole, done.Says)
		}
	}
	if err != nil {
		return h.Refused(w, r, err)
	}
	http.Redirect(w, r, h.backTo(r, rev, done), http.StatusSeeOther)
	return nil
}

// Refused says at the station a form came from why it was refused, with the card as it
// is.
func (h *Host) Refused(w http.ResponseWriter, r *http.Request, err error) error {
	status, words := h.Explain(r, err)
	rev, err := h.Revision(r)
	if err != nil {
		return err
	}
	return h.ShowBack(w, r, rev, status, words.Error())
}

// backTo is the address of the station a form came from, with what was open there or
// is now, unless that is gone.
func (h *Host) backTo(r *http.Request, rev *store.Revision, done change.Done) string {
	if r.PostFormValue("back") == rulesPlace {
		return page.CardAddress(rev.Address(), rulesPlace) + "#" + url.PathEscape(r.PostFormValue("rule"))
	}
	about := h.cameFrom(r).About()
	query := url.Values{}
	if area := cmp.Or(done.Area, r.PostFormValue("show")); area != "" {
		if _, err := rev.Card.AreaByID(area); err == nil {
			query.Set("area", area)
			if done.Wash > 0 {
				query.Set("nth", strconv.Itoa(done.Wash))
			} else if nth := r.PostFormValue("nth"); nth != "" {
				query.Set("nth", nth)
			}
		}
	}
	if kept := cmp.Or(done.Reserve, r.PostFormValue("keep")); kept != "" {
		if _, err := rev.Card.ReserveByID(kept); err == nil {
			query.Set("keep", kept)
		}
	}
	if image := cmp.Or(done.Image, r.PostFormValue("picked")); image != "" && about.PicksImages {
		if _, err := rev.Card.ImageByID(image); err == nil {
			query.Set("image", image)
		}
	}
	if done.Piece != "" {
		rev = rev.At(done.Piece)
	}
	to := page.CardAddress(rev.Address(), about.ID)
	if len(query) > 0 {
		to += "?" + query.Encode()
	}
	return to
}

// move goes one step back or forth through the revisions of a card.
func (h *Host) move(step func(ctx context.Context, id, base int64) error) page.Handler {
	return func(w http.ResponseWriter, r *http.Request) error {
		if err := page.Read(w, r); err != nil {
			return err
		}
		rev, err := h.Revision(r)
		if err != nil {
			return err
		}
		base, err := page.BaseOf(r)
		if err == nil {
			err = step(r.Context(), rev.ID, base)
		}
		if err != nil {
			return h.Refused(w, r, err)
		}
		if rev, err = h.Revision(r); err != nil {
			return err
		}
		http.Redirect(w, r, h.backTo(r, rev, change.Done{}), http.StatusSeeOther)
		return nil
	}
}

// TakeScan stores the picture of a form, as wide as the form says or else the picture
// itself, for use in the card; neither may say anything. use says what is changed with
// it, and may put another picture in its place.
func (h *Host) TakeScan(w http.ResponseWriter, r *http.Request, use func(*Editing, *store.Image) (change.Done, error)) error {
	file, err := page.SentFile(w, r, picture.MaxBytes)
	return h.TakePicture(w, r, func(e *Editing) (m store.Image, _ error) {
		if err != nil {
			return m, err
		}
		data, err := file.Data()
		if err != nil {
			return m, err
		}
		if m, err = desk.NewImage(r.Context(), data, file.Name, file.Page); err != nil {
			return m, err
		}
		if width := r.FormValue("width"); width != "" {
			if m.Real, err = picture.RealWidth(width, e.Card.Unit, m.Width); err != nil {
				return m, fmt.Errorf("width of the image: %w", err)
			}
		}
		return m, nil
	}, use)
}

// TakePicture stores a picture that is made for a card, for use in it; while it is made no
// other is opened.
func (h *Host) TakePicture(w http.ResponseWriter, r *http.Request, made func(*Editing) (store.Image, error), use func(*Editing, *store.Image) (change.Done, error)) error {
	return h.Change(w, r, func(e *Editing) (change.Done, error) {
		release, err := h.OpenPicture(r.Context())
		if err != nil {
			return change.Done{}, err
		}
		defer release()
		m, err := made(e)
		if err != nil {
			return change.Done{}, err
		}
		done, err := use(e, &m)
		if err != nil {
			return change.Done{}, err
		}
		if err := e.Checked(); err != nil {
			return change.Done{}, err
		}
		return done, h.PutImage(r.Context(), store.Latest, m)
	})
}

// ScanOf is a stored picture as a card speaks of it, so wide.
func ScanOf(m *store.Image, width length.Length) card.Scan {
	return card.Scan{Image: m.Hash, Title: m.Title, WidthPX: m.Width, HeightPX: m.Height, Width: width}
}
