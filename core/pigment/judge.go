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

// Meet walks from coat a to coat b in 21 mixtures on ground and compares the
// least chroma on the way with that of the duller end.
func Meet(ground Spectrum, a, b Coat) Meeting {
	const (
		steps                = 21
		mudRatio, mudChroma  = 0.50, 25
		dullRatio, dullChrom = 0.75, 30
		nearlyGrey           = 15
	)
	at := func(i int) float64 {
		t := float64(i) / (steps - 1)
		var p Paint
		for j := range p.K {
			p.K[j] = (1-t)*a.Paint.K[j]*float64(a.Load) + t*b.Paint.K[j]*float64(b.Load)
			p.S[j] = (1-t)*a.Paint.S[j]*float64(a.Load) + t*b.Paint.S[j]*float64(b.Load)
		}
		r := p.Over(&ground, 1)
		return r.Lab().Chroma()
	}
	ends := min(at(0), at(steps-1))
	if ends < nearlyGrey {
		return WillGrey
	}
	least := ends
	for i := 1; i < steps-1; i++ {
		least = min(least, at(i))
	}
	switch {
	case least/ends < mudRatio && least < mudChroma:
		return Mud
	case least/ends < dullRatio && least < dullChrom:
		return Dulls
	}
	return StaysClean
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
// ground to lightness L* or past it, and the lightness any number can reach.
// n is 0 when no number of coats gets there.
func Coats(ground Spectrum, p Paint, x Load, want float64) (n int, limit float64) {
	const most = 60 // nobody paints more
	from := ground.Lab().L
	inf := p.Over(&ground, MaxLoad)
	limit = inf.Lab().L
	darker := want < from
	if darker == (limit > want) {
		return 0, limit
	}
	for n = 1; n <= most; n++ {
		r := p.Over(&ground, x*Load(n))
		if L := r.Lab().L; darker && L <= want || !darker && L >= want {
			return n, limit
		}
	}
	return 0, limit
}
