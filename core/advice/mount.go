package advice

import (
	"fmt"

	"chromaqua/core/change"
	"chromaqua/core/joint"
	"chromaqua/core/mount"
	"chromaqua/core/wording"
)

// joints makes watch-outs of what is wrong with joints in one way.
func (f Facts) joints(t mount.Trouble, make func(m *mount.Member, fault *mount.Fault) Watch) (out []Watch) {
	if f.Made == nil {
		return nil
	}
	for i := range f.Made.Faults {
		if fault := &f.Made.Faults[i]; fault.Trouble == t {
			out = append(out, make(&f.Made.Members[fault.Member], fault))
		}
	}
	return out
}

// held is the change that lets a part be held by what is best for it.
func held(m *mount.Member, fault *mount.Fault) []Fix {
	return []Fix{{Label: "Hold it by " + string(fault.By), Change: change.Held{Part: m.ID}}}
}

// letsGo: what holds a part fails at it.
func letsGo(f Facts) []Watch {
	return f.joints(mount.LetsGo, func(m *mount.Member, fault *mount.Fault) Watch {
		return Watch{Severity: Stop, What: fmt.Sprintf("The %s is held by %s, which fails.", m.Name, m.By), Why: wording.Sentence(fault.Why), ways: held(m, fault)}
	})
}

// heldIll: something else holds a part better than what was chosen.
func heldIll(f Facts) []Watch {
	return f.joints(mount.HoldsIll, func(m *mount.Member, fault *mount.Fault) Watch {
		return Watch{Severity: Mind, What: fmt.Sprintf("The %s is held by %s; %s holds it better.", m.Name, m.By, fault.By), Why: wording.Sentence(fault.Why), ways: held(m, fault)}
	})
}

// slotOpen: nothing lies over what is slotted.
func slotOpen(f Facts) []Watch {
	return f.joints(mount.SlotOpen, func(m *mount.Member, fault *mount.Fault) Watch {
		return Watch{Severity: Mind, What: fmt.Sprintf("The %s is slotted behind nothing.", m.Name), Why: "Glued at its stem only, it needs something over it that holds it down.", ways: held(m, fault)}
	})
}

// overBars: a part lies across a frame and is not lifted over it.
func overBars(f Facts) []Watch {
	return f.joints(mount.OverBars, func(m *mount.Member, fault *mount.Fault) Watch {
		high := fault.High.With(f.Card.Unit)
		return Watch{
			Severity: Mind, What: fmt.Sprintf("The %s lies across the bars of a frame.", m.Name), Why: "It bends where it goes over them. Foam as high as they are carries it.",
			ways: []Fix{{Label: "Lift it on foam of " + high, Change: change.Held{Part: m.ID, By: joint.Foam, High: typed(fault.High)}}},
		}
	})
}

// offCard: a part sticks out over the edge of the card.
func offCard(f Facts) []Watch {
	return f.joints(mount.SticksOut, func(m *mount.Member, fault *mount.Fault) Watch {
		return Watch{
			Severity: Mind, What: fmt.Sprintf("The %s sticks out: %s.", m.Name, fault.Why), Why: "An envelope bends what sticks out. Move it in, or trim it flush once it is glued.",
			ways: []Fix{{Label: "Put it in the middle", Change: change.AlignPart{Piece: m.ID, Nth: m.Nth, To: change.ToMiddle}}},
		}
	})
}

// mouthShut: something lies across the mouth of a pocket.
func mouthShut(f Facts) []Watch {
	return f.joints(mount.MouthShut, func(m *mount.Member, fault *mount.Fault) Watch {
		return Watch{Severity: Mind, What: fmt.Sprintf("The %s is a pocket, and %s.", m.Name, fault.Why), Why: "Nothing can be put into it, and glue at its mouth shuts it."}
	})
}

// samePlace: several of a piece lie on each other.
func samePlace(f Facts) []Watch {
	return f.joints(mount.GluedTwice, func(m *mount.Member, _ *mount.Fault) Watch {
		return Watch{
			Severity: Mind, What: fmt.Sprintf("Two of the %s lie in the same place.", m.Name), Why: "The upper one hides the lower.",
			ways: []Fix{{Label: "Spread them evenly", Change: change.AlignPart{Piece: m.ID, To: change.Spread}}},
		}
	})
}
