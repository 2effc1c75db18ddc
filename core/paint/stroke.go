package paint

import (
	"fmt"
	"math"
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/panel"
	"chromaqua/core/steps"
	"chromaqua/core/technique"
	"chromaqua/core/wash"
)

// step adds what a step leaves on the piece.
func (q *Painting) step(st *steps.Step) {
	if st.On == nil {
		q.white(st)
		return
	}
	a := &q.board.Areas[st.On.Area]
	o := q.placed[st.ID]
	s := wash.Stroke{
		ID: st.ID * strokesOfStep, Start: float64(o.Start), Dur: float64(o.End - o.Start), Cells: q.labels(st.Cells),
		Band: q.band(st), Loose: q.loose(a), IntoWet: len(st.IntoWet) > 0,
	}
	if len(s.Cells) == 0 {
		return
	}
	n := max(0, st.On.Wash)
	s.Within = q.within(st, n)
	if st.On.Wash == steps.Wetting {
		s.Laid, s.Left = 60, 60
		q.Strokes = append(q.Strokes, s)
		return
	}
	w := &a.Washes[n]
	g := q.ground(st, s.Cells)
	s.Mix, s.Load = q.mix(w)
	s.Laid, s.Left = float32(w.Technique.Laid()), float32(w.Technique.Left())
	q.technique(st, a, w, g, &s)
}

// technique adds the strokes of a wash of an area.
func (q *Painting) technique(st *steps.Step, a *panel.Area, w *card.Wash, g *ground, s *wash.Stroke) {
	f := w.Technique.Facts()
	wet := s.IntoWet
	switch {
	case f.Trace == technique.Skips || f.Trace == technique.Glints:
		s.Mark = wash.Mark{Kind: wash.Skim, Share: f.Hollows}
		s.Amount = g.grade(f.Runs, f.Thin)
	case f.Kind == technique.Spritz || f.Kind == technique.Salt:
		s.Mix, s.Mark = nil, wash.Mark{Kind: wash.Grains, At: q.scattered(st, s)}
	case f.Trace == technique.Drops:
		q.dropped(st, w, wet, s)
	case f.Trace == technique.Dabs:
		s.Mark = wash.Mark{Kind: wash.Dots, At: g.dabs()}
	case f.Trace == technique.Strokes:
		s.Mark = wash.Mark{Kind: wash.Lines, At: g.starts(f.Share)}
	case f.Trace == technique.Patches && len(s.Mix) > 0:
		s.Mark = wash.Mark{Kind: wash.Sponge, Share: 1 - f.Share}
	case f.Tool == technique.CleanWater:
		q.cleanWater(st, a, f, g, s)
	case f.When == technique.WhileWet:
		q.intoWet(f, wet, g, s)
		return
	case f.Kind == technique.Crescent:
		s.Amount = g.crescent()
	case f.Kind == technique.CastShadow:
		s.Amount = g.cast()
	case f.Kind == technique.ReservedLight:
		s.Amount = g.reserved()
	default:
		s.Tilt = f.Kind == technique.Graded
		s.Amount = g.grade(f.Runs, f.Thin)
		if next := st.On.Wash + 1; next < len(a.Washes) && a.Washes[next].Technique == technique.Variegated && a.Washes[next].IntoWet(next) {
			s.Amount = g.across(false) // it leaves room for what is laid beside it
		}
	}
	q.Strokes = append(q.Strokes, *s)
	if w.Technique.Covers() {
		q.lineRuns(st, w, g, *s)
	}
}

// intoWet is paint that is charged into what is wet: into the wash below, or into clean
// water that is laid first.
func (q *Painting) intoWet(f *technique.Facts, wet bool, g *ground, s *wash.Stroke) {
	if !wet {
		pre := *s
		pre.ID, pre.Mix, pre.Load, pre.Dur = s.ID+1, nil, 0, 0.45*s.Dur
		pre.Laid, pre.Left = s.Laid*0.8, s.Laid*0.8
		q.Strokes = append(q.Strokes, pre)
		s.Start, s.Dur = s.Start+0.5*s.Dur, 0.5*s.Dur
	}
	s.Dropped, s.Laid = true, min(s.Laid, 22)
	s.Left = s.Laid
	if f.Runs == technique.Across {
		s.Amount = g.across(true)
	} else {
		s.Amount = g.clouds(f.Thin, wet)
	}
	q.Strokes = append(q.Strokes, *s)
}

// cleanWater is a brush or a towel without paint.
func (q *Painting) cleanWater(st *steps.Step, a *panel.Area, f *technique.Facts, g *ground, s *wash.Stroke) {
	s.Mix, s.Load = nil, 0
	switch f.Kind {
	case technique.LinePull:
		coat := q.board.Pulled(st.On.Area)
		s.Mix, s.Load = []wash.Portion{{Paint: q.lineInk(st.On.Area), Share: 1}}, float32(coat.Load)
		s.Amount, s.Softens = g.grade(technique.In, f.Thin), true
		return
	case technique.PencilWetted:
		if n := st.On.Wash; n > 0 {
			s.Mix, s.Load = q.mix(&a.Washes[n-1])
			s.Load *= 0.6
		}
		return
	case technique.Soften, technique.LostEdge:
		s.Amount, s.Softens = g.edges(f.Share), true
	case technique.Lift:
		s.Amount = g.light(f.Share)
	case technique.Blot:
		s.Amount = g.patches(f.Share)
	}
	s.Take = takenBy(f)
}

