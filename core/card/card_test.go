package card_test

import (
	"bytes"
	"fmt"
	"math"
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
)

func Example() {
	c := card.New("Beach count", length.Inches)
	_ = c.SetFormat("a7", false)
	fmt.Println("panel", c.PanelSize().With(c.Unit))
	// Output:
	// panel 4 1/2 × 6 1/2 in
}

// full is a card that uses everything.
func full(t testing.TB) *card.Card {
	c := card.New("Full", length.Inches)
	c.Notes = "two lines\nof notes"
	_, err := c.Lay(card.Scan{Image: strings.Repeat("ab", 32), Title: "Drawing", WidthPX: 900, HeightPX: 600, Width: 3 * length.Inch}, shelf.LineImage)
	require.NoError(t, err)
	for _, name := range []string{"Sky", "Sea"} {
		id := c.AddArea(name)
		a, err := c.AreaByID(id)
		require.NoError(t, err)
		a.Cells = []card.Spot{{On: "i1", UV: card.UV{U: 0.25, V: 0.125}, MM2: 12.5}}
		require.NoError(t, begin(a))
		require.NoError(t, a.AddWash())
	}
	c.SetJoin("a1", "a2", true)
	c.Envelope = &card.Envelope{ID: card.Free, Inside: length.Size{W: 6 * length.Inch, H: 5 * length.Inch}}
	c.Layers[0].Colour = "teal"
	c.Insert = &card.Insert{Margin: length.Inch / 4, Paper: shelf.Cardstock}
	c.Window, c.Words, c.Extra = window(), length.Size{W: 2 * length.Inch, H: length.Inch / 2}, 2*length.Millimetre
	c.Painting = card.Painting{Border: length.Inch / 8, Tape: length.Inch, Spare: length.Inch / 2}
	require.NoError(t, c.Check())
	return c
}

func window() *card.Window {
	return &card.Window{Scan: card.Scan{Image: strings.Repeat("cd", 32), Title: "Sheet", WidthPX: 1000, HeightPX: 1500, Width: 10 * length.Inch}, X: 4 * length.Inch, Y: 6 * length.Inch}
}

func TestEncodeThenDecodeIsTheIdentity(t *testing.T) {
	c := full(t)
	doc, err := c.Encode()
	require.NoError(t, err)
	back, err := card.Decode(doc)
	require.NoError(t, err)
	assert.Equal(t, c, back)
}

func TestDecodeRefuses(t *testing.T) {
	doc, err := full(t).Encode()
	require.NoError(t, err)
	good, version := string(doc), fmt.Sprintf(`"version": %d`, card.Version)
	for _, tc := range []struct{ name, from, to, why string }{
		{"another kind", `"chromaqua-card"`, `"shopping-list"`, "no card"},
		{"a newer version", version, fmt.Sprintf(`"version": %d`, card.Version+1), "newer program"},
		{"version nought", version, `"version": 0`, "does not exist"},
		{"an unknown field", `"notes"`, `"nodes"`, "nodes"},
		{"a wrong type", `"width_px": 900`, `"width_px": "wide"`, "images.width_px"},
		{"a wrong length", `"3 in"`, `"three"`, "three"},
		{"an unknown paint", `"PB29"`, `"PB999"`, "PB999"},
		{"an unknown technique", `"glaze"`, `"drench"`, "drench"},
		{"an unknown strength", `"tea"`, `"soup"`, "soup"},
		{"an unknown paper", `"cotton-cp"`, `"parchment"`, "parchment"},
		{"an unknown format", `"format": "a2"`, `"format": "z9"`, "z9"},
		{"an unknown fold", `"fold": "side"`, `"fold": "middle"`, "middle"},
		{"a hash that is none", strings.Repeat("ab", 32), "../../etc/passwd", "SHA-256"},
		{"a join with nobody", `"a2"
    ]`, `"a7"
    ]`, "a7"},
		{"a desert", `"humidity": 0.5`, `"humidity": 7`, "humid"},
		{"something after it", "\n}\n", "\n}\n{}", "character 1: this is no JSON there"},
		{"half of it", `"areas"`, "", "its end is missing"},
	} {
		t.Run(tc.name, func(t *testing.T) {
			require.Contains(t, good, tc.from)
			bad := strings.Replace(good, tc.from, tc.to, 1)
			if tc.to == "" {
				bad = good[:strings.Index(good, tc.from)]
			}
			_, err := card.Decode([]byte(bad))
			assert.ErrorContains(t, err, tc.why)
		})
	}
	_, err = card.Decode(make([]byte, card.MaxJSON+1))
	assert.ErrorContains(t, err, "larger")
}

