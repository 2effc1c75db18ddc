// Package paper answers "what paper is there, and what is cut from it?": the
// maker's sheets, pads, blocks and offcuts, and the parts that cards need.
// Lengths are exact; money is in hundredths of the maker's currency.
package paper

import (
	"cmp"
	"errors"
	"fmt"
	"slices"
	"unicode/utf8"

	"chromaqua/core/card"
	"chromaqua/core/cutting"
	"chromaqua/core/length"
	"chromaqua/core/shelf"
)

// Limits of what is on hand.
const (
	MaxItems    = 400
	MaxDieSets  = 100
	MaxQuantity = 10_000
	MaxText     = 80 // characters of a colour
	MaxPrice    = 1_000_000
	MaxWeight   = 2000 // g/m²
)

// Kind is how paper comes.
type Kind string

// The kinds of paper on hand.
const (
	Sheet  Kind = "sheet"
	Pad    Kind = "pad"
	Block  Kind = "block"
	Offcut Kind = "offcut"
)

// Kinds lists them in the order they are offered.
func Kinds() []Kind { return []Kind{Sheet, Pad, Block, Offcut} }

// Grain is the side the paper's grain runs along; empty when it is not known.
type Grain string

// The grains.
const (
	AlongWidth  Grain = "width"
	AlongHeight Grain = "height"
	Unknown     Grain = ""
)

// Item is paper of one size and kind.
type Item struct {
	ID     string      `json:"id"`
	Kind   Kind        `json:"kind"`
	Paper  string      `json:"paper"` // an id of package shelf
	Colour string      `json:"colour,omitempty"`
	Size   length.Size `json:"size"`
	Grain  Grain       `json:"grain,omitempty"`
	Weight int         `json:"weight_gsm,omitempty"` // g/m²; 0 when unknown
	Qty    int         `json:"quantity"`             // sheets
	Price  int         `json:"price,omitempty"`      // of a sheet, hundredths
}

// Stock is the paper on hand.
type Stock struct {
	Items []Item      `json:"items"`
	Least length.Size `json:"least"` // smaller leftovers are thrown away

	Dies []card.DieSet `json:"dies,omitempty"` // they lie in the same drawer

	Supplies []Supply `json:"supplies,omitempty"` // that are used up besides paper
	Used     []Use    `json:"used,omitempty"`     // by makings, the earliest first
}

// New returns an empty stock that keeps leftovers from 2 × 3 in.
func New() *Stock {
	return &Stock{Items: []Item{}, Least: length.Size{W: 2 * length.Inch, H: 3 * length.Inch}}
}

// Check reports the first thing wrong.
func (s *Stock) Check() error {
	if len(s.Items) > MaxItems {
		return fmt.Errorf("more than %d kinds of paper; throw some away", MaxItems)
	}
	if s.Least.W <= 0 || s.Least.H <= 0 || max(s.Least.W, s.Least.H) > length.Max {
		return errors.New("the least leftover to keep has to measure something")
	}
	if len(s.Dies) > MaxDieSets {
		return fmt.Errorf("more than %d die sets; remove some", MaxDieSets)
	}
	for i := range s.Dies {
		if err := s.Dies[i].Check(); err != nil {
			return err
		}
	}
	if err := s.checkSupplies(); err != nil {
		return err
	}
	seen := map[string]bool{}
	for _, it := range s.Items {
		if it.ID == "" || len(it.ID) > 20 || seen[it.ID] {
			return fmt.Errorf("paper id %.20q is empty, too long or stands twice", it.ID)
		}
		seen[it.ID] = true
		if err := it.Check(); err != nil {
			return err
		}
	}
	return nil
}

// Check reports the first thing wrong with an item.
func (it Item) Check() error {
	if _, err := shelf.PaperByID(it.Paper); err != nil {
		return err
	}
	switch {
	case !slices.Contains(Kinds(), it.Kind):
		return fmt.Errorf("%q is no kind of paper; use sheet, pad, block or offcut", string(it.Kind))
	case it.Size.W <= 0 || it.Size.H <= 0 || max(it.Size.W, it.Size.H) > length.Max:
		return errors.New("paper measures more than nothing and at most 2 m")
	case it.Grain != AlongWidth && it.Grain != AlongHeight && it.Grain != Unknown:
		return fmt.Errorf("grain runs along the width or the height, not %q", string(it.Grain))
	case it.Qty < 0 || it.Qty > MaxQuantity:
		return fmt.Errorf("%d sheets are outside 0 to %d", it.Qty, MaxQuantity)
	case it.Weight < 0 || it.Weight > MaxWeight:
		return fmt.Errorf("%d g/m² is outside 0 to %d", it.Weight, MaxWeight)
	case it.Price < 0 || it.Price > MaxPrice:
		return errors.New("a sheet costs between nothing and 10 000")
	case utf8.RuneCountInString(it.Colour) > MaxText:
		return fmt.Errorf("keep the colour to %d characters", MaxText)
	}
	return nil
}

