package shelf_test

import (
	"bytes"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/length"
	"chromaqua/core/shelf"
)

func bottle() shelf.Own {
	return shelf.Own{Name: "the grey bottle", What: shelf.OwnInk, Like: "permanent", Colour: "dove grey", AirDry: 40 * time.Minute, HeatDry: 90 * time.Second, Note: "for soft lines"}
}

// What is known better takes the place of what is generally known; the rest stays.
func TestOwnMaterialsAreLikeGeneralOnes(t *testing.T) {
	k := bottle().Ink()
	general, err := shelf.InkByID("permanent")
	require.NoError(t, err)
	assert.Equal(t, "the grey bottle, dove grey", k.Name)
	assert.Equal(t, 40*time.Minute, k.AirDry)
	assert.Equal(t, 90*time.Second, k.HeatDry)
	assert.Equal(t, general.Holds, k.Holds)
	assert.Equal(t, general.Looks, k.Looks)
	p := shelf.Own{Name: "the thick pad", What: shelf.OwnPaper, Like: "cotton-cp", Thickness: length.Millimetre}.Paper()
	assert.Equal(t, length.Millimetre, p.Thickness)
	assert.Equal(t, shelf.Papers()[0].Surface, p.Surface)
	assert.Equal(t, shelf.Papers()[0].Note, p.Note)
}

func TestOwnTablesComeAndGo(t *testing.T) {
	all := []shelf.Own{bottle(), {Name: "pad, with \"quotes\"", What: shelf.OwnPaper, Like: "cotton-cp", Thickness: length.Millimetre / 2}, {Name: "blue jar", What: shelf.OwnMask, Like: "fluid", AirDry: 20 * time.Minute, Tried: []shelf.Tried{{Paper: "cotton-cp", Clean: 6}, {Paper: "pulp-cp", OwnPaper: "rain pad (old)", Clean: 1, Tore: 3}}}}
	var buf bytes.Buffer
	require.NoError(t, shelf.WriteCSV(&buf, all))
	back, err := shelf.ReadCSV(&buf, length.Inches)
	require.NoError(t, err)
	assert.Equal(t, all, back)
	back, err = shelf.ReadCSV(strings.NewReader("\ufefflike, Name ,what\npen,Fine liner,ink\n"), length.Inches)
	require.NoError(t, err)
	assert.Equal(t, []shelf.Own{{Name: "Fine liner", What: shelf.OwnInk, Like: "pen"}}, back)
}

func TestOwnTablesAreRefusedWhole(t *testing.T) {
	const head = "what,name,like,air_minutes,thickness\n"
	for text, why := range map[string]string{
		"":                                     "first line names the columns",
		"what,name,size\n":                     "line 1, column 3",
		"what,what,like\n":                     "stands twice",
		"what,name\n":                          `"like" is missing`,
		head:                                   "no materials below",
		head + "ink,A,pen,,\nink,B,crayon,,\n": "line 3, there is no ink",
		head + "ink,A,pen,soon,\n":             "line 2, column 4 (air_minutes)",
		head + "paper,A,kraft,,thick\n":        "column 5 (thickness)",
		head + "glue,A,pen,,\n":                "neither ink, paper, powder, paint, brush nor mask",
		"what,name,like,tried\nmask,A,fluid,often\n":      "no test of a mask",
		"what,name,like,tried\nmask,A,fluid,cotton 1/0\n": "no paper",
		head + "mask,A,soap,,\n":                          "like a mask that is listed",
		head + "ink,,pen,,\n":                             "a name of 1 to",
		head + "ink,A,pen\n":                              "more or fewer cells",
		head + "paper,A,kraft,,2 in\n":                    "cannot be",
		head + "ink,A,pen,99999,\n":                       "a week",
	} {
		_, err := shelf.ReadCSV(strings.NewReader(text), length.Inches)
		assert.ErrorContains(t, err, why, text)
	}
}

func TestPowdersOfOnesOwn(t *testing.T) {
	tin := shelf.Own{Name: "tin", What: shelf.OwnPowder, Like: shelf.Superfine, Colour: "clear", Note: "old"}
	require.NoError(t, tin.Check())
	p := tin.Powder()
	assert.Equal(t, [3]any{"tin, clear", "old", 0.25}, [3]any{p.Name, p.Note, p.Finest})
	tin.Like = "salt"
	assert.ErrorContains(t, tin.Check(), "no powder")
	pan := shelf.Own{Name: "half pan", What: shelf.OwnPaint, Like: "PB29"}
	require.NoError(t, pan.Check())
	pan.Like = "PB999"
	assert.ErrorContains(t, pan.Check(), "no pigment")
	finest := 0.0
	for _, p := range shelf.Powders() {
		assert.GreaterOrEqual(t, p.Finest, finest, "the finest first")
		finest = p.Finest
	}
}

func FuzzReadCSV(f *testing.F) {
	f.Add("what,name,like\nink,A,pen\n")
	f.Add("what,name,like,thickness\npaper,\"A\nb\",kraft,0.3 mm\n")
	f.Fuzz(func(t *testing.T, text string) {
		all, err := shelf.ReadCSV(strings.NewReader(text), length.Millimetres)
		if err != nil {
			return
		}
		var buf bytes.Buffer
		require.NoError(t, shelf.WriteCSV(&buf, all))
		_, err = shelf.ReadCSV(&buf, length.Millimetres)
		require.NoError(t, err, "what was accepted is accepted again")
	})
}

// Tests of a mask are counted by the paper.
func TestMasksAreTried(t *testing.T) {
	o := shelf.Own{Name: "jar", What: shelf.OwnMask, Like: "fluid"}
	o.Try("cotton-cp", "", false)
	o.Try("cotton-cp", "", true)
	o.Try("cotton-cp", "my pad", true)
	assert.Equal(t, []shelf.Tried{{Paper: "cotton-cp", Clean: 1, Tore: 1}, {Paper: "cotton-cp", OwnPaper: "my pad", Tore: 1}}, o.Tried)
	assert.NoError(t, o.Check())
	o.Tried[0].Tore = shelf.MaxTried
	assert.ErrorContains(t, o.Check(), "times")
	assert.Error(t, shelf.Own{Name: "rule", What: shelf.OwnMask, Like: "round"}.Check(), "painting round is no mask")
}
