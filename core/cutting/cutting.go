// Package cutting answers "which sheets do I take, and where do I cut?" for
// parts of paper cut with a trimmer, that is with cuts from edge to edge only.
//
// An [Instance] lists stock and parts in whole nanometres; [Solve] returns a
// [Plan] that uses, in this order of importance, the cheapest stock (offcuts
// first), leaves the largest leftovers, and changes the trimmer's fence the
// fewest times.
//
// The method: patterns are priced by a dynamic programme over guillotine cuts
// (Gilmore and Gomory 1965, Beasley 1985), a small linear programme over them
// gives a bound and prices, and rounding with randomised filling of what is
// left gives whole sheets.
package cutting

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"strings"
)

// Limits of an instance.
const (
	MaxStock  = 500
	MaxParts  = 200            // kinds of parts
	MaxPieces = 20_000         // pieces of all kinds together
	MaxSide   = 20_000_000_000 // nm; 20 m, a roll
	MaxKerf   = 10_000_000     // nm; what a blade may take
)

// Instance is one cutting problem. All lengths are nanometres.
type Instance struct {
	Name  string  `json:"name"`
	Kerf  int64   `json:"kerf,omitempty"` // paper lost in each cut; 0 for a blade
	Stock []Stock `json:"stock"`
	Parts []Part  `json:"parts"`
}

// Grain is the direction of a sheet's grain, or the side of a part that must
// run along it.
type Grain string

// Grains of sheets and of parts.
const (
	AlongX  Grain = "x"
	AlongY  Grain = "y"
	NoGrain Grain = "none"
	AlongW  Grain = "w"
	AlongH  Grain = "h"
	Any     Grain = "any"
)

// Stock is a kind of sheet that is there.
type Stock struct {
	ID     string  `json:"id"`
	Type   string  `json:"type"` // of paper; parts go on stock of their type
	W      int64   `json:"w"`
	H      int64   `json:"h"`
	Qty    int     `json:"qty"` // -1 for as many as needed
	Offcut bool    `json:"offcut"`
	Grain  Grain   `json:"grain"` // x, y or none
	Cost   float64 `json:"cost"`
}

// Part is a kind of piece that is wanted.
type Part struct {
	ID     string `json:"id"`
	Type   string `json:"type"`
	W      int64  `json:"w"`
	H      int64  `json:"h"`
	Qty    int    `json:"qty"`
	Rotate bool   `json:"rotate"` // it may lie across, where its grain allows
	Grain  Grain  `json:"grain"`  // w, h or any
}

// Plan is a solved instance.
type Plan struct {
	Instance string  `json:"instance"`
	Sheets   []Sheet `json:"sheets"`
	Cuts     []Cut   `json:"cuts"`
	Cost     float64 `json:"cost"`
	Bound    float64 `json:"bound"`  // no plan can cost less
	Proven   bool    `json:"proven"` // the cost is the least there is
}

// Sheet is one sheet with what is cut from it.
type Sheet struct {
	Stock      string      `json:"stock"`
	Placements []Placement `json:"placements"`
	Leftovers  []Rect      `json:"leftovers"`
}

// Placement is one part on a sheet, measured from the sheet's bottom left
// corner.
type Placement struct {
	Part string `json:"part"`
	Rect
}

// Rect is a rectangle on a sheet.
type Rect struct {
	X int64 `json:"x"`
	Y int64 `json:"y"`
	W int64 `json:"w"`
	H int64 `json:"h"`
}

// Cut is one cut across a piece. Pieces begin as "S0", "S1" … by sheet.
type Cut struct {
	Sheet int       `json:"sheet"`
	Piece string    `json:"piece"`
	Axis  Axis      `json:"axis"`
	At    int64     `json:"at"`    // from the piece's left edge or bottom
	Fence int64     `json:"fence"` // what the trimmer is set to: At, or the rest
	Out   [2]string `json:"out"`   // the pieces below and above At
}

// Axis says how a cut runs: x is a vertical line, y a horizontal one.
type Axis string

// The two axes.
const (
	X Axis = "x"
	Y Axis = "y"
)

// An Infeasible error names the parts that cannot be cut, and why.
type Infeasible struct{ Reasons []string }

func (e *Infeasible) Error() string { return strings.Join(e.Reasons, "; ") }

// Read decodes and checks an instance; unknown fields are refused so that slips
// are noticed.
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
	switch {
	case len(in.Stock) > MaxStock:
		return fmt.Errorf("%d kinds of stock are more than %d", len(in.Stock), MaxStock)
	case len(in.Parts) > MaxParts:
		return fmt.Errorf("%d kinds of parts are more than %d", len(in.Parts), MaxParts)
	case in.Kerf < 0 || in.Kerf > MaxKerf:
		return fmt.Errorf("a cut cannot take %d nm; a kerf is 0 to %d", in.Kerf, MaxKerf)
	}
	seen := map[string]bool{}
	for _, s := range in.Stock {
		switch {
		case s.ID == "" || seen["s"+s.ID]:
			return fmt.Errorf("stock id %q is empty or stands twice", s.ID)
		case !side(s.W) || !side(s.H):
			return fmt.Errorf("stock %q: sides are more than nothing and at most 20 m", s.ID)
		case s.Qty < -1:
			return fmt.Errorf("stock %q: there cannot be %d sheets; -1 means as many as needed", s.ID, s.Qty)
		case !(s.Cost >= 0 && s.Cost < 1e9):
			return fmt.Errorf("stock %q: a cost of %g cannot be", s.ID, s.Cost)
		case s.Grain != AlongX && s.Grain != AlongY && s.Grain != NoGrain:
			return fmt.Errorf("stock %q: grain is x, y or none, not %q", s.ID, s.Grain)
		}
		seen["s"+s.ID] = true
	}
	pieces := 0
	for _, p := range in.Parts {
		switch {
		case p.ID == "" || seen["p"+p.ID]:
			return fmt.Errorf("part id %q is empty or stands twice", p.ID)
		case !side(p.W) || !side(p.H):
			return fmt.Errorf("part %q: sides are more than nothing and at most 20 m", p.ID)
		case p.Qty < 0:
			return fmt.Errorf("part %q: %d pieces cannot be cut", p.ID, p.Qty)
		case p.Grain != AlongW && p.Grain != AlongH && p.Grain != Any:
			return fmt.Errorf("part %q: grain is w, h or any, not %q", p.ID, p.Grain)
		}
		seen["p"+p.ID] = true
		if pieces += p.Qty; pieces > MaxPieces {
			return fmt.Errorf("more than %d pieces; cut them in several goes", MaxPieces)
		}
	}
	if pieces == 0 {
		return errors.New("there is nothing to cut: no part is wanted")
	}
	return nil
}

func side(v int64) bool { return v > 0 && v <= MaxSide }

// ways returns the sizes a part may have on a sheet of stock: as it is, across,
// or both.
func ways(p Part, s Stock) [][2]int64 {
	upright, across := [2]int64{p.W, p.H}, [2]int64{p.H, p.W}
	if p.Grain != Any && s.Grain != NoGrain {
		if (p.Grain == AlongW) == (s.Grain == AlongX) {
			return [][2]int64{upright}
		}
		return [][2]int64{across}
	}
	if p.Rotate && p.W != p.H {
		return [][2]int64{upright, across}
	}
	return [][2]int64{upright}
}

// fits reports whether a part can be cut from a sheet of stock at all.
func fits(p Part, s Stock) bool {
	if p.Type != s.Type {
		return false
	}
	for _, w := range ways(p, s) {
		if w[0] <= s.W && w[1] <= s.H {
			return true
		}
	}
	return false
}
