package panel

import (
	"math"

	"chromaqua/core/card"
	"chromaqua/core/grey"
	"chromaqua/core/shelf"
)

// How faint things come, as shares of the line's dark. A stamp that has been
// stamped off leaves about half of its ink each time.
const (
	stampedOff  = 0.5
	reliefShade = 0.14 // pressed paper casts a little shadow
	guideShade  = 0.2  // where a stencil is held or a die laid; nothing is printed
)

// GhostShare is the share of its ink a stamp leaves when it has been stamped off
// n times first, an estimate.
func GhostShare(n int) float64 { return math.Pow(stampedOff, float64(n)) }

// tone is how an image comes on the paper where that is not as its scan shows it.
func (k *composer) tone(m *card.Image) func(x, y int, v uint8) uint8 {
	share := GhostShare(m.Ghost)
	switch {
	case m.Is(shelf.ReliefImage):
		share = reliefShade
	case m.Is(shelf.Stencil), m.Is(shelf.ResistImage), m.Is(shelf.DieImage):
		share = guideShade
	}
	fade := func(v uint8) uint8 { return uint8(grey.Paper - share*float64(grey.Paper-min(grey.Paper, v))) }
	missed := k.card.PaperFacts().Texture.Misses(1)
	switch {
	case m.Is(shelf.SolidImage) && missed > 0:
		return func(x, y int, v uint8) uint8 {
			if v < grey.Ink && grain(float64(x)*25.4/k.DPI, float64(y)*25.4/k.DPI) < missed {
				return grey.Paper
			}
			return fade(v)
		}
	case share < 1:
		return func(_, _ int, v uint8) uint8 { return fade(v) }
	}
	return nil
}

// grainMM is the size of the grain of textured paper, mm.
const grainMM = 0.7

// grain is how high the paper's texture stands at a place, mm: 0 to 1, each share
// as often as another.
func grain(x, y float64) float64 {
	x, y = x/grainMM, y/grainMM
	i, j := math.Floor(x), math.Floor(y)
	fx, fy := x-i, y-j
	at := func(i, j float64) float64 {
		n := uint32(int32(i))*0x9E3779B1 ^ uint32(int32(j))*0x85EBCA77
		n ^= n >> 15
		n *= 0x2C1B3C6D
		n ^= n >> 13
		return float64(n) / (1 << 32)
	}
	// A sum of two grains, one half as fine, spread out again towards an even share.
	low := at(i, j)*(1-fx)*(1-fy) + at(i+1, j)*fx*(1-fy) + at(i, j+1)*(1-fx)*fy + at(i+1, j+1)*fx*fy
	return min(1, max(0, 0.5+(low-0.5)*1.6))
}
