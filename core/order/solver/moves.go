package solver

// Chances of the moves, found by trying. Batches differ: what is done to one card in
// a colour goes together.
const (
	fillChance     = 0.15 // bring a later operation to where the painter idles
	criticalChance = 0.75 // of the others: move what makes the order long
	flipChance     = 0.7  // of those: change who waits for whom
	runChance      = 0.15 // move a run of a colour as one
	blockChance    = 0.1  // or a few operations, whatever they are
	farChance      = 0.33 // anywhere in the window, else near
	sameChance     = 0.25 // beside an operation in the same colour

	batchRunChance  = 0.4
	batchSameChance = 0.5
	batchNear       = 40
)

// move changes the order; what stood from lo to hi is in undo.
func (w *walk) move() (lo, hi int, ok bool) {
	if w.stale {
		w.findCritical()
	}
	if !w.plain && len(w.gaps) > 0 && w.rng.Float64() < fillChance {
		if lo, hi, ok = w.fill(); ok {
			return lo, hi, ok
		}
	}
	i := w.rng.IntN(len(w.seq))
	earlier, later := true, true
	if !w.plain && w.rng.Float64() < criticalChance {
		if len(w.waited) > 0 && w.rng.Float64() < flipChance {
			return w.flip(w.waited[w.rng.IntN(len(w.waited))])
		}
		i, later = int(w.pos[w.critical[w.rng.IntN(len(w.critical))]]), false
		if w.rng.IntN(3) == 0 { // clear the way for it
			i -= 1 + w.rng.IntN(6)
			earlier, later = false, true
		}
		if i < 0 {
			return 0, 0, false
		}
	}
	return w.shiftAnywhere(i, w.together(i), earlier, later)
}

// together is the last position of what moves as one with i.
func (w *walk) together(i int) int {
	run := runChance
	if w.in.Copies > 1 {
		run = batchRunChance
	}
	j := i
	switch {
	case w.plain:
	case w.rng.Float64() < run: // the rest of the run of its colour on its card
		x := w.seq[i]
		for j+1 < len(w.seq) && j-i < 40 && w.color[w.seq[j+1]] == w.color[x] && w.cardOf[w.seq[j+1]] == w.cardOf[x] {
			j++
		}
		if w.rng.IntN(2) == 0 && j > i {
			j = i + w.rng.IntN(j-i+1)
		}
	case w.rng.Float64() < blockChance:
		j = min(len(w.seq)-1, i+1+w.rng.IntN(6))
	}
	return j
}

// shiftAnywhere moves positions i…j as one to another place of their window.
func (w *walk) shiftAnywhere(i, j int, earlier, later bool) (int, int, bool) {
	near, same := 4+w.n/20, sameChance
	if w.in.Copies > 1 {
		near, same = batchNear, batchSameChance
	}
	lo, hi := w.window(i, j)
	if !later {
		hi = j
	}
	if !earlier {
		lo = i
	}
	if w.rng.Float64() >= farChance {
		lo, hi = max(lo, i-near), min(hi, j+near)
	}
	width := j - i + 1
	if hi-lo+1 <= width {
		return 0, 0, false
	}
	to := lo + w.rng.IntN(hi-lo+2-width)
	if w.rng.Float64() < same {
		for k := range hi - lo + 1 {
			q := lo + (to-lo+k)%(hi-lo+1)
			if (q >= i && q <= j) || !w.alike(w.seq[q], w.seq[i]) {
				continue
			}
			if to = q + w.rng.IntN(2); q > j {
				to -= width
			}
			to = min(max(to, lo), hi-width+1)
			break
		}
	}
	return w.shift(i, j, to)
}

// alike reports whether it is worth bringing two operations together.
func (w *walk) alike(x, y int32) bool {
	if w.polite && w.in.Copies > 1 {
		return w.opOf[x] == w.opOf[y]
	}
	return w.color[x] == w.color[y]
}

// window returns the first and last place to which the operations at
// positions i…j can be moved as one.
func (w *walk) window(i, j int) (lo, hi int) {
	lo, hi = 0, len(w.seq)-1
	for k := i; k <= j; k++ {
		x := w.seq[k]
		o := w.opOf[x]
		for _, b := range w.before[o] {
			if q := int(w.pos[x-o+b]); q < i {
				lo = max(lo, q+1)
			}
		}
		for _, a := range w.after[o] {
			if q := int(w.pos[x-o+a]); q > j {
				hi = min(hi, q-1)
			}
		}
	}
	return lo, hi
}

// flip changes who waits for whom: x comes before what it waited for, or that
// comes after x, or that comes earlier.
func (w *walk) flip(x int32) (int, int, bool) {
	i, j := int(w.pos[x]), int(w.pos[w.cause[x]])
	if j < 0 {
		return 0, 0, false // it is done
	}
	switch w.rng.IntN(4) {
	case 0, 1:
		lo, _ := w.window(i, i)
		return w.shift(i, i, max(lo, j-w.rng.IntN(3)))
	case 2:
		_, hi := w.window(j, j)
		return w.shift(j, j, min(hi, i+w.rng.IntN(3)))
	}
	lo, _ := w.window(j, j)
	return w.shift(j, j, max(lo, j-1-w.rng.IntN(8)))
}

// fill brings a later operation forward to where the painter idles.
func (w *walk) fill() (int, int, bool) {
	to := int(w.pos[w.gaps[w.rng.IntN(len(w.gaps))]])
	for range 6 {
		if to+1 >= len(w.seq) {
			break
		}
		j := to + 1 + w.rng.IntN(len(w.seq)-to-1)
		if !w.ops[w.opOf[w.seq[j]]].Attended {
			continue
		}
		if lo, _ := w.window(j, j); lo <= to {
			return w.shift(j, j, to)
		}
	}
	return 0, 0, false
}

// shift moves the operations at positions i…j so that the first comes to t.
func (w *walk) shift(i, j, t int) (lo, hi int, ok bool) {
	if t == i {
		return 0, 0, false
	}
	width := j - i + 1
	lo, hi = min(i, t), max(j, t+width-1)
	w.undo = append(w.undo[:0], w.seq[lo:hi+1]...)
	if t < i {
		copy(w.seq[t+width:hi+1], w.undo[:i-t])
		copy(w.seq[t:], w.undo[i-t:])
	} else {
		copy(w.seq[i:], w.undo[width:])
		copy(w.seq[t:], w.undo[:width])
	}
	for k := lo; k <= hi; k++ {
		w.pos[w.seq[k]] = int32(k)
	}
	return lo, hi, true
}
