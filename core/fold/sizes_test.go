package fold_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/fold"
	"chromaqua/core/length"
)

// The sizes as the trade lists them, typed here a second time: inches as fractions,
// ISO sizes in millimetres. An envelope a millimetre off costs a card.
func TestStandardSizes(t *testing.T) {
	formats := map[string]string{
		"a2": "4 1/4 x 5 1/2", "a6": "4 1/2 x 6 1/4", "a7": "5 x 7", "slim10": "4 x 9", "sq5.5": "5 1/2 x 5 1/2",
		"a1": "3 1/2 x 5", "4bar": "3 1/2 x 4 7/8", "a8": "5 1/4 x 7 3/4", "a9": "5 1/2 x 8 1/2", "sq5": "5 x 5", "sq6": "6 x 6",
		"iso-a6": "105 mm x 148 mm", "iso-a5": "148 mm x 210 mm", "dl": "99 mm x 210 mm", "sq130": "130 mm x 130 mm", "sq150": "150 mm x 150 mm",
		"postcard": "4 x 6", "journal34": "3 x 4", "journal44": "4 x 4",
	}
	for _, f := range fold.Formats() {
		require.Contains(t, formats, f.ID, "type its size here a second time")
		assert.Equal(t, size(t, formats[f.ID]), f.Front, f.ID)
		assert.NotEmpty(t, f.Name)
		assert.NotEmpty(t, f.Basis, f.ID)
		got, ok := fold.FormatOf(f.Front.Turned())
		assert.True(t, ok)
		assert.Equal(t, f.Front, got.Front)
		delete(formats, f.ID)
	}
	assert.Empty(t, formats, "formats that are gone")
	envelopes := map[string]string{
		"env-a1": "5 1/8 x 3 5/8", "env-4bar": "5 1/8 x 3 5/8", "env-a2": "5 3/4 x 4 3/8", "env-sq5.25": "5 1/4 x 5 1/4", "env-a6": "6 1/2 x 4 3/4",
		"env-c6": "162 mm x 114 mm", "env-sq135": "135 mm x 135 mm", "env-sq5.75": "5 3/4 x 5 3/4", "env-a7": "7 1/4 x 5 1/4",
		"env-dl": "220 mm x 110 mm", "env-sq155": "155 mm x 155 mm", "env-10": "9 1/2 x 4 1/8", "env-sq6.25": "6 1/4 x 6 1/4",
		"env-a8": "8 1/8 x 5 1/2", "env-a9": "8 3/4 x 5 3/4", "env-c5": "229 mm x 162 mm",
	}
	smaller := 0.0
	for _, e := range fold.Envelopes() {
		require.Contains(t, envelopes, e.ID, "type its size here a second time")
		assert.Equal(t, size(t, envelopes[e.ID]), e.Inside, e.ID)
		assert.GreaterOrEqual(t, e.Inside.W, e.Inside.H, "long side first")
		assert.GreaterOrEqual(t, e.Inside.W.MM()*e.Inside.H.MM(), smaller-1500, "%s: about the smallest first", e.ID)
		smaller = e.Inside.W.MM() * e.Inside.H.MM()
		delete(envelopes, e.ID)
	}
	assert.Empty(t, envelopes, "envelopes that are gone")
	_, err := fold.FormatByID("a99")
	assert.ErrorContains(t, err, "a99")
	_, err = fold.EnvelopeByID("a99")
	assert.ErrorContains(t, err, "a99")
	_, ok := fold.FormatOf(size(t, "4 x 5"))
	assert.False(t, ok)
}

