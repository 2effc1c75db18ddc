package colour

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"strconv"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/panel"
	"chromaqua/core/pigment"
	"chromaqua/core/wash"
	"chromaqua/core/wording"
	"chromaqua/internal/desk"
	"chromaqua/internal/easel"
	"chromaqua/internal/store"
	"chromaqua/internal/web/page"
	"chromaqua/internal/web/station"
)

// waysView shows colourings of a card side by side.
type waysView struct {
	page.Page
	Names card.Names
	Card  *store.Revision
	Ways  []wayView
	Begun []wayView         // to start from
	Used  []pigment.Pigment // paints of the card
	All   []pigment.Pigment
	Way   panel.Way // what was asked for
}

type wayView struct {
	Words   string
	Picture string            // address of the flat look
	Painted string            // and of the washes
	Values  map[string]string // as a form sends it; nil for the card as it is
}

// turns are the ways round the circle of hues that are shown.
var turns = []float64{60, 120, 180, 240, 300}

// wayOf reads a way from an address or a form.
func wayOf(r *http.Request) (w panel.Way, err error) {
	w.From, w.To = r.FormValue("from"), r.FormValue("to")
	w.Start, _ = strconv.Atoi(r.FormValue("start")) // nothing else begins anew
	if text := r.FormValue("turn"); text != "" {
		if w.Turn, err = change.ParseNumber(text); err != nil {
			err = fmt.Errorf("turn of the hues: %w", err)
		}
	}
	return w, err
}

// valuesOf is a way as a form sends it.
func valuesOf(way panel.Way) map[string]string {
	switch {
	case way.Start > 0:
		return map[string]string{"start": strconv.Itoa(way.Start)}
	case way.From != "":
		return map[string]string{"from": way.From, "to": way.To}
	}
	return map[string]string{"turn": strconv.FormatFloat(way.Turn, 'f', -1, 64)}
}

// recolour changes a card's washes with the paints on the shelf, or with all when
// there are none.
func (p *place) recolour(ctx context.Context, c *card.Card, way panel.Way) error {
	own, err := p.host.Materials(ctx)
	if err != nil {
		return err
	}
	paints := panel.PaintsOf(own)
	if len(paints) == 0 {
		paints = pigment.Library()
	}
	return page.Refused(way.Recolour(ctx, c, paints))
}

// names are what the maker calls paints.
func (p *place) names(ctx context.Context) (card.Names, error) {
	own, err := p.host.Materials(ctx)
	return panel.NamesOf(own), err
}

func (p *place) waysPage(w http.ResponseWriter, r *http.Request) error {
	rev, err := p.host.Revision(r)
	if err != nil {
		return err
	}
	return p.showWays(w, r, rev, http.StatusOK, "")
}

func (p *place) showWays(w http.ResponseWriter, r *http.Request, rev *store.Revision, status int, message string) error {
	names, err := p.names(r.Context())
	if err != nil {
		return err
	}
	v := waysView{Names: names, Page: page.Page{Title: rev.Card.Name + ", colourways", Message: message}, Card: rev, All: pigment.All()}
	v.Way.From, v.Way.To = r.FormValue("from"), r.FormValue("to")
	for _, p := range v.All {
		if rev.Card.Uses(p.CI) {
			v.Used = append(v.Used, p)
		}
	}
	picture := func(of string, values map[string]string) string {
		q := url.Values{"v": {strconv.FormatInt(rev.Seq, 10)}}
		for k, x := range values {
			q.Set(k, x)
		}
		return page.CardAddress(rev.Address(), of) + "?" + q.Encode()
	}
	show := func(way panel.Way) wayView {
		x := wayView{Words: way.Words(rev.Card, names), Values: valuesOf(way)}
		x.Picture, x.Painted = picture("way.svg", x.Values), picture("washes.svg", x.Values)
		return x
	}
	if len(rev.Card.Areas) > 0 {
		for n := range panel.Starts(rev.Card) {
			v.Begun = append(v.Begun, show(panel.Way{Start: n + 1}))
		}
	}
	v.Ways = append(v.Ways, wayView{Words: "as it is", Picture: picture("panel.svg", nil), Painted: picture("painted.svg", nil) + thumb})
	var ways []panel.Way
	if v.Way.From != "" && v.Way.To != "" {
		ways = append(ways, v.Way)
	}
	for _, t := range turns {
		ways = append(ways, panel.Way{Turn: t})
	}
	for _, way := range ways {
		v.Ways = append(v.Ways, show(way))
	}
	p.host.Render(w, r, status, "ways.html", v)
	return nil
}

