package plancheck

import "slices"

// unheated are the masks that bond to the paper under heat.
var unheated = []string{"fluid", "mask pen", "fluid splatter"}

// masks: each that is laid comes off, but for what is meant to stay, before its piece is
// mounted; no heat comes to what it must not while it lies there; what is laid wet is
// painted over only once it is dry.
func (c *checker) masks() {
	for i := range c.Steps {
		on := &c.Steps[i]
		if on.Kind != "mask" || on.Mask == "clear embossing" {
			continue
		}
		var off *step
		for j := range c.Steps[i:] {
			if s := &c.Steps[i+j]; s.Kind == "unmask" && s.one() == on.one() && s.Mask == on.Mask && slices.Equal(s.Cells, on.Cells) {
				off = s
				break
			}
		}
		if off == nil {
			c.say("mask-forgotten", "%s %s never comes off", on.Mask, on.ID)
			continue
		}
		for _, s := range c.Steps {
			if s.Kind == "mount" && s.Copy == on.Copy && s.Start < off.End && slices.Contains(s.Pieces, on.Piece) {
				c.say("mask-forgotten", "%s %s is mounted", on.Mask, on.ID)
			}
			if s.one() == on.one() && s.Water > 0 && meet(set(s.Cells), set(on.Cells)) && s.Start >= on.End && s.Start < off.Start && float64(on.BoneDry) > float64(s.Start-on.End)+second {
				c.say("mask-wet", "%s paints over %s %s while that is wet", s.ID, on.Mask, on.ID)
			}
		}
		for _, h := range c.Heat {
			if slices.Contains(unheated, on.Mask) && h.Copy == on.Copy && h.Item == on.Item && h.Piece == on.Piece && h.Start < off.End && h.End > on.Start {
				c.say("heat-on-mask", "heat at %d s on %s %s", h.Start, on.Mask, on.ID)
			}
		}
	}
}

// liftedAtOnce reports whether a mask comes off while the paint is damp.
func liftedAtOnce(mask string) bool { return mask == "cut-out mask" || mask == "stencil" }

// handling: what tears, stretches or marks damp paper waits for every coat; a pen and
// a pencil wait for those below them.
func (c *checker) handling() {
	all := []string{"untape", "mask", "unmask", "line", "emboss", "press", "flatten", "trim", "cut-out", "mount"}
	for i := range c.Steps {
		u := &c.Steps[i]
		pen := u.Kind == "detail" && u.Water < 10 && len(u.Cells) > 0
		if !slices.Contains(all, u.Kind) && !pen {
			continue
		}
		for j := range c.Steps[:i] {
			a := &c.Steps[j]
			if !handles(u, a) || a.Water <= 0 || len(a.Cells) == 0 || len(c.live(a, i)) == 0 {
				continue
			}
			if masks := u.Kind == "mask" || u.Kind == "unmask"; masks && (!meet(set(a.Cells), set(u.Cells)) || u.Kind == "unmask" && liftedAtOnce(u.Mask)) {
				continue
			}
			if pen && (!meet(set(a.Cells), set(u.Cells)) || a.Kind == "detail" || a.Water < 10 || opaque(c, a)) {
				continue
			}
			if short := float64(a.BoneDry) - c.passed(a, u.Start); short > second {
				c.say("bone-dry", "%s %s, %.0f s before step %s is bone dry", u.Kind, u.ID, short, a.ID)
			}
		}
	}
}

// handles reports whether a step takes in hand the piece another was on: its own, or all
// that it mounts.
func handles(u, a *step) bool {
	if u.Kind == "mount" {
		return u.Copy == a.Copy && slices.Contains(u.Pieces, a.Piece)
	}
	return u.one() == a.one()
}
