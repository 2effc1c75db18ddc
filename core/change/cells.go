package change

import (
	"errors"
	"fmt"
	"slices"
	"strconv"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/panel"
	"chromaqua/core/wording"
)

// CloseLeak draws the pen across a gap of the line, by its number from 0.
type CloseLeak struct {
	needsCells
	Leak int `json:"leak"`
}

// On closes the gap.
func (c CloseLeak) On(b *panel.Board) (Done, error) {
	return said("closed a gap with the pen"), b.CloseLeak(c.Leak)
}

// OpenLeak says that the line is open at a gap, by its number from 0.
type OpenLeak struct {
	needsCells
	Leak int `json:"leak"`
}

// On leaves the gap open.
func (c OpenLeak) On(b *panel.Board) (Done, error) {
	return said("left a gap open"), b.OpenLeak(c.Leak)
}

// JoinCells makes cells one, whatever line is between them.
type JoinCells struct {
	needsCells
	Cells CellList `json:"cells"`
}

// On joins the cells.
func (c JoinCells) On(b *panel.Board) (Done, error) {
	cells, err := c.Cells.ids()
	if err != nil {
		return Done{}, err
	}
	return said("made %s one", wording.Count(len(cells), "cell")), b.JoinCells(cells)
}

// Stroke draws with the pen.
type Stroke struct {
	needsCells
	Points PointList `json:"points"`
}

// On draws the stroke.
func (c Stroke) On(b *panel.Board) (Done, error) {
	points, err := c.Points.points(b.Card.Unit)
	if err != nil {
		return Done{}, err
	}
	return said("drew with the pen"), b.Stroke(points)
}

// AllMarks stands for every correction on the panel.
const AllMarks = "all"

// RemoveMark takes a correction of an image back, by its number from 0, or with
// [AllMarks] those of every image.
type RemoveMark struct {
	Picked string `json:"picked"`
	Mark   string `json:"mark"`
}

// Do takes the correction back.
func (c RemoveMark) Do(on *card.Card) (Done, error) {
	m, err := imageOf(on, c.Picked)
	if err != nil {
		return Done{}, err
	}
	if c.Mark == AllMarks {
		for i := range on.Images {
			on.Images[i].Marks = nil
		}
		return Done{Says: "took all corrections back", Image: c.Picked}, nil
	}
	n, err := strconv.Atoi(c.Mark)
	if err != nil || n < 0 || n >= len(m.Marks) {
		return Done{}, errors.New("that correction is gone; nothing was changed")
	}
	m.Marks = slices.Delete(m.Marks, n, n+1)
	return Done{Says: "took a correction back", Image: c.Picked}, nil
}

// Specks are cells so small that they are forgotten, mm²; "" for none.
type Specks struct {
	Specks string `json:"specks"`
}

// Do changes the size of specks.
func (c Specks) Do(on *card.Card) (Done, error) {
	if c.Specks == "" {
		on.Specks = 0
		return said("forgets no specks"), nil
	}
	across, err := length.Parse(c.Specks, on.Unit)
	if err != nil {
		return Done{}, fmt.Errorf("size of specks: %w", err)
	}
	on.Specks = across.MM() * across.MM()
	return said("forgets small cells"), nil
}

// KeepWhite gathers cells into the area that stays paper white.
type KeepWhite struct {
	needsCells
	Cells CellList `json:"cells"`
}

// On keeps the cells white.
func (c KeepWhite) On(b *panel.Board) (Done, error) {
	cells, err := c.Cells.ids()
	if err != nil {
		return Done{}, err
	}
	done := said("keeps %s white", wording.Count(len(cells), "cell"))
	i := slices.IndexFunc(b.Card.Areas, func(a card.Area) bool { return a.White })
	if i < 0 {
		done.Area = b.Card.AddArea("Paper white")
		i = len(b.Card.Areas) - 1
		b.Card.Areas[i].White = true
	}
	return done, b.Assign(b.Card.Areas[i].ID, cells)
}

// PaintWhite lets an area that was kept white be painted.
type PaintWhite struct {
	Area string `json:"area"`
}

// Do lets it be painted.
func (c PaintWhite) Do(on *card.Card) (Done, error) {
	return toArea(on, c.Area, func(a *card.Area) (string, error) {
		a.White = false
		return "lets " + a.Name + " be painted", nil
	})
}
