package easel

import (
	"context"
	"fmt"
	"image"
	"slices"

	"chromaqua/core/change"
	"chromaqua/core/lineart"
	"chromaqua/core/panel"
	"chromaqua/core/technique"
	"chromaqua/core/wash"
	"chromaqua/internal/desk"
)

// A Happening is something that happens in the washes of a card that nobody asked for, in
// words, with the change that settles it.
type Happening struct {
	wash.Event
	Cells []int
	Says  string // what, where and when
	Why   string
	Fix   *Fix // nil where none was found to settle it
}

// A Fix is a change after which it was simulated again and did not happen.
type Fix struct {
	Label  string
	Change change.Change
}

// mostFixed bounds for how many happenings a change is looked for: each is simulated again.
const mostFixed = 4

// Happens is what happens in the washes of a card that is laid out.
func (e *Easel) Happens(ctx context.Context, l *desk.Laid) ([]Happening, error) {
	p, err := e.Open(ctx, l)
	if err != nil {
		return nil, err
	}
	if all, ok := e.happened.Get(p.Name); ok {
		return all, nil
	}
	m, err := e.Moment(ctx, p, wash.Dry)
	if err != nil {
		return nil, err
	}
	var out []Happening
	for _, ev := range p.unasked(m.Events()) {
		h := p.worded(ev)
		if len(out) < mostFixed {
			if h.Fix, err = e.settle(ctx, l, p, ev); err != nil {
				return nil, err
			}
		}
		out = append(out, h)
	}
	e.happened.Add(p.Name, out)
	return out, nil
}

// unasked leaves out what is meant: cells that are painted loosely or run together, water and
// salt that are to bloom; and of several places of one kind in a cell all but the first.
func (p *Painting) unasked(all []wash.Event) (out []wash.Event) {
	for _, ev := range all {
		st := p.StepOf(ev.Stroke)
		if ev.Stroke < 0 || st.On == nil {
			continue
		}
		a := &p.Board.Areas[st.On.Area]
		if ev.Kind == wash.Bleed && p.runTogether(ev.Cell, ev.Into) {
			continue
		}
		if n := max(0, st.On.Wash); ev.Kind == wash.Bloom && (a.Washes[n].Technique.Facts().Trace == technique.Drops || a.Washes[n].Technique == technique.Blot) {
			continue
		}
		if !slices.ContainsFunc(out, func(o wash.Event) bool {
			return o.Kind == ev.Kind && (o.Cell == ev.Cell || o.Cell == ev.Into && o.Into == ev.Cell)
		}) {
			out = append(out, ev)
		}
	}
	return out
}

// runTogether reports whether two cells are meant to run into each other.
func (p *Painting) runTogether(x, y uint16) bool {
	b := p.Board
	i, one := b.AreaOf(int(x))
	j, two := b.AreaOf(int(y))
	if !one || !two {
		return true // nothing of the maker's is hurt
	}
	if i == j {
		return b.Areas[i].Loose || b.Areas[i].Run
	}
	return b.Card.Joined(b.Areas[i].ID, b.Areas[j].ID)
}

// worded says what happens.
func (p *Painting) worded(ev wash.Event) Happening {
	h := Happening{Event: ev, Cells: []int{int(ev.Cell)}}
	where, minute := p.Board.Called(int(ev.Cell)), int(ev.At/60+0.5)
	switch ev.Kind {
	case wash.Bloom:
		h.Says = fmt.Sprintf("A bloom in %s, from minute %d on.", where, minute)
		h.Why = "Water comes into what is damp by then, runs back and leaves a dark, crinkled rim."
	case wash.Lap:
		h.Says = fmt.Sprintf("%s dries before it is closed, at minute %d: a line stays where its edge was.", where, minute)
		h.Why = fmt.Sprintf("Where the stroke comes back only %.0f g/m² of water is left; it lies on its own edge instead of joining it.", ev.Much)
	case wash.Bleed:
		h.Says = fmt.Sprintf("%s runs into %s across the line, at minute %d.", where, p.Board.Called(int(ev.Into)), minute)
		h.Why = fmt.Sprintf("Both stand under a film of water there, and the line is flat: about %.0f %% of what lies in the one comes from the other.", 100*ev.Much)
		h.Cells = append(h.Cells, int(ev.Into))
	case wash.Blotch:
		h.Says = fmt.Sprintf("%s turns out blotchy.", where)
		h.Why = fmt.Sprintf("This paper drinks unevenly: the wash varies by %.0f %% from place to place.", 100*ev.Much)
	case wash.TooLate:
		h.Says = fmt.Sprintf("What is dropped into %s at minute %d comes too late: it keeps an edge.", where, minute)
		h.Why = fmt.Sprintf("Only %.0f g/m² of water is left there; it is no longer wet enough to take it in.", ev.Much)
	}
	return h
}

// candidates are changes that may settle something, the gentlest first.
func (p *Painting) candidates(ev wash.Event) (out []Fix) {
	st := p.StepOf(ev.Stroke)
	area, n := p.Board.Areas[st.On.Area].ID, max(0, st.On.Wash)
	switch ev.Kind {
	case wash.Bloom, wash.TooLate:
		if st.On.Wash > 0 && len(st.IntoWet) > 0 {
			out = append(out, Fix{"Wait until it is dry", change.Over{Area: area, Wash: n, Over: change.OverDry}})
		}
		out = append(out, Fix{"Lay it as a glaze", change.LayAs{Area: area, Wash: n, Technique: technique.Glaze}})
	case wash.Lap:
		out = append(out, Fix{"Wet it with clean water first", change.LayAs{Area: area, Wash: n, Technique: technique.WetOnWet}})
	case wash.Blotch:
		out = append(out, Fix{"Wet it with clean water first", change.LayAs{Area: area, Wash: n, Technique: technique.WetOnWet}}, Fix{"As a glaze, thin and even", change.LayAs{Area: area, Wash: n, Technique: technique.Glaze}})
	case wash.Bleed:
		out = append(out, Fix{"In rounds, none beside a wet one", change.Meet{Area: area, Meet: change.InRounds}}, Fix{"Lay it as a glaze", change.LayAs{Area: area, Wash: n, Technique: technique.Glaze}})
	}
	return out
}

