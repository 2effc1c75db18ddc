// Package desk answers "what follows from the cards in the studio?": panels read into
// cells, plans, orders and cut plans. What is computed is kept as long as all that it
// depends on stays as it is; its keys are typed values of just that.
package desk

import (
	"context"
	"crypto/sha256"
	"encoding/json"
	"fmt"

	lru "github.com/hashicorp/golang-lru/v2"

	"chromaqua/core/advice"
	"chromaqua/core/learned"
	"chromaqua/internal/store"
)

// Desk computes from a studio.
type Desk struct {
	*store.Store
	readings *readings
	compiled *lru.Cache[planKey, Compiled]
	watches  *lru.Cache[watchKey, []advice.Watch]
	orders   *lru.Cache[planKey, *Planned]
	cuts     *lru.Cache[cutKey, *CutPlan]
	factors  *lru.Cache[store.SeenMark, learned.Factors]
	opening  chan struct{} // holds one place: pictures that come in are opened one at a time, to bound memory
}

// New returns a desk over a studio. Close it to stop its work.
func New(s *store.Store) *Desk {
	return &Desk{
		Store: s, readings: newReadings(s), opening: make(chan struct{}, 1),
		compiled: Cache[planKey, Compiled](keptCompiled), watches: Cache[watchKey, []advice.Watch](keptWatches), orders: Cache[planKey, *Planned](keptOrders), cuts: Cache[cutKey, *CutPlan](keptCuts), factors: Cache[store.SeenMark, learned.Factors](1),
	}
}

// Close stops work that is under way.
func (d *Desk) Close() { d.readings.stop() }

// Cache returns a cache of the n things used last, n at least 1.
func Cache[K comparable, V any](n int) *lru.Cache[K, V] {
	c, err := lru.New[K, V](n)
	if err != nil {
		panic("desk: " + err.Error()) // only for a size below 1
	}
	return c
}

// RevisionKey names a revision of a card, as it is seen from one of its pieces.
type RevisionKey struct {
	card, revision, epoch int64
	piece                 string
}

// KeyOf names a revision as it is seen.
func KeyOf(rev *store.Revision) RevisionKey {
	return RevisionKey{rev.ID, rev.Seq, rev.Epoch, rev.Piece}
}

// digest names a value by what it says, however it lies in memory.
type digest [sha256.Size]byte

func digestOf(v any) digest {
	doc, err := json.Marshal(v)
	if err != nil {
		panic(fmt.Sprintf("desk: %T cannot be named: %v", v, err)) // what is kept in the studio can be written
	}
	return sha256.Sum256(doc)
}

// A Refusal is an error that is about what was asked for: its words are for the maker,
// and there is nothing to mend in the program.
type Refusal struct{ Err error }

func (r *Refusal) Error() string { return r.Err.Error() }
func (r *Refusal) Unwrap() error { return r.Err }

// Refuse marks an error as a refusal; nil stays nil.
func Refuse(err error) error {
	if err == nil {
		return nil
	}
	return &Refusal{err}
}

// OpenPicture waits for the one place in which pictures that come in are opened;
// release frees it.
func (d *Desk) OpenPicture(ctx context.Context) (release func(), err error) {
	select {
	case d.opening <- struct{}{}:
		return func() { <-d.opening }, nil
	case <-ctx.Done():
		return nil, ctx.Err()
	}
}
