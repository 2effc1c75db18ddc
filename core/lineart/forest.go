package lineart

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"slices"
	"sync"
)

//go:embed gaps.json
var gapsJSON []byte

// gaps judges passages. It was taught by bench/gaps.py; docs/models.md tells with
// what, and how it fares on drawings it has not seen.
var gaps = sync.OnceValue(func() *forest {
	f, err := readForest(gapsJSON)
	if err != nil {
		panic("lineart: gaps.json: " + err.Error()) // it is part of the program
	}
	return f
})

// A forest is a sum of regression trees, each of which mends what those before it
// got wrong (Friedman 2001, Greedy function approximation). Its sum is the odds
// for a gap, as a natural logarithm.
type forest struct {
	Evidence []string `json:"evidence"` // what the trees ask for, in the order of their numbers
	Base     float64  `json:"base"`
	Trees    [][]node `json:"trees"` // each from its root
}

// A node asks whether a piece of evidence is at most a limit and goes on to a later
// node of its tree; a leaf knows the odds.
type node struct {
	of        int // the kind of evidence, or -1 for a leaf
	limit     float64
	low, high int // where to go on: at most limit, above
	odds      float64
}

// UnmarshalJSON reads [odds] or [of, limit, low, high].
func (n *node) UnmarshalJSON(data []byte) error {
	var v []float64
	if err := json.Unmarshal(data, &v); err != nil {
		return err
	}
	switch {
	case len(v) == 1:
		*n = node{of: -1, odds: v[0]}
	case len(v) == 4 && v[0] >= 0:
		*n = node{of: int(v[0]), limit: v[1], low: int(v[2]), high: int(v[3])}
	default:
		return fmt.Errorf("%v is no node", v)
	}
	return nil
}

// readForest reads a forest and makes sure that it asks for the evidence there is
// and that every way through its trees ends.
func readForest(data []byte) (*forest, error) {
	var f forest
	if err := json.Unmarshal(data, &f); err != nil {
		return nil, err
	}
	if !slices.Equal(f.Evidence, evidenceNames[:]) {
		return nil, fmt.Errorf("it was taught with other evidence: %q", f.Evidence)
	}
	for t, tree := range f.Trees {
		if len(tree) == 0 {
			return nil, fmt.Errorf("tree %d is empty", t)
		}
		for i, n := range tree {
			later := func(to int) bool { return to > i && to < len(tree) }
			if n.of >= kindsOfEvidence || n.of >= 0 && !(later(n.low) && later(n.high)) {
				return nil, fmt.Errorf("node %d of tree %d leads nowhere", i, t)
			}
		}
	}
	return &f, nil
}

// odds weighs the evidence.
func (f *forest) odds(e *evidence) float64 {
	sum := f.Base
	for _, tree := range f.Trees {
		n := &tree[0]
		for n.of >= 0 {
			to := n.low
			if e[n.of] > n.limit {
				to = n.high
			}
			n = &tree[to]
		}
		sum += n.odds
	}
	return sum
}
