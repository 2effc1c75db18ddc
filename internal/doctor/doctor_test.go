package doctor_test

import (
	"errors"
	"os"
	"path/filepath"
	"testing"
	"testing/fstest"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/internal/doctor"
	"chromaqua/internal/store"
)

// of is what was found of something.
func of(t *testing.T, all []doctor.Finding, what string) doctor.Finding {
	for _, f := range all {
		if f.Of == what {
			return f
		}
	}
	t.Fatalf("%s was not looked at", what)
	return doctor.Finding{}
}

// Each thing that can be wrong is found, and each that is well is left alone.
func TestExamine(t *testing.T) {
	data := filepath.Join(t.TempDir(), "studio.db")
	font, err := os.ReadFile("../sheet/fonts/alegreya-400.ttf")
	require.NoError(t, err)
	well := doctor.Patient{
		Data: data, Now: time.Now(), Fonts: fstest.MapFS{"fonts/a.ttf": {Data: font}},
		Path: func(string) (string, error) { return "/usr/bin/browser", nil },
	}
	for _, f := range doctor.Examine(t.Context(), well) {
		assert.Equal(t, doctor.Well, f.State, "%+v: nothing is there yet", f)
	}
	s, err := store.Open(t.Context(), data)
	require.NoError(t, err)
	_, err = s.Create(t.Context(), card.New("x", length.Inches), "made")
	require.NoError(t, err)
	none := doctor.Examine(t.Context(), well)
	assert.Equal(t, doctor.Mind, of(t, none, "Daily copies").State)
	require.NoError(t, s.CopyToday(t.Context()))
	for _, f := range doctor.Examine(t.Context(), well) {
		assert.Equal(t, doctor.Well, f.State, "%+v", f)
	}
	for what, change := range map[string]func(p *doctor.Patient){
		"Fonts":     func(p *doctor.Patient) { p.Fonts = fstest.MapFS{"fonts/a.ttf": {Data: font[:200]}} },
		"The clock": func(p *doctor.Patient) { p.Now = time.Date(2001, 1, 1, 0, 0, 0, 0, time.UTC) },
		"A browser": func(p *doctor.Patient) {
			p.Path = func(string) (string, error) { return "", errors.New("not found") }
		},
	} {
		p := well
		change(&p)
		f := of(t, doctor.Examine(t.Context(), p), what)
		assert.NotEqual(t, doctor.Well, f.State, what)
		assert.NotEmpty(t, f.Do, what)
	}
	behind := well
	behind.Now = time.Now().Add(-100 * time.Hour)
	if behind.Now.After(time.Date(2026, 11, 1, 0, 0, 0, 0, time.UTC)) {
		assert.Contains(t, of(t, doctor.Examine(t.Context(), behind), "The clock").Says, "before the latest change")
	}
	require.NoError(t, s.Close())
	whole, err := os.ReadFile(data)
	require.NoError(t, err)
	for i := 5000; i < len(whole)-4096; i += 4096 {
		copy(whole[i:], "scratched by a failing disk, all over")
	}
	require.NoError(t, os.WriteFile(data, whole, 0o600))
	f := of(t, doctor.Examine(t.Context(), well), "The studio's file")
	assert.Equal(t, doctor.Ill, f.State, "%+v", f)
	assert.Contains(t, f.Do, "restore")
}
