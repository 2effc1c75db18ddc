package needs_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/joint"
	"chromaqua/core/length"
	"chromaqua/core/mask"
	"chromaqua/core/mount"
	"chromaqua/core/needs"
	"chromaqua/core/order"
	"chromaqua/core/panel"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/core/steps"
)

const mm = length.Millimetre

// amounts are what a card takes by name and unit.
func amounts(c *card.Card, p *steps.Plan, made *mount.Assembly, copies int) map[string]float64 {
	out := map[string]float64{}
	for _, n := range needs.Of(c, p, made, copies) {
		out[n.Name+", "+n.Unit] = n.Amount
	}
	return out
}

func blank() *card.Card { return card.New("x", length.Millimetres) }

// Paint is the share of a mix that its strength says, parted among its pigments; the plan
// mixes for all copies at once.
func TestPaintByHand(t *testing.T) {
	c := blank()
	c.Copies = 4
	mix := func(s pigment.Strength, ml float64, parts ...card.Part) steps.Mix {
		return steps.Mix{Strength: s, ML: ml, Parts: parts}
	}
	p := &steps.Plan{Mixes: []steps.Mix{
		mix(pigment.Tea, 2, card.Part{CI: "PB29", Parts: 3}, card.Part{CI: "PV19", Parts: 1}),
		mix(pigment.Paste, 1, card.Part{CI: "PV19", Parts: 2}),
		mix(pigment.WeakTea, 1, card.Part{CI: "PY3", Parts: 1}), mix(pigment.Milk, 1, card.Part{CI: "PR254", Parts: 1}), mix(pigment.Cream, 1, card.Part{CI: "PG7", Parts: 1}),
	}}
	got := amounts(c, p, &mount.Assembly{}, 8)
	for ci, want := range map[string]float64{"PB29": 2 * 0.03 * 3 / 4, "PV19": 2*0.03/4 + 0.7, "PY3": 0.01, "PR254": 0.1, "PG7": 0.3} {
		assert.InDelta(t, 2*want, got[c.Called.Of(ci)+", ml"], 1e-9, ci)
	}
	assert.Len(t, got, 5)
}

// Tape as the plan's steps take it, each time a piece is taped, by the tape's own name.
func TestTapeByHand(t *testing.T) {
	p := &steps.Plan{Steps: []steps.Step{
		{Kind: steps.Tape, Taped: &steps.Taping{Tape: card.PaintersTape, MM: 440}}, {Kind: steps.Hold},
		{Kind: steps.Tape, Taped: &steps.Taping{Tape: card.GummedTape, MM: 160}}, {Kind: steps.Tape, Taped: &steps.Taping{Tape: card.PaintersTape, MM: 60}},
	}}
	assert.Equal(t, map[string]float64{"painter's tape, cm": 150, "gummed tape, cm": 48}, amounts(blank(), p, &mount.Assembly{}, 3))
	assert.Equal(t, map[string]float64{"painter's tape, cm": 50, "gummed tape, cm": 16}, amounts(blank(), p, &mount.Assembly{}, 0))
}

// What keeps paper white takes by what it comes as: fluid and what stays in the brush, tape beyond
// both ends, film with its offcuts, ink and powder that is melted, white that is put on after.
func TestMasksByHand(t *testing.T) {
	kept := func(copies int, k ...steps.Kept) map[string]float64 {
		p := &steps.Plan{}
		for i := range k {
			p.Steps = append(p.Steps, steps.Step{Kept: &k[i]})
		}
		return amounts(blank(), p, &mount.Assembly{}, copies)
	}
	sail := mask.Shape{Pieces: 2, MM2: 400, EdgeMM: 100, Straight: 80, Runs: 3}
	assert.InDeltaMapValues(t, map[string]float64{"masking fluid, ml": 2 * (0.2 + 0.08 + 0.5)}, kept(2, steps.Kept{With: mask.Fluid, Shape: sail}, steps.Kept{With: mask.Spatter, Shape: sail}), 1e-9)
	assert.InDeltaMapValues(t, map[string]float64{"blue jar, ml": 0.28, "mask pen, ml": 0.28}, kept(1, steps.Kept{With: mask.Fluid, Own: "blue jar", Shape: sail}, steps.Kept{With: mask.Pen, Shape: sail}), 1e-9)
	assert.InDeltaMapValues(t, map[string]float64{"tape, cm": 14, "adhesive film, cm²": 6}, kept(1, steps.Kept{With: mask.Tape, Shape: sail}, steps.Kept{With: mask.Film, Shape: sail}), 1e-9)
	assert.InDeltaMapValues(t, map[string]float64{"tape, cm": 2}, kept(1, steps.Kept{With: mask.Tape}), 1e-9, "as long as its ends at least")
	assert.InDeltaMapValues(t, map[string]float64{"watermark ink, ml": 0.04, "embossing powder, g": 0.15, "opaque white, ml": 0.06}, kept(1, steps.Kept{With: mask.Resist, Shape: sail}, steps.Kept{With: mask.After, Shape: sail}), 1e-9)
	for _, w := range []mask.Way{mask.Round, mask.Over, mask.Paper, mask.Stencil} {
		assert.Empty(t, kept(3, steps.Kept{With: w, Shape: sail}), w)
	}
}

