package wash

import (
	"cmp"
	"maps"
	"math"
	"slices"
)

// EventKind is something that happens in a wash that nobody asked for.
type EventKind string

// The kinds.
const (
	Bloom   EventKind = "bloom"    // water ran back into what was damp, and left a dark rim
	Lap     EventKind = "lap"      // a stroke met its own edge once that had dried
	Bleed   EventKind = "bleed"    // paint ran across a line
	Blotch  EventKind = "blotch"   // the paper took it unevenly
	TooLate EventKind = "too late" // it was to go into the wet, and that was dry
)

// An Event is where and when it happened.
type Event struct {
	Kind   EventKind
	Stroke int // the ID of the stroke that did it
	Cell   uint16
	Into   uint16  // of a bleed: the cell it ran into
	X, Y   float64 // mm
	At     float64 // s
	Much   float64 // share of the load it moved, or the water it met
}

// What is told. Estimates of what an eye notices.
const (
	bloomAt   = 1.30 // of the load that was laid
	bloomCame = 0.12 // of that, what came once it was damp
	bloomMM2  = 3.0  // so large at least
	bleedAt   = 0.03 // of what lies in the smaller cell
	blotchAt  = 0.15 // spread of the load in a cell, as a share of its mean
	lapMM     = 6.0  // of a dry edge
)

// lapAt notices where a stroke meets what it laid itself and is dry already.
func (b *basin) lapAt(s *brushing, i int) {
	if len(s.Mix) == 0 || s.Dropped {
		return
	}
	for _, j := range [4]int{i - 1, i + 1, i - b.nx, i + b.nx} {
		if j < 0 || j >= len(b.label) || b.label[j] != b.label[i] || int(b.owner[j]) != s.index || b.water[j] >= 0.62*b.damp[j] {
			continue
		}
		s.laps++
		if float64(s.laps)*b.h >= lapMM {
			b.tell(Lap, s, i, b.water[j])
		}
		return
	}
}

// tell takes an event down, once for each stroke and cell.
func (b *basin) tell(k EventKind, s *brushing, i int, much float32) {
	x, y := b.middle(i)
	e := Event{Kind: k, Stroke: s.ID, Cell: b.label[i], X: x, Y: y, At: b.t, Much: float64(much)}
	if !slices.ContainsFunc(b.happened, func(o Event) bool { return o.Kind == k && o.Stroke == e.Stroke && o.Cell == e.Cell }) {
		b.happened = append(b.happened, e)
	}
}

// crossed takes down what ran across a line.
func (b *basin) crossed(m, i, j int, load float32) {
	from, to := i, j
	if load < 0 {
		from, to, load = j, i, -load
	}
	if b.label[from] == 0 || b.label[to] == 0 || load == 0 {
		return
	}
	key := crossing{b.label[from], b.label[to], m}
	o := b.ran[key]
	if o == nil {
		o = &ranOver{at: b.t, x: int32(to % b.nx), y: int32(to / b.nx)}
		b.ran[key] = o
	}
	o.load += float64(load)
}

// events are what has happened so far; blooms and blotches are seen once it is dry.
func (b *basin) events() []Event {
	out := slices.Clone(b.happened)
	out = append(out, b.bleeds()...)
	if b.dry {
		out = append(out, b.blooms()...)
		out = append(out, b.blotches()...)
	}
	return out
}

func (b *basin) bleeds() (out []Event) {
	in := map[uint16]float64{}
	for i, l := range b.label {
		for k := 0; l != 0 && k <= b.maxLayer; k++ {
			in[l] += float64(b.load(i, k))
		}
	}
	type pair struct{ from, to uint16 }
	sum := map[pair]*ranOver{}
	for _, k := range slices.SortedFunc(maps.Keys(b.ran), func(x, y crossing) int {
		return cmp.Or(cmp.Compare(x.from, y.from), cmp.Compare(x.to, y.to), cmp.Compare(x.paint, y.paint))
	}) {
		o, back := b.ran[k], 0.0
		if r := b.ran[crossing{k.to, k.from, k.paint}]; r != nil {
			back = r.load
		}
		p := pair{k.from, k.to}
		if sum[p] == nil {
			sum[p] = &ranOver{at: math.Inf(1), x: o.x, y: o.y}
		}
		sum[p].load += max(0, o.load-back)
		if o.at < sum[p].at {
			sum[p].at, sum[p].x, sum[p].y = o.at, o.x, o.y
		}
	}
	for p, o := range sum {
		if much := o.load / max(1e-6, in[p.to]); much > bleedAt {
			x, y := b.middle(int(o.y)*b.nx + int(o.x))
			out = append(out, Event{Kind: Bleed, Stroke: b.strokeAt(p.from, o.at), Cell: p.from, Into: p.to, X: x, Y: y, At: o.at, Much: much})
		}
	}
	return out
}

