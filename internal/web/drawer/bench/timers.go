package bench

import (
	"errors"
	"fmt"
	"net/http"
	"strings"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/drying"
	"chromaqua/core/run"
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

// roomTyped is a room as it is typed; what is left empty is as usual.
func roomTyped(celsius, humidity string) (room drying.Room, err error) {
	room = drying.StillRoom
	if strings.TrimSpace(celsius) != "" {
		if room.Celsius, err = drying.ParseTemperature(celsius); err != nil {
			return room, err
		}
	}
	if strings.TrimSpace(humidity) != "" {
		percent, err := change.ParseNumber(strings.TrimSpace(humidity))
		if err != nil {
			return room, fmt.Errorf("humidity: %w", err)
		}
		room.Humidity = percent / 100
	}
	return room, nil
}

// time puts a wash on the clock.
func (d *place) time(w http.ResponseWriter, r *http.Request) error {
	if err := page.Read(w, r); err != nil {
		return err
	}
	room, err := roomTyped(r.PostForm.Get("celsius"), r.PostForm.Get("humidity"))
	if err != nil {
		return d.showList(w, r, http.StatusUnprocessableEntity, wording.Sentence(err.Error()))
	}
	_, err = d.Benches.Time(r.Context(), run.Timer{
		Technique: card.Technique(r.PostForm.Get("technique")), Paper: r.PostForm.Get("paper"), Size: run.Size(r.PostForm.Get("size")), Room: room,
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
