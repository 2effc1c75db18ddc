package web_test

import (
	"bytes"
	"fmt"
	"net/http"
	"os/exec"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/settings"
)

// painted is card 1 with two areas: four cells that touch, with a wash and a drop-in,
// and two with one wash.
func painted(t testing.TB) (*studio, func(pairs ...string) answer) {
	st := withGrid(t)
	edit := func(pairs ...string) answer {
		a := st.post("/cards/1/edit", append([]string{"back", "colour"}, pairs...)...)
		return a
	}
	for i, cells := range []string{"2, 3, 5, 6", "4, 7"} {
		a := edit("edit", "area-new", "cells", cells, "name", []string{"Petals", "Sand"}[i])
		require.Equal(t, http.StatusOK, a.status, message(a.body))
		edit("edit", "wash-add", "area", fmt.Sprintf("a%d", i+1))
	}
	edit("edit", "wash-add", "area", "a1")
	edit("edit", "technique", "area", "a1", "wash", "1", "technique", "wet-on-wet")
	return st, edit
}

// The Order station shows goes with their letters, on the board and in the steps, why
// each step comes now, and what heat is for with its caution.
func TestTheOrderStation(t *testing.T) {
	st, edit := painted(t)
	body := st.get("/cards/1/order").body
	for _, want := range []string{
		"Cut the panel and lay it in the positioner", "Tape the panel to its board", "(1a, 2 cells)", "(1b, 2 cells)", ">1a</text>", ">1b</text>",
		"Heat tool, about", "Very hot air", `checked> small by heat, big by air`, "Flatten the panel under weight", "Under weight", "While Petals 1a is wet",
		"it spreads softly only while the wash below shines", "up to 25 cm²",
	} {
		assert.Contains(t, body, want)
	}
	assert.Equal(t, 1, strings.Count(body, "Very hot air"), "the caution once, where heat is first used")
	assert.Contains(t, body, "after step", "looking ahead goes go by go")
	assert.Contains(t, st.get("/cards/1/bench").body, ">1a</text>", "the same letters on the sheet")

	edit("edit", "area-meet", "area", "a1", "meet", "loose")
	assert.True(t, st.card(1).Card.Areas[0].Loose)
	body = st.get("/cards/1/order").body
	assert.NotContains(t, body, "(1a,")
	assert.Contains(t, body, "Loosely, in one sweep")
	edit("edit", "area-meet", "area", "a1", "meet", "run")
	assert.Contains(t, st.get("/cards/1/order").body, "run into each other")
	assert.Equal(t, [2]bool{false, true}, [2]bool{st.card(1).Card.Areas[0].Loose, st.card(1).Card.Areas[0].Run})
	edit("edit", "area-meet", "area", "a1", "meet", "rounds")
	assert.Contains(t, st.get("/cards/1/order").body, "(1a,")

	a := edit("edit", "wash-over", "area", "a1", "wash", "1", "over", "dry")
	assert.Contains(t, a.body, `value="dry" aria-pressed="true"`)
	body = st.get("/cards/1/order").body
	assert.NotContains(t, body, "While Petals")
	edit("edit", "wash-over", "area", "a1", "wash", "1", "over", "wet")
	assert.Contains(t, st.get("/cards/1/order").body, "While Petals")
}

// Several cards are painted in rounds; air needs no heat tool; nonsense is refused.
func TestSeveralCards(t *testing.T) {
	st, _ := painted(t)
	dry := func(pairs ...string) answer {
		return st.post("/cards/1/edit", append([]string{"back", "order", "edit", "drying", "celsius", "21", "humidity", "50"}, pairs...)...)
	}
	a := dry("drying", "air", "copies", "6")
	require.Equal(t, http.StatusOK, a.status, message(a.body))
	assert.Contains(t, a.body, "Steps, on 6 cards")
	assert.Contains(t, a.body, "all 6 cards, each")
	assert.NotContains(t, a.body, "Heat tool")
	assert.NotContains(t, a.body, "reading order", "which nobody would follow with six")
	assert.Contains(t, message(dry("drying", "air", "copies", "0").body), "1 to 200")
	assert.Contains(t, message(dry("drying", "sun", "copies", "1").body), "use mixed, air or heat")
	assert.Equal(t, 6, st.card(1).Card.Copies)
}

