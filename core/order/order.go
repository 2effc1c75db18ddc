// Package order answers "in which order do I paint this, and when?" for one
// painter and one or more copies of a card.
//
// An [Instance] lists operations with durations and drying times in whole
// seconds, and what must hold between them; [Solve] returns a [Schedule]. The
// package knows nothing of cards: steps makes instances from them.
//
// Every card has a drying clock, which runs at the speed of time and
// [Heat].Factor times as fast while the heat tool points at it. A coat that
// ends at e is dry when the clock has advanced by Op.Dry since e.
package order

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
)

// Limits on an instance.
const (
	MaxOps     = 3000           // operations of one copy
	MaxCopies  = 200            // copies
	MaxPlaced  = 20_000         // operations × copies
	MaxSeconds = 14 * 24 * 3600 // any single time
)

// Instance is one problem: copies of one card and the painter's bench.
type Instance struct {
	Name     string   `json:"name"`
	Copies   int      `json:"copies"`
	Rack     int      `json:"rack"`  // wet cards that find room beside the one being painted
	Rinse    int      `json:"rinse"` // s to change the colour in the brush
	Swap     int      `json:"swap"`  // s to change cards
	Heat     Heat     `json:"heat"`
	Regions  []Region `json:"regions"`
	Adjacent [][2]int `json:"adjacent"` // regions that touch across a line that is not raised
	Raised   [][2]int `json:"raised"`   // regions that touch across a raised line, which holds
	Ops      []Op     `json:"ops"`
	Arcs     []Arc    `json:"arcs"`
	Joins    []Join   `json:"joins"`
}

// Heat says whether and how the heat tool may be used.
type Heat struct {
	Allowed  bool `json:"allowed"`
	Factor   int  `json:"factor"`   // how many times faster the drying clock runs
	Min      int  `json:"min"`      // shortest pass, s
	WithMask bool `json:"withMask"` // it may be used while a mask is on
}

// Region is a place on the card; x and y are shares of its width and height.
type Region struct {
	ID int     `json:"id"`
	X  float64 `json:"x"`
	Y  float64 `json:"y"`
}

// Op is one operation on each copy.
type Op struct {
	ID       int    `json:"id"`
	Kind     string `json:"kind"` // "mask" and "unmask" matter to heat; others are names
	Regions  []int  `json:"regions"`
	Color    int    `json:"color"` // what is in the brush; 0 = no brush
	Dur      int    `json:"dur"`   // s
	Dry      int    `json:"dry"`   // s on the drying clock after its end until touch-dry
	Bone     int    `json:"bone"`  // s on the drying clock until bone dry
	Attended bool   `json:"attended"`
}

// ArcType is what an [Arc] demands.
type ArcType string

// The kinds of arcs, all from the end of one operation to the start of another.
const (
	After ArcType = "after" // at least Min seconds later
	Dry   ArcType = "dry"   // and the first one touch-dry
	Bone  ArcType = "bone"  // and the first one bone dry
	Wet   ArcType = "wet"   // at least Min seconds later, the clock advanced by at most Max
)

// Arc is a precedence between two operations of the same copy.
type Arc struct {
	From int     `json:"from"`
	To   int     `json:"to"`
	Type ArcType `json:"type"`
	Min  int     `json:"min,omitempty"`
	Max  int     `json:"max,omitempty"`
}

// Join ties two operations that should run into each other: in either order,
// the later starts while the clock since the end of the earlier is in 0…Max.
type Join struct {
	A   int `json:"a"`
	B   int `json:"b"`
	Max int `json:"max"`
}

// Schedule is a timed order. Every operation of every copy occurs once.
type Schedule struct {
	Instance string   `json:"instance"`
	Makespan int      `json:"makespan"` // s
	Ops      []Placed `json:"ops"`      // by start
	Heat     []Pass   `json:"heat"`     // by start
	Changes  int      `json:"colorChanges"`
	Waits    int      `json:"waits"` // idle stretches of at least 20 s before a step
	Bound    int      `json:"bound"` // no order can be shorter, s
}

// Placed is one operation with its time, s from the start.
type Placed struct {
	Op    int `json:"op"`
	Copy  int `json:"copy"`
	Start int `json:"start"`
	End   int `json:"end"`
}

// Pass is one use of the heat tool.
type Pass struct {
	Copy  int `json:"copy"`
	Start int `json:"start"`
	End   int `json:"end"`
}

