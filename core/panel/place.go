package panel

import (
	"math"

	"chromaqua/core/card"
	"chromaqua/core/lineart"
)

// OnPanel is a point of an image on the panel, mm from its top left corner.
func OnPanel(m *card.Image, p card.UV) lineart.Point {
	w, h := m.Width.MM(), m.Height().MM()
	x, y := p.U*w-w/2, p.V*w-h/2
	if m.Mirror {
		x = -x
	}
	sin, cos := math.Sincos(m.Turn * math.Pi / 180)
	return lineart.Point{X: m.X.MM() + w/2 + x*cos - y*sin, Y: m.Y.MM() + h/2 + x*sin + y*cos}
}

// share is the reverse of OnPanel.
func share(m *card.Image, p lineart.Point) card.UV {
	w, h := m.Width.MM(), m.Height().MM()
	x, y := p.X-m.X.MM()-w/2, p.Y-m.Y.MM()-h/2
	sin, cos := math.Sincos(-m.Turn * math.Pi / 180)
	x, y = x*cos-y*sin, x*sin+y*cos
	if m.Mirror {
		x = -x
	}
	return card.UV{U: (x + w/2) / w, V: (y + h/2) / w}
}

// OnImage is a point of the panel on an image, the reverse of [OnPanel], in the steps a
// card stores: a hundredth of a millimetre is enough.
func OnImage(m *card.Image, p lineart.Point) card.UV {
	round := func(v float64) float64 { return math.Round(v*1e5) / 1e5 }
	at := share(m, p)
	return card.UV{U: round(at.U), V: round(at.V)}
}

// Corners are the corners of an image on the panel, mm, clockwise from its top
// left one.
func Corners(m *card.Image) [4]lineart.Point {
	high := float64(m.HeightPX) / float64(m.WidthPX)
	var out [4]lineart.Point
	for i, c := range []card.UV{{U: 0, V: 0}, {U: 1, V: 0}, {U: 1, V: high}, {U: 0, V: high}} {
		out[i] = OnPanel(m, c)
	}
	return out
}

// far is how far a place of the panel is from what an image covers, mm; 0 when it
// lies on it. An image of whose silhouette nothing is known covers everything.
func (l *Laid) far(p lineart.Point) float64 {
	if l.Silhouette.Rings == nil {
		return 0
	}
	if l.Silhouette.Contains(p) {
		return 0
	}
	least := math.Inf(1)
	for _, ring := range l.Silhouette.Rings {
		for _, a := range ring {
			least = min(least, math.Hypot(a.X-p.X, a.Y-p.Y))
		}
	}
	return least
}
