package bench

import (
	"net/http"
	"slices"
	"strconv"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/panel"
	"chromaqua/core/pigment"
	"chromaqua/core/run"
	"chromaqua/core/wording"
	"chromaqua/internal/bench"
	"chromaqua/internal/store"
	"chromaqua/internal/web/page"
)

// troubleView asks what went wrong, and answers.
type troubleView struct {
	page.Page
	ID      int64
	Once    string
	On      string // what it is about
	Stage   string
	Step    stepRef
	Op      int
	Coats   []coatView
	Asked   []troubleTile
	Answer  *answerView
	Board   *liveBoard // with what the first remedy does to the colour
	After   string     // that colour, "" where it does nothing
	Nothing bool       // nothing was laid yet
}

type coatView struct {
	Name string
	Op   int
	Is   bool
}

type troubleTile struct {
	run.Row
	Can bool   // something can be done about it now
	Key string // a letter
}

type answerView struct {
	run.Answer
	Until    time.Duration
	UntilMS  int64
	Waits    bool // there is nothing to do but wait
	Remedies []remedyView
}

type remedyView struct {
	run.Remedy
	Fix           string
	Before, After string // colours, "" where it has none
}

// trouble asks what went wrong on a coat, and says what can be done about it now.
func (d *place) trouble(w http.ResponseWriter, r *http.Request) error {
	id, err := runOf(r)
	if err != nil {
		return err
	}
	b, err := d.Benches.Show(r.Context(), id)
	if err != nil {
		return err
	}
	s := b.State
	v := &troubleView{Page: page.Page{Title: "Something went wrong", Place: "bench"}, ID: id, Once: bench.OnceName(), Op: -1}
	laid := s.Laid()
	slices.Reverse(laid) // what was done last is what it is about, mostly
	asked, err := strconv.Atoi(r.URL.Query().Get("op"))
	for _, op := range laid {
		if _, can := s.Answers(op); !can {
			continue
		}
		if v.Op < 0 || err == nil && op == asked {
			v.Op = op
		}
		v.Coats = append(v.Coats, coatView{Name: wording.Upper(s.Spoken(op)), Op: op})
	}
	if v.Op < 0 {
		v.Nothing = true
		d.Render(w, r, http.StatusOK, "trouble.html", v)
		return nil
	}
	for i := range v.Coats {
		v.Coats[i].Is = v.Coats[i].Op == v.Op
	}
	v.On, v.Step, v.Stage = s.Spoken(v.Op), ref(s, v.Op), "bone dry"
	if c, wet := s.Coat(v.Op); wet {
		v.Stage = c.Stage.String()
	}
	what := run.Trouble(r.URL.Query().Get("what"))
	answers, _ := s.Answers(v.Op)
	for _, a := range answers {
		v.Asked = append(v.Asked, troubleTile{*a.Row, len(a.Remedies) > 0, string(rune('a' + len(v.Asked)))})
		if a.ID == what {
			v.Answer = answerOf(b, v.Op, a)
			for _, o := range v.Answer.Remedies {
				if v.After == "" {
					v.After = o.After
				}
			}
		}
	}
	if what != "" && v.Answer == nil {
		return store.ErrNotFound
	}
	if v.Answer != nil {
		if v.Board, err = d.boardOf(b, v.Op); err != nil {
			return err
		}
	}
	d.Render(w, r, http.StatusOK, "trouble.html", v)
	return nil
}

func answerOf(b *bench.View, op int, a run.Answer) *answerView {
	v := &answerView{Answer: a, Until: a.Until.Duration()}
	if a.Until > 0 {
		v.UntilMS = b.State.At.Add(v.Until).UnixMilli()
	}
	v.Waits = !slices.ContainsFunc(a.Remedies, func(r run.Remedy) bool { return r.Effect != run.HandsOff })
	for _, r := range a.Remedies {
		o := remedyView{Remedy: r, Fix: run.Fix(a.ID, a.Phase, r)}
		o.Before, o.After = colours(b, op, &r)
		v.Remedies = append(v.Remedies, o)
	}
	return v
}

// colours are what an area looks like dry with what lies on it by now, and after a
// remedy; "" where that changes nothing that can be told.
func colours(b *bench.View, op int, r *run.Remedy) (before, after string) {
	s := b.State
	st := s.Ops[op].Step
	if st.On == nil || st.On.Wash < 0 {
		return "", ""
	}
	area := s.Plan(op).AreaOf(st)
	laid := slices.Clone(area.Washes[:st.On.Wash+1])
	look := func(washes []card.Wash) string { return area.Palette().Look(washes).Dense.Dry }
	before = look(laid)
	last := &laid[len(laid)-1]
	switch {
	case r.Effect == run.AnotherGo:
		after = look(append(slices.Clone(laid), *last))
	case r.Effect == run.WetAgain || r.ID == "thirsty" || r.ID == "towel":
		if last.Strength = paler(last.Strength); last.Technique.Covers() {
			after = look(laid)
		}
	case r.ID == "cover":
		after = panel.LookOf("", nil).Dense.Dry
	}
	if after == before {
		return "", ""
	}
	return before, after
}

// paler is the next weaker strength.
func paler(s pigment.Strength) pigment.Strength {
	all := pigment.Strengths()
	if i := slices.Index(all, s); i > 0 {
		return all[i-1]
	}
	return s
}
