package lineart

import (
	"cmp"
	"slices"
)

// A ring is all pixels at one distance from a site: the squared distance and
// the steps that lead there, |dx| and |dy| given once.
type ring struct {
	dist2 int32
	steps []step
}

type step struct{ dx, dy int }

// ringsWithin lists the rings whose squared distance is at most limit, nearest
// first. The site itself is none.
func ringsWithin(limit int32) []ring {
	var all []ring
	of := map[int32]int{}
	for dy := 0; int32(dy*dy) <= limit; dy++ {
		for dx := 0; int32(dx*dx+dy*dy) <= limit; dx++ {
			d := int32(dx*dx + dy*dy)
			if d == 0 {
				continue
			}
			k, ok := of[d]
			if !ok {
				k = len(all)
				of[d] = k
				all = append(all, ring{dist2: d})
			}
			all[k].steps = append(all[k].steps, step{dx, dy})
		}
	}
	slices.SortFunc(all, func(a, b ring) int { return cmp.Compare(a.dist2, b.dist2) })
	return all
}

// A ringScan goes down the rows of a bitmap of sites and tells which pixels lie
// on which ring around their nearest site. It is the exact distance transform up
// to a reach, 64 pixels at a time: each step of a ring is a shift of the sites,
// and what a ring reaches first is on it.
type ringScan struct {
	sites bitmap
	reach int        // rows and pixels the largest ring spans
	steps [][][2]int // of each ring: from a word in window to those above and below
	hits  []ringHit  // of the row
	near  []uint64   // of the row: the pixels within the last ring

	window []uint64 // for each of some rows the sites shifted both ways by 0 to reach pixels, and all of these together
	first  int      // the row that window begins with
	filled int      // rows in it
}

// A ringHit marks pixels of a word of a row that lie on a ring.
type ringHit struct {
	ring, word int32
	pixels     uint64
}

// windowRows is how many rows beyond those in reach a window holds, so that it
// is seldom moved.
const windowRows = 32

// scan stands above row y.
func (b bitmap) scan(rings []ring, y int) *ringScan {
	s := &ringScan{sites: b, near: make([]uint64, b.stride)}
	for _, r := range rings {
		for _, st := range r.steps {
			s.reach = max(s.reach, st.dy)
		}
	}
	for _, r := range rings {
		var steps [][2]int
		for _, st := range r.steps {
			down := st.dy * s.rowWords()
			steps = append(steps, [2]int{st.dx*b.stride - down, st.dx*b.stride + down})
		}
		s.steps = append(s.steps, steps)
	}
	s.window = make([]uint64, (windowRows+2*s.reach)*s.rowWords())
	s.first = y - s.reach
	return s
}

// rowWords is how many words of the window belong to a row.
func (s *ringScan) rowWords() int { return (s.reach + 2) * s.sites.stride }

// row finds the pixels of row y; rows come one after the other.
func (s *ringScan) row(y int) {
	s.fill(y + s.reach)
	s.hits = s.hits[:0]
	full, words := ^uint64(0), s.rowWords()
	base, all := (y-s.first)*words, (s.reach+1)*s.sites.stride
	for i := range s.near {
		if i == len(s.near)-1 {
			full = s.sites.inLast()
		}
		near, any := s.window[base+i], uint64(0)
		for at := base - s.reach*words + all + i; at <= base+s.reach*words+all+i; at += words {
			any |= s.window[at]
		}
		for k := 0; k < len(s.steps) && any&^near != 0; k++ {
			fresh := uint64(0)
			for _, st := range s.steps[k] {
				fresh |= s.window[base+i+st[0]] | s.window[base+i+st[1]]
			}
			if fresh = fresh &^ near & full; fresh != 0 {
				near |= fresh
				s.hits = append(s.hits, ringHit{int32(k), int32(i), fresh})
			}
		}
		s.near[i] = near
	}
}

// fill takes in the rows up to y; those off the raster are empty.
func (s *ringScan) fill(y int) {
	if y-s.first >= len(s.window)/s.rowWords() {
		// Keep the rows still in reach.
		gone := y - 2*s.reach - s.first
		copy(s.window, s.window[gone*s.rowWords():])
		s.first += gone
		s.filled -= gone
	}
	for ; s.first+s.filled <= y; s.filled++ {
		s.shift(s.first+s.filled, s.window[s.filled*s.rowWords():(s.filled+1)*s.rowWords()])
	}
}

// shift writes row y of the sites, shifted both ways by 0 to reach pixels, and
// all of these together.
func (s *ringScan) shift(y int, to []uint64) {
	if y < 0 || y >= s.sites.h {
		clear(to)
		return
	}
	row, n := s.sites.row(y), s.sites.stride
	left := uint64(0)
	for i, word := range row {
		right := uint64(0)
		if i+1 < n {
			right = row[i+1]
		}
		all := word
		to[i] = word
		if word == left && word == right && word+1 <= 1 { // nothing, or nothing else
			for at := i + n; at < len(to); at += n {
				to[at] = word
			}
			continue
		}
		for dx, at := 1, i+n; dx <= s.reach; dx, at = dx+1, at+n {
			shifted := word<<(dx&63) | left>>((64-dx)&63) | word>>(dx&63) | right<<((64-dx)&63)
			to[at] = shifted
			all |= shifted
		}
		to[len(to)-n+i] = all
		left = word
	}
}
