package web

import (
	"bytes"
	"context"
	"errors"
	"html/template"
	"net/http"
	"net/url"
	"slices"
	"strconv"

	"github.com/go-chi/chi/v5"

	"chromaqua/core/card"
	"chromaqua/core/panel"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/internal/sheet"
	"chromaqua/internal/store"
)

// waysView shows colourings of a card side by side.
type waysView struct {
	page
	Card *store.Revision
	Ways []wayView
	Used []pigment.Pigment // paints of the card
	All  []pigment.Pigment
	Way  panel.Way // what was asked for
}

type wayView struct {
	Words   string
	Picture string
	Values  map[string]string // as a form sends it; nil for the card as it is
}

// turns are the ways round the circle of hues that are shown.
var turns = []float64{60, 120, 180, 240, 300}

// wayOf reads a way from an address or a form.
func wayOf(r *http.Request) (w panel.Way, err error) {
	w.From, w.To = r.FormValue("from"), r.FormValue("to")
	if text := r.FormValue("turn"); text != "" {
		w.Turn, err = number(text, "turn of the hues")
	}
	return w, err
}

// valuesOf is a way as a form sends it.
func valuesOf(way panel.Way) map[string]string {
	if way.From != "" {
		return map[string]string{"from": way.From, "to": way.To}
	}
	return map[string]string{"turn": strconv.FormatFloat(way.Turn, 'f', -1, 64)}
}

// recolour changes a card's washes with the paints on the shelf, or with all when
// there are none.
func (s *Server) recolour(ctx context.Context, c *card.Card, way panel.Way) error {
	own, err := s.store.Materials(ctx)
	if err != nil {
		return err
	}
	paints := paintsOf(own)
	if len(paints) == 0 {
		paints = pigment.Library()
	}
	return asRefused(way.Recolour(ctx, c, paints))
}

func (s *Server) waysPage(w http.ResponseWriter, r *http.Request) error {
	rev, err := s.revision(r)
	if err != nil {
		return err
	}
	return s.showWays(w, r, rev, http.StatusOK, "")
}

func (s *Server) showWays(w http.ResponseWriter, r *http.Request, rev *store.Revision, status int, message string) error {
	v := waysView{page: page{Title: rev.Card.Name + ", colourways", Message: message}, Card: rev, All: pigment.Library()}
	v.Way.From, v.Way.To = r.FormValue("from"), r.FormValue("to")
	for _, p := range v.All {
		if rev.Card.Uses(p.CI) {
			v.Used = append(v.Used, p)
		}
	}
	picture := func(values map[string]string) string {
		q := url.Values{"v": {strconv.FormatInt(rev.Seq, 10)}}
		for k, x := range values {
			q.Set(k, x)
		}
		return cardPath(rev.ID, "panel.svg") + "?" + q.Encode()
	}
	v.Ways = append(v.Ways, wayView{Words: "as it is", Picture: picture(nil)})
	var ways []panel.Way
	if v.Way.From != "" && v.Way.To != "" {
		ways = append(ways, v.Way)
	}
	for _, t := range turns {
		ways = append(ways, panel.Way{Turn: t})
	}
	for _, way := range ways {
		x := wayView{Words: way.Words(), Values: valuesOf(way)}
		x.Picture = picture(x.Values)
		v.Ways = append(v.Ways, x)
	}
	s.render(w, r, status, "ways.html", v)
	return nil
}

// keepWay recolours a card, or a sister of it.
func (s *Server) keepWay(w http.ResponseWriter, r *http.Request) error {
	r.Body = http.MaxBytesReader(w, r.Body, maxForm)
	rev, err := s.revision(r)
	if err != nil {
		return err
	}
	way, err := wayOf(r)
	if err == nil {
		err = s.recolour(r.Context(), rev.Card, way)
	}
	if err == nil {
		err = refused(rev.Card.Check())
	}
	id := rev.ID
	switch {
	case err != nil:
	case r.PostFormValue("as") == "sister":
		rev.Card.Name = cutName(rev.Card.Name, ", "+way.Words())
		id, err = s.store.Create(r.Context(), rev.Card, "a sister card: "+way.Words())
	default:
		err = s.store.Save(r.Context(), rev.ID, baseOf(r, rev.Seq), rev.Card, "recoloured: "+way.Words())
	}
	if err = asRefused(err); err != nil {
		status, words := s.explain(r, err)
		if rev, err = s.revision(r); err != nil {
			return err
		}
		return s.showWays(w, r, rev, status, upperFirst(words.Error())+".")
	}
	http.Redirect(w, r, cardPath(id, "colour"), http.StatusSeeOther)
	return nil
}

