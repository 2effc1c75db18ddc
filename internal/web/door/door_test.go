package door_test

import (
	"io"
	"net/http"
	"net/http/cookiejar"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/internal/web/webtest"
)

// device is a browser elsewhere on the network.
type device struct {
	t    testing.TB
	st   *webtest.Studio
	http http.Client
	host string
}

func deviceOf(t testing.TB, st *webtest.Studio) *device {
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	d := &device{t: t, st: st, host: "192.168.1.20"}
	d.http = http.Client{Jar: jar, CheckRedirect: func(r *http.Request, _ []*http.Request) error { r.Host = d.host; return nil }}
	return d
}

func (d *device) do(method, path string, form ...string) (*http.Response, string) {
	v := url.Values{}
	for i := 0; i+1 < len(form); i += 2 {
		v.Set(form[i], form[i+1])
	}
	r, err := http.NewRequest(method, d.st.URL+path, strings.NewReader(v.Encode()))
	require.NoError(d.t, err)
	r.Host = d.host
	if method == http.MethodPost {
		r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	}
	resp, err := d.http.Do(r)
	require.NoError(d.t, err)
	defer resp.Body.Close()
	body, err := io.ReadAll(resp.Body)
	require.NoError(d.t, err)
	return resp, string(body)
}

func (d *device) get(path string) (int, string) {
	resp, body := d.do(http.MethodGet, path)
	return resp.StatusCode, body
}

// A page elsewhere cannot have its own name lead to the studio; who asks by a number or a
// name that was given is asked for the passphrase, but for the machine itself.
func TestOnlyItsOwnNames(t *testing.T) {
	st := webtest.New(t)
	st.App.Door.AnswerTo("Easel.Local")
	d := deviceOf(t, st)
	for host, want := range map[string]int{
		"localhost": http.StatusOK, "localhost:8417": http.StatusOK, "LOCALHOST.": http.StatusOK, "studio.localhost": http.StatusOK, "127.0.0.1:8417": http.StatusOK, "[::1]:8417": http.StatusOK,
		"192.168.1.9": http.StatusUnauthorized, "easel.local:8417": http.StatusUnauthorized, "[fe80::1]": http.StatusUnauthorized,
		"evil.example": http.StatusMisdirectedRequest, "localhost.evil.example": http.StatusMisdirectedRequest, "127.0.0.1.evil.example:8417": http.StatusMisdirectedRequest, "easel": http.StatusMisdirectedRequest,
	} {
		d.host = host
		status, body := d.get("/")
		assert.Equal(t, want, status, host)
		if want == http.StatusMisdirectedRequest {
			assert.Contains(t, body, "--name")
		}
	}
}

// Nothing of the studio is seen or changed from elsewhere without the passphrase; with it,
// the device is in until it is put out.
func TestAPassphraseIsAskedFor(t *testing.T) {
	st := webtest.WithGrid(t)
	d := deviceOf(t, st)
	for _, path := range []string{"/", "/cards/1/line", "/cards/1/card.zip", "/images/" + st.Card(1).Card.Line().Image, "/settings/backup.db", "/nowhere", "/lengths?mm=1"} {
		status, body := d.get(path)
		assert.Equal(t, http.StatusUnauthorized, status, path)
		assert.Contains(t, body, "Who is there?", path)
		assert.NotContains(t, body, "Grid", path)
	}
	resp, _ := d.do(http.MethodPost, "/cards/1/edit", "back", "format", "edit", "name", "name", "Broken in", "base", st.Base("/cards/1/edit"))
	assert.Equal(t, http.StatusUnauthorized, resp.StatusCode)
	assert.Equal(t, "Grid", st.Card(1).Card.Name)
	status, css := d.get("/static/app.css")
	assert.Equal(t, http.StatusOK, status, "the page that asks has its looks")
	assert.NotEmpty(t, css)

	given, err := st.App.Door.Passphrase(t.Context())
	require.NoError(t, err)
	resp, body := d.do(http.MethodPost, "/door", "passphrase", "guess", "to", "/cards/1/line")
	assert.Equal(t, http.StatusUnauthorized, resp.StatusCode)
	assert.Contains(t, body, "not the passphrase")
	assert.Contains(t, body, `value="/cards/1/line"`, "it still goes on where it was asked")
	resp, _ = d.do(http.MethodPost, "/door", "passphrase", " "+strings.ToUpper(given), "to", "/cards/1/line")
	assert.Equal(t, http.StatusOK, resp.StatusCode)
	assert.Equal(t, "/cards/1/line", resp.Request.URL.Path)
	status, body = d.get("/settings")
	assert.Equal(t, http.StatusOK, status)
	assert.Contains(t, body, "Put out")

	devices, err := st.Store.Devices(t.Context())
	require.NoError(t, err)
	require.Len(t, devices, 1)
	st.Post("/settings/devices/1/name", "name", "By the sink")
	assert.Contains(t, st.Get("/settings").Body, "By the sink")
	st.Post("/settings/devices/1/out")
	status, _ = d.get("/")
	assert.Equal(t, http.StatusUnauthorized, status)
	assert.Equal(t, http.StatusNotFound, st.Post("/settings/devices/1/out").Status)
	assert.Equal(t, http.StatusUnprocessableEntity, st.Post("/settings/devices/1/name", "name", "").Status)
}

