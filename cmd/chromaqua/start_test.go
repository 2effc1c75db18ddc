package main

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/shelf"
	"chromaqua/internal/store"
)

// opened collects the addresses that a browser was to show, in place of one.
func opened(t *testing.T, fails error) chan string {
	was, asked := shows, make(chan string, 10)
	shows = func(address string) error { asked <- address; return fails }
	t.Cleanup(func() { shows = was })
	return asked
}

// started runs the program in this process until the test is over.
func running(t *testing.T, args ...string) (ended chan int, out *strings.Builder) {
	ctx, stop := context.WithCancel(context.Background())
	out = &strings.Builder{}
	ended = make(chan int, 1)
	go func() { ended <- run(ctx, args, strings.NewReader(""), out, out) }()
	t.Cleanup(func() { stop(); <-ended })
	return ended, out
}

func next(t *testing.T, asked chan string) string {
	select {
	case address := <-asked:
		return address
	case <-time.After(time.Minute):
		t.Fatal("no browser was opened")
		return ""
	}
}

// Without a word the maker's own studio opens in a browser, on a free port where the usual
// one is taken; a second start shows the first; closing it and moving its file are done in it.
func TestStartedByADoubleClick(t *testing.T) {
	t.Setenv("XDG_DATA_HOME", t.TempDir())
	if taken, err := net.Listen("tcp", defaultAddr); err == nil {
		t.Cleanup(func() { _ = taken.Close() })
	}
	asked := opened(t, nil)
	ended, _ := running(t)
	address := next(t, asked)
	assert.NotContains(t, address, ":8417/", "that is taken")
	assert.Contains(t, body(t, address), "Chromaqua")

	code, out, errOut := call("")
	require.Equal(t, done, code, errOut)
	assert.Contains(t, out, "open already, at "+address)
	assert.Equal(t, address, next(t, asked))

	// It is moved while it is open, goes on at the same address, and is found there again.
	to := filepath.Join(t.TempDir(), "kept here", "cards.db")
	post := func(path string, form url.Values) string {
		r, err := http.PostForm(address+path, form)
		require.NoError(t, err)
		require.NoError(t, r.Body.Close())
		return r.Status
	}
	assert.Contains(t, post("settings/move", url.Values{"to": {"not/whole"}}), "422")
	assert.Contains(t, post("settings/move", url.Values{"to": {to}}), "200")
	require.Eventually(t, func() bool {
		r, err := http.Get(address + "settings")
		if err != nil {
			return false
		}
		_ = r.Body.Close()
		_, err = os.Stat(to)
		return err == nil
	}, time.Minute, 20*time.Millisecond)
	require.Eventually(t, func() bool { return strings.Contains(body(t, address+"settings"), to) }, time.Minute, 50*time.Millisecond)
	_, err := os.Stat(filepath.Join(home(), "studio.db"))
	assert.ErrorIs(t, err, os.ErrNotExist)
	assert.Equal(t, to, studioFileAt())

	assert.Contains(t, post("settings/end", nil), "200")
	select {
	case code := <-ended:
		assert.Equal(t, done, code)
		ended <- code // for the clean-up
	case <-time.After(time.Minute):
		t.Fatal("it did not close")
	}
	_, err = startedFor(to)
	assert.ErrorIs(t, err, os.ErrNotExist)
}

// A first that hangs is named; where no browser is found, the address is said; what stands in
// the way is said.
func TestStartsThatCannotBe(t *testing.T) {
	t.Setenv("XDG_DATA_HOME", t.TempDir())
	asked := opened(t, errors.New("there is none"))
	data := filepath.Join(t.TempDir(), "studio.db")
	_, out := running(t, "--data", data)
	next(t, asked)
	require.Eventually(t, func() bool { s, err := startedFor(data); return err == nil && s.answers(t.Context()) }, time.Minute, 20*time.Millisecond)
	code, second, errOut := call("", "--data", data)
	require.Equal(t, done, code, errOut)
	assert.Contains(t, second, "No browser could be opened")
	_ = out

	// Somebody holds the studio and answers nothing.
	hung := filepath.Join(t.TempDir(), "studio.db")
	release, err := store.Claim(hung)
	require.NoError(t, err)
	defer func() { _ = release() }()
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer l.Close()
	gone, err := started{"http://" + l.Addr().String() + "/", 4711}.leave(hung)
	require.NoError(t, err)
	code, _, errOut = call("", "--data", hung, "--no-browser")
	assert.Equal(t, failed, code)
	assert.Contains(t, errOut, "process 4711")
	require.NoError(t, gone())
	code, _, errOut = call("", "--data", hung, "--no-browser")
	assert.Equal(t, failed, code)
	assert.Contains(t, errOut, "open in another Chromaqua")

	file := filepath.Join(t.TempDir(), "a file")
	require.NoError(t, os.WriteFile(file, nil, 0o600))
	code, _, errOut = call("", "--data", filepath.Join(file, "studio.db"), "--no-browser")
	assert.Equal(t, failed, code)
	assert.Contains(t, errOut, "folder for the studio file")
	code, _, errOut = call("", "dance")
	assert.Equal(t, badCall, code, errOut)
}

