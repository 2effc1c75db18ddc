package advice_test

import (
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/advice"
	"chromaqua/core/card"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/pigment"
)

// clickAll makes the change that the first watch-out offers, again and again, and returns
// how often. What is said grows at no click.
func clickAll(t *testing.T, b *bench) (clicks int) {
	for {
		ws := b.watches()
		i := slices.IndexFunc(ws, func(w advice.Watch) bool { return w.Fix != nil && !moves[w.Rule] })
		if i < 0 {
			return clicks
		}
		next := b.after(ws[i].Fix.Change)
		require.NoError(t, next.Check())
		require.Less(t, len(next.watches()), len(ws), "%s: %s", ws[i].What, ws[i].Fix.Label)
		*b = *next
		clicks++
	}
}

// depthOf is how deep an area is mixed: the place of its last covering wash on the scale
// of strengths, -1 for none.
func depthOf(a *card.Area) int {
	k, ok := a.LastCover()
	if !ok {
		return -1
	}
	return slices.Index(pigment.Strengths(), a.Washes[k].Strength)
}

// Whoever clicks everything that is offered comes to an end within the number of things
// that were said, with a card that is still the one that was meant: what was typed is as
// it was, the line has the look that was wanted, a pale area is still pale.
func TestClickingEverythingEnds(t *testing.T) {
	made := map[string]func(testing.TB) *bench{}
	for _, tc := range allCases() {
		made[tc.rule] = func(t testing.TB) *bench { b := good(t); tc.needs(b); return b }
	}
	for name, f := range sensible {
		made[name] = f
	}
	seeds := uint64(60)
	if testing.Short() {
		seeds = 15
	}
	for seed := range seeds {
		made["random "+string(rune('a'+seed%26))+string(rune('a'+seed/26))] = func(t testing.TB) *bench {
			d := paneltest.Random(t, 500+seed)
			unusual(rand.New(rand.NewPCG(seed, 6)), d.Card)
			return &bench{d.Card, t, panel.Resolve(d.Card, d.Sheet).Sheet}
		}
	}
	all := 0
	for name, f := range made {
		b := f(t)
		was, err := b.Clone()
		require.NoError(t, err)
		said := len(b.watches())
		clicks := clickAll(t, b)
		all += clicks
		assert.LessOrEqual(t, clicks, said, name)
		assert.Equal(t, was.Look, b.Look, "%s: the look that is wanted", name)
		assert.Equal(t, was.Panel.Size, b.Panel.Size, "%s: what was typed of the panel", name)
		if was.Base.Format == card.Free {
			assert.Equal(t, was.Base.Front, b.Base.Front, "%s: what was typed of the front", name)
		}
		for i := range was.Layers {
			assert.Equal(t, was.Layers[i].Size, b.Layers[i].Size, "%s: what was typed of a layer", name)
		}
		for i := range was.Areas {
			now, err := b.AreaByID(was.Areas[i].ID)
			if err != nil || depthOf(now) < 0 || depthOf(&was.Areas[i]) < 0 || len(now.Washes) != len(was.Areas[i].Washes) {
				continue // painted as another, or left out
			}
			before, after := depthOf(&was.Areas[i]), depthOf(now)
			assert.LessOrEqual(t, max(after-before, before-after), 1, "%s: %s was %d and is %d on the scale of strengths", name, now.Name, before, after)
		}
	}
	assert.Greater(t, all, 60, "hardly anything was offered")
}

// A pale dusk stays pale: of two areas that melt together, the change that is nearer to
// what was meant is offered, and no area is deepened twice.
func TestAPaleDuskStaysPale(t *testing.T) {
	b := lay(t, 4, 1)
	b.Ink, b.Look = "pale", "vanishing"
	for i, name := range []string{"Dusk", "Gull", "Sail", "Buoy"} {
		b.area(name, i, 1, flat([]string{"PB29", "PV19", "PB28", "PR122"}[i], pigment.WeakTea))
	}
	clickAll(t, b)
	for i := range b.Areas {
		assert.LessOrEqual(t, depthOf(&b.Areas[i]), 1, "%s is %s", b.Areas[i].Name, b.wash(i, 0).Strength)
	}
}
