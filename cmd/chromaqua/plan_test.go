package main

import (
	"bytes"
	"encoding/json"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/plan"
	"chromaqua/core/plan/plancheck"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
	"chromaqua/internal/cardfile"
	"chromaqua/internal/store"
)

// paintedFile is a card file whose six cells are painted, by a card of an older version
// when it is given.
func paintedFile(t testing.TB, change func(*card.Card)) string {
	data := gridPNG(t)
	m := store.Image{Hash: store.Hash(data), Title: "Grid", Media: "image/png", Data: data}
	scan := paneltest.Scan(3, 2)
	m.Width, m.Height = scan.Rect.Dx(), scan.Rect.Dy()
	c, s := paneltest.Card(t, 3, 2)
	c.Images[0].Scan = card.Scan{Image: m.Hash, Title: m.Title, WidthPX: m.Width, HeightPX: m.Height, Width: c.Line().Width}
	tea := func(kind technique.Kind, ci string) card.Wash {
		return card.Wash{Technique: kind, Strength: "tea", Mix: []card.Part{{CI: ci, Parts: 1}}}
	}
	paneltest.Area(t, c, s, "Shell", [][2]int{{0, 0}, {1, 0}, {0, 1}}, tea(technique.Flat, "PB29"), tea(technique.WetOnWet, "PV19"))
	paneltest.Area(t, c, s, "Sand", [][2]int{{2, 0}, {2, 1}}, tea(technique.Flat, "PY42"))
	change(c)
	return write(t, "card.zip", fileOf(t, c, m))
}

// The plan of a card is the same on every call, follows the flags, and has no fault.
func TestPlan(t *testing.T) {
	file := paintedFile(t, func(*card.Card) {})
	code, out, errOut := call("", "plan", file, "--tries", "300")
	require.Equal(t, done, code, errOut)
	faults, err := plancheck.Faults([]byte(out), true)
	require.NoError(t, err)
	assert.Empty(t, faults)
	_, again, _ := call("", "plan", file, "--tries", "300")
	assert.Equal(t, out, again)
	var p plan.Plan
	require.NoError(t, json.Unmarshal([]byte(out), &p))
	assert.Equal(t, "grid", p.Card)
	assert.NotEmpty(t, p.Heat, "a new card is dried small by heat")
	assert.Len(t, p.Areas, 2)
	for _, tc := range []struct {
		args   []string
		copies int
	}{{[]string{"--drying", "air"}, 1}, {[]string{"--copies", "3", "--rack", "1"}, 3}} {
		code, out, errOut = call("", append([]string{"plan", file, "--tries", "200"}, tc.args...)...)
		require.Equal(t, done, code, errOut)
		require.NoError(t, json.Unmarshal([]byte(out), &p))
		assert.Equal(t, tc.copies == 1, len(p.Heat) == 0, tc.args)
		most := 0
		for _, s := range p.Steps {
			most = max(most, s.Copy+1)
		}
		assert.Equal(t, tc.copies, most)
		faults, err := plancheck.Faults([]byte(out), true)
		require.NoError(t, err)
		assert.Empty(t, faults, tc.args)
	}
	for why, args := range map[string][]string{
		"use mixed, air or heat": {"plan", file, "--drying", "sun"}, "1 to 200": {"plan", file, "--copies", "900"}, "0 to 200": {"plan", file, "--rack", "-4"},
		"no such file": {"plan", "missing.zip"}, "not a card file": {"plan", write(t, "x.zip", []byte("x"))},
		"no line image": {"check", write(t, "bare.zip", bareFile(t))},
	} {
		code, _, errOut := call("", args...)
		assert.Equal(t, failed, code, args)
		assert.Contains(t, errOut, why)
	}
	code, _, errOut = call("", "plan", write(t, "unpainted.zip", cardFile(t)))
	assert.Equal(t, failed, code)
	assert.Contains(t, errOut, "nothing to paint yet")
}

