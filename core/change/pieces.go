package change

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"chromaqua/core/card"
	"chromaqua/core/joint"
	"chromaqua/core/length"
	"chromaqua/core/nest"
	"chromaqua/core/shelf"
)

// OnWhole is a change of the card with all its pieces, wherever the maker is: others are
// of the piece at hand, which is given alone.
type OnWhole interface {
	Change
	whole()
}

type ofWhole struct{}

func (ofWhole) whole() {}

// AddPiece puts another piece on the card.
type AddPiece struct {
	ofWhole
	Kind card.PieceKind `json:"kind"`
}

// Do adds it.
func (c AddPiece) Do(on *card.Card) (Done, error) {
	id, err := on.AddPiece(c.Kind)
	done := said("added a %s", on.PieceName(id))
	done.Piece = id
	return done, err
}

// CopyPiece puts another like one that is there on the card.
type CopyPiece struct {
	ofWhole
	Piece string `json:"piece"`
}

// Do copies it.
func (c CopyPiece) Do(on *card.Card) (Done, error) {
	id, err := on.CopyPiece(c.Piece)
	done := said("copied the %s", on.PieceName(c.Piece))
	done.Piece = id
	return done, err
}

// RemovePiece takes a piece off the card.
type RemovePiece struct {
	ofWhole
	Piece string `json:"piece"`
}

// Do takes it off.
func (c RemovePiece) Do(on *card.Card) (Done, error) {
	done := said("took the %s away", on.PieceName(c.Piece))
	done.Piece = card.ThePanel
	return done, on.RemovePiece(c.Piece)
}

// MovePiece moves a piece one place in their order, later with [Later].
type MovePiece struct {
	ofWhole
	Piece string `json:"piece"`
	Way   string `json:"way"`
}

// Do moves it.
func (c MovePiece) Do(on *card.Card) (Done, error) {
	return said("moved the %s in the order of pieces", on.PieceName(c.Piece)), on.MovePiece(c.Piece, c.Way == Later)
}

// Piece says what a piece is called, how large it is and what it is cut from.
type Piece struct {
	ofWhole
	Piece string    `json:"piece"`
	Name  string    `json:"name"`
	Count string    `json:"count"` // "" for one
	W     Typed     `json:"w"`     // "" follows
	H     Typed     `json:"h"`
	Paper *Material `json:"paper,omitempty"`
	Wrong bool      `json:"wrong"`
	Face  card.Face `json:"face"`
	Sheet string    `json:"sheet"`
}

// Do changes the piece; what is on it keeps its distance from the middle.
func (c Piece) Do(on *card.Card) (Done, error) {
	p, err := on.PieceByID(c.Piece)
	if err != nil {
		return Done{}, err
	}
	n := 0
	if text := strings.TrimSpace(c.Count); text != "" {
		v, err := ParseNumber(text)
		if n = int(v); err != nil || float64(n) != v || n < 1 {
			return Done{}, fmt.Errorf("how many: %.20q is no number of pieces; give 1 to %d", text, card.MaxOfPiece)
		}
	}
	size := p.Size
	if size.W, err = c.W.orFollows("width", p.Size.W, on.Unit); err != nil {
		return Done{}, err
	}
	if size.H, err = c.H.orFollows("height", p.Size.H, on.Unit); err != nil {
		return Done{}, err
	}
	if n == 1 {
		n = 0
	}
	on.Reshape(p, func() { p.Size = size })
	p.Name, p.Count, p.Wrong, p.Face, p.Sheet = c.Name, n, c.Wrong, c.Face, strings.TrimSpace(c.Sheet)
	if c.Paper != nil {
		p.Paper, p.OwnPaper = c.Paper.kept()
	}
	done := said("changed the %s", p.Name)
	done.Piece = p.ID
	return done, nil
}

// orFollows reads a length; "" follows, and what was shown stays exactly what it is.
func (t Typed) orFollows(what string, now length.Length, u length.Unit) (length.Length, error) {
	if strings.TrimSpace(string(t)) == "" {
		return 0, nil
	}
	return t.retyped(what, now, u, length.Parse)
}