// strokeAt is the last stroke that went onto a cell before a time.
func (b *basin) strokeAt(label uint16, t float64) (id int) {
	id = -1
	for _, s := range b.strokes {
		if s.Start <= t && slices.Contains(s.Cells, label) {
			id = s.ID
		}
	}
	return id
}

// blooms finds places that hold much more than was laid there, since it came when they
// were damp.
func (b *basin) blooms() (out []Event) {
	over := make([]bool, len(b.label))
	for i, l := range b.label {
		if l == 0 || b.asked[i] < 0.02 {
			continue
		}
		sum := float32(0)
		for k := 0; k <= b.maxLayer; k++ {
			sum += b.load(i, k)
		}
		over[i] = sum > bloomAt*b.asked[i] && b.late[i] > bloomCame*b.asked[i]
	}
	b.patches(over, func(places []int32) {
		if float64(len(places))*b.h*b.h < bloomMM2 {
			return
		}
		i := int(places[len(places)/2])
		x, y := b.middle(i)
		s, n := b.lastInto(b.label[i])
		if n < 2 { // nothing came into it: the paper did that
			return
		}
		out = append(out, Event{Kind: Bloom, Stroke: s.ID, Cell: b.label[i], X: x, Y: y, At: s.Start + s.Dur, Much: float64(b.late[i] / b.asked[i])})
	})
	return out
}

// lastInto is the last stroke that brought water onto a cell, and how many did.
func (b *basin) lastInto(label uint16) (last *brushing, n int) {
	for _, s := range b.strokes {
		if slices.Contains(s.Cells, label) && s.Laid > 0 {
			last = s
			n++
		}
	}
	return last, n
}

// patches calls f with every patch of places that are on.
func (b *basin) patches(on []bool, f func(places []int32)) {
	seen := make([]bool, len(on))
	for i, o := range on {
		if !o || seen[i] {
			continue
		}
		places := []int32{int32(i)}
		seen[i] = true
		for k := 0; k < len(places); k++ {
			x, y := int(places[k])%b.nx, int(places[k])/b.nx
			for yy := max(0, y-1); yy <= min(b.ny-1, y+1); yy++ {
				for xx := max(0, x-1); xx <= min(b.nx-1, x+1); xx++ {
					if j := yy*b.nx + xx; on[j] && !seen[j] {
						seen[j] = true
						places = append(places, int32(j))
					}
				}
			}
		}
		f(places)
	}
}

// blotches finds cells whose one even wash lies unevenly because of the paper.
func (b *basin) blotches() (out []Event) {
	if b.p.Paper.Uneven < 0.2 {
		return nil
	}
	for _, l := range b.labels {
		var washes []*brushing
		for _, s := range b.strokes {
			if slices.Contains(s.Cells, l) {
				washes = append(washes, s)
			}
		}
		if len(washes) != 1 || washes[0].Amount != nil || washes[0].Dropped || len(washes[0].Mix) == 0 || b.p.Plate.MM2(l) < 100 {
			continue
		}
		var n, sum, square, most float64
		at := 0
		for i, k := range b.label {
			if k != l || b.asked[i] == 0 {
				continue
			}
			v := float64(b.load(i, 0) / b.asked[i])
			n, sum, square = n+1, sum+v, square+v*v
			if v > most {
				most, at = v, i
			}
		}
		mean := sum / max(1, n)
		if sd := math.Sqrt(max(0, square/max(1, n)-mean*mean)) / max(1e-9, mean); sd > blotchAt {
			x, y := b.middle(at)
			s := washes[0]
			out = append(out, Event{Kind: Blotch, Stroke: s.ID, Cell: l, X: x, Y: y, At: s.Start + s.Dur, Much: sd})
		}
	}
	return out
}
