package board

import (
	"strings"

	"chromaqua/core/card"
)

// Words are those of one act as they stand on the piece, in a plain face of their size.
type Words struct {
	X, Y, Turn float64 // of their middle, mm
	Size       float64 // of the letters, mm
	Rows       []wordsRow
}

type wordsRow struct {
	Text    string
	Y, Wide float64 // mm, from the middle
}

// inLine is how high letters are in a line of words.
const inLine = 0.72

// wordsOf are the words on a piece.
func wordsOf(w *card.Work) (out []Words) {
	for _, x := range w.Acts {
		if x.Text == nil {
			continue
		}
		t := x.Text
		high := t.Height.MM()
		v := Words{X: t.X.MM(), Y: t.Y.MM(), Turn: t.Turn, Size: inLine * high}
		lines := t.Lines()
		for i, line := range lines {
			one := card.Text{Text: line, Height: t.Height}
			row := wordsRow{Text: line, Y: (float64(i)-float64(len(lines))/2+0.5)*high + 0.25*high}
			if strings.TrimSpace(line) != "" {
				row.Wide = one.Size().W.MM()
			}
			v.Rows = append(v.Rows, row)
		}
		out = append(out, v)
	}
	return out
}
