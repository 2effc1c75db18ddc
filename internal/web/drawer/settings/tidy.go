package settings

import (
	"errors"
	"net/http"
	"path/filepath"
	"strings"
	"time"

	"chromaqua"
	"chromaqua/core/wording"
	"chromaqua/internal/doctor"
	"chromaqua/internal/sheet"
	"chromaqua/internal/store"
	"chromaqua/internal/web/door"
	"chromaqua/internal/web/page"
)

// errElsewhere refuses what concerns the machine itself to those who do not sit at it.
var errElsewhere = &page.Error{Status: http.StatusForbidden, Err: errors.New("this is done at the machine the program runs on; nothing was done")}

// fileView is what the settings show of the studio's file.
type fileView struct {
	Path               string
	Bytes              int64
	Home               bool // this browser is on the machine itself
	Shows, Moves, Ends bool
	Version            string
	Unused             int
	UnusedBytes        int64
}

func (d *place) fileView(r *http.Request) (v fileView, err error) {
	v = fileView{Path: d.Store.Path(), Bytes: store.Bytes(d.Store.Path()), Home: door.AtHome(r), Version: chromaqua.Named()}
	v.Shows, v.Moves, v.Ends = v.Home && d.shows(), v.Home && d.moves(), v.Home && d.ends()
	unused, bytes, err := d.Store.Unused(r.Context())
	v.Unused, v.UnusedBytes = len(unused), bytes
	return v, err
}

// athome lets only who sits at the machine do something, where it can be done.
func (d *place) athome(can func() bool, do page.Handler) page.Handler {
	return func(w http.ResponseWriter, r *http.Request) error {
		if err := page.Read(w, r); err != nil {
			return err
		}
		switch {
		case !door.AtHome(r):
			return errElsewhere
		case !can():
			return store.ErrNotFound
		}
		return do(w, r)
	}
}

func (d *place) shows() bool { return d.Machine.Show != nil }
func (d *place) moves() bool { return d.Machine.MoveTo != nil }
func (d *place) ends() bool  { return d.Machine.End != nil }

// showFolder opens the folder of the studio.
func (d *place) showFolder(w http.ResponseWriter, r *http.Request) error {
	dir := filepath.Dir(d.Store.Path())
	err := d.Machine.Show(dir)
	if err != nil {
		err = page.Refused(errors.New("the folder could not be opened: it is " + dir))
	}
	return d.after(w, r, err, "#file")
}

// move has the studio's file moved; the program goes on with it there.
func (d *place) move(w http.ResponseWriter, r *http.Request) error {
	to := strings.TrimSpace(r.PostForm.Get("to"))
	if to != "" && !strings.HasSuffix(to, ".db") {
		to = filepath.Join(to, "studio.db")
	}
	if err := store.CanMove(to); err != nil {
		return d.after(w, r, page.Refused(err), "")
	}
	d.Machine.MoveTo(to)
	d.Render(w, r, http.StatusOK, "ended.html", endedView{page.Page{Title: "Moving"}, to})
	return nil
}

// endedView is the last page of a program that closes, or of one that moves its studio.
type endedView struct {
	page.Page
	To string // "" when it closes for good
}

// end closes the program.
func (d *place) end(w http.ResponseWriter, r *http.Request) error {
	d.Render(w, r, http.StatusOK, "ended.html", endedView{Page: page.Page{Title: "Closed"}})
	d.Machine.End()
	return nil
}

// doctorView is the page of what was looked at.
type doctorView struct {
	page.Page
	Findings []doctor.Finding
	Unwell   int
}

func (d *place) examine(w http.ResponseWriter, r *http.Request) error {
	v := doctorView{Page: page.Page{Title: "Is all well?", Place: "settings"}}
	v.Findings = doctor.Examine(r.Context(), doctor.Patient{Data: d.Store.Path(), Fonts: sheet.Fonts(), Now: time.Now()})
	for _, f := range v.Findings {
		if f.State != doctor.Well {
			v.Unwell++
		}
	}
	d.Render(w, r, http.StatusOK, "doctor.html", v)
	return nil
}

// picturesView is the page of the pictures that nothing uses.
type picturesView struct {
	page.Page
	Unused  []store.Image
	Bytes   int64
	Cleared string
}

func (d *place) pictures(w http.ResponseWriter, r *http.Request) error {
	v := picturesView{Page: page.Page{Title: "Unused pictures", Place: "settings"}, Cleared: r.URL.Query().Get("cleared")}
	var err error
	if v.Unused, v.Bytes, err = d.Store.Unused(r.Context()); err != nil {
		return err
	}
	d.Render(w, r, http.StatusOK, "pictures.html", v)
	return nil
}

// clearPictures takes out those that were ticked.
func (d *place) clearPictures(w http.ResponseWriter, r *http.Request) error {
	if err := page.Read(w, r); err != nil {
		return err
	}
	n, err := d.Store.Clear(r.Context(), r.PostForm["image"])
	if err != nil {
		return err
	}
	http.Redirect(w, r, "/settings/pictures?cleared="+strings.ReplaceAll(wording.Count(n, "picture"), " ", "+"), http.StatusSeeOther)
	return nil
}

// changesView is the page of what is new.
type changesView struct {
	page.Page
	Version string
	News    []string
}

func (d *place) changes(w http.ResponseWriter, r *http.Request) error {
	d.Render(w, r, http.StatusOK, "changes.html", changesView{page.Page{Title: "What is new", Place: "settings"}, chromaqua.Named(), chromaqua.News()})
	return nil
}
