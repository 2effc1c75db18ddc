package board

import (
	"bytes"
	"context"
	"fmt"
	"image/png"
	"net/http"

	"chromaqua/core/wash"
	"chromaqua/internal/easel"
	"chromaqua/internal/web/page"
)

// Touched is the page that tells what comes of touching a cell.
type Touched struct {
	page.Page
	Of                string // the card
	Name, When, Stage string
	Water             float64
	All               []touchedWith
}

type touchedWith struct{ With, Says, Picture string }

// Touch touches a cell of a painting at a time, s, with all there is; picture is the address
// at which each is seen.
func Touch(ctx context.Context, e *easel.Easel, p *easel.Painting, cell int, at float64, picture func(easel.Touching) string) (*Touched, error) {
	v := &Touched{Of: p.Board.Card.Name, Name: fmt.Sprintf("Cell %d", cell), When: fmt.Sprintf("minute %.0f", at/60)}
	v.Title = v.Of + ", touched"
	if at >= DryAt(p) {
		v.When = "the end"
	}
	for _, with := range easel.Touchings() {
		t, err := e.Touch(ctx, p, cell, at, with)
		if err != nil {
			return nil, err
		}
		v.Stage, v.Water = t.Stage, t.Water
		v.All = append(v.All, touchedWith{with.Words(), t.Says, picture(with)})
	}
	if a := p.Board.HolderOf(cell); a != nil {
		v.Name = a.Name
	}
	return v, nil
}

// SendTouched sends what is seen round a cell that was touched, once it is dry.
func SendTouched(ctx context.Context, w http.ResponseWriter, e *easel.Easel, p *easel.Painting, cell int, at float64, with easel.Touching) error {
	t, err := e.Touch(ctx, p, cell, at, with)
	if err != nil {
		return err
	}
	var buf bytes.Buffer
	if err := png.Encode(&buf, t.Picture); err != nil {
		return err
	}
	w.Header().Set("Content-Type", "image/png")
	w.Header().Set("Cache-Control", "private, max-age=86400")
	_, err = w.Write(buf.Bytes())
	return err
}

// DryAt is when a painting is dry, s.
func DryAt(p *easel.Painting) float64 {
	const after = 6 * 3600 // s: even a puddle in a cold room
	if ends := p.Ends(); len(ends) > 0 {
		return ends[len(ends)-1] + after
	}
	return after
}

// Moment is a time as a touch is asked for: s, or when all is dry.
func Moment(p *easel.Painting, at float64) float64 {
	if at == wash.Dry {
		return DryAt(p)
	}
	return at
}
