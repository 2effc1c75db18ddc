package settings

import (
	"io"
	"net/http"
	"os"
	"path/filepath"
	"strconv"
	"time"

	"github.com/go-chi/chi/v5"

	"chromaqua/core/card"
	"chromaqua/internal/store"
	"chromaqua/internal/web/door"
	"chromaqua/internal/web/page"
)

// doorView is what the settings show of who may come in.
type doorView struct {
	Addresses []string
	Secure    bool
	Given     string // the passphrase made up at the start, "" when the maker set one
	Devices   []store.Device
	Invited   []door.Invitation
}

func (d *place) doorView(r *http.Request) (v doorView, err error) {
	v.Addresses, v.Secure = d.Door.Addresses, d.Door.Secure
	if v.Given, err = d.Door.Passphrase(r.Context()); err != nil {
		return v, err
	}
	v.Devices, err = d.Devices(r.Context())
	return v, err
}

// invite shows a code that lets one device in.
func (d *place) invite(w http.ResponseWriter, r *http.Request) error {
	if err := page.Read(w, r); err != nil {
		return err
	}
	invited, err := d.Door.Invite()
	if err != nil {
		return d.after(w, r, page.Refused(err), "")
	}
	return d.show(w, r, http.StatusOK, "", invited)
}

// setPassphrase makes a passphrase of the maker's the one that is asked for.
func (d *place) setPassphrase(w http.ResponseWriter, r *http.Request) error {
	if err := page.Read(w, r); err != nil {
		return err
	}
	return d.after(w, r, page.Refused(d.Door.SetPassphrase(r.Context(), r.PostForm.Get("passphrase"))), "#door")
}

// changeDevice calls a device something else, or puts it out.
func (d *place) changeDevice(w http.ResponseWriter, r *http.Request) error {
	if err := page.Read(w, r); err != nil {
		return err
	}
	id, err := strconv.ParseInt(chi.URLParam(r, "device"), 10, 64)
	if err != nil {
		return store.ErrNotFound
	}
	if chi.URLParam(r, "do") == "out" {
		return d.after(w, r, d.PutOut(r.Context(), id), "#door")
	}
	name := r.PostForm.Get("name")
	if err := card.CheckName("device", name); err != nil {
		return d.after(w, r, page.Refused(err), "")
	}
	return d.after(w, r, d.NameDevice(r.Context(), id, name), "#door")
}

// backup sends a backup of the studio, written whole and checked before anything is sent.
func (d *place) backup(w http.ResponseWriter, r *http.Request) error {
	dir, err := os.MkdirTemp("", "backup-*")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	name := filepath.Join(dir, "studio.db")
	if err := d.Backup(r.Context(), name); err != nil {
		return err
	}
	f, err := os.Open(name)
	if err != nil {
		return err
	}
	defer f.Close()
	page.Download(w, "application/vnd.sqlite3", "Studio "+time.Now().Format("2006-01-02"), ".db")
	if _, err := io.Copy(w, f); err != nil {
		panic(http.ErrAbortHandler) // half a backup must not look like a whole one
	}
	return nil
}
