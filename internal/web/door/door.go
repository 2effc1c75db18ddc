// Package door answers "who may come in?". A browser on the machine itself comes in as it
// is; everything else is asked for a passphrase once, and is then a device that is known,
// listed, and can be put out.
package door

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"embed"
	"encoding/base64"
	"encoding/hex"
	"errors"
	"fmt"
	"net"
	"net/http"
	"net/netip"
	"net/url"
	"slices"
	"strings"
	"time"

	"github.com/go-chi/chi/v5"

	"chromaqua/internal/store"
	"chromaqua/internal/web/page"
)

//go:embed *.html *.js
var files embed.FS

// Room is what the door brings along.
var Room = page.Room{Files: files}

// Limits of who is in and for how long.
const (
	cookieName = "chromaqua-device"
	cookieAge  = 180 * 24 * time.Hour
	seenEvery  = 10 * time.Minute // how exactly it is known when a device was here last
	tokenBytes = 32
)

// Door lets in, or not.
type Door struct {
	pages *page.Pages
	store *store.Store
	names []string // of hosts that are answered to, beside loopback and numbers
	given string   // the passphrase made up at the start, asked for until one is set
	slow  *slowly
	pairs *pairs
	now   func() time.Time

	checking chan struct{} // holds one place: making a key from a passphrase is work

	// Addresses are those at which other devices find the studio; none when it listens
	// to this machine only.
	Addresses []string
	// Secure says that the studio is reached by HTTPS.
	Secure bool
}

// New returns a door before a studio.
func New(p *page.Pages, s *store.Store) *Door {
	return &Door{pages: p, store: s, given: madeUp(), slow: newSlowly(), pairs: newPairs(), now: time.Now, checking: make(chan struct{}, 1)}
}

// AnswerTo lets the application be asked for by further names of this machine.
func (d *Door) AnswerTo(names ...string) {
	for _, n := range names {
		d.names = append(d.names, strings.ToLower(strings.TrimSuffix(n, ".")))
	}
}

// Passphrase returns the one that was made up at the start, "" when the maker has set
// another, which nobody but the maker knows.
func (d *Door) Passphrase(ctx context.Context) (string, error) {
	hash, err := d.store.Passphrase(ctx)
	if err != nil || hash != "" {
		return "", err
	}
	return d.given, nil
}

// SetPassphrase makes a passphrase the one that is asked for from now on. Devices that
// are in stay in.
func (d *Door) SetPassphrase(ctx context.Context, phrase string) error {
	if n := len([]rune(phrase)); n < minPhrase || n > maxPhrase {
		return fmt.Errorf("a passphrase takes %d to %d characters; a few words that nobody guesses are best", minPhrase, maxPhrase)
	}
	return d.store.SetPassphrase(ctx, sealed(phrase))
}

// Routes answers those who knock.
func (d *Door) Routes(r chi.Router) {
	r.Post("/door", d.pages.Handle(d.enter))
	r.Get("/door/pair/{code}", d.pages.Handle(d.showPairing))
	r.Post("/door/pair/{code}", d.pages.Handle(d.pair))
}

// Named refuses requests for a host that is not this one: a page elsewhere could have its
// own name lead here, and would then read the studio as if it were its own. Numbers are
// nobody's name.
func (d *Door) Named(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		name := hostOf(r)
		if _, err := netip.ParseAddr(name); err != nil && !loopbackName(name) && !slices.Contains(d.names, name) {
			d.pages.Fail(w, r, &page.Error{Status: http.StatusMisdirectedRequest, Err: fmt.Errorf("the studio does not answer to the name %.60q; open it by its number, or start it with --name %.60s", name, name)})
			return
		}
		next.ServeHTTP(w, r)
	})
}

// hostOf is the host a request asks for, in small letters and without port or brackets.
func hostOf(r *http.Request) string {
	name := r.Host
	if host, _, err := net.SplitHostPort(name); err == nil {
		name = host
	}
	return strings.ToLower(strings.TrimSuffix(strings.Trim(name, "[]"), "."))
}

func loopbackName(name string) bool {
	return name == "localhost" || strings.HasSuffix(name, ".localhost")
}

// Guard asks those for the passphrase who come from elsewhere and are not known.
func (d *Door) Guard(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		open := strings.HasPrefix(r.URL.Path, "/static/") || r.URL.Path == "/door" || strings.HasPrefix(r.URL.Path, "/door/")
		if !open && !AtHome(r) {
			switch in, err := d.known(r); {
			case err != nil:
				d.pages.Fail(w, r, err)
				return
			case !in:
				to := "/"
				if r.Method == http.MethodGet {
					to = backTo(r.URL.RequestURI())
				}
				d.ask(w, r, http.StatusUnauthorized, "", to)
				return
			}
		}
		next.ServeHTTP(w, r)
	})
}

// passedOn are headers of what passes requests on for others.
var passedOn = []string{"Forwarded", "X-Forwarded-For", "X-Forwarded-Host", "X-Real-Ip", "Via"}

