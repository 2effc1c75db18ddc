package card

import (
	"cmp"
	"errors"
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"chromaqua/core/joint"
	"chromaqua/core/length"
)

func (c *Card) checkPieces() error {
	for i := range c.Pieces {
		p := &c.Pieces[i]
		if err := c.checkPiece(p); err != nil {
			return fmt.Errorf("%s: %w", cmp.Or(p.Name, p.ID), err)
		}
	}
	return nil
}

func (c *Card) checkPiece(p *Piece) error {
	if err := CheckName("piece", p.Name); err != nil {
		return err
	}
	switch {
	case p.Kind.Facts().Kind == "":
		return fmt.Errorf("%q is no kind of piece", string(p.Kind))
	case p.Face != "" && (p.Kind != BasePiece || !slices.Contains(Faces(), p.Face)):
		return fmt.Errorf("%q is no face of the base; only the base has front, inside left, inside right and back", string(p.Face))
	case p.Kind == WholeCard && (p.Place != nil || p.Count > 1):
		return errors.New("the whole card is one, and lies on nothing")
	case p.Count < 0 || p.Count > MaxOfPiece:
		return fmt.Errorf("a card takes 1 to %d of one piece", MaxOfPiece)
	case p.Size.W < 0 || p.Size.H < 0:
		return fmt.Errorf("it cannot measure %s", p.Size.With(c.Unit))
	case utf8.RuneCountInString(p.Sheet) > MaxName || !utf8.ValidString(p.Sheet):
		return fmt.Errorf("the name of its sheet is longer than %d characters", MaxName)
	}
	if p.Colour != "" {
		if err := CheckName("colour", p.Colour); err != nil {
			return err
		}
	}
	if p.Die != nil {
		if err := p.Die.Check(); err != nil {
			return err
		}
	}
	if o := p.Outline; o != nil {
		if _, err := p.imageByID(o.Image); err != nil {
			return fmt.Errorf("it is cut along image %.20q, which it does not have", o.Image)
		}
		if max(o.Margin, -o.Margin) > length.Inch {
			return fmt.Errorf("a margin of %s round its line cannot be; use up to an inch", o.Margin.With(c.Unit))
		}
	}
	size := c.SizeOf(p)
	if min(size.W, size.H) < MinPiece || max(size.W, size.H) > length.Max {
		return fmt.Errorf("it would measure %s, outside %s to 2 m", size.With(c.Unit), MinPiece.With(c.Unit))
	}
	if err := p.Work.checkWork(c.Unit); err != nil {
		return err
	}
	if err := checkTape(p.Painting, size, c.Unit); err != nil {
		return err
	}
	return c.checkPlace(p)
}

// checkHeld reports what holds nothing, and foam of no height.
func checkHeld(by joint.By, high length.Length) error {
	if !by.Known() {
		return fmt.Errorf("%q is nothing to hold a piece by; choose one that is listed", string(by))
	}
	if high != 0 && (high < joint.LeastFoam || high > joint.MostFoam) {
		return fmt.Errorf("foam is %s to %s high; glue two on each other for more", joint.LeastFoam.With(length.Millimetres), joint.MostFoam.With(length.Millimetres))
	}
	return nil
}

// checkPlace reports a piece that lies where nothing is, or in the end on itself.
func (c *Card) checkPlace(p *Piece) error {
	at := p.Place
	if at == nil {
		return nil
	}
	switch {
	case p.Layers < 0 || p.Layers > MaxGlued:
		return fmt.Errorf("at most %d of it are glued under a piece", MaxGlued)
	case len(at.More) > MaxOfPiece:
		return fmt.Errorf("at most %d of a piece lie on a card", MaxOfPiece)
	}
	for _, o := range append([]At{at.At}, at.More...) {
		switch {
		case max(o.X, -o.X) > length.Max || max(o.Y, -o.Y) > length.Max:
			return errors.New("it lies more than 2 m off what it lies on")
		case !(o.Turn >= -180 && o.Turn <= 180):
			return errors.New("a piece is turned by -180 to 180 degrees")
		}
	}
	if err := checkHeld(at.By, at.High); err != nil {
		return err
	}
	for seen := map[string]bool{p.ID: true}; ; {
		if at.On == ThePanel || slices.Contains(Faces(), Face(at.On)) {
			return nil
		}
		under, err := c.PieceByID(at.On)
		if err != nil {
			return fmt.Errorf("it lies on %.20q, which the card does not have", at.On)
		}
		if seen[under.ID] {
			return fmt.Errorf("it lies on %s, and that in the end on it; let one of them lie on the panel", under.Name)
		}
		if seen[under.ID] = true; under.Place == nil {
			return nil
		}
		at = under.Place
	}
}

// checkIDs reports an id that is none, or that names two things.
func (c *Card) checkIDs() error {
	if len(c.Pieces) > MaxPieces {
		return fmt.Errorf("%d pieces beside the panel are more than %d; take some away", len(c.Pieces), MaxPieces)
	}
	seen := map[string]bool{ThePanel: true}
	check := func(what, id string) error {
		if id == "" || len(id) > MaxID || seen[id] || strings.Contains(id, "/") {
			return fmt.Errorf("%s id %.20q is empty, too long or stands twice", what, id)
		}
		seen[id] = true
		return nil
	}
	of := func(w *Work) (err error) {
		for i := range w.Images {
			err = cmp.Or(err, check("image", w.Images[i].ID))
		}
		for i := range w.Areas {
			err = cmp.Or(err, check("area", w.Areas[i].ID))
		}
		for i := range w.Zones {
			err = cmp.Or(err, check("zone", w.Zones[i].ID))
		}
		for i := range w.Acts {
			err = cmp.Or(err, check("act", w.Acts[i].ID))
		}
		for i := range w.Reserves {
			err = cmp.Or(err, check("reserve", w.Reserves[i].ID))
		}
		return err
	}
	if err := of(&c.Work); err != nil {
		return err
	}
	for i := range c.Pieces {
		if err := cmp.Or(check("piece", c.Pieces[i].ID), of(&c.Pieces[i].Work)); err != nil {
			return err
		}
	}
	return nil
}
