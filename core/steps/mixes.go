package steps

import (
	"math"

	"chromaqua/core/card"
	"chromaqua/core/panel"
	"chromaqua/core/technique"
)

// A tone is one coat of a mix on the card's paper, dry.
type tone struct {
	hex   string
	light int // 1 to 100
}

// toneKey is a mix on a paper.
type toneKey struct{ mix, paper string }

// tone is that of a wash's mix, worked out once.
func (c *task) tone(w card.Wash) tone {
	key := toneKey{mixKey(w), c.board.Card.Paper}
	t, ok := c.tones[key]
	if !ok {
		look := panel.PaletteOf(c.board.Card).Look([]card.Wash{{Technique: technique.Flat, Mix: w.Mix, Strength: w.Strength}})
		t = tone{look.Dense.Dry, max(1, int(look.Dense.Lab.L))}
		c.tones[key] = t
	}
	return t
}

func mixKey(w card.Wash) string { return card.MixCodes(w.Mix) + "|" + string(w.Strength) }

// mix returns the number of a wash's mixture, from 1, adding it the first time.
func (c *task) mix(w card.Wash) int {
	key := mixKey(w)
	i, ok := c.mixOf[key]
	if !ok {
		t := c.tone(w)
		c.mixes = append(c.mixes, Mix{Parts: w.Mix, Strength: w.Strength, Hex: t.hex, light: t.light})
		i = len(c.mixes)
		c.mixOf[key] = i
	}
	return i
}

// amounts returns the mixes with what they are needed for: the water of every
// wash on every copy, a third more, and what stays in brush and palette, rounded up to half
// millilitres.
func (c *compiler) amounts() []Mix {
	const (
		spare = 1.0 / 3
		stays = 0.5 // ml
	)
	for _, s := range c.steps {
		if s.Mix == 0 {
			continue
		}
		m, a := &c.mixes[s.Mix-1], c.areaOf(&s)
		mm2, t := extentOf(c.pieces[s.Piece].Board, s.Cells).mm2, a.Washes[s.On.Wash].Technique
		m.MM2 += mm2 * t.Share()
		m.ML += millilitres(mm2, t) * float64(max(1, c.doc.Copies))
		if n := len(m.Areas); n == 0 || m.Areas[n-1] != a.Name {
			m.Areas = append(m.Areas, a.Name)
		}
	}
	for i := range c.mixes {
		m := &c.mixes[i]
		m.ML = math.Ceil(2*(m.ML*(1+spare)+stays)) / 2
	}
	return c.mixes
}

// millilitres is the water a technique takes on so much of an area.
func millilitres(mm2 float64, t technique.Kind) float64 {
	return mm2 * t.Share() * float64(t.Laid()) / 1e6
}
