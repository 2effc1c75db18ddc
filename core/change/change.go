// Package change answers "what can a maker do to a card?". Each change is a value:
// what the maker chose, under the names that forms and files give it. Being values,
// changes can be offered, tried on a copy, written down and made.
package change

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"reflect"

	"chromaqua/core/card"
	"chromaqua/core/panel"
)

// A Change is something a maker does to a card. Whoever makes it checks the card
// afterwards with [card.Card.Check]; what an error leaves behind is thrown away.
type Change interface {
	Do(*card.Card) (Done, error)
}

// OnBoard is a change that speaks of cells, so that they have to be known. It changes
// the board's card; resolve that again to see the result.
type OnBoard interface {
	Change
	On(*panel.Board) (Done, error)
}

// needsCells makes a change [OnBoard] that cannot be made on a card alone.
type needsCells struct{}

var errNoCellsKnown = errors.New("the cells of the line are not known yet")

// Do says that the cells have to be known.
func (needsCells) Do(*card.Card) (Done, error) { return Done{}, errNoCellsKnown }

// Done is what a change did.
type Done struct {
	Says  string // in the few words that stand beside Undo
	Area  string // id of the area it made or speaks of, "" for none
	Wash  int    // number from 1 of the wash of that area it made or moved, 0 for none
	Image string // id of the image on the panel it made or speaks of, "" for none
	Piece string // id of the piece it made or speaks of, "" for the one at hand

	Reserve string // id of what is kept that it made or speaks of, "" for none
}

// said is a change that speaks of no area or image of its own.
func said(format string, of ...any) Done { return Done{Says: fmt.Sprintf(format, of...)} }

// kinds names every change. The names stand in forms and in what `check` prints.
var kinds = map[string]Change{
	"name":    Name{},
	"notes":   Notes{},
	"unit":    Unit{},
	"silence": Silence{},

	"format":        Format{},
	"fold":          Fold{},
	"envelope":      Envelope{},
	"panel-alone":   PanelAlone{},
	"size":          Size{},
	"show":          Show{},
	"drag":          Drag{},
	"layer-add":     AddLayer{},
	"layer":         Layer{},
	"layer-off":     RemoveLayer{},
	"die":           Die{},
	"stamp":         Stamp{},
	"insert":        Insert{},
	"extra":         Extra{},
	"painting":      Painting{},
	"words":         Words{},
	"window-lay":    LayWindow{},
	"window":        Window{},
	"window-centre": CentreWindow{},
	"window-off":    RemoveWindow{},

	"materials":   Materials{},
	"look":        Look{},
	"drawing":     LayImage{},
	"rescan":      Rescan{},
	"place":       Place{},
	"held":        Held{},
	"part-move":   MovePiecePart{},
	"part-align":  AlignPart{},
	"piece-glue":  GlueLayers{},
	"shift":       Shift{},
	"centre":      Centre{},
	"turn":        Turn{},
	"mirror":      Mirror{},
	"bring":       Bring{},
	"repeat":      Repeat{},
	"image-off":   TakeAway{},
	"image-kind":  ImageKind{},
	"ghost":       Ghost{},
	"bare":        Bare{},
	"relief":      Relief{},
	"measure":     Measure{},
	"leak-close":  CloseLeak{},
	"leak-open":   OpenLeak{},
	"cells-join":  JoinCells{},
	"pen":         Stroke{},
	"mark-off":    RemoveMark{},
	"specks":      Specks{},
	"white":       KeepWhite{},
	"white-off":   PaintWhite{},
	"forget-lost": ForgetLost{},

	"area-new":    NewArea{},
	"areas-new":   NewAreas{},
	"gather":      Gather{},
	"cells-free":  Free{},
	"area-name":   NameArea{},
	"area-remove": RemoveArea{},
	"focal":       Focal{},
	"grey":        Grey{},
	"area-meet":   Meet{},
	"join":        Join{},
	"wash-add":    AddWash{},
	"wash-remove": RemoveWash{},
	"wash-move":   MoveWash{},
	"technique":   LayAs{},
	"wash-over":   Over{},
	"draw-again":  DrawAgain{},
	"pull":        Pull{},
	"strength":    Strength{},
	"dip":         Dip{},
	"recipe":      Recipe{},
	"same-washes": SameWashes{},
	"paint-alike": PaintAlike{},
	"wanted":      Wanted{},
	"sun":         Sun{},
	"shadows":     ShadowsQuiet{},
	"darks":       Darks{},
	"dark-to":     DarkTo{},
	"front":       Front{},
	"palette":     Palette{},
	"measured":    PaintMeasured{},
	"generic":     PaintGeneric{},

	"piece-add":   AddPiece{},
	"piece-copy":  CopyPiece{},
	"piece-off":   RemovePiece{},
	"piece-move":  MovePiece{},
	"piece":       Piece{},
	"piece-along": CutAlong{},
	"piece-place": PlacePiece{},
	"piece-die":   PieceDie{},
	"medium":      Medium{},
	"lie-over":    LieOver{},
	"raise":       Raise{},
	"as-usual":    AsUsual{},
	"act-add":     AddAct{},
	"words-put":   PutWords{},
	"embellish":   Embellish{},
	"act-off":     RemoveAct{},
	"hold":        Hold{},
	"hold-off":    LetGo{},
	"zone-new":    NewZone{},
	"zone-in":     NewZoneIn{},
	"zone-ends":   ZoneEnds{},
	"zone-off":    RemoveZone{},
	"area-lies":   Lie{},

	"keep-cells":  KeepCells{},
	"keep-area":   KeepArea{},
	"keep-image":  KeepImage{},
	"keep-zone":   KeepZone{},
	"keep-strewn": Strew{},
	"keep-by":     KeepBy{},
	"keep-during": KeepDuring{},
	"keep-with":   KeepWith{},
	"keep-name":   NameReserve{},
	"keep-off":    KeepNoMore{},

	"copies": Copies{},
	"drying": Drying{},
	"school": School{},
}

