package plancheck_test

import (
	"encoding/json"
	"maps"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/plan/plancheck"
)

// sound is a small plan without fault: two cells that touch, the second painted once
// the first is dry, with a drop-in, heated, untaped when all is bone dry.
const sound = `{"total_s":4010,"hands_on_s":430,"bound_s":100,
"cells":[{"id":"c1","mm2":100},{"id":"c2","mm2":100}],
"areas":[{"id":"a1","cells":["c1"],"washes":[{"wash":0,"technique":"flat","coats":1},{"wash":1,"technique":"wet-on-wet","coats":1}]},{"id":"a2","cells":["c2"],"washes":[{"wash":0,"technique":"flat","coats":1}]}],
"touch":[{"a":"c1","b":"c2","raised":false}],
"steps":[
{"id":"p/0","copy":0,"kind":"line","why_now":"first","wash":-1,"start_s":0,"end_s":90,"touch_dry_s":60,"bone_dry_s":60,"cells":[]},
{"id":"p/1","copy":0,"kind":"tape","why_now":"then","wash":-1,"start_s":90,"end_s":180,"cells":[]},
{"id":"p/2","copy":0,"kind":"wash","why_now":"now","area":"a1","wash":0,"cells":["c1"],"start_s":180,"end_s":210,"water_gm2":38,"gloss_s":0,"sheen_s":170,"touch_dry_s":560,"bone_dry_s":800},
{"id":"p/3","copy":0,"kind":"wash","why_now":"now","area":"a1","wash":1,"cells":["c1"],"start_s":225,"end_s":255,"water_gm2":38,"gloss_s":0,"sheen_s":170,"touch_dry_s":560,"bone_dry_s":800,"into_wet":["p/2"]},
{"id":"p/4","copy":0,"kind":"wash","why_now":"now","area":"a2","wash":0,"cells":["c2"],"start_s":900,"end_s":930,"water_gm2":38,"gloss_s":0,"sheen_s":170,"touch_dry_s":560,"bone_dry_s":800},
{"id":"p/5","copy":0,"kind":"untape","why_now":"now","wash":-1,"start_s":1705,"end_s":1765,"cells":[]},
{"id":"p/6","copy":0,"kind":"flatten","why_now":"now","wash":-1,"start_s":1800,"end_s":3900,"cells":[],"unattended":true},
{"id":"p/7","copy":0,"kind":"mount","why_now":"now","wash":-1,"start_s":3920,"end_s":4000,"cells":[],"pieces":[""]},
{"id":"p/8","copy":0,"kind":"set","why_now":"now","wash":-1,"start_s":4000,"end_s":4010,"cells":[]}],
"heat":[{"copy":0,"start_s":940,"end_s":950,"for":"touch-dry","dries":[{"step":"p/4","factor":4}]}]}`

// faults of the sound plan with one thing changed.
func faults(t *testing.T, still bool, change func(map[string]any)) []string {
	var doc map[string]any
	require.NoError(t, json.Unmarshal([]byte(sound), &doc))
	change(doc)
	data, err := json.Marshal(doc)
	require.NoError(t, err)
	out, err := plancheck.Faults(data, still)
	require.NoError(t, err)
	return out
}

// The checker finds nothing in a sound plan, and what is wrong in each spoiled one.
func TestEveryRuleCanFail(t *testing.T) {
	assert.Empty(t, faults(t, true, func(map[string]any) {}))
	step := func(doc map[string]any, n int) map[string]any { return doc["steps"].([]any)[n].(map[string]any) }
	heat := func(doc map[string]any) map[string]any { return doc["heat"].([]any)[0].(map[string]any) }
	set := func(n int, values map[string]any) func(map[string]any) {
		return func(doc map[string]any) { maps.Copy(step(doc, n), values) }
	}
	for _, tc := range []struct {
		rule   string
		change func(map[string]any)
	}{
		{"after-mounting", set(8, map[string]any{"start_s": 3950.0})},
		{"as-it-dulls", set(3, map[string]any{"kind": "spritz", "water_gm2": 0.0, "into_wet": []any{}, "start_s": 500.0, "end_s": 508.0})},
		{"ids", set(3, map[string]any{"id": "p/2"})},
		{"why", set(3, map[string]any{"why_now": ""})},
		{"stages", set(2, map[string]any{"sheen_s": 600.0})},
		{"dry-by-largest", func(doc map[string]any) { doc["cells"].([]any)[1].(map[string]any)["mm2"] = 9000.0 }},
		{"totals", func(doc map[string]any) { doc["hands_on_s"] = 400.0 }},
		{"totals", func(doc map[string]any) { doc["bound_s"] = 5000.0 }},
		{"heat", func(doc map[string]any) { heat(doc)["for"] = "" }},
		{"one-painter", set(3, map[string]any{"start_s": 200.0, "end_s": 230.0})},
		{"no-wet-touch", set(4, map[string]any{"start_s": 600.0, "end_s": 630.0})},
		{"no-wet-touch", func(doc map[string]any) {
			set(4, map[string]any{"start_s": 600.0, "end_s": 630.0, "joined": []string{"p/3"}})(doc)
		}},
		{"no-wet-touch", set(4, map[string]any{"cells": []string{"c1", "c2"}})},
		{"no-water-into-damp", set(3, map[string]any{"start_s": 500.0, "end_s": 530.0})},
		{"no-water-into-damp", set(3, map[string]any{"into_wet": []string{}})},
		{"no-water-into-damp", set(3, map[string]any{"start_s": 840.0, "end_s": 870.0})},
		{"too-wet", func(doc map[string]any) {
			set(2, map[string]any{"gloss_s": 100.0})(doc)
			set(3, map[string]any{"kind": "lift", "water_gm2": 0.0, "into_wet": []string{}})(doc)
		}},
		{"bone-dry", set(5, map[string]any{"start_s": 1500.0, "end_s": 1560.0})},
		{"bone-dry", func(doc map[string]any) { heat(doc)["dries"] = []any{map[string]any{"step": "p/3", "factor": 4.0}} }},
		{"every-wash-once", set(3, map[string]any{"wash": 0.0})},
		{"every-wash-once", func(doc map[string]any) {
			doc["areas"].([]any)[1].(map[string]any)["washes"] = []any{map[string]any{"wash": 0.0}, map[string]any{"wash": 1.0}}
		}},
		{"line-before-tape", func(doc map[string]any) {
			set(0, map[string]any{"start_s": 90.0, "end_s": 180.0})(doc)
			set(1, map[string]any{"start_s": 0.0, "end_s": 90.0})(doc)
		}},
	} {
		found := faults(t, true, tc.change)
		assert.True(t, slices.ContainsFunc(found, func(f string) bool { return strings.HasPrefix(f, tc.rule+":") }), "%s: %v", tc.rule, found)
	}
	joined := func(doc map[string]any) {
		set(4, map[string]any{"start_s": 300.0, "end_s": 330.0, "joined": []string{"p/3"}})(doc)
	}
	assert.NotContains(t, strings.Join(faults(t, false, joined), " "), "no-wet-touch", "joined, while the other is open")
	raised := func(doc map[string]any) {
		joined(doc)
		step(doc, 4)["joined"] = []string{}
		doc["touch"].([]any)[0].(map[string]any)["raised"] = true
	}
	assert.NotContains(t, strings.Join(faults(t, false, raised), " "), "no-wet-touch", "a raised line is a wall")
	_, err := plancheck.Faults([]byte("{"), false)
	assert.Error(t, err)
}
