package desk

import (
	"context"
	"fmt"
	"slices"

	"chromaqua/core/learned"
	"chromaqua/core/paper"
	"chromaqua/core/proof"
	"chromaqua/core/shelf"
	"chromaqua/core/steps"
	"chromaqua/internal/store"
)

// Studio is what is shown of the studio besides a card. Tests are never changed, so
// that their numbers name them.
type Studio struct {
	Library []store.Image // only with NeedsLibrary
	Own     []shelf.Own
	Drawer  *paper.Stock // only with NeedsDrawer
	Tests   []proof.Record
	Bench   steps.Bench // what cards are painted at
	Key     StudioKey
}

// StudioKey names all that a studio holds.
type StudioKey struct {
	tests, own, bench, library digest
	drawer, epoch              int64
}

// Needs is what of the studio is needed beyond what every station needs.
type Needs uint8

// The needs.
const (
	NeedsLibrary Needs = 1 << iota
	NeedsDrawer
)

// Studio returns the studio as it is.
func (d *Desk) Studio(ctx context.Context, needs Needs) (out Studio, err error) {
	tests, err := d.Tests(ctx, false)
	if err != nil {
		return out, err
	}
	ids := make([]int64, 0, len(tests))
	for _, t := range tests {
		out.Tests, ids = append(out.Tests, t.Record), append(ids, t.ID)
	}
	if out.Own, err = d.Materials(ctx); err != nil {
		return out, err
	}
	set, err := d.Settings(ctx)
	if err != nil {
		return out, err
	}
	out.Bench = steps.Bench{Settings: set.Settings, Brushes: shelf.BrushesOf(out.Own)}
	if out.Bench.Learned, err = d.learned(ctx); err != nil {
		return out, err
	}
	for _, o := range out.Own {
		if o.What == shelf.OwnMask {
			out.Bench.Masks = append(out.Bench.Masks, o)
		}
	}
	out.Key = StudioKey{tests: digestOf(ids), own: digestOf(out.Own), bench: digestOf(out.Bench), epoch: set.Epoch}
	if needs&NeedsLibrary != 0 {
		if out.Library, err = d.Library(ctx); err != nil {
			return out, err
		}
		out.Key.library = digestOf(out.Library)
	}
	if needs&NeedsDrawer != 0 {
		rev, err := d.Paper(ctx)
		if err != nil {
			return out, err
		}
		out.Drawer, out.Key.drawer = rev.Stock, rev.Seq
	}
	return out, nil
}

// learned is what was learned at the bench. It is summed up again only when more was seen.
func (d *Desk) learned(ctx context.Context) (learned.Factors, error) {
	mark, err := d.SeenMark(ctx)
	if err != nil {
		return nil, err
	}
	if f, ok := d.factors.Get(mark); ok {
		return f, nil
	}
	book, err := d.Seen(ctx, 0)
	if err != nil {
		return nil, err
	}
	f := book.Factors()
	d.factors.Add(mark, f)
	return f, nil
}

// Material returns the material of a choice: a general one by its id, or the maker's
// own by name.
func (d *Desk) Material(ctx context.Context, what shelf.What, id string, own *shelf.Own) (string, *shelf.Own, error) {
	if own == nil {
		return id, nil, nil
	}
	all, err := d.Materials(ctx)
	if err != nil {
		return "", nil, err
	}
	i := slices.IndexFunc(all, func(o shelf.Own) bool { return o.What == what && o.Name == own.Name })
	if i < 0 {
		return "", nil, fmt.Errorf("%q is no longer on the shelf; choose another", own.Name)
	}
	return all[i].Like, &all[i], nil
}
