// Package bench is the live bench: what the maker does now, said so that it is read from
// a metre away, with the wetness of all that was painted.
package bench

import (
	"embed"
	"errors"
	"fmt"
	"net/http"
	"strconv"
	"time"

	"github.com/go-chi/chi/v5"

	"chromaqua/core/drying"
	"chromaqua/core/run"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
	"chromaqua/core/wording"
	"chromaqua/internal/bench"
	"chromaqua/internal/desk"
	"chromaqua/internal/store"
	"chromaqua/internal/web/drawer"
	"chromaqua/internal/web/page"
)

//go:embed *.html *.js
var files embed.FS

// Entry is the drawer's row in the table of drawers.
var Entry = drawer.Entry{
	Room: page.Room{Files: files},
	Link: page.Link{Place: "bench", Name: "Live bench", Path: "/bench"},
	Routes: func(k drawer.Kit, r chi.Router) {
		d := &place{k}
		r.Get("/bench", d.Handle(d.list))
		r.Post("/bench", d.Handle(d.begin))
		r.Get("/bench/{run:[0-9]+}", d.Handle(d.now))
		r.Post("/bench/{run:[0-9]+}", d.Handle(d.tell))
		r.Post("/bench/timers", d.Handle(d.time))
		r.Get("/bench/evenings", d.Handle(d.evenings))
		r.Get("/bench/evenings.{as:ics|csv}", d.Handle(d.eveningsFile))
		r.Get("/bench/practice", d.Handle(d.practise))
		r.Post("/bench/practice", d.Handle(d.judge))
		r.Get("/bench/{run:[0-9]+}/trouble", d.Handle(d.trouble))
		r.Get("/bench/{run:[0-9]+}/calls", d.calls)
		r.Get("/bench/{run:[0-9]+}/painted.jpg", d.Handle(d.paintedNow))
		r.Get("/bench/{run:[0-9]+}/touch", d.Handle(d.touch))
		r.Get("/bench/{run:[0-9]+}/touched.png", d.Handle(d.touchedPicture))
	},
}

type place struct{ drawer.Kit }

// runOf is the run an address names.
func runOf(r *http.Request) (int64, error) {
	id, err := strconv.ParseInt(chi.URLParam(r, "run"), 10, 64)
	if err != nil {
		return 0, store.ErrNotFound
	}
	return id, nil
}

// listView is the page of all benches.
type listView struct {
	page.Page
	Going, Over []entry
	Timers      []timerView
	Papers      []shelf.Paper
	Techniques  []technique.Kind
	Sizes       []run.Size
	Once        string
	Cards       []*store.Revision
	Rack        int
	Degrees     drying.Degrees
	Chosen      int64 // the card it was asked for
}

// entry is a run in the list.
type entry struct {
	ID    int64
	Name  string
	Began time.Time
}

// listed is how many runs are listed, and how many cards can be chosen from.
const listed = 40

func (d *place) list(w http.ResponseWriter, r *http.Request) error {
	return d.showList(w, r, http.StatusOK, "")
}

func (d *place) showList(w http.ResponseWriter, r *http.Request, status int, message string) error {
	runs, err := d.Runs(r.Context(), listed)
	if err != nil {
		return err
	}
	v := listView{Papers: shelf.Papers(), Techniques: run.TimerTechniques(), Once: bench.OnceName(), Page: page.Page{Title: "Bench", Place: "bench", Message: message}}
	for _, one := range runs {
		e := entry{one.ID, bench.NameOf(one.Doc), one.Made}
		if timed := bench.IsTimer(one.Doc); timed && !one.Over {
			t, err := d.timerOf(r, one.ID)
			if err != nil {
				return err
			}
			v.Timers = append(v.Timers, *t)
			continue
		} else if timed {
			continue // a clock that was put away
		}
		if one.Over {
			v.Over = append(v.Over, e)
		} else {
			v.Going = append(v.Going, e)
		}
	}
	for _, s := range run.Sizes {
		v.Sizes = append(v.Sizes, s.Size)
	}
	if v.Cards, _, err = d.Desk.Cards(r.Context(), store.Shown); err != nil {
		return err
	}
	set, err := d.Settings(r.Context())
	if err != nil {
		return err
	}
	v.Rack, v.Degrees = set.Settings.Rack, set.Settings.Degrees
	v.Chosen, _ = strconv.ParseInt(r.URL.Query().Get("card"), 10, 64) // none where it is none
	d.Render(w, r, status, "benches.html", v)
	return nil
}

