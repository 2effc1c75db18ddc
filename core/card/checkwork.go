package card

import (
	"errors"
	"fmt"
	"slices"

	"chromaqua/core/length"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
)

// checkWork reports what is wrong with what is done on a piece.
func (w *Work) checkWork(u length.Unit) error {
	return firstOf(w.checkUsual, func() error { return w.checkImages(u) }, w.checkAreas, w.checkJoins, w.checkZones, w.checkOver, w.checkHold, w.checkReserves, w.checkShadows)
}

// checkUsual reports what is wrong with paper, ink and what is wanted of them.
func (w *Work) checkUsual() error {
	if _, err := shelf.InkByID(w.Ink); err != nil {
		return err
	}
	if _, err := shelf.PaperByID(w.Paper); err != nil {
		return err
	}
	if err := checkOwn(w.OwnInk, shelf.OwnInk, w.Ink); err != nil {
		return err
	}
	if err := checkOwn(w.OwnPaper, shelf.OwnPaper, w.Paper); err != nil {
		return err
	}
	if w.Look != "" && !slices.Contains(shelf.Looks(), w.Look) {
		return errNoLook(w.Look)
	}
	if !slices.Contains(append(Reliefs(), ""), w.Relief) {
		return fmt.Errorf("%q is no time to press a folder; use painted, unpainted or twice", string(w.Relief))
	}
	return nil
}

func (w *Work) checkAreas() error {
	if len(w.Areas) > MaxAreas {
		return fmt.Errorf("%d areas are more than %d; gather cells into fewer", len(w.Areas), MaxAreas)
	}
	spots := 0
	for _, a := range w.Areas {
		if err := CheckName("area", a.Name); err != nil {
			return err
		}
		if spots += len(a.Cells); spots > MaxSpots {
			return fmt.Errorf("the areas hold more than %d cells", MaxSpots)
		}
		for _, s := range a.Cells {
			if err := w.checkSpot(s); err != nil {
				return fmt.Errorf("area %q points at %w", a.Name, err)
			}
		}
		if a.White && len(a.Washes) > 0 {
			return fmt.Errorf("%q is kept paper white and has a wash; take one of the two away", a.Name)
		}
		if len(a.Washes) > MaxWashes {
			return fmt.Errorf("%d washes on %q are more than %d", len(a.Washes), a.Name, MaxWashes)
		}
		for i, wash := range a.Washes {
			if err := wash.Check(); err != nil {
				return fmt.Errorf("area %q, wash %d: %w", a.Name, i+1, err)
			}
			if wash.Technique.NeedsWet() && !a.wetBelow(i) {
				return fmt.Errorf("on %q there is no wet wash below for %s; lay it over one that covers", a.Name, wash.Technique.Name())
			}
		}
	}
	return nil
}

func (w *Work) checkSpot(s Spot) error {
	if _, err := w.imageByID(s.On); s.On != "" && err != nil {
		return fmt.Errorf("image %.20q, which the card does not have", s.On)
	}
	if !(s.U > -1e3 && s.U < 1e3 && s.V > -1e3 && s.V < 1e3 && s.MM2 >= 0 && s.MM2 < 1e7) {
		return errors.New("a place far off the panel")
	}
	return nil
}

// Check reports the first thing wrong with a wash.
func (w Wash) Check() error {
	if w.Draw < 0 || w.Draw >= MaxDraws {
		return fmt.Errorf("draw %d is none of %d", w.Draw, MaxDraws)
	}
	if !w.Technique.Known() {
		return fmt.Errorf("%q is no technique; choose one that is listed", string(w.Technique))
	}
	if w.Technique.Tool() == technique.CleanWater {
		switch {
		case len(w.Mix) > 0 || w.Strength != "":
			return fmt.Errorf("%s takes clean water, no mix", w.Technique.Name())
		case w.OverDry:
			return fmt.Errorf("for %s the wash below has to be wet", w.Technique.Name())
		}
		return nil
	}
	if _, err := w.Strength.Load(); err != nil {
		return err
	}
	if len(w.Mix) < 1 || len(w.Mix) > MaxPaints {
		return fmt.Errorf("a mix takes one to %d paints; more turn to mud", MaxPaints)
	}
	for i, p := range w.Mix {
		if _, err := pigment.ByCI(p.CI); err != nil {
			return err
		}
		if p.Parts < 1 || p.Parts > MaxParts {
			return fmt.Errorf("%d parts of %s: use 1 to %d", p.Parts, p.CI, MaxParts)
		}
		for _, q := range w.Mix[:i] {
			if q.CI == p.CI {
				return fmt.Errorf("%s stands twice in the mix; add its parts up", p.CI)
			}
		}
	}
	return nil
}

func (w *Work) checkJoins() error {
	if len(w.Joins) > MaxAreas*4 {
		return errors.New("too many joins")
	}
	for _, j := range w.Joins {
		for _, id := range j {
			if _, known := w.areaIndex(id); !known {
				return fmt.Errorf("a join speaks of area %.20q, which the card does not have", id)
			}
		}
		if j[0] == j[1] {
			return errors.New("an area cannot be joined to itself")
		}
	}
	return nil
}
