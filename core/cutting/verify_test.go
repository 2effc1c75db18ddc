package cutting_test

import (
	"fmt"

	"chromaqua/core/cutting"
)

// verify is written apart from the solver: it makes every cut of a plan on real
// pieces and looks at what comes out.
func verify(in *cutting.Instance, p *cutting.Plan) error {
	stock, parts := map[string]cutting.Stock{}, map[string]cutting.Part{}
	for _, s := range in.Stock {
		stock[s.ID] = s
	}
	for _, q := range in.Parts {
		parts[q.ID] = q
	}
	pieces := map[string]piece{}
	used, made, cost := map[string]int{}, map[string]int{}, 0.0
	for i, sh := range p.Sheets {
		s, ok := stock[sh.Stock]
		if !ok {
			return fmt.Errorf("sheet %d: unknown stock %q", i, sh.Stock)
		}
		used[s.ID]++
		cost += s.Cost
		pieces[fmt.Sprintf("S%d", i)] = piece{cutting.Rect{W: s.W, H: s.H}, i}
		if err := apart(sh, s); err != nil {
			return fmt.Errorf("sheet %d: %w", i, err)
		}
		for _, pl := range sh.Placements {
			q, ok := parts[pl.Part]
			if !ok || q.Type != s.Type {
				return fmt.Errorf("sheet %d: part %q does not belong here", i, pl.Part)
			}
			if !lies(q, s, pl.Rect) {
				return fmt.Errorf("sheet %d: part %q lies wrong: %d × %d", i, q.ID, pl.W, pl.H)
			}
			made[q.ID]++
		}
	}
	for id, n := range used {
		if q := stock[id].Qty; q >= 0 && n > q {
			return fmt.Errorf("%d sheets of %q, there are %d", n, id, q)
		}
	}
	for _, q := range in.Parts {
		if made[q.ID] != q.Qty {
			return fmt.Errorf("%d of part %q, %d are wanted", made[q.ID], q.ID, q.Qty)
		}
	}
	if d := cost - p.Cost; d > 1e-6 || d < -1e-6 {
		return fmt.Errorf("the cost is %g, not %g", cost, p.Cost)
	}
	for _, c := range p.Cuts {
		if err := divide(c, in.Kerf, pieces); err != nil {
			return err
		}
	}
	return come(p, pieces)
}

// piece is a rectangle of a sheet that lies on the table.
type piece struct {
	cutting.Rect
	sheet int
}

// lies reports whether a part may lie on a sheet as it does.
func lies(q cutting.Part, s cutting.Stock, r cutting.Rect) bool {
	upright, across := r.W == q.W && r.H == q.H, r.W == q.H && r.H == q.W
	if q.Grain != cutting.Any && s.Grain != cutting.NoGrain {
		alongW := upright && s.Grain == cutting.AlongX || across && s.Grain == cutting.AlongY
		alongH := upright && s.Grain == cutting.AlongY || across && s.Grain == cutting.AlongX
		return q.Grain == cutting.AlongW && alongW || q.Grain == cutting.AlongH && alongH
	}
	return upright || q.Rotate && across
}

// apart checks that parts and leftovers lie on the sheet and not on each other.
func apart(sh cutting.Sheet, s cutting.Stock) error {
	all := append([]cutting.Rect{}, sh.Leftovers...)
	for _, p := range sh.Placements {
		all = append(all, p.Rect)
	}
	for i, a := range all {
		if a.X < 0 || a.Y < 0 || a.W <= 0 || a.H <= 0 || a.X+a.W > s.W || a.Y+a.H > s.H {
			return fmt.Errorf("%+v is off the sheet", a)
		}
		for _, b := range all[:i] {
			if a.X < b.X+b.W && b.X < a.X+a.W && a.Y < b.Y+b.H && b.Y < a.Y+a.H {
				return fmt.Errorf("%+v lies on %+v", a, b)
			}
		}
	}
	return nil
}

// divide makes a cut.
func divide(c cutting.Cut, kerf int64, pieces map[string]piece) error {
	from, ok := pieces[c.Piece]
	if !ok || from.sheet != c.Sheet {
		return fmt.Errorf("cut of %q, which is not there", c.Piece)
	}
	delete(pieces, c.Piece)
	side := from.W
	if c.Axis == cutting.Y {
		side = from.H
	}
	rest := side - c.At - kerf
	if c.At <= 0 || c.At >= side {
		return fmt.Errorf("cut %+v misses its piece of %d", c, side)
	}
	if c.Fence != c.At && c.Fence != rest {
		return fmt.Errorf("cut %+v: the fence measures neither piece", c)
	}
	a, b := from, from
	if c.Axis == cutting.X {
		a.W, b.X, b.W = c.At, from.X+c.At+kerf, rest
	} else {
		a.H, b.Y, b.H = c.At, from.Y+c.At+kerf, rest
	}
	pieces[c.Out[0]] = a
	if rest > 0 {
		pieces[c.Out[1]] = b
	}
	return nil
}

// come checks that what lies on the table after all cuts are the parts and
// leftovers of the plan, each where the plan has it.
func come(p *cutting.Plan, pieces map[string]piece) error {
	lie := map[piece]int{}
	for _, q := range pieces {
		lie[q]++
	}
	for i, sh := range p.Sheets {
		for _, r := range append([]cutting.Rect{}, sh.Leftovers...) {
			lie[piece{r, i}]--
		}
		for _, pl := range sh.Placements {
			lie[piece{pl.Rect, i}]--
		}
	}
	for q, n := range lie {
		if n != 0 {
			return fmt.Errorf("piece %+v: %+d after the cuts", q, n)
		}
	}
	return nil
}
