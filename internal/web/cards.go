package web

import (
	"bytes"
	"cmp"
	"errors"
	"fmt"
	"io"
	"mime"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"

	"chromaqua/core/card"
	"chromaqua/core/fold"
	"chromaqua/internal/cardfile"
	"chromaqua/internal/picture"
	"chromaqua/internal/store"
)

var errTooLarge = fmt.Errorf("what was sent is too large: pictures may have up to %d MB, card files up to %d MB", picture.MaxBytes>>20, cardfile.MaxBytes>>20)

func refusedForm(err error) error {
	var tooLarge *http.MaxBytesError
	if errors.As(err, &tooLarge) {
		return err
	}
	return &Error{http.StatusBadRequest, errors.New("the form arrived incomplete; send it again")}
}

// homePage is the list of cards.
type homePage struct {
	page
	Cards    []homeCard
	Query    string
	Sort     string
	Archived bool            // the archive is shown
	Gone     *store.Revision // was just deleted
	Any      bool            // there is a card at all
}

type homeCard struct {
	*store.Revision
	Format string
}

// home lists the cards.
func (s *Server) home(w http.ResponseWriter, r *http.Request) error {
	return s.showHome(w, r, http.StatusOK, "")
}

func (s *Server) showHome(w http.ResponseWriter, r *http.Request, status int, message string) error {
	q := r.URL.Query()
	p := homePage{page: page{Title: "Cards", Place: "cards", Message: message}, Query: strings.TrimSpace(q.Get("q")), Sort: q.Get("sort"), Archived: q.Get("archive") != ""}
	state := store.Shown
	if p.Archived {
		state = store.Archived
	}
	revs, err := s.store.Cards(r.Context(), state)
	if err != nil {
		return err
	}
	p.Any = len(revs) > 0
	for _, rev := range revs {
		if c := (homeCard{rev, formatName(rev.Card)}); c.matches(p.Query) {
			p.Cards = append(p.Cards, c)
		}
	}
	switch p.Sort {
	case "name":
		slices.SortStableFunc(p.Cards, func(a, b homeCard) int {
			return cmp.Compare(strings.ToLower(a.Card.Name), strings.ToLower(b.Card.Name))
		})
	case "format":
		slices.SortStableFunc(p.Cards, func(a, b homeCard) int { return cmp.Compare(a.Format, b.Format) })
	}
	if id, err := strconv.ParseInt(q.Get("deleted"), 10, 64); err == nil {
		if p.Gone, err = s.store.Card(r.Context(), id); err != nil && !errors.Is(err, store.ErrNotFound) {
			return err
		}
	}
	s.render(w, r, status, "home.html", p)
	return nil
}

// matches reports whether a card has every word of a query somewhere in its
// name, notes, format, line, areas or paints.
func (c homeCard) matches(query string) bool {
	text := c.Card.Name + " " + c.Card.Notes + " " + c.Format
	for _, m := range c.Card.Images {
		text += " " + m.Title
	}
	for _, a := range c.Card.Areas {
		text += " " + a.Name
		for _, w := range a.Washes {
			text += " " + card.MixName(w.Mix)
		}
	}
	text = strings.ToLower(text)
	for _, word := range strings.Fields(strings.ToLower(query)) {
		if !strings.Contains(text, word) {
			return false
		}
	}
	return true
}

// copyCard makes a new card like one there is, without its history.
func (s *Server) copyCard(w http.ResponseWriter, r *http.Request) error {
	rev, err := s.revision(r)
	if err != nil {
		return err
	}
	name := []rune(rev.Card.Name)
	rev.Card.Name = "Copy of " + string(name[:min(len(name), card.MaxName-len("Copy of "))])
	if _, err := s.store.Create(r.Context(), rev.Card, "copied the card"); err != nil {
		return err
	}
	http.Redirect(w, r, "/", http.StatusSeeOther)
	return nil
}

// setState archives a card, deletes it, or brings it back.
func (s *Server) setState(w http.ResponseWriter, r *http.Request) error {
	rev, err := s.revision(r)
	if err != nil {
		return err
	}
	to := store.State(chi.URLParam(r, "state"))
	if to != store.Shown && to != store.Archived && to != store.Deleted {
		return store.ErrNotFound
	}
	if err := s.store.SetState(r.Context(), rev.ID, to); err != nil {
		return err
	}
	back := "/"
	if to == store.Deleted {
		back = "/?deleted=" + strconv.FormatInt(rev.ID, 10)
	}
	http.Redirect(w, r, back, http.StatusSeeOther)
	return nil
}

func formatName(c *card.Card) string {
	if f, err := fold.FormatByID(c.Base.Format); err == nil {
		return f.Name
	}
	return "free size"
}

// exportCard sends a card as a card file.
func (s *Server) exportCard(w http.ResponseWriter, r *http.Request) error {
	rev, err := s.revision(r)
	if err != nil {
		return err
	}
	var images []*store.Image
	for _, scan := range rev.Card.Scans() {
		m, err := s.store.Image(r.Context(), scan.Image)
		if err != nil {
			return err
		}
		images = append(images, m)
	}
	var buf bytes.Buffer
	if err := cardfile.Write(&buf, rev.Card, images); err != nil {
		return err
	}
	download(w, "application/zip", rev.Card.Name, ".card.zip")
	_, _ = w.Write(buf.Bytes())
	return nil
}

