package card

import (
	"fmt"

	"chromaqua/core/joint"
	"chromaqua/core/length"
)

// MaxEmbellished is how many of one embellishment are set.
const MaxEmbellished = 500

// Embellishment is what is set on a piece that is not cut from paper.
type Embellishment struct {
	Kind   joint.Item    `json:"kind"`
	Name   string        `json:"name,omitempty"` // what the maker calls it
	Count  int           `json:"count,omitempty"`
	Height length.Length `json:"height,omitzero"` // it stands so high; the usual of its kind when 0
	X      length.Length `json:"x,omitzero"`      // of the middle of them all
	Y      length.Length `json:"y,omitzero"`
}

// Many is how many there are.
func (e *Embellishment) Many() int { return max(1, e.Count) }

// Stands is how high it stands.
func (e *Embellishment) Stands() length.Length {
	if e.Height > 0 {
		return e.Height
	}
	return e.Kind.Facts().Height
}

// Words names them: "3 gems", "cord, kelp twine".
func (e *Embellishment) Words() string {
	out := string(e.Kind)
	if n := e.Many(); n > 1 {
		out = fmt.Sprintf("%d × %s", n, out)
	}
	if e.Name != "" {
		out += ", " + e.Name
	}
	return out
}

func (e *Embellishment) check() error {
	if e.Kind.Facts().Item == "" {
		return fmt.Errorf("%q is no embellishment; choose one that is listed", string(e.Kind))
	}
	if e.Name != "" {
		if err := CheckName("embellishment", e.Name); err != nil {
			return err
		}
	}
	switch {
	case e.Count < 0 || e.Count > MaxEmbellished:
		return fmt.Errorf("1 to %d of one embellishment are set, not %d", MaxEmbellished, e.Count)
	case e.Height < 0 || e.Height > MaxExtra:
		return fmt.Errorf("it stands up to %s high, not %s", MaxExtra.With(length.Millimetres), e.Height.With(length.Millimetres))
	case max(e.X, -e.X, e.Y, -e.Y) > length.Max:
		return fmt.Errorf("it lies far off its piece")
	}
	return nil
}

// Highest is how high embellishments stand on the card: as the maker says, or the highest
// of those that are set on its panel or the whole card.
func (c *Card) Highest() length.Length {
	out := c.Extra
	for _, w := range []*Work{&c.Work, c.wholeWork()} {
		for _, e := range w.Set() {
			out = max(out, e.Stands())
		}
	}
	return out
}

// Set lists what is set on the piece that is no paper.
func (w *Work) Set() (out []*Embellishment) {
	for i := range w.Acts {
		if e := w.Acts[i].Item; e != nil {
			out = append(out, e)
		}
	}
	return out
}

// wholeWork is what is done on the card once it is put together.
func (c *Card) wholeWork() *Work {
	for i := range c.Pieces {
		if c.Pieces[i].Kind == WholeCard {
			return &c.Pieces[i].Work
		}
	}
	return &Work{}
}
