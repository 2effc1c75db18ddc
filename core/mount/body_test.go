package mount_test

import (
	"math"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/fold"
	"chromaqua/core/joint"
	"chromaqua/core/length"
	"chromaqua/core/mount"
	"chromaqua/core/technique"
)

// small is a front of 100 × 140 mm with a panel of 60 × 80 mm on it and no mat.
func small(t testing.TB) *card.Card {
	c := plain(t)
	c.Layers = nil
	require.NoError(t, c.Give("front", length.Size{W: 100 * mm, H: 140 * mm}))
	require.NoError(t, c.Give("panel", length.Size{W: 60 * mm, H: 80 * mm}))
	return c
}

// Where what lies on the front lies, and how high, by hand: what an envelope meets.
func TestBodyByHand(t *testing.T) {
	c := small(t)
	with(t, c, card.WordStrip, func(p *card.Piece) {
		p.Size, p.Place = length.Size{W: 40 * mm, H: 20 * mm}, &card.Place{On: card.ThePanel, At: card.At{X: 10 * mm, Y: -20 * mm, Turn: 90}, By: joint.Tape}
	})
	with(t, c, card.WordStrip, func(p *card.Piece) { p.Place.On = string(card.InsideLeft) })
	c.AddAct(card.Handling{Kind: card.Embellish, Item: &card.Embellishment{Kind: joint.Gem, Height: 3 * mm}})
	hundredths := func(n length.Length) length.Length { return n * mm / 100 }
	// Two leaves of 0.3, and inside thin tape 0.1 and a strip of cardstock 0.3; on it tape 0.1 and
	// hot press 0.45, tape and a strip. What is set on it stands all over the panel, by 3 mm.
	assert.Equal(t, fold.Body{Front: length.Size{W: 100 * mm, H: 140 * mm}, Thick: hundredths(100), On: []fold.Slab{
		{X: 20 * mm, Y: 30 * mm, Size: length.Size{W: 60 * mm, H: 80 * mm}, Bottom: hundredths(110), Top: hundredths(155)},
		{X: 20 * mm, Y: 30 * mm, Size: length.Size{W: 60 * mm, H: 80 * mm}, Bottom: hundredths(155), Top: hundredths(455)},
		{X: 50 * mm, Y: 30 * mm, Size: length.Size{W: 20 * mm, H: 40 * mm}, Bottom: hundredths(165), Top: hundredths(195)},
	}}, mount.Body(c))
	assert.Equal(t, hundredths(455), made(t, c).Thick)
}

// An envelope made for a card gives an eighth of an inch beside what its thickness takes, in
// whole marks of the ruler, its longer side across.
func TestEnvelopeMadeForIt(t *testing.T) {
	c := small(t)
	c.Base.Fold = fold.Flat
	require.NoError(t, c.Give("panel", length.Size{W: 99 * mm, H: 139 * mm}))
	// A leaf of 0.3, tape 0.1 and hot press 0.45, half a millimetre from the edge: round its
	// cross-section it is 100 below, 0.3 up each side, over to the panel's corner, and 99 above.
	half := (100 + 2*0.3 + 2*math.Hypot(0.5, 0.55) + 99) / 2
	assert.InDelta(t, 3.175+half-100, mount.EnvelopeClearance(c).MM(), 1e-3)
	assert.Equal(t, length.Size{W: 144 * mm, H: 104 * mm}, mount.EnvelopeNeeded(c))
	require.NoError(t, c.Give("panel", length.Size{W: 100 * mm, H: 140 * mm}))
	assert.InDelta(t, 3.175+0.85, mount.EnvelopeClearance(c).MM(), 1e-3, "to the edge it costs all of its height")
	c.Unit = length.Inches
	assert.Equal(t, length.Size{W: 91 * length.Sixteenth, H: 66 * length.Sixteenth}, mount.EnvelopeNeeded(c))
}

// What holds a piece, and what is not there.
func TestHeldBy(t *testing.T) {
	c := small(t)
	p := with(t, c, card.WordStrip, func(p *card.Piece) { p.Place.By = joint.Glue })
	assert.Equal(t, joint.Glue, mount.HeldBy(c, p.ID))
	assert.Equal(t, joint.Nothing, mount.HeldBy(c, "p99"))
}

// How far a strip of 60 × 20 mm sticks out of a front of 100 × 140 mm, on each side.
func TestSticksOutOnEachSide(t *testing.T) {
	for _, at := range []card.At{{X: 25 * mm}, {X: -25 * mm}, {Y: 65 * mm}, {Y: -65 * mm}, {X: 45 * mm, Turn: 90}, {X: -45 * mm, Turn: 90}} {
		c := small(t)
		with(t, c, card.WordStrip, func(p *card.Piece) {
			p.Size, p.Place = length.Size{W: 60 * mm, H: 20 * mm}, &card.Place{On: string(card.FrontFace), At: at}
		})
		a := made(t, c)
		if assert.Len(t, a.Faults, 1, at) {
			assert.Equal(t, "it reaches 5 mm over the edge of the card", a.Faults[0].Why, at)
		}
	}
}

