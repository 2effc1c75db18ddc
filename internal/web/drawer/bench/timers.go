package bench

import (
	"cmp"
	"errors"
	"net/http"
	"strings"
	"time"

	"chromaqua/core/drying"
	"chromaqua/core/run"
	"chromaqua/core/technique"
	"chromaqua/core/wording"
	"chromaqua/internal/bench"
	"chromaqua/internal/desk"
	"chromaqua/internal/web/page"
)

// timerView is a wash on the clock.
type timerView struct {
	ID      int64
	Once    string
	Name    string
	Stage   string
	Slug    string
	Means   string
	Next    string
	Goal    run.Goal
	Left    time.Duration
	UntilMS int64
	NowMS   int64
	Step    string
}

// stageMeans says what a stage is good for.
var stageMeans = map[drying.Stage]string{
	drying.Puddle:   "Let it level; tilt it if it gathers.",
	drying.Gloss:    "Drop in, charge, soften.",
	drying.Sheen:    "The last moment to drop in; lift now.",
	drying.Damp:     "Hands off.",
	drying.TouchDry: "Glaze over it, lay what lies beside it.",
	drying.BoneDry:  "Stamp, mask, take the tape off.",
}

func (d *place) timerOf(r *http.Request, id int64) (*timerView, error) {
	b, err := d.Benches.Show(r.Context(), id)
	if err != nil {
		return nil, err
	}
	s := b.State
	v := &timerView{ID: id, Once: bench.OnceName(), Name: b.Setup.Timer.Name(), Step: s.Ops[0].Key, NowMS: s.At.UnixMilli()}
	stage, next, left, ok := s.TimerStage()
	if !ok {
		return v, nil
	}
	v.Stage, v.Slug, v.Means = stage.String(), strings.ReplaceAll(stage.String(), " ", "-"), stageMeans[stage]
	v.Next, v.Goal, v.Left = string(next), next, left.Duration()
	if left > 0 {
		v.UntilMS = s.At.Add(v.Left).UnixMilli()
	}
	return v, nil
}

// time puts a wash on the clock. What is left empty of the room is as usual.
func (d *place) time(w http.ResponseWriter, r *http.Request) error {
	if err := page.Read(w, r); err != nil {
		return err
	}
	typed := func(name, usual string) string { return cmp.Or(strings.TrimSpace(r.PostForm.Get(name)), usual) }
	room, err := drying.ParseRoom(typed("celsius", drying.Celsius.Say(drying.StillRoom.Celsius)), typed("humidity", page.PlainNumber(100*drying.StillRoom.Humidity)))
	if err != nil {
		return d.showList(w, r, http.StatusUnprocessableEntity, wording.Sentence(err.Error()))
	}
	_, err = d.Benches.Time(r.Context(), run.Timer{
		Technique: technique.Kind(r.PostForm.Get("technique")), Paper: r.PostForm.Get("paper"), Size: run.Size(r.PostForm.Get("size")), Room: room,
	})
	var refused *desk.Refusal
	if errors.As(err, &refused) {
		return d.showList(w, r, http.StatusUnprocessableEntity, wording.Sentence(refused.Error()))
	}
	if err != nil {
		return err
	}
	http.Redirect(w, r, "/bench#timers", http.StatusSeeOther)
	return nil
}
