package settings_test

import (
	"net/http"
	"regexp"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/internal/web/webtest"
)

// The studio's file is shown with its size; what nothing uses is looked at and cleared; what
// is new and whether all is well have their pages; what the machine does needs who sits at it.
func TestTidyEnds(t *testing.T) {
	st := webtest.WithGrid(t)
	page := st.Get("/settings").Body
	assert.Contains(t, page, "The studio’s file")
	assert.Regexp(t, `[0-9.]+ MB`, page)
	assert.NotContains(t, page, "unused picture")
	assert.NotContains(t, page, "Close Chromaqua", "who runs it has not said that it can be closed")

	require.Contains(t, st.Post("/cards/1/photo/practice", "back", "line").Body, "Simulated")
	assert.Contains(t, st.Get("/settings").Body, "1 unused picture")
	looked := st.Get("/settings/pictures").Body
	hash := regexp.MustCompile(`name="image" value="([0-9a-f]{64})"`).FindStringSubmatch(looked)
	require.NotEmpty(t, hash)
	used := st.Card(1).Card.Line().Image
	a := st.Post("/settings/pictures", "image", hash[1], "image", used)
	assert.Contains(t, a.Body, "1 picture cleared")
	assert.Equal(t, http.StatusNotFound, st.Get("/images/"+hash[1]).Status)
	assert.Equal(t, http.StatusOK, st.Get("/images/"+used).Status)

	assert.Contains(t, st.Get("/settings/doctor").Body, "The clock")
	assert.Regexp(t, `<li>.{40,}</li>`, st.Get("/settings/changes").Body)

	for _, path := range []string{"/settings/end", "/settings/move", "/settings/folder"} {
		assert.Equal(t, http.StatusNotFound, st.Post(path).Status, path)
	}
	closed, shown := false, ""
	st.App.Machine.End = func() { closed = true }
	st.App.Machine.Show = func(path string) error { shown = path; return nil }
	st.App.Machine.MoveTo = func(string) {}
	assert.Contains(t, st.Get("/settings").Body, "Close Chromaqua")
	assert.Equal(t, http.StatusOK, st.Post("/settings/folder").Status)
	assert.NotEmpty(t, shown)
	for _, to := range []string{"", "relative/place"} {
		assert.Equal(t, http.StatusUnprocessableEntity, st.Post("/settings/move", "to", to).Status, to)
	}
	assert.Contains(t, st.Post("/settings/move", "to", t.TempDir()).Body, "being moved")
	elsewhere, err := http.NewRequest(http.MethodPost, st.URL+"/settings/end", nil)
	require.NoError(t, err)
	elsewhere.Header.Set("X-Forwarded-For", "192.0.2.7")
	st.Do(elsewhere)
	assert.False(t, closed, "only who sits at it closes it")
	assert.Contains(t, st.Post("/settings/end").Body, "is closed")
	assert.True(t, closed)
}
