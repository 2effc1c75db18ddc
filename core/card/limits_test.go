package card_test

import (
	"fmt"
	"maps"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/fold"
	"chromaqua/core/joint"
	"chromaqua/core/length"
	"chromaqua/core/mount"
	"chromaqua/core/nest"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
	"chromaqua/internal/golden"
)

const mm = length.Millimetre

// whole is a card with something of everything that is checked.
func whole() *card.Card {
	c := card.New("Full", length.Millimetres)
	scan := card.Scan{Image: strings.Repeat("a", 64), Title: "Shell", WidthPX: 1000, HeightPX: 800, Width: 60 * mm}
	if _, err := c.Lay(scan, shelf.LineImage); err != nil {
		panic(err)
	}
	for range 2 {
		a, err := c.AreaByID(c.AddArea(""))
		if err != nil {
			panic(err)
		}
		a.Cells = []card.Spot{{On: "i1", UV: card.UV{U: 0.5, V: 0.5}, MM2: 20}}
		a.Washes = []card.Wash{{Technique: technique.Flat, Strength: pigment.Tea, Mix: []card.Part{{CI: "PB29", Parts: 1}}}}
	}
	c.Line().Marks = []card.Mark{{Kind: card.Pen, Points: []card.UV{{U: 0.1, V: 0.1}, {U: 0.2, V: 0.2}}}}
	return c
}

func long(n int) string { return strings.Repeat("é", n) }

