package panel

import (
	"math"
	"strings"

	"chromaqua/core/mask"
)

// A Spread is where a wash goes, in squares: what is laid, and what is masked meanwhile.
type Spread struct {
	W, H       int
	In, Masked []bool // Masked is nil where nothing is
}

// mostly is how much of an outline has to be straight for tape to stand for all of it.
const mostly = 0.6

// Spread returns where a wash of an area goes that is laid on some of its parts, in squares
// so many mm wide; as is also what it stands in for, to be told from others.
func (b *Board) Spread(area, wash int, parts []int, mm float64) (s Spread, key string) {
	g := b.Sheet.gridOf()
	within := map[int]bool{} // patches
	for _, id := range b.Reaches(area, parts) {
		within[id] = true
	}
	kept := map[int]bool{}
	for _, i := range b.KeptFrom(area) {
		if r := &b.Reserves[i]; r.Way.Or().Facts().Lays && (r.Way != mask.Tape || b.Shape(r).Straight > mostly*r.EdgeMM) && b.Within(r, area, wash) {
			for _, id := range r.Patches {
				kept[id] = true
			}
		}
	}
	size := b.Card.PanelSize()
	s.W, s.H = int(math.Ceil(size.W.MM()/mm)), int(math.Ceil(size.H.MM()/mm))
	s.In = make([]bool, s.W*s.H)
	if len(kept) > 0 {
		s.Masked = make([]bool, len(s.In))
	}
	var marks strings.Builder
	for i := range s.In {
		x := min(g.w-1, int((float64(i%s.W)+0.5)*mm/gridMM))
		y := min(g.h-1, int((float64(i/s.W)+0.5)*mm/gridMM))
		at := g.cell[y*g.w+x]
		patch := int(at)
		if b.overlay != nil {
			if patch = 0; b.overlay.sig[y*g.w+x] > 0 {
				patch = b.overlay.patches[b.overlay.sig[y*g.w+x]-1].ID
			}
		}
		switch {
		case kept[patch]:
			s.Masked[i] = true
			marks.WriteByte('m')
		case within[patch]:
			s.In[i] = true
			marks.WriteByte('i')
		default:
			marks.WriteByte('.')
		}
	}
	return s, marks.String()
}

// Remember is what was made of a sheet under a key before, or is made now.
func (s *Sheet) Remember(key string, made func() any) any {
	if s.squares == nil {
		return made()
	}
	return kept(&s.squares.mu, &s.squares.made, key, made)
}

// Anew is the same sheet with nothing remembered of it.
func (s *Sheet) Anew() *Sheet {
	out := *s
	out.squares = &squares{}
	return &out
}
