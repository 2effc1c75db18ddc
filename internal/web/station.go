package web

import (
	"cmp"
	"context"
	"crypto/sha256"
	"encoding/base64"
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"

	"chromaqua/core/advice"
	"chromaqua/core/card"
	"chromaqua/core/panel"
	"chromaqua/core/paper"
	"chromaqua/core/pigment"
	"chromaqua/core/proof"
	"chromaqua/core/shelf"
	"chromaqua/core/steps"
	"chromaqua/internal/store"
)

func base64Of(b []byte) string { return base64.StdEncoding.EncodeToString(b) }

// stationPage is a card seen from one of its stations.
type stationPage struct {
	page
	*store.Revision
	Station  station
	Tabs     []tab
	Board    boardView
	Watches  []watchView
	Open     string // id of the area that is open
	Picked   string // id of the image that is picked
	Format   *formatView
	Line     *lineView
	Colour   *colourView
	Order    *orderView
	Bench    *benchView
	Offer    *offer // a way out of a size that was refused
	NotReady string // why the station cannot be shown yet
}

// First is the watch-out shown in full: the worst of this station, or one that
// stops the card wherever it belongs.
func (p *stationPage) First() *watchView {
	if len(p.Watches) > 0 && (p.Watches[0].Here || p.Watches[0].Severity == advice.Stop) {
		return &p.Watches[0]
	}
	return nil
}

// Rest are the others.
func (p *stationPage) Rest() []watchView {
	if p.First() != nil {
		return p.Watches[1:]
	}
	return p.Watches
}

// RestWords counts the others.
func (p *stationPage) RestWords() string {
	here := 0
	for _, w := range p.Rest() {
		if w.Here {
			here++
		}
	}
	n := len(p.Rest())
	switch {
	case here == n && p.First() != nil:
		return plural(n, "more watch-out")
	case here == 0:
		return plural(n, "watch-out") + " at other stations"
	}
	return plural(n, "more watch-out") + ", some at other stations"
}

// tab is a station in the navigation with its watch-outs.
type tab struct {
	station
	Stops, Minds int
}

// station shows a card at one of its stations.
func (s *Server) station(w http.ResponseWriter, r *http.Request) error {
	rev, err := s.revision(r)
	if err != nil {
		return err
	}
	return s.showStation(w, r, rev, http.StatusOK, "")
}

// showStation renders the station a request names in its address or, after a
// form, in its field "back".
func (s *Server) showStation(w http.ResponseWriter, r *http.Request, rev *store.Revision, status int, message string) error {
	id := chi.URLParam(r, "station")
	if id == "" {
		id = stationOf(r)
	}
	i := slices.IndexFunc(stations, func(st station) bool { return st.ID == id })
	if i < 0 {
		return store.ErrNotFound
	}
	studio, err := s.studioFor(r.Context(), id)
	if err != nil {
		return err
	}
	seen := pageKey{revisionKey{rev.ID, rev.Seq}, rev.Undo, rev.Redo, id, r.FormValue("area") + " " + r.FormValue("image") + " " + r.FormValue("want") + " " + r.FormValue("most") + " " + r.FormValue("from"), r.Header.Get(boardDrawn), studio.state}
	if html, ok := s.pages.Get(seen); ok && message == "" {
		sendPage(w, status, html)
		return nil
	}
	p := &stationPage{page: page{Title: rev.Card.Name + ", " + stations[i].Name, Message: message}, Revision: rev, Station: stations[i]}
	p.Open = r.FormValue("area")
	if p.Open == "" {
		p.Open = r.FormValue("show")
	}
	p.Picked = cmp.Or(r.FormValue("image"), r.FormValue("picked"))
	l := s.lay(rev, &studio, true, patience)
	p.Board = l.view(id)
	p.Watches = l.watches(id)
	p.Tabs = tabsOf(p.Watches)
	switch id {
	case "format":
		p.Format = l.formatView(studio.drawer)
		p.Offer = offerOf(r, l)
	case "line":
		p.line(l, studio)
	case "colour":
		p.colour(l)
		if p.Colour != nil {
			p.Colour.Measured = unused(rev.Card, studio.own)
		}
		if p.Colour != nil && p.Open != "" {
			if err := p.wanted(r, l, studio.own); err != nil {
				return err
			}
		}
	case "order", "bench":
		if err := s.ordered(r, p, l); err != nil {
			return err
		}
	}
	p.Board.Drawn = p.Board.drawn()
	p.Board.Known = p.Board.Drawn != "" && p.Board.Drawn == r.Header.Get(boardDrawn)
	html := s.render(w, r, status, "station.html", p)
	if html != nil && message == "" && l.board != nil && r.Method == http.MethodGet {
		s.pages.Add(seen, html)
	}
	return nil
}

