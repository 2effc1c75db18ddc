package web

import (
	"errors"
	"fmt"
	"strconv"
	"strings"

	"chromaqua/core/card"
	"chromaqua/core/fold"
	"chromaqua/core/length"
	"chromaqua/core/nest"
	"chromaqua/core/shelf"
)

// The changes the Format station asks for.

// setFormat gives the front a standard size, or lets it follow.
func (e *editing) setFormat() (string, error) {
	switch id := e.get("format"); id {
	case "follows":
		return "let the front follow", e.card.Give(card.FrontRing, length.Size{})
	case card.Free: // its size is typed
		return "gave the front a size of its own", e.card.Give(card.FrontRing, e.card.Front())
	default:
		turned := e.card.Front().W > e.card.Front().H
		if e.values.Has("turned") {
			turned = e.get("turned") == "true"
		}
		return "changed the format", e.card.SetFormat(id, turned)
	}
}

func (e *editing) setFold() (string, error) {
	e.card.Base.Fold, e.card.Base.Inside = fold.Side(e.get("fold")), e.get("scored") == "inside"
	return "changed the fold", e.card.Base.Fold.Check()
}

func (e *editing) setEnvelope() (string, error) {
	if e.get("start") == "true" {
		return "let the card follow from its envelope", e.card.StartFromEnvelope()
	}
	id := e.get("envelope")
	if id == "" {
		e.card.Change(func() { e.card.Envelope = nil })
		return "took the envelope away", nil
	}
	inside := e.card.Front()
	if id == card.Free {
		if text := e.get("inside"); text != "" {
			var err error
			if inside, err = length.ParseSize(text, e.card.Unit); err != nil {
				return "", fmt.Errorf("inside of the envelope: %w", err)
			}
		} else {
			need := length.Inch/8 + fold.Thickness(e.card.Stack())
			mark := e.card.Unit.Mark()
			up := func(l length.Length) length.Length { return (l + need + mark - 1) / mark * mark }
			inside = length.Size{W: up(max(inside.W, inside.H)), H: up(min(inside.W, inside.H))}
		}
	} else {
		known, err := fold.EnvelopeByID(id)
		if err != nil {
			return "", err
		}
		inside = known.Inside
	}
	e.card.Change(func() { e.card.Envelope = &card.Envelope{ID: id, Inside: inside} })
	return "chose the envelope", nil
}

// given reads a size of a ring: what was sent back as it was shown stays as it
// is, what is empty follows.
func (e *editing) given(r *card.Ring) (length.Size, error) {
	var out length.Size
	for _, f := range []struct {
		name, what string
		to         *length.Length
		now        length.Length
		is         bool
	}{{"w", "width", &out.W, r.Size.W, r.GivenW}, {"h", "height", &out.H, r.Size.H, r.GivenH}} {
		switch text := e.get(f.name); {
		case text == "":
		case text == f.now.Typed(e.card.Unit):
			if f.is {
				*f.to = f.now
			}
		default:
			l, err := length.Parse(text, e.card.Unit)
			if err != nil {
				return out, fmt.Errorf("%s of the %s: %w", f.what, r.Name, err)
			}
			*f.to = l
		}
	}
	return out, nil
}

func (e *editing) ring() (*card.Ring, error) {
	layout, err := e.card.Layout()
	if err != nil {
		return nil, err
	}
	r := layout.Of(e.get("ring"))
	if r == nil {
		return nil, errors.New("that layer is gone: it was removed or undone meanwhile; nothing was changed")
	}
	return r, nil
}

// setSize gives a ring a size, or starts from it.
func (e *editing) setSize() (string, error) {
	r, err := e.ring()
	if err != nil {
		return "", err
	}
	if e.get("start") == "true" {
		size, err := length.ParseSize(e.get("w")+" x "+e.get("h"), e.card.Unit)
		if err != nil {
			return "", fmt.Errorf("size of the %s: %w", r.Name, err)
		}
		return "let all follow from the " + r.Name, e.card.StartFrom(r.ID, size)
	}
	size, err := e.given(r)
	if err != nil {
		return "", err
	}
	if e.get("show") == "follow" {
		if err := e.card.Show(r.ID, "", nil); err != nil {
			return "", err
		}
	}
	if size == (length.Size{}) {
		return "let the " + r.Name + " follow", e.card.Give(r.ID, size)
	}
	return "gave the " + r.Name + " its size", e.card.Give(r.ID, size)
}

