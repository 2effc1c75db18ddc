package bench

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"net/http"
	"net/url"
	"strconv"
	"strings"
	"time"

	ics "github.com/arran4/golang-ical"
	"github.com/go-chi/chi/v5"

	"chromaqua/core/evening"
	"chromaqua/core/table"
	"chromaqua/internal/desk"
	"chromaqua/internal/store"
	"chromaqua/internal/web/page"
)

// eveningsView is a card's work cut into evenings.
type eveningsView struct {
	page.Page
	Card    *store.Revision
	Minutes string
	Ready   string // day
	At      string // hour
	Query   string
	List    []sittingView
	Failed  string
}

type sittingView struct {
	evening.Sitting
	Number int
	Hours  time.Duration
	Steps  []string
	Rests  []string
	copies int
}

// Of a job nobody has said anything about.
const (
	usualMinutes = 60
	usualHour    = "19:30"
	usualDays    = 14
)

func (d *place) evenings(w http.ResponseWriter, r *http.Request) error {
	v, err := d.eveningsOf(r)
	if err != nil {
		return err
	}
	d.Render(w, r, http.StatusOK, "evenings.html", v)
	return nil
}

// eveningsOf cuts the work of the card in an address.
func (d *place) eveningsOf(r *http.Request) (*eveningsView, error) {
	ctx, q := r.Context(), r.URL.Query()
	id, err := strconv.ParseInt(q.Get("card"), 10, 64)
	if err != nil {
		return nil, store.ErrNotFound
	}
	rev, err := d.Card(ctx, id)
	if err != nil {
		return nil, err
	}
	now := time.Now()
	v := &eveningsView{Page: page.Page{Title: "Evenings", Place: "bench"}, Card: rev, Minutes: q.Get("minutes"), Ready: q.Get("ready"), At: q.Get("at")}
	if v.Minutes == "" {
		v.Minutes = strconv.Itoa(usualMinutes)
	}
	if v.At == "" {
		v.At = usualHour
	}
	if v.Ready == "" {
		v.Ready = now.AddDate(0, 0, usualDays).Format(time.DateOnly)
	}
	v.Query = url.Values{"card": {q.Get("card")}, "minutes": {v.Minutes}, "ready": {v.Ready}, "at": {v.At}}.Encode()
	wish, err := wishOf(v, now)
	if err != nil {
		v.Failed = err.Error()
		return v, nil
	}
	studio, err := d.Studio(ctx, 0)
	if err != nil {
		return nil, err
	}
	if _, err := d.Read(ctx, rev.Card); rev.Card.Begun() && err != nil {
		return nil, err
	}
	plan, err := d.Order(ctx, d.Lay(rev, &studio, boardPatience))
	var refused *desk.Refusal
	if errors.As(err, &refused) {
		v.Failed = refused.Error()
		return v, nil
	}
	if err != nil {
		return nil, err
	}
	list, err := evening.Cut(plan.Plan.Instance, plan.Schedule, wish, now)
	if err != nil {
		v.Failed = err.Error()
	}
	for k, s := range list {
		v.List = append(v.List, sittingOf(plan, s, k))
	}
	return v, nil
}

func wishOf(v *eveningsView, now time.Time) (w evening.Wish, err error) {
	minutes, err := strconv.Atoi(v.Minutes)
	if err != nil {
		return w, errors.New("how long a sitting is, is written in minutes")
	}
	w.Each = time.Duration(minutes) * time.Minute
	if w.Ready, err = time.ParseInLocation(time.DateOnly, v.Ready, now.Location()); err != nil {
		return w, errors.New("write the day as year, month and day: 2026-12-24")
	}
	if w.Ready.Before(now) || w.Ready.After(now.AddDate(0, 0, evening.MaxDays)) {
		return w, fmt.Errorf("the day must lie ahead, within %d days", evening.MaxDays)
	}
	hour, err := time.Parse("15:04", v.At)
	if err != nil {
		return w, errors.New("write the hour as 19:30")
	}
	w.At = time.Duration(hour.Hour())*time.Hour + time.Duration(hour.Minute())*time.Minute
	return w, nil
}

// sittingOf words a sitting: steps of several cards once, with the cards they are done on.
func sittingOf(p *desk.Planned, s evening.Sitting, nth int) sittingView {
	v := sittingView{Sitting: s, Number: nth + 1, Hours: s.Long.Duration()}
	last := -1
	for _, i := range s.Ops {
		at := p.Schedule.Ops[i]
		if at.Op == last {
			v.copies++
			v.Steps[len(v.Steps)-1] = fmt.Sprintf("%s, on %d cards", p.Plan.Steps[at.Op].Title, v.copies)
			continue
		}
		last, v.copies = at.Op, 1
		v.Steps = append(v.Steps, p.Plan.Steps[at.Op].Title)
	}
	for _, i := range s.Rests {
		v.Rests = append(v.Rests, p.Plan.Steps[p.Schedule.Ops[i].Op].Title)
	}
	return v
}

// eveningsFile sends the evenings for a calendar, or as a table.
func (d *place) eveningsFile(w http.ResponseWriter, r *http.Request) error {
	v, err := d.eveningsOf(r)
	if err != nil {
		return err
	}
	if len(v.List) == 0 {
		return page.Refused(errors.New(v.Failed))
	}
	name := v.Card.Card.Name
	if chi.URLParam(r, "as") == "csv" {
		return page.SendFile(w, "text/csv; charset=utf-8", name, ", evenings.csv", v.writeCSV)
	}
	return page.SendFile(w, "text/calendar; charset=utf-8", name, ", evenings.ics", v.writeCalendar)
}

// eveningsTable is how evenings are written as a table.
var eveningsTable = table.Layout{Of: "sittings", Columns: []string{"sitting", "day", "begins", "minutes", "step"}}

func (v *eveningsView) writeCSV(w io.Writer) error {
	var rows [][]string
	for _, s := range v.List {
		for _, step := range s.Steps {
			rows = append(rows, []string{strconv.Itoa(s.Number), s.Begins.Format(time.DateOnly), s.Begins.Format("15:04"), strconv.Itoa(int(s.Hours.Minutes())), step})
		}
	}
	return eveningsTable.Write(w, rows)
}

func (v *eveningsView) writeCalendar(w io.Writer) error {
	cal := ics.NewCalendarFor("Chromaqua")
	cal.SetMethod(ics.MethodPublish)
	for _, s := range v.List {
		e := cal.AddEvent(fmt.Sprintf("card-%d-%d-sitting-%d@chromaqua.invalid", v.Card.ID, v.Card.Seq, s.Number))
		e.SetDtStampTime(v.Card.Made)
		e.SetStartAt(s.Begins)
		e.SetEndAt(s.Begins.Add(s.Hours.Round(5 * time.Minute)))
		e.SetSummary(fmt.Sprintf("Paint %s, sitting %d of %d", v.Card.Card.Name, s.Number, len(v.List)))
		e.SetDescription(strings.Join(s.Steps, "\n"))
	}
	var buf bytes.Buffer
	if err := cal.SerializeTo(&buf); err != nil {
		return err
	}
	_, err := buf.WriteTo(w)
	return err
}
