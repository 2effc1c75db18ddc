package change

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"chromaqua/core/card"
	"chromaqua/core/panel"
	"chromaqua/core/pigment"
	"chromaqua/core/wording"
)

// toArea lets f change an area; f says what it did.
func toArea(on *card.Card, id string, f func(*card.Area) (says string, err error)) (Done, error) {
	a, err := on.AreaByID(id)
	if err != nil {
		return Done{}, err
	}
	says, err := f(a)
	return Done{Says: says, Area: id}, err
}

// toWash lets f change a wash of an area, by its number from 0; f says what it is now.
func toWash(on *card.Card, area string, wash int, f func(*card.Wash) (now string, err error)) (Done, error) {
	return toArea(on, area, func(a *card.Area) (string, error) {
		w, err := a.Wash(wash)
		if err != nil {
			return "", err
		}
		now, err := f(w)
		return a.Name + ": " + now, err
	})
}

// NewArea gathers cells into an area of their own. What other areas hold stays with them,
// unless it is to be taken.
type NewArea struct {
	needsCells
	Cells CellList `json:"cells"`
	Name  string   `json:"name"`
	Take  bool     `json:"take"`
}

// On makes the area.
func (c NewArea) On(b *panel.Board) (Done, error) {
	cells, stay, err := c.Cells.gathered(b, "", c.Take)
	if err != nil {
		return Done{}, err
	}
	done := said("gathered %s into a new area%s", wording.Count(len(cells), "cell"), stay)
	done.Area = b.Card.AddArea(c.Name)
	return done, b.Assign(done.Area, cells)
}

// gathered are those of the cells that an area takes: all, or those no other area holds.
// stay says of the others where they are.
func (c CellList) gathered(b *panel.Board, area string, take bool) (cells []int, stay string, err error) {
	all, err := c.ids()
	if err != nil || take {
		return all, "", err
	}
	var holders []string
	for _, id := range all {
		holder := b.HolderOf(id)
		if holder == nil || holder.ID == area {
			cells = append(cells, id)
			continue
		}
		if !slices.Contains(holders, holder.Name) {
			holders = append(holders, holder.Name)
		}
	}
	switch {
	case len(cells) == 0:
		return nil, "", fmt.Errorf("all of these cells are in %s already; free them first, or say that they are to be taken from there", wording.And(holders))
	case len(holders) > 0:
		stay = fmt.Sprintf("; %s in %s", stays(len(all)-len(cells)), wording.And(holders))
	}
	return cells, stay, nil
}

func stays(n int) string {
	if n == 1 {
		return "1 stays"
	}
	return fmt.Sprintf("%d stay", n)
}

// Gather gives cells to an area, or frees them when none is named. What other areas hold
// stays with them, unless it is to be taken.
type Gather struct {
	needsCells
	Area  string   `json:"area"`
	Cells CellList `json:"cells"`
	Take  bool     `json:"take"`
}

// On gives the cells.
func (c Gather) On(b *panel.Board) (Done, error) {
	cells, stay, err := c.Cells.gathered(b, c.Area, c.Take || c.Area == "")
	if err != nil {
		return Done{}, err
	}
	if err := b.Assign(c.Area, cells); err != nil {
		return Done{}, err
	}
	if c.Area == "" {
		return said("freed %s", wording.Count(len(cells), "cell")), nil
	}
	a, err := b.Card.AreaByID(c.Area)
	if err != nil {
		return Done{}, err
	}
	return said("gave %s to %s%s", wording.Count(len(cells), "cell"), a.Name, stay), nil
}

// NameArea gives an area its name.
type NameArea struct {
	Area string `json:"area"`
	Name string `json:"name"`
}

// Do renames the area.
func (c NameArea) Do(on *card.Card) (Done, error) {
	return toArea(on, c.Area, func(a *card.Area) (string, error) {
		a.Name = c.Name
		return "renamed an area", nil
	})
}

// RemoveArea takes an area away; its cells become free.
type RemoveArea struct {
	Area string `json:"area"`
}

// Do removes the area.
func (c RemoveArea) Do(on *card.Card) (Done, error) {
	a, err := on.AreaByID(c.Area)
	if err != nil {
		return Done{}, err
	}
	done := said("removed %s", a.Name)
	on.RemoveArea(a.ID)
	return done, nil
}

// ForgetLost lets an area forget the cells that could not be found again.
type ForgetLost struct {
	needsCells
	Area string `json:"area"`
}

// On forgets them.
func (c ForgetLost) On(b *panel.Board) (Done, error) {
	return toArea(b.Card, c.Area, func(a *card.Area) (string, error) {
		for i := range b.Areas {
			if lost := b.Areas[i].Lost; b.Areas[i].ID == a.ID {
				a.Cells = slices.DeleteFunc(a.Cells, func(s card.Spot) bool { return slices.Contains(lost, s) })
			}
		}
		return "let " + a.Name + " forget lost cells", nil
	})
}

