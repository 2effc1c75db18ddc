package mount_test

import (
	"fmt"
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
	"chromaqua/core/panel/paneltest/jobs"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
)

const mm = length.Millimetre

// plain is A2 with a mat and a panel of smooth paper, unpainted.
func plain(t testing.TB) *card.Card {
	c := card.New("x", length.Millimetres)
	c.Paper = "cotton-hp"
	require.NoError(t, c.Check())
	return c
}

func with(t testing.TB, c *card.Card, k card.PieceKind, set func(*card.Piece)) *card.Piece {
	id, err := c.AddPiece(k)
	require.NoError(t, err)
	p, err := c.PieceByID(id)
	require.NoError(t, err)
	if set != nil {
		set(p)
	}
	return p
}

func made(t testing.TB, c *card.Card) *mount.Assembly {
	require.NoError(t, c.Check())
	a, err := mount.Of(c)
	require.NoError(t, err)
	return a
}

func troubles(a *mount.Assembly) (out []mount.Trouble) {
	for _, f := range a.Faults {
		out = append(out, f.Trouble)
	}
	return out
}

func titles(a *mount.Assembly) (out []string) {
	for i := range a.Joints {
		out = append(out, strings.TrimPrefix(a.Title(&a.Joints[i]), "Mount "))
	}
	return out
}

// Thickness is the sum by hand, layer by layer.
func TestThicknessByHand(t *testing.T) {
	c := plain(t)
	// Two leaves of 0.3, thin tape 0.1, mat 0.25, thin tape 0.1, hot press 0.45.
	assert.Equal(t, mm*150/100, made(t, c).Thick)
	c.Paper = "cotton-cp" // textured: strong tape 0.2, and 0.5 thick
	assert.Equal(t, mm*165/100, made(t, c).Thick)
	usual := card.UsualInsert()
	c.Insert = &usual // tape 0.1 and cardstock 0.3 inside
	assert.Equal(t, mm*205/100, made(t, c).Thick)
	c.Panel.By, c.Panel.High = joint.FullFoam, 2*mm // in place of 0.2
	assert.Equal(t, mm*385/100, made(t, c).Thick)
	p := with(t, c, card.CutOutPiece, nil) // foam 1.5, cold press 0.5 on it
	assert.Equal(t, mm*585/100, made(t, c).Thick)
	p.Layers = 2 // two more of it, glue 0.05 between
	assert.Equal(t, mm*695/100, made(t, c).Thick)
	with(t, c, card.DieCut, func(p *card.Piece) { p.Place.On, p.Paper = c.Pieces[0].ID, shelf.Cardstock }) // glue 0.05, 0.3
	assert.Equal(t, mm*730/100, made(t, c).Thick)
	with(t, c, card.Tag, func(p *card.Piece) { p.Place.On, p.Place.By = string(card.BackFace), joint.Tape }) // behind: 0.1 and 0.5
	assert.Equal(t, mm*790/100, made(t, c).Thick)
	c.AddAct(card.Handling{Kind: card.Embellish, Item: &card.Embellishment{Kind: joint.Gem, Height: 8 * mm}}) // higher than the pieces on the panel
	assert.Equal(t, mm*(385+60+800)/100, made(t, c).Thick)
}

// Weight is the sum of areas by hand.
func TestWeightByHand(t *testing.T) {
	c := plain(t)
	c.Layers = nil
	require.NoError(t, c.Give("panel", length.Size{W: 100 * mm, H: 100 * mm}))
	require.NoError(t, c.Give("front", length.Size{W: 120 * mm, H: 150 * mm}))
	a := made(t, c)
	blank := 0.24 * 0.15 * 270
	panel := 0.1 * 0.1 * 300
	tape := 0.6 * 0.006 * 90 // round it and a cross, 6 mm wide
	assert.InDelta(t, blank+panel+tape, a.Grams, 1e-9)
	with(t, c, card.DieCut, func(p *card.Piece) { p.Size, p.Layers = length.Size{W: 20 * mm, H: 10 * mm}, 1 })
	assert.InDelta(t, 0.02*0.01*0.6*300*2, made(t, c).Grams-a.Grams, 0.01, "a shape twice, and its dots")
	c.AddAct(card.Handling{Kind: card.Embellish, Item: &card.Embellishment{Kind: joint.Gem, Count: 10}})
	assert.Len(t, made(t, c).Items, 1)
	assert.InDelta(t, 1, made(t, c).Grams-a.Grams-0.072, 0.01)
}

