package bench_test

import (
	"bufio"
	"context"
	"fmt"
	"html"
	"net/http"
	"net/http/httptest"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/run"
	"chromaqua/core/settings"
	"chromaqua/internal/bench"
	"chromaqua/internal/desk"
	"chromaqua/internal/store"
	"chromaqua/internal/web/webtest"
)

func TestMain(m *testing.M) { webtest.Main(m) }

// begun is the demo with a run of some cards.
func begun(t *testing.T, pairs ...string) (*webtest.Studio, string) {
	st := webtest.Demo(t)
	a := st.Post("/bench", pairs...)
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	require.Regexp(t, `^/bench/\d+$`, a.Path)
	return st, a.Path
}

var big = regexp.MustCompile(`<h1>(.*?)</h1>`)

func says(a webtest.Answer) string {
	if m := big.FindStringSubmatch(a.Body); m != nil {
		return m[1]
	}
	return ""
}

// press tells what a key of the page tells.
func press(st *webtest.Studio, page webtest.Answer, key string) webtest.Answer {
	for _, form := range regexp.MustCompile(`(?s)<form method="post" action="(/bench/\d+)"[^>]*>(.*?)</form>`).FindAllStringSubmatch(page.Body, -1) {
		if !strings.Contains(html.UnescapeString(form[2]), `data-key="`+key+`"`) {
			continue
		}
		var pairs []string
		for _, f := range regexp.MustCompile(`name="([a-z_]+)" value="([^"]*)"`).FindAllStringSubmatch(form[2], -1) {
			pairs = append(pairs, f[1], html.UnescapeString(f[2]))
		}
		return st.Post(form[1], pairs...)
	}
	st.T.Fatalf("no key %q on the page that says %q", key, says(page))
	return webtest.Answer{}
}

func events(t *testing.T, st *webtest.Studio, n int) []run.Event {
	all, err := st.Store.Events(context.Background(), 1, 0)
	require.NoError(t, err)
	require.Len(t, all, n)
	return all
}

// What a paint warns of comes with the step that it is for, not with the question before it.
func TestCautionsComeWithTheirStep(t *testing.T) {
	st, at := begun(t, "card", "4")
	page := st.Get(at)
	for range 12 {
		if strings.HasSuffix(says(page), "dry?") {
			break
		}
		time.Sleep(450 * time.Millisecond) // an earlier press would be passed over
		page = press(st, page, " ")
	}
	require.Equal(t, "Is the ink of the line dry?", says(page))
	assert.NotContains(t, page.Body, `class="caution"`)
	time.Sleep(450 * time.Millisecond)
	page = press(st, page, "d")
	require.Contains(t, says(page), "Sand")
	assert.Contains(t, page.Body, "Driftwood (PBr7): may contain manganese")
}

// The same press counts once however often it arrives, and two at once are one.
func TestPressesCountOnce(t *testing.T) {
	st := webtest.Demo(t)
	st.Read(4)
	st.Read(6)
	assert.Contains(t, st.Get("/cards/4/bench").Body, "Paint it now")
	at := st.Post("/bench", "card", "4").Path
	page := st.Get(at)
	assert.Equal(t, "Cut the panel and lay it in the positioner", says(page))
	assert.Contains(t, st.Get("/cards/4/bench").Body, "Go on at the bench")
	assert.Contains(t, st.Get("/cards/6/bench").Body, "Paint it now")
	next := press(st, page, " ")
	assert.Equal(t, "Stamp Hermit crab", says(next))
	assert.Equal(t, "Stamp Hermit crab", says(press(st, page, " ")), "sent again")
	assert.Equal(t, "Stamp Hermit crab", says(press(st, next, " ")), "pressed twice at once")
	all := events(t, st, 2)
	assert.Equal(t, "Cut the panel and lay it in the positioner", all[1].Title)
	time.Sleep(550 * time.Millisecond)
	assert.NotEqual(t, "Stamp Hermit crab", says(press(st, next, " ")))
	events(t, st, 3)
	back := press(st, st.Get(at), "mod+z")
	assert.Equal(t, "Stamp Hermit crab", says(back))
}

// A panel that was stamped before the bench was opened is not stamped again: one press
// leaves out all that lies before the board, each step of which may be taken back.
func TestStampedAlready(t *testing.T) {
	st, at := begun(t, "card", "4")
	page := st.Get(at)
	require.Contains(t, page.Body, "up to: Stamp Hermit crab")
	next := press(st, page, "a")
	assert.Equal(t, "Tape the panel to its board", says(next), "no ink has to dry")
	assert.NotContains(t, next.Body, `data-key="a"`)
	assert.Equal(t, says(next), says(press(st, page, "a")), "sent again")
	for _, e := range events(t, st, 3)[1:] {
		assert.Equal(t, run.Skipped, e.Kind)
	}
	back := press(st, next, "mod+z")
	assert.Equal(t, "Stamp Hermit crab", says(back))
	assert.NotContains(t, back.Body, `data-key="a"`, "one step is told by Done")
	assert.Equal(t, "Cut the panel and lay it in the positioner", says(press(st, back, "mod+z")))
}

