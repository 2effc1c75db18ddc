// Package webtest runs the application for tests: over HTTP as a form would use it, and
// in a headless browser as a maker does.
package webtest

import (
	"bytes"
	"context"
	"database/sql"
	"errors"
	"fmt"
	"image/png"
	"io"
	"log/slog"
	"mime/multipart"
	"net/http"
	"net/http/httptest"
	"net/url"
	"os"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/panel/paneltest"
	"chromaqua/internal/demo"
	"chromaqua/internal/store"
	"chromaqua/internal/web"
	"chromaqua/internal/web/station"
)

// Studio is a running application on a studio of its own.
type Studio struct {
	T     testing.TB
	Store *store.Store
	App   *web.Server
	URL   string
	Path  string // of the studio file
}

// Open runs the application on a studio file, with more stations after its own.
func Open(t testing.TB, path string, more ...station.Entry) *Studio {
	s, err := store.Open(context.Background(), path)
	require.NoError(t, err)
	app := web.New(s, slog.New(slog.NewTextHandler(io.Discard, nil)), more...)
	srv := httptest.NewServer(app)
	t.Cleanup(func() { srv.Close(); app.Close(); _ = s.Close() })
	return &Studio{t, s, app, srv.URL, path}
}

// New runs the application on an empty studio.
func New(t testing.TB) *Studio { return Open(t, filepath.Join(t.TempDir(), "studio.db")) }

// demoFile is the sample studio, made once for all tests of a package.
var demoFile = sync.OnceValues(func() ([]byte, error) {
	dir, err := os.MkdirTemp("", "demo-*")
	if err != nil {
		return nil, err
	}
	defer os.RemoveAll(dir)
	name := filepath.Join(dir, "demo.db")
	s, err := store.Open(context.Background(), name)
	if err != nil {
		return nil, err
	}
	if err := errors.Join(demo.Fill(context.Background(), s), s.Close()); err != nil {
		return nil, err
	}
	return os.ReadFile(name)
})

// Demo runs the application on a copy of the sample studio.
func Demo(t testing.TB, more ...station.Entry) *Studio {
	data, err := demoFile()
	require.NoError(t, err)
	name := filepath.Join(t.TempDir(), "demo.db")
	require.NoError(t, os.WriteFile(name, data, 0o600))
	return Open(t, name, more...)
}

// Answer is a page that came back.
type Answer struct {
	Status int
	Path   string // after redirects
	Body   string
}

// Do sends a request.
func (st *Studio) Do(req *http.Request) Answer {
	resp, err := http.DefaultClient.Do(req)
	require.NoError(st.T, err)
	defer resp.Body.Close()
	body, err := io.ReadAll(resp.Body)
	require.NoError(st.T, err)
	return Answer{resp.StatusCode, resp.Request.URL.Path, string(body)}
}

// Get asks for a page.
func (st *Studio) Get(path string) Answer {
	req, err := http.NewRequest(http.MethodGet, st.URL+path, nil)
	require.NoError(st.T, err)
	return st.Do(req)
}

// Post sends a form given as name, value, name, value …; unless it names another, it is
// made on the revision that is shown.
func (st *Studio) Post(path string, pairs ...string) Answer {
	form := url.Values{"base": {st.Base(path)}}
	for i := 0; i+1 < len(pairs); i += 2 {
		form.Add(pairs[i], pairs[i+1])
		if pairs[i] == "base" {
			form.Set("base", pairs[i+1])
		}
	}
	req, err := http.NewRequest(http.MethodPost, st.URL+path, strings.NewReader(form.Encode()))
	require.NoError(st.T, err)
	req.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	return st.Do(req)
}

// Base is the revision that a page with forms for a path shows now.
func (st *Studio) Base(path string) string {
	ctx := context.Background()
	part := strings.Split(strings.Trim(path, "/"), "/")
	var head store.Head
	var err error
	switch part[0] {
	case "cards":
		if len(part) > 1 {
			var rev *store.Revision
			number, _, _ := strings.Cut(part[1], ".") // of a piece
			id, _ := strconv.ParseInt(number, 10, 64) // 0 where there is no card
			if rev, err = st.Store.Card(ctx, id); err == nil {
				head = rev.Head
			}
		}
	case "paper", "cut":
		var rev *store.PaperRevision
		if rev, err = st.Store.Paper(ctx); err == nil {
			head = rev.Head
		}
	case "settings":
		var rev *store.SettingsRevision
		if rev, err = st.Store.Settings(ctx); err == nil {
			head = rev.Head
		}
	case "shelf", "swatches":
		head, err = st.Store.ShelfHead(ctx)
	case "library":
		head, err = st.Store.LibraryHead(ctx)
	case "tests":
		head, err = st.Store.TestsHead(ctx)
	}
	if err != nil {
		return "1" // a page that cannot be shown has no forms; what is sent is refused
	}
	return strconv.FormatInt(head.Seq, 10)
}