// What holds a card together, by what it comes as; and what is set on it.
func TestJointsByHand(t *testing.T) {
	made := &mount.Assembly{Members: []mount.Member{{}, {By: joint.Tape}, {By: joint.Film}, {By: joint.Glue}, {By: joint.Pocket}}, Items: []mount.Item{
		{Embellishment: &card.Embellishment{Kind: joint.Gem, Count: 3}}, {Embellishment: &card.Embellishment{Kind: joint.Gem, Name: "dew drops"}},
	}}
	for i, a := range []joint.Amount{{Tape: 250 * mm}, {MM2: 1200}, {Dots: 7}, {Tape: 180 * mm}} {
		made.Joints = append(made.Joints, mount.Joint{Members: []int{i + 1}, Amount: a})
	}
	name := func(by joint.By) string { return by.Facts().Name }
	assert.InDeltaMapValues(t, map[string]float64{
		name(joint.Tape) + ", cm": 50, name(joint.Film) + ", cm²": 24, name(joint.Glue) + ", ml": 2 * (7*0.02 + 18*0.01), // dots, and a line round a pocket
		string(joint.Gem) + ", pieces": 6, "dew drops, pieces": 2,
	}, amounts(blank(), &steps.Plan{}, made, 2), 1e-9)
}

// Ink by impressions: as often as the paper's texture takes, or as was said; powder where the
// line is raised; nothing for what is printed, or presses without ink. Pieces count as often
// as they are cut.
func TestImpressionsByHand(t *testing.T) {
	stamped := func(paperID string, images ...card.Image) map[string]float64 {
		c := blank()
		c.Paper, c.Images = paperID, images
		return amounts(c, &steps.Plan{}, &mount.Assembly{}, 1)
	}
	quick := shelf.Inks()[0].Name + ", ml"
	once := card.Image{ID: "i1"}
	assert.InDeltaMapValues(t, map[string]float64{quick: 0.04}, stamped("cotton-hp", once), 1e-9)
	assert.InDeltaMapValues(t, map[string]float64{quick: 0.12}, stamped("cotton-cp", once), 1e-9)
	assert.InDeltaMapValues(t, map[string]float64{quick: 0.12}, stamped("cotton-rough", once), 1e-9)
	assert.InDeltaMapValues(t, map[string]float64{quick: 0.08}, stamped("cotton-cp", card.Image{ID: "i1", Medium: &card.Medium{Times: 2}}), 1e-9)
	assert.Empty(t, stamped("cotton-cp", card.Image{ID: "i1", Kind: shelf.ReliefImage}))
	second := shelf.Inks()[1]
	assert.InDeltaMapValues(t, map[string]float64{quick: 0.04, second.Name + ", ml": 0.04},
		stamped("cotton-hp", card.Image{ID: "i1", Medium: &card.Medium{Ink: shelf.Inks()[0].ID, Pads: []string{second.ID}}}), 1e-9, "two inks on one stamp")
	for _, k := range shelf.Inks() {
		got := stamped("cotton-hp", card.Image{ID: "i1", Medium: &card.Medium{Ink: k.ID}})
		want := map[string]float64{}
		if k.Method == shelf.Stamped {
			want[k.Name+", ml"] = 0.04
			if k.Raises() {
				want["embossing powder, g"] = 0.15
			}
		}
		assert.InDeltaMapValues(t, want, got, 1e-9, k.Name)
	}
	own := func(medium *card.Medium) map[string]float64 {
		c := blank()
		c.OwnInk = &shelf.Own{Name: "soot", Like: c.Ink, Colour: "black"}
		c.Paper, c.Images = "cotton-hp", []card.Image{{ID: "i1", Medium: medium}}
		return amounts(c, &steps.Plan{}, &mount.Assembly{}, 1)
	}
	one := map[string]float64{"soot, ml": 0.04}
	assert.InDeltaMapValues(t, one, own(nil), 1e-9)
	assert.InDeltaMapValues(t, one, own(&card.Medium{Times: 1}), 1e-9, "stamped once with the usual ink")
	assert.InDeltaMapValues(t, map[string]float64{"rust, ml": 0.04}, own(&card.Medium{OwnInk: &shelf.Own{Name: "rust", Like: shelf.Inks()[0].ID}}), 1e-9)
	assert.InDeltaMapValues(t, map[string]float64{second.Name + ", ml": 0.04}, own(&card.Medium{Ink: second.ID}), 1e-9)

	c := blank()
	c.Paper, c.Images = "cotton-hp", []card.Image{once}
	_, err := c.AddPiece(card.CutOutPiece)
	require.NoError(t, err)
	p := &c.Pieces[0]
	p.Paper, p.Images, p.Count = "cotton-hp", []card.Image{{ID: "i2"}}, 3
	assert.InDeltaMapValues(t, map[string]float64{quick: 4 * 0.04}, amounts(c, &steps.Plan{}, &mount.Assembly{}, 1), 1e-9)
}

