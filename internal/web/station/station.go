// Package station is what the stations of the work have in common: a card is shown at
// one of them, changed by its forms, and shown again.
package station

import (
	"embed"
	"html/template"
	"net/http"

	"github.com/go-chi/chi/v5"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/internal/desk"
	"chromaqua/internal/store"
	"chromaqua/internal/web/board"
	"chromaqua/internal/web/page"
)

// A Station is one of the places of the work. Its folder holds its templates: one of
// its id, one of its id with "-keys" that lists the keys, and its script if it has one.
type Station interface {
	About() About
	// Show fills what its page shows.
	Show(*Visit) error
	// Edits are the changes its forms ask for.
	Edits() []Edit
	// Routes adds what it answers below a card's address besides its page.
	Routes(chi.Router)
}

// About says what a station is.
type About struct {
	ID, Name, Question string
	Needs              desk.Needs
	Drawing            string                // template of what stands beside the controls; "" for the board
	Brief              bool                  // its watch-outs are told in a line, since there is much to do at once
	PicksImages        bool                  // an image on the panel is picked at it
	Fresh              bool                  // it shows what goes on at the bench too, and is never kept
	Open               func(*card.Card) bool // there is still something to decide at it; nil for never
}

// Entry is a station's row in the table of stations.
type Entry struct {
	page.Room
	New func(*Host) Station
}

// Visit is one look at a card from a station.
type Visit struct {
	*http.Request
	*desk.Laid
	Studio desk.Studio
	Page   *Page
}

// NotReady says why the station cannot be shown yet, and where to go instead.
func (v *Visit) NotReady(why string, ways ...Way) { v.Page.NotReady, v.Page.Ways = why, ways }

// WithoutBoard is [Visit.NotReady] for what needs the cells.
func (v *Visit) WithoutBoard(ways ...Way) {
	why, to := "The cells of the line are not known yet.", []Way{{Name: "To the Line station", Station: "line"}}
	if !v.Rev.Card.Begun() {
		why = "Choose a line image at the Line station: its cells are what gets coloured. Paper without a line is painted by zones."
		to = append(to, Way{Name: "Paint it without a line", Make: change.NewZone{Shape: card.All, Name: "Ground"}})
	}
	v.NotReady(why, append(to, ways...)...)
}

// Way leads to another station, or makes a change.
type Way struct {
	Name, Station string
	Make          change.Change // nil where it leads on
}

//go:embed *.html
var files embed.FS

// Room is what every station's page is made with.
var Room = page.Room{Files: files, Funcs: template.FuncMap{"changeName": change.NameOf, "changeValues": change.Values}}

// Page is a card seen from one of its stations.
type Page struct {
	page.Page
	*store.Revision
	ID       string // address of the card, or of the piece it is seen from
	Pieces   []PieceTab
	Station  About
	Tabs     []Tab
	Board    board.View
	Watches  []Watch
	Open     string // id of the area that is open
	Nth      int    // which of its washes is in hand, from 1; 0 for whichever the station likes
	Picked   string // id of the image that is picked
	View     any    // what the station shows
	First    string // template of what stands before the question, "" for nothing
	NotReady string // why the station cannot be shown yet
	Ways     []Way
}
