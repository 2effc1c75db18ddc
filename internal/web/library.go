package web

import (
	"cmp"
	"errors"
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/lineart"
	"chromaqua/core/shelf"
	"chromaqua/internal/picture"
	"chromaqua/internal/store"
)

// libraryView is the page of the maker's images.
type libraryView struct {
	page
	Images []imageView
	Kinds  []shelf.ImageKind
	Mounts []shelf.Mount
	Query  string
	Unit   length.Unit
	Gone   string // the image that was just put away
}

type imageView struct {
	store.Image
	Size length.Size // real
	Uses int
}

func (s *Server) libraryPage(w http.ResponseWriter, r *http.Request) error {
	return s.showLibrary(w, r, http.StatusOK, "")
}

func (s *Server) showLibrary(w http.ResponseWriter, r *http.Request, status int, message string) error {
	images, err := s.store.Library(r.Context())
	if err != nil {
		return err
	}
	uses := map[string]int{}
	for _, state := range []store.State{store.Shown, store.Archived} {
		cards, err := s.store.Cards(r.Context(), state)
		if err != nil {
			return err
		}
		for _, c := range cards {
			for _, m := range c.Card.Images {
				uses[m.Image]++
			}
		}
	}
	v := libraryView{
		page: page{Title: "Library", Place: "library", Message: message}, Kinds: shelf.ImageKinds(), Mounts: shelf.Mounts(),
		Query: strings.TrimSpace(r.URL.Query().Get("q")), Unit: unitOf(r), Gone: r.URL.Query().Get("gone"),
	}
	for _, m := range images {
		if m.SpeaksOf(v.Query) {
			scan := card.Scan{WidthPX: m.Width, HeightPX: m.Height, Width: m.Real}
			v.Images = append(v.Images, imageView{m, scan.Size(), uses[m.Hash]})
		}
	}
	s.render(w, r, status, "library.html", v)
	return nil
}

// addImage puts an image into the library.
func (s *Server) addImage(w http.ResponseWriter, r *http.Request) error {
	data, name, err := sentFile(w, r, picture.MaxBytes)
	if err == nil {
		err = s.takeImage(r, data, name)
	}
	return s.afterLibrary(w, r, err)
}

func (s *Server) takeImage(r *http.Request, data []byte, name string) error {
	release, err := s.openPicture(r)
	if err != nil {
		return err
	}
	defer release()
	m, err := newImage(data, name)
	if err != nil {
		return err
	}
	m.Kept = true
	says := m.Real
	if err := described(&m, r); err != nil {
		return err
	}
	if m.Real == 0 {
		m.Real = says
	}
	return s.store.PutImage(r.Context(), m)
}

// described reads what a form says of an image. A width left empty is not known
// yet.
func described(m *store.Image, r *http.Request) error {
	if title := strings.TrimSpace(r.FormValue("title")); title != "" {
		m.Title = title
	}
	if err := card.CheckName("image", m.Title); err != nil {
		return err
	}
	m.Real = 0
	if text := strings.TrimSpace(r.FormValue("width")); text != "" {
		width, err := realWidth(text, unitOf(r), m.Width)
		if err != nil {
			return fmt.Errorf("real width: %w", err)
		}
		m.Real = width
	}
	m.Facts = store.Facts{
		Kind:  shelf.ImageKind(cmp.Or(r.FormValue("kind"), string(shelf.LineImage))),
		Mount: shelf.Mount(r.FormValue("mount")), Notes: strings.ReplaceAll(strings.TrimSpace(r.FormValue("notes")), "\r\n", "\n"),
	}
	return m.Facts.Check()
}

// realWidth reads how wide a picture of so many pixels really is: a length, or its
// resolution, "300 dpi".
func realWidth(text string, bare length.Unit, pixels int) (length.Length, error) {
	number, is := strings.CutSuffix(strings.ToLower(strings.TrimSpace(text)), "dpi")
	if !is {
		return length.Parse(text, bare)
	}
	dpi, err := strconv.ParseFloat(strings.TrimSpace(number), 64)
	if err != nil || !(dpi >= lineart.MinDPI && dpi <= 4*lineart.MaxDPI) {
		return 0, fmt.Errorf("%.20q is no resolution of a scan; give one such as 300 dpi", text)
	}
	return length.FromMM(float64(pixels) / dpi * 25.4), nil
}

// editImage changes what is known of an image, straightens it, puts it away or
// brings it back.
func (s *Server) editImage(w http.ResponseWriter, r *http.Request) error {
	r.Body = http.MaxBytesReader(w, r.Body, maxForm)
	if err := r.ParseForm(); err != nil {
		return refusedForm(err)
	}
	m, err := s.store.Image(r.Context(), chi.URLParam(r, "hash"))
	if err != nil {
		return err
	}
	switch r.PostForm.Get("edit") {
	case "describe":
		if err = described(m, r); err == nil {
			err = s.store.Describe(r.Context(), *m)
		}
	case "straighten":
		err = s.straighten(r, m)
	case "away", "back":
		m.Kept = r.PostForm.Get("edit") == "back"
		if err = s.store.Describe(r.Context(), *m); err == nil && !m.Kept {
			http.Redirect(w, r, "/library?gone="+m.Hash+"&unit="+unitOf(r).String(), http.StatusSeeOther)
			return nil
		}
	default:
		err = errOldPage
	}
	return s.afterLibrary(w, r, err)
}

// straighten makes a turned and cropped picture of an image, which takes its
// place in the library; cards keep the old one.
func (s *Server) straighten(r *http.Request, m *store.Image) error {
	if m.Real == 0 {
		return errors.New("say first how wide the image really is; what is cut off is measured by that")
	}
	turn, err := number(cmp.Or(strings.TrimSpace(r.FormValue("turn")), "0"), "turn")
	if err != nil {
		return err
	}
	if !(turn >= -180 && turn <= 180) {
		return errors.New("an image is turned by -180 to 180 degrees")
	}
	px := float64(m.Width) / m.Real.MM()
	var off [4]int
	for i, side := range []string{"left", "top", "right", "bottom"} {
		text := strings.TrimSpace(r.FormValue(side))
		if text == "" {
			continue
		}
		l, err := length.ParseOffset(text, unitOf(r))
		if err != nil {
			return fmt.Errorf("cut off %s: %w", side, err)
		}
		off[i] = int(l.MM()*px + 0.5)
	}
	release, err := s.openPicture(r)
	if err != nil {
		return err
	}
	defer release()
	data, err := picture.Straighten(m.Data, turn, off[0], off[1], off[2], off[3])
	if err != nil {
		return err
	}
	next, err := newImage(data, m.Title)
	if err != nil {
		return err
	}
	next.Title, next.Facts, next.Kept = m.Title, m.Facts, true
	next.Real = length.FromMM(float64(next.Width) / px)
	if err := s.store.PutImage(r.Context(), next); err != nil {
		return err
	}
	m.Kept = next.Hash == m.Hash
	return s.store.Describe(r.Context(), *m)
}

func (s *Server) afterLibrary(w http.ResponseWriter, r *http.Request, err error) error {
	if err = asRefused(err); err != nil {
		status, words := s.explain(r, err)
		return s.showLibrary(w, r, status, upperFirst(words.Error())+".")
	}
	http.Redirect(w, r, "/library?unit="+unitOf(r).String(), http.StatusSeeOther)
	return nil
}