// Name says in words what an item is.
func (it Item) Name() string {
	name := it.Paper
	if p, err := shelf.PaperByID(it.Paper); err == nil {
		name = p.Name
	}
	if it.Colour != "" {
		name += ", " + it.Colour
	}
	return name
}

// Item returns the item with that id.
func (s *Stock) Item(id string) (*Item, error) {
	for i := range s.Items {
		if s.Items[i].ID == id {
			return &s.Items[i], nil
		}
	}
	return nil, errors.New("that paper is gone: it was used, removed or undone meanwhile; nothing was changed")
}

// Add puts paper to what is there. Paper that is there already becomes more.
func (s *Stock) Add(it Item) {
	for i := range s.Items {
		old := s.Items[i]
		old.ID, old.Qty, old.Price = it.ID, it.Qty, it.Price
		if old == it {
			s.Items[i].Qty += it.Qty
			return
		}
	}
	it.ID = freeID("p", len(s.Items)+1, func(id string) bool { return slices.ContainsFunc(s.Items, func(o Item) bool { return o.ID == id }) })
	s.Items = append(s.Items, it)
}

// freeID is a letter with the first number from n on that is not taken.
func freeID(letter string, n int, taken func(id string) bool) string {
	for {
		if id := fmt.Sprintf("%s%d", letter, n); !taken(id) {
			return id
		}
		n++
	}
}

// Colours lists the colours of the paper, each once.
func (s *Stock) Colours() (out []string) {
	for _, it := range s.Items {
		if it.Colour != "" && !slices.Contains(out, it.Colour) {
			out = append(out, it.Colour)
		}
	}
	slices.Sort(out)
	return out
}

// DieSet returns a copy of the die set with that name.
func (s *Stock) DieSet(name string) (*card.DieSet, error) {
	for _, d := range s.Dies {
		if d.Name == name {
			d.Sizes = slices.Clone(d.Sizes)
			return &d, nil
		}
	}
	return nil, fmt.Errorf("there is no die set %q in the drawer; choose one that is listed", name)
}

// PutDieSet puts a die set into the drawer, in place of one of the same name.
func (s *Stock) PutDieSet(d card.DieSet) {
	s.RemoveDieSet(d.Name)
	s.Dies = append(s.Dies, d)
}

// RemoveDieSet takes a die set out of the drawer. Cards that are cut with it
// keep their sizes.
func (s *Stock) RemoveDieSet(name string) {
	s.Dies = slices.DeleteFunc(s.Dies, func(d card.DieSet) bool { return d.Name == name })
}

// Remove takes an item away.
func (s *Stock) Remove(id string) {
	s.Items = slices.DeleteFunc(s.Items, func(it Item) bool { return it.ID == id })
}

// Cut takes the sheets of a plan made from this stock away and puts its
// leftovers back, those at least as large as Least either way round. Sheets
// that are no longer there are an error, and nothing is changed.
func (s *Stock) Cut(p *cutting.Plan) error {
	used := map[string]int{}
	for _, sh := range p.Sheets {
		it, err := s.Item(sh.Stock)
		if err != nil {
			return err
		}
		if used[it.ID]++; used[it.ID] > it.Qty {
			return fmt.Errorf("the plan takes more of %s, %s, than the %d there are; make the plan again", it.Name(), it.Size.With(length.Inches), it.Qty)
		}
	}
	var back []Item
	for _, sh := range p.Sheets {
		it, err := s.Item(sh.Stock)
		if err != nil {
			return err
		}
		for _, r := range sh.Leftovers {
			left := *it
			left.Kind, left.Qty, left.Price = Offcut, 1, 0
			left.Size = length.Size{W: length.Length(r.W), H: length.Length(r.H)}
			if s.Keeps(left.Size) {
				back = append(back, left)
			}
		}
		it.Qty--
	}
	s.Items = slices.DeleteFunc(s.Items, func(it Item) bool { return it.Qty == 0 && used[it.ID] > 0 })
	for _, it := range back {
		s.Add(it)
	}
	return nil
}

// Keeps reports whether a leftover is worth keeping.
func (s *Stock) Keeps(l length.Size) bool {
	return l.W >= s.Least.W && l.H >= s.Least.H || l.H >= s.Least.W && l.W >= s.Least.H
}

// Sort orders the stock for reading: by paper, whole paper before offcuts,
// large before small.
func (s *Stock) Sort() {
	slices.SortStableFunc(s.Items, func(a, b Item) int {
		off := func(it Item) int {
			if it.Kind == Offcut {
				return 1
			}
			return 0
		}
		return cmp.Or(cmp.Compare(a.Paper, b.Paper), cmp.Compare(a.Colour, b.Colour), off(a)-off(b),
			cmp.Compare(b.Size.W.MM()*b.Size.H.MM(), a.Size.W.MM()*a.Size.H.MM()))
	})
}
