package order_test

import (
	"bytes"
	"net/http"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/internal/web/webtest"
)

// The Order station shows goes with their letters, on the board and in the steps, why
// each step comes now, and what heat is for with its caution.
func TestTheOrderStation(t *testing.T) {
	st, edit := webtest.Painted(t)
	body := st.Get("/cards/1/order").Body
	for _, want := range []string{
		"Cut the panel and lay it in the positioner", "Tape the panel to its board", "(1a, 2 cells)", "(1b, 2 cells)", ">1a</text>", ">1b</text>",
		"Heat tool, about", "Very hot air", `checked> small by heat, big by air`, "Flatten the panel under weight", "Under weight", "While Petals 1a is wet",
		"it spreads softly only while the wash below shines", "up to 25 cm²",
	} {
		assert.Contains(t, body, want)
	}
	assert.Equal(t, 1, strings.Count(body, "Very hot air"), "the caution once, where heat is first used")
	assert.Contains(t, body, "|step ", "looking ahead goes go by go")
	assert.Contains(t, st.Get("/cards/1/bench").Body, ">1a</text>", "the same letters on the sheet")

	edit("edit", "area-meet", "area", "a1", "meet", "loose")
	assert.True(t, st.Card(1).Card.Areas[0].Loose)
	body = st.Get("/cards/1/order").Body
	assert.NotContains(t, body, "(1a,")
	assert.Contains(t, body, "Loosely, in one sweep")
	edit("edit", "area-meet", "area", "a1", "meet", "run")
	assert.Contains(t, st.Get("/cards/1/order").Body, "run into each other")
	assert.Equal(t, [2]bool{false, true}, [2]bool{st.Card(1).Card.Areas[0].Loose, st.Card(1).Card.Areas[0].Run})
	edit("edit", "area-meet", "area", "a1", "meet", "rounds")
	assert.Contains(t, st.Get("/cards/1/order").Body, "(1a,")

	a := edit("edit", "wash-over", "area", "a1", "wash", "1", "over", "dry")
	assert.Contains(t, a.Body, `value="dry" aria-pressed="true"`)
	body = st.Get("/cards/1/order").Body
	assert.NotContains(t, body, "While Petals")
	edit("edit", "wash-over", "area", "a1", "wash", "1", "over", "wet")
	assert.Contains(t, st.Get("/cards/1/order").Body, "While Petals")
}

// Several cards are painted in rounds; air needs no heat tool; nonsense is refused.
func TestSeveralCards(t *testing.T) {
	st, _ := webtest.Painted(t)
	dry := func(pairs ...string) webtest.Answer {
		return st.Post("/cards/1/edit", append([]string{"back", "order", "edit", "drying", "celsius", "21", "humidity", "50"}, pairs...)...)
	}
	a := dry("drying", "air", "copies", "6")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	assert.Contains(t, a.Body, "Steps, on 6 cards")
	assert.Contains(t, a.Body, "all 6 cards, each")
	assert.NotContains(t, a.Body, "Heat tool")
	assert.NotContains(t, a.Body, "reading order", "which nobody would follow with six")
	assert.Contains(t, webtest.Message(dry("drying", "air", "copies", "0").Body), "1 to 200")
	assert.Contains(t, webtest.Message(dry("drying", "sun", "copies", "1").Body), "use mixed, air or heat")
	assert.Equal(t, 6, st.Card(1).Card.Copies)
}

// Joins that cannot be are told at the join, and as a watch-out whose button settles it.
func TestAJoinThatCannotBe(t *testing.T) {
	st, edit := webtest.Painted(t)
	edit("edit", "technique", "area", "a1", "wash", "0", "technique", "dry-brush")
	edit("edit", "technique", "area", "a2", "wash", "0", "technique", "dry-brush")
	edit("edit", "wash-remove", "area", "a1", "wash", "1")
	edit("edit", "join", "a", "a1", "b", "a2", "on", "true")
	st.Post("/cards/1/edit", "back", "order", "edit", "drying", "drying", "air", "celsius", "40", "humidity", "5")
	body := st.Get("/cards/1/colour?area=a1").Body
	assert.Contains(t, body, "One of them is painted in rounds", "at the join")
	body = st.Get("/cards/1/order").Body
	assert.Contains(t, body, "Petals and Sand are to run into each other, but cannot all be wet at once")
	a := st.Post("/cards/1/edit", "back", "order", "edit", "join", "a", "a1", "b", "a2", "on", "false")
	assert.NotContains(t, a.Body, "cannot all be wet at once")
}

// A card of version 3 in a studio keeps its way of drying.
func TestAnOlderCardKeepsItsDrying(t *testing.T) {
	st, _ := webtest.Painted(t)
	c := st.Card(1).Card
	c.Drying = card.Air
	doc, err := c.Encode()
	require.NoError(t, err)
	old, err := card.Decode(bytes.Replace(doc, []byte(`"version": 6`), []byte(`"version": 3`), 1))
	require.NoError(t, err)
	assert.Equal(t, card.Air, old.Drying)
	assert.Equal(t, card.Version, old.Version)
}

// Beside the board of a piece, only what is done to that piece speaks of its cells: on the
// panel a step of a ray would light up a coral of the same number.
func TestStepsSpeakOfTheBoardBesideThem(t *testing.T) {
	st := webtest.Demo(t)
	st.Read(5)
	ofRay := regexp.MustCompile(`data-cells="([^"]*)"[^>]*>\s*(?:<span[^>]*>[^<]*</span>\s*)+<span class="do"><strong>(Ray \d, |)([^:<]+): `)
	for address, ray := range map[string]bool{"5": false, "5.p1": true} {
		found := map[bool]int{}
		for _, m := range ofRay.FindAllStringSubmatch(st.Get("/cards/"+address+"/order").Body, -1) {
			is := m[2] != ""
			if !is && strings.HasPrefix(m[3], "Tide strip") {
				continue
			}
			found[is]++
			assert.Equal(t, is == ray, m[1] != "", "%s: step of %s%s has cells %q", address, m[2], m[3], m[1])
		}
		assert.Greater(t, found[true], 5, address)
		assert.Greater(t, found[false], 5, address)
	}
	bench := regexp.MustCompile(`data-cells="([^"]*)" data-says="Ray \d, Wings`).FindAllStringSubmatch(st.Get("/cards/5/bench").Body, -1)
	require.Len(t, bench, 4)
	for _, m := range bench {
		assert.Empty(t, m[1])
	}
}