// setShow gives what shows round a ring: "all" for every side, or each side.
func (e *editing) setShow() (string, error) {
	r, err := e.ring()
	if err != nil {
		return "", err
	}
	read := func(name string, now length.Length, given bool) (*length.Length, error) {
		switch text := e.get(name); {
		case text == "", !given && text == now.Typed(e.card.Unit):
			return nil, nil
		case text == now.Typed(e.card.Unit):
			return &now, nil
		}
		l, err := e.length(name, "what shows round the "+r.Name, length.ParseOffset)
		return &l, err
	}
	if e.values.Has("all") {
		l, err := read("all", r.Round.Left, r.Round.Given.Left != nil)
		if err != nil {
			return "", err
		}
		return "changed what shows round the " + r.Name, e.card.Show(r.ID, "", l)
	}
	for _, side := range []nest.Side{nest.Left, nest.Right, nest.Top, nest.Bottom} {
		l, err := read(string(side), r.Round.Of(side), *r.Round.Given.Of(side) != nil)
		if err != nil {
			return "", err
		}
		if err := e.card.Show(r.ID, side, l); err != nil {
			return "", err
		}
	}
	return "changed what shows round the " + r.Name, nil
}

// drag moves an edge on the picture by marks of the maker's ruler.
func (e *editing) drag() (string, error) {
	r, err := e.ring()
	if err != nil {
		return "", err
	}
	marks, err := strconv.Atoi(e.get("marks"))
	if err != nil || max(marks, -marks) > int(length.Max/e.card.Unit.Mark()) {
		return "", errors.New("an edge is moved by whole marks of the ruler")
	}
	by := length.Length(marks) * e.card.Unit.Mark()
	sides := []nest.Side{nest.Side(e.get("side"))}
	if e.get("all") == "true" {
		sides = []nest.Side{nest.Left, nest.Right, nest.Top, nest.Bottom}
	}
	for _, side := range sides {
		if err := e.card.Drag(r.ID, side, by); err != nil {
			return "", err
		}
	}
	return "moved an edge of the " + r.Name, nil
}

func (e *editing) addLayer() (string, error) {
	kind := card.LayerKind(e.get("kind"))
	return "added a " + string(kind), e.card.AddLayer(kind)
}

// layer returns the layer a form speaks of.
func (e *editing) layer() (int, *card.Layer, error) {
	i, err := strconv.Atoi(e.get("layer"))
	if err != nil || i < 0 || i >= len(e.card.Layers) {
		return 0, nil, errors.New("that layer is gone: it was removed or undone meanwhile; nothing was changed")
	}
	return i, &e.card.Layers[i], nil
}

// setLayer says what a layer is made of and how it is mounted. The panel's
// paper belongs to the Line station.
func (e *editing) setLayer() (string, error) {
	foam := e.get("foam") == "true"
	if e.get("layer") == card.PanelRing {
		e.card.Change(func() { e.card.Panel.Foam = foam })
		return "changed how the panel is mounted", nil
	}
	i, l, err := e.layer()
	if err != nil {
		return "", err
	}
	p, err := shelf.PaperByID(e.get("paper"))
	if err != nil {
		return "", err
	}
	e.card.Change(func() { l.Paper, l.Colour, l.Foam = p.ID, e.get("colour"), foam })
	return "changed the " + e.card.LayerName(i), nil
}

func (e *editing) removeLayer() (string, error) {
	i, _, err := e.layer()
	if err != nil {
		return "", err
	}
	return "took the " + e.card.LayerName(i) + " off", e.card.RemoveLayer(i)
}

// setDie cuts a ring with a die set of the drawer.
func (e *editing) setDie() (string, error) {
	r, err := e.ring()
	if err != nil {
		return "", err
	}
	name := e.get("set")
	if name == "" {
		return "cut the " + r.Name + " without a die", e.card.SetDie(r.ID, nil)
	}
	rev, err := e.store.Paper(e.ctx)
	if err != nil {
		return "", err
	}
	set, err := rev.Stock.DieSet(name)
	if err != nil {
		return "", err
	}
	return "cut the " + r.Name + " with " + set.Name, e.card.SetDie(r.ID, set)
}

