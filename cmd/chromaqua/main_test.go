package main

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"image"
	"image/png"
	"io"
	"mime/multipart"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/order"
	"chromaqua/core/panel/paneltest"
	"chromaqua/internal/store"
)

// The test binary stands in for the program when it is started with this set,
// so that a test can kill it.
const asProgram = "CHROMAQUA_TEST_AS_PROGRAM"

func TestMain(m *testing.M) {
	if os.Getenv(asProgram) != "" {
		main()
	}
	os.Exit(m.Run())
}

// call runs a command line with text on standard input.
func call(in string, args ...string) (code int, out, errOut string) {
	var o, e bytes.Buffer
	code = run(context.Background(), args, strings.NewReader(in), &o, &e)
	return code, o.String(), e.String()
}

func write(t testing.TB, name string, data []byte) string {
	file := filepath.Join(t.TempDir(), name)
	require.NoError(t, os.WriteFile(file, data, 0o600))
	return file
}

func gridPNG(t testing.TB) []byte {
	var buf bytes.Buffer
	require.NoError(t, png.Encode(&buf, paneltest.Scan(3, 2)))
	return buf.Bytes()
}

func TestExitCodes(t *testing.T) {
	good := write(t, "grid.png", gridPNG(t))
	for _, tc := range []struct {
		code int
		args string
		says string
	}{
		{done, "--help", "Usage"},
		{done, "regions --help", "--labels"},
		{done, "mix --help", "substrate"},
		{done, "order --help", "--iterations"},
		{done, "serve --help", "--addr"},
		{done, "cut --help", "--ms"},
		{done, "cut ../../core/cutting/testdata/r077.json --iterations 20", `"proven":true`},
		{failed, "cut main_test.go", "reading the instance"},
		{done, "demo --help", "--reset"},
		{done, "backup --help", "--data"},
		{done, "regions " + good, `"cells"`},
		{badCall, "fly", "unknown command"},
		{badCall, "regions", "accepts 1 arg"},
		{badCall, "regions a b", "accepts 1 arg"},
		{badCall, "regions --dpi four " + good, "invalid argument"},
		{badCall, "order --ms", "flag needs an argument"},
		{failed, "regions nothing.png", "no such file"},
		{failed, "regions main_test.go", "not a PNG, JPEG, TIFF, WebP or SVG"},
		{failed, "regions --dpi 0 " + good, "dpi is outside"},
		{failed, "order main_test.go", "reading the instance"},
		{failed, "mix main_test.go", "reading the request"},
		{failed, "backup x.db --data /nowhere/studio.db", "no studio"},
		{failed, "serve --data /proc/version", "studio file"},
	} {
		code, out, errOut := call("", strings.Fields(tc.args)...)
		assert.Equal(t, tc.code, code, "chromaqua %s: %s", tc.args, errOut)
		assert.Contains(t, out+errOut, tc.says, "chromaqua %s", tc.args)
		if tc.code != done {
			assert.Empty(t, out, "chromaqua %s: what failed prints no answer", tc.args)
		}
	}
}

func TestRegions(t *testing.T) {
	dir := t.TempDir()
	in := write(t, "grid.png", gridPNG(t))
	labels, doc := filepath.Join(dir, "labels.png"), filepath.Join(dir, "cells.json")
	code, out, errOut := call("", "regions", "--labels", labels, in, "--dpi", "300", "--json", doc)
	require.Equal(t, done, code, errOut)
	assert.Empty(t, out)

	data, err := os.ReadFile(doc)
	require.NoError(t, err)
	var got regionsDoc
	require.NoError(t, json.Unmarshal(data, &got))
	assert.Len(t, got.Cells, 7)
	assert.NotEmpty(t, got.Neighbours)
	for _, c := range got.Cells {
		assert.NotEmpty(t, c.Outline)
		assert.Equal(t, c.Outside, len(c.Holes) > 0, "only the outside has a hole")
	}

	f, err := os.Open(labels)
	require.NoError(t, err)
	defer f.Close()
	m, err := png.Decode(f)
	require.NoError(t, err)
	g, ok := m.(*image.Gray16)
	require.True(t, ok, "a label map is 16-bit grey")
	assert.Equal(t, paneltest.Scan(3, 2).Bounds(), g.Bounds())
	for _, c := range got.Cells {
		at := func(mm float64) int { return int(mm * 300 / 25.4) }
		assert.Equal(t, uint16(c.ID), g.Gray16At(at(c.Label.X), at(c.Label.Y)).Y)
	}
}

