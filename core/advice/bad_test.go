package advice_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/advice"
	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/nest"
	"chromaqua/core/shelf"
)

// Cards of every version are looked over, with rules that they silence, areas that lost
// their cells, and a bottle that is no longer on the shelf.
func TestOldAndTornCards(t *testing.T) {
	b := good(t)
	b.OwnInk = &shelf.Own{What: shelf.OwnInk, Name: "Empty bottle", Like: "dye"}
	b.Ink = "dye"
	b.Silenced = []string{"ink-runs", "a-rule-of-old"}
	b.Areas[1].Cells = []card.Spot{{On: "i1", UV: card.UV{U: 7, V: 7}, MM2: 400}}
	doc, err := b.Encode()
	require.NoError(t, err)
	for _, version := range []int{3, 4, card.Version} {
		old := strings.Replace(string(doc), fmt.Sprintf(`"version": %d`, card.Version), fmt.Sprintf(`"version": %d`, version), 1)
		c, err := card.Decode([]byte(old))
		require.NoError(t, err, version)
		read := &bench{c, t, b.sheet}
		said := rules(read.watches())
		assert.Contains(t, said, "lost-cells", version)
		assert.NotContains(t, said, "ink-runs", "it is silenced")
		assert.Contains(t, rules(advice.All(read.facts())), "ink-runs")
		assert.LessOrEqual(t, clickAll(t, read), len(said))
	}
	for _, first := range []string{
		`{"kind":"chromaqua-card","version":1,"name":"Old","unit":"in","base":{"format":"a2","front":{"w":"4 1/4 in","h":"5 1/2 in"},"fold":"side","paper":"card"},"mat":{"on":true,"border":"1/8 in","reveal":"1/4 in","paper":"kraft"},"paper":"cotton-cp","ink":"dye","areas":[],"joins":[],"drying":"air","room":{"celsius":21,"humidity":0.5,"air":0.1}}`,
		`{"kind":"chromaqua-card","version":2,"name":"Old","unit":"in","base":{"format":"a2","front":{"w":"4 1/4 in","h":"5 1/2 in"},"fold":"side","paper":"card"},"layers":[],"panel":{},"painting":{"border":"0 in","tape":"1 in","spare":"0 in"},"paper":"cotton-cp","ink":"dye","areas":[{"id":"a1","name":"x","cells":[{"u":1,"v":1,"mm2":4}],"washes":[]}],"joins":[],"drying":"air","room":{"celsius":21,"humidity":0.5,"air":0.1}}`,
	} {
		c, err := card.Decode([]byte(first))
		require.NoError(t, err)
		for _, w := range advice.Watches(advice.Gather(c, nil, nil, nil)) {
			assert.NotEqual(t, advice.Stop, w.Severity, w.What)
		}
	}
	_, err = card.Decode([]byte(strings.Replace(string(doc), `"ink": "dye"`, `"ink": "moonlight"`, 1)))
	assert.ErrorContains(t, err, "moonlight")
}

// A tall panel that a border makes too long for every envelope goes into the business
// envelope by itself; that is offered before anything is cut, and what was typed stays.
func TestThePanelAloneIsOffered(t *testing.T) {
	c := card.New("Boats", length.Inches)
	c.Layers = []card.Layer{}
	require.NoError(t, c.StartFrom(card.PanelRing, length.Size{W: 31 * length.Inch / 8, H: 75 * length.Inch / 8}))
	c.Panel.Margin = nest.Even(length.Inch / 4)
	require.NoError(t, c.Check())
	ws := advice.Watches(advice.Gather(c, nil, nil, nil))
	require.Equal(t, []string{"no-envelope"}, rules(ws))
	require.NotNil(t, ws[0].Fix)
	assert.Equal(t, "Let the panel alone be the front, 3 7/8 × 9 3/8 in", ws[0].Fix.Label)
	_, err := ws[0].Fix.Change.Do(c)
	require.NoError(t, err)
	assert.Empty(t, advice.Watches(advice.Gather(c, nil, nil, nil)))
	f := advice.Gather(c, nil, nil, nil)
	assert.Equal(t, "env-10", f.Fits[0].Envelope.ID)
	assert.Equal(t, length.Size{W: 31 * length.Inch / 8, H: 75 * length.Inch / 8}, c.PanelSize())
}
