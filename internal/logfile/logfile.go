// Package logfile is how the log of a card leaves the studio: what was made when, with what,
// how long it took and how it turned out, as one JSON document (docs/log-file.schema.json).
package logfile

import (
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"slices"
	"time"

	"chromaqua/core/run"
	"chromaqua/core/wording"
	"chromaqua/internal/album"
	"chromaqua/internal/bench"
	"chromaqua/internal/desk"
	"chromaqua/internal/store"
)

// Kind and Version mark a log's JSON.
const (
	Kind    = "chromaqua-log"
	Version = 1
)

// File is the log of one card.
type File struct {
	Kind    string   `json:"kind"`
	Version int      `json:"version"`
	Card    string   `json:"card"`
	Makings []Making `json:"makings"` // the latest first
}

// Making is one time the card was made. Times are whole seconds.
type Making struct {
	Run      int64    `json:"run,omitempty"` // at the bench; absent when entered by hand
	Begun    string   `json:"begun"`         // RFC 3339, or a day
	Over     bool     `json:"over"`
	Copies   int      `json:"copies"`
	Took     int      `json:"took_s,omitempty"`
	Planned  int      `json:"planned_s,omitempty"`
	Paper    string   `json:"paper,omitempty"`
	Ink      string   `json:"ink,omitempty"`
	Paints   []Paint  `json:"paints,omitempty"`
	Room     *Room    `json:"room,omitempty"`
	Repairs  []string `json:"repairs,omitempty"`
	Notes    []string `json:"notes,omitempty"`
	Turned   string   `json:"turned_out,omitempty"`
	Went     string   `json:"went,omitempty"`
	Steps    []Step   `json:"steps,omitempty"`
	Pictures []Photo  `json:"photos,omitempty"`
}

// Paint is one mix, by the maker's own names.
type Paint struct {
	Name     string   `json:"name"`
	Strength string   `json:"strength"`
	Hex      string   `json:"hex"` // one coat on its paper, dry
	ML       float64  `json:"ml"`  // that was to be mixed
	Areas    []string `json:"areas"`
}

// Room is how warm and damp it was at the end.
type Room struct {
	Celsius  float64 `json:"celsius"`
	Humidity float64 `json:"humidity"` // 0 to 1
}

// Step is one step as it was done.
type Step struct {
	Card    int    `json:"card"` // of several, from 1
	Title   string `json:"title"`
	Planned int    `json:"planned_s"`
	Took    int    `json:"took_s"`
	LeftOut bool   `json:"left_out,omitempty"`
	Added   bool   `json:"added,omitempty"` // by a repair
}

// Photo is a photo of it, and what was read of it.
type Photo struct {
	File      string         `json:"file,omitempty"` // in the card's file
	Piece     string         `json:"piece"`
	Simulated bool           `json:"simulated,omitempty"`
	Reading   *album.Reading `json:"reading,omitempty"`
}

// OfRun is one run as far as it concerns a card.
func OfRun(l *bench.Log, card int64) Making {
	s := l.State
	m := Making{Run: l.ID, Begun: s.Zero.Format(time.RFC3339), Over: s.Ended, Took: int(s.Lasted()), Planned: int(l.Planned)}
	if s.RoomRead {
		m.Room = &Room{s.Room.Celsius, s.Room.Humidity}
	}
	here := l.Of(card)
	if m.Copies = len(here); m.Copies > 0 {
		c, plan := l.Places[here[0]].Rev.Whole, s.Cards[here[0]].Plan
		m.Paper, m.Ink = c.PaperFacts().Name, c.InkFacts().Name
		for k := range plan.Mixes {
			x := &plan.Mixes[k]
			m.Paints = append(m.Paints, Paint{c.Called.Mix(x.Parts), string(x.Strength), x.Hex, x.ML, x.Areas})
		}
	}
	for _, r := range s.Log() {
		if slices.Contains(here, r.Card) {
			m.Steps = append(m.Steps, Step{r.Card + 1, r.Title, int(r.Planned), int(r.Took), r.Skipped, r.Added})
		}
	}
	for _, e := range s.Repairs {
		if slices.Contains(here, e.Card) {
			trouble, remedy := run.FixWords(e.Fix)
			m.Repairs = append(m.Repairs, fmt.Sprintf("%s, %s: %s", e.Title, trouble, remedy))
		}
	}
	for _, e := range s.Notes {
		if e.Kind == run.Noted {
			m.Notes = append(m.Notes, wording.Sentence(e.Text))
		}
	}
	m.Turned, m.Went = s.Outcomes()
	return m
}

// ByHand is a making that was entered by hand.
func ByHand(e *store.Entry) Making {
	m := Making{Begun: e.Day, Over: true, Copies: e.Copies, Took: 60 * e.Minutes, Turned: e.Turned, Went: e.Went}
	if e.Notes != "" {
		m.Notes = []string{e.Notes}
	}
	return m
}

// pictured adds the photos of a making, of those of its card; name is the file each is kept
// as beside the log, "" for none.
func (m *Making) pictured(all []store.Photo, of album.Of, name func(*store.Photo) string) {
	for i := range all {
		if p := &all[i]; of.Shows(p) {
			m.Pictures = append(m.Pictures, Photo{name(p), p.Piece, p.Simulated, album.ReadingOf(p)})
		}
	}
}

// All are all makings of a card, the latest first. A run that cannot be opened any more is
// left out.
func All(ctx context.Context, d *desk.Desk, b *bench.Benches, card int64, name func(*store.Photo) string) ([]Making, error) {
	ids, err := d.RunsOf(ctx, card)
	if err != nil {
		return nil, err
	}
	entries, err := d.EntriesOf(ctx, card)
	if err != nil {
		return nil, err
	}
	photos, err := d.PhotosOf(ctx, card)
	if err != nil {
		return nil, err
	}
	out := []Making{}
	for _, id := range ids {
		l, err := b.Log(ctx, id)
		if ctx.Err() != nil {
			return nil, ctx.Err()
		}
		if err != nil {
			continue
		}
		m := OfRun(l, card)
		m.pictured(photos, album.Of{Run: id}, name)
		out = append(out, m)
	}
	for i := range entries {
		m := ByHand(&entries[i])
		m.pictured(photos, album.Of{Entry: entries[i].ID}, name)
		out = append(out, m)
	}
	slices.SortStableFunc(out, func(a, b Making) int { return cmp.Compare(b.Begun, a.Begun) })
	return out, nil
}

// Write writes the log, indented for people.
func (f *File) Write(w io.Writer) error {
	e := json.NewEncoder(w)
	e.SetIndent("", "  ")
	return e.Encode(f)
}
