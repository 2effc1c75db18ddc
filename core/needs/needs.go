// Package needs answers "what does it use up?": paints, inks, powder, tape and what holds the
// card together, for so many copies of a card. All amounts are estimates by general figures,
// on the safe side.
package needs

import (
	"cmp"
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/mask"
	"chromaqua/core/mount"
	"chromaqua/core/paper"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/core/steps"
)

// General figures: how much of a wash is paint, by its strength; what one impression and one
// dot of glue take.
var paintShare = map[pigment.Strength]float64{pigment.WeakTea: 0.01, pigment.Tea: 0.03, pigment.Milk: 0.10, pigment.Cream: 0.30, pigment.Paste: 0.70}

const (
	inkEach    = 0.04 // ml, of one impression
	powderEach = 0.15 // g, of one impression
	glueEach   = 0.02 // ml, of a dot
	glueLine   = 0.01 // ml, of a centimetre of a line
)

// Of lists what a card uses up, in so many copies; its plan says how much paint is mixed.
func Of(c *card.Card, p *steps.Plan, made *mount.Assembly, copies int) []paper.Need {
	sum := map[paper.Need]float64{}
	add := func(what paper.What, name, unit string, amount float64) {
		if name != "" && amount > 0 {
			sum[paper.Need{What: what, Name: name, Unit: unit}] += amount
		}
	}
	n := float64(max(1, copies))
	mixed := float64(max(1, c.Copies)) // that the plan mixes for
	for i := range p.Mixes {
		m := &p.Mixes[i]
		parts := 0
		for _, q := range m.Parts {
			parts += q.Parts
		}
		for _, q := range m.Parts {
			add(paper.Paint, c.Called.Of(q.CI), "ml", n/mixed*m.ML*paintShare[m.Strength]*float64(q.Parts)/float64(max(1, parts)))
		}
	}
	for _, w := range works(c) {
		for i := range w.Images {
			impressions(w, &w.Images[i], n, add)
		}
	}
	for i := range p.Steps {
		if t := p.Steps[i].Taped; t != nil {
			add(paper.TapeRoll, string(t.Tape), "cm", n*t.MM/10)
		}
		if k := p.Steps[i].Kept; k != nil {
			keeping(c, k, n, add)
		}
	}
	for i := range made.Joints {
		j := &made.Joints[i]
		by := made.Members[j.Members[0]].By.Facts()
		name := by.Name
		switch {
		case j.Amount.MM2 > 0:
			add(paper.Adhesive, name, "cm²", n*j.Amount.MM2/100)
		case j.Amount.Dots > 0:
			add(paper.Adhesive, name, "ml", n*glueEach*float64(j.Amount.Dots))
		case by.Wet():
			add(paper.Adhesive, name, "ml", n*glueLine*j.Amount.Tape.MM()/10)
		default:
			add(paper.Adhesive, name, "cm", n*j.Amount.Tape.MM()/10)
		}
	}
	for _, it := range made.Items {
		add(paper.Embellish, cmp.Or(it.Name, string(it.Kind)), "pieces", n*float64(it.Many()))
	}
	var out []paper.Need
	for need, amount := range sum {
		need.Amount = amount
		out = append(out, need)
	}
	order := paper.Whats()
	slices.SortFunc(out, func(a, b paper.Need) int {
		return cmp.Or(cmp.Compare(slices.Index(order, a.What), slices.Index(order, b.What)), cmp.Compare(a.Name, b.Name), cmp.Compare(a.Unit, b.Unit))
	})
	return out
}

// works are the panel and every piece, as often as there is one of it.
func works(c *card.Card) []*card.Work {
	out := []*card.Work{&c.Work}
	for i := range c.Pieces {
		for range c.Pieces[i].Many() {
			out = append(out, &c.Pieces[i].Work)
		}
	}
	return out
}

// keeping adds what one thing that is kept white takes.
func keeping(c *card.Card, k *steps.Kept, n float64, add func(paper.What, string, string, float64)) {
	f, amount := k.With.Facts(), n*k.With.Takes(k.Shape)
	name := cmp.Or(k.Own, f.Bought, f.Name)
	switch f.Uses {
	case mask.Liquid:
		add(paper.Masking, name, "ml", amount)
	case mask.Sheets:
		add(paper.Masking, name, "cm²", amount)
	case mask.Strips:
		add(paper.TapeRoll, name, "cm", amount)
	case mask.White:
		add(paper.Paint, c.Called.Of(pigment.OpaqueWhite), "ml", amount)
	case mask.Melted:
		add(paper.Ink, "watermark ink", "ml", amount*inkEach)
		add(paper.Powder, "embossing powder", "g", amount*powderEach)
	}
}

// impressions adds what one image takes: ink, or ink and powder.
func impressions(w *card.Work, m *card.Image, n float64, add func(paper.What, string, string, float64)) {
	ink := w.InkOf(m)
	if !m.Inked() || ink.Method != shelf.Stamped {
		return
	}
	times, _, _ := m.Times()
	if times == 0 {
		times = map[shelf.Texture]int{shelf.Smooth: 1, shelf.Textured: 3, shelf.Rough: 3}[w.PaperFacts().Texture]
	}
	for k, pad := range w.PadsOf(m) {
		name := pad.Name
		if own := w.OwnInkOf(m); k == 0 && own != nil {
			name = own.Name
		}
		add(paper.Ink, name, "ml", n*inkEach*float64(max(1, times)))
	}
	if ink.Raises() {
		add(paper.Powder, "embossing powder", "g", n*powderEach)
	}
}
