package card_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"chromaqua/core/card"
	"chromaqua/core/fold"
	"chromaqua/core/length"
	"chromaqua/core/mount"
	"chromaqua/core/nest"
	"chromaqua/core/shelf"
)

const eighth = length.Inch / 8

func size(t testing.TB, text string) length.Size {
	s, err := length.ParseSize(text, length.Inches)
	require.NoError(t, err)
	return s
}

func layout(t testing.TB, c *card.Card) card.Layout {
	require.NoError(t, c.Check())
	l, err := c.Layout()
	require.NoError(t, err)
	return l
}

// What is typed stays, and what follows says from what.
func TestACardStartsFromAnyEnd(t *testing.T) {
	for _, tc := range []struct {
		name        string
		set         func(c *card.Card)
		front, from string
		panel       string
	}{
		{"format", func(*card.Card) {}, "4 1/4 x 5 1/2", "", "3 3/4 x 5"},
		{"panel", func(c *card.Card) { require.NoError(t, c.Give("panel", size(t, "4 x 6"))) }, "4 1/2 x 6 1/2", "the panel", "4 x 6"},
		{"mat", func(c *card.Card) { require.NoError(t, c.Give("layer-0", size(t, "5 x 5"))) }, "5 1/4 x 5 1/4", "the mat", "4 3/4 x 4 3/4"},
		{"stamp", func(c *card.Card) { c.Stamp = &card.Stamp{Size: size(t, "2 x 3")} }, "3 x 4", "the stamp", "2 1/2 x 3 1/2"},
		{"image", func(c *card.Card) {
			_, err := c.Lay(card.Scan{Image: strings.Repeat("ab", 32), Title: "x", WidthPX: 600, HeightPX: 900, Width: 2 * length.Inch}, shelf.LineImage)
			require.NoError(t, err)
			c.Stamp = &card.Stamp{}
		}, "3 x 4", "the stamp", "2 1/2 x 3 1/2"},
		{"envelope", func(c *card.Card) {
			e, err := fold.EnvelopeByID("env-a7")
			require.NoError(t, err)
			c.Envelope = &card.Envelope{ID: e.ID, Inside: e.Inside}
		}, "5 x 7", "the envelope", "4 1/2 x 6 1/2"},
	} {
		t.Run(tc.name, func(t *testing.T) {
			c := card.New("x", length.Inches)
			if tc.name != "format" {
				require.NoError(t, c.Give("front", length.Size{}))
				assert.Error(t, c.Check(), "nothing is given")
			}
			tc.set(c)
			l := layout(t, c)
			assert.Equal(t, size(t, tc.front), c.Front())
			assert.Equal(t, size(t, tc.panel), c.PanelSize())
			assert.Equal(t, tc.from, l.Of("front").From)
		})
	}
}

func TestTheFrontLiesAsWhatIsOnIt(t *testing.T) {
	c := card.New("x", length.Inches)
	require.NoError(t, c.Give("front", length.Size{}))
	c.Envelope = &card.Envelope{ID: card.Free, Inside: size(t, "7 x 5")}
	assert.Less(t, c.Front().W, c.Front().H)
	require.NoError(t, c.Give("panel", size(t, "5 x 3")))
	assert.Greater(t, c.Front().W, c.Front().H)
	fit := fold.FitInto(mount.Body(c), fold.Envelope{Inside: c.Envelope.Inside})
	assert.True(t, fit.Good(), "a front made for an envelope goes into it")
	assert.Equal(t, size(t, "6 7/8 x 4 7/8"), c.Front(), "and is as large as it may be")
	require.NoError(t, c.Give("panel", size(t, "9 x 7")))
	assert.Equal(t, size(t, "9 1/2 x 7 1/2"), c.Front(), "what cannot go into it does not follow from it")
}

// What fights is named, and nothing is stored of it.
func TestContradictionsNameTheTwo(t *testing.T) {
	c := card.New("x", length.Millimetres)
	require.NoError(t, c.Give("panel", size(t, "5 x 5")))
	assert.ErrorContains(t, c.Check(), "the front and the panel fight: the front is about 108 mm wide, the panel on it 127 mm")
	require.NoError(t, c.Give("panel", size(t, "3 1/2 x 5")))
	l := layout(t, c)
	assert.InDelta(t, (2 * eighth).MM(), l.Of("layer-0").Round.Left.MM(), 0.25, "the border takes the rest, but for the mat that lands on a mark")
	assert.Equal(t, "the front and the panel", l.Of("layer-0").From)
}

