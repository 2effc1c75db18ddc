// Package run answers "where does the work stand, and what do I do now?" from what is
// planned and what has happened: plan and events give a state. Nothing of the state is
// kept; it is worked out again from the events whenever it is asked for.
package run

import (
	"errors"
	"fmt"
	"time"
	"unicode/utf8"

	"chromaqua/core/drying"
)

// Kind is what happened.
type Kind string

// The kinds of events.
const (
	Began    Kind = "began"
	Started  Kind = "started"
	Done     Kind = "done"
	DryNow   Kind = "dry now"
	StillWet Kind = "still wet"
	Heated   Kind = "heated" // until it looked dry enough
	Skipped  Kind = "skipped"
	Repaired Kind = "repaired"
	Paused   Kind = "paused"
	Resumed  Kind = "resumed"
	RoomRead Kind = "room"
	Noted    Kind = "note"
	Pictured Kind = "photo"
	Turned   Kind = "turned out" // how
	Went     Kind = "went"       // kept, or given to whom, in free words
	Spoiled  Kind = "spoiled"    // a card drops out
	Follows  Kind = "follows"    // the run goes on by a changed plan
	TookBack Kind = "took back"
	Ended    Kind = "ended"
)

// Goal is what was looked for on a coat.
type Goal string

// The goals.
const (
	Dull  Goal = "dull" // its sheen is lost
	Touch Goal = "touch-dry"
	Bone  Goal = "bone dry"
)

// Limits of events.
const (
	MaxEvents = 20_000
	MaxText   = 2000 // letters of a note
)

// An Event is one thing that happened, in the order of Seq. It names a step by the card
// on the bench and the step's key, which holds in any plan that has that step.
type Event struct {
	Seq   int64        `json:"seq"`
	At    time.Time    `json:"at"`
	Kind  Kind         `json:"kind"`
	Card  int          `json:"card,omitempty"`
	Step  string       `json:"step,omitempty"`
	Goal  Goal         `json:"goal,omitempty"`
	Long  float64      `json:"long_s,omitempty"` // of heating, s
	Fix   string       `json:"fix,omitempty"`    // trouble and remedy
	Text  string       `json:"text,omitempty"`
	Room  *drying.Room `json:"room,omitempty"`
	Of    int64        `json:"of,omitempty"`    // the event that is taken back; the revision that is followed
	Title string       `json:"title,omitempty"` // of the step, as it was called then
	Once  string       `json:"once,omitempty"`  // names the press, so that it counts once however often it arrives
}

var named = map[Kind]bool{
	Started: true, Done: true, DryNow: true, StillWet: true, Heated: true, Skipped: true, Repaired: true,
}

// Check reports an event that cannot be.
func (e *Event) Check() error {
	switch {
	case named[e.Kind] && e.Step == "":
		return fmt.Errorf("%q says of which step", e.Kind)
	case e.Card < 0 || e.Card >= MaxCards:
		return fmt.Errorf("card %d is on no bench", e.Card+1)
	case utf8.RuneCountInString(e.Text) > MaxText:
		return fmt.Errorf("a note has at most %d letters", MaxText)
	case len(e.Once) > 64 || len(e.Step) > 300 || len(e.Fix) > 80 || len(e.Title) > 400:
		return errors.New("that is too long to be told")
	case !(e.Long >= 0 && e.Long <= 3600):
		return errors.New("heating takes at most an hour")
	}
	switch e.Kind {
	case DryNow, StillWet, Heated:
		if e.Goal != Dull && e.Goal != Touch && e.Goal != Bone {
			return fmt.Errorf("%.20q is nothing to look for; use dull, touch-dry or bone dry", e.Goal)
		}
	case RoomRead:
		if e.Room == nil {
			return errors.New("a reading of the room has a temperature and a humidity")
		}
		return e.Room.Check()
	case Began, Started, Done, Skipped, Paused, Resumed, Noted, Pictured, Turned, Went, Spoiled, Follows, TookBack, Ended:
	case Repaired:
		if _, _, ok := fixOf(e.Fix); !ok {
			return fmt.Errorf("%.40q is no remedy that is known", e.Fix)
		}
	default:
		return fmt.Errorf("%.20q is nothing that happens at a bench", e.Kind)
	}
	return nil
}

// standing are the events that were not taken back, in order. Times never go back: where
// a clock was set back, what came later counts as at the same moment.
func standing(events []Event) []Event {
	gone := map[int64]bool{}
	for _, e := range events {
		if e.Kind == TookBack {
			gone[e.Of] = true
		}
	}
	out := make([]Event, 0, len(events))
	var last time.Time
	for _, e := range events {
		if e.At.Before(last) {
			e.At = last
		}
		last = e.At
		if e.Kind != TookBack && !gone[e.Seq] {
			out = append(out, e)
		}
	}
	return out
}

// LastToTakeBack is the event that taking back would take back, nil for none.
func LastToTakeBack(events []Event) *Event {
	list := standing(events)
	for i := len(list) - 1; i >= 0; i-- {
		switch e := list[i]; e.Kind {
		case Began, RoomRead, Follows:
			continue
		default:
			return &e
		}
	}
	return nil
}
