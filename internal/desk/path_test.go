package desk_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"chromaqua/core/lineart"
	"chromaqua/internal/desk"
)

func TestPathsAreRelative(t *testing.T) {
	square := func(x, y, s float64) []lineart.Point {
		return []lineart.Point{{X: x, Y: y}, {X: x + s, Y: y}, {X: x + s, Y: y + s}, {X: x, Y: y + s}}
	}
	o := lineart.Outline{Rings: [][]lineart.Point{square(1, 2, 3), square(2, 3, 1)}}
	assert.Equal(t, "M100 200l300 0 0 300 -300 0zm100 100l100 0 0 100 -100 0z", desk.PathOf(o), "a ring begins where the one before it did")
}