// What lies across a frame is lifted over it by foam: so much higher than the frame, in halves
// of a millimetre, from one on.
func TestFoamOverAFrame(t *testing.T) {
	lifts := func(high length.Length) length.Length {
		c := plain(t)
		require.NoError(t, c.AddLayer(card.Frame))
		if high > 0 {
			c.Layers[1].By, c.Layers[1].High = joint.FullFoam, high
		}
		with(t, c, card.WordStrip, func(p *card.Piece) { p.Size, p.Place.By = length.Size{W: 90 * mm, H: 20 * mm}, joint.Tape })
		a := made(t, c)
		require.Equal(t, []mount.Trouble{mount.OverBars}, troubles(a))
		assert.Equal(t, joint.Foam, a.Faults[0].By)
		return a.Faults[0].High
	}
	assert.Equal(t, mm, lifts(0), "thin tape 0.1 and cardstock 0.25")
	assert.Equal(t, 2*mm+mm/2, lifts(2*mm), "2, 0.25 and 0.1 over it are 2.35")
}

// The mouth of a pocket that is higher than wide is at its left.
func TestMouthOfAHighPocket(t *testing.T) {
	lay := func(x length.Length) []mount.Trouble {
		c := plain(t)
		with(t, c, card.WordStrip, func(p *card.Piece) { p.Size, p.Place.By = length.Size{W: 40 * mm, H: 60 * mm}, joint.Pocket })
		with(t, c, card.WordStrip, func(p *card.Piece) { p.Size, p.Place.X = length.Size{W: 10 * mm, H: 20 * mm}, x })
		return troubles(made(t, c))
	}
	assert.Equal(t, []mount.Trouble{mount.MouthShut}, lay(-20*mm))
	assert.Empty(t, lay(20*mm))
}

// A shape glued of three layers takes the time of two joints more, and lies until its glue
// holds.
func TestGlueingLayers(t *testing.T) {
	c := small(t)
	p := with(t, c, card.DieCut, func(p *card.Piece) { p.Place.By = joint.Tape })
	p.Layers = 0
	once := made(t, c)
	p.Layers = 2
	a := made(t, c)
	assert.Equal(t, 90*time.Second, a.Joints[1].Takes-once.Joints[1].Takes)
	assert.Zero(t, once.Sets())
	assert.Equal(t, joint.Glue.Facts().Sets, a.Sets())
	assert.Contains(t, a.Detail(&a.Joints[1], c.Unit), "Glue 3 cut alike on each other first")
	assert.False(t, once.Raised())
	assert.True(t, a.Raised())
}

// Of three alike, all they are held by and the time they take are told together.
func TestAlikeTogether(t *testing.T) {
	for _, by := range []joint.By{joint.Tape, joint.Glue, joint.Film} {
		c := small(t)
		p := with(t, c, card.WordStrip, func(p *card.Piece) { p.Size, p.Place.By = length.Size{W: 20 * mm, H: 10 * mm}, by })
		one := made(t, c).Joints[1]
		p.Count = 3
		three := made(t, c).Joints[1]
		require.Len(t, three.Members, 3)
		assert.Equal(t, 3*one.Amount.Tape, three.Amount.Tape, by)
		assert.InDelta(t, 3*one.Amount.MM2, three.Amount.MM2, 1e-9, by)
		assert.Equal(t, 3*one.Amount.Dots, three.Amount.Dots, by)
		assert.Equal(t, 3*one.Takes, three.Takes, by)
	}
}

// A piece that was painted wet is flattened by its own name; the whole card is not.
func TestPiecesAreFlattened(t *testing.T) {
	c := small(t)
	for _, kind := range []card.PieceKind{card.CutOutPiece, card.WholeCard} {
		p := with(t, c, kind, nil)
		alone, err := c.Alone(p.ID)
		require.NoError(t, err)
		a, err := alone.AreaByID(alone.AddArea("Sky"))
		require.NoError(t, err)
		a.Washes = []card.Wash{{Technique: technique.WetOnWet, Strength: "tea", Mix: []card.Part{{CI: "PB29", Parts: 1}}}}
		require.NoError(t, c.Return(p.ID, alone))
	}
	flat := mount.Flattening(c)
	require.Len(t, flat, 1)
	assert.Equal(t, mount.Flat{Name: c.Pieces[0].Name, For: mount.Overnight, Why: "it is painted wet-in-wet"}, flat[0])
}

