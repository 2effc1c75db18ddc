package paper

import (
	"fmt"

	"chromaqua/core/card"
	"chromaqua/core/cutting"
	"chromaqua/core/fold"
	"chromaqua/core/length"
)

// MaxCopies bounds the copies of one card in a job.
const MaxCopies = 1000

// Job is a card to be cut for, so many times.
type Job struct {
	Card   *card.Card
	Copies int
}

// Part is a kind of piece that jobs need.
type Part struct {
	cutting.Part
	What string // "base of …"
}

// Parts lists what jobs need. Pieces of the same size and paper are one part.
func Parts(jobs []Job) ([]Part, error) {
	var out []Part
	for _, j := range jobs {
		if j.Copies < 1 || j.Copies > MaxCopies {
			return nil, fmt.Errorf("%d copies of %q are outside 1 to %d", j.Copies, j.Card.Name, MaxCopies)
		}
		c := j.Card
		blank := fold.BlankFor(c.Base.Front, c.Base.Fold)
		grain := cutting.AlongH // as drawn, the grain runs upright
		if blank.Grain == fold.Horizontal {
			grain = cutting.AlongW
		}
		if len(blank.Scores) == 0 {
			grain = cutting.Any
		}
		out = add(out, "base", c, c.Base.Paper, blank.Size, grain, j.Copies)
		if c.Mat.On {
			out = add(out, "mat", c, c.Mat.Paper, c.MatSize(), cutting.Any, j.Copies)
		}
		out = add(out, "panel", c, c.Paper, c.Panel(), cutting.Any, j.Copies)
	}
	return out, nil
}

// add merges a piece into parts.
func add(parts []Part, what string, c *card.Card, paper string, s length.Size, grain cutting.Grain, n int) []Part {
	label := what + " of " + c.Name
	for i := range parts {
		p := &parts[i]
		if p.Type == paper && p.W == int64(s.W) && p.H == int64(s.H) && p.Grain == grain {
			p.Qty += n
			p.What += ", " + label
			return parts
		}
	}
	return append(parts, Part{cutting.Part{
		ID: fmt.Sprintf("%s %d", what, len(parts)+1), Type: paper, W: int64(s.W), H: int64(s.H), Qty: n, Rotate: true, Grain: grain,
	}, label})
}

// Instance asks for parts to be cut from the stock, without the items that use
// says not to take; use may be nil. A new sheet costs 1 and an offcut nothing,
// so that offcuts go first and the fewest sheets are begun.
func (s *Stock) Instance(name string, parts []Part, use func(Item) bool) *cutting.Instance {
	in := &cutting.Instance{Name: name}
	for _, p := range parts {
		in.Parts = append(in.Parts, p.Part)
	}
	for _, it := range s.Items {
		if it.Qty == 0 || use != nil && !use(it) {
			continue
		}
		st := cutting.Stock{ID: it.ID, Type: it.Paper, W: int64(it.Size.W), H: int64(it.Size.H), Qty: it.Qty, Offcut: it.Kind == Offcut, Grain: cutting.NoGrain, Cost: 1}
		switch it.Grain {
		case AlongWidth:
			st.Grain = cutting.AlongX
		case AlongHeight:
			st.Grain = cutting.AlongY
		}
		if st.Offcut {
			st.Cost = 0
		}
		in.Stock = append(in.Stock, st)
	}
	return in
}

// Bill is what a plan costs and wastes.
type Bill struct {
	Sheets  int     // begun, offcuts not counted
	Offcuts int     // used up
	Price   int     // of the sheets begun, hundredths
	Waste   float64 // share of the paper used that is neither part nor kept
}

// BillOf adds a plan up.
func (s *Stock) BillOf(p *cutting.Plan) Bill {
	var b Bill
	area := func(r cutting.Rect) float64 { return float64(r.W) / 1e6 * float64(r.H) / 1e6 }
	all, useful := 0.0, 0.0
	for _, sh := range p.Sheets {
		it, err := s.Item(sh.Stock)
		if err != nil {
			continue
		}
		if it.Kind == Offcut {
			b.Offcuts++
		} else {
			b.Sheets++
			b.Price += it.Price
		}
		all += it.Size.W.MM() * it.Size.H.MM()
		for _, pl := range sh.Placements {
			useful += area(pl.Rect)
		}
		for _, r := range sh.Leftovers {
			if s.Keeps(length.Size{W: length.Length(r.W), H: length.Length(r.H)}) {
				useful += area(r)
			}
		}
	}
	if all > 0 {
		b.Waste = 1 - useful/all
	}
	return b
}