// begin begins a run of the cards that were chosen.
func (d *place) begin(w http.ResponseWriter, r *http.Request) error {
	if err := page.Read(w, r); err != nil {
		return err
	}
	var form struct {
		Rack *float64 `json:"rack"`
	}
	if err := page.Decode(r, &form); err != nil {
		return d.showList(w, r, http.StatusUnprocessableEntity, err.Error())
	}
	set, err := d.Settings(r.Context())
	if err != nil {
		return err
	}
	rack := set.Settings.Rack
	if form.Rack != nil && *form.Rack >= 0 && *form.Rack <= run.MaxCards {
		rack = int(*form.Rack)
	}
	var lots []bench.Lot
	for _, text := range r.PostForm["card"] {
		id, err := strconv.ParseInt(text, 10, 64)
		if err != nil {
			continue
		}
		copies, err := strconv.Atoi(r.PostForm.Get("copies-" + text))
		if err != nil {
			copies = 1
		}
		if copies < 1 || copies > run.MaxCards {
			return d.showList(w, r, http.StatusUnprocessableEntity, fmt.Sprintf("A bench takes 1 to %d cards at once.", run.MaxCards))
		}
		lots = append(lots, bench.Lot{Card: id, Copies: copies})
	}
	id, err := d.Benches.Begin(r.Context(), lots, rack)
	var refused *desk.Refusal
	if errors.As(err, &refused) {
		return d.showList(w, r, http.StatusUnprocessableEntity, wording.Sentence(refused.Error()))
	}
	if err != nil {
		return err
	}
	http.Redirect(w, r, fmt.Sprintf("/bench/%d", id), http.StatusSeeOther)
	return nil
}

// tell tells what happened, and shows the bench as it is then.
func (d *place) tell(w http.ResponseWriter, r *http.Request) error {
	id, err := runOf(r)
	if err != nil {
		return err
	}
	if err := page.Read(w, r); err != nil {
		return err
	}
	var form struct {
		Kind string   `json:"kind"`
		Card *float64 `json:"card"`
		Step string   `json:"step"`
		Goal string   `json:"goal"`
		Fix  string   `json:"fix"`
		Text string   `json:"text"`
		Once string   `json:"once"`
		Of   *float64 `json:"of"`
		Long *float64 `json:"long_s"`
	}
	if err := page.Decode(r, &form); err != nil {
		return err
	}
	e := run.Event{Kind: run.Kind(form.Kind), Step: form.Step, Goal: run.Goal(form.Goal), Fix: form.Fix, Text: form.Text, Once: form.Once}
	if form.Card != nil {
		e.Card = int(*form.Card)
	}
	if form.Of != nil {
		e.Of = int64(*form.Of)
	}
	if form.Long != nil {
		e.Long = *form.Long
	}
	switch e.Kind {
	case run.TookBack:
		err = d.Benches.Back(r.Context(), id, e.Once)
	case run.RoomRead:
		err = d.Benches.Room(r.Context(), id, r.PostForm.Get("celsius"), r.PostForm.Get("humidity"), e.Once)
	default:
		err = d.Benches.Tell(r.Context(), id, e)
	}
	var refused *desk.Refusal
	if errors.As(err, &refused) {
		return d.showNow(w, r, id, http.StatusUnprocessableEntity, wording.Sentence(refused.Error()))
	}
	if err != nil {
		return err
	}
	to := fmt.Sprintf("/bench/%d", id)
	if card, err := strconv.ParseInt(r.PostForm.Get("from"), 10, 64); err == nil && r.PostForm.Get("back") == "log" {
		http.Redirect(w, r, fmt.Sprintf("/cards/%d/log", card), http.StatusSeeOther)
		return nil
	}
	if one, err := d.RunByID(r.Context(), id); err == nil && bench.IsTimer(one.Doc) {
		to = "/bench#timers"
	}
	http.Redirect(w, r, to, http.StatusSeeOther)
	return nil
}

// silence is how often a screen hears that the bench is still there.
const silence = 15 * time.Second

// calls tells a screen of each change, as server-sent events, until it is gone.
func (d *place) calls(w http.ResponseWriter, r *http.Request) {
	id, err := runOf(r)
	if err == nil {
		_, err = d.RunByID(r.Context(), id)
	}
	if err != nil {
		d.Fail(w, r, err)
		return
	}
	heard, stop := d.Benches.Listen(id)
	defer stop()
	w.Header().Set("Content-Type", "text/event-stream")
	w.Header().Set("Cache-Control", "no-store")
	out := http.NewResponseController(w)
	if err := out.SetReadDeadline(time.Time{}); err != nil && !errors.Is(err, http.ErrNotSupported) {
		d.Fail(w, r, err)
		return
	}
	say := func(what string) bool {
		if _, err := fmt.Fprintf(w, "event: %s\ndata: %d\n\n", what, id); err != nil {
			return false
		}
		return out.Flush() == nil
	}
	still := time.NewTicker(silence)
	defer still.Stop()
	ok := say("here")
	for d.Benches.ReadRoom(r.Context(), id); ok; {
		select {
		case <-r.Context().Done():
			return
		case <-d.Benches.Over():
			return
		case <-heard:
			ok = say("changed")
		case <-still.C:
			d.Benches.ReadRoom(r.Context(), id)
			ok = say("here")
		}
	}
}