func FuzzDecode(f *testing.F) {
	doc, err := full(f).Encode()
	require.NoError(f, err)
	f.Add(doc)
	f.Add([]byte(`{"kind":"chromaqua-card","version":1}`))
	f.Fuzz(func(t *testing.T, b []byte) {
		c, err := card.Decode(b)
		if err != nil {
			return
		}
		again, err := c.Encode()
		require.NoError(t, err)
		_, err = card.Decode(again)
		require.NoError(t, err, "what was accepted is accepted again")
		c.PanelSize()
		mount.Body(c)
	})
}

func TestCheckRefuses(t *testing.T) {
	for why, change := range map[string]func(*card.Card){
		"give the card a name":     func(c *card.Card) { c.Name = "  " },
		"10000 characters":         func(c *card.Card) { c.Name = strings.Repeat("x", 10_000) },
		"cannot be written":        func(c *card.Card) { c.Name = "a\x00b" },
		"notes are longer":         func(c *card.Card) { c.Notes = strings.Repeat("x", card.MaxNotes+1) },
		"nothing is left":          func(c *card.Card) { c.Layers[0].Margin = nest.Even(3 * length.Inch) },
		"the panel would measure":  func(c *card.Card) { c.Layers[0].Margin = nest.Even(15 * length.Inch / 8) },
		"panel fight":              func(c *card.Card) { c.Panel.Size = length.Size{W: 9 * length.Inch, H: length.Inch} },
		"cannot measure":           func(c *card.Card) { c.Base.Front.W = -1 },
		"one size has to be given": func(c *card.Card) { c.Base.Front, c.Envelope = length.Size{}, nil },
		"no layer":                 func(c *card.Card) { c.Layers[0].Kind = "lid" },
		"layers are more":          func(c *card.Card) { c.Layers = slices.Repeat(c.Layers, card.MaxLayers+1) },
		"margin of":                func(c *card.Card) { c.Panel.Margin = nest.Even(3 * length.Metre) },
		"no edge of a die":         func(c *card.Card) { c.Panel.Die = &card.DieSet{Name: "x", Edge: "sharp"} },
		"1 to 40 sizes":            func(c *card.Card) { c.Panel.Die = &card.DieSet{Name: "x", Edge: card.Plain} },
		"no envelope":              func(c *card.Card) { c.Envelope = &card.Envelope{ID: "env-z"} },
		"an envelope of":           func(c *card.Card) { c.Envelope = &card.Envelope{ID: card.Free} },
		"an insert":                func(c *card.Card) { c.Insert = &card.Insert{Margin: 2 * length.Inch, Paper: "card"} },
		"leaves nothing to paint":  func(c *card.Card) { c.Painting.Border = 2 * length.Inch },
		"are widths":               func(c *card.Card) { c.Painting.Spare = -1 },
		"the window turns":         func(c *card.Card) { c.Window = window(); c.Window.Turn = math.NaN() },
		"off the sheet":            func(c *card.Card) { c.Window = window(); c.Window.X = 3 * length.Metre },
		"embellishments":           func(c *card.Card) { c.Extra = length.Metre },
		"a width and a height":     func(c *card.Card) { c.Words.H = 0 },
		"measure it again":         func(c *card.Card) { c.Line().Width = 0 },
		"off the panel":            func(c *card.Card) { c.Line().X = 3 * length.Metre },
		"pixels cannot be":         func(c *card.Card) { c.Line().WidthPX = 0 },
		"stands twice":             func(c *card.Card) { c.Areas[1].ID = c.Areas[0].ID },
		"far off":                  func(c *card.Card) { c.Areas[0].Cells[0].U = 1e9 },
		"joined to itself":         func(c *card.Card) { c.SetJoin("a1", "a1", true) },
		"no way of drying":         func(c *card.Card) { c.Drying = "sun" },
		"use 1 to 20":              func(c *card.Card) { c.Areas[0].Washes[0].Mix[0].Parts = 99 },
		"one to 3 paints":          func(c *card.Card) { c.Areas[0].Washes[0].Mix = nil },
		"PB29 stands twice in the": func(c *card.Card) { m := &c.Areas[0].Washes[0].Mix; *m = append(*m, (*m)[0]) },
	} {
		c := full(t)
		change(c)
		assert.ErrorContains(t, c.Check(), why, why)
	}
}

