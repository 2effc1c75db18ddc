package web

import (
	"bytes"
	"cmp"
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
	"chromaqua/core/shelf"
	"chromaqua/internal/picture"
	"chromaqua/internal/store"
)

// useDrawing puts an image of the studio on the panel: behind those that lie
// there, or in the place of the one that is picked.
func (e *editing) useDrawing() (string, error) {
	m, err := e.store.Image(e.ctx, e.get("image"))
	if errors.Is(err, store.ErrNotFound) {
		return "", errors.New("that image is no longer in the studio; choose another")
	}
	if err != nil {
		return "", err
	}
	width := m.Real
	if width == 0 { // not measured yet: as wide as the panel until it is
		width = e.card.PanelSize().W
	}
	return "placed " + m.Title, e.setImage(m, width)
}

// setImage lays an image in the middle of the panel, as wide as it really is.
// Areas of an image that goes keep their places, as the new one may be a better
// scan of the same.
func (e *editing) setImage(m *store.Image, width length.Length) (err error) {
	scan := card.Scan{Image: m.Hash, Title: m.Title, WidthPX: m.Width, HeightPX: m.Height, Width: width}
	if len(e.card.Images) > 0 && e.get("instead") != "" {
		old, err := e.image()
		if err != nil {
			return err
		}
		return e.card.Place(old.ID, scan, m.Kind)
	}
	e.open.image, err = e.card.Lay(scan, m.Kind)
	return err
}

// image is the image on the panel that a form speaks of: the one that is picked,
// or the one in front.
func (e *editing) image() (*card.Image, error) {
	if e.card.Line() == nil {
		return nil, errors.New("the card has no line image yet; choose one first")
	}
	id := e.get("picked")
	if id == "" {
		return e.card.Line(), nil
	}
	e.open.image = id
	return e.card.ImageByID(id)
}

// changeImage lets f change the image a form speaks of; f says what it did.
func (e *editing) changeImage(f func(*card.Image) (what string, err error)) (string, error) {
	m, err := e.image()
	if err != nil {
		return "", err
	}
	what, err := f(m)
	return what + " " + m.Title, err
}

func (e *editing) place() (string, error) {
	return e.changeImage(func(m *card.Image) (string, error) {
		var errs [4]error
		var turn float64
		m.Width, errs[0] = e.retyped("width", "width of the image", m.Width, length.Parse)
		m.X, errs[1] = e.retyped("x", "distance from the left", m.X, length.ParseOffset)
		m.Y, errs[2] = e.retyped("y", "distance from the top", m.Y, length.ParseOffset)
		if e.values.Has("turn") {
			if turn, errs[3] = number(cmp.Or(e.get("turn"), "0"), "turn"); errs[3] == nil {
				m.Turn = turn
			}
		}
		for _, err := range errs {
			if err != nil {
				return "", err
			}
		}
		return "placed", nil
	})
}

// shift moves an image by a drag or a key.
func (e *editing) shift() (string, error) {
	return e.changeImage(func(m *card.Image) (string, error) {
		dx, err := e.length("dx", "move to the right", length.ParseOffset)
		if err != nil {
			return "", err
		}
		dy, err := e.length("dy", "move down", length.ParseOffset)
		if err != nil {
			return "", err
		}
		m.X, m.Y = m.X+dx, m.Y+dy
		return "moved", nil
	})
}

func (e *editing) centre() (string, error) {
	return e.changeImage(func(m *card.Image) (string, error) {
		e.card.Centre(m)
		return "centred", nil
	})
}

// turn turns an image further by a drag or a key, to the tenth of a degree.
func (e *editing) turn() (string, error) {
	return e.changeImage(func(m *card.Image) (string, error) {
		by, err := number(e.get("by"), "turn")
		if err != nil {
			return "", err
		}
		return "turned", m.TurnBy(by)
	})
}

func (e *editing) mirror() (string, error) {
	return e.changeImage(func(m *card.Image) (string, error) {
		m.Mirror = !m.Mirror
		return "mirrored", nil
	})
}

// bring moves an image in front of others, or behind them.
func (e *editing) bring() (string, error) {
	return e.changeImage(func(m *card.Image) (string, error) {
		n, err := strconv.Atoi(e.get("n"))
		if err != nil {
			return "", errOldPage
		}
		return "changed what lies in front:", e.card.Bring(m.ID, n)
	})
}

