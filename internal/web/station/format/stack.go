package format

import (
	"fmt"

	"chromaqua/core/card"
	"chromaqua/core/fold"
	"chromaqua/core/length"
	"chromaqua/core/viewfinder"
	"chromaqua/internal/web/board"
)

// stackView is the card from the side, much too thick.
type stackView struct {
	Layers []stackLayer
	Thick  length.Length
	W, H   float64
	Top    float64 // of the uppermost layer
	Bottom float64
}

type stackLayer struct {
	fold.Layer
	X, Y, W, H float64
	LabelY     float64
	Kind       string
}

// Measures of the side view, its own units.
const (
	stackScale  = 26.0 // per millimetre
	stackWide   = 200.0
	stackLabel  = 23.0
	stackMargin = 14.0
)

// stackOf draws the stack with its base at the bottom; labels keep apart.
func stackOf(c *card.Card) stackView {
	stack := c.Stack()
	v := stackView{Thick: fold.Thickness(stack), W: 560}
	high := max(v.Thick.MM()*stackScale, float64(len(stack))*stackLabel)
	v.H = high + 2*stackMargin
	y := v.H - stackMargin - (high-v.Thick.MM()*stackScale)/2
	v.Bottom = y
	inset := 0.0
	for i, s := range stack {
		h := s.Thickness.MM() * stackScale
		y -= h
		kind := "paper"
		if s.Holds {
			kind = s.Name
		} else if i > 0 {
			inset += 7
		}
		v.Layers = append(v.Layers, stackLayer{s, 46 + inset, y, stackWide - 2*inset, h, v.H - stackMargin - (float64(i)+0.3)*high/float64(len(stack)), kind})
	}
	v.Top = y
	return v
}

// windowView is the viewfinder over the painted sheet.
type windowView struct {
	*card.Window
	Size    length.Size // of the sheet
	View    board.Box
	W, H    float64 // of the sheet, mm
	PW, PH  float64 // of the panel
	CX, CY  float64
	Cuts    []viewfinder.Cut
	Over    length.Length
	Width   string
	XT, YT  string
	TurnT   string
	Text    float64
	Picture string
}

func windowOf(c *card.Card) *windowView {
	w := c.Window
	if w == nil {
		return nil
	}
	sheet, p := w.Size(), c.PanelSize()
	v := &windowView{
		Window: w, Size: sheet, W: sheet.W.MM(), H: sheet.H.MM(), PW: p.W.MM(), PH: p.H.MM(), CX: w.X.MM(), CY: w.Y.MM(),
		Width: w.Width.Typed(c.Unit), XT: w.X.Typed(c.Unit), YT: w.Y.Typed(c.Unit), TurnT: fmt.Sprintf("%.4g", w.Turn),
		Picture: "/images/" + w.Image,
	}
	v.Text = max(v.W, v.H) * 0.035
	v.View = board.At(-v.Text, -v.Text, v.W+2*v.Text, v.H+2*v.Text)
	finder := c.Viewfinder()
	if v.Over = finder.Overhang(sheet); v.Over == 0 {
		v.Cuts = finder.Cuts(sheet)
	}
	return v
}