// The card everybody makes goes into the envelope everybody has.
func TestTheDefaultCardFitsItsEnvelope(t *testing.T) {
	c := card.New("x", length.Inches)
	fits := fold.FitAll(mount.Body(c))
	assert.Equal(t, "A2", fits[0].Envelope.Name)
	assert.True(t, fits[0].Good())
}

func TestStackGrowsWithMatAndFold(t *testing.T) {
	c := card.New("x", length.Inches)
	with := mount.Body(c).Thickness()
	layers := c.Layers
	c.Layers = nil
	assert.Less(t, mount.Body(c).Thickness(), with)
	c.Layers = layers
	c.Panel.By = joint.FullFoam
	assert.Equal(t, with+13*length.Millimetre/10, mount.Body(c).Thickness())
	c.Panel.By = joint.Usual
	c.Base.Fold = fold.Flat
	assert.Less(t, mount.Body(c).Thickness(), with)
}

func TestTheLineKeepsItsPlaceWhenTheFormatChanges(t *testing.T) {
	c := full(t)
	offCentre := func() (x, y length.Length) {
		p := c.PanelSize()
		return c.Line().X + c.Line().Width/2 - p.W/2, c.Line().Y + c.Line().Height()/2 - p.H/2
	}
	c.Line().X += length.Inch / 4
	x, y := offCentre()
	require.NoError(t, c.SetFormat("a7", true))
	wide := length.Inch / 2
	require.NoError(t, c.Show("layer-0", "", &wide))
	nx, ny := offCentre()
	assert.InDelta(t, float64(x), float64(nx), 4, "to the nanometre, but for halves")
	assert.InDelta(t, float64(y), float64(ny), 4)
	assert.Error(t, c.SetFormat("nonsense", false))
}

func TestAreasComeAndGo(t *testing.T) {
	c := full(t)
	c.RemoveArea("a1")
	assert.Empty(t, c.Joins, "its joins go with it")
	assert.Equal(t, "a3", c.AddArea(""), "an id is the next that is free")
	assert.Equal(t, "Area 3", c.Areas[1].Name)
	_, err := c.AreaByID("a1")
	assert.ErrorContains(t, err, "gone")
	c.SetJoin("a2", "a3", true)
	assert.True(t, c.Joined("a3", "a2"))
	c.SetJoin("a3", "a2", false)
	assert.False(t, c.Joined("a2", "a3"))
}

func TestDip(t *testing.T) {
	w := card.Wash{Technique: technique.Flat, Strength: pigment.Tea, Mix: []card.Part{{CI: "PB29", Parts: 1}}}
	require.NoError(t, w.Dip("PV19", 2))
	require.NoError(t, w.Dip("PB29", 1))
	assert.Equal(t, "PB29 + PV19 2:2", card.MixCodes(w.Mix))
	require.NoError(t, w.Dip("PY3", 1))
	assert.ErrorContains(t, w.Dip("PO62", 1), "at most 3 paints")
	require.NoError(t, w.Dip("PB29", -2))
	assert.Equal(t, "PV19 + PY3 2:1", card.MixCodes(w.Mix), "a paint without parts leaves the mix")
	require.NoError(t, w.Dip("PB999", -1), "taking out what is not there changes nothing")
	require.NoError(t, w.Dip("PY3", -1))
	assert.ErrorContains(t, w.Dip("PV19", -5), "at least one paint")
	assert.Error(t, w.Dip("PV19", 100))
	assert.NoError(t, w.Check(), "a refused dip leaves a good wash")
}

// begin lays the next wash of an area, of ultramarine.
func begin(a *card.Area) error {
	w := a.NextWash()
	if err := w.Dip("PB29", 1); err != nil {
		return err
	}
	return a.Lay(w)
}

func TestWashesAreLimited(t *testing.T) {
	a := card.Area{Name: "Sky"}
	for range card.MaxWashes {
		require.NoError(t, begin(&a))
	}
	assert.ErrorContains(t, a.AddWash(), "no more")
	assert.Equal(t, technique.Flat, a.Washes[0].Technique)
	assert.Equal(t, technique.Glaze, a.Washes[1].Technique)
	_, err := a.Wash(card.MaxWashes)
	assert.ErrorContains(t, err, "gone")
}

