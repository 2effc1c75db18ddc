package change

import (
	"cmp"
	"errors"
	"fmt"
	"slices"
	"strings"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/lineart"
	"chromaqua/core/panel"
	"chromaqua/core/pigment"
	"chromaqua/core/technique"
)

// NewZone draws a zone on the piece and makes an area of it, or adds it to one. Its points
// are on the piece; it goes with an image when one is named.
type NewZone struct {
	Shape  card.Shape     `json:"shape"`
	Points PointList      `json:"points"`
	Width  Typed          `json:"width"` // of a rim
	On     string         `json:"on"`    // id of an image, "" for the piece
	Edge   card.ZoneEdge  `json:"edge"`
	Water  bool           `json:"water"`
	Round  bool           `json:"round"`
	Name   string         `json:"name"`
	To     string         `json:"to"`  // id of the area it is added to, "" for one of its own
	Pen    technique.Kind `json:"pen"` // what it is drawn with, "" for what the maker says next
}

// drawn draws the zone and returns its id.
func (c NewZone) drawn(on *card.Card) (string, error) {
	var points []lineart.Point
	var err error
	var breaks []int
	if !c.Shape.Pointless() { // what goes all over is not drawn
		for i, stroke := range strings.Split(string(c.Points), "|") {
			some, err := PointList(stroke).points(on.Unit)
			if err != nil {
				return "", err
			}
			if i > 0 {
				breaks = append(breaks, len(points))
			}
			if points = append(points, some...); len(points) > card.MaxZoneDrawn {
				break
			}
		}
	}
	z := card.Zone{Shape: c.Shape, On: c.On, Edge: cmp.Or(c.Edge, on.EdgeOfNew(c.Shape)), Water: c.Water, Round: c.Round}
	if c.Shape == card.Along {
		z.Breaks = breaks
	}
	if c.Shape == card.Rim || c.Shape.Drawn() {
		if z.Width, err = c.Width.length("how wide it is", on.Unit, length.Parse); err != nil {
			return "", err
		}
	}
	wide := on.PanelSize().W.MM()
	var m *card.Image
	if c.On != "" {
		if m, err = on.ImageByID(c.On); err != nil {
			return "", err
		}
		wide = m.Width.MM()
	}
	for _, p := range points {
		if m != nil {
			z.Points = append(z.Points, panel.OnImage(m, p))
		} else {
			z.Points = append(z.Points, card.UV{U: p.X / wide, V: p.Y / wide})
		}
	}
	return on.AddZone(z, wide)
}

// Do draws it.
func (c NewZone) Do(on *card.Card) (Done, error) {
	id, err := c.drawn(on)
	if err != nil {
		return Done{}, err
	}
	if c.To != "" {
		return toArea(on, c.To, func(a *card.Area) (string, error) {
			if len(a.Zones) == 0 && !a.Lies {
				return "", fmt.Errorf("%q is an area of cells; draw a zone of its own, which lies over it", a.Name)
			}
			a.Zones = append(a.Zones, id)
			return "added a zone to " + a.Name, nil
		})
	}
	done := said("drew a zone")
	done.Area = on.AddArea(c.Name)
	return done, c.named(on, done.Area, id)
}

func (c NewZone) named(on *card.Card, area, zone string) error {
	a, err := on.AreaByID(area)
	if err != nil {
		return err
	}
	a.Lies, a.Zones = true, []string{zone}
	if c.Pen != "" {
		if !c.Pen.Known() {
			return fmt.Errorf("%q is nothing to draw with; choose what is listed", string(c.Pen))
		}
		if err := a.Lay(a.NextWash()); err != nil {
			return err
		}
		n := len(a.Washes) - 1
		if err := a.LayAs(n, c.Pen); err != nil {
			return err
		}
		if w := &a.Washes[n]; len(w.Mix) == 0 && c.Pen.Tool() != technique.CleanWater {
			w.Mix, w.Strength = []card.Part{{CI: "PB29", Parts: 1}}, pigment.Milk
		}
	}
	if strings.TrimSpace(c.Name) == "" {
		a.Name = "Zone " + strings.TrimPrefix(zone, "z")
	}
	return nil
}

// NewZoneIn draws a zone that stays within cells: half a petal, a shade on a coat.
type NewZoneIn struct {
	needsCells
	NewZone
	Cells CellList `json:"cells"`
}

// Do says that the cells have to be known.
func (c NewZoneIn) Do(on *card.Card) (Done, error) { return c.needsCells.Do(on) }

// On draws it.
func (c NewZoneIn) On(b *panel.Board) (Done, error) {
	cells, err := c.Cells.ids()
	if err != nil {
		return Done{}, err
	}
	done, err := c.NewZone.Do(b.Card)
	if err != nil {
		return done, err
	}
	a, err := b.Card.AreaByID(done.Area)
	if err != nil {
		return done, err
	}
	for _, id := range cells {
		if id < 1 || id > len(b.Cells) {
			return Done{}, fmt.Errorf("there is no cell %d on this piece; the line was changed meanwhile, choose the cells again", id)
		}
		a.Cells = append(a.Cells, b.SpotOf(id))
	}
	return done, nil
}

// ZoneEnds says how the zones of an area end, and whether water is drawn to their edge first.
type ZoneEnds struct {
	Area  string        `json:"area"`
	Edge  card.ZoneEdge `json:"edge"`
	Water bool          `json:"water"`
	Round bool          `json:"round"`
}

// Do changes them.
func (c ZoneEnds) Do(on *card.Card) (Done, error) {
	return toArea(on, c.Area, func(a *card.Area) (string, error) {
		if len(a.Zones) == 0 {
			return "", errors.New("this area has no zone; cells end at the line")
		}
		for i := range on.Zones {
			if z := &on.Zones[i]; slices.Contains(a.Zones, z.ID) {
				z.Edge, z.Water, z.Round = c.Edge, c.Water, c.Round
			}
		}
		return a.Name + ": its edge is " + string(c.Edge.Or()), nil
	})
}

// RemoveZone takes a zone away; an area that was nothing else goes with it.
type RemoveZone struct {
	Zone string `json:"zone"`
}

// Do takes it away.
func (c RemoveZone) Do(on *card.Card) (Done, error) {
	if _, err := on.ZoneByID(c.Zone); err != nil {
		return Done{}, err
	}
	var only []string
	for _, a := range on.Areas {
		if len(a.Zones) == 1 && a.Zones[0] == c.Zone {
			only = append(only, a.ID)
		}
	}
	for _, id := range only {
		on.RemoveArea(id)
	}
	on.RemoveZone(c.Zone)
	return said("took a zone away"), nil
}

// Lie says whether an area lies over or under others, sharing their cells.
type Lie struct {
	Area string `json:"area"`
	On   bool   `json:"on"`
}

// Do says so.
func (c Lie) Do(on *card.Card) (Done, error) {
	return toArea(on, c.Area, func(a *card.Area) (string, error) {
		if !c.On && len(a.Zones) > 0 {
			return "", fmt.Errorf("%q has zones, which lie over cells; take them away first", a.Name)
		}
		if a.Lies = c.On; c.On {
			return a.Name + " lies over other areas", nil
		}
		return a.Name + " has cells of its own", nil
	})
}
