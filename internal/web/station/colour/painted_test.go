package colour_test

import (
	"bytes"
	"fmt"
	"image/gif"
	"image/jpeg"
	"image/png"
	"net/http"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/internal/web/webtest"
)

// painting is a card of the grid whose first area is painted as given.
func painting(t *testing.T, changes ...[]string) *webtest.Studio {
	st := webtest.WithGrid(t)
	st.At(t, append([][]string{{"edit", "area-new", "cells", "2", "name", "Sky"}, webtest.Dip("a1")}, changes...)...)
	return st
}

// asked sends a request and returns the whole answer.
func asked(st *webtest.Studio, path string, header ...string) *http.Response {
	r, err := http.NewRequest(http.MethodGet, st.URL+path, nil)
	if err != nil {
		panic(err)
	}
	for i := 0; i+1 < len(header); i += 2 {
		r.Header.Set(header[i], header[i+1])
	}
	w, err := http.DefaultClient.Do(r)
	if err != nil {
		panic(err)
	}
	return w
}

// A painted piece is a picture that never changes at its address, at any minute, and another
// one after an edit.
func TestPaintedPictures(t *testing.T) {
	st := painting(t)
	page := st.Get("/cards/1/colour").Body
	at := regexp.MustCompile(`data-painted="([^"]*painted\.jpg\?v=[0-9a-f]+)"`).FindStringSubmatch(page)
	require.Len(t, at, 2)
	a := asked(st, at[1])
	require.Equal(t, http.StatusOK, a.StatusCode)
	assert.Contains(t, a.Header.Get("Cache-Control"), "immutable")
	img, err := jpeg.Decode(a.Body)
	require.NoError(t, err)
	assert.Positive(t, img.Bounds().Dx())
	assert.Equal(t, http.StatusNotModified, asked(st, "/cards/1/painted.jpg", "If-None-Match", a.Header.Get("ETag")).StatusCode)
	assert.Contains(t, asked(st, "/cards/1/painted.jpg").Header.Get("Cache-Control"), "no-cache")

	dry, first := st.Get(at[1]).Body, st.Get(at[1]+"&at=0").Body
	assert.NotEqual(t, dry, first, "at first nothing is painted")
	assert.NotEqual(t, dry, st.Get(at[1]+"&look=wet").Body)
	assert.Equal(t, first, st.Get(at[1]+"&step=0").Body)
	assert.NotEqual(t, first, st.Get(at[1]+"&step=1").Body)
	for _, bad := range []string{"dpi=9000", "dpi=x", "at=-3", "at=noon", "step=-1", "tilt=7"} {
		assert.Equal(t, http.StatusBadRequest, st.Get("/cards/1/painted.jpg?"+bad).Status, bad)
	}
	framed := st.Get("/cards/1/painted.svg").Body
	assert.True(t, strings.HasPrefix(framed, "<svg"))
	assert.Contains(t, framed, "data:image/jpeg;base64,")

	st.At(t, []string{"edit", "dip", "area", "a1", "wash", "0", "ci", "PV19", "parts", "1"})
	other := regexp.MustCompile(`data-painted="([^"]*painted\.jpg\?v=[0-9a-f]+)"`).FindStringSubmatch(st.Get("/cards/1/colour").Body)
	require.Len(t, other, 2)
	assert.NotEqual(t, at[1], other[1])
	assert.NotEqual(t, dry, st.Get(other[1]).Body)
}

// What is not painted has no picture, and says so.
func TestNothingIsPainted(t *testing.T) {
	st := webtest.WithGrid(t)
	assert.NotContains(t, st.Get("/cards/1/colour").Body, "data-painted")
	a := st.Get("/cards/1/painted.jpg")
	assert.Equal(t, http.StatusNotFound, a.Status)
	assert.Contains(t, a.Body, "othing is painted on it yet")
}

// The painting is kept as a PNG at 300 dpi and as an animation of its making.
func TestPicturesToKeep(t *testing.T) {
	st := painting(t)
	a := asked(st, "/cards/1/painted.png")
	assert.Contains(t, a.Header.Get("Content-Disposition"), ".png")
	img, err := png.Decode(a.Body)
	require.NoError(t, err)
	size := st.Card(1).Card.PanelSize()
	assert.InDelta(t, size.W.MM()/25.4*300, img.Bounds().Dx(), 2)
	all, err := gif.DecodeAll(bytes.NewReader([]byte(st.Get("/cards/1/making.gif").Body)))
	require.NoError(t, err)
	assert.Greater(t, len(all.Image), 3)
	assert.NotEqual(t, all.Image[0].Pix, all.Image[len(all.Image)-1].Pix)
}

// What happens in the washes is told, with a change after which it does not.
func TestHappenings(t *testing.T) {
	st := painting(t)
	assert.Contains(t, st.Get("/cards/1/happens").Body, "run and dry as they should")
	st.At(t, []string{"edit", "materials", "paper", "pulp-cp"})
	body := st.Get("/cards/1/happens?back=order").Body
	require.Contains(t, body, "Sky turns out blotchy")
	assert.Regexp(t, `data-cells="2" data-at="[1-9][0-9.]* [1-9][0-9.]*"`, body, "with its place")
	fix := regexp.MustCompile(`(?s)name="edit" value="([^"]+)">(.*?)<button`).FindStringSubmatch(body)
	require.Len(t, fix, 3, "a change settles it")
	send := []string{"edit", fix[1]}
	for _, f := range regexp.MustCompile(`name="([^"]+)" value="([^"]*)"`).FindAllStringSubmatch(fix[2], -1) {
		send = append(send, f[1], f[2])
	}
	st.At(t, send)
	assert.NotContains(t, st.Get("/cards/1/happens").Body, "blotchy")
}

