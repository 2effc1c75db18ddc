package door

import (
	"fmt"
	"image"
	"image/color"
	"net/http"
	"net/http/httptest"
	"regexp"
	"strconv"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/makiuchi-d/gozxing"
	"github.com/makiuchi-d/gozxing/qrcode"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A passphrase opens what was kept of it, and nothing else does, whatever is kept.
func TestPassphrases(t *testing.T) {
	kept := sealed("seven lanterns at low tide")
	assert.True(t, unseals("seven lanterns at low tide", kept))
	assert.NotContains(t, kept, "lanterns")
	assert.NotEqual(t, kept, sealed("seven lanterns at low tide"), "each has a salt of its own")
	for _, wrong := range []string{"", "seven lanterns at low tid", "Seven lanterns at low tide", strings.Repeat("x", 100_000)} {
		assert.False(t, unseals(wrong, kept), "%.20s", wrong)
	}
	for _, odd := range []string{"", "$$$", "md5$1$YQ$YQ", "pbkdf2-sha256$0$YQ$YQ", "pbkdf2-sha256$99999999999$YQ$YQ", "pbkdf2-sha256$1$!$YQ", "pbkdf2-sha256$1$YQ$"} {
		assert.False(t, unseals("", odd), odd)
	}
	// RFC 7914, section 11: PBKDF2 with HMAC-SHA-256.
	assert.Equal(t, "55ac046e56e3089fec1691c22544b605f94185216dde0465e68b9d57c20dacbc", fmt.Sprintf("%x", key("passwd", []byte("salt"), 1)))

	seen := map[string]bool{}
	for range 100 {
		p := madeUp()
		assert.Regexp(t, `^([a-z2-9]{3}-){3}[a-z2-9]{3}$`, p)
		assert.NotRegexp(t, "[ilo01]", p)
		assert.False(t, seen[p])
		seen[p] = true
		assert.True(t, same(tidied(strings.ToUpper(strings.ReplaceAll(p, "-", " "))), tidied(p)), "however it is typed")
	}
	assert.False(t, same("a", "b"))
}

// The first tries are free; then each wrong one doubles the wait, for that address alone,
// until it is forgotten or one is right.
func TestTriesAreSlowed(t *testing.T) {
	s, now := newSlowly(), time.Unix(1e9, 0)
	const a, b = "192.168.1.7:5000", "192.168.1.8:5000"
	for range freeTries {
		assert.Zero(t, s.try(a, now))
	}
	for i, want := range []time.Duration{2, 4, 8, 16, 32, 64, 128, 256, 300, 300} {
		want *= time.Second
		assert.Equal(t, want, s.try("192.168.1.7:6000", now), "try %d, from another port", i)
		assert.Equal(t, time.Second, s.try(a, now.Add(want-time.Second)), "waiting shortens the wait and costs nothing")
		now = now.Add(want)
		assert.Zero(t, s.try(a, now))
	}
	assert.Zero(t, s.try(b, now), "nobody else waits")
	s.came(a)
	assert.Zero(t, s.try(a, now))
	for range 3 * freeTries {
		s.try(b, now)
	}
	assert.NotZero(t, s.try(b, now))
	assert.Zero(t, s.try(b, now.Add(forgetAfter+time.Second)))
	for range freeTries {
		assert.Zero(t, s.try("[2001:db8::1]:1", now))
	}
	assert.NotZero(t, s.try("[2001:db8::ffff:2]:1", now), "one network of IPv6 is one place")

	late := newSlowly()
	for range freeTries {
		assert.Zero(t, late.try(a, now))
	}
	late.missed(a, now.Add(10*time.Second))
	assert.Equal(t, time.Second, late.try(a, now.Add(11*time.Second)), "the wait begins when it is told that the guess was wrong")
	late.missed(b, now)
	assert.Zero(t, late.try(b, now), "who has not guessed is not slowed")

	many := newSlowly()
	slowed := 0
	for i := range 2 * mostTriers {
		if many.try(fmt.Sprintf("10.0.%d.%d:1", i/256, i%256), now) > 0 {
			slowed++
		}
	}
	assert.LessOrEqual(t, len(many.by), mostTriers+1)
	assert.Equal(t, mostTriers-freeTries, slowed, "too many to tell apart wait together")
}

// LooksSlowly makes a door take ten seconds by its clock for each of the guesses that are free,
// and none for all else.
func (d *Door) LooksSlowly() {
	var calls atomic.Int64
	began := time.Unix(1e9, 0)
	d.now = func() time.Time {
		return began.Add(time.Duration(min(calls.Add(1)/2, freeTries)) * 10 * time.Second)
	}
}

// A code lets one device in, once, and for ten minutes.
func TestCodes(t *testing.T) {
	p, now := newPairs(), time.Unix(1e9, 0)
	code := p.add(now)
	assert.True(t, p.holds(code, now.Add(codeLife)))
	assert.False(t, p.holds(code, now.Add(codeLife+time.Second)))
	assert.False(t, p.use("x", now))
	assert.True(t, p.use(code, now))
	assert.False(t, p.use(code, now))
	late := p.add(now)
	assert.False(t, p.use(late, now.Add(codeLife+time.Second)))
	first := p.add(now)
	for i := range mostCodes {
		p.add(now.Add(time.Duration(i+1) * time.Second))
	}
	assert.False(t, p.holds(first, now), "the oldest is given up")
	assert.LessOrEqual(t, len(p.until), mostCodes)
}

// Who came from a page goes back to it, and never to another's.
func TestBackTo(t *testing.T) {
	for from, to := range map[string]string{
		"/cards/2/colour?area=a1": "/cards/2/colour?area=a1", "/": "/", "": "/", "//evil.example/x": "/", `/\evil.example`: "/", "https://evil.example/": "/",
		"javascript:alert(1)": "/", "/door/pair/x": "/", "cards": "/", "/a b": "/a%20b", "\x00": "/",
	} {
		assert.Equal(t, to, backTo(from), from)
	}
}

// Only a browser on the machine itself, asking it by its own name, is at home.
func TestAtHome(t *testing.T) {
	var home bool
	srv := httptest.NewServer(http.HandlerFunc(func(_ http.ResponseWriter, r *http.Request) { home = AtHome(r) }))
	defer srv.Close()
	for _, c := range []struct {
		host, header string
		want         bool
	}{
		{"127.0.0.1:8417", "", true}, {"localhost", "", true}, {"studio.localhost:1", "", true}, {"[::1]:8417", "", true}, {"127.9.9.9", "", true},
		{"192.168.1.9:8417", "", false}, {"easel", "", false}, {"localhost.example", "", false},
		{"127.0.0.1", "X-Forwarded-For", false}, {"127.0.0.1", "Via", false}, {"localhost", "Forwarded", false},
	} {
		r, err := http.NewRequest(http.MethodGet, srv.URL, nil)
		require.NoError(t, err)
		r.Host = c.host
		if c.header != "" {
			r.Header.Set(c.header, "10.0.0.1")
		}
		resp, err := http.DefaultClient.Do(r)
		require.NoError(t, err)
		resp.Body.Close()
		assert.Equal(t, c.want, home, "%+v", c)
	}
	assert.False(t, AtHome(&http.Request{Host: "localhost", RemoteAddr: "127.0.0.1:1"}), "without an address of its own nothing is certain")
}

var module = regexp.MustCompile(`M(\d+) (\d+)h1v1h-1z`)

// Another program reads the code that is drawn.
func TestTheCodeIsRead(t *testing.T) {
	const text = "http://192.168.178.23:8417/door/pair/ABCDEFGHIJKLMNOPQRSTUVWXYZ"
	svg, err := drawn(text)
	require.NoError(t, err)
	size, err := strconv.Atoi(regexp.MustCompile(`viewBox="0 0 (\d+)`).FindStringSubmatch(string(svg))[1])
	require.NoError(t, err)
	const px = 4
	m := image.NewGray(image.Rect(0, 0, size*px, size*px))
	for i := range m.Pix {
		m.Pix[i] = 255
	}
	for _, at := range module.FindAllStringSubmatch(string(svg), -1) {
		x, _ := strconv.Atoi(at[1])
		y, _ := strconv.Atoi(at[2])
		for dy := range px {
			for dx := range px {
				m.SetGray(x*px+dx, y*px+dy, color.Gray{})
			}
		}
	}
	bits, err := gozxing.NewBinaryBitmapFromImage(m)
	require.NoError(t, err)
	read, err := qrcode.NewQRCodeReader().Decode(bits, nil)
	require.NoError(t, err)
	assert.Equal(t, text, read.GetText())
}

func TestKindOf(t *testing.T) {
	for agent, want := range map[string]string{"X (Linux; Mobile)": "Phone", "X (Tablet; rv:1)": "Tablet", "X (Touch)": "Tablet", "curl": "Tablet or computer", "": "Tablet or computer"} {
		assert.Equal(t, want, kindOf(agent), agent)
	}
}
