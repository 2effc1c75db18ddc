// Package newcard is the page on which a card begins: from a format, or from what is at hand.
package newcard

import (
	"cmp"
	"context"
	"embed"
	"errors"
	"fmt"
	"net/http"
	"strings"
	"time"

	"github.com/go-chi/chi/v5"

	"chromaqua/core/card"
	"chromaqua/core/fold"
	"chromaqua/core/length"
	"chromaqua/core/mount"
	"chromaqua/core/school"
	"chromaqua/internal/web/drawer"
	"chromaqua/internal/web/page"
)

//go:embed *.html
var files embed.FS

// Entry is the drawer's row in the table of drawers.
var Entry = drawer.Entry{
	Room: page.Room{Files: files},
	Link: page.Link{Place: "new", Name: "New card", Path: "/new"},
	Routes: func(k drawer.Kit, r chi.Router) {
		d := &place{k}
		r.Get("/new", d.Handle(d.newCard))
		r.Post("/cards", d.Handle(d.createCard))
	},
}

type place struct{ drawer.Kit }

// newForm is what the page for a new card asks and was told.
type newForm struct {
	page.Page
	Name, Format, Fold, Piece string
	Unit                      length.Unit
	Formats                   []fold.Format
	Size                      length.Size // of the piece, when one was given
	Options                   []fold.Option
	Envelopes                 []fold.Envelope
	Dies                      []dieChoice
}

// dieChoice is one die of a set in the drawer.
type dieChoice struct {
	Set  string
	Size length.Size
}

// asPictureLies is the fold of a card that is folded as its picture lies.
const asPictureLies = "picture"

// foldOf is the fold a new card of a studio begins with.
func foldOf(studio school.Ways) string {
	switch studio.Fold {
	case school.FoldSide:
		return string(fold.Left)
	case school.FoldTop:
		return string(fold.Top)
	}
	return asPictureLies
}

// newForm returns the form as it is first shown.
func (d *place) newForm(ctx context.Context) (*newForm, error) {
	set, err := d.Settings(ctx)
	if err != nil {
		return nil, err
	}
	f := &newForm{Page: page.Page{Title: "New card", Place: "new"}, Format: "a2", Fold: foldOf(set.Settings.Schools), Formats: fold.Formats(), Envelopes: fold.Envelopes()}
	drawer, err := d.Paper(ctx)
	if err != nil {
		return nil, err
	}
	for _, d := range drawer.Stock.Dies {
		for _, size := range d.Sizes {
			f.Dies = append(f.Dies, dieChoice{d.Name, size})
		}
	}
	return f, nil
}

// newCard asks for a card's name and format, or answers what a piece of paper
// makes.
func (d *place) newCard(w http.ResponseWriter, r *http.Request) error {
	f, err := d.newForm(r.Context())
	if err != nil {
		return err
	}
	f.read(r)
	status := http.StatusOK
	if f.Piece != "" {
		size, err := length.ParseSize(f.Piece, f.Unit)
		if err != nil {
			status, f.Message = http.StatusUnprocessableEntity, err.Error()
		} else {
			f.Size = size
			f.Options = fold.FromPaper(size, mount.Body(card.New("", f.Unit)).Thickness())
		}
	}
	d.Render(w, r, status, "new.html", f)
	return nil
}

func (f *newForm) read(r *http.Request) {
	set := func(to *string, name string) {
		if v := strings.TrimSpace(r.FormValue(name)); v != "" {
			*to = v
		}
	}
	set(&f.Name, "name")
	set(&f.Format, "format")
	set(&f.Fold, "fold")
	set(&f.Piece, "piece")
	if r.FormValue("unit") == length.Millimetres.String() {
		f.Unit = length.Millimetres
	}
}

func (d *place) createCard(w http.ResponseWriter, r *http.Request) error {
	if err := page.Read(w, r); err != nil {
		return err
	}
	f, err := d.newForm(r.Context())
	if err != nil {
		return err
	}
	f.read(r)
	c, err := d.newCardOf(r, f)
	if err = page.Refused(err); err != nil {
		status, words := d.Explain(r, err)

		f.Message = words.Error()
		d.Render(w, r, status, "new.html", f)
		return nil
	}
	id, err := d.Create(r.Context(), c, "made the card")
	if err != nil {
		return err
	}
	http.Redirect(w, r, page.CardPath(id, "format"), http.StatusSeeOther)
	return nil
}

// newCardOf makes the card a form asks for: of a format, of a free size, or
// starting from what the maker has. Without a name it is called after its day.
func (p *place) newCardOf(r *http.Request, f *newForm) (*card.Card, error) {
	c := card.New(cmp.Or(f.Name, "Card of "+time.Now().Format("2 January")), f.Unit)
	set, err := p.Settings(r.Context())
	if err != nil {
		return nil, err
	}
	c.Begin(set.Settings.Schools)
	if f.Fold != asPictureLies {
		c.Base.Fold = fold.Side(f.Fold)
	}
	start := r.FormValue("start")
	size := func(name, what string) (length.Size, error) {
		v, err := length.ParseSize(r.FormValue(name), f.Unit)
		if err != nil {
			return v, fmt.Errorf("size of the %s: %w", what, err)
		}
		return v, nil
	}
	var is length.Size
	switch start {
	case "":
		if f.Format != card.Free {
			err = c.SetFormat(f.Format, false)
		} else if is, err = size("front", "front"); err == nil {
			err = c.Give(card.FrontRing, is)
		}
	case "envelope":
		id := r.FormValue("envelope")
		if id == card.Free {
			is, err = size("size", "envelope")
		} else {
			var e fold.Envelope
			e, err = fold.EnvelopeByID(id)
			is = e.Inside
		}
		if err == nil {
			c.Envelope = &card.Envelope{ID: id, Inside: is}
			err = c.StartFromEnvelope()
		}
	case card.PanelRing:
		if is, err = size("size", "panel"); err == nil {
			err = c.StartFrom(card.PanelRing, is)
		}
	case card.StampRing:
		if is, err = size("size", "stamp"); err == nil {
			c.Stamp = &card.Stamp{}
			err = c.StartFrom(card.StampRing, is)
		}
	case "die":
		err = p.startFromDie(r, c)
	default:
		err = errors.New("a card starts from a format, an envelope, a panel, a stamp or a die")
	}
	if err != nil {
		return nil, err
	}
	if f.Fold == asPictureLies {
		c.FoldByPicture()
	}
	return c, c.Check()
}

// startFromDie makes a card round a mat that a die of the drawer cuts.
func (p *place) startFromDie(r *http.Request, c *card.Card) error {
	set, text, _ := strings.Cut(r.FormValue("die"), "|")
	size, err := length.ParseSize(text, length.Millimetres)
	if err != nil {
		return fmt.Errorf("size of the die: %w", err)
	}
	rev, err := p.Paper(r.Context())
	if err != nil {
		return err
	}
	d, err := rev.Stock.DieSet(set)
	if err != nil {
		return err
	}
	if err := c.StartFrom("layer-0", size); err != nil {
		return err
	}
	return c.SetDie("layer-0", d)
}
