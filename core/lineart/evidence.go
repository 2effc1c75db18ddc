package lineart

import "math"

// The kinds of evidence that speak for a passage being a gap in a line or a neck
// of one cell. Ends of a broken line run straight away from a gap, the banks of a
// neck spread along it. Of the two banks, the weak one is that which runs away
// less. [gaps] knows them by name and weighs them.
const (
	gapWidth    = iota // mm between the banks
	widerSpread        // mm, the larger of the two, within wideMM

	weakNearSpread // mm, of the weak bank within nearMM
	weakNearArea   // the logarithm of mm²
	weakNearScore  // see [reach.score]
	weakWideMean   // mm, and so on: of the weak bank within wideMM
	weakWideSpread
	weakWideArea
	weakWideScore
	strongNearSpread // of the other bank
	strongNearArea
	strongNearScore
	bestWideScore // the larger of the two

	roomBehind   // how many times as far from ink as at the saddle one gets, see [flooding.room]
	faintInk     // ink left at the lightest place across, see [flooding.faint]
	smallerArea  // the logarithm of mm², of the smaller basin
	largerArea   // and of the larger one
	smallerShape // the logarithm of the smaller one's area over its squared depth: that of π for a disc
	kindsOfEvidence
)

// evidenceNames are the names of the kinds in gaps.json.
var evidenceNames = [kindsOfEvidence]string{
	gapWidth: "gap width", widerSpread: "wider spread",
	weakNearSpread: "weak near spread", weakNearArea: "weak near area", weakNearScore: "weak near score",
	weakWideMean: "weak wide mean", weakWideSpread: "weak wide spread", weakWideArea: "weak wide area", weakWideScore: "weak wide score",
	strongNearSpread: "strong near spread", strongNearArea: "strong near area", strongNearScore: "strong near score",
	bestWideScore: "best wide score", roomBehind: "room behind", faintInk: "faint ink",
	smallerArea: "smaller area", largerArea: "larger area", smallerShape: "smaller shape",
}

// evidence is what is seen of a passage, a number for each kind.
type evidence [kindsOfEvidence]float64

// evidenceOf is what a passage's width and its banks say.
func evidenceOf(width float64, p, q bank) evidence {
	weak, strong := p, q
	if q.near.score() < p.near.score() {
		weak, strong = q, p
	}
	area := func(r reach) float64 { return math.Log(r.area + 0.02) }
	return evidence{
		gapWidth:         width,
		widerSpread:      max(p.wide.spread, q.wide.spread),
		weakNearSpread:   weak.near.spread,
		weakNearArea:     area(weak.near),
		weakNearScore:    weak.near.score(),
		weakWideMean:     weak.wide.mean,
		weakWideSpread:   weak.wide.spread,
		weakWideArea:     area(weak.wide),
		weakWideScore:    weak.wide.score(),
		strongNearSpread: strong.near.spread,
		strongNearArea:   area(strong.near),
		strongNearScore:  strong.near.score(),
		bestWideScore:    max(p.wide.score(), q.wide.score()),
	}
}

// addBasins adds what the basins on either side of a passage say.
func (f *flooding) addBasins(e *evidence, a, b int32) {
	small, large := f.basins[a], f.basins[b]
	if small.pixels > large.pixels {
		small, large = large, small
	}
	area := func(b basin) float64 { return math.Log(float64(b.pixels)*f.mm*f.mm + 0.05) }
	e[smallerArea], e[largerArea] = area(small), area(large)
	e[smallerShape] = math.Log(float64(small.pixels) / float64(max(1, small.peak2)))
}
