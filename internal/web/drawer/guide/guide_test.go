package guide_test

import (
	"net/http"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/internal/web/drawer/guide"
	"chromaqua/internal/web/webtest"
)

// Every page is there with its pictures, the next is a press away, and ? leads to it.
func TestPagesOfTheGuide(t *testing.T) {
	st := webtest.WithGrid(t)
	contents := st.Get("/guide").Body
	worked := 0
	for _, p := range guide.Pages() {
		assert.Contains(t, contents, `href="/guide/`+p.ID+`"`)
		a := st.Get("/guide/" + p.ID)
		require.Equal(t, http.StatusOK, a.Status, p.ID)
		assert.Contains(t, a.Body, p.Title)
		if p.Worked {
			worked++
		}
		pictures := regexp.MustCompile(`src="(/guide/pictures/[^"]+)"`).FindAllStringSubmatch(a.Body, -1)
		assert.NotEmpty(t, pictures, p.ID)
		for _, m := range pictures {
			got := st.Get(m[1])
			assert.Equal(t, http.StatusOK, got.Status, m[1])
			assert.True(t, strings.HasPrefix(got.Body, "RIFF"), m[1])
		}
	}
	assert.Equal(t, 3, worked)
	for _, station := range []string{"format", "line", "masks", "colour", "order", "bench", "mount", "log"} {
		assert.Contains(t, st.Get("/cards/1/"+station).Body, `href="/guide/`+station+`"`)
	}
	assert.Contains(t, st.Get("/settings").Body, `href="/guide"`)
	assert.Contains(t, webtest.New(t).Get("/").Body, `href="/guide/first-card"`, "an empty studio points to it")
	for _, path := range []string{"/guide/nowhere", "/guide/pictures/none.webp", "/guide/pictures/..%2fguide.go"} {
		assert.Equal(t, http.StatusNotFound, st.Get(path).Status, path)
	}
}

// What the guide says stands on a button or a field does stand in the program.
func TestLabelsOfTheGuide(t *testing.T) {
	var program strings.Builder
	require.NoError(t, filepath.WalkDir("../../..", func(path string, d os.DirEntry, err error) error {
		if err != nil || d.IsDir() || strings.Contains(path, "guide") || strings.HasSuffix(path, "_test.go") || !strings.HasSuffix(path, ".html") && !strings.HasSuffix(path, ".go") {
			return err
		}
		data, err := os.ReadFile(path)
		program.Write(data)
		return err
	}))
	core, err := os.ReadFile("../../../../core/technique/technique.go") // which names techniques
	require.NoError(t, err)
	program.Write(core)
	said := strings.ReplaceAll(program.String(), "’", "'")
	n := 0
	for _, p := range guide.Pages() {
		for _, part := range p.Parts {
			for _, words := range append(part.Says, part.Steps...) {
				for _, m := range guide.Label.FindAllStringSubmatch(words, -1) {
					n++
					assert.True(t, strings.Contains(said, strings.ReplaceAll(m[1], "’", "'")), "%s: %q stands nowhere", p.ID, m[1])
				}
			}
		}
	}
	assert.Greater(t, n, 20)
}
