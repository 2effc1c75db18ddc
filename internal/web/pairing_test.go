package web_test

import (
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/internal/web/webtest"
)

// A tablet that scans the code of Settings is in at once, and asked for nothing; without,
// it is asked for the passphrase and then goes on where it wanted to.
func TestATabletComesIn(t *testing.T) {
	st := webtest.WithGrid(t)
	elsewhere := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		r.Header.Set("X-Forwarded-For", "192.168.1.20") // so that it is not this machine
		st.App.ServeHTTP(w, r)
	}))
	t.Cleanup(elsewhere.Close)
	st.App.Door.Addresses = []string{elsewhere.URL + "/"}
	invited, err := st.App.Door.Invite()
	require.NoError(t, err)
	b := webtest.Browse(t, elsewhere.URL)
	b.Open(strings.TrimPrefix(invited[0].Address, elsewhere.URL))
	b.Waits(`document.querySelector("h1")?.textContent === "Cards"`)
	b.Open("/cards/1/line")
	b.Waits(`document.querySelector("#work[data-card]") !== null`)

	devices, err := st.Store.Devices(t.Context())
	require.NoError(t, err)
	require.Len(t, devices, 1)
	require.NoError(t, st.Store.PutOut(t.Context(), devices[0].ID))
	b.Open("/cards/1/line")
	b.Waits(`document.querySelector("h1")?.textContent === "Who is there?"`)
	assert.Empty(t, faults(b), "the page that asks can be used by all")
	given, err := st.App.Door.Passphrase(t.Context())
	require.NoError(t, err)
	b.TypeIn("input[name=passphrase]", given+"\r")
	b.Waits(`document.querySelector("#work[data-card]") !== null`)
}
