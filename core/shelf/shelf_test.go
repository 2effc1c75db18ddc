package shelf_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"chromaqua/core/drying"
	"chromaqua/core/length"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
)

// unique says whether an id has not been seen.
func unique(t *testing.T, seen map[string]bool, id string) {
	assert.NotEmpty(t, id)
	assert.False(t, seen[id], "%s stands twice", id)
	seen[id] = true
}

// A row of the shelf has all that the program asks of it.
func TestEveryRowIsWhole(t *testing.T) {
	seen := map[string]bool{}
	for _, p := range shelf.Papers() {
		unique(t, seen, p.ID)
		assert.NotEmpty(t, p.Name, p.ID)
		assert.NotEmpty(t, p.Note, p.ID)
		_, err := pigment.Paper(p.Colour)
		assert.NoError(t, err, p.ID)
		assert.True(t, p.Thickness >= length.Millimetre/10 && p.Thickness <= length.Millimetre, "%s: how thick is a sheet?", p.ID)
		assert.Contains(t, []shelf.Texture{shelf.Smooth, shelf.Textured, shelf.Rough}, p.Texture, p.ID)
		assert.Positive(t, p.Surface.Until(drying.BoneDry, drying.FlatWash, 100, drying.StillRoom), "%s: how does it hold water?", p.ID)
		got, err := shelf.PaperByID(p.ID)
		assert.NoError(t, err)
		assert.Equal(t, p, got)
	}
	seen = map[string]bool{}
	for _, k := range shelf.Inks() {
		unique(t, seen, k.ID)
		assert.NotEmpty(t, k.Name, k.ID)
		assert.NotEmpty(t, k.Note, k.ID)
		assert.Contains(t, []shelf.Method{shelf.Stamped, shelf.Printed, shelf.Drawn}, k.Method, k.ID)
		assert.NotEmpty(t, k.Looks, "%s: which line is it good for?", k.ID)
		for _, l := range k.Looks {
			assert.Contains(t, shelf.Looks(), l, k.ID)
		}
		assert.Contains(t, []shelf.PowderUse{shelf.NoPowder, shelf.WhileWet, shelf.TakesPowder, shelf.IsPowder}, k.Powder, k.ID)
		assert.True(t, k.AirDry >= 0 && k.AirDry <= 24*time.Hour, k.ID)
		assert.True(t, k.HeatDry >= 0 && k.HeatDry <= k.AirDry, "%s: heat is quicker than air", k.ID)
		assert.False(t, k.Good(shelf.Pulled) && k.Holds, "%s: what holds cannot be pulled", k.ID)
	}
	seen = map[string]bool{}
	for _, p := range shelf.Powders() {
		unique(t, seen, p.ID)
		assert.NotEmpty(t, p.Name, p.ID)
		assert.NotEmpty(t, p.Note, p.ID)
		assert.True(t, p.Finest > 0 && p.Raised > 0 && p.Raised < p.Finest, p.ID)
	}
	belly := 0.0
	for _, b := range shelf.Brushes() {
		assert.NotEmpty(t, b.Name)
		assert.Greater(t, b.Belly, belly, "the smallest first")
		assert.True(t, b.Point > 0 && b.Point < b.Belly && b.CapacityML > 0, b.Name)
		belly = b.Belly
	}
	for _, find := range []func(string) error{
		func(id string) error { _, err := shelf.PaperByID(id); return err },
		func(id string) error { _, err := shelf.InkByID(id); return err },
		func(id string) error { _, err := shelf.PowderByID(id); return err },
	} {
		assert.ErrorContains(t, find("nonsense"), "nonsense")
	}
}

// What a texture misses halves with each impression.
func TestTextureMisses(t *testing.T) {
	assert.Zero(t, shelf.Smooth.Misses(1))
	assert.InDelta(t, 0.1, shelf.Textured.Misses(1), 1e-12)
	assert.InDelta(t, 0.05, shelf.Textured.Misses(2), 1e-12)
	assert.InDelta(t, 0.28/4, shelf.Rough.Misses(3), 1e-12)
}
