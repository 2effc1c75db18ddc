package panel

import (
	"errors"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/lineart"
)

// Limits of dots that are strewn, and the distance they keep from each other and from edges.
const (
	MaxStrewn = 1000
	LeastDot  = length.Millimetre / 5
	MostDot   = 10 * length.Millimetre

	dotSizes = 3
	dotGap   = 0.3 // mm
)

// Strewing is how dots are strewn: so many, of sizes from least to most, more small ones
// than large.
type Strewing struct {
	Count       int
	Least, Most length.Length
	Draw        int
}

// Strewn places dots over an area, or the whole piece with an empty id: zones of dots, one
// for each of three sizes. They keep off each other, the tape and the edges of cells.
func (b *Board) Strewn(area string, s Strewing) ([]card.Zone, error) {
	switch {
	case s.Count < 1 || s.Count > MaxStrewn:
		return nil, fmt.Errorf("%d dots are outside 1 to %d; splatter more of them freely", s.Count, MaxStrewn)
	case s.Least < LeastDot || s.Most < s.Least || s.Most > MostDot:
		return nil, fmt.Errorf("dots are %s to %s wide, the smallest first", LeastDot.With(length.Millimetres), MostDot.With(length.Millimetres))
	case s.Draw < 0 || s.Draw >= card.MaxDraws:
		return nil, fmt.Errorf("draw %d is none of %d", s.Draw, card.MaxDraws)
	}
	inside, err := b.strewnIn(area)
	if err != nil {
		return nil, err
	}
	wide := b.Card.PanelSize().W.MM()
	high := b.Card.PanelSize().H.MM()
	r := rand.New(rand.NewPCG(uint64(s.Draw), uint64(s.Count)))
	zones := make([]card.Zone, dotSizes)
	var all []Drop
	for n := range s.Count {
		size := 0 // of six dots three are small, two middling, one large
		if k := n % 6; k > 4 {
			size = 2
		} else if k > 2 {
			size = 1
		}
		zones[size].Shape = card.DotsAt
		zones[size].Width = s.Least + (s.Most-s.Least)*length.Length(size)/(dotSizes-1)
		radius := zones[size].Width.MM() / 2
		for range dropTries {
			p := lineart.Point{X: r.Float64() * wide, Y: r.Float64() * high}
			clear := func(d Drop) bool { return math.Hypot(d.X-p.X, d.Y-p.Y) < d.R+radius+dotGap }
			if inside(p, radius) && !slices.ContainsFunc(all, clear) {
				all = append(all, Drop{p.X, p.Y, radius})
				zones[size].Points = append(zones[size].Points, card.UV{U: p.X / wide, V: p.Y / wide})
				break
			}
		}
	}
	if len(all) == 0 {
		return nil, errors.New("there is no room for a dot there; choose a larger area, or smaller dots")
	}
	return slices.DeleteFunc(zones, func(z card.Zone) bool { return len(z.Points) == 0 }), nil
}

// strewnIn tells whether a dot of some radius lies wholly within an area, or on the piece.
func (b *Board) strewnIn(area string) (func(p lineart.Point, radius float64) bool, error) {
	var parts []Part
	if area != "" {
		k := slices.IndexFunc(b.Areas, func(a Area) bool { return a.ID == area })
		if k < 0 {
			_, err := b.Card.AreaByID(area)
			return nil, err
		}
		for _, id := range b.Areas[k].Cells {
			parts = append(parts, b.Part(id))
		}
	}
	bare := b.untaped()
	on := func(p lineart.Point) bool {
		if !bare(p) {
			return false
		}
		return area == "" || slices.ContainsFunc(parts, func(part Part) bool { return b.within(&part, p) })
	}
	return func(p lineart.Point, radius float64) bool {
		for _, d := range [...][2]float64{{0, 0}, {1, 0}, {-1, 0}, {0, 1}, {0, -1}} {
			if !on(lineart.Point{X: p.X + d[0]*(radius+dotGap), Y: p.Y + d[1]*(radius+dotGap)}) {
				return false
			}
		}
		return true
	}, nil
}

// Dots are the dots of something that is kept, nil where it is anything else.
func (b *Board) Dots(r *Reserve) (out []Drop) {
	if len(r.Cells)+len(r.Areas) > 0 {
		return nil
	}
	for _, id := range r.Zones {
		z, err := b.Card.ZoneByID(id)
		if err != nil || z.Shape != card.DotsAt {
			return nil
		}
		m, _ := b.Card.ImageByID(z.On)
		wide := b.Card.PanelSize().W.MM()
		for _, p := range z.Points {
			at := lineart.Point{X: p.U * wide, Y: p.V * wide}
			if z.On != "" && m != nil {
				at = OnPanel(m, p)
			}
			out = append(out, Drop{at.X, at.Y, z.Width.MM() / 2})
		}
	}
	return out
}
