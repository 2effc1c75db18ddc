package board

import (
	"log/slog"
	"testing"

	"github.com/stretchr/testify/assert"

	"chromaqua/core/length"
	"chromaqua/core/lineart"
	"chromaqua/core/technique"
	"chromaqua/internal/web/page"
)

func TestRulers(t *testing.T) {
	inches := ruler(2*length.Inch, length.Inches)
	assert.Len(t, inches, 17, "eighths, both ends included")
	assert.Equal(t, "2", inches[16].Label)
	assert.InDelta(t, 50.8, inches[16].At, 1e-9)
	millimetres := ruler(20*length.Millimetre, length.Millimetres)
	assert.Len(t, millimetres, 21)
	assert.Equal(t, "10", millimetres[10].Label)
	assert.Greater(t, millimetres[5].Len, millimetres[4].Len)
}

func TestWordsForCells(t *testing.T) {
	c := lineart.Cell{AreaMM2: 645.16, InscribedMM: 12.7}
	assert.Equal(t, "1.0 sq in, 1 in across at most", cellSize(c, length.Inches))
	assert.Equal(t, "645 mm², 25.5 mm across at most", cellSize(c, length.Millimetres))
	speck := lineart.Cell{AreaMM2: 0.2, InscribedMM: 0.2}
	assert.Equal(t, "under 0.01 sq in, under 1/16 in across at most", cellSize(speck, length.Inches))
	assert.Equal(t, "under 1 mm², 0.5 mm across at most", cellSize(speck, length.Millimetres))
}

// Every trace a technique leaves, and every way its colour runs, has its picture.
func TestEveryTechniqueHasItsPicture(t *testing.T) {
	pages := page.New(slog.New(slog.DiscardHandler), nil, Room)
	for _, k := range technique.Kinds() {
		f := k.Facts()
		assert.True(t, f.Trace == technique.NoTrace || pages.Has("trace-"+string(f.Trace)), "%s leaves %s, which no template draws", k, f.Trace)
		assert.True(t, f.Runs == technique.Even || pages.Has("grade-"+string(f.Runs)), "%s runs %s, which no template draws", k, f.Runs)
	}
}