// nameOf is kinds the other way round.
var nameOf = func() map[reflect.Type]string {
	out := map[reflect.Type]string{}
	for name, k := range kinds {
		out[reflect.TypeOf(k)] = name
	}
	return out
}()

// Names lists the names of all changes with a value of each.
func Names() map[string]Change { return maps.Clone(kinds) }

// NameOf returns the name of a change, "" for what is none.
func NameOf(c Change) string { return nameOf[reflect.TypeOf(c)] }

// Values are a change as a form sends it: what was chosen, by name. What was left
// open is not among them.
func Values(c Change) map[string]string {
	doc, err := json.Marshal(c)
	if err != nil {
		panic("change: " + err.Error()) // changes hold nothing that cannot be written
	}
	d := json.NewDecoder(bytes.NewReader(doc))
	d.UseNumber()
	var all map[string]any
	if err := d.Decode(&all); err != nil {
		panic("change: " + err.Error())
	}
	out := map[string]string{}
	for name, v := range all {
		if v != nil {
			out[name] = fmt.Sprint(v)
		}
	}
	return out
}

// Make makes a change on a card. board finds the card's cells; it is only asked for
// them when the change speaks of cells.
func Make(c Change, on *card.Card, board func() (*panel.Board, error)) (Done, error) {
	done, err := do(c, on, board)
	on.Tidy()
	return done, err
}

func do(c Change, on *card.Card, board func() (*panel.Board, error)) (Done, error) {
	if c, speaks := c.(OnBoard); speaks {
		b, err := board()
		if err != nil {
			return Done{}, err
		}
		return c.On(b)
	}
	return c.Do(on)
}

// Try makes a change on a copy of a card and returns the copy, checked. The card stays
// as it is; s holds its cells, and may be nil for a change that speaks of none.
func Try(c Change, on *card.Card, s *panel.Sheet) (*card.Card, Done, error) {
	made, err := on.Clone()
	if err != nil {
		return nil, Done{}, err
	}
	done, err := Make(c, made, func() (*panel.Board, error) {
		if s == nil {
			return nil, errNoCellsKnown
		}
		return panel.Resolve(made, s), nil
	})
	if err != nil {
		return nil, Done{}, err
	}
	return made, done, made.Check()
}