// Focal says whether words keep off an area.
type Focal struct {
	Area  string `json:"area"`
	Focal bool   `json:"focal"`
}

// Do changes that.
func (c Focal) Do(on *card.Card) (Done, error) {
	return toArea(on, c.Area, func(a *card.Area) (string, error) {
		a.Focal = c.Focal
		return "changed what " + a.Name + " is", nil
	})
}

// Grey says whether the colours of an area are to cancel each other out.
type Grey struct {
	Area string `json:"area"`
	Grey bool   `json:"grey"`
}

// Do changes that.
func (c Grey) Do(on *card.Card) (Done, error) {
	return toArea(on, c.Area, func(a *card.Area) (string, error) {
		a.Grey = c.Grey
		if c.Grey {
			return "means " + a.Name + " to be grey", nil
		}
		return "means " + a.Name + " to be no grey", nil
	})
}

// A Meeting is what becomes of cells of one area that touch.
type Meeting string

// The ways.
const (
	InRounds Meeting = "rounds" // one dries before the next is painted
	RunInto  Meeting = "run"    // they may run into each other
	Loosely  Meeting = "loose"  // painted in one sweep, over the lines
)

// Meet says what becomes of cells of an area that touch.
type Meet struct {
	Area string  `json:"area"`
	Meet Meeting `json:"meet"`
}

// Do changes that.
func (c Meet) Do(on *card.Card) (Done, error) {
	return toArea(on, c.Area, func(a *card.Area) (string, error) {
		a.Loose, a.Run = c.Meet == Loosely, c.Meet == RunInto
		switch c.Meet {
		case Loosely:
			return "paints " + a.Name + " loosely", nil
		case RunInto:
			return "lets the cells of " + a.Name + " run together", nil
		}
		return "paints " + a.Name + " in rounds", nil
	})
}

// Join says whether two areas may run into each other.
type Join struct {
	A  string `json:"a"`
	B  string `json:"b"`
	On bool   `json:"on"`
}

// Do joins the areas, or keeps them apart.
func (c Join) Do(on *card.Card) (Done, error) {
	a, err := on.AreaByID(c.A)
	if err != nil {
		return Done{}, err
	}
	b, err := on.AreaByID(c.B)
	if err != nil {
		return Done{}, err
	}
	on.SetJoin(a.ID, b.ID, c.On)
	if c.On {
		return said("let %s and %s run together", a.Name, b.Name), nil
	}
	return said("kept %s and %s apart", a.Name, b.Name), nil
}

// AddWash puts another wash on an area.
type AddWash struct {
	Area string `json:"area"`
}

// Do adds the wash.
func (c AddWash) Do(on *card.Card) (Done, error) {
	return toArea(on, c.Area, func(a *card.Area) (string, error) { return "added a wash to " + a.Name, a.AddWash() })
}

// RemoveWash takes a wash off, by its number from 0.
type RemoveWash struct {
	Area string `json:"area"`
	Wash int    `json:"wash"`
}

// Do removes the wash.
func (c RemoveWash) Do(on *card.Card) (Done, error) {
	return toArea(on, c.Area, func(a *card.Area) (string, error) {
		if _, err := a.Wash(c.Wash); err != nil {
			return "", err
		}
		a.Washes = slices.Delete(a.Washes, c.Wash, c.Wash+1)
		return "removed a wash of " + a.Name, nil
	})
}

// Later is the way of a wash that is laid later.
const Later = "later"

// MoveWash lays a wash, by its number from 0, one place later or earlier.
type MoveWash struct {
	Area string `json:"area"`
	Wash int    `json:"wash"`
	Way  string `json:"way"`
}

// Do moves the wash.
func (c MoveWash) Do(on *card.Card) (Done, error) {
	return toArea(on, c.Area, func(a *card.Area) (string, error) {
		return "changed the order of washes on " + a.Name, a.MoveWash(c.Wash, c.Way == Later)
	})
}

// LayAs changes how a wash is laid, by its number from 0.
type LayAs struct {
	Area      string         `json:"area"`
	Wash      int            `json:"wash"`
	Technique card.Technique `json:"technique"`
}

// Do changes the technique.
func (c LayAs) Do(on *card.Card) (Done, error) {
	return toArea(on, c.Area, func(a *card.Area) (string, error) {
		return a.Name + ": " + string(c.Technique), a.LayAs(c.Wash, c.Technique)
	})
}

// OverDry is where a wash goes that waits for what lies below.
const OverDry = "dry"

// Over says whether a wash goes over dry paint, with [OverDry], or into the wet.
type Over struct {
	Area string `json:"area"`
	Wash int    `json:"wash"`
	Over string `json:"over"`
}

// Do changes that.
func (c Over) Do(on *card.Card) (Done, error) {
	return toWash(on, c.Area, c.Wash, func(w *card.Wash) (string, error) {
		w.OverDry = c.Over == OverDry
		if w.OverDry {
			return string(w.Technique) + " over dry", nil
		}
		return string(w.Technique) + " into the wet", nil
	})
}