// Foam that is a hair lower than what it must clear lets a part bend; taped across a frame a
// part lies on the frame.
func TestHeightsOverAFrame(t *testing.T) {
	lay := func(by joint.By, high length.Length) *mount.Assembly {
		c := plain(t)
		require.NoError(t, c.AddLayer(card.Frame))
		c.Layers[1].By, c.Layers[1].High = joint.FullFoam, 2*mm
		with(t, c, card.WordStrip, func(p *card.Piece) {
			p.Size, p.Place.By, p.Place.High = length.Size{W: 90 * mm, H: 20 * mm}, by, high
		})
		return made(t, c)
	}
	assert.NotEmpty(t, lay(joint.Foam, mm*23/10).Faults)
	assert.Empty(t, lay(joint.Foam, mm*24/10).Faults)
	// Base 0.6, mat 0.35, panel 0.55, frame 2.25, and on it tape 0.1 and a strip of 0.3.
	assert.Equal(t, mm*415/100, lay(joint.Tape, 0).Thick)
}

// What lies on another off its middle reaches over on one side.
func TestTrimsOneSide(t *testing.T) {
	c := plain(t)
	left, right := -3*mm, 3*mm
	require.NoError(t, c.Show(card.PanelRing, "left", &left))
	require.NoError(t, c.Show(card.PanelRing, "right", &right))
	assert.Equal(t, 3*mm, made(t, c).Joints[1].Flush)
	left, right = 2*mm, -5*mm
	require.NoError(t, c.Show(card.PanelRing, "left", &left))
	require.NoError(t, c.Show(card.PanelRing, "right", &right))
	assert.Equal(t, 5*mm, made(t, c).Joints[1].Flush)
}

// What lies within the opening of a frame does not lie on its bars; a hair more on any side does,
// turned or not.
func TestAcrossTheBars(t *testing.T) {
	frame := func(set func(p *card.Piece, opening length.Size)) []mount.Trouble {
		c := plain(t)
		require.NoError(t, c.AddLayer(card.Frame))
		all, err := mount.Members(c)
		require.NoError(t, err)
		f := all[slices.IndexFunc(all, func(m mount.Member) bool { return m.IsFrame() })]
		with(t, c, card.WordStrip, func(p *card.Piece) {
			p.Place.By, p.Place.X, p.Place.Y = joint.Tape, f.X, f.Y
			set(p, f.Opening)
		})
		return troubles(made(t, c))
	}
	hair := mm / 10
	for on, c := range map[string]struct {
		w, h, x, y length.Length
		turn       bool
		want       int
	}{
		"fills it": {}, "wider": {w: hair, want: 1}, "higher": {h: hair, want: 1}, "narrower": {w: -hair}, "right": {x: hair, want: 1}, "left": {x: -hair, want: 1}, "down": {y: hair, want: 1}, "up": {y: -hair, want: 1},
		"narrow, right": {w: -4 * hair, x: 2 * hair}, "narrow, too far": {w: -4 * hair, x: 3 * hair, want: 1}, "low, up": {h: -4 * hair, y: -2 * hair}, "low, too far": {h: -4 * hair, y: -3 * hair, want: 1},
		"turned": {turn: true}, "turned and wider": {turn: true, w: hair, want: 1},
	} {
		assert.Len(t, frame(func(p *card.Piece, opening length.Size) {
			p.Size = length.Size{W: opening.W + c.w, H: opening.H + c.h}
			if c.turn {
				p.Size.W, p.Size.H, p.Place.Turn = p.Size.H, p.Size.W, 90
			}
			p.Place.X, p.Place.Y = p.Place.X+c.x, p.Place.Y+c.y
		}), c.want, on)
	}
}

// Several of one piece are told apart, one alone is not.
func TestTitlesOfMembers(t *testing.T) {
	for many, want := range map[int]string{1: "Strip", 2: "Strip (2 of 2)", 3: "Strip (3 of 3)"} {
		c := small(t)
		with(t, c, card.WordStrip, func(p *card.Piece) { p.Name, p.Count, p.Size = "Strip", many, length.Size{W: 20 * mm, H: 8 * mm} })
		all, err := mount.Members(c)
		require.NoError(t, err)
		assert.Equal(t, want, all[len(all)-1].Title())
		assert.Equal(t, "panel", all[1].Title())
	}
}

// What stands inside makes the base thicker, the higher of each leaf counted once.
func TestThickerByWhatIsInside(t *testing.T) {
	thick := func(faces ...card.Face) length.Length {
		c := small(t)
		for _, f := range faces {
			with(t, c, card.WordStrip, func(p *card.Piece) {
				p.Size, p.Place = length.Size{W: 20 * mm, H: 8 * mm}, &card.Place{On: string(f), By: joint.Tape}
			})
		}
		all, err := mount.Members(c)
		require.NoError(t, err)
		return all[0].Top
	}
	none, strip := thick(), 4*mm/10 // tape 0.1 and cardstock 0.3
	assert.Equal(t, 6*mm/10, none)
	assert.Equal(t, none+strip, thick(card.InsideLeft))
	assert.Equal(t, none+strip, thick(card.InsideRight))
	assert.Equal(t, none+strip, thick(card.InsideLeft, card.InsideLeft))
	assert.Equal(t, none+2*strip, thick(card.InsideLeft, card.InsideRight))
	assert.Equal(t, none, thick(card.FrontFace, card.BackFace))
}
