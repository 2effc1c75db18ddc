package advice

import (
	"errors"
	"fmt"
	"slices"

	"chromaqua/core/change"
	"chromaqua/core/panel"
	"chromaqua/core/steps"
)

// offer gives each watch-out the first of its ways that settles it: tried on a copy,
// it has to be gone, nothing may be new, and less may be left to say than before.
func (f Facts) offer(found []Watch) {
	before := tallyOf(found)
	tried := map[string]*tally{} // by the change
	for i := range found {
		w := &found[i]
		if w.Fix != nil {
			continue // what moves an image cannot be tried without reading the line anew; its rule answers for it
		}
		for _, way := range w.ways {
			key := fmt.Sprint(change.NameOf(way.Change), change.Values(way.Change))
			after, known := tried[key]
			if !known {
				after = f.after(way.Change)
				tried[key] = after
			}
			if after != nil && w.settled(way, &before, after) {
				w.Fix = &way
				break
			}
		}
	}
}

// after is what is found once a change is made, on a copy; nil where it cannot be made.
func (f Facts) after(c change.Change) *tally {
	var sheet *panel.Sheet
	if f.Board != nil {
		sheet = f.Board.Sheet
	}
	made, _, err := change.Try(c, f.Card, sheet)
	if err != nil {
		return nil
	}
	var board *panel.Board
	var plan *steps.Plan
	if sheet != nil {
		board = panel.Resolve(made, sheet)
	}
	if f.Plan != nil {
		if plan, err = steps.Compile(board, f.Plan.Bench); err != nil && !errors.Is(err, steps.ErrNothingToPaint) {
			return nil
		}
	}
	t := tallyOf(Gather(made, board, plan, f.Tests).found())
	return &t
}

// tally counts watch-outs.
type tally struct {
	all    []Watch
	weight int
	count  map[string]int // by rule
}

func tallyOf(found []Watch) tally {
	t := tally{all: found, count: map[string]int{}}
	for _, w := range found {
		t.weight += w.Severity.weight()
		t.count[w.Rule]++
	}
	return t
}

// settled reports whether w is gone once a way has been gone, and nothing worse has come.
// An area whose depth it changes must be rid of the rule for good, so that no area is
// changed twice for the same reason.
func (w *Watch) settled(by Fix, before, after *tally) bool {
	if after.count[w.Rule] >= before.count[w.Rule] || after.weight >= before.weight || len(after.all) >= len(before.all) {
		return false
	}
	for rule, n := range after.count {
		if n > before.count[rule] {
			return false // it says something new
		}
	}
	return by.deepens == "" || !slices.ContainsFunc(after.all, func(o Watch) bool {
		return o.Rule == w.Rule && slices.Contains(o.areas, by.deepens)
	})
}
