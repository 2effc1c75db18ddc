package web

import (
	"net/http"
	"slices"

	"chromaqua/core/advice"
	"chromaqua/internal/store"
)

// rulesView is the page of all watch-outs of a card.
type rulesView struct {
	page
	*store.Revision
	Groups []ruleGroup
	Known  bool // the cells are known, so that all rules have been asked
}

type ruleGroup struct {
	station
	Rules []ruleView
}

type ruleView struct {
	advice.Rule
	Silenced bool
	Finds    []advice.Watch
}

// rulesPage lists every watch-out with its reason, what it says of this card,
// and lets the maker silence it.
func (s *Server) rulesPage(w http.ResponseWriter, r *http.Request) error {
	rev, err := s.revision(r)
	if err != nil {
		return err
	}
	studio, err := s.studioFor(r.Context(), "")
	if err != nil {
		return err
	}
	l := s.lay(rev, &studio, true, patience)
	v := rulesView{page: page{Title: rev.Card.Name + ", watch-outs"}, Revision: rev, Known: l.board != nil}
	found := map[string][]advice.Watch{}
	for _, w := range advice.All(l.facts) {
		found[w.Rule] = append(found[w.Rule], w)
	}
	for _, st := range stations {
		g := ruleGroup{station: st}
		for _, rule := range advice.Rules() {
			if string(rule.Station) == st.ID {
				g.Rules = append(g.Rules, ruleView{rule, slices.Contains(rev.Card.Silenced, rule.ID), found[rule.ID]})
			}
		}
		if len(g.Rules) > 0 {
			v.Groups = append(v.Groups, g)
		}
	}
	s.render(w, r, http.StatusOK, "rules.html", v)
	return nil
}

// silence quietens a watch-out on this card, or lets it speak again.
func (e *editing) silence() (string, error) {
	id := e.get("rule")
	if err := advice.Check(id); err != nil {
		return "", err
	}
	on := e.get("on") == "true"
	e.card.Silence(id, on)
	if on {
		return "silenced a watch-out", nil
	}
	return "lets a watch-out speak again", nil
}
