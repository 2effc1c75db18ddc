package station

import (
	"slices"

	"chromaqua/core/advice"
	"chromaqua/core/wording"
	"chromaqua/internal/desk"
)

// Watch is a watch-out as a station shows it.
type Watch struct {
	advice.Watch
	Here bool // it belongs to the station that is open
}

// watchesOf returns a card's watch-outs: what stops it, then those of the open
// station, then the others, each worst first.
func (h *Host) watchesOf(l *desk.Laid, station string) (out []Watch) {
	for _, w := range advice.Heard(l.Rev.Card, h.Watches(l)) {
		out = append(out, Watch{w, string(w.Station) == station})
	}
	rank := func(w Watch) int {
		switch {
		case w.Severity == advice.Stop:
			return 0
		case w.Here:
			return 1
		}
		return 2
	}
	slices.SortStableFunc(out, func(a, b Watch) int { return rank(a) - rank(b) })
	return out
}

// FirstWatch is the watch-out shown in full: the worst of this station, or one that
// stops the card wherever it belongs.
func (p *Page) FirstWatch() *Watch {
	if len(p.Watches) > 0 && (p.Watches[0].Here || p.Watches[0].Severity == advice.Stop) {
		return &p.Watches[0]
	}
	return nil
}

// Rest are the others.
func (p *Page) Rest() []Watch {
	if p.FirstWatch() != nil {
		return p.Watches[1:]
	}
	return p.Watches
}

// RestWords counts the others.
func (p *Page) RestWords() string {
	here := 0
	for _, w := range p.Rest() {
		if w.Here {
			here++
		}
	}
	n := len(p.Rest())
	switch {
	case here == n && p.FirstWatch() != nil:
		return wording.Count(n, "more watch-out")
	case here == 0:
		return wording.Count(n, "watch-out") + " at other stations"
	}
	return wording.Count(n, "more watch-out") + ", some at other stations"
}

// Tab is a station in the navigation with its watch-outs.
type Tab struct {
	About
	Stops, Minds int
}

func (h *Host) tabs(ws []Watch) []Tab {
	out := make([]Tab, len(h.stations))
	for i, st := range h.stations {
		out[i].About = st.About()
		for _, w := range ws {
			switch {
			case string(w.Station) != out[i].ID:
			case w.Severity == advice.Stop:
				out[i].Stops++
			case w.Severity == advice.Mind:
				out[i].Minds++
			}
		}
	}
	return out
}
