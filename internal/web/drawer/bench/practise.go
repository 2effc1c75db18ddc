package bench

import (
	"errors"
	"math/rand/v2"
	"net/http"
	"strconv"
	"time"

	"chromaqua/core/drying"
	"chromaqua/core/practice"
	"chromaqua/internal/store"
	"chromaqua/internal/web/page"
)

// practiceView is an exercise, or what came of one.
type practiceView struct {
	page.Page
	*practice.Exercise
	Degrees drying.Degrees
	Seed    string
	Ends    [5]int64  // ms, of each stage
	Wet     []float64 // share of water left, each tenth of a second
	Result  *practice.Result
	At      int64 // ms at which it was done
	Past    []store.Practised
}

// Of the picture of an exercise.
const (
	frameEach = 100 * time.Millisecond
	frames    = 300
)

func (d *place) practise(w http.ResponseWriter, r *http.Request) error {
	return d.showPractice(w, r, practice.Of(rand.Uint64()>>12), nil, 0)
}

// judge says what came of an exercise, and keeps the score.
func (d *place) judge(w http.ResponseWriter, r *http.Request) error {
	if err := page.Read(w, r); err != nil {
		return err
	}
	seed, err := strconv.ParseUint(r.PostForm.Get("seed"), 10, 64)
	at, err2 := strconv.ParseInt(r.PostForm.Get("at"), 10, 64)
	if err != nil || err2 != nil || at < 0 || at > 600_000 {
		return page.Refused(errors.New("that exercise is over; begin another"))
	}
	e := practice.Of(seed)
	result := e.Judge(time.Duration(at) * time.Millisecond)
	if err := d.Practise(r.Context(), string(e.Task), result.Score); err != nil {
		return err
	}
	return d.showPractice(w, r, e, &result, at)
}

func (d *place) showPractice(w http.ResponseWriter, r *http.Request, e *practice.Exercise, result *practice.Result, at int64) error {
	v := &practiceView{Page: page.Page{Title: "Practice", Place: "bench"}, Exercise: e, Seed: strconv.FormatUint(e.Seed, 10), Result: result, At: at}
	for i, end := range e.Ends {
		v.Ends[i] = end.Milliseconds()
	}
	for i := range frames {
		v.Wet = append(v.Wet, e.Share(time.Duration(i)*frameEach))
	}
	set, err := d.Settings(r.Context())
	if err != nil {
		return err
	}
	v.Degrees = set.Settings.Degrees
	if v.Past, err = d.Store.Practice(r.Context()); err != nil {
		return err
	}
	d.Render(w, r, http.StatusOK, "practice.html", v)
	return nil
}
