package lineart

import "image"

// sharpen moves the edges of cells to where the picture has them before it is smoothed,
// which widens lines a little and rounds corners: one pixel at most, and never so that cells
// join or part. root is the cell of each basin, 0 for none.
func (f *flooding) sharpen(root []int32) {
	type move struct{ pixel, to int32 }
	moves := make([][]move, bands(f.h))
	parallelBands(f.h, func(band, y0, y1 int) {
		var list []move
		for y := y0; y < y1; y++ {
			raw := f.raw[y*f.w : (y+1)*f.w]
			basins := f.basin[f.pixel(0, y):][:f.w]
			for x, b := range basins {
				own, light := root[b], raw[x] >= f.edge
				if (own > 0) == light {
					continue
				}
				at := f.pixel(x, y)
				left, right, up, down := root[f.basin[at-1]], root[f.basin[at+1]], root[f.basin[at-f.stride]], root[f.basin[at+f.stride]]
				if own > 0 {
					if left == 0 || right == 0 || up == 0 || down == 0 {
						list = append(list, move{at, 0})
					}
					continue
				}
				to := max(left, right, up, down)
				alike := true
				for _, r := range [4]int32{left, right, up, down} {
					alike = alike && (r == 0 || r == to)
				}
				if to > 0 && alike {
					list = append(list, move{at, to})
				}
			}
		}
		moves[band] = list
	})
	for _, list := range moves {
		for _, m := range list {
			x, y := f.place(m.pixel)
			was := f.basin[m.pixel]
			if own := root[was]; own > 0 {
				f.basins[own].pixels--
			}
			if m.to > 0 {
				f.basins[m.to].pixels++
			}
			if (was == 0) != (m.to == 0) { // ink is what is in no basin
				f.ink.flip(y, x, x+1)
			}
			f.basin[m.pixel] = m.to
		}
	}
}

// refinements is how often edges are moved by a pixel of a picture that was reduced.
const refinements = 3

// refine moves the edges of cells in a picture that was reduced to where they are in the
// picture itself, by as many of its pixels as there are refinements.
func (w *working) refine(labels []uint16, img *image.Gray) {
	width, height, k := img.Rect.Dx(), img.Rect.Dy(), w.reduced
	at := func(x, y int) int { return int(img.Pix[y*img.Stride+x]) }
	// grey is the picture, smoothed a little and even: by the gain that its block was evened by
	grey := func(x, y int) int {
		sum := 4*at(x, y) + 2*(at(x-1, y)+at(x+1, y)+at(x, y-1)+at(x, y+1)) + at(x-1, y-1) + at(x+1, y-1) + at(x-1, y+1) + at(x+1, y+1)
		b := min(w.h-1, y/k)*w.w + min(w.w-1, x/k)
		return sum * int(w.raw[b]) / (16 * max(1, int(w.plain[b])))
	}
	type move struct {
		at int32
		to uint16
	}
	edge := int(w.edge)
	look := func(moves []move, i int) []move {
		own, left, right, up, down := labels[i], labels[i-1], labels[i+1], labels[i-width], labels[i+width]
		if own > 0 {
			if (left == 0 || right == 0 || up == 0 || down == 0) && grey(i%width, i/width) < edge {
				moves = append(moves, move{int32(i), 0})
			}
			return moves
		}
		to := max(left, right, up, down)
		for _, l := range [4]uint16{left, right, up, down} {
			if l != 0 && l != to {
				return moves
			}
		}
		if to > 0 && grey(i%width, i/width) >= edge {
			moves = append(moves, move{int32(i), to})
		}
		return moves
	}
	all, blocks := make([][]move, bands(w.h)), make([][]image.Point, bands(w.h))
	for n := range refinements {
		parallelBands(w.h, func(band, y0, y1 int) { // what is to move is found before anything does
			if n == 0 {
				blocks[band] = w.edgeBlocks(y0, y1)
			}
			moves := all[band][:0]
			for _, b := range blocks[band] {
				for y := max(1, b.Y*k); y < min(height-1, b.Y*k+k); y++ {
					for x := max(1, b.X*k); x < min(width-1, b.X*k+k); x++ {
						moves = look(moves, y*width+x)
					}
				}
			}
			all[band] = moves
		})
		for _, moves := range all {
			for _, m := range moves {
				labels[m.at] = m.to
			}
		}
	}
}

// edgeBlocks lists the places of some rows that have another label than one beside them.
func (w *working) edgeBlocks(y0, y1 int) (out []image.Point) {
	for y := y0; y < y1; y++ {
		row := w.label[y*w.w : (y+1)*w.w]
		up, down := w.label[max(0, y-1)*w.w:][:w.w], w.label[min(w.h-1, y+1)*w.w:][:w.w]
		for x, own := range row {
			if up[x] != own || down[x] != own || x > 0 && row[x-1] != own || x+1 < w.w && row[x+1] != own {
				out = append(out, image.Pt(x, y))
			}
		}
	}
	return out
}
