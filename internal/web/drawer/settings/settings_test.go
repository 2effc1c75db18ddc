package settings_test

import (
	"context"
	"fmt"
	"net/http"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/settings"
	"chromaqua/internal/store"
	"chromaqua/internal/web/webtest"
)

// The settings change every plan, can be undone, and keep what was typed when it is
// refused.
func TestSettings(t *testing.T) {
	st, _ := webtest.Painted(t)
	st.Post("/cards/1/edit", "back", "order", "edit", "drying", "drying", "mixed", "celsius", "21", "humidity", "50")
	before := st.Get("/cards/1/order").Body
	a := st.Post("/settings", "pace", "4", "hand", "left", "heat", "1", "rack", "3")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	assert.Equal(t, "/settings", a.Path)
	assert.Contains(t, a.Body, `value="4"`)
	after := st.Get("/cards/1/order").Body
	assert.NotEqual(t, before, after, "what the page shows is in its key")
	assert.Contains(t, after, "up to 100 mm²")
	for why, pairs := range map[string][]string{
		"pace of 0":     {"pace", "0", "hand", "left", "heat", "25", "rack", "3"},
		"is no number":  {"pace", "fast", "hand", "left", "heat", "25", "rack", "3"},
		"is no hand":    {"pace", "2", "hand", "third", "heat", "25", "rack", "3"},
		"whole number":  {"pace", "2", "hand", "left", "heat", "25", "rack", "2.5"},
		"0 to 200 wet":  {"pace", "2", "hand", "left", "heat", "25", "rack", "900"},
		"0 to 1000 cm²": {"pace", "2", "hand", "left", "heat", "-3", "rack", "9"},
	} {
		a := st.Post("/settings", pairs...)
		assert.Equal(t, http.StatusUnprocessableEntity, a.Status)
		assert.Contains(t, webtest.Message(a.Body), why)
		assert.Contains(t, a.Body, `value="`+pairs[1]+`"`, "what was typed is kept")
	}
	a = st.Post("/settings", "base", "1", "pace", "2", "hand", "left", "heat", "25", "rack", "3")
	assert.Equal(t, http.StatusConflict, a.Status, "another tab was quicker")
	rev, err := st.Store.Settings(t.Context())
	require.NoError(t, err)
	assert.Equal(t, settings.Settings{Pace: 4, Hand: settings.Left, HeatCM2: 1, Rack: 3}, rev.Settings)
	st.Post("/settings/undo", "base", fmt.Sprint(rev.Seq))
	assert.Contains(t, st.Get("/cards/1/order").Body, "up to 25 cm²")
	a = st.Post("/settings/redo")
	assert.Contains(t, a.Body, `value="4"`)
}

// Temperatures are told in the maker's degrees, and taken in either.
func TestFahrenheit(t *testing.T) {
	st, _ := webtest.Painted(t)
	at := func() float64 {
		rev, err := st.Store.Card(t.Context(), 1)
		require.NoError(t, err)
		return rev.Card.Room.Celsius
	}
	assert.Contains(t, st.Get("/cards/1/order").Body, `value="21 °C"`)
	st.Post("/settings", "pace", "2", "hand", "left", "heat", "25", "rack", "3", "degrees", "fahrenheit")
	for path, want := range map[string]string{"/cards/1/order": `value="69.8 °F"`, "/cards/1/bench": "69.8 °F, 50 %", "/bench": `placeholder="69.8 °F"`, "/bench/practice": " °F and "} {
		assert.Contains(t, st.Get(path).Body, want, path)
	}
	a := st.Post("/cards/1/edit", "back", "order", "edit", "drying", "drying", "mixed", "celsius", "72", "humidity", "50")
	assert.Contains(t, a.Body, `value="72 °F"`)
	assert.InDelta(t, 22.22, at(), 0.01)
	a = st.Post("/cards/1/edit", "back", "order", "edit", "drying", "drying", "mixed", "celsius", "20", "humidity", "50")
	assert.Contains(t, a.Body, `value="68 °F"`, "no room is of 20 °F")
	a = st.Post("/cards/1/edit", "back", "order", "edit", "drying", "drying", "mixed", "celsius", "150 F", "humidity", "50")
	assert.Equal(t, http.StatusUnprocessableEntity, a.Status)
	assert.Contains(t, webtest.Message(a.Body), "41 to 113 °F")
	assert.InDelta(t, 20, at(), 0.01)
}

// A brush on the shelf is used at once.
func TestOwnBrushesAreUsed(t *testing.T) {
	st, _ := webtest.Painted(t)
	assert.Contains(t, st.Get("/cards/1/order").Body, "flat 3/4 in (19 mm)")
	st.Post("/shelf", "edit", "add", "name", "Squirrel mop", "like", "brush:round", "belly", "9 mm")
	assert.Contains(t, st.Get("/cards/1/order").Body, "Squirrel mop (9 mm)")
}

// The studio can be put back to a daily copy, and from there to what it was.
func TestGoingBackToACopy(t *testing.T) {
	st := webtest.New(t)
	st.Post("/cards", "name", "First", "unit", "in", "format", "a2", "fold", "side")
	assert.Contains(t, st.Get("/settings").Body, "There is none yet")
	require.NoError(t, st.Store.CopyToday(context.Background()))
	copies, err := st.Store.Copies()
	require.NoError(t, err)
	st.Post("/cards", "name", "Second", "unit", "in", "format", "a2", "fold", "side")
	assert.Contains(t, st.Get("/").Body, "Second")
	a := st.Post("/settings/restore", "copy", copies[0].Name)
	assert.Contains(t, a.Body, "The studio was put back.")
	assert.NotContains(t, st.Get("/").Body, "Second")
	assert.Contains(t, st.Get("/").Body, "First")
	copies, err = st.Store.Copies()
	require.NoError(t, err)
	require.Len(t, copies, 2)
	st.Post("/settings/restore", "copy", copies[0].Name)
	assert.Contains(t, st.Get("/").Body, "Second")
	assert.Equal(t, http.StatusNotFound, st.Post("/settings/restore", "copy", "../../etc/passwd").Status)
}

// A backup that is saved elsewhere is a studio, whole.
func TestABackupIsSaved(t *testing.T) {
	st := webtest.WithGrid(t)
	a := st.Get("/settings/backup.db")
	require.Equal(t, http.StatusOK, a.Status)
	name := filepath.Join(t.TempDir(), "backup.db")
	require.NoError(t, os.WriteFile(name, []byte(a.Body), 0o600))
	in, err := store.Summarise(t.Context(), name)
	require.NoError(t, err)
	assert.Equal(t, 1, in.Cards)
	assert.Equal(t, 1, in.Images)
}

// What is refused about who may come in is said, and the limits stand where they are met.
func TestAccessIsSet(t *testing.T) {
	st := webtest.New(t)
	page := st.Get("/settings").Body
	assert.Contains(t, page, "Nobody but this machine")
	assert.Contains(t, page, "48 MB, 40 million pixels")
	a := st.Post("/settings/passphrase", "passphrase", "short")
	assert.Equal(t, http.StatusUnprocessableEntity, a.Status)
	assert.Contains(t, webtest.Message(a.Body), "8 to 200 characters")
	st.App.Door.Addresses = []string{"http://192.168.1.20:8417/"}
	assert.Contains(t, st.Get("/settings").Body, "changes with every start")
	assert.Equal(t, http.StatusOK, st.Post("/settings/passphrase", "passphrase", "eight or more").Status)
	assert.Contains(t, st.Get("/settings").Body, "nobody can read it")
}