func TestShelfDefaultsAreUsable(t *testing.T) {
	for _, p := range shelf.Papers() {
		for _, k := range shelf.Inks() {
			c := full(t)
			c.Paper, c.Ink = p.ID, k.ID
			assert.NoError(t, c.Check())
		}
	}
}

func TestMixesAsText(t *testing.T) {
	mix := []card.Part{{CI: "PB15:3", Parts: 2}, {CI: "PV19", Parts: 1}}
	assert.Equal(t, "PB15:3*2 PV19*1", card.WriteMix(mix))
	again, err := card.ReadMix(card.WriteMix(mix))
	require.NoError(t, err)
	assert.Equal(t, mix, again)
	for _, bad := range []string{"PB29", "PB29*x", "*"} {
		_, err := card.ReadMix(bad)
		assert.ErrorContains(t, err, "no part of a mix", bad)
	}
}

func TestPaintedAsAnother(t *testing.T) {
	c := full(t)
	require.NoError(t, c.Areas[0].Washes[0].Dip("PV19", 1))
	c.Areas[1].PaintAs(&c.Areas[0])
	assert.Equal(t, c.Areas[0].Washes, c.Areas[1].Washes)
	require.NoError(t, c.Areas[1].Washes[0].Dip("PV19", 5))
	assert.NotEqual(t, c.Areas[0].Washes, c.Areas[1].Washes, "each has its own")
}

func TestWantedColours(t *testing.T) {
	c := full(t)
	c.Wanted = []pigment.Swatch{{Name: "dusk", Hex: "#7a8fc2"}}
	doc, err := c.Encode()
	require.NoError(t, err)
	again, err := card.Decode(doc)
	require.NoError(t, err)
	assert.Equal(t, c.Wanted, again.Wanted)
	for why, wanted := range map[string][]pigment.Swatch{
		"is no colour":  {{Hex: "blue"}},
		"more than 256": make([]pigment.Swatch, 257),
		"longer than":   {{Hex: "#000000", Name: strings.Repeat("x", 200)}},
	} {
		c.Wanted = wanted
		assert.ErrorContains(t, c.Check(), why)
	}
}

func TestTechniques(t *testing.T) {
	for _, k := range technique.Kinds() {
		c := full(t)
		a := &c.Areas[0]
		require.NoError(t, begin(a))
		last := len(a.Washes) - 1
		require.NoError(t, a.LayAs(last, k))
		assert.NoError(t, c.Check(), k)
		assert.NotZero(t, c.WashName(a.Washes[last]))
		assert.True(t, k.Known())
		assert.Equal(t, k.Tool() == technique.CleanWater, len(a.Washes[last].Mix) == 0, k)
		assert.GreaterOrEqual(t, k.Laid(), k.Left(), k)
		// Without anything wet below it there is nothing for water to take.
		a.Washes = a.Washes[last:]
		if k.NeedsWet() {
			assert.ErrorContains(t, c.Check(), "no wet wash below for "+k.Name())
		} else {
			assert.NoError(t, c.Check(), k)
		}
	}
	a := &card.Area{Name: "petal"}
	require.NoError(t, begin(a))
	require.NoError(t, a.AddWash())
	require.NoError(t, a.LayAs(1, technique.Highlight))
	assert.Equal(t, "opaque white, cream, highlight", (&card.Card{}).WashName(a.Washes[1]))
	require.NoError(t, a.LayAs(1, technique.PenLine))
	assert.Equal(t, "lamp black, pen line", (&card.Card{}).WashName(a.Washes[1]))
	require.NoError(t, a.LayAs(1, technique.Lift))
	assert.Equal(t, "lift", (&card.Card{}).WashName(a.Washes[1]))
	require.NoError(t, a.LayAs(1, technique.Glaze))
	assert.Equal(t, "ultramarine, tea, glaze", (&card.Card{}).WashName(a.Washes[1]), "with the mix of the wash below")
	assert.ErrorContains(t, card.Wash{Technique: technique.Blot, Strength: "tea"}.Check(), "no mix")
	assert.ErrorContains(t, a.LayAs(7, technique.Flat), "gone")
}

