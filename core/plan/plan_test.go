package plan_test

import (
	"context"
	"encoding/json"
	"os"
	"path/filepath"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/drying"
	"chromaqua/core/order/solver"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/plan"
	"chromaqua/core/plan/plancheck"
	"chromaqua/core/steps"
	"chromaqua/core/technique"
)

// planned is the plan of a board as JSON.
func planned(t testing.TB, b *panel.Board, tries int) ([]byte, *plan.Plan) {
	p, err := steps.Compile(b, steps.UsualBench())
	require.NoError(t, err)
	s, err := solver.Solve(context.Background(), p.Instance, solver.Budget{Iterations: tries, Seed: 1})
	require.NoError(t, err)
	made := plan.Of(b.Card, p, s)
	data, err := json.Marshal(made)
	require.NoError(t, err)
	return data, made
}

// Two hundred random cards have plans in which an independent checker finds no fault.
// CHROMAQUA_PLANS names a folder to keep them in.
func TestRandomCardsArePlannedWithoutFault(t *testing.T) {
	found := map[string]int{}
	for seed := range uint64(200) {
		b := paneltest.Random(t, seed)
		data, made := planned(t, b, 300)
		faults, err := plancheck.Faults(data, b.Card.Room == drying.StillRoom && b.Card.PaperFacts().Surface == drying.Cotton)
		require.NoError(t, err)
		require.Empty(t, faults, "seed %d", seed)
		if dir := os.Getenv("CHROMAQUA_PLANS"); dir != "" {
			require.NoError(t, os.WriteFile(filepath.Join(dir, strconv.FormatUint(seed, 10)+".json"), data, 0o644))
		}
		count(found, made)
	}
	t.Log(found)
	for _, what := range []string{"into wet", "joined", "rounds", "loose", "heat", "walls", "copies", "note", "lift", "flatten"} {
		assert.Greater(t, found[what], 5, "the check must see plans with %s", what)
	}
}

// What the document says of a small card.
func TestTheDocument(t *testing.T) {
	c, s := paneltest.Card(t, 2, 1)
	id := paneltest.Area(t, c, s, "Left", [][2]int{{0, 0}}, card.Wash{Technique: technique.Flat, Strength: "tea", Mix: []card.Part{{CI: "PB29", Parts: 1}}})
	left := paneltest.CellAt(t, c, s, 0, 0)
	b := panel.Resolve(c, s)
	_, p := planned(t, b, 50)
	assert.Equal(t, p.Total, p.HandsOn+p.Waiting)
	assert.Len(t, p.Cells, len(s.Cells))
	assert.Equal(t, plan.Cell{ID: plan.CellIDs(card.ThePanel, b, []int{left})[0], Piece: "panel", Areas: []string{id}, MM2: s.Cells[left-1].AreaMM2, X: s.Cells[left-1].Label.X, Y: s.Cells[left-1].Label.Y}, p.Cells[left-1])
	assert.Equal(t, []plan.Area{{ID: id, Piece: "panel", Cells: plan.CellIDs(card.ThePanel, b, []int{left}), Washes: []plan.Wash{{Wash: 0, Technique: "flat", Coats: 1}}}}, p.Areas)
	for _, st := range p.Steps {
		assert.Equal(t, st.Kind == "mount", len(st.Pieces) == 1, st.Kind)
		assert.Equal(t, st.Kind == "wash", st.Wash == 0, st.Kind)
		assert.Equal(t, st.Kind == "wash", st.Area == id, st.Kind)
	}
	assert.Len(t, p.Touch, len(s.Neighbours))
}

// Whatever is laid over whatever, in a room that dries quickly and in a still one, there
// is a plan without fault.
func TestEveryTechniqueOverEveryOther(t *testing.T) {
	all := technique.Kinds()
	cards := 0
	for _, first := range all {
		for _, second := range all {
			for n, third := range []technique.Kind{technique.WetOnWet, technique.Lift, technique.PenLine} {
				c, s := paneltest.Card(t, 2, 1)
				paneltest.Area(t, c, s, "petals", [][2]int{{0, 0}, {1, 0}})
				a := &c.Areas[0]
				for k, kind := range []technique.Kind{first, second, third} {
					paneltest.Begin(t, a)
					require.NoError(t, a.LayAs(k, kind))
				}
				if c.Check() != nil {
					continue // water on nothing wet
				}
				if c.Drying = card.Dryings()[n]; n > 0 {
					c.Room = drying.Room{Celsius: 35, Humidity: 0.2, Air: 1}
				}
				data, _ := planned(t, panel.Resolve(c, s), 20)
				faults, err := plancheck.Faults(data, n == 0)
				require.NoError(t, err)
				require.Empty(t, faults, "%s, %s, %s", first, second, third)
				cards++
			}
		}
	}
	assert.Greater(t, cards, 500)
}

// count notes what a plan has to show.
func count(found map[string]int, p *plan.Plan) {
	has := map[string]bool{"heat": len(p.Heat) > 0, "note": len(p.Notes) > 0}
	goes := map[[2]any]int{}
	for _, s := range p.Steps {
		has["into wet"] = has["into wet"] || len(s.IntoWet) > 0
		has["joined"] = has["joined"] || len(s.Joined) > 0
		has["loose"] = has["loose"] || s.Together == "loose"
		has["copies"] = has["copies"] || s.Copy > 0
		has[s.Kind] = true
		if s.Copy == 0 && s.Wash == 0 {
			goes[[2]any{s.Area, s.Wash}]++
		}
	}
	for _, n := range goes {
		has["rounds"] = has["rounds"] || n > 1
	}
	for _, t := range p.Touch {
		has["walls"] = has["walls"] || t.Raised
	}
	for k, ok := range has {
		if ok {
			found[k]++
		}
	}
}
