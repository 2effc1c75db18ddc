package format

import (
	"fmt"
	"net/http"
	"strings"

	"github.com/go-chi/chi/v5"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/mount"
	"chromaqua/core/pouch"
	"chromaqua/internal/desk"
	"chromaqua/internal/sheet"
	"chromaqua/internal/store"
	"chromaqua/internal/web/board"
	"chromaqua/internal/web/page"
)

// pouchKinds are the envelopes that can be made to measure.
var pouchKinds = []struct {
	ID, Name string
	make     func(c *card.Card, clearance length.Length) (*pouch.Pouch, error)
}{
	{"square", "from a square", func(c *card.Card, clearance length.Length) (*pouch.Pouch, error) {
		return pouch.FromSquare(c.Front(), clearance, c.Unit)
	}},
	{"strip", "from a strip", func(c *card.Card, clearance length.Length) (*pouch.Pouch, error) {
		return pouch.FromStrip(c.Front(), clearance, 0, c.Unit)
	}},
}

// pouchView is an envelope made to measure, as drawn.
type pouchView struct {
	ID, Name string
	*pouch.Pouch
	Shapes []shapeView
	Why    string // why there is none
}

// shapeView is a piece of it.
type shapeView struct {
	pouch.Shape
	View   board.Box
	Points string
	Front  *board.Box // of the envelope
	Size   float64    // of text
}

func pouchesOf(c *card.Card) (out []pouchView) {
	for _, k := range pouchKinds {
		v := pouchView{ID: k.ID, Name: k.Name}
		p, err := k.make(c, mount.EnvelopeClearance(c))
		if err != nil {
			v.Why = err.Error()
			out = append(out, v)
			continue
		}
		v.Pouch = p
		for i, shape := range p.Shapes() {
			v.Shapes = append(v.Shapes, shapeOf(shape))
			if i == 0 {
				v.Shapes[0].Front = new(board.At(-p.Inside.W.MM()/2, -p.Inside.H.MM()/2, p.Inside.W.MM(), p.Inside.H.MM()))
			}
		}
		out = append(out, v)
	}
	return out
}

func shapeOf(s pouch.Shape) shapeView {
	x0, y0, x1, y1 := pouch.Bounds(s.Outline)
	v := shapeView{Shape: s, View: board.At(x0-2, y0-2, x1-x0+4, y1-y0+4)}
	var points strings.Builder
	for _, q := range s.Outline {
		fmt.Fprintf(&points, "%.2f,%.2f ", q.X, q.Y)
	}
	v.Points, v.Size = points.String(), max(v.View.W, v.View.H)*0.06
	return v
}

// envelopeTemplate sends the template of an envelope made to measure.
func (s *place) envelopeTemplate(w http.ResponseWriter, r *http.Request) error {
	rev, err := s.host.Revision(r)
	if err != nil {
		return err
	}
	for _, k := range pouchKinds {
		if k.ID != chi.URLParam(r, "kind") {
			continue
		}
		p, err := k.make(rev.Card, mount.EnvelopeClearance(rev.Card))
		if err != nil {
			return desk.Refuse(err)
		}
		doc := &sheet.Envelope{Unit: rev.Card.Unit, Title: rev.Card.Name + ", envelope " + k.Name, Pouch: p}
		return page.SendDrawing(w, r, doc.Title, doc)
	}
	return store.ErrNotFound
}
