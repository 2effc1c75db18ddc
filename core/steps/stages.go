package steps

import (
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/shelf"
)

// What is put on a piece before any paint is its stage 0, what is painted on that its
// stage 1; what is put over paint is the next even stage, and what is painted over that
// the odd one after it. Deeds of one stage are free where they share no place.
const (
	early    = 0
	painting = 1
)

// between is an even stage after the first: what is done while no paint is laid.
type between struct {
	stage  int
	hold   *card.Hold // the piece is held so from here on; nil when nothing is said
	images []int
	acts   []card.Handling
}

// stage is when a wash is laid.
func (c *task) stage(area, wash int) int {
	return c.stages[card.WashRef(c.board.Areas[area].ID, wash)]
}

// stagesOf finds the stage of each deed from what lies below it.
func (c *task) stagesOf() map[card.Ref]int {
	s := staging{task: c, at: map[card.Ref]int{}, floor: painting}
	begins := map[card.Ref]*card.Hold{}
	for i := range c.holds {
		if i > 0 {
			begins[c.holds[i].From] = &c.holds[i]
		}
	}
	for n, d := range c.board.Deeds {
		if h, begin := begins[d.Ref]; begin {
			s.pause(h)
		} else if d.Kind == card.WashDeed && d.Wash == 0 {
			if h, begin := begins[card.Ref(c.board.Areas[d.Area].ID)]; begin {
				s.pause(h)
			}
		}
		s.put(d, c.board.Deeds[:n])
	}
	slices.SortStableFunc(s.betweens, func(a, b between) int { return a.stage - b.stage })
	c.betweens = s.betweens
	return s.at
}

type staging struct {
	*task
	at       map[card.Ref]int
	floor    int // the least stage of paint from here on
	top      int
	betweens []between
}

// between is the stage of that number, added the first time.
func (s *staging) between(stage int) *between {
	i := slices.IndexFunc(s.betweens, func(b between) bool { return b.stage == stage })
	if i < 0 {
		s.betweens = append(s.betweens, between{stage: stage})
		i = len(s.betweens) - 1
	}
	return &s.betweens[i]
}

// pause begins an even stage over all there is.
func (s *staging) pause(h *card.Hold) int {
	stage := even(max(s.top, painting))
	s.between(stage).hold = h
	s.floor, s.top = stage+1, max(s.top, stage)
	return stage
}

// even is the even stage after one.
func even(stage int) int { return stage/2*2 + 2*(stage%2) }

func (s *staging) put(d card.Deed, below []card.Deed) {
	stage := early
	switch d.Kind {
	case card.ImageDeed:
		m := &s.board.Card.Images[d.Image]
		if s.board.Card.Late(m.ID) || s.floor > painting && !s.usual(d) {
			stage = s.lateStage(d, below)
			b := s.between(stage)
			b.images = append(b.images, d.Image)
		}
	case card.HandlingDeed:
		x := &s.board.Card.Acts[d.Act]
		if x.First() || x.Item != nil { // before all, and once the card is put together
			break
		}
		stage = even(max(s.top, painting))
		b := s.between(stage)
		b.acts = append(b.acts, s.board.Card.Acts[d.Act])
		s.floor = stage + 1
	case card.WashDeed:
		stage = s.washStage(d, below)
	}
	s.at[d.Ref] = stage
	s.top = max(s.top, stage)
}

// usual reports whether an image lies below all paint, as it does when nothing is said.
func (s *staging) usual(d card.Deed) bool { return !s.board.Card.Late(string(d.Ref)) }

// lateStage is the stage of an image that lies over paint.
func (s *staging) lateStage(d card.Deed, below []card.Deed) int {
	stage := painting + 1
	for _, b := range below {
		switch {
		case b.Kind == card.WashDeed && (s.saysOver(d.Ref, b) || s.board.InkOver(d.Image, s.board.Areas[b.Area].Cells)):
			stage = max(stage, even(s.at[b.Ref]))
		case b.Kind == card.ImageDeed:
			stage = max(stage, s.at[b.Ref])
		case b.Kind == card.HandlingDeed:
			stage = max(stage, s.at[b.Ref]+2)
		}
	}
	if s.floor > painting {
		stage = max(stage, s.floor-1)
	}
	return even(stage)
}

// saysOver reports whether the maker put one over a wash, or over all of its area.
func (s *staging) saysOver(above card.Ref, b card.Deed) bool {
	w := &s.board.Card.Work
	return w.LiesOver(above, b.Ref) || w.LiesOver(above, card.Ref(s.board.Areas[b.Area].ID))
}

// washStage is the stage of a wash: after what it lies over where they share a place.
func (s *staging) washStage(d card.Deed, below []card.Deed) int {
	stage := s.floor
	mine := s.board.Areas[d.Area].Cells
	for _, b := range below {
		switch {
		case b.Kind == card.WashDeed && b.Area == d.Area:
			stage = max(stage, s.at[b.Ref])
		case b.Kind == card.WashDeed && s.at[b.Ref] > stage && s.board.Overlap(mine, s.board.Areas[b.Area].Cells):
			stage = s.at[b.Ref]
		case b.Kind == card.ImageDeed && s.at[b.Ref] >= stage && s.at[b.Ref] > early &&
			(s.board.Card.LiesOver(card.Ref(s.board.Areas[d.Area].ID), b.Ref) || s.board.Card.LiesOver(d.Ref, b.Ref) || s.board.InkOver(b.Image, mine)):
			stage = s.at[b.Ref] + 1
		}
	}
	return stage
}

// last reports whether nothing is painted after a stage.
func (c *task) last(stage int) bool {
	for i, l := range c.lays {
		for _, g := range l.groups {
			if c.stage(i, g.from) > stage {
				return false
			}
		}
	}
	return true
}

// earlyImpressions are the images that are put on before any paint, in turn; late those
// that come later.
func (c *task) impressionsAt(stage int) (out []int) {
	for i := range c.board.Card.Images {
		m := &c.board.Card.Images[i]
		if m.Inked() && c.stages[card.Ref(m.ID)] == stage {
			out = append(out, i)
		}
	}
	return out
}

// stamps reports whether one of some images is stamped.
func (c *task) stamps(images []int) bool {
	return slices.ContainsFunc(images, func(i int) bool {
		m := &c.board.Card.Images[i]
		return m.Inked() && c.board.Card.InkOf(m).Method == shelf.Stamped
	})
}