// cutName adds an ending to a name and keeps it as long as names may be.
func cutName(name, ending string) string {
	runes := []rune(name)
	if most := card.MaxName - len([]rune(ending)); len(runes) > most {
		runes = runes[:most]
	}
	return string(runes) + ending
}

// mixingView is the page of the mixing chart.
type mixingView struct {
	page
	Choices   []paintChoice
	Ratios    [][2]int
	Strengths []pigment.Strength
	Pairs     []panel.ChartPair
	Query     template.URL // what the sheets are asked for with
}

type paintChoice struct {
	pigment.Pigment
	Chosen bool
	Yours  bool
}

// chosenPaints are those a chart is asked for: the maker's, or a few, when none
// are named.
func (s *Server) chosenPaints(r *http.Request) (chosen []string, own []shelf.Own, err error) {
	if own, err = s.store.Materials(r.Context()); err != nil {
		return nil, nil, err
	}
	chosen = r.URL.Query()["p"]
	if len(chosen) == 0 {
		for _, p := range paintsOf(own) {
			chosen = append(chosen, p.CI)
		}
		chosen = chosen[:min(len(chosen), 6)]
	}
	if len(chosen) == 0 {
		chosen = []string{"PY150", "PV19", "PB29", "PBr7"}
	}
	return chosen, own, nil
}

func (s *Server) mixing(w http.ResponseWriter, r *http.Request) error {
	chosen, own, err := s.chosenPaints(r)
	if err != nil {
		return err
	}
	v := mixingView{page: page{Title: "Mixing chart", Place: "shelf"}, Ratios: panel.ChartRatios(), Strengths: panel.ChartStrengths()}
	mine := paintsOf(own)
	for _, p := range pigment.Library() {
		v.Choices = append(v.Choices, paintChoice{p, slices.Contains(chosen, p.CI), slices.ContainsFunc(mine, func(m pigment.Pigment) bool { return m.CI == p.CI })})
	}
	status := http.StatusOK
	if v.Pairs, err = chartPalette(own).Chart(chosen); err != nil {
		status, v.Message = http.StatusUnprocessableEntity, upperFirst(err.Error())+"."
	}
	v.Query = template.URL(url.Values{"p": chosen, "unit": {unitOf(r).String()}}.Encode())
	s.render(w, r, status, "mixing.html", v)
	return nil
}

// mixingSheet sends the empty chart to paint.
func (s *Server) mixingSheet(w http.ResponseWriter, r *http.Request) error {
	chosen, own, err := s.chosenPaints(r)
	if err != nil {
		return err
	}
	pairs, err := chartPalette(own).Chart(chosen)
	if err != nil {
		return refused(err)
	}
	doc := sheet.Chart{Unit: unitOf(r), Pairs: pairs}
	if chi.URLParam(r, "as") == "svg" {
		return sendDrawing(w, "Mixing chart", "image/svg+xml", ".svg", doc.WriteSVG)
	}
	return sendDrawing(w, "Mixing chart", "application/pdf", ".pdf", doc.WritePDF)
}

// wayPicture serves the finished panel in another colouring.
func (s *Server) wayPicture(w http.ResponseWriter, r *http.Request, rev *store.Revision, way panel.Way) error {
	if err := s.recolour(r.Context(), rev.Card, way); err != nil {
		return err
	}
	if err := rev.Card.Check(); err != nil {
		return refused(err)
	}
	var svg bytes.Buffer
	drawn, err := s.drawPanel(&svg, rev)
	if err != nil {
		return err
	}
	if !drawn {
		return refused(errors.New("the cells of the line are not known yet"))
	}
	_, err = w.Write(svg.Bytes())
	return err
}
