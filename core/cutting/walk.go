package cutting

import "fmt"

// A Step is one cut as the maker makes it.
type Step struct {
	Cut
	From Rect // the piece that is cut, where it lay on its sheet
	Line Line // the cut on its sheet
}

// Line is a cut as drawn on a sheet, from its bottom left corner.
type Line struct{ X1, Y1, X2, Y2 int64 }

// Steps follows the cuts of a plan over its sheets. It fails on a plan that is
// not one of in's.
func (p *Plan) Steps(in *Instance) ([]Step, error) {
	stock := map[string]Stock{}
	for _, s := range in.Stock {
		stock[s.ID] = s
	}
	pieces := map[string]Rect{}
	for i, sh := range p.Sheets {
		s, ok := stock[sh.Stock]
		if !ok {
			return nil, fmt.Errorf("sheet %d: there is no stock %q", i, sh.Stock)
		}
		pieces[fmt.Sprintf("S%d", i)] = Rect{0, 0, s.W, s.H}
	}
	var out []Step
	for _, c := range p.Cuts {
		from, ok := pieces[c.Piece]
		if !ok {
			return nil, fmt.Errorf("there is no piece %q to cut", c.Piece)
		}
		a, b, line := from, from, Line{}
		if c.Axis == X {
			a.W, b.X, b.W = c.At, from.X+c.At+in.Kerf, from.W-c.At-in.Kerf
			line = Line{from.X + c.At, from.Y, from.X + c.At, from.Y + from.H}
		} else {
			a.H, b.Y, b.H = c.At, from.Y+c.At+in.Kerf, from.H-c.At-in.Kerf
			line = Line{from.X, from.Y + c.At, from.X + from.W, from.Y + c.At}
		}
		delete(pieces, c.Piece)
		pieces[c.Out[0]], pieces[c.Out[1]] = a, b
		out = append(out, Step{c, from, line})
	}
	return out, nil
}
