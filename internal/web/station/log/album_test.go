package log_test

import (
	"archive/zip"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"image"
	"image/jpeg"
	"image/png"
	"net/http"
	"os"
	"regexp"
	"strings"
	"testing"
	"time"

	generator "github.com/invopop/jsonschema"
	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	corerun "chromaqua/core/run"
	"chromaqua/internal/demo"
	"chromaqua/internal/logfile"
	"chromaqua/internal/store"
	"chromaqua/internal/web/webtest"
)

// made is the sample studio with three cards made; the lantern is card 3, the otter 6.
func made(t testing.TB) *webtest.Studio {
	st := webtest.Demo(t)
	require.NoError(t, demo.Made(context.Background(), st.Store))
	return st
}

// A photo stands beside the plan, area by area; others are kept as pictures, with why.
func TestPhotosInTheLog(t *testing.T) {
	st := made(t)
	body := st.Get("/cards/6/log").Body
	for _, want := range []string{"simulated: the practice camera", "as it came out", "as planned", "<strong>Sky</strong>", "<strong>River</strong>", "Second pull of the ink", "The best water so far.", `value="kept"`} {
		assert.Contains(t, body, want)
	}
	photos, err := st.Store.PhotosOf(t.Context(), 6)
	require.NoError(t, err)
	require.Len(t, photos, 1)
	run := fmt.Sprint(photos[0].Run)
	for _, q := range []string{"", "?squared"} {
		a := st.Get(fmt.Sprintf("/cards/6/photos/%d.jpg%s", photos[0].ID, q))
		m, err := jpeg.Decode(strings.NewReader(a.Body))
		require.NoError(t, err)
		assert.Greater(t, m.Bounds().Dx(), 300)
	}

	// A picture of something else is kept, and says why it is not held against the plan.
	grey := image.NewGray(image.Rect(0, 0, 900, 700))
	for i := range grey.Pix {
		grey.Pix[i] = uint8(60 + i%900/8)
	}
	var cat bytes.Buffer
	require.NoError(t, png.Encode(&cat, grey))
	a := st.Send("/cards/6/photos", "cat.png", cat.Bytes(), "run", run)
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	assert.Contains(t, a.Body, "Kept as a picture: ")
	events, err := st.Store.Events(t.Context(), photos[0].Run, 0)
	require.NoError(t, err)
	assert.Equal(t, corerun.Pictured, events[len(events)-1].Kind, "the bench is told")
	assert.Contains(t, st.Get("/bench/"+run).Body, "Take a photo, in the log of Otter in the river")
	a = st.Post("/cards/6/photos/remove", "photo", fmt.Sprint(photos[0].ID+3))
	assert.Equal(t, http.StatusNotFound, a.Status, "a photo of another card, or none")

	for want, send := range map[string]func() webtest.Answer{
		"not a PNG, JPEG": func() webtest.Answer { return st.Send("/cards/6/photos", "x.txt", []byte("hello"), "run", run) },
		"HEIC": func() webtest.Answer {
			return st.Send("/cards/6/photos", "x.heic", []byte("\x00\x00\x00\x18ftypheic\x00\x00\x00\x00"), "run", run)
		},
		"say which making":  func() webtest.Answer { return st.Send("/cards/6/photos", "cat.png", cat.Bytes()) },
		"the file is empty": func() webtest.Answer { return st.Send("/cards/6/photos", "x.png", nil, "run", run) },
		"that piece is gone": func() webtest.Answer {
			return st.Send("/cards/6/photos", "cat.png", cat.Bytes(), "run", run, "piece", "p9")
		},
		"damaged or cut short": func() webtest.Answer {
			return st.Send("/cards/6/photos", "x.png", cat.Bytes()[:cat.Len()/2], "run", run)
		},
	} {
		a := send()
		assert.GreaterOrEqual(t, a.Status, 400, want)
		assert.Contains(t, webtest.Message(a.Body), want)
	}

	// So many and no more.
	for range store.MaxPhotos {
		if _, err := st.Store.AddPhoto(t.Context(), store.Photo{Run: photos[0].Run, Card: 6, Piece: "panel", Data: cat.Bytes()}); err != nil {
			assert.ErrorIs(t, err, store.ErrManyPhotos)
			break
		}
	}
	a = st.Send("/cards/6/photos", "cat.png", cat.Bytes(), "run", run)
	assert.Contains(t, webtest.Message(a.Body), "take one away first")
	st.Post("/cards/6/photos/remove", "photo", fmt.Sprint(photos[0].ID))
	assert.NotContains(t, st.Get("/cards/6/log").Body, "as it came out")
}

