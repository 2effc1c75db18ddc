package line

import (
	"bytes"
	"context"
	"fmt"
	"html/template"
	"image"
	"image/jpeg"
	"image/png"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"

	"chromaqua/core/change"
	"chromaqua/core/length"
	"chromaqua/core/lineart"
	"chromaqua/core/panel"
	"chromaqua/core/photo"
	"chromaqua/core/wording"
	"chromaqua/internal/desk"
	"chromaqua/internal/picture"
	"chromaqua/internal/standin"
	"chromaqua/internal/store"
	"chromaqua/internal/web/page"
	"chromaqua/internal/web/station"
)

// Measures of photos of stamped panels, pixels.
const (
	photoSide    = 4032 // of the longer side, as it is kept until it lies on the panel
	practiceWide = 3000
	inset        = 0.12 // of a photo, at which corners begin that were not found
)

const (
	photoTitle    = "Photo of the panel"
	practiceTitle = "Practice photo of the panel"
)

// photoView is the page on which a photo of the stamped panel is squared.
type photoView struct {
	page.Page
	Card          *store.Revision
	Photo         *store.Image
	Corners       [4]lineart.Point // pixels
	Found         bool             // by the program, not said by the maker
	Unsure        []string
	Practice      bool
	Line          bool         // an image is on the panel already,
	Instead       bool         // and gives way to the photo
	Query, Turned template.URL // with the corners as they are, a quarter on,
	Anew          template.URL // and without
	Said, Picked  string       // the corners as they are written, and the image that is picked
	Wide          string       // how large the panel is
	Next          int          // which practice photo comes next
}

// Radius is how large the handles are drawn, pixels of the photo.
func (v photoView) Radius() float64 { return float64(max(v.Photo.Width, v.Photo.Height)) / 28 }

// Outline is the way round the panel.
func (v photoView) Outline() string {
	var out []string
	for _, c := range v.Corners {
		out = append(out, fmt.Sprintf("%.1f,%.1f", c.X, c.Y))
	}
	return strings.Join(out, " ")
}

// takePhoto keeps a photo of the stamped panel, and goes on to squaring it.
func (p *place) takePhoto(w http.ResponseWriter, r *http.Request) error {
	rev, err := p.host.Revision(r)
	if err != nil {
		return err
	}
	file, err := page.SentFile(w, r, picture.MaxBytes)
	if err != nil {
		return p.host.Refused(w, r, err)
	}
	release, err := p.host.OpenPicture(r.Context())
	if err != nil {
		return err
	}
	defer release()
	data, err := file.Data()
	if err != nil {
		return p.host.Refused(w, r, err)
	}
	return p.openPhoto(w, r, rev, data)
}

// takeStored takes a picture that is stored, and was laid as a scan, for a photo.
func (p *place) takeStored(w http.ResponseWriter, r *http.Request) error {
	if err := page.Read(w, r); err != nil {
		return err
	}
	rev, release, err := p.opening(r)
	if err != nil {
		return err
	}
	defer release()
	stored, err := p.host.Image(r.Context(), chi.URLParam(r, "image"))
	if err != nil {
		return err
	}
	return p.openPhoto(w, r, rev, stored.Data)
}

// openPhoto opens a photo, and goes on to squaring it.
func (p *place) openPhoto(w http.ResponseWriter, r *http.Request, rev *store.Revision, data []byte) error {
	m, err := picture.Photo(data)
	if err != nil {
		return p.host.Refused(w, r, desk.Refuse(err))
	}
	return p.keepPhoto(w, r, rev, m, photoTitle)
}

// practisePhoto lets the practice camera photograph what is stamped on the panel.
func (p *place) practisePhoto(w http.ResponseWriter, r *http.Request) error {
	if err := page.Read(w, r); err != nil {
		return err
	}
	rev, err := p.host.Revision(r)
	if err != nil {
		return err
	}
	if rev.Card.Line() == nil {
		return p.host.Refused(w, r, desk.Refuse(fmt.Errorf("nothing is stamped on the panel that could be photographed; choose a line image first")))
	}
	read, err := p.host.Read(r.Context(), rev.Card)
	if err != nil {
		return p.host.Refused(w, r, page.Refused(err))
	}
	line, err := picture.Grey(read.Line)
	if err != nil {
		return err
	}
	nth, _ := strconv.ParseUint(r.PostFormValue("nth"), 10, 16)
	seed := uint64(rev.Seq) + 31*nth
	camera := standin.Camera{Seed: seed, Wide: practiceWide, Tilt: float64(seed % 17), Turn: float64(seed%19) - 9, Light: 0.1 * float64(seed%4), Shade: 0.35 * float64(seed%2), Noise: 3, Cast: 0.05}
	shot, err := camera.Photograph(photo.PlanOf(panel.Resolve(rev.Card, read.Sheet), line).Bare(), standin.Slips{})
	if err != nil {
		return err
	}
	return p.keepPhoto(w, r, rev, shot.Photo, practiceTitle)
}

