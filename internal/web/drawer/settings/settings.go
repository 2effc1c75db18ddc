// Package settings is the page of what holds for every card.
package settings

import (
	"context"
	"embed"
	"fmt"
	"net/http"
	"net/url"
	"strings"

	"github.com/go-chi/chi/v5"

	"chromaqua/core/card"
	"chromaqua/core/drying"
	"chromaqua/core/paper"
	"chromaqua/core/school"
	"chromaqua/core/settings"
	"chromaqua/core/wording"
	"chromaqua/internal/cardfile"
	"chromaqua/internal/picture"
	"chromaqua/internal/store"
	"chromaqua/internal/web/door"
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
		r.Post("/settings/folder", d.Handle(d.athome(d.shows, d.showFolder)))
		r.Post("/settings/move", d.Handle(d.athome(d.moves, d.move)))
		r.Post("/settings/end", d.Handle(d.athome(d.ends, d.end)))
		r.Get("/settings/doctor", d.Handle(d.examine))
		r.Get("/settings/pictures", d.Handle(d.pictures))
		r.Post("/settings/pictures", d.Handle(d.clearPictures))
		r.Get("/settings/changes", d.Handle(d.changes))
		r.Get("/settings/backup.db", d.Handle(d.backup))
		r.Post("/settings/forget", d.Handle(d.forget))
		r.Post("/settings/invite", d.Handle(d.invite))
		r.Post("/settings/passphrase", d.Handle(d.setPassphrase))
		r.Post("/settings/devices/{device}/{do:name|out}", d.Handle(d.changeDevice))
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
	Schools             []schoolView
	Copies              []store.Copy
	Kept                string // what the studio was before it was put back, "" else
	Door                doorView
	Learned             []learnedView
	Limits              []limit
	File                fileView
}

// schoolView is one question on which makers disagree, and how it is answered here.
type schoolView struct {
	school.Question
	Is school.Way
}

// schoolsOf are the questions with their answers.
func schoolsOf(w school.Ways) (out []schoolView) {
	for _, q := range school.Questions() {
		out = append(out, schoolView{q, *w.Of(&q)})
	}
	return out
}

// limit is a limit of the program, and the way round it.
type limit struct{ Of, Is, Way string }

// limits are those a maker may meet.
var limits = []limit{
	{"a picture", fmt.Sprintf("%d MB, %d million pixels", picture.MaxBytes>>20, picture.MaxPixels/1_000_000), "scan in grey, at 600 dpi or less"},
	{"a card file", fmt.Sprintf("%d MB with its pictures", cardfile.MaxBytes>>20), "save a backup of the whole studio instead"},
	{"a table of paper or materials", fmt.Sprintf("%d MB", paper.MaxCSV>>20), "import it in parts"},
	{"images on a card", fmt.Sprint(card.MaxImages), "draw some of them as one"},
	{"areas of a card, washes on one", fmt.Sprintf("%d, %d", card.MaxAreas, card.MaxWashes), "gather cells that are painted alike in one area"},
	{"copies of a card", fmt.Sprint(card.MaxCopies), "make the rest in a second lot"},
	{"devices that may come in", fmt.Sprint(store.MaxDevices), "put out those that are no longer used"},
}

func (d *place) settingsPage(w http.ResponseWriter, r *http.Request) error {
	return d.showSettings(w, r, http.StatusOK, "")
}

func (d *place) showSettings(w http.ResponseWriter, r *http.Request, status int, message string) error {
	return d.show(w, r, status, message, nil)
}

// show shows the settings, with invitations to scan if there are any.
func (d *place) show(w http.ResponseWriter, r *http.Request, status int, message string, invited []door.Invitation) error {
	rev, err := d.Settings(r.Context())
	if err != nil {
		return err
	}
	v := settingsView{Page: page.Page{Title: "Settings", Place: "settings", Message: message}, History: drawer.HistoryOf(r, at, rev.Head), Settings: rev.Settings}
	v.Pace, v.HeatCM2, v.Rack = page.PlainNumber(rev.Settings.Pace), page.PlainNumber(rev.Settings.HeatCM2), page.PlainNumber(float64(rev.Settings.Rack))
	v.Schools = schoolsOf(rev.Settings.Schools)
	if message != "" && r.PostForm != nil {
		for name, to := range map[string]*string{"pace": &v.Pace, "heat": &v.HeatCM2, "rack": &v.Rack, "sensor": &v.Settings.Sensor, "maker": &v.Settings.Maker} {
			if r.PostForm.Has(name) {
				*to = r.PostForm.Get(name)
			}
		}
	}
	if v.Copies, err = d.Store.Copies(); err != nil {
		return err
	}
	v.Kept, v.Limits = r.URL.Query().Get("kept"), limits
	if v.Door, err = d.doorView(r); err != nil {
		return err
	}
	if v.File, err = d.fileView(r); err != nil {
		return err
	}
	v.Door.Invited = invited
	if v.Learned, err = d.learnedHere(r); err != nil {
		return err
	}
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
	return d.after(w, r, err, "")
}

// after goes back to the settings, or says there what was refused.
func (d *place) after(w http.ResponseWriter, r *http.Request, err error, part string) error {
	if err != nil {
		status, words := d.Explain(r, err)
		return d.showSettings(w, r, status, wording.Sentence(words.Error()))
	}
	http.Redirect(w, r, at+part, http.StatusSeeOther)
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
		Hand    settings.Hand  `json:"hand"`
		Pace    float64        `json:"pace"`
		Degrees drying.Degrees `json:"degrees"`
		HeatCM2 float64        `json:"heat" words:"largest patch to heat"`
		Rack    int            `json:"rack"`
		Sensor  string         `json:"sensor"`
		Maker   string         `json:"maker"`
	}
	if err := page.Decode(r, &form); err != nil {
		return settings.Settings{}, err
	}
	v := settings.Settings{Hand: form.Hand, Pace: form.Pace, HeatCM2: form.HeatCM2, Rack: form.Rack, Degrees: form.Degrees, Sensor: form.Sensor, Maker: strings.TrimSpace(form.Maker)}
	for _, q := range school.Questions() {
		way := r.PostForm.Get("school-" + q.ID)
		if way == q.Ways[0].ID {
			way = "" // the default, which a later version may better
		}
		if err := v.Schools.Choose(q.ID, way); err != nil {
			return v, err
		}
	}
	return v, v.Check()
}
