package pigment

import "math"

// Meeting says what happens when two wet colours run into each other.
type Meeting string

// The outcomes, best first.
const (
	StaysClean Meeting = "stays clean"
	WillGrey   Meeting = "will grey" // one of them is nearly grey already
	Dulls      Meeting = "dulls"
	Mud        Meeting = "makes mud"
)

// Where mixtures become mud: the share of the duller end's chroma that is left, and the
// chroma below which nobody calls it a colour.
const (
	mudRatio, mudChroma  = 0.50, 25
	dullRatio, dullChrom = 0.75, 30
	nearlyGrey           = 15
)

// judged compares the chroma of a mixture with that of its duller end.
func judged(mixed, ends float64) Meeting {
	switch {
	case ends < nearlyGrey:
		return WillGrey
	case mixed/ends < mudRatio && mixed < mudChroma:
		return Mud
	case mixed/ends < dullRatio && mixed < dullChrom:
		return Dulls
	}
	return StaysClean
}

// Meet walks from coat a to coat b in 21 mixtures on ground and compares the
// least chroma on the way with that of the duller end.
func Meet(ground Spectrum, a, b Coat) Meeting {
	const steps = 21
	at := func(i int) float64 {
		t := Load(i) / (steps - 1)
		return chromaOf(ground, Coat{a.Paint, (1 - t) * a.Load}.With(Coat{b.Paint, t * b.Load}))
	}
	ends := min(at(0), at(steps-1))
	least := ends
	for i := 1; i < steps-1; i++ {
		least = min(least, at(i))
	}
	return judged(least, ends)
}

// Over judges coat b laid over coat a once that is dry, against the duller of the two
// alone.
func Over(ground Spectrum, a, b Coat) Meeting {
	r := Stack(ground, a, b)
	return judged(r.Lab().Chroma(), min(chromaOf(ground, a), chromaOf(ground, b)))
}

// Cancel judges the paints of one mix, each a coat of as much as there is of it, against
// the dullest of them laid as strong as the mix.
func Cancel(ground Spectrum, parts []Coat) Meeting {
	if len(parts) < 2 {
		return StaysClean
	}
	all := Coat{}
	for _, p := range parts {
		all = all.With(p)
	}
	ends := math.Inf(1)
	for _, p := range parts {
		ends = min(ends, chromaOf(ground, Coat{p.Paint, all.Load}))
	}
	return judged(chromaOf(ground, all), ends)
}

func chromaOf(ground Spectrum, c Coat) float64 {
	r := c.Paint.Over(&ground, c.Load)
	return r.Lab().Chroma()
}

// Contrast says how well two touching areas can be told apart in grey.
type Contrast string

// The degrees of contrast by their difference in L*.
const (
	MeltsTogether Contrast = "melts together" // under 5
	Weak          Contrast = "weak"           // 5 to 10
	Reads         Contrast = "reads in grey"  // 10 to 20
	Strong        Contrast = "strong"         // 20 and more
)

// Compare returns the contrast in value between two dried colours.
func Compare(a, b Lab) Contrast {
	switch d := math.Abs(a.L - b.L); {
	case d < 5:
		return MeltsTogether
	case d < 10:
		return Weak
	case d < 20:
		return Reads
	}
	return Strong
}

// Coats returns the least number of coats of p, each of load x, that takes
// ground, once dry, to lightness L* or past it, and the lightness any number can reach.
// n is 0 when no number of coats gets there.
func Coats(ground Spectrum, p Paint, x Load, want float64) (n int, limit float64) {
	const most = 20 // nobody lays more
	light := func(r Spectrum) float64 { r = Seen(r, Dry); return r.Lab().L }
	from := light(ground)
	for i := range p.S { // each coat dries for itself, and sinks
		p.S[i] = p.scatter(i, x)
	}
	p.Sinks = Spectrum{}
	limit = light(p.Over(&ground, MaxLoad))
	darker := want < from
	if darker == (limit > want) {
		return 0, limit
	}
	for n = 1; n <= most; n++ {
		if L := light(p.Over(&ground, x*Load(n))); darker && L <= want || !darker && L >= want {
			return n, limit
		}
	}
	return 0, limit
}
