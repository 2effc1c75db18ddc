package lineart

// What scissors cannot do, mm².
const (
	leastHole  = 20
	leastPiece = 1
)

// Silhouette returns the outline of all that the drawing covers, its line and the
// cells inside it: what a mask of it is cut to. Holes too small to be cut are
// filled, and stray dots left out.
func (d *Drawing) Silhouette() Outline {
	w := d.work
	inside := make([]uint16, len(w.label))
	for i, l := range w.label {
		if l == 0 || !w.cells[l-1].Outside {
			inside[i] = 1
		}
	}
	var out Outline
	for _, ring := range w.outlines(inside, 1)[0].Rings {
		if a := Area(ring); a >= leastPiece || a <= -leastHole {
			out.Rings = append(out.Rings, ring)
		}
	}
	return out
}