// setStamp makes the panel round what is stamped on it, or no longer.
func (e *editing) setStamp() (string, error) {
	switch e.get("stamp") {
	case "image":
		if _, err := e.image(); err != nil {
			return "", err
		}
		e.card.Change(func() { e.card.Stamp = &card.Stamp{} })
		return "made the panel round its image", nil
	case "size":
		size, err := length.ParseSize(e.get("size"), e.card.Unit)
		if err != nil {
			return "", fmt.Errorf("size of the stamp: %w", err)
		}
		e.card.Change(func() { e.card.Stamp = &card.Stamp{Size: size} })
		return "made the panel round a stamp", nil
	}
	e.card.Change(func() { e.card.Stamp = nil })
	return "took the stamp's size away", nil
}

func (e *editing) setInsert() (string, error) {
	if e.get("on") != "true" {
		e.card.Change(func() { e.card.Insert = nil })
		return "took the insert out", nil
	}
	in := card.Insert{Margin: length.Inch / 8, Paper: shelf.Cardstock}
	if e.values.Has("margin") {
		var err error
		if in.Margin, err = e.length("margin", "margin of the insert", length.ParseOffset); err != nil {
			return "", err
		}
		p, err := shelf.PaperByID(e.get("insert-paper"))
		if err != nil {
			return "", err
		}
		in.Paper, in.Colour = p.ID, e.get("colour")
	}
	e.card.Change(func() { e.card.Insert = &in })
	return "changed the insert", nil
}

func (e *editing) setExtra() (string, error) {
	var err error
	e.card.Extra, err = e.length("extra", "height of the embellishments", length.ParseOffset)
	return "changed the embellishments", err
}

func (e *editing) setPainting() (string, error) {
	p := &e.card.Painting
	for _, f := range []struct {
		name, what string
		to         *length.Length
	}{{"border", "masked border", &p.Border}, {"tape", "tape", &p.Tape}, {"spare", "spare paper", &p.Spare}} {
		l, err := e.retyped(f.name, f.what, *f.to, length.ParseOffset)
		if err != nil {
			return "", err
		}
		*f.to = l
	}
	return "changed the taping", nil
}

func (e *editing) setWords() (string, error) {
	text := e.get("words")
	if text == "" {
		e.card.Words = length.Size{}
		return "looks for no words", nil
	}
	size, err := length.ParseSize(text, e.card.Unit)
	if err != nil {
		return "", fmt.Errorf("size of the words: %w", err)
	}
	e.card.Words = size
	return "looks for room for words", nil
}

// setFocal says whether words keep off an area.
func (e *editing) setFocal() (string, error) {
	a, err := e.areaOf()
	if err != nil {
		return "", err
	}
	a.Focal = e.get("focal") == "true"
	return "changed what " + a.Name + " is", nil
}

func (e *editing) window() (*card.Window, error) {
	if e.card.Window == nil {
		return nil, errors.New("the card has no painted sheet; scan one first")
	}
	return e.card.Window, nil
}

// setWindow moves and turns the window over the painted sheet.
func (e *editing) setWindow() (string, error) {
	w, err := e.window()
	if err != nil {
		return "", err
	}
	for _, f := range []struct {
		name, what string
		to         *length.Length
	}{{"width", "width of the sheet", &w.Width}, {"x", "middle from the left", &w.X}, {"y", "middle from the top", &w.Y}} {
		l, err := e.retyped(f.name, f.what, *f.to, length.ParseOffset)
		if err != nil {
			return "", err
		}
		*f.to = l
	}
	turn, err := strconv.ParseFloat(strings.TrimSuffix(strings.Replace(e.get("turn"), ",", ".", 1), "°"), 64)
	if err != nil {
		return "", fmt.Errorf("%.20q is no turn; give degrees, such as -12.5", e.get("turn"))
	}
	w.Turn = turn
	return "moved the window", nil
}

func (e *editing) centreWindow() (string, error) {
	w, err := e.window()
	if err != nil {
		return "", err
	}
	sheet := w.Size()
	w.X, w.Y, w.Turn = sheet.W/2, sheet.H/2, 0
	return "put the window in the middle", nil
}

func (e *editing) removeWindow() (string, error) {
	e.card.Window = nil
	return "put the painted sheet away", nil
}
