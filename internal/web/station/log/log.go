// Package log is the station of the log: what was made when, with what, how long it took
// against the plan, what went wrong, and how it turned out.
package log

import (
	"embed"
	"errors"
	"fmt"
	"io"
	"net/http"
	"strconv"
	"time"

	"github.com/go-chi/chi/v5"

	"chromaqua/core/drying"
	"chromaqua/core/lesson"
	"chromaqua/core/table"
	"chromaqua/core/wording"
	"chromaqua/internal/album"
	"chromaqua/internal/bench"
	"chromaqua/internal/desk"
	"chromaqua/internal/logfile"
	"chromaqua/internal/store"
	"chromaqua/internal/web/page"
	"chromaqua/internal/web/station"
)

//go:embed *.html
var files embed.FS

// Entry is the station's row in the table of stations.
var Entry = station.Entry{
	Room: page.Room{Files: files},
	New:  func(h *station.Host) station.Station { return &place{h, &album.Album{Desk: h.Desk}} },
}

type place struct {
	host  *station.Host
	album *album.Album
}

// About says what the station is.
func (*place) About() station.About {
	return station.About{ID: "log", Name: "Log", Question: "What did I use, how did it turn out? Make it again.", Needs: desk.NeedsDrawer, Fresh: true, Brief: true}
}

// How many makings are opened at once: a run is worked out anew from its events.
const (
	shownRuns    = 12
	shownEntries = 24
)

// view is the log of a card.
type view struct {
	CardID  int64
	Runs    []runView
	Entries []entryView
	Older   int // runs that are not shown
	From    int // the first of those
	Earlier int // entries that are not shown
	Since   int // the first of those
	CSV     string
	JSON    string
	Today   string
	Pieces  []station.PieceTab
	MaxText int
}

// entryView is a making that was entered by hand.
type entryView struct {
	store.Entry
	Photos  []photoView
	Lessons []lesson.Lesson
}

// runView is one making of it.
type runView struct {
	logfile.Making
	ID      int64
	When    string // day and hour
	Took    time.Duration
	Planned time.Duration
	Where   string // what the room was
	Steps   []stepView
	Again   []field // what makes it again: the lots of its bench
	Photos  []photoView
	Lessons []lesson.Lesson
	Used    *usedView
	Gone    string // why it cannot be opened, "" when it can
}

type field struct{ Name, Value string }

// stepView is a step as it was done, with its two bars, shares of the longest.
type stepView struct {
	logfile.Step
	TookFor, PlannedFor  time.Duration
	OnCard               string // where there are several
	TookShare, PlanShare float64
}

// Show shows the log.
func (p *place) Show(v *station.Visit) error {
	ids, err := p.host.RunsOf(v.Context(), v.Rev.ID)
	if err != nil {
		return err
	}
	photos, err := p.host.PhotosOf(v.Context(), v.Rev.ID)
	if err != nil {
		return err
	}
	shown := &view{
		CardID: v.Rev.ID, CSV: page.CardAddress(v.Rev.Address(), "log.csv"), JSON: page.CardAddress(v.Rev.Address(), "log.json"),
		Today: time.Now().Format(time.DateOnly), Pieces: v.Page.Pieces, MaxText: store.MaxEntryText,
	}
	ids, shown.Older, shown.From = part(ids, v.FormValue("from"), shownRuns)
	address := func(piece string) string { return v.Rev.At(piece).Address() }
	for _, id := range ids {
		l, err := p.host.Benches.Log(v.Context(), id)
		if err != nil { // it tells why; the others are shown all the same
			_, words := p.host.Explain(v.Request, err)
			shown.Runs = append(shown.Runs, runView{ID: id, Gone: words.Error()})
			continue
		}
		r, of := runOf(l, v.Rev.ID, v.Studio.Bench.Degrees), album.Of{Run: id}
		r.Photos = photosOf(photos, v.Rev.Whole, address, of)
		r.Lessons = lesson.From(v.Rev.Whole, addedIn(l, v.Rev.ID), seenIn(photos, of))
		r.Used = usedOf(l, v.Rev.ID, v.Studio.Drawer)
		shown.Runs = append(shown.Runs, r)
	}
	entries, err := p.host.EntriesOf(v.Context(), v.Rev.ID)
	if err != nil {
		return err
	}
	entries, shown.Earlier, shown.Since = part(entries, v.FormValue("since"), shownEntries)
	for _, e := range entries {
		of := album.Of{Entry: e.ID}
		shown.Entries = append(shown.Entries, entryView{e, photosOf(photos, v.Rev.Whole, address, of), lesson.From(v.Rev.Whole, nil, seenIn(photos, of))})
	}
	v.Page.View = shown
	return nil
}

