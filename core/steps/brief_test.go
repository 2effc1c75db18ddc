package steps_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/pigment"
	"chromaqua/core/steps"
	"chromaqua/core/technique"
)

// On the sheet a step is what is painted, how, and the brush; nothing is lost that the
// hand needs, and nothing is said that the dab shows.
func TestStepsInBrief(t *testing.T) {
	c, s := paneltest.Card(t, 3, 2)
	c.Ink = "permanent"
	paneltest.Area(t, c, s, "Sky", [][2]int{{0, 0}, {1, 0}, {0, 1}}, card.Wash{Technique: technique.WetOnWet, Strength: pigment.Tea, Mix: []card.Part{{CI: "PB29", Parts: 1}}})
	paneltest.Area(t, c, s, "Sand", [][2]int{{2, 1}}, card.Wash{Technique: technique.Flat, Strength: pigment.Milk, Mix: []card.Part{{CI: "PY42", Parts: 1}}}, card.Wash{Technique: technique.Lift})
	b := panel.Resolve(c, s)
	plan, err := steps.Compile(b, steps.UsualBench())
	require.NoError(t, err)
	var all []string
	for i := range plan.Steps {
		brief := plan.Brief(&plan.Steps[i])
		words := brief.Named() + " | " + brief.With
		assert.NotContains(t, words, "(", "no measures")
		assert.NotContains(t, brief.String(), "ultramarine", "it is shown")
		assert.Less(t, len(strings.Fields(words)), 27, words)
		all = append(all, words)
	}
	text := strings.Join(all, "\n")
	assert.Regexp(t, `1\w? Sky: ultramarine, tea, wet-on-wet \| \w+`, text)
	assert.Regexp(t, `2 Sand: yellow ochre, milk \| (round|flat)`, text)
	assert.Regexp(t, `2 Sand: lift \| `, text)
	assert.Regexp(t, `Stamp Grid with oil- or resin-based permanent ink\. 2 to 3 times, in the positioner \|`, text)
	assert.NotContains(t, text, "so that")
}

// Metal sinks in its mix, and takes the colour of a dark wash below it.
func TestMetalIsStirred(t *testing.T) {
	p := compiled(t, func(c *card.Card, s *panel.Sheet) {
		paneltest.Area(t, c, s, "Lamp", [][2]int{{0, 0}}, wash(technique.Flat, "PW20-gold"), wash(technique.Glaze, "PW20-copper"), wash(technique.Glaze, "PB29"))
	})
	var said []string
	for i := range p.Steps {
		if st := &p.Steps[i]; st.On != nil {
			said = append(said, st.Detail)
		}
	}
	require.Len(t, said, 3)
	assert.Contains(t, said[0], "the mica sinks")
	assert.NotContains(t, said[0], "heat it at once")
	assert.Contains(t, said[1], "heat it at once")
	assert.NotContains(t, said[2], "mica")
}
