package keeping

import (
	"cmp"
	"fmt"
	"slices"
	"time"

	"chromaqua/core/change"
	"chromaqua/core/cover"
	"chromaqua/core/drying"
	"chromaqua/core/length"
	"chromaqua/core/mask"
	"chromaqua/core/panel"
	"chromaqua/core/shelf"
	"chromaqua/core/steps"
	"chromaqua/core/technique"
)

// A WayOut is something that helps an edge to stay open, with what it comes to then.
type WayOut struct {
	Label  string
	Says   string
	Rho    float64
	More   time.Duration // it takes in all, more than now
	Change change.Change // nil where the maker only does it otherwise
	Cut    []int         // squares of a division that is proposed

	reserve *panel.Reserve // that it masks
}

// WaysOut are what helps a large wash whose edge may dry, the surest first; none where it is
// safe as it is.
func WaysOut(b *panel.Board, f *Front, bench steps.Bench) (out []WayOut) {
	if f.Rho <= safe {
		return nil
	}
	cutIn, fill := steps.BrushesFor(b, f.Parts, bench.Brushes)
	hand := handOf(cutIn, fill, bench.Pace, b.Areas[f.Area].Washes[f.Wash].Technique)
	for _, way := range Easily(b, f) {
		if way.reserve != nil {
			f.masked(b, &way, hand)
		}
		out = append(out, way)
	}
	if _, o := steps.BrushesFor(b, f.Parts, append(shelf.Brushes(), bench.Brushes...)); o.Belly > fill.Belly { // the widest of the maker's own is taken already
		wide := hand
		wide.Fill = cover.Brush{Belly: o.Belly, CapacityML: o.CapacityML}
		s := cover.Find(f.Region, wide, f.Open/4)
		out = append(out, WayOut{Label: "A wider brush", Says: "with a " + o.Name + ", which is not on your shelf", Rho: cover.WaitOf(s.Wait, f.Open), More: s.Total - f.Sweep.Total})
	}
	if c, ok := cover.Divide(f.Region); ok {
		first, second := cover.Find(&c.Halves[0], hand, f.Open/4), cover.Find(&c.Halves[1], hand, f.Open/4)
		out = append(out, WayOut{
			Label: "Divide it", Says: fmt.Sprintf("lay each half by itself; the seam crosses %s of wash, the rest goes under what is drawn", length.FromMM(c.WashMM).Near(b.Card.Unit)),
			Rho: cover.WaitOf(max(first.Wait, second.Wait), f.Open), More: first.Total + second.Total - f.Sweep.Total, Cut: c.Path,
		})
	}
	slices.SortStableFunc(out, func(x, y WayOut) int { return cmp.Compare(x.Rho, y.Rho) })
	return slices.DeleteFunc(out, func(o WayOut) bool { return o.Rho >= f.Rho })
}

// Easily are the ways out that are a change of the card; what comes of a mask is not worked
// out yet.
func Easily(b *panel.Board, f *Front) (out []WayOut) {
	a := &b.Areas[f.Area]
	w, mm2 := a.Washes[f.Wash], 0.0
	for _, id := range f.Parts {
		mm2 += b.Part(id).AreaMM2
	}
	if wetter := technique.WetOnWet; w.Technique != wetter && w.Technique.Laid() < wetter.Laid() && f.Wash == 0 {
		open := f.on.Until(drying.Damp, wetter.Laid(), mm2, b.Card.Room)
		out = append(out, WayOut{Label: "Lay it wetter", Says: "wet on wet, its edge stays open for " + minutes(open), Rho: cover.WaitOf(f.Sweep.Wait, open), Change: change.LayAs{Area: a.ID, Wash: f.Wash, Technique: wetter}})
	}
	for _, i := range b.KeptFrom(f.Area) {
		if r := &b.Reserves[i]; r.Way.Or() == mask.Round && r.Narrow >= mask.Fluid.Facts().Least {
			out = append(out, WayOut{Label: "Mask " + r.Name, Says: "with masking fluid, so that nothing is cut in along", Change: change.KeepBy{Ways: r.ID + "=" + string(mask.Fluid)}, reserve: r})
		}
	}
	return out
}

// masked works out what comes of masking something that is painted round now.
func (f *Front) masked(b *panel.Board, w *WayOut, h cover.Hand) {
	made, _, err := change.Try(w.Change, b.Card, b.Sheet)
	if w.Rho = f.Rho; err != nil {
		return // it is no way out
	}
	then := *f
	then.look(panel.Resolve(made, b.Sheet), h)
	t := mask.Fluid.Times(b.Shape(w.reserve))
	w.Rho, w.More = then.Rho, then.Sweep.Total-f.Sweep.Total+t.Lay+t.Off
}

func minutes(d time.Duration) string { return fmt.Sprintf("%.0f min", d.Minutes()) }
