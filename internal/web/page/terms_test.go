package page

import (
	"encoding/xml"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Every term is explained in one sentence and a picture, and never by itself.
func TestTerms(t *testing.T) {
	for name, x := range terms {
		assert.True(t, strings.HasSuffix(x.Means, "."), name)
		assert.LessOrEqual(t, len(strings.Fields(x.Means)), 24, name)
		assert.NotContains(t, x.Means[:len(x.Means)-1], ". ", "%s: one sentence", name)
		html, err := term(name, x.Word+"s")
		require.NoError(t, err)
		assert.Contains(t, string(html), x.Word+"s</button>")
		var out struct{}
		assert.NoError(t, xml.Unmarshal([]byte(html), &out), name)
	}
	var templates strings.Builder
	require.NoError(t, filepath.WalkDir("..", func(path string, _ fs.DirEntry, err error) error {
		if err != nil || filepath.Ext(path) != ".html" {
			return err
		}
		text, err := os.ReadFile(path)
		templates.Write(text)
		return err
	}))
	for name := range terms {
		assert.Contains(t, templates.String(), `{{term "`+name+`"`, "somewhere it is asked for")
	}
	_, err := term("layer", "layer")
	assert.ErrorContains(t, err, "is no term")
}