// keptPages bounds the rendered stations that are kept; each takes some 70 kB.
const keptPages = 64

// pageKey is all that a rendered station depends on.
type pageKey struct {
	revisionKey
	undo, redo, station, open string
	drawn                     string // the picture the asking page has
	studio                    string
}

// studio is what a station shows of the studio besides the card. Its state is a
// text that changes with it; tests are never changed, so that their numbers will
// do.
type studio struct {
	library []store.Image
	own     []shelf.Own
	drawer  *paper.Stock
	tests   []proof.Record
	state   string

	bench    steps.Bench // what cards are painted at
	benchKey [sha256.Size]byte
}

func (s *Server) studioFor(ctx context.Context, station string) (out studio, err error) {
	tests, err := s.store.Tests(ctx, false)
	if err != nil {
		return out, err
	}
	var ids []int64
	for _, t := range tests {
		out.tests, ids = append(out.tests, t.Record), append(ids, t.ID)
	}
	out.state = fmt.Sprint(ids)
	if out.own, err = s.store.Materials(ctx); err != nil {
		return out, err
	}
	out.state += fmt.Sprint(" ", out.own)
	set, err := s.store.Settings(ctx)
	if err != nil {
		return out, err
	}
	out.state += fmt.Sprint(" ", set.Seq)
	if out.bench, out.benchKey, err = benchNow(set, out.own); err != nil {
		return out, err
	}
	switch station {
	case "line":
		out.library, err = s.store.Library(ctx)
		for _, m := range out.library {
			out.state += fmt.Sprint(" ", m.Hash, m.Title, m.Real, m.Kind)
		}
	case "format":
		var rev *store.PaperRevision
		if rev, err = s.store.Paper(ctx); err == nil {
			out.drawer = rev.Stock
			out.state += fmt.Sprint(" ", rev.Seq)
		}
	}
	return out, err
}

func tabsOf(ws []watchView) []tab {
	out := make([]tab, len(stations))
	for i, st := range stations {
		out[i].station = st
		for _, w := range ws {
			switch {
			case string(w.Station) != st.ID:
			case w.Severity == advice.Stop:
				out[i].Stops++
			case w.Severity == advice.Mind:
				out[i].Minds++
			}
		}
	}
	return out
}

// colourView is the Colour station.
type colourView struct {
	Areas      []areaView
	Pans       []panView
	Strengths  []pigment.Strength
	Techniques []card.TechniqueGroup
	Wanted     *wantedView
	Judgement  *panel.Judgement
	Measured   []card.Measured // paints of the maker's it could be painted with
	Free       int             // cells that belong to no area, the outside not counted
}

type areaView struct {
	*panel.Area
	Number  int
	Look    panel.Look
	Washes  []washView
	Open    bool
	Touches []touchView
	Whites  string // how opaque white covers it
	Alike   []*panel.Area

	TouchesItself bool // across a line that is not raised
}

// AlikeIDs are the areas that look like it, as the edit wants them.
func (a areaView) AlikeIDs() string {
	var ids []string
	for _, o := range a.Alike {
		ids = append(ids, o.ID)
	}
	return strings.Join(ids, " ")
}

