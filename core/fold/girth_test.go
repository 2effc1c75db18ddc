package fold_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"chromaqua/core/fold"
	"chromaqua/core/length"
)

// lies is a layer on a front: set in so far from each edge, so thick with what holds it.
type lies struct{ inset, thick float64 }

// made is a card of a folded base, 0.6 mm of light cardstock unless it is said, with
// layers on it.
func made(front length.Size, base float64, on ...lies) fold.Body {
	b := fold.Body{Front: front, Thick: length.FromMM(base)}
	top := b.Thick
	for _, l := range on {
		in := length.FromMM(l.inset)
		slab := fold.Slab{X: in, Y: in, Size: length.Size{W: front.W - 2*in, H: front.H - 2*in}, Bottom: top}
		top += length.FromMM(l.thick)
		slab.Top = top
		b.On = append(b.On, slab)
	}
	return b
}

// Twenty cards as makers make them, and the envelopes they try. Verdicts are reasoned,
// not computed: what is to spare lying flat, less what the stack lifts at its edge.
func TestCardsAndTheirEnvelopes(t *testing.T) {
	const (
		flat  = 0.6 // a panel of cotton on tape
		mat   = 0.4 // cardstock on tape
		foam  = 2.0 // a panel of cotton on 1.5 mm of foam
		thick = 3.5 // the same on 3 mm of foam
	)
	for _, tc := range []struct {
		what     string
		front    string
		base     float64
		on       []lies
		envelope string
		want     fold.Verdict
		because  string
	}{
		{"A2 with a panel on tape", "4 1/4 x 5 1/2", 0.6, []lies{{3, flat}}, "env-a2", fold.Fits, "the card everybody posts: 3.2 mm are to spare, its edge takes 0.7"},
		{"A2 with a mat and a panel", "4 1/4 x 5 1/2", 0.6, []lies{{3, mat}, {6, flat}}, "env-a2", fold.Fits, "both are set in, the edge stays thin"},
		{"A2 with two mats", "4 1/4 x 5 1/2", 0.6, []lies{{2, mat}, {4, mat}, {6, flat}}, "env-a2", fold.Fits, "1.4 mm high in the middle, 0.6 at the edge"},
		{"A2, panel on foam, set in", "4 1/4 x 5 1/2", 0.6, []lies{{3, foam}}, "env-a2", fold.Snug, "takes 1.2 of 3.2 mm"},
		{"A2, mat and panel on foam", "4 1/4 x 5 1/2", 0.6, []lies{{3, mat}, {6, foam}}, "env-a2", fold.Fits, "the foam is farther in still"},
		{"A2, panel on foam over the whole front", "4 1/4 x 5 1/2", 0.6, []lies{{0, foam}}, "env-a2", fold.TooThick, "the edge itself is 2.6 mm high"},
		{"A2, panel on thick foam, set in", "4 1/4 x 5 1/2", 0.6, []lies{{3, thick}}, "env-a2", fold.TooThick, "takes 2.2 of 3.2 mm: less than 1 is left, it would tear"},
		{"A2, panel on tape over the whole front", "4 1/4 x 5 1/2", 0.6, []lies{{0, flat}}, "env-a2", fold.Snug, "1.2 mm all over"},
		{"A2, on double foam", "4 1/4 x 5 1/2", 0.6, []lies{{3, 5.5}}, "env-a2", fold.TooThick, "6 mm high so near the edge"},
		{"A2 in the next envelope up", "4 1/4 x 5 1/2", 0.6, []lies{{3, flat}}, "env-a6", fold.Loose, "an inch longer: it slides"},
		{"A2 in an A7", "4 1/4 x 5 1/2", 0.6, []lies{{3, flat}}, "env-a7", fold.Loose, "an inch to spare each way: it slides"},
		{"A7 on tape", "5 x 7", 0.6, []lies{{3, mat}, {6, flat}}, "env-a7", fold.Fits, "a quarter of an inch each way"},
		{"A7 on foam over the whole front", "5 x 7", 0.6, []lies{{0, foam}}, "env-a7", fold.Fits, "2.6 of 6.3 mm"},
		{"ISO A6 in a C6", "105 x 148 mm", 0.6, []lies{{5, flat}}, "env-c6", fold.Fits, "as the standard means it: 9 and 14 mm"},
		{"ISO A5 in a C5", "148 x 210 mm", 0.6, []lies{{5, flat}}, "env-c5", fold.Fits, "as the standard means it: 14 and 19 mm"},
		{"DL", "99 x 210 mm", 0.6, []lies{{5, foam}}, "env-dl", fold.Fits, "10 and 11 mm"},
		{"slim, panel on foam", "4 x 9", 0.6, []lies{{3, foam}}, "env-10", fold.Snug, "an eighth of an inch, as with A2"},
		{"a panel alone, as tall as the business envelope takes", "3 7/8 x 9 3/8", 0.5, nil, "env-10", fold.Fits, "one sheet of cotton"},
		{"the same with a border round it", "4 1/8 x 9 5/8", 0.6, []lies{{3, flat}}, "env-10", fold.TooSmall, "longer than the envelope"},
		{"square in its own", "5 1/2 x 5 1/2", 0.6, []lies{{3, mat}, {6, foam}}, "env-sq5.75", fold.Fits, "a quarter of an inch each way"},
	} {
		front, err := length.ParseSize(tc.front, length.Inches)
		require.NoError(t, err)
		fit := fold.FitInto(made(front, tc.base, tc.on...), envelope(t, tc.envelope))
		assert.Equal(t, tc.want, fit.Verdict, "%s: %s; %s", tc.what, tc.because, fit.Why(length.Millimetres))
	}
}