func TestManyMatsAndFrames(t *testing.T) {
	c := card.New("x", length.Inches)
	require.NoError(t, c.AddLayer(card.Mat))
	require.NoError(t, c.AddLayer(card.Frame))
	l := layout(t, c)
	assert.Equal(t, "mat 2", l.Of("layer-1").Name)
	assert.Equal(t, "frame's opening", l.Of("opening-2").Name)
	assert.Equal(t, size(t, "3 1/2 x 4 3/4"), l.Of("layer-2").Size)
	assert.Equal(t, size(t, "2 1/2 x 3 3/4"), l.Of("opening-2").Size)
	assert.Equal(t, size(t, "2 3/4 x 4"), c.PanelSize(), "the panel reaches under its frame")
	var names []string
	members, err := mount.Members(c)
	require.NoError(t, err)
	for _, m := range members {
		names = append(names, m.Name)
	}
	assert.Equal(t, []string{"card base", "mat 1", "mat 2", "panel", "frame"}, names)

	require.NoError(t, c.RemoveLayer(1))
	assert.Error(t, c.RemoveLayer(7))
	for range card.MaxLayers {
		_ = c.AddLayer(card.Mat)
	}
	assert.ErrorContains(t, c.AddLayer(card.Mat), "most a card takes")
}

// A die cuts what it cuts; the margins that result are shown.
func TestTheNearestDieIsTaken(t *testing.T) {
	set := &card.DieSet{Name: "scalloped", Edge: card.Scallop, Sizes: []length.Size{size(t, "3 x 4 1/4"), size(t, "5 1/16 x 3 7/8"), size(t, "4 3/8 x 5 5/8")}}
	c := card.New("x", length.Inches)
	require.NoError(t, c.SetDie("layer-0", set))
	r := layout(t, c).Of("layer-0")
	assert.Equal(t, size(t, "3 7/8 x 5 1/16"), r.Size, "turned, and not the one that overhangs")
	assert.Equal(t, size(t, "4 x 5 1/4"), r.Asked)
	assert.Equal(t, 3*length.Inch/16, r.Round.Left)
	assert.Equal(t, "its die", r.From)

	border := length.Inch / 4
	require.NoError(t, c.Show("layer-0", "", &border))
	require.NoError(t, c.Give("panel", size(t, "3 1/2 x 4 3/4")))
	r = layout(t, c).Of("layer-0")
	assert.Equal(t, size(t, "3 7/8 x 5 1/16"), r.Size)
	assert.NotEqual(t, border, r.Round.Left, "asked for, but the die gives what it gives")

	require.NoError(t, c.SetDie("layer-0", nil))
	require.NoError(t, c.SetDie("panel", set))
	require.NoError(t, c.Give("front", length.Size{}))
	require.NoError(t, c.Show("layer-0", "", nil))
	assert.Equal(t, size(t, "3 1/2 x 4 3/4"), c.Front(), "a card may start from its die")
	assert.Error(t, c.SetDie("layer-9", set))
}

func TestDrag(t *testing.T) {
	c := card.New("x", length.Inches)
	drag := func(id string, side nest.Side, by length.Length) {
		require.NoError(t, c.Drag(id, side, by))
		require.NoError(t, c.Check())
	}
	drag("layer-0", nest.Left, -eighth)
	l := layout(t, c)
	assert.Equal(t, 2*eighth, l.Of("layer-0").Round.Left)
	assert.Equal(t, eighth, l.Of("layer-0").Round.Right, "the opposite edge stays")
	drag("front", nest.Bottom, eighth)
	assert.Equal(t, size(t, "4 1/4 x 5 5/8"), c.Front())
	assert.Equal(t, card.Free, c.Base.Format)
	drag("front", nest.Bottom, -eighth)
	assert.Equal(t, "a2", c.Base.Format, "a size that is standard has its name again")

	require.NoError(t, c.Give("panel", size(t, "3 x 4")))
	drag("panel", nest.Right, eighth)
	l = layout(t, c)
	assert.False(t, l.Of("panel").GivenW, "dragged, it follows from what is shown round it")
	assert.True(t, l.Of("panel").GivenH)

	require.NoError(t, c.Give("panel", size(t, "3 x 4")))
	require.NoError(t, c.Give("front", length.Size{}))
	require.NoError(t, c.Show("layer-0", "", nil))
	require.NoError(t, c.Show("panel", "", nil))
	drag("panel", nest.Right, eighth)
	assert.Equal(t, size(t, "3 1/8 x 4"), c.PanelSize(), "what the others follow from grows")
	drag("front", nest.Top, eighth)
	assert.Equal(t, 2*eighth, layout(t, c).Of("layer-0").Round.Top)
	assert.Error(t, c.Drag("panel", "middle", eighth))
	assert.Error(t, c.Drag("lid", nest.Left, eighth))
}