// CutAlong says how a piece is cut: along the line of one of its images, or straight when
// that is "".
type CutAlong struct {
	ofWhole
	Piece   string `json:"piece"`
	Image   string `json:"image"`
	Margin  Typed  `json:"margin"`
	Partial bool   `json:"partial"`
	Darken  bool   `json:"darken"`
}

// Do changes how it is cut.
func (c CutAlong) Do(on *card.Card) (Done, error) {
	p, err := on.PieceByID(c.Piece)
	if err != nil {
		return Done{}, err
	}
	done := said("cuts the %s straight", p.Name)
	done.Piece = p.ID
	if c.Image == "" {
		on.Reshape(p, func() { p.Outline = nil })
		return done, nil
	}
	var margin length.Length
	if strings.TrimSpace(string(c.Margin)) != "" {
		if margin, err = c.Margin.length("margin", on.Unit, length.ParseOffset); err != nil {
			return Done{}, err
		}
	}
	on.Reshape(p, func() {
		p.Outline = &card.Outline{Image: c.Image, Margin: margin, Partial: c.Partial, Darken: c.Darken}
	})
	done.Says = "cuts the " + p.Name + " along its line"
	return done, nil
}

// PieceDie cuts a piece with the nearest die of a set; nil cuts it plainly.
type PieceDie struct {
	ofWhole
	Piece string       `json:"piece"`
	Set   *card.DieSet `json:"set,omitempty"`
}

// Do changes how it is cut.
func (c PieceDie) Do(on *card.Card) (Done, error) {
	p, err := on.PieceByID(c.Piece)
	if err != nil {
		return Done{}, err
	}
	on.Reshape(p, func() { p.Die = c.Set })
	done := said("cuts the %s plainly", p.Name)
	if c.Set != nil {
		done.Says = "cuts the " + p.Name + " with a die of " + c.Set.Name
	}
	done.Piece = p.ID
	return done, nil
}

// PlacePiece says where a piece lies and what holds it.
type PlacePiece struct {
	ofWhole
	Piece string   `json:"piece"`
	On    string   `json:"on"` // "" nowhere yet
	X     Typed    `json:"x"`
	Y     Typed    `json:"y"`
	Turn  Angle    `json:"turn"`
	By    joint.By `json:"by"`
}

// Do places it.
func (c PlacePiece) Do(on *card.Card) (Done, error) {
	p, err := on.PieceByID(c.Piece)
	if err != nil {
		return Done{}, err
	}
	done := said("placed the %s", p.Name)
	done.Piece = p.ID
	if c.On == "" {
		p.Place = nil
		done.Says = "the " + p.Name + " lies nowhere yet"
		return done, nil
	}
	at := card.Place{On: c.On, By: c.By}
	if p.Place != nil && p.Place.On == c.On {
		at.More, at.High = p.Place.More, p.Place.High
	}
	if err := moved(&at.At, c.X, c.Y, on.Unit); err != nil {
		return Done{}, err
	}
	if at.Turn, err = c.Turn.degrees(); err != nil {
		return Done{}, err
	}
	p.Place = &at
	return done, nil
}

// Medium says what one image is put on with; what is open is as usual on its piece.
type Medium struct {
	Image   string       `json:"image"`
	Ink     *Material    `json:"ink,omitempty"` // of id "": the usual
	Look    shelf.Look   `json:"look"`
	Times   string       `json:"times"`
	Pads    string       `json:"pads"` // ids of further inks, a space between
	Watered bool         `json:"watered"`
	Bare    card.BareWay `json:"bare"`
}

// Do changes the medium.
func (c Medium) Do(on *card.Card) (Done, error) {
	m, err := imageOf(on, c.Image)
	if err != nil {
		return Done{}, err
	}
	made := card.Medium{Look: c.Look, Watered: c.Watered, Bare: c.Bare}
	made.Pads = append(made.Pads, strings.Fields(c.Pads)...)
	if c.Ink != nil {
		made.Ink, made.OwnInk = c.Ink.kept()
	}
	if text := strings.TrimSpace(c.Times); text != "" {
		v, err := ParseNumber(text)
		if made.Times = int(v); err != nil || float64(made.Times) != v {
			return Done{}, fmt.Errorf("how often: %.20q is no number of impressions; give 1 to %d, or leave it open", text, card.MaxTimes)
		}
	}
	if m.Medium = &made; made.Usual() {
		m.Medium = nil
	}
	done := said("changed what %s is put on with", m.Title)
	done.Image = m.ID
	return done, nil
}

