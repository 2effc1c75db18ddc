package lineart

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
			for at, x := f.pixel(0, y), 0; x < f.w; at, x = at+1, x+1 {
				own := root[f.basin[at]]
				left, right, up, down := f.basin[at-1], f.basin[at+1], f.basin[at-f.stride], f.basin[at+f.stride]
				if own > 0 {
					if raw[x] < f.edge && (root[left] == 0 || root[right] == 0 || root[up] == 0 || root[down] == 0) {
						list = append(list, move{at, 0})
					}
					continue
				}
				if left|right|up|down == 0 || raw[x] < f.edge {
					continue
				}
				to, alike := int32(0), true
				for _, b := range [4]int32{left, right, up, down} {
					if r := root[b]; r > 0 {
						alike = alike && (to == 0 || to == r)
						to = r
					}
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