// What lies ready, by hand: each thing once, of rolls and sheets about how much, in the maker's
// unit; paints are mixed and told apart.
func TestReadyByHand(t *testing.T) {
	c := blank()
	c.Paper, c.Images = "cotton-hp", []card.Image{{ID: "i1", Scan: card.Scan{Title: "Otter"}}, {ID: "i2", Scan: card.Scan{Title: "Reeds"}}, {ID: "i3", Scan: card.Scan{Title: "Frame"}, Kind: shelf.ReliefImage}, {ID: "i4", Scan: card.Scan{Title: "Star"}, Medium: &card.Medium{Ink: "laser"}}}
	_, err := c.AddPiece(card.CutOutPiece)
	require.NoError(t, err)
	c.Pieces[0].Paper, c.Pieces[0].Count, c.Pieces[0].Images = "cotton-hp", 3, []card.Image{{ID: "i5", Scan: card.Scan{Title: "Shell"}}}
	p := &steps.Plan{
		Bench:    steps.Bench{Brushes: []shelf.Brush{{Name: "round 0 (1.5 mm)"}, {Name: "round 4 (3.5 mm)"}, {Name: "flat"}}},
		Instance: &order.Instance{Heat: order.Heat{Allowed: true}}, Pieces: []panel.Piece{{ID: card.ThePanel}},
		Mixes: []steps.Mix{{Strength: pigment.Tea, ML: 2, Parts: []card.Part{{CI: "PB29", Parts: 1}}}},
		Steps: []steps.Step{
			{Kind: steps.Tape, Taped: &steps.Taping{Tape: card.PaintersTape, MM: 440}},
			{Kind: steps.Paint, Water: 80, Tools: []string{"round 4 (3.5 mm)", "flat"}}, {Kind: steps.Paint, Water: 80, Tools: []string{"round 0 (1.5 mm)"}},
			{Kind: steps.Detail, Tools: []string{"white gel pen"}}, {Kind: steps.Flatten}, {Kind: steps.Press},
			{Kind: steps.Detail, Kept: &steps.Kept{With: mask.Film, Shape: mask.Shape{MM2: 5400}}},
		},
	}
	made := &mount.Assembly{Members: []mount.Member{{}, {By: joint.Tape}}, Joints: []mount.Joint{{Members: []int{1}, Amount: joint.Amount{Tape: 254 * mm}}},
		Items: []mount.Item{{Embellishment: &card.Embellishment{Kind: joint.Gem, Count: 3}}}}
	ink := shelf.Inks()[0].Name
	assert.Equal(t, []needs.Laid{
		{Kind: "stamps", Things: []string{"Otter", "Reeds", "Shell"}}, {Kind: "to paint with", Things: []string{"round 0", "round 4", "flat", "white gel pen"}},
		{Kind: "tools", Things: []string{"heat tool", "boards, a weight", "folder and press"}}, {Kind: "ink", Things: []string{ink}}, {Kind: "tape", Things: []string{"painter's tape, 880 mm"}},
		{Kind: "to mask with", Things: []string{"adhesive film, as much as 127.5 × 127.5 mm"}}, {Kind: "to mount with", Things: []string{joint.Tape.Facts().Name + ", 508 mm"}}, {Kind: "to set on it", Things: []string{"6 × gem"}},
	}, needs.Ready(c, p, needs.Of(c, p, made, 2)))
	c.Unit, p.Instance.Heat.Allowed = length.Inches, false
	inches := needs.Ready(c, p, needs.Of(c, p, made, 1))
	assert.Equal(t, []string{"boards, a weight", "folder and press"}, inches[2].Things, "dried by air")
	assert.Equal(t, []string{joint.Tape.Facts().Name + ", 10 in"}, inches[6].Things)
	assert.Empty(t, needs.Ready(blank(), &steps.Plan{}, nil))
}