// Each limit lets the last that is allowed through, and stops the first that is not.
func TestLimitsToTheEdge(t *testing.T) {
	areas := func(n int) func(*card.Card) {
		return func(c *card.Card) {
			for len(c.Areas) < n {
				c.AddArea("")
			}
		}
	}
	spots := func(n int) func(*card.Card) {
		return func(c *card.Card) {
			c.Areas[0].Cells = make([]card.Spot, n)
			c.Areas[1].Cells = nil
			for i := range c.Areas[0].Cells {
				c.Areas[0].Cells[i].On = "i1"
			}
		}
	}
	spot := func(s card.Spot) func(*card.Card) { return func(c *card.Card) { s.On = "i1"; c.Areas[0].Cells[0] = s } }
	wash := func(f func(*card.Wash)) func(*card.Card) { return func(c *card.Card) { f(&c.Areas[0].Washes[0]) } }
	image := func(f func(*card.Image)) func(*card.Card) { return func(c *card.Card) { f(c.Line()) } }
	mark := func(k card.MarkKind, n int) func(*card.Card) {
		return image(func(m *card.Image) { m.Marks = []card.Mark{{Kind: k, Points: make([]card.UV, n)}} })
	}
	measured := func(k float64) func(*card.Card) {
		return func(c *card.Card) {
			m := card.Measured{CI: "PB29", Name: "mine"}
			m.K[3], m.S[5] = k, k
			c.Measured = []card.Measured{m}
		}
	}
	for name, tc := range map[string]struct{ just, over func(*card.Card) }{
		"name":        {func(c *card.Card) { c.Name = long(card.MaxName) }, func(c *card.Card) { c.Name = long(card.MaxName + 1) }},
		"notes":       {func(c *card.Card) { c.Notes = long(card.MaxNotes) }, func(c *card.Card) { c.Notes = long(card.MaxNotes + 1) }},
		"area name":   {func(c *card.Card) { c.Areas[0].Name = long(card.MaxName) }, func(c *card.Card) { c.Areas[0].Name = long(card.MaxName + 1) }},
		"words":       {func(c *card.Card) { c.Words = length.Size{W: length.Max, H: 1} }, func(c *card.Card) { c.Words = length.Size{W: length.Max + 1, H: 1} }},
		"words' side": {func(c *card.Card) { c.Words = length.Size{W: 1, H: 1} }, func(c *card.Card) { c.Words = length.Size{W: 1} }},
		"copies":      {func(c *card.Card) { c.Copies = card.MaxCopies }, func(c *card.Card) { c.Copies = card.MaxCopies + 1 }},
		"no copies":   {func(c *card.Card) { c.Copies = 0 }, func(c *card.Card) { c.Copies = -1 }},
		"areas":       {areas(card.MaxAreas), areas(card.MaxAreas + 1)},
		"cells":       {spots(card.MaxSpots), spots(card.MaxSpots + 1)},
		"spot u":      {spot(card.Spot{UV: card.UV{U: 999}}), spot(card.Spot{UV: card.UV{U: 1000}})},
		"spot -u":     {spot(card.Spot{UV: card.UV{U: -999}}), spot(card.Spot{UV: card.UV{U: -1000}})},
		"spot v":      {spot(card.Spot{UV: card.UV{V: 999}}), spot(card.Spot{UV: card.UV{V: 1000}})},
		"spot -v":     {spot(card.Spot{UV: card.UV{V: -999}}), spot(card.Spot{UV: card.UV{V: -1000}})},
		"spot area":   {spot(card.Spot{MM2: 9e6}), spot(card.Spot{MM2: 1e7})},
		"spot none":   {spot(card.Spot{}), spot(card.Spot{MM2: -1})},
		"washes": {func(c *card.Card) {
			for len(c.Areas[0].Washes) < card.MaxWashes {
				c.Areas[0].Washes = append(c.Areas[0].Washes, c.Areas[0].Washes[0])
			}
		}, func(c *card.Card) {
			for len(c.Areas[0].Washes) <= card.MaxWashes {
				c.Areas[0].Washes = append(c.Areas[0].Washes, c.Areas[0].Washes[0])
			}
		}},
		"parts":       {wash(func(w *card.Wash) { w.Mix[0].Parts = card.MaxParts }), wash(func(w *card.Wash) { w.Mix[0].Parts = card.MaxParts + 1 })},
		"no parts":    {wash(func(w *card.Wash) { w.Mix[0].Parts = 1 }), wash(func(w *card.Wash) { w.Mix[0].Parts = 0 })},
		"paints":      {wash(func(w *card.Wash) { w.Mix = []card.Part{{"PB29", 1}, {"PV19", 1}, {"PY3", 1}} }), wash(func(w *card.Wash) { w.Mix = []card.Part{{"PB29", 1}, {"PV19", 1}, {"PY3", 1}, {"PG7", 1}} })},
		"twice":       {wash(func(w *card.Wash) { w.Mix = []card.Part{{"PB29", 1}, {"PV19", 1}} }), wash(func(w *card.Wash) { w.Mix = []card.Part{{"PB29", 1}, {"PB29", 1}} })},
		"white":       {func(c *card.Card) { c.Areas[0].White, c.Areas[0].Washes = true, nil }, func(c *card.Card) { c.Areas[0].White = true }},
		"joined":      {func(c *card.Card) { c.Joins = [][2]string{{"a1", "a2"}} }, func(c *card.Card) { c.Joins = [][2]string{{"a1", "a1"}} }},
		"silenced":    {func(c *card.Card) { c.Silenced = ruleIDs(card.MaxSilenced) }, func(c *card.Card) { c.Silenced = ruleIDs(card.MaxSilenced + 1) }},
		"silent id":   {func(c *card.Card) { c.Silenced = []string{strings.Repeat("x", card.MaxName)} }, func(c *card.Card) { c.Silenced = []string{strings.Repeat("x", card.MaxName+1)} }},
		"wanted":      {func(c *card.Card) { c.Wanted = swatches(pigment.MaxSwatches) }, func(c *card.Card) { c.Wanted = swatches(pigment.MaxSwatches + 1) }},
		"wanted name": {func(c *card.Card) { c.Wanted = []pigment.Swatch{{Name: long(card.MaxName), Hex: "#102030"}} }, func(c *card.Card) { c.Wanted = []pigment.Swatch{{Name: long(card.MaxName + 1), Hex: "#102030"}} }},
		"spectra":     {measured(999_999), measured(1e6)},
		"-spectra":    {measured(0), measured(-1e-9)},
		"id":          {func(c *card.Card) { c.Areas[1].ID = strings.Repeat("x", 20) }, func(c *card.Card) { c.Areas[1].ID = strings.Repeat("x", 21) }},
		"image id": {func(c *card.Card) {
			c.Areas[0].Cells, c.Areas[1].Cells = nil, nil
			c.Line().ID = strings.Repeat("x", 20)
		}, func(c *card.Card) {
			c.Areas[0].Cells, c.Areas[1].Cells = nil, nil
			c.Line().ID = strings.Repeat("x", 21)
		}},
		"specks":     {func(c *card.Card) { c.Specks = card.MaxSpecks }, func(c *card.Card) { c.Specks = card.MaxSpecks + 0.01 }},
		"turn":       {image(func(m *card.Image) { m.Turn = 180 }), image(func(m *card.Image) { m.Turn = 180.01 })},
		"-turn":      {image(func(m *card.Image) { m.Turn = -180 }), image(func(m *card.Image) { m.Turn = -180.01 })},
		"ghost":      {image(func(m *card.Image) { m.Ghost = card.MaxGhost }), image(func(m *card.Image) { m.Ghost = card.MaxGhost + 1 })},
		"-ghost":     {image(func(m *card.Image) { m.Ghost = 0 }), image(func(m *card.Image) { m.Ghost = -1 })},
		"x":          {image(func(m *card.Image) { m.X = length.Max }), image(func(m *card.Image) { m.X = length.Max + 1 })},
		"-x":         {image(func(m *card.Image) { m.X = -length.Max }), image(func(m *card.Image) { m.X = -length.Max - 1 })},
		"y":          {image(func(m *card.Image) { m.Y = length.Max }), image(func(m *card.Image) { m.Y = length.Max + 1 })},
		"width":      {image(func(m *card.Image) { m.Width = length.Max }), image(func(m *card.Image) { m.Width = length.Max + 1 })},
		"no width":   {image(func(m *card.Image) { m.Width = mm }), image(func(m *card.Image) { m.Width = mm - 1 })},
		"pixels":     {image(func(m *card.Image) { m.WidthPX = 1 << 16 }), image(func(m *card.Image) { m.WidthPX = 1<<16 + 1 })},
		"no pixels":  {image(func(m *card.Image) { m.HeightPX = 1 }), image(func(m *card.Image) { m.HeightPX = 0 })},
		"marks":      {image(func(m *card.Image) { m.Marks = repeat(m.Marks[0], card.MaxMarks) }), image(func(m *card.Image) { m.Marks = repeat(m.Marks[0], card.MaxMarks+1) })},
		"stroke":     {mark(card.Pen, card.MaxMarkPoints), mark(card.Pen, card.MaxMarkPoints+1)},
		"point":      {mark(card.Pen, 2), mark(card.Pen, 1)},
		"joined at":  {mark(card.Join, 2), mark(card.Join, 3)},
		"bare":       {mark(card.Bare, 3), mark(card.Bare, 2)},
		"far":        {image(func(m *card.Image) { m.Marks[0].Points[0].U = 999 }), image(func(m *card.Image) { m.Marks[0].Points[0].U = 1000 })},
		"extra":      {func(c *card.Card) { c.Extra = card.MaxExtra }, func(c *card.Card) { c.Extra = card.MaxExtra + 1 }},
		"-extra":     {func(c *card.Card) { c.Extra = 0 }, func(c *card.Card) { c.Extra = -1 }},
		"border":     {func(c *card.Card) { c.Painting.Border = c.PanelSize().W/2 - 1 }, func(c *card.Card) { c.Painting.Border = c.PanelSize().W / 2 }},
		"tape":       {func(c *card.Card) { c.Painting.Tape = length.Max / 4 }, func(c *card.Card) { c.Painting.Tape = length.Max/4 + 1 }},
		"spare":      {func(c *card.Card) { c.Painting.Spare = length.Max / 4 }, func(c *card.Card) { c.Painting.Spare = length.Max/4 + 1 }},
		"-spare":     {func(c *card.Card) { c.Painting.Spare = 0 }, func(c *card.Card) { c.Painting.Spare = -1 }},
		"window":     {windowed(180), windowed(180.5)},
		"insert":     {func(c *card.Card) { c.Insert = &card.Insert{Margin: (c.Front().W - card.MinPanel) / 2, Paper: "card"} }, func(c *card.Card) { c.Insert = &card.Insert{Margin: (c.Front().W-card.MinPanel)/2 + 1, Paper: "card"} }},
		"low insert": {func(c *card.Card) { c.Insert = lowInsert(c, 0) }, func(c *card.Card) { c.Insert = lowInsert(c, 1) }},
		"dies":       {dies(card.MaxDies), dies(card.MaxDies + 1)},
		"a die":      {dies(1), dies(0)},
		"envelope": {func(c *card.Card) {
			c.Envelope = &card.Envelope{ID: card.Free, Inside: length.Size{W: length.Max, H: card.MinPanel}}
		}, func(c *card.Card) {
			c.Envelope = &card.Envelope{ID: card.Free, Inside: length.Size{W: length.Max, H: card.MinPanel - 1}}
		}},
	} {
		c := whole()
		tc.just(c)
		assert.NoError(t, c.Check(), "just %s", name)
		c = whole()
		tc.over(c)
		assert.Error(t, c.Check(), "over %s", name)
	}
	c := whole()
	for len(c.Layers) < card.MaxLayers {
		require.NoError(t, c.AddLayer(card.Mat))
	}
	assert.Error(t, c.AddLayer(card.Mat), "one layer more than it takes")
	for len(c.Images) < card.MaxImages {
		_, err := c.Lay(c.Images[0].Scan, "")
		require.NoError(t, err)
	}
	_, err := c.Lay(c.Images[0].Scan, "")
	assert.Error(t, err, "one image more than it takes")
	assert.Equal(t, 2*length.Inch, card.MaxExtra)
	assert.Equal(t, []int{120, 4000, 400, 12, 20_000, 12, 40, 100, 20, 200, 3, 30, 1000, 500, 3}, []int{
		card.MaxName, card.MaxNotes, card.MaxAreas, card.MaxWashes, card.MaxSpots, card.MaxLayers, card.MaxDies, card.MaxSilenced, card.MaxParts,
		card.MaxCopies, card.MaxPaints, card.MaxImages, card.MaxMarks, card.MaxMarkPoints, card.MaxGhost,
	}, "limits are part of the file format")
}

