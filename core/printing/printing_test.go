package printing_test

import (
	"context"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/panel/paneltest/jobs"
	"chromaqua/core/printing"
	"chromaqua/core/shelf"
)

const mm = length.Millimetre

func ExampleLay() {
	panel := printing.Part{Name: "panel", Size: length.Size{W: 96 * mm, H: 127 * mm}, Many: 4}
	p, err := printing.Lay(context.Background(), printing.Usual(length.Millimetres), []printing.Part{panel}, length.Millimetres)
	fmt.Println(p.Says(), err)
	fmt.Println(p.Notes[0])
	// Output:
	// 4 pieces on 2 sheets of ISO A4 <nil>
	// Nobody has measured this printer's bar yet: print the test page first, at 100 %, not fitted to the page.
}

// What cannot be printed is refused with what to do.
func TestWhatCannotBePrinted(t *testing.T) {
	large := printing.Part{Name: "panel", Size: length.Size{W: 200 * mm, H: 290 * mm}, Many: 1}
	small := printing.Part{Name: "tag", Size: length.Size{W: 40 * mm, H: 60 * mm}, Many: 1}
	folded := printing.Part{Name: "base", Size: length.Size{W: 220 * mm, H: 140 * mm}, Many: 1, Fold: true}
	for why, tc := range map[string]struct {
		job   printing.Job
		parts []printing.Part
	}{
		"no line to print":           {printing.Job{Page: "a4", Tone: printing.Black}, nil},
		"does not find room":         {printing.Job{Page: "a4", Tone: printing.Black}, []printing.Part{large}},
		"with its grain along":       {printing.Job{Page: "a4", Tone: printing.Black, Grain: printing.GrainLong}, []printing.Part{folded}},
		"no paper for a printer":     {printing.Job{Page: "papyrus", Tone: printing.Black}, []printing.Part{small}},
		"no tone of a line":          {printing.Job{Page: "a4", Tone: "loud"}, []printing.Part{small}},
		"0 to 30 mm":                 {printing.Job{Page: "a4", Tone: printing.Black, Edge: 31 * mm}, []printing.Part{small}},
		"grain runs":                 {printing.Job{Page: "a4", Tone: printing.Black, Grain: "round"}, []printing.Part{small}},
		"measures 80 to 120":         {printing.Job{Page: "a4", Tone: printing.Black, Bar: 50}, []printing.Part{small}},
		"more than the 200 that are": {printing.Job{Page: "a4", Tone: printing.Black}, []printing.Part{{Name: "tag", Size: small.Size, Many: 201}}},
	} {
		_, err := printing.Lay(context.Background(), tc.job, tc.parts, length.Millimetres)
		assert.ErrorContains(t, err, why)
	}
	// With its grain along the short side the same base lies across.
	p, err := printing.Lay(context.Background(), printing.Job{Page: "a4", Tone: printing.Black, Grain: printing.GrainShort}, []printing.Part{{Name: "base", Size: length.Size{W: 200 * mm, H: 140 * mm}, Many: 1, Fold: true}}, length.Millimetres)
	require.NoError(t, err)
	assert.True(t, p.Sheets[0].Placed[0].Turned)
	_, err = printing.Lay(context.Background(), printing.Job{Page: "a4", Tone: printing.Black, Grain: printing.GrainUnknown}, []printing.Part{small}, length.Millimetres)
	require.NoError(t, err)
}

// What the printer leaves white is said where the line reaches into it.
func TestTheEdgeThatIsNotPrinted(t *testing.T) {
	part := printing.Part{Name: "tag", Size: length.Size{W: 60 * mm, H: 40 * mm}, Many: 1, Drawn: printing.Box{X0: 6, Y0: 6, X1: 54, Y1: 34}}
	job := printing.Job{Page: printing.Own, Tone: printing.Black, Edge: 5 * mm, Bar: 100}
	p, err := printing.Lay(context.Background(), job, []printing.Part{part}, length.Millimetres)
	require.NoError(t, err)
	assert.Empty(t, p.Notes)
	assert.Equal(t, "1 piece, each on its own paper", p.Says())
	job.Edge = 7 * mm
	p, err = printing.Lay(context.Background(), job, []printing.Part{part}, length.Millimetres)
	require.NoError(t, err)
	assert.Equal(t, []string{"The line of tag reaches into the 7 mm at the edge that the printer leaves white. Print it on a larger page and cut it out, or move it inwards."}, p.Notes)
}

// What is printed on a piece is what is printed of it: not what is stamped beside that,
// but that where nothing is printed; and words that are.
func TestWhatIsPrinted(t *testing.T) {
	ctx := context.Background()
	s := jobs.Frame(40, 30, 12, 21)
	of := func(id string) *printing.Line {
		l, err := printing.LineOf(ctx, s.Card, id, s.Scans())
		require.NoError(t, err)
		return l
	}
	whole := of(card.ThePanel)
	spare := s.Card.Painting.Spare.MM()
	assert.InDelta(t, 12+spare, whole.Drawn.X0, 0.1)
	assert.InDelta(t, 52+spare, whole.Drawn.X1, 0.1)
	again, err := s.Card.Lay(s.Card.Images[0].Scan, shelf.LineImage)
	require.NoError(t, err)
	m, err := s.Card.ImageByID(again)
	require.NoError(t, err)
	m.X, m.Y, m.Medium = 40*mm, 60*mm, &card.Medium{Ink: "laser"}
	only := of(card.ThePanel)
	assert.InDelta(t, 41+spare, only.Drawn.X0, 0.15, "the other is stamped")
	assert.Equal(t, 1, only.Many)

	s.Card.Images = nil
	assert.Nil(t, of(card.ThePanel))
	says := func(w *card.Work) {
		w.Acts = append(w.Acts, card.Handling{ID: "x9", Kind: card.PutWords, Text: &card.Text{Text: "tide", By: card.TextPrinted, Height: 6 * mm, X: 30 * mm, Y: 20 * mm}})
	}
	says(&s.Card.Work)
	l := of(card.ThePanel)
	require.Len(t, l.Words, 1)
	assert.InDelta(t, 30+spare, (l.Drawn.X0+l.Drawn.X1)/2, 0.01)

	s.Card.Copies = 3
	id, err := s.Card.AddPiece(card.BasePiece)
	require.NoError(t, err)
	base, err := s.Card.PieceByID(id)
	require.NoError(t, err)
	says(&base.Work)
	for face, x := range map[card.Face]float64{card.FrontFace: s.Card.Blank().Size.W.MM() / 2, card.BackFace: 0, card.InsideLeft: 0, card.InsideRight: s.Card.Blank().Size.W.MM() / 2} {
		base.Face = face
		l := of(id)
		assert.Equal(t, s.Card.Blank().Size, l.Size)
		assert.True(t, l.Fold)
		assert.Equal(t, 3, l.Many)
		assert.InDelta(t, x+30, l.Words[0].X.MM(), 0.1, face)
	}
	id, err = s.Card.AddPiece(card.WholeCard)
	require.NoError(t, err)
	assert.Nil(t, of(id))
}
