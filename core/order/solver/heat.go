package solver

import (
	"cmp"
	"slices"

	"chromaqua/core/order"
)

// mayHeat reports whether the heat tool may be used on a card now.
func (d *decoder) mayHeat(c int32) bool {
	switch {
	case !d.in.Heat.Allowed, d.resting[c] > d.now:
		return false
	case len(d.pending) > 0: // heat would close the wet windows
		return false
	}
	return d.in.Heat.WithMask || d.masks == 0 || d.masked[c] == 0 || d.unmasked[c] == d.unmasks
}

// heat dries what x waits for, if that lets it start before s, and returns the start.
func (d *decoder) heat(x int32, s order.Seconds, begins bool) order.Seconds {
	if d.aimed {
		return d.heatCoats(x, s, begins)
	}
	return d.heatCard(x, s, begins)
}

// heatFrom is when the tool can be taken up for a card.
func (d *decoder) heatFrom(c int32) order.Seconds {
	from := max(d.now, d.rackFree(c))
	if d.card >= 0 && d.card != c {
		from = max(from, d.now+d.in.Swap)
	}
	return from
}

// heatCard points the tool at the whole card for as long as it takes.
func (d *decoder) heatCard(x int32, s order.Seconds, begins bool) order.Seconds {
	c := d.cardOf[x]
	from, rinse := d.heatFrom(c), d.rinseBefore(x, d.brush)
	h := max(d.in.Heat.Min, (s-from-rinse+d.boost)/(d.boost+1))
	if from+h+rinse >= s {
		return s
	}
	now, heated, end, card := d.now, d.heated[c], d.heatEnd[c], d.card
	d.now, d.card = from+h, c
	d.heated[c] += h
	d.heatEnd[c] = from + h
	sooner, ok := d.soonest(x, begins)
	if !ok || sooner >= s {
		d.now, d.heated[c], d.heatEnd[c], d.card = now, heated, end, card
		return s
	}
	d.passes = append(d.passes, order.Pass{Copy: d.copyOf(x), Job: d.ops[d.opOf[x]].Job, Start: from, End: from + h})
	return sooner
}

// A wetCoat is a coat that x waits for.
type wetCoat struct {
	of    int32
	goal  order.Goal
	ready order.Seconds // by air
}

// heatCoats points the tool at what dries last, one coat after the other: at the
// fewest with which x begins soonest.
func (d *decoder) heatCoats(x int32, s order.Seconds, begins bool) order.Seconds {
	c := d.cardOf[x]
	from := d.heatFrom(c)
	wet := d.holding(x, from, begins)
	best, many, t := s, 0, from
	for k, w := range wet {
		secs := d.in.HeatFor(&d.ops[d.opOf[w.of]], w.goal, t, w.ready)
		if secs == 0 || t+secs >= best {
			break
		}
		t += secs
		next := t + d.rinseBefore(x, d.brush)
		if k+1 < len(wet) {
			next = max(next, wet[k+1].ready)
		}
		if next < best {
			best, many = next, k+1
		}
	}
	if many == 0 {
		return s
	}
	before := d.saved(wet[:many], c)
	t = from
	for _, w := range wet[:many] {
		secs := d.in.HeatFor(&d.ops[d.opOf[w.of]], w.goal, t, w.ready)
		d.passes = append(d.passes, order.Pass{Copy: d.copyOf(x), Job: d.ops[d.opOf[x]].Job, Start: t, End: t + secs, Op: d.ops[d.opOf[w.of]].ID, For: w.goal})
		t += secs
		d.coat[w.of].Heat(w.goal, t)
	}
	d.now, d.card, d.heatEnd[c] = t, c, t
	d.settle(wet[:many], c)
	sooner, ok := d.soonest(x, begins)
	if !ok || sooner >= s {
		d.restore(before, wet[:many], c)
		return s
	}
	return sooner
}

// holding lists the coats that x, or with begins its block, waits for beyond t, those
// that dry last first.
func (d *decoder) holding(x int32, t order.Seconds, begins bool) []wetCoat {
	out := d.wetCoats[:0]
	list := append(d.scratch[:0], x)
	if begins {
		list = d.appendBlock(list, x)
	}
	d.scratch = list
	for _, y := range list {
		base := y - d.opOf[y]
		for _, a := range d.asked[d.opOf[y]] {
			z := base + a.by
			if a.goal == byClock || !d.done[z] {
				continue
			}
			w := wetCoat{z, order.TouchDry, d.coat[z].Touch}
			if a.goal == byBone {
				w.goal, w.ready = order.BoneDry, d.coat[z].Bone
			}
			if w.ready > t {
				out = append(out, w)
			}
		}
	}
	slices.SortFunc(out, func(a, b wetCoat) int {
		return cmp.Or(cmp.Compare(b.ready, a.ready), cmp.Compare(a.of, b.of))
	})
	once := out[:0] // of one coat the drier goal comes first, and does for both
	for _, w := range out {
		if !slices.ContainsFunc(once, func(o wetCoat) bool { return o.of == w.of }) {
			once = append(once, w)
		}
	}
	d.wetCoats = out[:0]
	return once
}

// beforeHeat is what a use of the tool changes.
type beforeHeat struct {
	now, heatEnd order.Seconds
	passes       int
	card         int32
	coats        []order.Coat
}

func (d *decoder) saved(wet []wetCoat, c int32) beforeHeat {
	b := beforeHeat{now: d.now, heatEnd: d.heatEnd[c], passes: len(d.passes), card: d.card, coats: d.savedCoats[:0]}
	for _, w := range wet {
		b.coats = append(b.coats, d.coat[w.of])
	}
	d.savedCoats = b.coats
	return b
}

func (d *decoder) restore(b beforeHeat, wet []wetCoat, c int32) {
	d.now, d.heatEnd[c], d.card, d.passes = b.now, b.heatEnd, b.card, d.passes[:b.passes]
	for i, w := range wet {
		d.coat[w.of] = b.coats[i]
	}
	d.settle(wet, c)
}

// settle works out again what waits for coats that have been heated, and when their
// card is dry.
func (d *decoder) settle(wet []wetCoat, c int32) {
	for _, w := range wet {
		base := w.of - d.opOf[w.of]
		for _, e := range d.demands(d.opOf[w.of]) {
			if y := base + e.to; !d.done[y] {
				d.ready(y)
			}
		}
	}
	if d.cards-1 <= d.in.Rack {
		return // there is always room for what is wet
	}
	d.wetUntil[c] = 0
	base := wet[0].of - d.opOf[wet[0].of]
	for o := range int32(d.n) {
		if x := base + o; d.done[x] && d.cardOf[x] == c && d.ops[o].Dry > 0 {
			d.wetUntil[c] = max(d.wetUntil[c], d.coat[x].Touch)
		}
	}
}

// ready works out the readiness of y from all that is done.
func (d *decoder) ready(y int32) {
	base := y - d.opOf[y]
	abs, clock, cause := order.Seconds(0), order.Seconds(0), int32(-1)
	for i := range d.asked[d.opOf[y]] {
		a := &d.asked[d.opOf[y]][i]
		z := base + a.by
		if !d.done[z] {
			continue
		}
		after, dry := d.end[z]+order.Seconds(a.min), d.laid[z]+order.Seconds(a.clock)
		switch a.goal {
		case byTouch:
			dry = d.coat[z].Touch
		case byBone:
			dry = d.coat[z].Bone
		}
		if max(after, dry) > max(abs, clock) {
			cause = z
		}
		abs, clock = max(abs, after), max(clock, dry)
	}
	d.abs[y], d.clock[y], d.cause[y] = abs, clock, cause
}