// What is put together when, with its words.
func TestOrderOfAssembly(t *testing.T) {
	c := plain(t)
	usual := card.UsualInsert()
	c.Insert = &usual
	require.NoError(t, c.AddLayer(card.Frame))
	strip := func(name string, w, h, x, y length.Length, by joint.By) {
		with(t, c, card.WordStrip, func(p *card.Piece) {
			p.Name, p.Size, p.Place = name, length.Size{W: w, H: h}, &card.Place{On: card.ThePanel, At: card.At{X: x, Y: y}, By: by}
		})
	}
	strip("crab", 90*mm, 30*mm, 0, 0, joint.Foam)     // breaks out of the frame
	strip("leaf tip", 20*mm, 60*mm, 0, 0, joint.Slot) // under the crab
	with(t, c, card.WordStrip, func(p *card.Piece) { p.Name, p.Place.On = "greeting", string(card.InsideLeft) })
	with(t, c, card.Tag, func(p *card.Piece) { p.Name = "nowhere"; p.Place = nil })
	a := made(t, c)
	assert.Equal(t, []string{
		"the leaf on the inside right", "greeting on the inside left", "the mat on the card base", "the panel on the mat",
		"the frame on the panel", "leaf tip on the panel", "crab on the panel",
	}, titles(a))
	assert.Empty(t, a.Faults)
	assert.True(t, strings.HasPrefix(a.Detail(&a.Joints[1], c.Unit), "Thin double-sided tape"))
	assert.True(t, a.Raised())
	assert.Positive(t, a.Sets(), "the glue at the stem")

	// Alike pieces are one joint, in a row where nobody has placed them.
	c = plain(t)
	p := with(t, c, card.CutOutPiece, func(p *card.Piece) { p.Name, p.Count, p.Size = "lantern", 3, length.Size{W: 20 * mm, H: 30 * mm} })
	a = made(t, c)
	last := a.Joints[len(a.Joints)-1]
	require.Len(t, last.Members, 3)
	assert.Equal(t, "3 × lantern on the panel", titles(a)[2])
	assert.Equal(t, "lantern (2 of 3)", a.Members[last.Members[1]].Title())
	assert.Equal(t, 22*mm, a.Members[last.Members[1]].X-a.Members[last.Members[0]].X)
	p.Place.More = []card.At{{Y: -40 * mm, Turn: 90}}
	a = made(t, c)
	assert.Equal(t, -40*mm, a.Members[last.Members[1]].Y)

	// On what is turned, places turn with it.
	with(t, c, card.DieCut, func(q *card.Piece) { q.Place = &card.Place{On: p.ID, At: card.At{X: 5 * mm}} })
	p.Count, p.Place.More, p.Place.Turn = 0, nil, 90
	a = made(t, c)
	assert.Equal(t, card.At{Y: 5 * mm, Turn: 90}, a.Members[len(a.Members)-1].At)
}

// A page is no folded card: what lies on it is mounted all the same, and nothing asks for an
// envelope.
func TestOnAPage(t *testing.T) {
	c := plain(t)
	c.Base.Fold, c.Layers = fold.Flat, nil
	require.NoError(t, c.Give("front", length.Size{W: 210 * mm, H: 297 * mm}))
	require.NoError(t, c.Give("panel", length.Size{W: 100 * mm, H: 130 * mm}))
	with(t, c, card.WordStrip, func(p *card.Piece) { p.Place.On = string(card.FrontFace); p.Place.Y = 100 * mm })
	a := made(t, c)
	assert.Equal(t, []string{"the panel on the card base", "strip of words on the card base"}, titles(a))
	assert.Empty(t, a.Faults)
	assert.Equal(t, mm*(30+10+45)/100, a.Thick)
}

// An overhang is trimmed; a panel that covers the front is held all over.
func TestTrims(t *testing.T) {
	c := plain(t)
	over := -mm
	require.NoError(t, c.Show(card.PanelRing, "", &over))
	a := made(t, c)
	assert.Equal(t, mm, a.Joints[1].Flush)
	assert.Contains(t, a.Detail(&a.Joints[1], c.Unit), "It reaches 1 mm over: trim the panel flush with the mat from behind.")
	assert.Zero(t, a.Joints[0].Flush)
	c = plain(t)
	c.Layers = nil
	zero := length.Length(0)
	require.NoError(t, c.Show(card.PanelRing, "", &zero))
	a = made(t, c)
	i := slices.IndexFunc(a.Members[1].Weighs, func(w joint.Choice) bool { return w.By == joint.Film })
	assert.Equal(t, joint.Best, a.Members[1].Weighs[i].Grade, "laid down against guides")
}

// What was painted wet is flattened first, overnight when it was soaked; a folder flattens
// what is pressed in it.
func TestFlattening(t *testing.T) {
	lies := func(kind technique.Kind, relief bool) []mount.Flat {
		c := plain(t)
		if relief {
			c.Images = []card.Image{{ID: "i1", Kind: shelf.ReliefImage}}
		}
		a, err := c.AreaByID(c.AddArea("Sky"))
		require.NoError(t, err)
		a.Washes = []card.Wash{{Technique: kind, Strength: "tea", Mix: []card.Part{{CI: "PB29", Parts: 1}}}}
		return mount.Flattening(c)
	}
	assert.Empty(t, lies(technique.DryBrush, false))
	require.Len(t, lies(technique.Flat, false), 1)
	assert.Equal(t, mount.Weighted, lies(technique.Flat, false)[0].For)
	assert.Equal(t, mount.Overnight, lies(technique.WetOnWet, false)[0].For)
	assert.Empty(t, lies(technique.Flat, true))
}

