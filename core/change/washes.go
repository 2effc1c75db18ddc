package change

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"chromaqua/core/card"
	"chromaqua/core/pigment"
	"chromaqua/core/technique"
	"chromaqua/core/wording"
)

// toWash lets f change a wash of an area, by its number from 0; f says what it is now.
// The one after the last is not there yet: it is laid when f mixes something for it.
func toWash(on *card.Card, area string, wash int, f func(*card.Wash) (now string, err error)) (Done, error) {
	return toStack(on, area, func(a *card.Area) (string, int, error) {
		next := a.NextWash()
		w, gone := a.Wash(wash)
		if wash == len(a.Washes) {
			w = &next
		} else if gone != nil {
			return "", 0, gone
		}
		now, err := f(w)
		switch {
		case err != nil || gone == nil:
		case len(w.Mix) == 0:
			err = gone
		default:
			err = a.Lay(next)
		}
		return a.Name + ": " + now, wash, err
	})
}

// toStack lets f change which washes lie on an area; f says what it did, and the number
// from 0 of the wash it leaves in hand.
func toStack(on *card.Card, area string, f func(*card.Area) (says string, wash int, err error)) (done Done, err error) {
	wash := 0
	done, err = toArea(on, area, func(a *card.Area) (says string, err error) {
		says, wash, err = f(a)
		return says, err
	})
	done.Wash = wash + 1
	return done, err
}

// AddWash puts another wash of the same paint on an area.
type AddWash struct {
	Area string `json:"area"`
}

// Do adds the wash.
func (c AddWash) Do(on *card.Card) (Done, error) {
	return toStack(on, c.Area, func(a *card.Area) (string, int, error) {
		return "added a wash to " + a.Name, len(a.Washes), a.AddWash()
	})
}

// RemoveWash takes a wash off, by its number from 0.
type RemoveWash struct {
	Area string `json:"area"`
	Wash int    `json:"wash"`
}

// Do removes the wash.
func (c RemoveWash) Do(on *card.Card) (Done, error) {
	return toStack(on, c.Area, func(a *card.Area) (string, int, error) {
		if _, err := a.Wash(c.Wash); err != nil {
			return "", 0, err
		}
		a.Washes = slices.Delete(a.Washes, c.Wash, c.Wash+1)
		on.Renumber(a.ID, func(n int) int {
			switch {
			case n == c.Wash:
				return -1
			case n > c.Wash:
				return n - 1
			}
			return n
		})
		return "removed a wash of " + a.Name, max(0, c.Wash-1), nil
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
	return toStack(on, c.Area, func(a *card.Area) (string, int, error) {
		later := c.Way == Later
		if to := card.Beside(c.Wash, later); to >= 0 && to < len(a.Washes) {
			on.Renumber(a.ID, func(n int) int {
				switch n {
				case c.Wash:
					return to
				case to:
					return c.Wash
				}
				return n
			})
		}
		return "changed the order of washes on " + a.Name, card.Beside(c.Wash, later), a.MoveWash(c.Wash, later)
	})
}

// LayAs changes how a wash is laid, by its number from 0.
type LayAs struct {
	Area      string         `json:"area"`
	Wash      int            `json:"wash"`
	Technique technique.Kind `json:"technique"`
}

// Do changes the technique.
func (c LayAs) Do(on *card.Card) (Done, error) {
	return toArea(on, c.Area, func(a *card.Area) (string, error) {
		return a.Name + ": " + c.Technique.Name(), a.LayAs(c.Wash, c.Technique)
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
			return w.Technique.Name() + " over dry", nil
		}
		return w.Technique.Name() + " into the wet", nil
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
	return toWash(on, c.Area, c.Wash, func(w *card.Wash) (string, error) {
		err := w.Dip(c.CI, c.Parts)
		return on.Called.Mix(w.Mix), err
	})
}

// Recipe mixes a wash as a recipe says; see [card.ReadMix]. Like a dip it makes a wash
// that is not there yet.
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

// Pull draws the colour of the line into an area, as one more wash.
type Pull struct {
	Area string `json:"area"`
}

// Do draws it.
func (c Pull) Do(on *card.Card) (Done, error) {
	return toStack(on, c.Area, func(a *card.Area) (string, int, error) {
		return a.Name + ": colour drawn out of the line", len(a.Washes), a.Lay(card.Wash{Technique: technique.LinePull})
	})
}

// DrawAgain places anew what a wash scatters, by its number from 0.
type DrawAgain struct {
	Area string `json:"area"`
	Wash int    `json:"wash"`
}

// Do draws it again.
func (c DrawAgain) Do(on *card.Card) (Done, error) {
	return toWash(on, c.Area, c.Wash, func(w *card.Wash) (string, error) {
		if w.Technique.Facts().Drop == 0 {
			return "", fmt.Errorf("%s scatters nothing; its place is where you lay it", w.Technique.Name())
		}
		w.Draw = (w.Draw + 1) % card.MaxDraws
		return "drew the " + w.Technique.Name() + " again", nil
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