// What was made without the bench is entered by hand, changed, photographed, taken out again.
func TestEntriesByHand(t *testing.T) {
	st := webtest.Demo(t)
	st.Read(4)
	a := st.Post("/cards/4/entry", "day", "2026-11-02", "copies", "3", "minutes", "95", "notes", "By the window.\r\nTwo brushes.", "turned", "soft", "went", "to the pier")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	for _, want := range []string{"2026-11-02, 3 copies", "95 min", "By the window.", "Soft", "To the pier", "entered by hand"} {
		assert.Contains(t, a.Body, want)
	}
	a = st.Post("/cards/4/photos?practice", "entry", "1")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	assert.Contains(t, a.Body, "as it came out")
	st.Post("/cards/4/entry", "entry", "1", "day", "2026-11-03", "copies", "1", "turned", "=hard")
	all, err := st.Store.EntriesOf(t.Context(), 4)
	require.NoError(t, err)
	assert.Equal(t, []store.Entry{{ID: 1, Card: 4, Day: "2026-11-03", Copies: 1, Turned: "=hard"}}, all)
	assert.Contains(t, st.Get("/cards/4/log.csv").Body, "'=hard", "a table is safe in a spreadsheet")

	tomorrow := time.Now().AddDate(0, 0, 2).Format(time.DateOnly)
	for want, pairs := range map[string][]string{
		"still to come":       {"day", tomorrow},
		"written as":          {"day", "yesterday"},
		"too long ago":        {"day", "0026-11-02"},
		"write numbers":       {"day", "2026-11-02", "copies", "many"},
		"cards are made at":   {"day", "2026-11-02", "copies", "9000"},
		"0 to 100000 minutes": {"day", "2026-11-02", "minutes", "-5"},
		"at most 2000":        {"day", "2026-11-02", "turned", strings.Repeat("x", 2001)},
	} {
		a := st.Post("/cards/4/entry", pairs...)
		assert.GreaterOrEqual(t, a.Status, 400, want)
		assert.Contains(t, webtest.Message(a.Body), want)
	}
	st.Post("/cards/4/entry", "entry", "1", "day", "2026-11-03", "remove", "true")
	photos, err := st.Store.PhotosOf(t.Context(), 4)
	require.NoError(t, err)
	assert.Empty(t, photos, "its photos go with it")
}

// A sister card has what was learned; the making is told by its source.
func TestSisterCards(t *testing.T) {
	st := made(t)
	photos, err := st.Store.PhotosOf(t.Context(), 3)
	require.NoError(t, err)
	var reading map[string]any
	require.NoError(t, json.Unmarshal(photos[0].Reading, &reading))
	area := st.Card(3).Card.Areas[1]
	reading["areas"] = []any{map[string]any{"id": area.ID, "name": area.Name, "verdict": "paler", "sure": true, "of": 1}}
	photos[0].Reading, err = json.Marshal(reading)
	require.NoError(t, err)
	photos[0].Data = []byte("x")
	_, err = st.Store.AddPhoto(t.Context(), photos[0])
	require.NoError(t, err)
	body := st.Get("/cards/3/log").Body
	lesson := regexp.MustCompile(`name="lesson" value="(strength-[^"]+)"`).FindStringSubmatch(body)
	require.NotEmpty(t, lesson, "the latest photo teaches")
	a := st.Post("/cards/3/sister", "run", fmt.Sprint(photos[0].Run), "lesson", lesson[1], "copies", "4")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	all, _, err := st.Store.Cards(t.Context(), store.Shown)
	require.NoError(t, err)
	last := st.Card(int64(len(all))).Card
	assert.Equal(t, "Storm lantern, again", last.Name)
	assert.Equal(t, 4, last.Copies)
	assert.NotEqual(t, area.Washes, last.Areas[1].Washes)
}

