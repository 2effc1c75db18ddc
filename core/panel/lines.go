package panel

import (
	"image"

	"chromaqua/core/card"
	"chromaqua/core/grey"
	"chromaqua/core/lineart"
)

// images is a set of a card's images, by index. A card has at most [card.MaxImages].
type images uint32

func (s images) has(i int) bool { return s>>i&1 == 1 }

// A crossing is how often two cells meet across the ink of some images.
type crossing struct {
	of    images // none where only the pen, or nothing, lies between
	count int
}

// lines says whose ink lies between cells. It is nil where there is one image at most:
// all of it is that one's.
type lines struct {
	between map[[2]int][]crossing // by a pair of cells, the lower first
	beside  []images              // whose ink borders or lies within a cell; beside[i] for cell i+1
}

// inked remembers which images darken each pixel of the sheet.
func (k *composer) ink(i int, on *image.Gray, at image.Rectangle) {
	if k.inked == nil {
		return
	}
	for y := at.Min.Y; y < at.Max.Y; y++ {
		row := on.Pix[on.PixOffset(at.Min.X, y):][:at.Dx()]
		to := k.inked[y*k.Found.Rect.Dx()+at.Min.X:]
		for x, v := range row {
			if v < grey.Ink {
				to[x] |= 1 << i
			}
		}
	}
}

// uninked forgets what a mask covers.
func (k *composer) uninked(mask *image.Alpha) {
	if k.inked == nil {
		return
	}
	for y := mask.Rect.Min.Y; y < mask.Rect.Max.Y; y++ {
		to := k.inked[y*k.Found.Rect.Dx()+mask.Rect.Min.X:]
		for x, a := range mask.Pix[mask.PixOffset(mask.Rect.Min.X, y):][:mask.Rect.Dx()] {
			if a > 127 {
				to[x] = 0
			}
		}
	}
}

// linesOf finds whose ink lies between which cells: along rows and columns, over what is
// no cell. It takes time linear in the pixels.
func linesOf(d *lineart.Drawing, inked []images) *lines {
	if inked == nil {
		return nil
	}
	l := &lines{between: map[[2]int][]crossing{}, beside: make([]images, len(d.Cells))}
	across := int(acrossMM/25.4*d.DPI) + 1
	walk := func(from, step, n int) {
		last, run, over := 0, 0, images(0) // the cell before, what is no cell since, and whose ink
		for i := range n {
			at := from + i*step
			cell := int(d.Labels[at])
			if cell == 0 {
				run++
				over |= inked[at]
				continue
			}
			if run > 0 && over != 0 {
				l.beside[cell-1] |= over
				if last > 0 {
					l.beside[last-1] |= over
				}
			}
			if run > 0 && last > 0 && last != cell && run <= across {
				l.meet(min(last, cell), max(last, cell), over)
			}
			last, run, over = cell, 0, 0
		}
	}
	for y := range d.H {
		walk(y*d.W, 1, d.W)
	}
	for x := range d.W {
		walk(x, d.W, d.H)
	}
	return l
}

// acrossMM is the thickest line two cells can touch across.
const acrossMM = 1.5

func (l *lines) meet(a, b int, over images) {
	k := [2]int{a, b}
	all := l.between[k]
	for i := range all {
		if all[i].of == over {
			all[i].count++
			return
		}
	}
	l.between[k] = append(all, crossing{over, 1})
}

// parts is what of the border of two cells counts: crossings in a twentieth of it or more.
const parts = 20

// between lists whose ink parts two cells along what counts of their border.
func (s *Sheet) between(a, b int) (out []images) {
	if s.lines == nil {
		return []images{1}
	}
	all := s.lines.between[[2]int{min(a, b), max(a, b)}]
	sum := 0
	for _, c := range all {
		sum += c.count
	}
	for _, c := range all {
		if c.count*parts >= sum {
			out = append(out, c.of)
		}
	}
	return out
}

// Beside reports whether ink of an image borders a cell or lies within it.
func (s *Sheet) Beside(image, cell int) bool {
	return s.lines == nil || s.lines.beside[cell-1].has(image)
}

// opens reports whether two cells are one to what lies below some images: there is a way
// between them that only those lines part.
func (b *Board) opens(a, c int, late images) bool {
	if late == 0 {
		return false
	}
	for _, over := range b.between(a, c) {
		if over != 0 && over&^late == 0 {
			return true
		}
	}
	return false
}

// raises reports whether all that parts two cells are raised lines.
func (b *Board) raises(a, c int, raised images) bool {
	if raised == 0 {
		return false
	}
	all := b.between(a, c)
	for _, over := range all {
		if over != 0 && over&raised == 0 { // where none is seen the line is as its whole is
			return false
		}
	}
	return len(all) > 0 || raised == b.inkedImages()
}

func (b *Board) inkedImages() (out images) {
	for i := range b.Card.Images {
		if b.Card.Images[i].Inked() {
			out |= 1 << i
		}
	}
	return out
}

// lateOver are the images that lie over a wash of an area, by its place in the stack.
func (b *Board) lateOver(area, wash int) (out images) {
	at := b.place[card.WashRef(b.Card.Areas[area].ID, wash)]
	for i := range b.Card.Images {
		if b.place[card.Ref(b.Card.Images[i].ID)] > at {
			out |= 1 << i
		}
	}
	return out
}

// Open lists those of contacts within an area that nothing parts yet when a wash of it is
// laid: only lines that come over the wash lie between.
func (b *Board) Open(inside []Contact, area, wash int) (out []Contact) {
	if len(b.Card.Over) == 0 {
		return nil
	}
	late := b.lateOver(area, wash)
	for _, t := range inside {
		if max(t.A, t.B) <= len(b.Cells) && b.opens(t.A, t.B, late) {
			out = append(out, t)
		}
	}
	return out
}