// The anchors the rule was made from, and what any band round a card must hold to.
func TestGirth(t *testing.T) {
	const mm = length.Millimetre
	a2 := length.Size{W: 108 * mm, H: 140 * mm}
	bulk := func(b fold.Body) float64 { return (b.Needs().W - b.Front.W).MM() }
	assert.InDelta(t, 1.2, bulk(made(a2, 0.6, lies{3, 2})), 0.01)
	assert.InDelta(t, 2.6, bulk(made(a2, 0.6, lies{0, 2})), 1e-4)
	assert.InDelta(t, 0.6, bulk(made(a2, 0.6)), 1e-4)
	over := made(a2, 0.6, lies{-4, 0.5})
	assert.InDelta(t, 8, bulk(over), 1.2, "what overhangs is wider itself")
	rapid.Check(t, func(t *rapid.T) {
		draw := func(name string, most float64) float64 { return rapid.Float64Range(0, most).Draw(t, name) }
		inset, thick := draw("inset", 20), draw("thick", 8)
		one := made(a2, 0.6, lies{inset, thick})
		if b := bulk(one); b < 0.6-1e-5 || b > 0.6+thick+1e-5 {
			t.Fatalf("a layer %.2f mm in and %.2f mm thick takes %.3f mm", inset, thick, b)
		}
		farther := made(a2, 0.6, lies{inset + draw("farther", 10), thick})
		thicker := made(a2, 0.6, lies{inset, thick + draw("thicker", 4)})
		more := made(a2, 0.6, lies{inset, thick}, lies{inset + 2, 1})
		if bulk(farther) > bulk(one)+1e-5 || bulk(thicker) < bulk(one)-1e-5 || bulk(more) < bulk(one)-1e-5 {
			t.Fatal("set in farther takes less, thicker and more layers take more")
		}
		turned := fold.Body{Front: a2.Turned(), Thick: one.Thick}
		for _, s := range one.On {
			turned.On = append(turned.On, fold.Slab{X: s.Y, Y: s.X, Size: s.Size.Turned(), Bottom: s.Bottom, Top: s.Top})
		}
		if turned.Needs() != one.Needs().Turned() {
			t.Fatal("a card turned needs the same, turned")
		}
	})
	assert.Equal(t, length.FromMM(2.6), made(a2, 0.6, lies{3, 2}).Thickness())
}
