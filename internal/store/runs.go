package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"time"

	"chromaqua/core/learned"
	"chromaqua/core/run"
)

// MaxRuns is how many runs at the bench a studio keeps.
const MaxRuns = 5000

// A Run is what was done at the bench: some cards, from begin to end.
type Run struct {
	ID   int64
	Made time.Time
	Over bool
	Doc  []byte // what lay on the bench, and how it was set
}

// ErrFullRun means that no more can be told of a run.
var ErrFullRun = fmt.Errorf("a run holds %d events; end it and begin another", run.MaxEvents)

// BeginRun adds a run with its first event.
func (s *Store) BeginRun(ctx context.Context, doc []byte) (id int64, err error) {
	err = s.tx(ctx, func(tx *sql.Tx) error {
		var n int
		if err := tx.QueryRowContext(ctx, "SELECT COUNT(*) FROM runs").Scan(&n); err != nil {
			return err
		}
		if n >= MaxRuns {
			return fmt.Errorf("the studio keeps %d runs; delete old ones first", MaxRuns)
		}
		res, err := tx.ExecContext(ctx, "INSERT INTO runs (doc, made) VALUES (?, ?)", string(doc), s.now().UnixMilli())
		if err != nil {
			return err
		}
		if id, err = res.LastInsertId(); err != nil {
			return err
		}
		_, err = s.append(ctx, tx, id, run.Event{Kind: run.Began})
		return err
	})
	return id, err
}

const selectRun = "SELECT id, doc, over, made FROM runs"

func scanRun(row scanner) (r Run, err error) {
	var made int64
	err = row.Scan(&r.ID, &r.Doc, &r.Over, &made)
	if errors.Is(err, sql.ErrNoRows) {
		err = ErrNotFound
	}
	r.Made = time.UnixMilli(made)
	return r, err
}

// RunByID returns a run.
func (s *Store) RunByID(ctx context.Context, id int64) (Run, error) {
	return scanRun(s.db().QueryRowContext(ctx, selectRun+" WHERE id = ?", id))
}

// Runs lists the latest runs, those that go on first.
func (s *Store) Runs(ctx context.Context, most int) (out []Run, err error) {
	rows, err := s.db().QueryContext(ctx, selectRun+" ORDER BY over, id DESC LIMIT ?", most)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	for rows.Next() {
		r, err := scanRun(rows)
		if err != nil {
			return nil, err
		}
		out = append(out, r)
	}
	return out, rows.Err()
}

// Going lists the runs of a card that have not ended, the latest first.
func (s *Store) Going(ctx context.Context, card int64) ([]int64, error) {
	return s.runsOf(ctx, card, "over = 0 AND")
}

// RunsOf lists the runs of a card, the latest first.
func (s *Store) RunsOf(ctx context.Context, card int64) ([]int64, error) {
	return s.runsOf(ctx, card, "")
}

func (s *Store) runsOf(ctx context.Context, card int64, where string) (out []int64, err error) {
	rows, err := s.db().QueryContext(ctx, "SELECT id FROM runs WHERE "+where+" EXISTS (SELECT 1 FROM json_each(doc, '$.lots') WHERE json_extract(value, '$.card') = ?) ORDER BY id DESC", card)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	for rows.Next() {
		var id int64
		if err := rows.Scan(&id); err != nil {
			return nil, err
		}
		out = append(out, id)
	}
	return out, rows.Err()
}

// Events returns what has happened in a run after one event, in order.
func (s *Store) Events(ctx context.Context, id, after int64) (out []run.Event, err error) {
	rows, err := s.db().QueryContext(ctx, "SELECT seq, at, once, doc FROM events WHERE run = ? AND seq > ? ORDER BY seq", id, after)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	for rows.Next() {
		var seq, at int64
		var once string
		var doc []byte
		if err := rows.Scan(&seq, &at, &once, &doc); err != nil {
			return nil, err
		}
		var e run.Event
		if err := json.Unmarshal(doc, &e); err != nil {
			return nil, fmt.Errorf("event %d of run %d cannot be read: %w", seq, id, err)
		}
		e.Seq, e.At, e.Once = seq, time.UnixMilli(at), once
		out = append(out, e)
	}
	return out, rows.Err()
}

// Tell appends an event to a run at the time it is now, never before the one before. A
// press that was told already is not told again, and is no error.
func (s *Store) Tell(ctx context.Context, id int64, e run.Event) (told run.Event, err error) {
	err = s.tx(ctx, func(tx *sql.Tx) error {
		told, err = s.append(ctx, tx, id, e)
		return err
	})
	return told, err
}