// What a making used comes off the shelf once, and is undone at Paper.
func TestTakenOffTheShelf(t *testing.T) {
	st := made(t)
	a := st.Post("/paper/edit", "edit", "supply-add", "what", "adhesive", "name", "strong double-sided tape", "left", "500", "unit", "cm", "price", "0.02")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	photos, err := st.Store.PhotosOf(t.Context(), 3)
	require.NoError(t, err)
	run := fmt.Sprint(photos[0].Run)
	body := st.Get("/cards/3/log").Body
	assert.Contains(t, body, "Take it off the shelf")
	assert.Contains(t, body, "whose price is known")
	a = st.Post("/cards/3/used", "run", run)
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	assert.Contains(t, a.Body, "It has come off the shelf")
	left := st.Paper().Stock.Supplies[0].Left
	assert.InDelta(t, 440, left, 30)
	assert.Contains(t, webtest.Message(st.Post("/cards/3/used", "run", run).Body), "off the shelf already")
	st.Post("/paper/undo")
	assert.InDelta(t, 500, st.Paper().Stock.Supplies[0].Left, 1e-9)
	st.Post("/paper/edit", "edit", "supply-left", "id", "s1", "left", "3")
	assert.Contains(t, st.Get("/cards/3/bench").Body, "To buy first")
}

const schemaFile = "../../../../docs/log-file.schema.json"

// The log leaves as JSON that holds to its published schema, and in the file for a friend,
// with photos if wanted; whom it went to stays at home.
func TestTheLogLeaves(t *testing.T) {
	s := (&generator.Reflector{Anonymous: true}).Reflect(&logfile.File{})
	s.Title = fmt.Sprintf("Chromaqua log, version %d", logfile.Version)
	doc, err := json.MarshalIndent(s, "", "  ")
	require.NoError(t, err)
	doc = append(doc, '\n')
	if os.Getenv("CHROMAQUA_UPDATE") != "" {
		require.NoError(t, os.WriteFile(schemaFile, doc, 0o644))
	}
	published, err := os.ReadFile(schemaFile)
	require.NoError(t, err)
	assert.Equal(t, string(doc), string(published), "run the tests with CHROMAQUA_UPDATE=1, and read what changed")
	parsed, err := jsonschema.UnmarshalJSON(bytes.NewReader(published))
	require.NoError(t, err)
	c := jsonschema.NewCompiler()
	require.NoError(t, c.AddResource("log.json", parsed))
	schema, err := c.Compile("log.json")
	require.NoError(t, err)
	holds := func(data []byte) {
		v, err := jsonschema.UnmarshalJSON(bytes.NewReader(data))
		require.NoError(t, err)
		assert.NoError(t, schema.Validate(v))
	}

	st := made(t)
	st.Post("/cards/3/entry", "day", "2026-10-01", "copies", "2", "notes", "By hand.")
	log := []byte(st.Get("/cards/3/log.json").Body)
	holds(log)
	var f logfile.File
	require.NoError(t, json.Unmarshal(log, &f))
	require.Len(t, f.Makings, 2)
	assert.Equal(t, "2026-10-01", f.Makings[1].Begun, "the latest first")
	assert.Equal(t, "given to the north shore", f.Makings[0].Went)
	assert.NotNil(t, f.Makings[0].Pictures[0].Reading)

	names := func(query string) (out []string, log []byte) {
		body := st.Get("/cards/3/card.zip" + query).Body
		z, err := zip.NewReader(strings.NewReader(body), int64(len(body)))
		require.NoError(t, err)
		for _, f := range z.File {
			out = append(out, f.Name)
			if f.Name == "log.json" {
				in, err := f.Open()
				require.NoError(t, err)
				var buf bytes.Buffer
				_, err = buf.ReadFrom(in)
				require.NoError(t, err)
				log = buf.Bytes()
			}
		}
		return out, log
	}
	plain, _ := names("")
	with, inside := names("?log=1&photos=1")
	assert.NotContains(t, plain, "log.json")
	assert.Contains(t, with, "log.json")
	assert.Len(t, with, len(plain)+2, "and one photo")
	holds(inside)
	assert.NotContains(t, string(inside), "north shore")
	assert.Equal(t, http.StatusOK, st.Send("/import", "friend.card.zip", []byte(st.Get("/cards/3/card.zip?log=1&photos=1").Body)).Status)
	pdf := st.Get("/cards/3/instructions.pdf").Body
	assert.True(t, strings.HasPrefix(pdf, "%PDF"))
}