// keepPhoto keeps a photo until it lies on the panel, without what the camera wrote into it.
func (p *place) keepPhoto(w http.ResponseWriter, r *http.Request, rev *store.Revision, m image.Image, title string) error {
	data, err := picture.Small(m, photoSide)
	if err != nil {
		return err
	}
	info, err := picture.Inspect(data)
	if err != nil {
		return p.host.Refused(w, r, desk.Refuse(err))
	}
	kept := store.Image{Hash: store.Hash(data), Title: title, Media: info.Media, Width: info.Width, Height: info.Height, Data: data}
	if err := p.host.PutImage(r.Context(), store.Latest, kept); err != nil {
		return err
	}
	to := page.CardAddress(rev.Address(), "photo/"+kept.Hash)
	query := url.Values{}
	carry(query, r, "picked", "instead", "nth")
	if len(query) > 0 {
		to += "?" + query.Encode()
	}
	http.Redirect(w, r, to, http.StatusSeeOther)
	return nil
}

// photo shows where the panel was found in a photo, and what comes of it.
func (p *place) photo(w http.ResponseWriter, r *http.Request) error {
	rev, release, err := p.opening(r)
	if err != nil {
		return err
	}
	defer release()
	kept, err := p.host.Image(r.Context(), chi.URLParam(r, "image"))
	if err != nil {
		return err
	}
	size := rev.Card.PanelSize()
	v := photoView{Page: page.Page{Title: rev.Card.Name + ", photo of the panel"}, Card: rev, Photo: kept, Practice: kept.Title == practiceTitle, Line: rev.Card.Line() != nil}
	status := http.StatusOK
	if text := r.FormValue("corners"); text == "" {
		m, err := picture.Colour(kept.Data)
		if err != nil {
			return err
		}
		sheet, err := photo.FindSheet(r.Context(), m, size.W.MM(), size.H.MM())
		switch {
		case r.Context().Err() != nil:
			return err
		case err != nil:
			v.Message = wording.Sentence(err.Error())
			v.Corners = insetCorners(kept.Width, kept.Height)
		default:
			v.Corners, v.Unsure, v.Found = sheet.Corners, sheet.Unsure, true
		}
	} else if v.Corners, err = cornersOf(text); err != nil {
		v.Message, status = wording.Sentence(err.Error()), http.StatusUnprocessableEntity
		v.Corners = insetCorners(kept.Width, kept.Height)
	}
	flat, err := p.flattened(r.Context(), kept, said(v.Corners, 0), size)
	switch {
	case r.Context().Err() != nil:
		return err
	case err != nil:
		v.Message, status = wording.Sentence(err.Error()), http.StatusUnprocessableEntity
	default:
		v.Unsure = append(v.Unsure, flat.Unsure...)
	}
	kept.Data = nil
	v.Query, v.Turned, v.Anew = query(r, said(v.Corners, 0)), query(r, said(v.Corners, 1)), query(r, "")
	nth, _ := strconv.Atoi(r.FormValue("nth"))
	v.Next = nth + 1
	v.Said, v.Picked, v.Instead = said(v.Corners, 0), r.FormValue("picked"), r.FormValue("instead") != ""
	v.Wide = size.W.Near(rev.Card.Unit) + " × " + size.H.Near(rev.Card.Unit)
	p.host.Render(w, r, status, "photo.html", v)
	return nil
}

// query is what an address says of a photo with such corners, or with those that are found.
func query(r *http.Request, corners string) template.URL {
	q := url.Values{}
	if corners != "" {
		q.Set("corners", corners)
	}
	carry(q, r, "picked", "instead")
	return template.URL(q.Encode())
}

// carry takes over what a request says.
func carry(to url.Values, r *http.Request, names ...string) {
	for _, name := range names {
		if v := r.FormValue(name); v != "" {
			to.Set(name, v)
		}
	}
}

