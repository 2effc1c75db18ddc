package format

import (
	"fmt"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/viewfinder"
	"chromaqua/internal/web/board"
)

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
