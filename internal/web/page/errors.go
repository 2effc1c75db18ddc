package page

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"net/http"

	"chromaqua/core/wording"
	"chromaqua/internal/cardfile"
	"chromaqua/internal/desk"
	"chromaqua/internal/picture"
	"chromaqua/internal/store"
)

// An Error is a failure to show to the maker with an HTTP status.
type Error struct {
	Status int
	Err    error
}

func (e *Error) Error() string { return e.Err.Error() }
func (e *Error) Unwrap() error { return e.Err }

// ErrOldPage answers forms that this program does not make.
var ErrOldPage = errors.New("this page is from another version of the program; load it again")

// ErrInternal stands for what the maker cannot mend.
var ErrInternal = errors.New("something went wrong inside the program; what you entered before is kept, go back and try again")

var errTooLarge = fmt.Errorf("what was sent is too large: pictures may have up to %d MB, card files up to %d MB", picture.MaxBytes>>20, cardfile.MaxBytes>>20)

// Refused takes an error of the core, which is about what was entered, for a refusal;
// errors of the store and of the request stay what they are.
func Refused(err error) error {
	var e *Error
	var tooLarge *http.MaxBytesError
	switch {
	case errors.As(err, &e), errors.As(err, &tooLarge), errors.Is(err, store.ErrNotFound), errors.Is(err, store.ErrStale),
		errors.Is(err, store.ErrDeleted), errors.Is(err, context.Canceled), errors.Is(err, ErrInternal):
		return err
	}
	if _, ours := store.FaultOf(err); ours {
		return err
	}
	return desk.Refuse(err)
}

// refusedForm says that a form could not be read.
func refusedForm(err error) error {
	var tooLarge *http.MaxBytesError
	if errors.As(err, &tooLarge) {
		return err
	}
	return &Error{http.StatusBadRequest, errors.New("the form arrived incomplete; send it again")}
}

// A Handler answers a request, or returns what went wrong.
type Handler func(http.ResponseWriter, *http.Request) error

// Handle shows what went wrong in a handler as a page of its own.
func (p *Pages) Handle(f Handler) http.HandlerFunc {
	return func(w http.ResponseWriter, r *http.Request) {
		if err := f(w, r); err != nil {
			p.Fail(w, r, err)
		}
	}
}

// NotFound answers what has no address.
func NotFound(http.ResponseWriter, *http.Request) error { return store.ErrNotFound }

// NotThus answers what is asked for at an address in a way that it does not know.
func NotThus(http.ResponseWriter, *http.Request) error {
	return &Error{http.StatusMethodNotAllowed, errors.New("this address is not opened like that; go to its page and use what stands there")}
}

// failure is the page of an error, with what can be done about it.
type failure struct {
	Page
	Missing bool
	Text    string
	Card    *store.Unreadable // that cannot be read; nil for another error
	Copy    string            // of the studio, to go back to; "" when it is not damaged
}

// Fail shows an error as a page of its own.
func (p *Pages) Fail(w http.ResponseWriter, r *http.Request, err error) {
	status, words := p.Explain(r, err)
	v := failure{Page: Page{Title: "That did not work"}, Missing: status == http.StatusNotFound, Text: wording.Sentence(words.Error())}
	errors.As(err, &v.Card)
	if fault, _ := store.FaultOf(err); fault == store.Damaged && p.Copies != nil {
		if all, err := p.Copies(); err == nil && len(all) > 0 {
			v.Copy = all[0].Name
		}
	}
	p.Render(w, r, status, "error.html", v)
}

// faultStatus are the statuses of what is the machine's own fault.
var faultStatus = map[store.Fault]int{store.DiskFull: http.StatusInsufficientStorage, store.Held: http.StatusServiceUnavailable}

// Explain returns the status and the words for an error; what the maker cannot mend is
// logged and worded generally.
func (p *Pages) Explain(r *http.Request, err error) (int, error) {
	var e *Error
	var refusal *desk.Refusal
	var tooLarge *http.MaxBytesError
	var unreadable *store.Unreadable
	switch {
	case errors.As(err, &e):
		return e.Status, e.Err
	case errors.As(err, &unreadable):
		return http.StatusUnprocessableEntity, unreadable.Err
	case errors.As(err, &refusal):
		return http.StatusUnprocessableEntity, refusal.Err
	case errors.As(err, &tooLarge):
		return http.StatusRequestEntityTooLarge, errTooLarge
	case errors.Is(err, store.ErrNotFound):
		return http.StatusNotFound, errors.New("there is nothing at this address; perhaps the card was made in another studio file")
	case errors.Is(err, store.ErrStale):
		return http.StatusConflict, store.ErrStale
	case errors.Is(err, store.ErrDeleted):
		return http.StatusConflict, store.ErrDeleted
	case errors.Is(err, context.Canceled):
		return http.StatusServiceUnavailable, errors.New("stopped before it was done; nothing was changed")
	}
	p.log.Error("request failed", "method", r.Method, "path", r.URL.Path, "error", err)
	if fault, ours := store.FaultOf(err); ours {
		return cmp.Or(faultStatus[fault], http.StatusInternalServerError), errors.New(string(fault))
	}
	return http.StatusInternalServerError, ErrInternal
}