// said writes corners, from that of a number on.
func said(all [4]lineart.Point, from int) string {
	var out []string
	for i := range all {
		c := all[(i+from)%4]
		out = append(out, fmt.Sprintf("%.1f %.1f", c.X, c.Y))
	}
	return strings.Join(out, ", ")
}

func insetCorners(w, h int) [4]lineart.Point {
	x0, y0, x1, y1 := inset*float64(w), inset*float64(h), (1-inset)*float64(w), (1-inset)*float64(h)
	return [4]lineart.Point{{X: x0, Y: y0}, {X: x1, Y: y0}, {X: x1, Y: y1}, {X: x0, Y: y1}}
}

// cornersOf reads four corners, "10 20, 310 25, 305 410, 8 400".
func cornersOf(text string) (out [4]lineart.Point, err error) {
	parts := strings.Split(text, ",")
	if len(parts) != 4 {
		return out, photo.ErrCorners
	}
	for i, part := range parts {
		xy := strings.Fields(part)
		if len(xy) != 2 {
			return out, photo.ErrCorners
		}
		var errs [2]error
		out[i].X, errs[0] = strconv.ParseFloat(xy[0], 64)
		out[i].Y, errs[1] = strconv.ParseFloat(xy[1], 64)
		if errs[0] != nil || errs[1] != nil {
			return out, photo.ErrCorners
		}
	}
	return out, nil
}

// opening is the card that a request speaks of, while no other opens a picture.
func (p *place) opening(r *http.Request) (rev *store.Revision, release func(), err error) {
	if rev, err = p.host.Revision(r); err != nil {
		return nil, nil, err
	}
	release, err = p.host.OpenPicture(r.Context())
	return rev, release, err
}

// keptFlat is how many flat panels are kept, some 3 MB each: what is shown is laid next.
const keptFlat = 4

// flattened is the panel of a photo between corners, as they are written.
func (p *place) flattened(ctx context.Context, kept *store.Image, corners string, size length.Size) (*photo.Flat, error) {
	name := fmt.Sprint(kept.Hash, corners, size)
	if flat, ok := p.flats.Get(name); ok {
		return flat, nil
	}
	at, err := cornersOf(corners)
	if err != nil {
		return nil, err
	}
	m, err := picture.Colour(kept.Data)
	if err != nil {
		return nil, err
	}
	flat, err := photo.Flatten(ctx, m, at, size.W.MM(), size.H.MM())
	if err == nil {
		p.flats.Add(name, flat)
	}
	return flat, err
}

// asked is the panel of the photo that an address speaks of, between the corners it says.
func (p *place) asked(r *http.Request, size length.Size) (*photo.Flat, error) {
	kept, err := p.host.Image(r.Context(), chi.URLParam(r, "image"))
	if err != nil {
		return nil, err
	}
	flat, err := p.flattened(r.Context(), kept, r.FormValue("corners"), size)
	return flat, page.Refused(err)
}

// flat answers with the panel of a photo, squared and evened.
func (p *place) flat(w http.ResponseWriter, r *http.Request) error {
	rev, release, err := p.opening(r)
	if err != nil {
		return err
	}
	defer release()
	flat, err := p.asked(r, rev.Card.PanelSize())
	if err != nil {
		return err
	}
	var buf bytes.Buffer
	if err := jpeg.Encode(&buf, flat.Grey, &jpeg.Options{Quality: 85}); err != nil {
		return err
	}
	w.Header().Set("Content-Type", "image/jpeg")
	_, err = w.Write(buf.Bytes())
	return err
}

// layPhoto lays the panel of a photo on that of the card, as large as it is.
func (p *place) layPhoto(w http.ResponseWriter, r *http.Request) error {
	if err := page.Read(w, r); err != nil {
		return err
	}
	return p.host.TakePicture(w, r, func(e *station.Editing) (m store.Image, err error) {
		size := e.Card.PanelSize()
		flat, err := p.asked(r, size)
		if err != nil {
			return m, err
		}
		var buf bytes.Buffer
		if err := png.Encode(&buf, flat.Grey); err != nil {
			return m, err
		}
		return store.Image{
			Hash: store.Hash(buf.Bytes()), Title: "Stamped panel", Media: "image/png", Width: flat.Grey.Rect.Dx(), Height: flat.Grey.Rect.Dy(),
			Data: buf.Bytes(), Real: size.W,
		}, nil
	}, func(e *station.Editing, m *store.Image) (change.Done, error) {
		done, again, err := p.lay(e, m)
		if err == nil && !again {
			done.Says += " as the panel is, from a photo"
		}
		return done, err
	})
}
