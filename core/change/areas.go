package change

import (
	"fmt"
	"slices"
	"strings"

	"chromaqua/core/card"
	"chromaqua/core/panel"
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

// NewAreas gathers groups of free cells into areas, each its own; "2, 3; 5-8" are two.
type NewAreas struct {
	needsCells
	Groups string `json:"groups"`
}

// On makes the areas.
func (c NewAreas) On(b *panel.Board) (Done, error) {
	done, n, at := Done{}, 0, *b
	for _, group := range strings.Split(c.Groups, ";") {
		made, err := NewArea{Cells: CellList(group)}.On(&at)
		if err != nil {
			return Done{}, err
		}
		if at = *panel.Resolve(b.Card, b.Sheet); done.Area == "" {
			done.Area = made.Area
		}
		n++
	}
	done.Says = "gathered cells that look alike into " + wording.Count(n, "area")
	return done, nil
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

// Gather gives cells to an area. What other areas hold stays with them, unless it is to be
// taken.
type Gather struct {
	needsCells
	Area  string   `json:"area"`
	Cells CellList `json:"cells"`
	Take  bool     `json:"take"`
}

// On gives the cells.
func (c Gather) On(b *panel.Board) (Done, error) {
	return toArea(b.Card, c.Area, func(a *card.Area) (string, error) {
		cells, stay, err := c.Cells.gathered(b, a.ID, c.Take || a.Lies)
		if err != nil {
			return "", err
		}
		return fmt.Sprintf("gave %s to %s%s", wording.Count(len(cells), "cell"), a.Name, stay), b.Assign(a.ID, cells)
	})
}

// Free takes cells out of the areas that hold them.
type Free struct {
	needsCells
	Cells CellList `json:"cells"`
}

// On frees the cells.
func (c Free) On(b *panel.Board) (Done, error) {
	cells, err := c.Cells.ids()
	if err != nil {
		return Done{}, err
	}
	return said("freed %s", wording.Count(len(cells), "cell")), b.Assign("", cells)
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