func TestMix(t *testing.T) {
	const one = `{"layers": [{"parts": [{"ci": "PB29", "parts": 2}, {"ci": "PV19"}], "load": "milk"}]}`
	code, out, errOut := call(one, "mix", "-")
	require.Equal(t, done, code, errOut)
	var a mixResult
	require.NoError(t, json.Unmarshal([]byte(out), &a))

	// Two coats of half the load are one of the whole; an array answers in kind.
	code, out, errOut = call(`[`+one+`, {"substrate": {"paper": "white"}, "layers": [{"parts": [{"ci": "PB29", "parts": 4}, {"ci": "PV19", "parts": 2}], "load": 0.5, "coats": 2}]}]`, "mix", "-")
	require.Equal(t, done, code, errOut)
	var two []mixResult
	require.NoError(t, json.Unmarshal([]byte(out), &two))
	require.Len(t, two, 2)
	assert.Equal(t, a, two[0])
	assert.InDeltaSlice(t, a.Lab[:], two[1].Lab[:], 1e-9)
	assert.Equal(t, a.SRGB, two[1].SRGB)

	// A substrate may be a spectrum; no layer leaves it as it is.
	code, out, errOut = call(`{"substrate": {"nm": [380, 730], "R": [0.5, 0.5]}}`, "mix", "-")
	require.Equal(t, done, code, errOut)
	require.NoError(t, json.Unmarshal([]byte(out), &a))
	assert.InDelta(t, 76.07, a.Lab[0], 0.01, "L* of half the light")
}

func TestMixRefuses(t *testing.T) {
	for in, why := range map[string]string{
		``:                              "reading the request",
		`{"layer": []}`:                 "layer",
		`{"wetness": 2}`:                "wetness",
		`{"substrate": {"paper": "x"}}`: "no paper",
		`{"substrate": {"paper": "white", "nm": [1], "R": [1]}}`:              "not both",
		`{"layers": [{"parts": [{"ci": "PB999"}], "load": 1}]}`:               "PB999",
		`{"layers": [{"parts": [{"K": [1], "S": [1]}], "load": 1}]}`:          "36 numbers",
		`{"layers": [{"parts": [], "load": 1}]}`:                              "layer 1",
		`{"layers": [{"parts": [{"ci": "PB29"}], "load": -1}]}`:               "load",
		`{"layers": [{"parts": [{"ci": "PB29"}], "load": "soup"}]}`:           "soup",
		`{"layers": [{"parts": [{"ci": "PB29"}], "load": []}]}`:               "a number or a strength",
		`{"layers": [{"parts": [{"ci": "PB29", "K": [1]}], "load": 1}]}`:      "not both",
		`[{"layers": [{"parts": [{"ci": "PB29", "parts": -1}], "load": 1}]}]`: "mix 1",
		`{"wetness": 0} {"wetness": 0}`:                                       "array",
	} {
		code, out, errOut := call(in, "mix", "-")
		assert.Equal(t, failed, code, in)
		assert.Empty(t, out)
		assert.Contains(t, errOut, why, in)
	}
}

func TestFold(t *testing.T) {
	code, out, errOut := call(`{"format": "a2", "fold": "gate", "clearance": "1/8 in", "unit": "in"}`, "fold", "-")
	require.Equal(t, done, code, errOut)
	var a foldAnswer
	require.NoError(t, json.Unmarshal([]byte(out), &a))
	assert.Equal(t, "8 7/16 × 5 1/2 in", a.Blank.Size.With(length.Inches))
	assert.Len(t, a.Blank.Scores, 2)
	assert.Equal(t, "A2", a.Fits[0].Envelope)
	assert.Equal(t, "7 11/16 in", a.Square.Paper.W.With(length.Inches))
	assert.Len(t, a.Strip.Creases, 2)
	assert.Contains(t, out, `"8 7/16 in"`, "lengths are exact text")
	_, out, _ = call(`{"format": "a2", "strip": "6 in"}`, "fold", "-")
	assert.Contains(t, out, "too narrow", "what cannot be says why, the rest is still told")
	for in, why := range map[string]string{
		`{}`:                                          "half an inch",
		`{"format": "z9"}`:                            "no format",
		`{"format": "a2", "fold": "zig"}`:             "no fold",
		`{"front": {"w": "3/0", "h": "4 in"}}`:        "reading the card",
		`{"format": "a2", "thickness": "9 in"}`:       "an inch thick",
		`{"format": "a2", "fold": "side", "size": 1}`: "size",
	} {
		code, out, errOut := call(in, "fold", "-")
		assert.Equal(t, failed, code, in)
		assert.Empty(t, out)
		assert.Contains(t, errOut, why, in)
	}
}

func TestOrder(t *testing.T) {
	code, out, errOut := call("", "order", "../../core/order/solver/testdata/a1.json", "--iterations", "20000", "--seed", "7")
	require.Equal(t, done, code, errOut)
	var s order.Schedule
	require.NoError(t, json.Unmarshal([]byte(out), &s))
	assert.EqualValues(t, 1930, s.Makespan)
	_, again, _ := call("", "order", "../../core/order/solver/testdata/a1.json", "--iterations", "20000", "--seed", "7")
	assert.Equal(t, out, again, "iterations and seed decide")
	code, _, errOut = call("", "order", "../../core/order/solver/testdata/a1.json", "--iterations", "5", "--ms", "5")
	assert.NotEqual(t, done, code, errOut)
}