// keepWay recolours a card, or a sister of it.
func (p *place) keepWay(w http.ResponseWriter, r *http.Request) error {
	if err := page.Read(w, r); err != nil {
		return err
	}
	rev, err := p.host.Revision(r)
	if err != nil {
		return err
	}
	names, err := p.names(r.Context())
	if err != nil {
		return err
	}
	way, err := wayOf(r)
	if err == nil {
		err = p.recolour(r.Context(), rev.Card, way)
	}
	if err == nil {
		err = rev.Back(names)
	}
	if err == nil {
		err = desk.Refuse(rev.Whole.Check())
	}
	id := rev.ID
	switch {
	case err != nil:
	case r.PostFormValue("as") == "sister":
		rev.Whole.Name = card.Ending(rev.Whole.Name, ", "+way.Words(rev.Card, names))
		id, err = p.host.Create(r.Context(), rev.Whole, "a sister card: "+way.Words(rev.Card, names))
	default:
		var base int64
		if base, err = page.BaseOf(r); err == nil {
			err = p.host.Save(r.Context(), rev.ID, base, rev.Whole, "recoloured: "+way.Words(rev.Card, names))
		}
	}
	if err = page.Refused(err); err != nil {
		status, words := p.host.Explain(r, err)
		if rev, err = p.host.Revision(r); err != nil {
			return err
		}
		return p.showWays(w, r, rev, status, wording.Sentence(words.Error()))
	}
	to := rev.Address()
	if id != rev.ID {
		to = strconv.FormatInt(id, 10)
	}
	http.Redirect(w, r, page.CardAddress(to, "colour"), http.StatusSeeOther)
	return nil
}

// thumb asks for a small picture with its line.
const thumb = "&dpi=90"

// recoloured is a card in another colouring, which is not stored.
func (p *place) recoloured(r *http.Request) (*store.Revision, error) {
	rev, err := p.host.Revision(r)
	if err != nil {
		return nil, err
	}
	names, err := p.names(r.Context())
	if err != nil {
		return nil, err
	}
	way, err := wayOf(r)
	if err == nil {
		err = p.recolour(r.Context(), rev.Card, way)
	}
	rev.Card.Call(names)
	if err == nil {
		err = rev.Card.Check()
	}
	if err != nil {
		return nil, page.Refused(err)
	}
	return rev, nil
}

// wayPainted serves the panel in another colouring, painted.
func (p *place) wayPainted(w http.ResponseWriter, r *http.Request) error {
	rev, err := p.recoloured(r)
	if err != nil {
		return err
	}
	studio, err := p.host.Studio(r.Context(), 0)
	if err != nil {
		return err
	}
	q, err := p.host.Easel.Draft(r.Context(), rev.Card, studio.Bench)
	if err != nil {
		return err
	}
	washes, err := p.host.Easel.JPEG(r.Context(), q, easel.Look{At: wash.Dry, DPI: 90})
	if err != nil {
		return err
	}
	svg, _, err := p.host.Pictures.Draw(rev, washes)
	if err != nil {
		return err
	}
	return station.SendPicture(w, svg)
}

// wayPicture serves the finished panel in another colouring.
func (p *place) wayPicture(w http.ResponseWriter, r *http.Request) error {
	rev, err := p.recoloured(r)
	if err != nil {
		return err
	}
	svg, known, err := p.host.Pictures.Draw(rev, nil)
	if err != nil {
		return err
	}
	if !known {
		return desk.Refuse(errors.New("the cells of the line are not known yet"))
	}
	return station.SendPicture(w, svg)
}
