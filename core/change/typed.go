package change

import (
	"encoding"
	"errors"
	"fmt"
	"strconv"
	"strings"

	"chromaqua/core/card"
	"chromaqua/core/drying"
	"chromaqua/core/length"
	"chromaqua/core/lineart"
	"chromaqua/core/shelf"
	"chromaqua/core/wording"
)

// Typed is a length, or a size of two, as the maker types it: "1/4", "6 mm",
// "3 x 4 1/2". One without a unit is in the card's.
type Typed string

// length reads it; what names it in words.
func (t Typed) length(what string, u length.Unit, parse func(string, length.Unit) (length.Length, error)) (length.Length, error) {
	l, err := parse(string(t), u)
	if err != nil {
		return 0, fmt.Errorf("%s: %w", what, err)
	}
	return l, nil
}

// retyped is length for a field that was shown holding now: sent back as it was, it
// stays exactly what it is.
func (t Typed) retyped(what string, now length.Length, u length.Unit, parse func(string, length.Unit) (length.Length, error)) (length.Length, error) {
	if string(t) == now.Typed(u) {
		return now, nil
	}
	return t.length(what, u, parse)
}

func (t Typed) size(what string, u length.Unit) (length.Size, error) {
	s, err := length.ParseSize(string(t), u)
	if err != nil {
		return s, fmt.Errorf("size of the %s: %w", what, err)
	}
	return s, nil
}

// Number is a number as the maker types it, with a point or a comma.
type Number float64

// UnmarshalText reads one.
func (n *Number) UnmarshalText(text []byte) error {
	v, err := ParseNumber(string(text))
	*n = Number(v)
	return err
}

// Temperature is that of a room, °C, as the maker types it in either scale.
type Temperature float64

// UnmarshalText reads one.
func (t *Temperature) UnmarshalText(text []byte) error {
	v, err := drying.ParseTemperature(string(text))
	*t = Temperature(v)
	return err
}

// ParseNumber reads a number with a point or a comma.
func ParseNumber(text string) (float64, error) {
	v, err := strconv.ParseFloat(strings.Replace(text, ",", ".", 1), 64)
	if err != nil {
		return 0, fmt.Errorf("%.20q is no number; write it in figures", text)
	}
	return v, nil
}

// Angle is degrees as the maker types them; "" for none.
type Angle string

func (a Angle) degrees() (float64, error) {
	if a == "" {
		return 0, nil
	}
	v, err := ParseNumber(strings.TrimSuffix(string(a), "°"))
	if err != nil {
		return 0, fmt.Errorf("turn: %.20q is no angle; give degrees, such as -12.5", string(a))
	}
	return v, nil
}

// CellList is numbers of cells as the maker types them: "3, 5, 9-12".
type CellList string

// Cells writes numbers of cells.
func Cells(ids []int) CellList { return CellList(wording.Numbers(ids, ", ")) }

var errNoCells = errors.New("no cell is chosen; tap cells on the picture, or type their numbers")

// ids reads them.
func (l CellList) ids() ([]int, error) {
	var out []int
	for _, f := range strings.FieldsFunc(string(l), func(r rune) bool { return r == ',' || r == ' ' || r == ';' }) {
		from, to, isRange := strings.Cut(f, "-")
		if !isRange {
			to = from
		}
		a, errA := strconv.Atoi(from)
		b, errB := strconv.Atoi(to)
		if errA != nil || errB != nil || a < 1 || b < a || b-a > card.MaxSpots {
			return nil, fmt.Errorf("%.20q is no cell number; write numbers such as 3, 5, 9-12", f)
		}
		for id := a; id <= b; id++ {
			out = append(out, id)
		}
		if len(out) > card.MaxSpots {
			return nil, fmt.Errorf("more than %d cells", card.MaxSpots)
		}
	}
	if len(out) == 0 {
		return nil, errNoCells
	}
	return out, nil
}

// PointList is places from the panel's top left corner as the maker types them:
// "1 x 2; 1 1/2 x 2".
type PointList string

// points reads them, mm.
func (l PointList) points(u length.Unit) (out []lineart.Point, err error) {
	for i, text := range strings.Split(string(l), ";") {
		x, y, ok := strings.Cut(strings.ReplaceAll(text, "×", "x"), "x")
		if !ok {
			return nil, fmt.Errorf("point %d: %.40q is no place; write how far from the left and from the top, such as 1 1/2 x 2, and a semicolon between points", i+1, strings.TrimSpace(text))
		}
		var at [2]length.Length
		for k, part := range []string{x, y} {
			if at[k], err = length.ParseOffset(part, u); err != nil {
				return nil, fmt.Errorf("point %d: %w", i+1, err)
			}
		}
		out = append(out, lineart.Point{X: at[0].MM(), Y: at[1].MM()})
	}
	return out, nil
}

// ownPrefix begins a choice that is the maker's own.
const ownPrefix = "own:"

// Material is an ink or a paper: a general one by its id of package shelf, or the
// maker's own, of which a form gives the name and the shelf the rest. Its text is
// "hp-cotton", or "own:" and the name.
type Material struct {
	ID  string
	Own *shelf.Own
}

var _ interface {
	encoding.TextMarshaler
	encoding.TextUnmarshaler
} = (*Material)(nil)

// MarshalText writes the choice.
func (m Material) MarshalText() ([]byte, error) {
	if m.Own != nil {
		return []byte(ownPrefix + m.Own.Name), nil
	}
	return []byte(m.ID), nil
}

// UnmarshalText reads a choice; of the maker's own only the name.
func (m *Material) UnmarshalText(text []byte) error {
	*m = Material{ID: string(text)}
	if name, is := strings.CutPrefix(m.ID, ownPrefix); is {
		*m = Material{Own: &shelf.Own{Name: name}}
	}
	return nil
}

// kept is the material as a card keeps it.
func (m *Material) kept() (id string, own *shelf.Own) {
	if m.Own != nil {
		return m.Own.Like, m.Own
	}
	return m.ID, nil
}