func freeAddr(t testing.TB) string {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer l.Close()
	return l.Addr().String()
}

// program starts the program as a process of its own and waits until it
// answers.
func program(t *testing.T, args ...string) (*exec.Cmd, string) {
	addr := freeAddr(t)
	c := exec.Command(os.Args[0], append(args, "--addr", addr)...)
	c.Env = append(os.Environ(), asProgram+"=1")
	require.NoError(t, c.Start())
	t.Cleanup(func() { _ = c.Process.Kill(); _ = c.Wait() })
	require.Eventually(t, func() bool {
		r, err := http.Get("http://" + addr + "/")
		if err == nil {
			r.Body.Close()
		}
		return err == nil
	}, 3*time.Minute, 20*time.Millisecond) // the race detector makes the samples slow to read
	return c, "http://" + addr
}

func body(t *testing.T, url string) string {
	r, err := http.Get(url)
	require.NoError(t, err)
	defer r.Body.Close()
	b, err := io.ReadAll(r.Body)
	require.NoError(t, err)
	return string(b)
}

func TestDemoStartsAndResets(t *testing.T) {
	data := filepath.Join(t.TempDir(), "demo.db")
	c, url := program(t, "demo", "--data", data)
	assert.Contains(t, body(t, url+"/"), "Storm lantern")
	_, err := http.PostForm(url+"/cards/2/edit", map[string][]string{"edit": {"name"}, "name": {"Scribbled over"}, "back": {"format"}, "base": {"1"}})
	require.NoError(t, err)
	require.NoError(t, c.Process.Signal(syscall.SIGTERM))
	require.NoError(t, c.Wait(), "a told program closes in peace")

	c, url = program(t, "demo", "--data", data)
	assert.Contains(t, body(t, url+"/"), "Scribbled over", "what was done stays")
	require.NoError(t, c.Process.Kill())
	_ = c.Wait()

	_, url = program(t, "demo", "--reset", "--data", data)
	assert.NotContains(t, body(t, url+"/"), "Scribbled over")

	// A reset deletes studios only.
	letter := write(t, "letter.txt", []byte("Dear aunt, the paints arrived and they are lovely, thank you."))
	code, _, errOut := call("", "demo", "--reset", "--data", letter)
	assert.Equal(t, failed, code)
	assert.Contains(t, errOut, "not reset")
	_, err = os.Stat(letter)
	assert.NoError(t, err)
}

// The program is killed while card files come in: afterwards each card is there
// whole or not at all.
func TestKilledInTheMiddleOfImports(t *testing.T) {
	data := filepath.Join(t.TempDir(), "studio.db")
	c, url := program(t, "serve", "--data", data)
	file := cardFile(t)
	answered := make(chan int)
	go func() {
		n := 0
		for {
			var buf bytes.Buffer
			m := multipart.NewWriter(&buf)
			f, _ := m.CreateFormFile("file", "x.zip")
			_, _ = f.Write(file)
			_ = m.Close()
			r, err := http.Post(url+"/import", m.FormDataContentType(), &buf)
			if err != nil {
				answered <- n
				return
			}
			r.Body.Close()
			n++
		}
	}()
	time.Sleep(400 * time.Millisecond)
	require.NoError(t, c.Process.Kill())
	_ = c.Wait()
	confirmed := <-answered

	s, err := store.Open(context.Background(), data)
	require.NoError(t, err)
	defer s.Close()
	cards, _, err := s.Cards(context.Background(), store.Shown)
	require.NoError(t, err)
	assert.GreaterOrEqual(t, len(cards), confirmed, "what was confirmed is kept")
	for _, r := range cards {
		_, err := s.Image(context.Background(), r.Card.Line().Image)
		require.NoError(t, err, "a card has its image")
	}
}

func TestBackup(t *testing.T) {
	dir := t.TempDir()
	s, err := store.Open(context.Background(), filepath.Join(dir, "studio.db"))
	require.NoError(t, err)
	_, err = s.Create(context.Background(), card.New("Kept", length.Inches), "made")
	require.NoError(t, err)
	require.NoError(t, s.Close())
	to := filepath.Join(dir, "copy.db")
	code, _, errOut := call("", "backup", to, "--data", filepath.Join(dir, "studio.db"))
	require.Equal(t, done, code, errOut)
	code, _, errOut = call("", "backup", to, "--data", filepath.Join(dir, "studio.db"))
	assert.Equal(t, failed, code)
	assert.Contains(t, errOut, "exists already")
}