func cardFile(t testing.TB) []byte {
	data := gridPNG(t)
	m := store.Image{Hash: store.Hash(data), Title: "Grid", Media: "image/png", Data: data}
	m.Width, m.Height = paneltest.Scan(3, 2).Rect.Dx(), paneltest.Scan(3, 2).Rect.Dy()
	c := card.New("Grid", length.Millimetres)
	_, err := c.Lay(card.Scan{Image: m.Hash, Title: m.Title, WidthPX: m.Width, HeightPX: m.Height, Width: 64 * length.Millimetre}, shelf.LineImage)
	require.NoError(t, err)
	return fileOf(t, c, m)
}

// fileOf is the card file of a card with its image.
func fileOf(t testing.TB, c *card.Card, m store.Image) []byte {
	f, err := cardfile.New(t.Context(), c, cardfile.Images{m}, time.Now())
	require.NoError(t, err)
	var buf bytes.Buffer
	require.NoError(t, f.Write(t.Context(), &buf))
	return buf.Bytes()
}

// bareFile is a card file without a line.
func bareFile(t testing.TB) []byte {
	return fileOf(t, card.New("Bare", length.Inches), store.Image{})
}

// What cannot be met while wet is a watch-out of the card, with the change that settles
// it.
func TestCheck(t *testing.T) {
	file := paintedFile(t, func(c *card.Card) {
		c.Areas[0].Washes[0].Technique = technique.DryBrush
		c.Room.Celsius, c.Room.Humidity = 35, 0.1
		c.Ink = "dye"
	})
	code, out, errOut := call("", "check", file)
	require.Equal(t, done, code, errOut)
	var found []watch
	require.NoError(t, json.Unmarshal([]byte(out), &found))
	rules := map[string]watch{}
	for _, w := range found {
		rules[w.Rule] = w
	}
	require.Contains(t, rules, "water-into-damp")
	w := rules["water-into-damp"]
	assert.Equal(t, "order", string(w.Station))
	assert.Len(t, w.Cells, 3)
	require.NotNil(t, w.Fix)
	assert.Equal(t, fix{"Lay it over dry", "wash-over", map[string]string{"area": "a1", "wash": "1", "over": "dry"}}, *w.Fix)
	assert.Equal(t, "ink-runs", found[0].Rule, "worst first")
	code, out, errOut = call("", "check", write(t, "unpainted.zip", cardFile(t)))
	require.Equal(t, done, code, errOut)
	assert.Equal(t, "[]\n", out, "nothing is painted yet, and nothing is wrong")
}

// The change a watch-out offers is made on the card, which is written whole or not at
// all.
func TestCheckApplies(t *testing.T) {
	file := paintedFile(t, func(c *card.Card) { c.Ink = "dye" })
	fixed := filepath.Join(t.TempDir(), "fixed.zip")
	code, out, errOut := call("", "check", file, "--apply", "ink-runs", "--out", fixed)
	require.Equal(t, done, code, errOut)
	assert.NotContains(t, out, "ink-runs")
	data, err := os.ReadFile(fixed)
	require.NoError(t, err)
	c, images, err := cardfile.Read(t.Context(), bytes.NewReader(data), int64(len(data)))
	require.NoError(t, err)
	assert.Equal(t, shelf.Inks()[0].ID, c.Ink)
	assert.Len(t, images, 1)
	_, again, _ := call("", "check", fixed)
	assert.Equal(t, out, again, "what was printed is what the new file says")

	for why, args := range map[string][]string{
		"go together": {"--apply", "ink-runs"}, "those that have: forgotten-cells": {"--apply", "ink-runs", "--out", file + "2"},
		"no watch-out": {"--apply", "rain", "--out", file + "2"}, "no such file": {"--apply", "ink-runs", "--out", "/none/there.zip"},
	} {
		from := file
		if why == "those that have: forgotten-cells" {
			from = fixed
		}
		code, _, errOut := call("", append([]string{"check", from}, args...)...)
		assert.Contains(t, errOut, why)
		assert.Equal(t, map[bool]int{true: badCall, false: failed}[why == "go together"], code, why)
	}
	assert.NoFileExists(t, file+"2")
}
