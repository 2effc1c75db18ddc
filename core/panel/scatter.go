package panel

import (
	"hash/fnv"
	"math"
	"math/rand/v2"

	"chromaqua/core/card"
	"chromaqua/core/lineart"
)

// MaxDrops is how many drops, dots or grains of one wash are placed, be its area ever so
// large.
const MaxDrops = 600

// A Drop is one drop, dot or grain, mm.
type Drop struct{ X, Y, R float64 }

// How sizes of drops vary, and how often a place is sought for one. Estimates: drops of a
// brush are spread log-normally.
const (
	dropSpread = 0.45
	dropTries  = 30
	meanSquare = 1.5 // of a radius, in usual ones: exp(2 × spread²)
)

// Scatter places what a wash of an area scatters, nil for one that scatters nothing: so
// many drops that they cover its share of the area, or [MaxDrops], within it. The same
// draw places them alike, whatever else is changed.
func (b *Board) Scatter(area, wash int) []Drop {
	a := &b.Areas[area]
	w := a.Washes[wash]
	facts := w.Technique.Facts()
	if facts.Drop == 0 || a.MM2 == 0 {
		return nil
	}
	n := min(MaxDrops, facts.Share*a.MM2/(math.Pi*facts.Drop*facts.Drop*meanSquare))
	name := fnv.New64a()
	_, _ = name.Write([]byte(card.WashRef(a.ID, wash)))
	r := rand.New(rand.NewPCG(uint64(w.Draw), name.Sum64()))
	var parts []Part
	for _, id := range a.Cells {
		parts = append(parts, b.Part(id))
	}
	bare := b.untaped()
	var out []Drop
	for range int(math.Ceil(n)) {
		part := &parts[weighted(r, parts, a.MM2)]
		size := facts.Drop * math.Exp(dropSpread*max(-2, min(2, r.NormFloat64())))
		box := boxOf(part)
		for range dropTries {
			p := lineart.Point{X: box[0].X + r.Float64()*(box[1].X-box[0].X), Y: box[0].Y + r.Float64()*(box[1].Y-box[0].Y)}
			if b.within(part, p) && bare(p) {
				out = append(out, Drop{p.X, p.Y, size})
				break
			}
		}
	}
	return out
}

// weighted draws a part by its area.
func weighted(r *rand.Rand, parts []Part, mm2 float64) int {
	at := r.Float64() * mm2
	for i := range parts {
		if at -= parts[i].AreaMM2; at < 0 {
			return i
		}
	}
	return len(parts) - 1
}

// boxOf is the corners round a part.
func boxOf(p *Part) [2]lineart.Point {
	lo, hi := p.Label, p.Label
	for _, ring := range p.Outline.Rings {
		for _, q := range ring {
			lo.X, lo.Y = min(lo.X, q.X), min(lo.Y, q.Y)
			hi.X, hi.Y = max(hi.X, q.X), max(hi.Y, q.Y)
		}
	}
	return [2]lineart.Point{lo, hi}
}

// untaped tells whether a place is not under the tape of a masked border.
func (b *Board) untaped() func(lineart.Point) bool {
	size, border := b.Card.PanelSize(), b.Card.Painting.Border.MM()
	right, bottom := size.W.MM()-border, size.H.MM()-border
	return func(p lineart.Point) bool {
		return p.X >= border && p.Y >= border && p.X <= right && p.Y <= bottom
	}
}

// within reports whether a place lies in a part.
func (b *Board) within(part *Part, p lineart.Point) bool {
	if !part.Zone {
		return b.At(p) == part.ID
	}
	return part.Outline.Contains(p)
}
