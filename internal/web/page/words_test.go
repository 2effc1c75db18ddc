package page

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
)

func TestTimesAreSaidAsAMakerWould(t *testing.T) {
	for d, want := range map[time.Duration]string{
		0:                              "about 5 s",
		13 * time.Second:               "about 15 s",
		55 * time.Second:               "about 1 min",
		4*time.Minute + 40*time.Second: "about 5 min",
		12 * time.Minute:               "about 10 min",
		13 * time.Minute:               "about 15 min",
		99 * time.Minute:               "about 100 min",
		2 * time.Hour:                  "about 2 h",
		2*time.Hour + 17*time.Minute:   "about 2 h 15 min",
		2*time.Hour + 56*time.Minute:   "about 3 h",
	} {
		assert.Equal(t, want, About(d), d)
	}
	assert.Equal(t, "1:02:03", Clock(time.Hour+2*time.Minute+3*time.Second))
}

// Fractions are marked up, the text stays what it was, and nothing typed gets
// through as markup.
func TestFractions(t *testing.T) {
	for in, want := range map[string]string{
		"4 1/4 in":       "4\u00a0<span class=\"frac after\">1/4</span> in",
		"3/16 in":        `<span class="frac">3/16</span> in`,
		"about 7/8 in":   `about <span class="frac">7/8</span> in`,
		"4 × 5 1/2 in":   "4 × 5\u00a0<span class=\"frac after\">1/2</span> in",
		"108 mm":         `108 mm`,
		"<b>1/2</b> & 3": `&lt;b&gt;<span class="frac">1/2</span>&lt;/b&gt; &amp; 3`,
	} {
		assert.Equal(t, want, string(Proper(in)), in)
	}
	assert.Equal(t, "4\u00a0<tspan class=\"frac\" dx=\"-.12em\">1/4</tspan> in", string(properSVG("4 1/4 in")))
}

// What is shown together adds up.
func TestTimesAddUp(t *testing.T) {
	words, sum := Together(40*time.Minute+100*time.Second, 53*time.Minute, 8*time.Hour)
	assert.Equal(t, []string{"about 40 min", "about 55 min", "about 8 h"}, words)
	assert.Equal(t, "about 9 h 35 min", sum)
	words, sum = Together(7*time.Minute+31*time.Second, 20*time.Second, 0)
	assert.Equal(t, []string{"about 8 min", "next to none", "next to none"}, words)
	assert.Equal(t, "about 8 min", sum)
	_, sum = Together(50*time.Minute, 70*time.Minute)
	assert.Equal(t, "about 2 h", sum)
}
