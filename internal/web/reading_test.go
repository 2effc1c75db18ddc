package web_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/internal/web/webtest"
)

func TestReadingCanBeStoppedAndTakenUpAgain(t *testing.T) {
	st := webtest.WithGrid(t)
	st.Post("/cards/1/reading/again", "back", "line")
	st.Post("/cards/1/reading/stop", "back", "line")
	// It may have been done before it was told to stop.
	if body := st.Get("/cards/1/line").Body; strings.Contains(body, "Stopped.") {
		st.Post("/cards/1/reading/again", "back", "line")
	}
	require.Eventually(t, func() bool { return strings.Contains(st.Get("/cards/1/line").Body, "7 cells") }, webtest.Eventually, webtest.Tick)
	assert.Equal(t, http.StatusNotFound, st.Post("/cards/1/reading/dance").Status)
}

// A picture that has been read brings a new page; what was typed, chosen or refused
// meanwhile is on it again.
func TestReadingLeavesWhatWasBegun(t *testing.T) {
	const form = `document.querySelector("form[enctype]:not([data-whole])")`
	for _, second := range []string{"read", "refused"} {
		st := webtest.WithGrid(t)
		b := webtest.Browse(t, st.URL)
		b.Open("/cards/1/line")
		b.Listens()
		b.Do(`window.free = {}; window.held = {}; for (const what of ["read", "refused"]) held[what] = new Promise((free) => window.free[what] = free)
			const far = fetch, waiting = '<p data-reading="/cards/1/reading"><span data-stage></span><progress></progress></p></main>'
			window.fetch = async (to, how) => {
				const answer = await far(to, how), html = answer.text.bind(answer);
				if (answer.redirected) answer.text = async () => (await html()).replace("</main>", waiting);
				if (to === location.href) await held.read;
				if (how && !answer.ok) await held.refused;
				return answer;
			}`)
		b.Press("Mirror")
		b.Waits(`document.querySelector("[data-reading]")`)
		b.TypeIn("form[enctype]:not([data-whole]) [name=width]", "wide")
		b.ChooseFile("form[enctype]:not([data-whole]) input[type=file]", "again.png", webtest.GridPNG(t))
		b.Press("Add it")
		if second == "read" {
			b.Do(`free.refused()`)
			b.Waits(form + `.querySelector(".message")`)
		}
		b.Do(`free.read()`)
		b.Do(`free.refused()`)
		b.Waits(`!document.querySelector("[data-reading]") && ` + form + `.querySelector(".message")?.innerText.includes("wide")`)
		assert.Equal(t, "again.png wide", webtest.Eval[string](b, form+`.elements.file.files[0]?.name + " " + `+form+`.elements.width.value`), second)
		assert.Len(t, st.Card(1).Card.Images, 1)
	}
}