// settle looks for a change after which it does not happen, and nothing else of the kind does.
func (e *Easel) settle(ctx context.Context, l *desk.Laid, p *Painting, ev wash.Event) (*Fix, error) {
	for _, f := range p.candidates(ev) {
		c, err := l.Rev.Card.Clone()
		if err != nil {
			return nil, err
		}
		if _, err := change.Make(f.Change, c, func() (*panel.Board, error) { return e.desk.Board(ctx, c) }); err != nil || c.Check() != nil {
			continue
		}
		q, err := e.Draft(ctx, c, l.Bench)
		if err != nil {
			continue
		}
		m, err := e.Moment(ctx, q, wash.Dry)
		if err != nil {
			return nil, err
		}
		count := 0
		for _, o := range q.unasked(m.Events()) {
			if o.Cell == ev.Cell || o.Into == ev.Cell {
				count++
			}
		}
		if count == 0 {
			return &f, nil
		}
	}
	return nil, nil
}

// Touching is something that touches a piece while it is painted.
type Touching string

// What touches.
const (
	CleanDrop  Touching = "drop"
	DampBrush  Touching = "brush"
	LoadedDrop Touching = "paint"
	Finger     Touching = "finger"
)

// Words names it.
func (t Touching) Words() string {
	return map[Touching]string{CleanDrop: "a drop of clean water", DampBrush: "a clean, damp brush", LoadedDrop: "a drop of its own paint", Finger: "a finger"}[t]
}

// Touchings lists them.
func Touchings() []Touching { return []Touching{CleanDrop, DampBrush, LoadedDrop, Finger} }

// touchID is the number of the stroke of a touch: no step has it.
const touchID = 1 << 30

// A Touched is what comes of touching a cell at a moment.
type Touched struct {
	Water   float64 // g/m² there, then
	Stage   string
	Says    string
	Picture image.Image // what lies round it, once all is dry
}

// Touch touches the middle of a cell, and lets all run on until it is dry.
func (e *Easel) Touch(ctx context.Context, p *Painting, cell int, at float64, with Touching) (*Touched, error) {
	if cell < 1 || cell > len(p.Board.Cells) {
		return nil, desk.Refuse(fmt.Errorf("there is no cell %d on this piece", cell))
	}
	name := fmt.Sprintf("%s/%d/%g/%s", p.Name, cell, at, with)
	if t, ok := e.touched.Get(name); ok && p.Name != "" {
		return t, nil
	}
	then, err := e.Moment(ctx, p, at)
	if err != nil {
		return nil, err
	}
	c := &p.Board.Cells[cell-1]
	out := &Touched{Water: then.Water(c.Label.X, c.Label.Y)}
	out.Stage = p.Board.Card.PaperFacts().Surface.Stage(gsm(out.Water)).String()
	before, err := e.around(ctx, p, c.Label)
	if err != nil {
		return nil, err
	}
	after, err := e.around(ctx, p.touched(c, at, with, out.Water), c.Label)
	if err != nil {
		return nil, err
	}
	darker, paler := differ(before, after)
	out.Says, out.Picture = outcome(darker, paler, with, out.Water), after
	if p.Name != "" {
		e.touched.Add(name, out)
	}
	return out, nil
}

// touched is a painting with a stroke more: of what touches a cell on which so much water stands,
// g/m².
func (p *Painting) touched(c *lineart.Cell, at float64, with Touching, water float64) *Painting {
	s := wash.Stroke{ID: touchID, Start: at, Dur: 1, Cells: []uint16{uint16(c.ID)}, Dropped: true, Band: 3}
	s.Mark = wash.Mark{Kind: wash.Falling, At: []wash.Disc{{X: c.Label.X, Y: c.Label.Y, R: min(2.2, 0.6*c.InscribedMM)}}}
	switch with {
	case DampBrush:
		s.Laid, s.Left, s.Take = 25, 25, &wash.Take{Share: 0.25, Staining: 0.1}
	case LoadedDrop:
		s.Laid, s.Left, s.Load, s.Mix = 30, 30, 1, p.lastMix(uint16(c.ID), at)
	case Finger:
		if water >= touchDry {
			s.Take = &wash.Take{Share: 0.6, Staining: 0.1}
		}
	default:
		s.Laid, s.Left = 90, 90
	}
	q := *p.Painting
	own := *q.Painting
	own.Strokes = append(slices.Clone(own.Strokes), s)
	q.Painting = &own
	return &Painting{&q, p.Board, "", p.line}
}

// lastMix is what was laid last on a cell by a time.
func (p *Painting) lastMix(cell uint16, at float64) (mix []wash.Portion) {
	last := -1.0
	for i := range p.Strokes {
		if s := &p.Strokes[i]; s.Start <= at && s.Start > last && len(s.Mix) > 0 && slices.Contains(s.Cells, cell) {
			last, mix = s.Start, s.Mix
		}
	}
	return mix
}