// takenBy is what a technique takes away.
func takenBy(f *technique.Facts) *wash.Take {
	return &wash.Take{Share: float32(1 - f.Takes.Least), Staining: float32(3 * f.Takes.Staining)}
}

// dropped is paint or water that falls in drops.
func (q *Painting) dropped(st *steps.Step, w *card.Wash, wet bool, s *wash.Stroke) {
	f := w.Technique.Facts()
	at := q.scattered(st, s)
	switch {
	case f.Kind == technique.DropsLifted:
		s.Dropped, s.Mark, s.Mix, s.Load = true, wash.Mark{Kind: wash.Falling, At: at}, nil, 0
		s.Take = takenBy(f)
	case f.Tool == technique.CleanWater:
		s.Dropped, s.Mark, s.Mix, s.Load, s.Laid = true, wash.Mark{Kind: wash.Falling, At: at}, nil, 0, 110
		s.Take = &wash.Take{Share: 0.5}
	case f.When == technique.WhileWet && wet:
		s.Dropped, s.Mark = true, wash.Mark{Kind: wash.Falling, At: at}
	default:
		s.Mark = wash.Mark{Kind: wash.Dots, At: at}
	}
}

// scattered are the drops of a wash that fall onto the cells of a stroke.
func (q *Painting) scattered(st *steps.Step, s *wash.Stroke) (out []wash.Disc) {
	for _, d := range q.board.Scatter(st.On.Area, st.On.Wash) {
		if slices.Contains(s.Cells, q.Plate.LabelAt(d.X, d.Y)) {
			out = append(out, wash.Disc(d))
		}
	}
	return out
}

// lineRuns is what a wash draws out of a line that gives colour to water: half of what
// water alone would.
func (q *Painting) lineRuns(st *steps.Step, w *card.Wash, g *ground, s wash.Stroke) {
	if st.On.Wash != 0 || w.Technique.Tool() != technique.PaintedBrush {
		return
	}
	coat := q.board.Pulled(st.On.Area)
	if coat.Load < 0.01 {
		return
	}
	s.ID += 2
	s.Mix, s.Load = []wash.Portion{{Paint: q.lineInk(st.On.Area), Share: 1}}, float32(coat.Load)*0.6
	s.Dropped, s.IntoWet, s.Laid, s.Left = true, false, 0, 0
	s.Start += 1
	s.Amount = g.grade(technique.In, 0.05)
	q.Strokes = append(q.Strokes, s)
}

// lineInk is the colour that water draws out of the line beside an area.
func (q *Painting) lineInk(area int) int {
	key := fmt.Sprint("line of ", area)
	n, known := q.paints[key]
	if !known {
		coat := q.board.Pulled(area)
		q.Paints = append(q.Paints, wash.PaintOf(&coat.Paint, 2, 0))
		n = len(q.Paints) - 1
		q.paints[key] = n
	}
	return n
}

// white is opaque white that is put in where it was not kept.
func (q *Painting) white(st *steps.Step) {
	if st.Kind != steps.Detail || len(st.Cells) == 0 {
		return
	}
	w := card.Begun(technique.Highlight)
	o := q.placed[st.ID]
	s := wash.Stroke{ID: st.ID * strokesOfStep, Start: float64(o.Start), Dur: float64(o.End - o.Start), Cells: q.labels(st.Cells)}
	s.Mix, s.Load = q.mix(&w)
	s.Load *= 1.6
	if s.Mark = (wash.Mark{Kind: wash.Skim, Share: 0.02}); len(s.Cells) > 0 {
		q.Strokes = append(q.Strokes, s)
	}
}

// band is how wide the brush of a step is.
func (q *Painting) band(st *steps.Step) float64 {
	least := math.Inf(1)
	for _, id := range st.Cells {
		least = min(least, q.board.Part(id).InscribedMM)
	}
	return min(14, max(1.5, 1.1*least))
}

// within is where a step goes that does not fill its cells, nil where it does.
func (q *Painting) within(st *steps.Step, n int) *wash.Region {
	zone := slices.ContainsFunc(st.Cells, func(id int) bool { return id > len(q.board.Cells) })
	if !zone && len(q.board.KeptFrom(st.On.Area)) == 0 && !q.board.Overlaid() {
		return nil
	}
	const mm = squareMM
	in, key := q.board.Spread(st.On.Area, n, st.Cells, mm)
	whole := true
	mine := map[uint16]bool{}
	for _, l := range q.labels(st.Cells) {
		mine[l] = true
	}
	at := func(x, y float64) int {
		return min(in.H-1, max(0, int(y/mm)))*in.W + min(in.W-1, max(0, int(x/mm)))
	}
	covered := func(x, y float64) bool {
		i := at(x, y)
		return in.In[i] || in.Masked != nil && in.Masked[i]
	}
	for i := 0; i < len(q.Plate.Label) && whole; i += 3 {
		if mine[q.Plate.Label[i]] && q.Plate.Edge[i] > mm {
			whole = covered((float64(i%q.Plate.W)+0.5)*wash.PlateMM, (float64(i/q.Plate.W)+0.5)*wash.PlateMM)
		}
	}
	if whole {
		return nil
	}
	return q.region("spread "+key, mm, covered)
}
