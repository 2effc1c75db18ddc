package web

import (
	"errors"
	"net/http"
	"strconv"
	"strings"

	"chromaqua/core/settings"
	"chromaqua/internal/store"
)

// settingsView is the page of the settings. What was sent and refused stays in its
// fields.
type settingsView struct {
	page
	*store.SettingsRevision
	Pace, HeatCM2, Rack string
}

func (s *Server) settingsPage(w http.ResponseWriter, r *http.Request) error {
	return s.showSettings(w, r, http.StatusOK, "")
}

func (s *Server) showSettings(w http.ResponseWriter, r *http.Request, status int, message string) error {
	rev, err := s.store.Settings(r.Context())
	if err != nil {
		return err
	}
	v := settingsView{page: page{Title: "Settings", Place: "settings", Message: message}, SettingsRevision: rev}
	v.Pace, v.HeatCM2, v.Rack = plainNumber(rev.Settings.Pace), plainNumber(rev.Settings.HeatCM2), plainNumber(float64(rev.Settings.Rack))
	if message != "" && r.PostForm != nil {
		for name, to := range map[string]*string{"pace": &v.Pace, "heat": &v.HeatCM2, "rack": &v.Rack} {
			if r.PostForm.Has(name) {
				*to = r.PostForm.Get(name)
			}
		}
	}
	s.render(w, r, status, "settings.html", v)
	return nil
}

// plainNumber writes a number as it is typed.
func plainNumber(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }

// editSettings makes the settings what the form says.
func (s *Server) editSettings(w http.ResponseWriter, r *http.Request) error {
	r.Body = http.MaxBytesReader(w, r.Body, maxForm)
	if err := r.ParseForm(); err != nil {
		return refusedForm(err)
	}
	rev, err := s.store.Settings(r.Context())
	if err != nil {
		return err
	}
	v, err := settingsOf(r)
	if err = refused(err); err == nil && v != rev.Settings {
		err = s.store.SaveSettings(r.Context(), rev.ID, baseOf(r, rev.Seq), v, "changed the settings")
	}
	if err != nil {
		status, words := s.explain(r, err)
		return s.showSettings(w, r, status, upperFirst(words.Error())+".")
	}
	http.Redirect(w, r, "/settings", http.StatusSeeOther)
	return nil
}

// settingsOf reads the form.
func settingsOf(r *http.Request) (settings.Settings, error) {
	get := func(name string) string { return strings.TrimSpace(r.PostForm.Get(name)) }
	v := settings.Settings{Hand: settings.Hand(get("hand"))}
	rack := 0.0
	for _, f := range []struct {
		name, words string
		to          *float64
	}{{"pace", "pace", &v.Pace}, {"heat", "largest patch to heat", &v.HeatCM2}, {"rack", "rack", &rack}} {
		n, err := number(get(f.name), f.words)
		if err != nil {
			return v, err
		}
		*f.to = n
	}
	if v.Rack = int(rack); float64(v.Rack) != rack {
		return v, errors.New("the rack holds a whole number of cards")
	}
	return v, v.Check()
}

// moveSettings goes one step back or forth through the revisions of the settings.
func (s *Server) moveSettings(to step) func(http.ResponseWriter, *http.Request) error {
	return func(w http.ResponseWriter, r *http.Request) error {
		r.Body = http.MaxBytesReader(w, r.Body, maxForm)
		rev, err := s.store.Settings(r.Context())
		if err != nil {
			return err
		}
		return s.moveOnly(w, r, rev.Head, to, "/settings", s.showSettings)
	}
}
