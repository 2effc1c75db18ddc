package door

import (
	"net/netip"
	"sync"
	"time"
)

// How tries are slowed: the first few are free, then each wrong one doubles the wait.
const (
	freeTries   = 4
	firstWait   = 2 * time.Second
	longestWait = 5 * time.Minute
	forgetAfter = 30 * time.Minute
	mostTriers  = 1000
)

// slowly slows those down who guess, each network address by itself. When more guess than
// can be told apart, all are slowed together.
type slowly struct {
	mu sync.Mutex
	by map[netip.Prefix]*guesses
}

type guesses struct {
	wrong int
	last  time.Time
}

func newSlowly() *slowly { return &slowly{by: map[netip.Prefix]*guesses{}} }

// place is where a guess comes from: an IPv4 address, or the network of an IPv6 one, of
// which one machine has as many as it likes.
func place(addr string) netip.Prefix {
	ap, err := netip.ParseAddrPort(addr)
	if err != nil {
		return netip.Prefix{}
	}
	ip, bits := ap.Addr().Unmap(), 32
	if ip.Is6() {
		bits = 64
	}
	p, _ := ip.WithZone("").Prefix(bits) // the bits fit the address
	return p
}

// try counts a guess, which is wrong until [slowly.came] says otherwise; it returns how
// long to wait instead, 0 for not at all.
func (s *slowly) try(addr string, now time.Time) time.Duration {
	s.mu.Lock()
	defer s.mu.Unlock()
	at := place(addr)
	g := s.by[at]
	if g == nil {
		if len(s.by) >= mostTriers {
			s.forget(now)
		}
		if len(s.by) >= mostTriers {
			at = netip.Prefix{}
			g = s.by[at]
		}
	}
	if g == nil || now.Sub(g.last) > forgetAfter {
		g = &guesses{}
		s.by[at] = g
	}
	if g.wrong >= freeTries {
		wait := min(longestWait, firstWait<<min(g.wrong-freeTries, 20))
		if left := wait - now.Sub(g.last); left > 0 {
			return left
		}
	}
	g.wrong++
	g.last = now
	return 0
}

// missed says that the last guess from an address was wrong. The wait begins as that is told:
// looking at a guess takes as long on a slow machine.
func (s *slowly) missed(addr string, now time.Time) {
	s.mu.Lock()
	defer s.mu.Unlock()
	g := s.by[place(addr)]
	if g == nil {
		g = s.by[netip.Prefix{}]
	}
	if g != nil {
		g.last = now
	}
}

// forget drops those that have not guessed for long.
func (s *slowly) forget(now time.Time) {
	for at, g := range s.by {
		if now.Sub(g.last) > forgetAfter {
			delete(s.by, at)
		}
	}
}

// came says that the last guess from an address was right.
func (s *slowly) came(addr string) {
	s.mu.Lock()
	defer s.mu.Unlock()
	delete(s.by, place(addr))
}
