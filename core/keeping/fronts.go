// Package keeping answers, for a card as it is: what is the best way to keep this white, and
// can that wash be laid before its edge dries? It looks at the panel, compiles the card in
// each way and puts it in order, so that the minutes are those of the whole work.
package keeping

import (
	"cmp"
	"fmt"
	"slices"
	"time"

	"chromaqua/core/cover"
	"chromaqua/core/drying"
	"chromaqua/core/panel"
	"chromaqua/core/shelf"
	"chromaqua/core/steps"
	"chromaqua/core/technique"
)

// Closes is from which part of the open time on an edge is watched, and Stops from which it
// hardly can be met.
const (
	Closes = 0.6
	Stops  = 1.0
	safe   = 0.45
)

// leastMM2 is the smallest wash whose edge is looked at: a brush reaches over less.
const leastMM2 = 900.0

// A Front is a wash that is larger than a brush reaches, and how long its edge stays open
// against how long it has to wait.
type Front struct {
	Area, Wash int
	Parts      []int // of the go
	Open       time.Duration
	Region     *cover.Region
	Sweep      cover.Sweep
	Rho        float64
	Fill       shelf.Brush
	on         drying.Surface
}

// Chance is the chance that its edge is seen to have dried.
func (f *Front) Chance() float64 { return cover.Likely(f.Rho) }

// Fronts are the large washes of a piece of a plan, each as it is laid in one go.
func Fronts(p *steps.Plan, piece int) []Front {
	return fronts(p, piece, func(takes, open time.Duration) bool { return true })
}

// fronts are those of which some test holds of how long they take and stay open.
func fronts(p *steps.Plan, piece int, look func(takes, open time.Duration) bool) (out []Front) {
	if piece >= len(p.Pieces) {
		return nil
	}
	b := p.Pieces[piece].Board
	if b == nil {
		return nil
	}
	for i := range p.Steps {
		s := &p.Steps[i]
		if s.Piece != piece || s.Item > 0 || s.On == nil || s.On.Wash < 0 || s.Kind != steps.Paint || len(s.IntoWet) > 0 {
			continue
		}
		w := &b.Areas[s.On.Area].Washes[s.On.Wash]
		if !w.Technique.Covers() || w.Technique.Laid() < drying.Glaze {
			continue
		}
		mm2, all := 0.0, 0.0
		for _, id := range s.Cells {
			one := b.Part(id).AreaMM2
			mm2, all = max(mm2, one), all+one
		}
		together := s.Together == steps.Loosely || s.Together == steps.Zoned
		takes := s.Dur
		if !together && all > 0 {
			takes = time.Duration(mm2 / all * float64(takes))
		}
		open := p.Bench.Surface(b.Card.PaperFacts()).Until(drying.Damp, w.Technique.Laid(), mm2, b.Card.Room)
		if (mm2 >= leastMM2 || together && b.Areas[s.On.Area].MM2 >= leastMM2) && look(takes, open) {
			out = append(out, front(b, p.Bench, s, open))
		}
	}
	return out
}

// front looks at one go of a large wash, at its largest connected part.
func front(b *panel.Board, bench steps.Bench, s *steps.Step, open time.Duration) Front {
	w := &b.Areas[s.On.Area].Washes[s.On.Wash]
	parts := s.Cells
	if s.Together == steps.OnItsOwn {
		parts = []int{slices.MaxFunc(s.Cells, func(x, y int) int { return cmp.Compare(b.Part(x).AreaMM2, b.Part(y).AreaMM2) })}
	}
	cutIn, fill := steps.BrushesFor(b, parts, bench.Brushes)
	f := Front{Area: s.On.Area, Wash: s.On.Wash, Parts: parts, Fill: fill, Open: open, on: bench.Surface(b.Card.PaperFacts())}
	h := handOf(cutIn, fill, bench.Pace, w.Technique)
	f.look(b, h)
	return f
}

func handOf(cutIn, fill shelf.Brush, pace float64, t technique.Kind) cover.Hand {
	return cover.Hand{Fill: cover.Brush{Belly: fill.Belly, CapacityML: fill.CapacityML}, CutIn: cover.Brush{Belly: cutIn.Belly, CapacityML: cutIn.CapacityML}, Pace: pace, Water: float64(t.Laid())}
}

// look finds the sweep; what was found of the same place and hand before is not looked for
// again.
func (f *Front) look(b *panel.Board, h cover.Hand) {
	at, key := b.Spread(f.Area, f.Wash, f.Parts, cover.GridMM)
	f.Region = &cover.Region{W: at.W, H: at.H, In: at.In, Masked: at.Masked}
	enough := time.Duration(safe / 1.15 * float64(f.Open))
	f.Sweep = b.Sheet.Remember(fmt.Sprint("sweep", h, enough, key), func() any { return cover.Find(f.Region, h, enough) }).(cover.Sweep)
	f.Rho = cover.WaitOf(f.Sweep.Wait, f.Open)
}

// Closing are the fronts of a piece whose edge may close. What is laid so quickly that no way
// of going about it would let it is not looked at.
func Closing(p *steps.Plan, piece int) (out []Front) {
	const mostly = 0.4 // of its whole time a place may wait
	for _, f := range fronts(p, piece, func(takes, open time.Duration) bool {
		return cover.WaitOf(time.Duration(mostly*float64(takes)), open) > Closes
	}) {
		if f.Rho > Closes {
			out = append(out, f)
		}
	}
	return out
}
