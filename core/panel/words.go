package panel

import (
	"math"

	"chromaqua/core/length"
)

// Place is a clear rectangle on the panel, mm from its top left corner.
type Place struct{ X, Y, W, H float64 }

// wordsMM is the grid that room for words is looked for on.
const wordsMM = 0.5

// maxPlaces is how many places are offered.
const maxPlaces = 3

// RoomFor returns up to three places for words of a size, the roomiest first:
// upright rectangles, apart from each other, without any line, within the
// masked border and a frame's opening if there are any. Words may stand on cells
// left white and on areas that reach the panel's edge, the background, but on no
// focal area. They are found by a maximal-rectangle sweep over the cell map at
// half a millimetre, in time linear in its pixels.
func (b *Board) RoomFor(words length.Size) []Place {
	wide, high := int(math.Ceil(words.W.MM()/wordsMM)), int(math.Ceil(words.H.MM()/wordsMM))
	if wide < 1 || high < 1 {
		return nil
	}
	clear := b.clear()
	var out []Place
	for range maxPlaces {
		x, y, w, h := roomiest(clear, wide, high)
		if w == 0 {
			break
		}
		out = append(out, Place{float64(x) * wordsMM, float64(y) * wordsMM, float64(w) * wordsMM, float64(h) * wordsMM})
		for _, row := range clear[y : y+h] {
			for i := x; i < x+w; i++ {
				row[i] = false
			}
		}
	}
	return out
}

// clear tells where on the panel words may stand.
func (b *Board) clear() [][]bool {
	allowed := make([]bool, len(b.Cells)+1)
	background := make([]bool, len(b.Areas))
	for _, c := range b.Cells {
		if a, owned := b.AreaOf(c.ID); owned && c.Outside {
			background[a] = true
		}
	}
	for _, c := range b.Cells {
		a, owned := b.AreaOf(c.ID)
		allowed[c.ID] = !owned || background[a] && !b.Areas[a].Focal
	}
	px := wordsMM / 25.4 * b.DPI
	w, h := int(float64(b.W)/px), int(float64(b.H)/px)
	layout, _ := b.Card.Layout() // without one, nothing is hidden
	hidden, border := layout.Hidden(), b.Card.Painting.Border
	edge := func(covered length.Length) int { return int(math.Ceil(max(covered, border).MM() / wordsMM)) }
	left, right, top, bottom := edge(hidden.Left), w-edge(hidden.Right), edge(hidden.Top), h-edge(hidden.Bottom)
	out := make([][]bool, h)
	for y := range out {
		out[y] = make([]bool, w)
		if y < top || y >= bottom {
			continue
		}
		for x := left; x < right; x++ {
			out[y][x] = b.allClear(allowed, int(float64(x)*px), int(float64(y)*px), int(math.Ceil(float64(x+1)*px)), int(math.Ceil(float64(y+1)*px)))
		}
	}
	return out
}

// allClear reports whether every pixel of a block may take words.
func (b *Board) allClear(allowed []bool, x0, y0, x1, y1 int) bool {
	for y := y0; y < min(y1, b.H); y++ {
		for _, label := range b.Labels[y*b.W+x0 : y*b.W+min(x1, b.W)] {
			if label == 0 || !allowed[label] {
				return false
			}
		}
	}
	return true
}

// roomiest returns the clear rectangle in which words of wide × high can be
// enlarged most; w is 0 when they fit nowhere. Of those alike the one with more
// area is taken.
func roomiest(clear [][]bool, wide, high int) (x, y, w, h int) {
	if len(clear) == 0 {
		return 0, 0, 0, 0
	}
	best, bestArea := 0.0, 0
	heights := make([]int, len(clear[0])+1) // the last stays 0 and ends every run
	var open []int                          // columns where a rectangle may begin, by growing height
	for row := range clear {
		for i, c := range clear[row] {
			if heights[i]++; !c {
				heights[i] = 0
			}
		}
		open = open[:0]
		for i, now := range heights {
			for len(open) > 0 && heights[open[len(open)-1]] >= now {
				tall := heights[open[len(open)-1]]
				open = open[:len(open)-1]
				left := 0
				if len(open) > 0 {
					left = open[len(open)-1] + 1
				}
				across := i - left
				grows := min(float64(across)/float64(wide), float64(tall)/float64(high))
				if grows >= 1 && (grows > best || grows == best && across*tall > bestArea) {
					best, bestArea = grows, across*tall
					x, y, w, h = left, row-tall+1, across, tall
				}
			}
			open = append(open, i)
		}
	}
	return x, y, w, h
}
