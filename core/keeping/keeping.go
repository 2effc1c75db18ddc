package keeping

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"slices"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/drying"
	"chromaqua/core/mask"
	"chromaqua/core/order"
	"chromaqua/core/order/solver"
	"chromaqua/core/panel"
	"chromaqua/core/pigment"
	"chromaqua/core/reserve"
	"chromaqua/core/shelf"
	"chromaqua/core/steps"
	"chromaqua/core/technique"
)

// A Kept is one thing that is kept, and the ways of keeping it, the best first.
type Kept struct {
	*panel.Reserve
	Choices []Choice
	Either  int // so many of the first are as good as each other
}

// A Choice is one way with the whole work as it is then.
type Choice struct {
	reserve.Option
	Total order.Seconds // of the order as solved; 0 where it could not be planned
	Costs time.Duration // of that, more than with the way that is chosen; less below 0
	Now   bool          // it is so kept
}

// Best is the way that is recommended.
func (k *Kept) Best() mask.Way { return k.Choices[0].Way }

// tries bounds the search for each order that is compared.
const tries = 40

// A Desk is what a card is weighed with.
type Desk struct {
	Pieces []panel.Piece
	Card   *card.Card
	Bench  steps.Bench
}

// Weigh compares the ways of keeping each thing that is kept on a piece.
func (d *Desk) Weigh(ctx context.Context, piece int) ([]Kept, error) {
	b := d.Pieces[piece].Board
	var out []Kept
	if b == nil {
		return nil, nil
	}
	now, nowErr := d.solved(ctx, b, piece)
	for i := range b.Reserves {
		r := &b.Reserves[i]
		k := Kept{Reserve: r}
		c := d.caseOf(b, r)
		for _, o := range reserve.Compare(c) {
			ch := Choice{Option: o, Now: r.Way.Or() == o.Way}
			if o.Barred == "" && len(r.Grounds) > 0 && nowErr == nil {
				if err := d.plan(ctx, &ch, b, r, piece); err != nil {
					return nil, err
				}
				ch.Costs = (ch.Total - now.Makespan).Duration()
			}
			k.Choices = append(k.Choices, ch)
		}
		k.rank(&c)
		out = append(out, k)
	}
	return out, nil
}

// plan puts the card in order with something kept in one way.
func (d *Desk) plan(ctx context.Context, ch *Choice, b *panel.Board, r *panel.Reserve, piece int) error {
	made, _, err := change.Try(change.KeepBy{Ways: r.ID + "=" + string(ch.Way)}, b.Card, b.Sheet)
	if err != nil {
		ch.Barred = err.Error()
		return nil
	}
	then := panel.Resolve(made, b.Sheet)
	s, err := d.solved(ctx, then, piece)
	switch {
	case ctx.Err() != nil:
		return ctx.Err()
	case err != nil:
		ch.Barred = "it cannot be planned: " + err.Error()
		return nil
	}
	ch.Total, ch.HandsOn = s.Makespan, s.hands.Duration()
	ch.Waiting = (s.Makespan - s.hands).Duration()
	return nil
}

type solved struct {
	*order.Schedule
	hands order.Seconds
}

// solved is the order of the card with a piece as it is on a board.
func (d *Desk) solved(ctx context.Context, b *panel.Board, piece int) (solved, error) {
	pieces := slices.Clone(d.Pieces)
	pieces[piece].Board = b
	of := d.Card
	if piece == 0 {
		of = b.Card
	}
	p, err := steps.CompileAll(pieces, of, d.Bench)
	if err != nil {
		return solved{}, err
	}
	s, err := solver.Solve(ctx, p.Instance, solver.Budget{Iterations: tries, Seed: 1})
	if err != nil {
		return solved{}, err
	}
	return solved{s, s.HandsOn(p.Instance)}, nil
}

// rank puts the best first, by the minutes of the orders. Of ways that are as safe as the
// best, one whose card is done sooner comes before it.
func (k *Kept) rank(c *reserve.Case) {
	least, wait := time.Duration(math.MaxInt64), time.Duration(math.MaxInt64)
	for _, ch := range k.Choices {
		if ch.Total > 0 {
			least, wait = min(least, ch.HandsOn), min(wait, ch.Waiting)
		}
	}
	for i := range k.Choices {
		if ch := &k.Choices[i]; ch.Total > 0 { // only what differs counts
			ch.HandsOn, ch.Waiting = ch.HandsOn-least, ch.Waiting-wait
		}
		k.Choices[i].Weigh()
	}
	slices.SortStableFunc(k.Choices, func(x, y Choice) int { return cmp.Compare(x.Score, y.Score) })
	options := func() (out []reserve.Option) {
		for _, ch := range k.Choices {
			out = append(out, ch.Option)
		}
		return out
	}
	first := reserve.First(c, options())
	for i, ch := range k.Choices {
		best := &k.Choices[first]
		if ch.Barred == "" && ch.Total > 0 && math.Abs(ch.Risk-best.Risk) <= asSafe && float64(ch.Total) < soonerShare*float64(best.Total) && !(c.Pulp && ch.Way.Facts().Soft) {
			first = i
		}
	}
	chosen := k.Choices[first]
	copy(k.Choices[1:first+1], k.Choices[:first])
	k.Choices[0] = chosen
	k.Either = reserve.Either(options())
}

