package main

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"mime/multipart"
	"net"
	"net/http"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"time"
)

// server is the program while it runs.
type server struct {
	cmd    *exec.Cmd
	url    string
	log    *bytes.Buffer
	ended  chan struct{} // closed when it has ended
	client *http.Client
}

// begin starts a binary on a studio file and waits until it answers.
func begin(ctx context.Context, binary, command, data string) (*server, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return nil, err
	}
	addr := l.Addr().String()
	_ = l.Close() // it is free again for the program
	s := &server{
		cmd: exec.Command(binary, command, "--data", data, "--addr", addr), url: "http://" + addr, log: &bytes.Buffer{}, ended: make(chan struct{}),
		client: &http.Client{Timeout: 2 * time.Minute, Transport: &http.Transport{MaxIdleConnsPerHost: 200, DisableCompression: true}},
	}
	s.cmd.Stderr = s.log
	if err := s.cmd.Start(); err != nil {
		return nil, err
	}
	go func() { _ = s.cmd.Wait(); close(s.ended) }()
	for {
		if resp, err := s.client.Get(s.url + "/static/icon.svg"); err == nil {
			_, _ = io.Copy(io.Discard, resp.Body)
			resp.Body.Close()
			return s, nil
		}
		select {
		case <-s.ended:
			return nil, fmt.Errorf("it does not start: %s", s.log)
		case <-ctx.Done():
			s.kill()
			return nil, ctx.Err()
		case <-time.After(5 * time.Millisecond):
		}
	}
}

// within runs a binary on a new studio while f does something with it.
func within(ctx context.Context, binary, command string, f func(*server) error) error {
	dir, err := os.MkdirTemp("", "torture-*")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	s, err := begin(ctx, binary, command, filepath.Join(dir, "studio.db"))
	if err != nil {
		return err
	}
	defer s.kill()
	return f(s)
}

// kill ends the program as a power cut would.
func (s *server) kill() {
	_ = s.cmd.Process.Kill()
	<-s.ended
	s.client.CloseIdleConnections()
}

// close ends the program as Ctrl-C does, which has to work.
func (s *server) close() error {
	if err := s.cmd.Process.Signal(os.Interrupt); err != nil {
		return err
	}
	select {
	case <-s.ended:
	case <-time.After(20 * time.Second):
		s.kill()
		return errors.New("it does not end when it is told to")
	}
	if code := s.cmd.ProcessState.ExitCode(); code != 0 {
		return fmt.Errorf("it ended with %d: %s", code, s.log)
	}
	return nil
}

// alive reports whether the program still runs.
func (s *server) alive() bool {
	select {
	case <-s.ended:
		return false
	default:
		return true
	}
}

var peak = regexp.MustCompile(`VmHWM:\s+(\d+) kB`)

// peakMB is the most memory the program has had, by /proc.
func (s *server) peakMB() (int, error) {
	data, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", s.cmd.Process.Pid))
	if err != nil {
		return 0, err
	}
	m := peak.FindSubmatch(data)
	if m == nil {
		return 0, errors.New("/proc tells no peak of memory")
	}
	kb, err := strconv.Atoi(string(m[1]))
	return kb / 1024, err
}

// answer is what came back.
type answer struct {
	status int
	path   string // after redirects
	body   string
}

func (s *server) do(ctx context.Context, method, path, media string, body io.Reader) (a answer, err error) {
	r, err := http.NewRequestWithContext(ctx, method, s.url+path, body)
	if err != nil {
		return a, err
	}
	if media != "" {
		r.Header.Set("Content-Type", media)
	}
	resp, err := s.client.Do(r)
	if err != nil {
		return a, err
	}
	defer resp.Body.Close()
	data, err := io.ReadAll(resp.Body)
	return answer{resp.StatusCode, resp.Request.URL.Path, string(data)}, err
}

func (s *server) get(ctx context.Context, path string) (answer, error) {
	return s.do(ctx, http.MethodGet, path, "", nil)
}

// post sends a form given as name, value, name, value …
func (s *server) post(ctx context.Context, path string, pairs ...string) (answer, error) {
	form := url.Values{}
	for i := 0; i+1 < len(pairs); i += 2 {
		form.Set(pairs[i], pairs[i+1])
	}
	return s.do(ctx, http.MethodPost, path, "application/x-www-form-urlencoded", strings.NewReader(form.Encode()))
}

// send sends a file with fields.
func (s *server) send(ctx context.Context, path, name string, data []byte, pairs ...string) (answer, error) {
	var buf bytes.Buffer
	m := multipart.NewWriter(&buf)
	for i := 0; i+1 < len(pairs); i += 2 {
		if err := m.WriteField(pairs[i], pairs[i+1]); err != nil {
			return answer{}, err
		}
	}
	f, err := m.CreateFormFile("file", name)
	if err != nil {
		return answer{}, err
	}
	if _, err := f.Write(data); err != nil {
		return answer{}, err
	}
	if err := m.Close(); err != nil {
		return answer{}, err
	}
	return s.do(ctx, http.MethodPost, path, m.FormDataContentType(), &buf)
}

var (
	baseIn = regexp.MustCompile(`name="base" value="(\d+)"`)
	nameIn = regexp.MustCompile(`class="cardname"[^>]* name="name" value="([^"]*)"`)
)

// shown is the revision and the name that a card's page shows.
func shown(body string) (base, name string, err error) {
	b, n := baseIn.FindStringSubmatch(body), nameIn.FindStringSubmatch(body)
	if b == nil || n == nil {
		return "", "", errors.New("the page shows no card")
	}
	return b[1], n[1], nil
}

// standing is what a card's page shows of it now; see shown.
func (s *server) standing(ctx context.Context, card string) (base, name string, err error) {
	page, err := s.get(ctx, card+"/format")
	if err != nil {
		return "", "", err
	}
	return shown(page.body)
}

// newCard makes a card and returns its address without the station.
func (s *server) newCard(ctx context.Context, name string) (string, error) {
	a, err := s.post(ctx, "/cards", "name", name, "unit", "mm", "format", "a2", "fold", "side")
	if err != nil {
		return "", err
	}
	if a.status != http.StatusOK {
		return "", fmt.Errorf("no card could be made: %d", a.status)
	}
	return strings.TrimSuffix(a.path, "/format"), nil
}