// Of several cards only those are left out that were made.
func TestOneOfTwoIsStampedAlready(t *testing.T) {
	st, at := begun(t, "card", "4", "card", "4")
	next := press(st, st.Get(at), "a")
	assert.NotContains(t, says(next), "line")
	all := events(t, st, 3)
	assert.Equal(t, all[1].Card, all[2].Card)
	assert.Contains(t, next.Body, `data-key="a"`, "the other card is asked of by itself")
}

// What cannot be is refused, says why, and changes nothing.
func TestNonsenseIsRefused(t *testing.T) {
	st, at := begun(t, "card", "4")
	for why, pairs := range map[string][]string{
		"is nothing that happens at a bench": {"kind", "danced"},
		"no longer in the plan":              {"kind", "done", "step", "panel.0/wash/a77/w9/1"},
		"There is no card 7":                 {"kind", "paused", "card", "6"},
		"is on no bench":                     {"kind", "paused", "card", "600"},
		"21 °C or 70 °F":                     {"kind", "room", "celsius", "warm", "humidity", "50"},
		"look at the thermometer again":      {"kind", "room", "celsius", "451", "humidity", "50"},
		"is no remedy":                       {"kind", "repaired", "step", "x", "fix", "all/of/it"},
	} {
		a := st.Post(at, pairs...)
		assert.Equal(t, http.StatusUnprocessableEntity, a.Status, why)
		assert.Contains(t, webtest.Message(a.Body), why)
		assert.Equal(t, "Cut the panel and lay it in the positioner", says(a), "the bench is shown all the same")
	}
	events(t, st, 1)
	assert.Equal(t, http.StatusNotFound, st.Get("/bench/99").Status)
	assert.Contains(t, st.Get(at+"/trouble").Body, "Nothing is laid yet")
	assert.Contains(t, st.Post("/bench", "rack", "3").Body, "Choose at least one card")
	assert.Contains(t, st.Post("/bench", "card", "1").Body, "Nothing to paint yet")
	assert.Contains(t, st.Post("/bench", "card", "4", "copies-4", "51").Body, "takes 1 to 50 cards")
	assert.Contains(t, st.Post("/bench/timers", "technique", "flat", "paper", "moon", "size", "petal").Body, "paper")
	assert.Equal(t, http.StatusUnprocessableEntity, st.Post("/bench/practice", "seed", "x", "at", "-1").Status)
}

// A card that is changed while it is painted: what is painted stays, the rest follows only
// when it is told to. A deleted card can still be painted to the end.
func TestACardIsChangedMeanwhile(t *testing.T) {
	st, at := begun(t, "card", "4")
	press(st, st.Get(at), " ")
	rev := st.Card(4)
	rev.Card.Name = "Crab, renamed"
	require.NoError(t, st.Store.Save(context.Background(), 4, rev.Seq, rev.Card, "renamed"))
	a := st.Get(at)
	assert.Contains(t, a.Body, "was changed since this run began")
	assert.Equal(t, "Stamp Hermit crab", says(a))
	followed := st.Post(at, "kind", "follows", "card", "0", "of", fmt.Sprint(st.Card(4).Seq))
	assert.NotContains(t, followed.Body, "was changed since this run began")
	assert.Equal(t, "Stamp Hermit crab", says(followed), "what is done stays done")
	bare := st.Card(4)
	for i := range bare.Card.Areas {
		bare.Card.Areas[i].Washes = nil
	}
	require.NoError(t, st.Store.Save(context.Background(), 4, bare.Seq, bare.Card, "no paint any more"))
	for why, of := range map[string]string{"Nothing to paint yet": fmt.Sprint(st.Card(4).Seq), "no longer in the studio": "999"} {
		refused := st.Post(at, "kind", "follows", "card", "0", "of", of)
		assert.Equal(t, http.StatusUnprocessableEntity, refused.Status)
		assert.Contains(t, webtest.Message(refused.Body), why)
	}
	assert.Equal(t, http.StatusUnprocessableEntity, st.Post(at, "kind", "follows", "card", "3", "of", "1").Status)
	require.NoError(t, st.Store.SetState(context.Background(), 4, store.Deleted))
	assert.Equal(t, "Stamp Hermit crab", says(st.Get(at)))
}