// Where each verdict begins, to the sixty-fourth of an inch.
func TestVerdictsToTheEdge(t *testing.T) {
	front, thick := size(t, "4 x 6"), length.Millimetre
	into := func(spareLong, spareShort length.Length) fold.Fit {
		return fold.FitInto(fold.Plain(front, thick), fold.Envelope{Inside: length.Size{W: front.H + spareLong, H: front.W + spareShort}})
	}
	hair := length.Inch / 64
	need := fold.Ease + thick
	assert.Equal(t, length.Millimetre, fold.Ease)
	roomy := length.Inch / 2
	for _, tc := range []struct {
		long, short length.Length
		want        fold.Verdict
	}{
		{roomy, fold.Ease - hair, fold.TooSmall}, {fold.Ease - hair, roomy, fold.TooSmall}, {-hair, roomy, fold.TooSmall},
		{roomy, fold.Ease, fold.TooThick}, {roomy, need - 1, fold.TooThick}, {need - 1, roomy, fold.TooThick},
		{roomy, need, fold.Snug}, {need, roomy, fold.Snug}, {roomy, need + fold.Ease - 1, fold.Snug},
		{roomy, need + fold.Ease, fold.Fits}, {3*length.Inch/4 + thick, roomy, fold.Fits}, {3*length.Inch/4 + thick + 1, roomy, fold.Loose}, {roomy, 3*length.Inch/4 + thick + 1, fold.Loose},
	} {
		f := into(tc.long, tc.short)
		assert.Equal(t, tc.want, f.Verdict, "%s and %s to spare", tc.long, tc.short)
		assert.Equal(t, tc.want != fold.TooSmall && tc.want != fold.TooThick, f.Good())
		assert.Equal(t, tc.long, f.SpareW)
		assert.Equal(t, tc.short, f.SpareH)
		assert.Equal(t, thick, f.BulkW)
		assert.Equal(t, thick, f.BulkH)
	}
	// Whichever way card and envelope lie.
	turned := fold.FitInto(fold.Plain(front.Turned(), thick), fold.Envelope{Inside: length.Size{W: front.W + roomy, H: front.H + roomy}})
	assert.Equal(t, fold.Fits, turned.Verdict)
	assert.Equal(t, "1/2 in too long, 1/4 in too wide", into(-length.Inch/2, -length.Inch/4).Why(length.Inches))
	assert.Equal(t, "less than 1 mm to spare", into(roomy, 0).Why(length.Millimetres))
	assert.Contains(t, into(roomy, fold.Ease).Why(length.Millimetres), "its thickness takes 1 mm of the 1 mm to spare along its width")
	assert.Contains(t, into(fold.Ease, roomy).Why(length.Millimetres), "along its length")
	assert.Equal(t, "13 mm and 5 mm to spare", into(14*length.Millimetre, 6*length.Millimetre).Why(length.Millimetres))
	assert.Equal(t, 3*length.Millimetre, fold.Thickness([]fold.Layer{{Thickness: length.Millimetre}, {Thickness: 2 * length.Millimetre}}))
}

// What goes in comes first, the closest leading; then the nearest misses.
func TestFitsAreRanked(t *testing.T) {
	fits := fold.FitAll(fold.Plain(size(t, "4 1/4 x 5 1/2"), length.Millimetre))
	assert.Len(t, fits, len(fold.Envelopes()))
	assert.Equal(t, "env-a2", fits[0].Envelope.ID)
	spare := func(f fold.Fit) length.Length { return f.SpareW + f.SpareH }
	miss := func(f fold.Fit) length.Length {
		return max(0, fold.Ease+f.BulkW-f.SpareW) + max(0, fold.Ease+f.BulkH-f.SpareH)
	}
	for i := 1; i < len(fits); i++ {
		a, b := fits[i-1], fits[i]
		switch {
		case a.Good() && b.Good():
			assert.LessOrEqual(t, spare(a), spare(b))
		case !a.Good():
			assert.False(t, b.Good())
			assert.LessOrEqual(t, miss(a), miss(b))
		}
	}
}

