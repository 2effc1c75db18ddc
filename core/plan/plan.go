// Package plan answers "what is planned, in figures that anybody can check?": a
// card's steps with their times and what is wet when, as one document of plain
// values. It is what the command `plan` prints.
package plan

import (
	"fmt"

	"chromaqua/core/card"
	"chromaqua/core/mask"
	"chromaqua/core/order"
	"chromaqua/core/panel"
	"chromaqua/core/steps"
)

// Plan is the document. Ids are unique in it; times are whole seconds from the start.
type Plan struct {
	Card    string        `json:"card"`
	Total   order.Seconds `json:"total_s"`
	HandsOn order.Seconds `json:"hands_on_s"`
	Waiting order.Seconds `json:"waiting_s"`
	Bound   order.Seconds `json:"bound_s"` // no order is shorter
	Cells   []Cell        `json:"cells"`
	Areas   []Area        `json:"areas"`
	Touch   []Touch       `json:"touch"`
	Steps   []Step        `json:"steps"` // by start
	Heat    []Heat        `json:"heat"`  // by start
	Notes   []Note        `json:"notes"`
}

// Cell is one cell of the drawing.
type Cell struct {
	ID    string   `json:"id"`
	Piece string   `json:"piece"`
	Areas []string `json:"areas"`
	MM2   float64  `json:"mm2"`
	X     float64  `json:"x_mm"`
	Y     float64  `json:"y_mm"`
}

// Area is what is painted alike.
type Area struct {
	ID     string   `json:"id"`
	Piece  string   `json:"piece"`
	Cells  []string `json:"cells"`
	Washes []Wash   `json:"washes"`
}

// Wash is one wash of an area.
type Wash struct {
	Wash      int    `json:"wash"`
	Technique string `json:"technique"`
	Coats     int    `json:"coats"`
}

// Touch is a pair of cells in contact, also inside one area.
type Touch struct {
	A      string `json:"a"`
	B      string `json:"b"`
	Raised bool   `json:"raised"` // across a raised line, which holds wet paint apart
}

// Step is one operation on one copy. Gloss and Sheen run from its end until the first
// of its cells loses them, TouchDry and BoneDry until the last is, by air. A coat gone
// into is replaced by its successor, whose figures are the combined film's.
type Step struct {
	ID         string        `json:"id"`
	Copy       int           `json:"copy"`
	Item       int           `json:"item"`
	Piece      string        `json:"piece"`
	Pieces     []string      `json:"pieces,omitempty"` // that are done before they are mounted
	Kind       string        `json:"kind"`
	Title      string        `json:"title"`
	Why        string        `json:"why_now"`
	Area       string        `json:"area"`
	Wash       int           `json:"wash"` // -1 where it is none
	Coat       int           `json:"coat"`
	Cells      []string      `json:"cells"`
	Start      order.Seconds `json:"start_s"`
	End        order.Seconds `json:"end_s"`
	Water      float64       `json:"water_gm2"`
	Gloss      order.Seconds `json:"gloss_s"`
	Sheen      order.Seconds `json:"sheen_s"`
	TouchDry   order.Seconds `json:"touch_dry_s"`
	BoneDry    order.Seconds `json:"bone_dry_s"`
	IntoWet    []string      `json:"into_wet"`
	Together   string        `json:"together"`
	Joined     []string      `json:"joined"`
	Unattended bool          `json:"unattended"`
	Mask       string        `json:"mask,omitempty"` // what is laid or comes off: "fluid", "tape", "cut-out mask"
}

// Heat is one use of the heat tool.
type Heat struct {
	Copy  int           `json:"copy"`
	Item  int           `json:"item"`
	Piece string        `json:"piece"`
	Start order.Seconds `json:"start_s"`
	End   order.Seconds `json:"end_s"`
	For   string        `json:"for"`
	Dries []Dry         `json:"dries"`
}

// Dry is how many times faster than air a step's coat dries meanwhile.
type Dry struct {
	Step   string  `json:"step"`
	Factor float64 `json:"factor"`
}

// Note is what the maker wants and cannot have, and what would free it.
type Note struct {
	What  string   `json:"what"`
	Why   string   `json:"why"`
	Way   string   `json:"way"`
	Cells []string `json:"cells"`
}

// noWash stands in the document where a step is on no wash.
const noWash = -1

// Of makes the document of a card's plan and its schedule.
func Of(c *card.Card, p *steps.Plan, s *order.Schedule) *Plan {
	d := &Plan{
		Card: c.Name, Total: s.Makespan, HandsOn: s.HandsOn(p.Instance), Bound: s.Bound,
		Cells: []Cell{}, Areas: []Area{}, Touch: []Touch{}, Steps: []Step{}, Heat: []Heat{}, Notes: []Note{},
	}
	d.Waiting = d.Total - d.HandsOn
	for i := range p.Pieces {
		if p.Pieces[i].Board != nil {
			d.piece(p, i)
		}
	}
	for i, why := range p.Reasons(s) {
		d.Steps = append(d.Steps, stepOf(p, s.Ops[i], why.Now))
	}
	d.Heat = append(d.Heat, heatOf(p, s)...)
	for _, n := range p.Notes {
		d.Notes = append(d.Notes, Note{n.What, n.Why, n.Way, patchIDs(&p.Pieces[n.Piece], n.Cells)})
	}
	return d
}