// Several cards on one bench say which to take.
func TestSeveralCards(t *testing.T) {
	st, at := begun(t, "card", "6", "copies-6", "2", "card", "4")
	a := st.Get(at)
	assert.Regexp(t, `take card \d`, a.Body)
	next := press(st, a, " ")
	assert.NotEqual(t, a.Body, next.Body)
	spoiled := st.Post(at, "kind", "spoiled", "card", "2")
	assert.Equal(t, http.StatusOK, spoiled.Status)
	assert.NotContains(t, spoiled.Body, "card 3")
}

// The room counts from a sensor too; one that is silent or talks nonsense is told of, and
// the work goes on.
func TestTheRoomSensor(t *testing.T) {
	st, at := begun(t, "card", "4")
	answer := `{"celsius": 26, "humidity": 35}`
	sensor := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) { fmt.Fprint(w, answer) }))
	t.Cleanup(sensor.Close)
	read := func(sensorAt string) string {
		next, err := st.Store.Settings(context.Background())
		require.NoError(t, err)
		next.Settings.Sensor = sensorAt
		require.NoError(t, st.Store.SaveSettings(context.Background(), next.ID, next.Seq, next.Settings, "sensor"))
		d := desk.New(st.Store)
		t.Cleanup(d.Close)
		b := bench.New(d)
		b.ReadRoom(context.Background(), 1)
		if err := b.Sensor(); err != nil {
			return err.Error()
		}
		v, err := b.Show(context.Background(), 1)
		require.NoError(t, err)
		return fmt.Sprintf("%.0f %.0f", v.State.Room.Celsius, 100*v.State.Room.Humidity)
	}
	assert.Equal(t, "26 35", read(sensor.URL))
	answer = `{"celsius": 26.1, "humidity": 35.5}`
	assert.Equal(t, "26 35", read(sensor.URL), "a breath more is no change")
	assert.Contains(t, st.Get(at).Body, "26 °C, 35 %")
	answer = `{"celsius": 2600, "humidity": 35}`
	assert.Contains(t, read(sensor.URL), "outside 5 to 45")
	answer = `<html>`
	assert.Contains(t, read(sensor.URL), "look at its address")
	answer = `{"celsius": 20, "humidity": 40, "at": "2020-01-01T00:00:00Z"}`
	assert.Contains(t, read(sensor.URL), "it counts no more")
	sensor.Close()
	assert.Contains(t, read(sensor.URL), "does not answer")
	assert.Regexp(t, `^\d\d \d\d$`, read(settings.SimulatedSensor))
	assert.Contains(t, st.Get("/standin/room.json").Body, `"simulated":true`)
}

// What was learned is shown in Settings, and forgotten there.
func TestLearnedIsShown(t *testing.T) {
	st := webtest.Demo(t)
	st.Post("/bench/timers", "technique", "flat", "paper", "cotton-cp", "size", "spot", "celsius", "30", "humidity", "20")
	all, err := st.Store.Runs(context.Background(), 1)
	require.NoError(t, err)
	key := "wash"
	time.Sleep(1100 * time.Millisecond)
	st.Post(fmt.Sprintf("/bench/%d", all[0].ID), "kind", "still wet", "card", "0", "step", key, "goal", "dull")
	book, err := st.Store.Seen(context.Background(), 0)
	require.NoError(t, err)
	require.Len(t, book["air"], 1)
	page := st.Get("/settings")
	assert.Contains(t, page.Body, "Cotton cold press 300 gsm dries by air")
	assert.Contains(t, page.Body, "measured by you (1)")
	page = st.Post("/settings/forget", "kind", "air", "name", "cotton cold press 300 gsm")
	assert.NotContains(t, page.Body, "measured by you")
}

