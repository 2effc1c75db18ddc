package card_test

import (
	"encoding/json"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/mount"
)

// leaf is a place in a document of JSON that can be given another value, or taken out.
type leaf struct {
	set func(any)
	cut func()
}

// leaves lists the places of a document, parents before what is in them.
func leaves(doc any) (out []leaf) {
	switch v := doc.(type) {
	case map[string]any:
		names := make([]string, 0, len(v))
		for name := range v {
			names = append(names, name)
		}
		slices.Sort(names)
		for _, name := range names {
			out = append(out, leaf{func(to any) { v[name] = to }, func() { delete(v, name) }})
			out = append(out, leaves(v[name])...)
		}
	case []any:
		for i := range v {
			out = append(out, leaf{func(to any) { v[i] = to }, func() { v[i] = nil }})
			out = append(out, leaves(v[i])...)
		}
	}
	return out
}

// FuzzFields gives two fields of a full card other values, so that what is tried is JSON,
// and mostly a card: it is refused, or all that is asked of a card can be asked of it.
func FuzzFields(f *testing.F) {
	doc, err := full(f).Encode()
	require.NoError(f, err)
	for i := range 200 {
		f.Add(uint16(i), uint16(7*i), `-1`, `"0 in"`)
	}
	for _, v := range []string{`1e300`, `"NaN"`, `null`, `[]`, `{}`, `"9999 mm"`, `"-1/64 in"`, `true`, `9223372036854775807`, `""`, `"a1"`, `[{}]`} {
		f.Add(uint16(3), uint16(40), v, v)
	}
	f.Fuzz(func(t *testing.T, first, second uint16, a, b string) {
		var generic any
		require.NoError(t, json.Unmarshal(doc, &generic))
		for i, text := range map[uint16]string{first: a, second: b} {
			all := leaves(generic)
			at := all[int(i)%len(all)]
			var v any
			if json.Unmarshal([]byte(text), &v) != nil {
				at.cut()
				continue
			}
			at.set(v)
		}
		changed, err := json.Marshal(generic)
		require.NoError(t, err)
		c, err := card.Decode(changed)
		if err != nil {
			assert.NotEmpty(t, err.Error())
			return
		}
		again, err := c.Encode()
		require.NoError(t, err)
		back, err := card.Decode(again)
		require.NoError(t, err, "what was accepted is accepted again")
		assert.Equal(t, c, back)
		c.PanelSize()
		mount.Body(c)
		c.Scans()
		c.CutList()
	})
}
