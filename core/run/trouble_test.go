package run

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"chromaqua/core/drying"
)

// The table of troubles answers each in every stage that has an answer, in whole
// sentences, and each remedy is found by its name.
func TestTroubles(t *testing.T) {
	can := map[Trouble]string{ // remedies by stage, as the craft has them
		"too-dark": "towel thirsty|thirsty leave|re-wet darken", "too-pale": "add|hands-off|another-coat", "hard-edge": "soften|hands-off|scrub leave",
		"over-line": "push|thirsty|cover", "bead": "mop|mop|scrub leave", "bloom": "level|hands-off|another-coat splatter", "blotchy": "level|hands-off|another-coat splatter",
		"white-lost": "thirsty|thirsty|cover", "missed": "fill|hands-off|fill-dry", "wrong-colour": "thirsty drop|hands-off|glaze", "stray": "dab|dab|thirsty cover",
		"weak-line": "hands-off|hands-off|again draw", "strong-line": "level|hands-off|mist darken", "relief": "hands-off|hands-off|press-again", "seeped": "thirsty|hands-off|stencil-again",
		"warped": "hands-off|hands-off|press", "palette": "mix|mix|mix", "leaked": "dab|hands-off|scrape cover",
	}
	assert.Len(t, troubles, len(can))
	for _, row := range troubles {
		var says []string
		for phase, list := range row.By {
			var ids []string
			for _, r := range list {
				ids = append(ids, r.ID)
				assert.NotEmpty(t, r.Label)
				assert.True(t, strings.HasSuffix(r.Do, "."), r.Do)
				assert.True(t, strings.HasSuffix(r.Colour, "."), r.Colour)
				assert.Equal(t, r.NoPulp, r.Pulp != "")
				trouble, remedy := FixWords(Fix(row.ID, Phase(phase), r))
				assert.Equal(t, row.Name, trouble)
				assert.Equal(t, r.Label, remedy)
				e := Event{Kind: Repaired, Step: "x", Fix: Fix(row.ID, Phase(phase), r)}
				assert.NoError(t, e.Check())
			}
			says = append(says, strings.Join(ids, " "))
		}
		assert.Equal(t, can[row.ID], strings.Join(says, "|"), row.ID)
	}
	assert.Equal(t, []Phase{Swims, Swims, Dulls, Dulls, Dried, Dried},
		[]Phase{phaseOf(drying.Puddle), phaseOf(drying.Gloss), phaseOf(drying.Sheen), phaseOf(drying.Damp), phaseOf(drying.TouchDry), phaseOf(drying.BoneDry)})
}
