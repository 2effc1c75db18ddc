package web

import (
	"bytes"
	"errors"
	"fmt"
	"image/png"
	"slices"
	"strconv"
	"strings"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/lineart"
	"chromaqua/core/panel"
	"chromaqua/core/proof"
	"chromaqua/internal/picture"
	"chromaqua/internal/store"
)

// The corrections of the line and its cells.

// nth reads a number from 0 that names one of a list; one beyond any list names
// nothing.
func (e *editing) nth(name string) int {
	n, err := strconv.Atoi(e.get(name))
	if err != nil {
		return -1
	}
	return n
}

func (e *editing) correct(what string, f func(*panel.Board) error) (string, error) {
	b, err := e.board()
	if err != nil {
		return "", err
	}
	return what, f(b)
}

// measure gives the image its real width from a distance that is known: what is
// so long on the board is really so long.
func (e *editing) measure() (string, error) {
	l, err := e.line()
	if err != nil {
		return "", err
	}
	now, err := e.length("now", "distance on the board", length.Parse)
	if err != nil {
		return "", err
	}
	really, err := e.length("really", "real distance", length.Parse)
	if err != nil {
		return "", err
	}
	old := l.Size()
	l.Width = length.FromMM(l.Width.MM() * really.MM() / now.MM())
	l.X, l.Y = l.X+(old.W-l.Width)/2, l.Y+(old.H-l.Height())/2
	return "measured the image", nil
}

func (e *editing) closeLeak() (string, error) {
	return e.correct("closed a gap with the pen", func(b *panel.Board) error { return b.CloseLeak(e.nth("leak")) })
}

func (e *editing) openLeak() (string, error) {
	return e.correct("left a gap open", func(b *panel.Board) error { return b.OpenLeak(e.nth("leak")) })
}

func (e *editing) joinCells() (string, error) {
	cells, err := e.cells()
	if err != nil {
		return "", err
	}
	return e.correct("made "+plural(len(cells), "cell")+" one", func(b *panel.Board) error { return b.JoinCells(cells) })
}

// pen draws a stroke: points from the panel's top left corner, "1 x 2; 1 1/2 x
// 2".
func (e *editing) pen() (string, error) {
	var points []lineart.Point
	for i, text := range strings.Split(e.get("points"), ";") {
		x, y, ok := strings.Cut(strings.ReplaceAll(text, "×", "x"), "x")
		if !ok {
			return "", fmt.Errorf("point %d: %.40q is no place; write how far from the left and from the top, such as 1 1/2 x 2, and a semicolon between points", i+1, strings.TrimSpace(text))
		}
		var at [2]length.Length
		for k, part := range []string{x, y} {
			l, err := length.ParseOffset(part, e.card.Unit)
			if err != nil {
				return "", fmt.Errorf("point %d: %w", i+1, err)
			}
			at[k] = l
		}
		points = append(points, lineart.Point{X: at[0].MM(), Y: at[1].MM()})
	}
	return e.correct("drew with the pen", func(b *panel.Board) error { return b.Stroke(points) })
}

func (e *editing) removeMark() (string, error) {
	l, err := e.line()
	if err != nil {
		return "", err
	}
	if e.get("mark") == "all" {
		l.Marks = nil
		return "took all corrections back", nil
	}
	n := e.nth("mark")
	if n < 0 || n >= len(l.Marks) {
		return "", errors.New("that correction is gone; nothing was changed")
	}
	l.Marks = slices.Delete(l.Marks, n, n+1)
	return "took a correction back", nil
}

func (e *editing) setSpecks() (string, error) {
	l, err := e.line()
	if err != nil {
		return "", err
	}
	if e.get("specks") == "" {
		l.Specks = 0
		return "forgets no specks", nil
	}
	l.Specks, err = number(e.get("specks"), "size of specks")
	return "forgets small cells", err
}

// keepWhite gathers cells into the area that stays paper white.
func (e *editing) keepWhite() (string, error) {
	cells, err := e.cells()
	if err != nil {
		return "", err
	}
	b, err := e.board()
	if err != nil {
		return "", err
	}
	i := slices.IndexFunc(e.card.Areas, func(a card.Area) bool { return a.White })
	if i < 0 {
		id := e.card.AddArea("Paper white")
		i = len(e.card.Areas) - 1
		e.card.Areas[i].White, e.area = true, id
	}
	return "keeps " + plural(len(cells), "cell") + " white", b.Assign(e.card.Areas[i].ID, cells)
}

// paintWhite lets an area that was kept white be painted.
func (e *editing) paintWhite() (string, error) {
	a, err := e.areaOf()
	if err != nil {
		return "", err
	}
	a.White = false
	return "lets " + a.Name + " be painted", nil
}

// relay lays a new scan of the card's image exactly on the old one, so that
// areas and corrections stay where they are, and says whether the two show the
// same image. The picture becomes the scan as it was laid.
func (e *editing) relay(m *store.Image) (same bool, err error) {
	l := e.card.Line
	if l == nil || l.Image == m.Hash || len(e.card.Areas)+len(l.Marks) == 0 {
		return false, nil
	}
	old, err := e.store.Image(e.ctx, l.Image)
	if errors.Is(err, store.ErrNotFound) {
		return false, nil
	}
	if err != nil {
		return false, err
	}
	was, err := picture.Grey(old.Data)
	if err != nil {
		return false, err
	}
	scan, err := picture.Grey(m.Data)
	if err != nil {
		return false, err
	}
	laid, same, err := proof.Relay(e.ctx, was, l.DPI(), scan, float64(m.Width)/(m.Real.MM()/25.4))
	if e.ctx.Err() != nil {
		return false, e.ctx.Err()
	}
	if err != nil || !same { // what cannot be compared is another image
		return false, nil
	}
	var buf bytes.Buffer
	if err := png.Encode(&buf, laid); err != nil {
		return false, err
	}
	m.Data, m.Hash, m.Media = buf.Bytes(), store.Hash(buf.Bytes()), "image/png"
	m.Width, m.Height, m.Real = laid.Rect.Dx(), laid.Rect.Dy(), l.Width
	l.Image, l.Title, l.WidthPX, l.HeightPX = m.Hash, m.Title, m.Width, m.Height
	return true, nil
}
