package station

import (
	"net/http"
	"slices"

	"chromaqua/core/advice"
	"chromaqua/internal/store"
	"chromaqua/internal/web/page"
)

// rulesPlace is where the watch-outs of a card stand.
const rulesPlace = "rules"

// rulesView is the page of all watch-outs of a card.
type rulesView struct {
	page.Page
	*store.Revision
	ID     string // address of the card, or of the piece it is seen from
	Groups []ruleGroup
	Known  bool // the cells are known, so that all rules have been asked
}

type ruleGroup struct {
	About
	Rules []ruleView
}

type ruleView struct {
	advice.Rule
	Silenced bool
	Finds    []advice.Watch
}

// rules lists every watch-out with its reason, what it says of this card,
// and lets the maker silence it.
func (h *Host) rules(w http.ResponseWriter, r *http.Request) error {
	rev, err := h.Revision(r)
	if err != nil {
		return err
	}
	studio, err := h.Studio(r.Context(), 0)
	if err != nil {
		return err
	}
	l := h.Lay(rev, &studio, patience)
	v := rulesView{Page: page.Page{Title: rev.Card.Name + ", watch-outs"}, Revision: rev, ID: rev.Address(), Known: l.Board != nil}
	found := map[string][]advice.Watch{}
	for _, w := range h.Watches(l) {
		found[w.Rule] = append(found[w.Rule], w)
	}
	for _, st := range h.stations {
		g := ruleGroup{About: st.About()}
		for _, rule := range advice.Rules() {
			if string(rule.Station) == g.ID {
				g.Rules = append(g.Rules, ruleView{rule, slices.Contains(rev.Card.Silenced, rule.ID), found[rule.ID]})
			}
		}
		if len(g.Rules) > 0 {
			v.Groups = append(v.Groups, g)
		}
	}
	h.Render(w, r, http.StatusOK, "rules.html", v)
	return nil
}