// A cell is touched at a minute: what comes of it is said, with pictures.
func TestTouching(t *testing.T) {
	st := painting(t, []string{"edit", "drying", "drying", "air", "celsius", "21", "humidity", "50"})
	wet := st.Get("/cards/1/touch?cell=2&at=360").Body
	for _, with := range []string{"A drop of clean water", "A clean, damp brush", "A drop of its own paint", "A finger"} {
		assert.Contains(t, wet, with)
	}
	picture := regexp.MustCompile(`src="([^"]*touched\.png[^"]*)"`).FindStringSubmatch(wet)
	require.Len(t, picture, 2)
	_, err := png.Decode(strings.NewReader(st.Get(strings.ReplaceAll(picture[1], "&amp;", "&")).Body))
	require.NoError(t, err)
	dry := st.Get("/cards/1/touch?cell=2&at=dry").Body
	assert.Contains(t, dry, "Nothing is seen of it")
	assert.Contains(t, dry, "bone dry")
	assert.Equal(t, http.StatusBadRequest, st.Get("/cards/1/touch?cell=99&at=dry").Status)
}

// Shadows are taken, dropped, moved and lit; the picture follows.
func TestShadows(t *testing.T) {
	st := painting(t, []string{"edit", "technique", "area", "a1", "wash", "0", "technique", "pull-out"})
	page := st.Get("/cards/1/colour").Body
	assert.Contains(t, page, "light from the upper left")
	assert.Contains(t, page, `data-dark-of="2"`)
	before := st.Get("/cards/1/painted.jpg").Body
	cell := st.Card(1).Card
	st.At(t, []string{"edit", "dark-to", "cell", "2", "x", fmt.Sprint(cell.PanelSize().W.MM() / 2), "y", fmt.Sprint(cell.PanelSize().H.MM()/2 - 1)})
	require.Len(t, st.Card(1).Card.Shadows.Darks, 1)
	assert.Equal(t, card.Moved, st.Card(1).Card.Shadows.Darks[0].Kind)
	moved := st.Get("/cards/1/painted.jpg").Body
	assert.NotEqual(t, before, moved)
	st.At(t, []string{"edit", "darks", "area", "a1", "kind", "none"}, []string{"edit", "sun", "sun", "right"}, []string{"edit", "shadows", "quiet", "true"})
	s := st.Card(1).Card.Shadows
	assert.Equal(t, card.NoDark, s.Darks[0].Kind)
	assert.Equal(t, card.Sun("right"), s.Sun)
	assert.True(t, s.Quiet)
	for _, bad := range [][]string{{"edit", "sun", "sun", "underneath"}, {"edit", "front", "cells", "2", "other", "2", "kind", "front"}, {"edit", "front", "cells", "2", "other", "99", "kind", "one"}, {"edit", "front", "cells", "2", "other", "1", "kind", "over"}, {"edit", "dark-to", "cell", "2", "x", "900", "y", "900"}, {"edit", "dark-to", "cell", "77", "x", "1", "y", "1"}, {"edit", "darks", "cells", "", "kind", "none"}} {
		a := st.Post("/cards/1/edit", append([]string{"base", fmt.Sprint(st.Card(1).Seq), "back", "colour"}, bad...)...)
		assert.Equal(t, http.StatusUnprocessableEntity, a.Status, bad)
	}
}

// What lies in front is said of two areas, and of two cells, turned round, and taken back.
func TestWhatLiesInFront(t *testing.T) {
	st := webtest.Demo(t)
	st.Read(4)
	c := st.Card(4).Card
	open := "/cards/4/colour?area=" + c.Areas[0].ID
	row := regexp.MustCompile(`(?s)name="edit" value="front"><input type="hidden" name="cells" value="([^"]+)"><input type="hidden" name="other" value="([^"]+)".*?beside ([^<]+)</span>.*?as the line tells: ([a-z ]+)<`).FindStringSubmatch(st.Get(open).Body)
	require.NotEmpty(t, row)
	say := func(kind string) {
		t.Helper()
		a := st.Post("/cards/4/edit", "base", fmt.Sprint(st.Card(4).Seq), "back", "colour", "edit", "front", "cells", row[1], "other", row[2], "kind", kind)
		require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	}
	for _, kind := range []string{"front", "behind", "one"} {
		say(kind)
		assert.NotEmpty(t, st.Card(4).Card.Shadows.Fronts)
		assert.Contains(t, st.Get(open).Body, `<option value="`+kind+`" selected>`)
		n := len(st.Card(4).Card.Shadows.Fronts)
		say(kind)
		assert.Len(t, st.Card(4).Card.Shadows.Fronts, n, "said twice, kept once")
	}
	say("drawn")
	assert.Empty(t, st.Card(4).Card.Shadows.Fronts)
	assert.Contains(t, st.Get(open).Body, "as the line tells: "+row[4])
}