// Send posts a file with fields; see [Studio.Post].
func (st *Studio) Send(path, name string, data []byte, pairs ...string) Answer {
	pairs = append(pairs, "base", st.Base(path))
	var buf bytes.Buffer
	m := multipart.NewWriter(&buf)
	for i := 0; i+1 < len(pairs); i += 2 {
		require.NoError(st.T, m.WriteField(pairs[i], pairs[i+1]))
	}
	f, err := m.CreateFormFile("file", name)
	require.NoError(st.T, err)
	_, err = f.Write(data)
	require.NoError(st.T, err)
	require.NoError(st.T, m.Close())
	req, err := http.NewRequest(http.MethodPost, st.URL+path, &buf)
	require.NoError(st.T, err)
	req.Header.Set("Content-Type", m.FormDataContentType())
	return st.Do(req)
}

// Spoil changes the studio file behind the program's back.
func (st *Studio) Spoil(queries ...string) {
	db, err := sql.Open("sqlite", st.Path)
	require.NoError(st.T, err)
	defer db.Close()
	for _, q := range queries {
		_, err := db.Exec(q)
		require.NoError(st.T, err)
	}
}

// Card returns a card as it is stored.
func (st *Studio) Card(id int64) *store.Revision {
	r, err := st.Store.Card(context.Background(), id)
	require.NoError(st.T, err)
	return r
}

// GridPNG is a scan of a grid of 3 × 2 cells.
func GridPNG(t testing.TB) []byte {
	var buf bytes.Buffer
	require.NoError(t, png.Encode(&buf, paneltest.Scan(3, 2)))
	return buf.Bytes()
}

// WithGrid makes card 1 with an uploaded grid of 3 × 2 cells.
func WithGrid(t testing.TB) *Studio {
	st := New(t)
	a := st.Post("/cards", "name", "Grid", "unit", "mm", "format", "a2", "fold", "side")
	require.Equal(t, "/cards/1/format", a.Path, a.Body)
	a = st.Send("/cards/1/upload", "grid.scan.png", GridPNG(t), "back", "line", "width", "64")
	require.Equal(t, "/cards/1/line", a.Path, Message(a.Body))
	st.Read(1)
	return st
}

var alert = regexp.MustCompile(`(?s)<p class="message" role="alert">.*?</svg>(.*?)</p>`)

var waiting = regexp.MustCompile(`(?s)<div class="waiting".*?</div>`)

// BoardSays returns what stands where the picture would be.
func BoardSays(body string) string { return waiting.FindString(body) }

// Message returns the message a page shows.
func Message(body string) string {
	if m := alert.FindStringSubmatch(body); m != nil {
		return m[1]
	}
	return ""
}

// Read waits until a card's cells have been found.
func (st *Studio) Read(id int64) {
	require.Eventually(st.T, func() bool { return strings.Contains(st.Get(fmt.Sprintf("/cards/%d/reading", id)).Body, `"done":true`) }, Eventually, Tick)
}

// Paper returns the paper on hand.
func (st *Studio) Paper() *store.PaperRevision {
	r, err := st.Store.Paper(context.Background())
	require.NoError(st.T, err)
	return r
}

// Library returns the images of the studio.
func (st *Studio) Library(t testing.TB) []store.Image {
	all, err := st.Store.Library(t.Context())
	require.NoError(t, err)
	return all
}

// Painted is card 1 with two areas: four cells that touch, with a wash and a drop-in,
// and two with one wash.
func Painted(t testing.TB) (*Studio, func(pairs ...string) Answer) {
	st := WithGrid(t)
	edit := func(pairs ...string) Answer {
		a := st.Post("/cards/1/edit", append([]string{"back", "colour"}, pairs...)...)
		return a
	}
	for i, cells := range []string{"2, 3, 5, 6", "4, 7"} {
		a := edit("edit", "area-new", "cells", cells, "name", []string{"Petals", "Sand"}[i])
		require.Equal(t, http.StatusOK, a.Status, Message(a.Body))
		edit(Dip(fmt.Sprintf("a%d", i+1))...)
	}
	edit("edit", "wash-add", "area", "a1")
	edit("edit", "technique", "area", "a1", "wash", "1", "technique", "wet-on-wet")
	return st, edit
}

// At posts changes of card 1 from its Format station, each of which must
// succeed.
func (st *Studio) At(t testing.TB, changes ...[]string) *card.Card {
	for _, pairs := range changes {
		a := st.Post("/cards/1/edit", append([]string{"back", "format"}, pairs...)...)
		require.Equal(t, http.StatusOK, a.Status, "%v: %s", pairs, Message(a.Body))
	}
	return st.Card(1).Card
}

// Plain is a page without the mark-up of fractions, and with single spaces, as it is read.
func Plain(body string) string {
	return strings.Join(strings.Fields(regexp.MustCompile(`</?(span|tspan)[^>]*>`).ReplaceAllString(body, "")), " ")
}

// Inches is a size in inches.
func Inches(w, h float64) length.Size {
	return length.Size{W: length.Length(w * float64(length.Inch)), H: length.Length(h * float64(length.Inch))}
}

// Dip is the form of the first dip on an area, into ultramarine.
func Dip(area string) []string {
	return []string{"edit", "dip", "area", area, "wash", "0", "ci", "PB29", "parts", "1"}
}