// What a sheet of 8 1/2 × 11 makes, counted by hand.
func TestFromALetterSheet(t *testing.T) {
	options := fold.FromPaper(size(t, "8 1/2 x 11"), length.Millimetre)
	by := map[string]fold.Option{}
	for _, o := range options {
		by[o.Format.ID+" "+string(o.Side)] = o
	}
	a2 := by["a2 side"]
	assert.Equal(t, size(t, "8 1/2 x 5 1/2"), a2.Blank)
	assert.Equal(t, 2, a2.Up)
	assert.Empty(t, a2.Leftovers)
	assert.Equal(t, 2, by["a2 top"].Up)
	a7 := by["a7 side"]
	assert.Equal(t, 1, a7.Up)
	assert.Equal(t, []length.Size{size(t, "1 1/2 x 11"), size(t, "7 x 1")}, a7.Leftovers, "turned, the longer strip kept whole")
	journal := by["journal34 side"]
	assert.Equal(t, 2, journal.Up, "3 × 4 in opens to 6 × 4")
	assert.NotContains(t, by, "iso-a5 side", "it is too wide")
	require.Contains(t, by, "free side")
	assert.Equal(t, size(t, "4 1/4 x 11"), by["free side"].Format.Front)
	assert.Equal(t, size(t, "8 1/2 x 5 1/2"), by["free top"].Format.Front)
	assert.Equal(t, 1, by["free top"].Up)
	for _, o := range options {
		for _, f := range o.Envelopes {
			assert.True(t, f.Good(), o.Format.ID)
		}
	}
	// Those that fit an envelope lead, and of those the ones that use most paper.
	good := func(o fold.Option) bool {
		for _, f := range o.Envelopes {
			if f.Verdict != fold.Loose {
				return true
			}
		}
		return false
	}
	used := func(o fold.Option) float64 { return float64(o.Up) * o.Blank.W.MM() * o.Blank.H.MM() }
	for i := 1; i < len(options); i++ {
		a, b := options[i-1], options[i]
		assert.False(t, good(b) && !good(a), "%s before %s", a.Format.ID, b.Format.ID)
		if good(a) == good(b) {
			assert.GreaterOrEqual(t, used(a), used(b))
		}
	}
	// A strip is folded in half only where a front of half an inch is left.
	narrow := func(text string) (n int) {
		for _, o := range fold.FromPaper(size(t, text), 0) {
			if o.Format.ID == "free" {
				n++
			}
		}
		return n
	}
	assert.Equal(t, 2, narrow("1 x 8"))
	assert.Zero(t, narrow("15/16 x 8"))
	assert.Equal(t, length.Inch/2, fold.MinFront)
}

// Faces and scores of each fold of one front, by hand.
func TestBlanksByHand(t *testing.T) {
	front := size(t, "4 x 6")
	x := func(text string) length.Length { return size(t, text+" x 1").W }
	for side, want := range map[fold.Side]struct {
		blank  string
		scores []length.Length
		names  []string
		layers int
	}{
		fold.Left: {"8 x 6", []length.Length{x("4")}, []string{"back", "front"}, 2},
		fold.Top:  {"4 x 12", []length.Length{x("6")}, []string{"back", "front"}, 2},
		fold.Tent: {"4 x 12", []length.Length{x("6")}, []string{"back", "front"}, 2},
		fold.Gate: {"7 15/16 x 6", []length.Length{x("1 15/16"), x("5 15/16")}, []string{"left flap", "back", "right flap"}, 2},
		fold.Tri:  {"11 15/16 x 6", []length.Length{x("3 15/16"), x("7 15/16")}, []string{"inner face", "back", "front"}, 3},
		fold.Flat: {"4 x 6", nil, []string{"front"}, 1},
	} {
		b := fold.BlankFor(front, side, length.Inches)
		assert.Equal(t, size(t, want.blank), b.Size, side)
		var at []length.Length
		for _, s := range b.Scores {
			at = append(at, s.At)
			assert.Equal(t, fold.Mountain, s.Way)
		}
		assert.Equal(t, want.scores, at, side)
		var names []string
		for _, f := range b.Faces {
			names = append(names, f.Name)
		}
		assert.Equal(t, want.names, names, side)
		assert.Equal(t, want.layers, side.Layers(), side)
		face, ok := b.Front()
		assert.Equal(t, side != fold.Gate, ok)
		if ok {
			assert.Equal(t, front, face.Size)
		}
		assert.NoError(t, side.Check())
	}
	tri := fold.BlankFor(front, fold.Tri, length.Inches).InsideUp()
	assert.Equal(t, x("4"), tri.Scores[0].At, "drawn from behind, the front comes first")
	assert.Equal(t, fold.Valley, tri.Scores[0].Way)
	assert.Equal(t, "front", tri.Faces[0].Name)
	assert.Zero(t, tri.Faces[0].X)
	top := fold.BlankFor(front, fold.Top, length.Inches).InsideUp()
	assert.Equal(t, "front", top.Faces[0].Name)
	assert.Zero(t, top.Faces[0].Y)
	assert.Equal(t, x("6"), top.Scores[0].At)
	assert.Error(t, fold.Side("sideways").Check())
}
