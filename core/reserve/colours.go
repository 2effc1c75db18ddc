package reserve

import "chromaqua/core/pigment"

// How near opaque white has to come to what is wanted, ΔE00, and how often it is put on at
// most.
const (
	whiteNear = 8
	whiteMost = 5
)

// Colours returns how far a wash below shifts what comes on it, ΔE00, and how many coats of
// opaque white on that wash bring it to what it is without, 0 where none do. seen is what
// comes on it, with the wash below or not and so many coats of white between.
func Colours(seen func(ground bool, whites int) pigment.Lab) (shift float64, white int) {
	wanted := seen(false, 0)
	shift = pigment.Difference(wanted, seen(true, 0))
	for n := 1; n <= whiteMost; n++ {
		if pigment.Difference(wanted, seen(true, n)) <= whiteNear {
			return shift, n
		}
	}
	return shift, 0
}