// Each fault is found, and only where it is.
func TestFaults(t *testing.T) {
	lay := func(set func(*card.Card, *card.Piece)) []mount.Trouble {
		c := plain(t)
		p := with(t, c, card.WordStrip, func(p *card.Piece) { p.Size = length.Size{W: 60 * mm, H: 20 * mm} })
		set(c, p)
		return troubles(made(t, c))
	}
	assert.Empty(t, lay(func(*card.Card, *card.Piece) {}))
	assert.Equal(t, []mount.Trouble{mount.HoldsIll}, lay(func(_ *card.Card, p *card.Piece) { p.Place.By = joint.Glue }))
	assert.Equal(t, []mount.Trouble{mount.LetsGo}, lay(func(_ *card.Card, p *card.Piece) { p.Place.On, p.Place.By = string(card.InsideRight), joint.Foam }))
	assert.Equal(t, []mount.Trouble{mount.SlotOpen}, lay(func(_ *card.Card, p *card.Piece) { p.Place.By = joint.Slot }))
	assert.Equal(t, []mount.Trouble{mount.SticksOut}, lay(func(_ *card.Card, p *card.Piece) { p.Place.Y = -70 * mm }))
	assert.Empty(t, lay(func(_ *card.Card, p *card.Piece) { p.Place.Y = -59 * mm }))
	assert.Equal(t, []mount.Trouble{mount.GluedTwice}, lay(func(_ *card.Card, p *card.Piece) { p.Count, p.Place.More = 2, []card.At{{}} }))
	framed := func(by joint.By, high length.Length) []mount.Trouble {
		return lay(func(c *card.Card, p *card.Piece) {
			require.NoError(t, c.AddLayer(card.Frame))
			p.Size.W, p.Place.By, p.Place.High = 90*mm, by, high
		})
	}
	assert.Equal(t, []mount.Trouble{mount.OverBars}, framed(joint.Usual, 0))
	assert.Empty(t, framed(joint.Foam, 0))
	assert.Equal(t, []mount.Trouble{mount.OverBars}, lay(func(c *card.Card, p *card.Piece) {
		require.NoError(t, c.AddLayer(card.Frame))
		c.Layers[1].By, c.Layers[1].High = joint.FullFoam, 3*mm
		p.Size.W, p.Place.By = 90*mm, joint.Foam
	}), "foam lower than the frame")
	mouth := func(y length.Length) []mount.Trouble {
		return lay(func(c *card.Card, p *card.Piece) {
			p.Place.By, p.Size.H = joint.Pocket, 40*mm
			with(t, c, card.WordStrip, func(q *card.Piece) { q.Size, q.Place.Y = length.Size{W: 20 * mm, H: 16 * mm}, y })
		})
	}
	assert.Equal(t, []mount.Trouble{mount.MouthShut}, mouth(-20*mm))
	assert.Empty(t, mouth(10*mm))
}

// jobJoints is how the twenty jobs go together: what holds what, and why. A job that is not
// listed has its panel on a mat alone.
var jobJoints = map[int][]string{
	5:  {"the mat on the card base: thin tape, quick", "the panel on the mat: full foam, painted wet"},
	3:  {"Words strip on the panel: thin tape, quick"},
	6:  {"Little panel on the panel: strong tape, painted wet"},
	7:  {"Inside on the inside right: thin tape, quick", "Raised urchin on the panel: foam, shadow"},
	13: {"2 × Ray on the panel: its body only, stay free", "Second panel on the panel: strong tape, painted wet"},
	14: {"Word on the panel: three sides, as a pocket, opens"},
	15: {"Otter on the panel: foam, shadow"},
	18: {"Fin on the panel: strong tape, painted wet"},
}

// The twenty jobs go together without a wrong joint.
func TestJobsGoTogether(t *testing.T) {
	for _, j := range jobs.All() {
		t.Run(fmt.Sprintf("%d %s", j.Number, j.Name), func(t *testing.T) {
			c := j.Make().Card
			a := made(t, c)
			for _, f := range a.Faults {
				assert.Equal(t, mount.HoldsIll, f.Trouble, "%s: %s", a.Members[f.Member].Name, f.Why)
			}
			said := map[string]string{}
			for i := range a.Joints {
				m := &a.Members[a.Joints[i].Members[0]]
				assert.GreaterOrEqual(t, m.Choice.Grade, joint.Holds, "%s by %s: %s", m.Name, m.By, m.Choice.Why)
				said[titles(a)[i]] = fmt.Sprintf("%s, %s", m.By, m.Choice.Why)
				assert.NotEmpty(t, a.Detail(&a.Joints[i], c.Unit))
			}
			for _, want := range jobJoints[j.Number] {
				title, rest, _ := strings.Cut(want, ": ")
				by, why := rest[:strings.LastIndex(rest, ", ")], rest[strings.LastIndex(rest, ", ")+2:]
				if assert.Contains(t, said, title) {
					assert.True(t, strings.HasPrefix(said[title], by+", "), "%s: %s", title, said[title])
					assert.Contains(t, said[title], why)
				}
			}
			assert.Equal(t, mount.Body(c).Thickness(), a.Thick)
			assert.Greater(t, a.Grams, 5.0)
		})
	}
}
