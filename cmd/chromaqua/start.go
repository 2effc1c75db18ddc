package main

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"html"
	"io"
	"io/fs"
	"net/http"
	"os"
	"path/filepath"
	"runtime"
	"time"

	"github.com/pkg/browser"
	"github.com/spf13/cobra"

	"chromaqua/internal/store"
)

// started is what a running application leaves beside its studio, so that a second start
// finds it.
type started struct {
	URL string `json:"url"`
	PID int    `json:"pid"`
}

const (
	startedSuffix = ".open"
	aliveTimeout  = 3 * time.Second // in which one that runs answers
)

// leave writes where the application is found, and returns what takes that away again.
func (s started) leave(data string) (gone func() error, err error) {
	text, err := json.Marshal(s)
	if err != nil {
		return nil, err
	}
	if err := os.WriteFile(data+startedSuffix, text, 0o600); err != nil {
		return nil, fmt.Errorf("the folder of the studio file may not be written: %w", err)
	}
	return func() error { return os.Remove(data + startedSuffix) }, nil
}

// startedFor is the application that has a studio open, as it said itself.
func startedFor(data string) (s started, err error) {
	text, err := os.ReadFile(data + startedSuffix)
	if err != nil {
		return s, err
	}
	return s, json.Unmarshal(text, &s)
}

// answers reports whether it is there.
func (s started) answers(ctx context.Context) bool {
	ctx, cancel := context.WithTimeout(ctx, aliveTimeout)
	defer cancel()
	req, err := http.NewRequestWithContext(ctx, http.MethodGet, s.URL+"static/icon.svg", nil)
	if err != nil {
		return false
	}
	resp, err := http.DefaultClient.Do(req)
	if err != nil {
		return false
	}
	return resp.Body.Close() == nil && resp.StatusCode == http.StatusOK
}

// shows opens an address in the maker's browser. Tests put another in its place.
var shows = func(address string) error {
	browser.Stdout, browser.Stderr = io.Discard, io.Discard
	return browser.OpenURL(address)
}

// startCommand completes the program without words, as a double click starts it: the maker's
// own studio, in a browser.
func startCommand(root *cobra.Command) {
	cobra.MousetrapHelpText = "" // on Windows too
	at := address{listen: defaultAddr, orAny: true}
	var data string
	var quiet bool
	root.Args = calledWith(cobra.NoArgs)
	root.Flags().StringVar(&data, "data", dataFile(ownStudio), "the studio file; made when it is missing")
	root.Flags().BoolVar(&quiet, "no-browser", false, "do not open a browser")
	root.RunE = func(c *cobra.Command, _ []string) error {
		if !quiet {
			at.ready = func(address string) { shown(c, address) }
		}
		err := serveFile(c, at, data)
		if errors.Is(err, store.ErrInUse) {
			err = second(c, data, quiet, err)
		}
		if err != nil {
			keepsWindow(c, err, quiet)
		}
		return err
	}
}

// shown opens the application in a browser, or says how to.
func shown(c *cobra.Command, address string) {
	if err := shows(address); err != nil {
		fmt.Fprintf(c.OutOrStdout(), "No browser could be opened (%v). Open one yourself, and type %s into its address line.\n", err, address)
	}
}

// second is what a second start does: it shows the first.
func second(c *cobra.Command, data string, quiet bool, inUse error) error {
	s, err := startedFor(data)
	if err != nil {
		return inUse
	}
	if !s.answers(c.Context()) {
		return fmt.Errorf("the program is running already (process %d) and does not answer. End it, or start the machine again, then start Chromaqua; all that was stored is kept", s.PID)
	}
	fmt.Fprintf(c.OutOrStdout(), "Chromaqua is open already, at %s\n", s.URL)
	if !quiet {
		shown(c, s.URL)
	}
	return nil
}

// keepsWindow lets somebody who started the program with a double click see why it ended:
// where there is no terminal, in a browser; where there is one that closes by itself, until
// a key is pressed.
func keepsWindow(c *cobra.Command, err error, quiet bool) {
	if quiet {
		return
	}
	if info, statErr := os.Stdout.Stat(); statErr != nil || info.Mode()&os.ModeCharDevice == 0 {
		path := filepath.Join(os.TempDir(), "chromaqua-could-not-start.html")
		text := "<!doctype html><meta charset=utf-8><title>Chromaqua</title><body style='font:1.3rem/1.5 serif;max-width:40rem;margin:4rem auto'><h1>Chromaqua could not start</h1><p>" + html.EscapeString(err.Error()) + ".</p>"
		if os.WriteFile(path, []byte(text), 0o600) == nil {
			_ = shows("file://" + filepath.ToSlash(path)) // it is said on standard error besides
		}
		return
	}
	if runtime.GOOS == "windows" {
		fmt.Fprintf(c.ErrOrStderr(), "chromaqua: %v\nPress Enter to close.\n", err)
		_, _ = fmt.Fscanln(c.InOrStdin())
	}
}

// home is the folder where the maker's studio lives unless it was moved.
func home() string {
	if dir := os.Getenv("XDG_DATA_HOME"); dir != "" {
		return filepath.Join(dir, "chromaqua")
	}
	user, err := os.UserHomeDir()
	if err != nil {
		return ""
	}
	usual := filepath.Join(user, ".local", "share", "chromaqua")
	if _, err := os.Stat(usual); err == nil {
		return usual
	}
	switch runtime.GOOS {
	case "windows":
		if dir := os.Getenv("LOCALAPPDATA"); dir != "" {
			return filepath.Join(dir, "Chromaqua")
		}
	case "darwin":
		return filepath.Join(user, "Library", "Application Support", "Chromaqua")
	}
	return usual
}

// The maker's own studio at home, and the file beside it that says where it was moved.
const (
	ownStudio = "studio.db"
	movedTo   = "studio.moved-to"
)

// remember keeps where the maker's studio was moved.
func remember(to string) error {
	note := filepath.Join(home(), movedTo)
	if to == filepath.Join(home(), ownStudio) {
		if err := os.Remove(note); !errors.Is(err, fs.ErrNotExist) {
			return err
		}
		return nil
	}
	return os.WriteFile(note, []byte(to), 0o600)
}

// studioFileAt is where the maker's studio is: where it was moved, or else at home.
func studioFileAt() string {
	if to, err := os.ReadFile(filepath.Join(home(), movedTo)); err == nil && len(to) > 0 && len(to) < 4096 {
		return string(to)
	}
	return filepath.Join(home(), ownStudio)
}
