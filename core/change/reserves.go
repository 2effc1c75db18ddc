package change

import (
	"cmp"
	"errors"
	"fmt"
	"slices"
	"strings"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/mask"
	"chromaqua/core/panel"
	"chromaqua/core/shelf"
	"chromaqua/core/wording"
)

// toReserve changes what is kept.
func toReserve(on *card.Card, id string, f func(*card.Reserve) (says string, err error)) (Done, error) {
	r, err := on.ReserveByID(id)
	if err != nil {
		return Done{}, err
	}
	says, err := f(r)
	return Done{Says: says, Reserve: id}, err
}

// keep keeps something under a name.
func keep(on *card.Card, name, usual string, r card.Reserve) (Done, error) {
	if r.Name = strings.TrimSpace(name); r.Name == "" {
		r.Name = usual
	}
	id, err := on.AddReserve(r)
	return Done{Says: "kept " + r.Name, Reserve: id}, err
}

// KeepCells keeps cells white, or as pale as they are.
type KeepCells struct {
	needsCells
	Cells CellList `json:"cells"`
	Name  string   `json:"name"`
}

// On keeps them.
func (c KeepCells) On(b *panel.Board) (Done, error) {
	cells, err := c.Cells.ids()
	if err != nil {
		return Done{}, err
	}
	if len(cells) == 0 {
		return Done{}, errors.New("tap the cells that are to stay white first")
	}
	r := card.Reserve{}
	for _, id := range cells {
		if id < 1 || id > len(b.Cells) {
			return Done{}, fmt.Errorf("there is no cell %d on this piece; the line was changed meanwhile, choose the cells again", id)
		}
		r.Cells = append(r.Cells, b.SpotOf(id))
	}
	usual := wording.Count(len(cells), "white cell")
	if a := b.HolderOf(cells[0]); a != nil {
		usual = a.Name
	}
	return keep(b.Card, c.Name, usual, r)
}

// KeepImage keeps what a resist stamp or a stencil covers, in the way it is made for.
type KeepImage struct {
	needsCells
	Image string `json:"image"`
}

// On keeps it.
func (c KeepImage) On(b *panel.Board) (Done, error) {
	m, err := b.Card.ImageByID(c.Image)
	if err != nil {
		return Done{}, err
	}
	r := card.Reserve{}
	for _, cell := range b.Cells {
		if s := b.SpotOf(cell.ID); s.On == m.ID && !cell.Outside {
			r.Cells = append(r.Cells, s)
		}
	}
	if len(r.Cells) == 0 {
		return Done{}, fmt.Errorf("%s has no shape of its own here; its outline is not closed, or it lies off the piece", m.Title)
	}
	switch {
	case m.Is(shelf.ResistImage):
		r.Way = mask.Resist
	case m.Is(shelf.Stencil):
		r.Way = mask.Stencil
	}
	return keep(b.Card, "", m.Title, r)
}

// KeepArea keeps an area as pale as it is painted.
type KeepArea struct {
	Area string `json:"area"`
}

// Do keeps it.
func (c KeepArea) Do(on *card.Card) (Done, error) {
	a, err := on.AreaByID(c.Area)
	if err != nil {
		return Done{}, err
	}
	return keep(on, "", a.Name, card.Reserve{Areas: []string{a.ID}})
}

// KeepZone keeps a zone white: dots, a stroke, a band below a line, a frame.
type KeepZone struct {
	NewZone
}

// Do keeps it.
func (c KeepZone) Do(on *card.Card) (Done, error) {
	id, err := c.drawn(on)
	if err != nil {
		return Done{}, err
	}
	if c.To != "" {
		return toReserve(on, c.To, func(r *card.Reserve) (string, error) {
			r.Zones = append(r.Zones, id)
			return "added to " + r.Name, nil
		})
	}
	usual := map[card.Shape]string{card.DotsAt: "White dots", card.Along: "White strokes", card.Rim: "White border", card.Above: "Above the line", card.Below: "Below the line"}[c.Shape]
	return keep(on, c.Name, cmp.Or(usual, "White place"), card.Reserve{Zones: []string{id}})
}

// Strew keeps dots white that are strewn over an area, or the whole piece: the same draw
// strews them alike.
type Strew struct {
	needsCells
	Area  string `json:"area"` // id, "" for the piece
	Count int    `json:"count"`
	Least Typed  `json:"least"` // width of the smallest
	Most  Typed  `json:"most"`
	Draw  int    `json:"draw"`
	Name  string `json:"name"`
	To    string `json:"to"` // id of a reserve whose dots are strewn anew
}