// LieOver puts one thing over another, or lets it lie as it usually does.
type LieOver struct {
	Above card.Ref `json:"above"`
	Below card.Ref `json:"below"`
	On    bool     `json:"on"`
}

// Do puts it over.
func (c LieOver) Do(on *card.Card) (Done, error) {
	says := "lets " + on.DeedName(c.Above) + " lie as usual"
	if c.On {
		says = "put " + on.DeedName(c.Above) + " over " + on.DeedName(c.Below)
	}
	return Done{Says: says}, on.Put(c.Above, c.Below, c.On)
}

// Raise moves one thing up or down over its neighbour in the stack, later with [Later].
type Raise struct {
	Deed card.Ref `json:"deed"`
	Way  string   `json:"way"`
}

// Do moves it.
func (c Raise) Do(on *card.Card) (Done, error) {
	says := "laid " + on.DeedName(c.Deed) + " one lower"
	if c.Way == Later {
		says = "laid " + on.DeedName(c.Deed) + " one higher"
	}
	return Done{Says: says}, on.Raise(c.Deed, c.Way == Later)
}

// AsUsual lets all lie as it usually does.
type AsUsual struct{}

// Do lets it.
func (AsUsual) Do(on *card.Card) (Done, error) {
	on.Over = nil
	return said("lets all lie as usual"), nil
}

// AddAct adds what nothing else implies: flattening, pressing, trimming, tearing, stitching.
type AddAct struct {
	Kind card.HandlingKind `json:"kind"`
}

// Do adds it.
func (c AddAct) Do(on *card.Card) (Done, error) {
	on.AddAct(card.Handling{Kind: c.Kind})
	return said("added: %s", c.Kind.Words()), nil
}

// RemoveAct takes an act away.
type RemoveAct struct {
	Act string `json:"act"`
}

// Do takes it away.
func (c RemoveAct) Do(on *card.Card) (Done, error) {
	says := "took away: " + on.DeedName(card.Ref(c.Act))
	on.RemoveAct(c.Act)
	return Done{Says: says}, nil
}

// Hold says how the piece is held from one act on; the first from the start.
type Hold struct {
	N     int           `json:"n"` // from 0; one more than there are adds one
	How   card.HoldKind `json:"how"`
	From  card.Ref      `json:"from"`
	Sides string        `json:"sides"` // with spaces between; "" all round
	Tape  card.TapeKind `json:"tape"`
	Width Typed         `json:"width"`
}

// Do changes the hold.
func (c Hold) Do(on *card.Card) (Done, error) {
	h := card.Hold{How: c.How, From: c.From, Tape: c.Tape}
	for _, s := range strings.Fields(c.Sides) {
		h.Sides = append(h.Sides, nest.Side(s))
	}
	if strings.TrimSpace(string(c.Width)) != "" {
		var err error
		if h.Width, err = c.Width.length("tape", on.Unit, length.Parse); err != nil {
			return Done{}, err
		}
	}
	switch {
	case c.N < 0 || c.N > len(on.Hold):
		return Done{}, errors.New("that way of holding is gone: it was removed or undone meanwhile; nothing was changed")
	case c.N == len(on.Hold):
		on.Hold = append(on.Hold, h)
	default:
		on.Hold[c.N] = h
	}
	if c.N == 0 {
		on.Hold[0].From = ""
	}
	return said("holds it %s", c.How.Facts().Words), nil
}

// LetGo takes a way of holding away, and those after it when it is the first.
type LetGo struct {
	N int `json:"n"`
}

// Do takes it away.
func (c LetGo) Do(on *card.Card) (Done, error) {
	if c.N < 0 || c.N >= len(on.Hold) {
		return Done{}, errors.New("that way of holding is gone already; nothing was changed")
	}
	if c.N == 0 {
		on.Hold = nil
		return said("holds it as usual"), nil
	}
	on.Hold = slices.Delete(on.Hold, c.N, c.N+1)
	return said("took a way of holding it away"), nil
}
