package shelf

import (
	"html/template"
	"net/http"
	"net/url"
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/panel"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/core/wording"
	"chromaqua/internal/desk"
	"chromaqua/internal/sheet"
	"chromaqua/internal/web/page"
)

// mixingView is the page of the mixing chart.
type mixingView struct {
	page.Page
	Names     card.Names
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
func (d *place) chosenPaints(r *http.Request) (chosen []string, own []shelf.Own, err error) {
	if own, err = d.Materials(r.Context()); err != nil {
		return nil, nil, err
	}
	chosen = r.URL.Query()["p"]
	if len(chosen) == 0 {
		for _, p := range panel.PaintsOf(own) {
			chosen = append(chosen, p.CI)
		}
		chosen = chosen[:min(len(chosen), 6)]
	}
	if len(chosen) == 0 {
		chosen = []string{"PY150", "PV19", "PB29", "PBr7"}
	}
	return chosen, own, nil
}

func (d *place) mixing(w http.ResponseWriter, r *http.Request) error {
	chosen, own, err := d.chosenPaints(r)
	if err != nil {
		return err
	}
	v := mixingView{Names: panel.NamesOf(own), Page: page.Page{Title: "Mixing chart", Place: "shelf"}, Ratios: panel.ChartRatios(), Strengths: panel.ChartStrengths()}
	mine := panel.PaintsOf(own)
	for _, p := range pigment.Library() {
		v.Choices = append(v.Choices, paintChoice{p, slices.Contains(chosen, p.CI), slices.ContainsFunc(mine, func(m pigment.Pigment) bool { return m.CI == p.CI })})
	}
	status := http.StatusOK
	if v.Pairs, err = panel.ChartPalette(own).Chart(chosen); err != nil {
		status, v.Message = http.StatusUnprocessableEntity, wording.Sentence(err.Error())
	}
	v.Query = template.URL(url.Values{"p": chosen, "unit": {page.UnitOf(r).String()}}.Encode())
	d.Render(w, r, status, "mixing.html", v)
	return nil
}

// mixingSheet sends the empty chart to paint.
func (d *place) mixingSheet(w http.ResponseWriter, r *http.Request) error {
	chosen, own, err := d.chosenPaints(r)
	if err != nil {
		return err
	}
	pairs, err := panel.ChartPalette(own).Chart(chosen)
	if err != nil {
		return desk.Refuse(err)
	}
	doc := &sheet.Chart{Unit: page.UnitOf(r), Names: panel.NamesOf(own), Pairs: pairs}
	return page.SendDrawing(w, r, "Mixing chart", doc)
}