func ruleIDs(n int) (out []string) {
	for i := range n {
		out = append(out, fmt.Sprintf("rule-%d", i))
	}
	return out
}

func swatches(n int) []pigment.Swatch { return repeat(pigment.Swatch{Name: "x", Hex: "#102030"}, n) }

func repeat[T any](v T, n int) []T {
	out := make([]T, n)
	for i := range out {
		out[i] = v
	}
	return out
}

// lowInsert is a leaf as low as it may be, and so much lower, in a card that lies across.
func lowInsert(c *card.Card, by length.Length) *card.Insert {
	_ = c.SetFormat("a2", true)
	return &card.Insert{Margin: (c.Front().H-card.MinPanel)/2 + by, Paper: "card"}
}

func windowed(turn float64) func(*card.Card) {
	return func(c *card.Card) {
		c.Window = &card.Window{Scan: c.Line().Scan, X: 30 * mm, Y: 30 * mm, Turn: turn}
	}
}

func dies(n int) func(*card.Card) {
	return func(c *card.Card) {
		c.Layers[0].Die = &card.DieSet{Name: "d", Edge: card.Plain, Sizes: repeat(length.Size{W: 100 * mm, H: 130 * mm}, n)}
	}
}

// What is cut, stacked and laid out of cards of every kind is what it was.
func TestCardsAreWhatTheyWere(t *testing.T) {
	var b strings.Builder
	cards := map[string]func(*card.Card){
		"1 plain":      func(*card.Card) {},
		"2 inches":     func(c *card.Card) { c.Unit = length.Inches },
		"3 top":        func(c *card.Card) { c.Base.Fold, c.Insert = fold.Top, &card.Insert{Margin: 3 * mm, Paper: "card"} },
		"4 tri inside": func(c *card.Card) { c.Base.Fold, c.Base.Inside = fold.Tri, true },
		"5 gate, foam, spare": func(c *card.Card) {
			c.Base.Fold, c.Panel.By, c.Painting.Spare, c.Extra = fold.Gate, joint.FullFoam, 5*mm, 2*mm
		},
		"6 frame over two mats": func(c *card.Card) {
			_, _ = c.AddLayer(card.Mat), c.AddLayer(card.Frame)
			c.Layers[1].Die = &card.DieSet{Name: "nest", Edge: card.Deckle, Sizes: []length.Size{{W: 90 * mm, H: 120 * mm}, {W: 94 * mm, H: 125 * mm}}}
		},
		"7 from an envelope": func(c *card.Card) {
			c.Envelope = &card.Envelope{ID: card.Free, Inside: length.Size{W: 160 * mm, H: 115 * mm}}
			_ = c.StartFromEnvelope()
		},
		"8 from a stamp": func(c *card.Card) {
			c.Stamp = &card.Stamp{Border: nest.Even(4 * mm)}
			_ = c.StartFrom(card.StampRing, length.Size{W: 50 * mm, H: 70 * mm})
		},
		"9 windowed, flat": func(c *card.Card) { c.Base.Fold = fold.Flat; windowed(10)(c); c.Window.Title = "Wash" },
	}
	for _, name := range slices.Sorted(maps.Keys(cards)) {
		c := whole()
		cards[name](c)
		require.NoError(t, c.Check(), name)
		fmt.Fprintf(&b, "%s\n", name)
		layout, err := c.Layout()
		require.NoError(t, err)
		for i, r := range layout {
			fmt.Fprintf(&b, "  %s %s %s given %t %t from %q round %v over %v asked %v\n", r.ID, r.Kind, r.Size.With(length.Millimetres), r.GivenW, r.GivenH, r.From, r.Round.Sides, layout.Overhang(i), r.Asked)
		}
		for _, s := range layout.Strips(length.Size{W: 20 * mm, H: 2 * mm}) {
			fmt.Fprintf(&b, "  strip on %s at %v %v %s\n", s.On, s.X, s.Y, s.Size.With(length.Millimetres))
		}
		fmt.Fprintf(&b, "  hidden %v needs %s inside, sheet %s\n", layout.Hidden(), mount.EnvelopeNeeded(c).With(c.Unit), c.SheetSize().With(c.Unit))
		members, err := mount.Members(c)
		require.NoError(t, err)
		for _, m := range members {
			fmt.Fprintf(&b, "  %s by %s from %v to %v\n", m.Name, m.By, m.Bottom, m.Top)
		}
		for _, l := range c.CutList() {
			fmt.Fprintf(&b, "  cut %s %s %s\n", l.What, l.Size.With(c.Unit), l.Note)
		}
	}
	golden.Same(t, "cards", b.String())
}

