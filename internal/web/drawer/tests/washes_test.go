package tests_test

import (
	"bytes"
	"context"
	"image/png"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/drying"
	"chromaqua/core/wash"
	"chromaqua/internal/standin"
	"chromaqua/internal/web/webtest"
)

// Washes are measured from a scan of their card, which all pictures then follow; a practice
// card keeps nothing; what is no such card is refused.
func TestWashesAreMeasured(t *testing.T) {
	st := webtest.WithGrid(t)
	page := st.Get("/washes").Body
	assert.Contains(t, page, "general estimates until your own card has been read")
	assert.True(t, strings.HasPrefix(st.Get("/washes.pdf?unit=mm").Body, "%PDF"))

	a := st.Post("/washes/practice", "paper", "cotton-cp")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	assert.Contains(t, a.Body, "simulated: the practice scanner; nothing was kept")
	assert.NotContains(t, a.Body, "Back to the usual")

	card, err := standin.Washes(context.Background(), wash.PaperOf(drying.Cotton, wash.ColdPressed), wash.Hand{Spread: 1.4, Rim: 0.7, Grain: 1.4}, drying.StillRoom.Rate(40*42), 9, 6)
	require.NoError(t, err)
	var scan bytes.Buffer
	require.NoError(t, png.Encode(&scan, standin.Usual(9).Scan(card, 6)))
	a = st.Send("/washes", "card.png", scan.Bytes(), "paper", "cotton-cp")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	assert.Contains(t, a.Body, "All pictures of paint follow it from now on")
	now, err := st.Store.Settings(context.Background())
	require.NoError(t, err)
	assert.InEpsilon(t, 1.4, now.Settings.Washes.Grain, 0.4)
	assert.Contains(t, st.Get("/cards/1/colour").Body, "as your card on cotton cold press")

	a = st.Post("/washes/forget")
	require.Equal(t, http.StatusOK, a.Status)
	assert.NotContains(t, a.Body, "Back to the usual")

	for words, try := range map[string]func() webtest.Answer{
		"mark":             func() webtest.Answer { return st.Send("/washes", "card.png", webtest.GridPNG(t), "paper", "cotton-cp") },
		"the file is empt": func() webtest.Answer { return st.Send("/washes", "card.png", nil, "paper", "cotton-cp") },
		"paper":            func() webtest.Answer { return st.Post("/washes/practice", "paper", "glass") },
	} {
		a := try()
		assert.Equal(t, http.StatusUnprocessableEntity, a.Status, words)
		assert.Contains(t, strings.ToLower(webtest.Message(a.Body)), words)
	}
}