type washView struct {
	card.Wash
	Index   int
	Name    string
	Parts   []partView
	Shades  []shadeView // the same mix at every strength
	Coat    panel.Tone  // alone on the paper
	Weaker  panel.Tone  // mixed a quarter too weak
	Heavier panel.Tone
	Off     float64      // ΔE00 from weaker to heavier
	Coats   []panel.Tone // one to six of it, over what lies below
	Left    *leftView    // of what lies below, when it is done with clean water

	MayGoWet bool // into the wash below while that is wet, or over it

	from  panel.Palette
	among []card.Wash // all washes of the area
}

// leftView is what clean water leaves of a wash.
type leftView struct{ Before, After panel.Tone }

type partView struct {
	card.Part
	Name string
	Hex  string
}

type shadeView struct {
	Strength pigment.Strength
	Tone     panel.Tone
	Now      bool
}

// Becomes is how the area looks when a paint has so many parts more in the wash, so
// that the board can show it at once; "" when that cannot be.
func (w washView) Becomes(ci string, parts int) string {
	return w.becomes(func(c *card.Wash) error { return c.Dip(ci, parts) })
}

// BecomesAs is how the area looks with the wash in another strength.
func (w washView) BecomesAs(s pigment.Strength) string {
	return w.becomes(func(c *card.Wash) error { c.Strength = s; return nil })
}

func (w washView) becomes(change func(*card.Wash) error) string {
	washes := slices.Clone(w.among)
	c := &washes[w.Index]
	c.Mix = slices.Clone(c.Mix)
	if err := change(c); err != nil {
		return ""
	}
	return sixColours(w.from.Look(washes))
}

// panView is a paint of the palette at the strength of milk.
type panView struct {
	*pigment.Pigment
	Tone panel.Tone
}

// pans are the paints of the palette on a paper.
func pans(from panel.Palette) (out []panView) {
	lib := pigment.Library()
	for i := range lib {
		out = append(out, panView{&lib[i], toneOf(from, []card.Part{{CI: lib[i].CI, Parts: 1}}, pigment.Milk)})
	}
	return out
}

type touchView struct {
	Area    *panel.Area
	Joined  bool
	Meeting string
	Value   string
	Apart   string // why they cannot run together though they are to, "" when they can
}

func (p *stationPage) colour(l *laid) {
	b := l.board
	if b == nil {
		p.NotReady = l.withoutBoard()
		return
	}
	v := &colourView{Strengths: pigment.Strengths(), Techniques: card.TechniqueGroups()}
	palette := panel.PaletteOf(b.Card)
	v.Pans = pans(palette)
	for i, owner := range b.Owner {
		if owner < 0 && !b.Cells[i].Outside {
			v.Free++
		}
	}
	v.Judgement = b.Judge(l.facts.Looks)
	for i := range b.Areas {
		a := areaView{Area: &b.Areas[i], Number: i + 1, Look: l.facts.Looks[i], Open: b.Areas[i].ID == p.Open}
		for k, w := range a.Area.Washes {
			if !a.Open {
				a.Washes = append(a.Washes, washView{Wash: w})
				continue
			}
			a.Washes = append(a.Washes, washOf(palette, k, w))
			a.Washes[k].from, a.Washes[k].among = palette, a.Area.Washes
			a.Washes[k].MayGoWet = k > 0 && w.Technique.IntoWet() && w.Technique.Tool() == card.PaintedBrush
			switch {
			case w.Technique.Covers():
				a.Washes[k].Coats = coatsOver(palette, a.Area.Washes[:k], w)
			case len(w.Mix) == 0:
				a.Washes[k].Left = leftBy(palette, a.Area.Washes[:k+1])
			}
		}
		if a.Open {
			a.Touches = l.touches(i)
			a.TouchesItself = b.TouchesItself(i)
			a.Whites = whites(palette, a.Area.Washes)
			if len(a.Washes) > 0 {
				for _, o := range b.Alike(i) {
					a.Alike = append(a.Alike, &b.Areas[o])
				}
			}
		}
		v.Areas = append(v.Areas, a)
	}
	p.Colour = v
	p.Board.Marks = l.marks(func(i int) string { return strconv.Itoa(i + 1) })
}