// kinds are cards that start at every end: what is given, and what follows.
func kinds() map[string]func(*card.Card) {
	from := func(ring string, w, h length.Length) func(*card.Card) {
		return func(c *card.Card) { _ = c.StartFrom(ring, length.Size{W: w, H: h}) }
	}
	posted := func(w, h length.Length, across bool) func(*card.Card) {
		return func(c *card.Card) {
			c.Envelope = &card.Envelope{ID: card.Free, Inside: length.Size{W: w, H: h}}
			_ = c.StartFromEnvelope()
			if across {
				_ = c.Give(card.PanelRing, length.Size{W: 90 * mm, H: 60 * mm})
			}
		}
	}
	return map[string]func(*card.Card){
		"front":         from(card.FrontRing, 120*mm, 170*mm),
		"panel":         from(card.PanelRing, 90*mm, 60*mm),
		"mat":           from("layer-0", 100*mm, 140*mm),
		"envelope":      posted(7*length.Inch, 5*length.Inch+length.Inch/8, false),
		"near a format": posted(146*mm, 111*mm, false),
		"across":        posted(7*length.Inch, 5*length.Inch+length.Inch/8, true),
		"stamp": func(c *card.Card) {
			c.Stamp = &card.Stamp{Border: nest.Even(4 * mm)}
			_ = c.StartFrom(card.StampRing, length.Size{W: 70 * mm, H: 50 * mm})
		},
		"front and panel": func(c *card.Card) {
			_ = c.StartFrom(card.FrontRing, length.Size{W: 120 * mm, H: 170 * mm})
			_ = c.Give(card.PanelRing, length.Size{W: 90 * mm, H: 130 * mm})
		},
	}
}

