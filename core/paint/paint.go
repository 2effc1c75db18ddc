// Package paint answers "what does the piece look like while it is painted?": it turns a
// plan and its order into strokes on a sheet, which package wash lets run and dry.
package paint

import (
	"fmt"
	"math"
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/drying"
	"chromaqua/core/lineart"
	"chromaqua/core/order"
	"chromaqua/core/panel"
	"chromaqua/core/pigment"
	"chromaqua/core/school"
	"chromaqua/core/shelf"
	"chromaqua/core/steps"
	"chromaqua/core/technique"
	"chromaqua/core/wash"
)

// A Painting is one piece of a plan as it is painted; of one that a card needs several times,
// one of them.
type Painting struct {
	*wash.Painting
	Plan     *steps.Plan
	Schedule *order.Schedule
	Piece    int
	Item     int // from 0

	board  *panel.Board
	placed map[int]order.Placed // by step, on the first card; of this piece, those on the item
	paints map[string]int       // by pigment
	dark   map[uint16]Dark
}

// A Dark is where the shadow of a cell sits: how much of it falls on a place, 0 to 1.
type Dark struct {
	Key    string
	At     func(x, y float64) float32
	Light  lineart.Point // its lightest place, mm
	LightR float64
}

// Of is an item of a piece of a plan as its schedule has it painted on the first card.
func Of(p *steps.Plan, s *order.Schedule, piece, item int, hand wash.Hand) *Painting {
	b := p.Pieces[piece].Board
	q := &Painting{Plan: p, Schedule: s, Piece: piece, Item: item, board: b, placed: map[int]order.Placed{}, paints: map[string]int{}, dark: darks(b)}
	for _, o := range s.Ops {
		if st := &p.Steps[o.Op]; o.Copy == 0 && (st.Piece != piece || st.Item == item) {
			q.placed[o.Op] = o
		}
	}
	ground := panel.Ground(b.Card.Paper)
	q.Painting = &wash.Painting{
		Plate: PlateOf(b.Sheet), Paper: PaperOf(b.Card.PaperFacts()), Ground: wash.Sampled(&ground), Hand: hand, Seed: 11,
	}
	q.rates()
	q.borders()
	for i := range p.Steps {
		st := &p.Steps[i]
		if _, on := q.placed[i]; on && st.Piece == piece {
			q.step(st)
		}
	}
	q.covers()
	q.heat()
	return q
}

// PlateOf is a sheet's cells at the resolution at which washes are told apart.
func PlateOf(s *panel.Sheet) *wash.Plate {
	return s.Remember("plate of washes", func() any {
		mm := 25.4 / s.DPI
		w, h := max(2, int(math.Round(float64(s.W)*mm/wash.PlateMM))), max(2, int(math.Round(float64(s.H)*mm/wash.PlateMM)))
		labels := make([]uint16, w*h)
		for i := range labels {
			x := min(s.W-1, int((float64(i%w)+0.5)*wash.PlateMM/mm))
			y := min(s.H-1, int((float64(i/w)+0.5)*wash.PlateMM/mm))
			labels[i] = s.Labels[y*s.W+x]
		}
		return wash.NewPlate(w, h, labels)
	}).(*wash.Plate)
}

// PaperOf is how a paper of the shelf takes a wash.
func PaperOf(p shelf.Paper) wash.Paper {
	relief := wash.ColdPressed
	switch {
	case p.Surface.Critical() == drying.Pulp.Critical():
		relief = wash.PulpSheet
	case p.Texture == shelf.Rough:
		relief = wash.Rough
	case p.Texture == shelf.Smooth:
		relief = wash.HotPressed
	}
	return wash.PaperOf(p.Surface, relief)
}

// rates are how fast each cell dries: what is wet together on purpose dries as one.
func (q *Painting) rates() {
	b := q.board
	q.Rate = make([]float64, len(b.Cells)+1)
	size := b.Card.PanelSize()
	q.Rate[0] = b.Card.Room.Rate(size.W.MM() * size.H.MM())
	together := make([]float64, len(b.Cells)+1)
	for i := range q.Plan.Steps {
		st := &q.Plan.Steps[i]
		if st.Piece != q.Piece || st.On == nil || st.Together == steps.OnItsOwn || st.Together == steps.Spots {
			continue
		}
		sum := 0.0
		for _, id := range st.Cells {
			sum += b.Part(id).AreaMM2
		}
		for _, l := range q.labels(st.Cells) {
			together[l] = max(together[l], sum)
		}
	}
	for i, c := range b.Cells {
		q.Rate[i+1] = b.Card.Room.Rate(max(c.AreaMM2, together[i+1]))
	}
}

// borders are the lines between cells, and how well each holds water.
func (q *Painting) borders() {
	for _, c := range q.board.Contacts() {
		if c.A > len(q.board.Cells) || c.B > len(q.board.Cells) {
			continue
		}
		cross := float32(wash.FlatLine)
		if c.Raised {
			cross = wash.RaisedLine
		}
		q.Borders = append(q.Borders, wash.Border{A: uint16(c.A), B: uint16(c.B), Cross: cross})
	}
}

