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

	"chromaqua/core/lesson"
	"chromaqua/core/run"
	"chromaqua/core/table"
	"chromaqua/core/wording"
	"chromaqua/internal/album"
	"chromaqua/internal/bench"
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
	return station.About{ID: "log", Name: "Log", Question: "What did I use, how did it turn out? Make it again.", Fresh: true, Brief: true}
}

// shownRuns is how many makings are opened at once: each is worked out anew from its events.
const shownRuns = 12

// view is the log of a card.
type view struct {
	CardID  int64
	Runs    []runView
	Entries []entryView
	Older   int // runs that are not shown
	From    int // the first of those
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
	ID      int64
	When    string // day and hour
	Over    bool
	Copies  int
	Took    time.Duration
	Planned time.Duration
	Paper   string
	Ink     string
	Paints  []paint
	Room    string
	Steps   []stepView
	Repairs []string
	Notes   []string
	Turned  string
	Went    string
	Again   []field // what makes it again: the lots of its bench
	Photos  []photoView
	Lessons []lesson.Lesson
	Gone    string // why it cannot be opened, "" when it can
}

type paint struct{ Hex, Name string }

type field struct{ Name, Value string }

// stepView is a step as it was done, with its two bars, shares of the longest.
type stepView struct {
	run.Record
	TookFor, PlannedFor  time.Duration
	Card                 string // where there are several
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
	from, _ := strconv.Atoi(v.FormValue("from")) // an address that says no number says nothing
	from = min(len(ids), max(0, from))
	ids = ids[from:]
	if shown.Older = len(ids) - shownRuns; shown.Older > 0 {
		ids, shown.From = ids[:shownRuns], from+shownRuns
	}
	address := func(piece string) string { return v.Rev.At(piece).Address() }
	for _, id := range ids {
		l, err := p.host.Benches.Log(v.Context(), id)
		if err != nil { // it tells why; the others are shown all the same
			_, words := p.host.Explain(v.Request, err)
			shown.Runs = append(shown.Runs, runView{ID: id, Gone: words.Error()})
			continue
		}
		r := runOf(l, v.Rev.ID)
		r.Photos = photosOf(photos, v.Rev.Whole, address, func(o *store.Photo) bool { return o.Run == id })
		if r.Lessons, err = p.lessons(v.Request, v.Rev.ID, album.Of{Run: id}, v.Rev.Whole); err != nil {
			return err
		}
		shown.Runs = append(shown.Runs, r)
	}
	entries, err := p.host.EntriesOf(v.Context(), v.Rev.ID)
	if err != nil {
		return err
	}
	for _, e := range entries {
		shown.Entries = append(shown.Entries, entryView{
			e, photosOf(photos, v.Rev.Whole, address, func(o *store.Photo) bool { return o.Entry == e.ID }), lesson.From(v.Rev.Whole, nil, seenIn(photos, album.Of{Entry: e.ID})),
		})
	}
	v.Page.View = shown
	return nil
}

// runOf words a run as far as it concerns a card.
func runOf(l *bench.Log, card int64) runView {
	s := l.State
	v := runView{
		ID: l.ID, When: s.Zero.Format("2 January 2006, 15:04"), Over: s.Ended, Took: s.Lasted().Duration(), Planned: l.Planned.Duration(),
		Room: "as planned",
	}
	if s.RoomRead {
		v.Room = fmt.Sprintf("%.1f °C, %.0f %% at the end", s.Room.Celsius, 100*s.Room.Humidity)
	}
	here := map[int]bool{} // cards on the bench that are of this one
	for i, at := range l.Places {
		if !l.IsOf(i, card) {
			continue
		}
		if here[i] = true; v.Copies == 0 {
			c, plan := at.Rev.Whole, s.Cards[i].Plan
			v.Paper, v.Ink = c.PaperFacts().Name, c.InkFacts().Name
			for k := range plan.Mixes {
				m := &plan.Mixes[k]
				v.Paints = append(v.Paints, paint{m.Hex, c.Called.Mix(m.Parts) + ", " + string(m.Strength)})
			}
		}
		v.Copies++
	}
	for _, lot := range l.Setup.Lots {
		id := strconv.FormatInt(lot.Card, 10)
		v.Again = append(v.Again, field{"card", id}, field{"copies-" + id, strconv.Itoa(lot.Copies)})
	}
	longest := 1.0
	var records []run.Record
	for _, r := range s.Log() {
		if here[r.Card] {
			records = append(records, r)
			if !r.Skipped {
				longest = max(longest, min(900, float64(r.Took)), min(900, float64(r.Planned)))
			}
		}
	}
	for _, r := range records {
		o := stepView{Record: r, TookFor: r.Took.Duration(), PlannedFor: r.Planned.Duration(), TookShare: min(1, float64(r.Took)/longest), PlanShare: min(1, float64(r.Planned)/longest)}
		if v.Copies > 1 {
			o.Card = fmt.Sprintf("card %d", r.Card+1)
		}
		v.Steps = append(v.Steps, o)
	}
	for _, e := range s.Repairs {
		if here[e.Card] {
			trouble, remedy := run.FixWords(e.Fix)
			v.Repairs = append(v.Repairs, fmt.Sprintf("%s, %s: %s", e.Title, trouble, remedy))
		}
	}
	for _, e := range s.Notes {
		if e.Kind == run.Noted {
			v.Notes = append(v.Notes, wording.Sentence(e.Text))
		}
	}
	v.Turned, v.Went = s.Outcomes()
	return v
}

// Edits are none: what is told of a run is told at the bench.
func (*place) Edits() []station.Edit { return nil }

// Routes answers with the log as a table.
func (p *place) Routes(r chi.Router) {
	r.Get("/log.csv", p.host.Handle(p.table))
	r.Get("/photos/{photo}.jpg", p.host.Handle(p.photoPicture))
	r.Post("/photos", p.host.Handle(p.takePhoto))
	r.Post("/photos/remove", p.host.Handle(p.dropPhoto))
	r.Post("/entry", p.host.Handle(p.enter))
	r.Post("/sister", p.host.Handle(p.sister))
}

var errNumber = errors.New("write numbers for how many and how long")

// logTable is how a log is written as a table.
var logTable = table.Layout{Of: "steps", Columns: []string{"run", "begun", "card", "step", "planned_s", "took_s", "left_out", "turned_out", "went"}}

func (p *place) table(w http.ResponseWriter, r *http.Request) error {
	rev, err := p.host.Revision(r)
	if err != nil {
		return err
	}
	ids, err := p.host.RunsOf(r.Context(), rev.ID)
	if err != nil {
		return err
	}
	var rows [][]string
	for _, id := range ids {
		l, err := p.host.Benches.Log(r.Context(), id)
		if err != nil {
			return err
		}
		turned, went := l.State.Outcomes()
		for _, s := range l.State.Log() {
			if !l.IsOf(s.Card, rev.ID) {
				continue
			}
			out := ""
			if s.Skipped {
				out = "yes"
			}
			rows = append(rows, []string{
				strconv.FormatInt(id, 10), l.State.Zero.Format(time.DateTime), strconv.Itoa(s.Card + 1), s.Title, strconv.Itoa(int(s.Planned)), strconv.Itoa(int(s.Took)), out, turned, went,
			})
		}
	}
	return page.SendFile(w, "text/csv; charset=utf-8", rev.Card.Name, ", log.csv", func(w io.Writer) error { return logTable.Write(w, rows) })
}
