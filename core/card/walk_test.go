package card_test

import (
	"bytes"
	"fmt"
	"hash/crc32"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/fold"
	"chromaqua/core/joint"
	"chromaqua/core/length"
	"chromaqua/core/mount"
	"chromaqua/core/nest"
	"chromaqua/core/shelf"
	"chromaqua/internal/golden"
)

// step makes one change of a card, drawn at random, and says what it was.
func step(r *rand.Rand, c *card.Card) (string, error) {
	pick := func(of ...string) string { return of[r.IntN(len(of))] }
	size := func() length.Size {
		s := length.Size{W: length.Length(40+r.IntN(140)) * mm, H: length.Length(40+r.IntN(140)) * mm}
		switch r.IntN(5) {
		case 0:
			s.W = 0
		case 1:
			s.H = 0
		case 2:
			s.H = s.W
		}
		return s
	}
	ring := pick(card.FrontRing, "layer-0", "layer-1", card.PanelRing, card.PanelRing, "opening-0", "opening-1", card.StampRing)
	side := []nest.Side{nest.Left, nest.Right, nest.Top, nest.Bottom}[r.IntN(4)]
	image := pick("i1", "i2", "i3")
	small := length.Length(r.IntN(18)-6) * mm
	switch r.IntN(18) {
	case 0, 1:
		return "drag " + ring, c.Drag(ring, side, small)
	case 2:
		return "show " + ring, c.Show(ring, side, &small)
	case 3:
		return "show all of " + ring, c.Show(ring, "", &small)
	case 4, 5:
		return "give " + ring, c.Give(ring, size())
	case 6:
		set := &card.DieSet{Name: "nest", Edge: card.Deckle}
		for range 1 + r.IntN(4) {
			set.Sizes = append(set.Sizes, length.Size{W: length.Length(40+r.IntN(120)) * mm, H: length.Length(40+r.IntN(120)) * mm})
		}
		return "die for " + ring, c.SetDie(ring, set)
	case 7:
		return "no die for " + ring, c.SetDie(ring, nil)
	case 8:
		return "mat", c.AddLayer(card.Mat)
	case 9:
		return "frame", c.AddLayer(card.Frame)
	case 10:
		return "layer off", c.RemoveLayer(r.IntN(3))
	case 11:
		if ring == card.StampRing {
			c.Stamp = &card.Stamp{Border: nest.Even(4 * mm)}
		}
		return "from " + ring, c.StartFrom(ring, size())
	case 12:
		c.Envelope = &card.Envelope{ID: card.Free, Inside: size()}
		return "from the envelope", c.StartFromEnvelope()
	case 13:
		id := pick("a2", "sq150", "slim10", "iso-a6", "none")
		return "format " + id, c.SetFormat(id, r.IntN(2) == 0)
	case 14:
		c.Base.Fold = fold.Sides()[r.IntN(len(fold.Sides()))]
		foam := []joint.By{joint.FullFoam, joint.Usual}
		c.Panel.By, c.Extra, c.Painting.Spare = foam[r.IntN(2)], length.Length(r.IntN(3))*mm, length.Length(r.IntN(2))*5*mm
		if len(c.Layers) > 0 {
			c.Layers[0].By = foam[r.IntN(2)]
		}
		return "fold " + string(c.Base.Fold), nil
	case 15:
		scan := card.Scan{Image: strings.Repeat("b", 64), Title: "Shell", WidthPX: 300 + r.IntN(500), HeightPX: 300 + r.IntN(500), Width: length.Length(20+r.IntN(50)) * mm}
		id, err := c.Lay(scan, shelf.LineImage)
		return "lay " + id, err
	case 16:
		return "copies of " + image, c.Repeat(image, 1+r.IntN(2), small, -small, 10)
	}
	return "bring " + image, c.Bring(image, r.IntN(5)-2)
}

// speaksOfSizes reports whether a change gives or takes a size on purpose.
func speaksOfSizes(what string) bool {
	for _, word := range []string{"drag", "give", "from", "format", "layer off"} {
		if strings.HasPrefix(what, word) {
			return true
		}
	}
	return false
}

// requireTypedStays holds that no size which was typed has moved, as it is kept and as it
// is laid out.
func requireTypedStays(t *testing.T, was, now *card.Card, what string) {
	require.Equal(t, was.Base.Front, now.Base.Front, what)
	require.Equal(t, was.Panel.Size, now.Panel.Size, what)
	for i := range was.Layers {
		require.Equal(t, was.Layers[i].Size, now.Layers[i].Size, what)
	}
	layout, err := now.Layout()
	require.NoError(t, err)
	for _, r := range layout {
		typed := map[string]length.Size{card.FrontRing: now.Base.Front, card.PanelRing: now.Panel.Size}[r.ID]
		if typed.W != 0 && r.Die == (length.Size{}) {
			require.Equal(t, typed.W, r.Size.W, "%s: the %s", what, r.Name)
		}
		if typed.H != 0 && r.Die == (length.Size{}) {
			require.Equal(t, typed.H, r.Size.H, "%s: the %s", what, r.Name)
		}
	}
}

// Cards at the end of hundreds of walks of random changes, each in a line: its rings, and
// sums over all that is worked out of them. A change of what is worked out changes lines.
func TestWalksEndWhereTheyEnded(t *testing.T) {
	var b strings.Builder
	for seed := range uint64(240) {
		r := rand.New(rand.NewPCG(seed, 5))
		c := whole()
		var refused []string
		for range 3 + r.IntN(9) {
			was, err := c.Clone()
			require.NoError(t, err)
			what, err := step(r, c)
			if err == nil {
				err = c.Check()
			}
			if err == nil && !speaksOfSizes(what) {
				requireTypedStays(t, was, c, what)
			}
			if err != nil {
				refused = append(refused, fmt.Sprint(what, ": ", err))
				c = was
			}
		}
		layout, err := c.Layout()
		require.NoError(t, err)
		fmt.Fprintf(&b, "%d:", seed)
		for _, ring := range layout {
			fmt.Fprintf(&b, " %s %s;", ring.ID, ring.Size.With(length.Millimetres))
		}
		doc, err := c.Encode()
		require.NoError(t, err)
		doc = bytes.Replace(doc, fmt.Appendf(nil, `"version": %d`, card.Version), []byte(`"version": 7`), 1) // when they were kept
		for _, of := range []any{
			layout, layout.Strips(length.Size{W: 20 * mm, H: 2 * mm}), []any{layout.Hidden(), mount.EnvelopeNeeded(c), mount.EnvelopeClearance(c), c.SheetSize(), c.InsertSize()},
			mount.Body(c), c.CutList(), string(doc), refused,
		} {
			fmt.Fprintf(&b, " %08x", crc32.ChecksumIEEE(fmt.Append(nil, of)))
		}
		fmt.Fprintf(&b, ", %d refused\n", len(refused))
	}
	golden.Same(t, "walks", b.String())
}