// labels are the cells that lie below some cells and pieces of zones.
func (q *Painting) labels(parts []int) (out []uint16) {
	for _, id := range parts {
		if id <= len(q.board.Cells) {
			out = append(out, uint16(id))
			continue
		}
		for _, n := range q.board.PatchesOf([]int{id}) {
			for _, pt := range q.board.Patches() {
				if pt.ID == n && pt.Cell > 0 && !slices.Contains(out, uint16(pt.Cell)) {
					out = append(out, uint16(pt.Cell))
				}
			}
		}
	}
	return out
}

// paint is the number of a pigment of a card among those of the painting.
func (q *Painting) paint(ci string, shimmers bool) int {
	key := fmt.Sprint(ci, shimmers)
	if n, known := q.paints[key]; known {
		return n
	}
	own := panel.PaletteOf(q.board.Card).Paint(ci)
	staining, grain, glint := 1.0, 0.0, 0.0
	if g, err := pigment.ByCI(ci); err == nil {
		staining, grain, glint = float64(g.Staining), float64(g.Granulation), g.Glint
	}
	if shimmers && glint == 0 {
		glint = 1 // mica is stirred into it
	}
	paint := wash.PaintOf(&own, staining, grain)
	paint.Glint = float32(glint)
	q.Paints = append(q.Paints, paint)
	q.paints[key] = len(q.Paints) - 1
	return len(q.Paints) - 1
}

// mix is a wash's mix in portions, and its load.
func (q *Painting) mix(w *card.Wash) (out []wash.Portion, load float32) {
	sum := 0
	for _, p := range w.Mix {
		sum += p.Parts
	}
	for _, p := range w.Mix {
		out = append(out, wash.Portion{Paint: q.paint(p.CI, w.Technique.Facts().Trace == technique.Glints), Share: float32(p.Parts) / float32(sum)})
	}
	if l, err := w.Strength.Load(); err == nil && len(out) > 0 {
		load = float32(l)
	}
	return out, load
}

// covers are what keeps paint off for a time.
func (q *Painting) covers() {
	for i := range q.board.Reserves {
		r := &q.board.Reserves[i]
		on, off := q.Plan.MaskSteps(r.ID)
		from, laid := q.placed[on]
		if on < 0 || !laid {
			continue
		}
		until := math.Inf(1)
		if o, lifted := q.placed[off]; off >= 0 && lifted {
			until = float64(o.Start)
		}
		q.Covers = append(q.Covers, wash.Cover{Region: q.kept(r), From: float64(from.End), To: until})
	}
}

// kept is the region of what stays white: dots as they are placed, else the squares of its
// patches.
func (q *Painting) kept(r *panel.Reserve) *wash.Region {
	if dots := q.board.Dots(r); dots != nil {
		return q.region(fmt.Sprint("dots ", dots), 0, func(x, y float64) bool {
			return slices.ContainsFunc(dots, func(d panel.Drop) bool { return math.Hypot(x-d.X, y-d.Y) < d.R })
		})
	}
	in := map[int]bool{}
	for _, id := range r.Patches {
		in[id] = true
	}
	at := q.board.PatchAt()
	return q.region(fmt.Sprint("kept ", r.Patches), squareMM, func(x, y float64) bool { return in[at(x, y)] })
}

// squareMM is how wide the squares are that zones are laid out in.
const squareMM = 0.3

// region is a region of the plate, rounded where it is made of squares, and kept as long as
// the sheet is.
func (q *Painting) region(key string, rounded float64, in func(x, y float64) bool) *wash.Region {
	return q.board.Remember("region of washes "+key, func() any { return wash.NewRegion(q.Plate, key, rounded, in) }).(*wash.Region)
}

// heat is where and when the heat tool dries.
func (q *Painting) heat() {
	for _, h := range q.Schedule.Heat {
		if h.Copy != 0 || h.End <= h.Start {
			continue
		}
		if h.For == order.WholeCard {
			q.Spells = append(q.Spells, wash.Spell{From: float64(h.Start), To: float64(h.End), Faster: float64(q.Plan.Instance.Heat.Factor), WholeSheet: true})
			continue
		}
		st := &q.Plan.Steps[h.Op]
		o, on := q.placed[h.Op]
		if !on || st.Piece != q.Piece {
			continue
		}
		dry := st.Dry
		if h.For == order.BoneDry {
			dry = st.Bone
		}
		left := float64(o.End) + dry.Seconds() - float64(h.Start)
		q.Spells = append(q.Spells, wash.Spell{
			Cells: q.labels(st.Cells), From: float64(h.Start), To: float64(h.End), Faster: max(1, left/float64(h.End-h.Start)),
		})
	}
}

// loose is how loose a hand an area is painted with.
func (q *Painting) loose(a *panel.Area) float32 {
	if a.Loose || q.Plan.Ways.Lines == school.LooseLines {
		return 1
	}
	return 0
}

// StepOf is the step a stroke belongs to; strokes have their steps' ids.
func (q *Painting) StepOf(stroke int) *steps.Step { return &q.Plan.Steps[stroke/strokesOfStep] }

// strokesOfStep is how many strokes a step may have.
const strokesOfStep = 8