// repeat adds copies of an image, each so much further on than the last.
func (e *editing) repeat() (string, error) {
	return e.changeImage(func(m *card.Image) (string, error) {
		n, err := strconv.Atoi(e.get("copies"))
		if err != nil {
			return "", fmt.Errorf("copies: %.20q is no whole number", e.get("copies"))
		}
		var by [2]length.Length
		for i, name := range []string{"right", "down"} {
			if by[i], err = length.ParseOffset(cmp.Or(e.get(name), "0"), e.card.Unit); err != nil {
				return "", fmt.Errorf("further %s: %w", name, err)
			}
		}
		turn, err := number(cmp.Or(e.get("turned"), "0"), "turn")
		if err != nil {
			return "", err
		}
		return "repeated", e.card.Repeat(m.ID, n, by[0], by[1], turn)
	})
}

func (e *editing) takeAway() (string, error) {
	m, err := e.image()
	if err != nil {
		return "", err
	}
	e.open.image = ""
	e.values.Del("picked")
	return "took " + m.Title + " away", e.card.TakeAway(m.ID)
}

func (e *editing) setKind() (string, error) {
	return e.changeImage(func(m *card.Image) (string, error) {
		m.Kind = shelf.ImageKind(e.get("kind"))
		return "says how it is made:", nil
	})
}

func (e *editing) setGhost() (string, error) {
	return e.changeImage(func(m *card.Image) (n string, err error) {
		if m.Ghost, err = strconv.Atoi(e.get("ghost")); err != nil {
			return "", fmt.Errorf("stamped off: %.20q is no whole number", e.get("ghost"))
		}
		return "says how often it is stamped off:", nil
	})
}

func (e *editing) setRelief() (string, error) {
	e.card.Relief = card.Relief(e.get("relief"))
	return "says when the relief is pressed", nil
}

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
	l, err := e.image()
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

// points reads places from the panel's top left corner: "1 x 2; 1 1/2 x 2".
func (e *editing) points() (out []lineart.Point, err error) {
	for i, text := range strings.Split(e.get("points"), ";") {
		x, y, ok := strings.Cut(strings.ReplaceAll(text, "×", "x"), "x")
		if !ok {
			return nil, fmt.Errorf("point %d: %.40q is no place; write how far from the left and from the top, such as 1 1/2 x 2, and a semicolon between points", i+1, strings.TrimSpace(text))
		}
		var at [2]length.Length
		for k, part := range []string{x, y} {
			l, err := length.ParseOffset(part, e.card.Unit)
			if err != nil {
				return nil, fmt.Errorf("point %d: %w", i+1, err)
			}
			at[k] = l
		}
		out = append(out, lineart.Point{X: at[0].MM(), Y: at[1].MM()})
	}
	return out, nil
}

// pen draws a stroke.
func (e *editing) pen() (string, error) {
	points, err := e.points()
	if err != nil {
		return "", err
	}
	return e.correct("drew with the pen", func(b *panel.Board) error { return b.Stroke(points) })
}

// bare keeps ink off a part of an image: what the points go round.
func (e *editing) bare() (string, error) {
	points, err := e.points()
	if err != nil {
		return "", err
	}
	return e.changeImage(func(m *card.Image) (string, error) {
		panel.Mark(m, card.Bare, points)
		return "keeps ink off a part of", nil
	})
}

func (e *editing) removeMark() (string, error) {
	m, err := e.image()
	if err != nil {
		return "", err
	}
	if e.get("mark") == "all" {
		for i := range e.card.Images {
			e.card.Images[i].Marks = nil
		}
		return "took all corrections back", nil
	}
	n := e.nth("mark")
	if n < 0 || n >= len(m.Marks) {
		return "", errors.New("that correction is gone; nothing was changed")
	}
	m.Marks = slices.Delete(m.Marks, n, n+1)
	return "took a correction back", nil
}

func (e *editing) setSpecks() (what string, err error) {
	if e.get("specks") == "" {
		e.card.Specks = 0
		return "forgets no specks", nil
	}
	e.card.Specks, err = number(e.get("specks"), "size of specks")
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
		e.card.Areas[i].White, e.open.area = true, id
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

// relay lays a new scan of an image that is on the panel exactly on the old one,
// so that areas and corrections stay where they are, and says whether the two
// show the same image. The picture becomes the scan as it was laid.
func (e *editing) relay(m *store.Image) (same bool, err error) {
	l, err := e.image()
	if err != nil || l.Image == m.Hash || len(e.card.Areas)+len(l.Marks) == 0 {
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