// Evenings are cut as asked, leave as a calendar and a table, and say when they cannot be.
func TestEvenings(t *testing.T) {
	st := webtest.Demo(t)
	ready := time.Now().AddDate(0, 0, 30).Format(time.DateOnly)
	ask := "?card=6&minutes=30&ready=" + ready + "&at=19:30"
	page := st.Get("/bench/evenings" + ask)
	n := strings.Count(page.Body, "19:30 <span")
	assert.Greater(t, n, 1)
	cal := st.Get("/bench/evenings.ics" + ask)
	assert.Equal(t, n, strings.Count(cal.Body, "BEGIN:VEVENT"))
	assert.Contains(t, cal.Body, "SUMMARY:Paint Otter in the river\\, sitting 1 of")
	table := st.Get("/bench/evenings.csv" + ask)
	assert.True(t, strings.HasPrefix(table.Body, "sitting,day,begins,minutes,step\n1,"), table.Body[:60])
	for why, q := range map[string]string{
		"written in minutes": "minutes=long", "year, month and day": "minutes=30&ready=tomorrow", "must lie ahead": "minutes=30&ready=2001-01-01",
		"the hour as 19:30": "minutes=30&at=late", "sitting is 10 minutes to 12 hours long": "minutes=1", "not enough evenings left": "minutes=10&ready=" + time.Now().AddDate(0, 0, 1).Format(time.DateOnly),
	} {
		assert.Contains(t, st.Get("/bench/evenings?card=6&"+q).Body, why)
	}
	assert.Equal(t, http.StatusNotFound, st.Get("/bench/evenings?card=x").Status)
	assert.Contains(t, st.Get("/bench/evenings?card=1").Body, "Nothing to paint yet")
}

// A screen hears of what is told on another, and the line is hung up when the program
// closes.
func TestCalls(t *testing.T) {
	st, at := begun(t, "card", "4")
	answer, err := http.Get(st.URL + at + "/calls")
	require.NoError(t, err)
	defer answer.Body.Close()
	lines := bufio.NewScanner(answer.Body)
	next := func() string {
		for lines.Scan() {
			if what, ok := strings.CutPrefix(lines.Text(), "event: "); ok {
				return what
			}
		}
		return "hung up"
	}
	assert.Equal(t, "here", next())
	press(st, st.Get(at), " ")
	assert.Equal(t, "changed", next())
	st.App.HangUp()
	st.App.HangUp()
	assert.Equal(t, "hung up", next())
	assert.Equal(t, http.StatusNotFound, st.Get("/bench/99/calls").Status)
}

// What stains is not lifted by water: it is said, and what it does to the colour is shown.
func TestTroubleWithAStain(t *testing.T) {
	st, at := begun(t, "card", "3")
	id := int64(1)
	d := desk.New(st.Store)
	t.Cleanup(d.Close)
	b := bench.New(d)
	now := time.Now()
	clock := func() time.Time { return now }
	st.Store.SetClock(clock)
	b.SetClock(clock)
	v, err := b.Show(context.Background(), id)
	require.NoError(t, err)
	seen, shown := map[bool]bool{}, false
	for op := range v.State.Ops {
		o := &v.State.Ops[op]
		if o.Step.On == nil || o.Step.Mix == 0 {
			continue
		}
		require.NoError(t, b.Tell(context.Background(), id, run.Event{Kind: run.Done, Card: o.Card, Step: o.Key}))
		now = now.Add(time.Second)
		page := st.Get(fmt.Sprintf("%s/trouble?op=%d&what=too-dark", at, op))
		require.Equal(t, http.StatusOK, page.Status)
		stains := v.State.Plan(op).Stains(o.Step)
		assert.Equal(t, stains, strings.Contains(page.Body, "stain"), v.State.Title(op))
		shown = shown || strings.Contains(page.Body, `class="after"`)
		if seen[stains] = true; len(seen) == 2 && shown {
			return
		}
	}
	assert.True(t, shown, "the board shows what it does to the colour")
	assert.Len(t, seen, 2, "the lantern has paints of both kinds")
}

// A cell of the piece that is painted now is touched on the picture, and told of.
func TestATouchAtTheBench(t *testing.T) {
	st, at := begun(t, "card", "6")
	page := st.Get(at)
	for range 12 {
		if strings.Contains(page.Body, "painted.jpg") {
			break
		}
		page = press(st, page, " ")
	}
	seen := regexp.MustCompile(at + `/painted\.jpg\?op=(\d+)`).FindStringSubmatch(page.Body)
	require.Len(t, seen, 2, says(page))
	touch := at + "/touch?op=" + seen[1] + "&cell="
	a := st.Get(touch + "1")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	for _, with := range []string{"A drop of clean water", "A finger"} {
		assert.Contains(t, a.Body, with)
	}
	pictures := regexp.MustCompile(`src="(`+at+`/touched\.png[^"]*)"`).FindAllStringSubmatch(a.Body, -1)
	require.NotEmpty(t, pictures)
	picture := st.Get(html.UnescapeString(pictures[0][1]))
	assert.Equal(t, http.StatusOK, picture.Status)
	assert.True(t, strings.HasPrefix(picture.Body, "\x89PNG"))
	for _, wrong := range []string{touch + "0", touch + "99999", touch + "x", at + "/touch?op=-1&cell=1", at + "/touch?op=99999&cell=1", at + "/touch"} {
		assert.Equal(t, http.StatusNotFound, st.Get(wrong).Status, wrong)
	}
}