// Strength says how strong a wash is mixed.
type Strength struct {
	Area     string           `json:"area"`
	Wash     int              `json:"wash"`
	Strength pigment.Strength `json:"strength"`
}

// Do changes the strength.
func (c Strength) Do(on *card.Card) (Done, error) {
	return toWash(on, c.Area, c.Wash, func(w *card.Wash) (string, error) {
		w.Strength = c.Strength
		return string(w.Strength), nil
	})
}

// Dip adds parts of a paint to a mix, or takes some out. The first dip of a wash that is
// not there yet, the one after the last, makes it.
type Dip struct {
	Area  string `json:"area"`
	Wash  int    `json:"wash"`
	CI    string `json:"ci"`
	Parts int    `json:"parts"`
}

// Do dips the brush.
func (c Dip) Do(on *card.Card) (Done, error) {
	if a, err := on.AreaByID(c.Area); err == nil && c.Wash == len(a.Washes) && c.Parts > 0 {
		return toArea(on, c.Area, func(a *card.Area) (string, error) {
			err := a.BeginWash(c.CI, c.Parts)
			return fmt.Sprintf("%s: a wash of %s", a.Name, on.Called.Of(c.CI)), err
		})
	}
	return toWash(on, c.Area, c.Wash, func(w *card.Wash) (string, error) {
		err := w.Dip(c.CI, c.Parts)
		return on.Called.Mix(w.Mix), err
	})
}

// Recipe mixes a wash as a recipe says; see [card.ReadMix].
type Recipe struct {
	Area     string           `json:"area"`
	Wash     int              `json:"wash"`
	Mix      string           `json:"mix"`
	Strength pigment.Strength `json:"strength"`
}

// Do mixes the wash.
func (c Recipe) Do(on *card.Card) (Done, error) {
	return toWash(on, c.Area, c.Wash, func(w *card.Wash) (string, error) {
		mix, err := card.ReadMix(c.Mix)
		if err != nil {
			return "", err
		}
		w.Mix, w.Strength = mix, c.Strength
		return on.Called.Mix(mix) + ", " + string(w.Strength), nil
	})
}

// SameWashes paints an area as another is painted.
type SameWashes struct {
	Area string `json:"area"`
	As   string `json:"as"`
}

// Do paints the area.
func (c SameWashes) Do(on *card.Card) (Done, error) {
	return toArea(on, c.Area, func(a *card.Area) (string, error) {
		as, err := on.AreaByID(c.As)
		if err != nil {
			return "", err
		}
		a.PaintAs(as)
		return fmt.Sprintf("painted %s as %s", a.Name, as.Name), nil
	})
}

// PaintAlike paints other areas, their ids with spaces between, as one is painted.
type PaintAlike struct {
	Area string `json:"area"`
	To   string `json:"to"`
}

// Do paints them.
func (c PaintAlike) Do(on *card.Card) (Done, error) {
	return toArea(on, c.Area, func(a *card.Area) (string, error) {
		var names []string
		for _, id := range strings.Fields(c.To) {
			o, err := on.AreaByID(id)
			if err != nil {
				return "", err
			}
			o.PaintAs(a)
			names = append(names, o.Name)
		}
		if len(names) == 0 {
			return "", errors.New("choose at least one area to paint like " + a.Name)
		}
		return fmt.Sprintf("painted %s as %s", strings.Join(names, ", "), a.Name), nil
	})
}

// Wanted keeps one more colour at hand, or forgets them all when none is named.
type Wanted struct {
	Area string `json:"area"` // where it was asked for
	Hex  string `json:"hex"`
	Name string `json:"name"`
}

// Do keeps the colour.
func (c Wanted) Do(on *card.Card) (Done, error) {
	if c.Hex == "" {
		on.Wanted = nil
		return said("forgot the wanted colours"), nil
	}
	on.Wanted = append(on.Wanted, pigment.Swatch{Name: c.Name, Hex: c.Hex})
	return said("keeps a wanted colour"), nil
}

// Palette keeps the colours of a palette as those that are wanted.
type Palette struct {
	Colours []pigment.Swatch `json:"colours"`
}

// Do keeps them.
func (c Palette) Do(on *card.Card) (Done, error) {
	on.Wanted = c.Colours
	return said("keeps %s", wording.Count(len(c.Colours), "wanted colour")), nil
}

// PaintMeasured paints the card with paints that were measured, in place of those of
// the same pigment.
type PaintMeasured struct {
	Paints []card.Measured `json:"paints"`
}

// Do changes the paints.
func (c PaintMeasured) Do(on *card.Card) (Done, error) {
	on.Measure(c.Paints...)
	return said("paints with %s", wording.Count(len(c.Paints), "measured paint")), nil
}

// PaintGeneric paints the card with generic pigments again.
type PaintGeneric struct{}

// Do changes the paints.
func (PaintGeneric) Do(on *card.Card) (Done, error) {
	on.Measured = nil
	return said("paints with generic pigments"), nil
}
