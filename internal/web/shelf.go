package web

import (
	"bytes"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"time"

	"chromaqua/core/length"
	"chromaqua/core/panel"
	"chromaqua/core/shelf"
)

// shelfView is the page of inks, papers, powders and paints.
type shelfView struct {
	page
	Own     []shelf.Own
	Inks    []shelf.Ink
	Papers  []shelf.Paper
	Powders []shelf.Powder
	Paints  []panView
	Forms   []shelf.PaintForm
	Unit    length.Unit
	Gone    string // the material that was just put away, "ink:name"
}

// Dab is how a paint of the maker's looks as milk, dry on white; "" when it is none.
func (shelfView) Dab(o shelf.Own) string {
	m, err := o.Mixture()
	if err != nil {
		return ""
	}
	white := panel.Ground("")
	r := m.Over(&white, 1)
	return r.Hex()
}

func (s *Server) shelfPage(w http.ResponseWriter, r *http.Request) error {
	return s.showShelf(w, r, http.StatusOK, "")
}

func (s *Server) showShelf(w http.ResponseWriter, r *http.Request, status int, message string) error {
	own, err := s.store.Materials(r.Context())
	if err != nil {
		return err
	}
	s.render(w, r, status, "shelf.html", shelfView{
		page: page{Title: "Shelf", Place: "shelf", Message: message}, Own: own, Inks: shelf.Inks(), Papers: shelf.Papers(), Powders: shelf.Powders(), Paints: pans(chartPalette(own)), Forms: shelf.PaintForms(),
		Unit: unitOf(r), Gone: r.URL.Query().Get("gone"),
	})
	return nil
}

// editShelf adds a material, puts one away, or brings it back.
func (s *Server) editShelf(w http.ResponseWriter, r *http.Request) error {
	r.Body = http.MaxBytesReader(w, r.Body, maxForm)
	if err := r.ParseForm(); err != nil {
		return refusedForm(err)
	}
	what, name, _ := strings.Cut(r.PostForm.Get("material"), ":")
	to := "/shelf?unit=" + unitOf(r).String()
	var err error
	switch r.PostForm.Get("edit") {
	case "add":
		var o shelf.Own
		if o, err = ownOf(r); err == nil {
			err = s.store.PutMaterials(r.Context(), []shelf.Own{o})
		}
	case "away":
		err = s.store.HideMaterial(r.Context(), shelf.What(what), name, true)
		to += "&gone=" + url.QueryEscape(what+":"+name)
	case "back":
		err = s.store.HideMaterial(r.Context(), shelf.What(what), name, false)
	default:
		err = errOldPage
	}
	return s.afterShelf(w, r, to, err)
}

func (s *Server) afterShelf(w http.ResponseWriter, r *http.Request, to string, err error) error {
	if err = asRefused(err); err != nil {
		status, words := s.explain(r, err)
		return s.showShelf(w, r, status, upperFirst(words.Error())+".")
	}
	http.Redirect(w, r, to, http.StatusSeeOther)
	return nil
}

// ownOf reads the form for a material of the maker's.
func ownOf(r *http.Request) (o shelf.Own, err error) {
	get := func(name string) string { return strings.TrimSpace(r.PostForm.Get(name)) }
	what, like, _ := strings.Cut(get("like"), ":")
	o = shelf.Own{Name: get("name"), What: shelf.What(what), Like: like, Colour: get("colour"), Note: get("note"), Form: shelf.Form(get("form"))}
	if pigments := get("pigments"); pigments != "" {
		o.What, o.Like = shelf.OwnPaint, pigments
	}
	for _, f := range []struct {
		name, words string
		unit        time.Duration
		to          *time.Duration
	}{{"minutes", "minutes in air", time.Minute, &o.AirDry}, {"seconds", "seconds of heat", time.Second, &o.HeatDry}} {
		if get(f.name) == "" {
			continue
		}
		v, err := number(get(f.name), f.words)
		if err != nil {
			return o, err
		}
		if !(v >= 0 && v <= shelf.MaxDrying.Seconds()) {
			return o, fmt.Errorf("%s: %g is no time to wait", f.words, v)
		}
		*f.to = time.Duration(v * float64(f.unit))
	}
	for name, to := range map[string]*length.Length{"thickness": &o.Thickness, "belly": &o.Belly} {
		if get(name) == "" {
			continue
		}
		if *to, err = length.Parse(get(name), length.Millimetres); err != nil {
			return o, fmt.Errorf("%s: %w", name, err)
		}
	}
	return o, o.Check()
}

func (s *Server) shelfCSV(w http.ResponseWriter, r *http.Request) error {
	own, err := s.store.Materials(r.Context())
	if err != nil {
		return err
	}
	var buf bytes.Buffer
	if err := shelf.WriteCSV(&buf, own); err != nil {
		return err
	}
	download(w, "text/csv; charset=utf-8", "Shelf", ".csv")
	_, _ = w.Write(buf.Bytes())
	return nil
}

// importShelf adds the materials of a table, all or none.
func (s *Server) importShelf(w http.ResponseWriter, r *http.Request) error {
	data, _, err := sentFile(w, r, shelf.MaxCSV)
	if err == nil {
		var own []shelf.Own
		if own, err = shelf.ReadCSV(bytes.NewReader(data), length.Millimetres); err != nil {
			err = fmt.Errorf("nothing was imported: %w", err)
		} else {
			err = s.store.PutMaterials(r.Context(), own)
		}
	}
	return s.afterShelf(w, r, "/shelf?unit="+unitOf(r).String(), err)
}

// ownPrefix begins the value of a choice that is the maker's own.
const ownPrefix = "own:"

// material returns the material a form chose: a general one by its id, or the
// maker's own by name.
func (e *editing) material(what shelf.What, choice string) (id string, own *shelf.Own, err error) {
	name, is := strings.CutPrefix(choice, ownPrefix)
	if !is {
		return choice, nil, nil
	}
	all, err := e.store.Materials(e.ctx)
	if err != nil {
		return "", nil, err
	}
	i := slices.IndexFunc(all, func(o shelf.Own) bool { return o.What == what && o.Name == name })
	if i < 0 {
		return "", nil, fmt.Errorf("%q is no longer on the shelf; choose another", name)
	}
	return all[i].Like, &all[i], nil
}
