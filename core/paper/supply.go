package paper

import (
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"
	"unicode/utf8"
)

// Limits of supplies.
const (
	MaxSupplies = 500
	MaxAmount   = 1e6
	MaxUses     = 5000
)

// What is a kind of supply.
type What string

// The kinds.
const (
	Paint      What = "paint"
	Ink        What = "ink"
	Powder     What = "powder"
	TapeRoll   What = "tape"
	Masking    What = "masking"
	Adhesive   What = "adhesive"
	Embellish  What = "embellishment"
	OtherThing What = "other"
)

// Units are what each kind is counted in.
var units = map[What]string{Paint: "ml", Ink: "ml", Powder: "g", TapeRoll: "cm", Masking: "ml", Adhesive: "cm", Embellish: "pieces", OtherThing: "pieces"}

// Whats lists the kinds in the order they are offered.
func Whats() []What {
	return []What{Paint, Ink, Powder, TapeRoll, Masking, Adhesive, Embellish, OtherThing}
}

// Supply is something used up besides paper: so much of it is left.
type Supply struct {
	ID    string  `json:"id"`
	What  What    `json:"what"`
	Name  string  `json:"name"`
	Left  float64 `json:"left"` // in its unit
	Unit  string  `json:"unit"`
	Price int     `json:"price,omitempty"` // of one unit, hundredths of a hundredth
}

// Need is how much of something is needed, or was used.
type Need struct {
	What   What    `json:"what"`
	Name   string  `json:"name"`
	Amount float64 `json:"amount"`
	Unit   string  `json:"unit"`
}

// Use is what a making took off the shelf.
type Use struct {
	Run   int64  `json:"run"`
	Needs []Need `json:"needs"`
}

// Check reports the first thing wrong with a supply.
func (s *Supply) Check() error {
	switch {
	case units[s.What] == "":
		return fmt.Errorf("%.20q is no kind of supply; choose one that is listed", string(s.What))
	case strings.TrimSpace(s.Name) == "" || utf8.RuneCountInString(s.Name) > MaxText || !utf8.ValidString(s.Name):
		return fmt.Errorf("a supply has a name of at most %d characters", MaxText)
	case !(s.Left >= 0 && s.Left <= MaxAmount):
		return errors.New("what is left of it is nothing or more, up to a million")
	case s.Unit == "" || utf8.RuneCountInString(s.Unit) > 12:
		return errors.New("say what it is counted in: ml, g, cm, pieces")
	case s.Price < 0 || s.Price > MaxPrice*100:
		return errors.New("one of it costs between nothing and 10 000")
	}
	return nil
}

func (s *Stock) checkSupplies() error {
	if len(s.Supplies) > MaxSupplies {
		return fmt.Errorf("more than %d supplies; remove some", MaxSupplies)
	}
	if len(s.Used) > MaxUses {
		return fmt.Errorf("more than %d makings have taken from the shelf", MaxUses)
	}
	seen := map[string]bool{}
	for i := range s.Supplies {
		u := &s.Supplies[i]
		if err := u.Check(); err != nil {
			return err
		}
		if u.ID == "" || len(u.ID) > 20 || seen[u.ID] {
			return fmt.Errorf("supply id %.20q is empty, too long or stands twice", u.ID)
		}
		seen[u.ID] = true
	}
	return nil
}

// AddSupply puts a supply on the shelf; of one that is there already there is more.
func (s *Stock) AddSupply(u Supply) error {
	if u.Unit == "" {
		u.Unit = units[u.What]
	}
	u.Name = strings.TrimSpace(u.Name)
	if err := u.Check(); err != nil {
		return err
	}
	if o := s.Of(Need{What: u.What, Name: u.Name, Unit: u.Unit}); o != nil {
		if o.Left += u.Left; u.Price > 0 {
			o.Price = u.Price
		}
		return nil
	}
	u.ID = freeID("s", len(s.Supplies)+1, func(id string) bool {
		return slices.ContainsFunc(s.Supplies, func(o Supply) bool { return o.ID == id })
	})
	s.Supplies = append(s.Supplies, u)
	return nil
}

// Supply returns the supply with that id.
func (s *Stock) Supply(id string) (*Supply, error) {
	for i := range s.Supplies {
		if s.Supplies[i].ID == id {
			return &s.Supplies[i], nil
		}
	}
	return nil, errors.New("that supply is gone: it was removed or undone meanwhile; nothing was changed")
}

// RemoveSupply takes a supply off the shelf.
func (s *Stock) RemoveSupply(id string) {
	s.Supplies = slices.DeleteFunc(s.Supplies, func(u Supply) bool { return u.ID == id })
}

// Of finds the supply that a need is met from, nil where there is none.
func (s *Stock) Of(n Need) *Supply {
	for i := range s.Supplies {
		u := &s.Supplies[i]
		if u.What == n.What && u.Unit == n.Unit && strings.EqualFold(u.Name, n.Name) {
			return u
		}
	}
	return nil
}

// Short lists what there is too little of, by how much: only of what is counted at all.
func (s *Stock) Short(needs []Need) (out []Need) {
	for _, n := range needs {
		if u := s.Of(n); u != nil && u.Left < n.Amount {
			n.Amount = math.Ceil(10*(n.Amount-u.Left)) / 10
			out = append(out, n)
		}
	}
	return out
}

// Cost is what needs cost as far as prices are known, hundredths, and of how many they are.
func (s *Stock) Cost(needs []Need) (hundredths float64, known int) {
	for _, n := range needs {
		if u := s.Of(n); u != nil && u.Price > 0 {
			hundredths += float64(u.Price) / 100 * n.Amount
			known++
		}
	}
	return hundredths, known
}

// ErrTaken means that a making has taken its things off the shelf already.
var ErrTaken = errors.New("what this making used has come off the shelf already; undo that at Paper to do it again")

// Take takes what a making used off the shelf, as far as it is counted there; nothing becomes
// less than none.
func (s *Stock) Take(run int64, needs []Need) error {
	if s.TakenBy(run) {
		return ErrTaken
	}
	for _, n := range needs {
		if u := s.Of(n); u != nil {
			u.Left = math.Round(1000*max(0, u.Left-n.Amount)) / 1000
		}
	}
	s.Used = append(s.Used, Use{run, needs})
	return nil
}

// TakenBy reports whether a making has taken its things off the shelf.
func (s *Stock) TakenBy(run int64) bool {
	return slices.ContainsFunc(s.Used, func(u Use) bool { return u.Run == run })
}
