package needs

import (
	"fmt"
	"math"
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/paper"
	"chromaqua/core/shelf"
	"chromaqua/core/steps"
)

// Laid is a kind of thing that is laid ready: "stamps", and which.
type Laid struct {
	Kind   string
	Things []string
}

// kinds name what lies ready of each kind that is used up; paints are mixed, which is told apart.
var kinds = map[paper.What]string{
	paper.Ink: "ink", paper.Powder: "powder", paper.TapeRoll: "tape", paper.Masking: "to mask with", paper.Adhesive: "to mount with", paper.Embellish: "to set on it",
}

// Ready lists what lies ready when a card is begun: its stamps, what is painted with, tools, and
// what is used up, as [Of] has it, with about how much of what is cut off a roll or a sheet.
func Ready(c *card.Card, p *steps.Plan, used []paper.Need) (out []Laid) {
	add := func(kind, thing string) {
		i := slices.IndexFunc(out, func(l Laid) bool { return l.Kind == kind })
		if i < 0 {
			i, out = len(out), append(out, Laid{Kind: kind})
		}
		if !slices.Contains(out[i].Things, thing) {
			out[i].Things = append(out[i].Things, thing)
		}
	}
	for _, w := range works(c) {
		for i := range w.Images {
			if m := &w.Images[i]; m.Inked() && w.InkOf(m).Method == shelf.Stamped {
				add("stamps", m.Title)
			}
		}
	}
	for _, tool := range p.Tools() {
		add("to paint with", tool)
	}
	for i := range p.Steps {
		switch s := &p.Steps[i]; {
		case p.Melts(s):
			add("tools", "anti-static pouch")
			add("tools", "heat tool")
		case s.Water > 0 && p.Instance.Heat.Allowed:
			add("tools", "heat tool")
		case s.Kind == steps.Flatten:
			add("tools", "boards, a weight")
		case s.Kind == steps.Press:
			add("tools", "folder and press")
		}
	}
	for _, n := range used {
		if kind, told := kinds[n.What]; told {
			add(kind, thing(n, c.Unit))
		}
	}
	return out
}

// thing names what is needed, with how much of it where that is cut off or counted.
func thing(n paper.Need, u length.Unit) string {
	switch n.Unit {
	case "cm":
		return fmt.Sprintf("%s, %s", n.Name, length.FromMM(10*n.Amount).Near(u))
	case "cm²":
		side := length.FromMM(10 * math.Sqrt(n.Amount))
		return fmt.Sprintf("%s, as much as %s", n.Name, length.Size{W: side, H: side}.Near(u))
	case "pieces":
		return fmt.Sprintf("%.0f × %s", n.Amount, n.Name)
	}
	return n.Name
}