// On strews them.
func (c Strew) On(b *panel.Board) (Done, error) {
	u := b.Card.Unit
	least, err := c.Least.length("the smallest dot", u, length.Parse)
	if err != nil {
		return Done{}, err
	}
	most, err := c.Most.length("the largest dot", u, length.Parse)
	if err != nil {
		return Done{}, err
	}
	dots, err := b.Strewn(c.Area, panel.Strewing{Count: c.Count, Least: least, Most: most, Draw: c.Draw})
	if err != nil {
		return Done{}, err
	}
	if c.To != "" {
		if _, err := b.Card.ReserveByID(c.To); err != nil {
			return Done{}, err
		}
		b.Card.DropReserveZones(c.To)
	}
	var zones []string
	wide := b.Card.PanelSize().W.MM()
	for _, z := range dots {
		id, err := b.Card.AddZone(z, wide)
		if err != nil {
			return Done{}, err
		}
		zones = append(zones, id)
	}
	if c.To != "" {
		return toReserve(b.Card, c.To, func(r *card.Reserve) (string, error) {
			r.Zones = zones
			return "strewed " + r.Name + " anew", nil
		})
	}
	return keep(b.Card, c.Name, "White dots", card.Reserve{Zones: zones})
}

// KeepBy says how things are kept: "r1=fluid", or several of that with commas between.
type KeepBy struct {
	Ways string `json:"ways"`
}

// Do says so.
func (c KeepBy) Do(on *card.Card) (done Done, err error) {
	for pair := range strings.SplitSeq(c.Ways, ",") {
		id, way, _ := strings.Cut(pair, "=")
		done, err = toReserve(on, id, func(r *card.Reserve) (string, error) {
			w := mask.Way(way)
			if !w.Known() || way == "" {
				return "", fmt.Errorf("%.20q is no way of keeping it; choose one that is listed", way)
			}
			if r.Way = w; r.Own != nil && r.Own.Like != way {
				r.Own = nil
			}
			return r.Name + ": " + w.Words(), on.LetBelow(r)
		})
		if err != nil {
			return done, err
		}
	}
	if strings.Contains(c.Ways, ",") {
		done = said("decided how each is kept")
	}
	return done, nil
}

// KeepDuring says what something is kept from, and when a mask lies there.
type KeepDuring struct {
	Reserve string   `json:"reserve"`
	From    string   `json:"from"` // ids of areas with commas between, "" for whatever goes there
	Under   card.Ref `json:"under"`
	Off     card.Ref `json:"off"`
}

// Do says so.
func (c KeepDuring) Do(on *card.Card) (Done, error) {
	return toReserve(on, c.Reserve, func(r *card.Reserve) (string, error) {
		r.From, r.Under, r.Off = nil, c.Under, c.Off
		for id := range strings.SplitSeq(c.From, ",") {
			if id = strings.TrimSpace(id); id != "" && !slices.Contains(r.From, id) {
				r.From = append(r.From, id)
			}
		}
		return r.Name + ": when it is kept", nil
	})
}

// KeepWith uses a mask of the maker's.
type KeepWith struct {
	Reserve string     `json:"reserve"`
	Own     *shelf.Own `json:"own"` // nil for a general one
}

// Do uses it.
func (c KeepWith) Do(on *card.Card) (Done, error) {
	return toReserve(on, c.Reserve, func(r *card.Reserve) (string, error) {
		if r.Own = c.Own; c.Own != nil {
			r.Way = mask.Way(c.Own.Like)
			return r.Name + " with " + c.Own.Name, nil
		}
		return r.Name + " with any mask of its kind", nil
	})
}

// NameReserve renames what is kept.
type NameReserve struct {
	Reserve string `json:"reserve"`
	Name    string `json:"name"`
}

// Do renames it.
func (c NameReserve) Do(on *card.Card) (Done, error) {
	return toReserve(on, c.Reserve, func(r *card.Reserve) (string, error) {
		r.Name = strings.TrimSpace(c.Name)
		return "named it " + r.Name, nil
	})
}

// KeepNoMore forgets that something is kept.
type KeepNoMore struct {
	Reserve string `json:"reserve"`
}

// Do forgets it.
func (c KeepNoMore) Do(on *card.Card) (Done, error) {
	r, err := on.ReserveByID(c.Reserve)
	if err != nil {
		return Done{}, err
	}
	name := r.Name
	on.RemoveReserve(c.Reserve)
	return said("%s is kept no more", name), nil
}
