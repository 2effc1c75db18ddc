package order

import (
	"slices"
	"strings"

	"chromaqua/core/card"
	"chromaqua/core/joint"
	"chromaqua/core/nest"
	"chromaqua/core/panel"
	"chromaqua/core/steps"
	"chromaqua/internal/desk"
	"chromaqua/internal/web/page"
)

// upView is what lies over what on the piece at hand, and how it is held.
type upView struct {
	Up    []layerView
	Said  bool // something lies otherwise than usual
	Acts  []card.HandlingKind
	Items []joint.ItemFact
	Holds []holdView
	More  int // number of the next way of holding, 0 when no more may be said
	Ways  []card.HoldFact
	Tapes []card.TapeFact
	Sides []sidesChoice
}

// layerView is one deed of the piece.
type layerView struct {
	steps.Layer
	Cells string // it speaks of
	Top   bool
	Act   string // id, of an act of the maker's
}

// holdView is how the piece is held from one deed on.
type holdView struct {
	card.Hold
	N      int
	Sides  string // as typed
	Label  string
	Stored bool // it is said, not as usual
}

// sidesChoice is which edges are taped.
type sidesChoice struct{ Value, Words string }

// upOf is what is shown of a piece's layers.
func upOf(p *desk.Planned, l *desk.Laid) (v upView) {
	piece := slices.IndexFunc(p.Plan.Pieces, func(o panel.Piece) bool { return o.ID == l.PieceID() })
	if piece < 0 || l.Board == nil {
		return v
	}
	c := l.Rev.Card
	all := p.Plan.FromThePaperUp(piece)
	for i, lay := range all {
		row := layerView{Layer: lay, Top: i == len(all)-1}
		switch lay.Kind {
		case card.WashDeed:
			row.Cells = page.CellList(l.Board.Areas[lay.Area].Cells)
		case card.HandlingDeed:
			row.Act = c.Acts[lay.Act].ID
		}
		v.Up = append(v.Up, row)
	}
	v.Said, v.Acts = len(c.Over) > 0 || len(c.Acts) > 0, card.HandlingKinds()
	v.Items = joint.Items()
	v.Ways, v.Tapes, v.Sides = card.HoldFacts(), card.TapeFacts(), sidesChoices()
	holds := c.Hold
	if len(holds) == 0 {
		holds = []card.Hold{{How: card.TapedDown}}
	}
	for i, h := range holds {
		var sides []string
		for _, s := range h.Sides {
			sides = append(sides, string(s))
		}
		v.Holds = append(v.Holds, holdView{h, i, strings.Join(sides, " "), "How it is held, " + h.How.Facts().Words, len(c.Hold) > 0})
	}
	if len(c.Hold) > 0 && len(c.Hold) < card.MaxHolds {
		v.More = len(c.Hold)
	}
	return v
}

// sidesChoices are the sides that makers tape.
func sidesChoices() []sidesChoice {
	l, r, t, b := string(nest.Left), string(nest.Right), string(nest.Top), string(nest.Bottom)
	join := func(s ...string) string { return strings.Join(s, " ") }
	return []sidesChoice{
		{"", "all round"}, {join(l, r), "left and right"}, {join(t, b), "top and bottom"}, {join(l, r, b), "all but the top"}, {join(l, r, t), "all but the bottom"},
		{l, "the left"}, {r, "the right"}, {t, "the top"}, {b, "the bottom"},
	}
}