// HandsOn returns the seconds the painter is busy: attended operations and
// heating.
func (s *Schedule) HandsOn(in *Instance) (sum int) {
	attended := map[int]bool{}
	for _, o := range in.Ops {
		attended[o.ID] = o.Attended
	}
	for _, p := range s.Ops {
		if attended[p.Op] {
			sum += p.End - p.Start
		}
	}
	for _, h := range s.Heat {
		sum += h.End - h.Start
	}
	return sum
}

// After returns the time at which the drying clock of a copy has advanced by
// need seconds since t.
func (s *Schedule) After(in *Instance, copy, t, need int) int {
	now := t
	for _, h := range s.Heat { // by start
		if h.Copy != copy || h.End <= now {
			continue
		}
		if gap := h.Start - now; gap > 0 {
			if need <= gap {
				break
			}
			need -= gap
			now = h.Start
		}
		if gain := (h.End - now) * in.Heat.Factor; need <= gain {
			return now + (need+in.Heat.Factor-1)/in.Heat.Factor
		}
		need -= (h.End - now) * in.Heat.Factor
		now = h.End
	}
	return now + need
}

// ErrNoOrder means that the demands contradict each other.
var ErrNoOrder = errors.New("no order satisfies all demands: some operations must meet while wet, but cannot all be reached in time; loosen or remove a join")

// Read decodes and checks an instance; unknown fields are refused so that
// slips are noticed.
func Read(r io.Reader) (*Instance, error) {
	d := json.NewDecoder(r)
	d.DisallowUnknownFields()
	var in Instance
	if err := d.Decode(&in); err != nil {
		return nil, fmt.Errorf("reading the instance: %w", err)
	}
	return &in, in.Check()
}

// Check reports the first thing wrong with an instance.
func (in *Instance) Check() error {
	switch n := len(in.Ops); {
	case n == 0:
		return errors.New("there is nothing to paint: the instance has no operations")
	case n > MaxOps:
		return fmt.Errorf("%d operations are more than %d", n, MaxOps)
	case in.Copies < 1 || in.Copies > MaxCopies:
		return fmt.Errorf("%d copies are outside 1 to %d", in.Copies, MaxCopies)
	case n*in.Copies > MaxPlaced:
		return fmt.Errorf("%d operations on %d copies are more than %d together", n, in.Copies, MaxPlaced)
	case in.Rack < 0:
		return errors.New("the rack cannot hold fewer than no cards")
	}
	for name, v := range map[string]int{"rinse": in.Rinse, "swap": in.Swap, "heat.min": in.Heat.Min} {
		if err := seconds(name, v); err != nil {
			return err
		}
	}
	if in.Heat.Allowed && (in.Heat.Factor < 1 || in.Heat.Factor > 1000) {
		return fmt.Errorf("a heat factor of %d is outside 1 to 1000", in.Heat.Factor)
	}
	seen := map[int]bool{}
	for _, o := range in.Ops {
		if seen[o.ID] {
			return fmt.Errorf("operation %d stands twice", o.ID)
		}
		seen[o.ID] = true
		for name, v := range map[string]int{"dur": o.Dur, "dry": o.Dry, "bone": o.Bone} {
			if err := seconds(fmt.Sprintf("operation %d: %s", o.ID, name), v); err != nil {
				return err
			}
		}
	}
	for _, a := range in.Arcs {
		if !seen[a.From] || !seen[a.To] || a.From == a.To {
			return fmt.Errorf("an arc joins operations %d and %d, which are not two operations of the instance", a.From, a.To)
		}
		if a.Type != After && a.Type != Dry && a.Type != Bone && a.Type != Wet {
			return fmt.Errorf("arc %d → %d: %q is no type; use after, dry, bone or wet", a.From, a.To, a.Type)
		}
		if err := errors.Join(seconds("arc min", a.Min), seconds("arc max", a.Max)); err != nil {
			return err
		}
	}
	for _, j := range in.Joins {
		if !seen[j.A] || !seen[j.B] || j.A == j.B {
			return fmt.Errorf("a join ties operations %d and %d, which are not two operations of the instance", j.A, j.B)
		}
		if err := seconds("join max", j.Max); err != nil {
			return err
		}
	}
	return nil
}

func seconds(name string, v int) error {
	if v < 0 || v > MaxSeconds {
		return fmt.Errorf("%s: %d s is outside 0 to %d", name, v, MaxSeconds)
	}
	return nil
}