// Wherever an edge is dragged, the other edges of its axis stay or the card is
// refused as a whole.
func TestDragMovesOneEdge(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		c := card.New("x", length.Inches)
		if rapid.Bool().Draw(rt, "frame") {
			require.NoError(t, c.AddLayer(card.Frame))
		}
		before, err := c.Layout()
		require.NoError(t, err)
		i := rapid.IntRange(1, len(before)-1).Draw(rt, "ring")
		side := rapid.SampledFrom([]nest.Side{nest.Left, nest.Right, nest.Top, nest.Bottom}).Draw(rt, "side")
		by := length.Length(rapid.IntRange(-8, 8).Draw(rt, "by")) * length.Sixteenth
		require.NoError(t, c.Drag(before[i].ID, side, by))
		after, err := c.Layout()
		if err != nil {
			return
		}
		for _, s := range []nest.Side{nest.Left, nest.Right, nest.Top, nest.Bottom} {
			want := before[i].Round.Of(s)
			if s == side {
				want -= by
			}
			if got := after[i].Round.Of(s); got != want {
				rt.Fatalf("%s of %s: %s, want %s", s, before[i].ID, got, want)
			}
		}
	})
}

func TestTheImageLiesWhereTheStampDoes(t *testing.T) {
	c := card.New("x", length.Inches)
	_, err := c.Lay(card.Scan{Image: strings.Repeat("ab", 32), Title: "x", WidthPX: 600, HeightPX: 900, Width: 2 * length.Inch}, shelf.LineImage)
	require.NoError(t, err)
	c.Change(func() { c.Stamp = &card.Stamp{}; c.Base.Front = length.Size{} })
	wide := length.Inch
	require.NoError(t, c.Show("stamp", nest.Left, &wide))
	assert.Equal(t, wide, c.Line().X)
	assert.Equal(t, length.Inch/4, c.Line().Y)
	assert.Error(t, c.Show("front", "", &wide))
	assert.Error(t, c.Show("panel", "middle", &wide))
}

func TestSheetAndInsert(t *testing.T) {
	c := card.New("x", length.Inches)
	assert.Zero(t, c.InsertSize())
	c.Painting.Spare = length.Inch / 2
	c.Insert = &card.Insert{Margin: eighth, Paper: shelf.Cardstock}
	assert.Equal(t, size(t, "4 3/4 x 6"), c.SheetSize())
	assert.Equal(t, size(t, "4 x 5 1/4"), c.InsertSize())
	c.Base.Inside = true
	assert.Equal(t, fold.Valley, c.Blank().Scores[0].Way)
}

// A card stored by the first version opens as what it was.
func TestVersion1Opens(t *testing.T) {
	const old = `{"kind":"chromaqua-card","version":1,"name":"Old","unit":"in",
 "base":{"format":"a2","front":{"w":"4 1/4 in","h":"5 1/2 in"},"fold":"side","paper":"card"},
 "mat":{"on":true,"border":"1/8 in","reveal":"1/4 in","paper":"kraft"},
 "paper":"cotton-cp","ink":"pigment-quick","areas":[],"joins":[],"drying":"air","room":{"celsius":21,"humidity":0.5,"air":0.1}}`
	c, err := card.Decode([]byte(old))
	require.NoError(t, err)
	assert.Equal(t, size(t, "3 1/2 x 4 3/4"), c.PanelSize())
	assert.Equal(t, "kraft", c.Layers[0].Paper)
	assert.Nil(t, c.Layers[0].Margin.Left, "the usual width follows")
	doc, err := c.Encode()
	require.NoError(t, err)
	again, err := card.Decode(doc)
	require.NoError(t, err)
	assert.Equal(t, c, again)

	c, err = card.Decode([]byte(strings.Replace(old, `"on":true`, `"on":false`, 1)))
	require.NoError(t, err)
	assert.Equal(t, size(t, "4 x 5 1/4"), c.PanelSize())
	_, err = card.Decode([]byte(strings.Replace(old, `"mat"`, `"hat"`, 1)))
	assert.ErrorContains(t, err, "hat")
	_, err = card.Decode([]byte(strings.Replace(old, `"1/8 in"`, `"wide"`, 1)))
	assert.ErrorContains(t, err, "wide")
}

func TestStripsHoldWords(t *testing.T) {
	c := card.New("x", length.Inches)
	words := size(t, "2 x 1/2")
	assert.Empty(t, layout(t, c).Strips(words))
	below := length.Inch
	require.NoError(t, c.Show("layer-0", nest.Bottom, &below))
	require.NoError(t, c.Show("panel", nest.Top, &below))
	strips := layout(t, c).Strips(words)
	require.Len(t, strips, 2)
	assert.Equal(t, card.Strip{On: "front", Y: 9 * length.Inch / 2, Size: size(t, "4 1/4 x 1")}, strips[0])
	assert.Equal(t, card.Strip{On: "mat", X: eighth, Y: eighth, Size: size(t, "4 x 1")}, strips[1])
}

func BenchmarkLayout(b *testing.B) {
	c := card.New("x", length.Inches)
	for range 4 {
		require.NoError(b, c.AddLayer(card.Mat))
	}
	for b.Loop() {
		_, _ = c.Layout()
	}
}
