package log

import (
	"context"
	"fmt"
	"net/http"
	"strconv"

	"chromaqua/core/mount"
	"chromaqua/core/needs"
	"chromaqua/core/paper"
	"chromaqua/core/wording"
	"chromaqua/internal/bench"
	"chromaqua/internal/desk"
	"chromaqua/internal/store"
	"chromaqua/internal/web/page"
)

// usedView is what a making used up.
type usedView struct {
	Run   int64
	Lines []usedLine
	Cost  string // as far as it is known, "" when nothing is
	Taken bool   // it has come off the shelf
	Any   bool   // something of it is counted on the shelf
}

type usedLine struct {
	Text    string
	Counted bool // on the shelf
}

// usedBy is what a card took in a run.
func usedBy(l *bench.Log, card int64) ([]paper.Need, error) {
	at := l.Of(card)
	if len(at) == 0 {
		return nil, store.ErrNotFound
	}
	c := l.Places[at[0]].Rev.Whole
	made, err := mount.Of(c)
	if err != nil {
		return nil, err
	}
	return needs.Of(c, l.State.Cards[at[0]].Plan, made, len(at)), nil
}

func usedOf(l *bench.Log, card int64, st *paper.Stock) *usedView {
	all, err := usedBy(l, card)
	if err != nil {
		return nil
	}
	v := &usedView{Run: l.ID, Taken: st.TakenBy(l.ID)}
	for _, n := range all {
		counted := st.Of(n) != nil
		v.Any = v.Any || counted
		v.Lines = append(v.Lines, usedLine{NeedWords(n), counted})
	}
	if cost, known := st.Cost(all); known > 0 {
		v.Cost = fmt.Sprintf("about %.2f for the %s whose price is known", cost/100, wording.Count(known, "thing"))
	}
	return v
}

// NeedWords says how much of something is needed.
func NeedWords(n paper.Need) string {
	return fmt.Sprintf("%s %s %s", strconv.FormatFloat(n.Amount, 'f', places(n.Amount), 64), n.Unit, n.Name)
}

func places(v float64) int {
	switch {
	case v < 1:
		return 2
	case v < 10:
		return 1
	}
	return 0
}

// takeOff takes what a making used off the shelf; it is undone at Paper.
func (p *place) takeOff(w http.ResponseWriter, r *http.Request) error {
	if err := page.Read(w, r); err != nil {
		return err
	}
	rev, err := p.host.Revision(r)
	if err != nil {
		return err
	}
	run, err := strconv.ParseInt(r.PostFormValue("run"), 10, 64)
	if err != nil {
		return page.ErrOldPage
	}
	if err := p.takenOff(r.Context(), rev, run); err != nil {
		return p.refused(w, r, rev, err)
	}
	http.Redirect(w, r, page.CardAddress(rev.Address(), fmt.Sprintf("log#used-%d", run)), http.StatusSeeOther)
	return nil
}

func (p *place) takenOff(ctx context.Context, rev *store.Revision, run int64) error {
	l, err := p.host.Benches.Log(ctx, run)
	if err != nil {
		return err
	}
	all, err := usedBy(l, rev.ID)
	if err != nil {
		return err
	}
	st, err := p.host.Paper(ctx)
	if err != nil {
		return err
	}
	if err := st.Stock.Take(run, all); err != nil {
		return desk.Refuse(err)
	}
	return p.host.SavePaper(ctx, st.ID, st.Seq, st.Stock, "took off what "+rev.Whole.Name+" used")
}