func (s *Store) append(ctx context.Context, tx *sql.Tx, id int64, e run.Event) (run.Event, error) {
	if err := e.Check(); err != nil {
		return e, err
	}
	if e.Once != "" {
		var n int
		if err := tx.QueryRowContext(ctx, "SELECT COUNT(*) FROM events WHERE run = ? AND once = ?", id, e.Once).Scan(&n); err != nil || n > 0 {
			return e, err
		}
	}
	var last sql.NullInt64
	if err := tx.QueryRowContext(ctx, "SELECT COALESCE(MAX(seq), 0), MAX(at) FROM events WHERE run = ?", id).Scan(&e.Seq, &last); err != nil {
		return e, err
	}
	if e.Seq++; e.Seq > run.MaxEvents {
		return e, ErrFullRun
	}
	at := max(s.now().UnixMilli(), last.Int64)
	e.At = time.UnixMilli(at)
	doc, err := json.Marshal(e)
	if err != nil {
		return e, err
	}
	if _, err := tx.ExecContext(ctx, "INSERT INTO events (run, seq, at, once, doc) VALUES (?, ?, ?, ?, ?)", id, e.Seq, at, e.Once, string(doc)); err != nil {
		return e, err
	}
	switch e.Kind {
	case run.Ended:
		_, err = tx.ExecContext(ctx, "UPDATE runs SET over = 1 WHERE id = ?", id)
	case run.TookBack:
		_, err = tx.ExecContext(ctx, "DELETE FROM seen WHERE run = ? AND seq = ?", id, e.Of)
		if err == nil {
			_, err = tx.ExecContext(ctx, "UPDATE runs SET over = 0 WHERE id = ? AND EXISTS (SELECT 1 FROM events WHERE run = ? AND seq = ? AND doc LIKE '%\"kind\":\"ended\"%')", id, id, e.Of)
		}
	}
	return e, err
}

// KeepSeen keeps what an event has told of drying and pace.
func (s *Store) KeepSeen(ctx context.Context, id, seq int64, what learned.Book) error {
	return s.tx(ctx, func(tx *sql.Tx) error {
		for _, kind := range learned.Kinds {
			for name, list := range what[kind] {
				for _, o := range list {
					if _, err := tx.ExecContext(ctx, "INSERT INTO seen (run, seq, kind, name, lo, hi) VALUES (?, ?, ?, ?, ?, ?)", id, seq, kind, name, bound(o.Lo), bound(o.Hi)); err != nil {
						return err
					}
				}
			}
		}
		return nil
	})
}

func bound(v float64) sql.NullFloat64 { return sql.NullFloat64{Float64: v, Valid: !math.IsInf(v, 0)} }

// Seen is all that was seen of drying and pace, but in one run; 0 for in all.
func (s *Store) Seen(ctx context.Context, but int64) (learned.Book, error) {
	rows, err := s.db().QueryContext(ctx, "SELECT kind, name, lo, hi FROM seen WHERE run <> ? ORDER BY id", but)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	out := learned.Book{}
	for rows.Next() {
		var kind learned.Kind
		var name string
		var lo, hi sql.NullFloat64
		if err := rows.Scan(&kind, &name, &lo, &hi); err != nil {
			return nil, err
		}
		o := learned.Seen{Lo: math.Inf(-1), Hi: math.Inf(1)}
		if lo.Valid {
			o.Lo = lo.Float64
		}
		if hi.Valid {
			o.Hi = hi.Float64
		}
		out.Add(kind, name, o)
	}
	return out, rows.Err()
}

// A SeenMark changes whenever something is seen or forgotten.
type SeenMark struct{ n, last, epoch int64 }

// SeenMark marks what was seen by now.
func (s *Store) SeenMark(ctx context.Context) (m SeenMark, err error) {
	m.epoch = s.epoch.Load()
	err = s.db().QueryRowContext(ctx, "SELECT COUNT(*), COALESCE(MAX(id), 0) FROM seen").Scan(&m.n, &m.last)
	return m, err
}

// Epoch grows when all of the studio is replaced.
func (s *Store) Epoch() int64 { return s.epoch.Load() }

// Unlearn forgets what was seen of one thing, so that it is estimated again.
func (s *Store) Unlearn(ctx context.Context, kind learned.Kind, name string) error {
	_, err := s.db().ExecContext(ctx, "DELETE FROM seen WHERE kind = ? AND name = ?", kind, name)
	return err
}

// A Practised is how well exercises of a task went, the latest last.
type Practised struct {
	Task   string
	Scores []int
}

// keptPractice is how many exercises of a task are shown.
const keptPractice = 20

// Practise keeps the score of an exercise.
func (s *Store) Practise(ctx context.Context, task string, score int) error {
	_, err := s.db().ExecContext(ctx, "INSERT INTO practice (task, score, made) VALUES (?, ?, ?)", task, score, s.now().Unix())
	return err
}

// Practice lists how exercises went, by task, the latest of each.
func (s *Store) Practice(ctx context.Context) (out []Practised, err error) {
	rows, err := s.db().QueryContext(ctx, "SELECT task, score FROM (SELECT id, task, score, row_number() OVER (PARTITION BY task ORDER BY id DESC) AS n FROM practice) WHERE n <= ? ORDER BY task, id", keptPractice)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	for rows.Next() {
		var task string
		var score int
		if err := rows.Scan(&task, &score); err != nil {
			return nil, err
		}
		if n := len(out); n == 0 || out[n-1].Task != task {
			out = append(out, Practised{Task: task})
		}
		out[len(out)-1].Scores = append(out[len(out)-1].Scores, score)
	}
	return out, rows.Err()
}

// CardAt returns a revision of a card that was shown once, whatever has become of it.
func (s *Store) CardAt(ctx context.Context, id, seq int64) (*Revision, error) {
	return s.scanCard(s.db().QueryRowContext(ctx, `
SELECT d.id, d.state, r.seq, r.what, r.made, r.doc, '', ''
FROM documents d JOIN revisions r ON r.document = d.id WHERE d.id = ? AND d.kind = ? AND r.seq = ?`, id, cardKind, seq))
}
