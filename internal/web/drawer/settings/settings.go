// Package settings is the page of what holds for every card.
package settings

import (
	"context"
	"embed"
	"net/http"
	"net/url"

	"github.com/go-chi/chi/v5"

	"chromaqua/core/settings"
	"chromaqua/core/wording"
	"chromaqua/internal/store"
	"chromaqua/internal/web/drawer"
	"chromaqua/internal/web/page"
)

//go:embed *.html
var files embed.FS

// Entry is the drawer's row in the table of drawers.
var Entry = drawer.Entry{
	Room: page.Room{Files: files},
	Link: page.Link{Place: "settings", Name: "Settings", Path: "/settings"},
	Routes: func(k drawer.Kit, r chi.Router) {
		d := &place{k}
		r.Get("/settings", d.Handle(d.settingsPage))
		r.Post("/settings", d.Handle(d.editSettings))
		k.Moves(r, drawer.Place{At: at, Head: d.head, Show: d.showSettings})
		r.Post("/settings/restore", d.Handle(d.restore))
	},
}

// at is the address of the page.
const at = "/settings"

type place struct{ drawer.Kit }

func (d *place) head(ctx context.Context) (store.Head, error) {
	rev, err := d.Settings(ctx)
	if err != nil {
		return store.Head{}, err
	}
	return rev.Head, nil
}

// settingsView is the page of the settings. What was sent and refused stays in its
// fields.
type settingsView struct {
	page.Page
	drawer.History
	Settings            settings.Settings
	Pace, HeatCM2, Rack string
	Copies              []store.Copy
	Kept                string // what the studio was before it was put back, "" else
}

func (d *place) settingsPage(w http.ResponseWriter, r *http.Request) error {
	return d.showSettings(w, r, http.StatusOK, "")
}

func (d *place) showSettings(w http.ResponseWriter, r *http.Request, status int, message string) error {
	rev, err := d.Settings(r.Context())
	if err != nil {
		return err
	}
	v := settingsView{Page: page.Page{Title: "Settings", Place: "settings", Message: message}, History: drawer.HistoryOf(r, at, rev.Head), Settings: rev.Settings}
	v.Pace, v.HeatCM2, v.Rack = page.PlainNumber(rev.Settings.Pace), page.PlainNumber(rev.Settings.HeatCM2), page.PlainNumber(float64(rev.Settings.Rack))
	if message != "" && r.PostForm != nil {
		for name, to := range map[string]*string{"pace": &v.Pace, "heat": &v.HeatCM2, "rack": &v.Rack} {
			if r.PostForm.Has(name) {
				*to = r.PostForm.Get(name)
			}
		}
	}
	if v.Copies, err = d.Store.Copies(); err != nil {
		return err
	}
	v.Kept = r.URL.Query().Get("kept")
	d.Render(w, r, status, "settings.html", v)
	return nil
}

// editSettings makes the settings what the form says.
func (d *place) editSettings(w http.ResponseWriter, r *http.Request) error {
	if err := page.Read(w, r); err != nil {
		return err
	}
	rev, err := d.Settings(r.Context())
	if err != nil {
		return err
	}
	base, err := page.BaseOf(r)
	var v settings.Settings
	if err == nil {
		v, err = settingsOf(r)
	}
	if err = page.Refused(err); err == nil && (v != rev.Settings || base != rev.Seq) {
		err = d.SaveSettings(r.Context(), rev.ID, base, v, "changed the settings")
	}
	if err != nil {
		status, words := d.Explain(r, err)
		return d.showSettings(w, r, status, wording.Sentence(words.Error()))
	}
	http.Redirect(w, r, "/settings", http.StatusSeeOther)
	return nil
}

// restore puts the studio back to a daily copy.
func (d *place) restore(w http.ResponseWriter, r *http.Request) error {
	if err := page.Read(w, r); err != nil {
		return err
	}
	kept, err := d.RestoreCopy(r.Context(), r.PostForm.Get("copy"))
	if err != nil {
		return err
	}
	http.Redirect(w, r, "/settings?kept="+url.QueryEscape(kept)+"#copies", http.StatusSeeOther)
	return nil
}

// settingsOf reads the form.
func settingsOf(r *http.Request) (settings.Settings, error) {
	var form struct {
		Hand    settings.Hand `json:"hand"`
		Pace    float64       `json:"pace"`
		HeatCM2 float64       `json:"heat" words:"largest patch to heat"`
		Rack    int           `json:"rack"`
	}
	if err := page.Decode(r, &form); err != nil {
		return settings.Settings{}, err
	}
	v := settings.Settings{Hand: form.Hand, Pace: form.Pace, HeatCM2: form.HeatCM2, Rack: form.Rack}
	return v, v.Check()
}
