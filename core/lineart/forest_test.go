package lineart

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// grow writes a forest of the right evidence.
func grow(t *testing.T, trees string) []byte {
	names, err := json.Marshal(evidenceNames)
	require.NoError(t, err)
	return []byte(`{"evidence": ` + string(names) + `, "base": 0.5, "trees": ` + trees + `}`)
}

func TestForest(t *testing.T) {
	// The first tree knows wide gaps, and among the others those with room behind.
	f, err := readForest(grow(t, `[[[0,1.2,1,2],[13,3,3,4],[-2],[0.25],[4]],[[1]]]`))
	require.NoError(t, err)
	for _, c := range []struct{ width, room, odds float64 }{
		{1.2, 3, 1.75}, {1.2, 3.1, 5.5}, {1.3, 9, -0.5},
	} {
		assert.InDelta(t, c.odds, f.odds(&evidence{gapWidth: c.width, roomBehind: c.room}), 1e-12)
	}
}

func TestBadForests(t *testing.T) {
	for _, c := range []struct{ trees, says string }{
		{`[[]]`, "tree 0 is empty"},
		{`[[[1]],[[0,1,1,3],[1],[2]]]`, "node 0 of tree 1 leads nowhere"},
		{`[[[0,1,0,1],[1]]]`, "leads nowhere"}, // round and round
		{`[[[18,1,1,2],[1],[2]]]`, "leads nowhere"},
		{`[[[-1,1,1,2],[1],[2]]]`, "is no node"},
		{`[[[0,1,2]]]`, "is no node"},
		{`[[["a"]]]`, "cannot unmarshal"},
		{`[`, "invalid character"},
	} {
		_, err := readForest(grow(t, c.trees))
		assert.ErrorContains(t, err, c.says, c.trees)
	}
	_, err := readForest([]byte(`{"evidence": ["colour"], "trees": [[[1]]]}`))
	assert.ErrorContains(t, err, "other evidence")
}

// What ships was taught with the evidence there is, and holds on to the plain cases.
func TestGapsWeighPlainCases(t *testing.T) {
	end := bank{near: reach{mean: 0.6, spread: 0.13, area: 0.6}, wide: reach{mean: 1, spread: 0.13, area: 1}}
	along := bank{near: reach{mean: 0.12, spread: 0.7, area: 1.2}, wide: reach{mean: 0.2, spread: 1.1, area: 2}}
	basins := func(e evidence) *evidence {
		e[roomBehind], e[smallerArea], e[largerArea], e[smallerShape] = 6, 4.5, 5, 1.6
		return &e
	}
	broken, neck := basins(evidenceOf(0.5, end, end)), basins(evidenceOf(0.5, along, along))
	assert.Greater(t, gaps().odds(broken), 2.0, "a line's two ends")
	assert.Less(t, gaps().odds(neck), -1.0, "two banks along a neck")
}
