package school_test

import (
	"encoding/json"
	"fmt"
	"reflect"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/school"
)

func ExampleWays_Over() {
	studio, card := school.Ways{Background: school.GroundLast, Water: school.PoolsWelcome}, school.Ways{Background: school.GroundFirst}
	for _, q := range school.Questions()[:4] {
		fmt.Printf("%s %s\n", q.Asks, card.Over(studio).Of(&q).Words)
	}
	// Output:
	// When is the background painted? first
	// Which of two neighbours comes first? the lighter
	// How do whites stay white? large ones kept, small ones put in
	// How wet is paper that is wetted first? pools are welcome
}

// Every question has an answer of its own in Ways, ways with reasons, and says no to others.
func TestQuestions(t *testing.T) {
	all := school.Questions()
	assert.Len(t, all, reflect.TypeFor[school.Ways]().NumField())
	var asked, fresh []string
	for _, q := range all {
		if q.Fresh {
			fresh = append(fresh, q.ID)
		} else {
			asked = append(asked, q.ID)
		}
	}
	assert.Equal(t, []string{"background", "neighbours", "whites", "water", "flattening", "mixing", "palette", "second_coat", "subject", "pen", "mask_heat"}, asked, "a plan follows these")
	assert.Equal(t, []string{"drying", "line", "vanishing", "lines", "edges", "relief", "paper", "hold", "fold"}, fresh, "what is new begins so")
	seen := map[string]bool{}
	for i := range all {
		q := &all[i]
		assert.True(t, strings.HasSuffix(q.Asks, "?"), q.ID)
		assert.GreaterOrEqual(t, len(q.Ways), 2)
		var w school.Ways
		assert.Equal(t, q.Ways[0], *w.Of(q), "the default")
		for _, way := range q.Ways {
			assert.NotEmpty(t, way.Why)
			require.NoError(t, w.Choose(q.ID, way.ID))
			assert.Equal(t, way.ID, w.Chosen(q))
			assert.Equal(t, way, *w.Of(q))
			assert.Equal(t, q.Fresh, w.Fresh() == w)
			b, err := json.Marshal(w)
			require.NoError(t, err)
			assert.False(t, seen[string(b)], "two questions share an answer")
			seen[string(b)] = true
		}
		require.NoError(t, w.Choose(q.ID, ""))
		assert.ErrorContains(t, w.Choose(q.ID, "sideways"), "it is one of "+q.Ways[0].ID)
	}
	assert.ErrorContains(t, new(school.Ways).Choose("moon", "full"), "nothing makers are asked")
}
