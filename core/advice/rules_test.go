package advice_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/advice"
	"chromaqua/core/change"
)

// Each rule speaks when it has to, is silent just before that and on sensible cards, and
// what it offers is a change that a form can ask for, that settles the matter and makes
// no other.
func TestEachRuleStandsOnItsCases(t *testing.T) {
	rank := map[advice.Severity]int{advice.Stop: 0, advice.Mind: 1, advice.Note: 2}
	pressing := func(ws []advice.Watch) (n int) {
		for _, w := range ws {
			if w.Severity != advice.Note {
				n++
			}
		}
		return n
	}
	for _, tc := range allCases() {
		t.Run(tc.rule, func(t *testing.T) {
			b := good(t)
			tc.needs(b)
			require.NoError(t, b.Check())
			ws := b.watches()
			i := slices.IndexFunc(ws, func(w advice.Watch) bool { return w.Rule == tc.rule })
			require.GreaterOrEqual(t, i, 0, "it keeps still where it is needed; said is %v", rules(ws))
			w := ws[i]
			assert.Equal(t, tc.severity, w.Severity)
			for k := 1; k < len(ws); k++ {
				assert.LessOrEqual(t, rank[ws[k-1].Severity], rank[ws[k].Severity], "the worst comes first")
			}
			for _, said := range []string{w.What, w.Why} {
				assert.True(t, strings.HasSuffix(said, ".") && !strings.HasSuffix(said, "..") && said[0] != ' ', "no sentence: %q", said)
			}
			if tc.fix == "" {
				assert.Nil(t, w.Fix)
			} else if assert.NotNil(t, w.Fix, "nothing is offered") {
				assert.Equal(t, tc.fix, w.Fix.Label)
				assert.NotEmpty(t, change.NameOf(w.Fix.Change), "it is a change that a form can ask for")
				before, err := b.Encode()
				require.NoError(t, err)
				fixed := b.after(w.Fix.Change)
				after, err := b.Encode()
				require.NoError(t, err)
				assert.Equal(t, string(before), string(after), "it was tried on a copy")
				if now := fixed.watches(); !moves[tc.rule] {
					assert.Less(t, count(tc.rule, now), count(tc.rule, ws), "it is not settled")
					assert.Less(t, len(now), len(ws), "it makes another: %v", rules(now))
					assert.Less(t, pressing(now), pressing(ws)+map[bool]int{true: 1}[tc.severity == advice.Note])
				}
			}

			b = good(t)
			tc.short(b)
			require.NoError(t, b.Check())
			assert.NotContains(t, rules(b.watches()), tc.rule, "it speaks just short of it")

			names := strings.Split(tc.silent, ", ")
			assert.Len(t, names, 3)
			for _, name := range names {
				make, known := sensible[name]
				require.True(t, known, "there is no sensible card %q", name)
				assert.NotContains(t, rules(make(t).watches()), tc.rule, name)
			}
		})
	}
}

// moves are rules whose change lays an image elsewhere, or draws on it: that is read anew
// before it shows, and tested where it is.
var moves = map[string]bool{"line-overhangs": true, "image-off": true, "leak": true}

// A row of the table of rules has all that the program asks of it, and its cases.
func TestEveryRuleIsWhole(t *testing.T) {
	var ids []string
	for _, r := range advice.Rules() {
		ids = append(ids, r.ID)
		assert.Contains(t, []advice.Station{advice.Format, advice.Line, advice.Colour, advice.Masks, advice.Order, advice.Mount}, r.Station, r.ID)
		assert.True(t, strings.HasSuffix(r.Says, ".") && strings.HasSuffix(r.Reason, "."), "%s: what does it look out for, and why?", r.ID)
		assert.NoError(t, advice.Check(r.ID))
	}
	var cases []string
	for _, tc := range allCases() {
		cases = append(cases, tc.rule)
	}
	assert.ElementsMatch(t, ids, cases, "every rule has its row in ruleCases or workCases")
	assert.Error(t, advice.Check("rain"))
}
