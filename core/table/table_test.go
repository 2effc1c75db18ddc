package table_test

import (
	"bytes"
	"errors"
	"fmt"
	"os"
	"strings"
	"testing"
	"testing/iotest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/table"
)

var layout = table.Layout{Columns: []string{"name", "note"}, Needed: []string{"name"}, Of: "things", MaxBytes: 1 << 20, MaxRows: 3}

func read(text string) (out [][2]string, err error) {
	err = layout.Read(strings.NewReader(text), func(r table.Row) error {
		if r.Get("name") == "bad" {
			return r.Fail("name", errors.New("is bad"))
		}
		out = append(out, [2]string{r.Get("name"), r.Get("note")})
		return nil
	})
	return out, err
}

// No cell that leaves begins as a formula, and each comes back as it was.
func TestCellsAreSafeAndComeBack(t *testing.T) {
	for _, cell := range []string{
		"Ash", "=HYPERLINK(\"x\")", "+1", "-2", "@sum", "＝1", "'", "''", "'tis", "'=1", "''=1", "a=b", "1, 2", "two\nlines", "“=”", "-", "quote \" inside",
	} {
		var buf bytes.Buffer
		require.NoError(t, layout.Write(&buf, [][]string{{cell, "note"}}))
		line := strings.TrimPrefix(strings.SplitN(buf.String(), "\n", 2)[1], `"`)
		assert.NotContains(t, "=+-@＝", string([]rune(line)[0]), cell)
		back, err := read(buf.String())
		require.NoError(t, err, cell)
		assert.Equal(t, [][2]string{{cell, "note"}}, back)
	}
}

// Columns may stand in any order, in any case, and but for those needed be missing.
func TestColumnsByName(t *testing.T) {
	got, err := read("\ufeffNote, NAME \n soft ,Ash\n,Moss\n")
	require.NoError(t, err)
	assert.Equal(t, [][2]string{{"Ash", "soft"}, {"Moss", ""}}, got)
	got, err = read("name\nAsh\n")
	require.NoError(t, err)
	assert.Equal(t, [][2]string{{"Ash", ""}}, got)
}

// Errors say where they are and what to do.
func TestWhatIsWrongIsSaid(t *testing.T) {
	for text, why := range map[string]string{
		"":                              "names the columns: name, note",
		"name,colour\n":                 `line 1, column 2: "colour" is no column`,
		"name,name\n":                   `line 1, column 2: "name" stands twice`,
		"note\n":                        `the column "name" is missing`,
		"name\n":                        "holds no things below",
		"name,note\na\n":                "line 2, column 1: it has more or fewer cells",
		"name\na\"b\n":                  "line 2, column 2: a quote stands where none may",
		"na\"me\n":                      "line 1, column 3: a quote",
		"note,name\nx,a\nx,bad\n":       "line 3, column 2 (name): is bad",
		"name\na\nb\nc\nd\n":            "line 5: more than 3 things",
		"name\n\"" + long(1<<20) + "\"": "larger than 1 MB",
	} {
		_, err := read(text)
		assert.ErrorContains(t, err, why, "%.40q", text)
	}
	got, err := read("name\na\nb\nc\n")
	require.NoError(t, err)
	assert.Len(t, got, 3)
	assert.ErrorContains(t, layout.Read(iotest.ErrReader(os.ErrClosed), nil), "cannot be read")
	assert.Error(t, layout.Write(failing{}, [][]string{{long(1 << 16), ""}}))
}

type failing struct{}

func (failing) Write([]byte) (int, error) { return 0, os.ErrClosed }

func long(n int) string { return strings.Repeat("x", n) }

// Whatever is read can be written and read again the same.
func FuzzRead(f *testing.F) {
	f.Add("name,note\n'=1,\"a\nb\"\n")
	f.Add("note\n")
	f.Fuzz(func(t *testing.T, text string) {
		all, err := read(text)
		if err != nil {
			return
		}
		var rows [][]string
		for _, r := range all {
			rows = append(rows, r[:])
		}
		var buf bytes.Buffer
		require.NoError(t, layout.Write(&buf, rows))
		again, err := read(buf.String())
		require.NoError(t, err)
		assert.Equal(t, all, again)
	})
}

func ExampleLayout_Write() {
	l := table.Layout{Columns: []string{"name", "note"}}
	_ = l.Write(os.Stdout, [][]string{{"Ash", "=soft"}})
	fmt.Println("end")
	// Output:
	// name,note
	// Ash,'=soft
	// end
}
