package card_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/shelf"
)

// order lists the images of a card, the one in front first.
func order(c *card.Card) (ids []string) {
	for _, m := range c.Images {
		ids = append(ids, m.ID)
	}
	return ids
}

func TestImagesAreLaidBehindAndBroughtForward(t *testing.T) {
	c := full(t)
	other := c.Line().Scan
	other.Title = "Other"
	id, err := c.Lay(other, shelf.SolidImage)
	require.NoError(t, err)
	assert.Equal(t, []string{"i1", "i2"}, order(c))
	require.NoError(t, c.Bring(id, 1))
	assert.Equal(t, []string{"i2", "i1"}, order(c))
	require.NoError(t, c.Bring(id, 99), "as far as it goes")
	require.NoError(t, c.Bring(id, -1))
	assert.Equal(t, []string{"i1", "i2"}, order(c))

	require.NoError(t, c.Repeat("i1", 2, length.Inch, -length.Inch/2, 100))
	assert.Equal(t, []string{"i1", "i3", "i4", "i2"}, order(c), "copies lie right behind")
	assert.Equal(t, c.Images[0].X+2*length.Inch, c.Images[2].X)
	assert.Equal(t, c.Images[0].Y-length.Inch, c.Images[2].Y)
	assert.Equal(t, -160.0, c.Images[2].Turn)
	assert.True(t, c.Images[0].Alike(&c.Images[2]))
	c.Images[2].Marks = []card.Mark{{Kind: card.Bare, Points: []card.UV{{U: 0}, {U: 1}, {V: 1}}}}
	assert.False(t, c.Images[0].Alike(&c.Images[2]), "inked in part it needs a mask of its own")
	assert.NoError(t, c.Check())

	require.NoError(t, c.Place("i1", other, shelf.Stencil))
	assert.Equal(t, "Other", c.Line().Title)
	assert.NotEmpty(t, c.Areas[0].Cells, "areas stay with what takes an image's place")
	require.NoError(t, c.TakeAway("i1"))
	assert.Empty(t, c.Areas[0].Cells)
	assert.NoError(t, c.Check())
	for _, err := range []error{c.TakeAway("i1"), c.Bring("i1", 1), c.Repeat("i1", 1, 0, 0, 0), c.Place("i1", other, "")} {
		assert.ErrorContains(t, err, "not on the panel any more")
	}
}

func TestAPanelTakesSoManyImages(t *testing.T) {
	c := full(t)
	assert.ErrorContains(t, c.Repeat("i1", 200, 0, 0, 0), "1 to 29 copies")
	assert.Error(t, c.Repeat("i1", 0, 0, 0, 0))
	require.NoError(t, c.Repeat("i1", card.MaxImages-1, 0, 0, 0))
	_, err := c.Lay(c.Line().Scan, "")
	assert.ErrorContains(t, err, "take one away first")
	for i := range 200 {
		m := c.Images[0]
		m.ID = fmt.Sprint("x", i)
		c.Images = append(c.Images, m)
	}
	assert.ErrorContains(t, c.Check(), "230 images are more than a panel takes")
}

func TestTurning(t *testing.T) {
	m := card.Image{Turn: 170}
	require.NoError(t, m.TurnBy(20.04))
	assert.Equal(t, -170.0, m.Turn)
	for _, by := range []float64{1e9, -361} {
		assert.Error(t, m.TurnBy(by))
	}
	assert.Equal(t, -170.0, m.Turn)
}

func TestImagesThatCannotBe(t *testing.T) {
	for why, change := range map[string]func(*card.Card){
		"stands twice":       func(c *card.Card) { c.Images = append(c.Images, c.Images[0]) },
		"no kind of image":   func(c *card.Card) { c.Line().Kind = "fog" },
		"-180 to 180":        func(c *card.Card) { c.Line().Turn = 181 },
		"0 to 3 times":       func(c *card.Card) { c.Line().Ghost = 4 },
		"three points":       func(c *card.Card) { c.Line().Marks = []card.Mark{{Kind: card.Bare, Points: make([]card.UV, 2)}} },
		"does not have":      func(c *card.Card) { c.Areas[0].Cells[0].On = "i9" },
		"no time to press":   func(c *card.Card) { c.Relief = "never" },
		"up to 20 mm":        func(c *card.Card) { c.Specks = -1 },
		"2 m off the panel":  func(c *card.Card) { c.Line().Y = -3 * length.Metre },
		"named by its SHA":   func(c *card.Card) { c.Line().Image = "x" },
		"no correction":      func(c *card.Card) { c.Line().Marks = []card.Mark{{Kind: "blot", Points: make([]card.UV, 2)}} },
		"empty, too long or": func(c *card.Card) { c.Line().ID = "" },
	} {
		c := full(t)
		change(c)
		assert.ErrorContains(t, c.Check(), why, why)
	}
}

// A card of version 2 had one image, which nothing had to name.
func TestVersion2(t *testing.T) {
	c := full(t)
	c.Line().Marks = []card.Mark{{Kind: card.Pen, Points: []card.UV{{U: 0.1}, {U: 0.2}}}}
	c.Specks = 3
	doc, err := c.Encode()
	require.NoError(t, err)
	var old map[string]any
	require.NoError(t, json.Unmarshal(doc, &old))
	line := old["images"].([]any)[0].(map[string]any)
	delete(line, "id")
	delete(line, "kind")
	line["specks_mm2"] = 3
	old["line"], old["version"] = line, 2
	delete(old, "images")
	delete(old, "specks_mm2")
	for _, a := range old["areas"].([]any) {
		for _, s := range a.(map[string]any)["cells"].([]any) {
			delete(s.(map[string]any), "on")
		}
	}
	was, err := json.Marshal(old)
	require.NoError(t, err)
	now, err := card.Decode(was)
	require.NoError(t, err)
	c.Line().Kind = ""
	assert.Equal(t, c, now)

	delete(old, "line")
	was, err = json.Marshal(old)
	require.NoError(t, err)
	now, err = card.Decode(was)
	require.NoError(t, err, "areas that pointed at an image that had gone")
	assert.Empty(t, now.Images)
	assert.Empty(t, now.Areas[0].Cells)

	for _, bad := range []string{`"line":7`, `"line":{"x":3}`, `"areas":[{"id":"a1","name":"x","cells":[3]}]`, `"areas":3`} {
		_, err := card.Decode([]byte(strings.Replace(`{"kind":"chromaqua-card","version":2,#}`, "#", bad, 1)))
		assert.ErrorContains(t, err, "cannot be read", bad)
	}
}

func TestWhatLeavesInk(t *testing.T) {
	for kind, inked := range map[shelf.ImageKind]bool{"": true, shelf.LineImage: true, shelf.SolidImage: true, shelf.PrintImage: true, shelf.ReliefImage: false, shelf.Stencil: false, shelf.DieImage: false} {
		m := card.Image{Kind: kind}
		assert.Equal(t, inked, m.Inked(), kind)
	}
	c := full(t)
	assert.True(t, c.Inked())
	c.Line().Kind = shelf.DieImage
	assert.False(t, c.Inked())
	c.Images = nil
	assert.True(t, c.Inked(), "an empty panel may be inked yet")
}