// However a card starts, dragging and measuring its rings gives what it gave.
func TestEditsAreWhatTheyWere(t *testing.T) {
	var b strings.Builder
	was := map[string]string{} // what is as it was when the card started is not said again
	say := func(what string, c *card.Card, err error) {
		fmt.Fprintf(&b, "  %s:", what)
		layout, lost := c.Layout()
		for _, r := range layout {
			now := fmt.Sprintf(" %s %s %t %t %q %v;", r.ID, r.Size.With(length.Millimetres), r.GivenW, r.GivenH, r.From, r.Round.Sides)
			if was[r.ID] != now {
				b.WriteString(now)
			}
			if what == "as it starts" {
				was[r.ID] = now
			}
		}
		fmt.Fprintf(&b, " %d rings", len(layout))
		for _, e := range []error{err, lost} {
			if e != nil {
				fmt.Fprintf(&b, ", %v", e)
			}
		}
		b.WriteString("\n")
	}
	for _, name := range slices.Sorted(maps.Keys(kinds())) {
		fmt.Fprintf(&b, "from the %s\n", name)
		made := func() *card.Card {
			c := whole()
			kinds()[name](c)
			return c
		}
		say("as it starts", made(), nil)
		for _, ring := range []string{card.FrontRing, "layer-0", card.PanelRing, "layer-9"} {
			for _, side := range []nest.Side{nest.Left, nest.Right, nest.Top, nest.Bottom, "middle"} {
				c := made()
				say(fmt.Sprintf("%s dragged %s", ring, side), c, c.Drag(ring, side, 3*mm))
				c = made()
				shown := 7 * mm
				say(fmt.Sprintf("%s shown %s", ring, side), c, c.Show(ring, side, &shown))
			}
			for _, size := range []length.Size{{W: 100 * mm}, {H: 100 * mm}, {W: 100 * mm, H: 80 * mm}, {}} {
				c := made()
				say(fmt.Sprintf("%s given %v %v", ring, size.W, size.H), c, c.Give(ring, size))
			}
			c := made()
			say(ring+" cut with a die", c, c.SetDie(ring, &card.DieSet{Name: "nest", Edge: card.Deckle, Sizes: []length.Size{{W: 60 * mm, H: 90 * mm}, {W: 92 * mm, H: 64 * mm}, {W: 101 * mm, H: 141 * mm}, {W: 300 * mm, H: 300 * mm}}}))
		}
		c := made()
		say("without its mat", c, c.RemoveLayer(0))
		say("without any mat", c, c.RemoveLayer(0))
	}
	golden.Same(t, "edits", b.String())
}