// Ways are as safe as each other within this, and one is sooner by so much.
const (
	asSafe      = 0.01
	soonerShare = 0.99
)

// caseOf is what is kept as a case.
func (d *Desk) caseOf(b *panel.Board, r *panel.Reserve) reserve.Case {
	size := b.Card.PanelSize()
	w, h := size.W.MM(), size.H.MM()
	c := reserve.Case{Shape: b.Shape(r), Unit: b.Card.Unit, Front: min(w, h), Along: max(w, h), Pace: d.Bench.Pace, Lifts: -1, GroundMM2: w * h, Keeps: r.Under != ""}
	paper := b.Card.PaperFacts()
	c.Pulp, c.Rough = paper.Surface == drying.Pulp, paper.Texture == shelf.Rough
	c.Fill = steps.BrushFor(min(w, h)/2, d.Bench.Brushes).Belly
	kind := technique.Flat
	ground := -1
	for _, g := range r.Grounds {
		if ground < 0 || b.Areas[g].MM2 > b.Areas[ground].MM2 {
			ground = g
		}
	}
	if ground >= 0 {
		a := &b.Areas[ground]
		c.GroundMM2 = max(a.MM2, 1)
		kind = a.Washes[0].Technique
		c.Dry = !slices.ContainsFunc(a.Washes, func(w card.Wash) bool { return w.Technique.Covers() && w.Technique.Laid() >= drying.DampBrush })
		c.Shift = shift(b, r, ground)
		if n, ok := b.WhiteCoats(r); ok && ownOf(b, r) == nil { // over its own colours white would hide them
			c.White = n
		}
	}
	room := b.Card.Room
	surface := d.Bench.Surface(paper)
	c.Open = surface.Until(drying.Damp, kind.Laid(), c.GroundMM2, room)
	if b.Card.Drying == card.Heat || b.Card.Drying == card.Mixed && c.GroundMM2 <= 100*d.Bench.HeatCM2 {
		c.Unheated = max(0, surface.Until(drying.BoneDry, kind.Left(), c.GroundMM2, room)-5*time.Minute)
	}
	c.Stamp, c.Stencilled = len(r.Cells) > 0, len(r.Cells) > 0
	for _, s := range r.Cells {
		m, err := b.Card.ImageByID(s.On)
		c.Stamp = c.Stamp && err == nil && (m.Is(shelf.SolidImage) || m.Is(shelf.ResistImage))
		c.Stencilled = c.Stencilled && err == nil && m.Is(shelf.Stencil)
	}
	c.Chance = len(r.Zones) > 0
	for _, id := range r.Zones {
		z, err := b.Card.ZoneByID(id)
		c.Chance = c.Chance && err == nil && z.Shape == card.DotsAt
		c.Taped = c.Taped || err == nil && z.Shape == card.Rim
	}
	if share, n := d.tore(b.Card); n > 0 {
		c.Lifts = share
	}
	return c
}

// ownOf are the washes of what is kept, nil where it stays paper.
func ownOf(b *panel.Board, r *panel.Reserve) []card.Wash {
	for i := range b.Areas {
		if a := &b.Areas[i]; !slices.Contains(r.Grounds, i) && b.Overlap(a.Cells, r.Parts) {
			return a.Washes
		}
	}
	return nil
}

// shift is how far a wash below what is kept shifts what comes on it, ΔE00.
func shift(b *panel.Board, r *panel.Reserve, ground int) float64 {
	palette := panel.PaletteOf(b.Card)
	seen := func(below []card.Wash) pigment.Lab {
		all := slices.Clone(below)
		for _, w := range ownOf(b, r) {
			w.OverDry = len(all) > 0 && w.Technique.Tool() == technique.PaintedBrush && w.Technique.IntoWet()
			all = append(all, w)
		}
		s := palette.Dry(all)
		return s.Lab()
	}
	return pigment.Difference(seen(nil), seen(b.Areas[ground].Washes))
}

// tore is in which share of the maker's own tests fluid tore this paper, of so many.
func (d *Desk) tore(c *card.Card) (share float64, n int) {
	_, own := c.OwnNames()
	torn := 0
	for i := range d.Bench.Masks {
		t, clean := d.Bench.Masks[i].TriedOn(c.Paper, own)
		torn, n = torn+t, n+t+clean
	}
	if n == 0 {
		return 0, 0
	}
	return float64(torn) / float64(n), n
}

// Decide says how everything that is kept on a piece is kept best, as one change; "" where
// it is so already.
func Decide(all []Kept) (c change.KeepBy, n int) {
	for _, k := range all {
		if best := k.Best(); best != k.Way.Or() && k.Choices[0].Barred == "" && len(k.Grounds) > 0 {
			if n++; n > 1 {
				c.Ways += ","
			}
			c.Ways += fmt.Sprintf("%s=%s", k.ID, best)
		}
	}
	return c, n
}