// part is at most so many of all, from the one that is asked for; left come after them, from
// next on. An address that says no number asks for the first.
func part[T any](all []T, asked string, most int) (shown []T, left, next int) {
	from, _ := strconv.Atoi(asked)
	from = min(len(all), max(0, from))
	shown = all[from:]
	if left = len(shown) - most; left > 0 {
		shown, next = shown[:most], from+most
	}
	return shown, left, next
}

// runOf words a run as far as it concerns a card, temperatures in a scale.
func runOf(l *bench.Log, card int64, in drying.Degrees) runView {
	m := logfile.OfRun(l, card)
	v := runView{
		Making: m, ID: l.ID, When: l.State.Zero.Format("2 January 2006, 15:04"), Where: "as planned",
		Took: time.Duration(m.Took) * time.Second, Planned: time.Duration(m.Planned) * time.Second,
	}
	if m.Room != nil {
		v.Where = drying.Room{Celsius: m.Room.Celsius, Humidity: m.Room.Humidity}.Told(in) + " at the end"
	}
	for _, lot := range l.Setup.Lots {
		id := strconv.FormatInt(lot.Card, 10)
		v.Again = append(v.Again, field{"card", id}, field{"copies-" + id, strconv.Itoa(lot.Copies)})
	}
	const most = 900 // seconds that a bar shows
	longest := 1
	for _, s := range m.Steps {
		if !s.LeftOut {
			longest = max(longest, min(most, s.Took), min(most, s.Planned))
		}
	}
	share := func(s int) float64 { return min(1, float64(s)/float64(longest)) }
	for _, s := range m.Steps {
		o := stepView{Step: s, TookFor: time.Duration(s.Took) * time.Second, PlannedFor: time.Duration(s.Planned) * time.Second, TookShare: share(s.Took), PlanShare: share(s.Planned)}
		if m.Copies > 1 {
			o.OnCard = fmt.Sprintf("card %d", s.Card)
		}
		v.Steps = append(v.Steps, o)
	}
	return v
}

// Edits are none: what is told of a run is told at the bench.
func (*place) Edits() []station.Edit { return nil }

// Routes answers with the log as a table.
func (p *place) Routes(r chi.Router) {
	r.Get("/log.csv", p.host.Handle(p.table))
	r.Get("/log.json", p.host.Handle(p.document))
	r.Get("/photos/{photo}.jpg", p.host.Handle(p.photoPicture))
	r.Post("/photos", p.host.Handle(p.takePhoto))
	r.Post("/photos/remove", p.host.Handle(p.dropPhoto))
	r.Post("/entry", p.host.Handle(p.enter))
	r.Post("/used", p.host.Handle(p.takeOff))
	r.Post("/sister", p.host.Handle(p.sister))
}

var errNumber = errors.New("write numbers for how many and how long")

// logTable is how a log is written as a table.
var logTable = table.Layout{Of: "steps", Columns: []string{"run", "begun", "card", "step", "planned_s", "took_s", "left_out", "turned_out", "went"}}

// file is the log of the card a request speaks of.
func (p *place) file(r *http.Request) (*logfile.File, error) {
	rev, err := p.host.Revision(r)
	if err != nil {
		return nil, err
	}
	all, err := logfile.All(r.Context(), p.host.Desk, p.host.Benches, rev.ID, func(*store.Photo) string { return "" })
	return &logfile.File{Kind: logfile.Kind, Version: logfile.Version, Card: rev.Whole.Name, Makings: all}, err
}

// document sends the log as JSON.
func (p *place) document(w http.ResponseWriter, r *http.Request) error {
	f, err := p.file(r)
	if err != nil {
		return err
	}
	return page.SendFile(w, "application/json", f.Card, ", log.json", f.Write)
}

func (p *place) table(w http.ResponseWriter, r *http.Request) error {
	f, err := p.file(r)
	if err != nil {
		return err
	}
	var rows [][]string
	for _, m := range f.Makings {
		for _, s := range m.Steps {
			out := ""
			if s.LeftOut {
				out = "yes"
			}
			begun, err := time.Parse(time.RFC3339, m.Begun)
			if err != nil {
				return err // runs write it so
			}
			rows = append(rows, []string{
				strconv.FormatInt(m.Run, 10), begun.Format(time.DateTime), strconv.Itoa(s.Card), s.Title, strconv.Itoa(s.Planned), strconv.Itoa(s.Took), out, m.Turned, m.Went,
			})
		}
		if m.Run == 0 {
			rows = append(rows, []string{"", m.Begun, "", "made " + wording.Count(m.Copies, "card"), "", strconv.Itoa(m.Took), "", m.Turned, m.Went})
		}
	}
	return page.SendFile(w, "text/csv; charset=utf-8", f.Card, ", log.csv", func(w io.Writer) error { return logTable.Write(w, rows) })
}
