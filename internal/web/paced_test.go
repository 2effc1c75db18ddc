package web

import (
	"bytes"
	"io"
	"net"
	"net/http"
	"net/http/httptest"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Who does not read is cut off; who reads slowly gets all of it.
func TestSlowReaders(t *testing.T) {
	const size = 24 << 20
	ended := make(chan error, 1)
	srv := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
		_, err := (&pacedWriter{w, http.NewResponseController(w), 400 * time.Millisecond}).Write(make([]byte, size))
		ended <- err
	}))
	defer srv.Close()
	conn, err := net.Dial("tcp", srv.Listener.Addr().String())
	require.NoError(t, err)
	defer conn.Close()
	_, err = io.WriteString(conn, "GET / HTTP/1.1\r\nHost: x\r\n\r\n")
	require.NoError(t, err)
	select {
	case err := <-ended:
		assert.ErrorContains(t, err, "timeout")
	case <-time.After(20 * time.Second):
		t.Fatal("a reader who does not read is not cut off")
	}

	resp, err := http.Get(srv.URL)
	require.NoError(t, err)
	defer resp.Body.Close()
	got := 0
	for buf := make([]byte, 2<<20); ; {
		n, err := io.ReadFull(resp.Body, buf)
		if got += n; err != nil {
			break
		}
		time.Sleep(40 * time.Millisecond)
	}
	assert.Equal(t, size, got)
	assert.NoError(t, <-ended)
}

// Short and empty answers pass as they are.
func TestPacedAnswers(t *testing.T) {
	for _, text := range []string{"", "short", string(bytes.Repeat([]byte("x"), 3*pieceBytes+1))} {
		rec := httptest.NewRecorder()
		paced(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
			n, err := io.WriteString(w, text)
			assert.NoError(t, err)
			assert.Equal(t, len(text), n)
		})).ServeHTTP(rec, httptest.NewRequest(http.MethodGet, "/", nil))
		assert.Equal(t, text, rec.Body.String())
	}
}