func TestAPortInUse(t *testing.T) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer l.Close()
	code, _, errOut := call("", "serve", "--addr", l.Addr().String(), "--data", filepath.Join(t.TempDir(), "s.db"))
	assert.Equal(t, failed, code)
	assert.Contains(t, errOut, "running already")
}

func TestRecipe(t *testing.T) {
	type answer []struct {
		Parts []struct {
			CI    string `json:"ci"`
			Parts int    `json:"parts"`
		} `json:"parts"`
		Load string  `json:"load"`
		SRGB string  `json:"srgb"`
		DE00 float64 `json:"dE00"`
	}
	code, out, errOut := call(`{"target": "#7a8fc2", "paints": ["PB29", "PV19", "PBr7"], "substrate": {"paper": "white"}, "max_paints": 2}`, "recipe", "-")
	require.Zero(t, code, errOut)
	var got answer
	require.NoError(t, json.Unmarshal([]byte(out), &got))
	require.NotEmpty(t, got)
	for _, r := range got {
		assert.LessOrEqual(t, len(r.Parts), 2)
		for _, p := range r.Parts {
			assert.Contains(t, []string{"PB29", "PV19", "PBr7"}, p.CI)
		}
		assert.Regexp(t, "^#[0-9a-f]{6}$", r.SRGB)
	}
	assert.Less(t, got[0].DE00, 11.0)
	code, out, _ = call(`{"target": "#7a8fc2"}`, "recipe", "-")
	require.Zero(t, code)
	require.NoError(t, json.Unmarshal([]byte(out), &got))
	assert.Less(t, got[0].DE00, 3.0, "from all paints it comes nearer")
	for why, in := range map[string]string{
		"is no colour":     `{"target": "blue"}`,
		"no pigment":       `{"target": "#000000", "paints": ["PX1"]}`,
		"no paints":        `{"target": "#000000", "paints": []}`,
		"one to 3 paints":  `{"target": "#000000", "max_paints": 9}`,
		"there is no":      `{"target": "#000000", "substrate": {"paper": "blue"}}`,
		"reading the requ": `{"goal": 1}`,
	} {
		code, _, errOut := call(in, "recipe", "-")
		assert.Equal(t, 1, code, why)
		assert.Contains(t, errOut, why)
	}
}

// What mix says of a paint is enough to find it again, and what is found can be
// mixed.
func TestCalibrate(t *testing.T) {
	var patches []string
	for _, on := range []string{"white", "black"} {
		for _, load := range []string{"tea", "milk", "cream"} {
			code, out, errOut := call(`{"substrate": {"paper": "`+on+`"}, "layers": [{"parts": [{"ci": "PV19"}], "load": "`+load+`"}]}`, "mix", "-")
			require.Zero(t, code, errOut)
			var made struct {
				SRGB string     `json:"srgb"`
				Lab  [3]float64 `json:"lab"`
			}
			require.NoError(t, json.Unmarshal([]byte(out), &made))
			patches = append(patches, fmt.Sprintf(`{"load": %q, "srgb": %q, "substrate": {"paper": %q}}`, load, made.SRGB, on))
		}
	}
	code, out, errOut := call(`{"ci": "PR122", "patches": [`+strings.Join(patches, ",")+`]}`, "calibrate", "-")
	require.Zero(t, code, errOut)
	var found struct {
		K, S    []float64
		Patches []struct {
			DE00 float64 `json:"dE00"`
		} `json:"patches"`
		Mean float64 `json:"mean_dE00"`
	}
	require.NoError(t, json.Unmarshal([]byte(out), &found))
	assert.Len(t, found.Patches, 6)
	assert.Less(t, found.Mean, 1.0)
	part, err := json.Marshal(map[string]any{"K": found.K, "S": found.S})
	require.NoError(t, err)
	code, _, errOut = call(`{"layers": [{"parts": [`+string(part)+`], "load": "milk"}]}`, "mix", "-")
	require.Zero(t, code, errOut)

	for why, in := range map[string]string{
		"no patches":           `{"patches": []}`,
		"no pigment":           `{"ci": "PX1", "patches": []}`,
		"patch 1: a load of 0": `{"patches": [{"load": 0, "srgb": "#000000"}]}`,
		"is no colour":         `{"patches": [{"load": 1, "srgb": "blue"}]}`,
		"not both":             `{"patches": [{"load": 1, "srgb": "#000000", "lab": [1, 2, 3]}]}`,
		"there is no paper":    `{"patches": [{"load": 1, "lab": [50, 0, 0], "substrate": {"paper": "sky"}}]}`,
	} {
		code, _, errOut := call(in, "calibrate", "-")
		assert.Equal(t, 1, code, why)
		assert.Contains(t, errOut, why)
	}
}