// What a technique begins with can be painted.
func TestBegun(t *testing.T) {
	own := 0
	for _, k := range technique.Kinds() {
		w := card.Begun(k)
		assert.Equal(t, k, w.Technique)
		if k.Facts().Starts.CI == "" {
			assert.Empty(t, w.Mix, k)
			continue
		}
		own++
		assert.NoError(t, w.Check(), k)
	}
	assert.Positive(t, own)
	assert.Equal(t, card.Wash{Technique: technique.Highlight, Mix: []card.Part{{CI: pigment.OpaqueWhite, Parts: 1}}, Strength: pigment.Cream}, card.Begun(technique.Highlight))
}

// The maker says whether a second wet wash goes into the wet one or over it.
func TestOverDryOrIntoWet(t *testing.T) {
	wet := card.Wash{Technique: technique.WetOnWet, Strength: pigment.Tea, Mix: []card.Part{{CI: "PB29", Parts: 1}}}
	assert.False(t, wet.IntoWet(0), "there is nothing below the first")
	assert.True(t, wet.IntoWet(1))
	wet.OverDry = true
	assert.False(t, wet.IntoWet(1))
	assert.NoError(t, wet.Check())
	assert.Equal(t, "ultramarine, tea, wet-on-wet over dry", (&card.Card{}).WashName(wet))
	assert.ErrorContains(t, card.Wash{Technique: technique.Lift, OverDry: true}.Check(), "has to be wet")
	a := &card.Area{Washes: []card.Wash{wet, wet}}
	require.NoError(t, a.LayAs(1, technique.Variegated))
	assert.True(t, a.Washes[1].OverDry, "kept where it means something")
	require.NoError(t, a.LayAs(1, technique.Glaze))
	assert.False(t, a.Washes[1].OverDry)
	assert.False(t, card.PaintedAlike(a, &card.Area{Washes: []card.Wash{wet, a.Washes[1], wet}}))
}

// A card of version 3 means what it meant.
func TestVersion3IsRead(t *testing.T) {
	c := full(t)
	c.Drying = card.Heat
	now, err := c.Encode()
	require.NoError(t, err)
	old := bytes.Replace(now, fmt.Appendf(nil, `"version": %d`, card.Version), []byte(`"version": 3`), 1)
	read, err := card.Decode(old)
	require.NoError(t, err)
	assert.Equal(t, c, read)
	assert.Equal(t, card.Mixed, card.New("new", length.Inches).Drying)
	_, err = card.Decode([]byte(`{"kind":"chromaqua-card","version":3,"areas":7}`))
	assert.ErrorContains(t, err, "areas")
}

func TestWashesAreLaidInAnotherOrder(t *testing.T) {
	c := full(t)
	a := &c.Areas[0]
	first, second := a.Washes[0].Technique, a.Washes[1].Technique
	require.NoError(t, a.MoveWash(0, true))
	assert.Equal(t, [2]technique.Kind{second, first}, [2]technique.Kind{a.Washes[0].Technique, a.Washes[1].Technique})
	require.NoError(t, a.MoveWash(1, false))
	assert.Equal(t, first, a.Washes[0].Technique)
	assert.ErrorContains(t, a.MoveWash(0, false), "first or the last")
	assert.ErrorContains(t, a.MoveWash(1, true), "first or the last")
	assert.ErrorContains(t, a.MoveWash(9, true), "gone")
}

func TestMeasuredPaints(t *testing.T) {
	c := full(t)
	assert.True(t, c.Uses("PB29"))
	assert.False(t, c.Uses("PY3"))
	blue := card.Measured{CI: "PB29", Name: "blue pan"}
	blue.K[3] = 2
	c.Measure(blue)
	blue.Name = "other pan"
	c.Measure(blue)
	require.Len(t, c.Measured, 1, "one for each pigment")
	doc, err := c.Encode()
	require.NoError(t, err)
	again, err := card.Decode(doc)
	require.NoError(t, err)
	assert.Equal(t, c.Measured, again.Measured)
	for why, change := range map[string]func(){
		"measured twice":      func() { c.Measured = append(c.Measured, blue) },
		"measured colours of": func() { c.Measured[0].S[0] = -1 },
		"no pigment":          func() { c.Measured[0].CI = "PX1" },
		"give the paint":      func() { c.Measured[0].Name = "" },
	} {
		c.Measured = []card.Measured{blue}
		change()
		assert.ErrorContains(t, c.Check(), why)
	}
}