// piece adds the patches of a piece, its areas that are painted, and what touches.
func (d *Plan) piece(p *steps.Plan, i int) {
	of := &p.Pieces[i]
	b := of.Board
	areas := map[int][]string{} // by patch
	for k, a := range b.Areas {
		for _, id := range b.Reaches(k, a.Cells) {
			areas[id] = append(areas[id], a.ID)
		}
	}
	for _, c := range b.Patches() {
		on := areas[c.ID]
		if on == nil {
			on = []string{}
		}
		d.Cells = append(d.Cells, Cell{ID: patchID(of, c.ID), Piece: of.ID, Areas: on, MM2: c.MM2, X: c.At.X, Y: c.At.Y})
	}
	planned := map[int]bool{}
	for _, st := range p.Steps {
		if st.On != nil && st.Piece == i {
			planned[st.On.Area] = true
		}
	}
	for k := range b.Areas {
		if planned[k] {
			d.Areas = append(d.Areas, areaOf(of, k))
		}
	}
	for _, t := range b.PatchContacts() {
		d.Touch = append(d.Touch, Touch{patchID(of, t.A), patchID(of, t.B), t.Raised})
	}
}

// patchID names a patch in the document: "c3" of the panel, "p1.c3" of a piece.
func patchID(of *panel.Piece, id int) string {
	if of.ID == card.ThePanel {
		return fmt.Sprintf("c%d", id)
	}
	return fmt.Sprintf("%s.c%d", of.ID, id)
}

// patchIDs names the patches of cells and pieces of zones.
func patchIDs(of *panel.Piece, cells []int) []string {
	if of.Board == nil {
		return []string{}
	}
	return namesOf(of, of.Board.PatchesOf(cells))
}

func namesOf(of *panel.Piece, patches []int) []string {
	out := []string{}
	for _, id := range patches {
		out = append(out, patchID(of, id))
	}
	return out
}

// CellIDs names cells of a piece as the document does.
func CellIDs(piece string, b *panel.Board, cells []int) []string {
	return patchIDs(&panel.Piece{ID: piece, Board: b}, cells)
}

func stepID(p *steps.Plan, id int) string {
	return fmt.Sprintf("%s/%d", p.Pieces[p.Steps[id].Piece].ID, id)
}

func stepIDs(p *steps.Plan, ids []int) []string {
	out := []string{}
	for _, id := range ids {
		out = append(out, stepID(p, id))
	}
	return out
}

func areaOf(of *panel.Piece, k int) Area {
	a := of.Board.Areas[k]
	v := Area{ID: a.ID, Piece: of.ID, Cells: namesOf(of, of.Board.Reaches(k, a.Cells)), Washes: []Wash{}}
	for k, w := range a.Washes {
		v.Washes = append(v.Washes, Wash{k, string(w.Technique), 1})
	}
	return v
}

func stepOf(p *steps.Plan, at order.Placed, why string) Step {
	st, op := &p.Steps[at.Op], &p.Instance.Ops[at.Op]
	of := &p.Pieces[st.Piece]
	v := Step{
		ID: stepID(p, st.ID), Copy: at.Copy, Item: st.Item, Piece: of.ID, Kind: string(st.Kind), Title: st.Title, Why: why,
		Wash: noWash, Cells: patchIDs(of, st.Cells), Start: at.Start, End: at.End, Water: float64(st.Water),
		Gloss: order.Floor(st.Gloss), Sheen: order.Floor(st.Open), TouchDry: op.Dry, BoneDry: op.Bone,
		IntoWet: stepIDs(p, st.IntoWet), Together: string(st.Together), Joined: stepIDs(p, st.Joined), Unattended: st.Unattended,
	}
	v.Mask = maskOf(of, st)
	if st.On != nil {
		v.Cells = namesOf(of, of.Board.Reaches(st.On.Area, st.Cells))
		if v.Area = p.AreaOf(st).ID; st.On.Wash != steps.Wetting {
			v.Wash = st.On.Wash
		}
	}
	for _, i := range st.Mounts {
		v.Pieces = append(v.Pieces, p.Pieces[i].ID)
	}
	if st.Kind == steps.Mount && len(v.Pieces) == 0 {
		v.Pieces = []string{unworked}
	}
	return v
}

// unworked stands for what is mounted and was only cut: a mat on its base.
const unworked = "cut only"

// maskOf names the mask that a step lays or takes off, "" for none.
func maskOf(of *panel.Piece, st *steps.Step) string {
	if st.Kind != steps.Mask && st.Kind != steps.Unmask {
		return ""
	}
	r, err := of.Board.Card.ReserveByID(string(st.Deed))
	switch {
	case err != nil:
		return ""
	case r.Way == mask.Paper:
		return "cut-out mask"
	}
	return string(r.Way)
}

// heatOf lists the passes with how much faster each dries its coat: as much as it
// takes to reach the goal at its end.
func heatOf(p *steps.Plan, s *order.Schedule) (out []Heat) {
	type spot struct{ op, copy int }
	at := map[spot]order.Placed{}
	for _, o := range s.Ops {
		at[spot{o.Op, o.Copy}] = o
	}
	for i, h := range s.Heat {
		earlier := order.Schedule{Heat: s.Heat[:i]}
		ready := earlier.DryAt(p.Instance, at[spot{h.Op, h.Copy}], h.For)
		factor := max(1, float64(ready-h.Start)/float64(h.End-h.Start))
		st := &p.Steps[h.Op]
		out = append(out, Heat{Copy: h.Copy, Item: st.Item, Piece: p.Pieces[st.Piece].ID, Start: h.Start, End: h.End, For: p.HeatFor(h), Dries: []Dry{{stepID(p, h.Op), factor}}})
	}
	return out
}