// The nearest die, whichever way round it is turned, and one that fits before one
// that is nearer.
func TestTheNearestOfManyDies(t *testing.T) {
	at := func(w, h length.Length) length.Size { return length.Size{W: w * mm, H: h * mm} }
	set := card.DieSet{Name: "nest", Sizes: []length.Size{at(40, 60), at(50, 70), at(60, 80)}}
	for _, tc := range []struct{ size, within, want length.Size }{
		{at(50, 70), at(100, 100), at(50, 70)},
		{at(70, 50), at(100, 100), at(70, 50)},
		{at(54, 74), at(100, 100), at(50, 70)},
		{at(56, 76), at(100, 100), at(60, 80)},
		{at(56, 76), at(59, 79), at(50, 70)},
		{at(56, 76), at(60, 80), at(60, 80)},
		{at(56, 76), at(60, 79), at(50, 70)},
		{at(45, 63), at(100, 100), at(40, 60)},
		{at(45, 67), at(100, 100), at(50, 70)},
		{at(10, 10), at(20, 20), at(40, 60)},
	} {
		assert.Equal(t, tc.want, set.Nearest(tc.size, tc.within), "%v within %v", tc.size, tc.within)
	}
}

// Areas are painted alike when all of their washes are the same.
func TestPaintedAlike(t *testing.T) {
	wash := card.Wash{Technique: technique.Flat, Strength: pigment.Tea, Mix: []card.Part{{CI: "PB29", Parts: 1}}}
	a := &card.Area{Washes: []card.Wash{wash, wash}}
	for name, change := range map[string]func(*card.Wash){
		"technique": func(w *card.Wash) { w.Technique = technique.Graded },
		"strength":  func(w *card.Wash) { w.Strength = pigment.Milk },
		"over dry":  func(w *card.Wash) { w.OverDry = true },
		"mix":       func(w *card.Wash) { w.Mix = []card.Part{{CI: "PB29", Parts: 2}} },
	} {
		b := &card.Area{Washes: slices.Clone(a.Washes)}
		assert.True(t, card.PaintedAlike(a, b))
		change(&b.Washes[1])
		assert.False(t, card.PaintedAlike(a, b), name)
	}
	assert.False(t, card.PaintedAlike(a, &card.Area{Washes: a.Washes[:1]}))
}

