package web

import (
	"bytes"
	"fmt"
	"net/http"
	"strings"

	"github.com/go-chi/chi/v5"

	"chromaqua/core/card"
	"chromaqua/core/fold"
	"chromaqua/core/length"
	"chromaqua/internal/sheet"
	"chromaqua/internal/store"
)

// pouchKinds are the envelopes that can be made to measure.
var pouchKinds = []struct {
	ID, Name string
	make     func(c *card.Card, clearance length.Length) (*fold.Pouch, error)
}{
	{"square", "from a square", func(c *card.Card, clearance length.Length) (*fold.Pouch, error) {
		return fold.FromSquare(c.Front(), clearance, c.Unit)
	}},
	{"strip", "from a strip", func(c *card.Card, clearance length.Length) (*fold.Pouch, error) {
		return fold.FromStrip(c.Front(), clearance, 0, c.Unit)
	}},
}

// pouchClearance is the room a card gets in an envelope made for it: an eighth
// of an inch, and its own thickness.
func pouchClearance(c *card.Card) length.Length {
	return length.Inch/8 + fold.Thickness(c.Stack())
}

// pouchView is an envelope made to measure, as drawn.
type pouchView struct {
	ID, Name string
	*fold.Pouch
	View    box
	Outline string
	Front   box
	Size    float64 // of text
	Why     string  // why there is none
}

func pouchesOf(c *card.Card) (out []pouchView) {
	for _, k := range pouchKinds {
		v := pouchView{ID: k.ID, Name: k.Name}
		p, err := k.make(c, pouchClearance(c))
		if err != nil {
			v.Why = err.Error()
			out = append(out, v)
			continue
		}
		v.Pouch = p
		var path strings.Builder
		for i, q := range p.Outline {
			if i == 0 {
				v.View = box{q.X, q.Y, q.X, q.Y}
			}
			v.View = box{min(v.View.X, q.X), min(v.View.Y, q.Y), max(v.View.W, q.X), max(v.View.H, q.Y)}
			fmt.Fprintf(&path, "%.2f,%.2f ", q.X, q.Y)
		}
		v.View = box{v.View.X - 2, v.View.Y - 2, v.View.W - v.View.X + 4, v.View.H - v.View.Y + 4}
		v.Outline = path.String()
		v.Front = box{-p.Inside.W.MM() / 2, -p.Inside.H.MM() / 2, p.Inside.W.MM(), p.Inside.H.MM()}
		v.Size = max(v.View.W, v.View.H) * 0.06
		out = append(out, v)
	}
	return out
}

// envelopeTemplate sends the template of an envelope made to measure.
func (s *Server) envelopeTemplate(w http.ResponseWriter, r *http.Request) error {
	rev, err := s.revision(r)
	if err != nil {
		return err
	}
	for _, k := range pouchKinds {
		if k.ID != chi.URLParam(r, "kind") {
			continue
		}
		p, err := k.make(rev.Card, pouchClearance(rev.Card))
		if err != nil {
			return refused(err)
		}
		doc := sheet.Envelope{Unit: rev.Card.Unit, Title: rev.Card.Name + ", envelope " + k.Name, Pouch: p}
		write, media, extension := doc.WritePDF, "application/pdf", ".pdf"
		if chi.URLParam(r, "as") == "svg" {
			write, media, extension = doc.WriteSVG, "image/svg+xml", ".svg"
		}
		var buf bytes.Buffer
		if err := write(&buf); err != nil {
			return err
		}
		download(w, media, doc.Title, extension)
		_, _ = w.Write(buf.Bytes())
		return nil
	}
	return store.ErrNotFound
}
