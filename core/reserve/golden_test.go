package reserve

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"chromaqua/internal/golden"
)

// What each way comes to in each of the twelve cases, on other papers, in haste and at rest,
// with tests of the maker's own and without.
func TestWaysAreWeighedAsTheyWere(t *testing.T) {
	var out strings.Builder
	for _, m := range twelve {
		for _, v := range []struct {
			name   string
			maker  func(*maker)
			change func(*Case)
		}{
			{"as it is", func(*maker) {}, func(*Case) {}},
			{"on wood pulp", func(m *maker) { m.pulp = true }, func(*Case) {}},
			{"on rough paper", func(*maker) {}, func(c *Case) { c.Rough = true }},
			{"in a draught", func(*maker) {}, func(c *Case) { c.Open /= 4 }},
			{"with a slow hand", func(*maker) {}, func(c *Case) { c.Pace = 3 }},
			{"tried", func(*maker) {}, func(c *Case) { c.Lifts = 0.3 }},
			{"by heat", func(*maker) {}, func(c *Case) { c.Unheated = 40 * time.Minute }},
			{"hardly wet", func(m *maker) { m.dry = true }, func(*Case) {}},
			{"smaller", func(*maker) {}, func(c *Case) { c.Narrow, c.Widest, c.MM2 = c.Narrow/2, c.Widest/2, c.MM2/4 }},
			{"shining through", func(*maker) {}, func(c *Case) { c.Shift = 6 }},
		} {
			m := m
			v.maker(&m)
			c := m.of(exactly)
			v.change(&c)
			all := Compare(c)
			fmt.Fprintf(&out, "%s, %s: %d as good\n", m.name, v.name, Either(all))
			for _, o := range all {
				fmt.Fprintf(&out, "  %s %.3f: %.1f min, %.1f min, %.4f %s%s\n", o.Way, o.Score, o.HandsOn.Minutes(), o.Waiting.Minutes(), o.Risk, o.Reason, o.Barred)
			}
		}
	}
	golden.Same(t, "ways", out.String())
}