// Paint is dipped and taken out by the part.
func TestDipsAreCounted(t *testing.T) {
	w := card.Wash{Mix: []card.Part{{CI: "PB29", Parts: 2}}}
	assert.ErrorContains(t, w.Dip("PB29", card.MaxParts), "the most")
	assert.NoError(t, w.Dip("PY3", -1))
	assert.Len(t, w.Mix, 1)
	assert.NoError(t, w.Dip("PB29", card.MaxParts-2))
	assert.Equal(t, card.MaxParts, w.Mix[0].Parts)
	assert.ErrorContains(t, w.Dip("PB29", -card.MaxParts), "at least one paint")
	assert.Equal(t, []card.Part{{CI: "PB29", Parts: 1}}, w.Mix, "the last stays, by one part")
	assert.NoError(t, w.Dip("PY3", 2))
	assert.NoError(t, w.Dip("PB29", -1))
	assert.Equal(t, []card.Part{{CI: "PY3", Parts: 2}}, w.Mix)
}

// The maker's own paper is the paper; an unheard-of one is taken for the first.
func TestThePaperOfThePanel(t *testing.T) {
	c := whole()
	assert.Equal(t, c.Paper, c.PaperFacts().ID)
	c.OwnPaper = &shelf.Own{What: shelf.OwnPaper, Name: "Mill ends", Like: "card"}
	assert.Equal(t, "Mill ends", c.PaperFacts().Name)
	c.OwnPaper, c.Paper = nil, "no such"
	assert.Equal(t, shelf.Papers()[0].ID, c.PaperFacts().ID)
}