// AtHome reports whether a request comes from a browser on this very machine: from its
// own address to its own address, by its own name, and passed on by nobody.
func AtHome(r *http.Request) bool {
	name := hostOf(r)
	if ip, err := netip.ParseAddr(name); !loopbackName(name) && (err != nil || !ip.IsLoopback()) {
		return false
	}
	if slices.ContainsFunc(passedOn, func(h string) bool { return r.Header.Get(h) != "" }) {
		return false
	}
	local, _ := r.Context().Value(http.LocalAddrContextKey).(net.Addr)
	return loopback(r.RemoteAddr) && local != nil && loopback(local.String())
}

func loopback(addr string) bool {
	ap, err := netip.ParseAddrPort(addr)
	return err == nil && ap.Addr().Unmap().IsLoopback()
}

// known reports whether a request comes from a device that was let in.
func (d *Door) known(r *http.Request) (bool, error) {
	c, err := r.Cookie(cookieName)
	if err != nil {
		return false, nil
	}
	device, err := d.store.DeviceOf(r.Context(), hashOf(c.Value))
	if errors.Is(err, store.ErrNotFound) {
		return false, nil
	}
	if err == nil && d.now().Sub(device.Seen) > seenEvery {
		err = d.store.SeeDevice(r.Context(), device.ID)
	}
	return err == nil, err
}

func hashOf(token string) string {
	h := sha256.Sum256([]byte(token))
	return hex.EncodeToString(h[:])
}

// askView is the page that asks for the passphrase.
type askView struct {
	page.Page
	To string
}

func (d *Door) ask(w http.ResponseWriter, r *http.Request, status int, message, to string) {
	d.pages.Render(w, r, status, "door.html", askView{page.Page{Title: "Who is there?", Message: message}, to})
}

// backTo is an address of the studio to go on to; its first page when it is another's.
func backTo(address string) string {
	u, err := url.Parse(address)
	if err != nil || u.Host != "" || u.Scheme != "" || !strings.HasPrefix(u.Path, "/") || strings.HasPrefix(u.Path, "//") || strings.HasPrefix(u.Path, `/\`) || strings.HasPrefix(u.Path, "/door") {
		return "/"
	}
	return u.RequestURI()
}

// enter lets a device in that knows the passphrase.
func (d *Door) enter(w http.ResponseWriter, r *http.Request) error {
	if err := page.Read(w, r); err != nil {
		return err
	}
	to := backTo(r.PostForm.Get("to"))
	if wait := d.slow.try(r.RemoteAddr, d.now()); wait > 0 {
		w.Header().Set("Retry-After", fmt.Sprint(int(wait.Seconds())+1))
		d.ask(w, r, http.StatusTooManyRequests, fmt.Sprintf("That was one try too many in so short a time. Wait %s, then try again.", page.About(wait)), to)
		return nil
	}
	right, err := d.opens(r.Context(), r.PostForm.Get("passphrase"))
	if err != nil {
		return err
	}
	if !right {
		d.slow.missed(r.RemoteAddr, d.now())
		d.ask(w, r, http.StatusUnauthorized, "That is not the passphrase. It stands where the studio was started, unless one was set in Settings.", to)
		return nil
	}
	d.slow.came(r.RemoteAddr)
	if err := d.letIn(w, r); err != nil {
		return err
	}
	http.Redirect(w, r, to, http.StatusSeeOther)
	return nil
}

// opens reports whether a passphrase is the right one. One at a time is looked at.
func (d *Door) opens(ctx context.Context, phrase string) (bool, error) {
	select {
	case d.checking <- struct{}{}:
		defer func() { <-d.checking }()
	case <-ctx.Done():
		return false, ctx.Err()
	}
	hash, err := d.store.Passphrase(ctx)
	if err != nil {
		return false, err
	}
	if hash == "" {
		return same(tidied(phrase), tidied(d.given)), nil
	}
	return unseals(phrase, hash), nil
}

// letIn makes the browser of a request a device that is known.
func (d *Door) letIn(w http.ResponseWriter, r *http.Request) error {
	raw := make([]byte, tokenBytes)
	rand.Read(raw) // never fails
	token := base64.RawURLEncoding.EncodeToString(raw)
	if err := d.store.LetIn(r.Context(), kindOf(r.UserAgent()), hashOf(token)); err != nil {
		return page.Refused(err)
	}
	http.SetCookie(w, &http.Cookie{
		Name: cookieName, Value: token, Path: "/", MaxAge: int(cookieAge.Seconds()),
		HttpOnly: true, SameSite: http.SameSiteStrictMode, Secure: d.Secure,
	})
	return nil
}

// kindOf is what a device is called until the maker calls it something else.
func kindOf(agent string) string {
	switch {
	case strings.Contains(agent, "Mobi"):
		return "Phone"
	case strings.Contains(agent, "Tablet"), strings.Contains(agent, "Touch"):
		return "Tablet"
	}
	return "Tablet or computer"
}
