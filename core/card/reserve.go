package card

import (
	"errors"
	"fmt"
	"slices"

	"chromaqua/core/mask"
	"chromaqua/core/shelf"
)

// MaxReserves is how much of a piece is kept white or pale, each in its own way.
const MaxReserves = 24

// Reserve is what stays white, or as pale as it is, while paint goes round or over it, and
// how.
type Reserve struct {
	ID    string     `json:"id"`
	Name  string     `json:"name"`
	Way   mask.Way   `json:"way,omitempty"` // painted round when empty
	Cells []Spot     `json:"cells"`
	Zones []string   `json:"zones,omitempty"` // ids
	Areas []string   `json:"areas,omitempty"` // ids of areas that are kept as a whole
	From  []string   `json:"from,omitempty"`  // ids of areas that it is kept from; whatever goes there when empty
	Under Ref        `json:"under,omitempty"` // what is painted below it; nothing when empty
	Off   Ref        `json:"off,omitempty"`   // a mask is off before this is painted; once all it keeps off is dry when empty
	Own   *shelf.Own `json:"own,omitempty"`   // a mask of the maker's
}

// ReserveByID returns what is kept under that id.
func (w *Work) ReserveByID(id string) (*Reserve, error) {
	if i := slices.IndexFunc(w.Reserves, func(r Reserve) bool { return r.ID == id }); i >= 0 {
		return &w.Reserves[i], nil
	}
	return nil, errors.New("that is kept no more: it was removed or undone meanwhile; nothing was changed")
}

// AddReserve keeps something under the first free id "r<n>".
func (c *Card) AddReserve(r Reserve) (string, error) {
	if len(c.Reserves) >= MaxReserves {
		return "", fmt.Errorf("%d things are the most that are kept on one piece; gather what is kept alike", MaxReserves)
	}
	r.ID = c.freeID("r", len(c.Reserves))
	if r.Cells == nil {
		r.Cells = []Spot{}
	}
	c.Reserves = append(c.Reserves, r)
	return r.ID, c.checkReserves()
}

// RemoveReserve forgets that something is kept, with the zones that were drawn for it.
func (c *Card) RemoveReserve(id string) {
	c.DropReserveZones(id)
	c.Reserves = slices.DeleteFunc(c.Reserves, func(r Reserve) bool { return r.ID == id })
}

// DropReserveZones takes the zones of what is kept away that nothing else has.
func (c *Card) DropReserveZones(id string) {
	r, err := c.ReserveByID(id)
	if err != nil {
		return
	}
	zones := r.Zones
	r.Zones = nil
	for _, z := range zones {
		used := func(a Area) bool { return slices.Contains(a.Zones, z) }
		kept := func(r Reserve) bool { return slices.Contains(r.Zones, z) }
		if !slices.ContainsFunc(c.Areas, used) && !slices.ContainsFunc(c.Reserves, kept) {
			c.RemoveZone(z)
		}
	}
}

// LetBelow lets what something is kept from lie below what it is, where that is painted over.
func (c *Card) LetBelow(r *Reserve) error {
	if r.Way != mask.Over {
		return nil
	}
	for _, ground := range r.From {
		for _, kept := range r.Areas {
			if !c.lies(Ref(kept), Ref(ground)) {
				if err := c.Put(Ref(kept), Ref(ground), true); err != nil {
					return err
				}
			}
		}
	}
	return nil
}

// tidyReserves drops what reserves say of what is gone, and those of which nothing is left.
func (w *Work) tidyReserves(gone func(Ref) bool) {
	noArea := func(id string) bool { return gone(Ref(id)) }
	noZone := func(id string) bool { _, err := w.ZoneByID(id); return err != nil }
	for i := range w.Reserves {
		r := &w.Reserves[i]
		r.Cells = slices.DeleteFunc(r.Cells, func(s Spot) bool { return w.checkSpot(s) != nil })
		r.Zones, r.Areas, r.From = slices.DeleteFunc(r.Zones, noZone), slices.DeleteFunc(r.Areas, noArea), slices.DeleteFunc(r.From, noArea)
		for _, at := range []*Ref{&r.Under, &r.Off} {
			if gone(*at) {
				*at = ""
			}
		}
	}
	w.Reserves = slices.DeleteFunc(w.Reserves, func(r Reserve) bool { return len(r.Cells)+len(r.Zones)+len(r.Areas) == 0 })
}

func (w *Work) checkReserves() error {
	if len(w.Reserves) > MaxReserves {
		return fmt.Errorf("%d things that are kept white are more than %d", len(w.Reserves), MaxReserves)
	}
	for i := range w.Reserves {
		r := &w.Reserves[i]
		if err := CheckName("reserve", r.Name); err != nil {
			return err
		}
		if err := r.check(w); err != nil {
			return fmt.Errorf("%q, which is kept: %w", r.Name, err)
		}
	}
	return nil
}

func (r *Reserve) check(w *Work) error {
	if !r.Way.Known() {
		return fmt.Errorf("%q is no way of keeping it; choose one that is listed", string(r.Way))
	}
	if len(r.Cells)+len(r.Zones)+len(r.Areas) == 0 || len(r.Cells) > MaxSpots {
		return fmt.Errorf("it is cells, zones or areas, up to %d", MaxSpots)
	}
	if r.Own != nil && (r.Own.What != shelf.OwnMask || r.Own.Like != string(r.Way)) {
		return errors.New("its mask is of another kind than it is kept with")
	}
	if err := checkOwn(r.Own, shelf.OwnMask, string(r.Way)); err != nil {
		return err
	}
	for _, s := range r.Cells {
		if err := w.checkSpot(s); err != nil {
			return err
		}
	}
	for _, id := range r.Zones {
		if _, err := w.ZoneByID(id); err != nil {
			return err
		}
	}
	for _, id := range slices.Concat(r.Areas, r.From) {
		if _, err := w.AreaByID(id); err != nil {
			return err
		}
	}
	for _, at := range []Ref{r.Under, r.Off} {
		if at != "" {
			if err := w.checkRef(at); err != nil {
				return err
			}
		}
	}
	return nil
}
