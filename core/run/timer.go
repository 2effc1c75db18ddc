package run

import (
	"fmt"
	"slices"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/drying"
	"chromaqua/core/learned"
	"chromaqua/core/order"
	"chromaqua/core/panel"
	"chromaqua/core/shelf"
	"chromaqua/core/steps"
	"chromaqua/core/technique"
)

// A Timer is a wash on the clock, without a card.
type Timer struct {
	Technique technique.Kind  `json:"technique"`
	Paper     string          `json:"paper"` // of the shelf, by id
	Size      Size            `json:"size"`
	Room      drying.Room     `json:"room"`
	Learned   learned.Factors `json:"learned,omitempty"` // when it was begun
}

// A Size is how large a wash is, in words.
type Size string

// Sizes of a wash, with their areas, mm².
var Sizes = []struct {
	Size
	MM2 float64
}{{"spot", 9}, {"petal", 100}, {"hand-sized", 7500}, {"panel", 12000}}

func (s Size) mm2() (float64, bool) {
	for _, o := range Sizes {
		if o.Size == s {
			return o.MM2, true
		}
	}
	return 0, false
}

// TimerTechniques are the ways of laying a wash that can be put on the clock.
func TimerTechniques() (out []technique.Kind) {
	for _, t := range technique.Kinds() {
		if t.Covers() && t.Laid() > 0 && t.Facts().Lies == technique.AsWash {
			out = append(out, t)
		}
	}
	return out
}

// Check reports a timer that cannot run.
func (t *Timer) Check() error {
	if _, ok := t.Size.mm2(); !ok {
		return fmt.Errorf("%.20q is no size of a wash; choose one of those offered", t.Size)
	}
	if _, err := shelf.PaperByID(t.Paper); err != nil {
		return err
	}
	if !slices.Contains(TimerTechniques(), t.Technique) {
		return fmt.Errorf("%.20q leaves no water to dry", t.Technique)
	}
	return t.Room.Check()
}

// Name is what it is called: "flat, cotton cold press, hand-sized".
func (t *Timer) Name() string {
	p, err := shelf.PaperByID(t.Paper)
	if err != nil {
		return t.Technique.Name()
	}
	return fmt.Sprintf("%s, %s, %s", t.Technique.Name(), p.Name, t.Size)
}

// timerStep is the key of the one step of a timer.
const timerStep = "wash"

// NewTimer is the work of a timer: one wash, which is told as done when it is laid.
func NewTimer(t *Timer) (*Work, error) {
	if err := t.Check(); err != nil {
		return nil, err
	}
	paper, err := shelf.PaperByID(t.Paper)
	if err != nil {
		return nil, err
	}
	mm2, _ := t.Size.mm2()
	air := t.Learned.Of(learned.Air, paper.Name)
	on, laid := paper.Surface.Calibrated(air.By), t.Technique.Laid()
	left := t.Technique.Left()
	until := func(s drying.Stage, load drying.GramsPerSquareMetre) time.Duration {
		return on.Until(s, load, mm2, t.Room)
	}
	s := steps.Step{
		Kind: steps.Paint, Title: t.Name(), Water: left, Dur: time.Second,
		Gloss: until(drying.Sheen, laid), Open: until(drying.Damp, laid), Dry: until(drying.TouchDry, left), Bone: until(drying.BoneDry, left),
	}
	in := &order.Instance{Copies: 1, Regions: []order.Region{}, Ops: []order.Op{{
		Kind: order.Kind(steps.Paint), Regions: []int{}, Dur: 1, Dry: order.Ceil(s.Dry), Bone: order.Ceil(s.Bone), Attended: true,
	}}}
	p := &steps.Plan{Instance: in, Steps: []steps.Step{s}, Pieces: []panel.Piece{{ID: card.ThePanel, Name: card.ThePanel, Many: 1}}}
	w, err := NewWork([]Card{{Name: t.Name(), Plan: p}}, 0)
	if err != nil {
		return nil, err
	}
	o := &w.Ops[0]
	o.Key, o.paper, o.air, o.room, o.largest, o.pulp = timerStep, paper.Name, air, t.Room, mm2, paper.Surface == drying.Pulp
	w.byKey = map[key]int{{0, timerStep}: 0}
	return w, nil
}

// LaidNow is the event with which the wash of a timer begins to dry.
func LaidNow() Event { return Event{Kind: Done, Step: timerStep} }

// TimerStage is how wet the wash of a timer is; not ok before it is laid.
func (s *State) TimerStage() (stage drying.Stage, next Goal, left order.Seconds, ok bool) {
	c := s.coats[0]
	if c == nil {
		return 0, "", 0, false
	}
	stage = s.stage(c)
	for g, goal := range [goals]Goal{Dull, Touch, Bone} {
		l, met := s.left(c, g)
		switch {
		case l > 0:
			return stage, goal, l, true
		case met != Surely:
			next = goal // the driest that is likely, and was not seen
		}
	}
	return stage, next, 0, true
}
