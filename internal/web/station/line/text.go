package line

import (
	"strconv"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/internal/desk"
)

// textView is words on the piece, or such as are to be put on it.
type textView struct {
	Act          string // id, "" for new ones
	Text, Says   string
	Rows         int
	By           card.TextWay
	Ink          string
	Height, X, Y string // as typed
	Turn         string
	Times        int
	Size         string
	Places       []textPlace
}

// textPlace is where there is room for them.
type textPlace struct{ X, Y, Words string }

// usualText is how high a line of new words is.
const usualText = length.Inch / 4

// textsOf are the words on a piece, and new ones.
func textsOf(l *desk.Laid) (out []textView, fresh textView) {
	c := l.Rev.Card
	for _, x := range c.Acts {
		if x.Text == nil {
			continue
		}
		t := x.Text
		v := textView{
			Act: x.ID, Text: t.Text, Says: t.Words(), Rows: len(t.Lines()), By: t.By, Ink: t.Ink, Times: t.Times,
			Height: t.Height.Typed(c.Unit), X: t.X.Typed(c.Unit), Y: t.Y.Typed(c.Unit), Size: t.Size().Near(c.Unit),
			Turn: strconv.FormatFloat(t.Turn, 'f', -1, 64),
		}
		if l.Board != nil {
			for i, p := range l.Board.RoomFor(t.Size()) {
				v.Places = append(v.Places, textPlace{
					length.FromMM(p.X + p.W/2).Typed(c.Unit), length.FromMM(p.Y + p.H/2).Typed(c.Unit),
					[]string{"Where there is most room", "Elsewhere there is room", "Or here"}[i],
				})
			}
		}
		out = append(out, v)
	}
	return out, textView{Rows: 2, By: card.TextStamped, Height: usualText.Typed(c.Unit), Turn: "0"}
}