// What a device keeps is out of reach of scripts and other sites.
func TestTheCookie(t *testing.T) {
	st := webtest.New(t)
	st.App.Door.Secure = true
	given, err := st.App.Door.Passphrase(t.Context())
	require.NoError(t, err)
	d := deviceOf(t, st)
	d.http.CheckRedirect = func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }
	resp, _ := d.do(http.MethodPost, "/door", "passphrase", given)
	require.Len(t, resp.Cookies(), 1)
	c := resp.Cookies()[0]
	assert.True(t, c.HttpOnly)
	assert.True(t, c.Secure)
	assert.Equal(t, http.SameSiteStrictMode, c.SameSite)
	assert.Equal(t, "/", resp.Header.Get("Location"))
	assert.GreaterOrEqual(t, len(c.Value), 43)
	for _, bad := range []string{"", "x", c.Value + "x", strings.ToLower(c.Value)} {
		r, err := http.NewRequest(http.MethodGet, st.URL+"/", nil)
		require.NoError(t, err)
		r.Host = "192.168.1.20"
		r.AddCookie(&http.Cookie{Name: c.Name, Value: bad})
		resp, err := http.DefaultClient.Do(r)
		require.NoError(t, err)
		resp.Body.Close()
		assert.Equal(t, http.StatusUnauthorized, resp.StatusCode)
	}
}

// Guessing is slowed, and a passphrase of one's own takes the place of the other.
func TestGuessing(t *testing.T) {
	st := webtest.New(t)
	given, err := st.App.Door.Passphrase(t.Context())
	require.NoError(t, err)
	assert.Equal(t, http.StatusUnprocessableEntity, st.Post("/settings/passphrase", "passphrase", "short").Status)
	a := st.Post("/settings/passphrase", "passphrase", "seven lanterns")
	assert.Equal(t, http.StatusOK, a.Status)
	again, err := st.App.Door.Passphrase(t.Context())
	require.NoError(t, err)
	assert.Empty(t, again, "nobody can read it")
	d := deviceOf(t, st)
	st.App.Door.LooksSlowly()
	statuses := []int{}
	for range 5 {
		resp, body := d.do(http.MethodPost, "/door", "passphrase", given)
		statuses = append(statuses, resp.StatusCode)
		if resp.StatusCode == http.StatusTooManyRequests {
			assert.NotEmpty(t, resp.Header.Get("Retry-After"))
			assert.Contains(t, body, "Wait")
		}
	}
	assert.Equal(t, []int{401, 401, 401, 401, 429}, statuses)
	resp, _ := d.do(http.MethodPost, "/door", "passphrase", "seven lanterns")
	assert.Equal(t, http.StatusTooManyRequests, resp.StatusCode, "even the right one waits")
	d = deviceOf(t, webtest.New(t))
	resp, _ = d.do(http.MethodPost, "/door", "passphrase", "")
	assert.Equal(t, http.StatusUnauthorized, resp.StatusCode)
}

var code = regexp.MustCompile(`Or type http://192\.168\.1\.20:8417(/door/pair/[A-Z2-7]+)`)

// A tablet comes in by scanning a code, once.
func TestPairing(t *testing.T) {
	st := webtest.New(t)
	a := st.Post("/settings/invite")
	assert.Equal(t, http.StatusUnprocessableEntity, a.Status)
	assert.Contains(t, webtest.Message(a.Body), "--addr 0.0.0.0")
	st.App.Door.Addresses = []string{"http://192.168.1.20:8417/"}
	assert.Contains(t, st.Get("/settings").Body, "show a code")
	a = st.Post("/settings/invite")
	require.Regexp(t, code, a.Body)
	assert.Contains(t, a.Body, `<svg class="qr"`)
	path := code.FindStringSubmatch(a.Body)[1]
	d := deviceOf(t, st)
	for range 2 {
		status, body := d.get(path)
		assert.Equal(t, http.StatusOK, status, "looking uses nothing up")
		assert.Contains(t, body, "Open the studio")
	}
	resp, _ := d.do(http.MethodPost, path)
	assert.Equal(t, http.StatusOK, resp.StatusCode)
	assert.Equal(t, "/", resp.Request.URL.Path)
	status, _ := d.get("/shelf")
	assert.Equal(t, http.StatusOK, status)
	other := deviceOf(t, st)
	for _, method := range []string{http.MethodGet, http.MethodPost} {
		resp, body := other.do(method, path)
		assert.Equal(t, http.StatusGone, resp.StatusCode)
		assert.Contains(t, body, "used already")
	}
	status, _ = other.get("/shelf")
	assert.Equal(t, http.StatusUnauthorized, status)
}
