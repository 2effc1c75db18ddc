package desk

import (
	"cmp"
	"encoding/hex"
	"time"

	"chromaqua/core/advice"
	"chromaqua/core/card"
	"chromaqua/core/panel"
	"chromaqua/core/steps"
	"chromaqua/internal/store"
)

// Laid is a revision with its cells, as far as they have been read.
type Laid struct {
	Rev     *store.Revision
	Reading *Reading     // nil without a line
	Board   *panel.Board // nil until read
	Facts   advice.Facts // what is known of it, with the looks of its areas
	Plan    Compiled     // of it at the bench it is painted at, when there is a board
	Err     error        // why there is no board, when reading failed
	Bench   steps.Bench  // at which it is planned
	key     watchKey
}

// watchKey names all that the watch-outs of a card with its cells depend on: what its
// plan does, and the maker's tests.
type watchKey struct {
	planKey
	tests digest
}

// PieceID is the id of the piece that is laid out.
func (l *Laid) PieceID() string { return cmp.Or(l.Rev.Piece, card.ThePanel) }

// PlanName names in addresses all that the plan of the card depends on.
func (l *Laid) PlanName() string {
	k := digestOf([]any{l.key.card, l.key.revision, l.key.epoch, l.key.bench[:]})
	return hex.EncodeToString(k[:6])
}

// Watches looks a card over, with what it silences.
func (d *Desk) Watches(l *Laid) []advice.Watch {
	if l.Board == nil {
		return advice.All(l.Facts) // there is more to say once its cells are read
	}
	if ws, ok := d.watches.Get(l.key); ok {
		return ws
	}
	ws := advice.All(l.Facts)
	d.watches.Add(l.key, ws)
	return ws
}

// Lay lays a revision out, waiting at most for patience. It is planned at the studio's
// bench, and the maker's tests count for its watch-outs.
func (d *Desk) Lay(rev *store.Revision, at *Studio, patience time.Duration) *Laid {
	l := d.lay(rev, true, patience)
	l.key = watchKey{planKey{KeyOf(rev), at.Key.bench}, at.Key.tests}
	if l.Bench = at.Bench; l.Board != nil {
		l.Plan = d.compile(l.key.planKey, l.Board, at.Bench)
	}
	l.Facts = advice.Gather(rev.Card, l.Board, l.Plan.Plan, at.Tests).OnPiece(l.PieceID())
	return l
}

// LayPicture lays a revision out for its picture alone; the cards that are open go
// before it.
func (d *Desk) LayPicture(rev *store.Revision, patience time.Duration) *Laid {
	l := d.lay(rev, false, patience)
	l.Facts = advice.Gather(rev.Card, l.Board, nil, nil)
	return l
}

func (d *Desk) lay(rev *store.Revision, urgent bool, patience time.Duration) *Laid {
	l := &Laid{Rev: rev}
	if !rev.Card.Begun() {
		return l
	}
	l.Reading = d.readings.of(rev.Card, urgent)
	switch {
	case !l.Reading.Finished(patience):
	case l.Reading.Err != nil:
		l.Err = l.Reading.Err
	default:
		l.Board = panel.Resolve(rev.Card, l.Reading.Sheet)
	}
	return l
}
