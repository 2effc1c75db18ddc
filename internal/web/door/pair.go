package door

import (
	"crypto/rand"
	"errors"
	"fmt"
	"html/template"
	"net/http"
	"strings"
	"sync"
	"time"

	"github.com/go-chi/chi/v5"
	"rsc.io/qr"

	"chromaqua/internal/web/page"
)

// How long a code lets a device in, and how many there are at a time.
const (
	codeLife  = 10 * time.Minute
	mostCodes = 20
)

// pairs are the codes that let a device in without the passphrase, each once.
type pairs struct {
	mu    sync.Mutex
	until map[string]time.Time
}

func newPairs() *pairs { return &pairs{until: map[string]time.Time{}} }

// add makes a new code; of many, that which ends first is given up.
func (p *pairs) add(now time.Time) string {
	p.mu.Lock()
	defer p.mu.Unlock()
	for code, until := range p.until {
		if now.After(until) {
			delete(p.until, code)
		}
	}
	for len(p.until) >= mostCodes {
		first := ""
		for code, until := range p.until {
			if first == "" || until.Before(p.until[first]) {
				first = code
			}
		}
		delete(p.until, first)
	}
	code := rand.Text()
	p.until[code] = now.Add(codeLife)
	return code
}

// holds reports whether a code still lets in; use uses it up.
func (p *pairs) holds(code string, now time.Time) bool {
	p.mu.Lock()
	defer p.mu.Unlock()
	until, ok := p.until[code]
	return ok && !now.After(until)
}

func (p *pairs) use(code string, now time.Time) bool {
	ok := p.holds(code, now)
	p.mu.Lock()
	defer p.mu.Unlock()
	if _, still := p.until[code]; !still {
		return false
	}
	delete(p.until, code)
	return ok
}

// An Invitation lets one device in by scanning.
type Invitation struct {
	Address string
	Picture template.HTML // the address as a QR code, an SVG
}

// Invite makes a code, and the invitation at each address at which the studio is found.
func (d *Door) Invite() ([]Invitation, error) {
	if len(d.Addresses) == 0 {
		return nil, errors.New("the studio is open to this machine only; start it with --addr 0.0.0.0:8417 to let a tablet on your network in")
	}
	code := d.pairs.add(d.now())
	var out []Invitation
	for _, a := range d.Addresses {
		to := a + "door/pair/" + code
		picture, err := drawn(to)
		if err != nil {
			return nil, err
		}
		out = append(out, Invitation{to, picture})
	}
	return out, nil
}

// drawn is a text as a QR code (ISO/IEC 18004) with its quiet zone of four modules.
func drawn(text string) (template.HTML, error) {
	code, err := qr.Encode(text, qr.M)
	if err != nil {
		return "", fmt.Errorf("drawing the code: %w", err)
	}
	const quiet = 4
	var b strings.Builder
	size := code.Size + 2*quiet
	fmt.Fprintf(&b, `<svg class="qr" viewBox="0 0 %d %d" role="img" aria-label="Code to scan with the tablet" shape-rendering="crispEdges"><path fill="#fff" d="M0 0h%dv%dH0z"/><path d="`, size, size, size, size)
	for y := range code.Size {
		for x := range code.Size {
			if code.Black(x, y) {
				fmt.Fprintf(&b, "M%d %dh1v1h-1z", x+quiet, y+quiet)
			}
		}
	}
	b.WriteString(`"/></svg>`)
	return template.HTML(b.String()), nil //nolint:gosec // numbers and our own words only
}

// errCode answers a code that lets nobody in any more.
var errCode = &page.Error{Status: http.StatusGone, Err: errors.New("this code was used already, or is older than 10 minutes; show a new one in Settings on the machine that is in")}

// showPairing asks a device once more, so that a program that only looks at addresses
// uses no code up; a browser answers by itself.
func (d *Door) showPairing(w http.ResponseWriter, r *http.Request) error {
	code := chi.URLParam(r, "code")
	if !d.pairs.holds(code, d.now()) {
		return errCode
	}
	d.pages.Render(w, r, http.StatusOK, "pair.html", struct {
		page.Page
		Code string
	}{page.Page{Title: "Come in"}, code})
	return nil
}

// pair lets the device in that was shown a code.
func (d *Door) pair(w http.ResponseWriter, r *http.Request) error {
	if err := page.Read(w, r); err != nil {
		return err
	}
	if !d.pairs.use(chi.URLParam(r, "code"), d.now()) {
		return errCode
	}
	if err := d.letIn(w, r); err != nil {
		return err
	}
	http.Redirect(w, r, "/", http.StatusSeeOther)
	return nil
}