// Joins that cannot be are told at the join, and as a watch-out whose button settles it.
func TestAJoinThatCannotBe(t *testing.T) {
	st, edit := painted(t)
	edit("edit", "technique", "area", "a1", "wash", "0", "technique", "dry-brush")
	edit("edit", "technique", "area", "a2", "wash", "0", "technique", "dry-brush")
	edit("edit", "wash-remove", "area", "a1", "wash", "1")
	edit("edit", "join", "a", "a1", "b", "a2", "on", "true")
	st.post("/cards/1/edit", "back", "order", "edit", "drying", "drying", "air", "celsius", "40", "humidity", "5")
	body := st.get("/cards/1/colour?area=a1").body
	assert.Contains(t, body, "One of them is painted in rounds", "at the join")
	body = st.get("/cards/1/order").body
	assert.Contains(t, body, "Petals and Sand are to run into each other, but cannot all be wet at once")
	a := st.post("/cards/1/edit", "back", "order", "edit", "join", "a", "a1", "b", "a2", "on", "false")
	assert.NotContains(t, a.body, "cannot all be wet at once")
}

// The settings change every plan, can be undone, and keep what was typed when it is
// refused.
func TestSettings(t *testing.T) {
	st, _ := painted(t)
	st.post("/cards/1/edit", "back", "order", "edit", "drying", "drying", "mixed", "celsius", "21", "humidity", "50")
	before := st.get("/cards/1/order").body
	a := st.post("/settings", "pace", "4", "hand", "left", "heat", "1", "rack", "3")
	require.Equal(t, http.StatusOK, a.status, message(a.body))
	assert.Equal(t, "/settings", a.path)
	assert.Contains(t, a.body, `value="4"`)
	after := st.get("/cards/1/order").body
	assert.NotEqual(t, before, after, "what the page shows is in its key")
	assert.Contains(t, after, "up to 1 cm²")
	for why, pairs := range map[string][]string{
		"pace of 0":     {"pace", "0", "hand", "left", "heat", "25", "rack", "3"},
		"is no number":  {"pace", "fast", "hand", "left", "heat", "25", "rack", "3"},
		"is no hand":    {"pace", "2", "hand", "third", "heat", "25", "rack", "3"},
		"whole number":  {"pace", "2", "hand", "left", "heat", "25", "rack", "2.5"},
		"0 to 200 wet":  {"pace", "2", "hand", "left", "heat", "25", "rack", "900"},
		"0 to 1000 cm²": {"pace", "2", "hand", "left", "heat", "-3", "rack", "9"},
	} {
		a := st.post("/settings", pairs...)
		assert.Equal(t, http.StatusUnprocessableEntity, a.status)
		assert.Contains(t, message(a.body), why)
		assert.Contains(t, a.body, `value="`+pairs[1]+`"`, "what was typed is kept")
	}
	a = st.post("/settings", "base", "1", "pace", "2", "hand", "left", "heat", "25", "rack", "3")
	assert.Equal(t, http.StatusConflict, a.status, "another tab was quicker")
	rev, err := st.store.Settings(t.Context())
	require.NoError(t, err)
	assert.Equal(t, settings.Settings{Pace: 4, Hand: settings.Left, HeatCM2: 1, Rack: 3}, rev.Settings)
	st.post("/settings/undo", "base", fmt.Sprint(rev.Seq))
	assert.Contains(t, st.get("/cards/1/order").body, "up to 25 cm²")
	a = st.post("/settings/redo")
	assert.Contains(t, a.body, `value="4"`)
}

// A brush on the shelf is used at once.
func TestOwnBrushesAreUsed(t *testing.T) {
	st, _ := painted(t)
	assert.Contains(t, st.get("/cards/1/order").body, "flat 3/4 in (19 mm)")
	st.post("/shelf", "edit", "add", "name", "Squirrel mop", "like", "brush:round", "belly", "9 mm")
	assert.Contains(t, st.get("/cards/1/order").body, "Squirrel mop (9 mm)")
}

// The printed sheet has the letters, why each step comes now, and the caution of heat.
func TestTheSheetOfGoes(t *testing.T) {
	st, _ := painted(t)
	pdftotext, err := exec.LookPath("pdftotext")
	if err != nil {
		t.Skip("pdftotext is not installed")
	}
	c := exec.Command(pdftotext, "-layout", "-", "-")
	c.Stdin = strings.NewReader(st.get("/cards/1/bench.pdf").body)
	out, err := c.Output()
	require.NoError(t, err)
	text := string(bytes.Join(bytes.Fields(out), []byte(" ")))
	for _, want := range []string{"1a", "1b", "(1a, 2 cells)", "Very hot air", "heat tool for", "While Petals 1a is wet", "Flatten the panel under weight", "by heat where small, by air where big"} {
		assert.Contains(t, text, want)
	}
}

// A card of version 3 in a studio keeps its way of drying.
func TestAnOlderCardKeepsItsDrying(t *testing.T) {
	st, _ := painted(t)
	c := st.card(1).Card
	c.Drying = card.Air
	doc, err := c.Encode()
	require.NoError(t, err)
	old, err := card.Decode(bytes.Replace(doc, []byte(`"version": 4`), []byte(`"version": 3`), 1))
	require.NoError(t, err)
	assert.Equal(t, card.Air, old.Drying)
	assert.Equal(t, 4, old.Version)
}