// download marks a response as a file to keep, named after the card.
func download(w http.ResponseWriter, media, name, extension string) {
	safe := strings.Map(func(r rune) rune {
		if r < ' ' || strings.ContainsRune(`/\:*?"<>|`, r) {
			return '-'
		}
		return r
	}, name)
	w.Header().Set("Content-Type", media)
	w.Header().Set("Content-Disposition", mime.FormatMediaType("attachment", map[string]string{"filename": safe + extension}))
}

// importCard adds the card of a card file, or nothing.
func (s *Server) importCard(w http.ResponseWriter, r *http.Request) error {
	data, _, err := sentFile(w, r, cardfile.MaxBytes)
	if err == nil {
		var id int64
		if id, err = s.addCardFile(r, data); err == nil {
			http.Redirect(w, r, cardPath(id, ""), http.StatusSeeOther)
			return nil
		}
	}
	status, words := s.explain(r, err)
	return s.showHome(w, r, status, "Nothing was imported: "+words.Error())
}

func (s *Server) addCardFile(r *http.Request, data []byte) (int64, error) {
	c, images, err := cardfile.Read(data)
	if err != nil {
		return 0, refused(err)
	}
	return s.store.CreateWithImages(r.Context(), c, images, "imported the card")
}

// sentFile returns the file of a form and its name; limit bounds its size.
func sentFile(w http.ResponseWriter, r *http.Request, limit int64) ([]byte, string, error) {
	r.Body = http.MaxBytesReader(w, r.Body, limit+maxForm)
	if err := r.ParseMultipartForm(limit); err != nil {
		return nil, "", refusedForm(err)
	}
	f, header, err := r.FormFile("file")
	if err != nil {
		return nil, "", refused(errors.New("no file was chosen; choose one and send it again"))
	}
	defer f.Close()
	data, err := io.ReadAll(f)
	if err != nil {
		return nil, "", refusedForm(err)
	}
	if len(data) == 0 {
		return nil, "", refused(errors.New("the file is empty; choose another"))
	}
	return data, header.Filename, nil
}

// upload stores a scan and lays it on the panel.
func (s *Server) upload(w http.ResponseWriter, r *http.Request) error {
	return s.takeScan(w, r, func(e *editing, m *store.Image) (string, error) {
		m.Kept = true // whoever uploads a scan will want it again
		if same, err := e.relay(m); same || err != nil {
			return "laid a new scan on the old", err
		}
		return "placed " + m.Title, e.setImage(m, m.Real)
	})
}

// uploadSheet stores a scan of a painted sheet and lays the window on its
// middle.
func (s *Server) uploadSheet(w http.ResponseWriter, r *http.Request) error {
	return s.takeScan(w, r, func(e *editing, m *store.Image) (string, error) {
		scan := card.Scan{Image: m.Hash, Title: m.Title, WidthPX: m.Width, HeightPX: m.Height, Width: m.Real}
		e.card.Window = &card.Window{Scan: scan, X: scan.Width / 2, Y: scan.Height() / 2}
		return "laid the window on " + m.Title, nil
	})
}

// takeScan stores the picture of a form, as wide as the form says, for use in
// the card.
func (s *Server) takeScan(w http.ResponseWriter, r *http.Request, use func(*editing, *store.Image) (what string, err error)) error {
	data, name, err := sentFile(w, r, picture.MaxBytes)
	return s.change(w, r, func(rev *store.Revision) (string, opened, error) {
		if err != nil {
			return "", opened{}, err
		}
		release, err := s.openPicture(r)
		if err != nil {
			return "", opened{}, err
		}
		defer release()
		m, err := newImage(data, name)
		if err != nil {
			return "", opened{}, err
		}
		e := &editing{ctx: r.Context(), card: rev.Card, values: r.PostForm, store: s.store}
		if e.get("width") != "" || m.Real == 0 {
			if m.Real, err = realWidth(e.get("width"), rev.Card.Unit, m.Width); err != nil {
				return "", opened{}, fmt.Errorf("width of the image: %w", err)
			}
		}
		what, err := use(e, &m)
		if err != nil {
			return "", opened{}, err
		}
		if err := rev.Card.Check(); err != nil {
			return "", opened{}, err
		}
		return what, e.open, s.store.PutImage(r.Context(), m)
	})
}

// newImage checks a picture file and makes it ready to store, with its real width
// where it says that. It is decoded whole, so that a damaged file is refused now
// and not later.
func newImage(data []byte, name string) (store.Image, error) {
	data, width, err := picture.Stored(data)
	if err != nil {
		return store.Image{}, err
	}
	info, err := picture.Inspect(data)
	if err != nil {
		return store.Image{}, err
	}
	if _, err := picture.Grey(data); err != nil {
		return store.Image{}, err
	}
	title := strings.TrimSpace(strings.Map(func(r rune) rune {
		if r < ' ' || r == '\uFFFD' {
			return -1
		}
		return r
	}, name))
	if i := strings.LastIndexByte(title, '.'); i > 0 {
		title = title[:i]
	}
	if runes := []rune(title); len(runes) > card.MaxName {
		title = string(runes[:card.MaxName])
	}
	if title == "" {
		title = "Scan"
	}
	return store.Image{Hash: store.Hash(data), Title: title, Media: info.Media, Width: info.Width, Height: info.Height, Data: data, Real: width}, nil
}

// image serves a stored picture. Its address names its content, so it may be
// kept for good.
func (s *Server) image(w http.ResponseWriter, r *http.Request) error {
	m, err := s.store.Image(r.Context(), chi.URLParam(r, "hash"))
	if err != nil {
		return err
	}
	w.Header().Set("Content-Type", m.Media)
	w.Header().Set("Cache-Control", "private, max-age=31536000, immutable")
	_, _ = w.Write(m.Data)
	return nil
}
