package line_test

import (
	"bytes"
	"fmt"
	"html"
	"image"
	"image/jpeg"
	"net/http"
	"net/url"
	"path"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/length"
	"chromaqua/internal/web/webtest"
)

// phonePhoto is a phone's photo of what is stamped on the panel of the first card.
func phonePhoto(t testing.TB, st *webtest.Studio) []byte {
	at := laidAt.FindStringSubmatch(st.Post("/cards/1/photo/practice", "back", "line").Body)
	require.NotEmpty(t, at)
	return []byte(st.Get("/images/" + path.Base(at[1])).Body)
}

var (
	laidAt  = regexp.MustCompile(`action="(/cards/1/photo/[0-9a-f]{64})/lay"`)
	corners = regexp.MustCompile(`name="corners" value="([^"]+)"`)
)

// A photo of the stamped panel is found, squared, evened and laid as large as the panel; with
// what was told of its cells kept, for it shows the same.
func TestAPhotoIsLaidOnThePanel(t *testing.T) {
	st := webtest.WithGrid(t)
	st.At(t, []string{"edit", "area-new", "cells", "2,3", "name", "Sky"})
	cells := len(st.Card(1).Card.Areas[0].Cells)
	a := st.Send("/cards/1/photo", "phone.jpg", phonePhoto(t, st), "back", "line")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	assert.Contains(t, a.Body, "Its corners were found")
	at := laidAt.FindStringSubmatch(a.Body)
	said := corners.FindStringSubmatch(a.Body)
	require.NotEmpty(t, at)
	require.NotEmpty(t, said)
	flat := st.Get(at[1] + "/flat.jpg?corners=" + strings.ReplaceAll(said[1], " ", "+"))
	m, err := jpeg.Decode(strings.NewReader(flat.Body))
	require.NoError(t, err)
	size := st.Card(1).Card.PanelSize()
	assert.InDelta(t, size.W.MM()/size.H.MM(), float64(m.Bounds().Dx())/float64(m.Bounds().Dy()), 0.01)

	a = st.Post(at[1]+"/lay", "back", "line", "corners", said[1])
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	c := st.Card(1).Card
	require.Len(t, c.Images, 1, "it shows the same image, and takes its place")
	assert.Len(t, c.Areas[0].Cells, cells)
	st.Read(1)
	assert.Contains(t, st.Get("/cards/1/line").Body, "7 cells")

	// On an empty panel it lies from edge to edge.
	st.Post("/cards", "name", "Bare", "unit", "mm", "format", "a2", "fold", "side")
	photo2 := strings.Replace(at[1], "/cards/1/", "/cards/2/", 1)
	a = st.Post(photo2+"/lay", "back", "line", "corners", said[1])
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	laid := st.Card(2).Card.Line()
	assert.InDelta(t, st.Card(2).Card.PanelSize().W.MM(), laid.Width.MM(), 0.01)
	assert.InDelta(t, 0, laid.X.MM()+laid.Y.MM(), 0.5)
	assert.Less(t, laid.Width, 300*length.Millimetre)
}

// A photo that was sent where a scan belongs is squared with one press, and gives way to what
// comes of it; an image beside it stays.
func TestAPhotoSentAsAScan(t *testing.T) {
	st := webtest.WithGrid(t)
	photo := phonePhoto(t, st)
	for _, others := range []int{1, 0} {
		a := st.Send("/cards/1/upload", "phone.jpg", photo, "back", "line", "width", "90 mm")
		require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
		st.Read(1)
		a = st.Get("/cards/1/line")
		require.Contains(t, webtest.BoardSays(a.Body), "looks like a photograph")
		square := regexp.MustCompile(`action="(/cards/1/photo/[0-9a-f]{64})\?([^"]+)"`).FindStringSubmatch(a.Body)
		require.NotEmpty(t, square)
		says, err := url.ParseQuery(html.UnescapeString(square[2]))
		require.NoError(t, err)
		a = st.Post(square[1], "back", "line", "picked", says.Get("picked"), "instead", says.Get("instead"))
		require.Contains(t, a.Body, "Its corners were found")
		assert.Contains(t, a.Body, "in place of the photo")
		at, said := laidAt.FindStringSubmatch(a.Body), corners.FindStringSubmatch(a.Body)
		require.NotEmpty(t, at)
		a = st.Post(at[1]+"/lay", "back", "line", "corners", said[1], "picked", says.Get("picked"), "instead", "yes")
		require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
		st.Read(1)
		assert.Empty(t, webtest.BoardSays(st.Get("/cards/1/line").Body))
		c := st.Card(1).Card
		require.Len(t, c.Images, 1+others)
		for _, m := range c.Images {
			st.Post("/cards/1/edit", "back", "line", "edit", "image-off", "picked", m.ID)
		}
	}
}

// What is no photo, or none that is read, says what to do; corners may be told, and told wrong.
func TestPhotosThatAreNone(t *testing.T) {
	st := webtest.WithGrid(t)
	for why, tc := range map[string]struct {
		name string
		data []byte
	}{
		"HEIC": {"x.heic", []byte("\x00\x00\x00\x18ftypheic\x00\x00\x00\x00")}, "not a PNG": {"x.txt", []byte("a panel")},
		"empty": {"x.jpg", nil}, "damaged": {"x.jpg", phonePhoto(t, st)[:9000]},
	} {
		a := st.Send("/cards/1/photo", tc.name, tc.data, "back", "line")
		assert.Equal(t, http.StatusUnprocessableEntity, a.Status, why)
		assert.Contains(t, webtest.Message(a.Body), why)
	}
	var buf bytes.Buffer
	grey := image.NewGray(image.Rect(0, 0, 900, 700))
	for i := range grey.Pix {
		grey.Pix[i] = 130
	}
	require.NoError(t, jpeg.Encode(&buf, grey, nil))
	a := st.Send("/cards/1/photo", "table.jpg", buf.Bytes(), "back", "line")
	assert.Contains(t, html.UnescapeString(a.Body), "No panel was found in the photo")
	at := laidAt.FindStringSubmatch(a.Body)
	require.NotEmpty(t, at)
	seq := st.Card(1).Seq
	for _, bad := range []string{"1 2, 3 4", "0 0, 900 0, 900 700", "0 0, 1 1, 2 2, 3 3", "NaN 0, 900 0, 900 700, 0 700", "0 0, 1e300 0, 1e300 1e300, 0 1e300"} {
		a := st.Post(at[1]+"/lay", "back", "line", "corners", bad)
		assert.Equal(t, http.StatusUnprocessableEntity, a.Status, bad)
		assert.Contains(t, webtest.Message(a.Body), "corners")
		assert.Equal(t, http.StatusUnprocessableEntity, st.Get(fmt.Sprintf("%s?corners=%s", at[1], strings.ReplaceAll(bad, " ", "+"))).Status, bad)
	}
	assert.Equal(t, seq, st.Card(1).Seq, "nothing was stored")
	assert.Equal(t, http.StatusNotFound, st.Get("/cards/1/photo/"+strings.Repeat("0", 64)).Status)
	st.Post("/cards", "name", "Bare", "unit", "mm", "format", "a2", "fold", "side")
	assert.Contains(t, webtest.Message(st.Post("/cards/2/photo/practice", "back", "line").Body), "nothing is stamped")
	a = st.Post("/cards/1/photo/practice", "back", "line")
	assert.Contains(t, a.Body, "Simulated: the practice camera")
}
