package web_test

import (
	"slices"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/run"
	"chromaqua/internal/web/webtest"
)

// A maker paints a card at the bench without touching the mouse; a second device shows the
// same bench at once, and may press too.
func TestPaintingAtTheBench(t *testing.T) {
	st, b, other := atTheBench(t)
	says := func(b *webtest.Browser) string {
		return webtest.Eval[string](b, `document.querySelector(".livestep h1").innerText`)
	}
	first := says(b)
	assert.Equal(t, first, says(other))
	assert.Empty(t, faults(b))

	var took []time.Duration
	for range 3 { // cut, line, tape
		was := says(other)
		b.Waits(`document.querySelector(".livekey.main")`)
		b.Run(chromedp.Sleep(700 * time.Millisecond)) // a second press at once is no other
		b.Key(" ")
		began := time.Now()
		require.Eventually(t, func() bool { return says(other) != was }, webtest.Eventually, 5*time.Millisecond)
		took = append(took, time.Since(began))
		require.Eventually(t, func() bool { return says(b) == says(other) }, webtest.Eventually, 5*time.Millisecond)
	}
	slices.Sort(took)
	t.Logf("the other device shows it after %v", took)

	b.Key("p")
	other.Sees("Paused")
	other.Key(" ") // go on
	b.Waits(`document.querySelector("[data-act]").dataset.act !== "rest"`)

	act := func() string { return webtest.Eval[string](b, `document.querySelector("[data-act]").dataset.act`) }
	for range 4 { // the ink is dry, and whatever else is asked
		if act() == "do" {
			break
		}
		was := says(b)
		b.Run(chromedp.Sleep(700 * time.Millisecond))
		b.Key("d")
		require.Eventually(t, func() bool { return says(b) != was }, webtest.Eventually, webtest.Tick, was)
	}
	require.Equal(t, "do", act(), says(b))
	b.Run(chromedp.Sleep(700 * time.Millisecond))
	b.Key(" ")
	b.Waits(`document.querySelector(".dries li")`)
	assert.NotZero(t, webtest.Eval[int](b, `document.querySelectorAll(".live-wet path").length`))

	b.Do(`document.querySelector('.livekey[data-key="w"]').focus()`)
	b.Listens()
	n := len(told(t, st))
	b.Run(chromedp.KeyEvent(" ")) // a key that is reached with Tab is pressed by the space bar
	require.Eventually(t, func() bool { all := told(t, st); return len(all) > n && all[len(all)-1].Kind == run.StillWet }, webtest.Eventually, webtest.Tick)
	b.Do(`document.activeElement.blur()`)
	b.Key("r")
	b.Sees("What do you see on")
	assert.Empty(t, faults(b))
	b.Key("f") // a bloom
	b.Waits(`document.querySelector(".remedy .livekey.main")`)
	b.Listens()
	assert.Empty(t, faults(b))
	b.Key(" ")
	b.Waits(`document.querySelector("[data-live]")`)
	events := told(t, st)
	assert.Equal(t, run.Repaired, events[len(events)-1].Kind)
	b.Key("z", chromedp.ModifierCtrl)
	require.Eventually(t, func() bool {
		all := told(t, st)
		return all[len(all)-1].Kind == run.TookBack
	}, webtest.Eventually, webtest.Tick)

	for _, size := range [][2]int64{{1024, 768}, {768, 1024}, {400, 800}} {
		b.Run(chromedp.EmulateViewport(size[0], size[1]))
		b.Listens()
		assert.Empty(t, faults(b), "%d×%d", size[0], size[1])
	}
}

// What another device does comes while a finger is on a key: the press counts all the same.
func TestAPressIsNotLost(t *testing.T) {
	st, b, other := atTheBench(t)
	b.Do(`addEventListener("click", (e) => { if (e.target.closest(".livekey")) window.pressed = true }); document.querySelector("main").dataset.first = ""; document.querySelector(".livekey:not(.main)").focus()`)
	x, y := b.Middle(".livekey.main")
	b.Run(chromedp.MouseEvent(chromedp.MousePressed, x, y, chromedp.Button("left"), chromedp.ClickCount(1)))
	n := len(told(t, st))
	other.Run(chromedp.Sleep(700 * time.Millisecond)) // a press as a page opens was meant for the one before
	other.Key(" ")
	require.Eventually(t, func() bool { return len(told(t, st)) > n }, webtest.Eventually, webtest.Tick)
	b.Run(chromedp.Sleep(time.Second))
	assert.True(t, webtest.Eval[bool](b, `!!document.querySelector("[data-first]")`), "the page stays under the finger")
	b.Run(chromedp.MouseEvent(chromedp.MouseReleased, x, y, chromedp.Button("left"), chromedp.ClickCount(1)))
	b.Waits("window.pressed")
	b.Waits(`!document.querySelector("[data-first]")`)
}

// atTheBench begins to paint a card of the sample studio at the live bench, before the eyes of
// another device.
func atTheBench(t *testing.T) (st *webtest.Studio, b, other *webtest.Browser) {
	st = webtest.Demo(t)
	b, other = webtest.Browse(t, st.URL), webtest.Browse(t, st.URL)
	b.Open("/cards/4/bench")
	b.Press("Paint it now, at the live bench")
	b.Waits(`document.querySelector("[data-live]")`)
	other.Open(webtest.Eval[string](b, "location.pathname"))
	other.Waits(`document.querySelector("[data-live]")`)
	other.Listens()
	return st, b, other
}

// told are the events of the first run.
func told(t *testing.T, st *webtest.Studio) []run.Event {
	all, err := st.Store.Events(t.Context(), 1, 0)
	require.NoError(t, err)
	return all
}

// A wash without a card tells its stages, and is corrected by a tap.
func TestATimerAndPractice(t *testing.T) {
	st := webtest.Demo(t)
	b := webtest.Browse(t, st.URL)
	b.Open("/bench")
	b.Press("It is laid: start")
	b.Sees("The last moment to drop in")
	b.Press("It is laid: start")
	b.Waits(`document.querySelectorAll(".timer").length === 2`)
	assert.Empty(t, faults(b), "two timers")
	b.Press("Put it away")
	b.Waits(`document.querySelectorAll(".timer").length === 1`)
	b.Sees("The last moment to drop in")
	b.Press("It is dull")
	b.Sees("touch-dry in")
	assert.Empty(t, faults(b))
	b.Open("/bench/practice")
	b.Listens()
	assert.Empty(t, faults(b))
	b.Key(" ")
	b.Sees("of 100")
	b.Press("Space Another wash")
	b.Sees("shown")
}
