package paper

import (
	"errors"
	"fmt"
	"strings"

	"chromaqua/core/card"
	"chromaqua/core/cutting"
	"chromaqua/core/fold"
	"chromaqua/core/length"
	"chromaqua/core/shelf"
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
		blank := c.Blank()
		grain := cutting.AlongH // as drawn, the grain runs upright
		if blank.Grain == fold.Horizontal {
			grain = cutting.AlongW
		}
		if len(blank.Scores) == 0 {
			grain = cutting.Any
		}
		out = add(out, "base", c, kindOf(c.Base.Paper, c.Base.Colour), blank.Size, grain, j.Copies)
		for i, l := range c.Layers {
			out = add(out, c.LayerName(i), c, kindOf(l.Paper, l.Colour), c.LayerSize(i), cutting.Any, j.Copies)
		}
		if c.Insert != nil {
			out = add(out, "insert", c, kindOf(c.Insert.Paper, c.Insert.Colour), c.InsertSize(), cutting.Any, j.Copies)
		}
		for _, s := range c.PieceSheets() {
			out = add(out, s.What, c, kindOf(s.Paper, s.Colour), s.Size, cutting.Any, j.Copies*s.Many)
		}
		if c.Window != nil {
			continue // the panel is cut out of a sheet that is painted already
		}
		out = add(out, "panel", c, kindOf(c.Paper, ""), c.SheetSize(), cutting.Any, j.Copies)
	}
	return out, nil
}

// kindOf names what a part is cut from: a paper of the shelf, of any colour or
// of one.
func kindOf(paper, colour string) string {
	if colour == "" {
		return paper
	}
	return paper + ", " + strings.ToLower(strings.TrimSpace(colour))
}

// kindName says in words what [kindOf] names.
func kindName(kind string) string {
	id, colour, is := strings.Cut(kind, ", ")
	name := id
	if p, err := shelf.PaperByID(id); err == nil {
		name = p.Name
	}
	if is {
		name += ", " + colour
	}
	return name
}

// Worded says why a job cannot be cut with papers and parts called by name, where
// err is a [*cutting.Infeasible]; other errors stay as they are.
func Worded(err error, parts []Part) error {
	var no *cutting.Infeasible
	if !errors.As(err, &no) {
		return err
	}
	var replace []string
	for _, p := range parts {
		replace = append(replace, fmt.Sprintf("%q", p.Type), kindName(p.Type), fmt.Sprintf("part %q", p.ID), "the "+p.What)
	}
	return errors.New(strings.NewReplacer(replace...).Replace(err.Error()))
}

// add merges a piece into parts.
func add(parts []Part, what string, c *card.Card, kind string, s length.Size, grain cutting.Grain, n int) []Part {
	label := what + " of " + c.Name
	for i := range parts {
		p := &parts[i]
		if p.Type == kind && p.W == int64(s.W) && p.H == int64(s.H) && p.Grain == grain {
			p.Qty += n
			p.What += ", " + label
			return parts
		}
	}
	return append(parts, Part{cutting.Part{
		ID: fmt.Sprintf("%s %d", what, len(parts)+1), Type: kind, W: int64(s.W), H: int64(s.H), Qty: n, Rotate: true, Grain: grain,
	}, label})
}

// Instance asks for parts to be cut from the stock, without the items that use
// says not to take; use may be nil. A new sheet costs 1 and an offcut nothing,
// so that offcuts go first and the fewest sheets are begun. Paper of a colour
// that some part asks for is kept for such parts; parts of any colour are cut
// from the rest, or where nothing else is left share the colour there is most
// of.
func (s *Stock) Instance(name string, parts []Part, use func(Item) bool) *cutting.Instance {
	in := &cutting.Instance{Name: name}
	wanted := map[string]bool{}
	for _, p := range parts {
		in.Parts = append(in.Parts, p.Part)
		wanted[p.Type] = true
	}
	for _, it := range s.Items {
		if it.Qty == 0 || use != nil && !use(it) {
			continue
		}
		st := cutting.Stock{ID: it.ID, Type: it.Paper, W: int64(it.Size.W), H: int64(it.Size.H), Qty: it.Qty, Offcut: it.Kind == Offcut, Grain: cutting.NoGrain, Cost: 1}
		if kind := kindOf(it.Paper, it.Colour); wanted[kind] {
			st.Type = kind
		}
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
	shareColours(in)
	return in
}

// shareColours lets parts of any colour, where every colour of their paper is
// asked for by others, take the one there is most of.
func shareColours(in *cutting.Instance) {
	for i := range in.Parts {
		p := &in.Parts[i]
		any := p.Type
		most := 0.0
		for _, st := range in.Stock {
			if st.Type == any {
				most = -1
				break
			}
			if area := float64(st.W) * float64(st.H) * float64(st.Qty); strings.HasPrefix(st.Type, any+", ") && area > most {
				most, p.Type = area, st.Type
			}
		}
		if most < 0 {
			p.Type = any
		}
	}
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