// withoutBoard says why a station that needs the cells cannot be shown.
func (l *laid) withoutBoard() string {
	if l.rev.Card.Line() == nil {
		return "First choose a line image at the Line station; its cells are what gets coloured."
	}
	return "The cells of the line are not known yet."
}

func toneOf(from panel.Palette, mix []card.Part, s pigment.Strength) panel.Tone {
	return from.Look([]card.Wash{{Technique: card.Flat, Mix: mix, Strength: s}}).Dense
}

func washOf(from panel.Palette, index int, w card.Wash) washView {
	v := washView{Wash: w, Index: index, Name: card.MixName(w.Mix)}
	if len(w.Mix) == 0 {
		return v
	}
	v.Coat = toneOf(from, w.Mix, w.Strength)
	for _, p := range w.Mix {
		part := partView{Part: p, Hex: toneOf(from, []card.Part{p}, pigment.Milk).Dry}
		if known, err := pigment.ByCI(p.CI); err == nil {
			part.Name = known.Name
		}
		v.Parts = append(v.Parts, part)
	}
	for _, s := range pigment.Strengths() {
		v.Shades = append(v.Shades, shadeView{s, toneOf(from, w.Mix, s), s == w.Strength})
	}
	v.Weaker, v.Heavier = from.Misjudged(w)
	v.Off = pigment.Difference(v.Weaker.Lab, v.Heavier.Lab)
	return v
}

// leftBy is what the last of the washes, clean water, leaves of those below.
func leftBy(from panel.Palette, washes []card.Wash) *leftView {
	look := from.Look(washes)
	for _, t := range look.Traces {
		if t.Wash == len(washes)-1 {
			return &leftView{look.Dense, t.Tone}
		}
	}
	return &leftView{look.Dense, look.Thin}
}

// coatsShown is how many coats are looked ahead.
const coatsShown = 6

// coatsOver is what one to six coats of a wash make over those below.
func coatsOver(from panel.Palette, below []card.Wash, w card.Wash) (out []panel.Tone) {
	all := slices.Clone(below)
	for range coatsShown {
		again := w
		if len(all) > len(below) && w.IntoWet(len(all)) {
			again.Technique = card.Glaze // a further coat goes on once it is dry
		}
		all = append(all, again)
		out = append(out, from.Look(all).Dense)
	}
	return out
}

// whites says how many coats of opaque white bring a painted area back to nearly
// white.
func whites(from panel.Palette, washes []card.Wash) string {
	const nearlyWhite, ci = 90, "PW6"
	white, err := pigment.ByCI(ci)
	if err != nil || len(washes) == 0 {
		return ""
	}
	ground := from.Dry(washes)
	if ground.Lab().L >= nearlyWhite {
		return ""
	}
	var words []string
	for _, s := range []pigment.Strength{pigment.Milk, pigment.Cream} {
		load, err := s.Load()
		if err != nil {
			continue
		}
		if n, _ := pigment.Coats(ground, white.Paint(), load, nearlyWhite); n > 0 {
			words = append(words, fmt.Sprintf("%s as %s", plural(n, "coat"), s))
		} else {
			words = append(words, fmt.Sprintf("never as %s", s))
		}
	}
	return strings.Join(words, ", ")
}

// touches lists what an area touches and what would happen there.
func (l *laid) touches(area int) (out []touchView) {
	b := l.board
	for _, t := range b.Touching {
		other := t.A
		switch area {
		case t.A:
			other = t.B
		case t.B:
		default:
			continue
		}
		a, o := &b.Areas[area], &b.Areas[other]
		v := touchView{Area: o, Joined: b.Card.Joined(a.ID, o.ID)}
		if v.Joined && l.plan.plan != nil {
			v.Apart = l.plan.plan.Apart(area, other)
		}
		x, okX := a.Wet()
		y, okY := o.Wet()
		if okX && okY {
			v.Meeting = string(pigment.Meet(panel.Ground(b.Card.Paper), x, y))
			v.Value = string(pigment.Compare(l.facts.Looks[area].Dense.Lab, l.facts.Looks[other].Dense.Lab))
		}
		out = append(out, v)
	}
	return out
}