// What is wrong with a studio or a machine is said with what to do.
func TestDoctor(t *testing.T) {
	data := filepath.Join(t.TempDir(), "studio.db")
	studioFile(t, data, "Whole")
	code, out, errOut := call("", "doctor", "--data", data)
	assert.Equal(t, done, code, errOut)
	for _, of := range []string{"The studio's file", "Its folder", "The disk", "Daily copies", "Fonts", "A browser", "The clock"} {
		assert.Contains(t, out, of)
	}
	assert.Contains(t, out, "all of it can be read")
	require.NoError(t, os.WriteFile(data, []byte("Dear aunt, this is no studio at all, but long enough to hold a header of one hundred bytes, is it not?"), 0o600))
	code, out, errOut = call("", "doctor", "--data", data)
	assert.Equal(t, failed, code)
	assert.Contains(t, out, "no studio of Chromaqua")
	assert.Contains(t, out, "→")
	assert.Contains(t, errOut, "not all is well")
	code, out, _ = call("", "version")
	assert.Equal(t, done, code)
	assert.Contains(t, out, "Chromaqua, ")
}

// BenchmarkStart is from the start to the first page, of an empty studio and of one with 300
// cards and 1 000 images.
func BenchmarkStart(b *testing.B) {
	for _, size := range []struct{ cards, images int }{{0, 0}, {300, 1000}} {
		b.Run(fmt.Sprintf("%d cards", size.cards), func(b *testing.B) {
			data := filepath.Join(b.TempDir(), "studio.db")
			fillStudio(b, data, size.cards, size.images)
			for b.Loop() {
				addr := freeAddr(b)
				ctx, stop := context.WithCancel(context.Background())
				ended := make(chan int, 1)
				go func() {
					ended <- run(ctx, []string{"serve", "--data", data, "--addr", addr}, strings.NewReader(""), io.Discard, io.Discard)
				}()
				for {
					r, err := http.Get("http://" + addr + "/")
					if err == nil {
						_, _ = io.Copy(io.Discard, r.Body)
						_ = r.Body.Close()
						break
					}
					time.Sleep(time.Millisecond)
				}
				b.StopTimer()
				stop()
				<-ended
				b.StartTimer()
			}
		})
	}
}

// fillStudio makes a studio with so many cards, each with an image and an area, and images.
func fillStudio(b *testing.B, data string, cards, images int) {
	s, err := store.Open(context.Background(), data)
	require.NoError(b, err)
	defer func() { require.NoError(b, s.Close()) }()
	var hashes []string
	for i := range images {
		picture := bytes.Repeat([]byte(fmt.Sprintf("picture %d ", i)), 4000)
		hashes = append(hashes, store.Hash(picture))
		require.NoError(b, s.PutImage(context.Background(), store.Latest, store.Image{Hash: hashes[i], Title: fmt.Sprint("drawing ", i), Media: "image/png", Width: 900, Height: 700, Data: picture, Kept: i%2 == 0}))
	}
	for i := range cards {
		c := card.New(fmt.Sprint("card ", i), length.Inches)
		_, err := c.Lay(card.Scan{Image: hashes[i], Title: "drawing", WidthPX: 900, HeightPX: 700, Width: 2 * length.Inch}, shelf.LineImage)
		require.NoError(b, err)
		_, err = s.Create(context.Background(), c, "made")
		require.NoError(b, err)
	}
}
