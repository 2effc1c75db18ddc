package reserve

import "chromaqua/core/pigment"

// A Coat lays something over what is there.
type Coat func(pigment.Spectrum) pigment.Spectrum

// White that is put on after: how strong, how near it has to come, and how often at most.
const (
	whiteCI   = "PW6"
	whiteLoad = 1.5
	whiteNear = 8 // ΔE00
	whiteMost = 5
)

// Colours returns how far a wash below shifts what its own coats make of the paper, ΔE00,
// and how many coats of opaque white over the wash bring it there, 0 where none do.
func Colours(paper, ground pigment.Spectrum, own ...Coat) (shift float64, white int) {
	wanted, below := paper, ground
	for _, c := range own {
		wanted, below = c(wanted), c(below)
	}
	lab := func(s pigment.Spectrum) pigment.Lab { return s.Lab() }
	shift = pigment.Difference(lab(wanted), lab(below))
	w, err := pigment.ByCI(whiteCI)
	if err != nil {
		panic("reserve: " + err.Error()) // the library holds it
	}
	at := ground
	for n := 1; n <= whiteMost; n++ {
		at = pigment.Stack(at, pigment.Coat{Paint: w.Paint(), Load: whiteLoad})
		seen := at
		for _, c := range own {
			seen = c(seen)
		}
		if pigment.Difference(lab(wanted), lab(seen)) <= whiteNear {
			return shift, n
		}
	}
	return shift, 0
}
