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
	Here    bool   // it belongs to the station that is open
	Address string // of the piece it speaks of
	Piece   string // its name where that is not at hand, "" else
}

// ofPieces adds the watch-outs of the pieces that are not at hand, as far as their cells
// are known.
func (h *Host) ofPieces(l *desk.Laid, studio *desk.Studio, station string) (out []Watch) {
	out = h.watchesOf(l, station)
	for _, id := range l.Rev.Whole.PieceIDs() {
		if id == l.PieceID() {
			continue
		}
		at := l.Rev.At(id)
		for _, w := range h.watchesOf(h.Lay(at, studio, 0), station) {
			w.Piece, w.Cells = l.Rev.Whole.PieceName(id), nil
			out = append(out, w)
		}
	}
	sortWatches(out)
	return out
}

// watchesOf returns a card's watch-outs: what stops it, then those of the open
// station, then the others, each worst first.
func (h *Host) watchesOf(l *desk.Laid, station string) (out []Watch) {
	for _, w := range advice.Heard(l.Rev.Card, h.Watches(l)) {
		out = append(out, Watch{Watch: w, Here: string(w.Station) == station, Address: l.Rev.Address()})
	}
	sortWatches(out)
	return out
}

// sortWatches puts what stops the card first, then what is of the open station.
func sortWatches(out []Watch) {
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
