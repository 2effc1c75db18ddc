package proof

import (
	"errors"
	"image"
	"math"
	"slices"
	"time"

	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
)

// A WaterTest is what a scan of a brushed strip tells of an ink on a paper.
type WaterTest struct {
	BleedMM float64    `json:"bleed_mm"` // how much farther colour reaches from the line's edge where it was wetted
	Tint    float64    `json:"tint"`     // ΔE00 of brushed against bare paper
	Loss    float64    `json:"loss"`     // share of the line's density that is gone
	Verdict Verdict    `json:"verdict"`
	Lines   []LineRead `json:"lines"`
}

// LineRead is what one line of the strip tells.
type LineRead struct {
	Thick float64 `json:"thick_mm"` // as printed
	Dry   float64 `json:"dry_mm"`   // how far from its edge it is still a tenth as dark
	Wet   float64 `json:"wet_mm"`
	Loss  float64 `json:"loss"`
}

// Verdict is what an ink does under water.
type Verdict string

// The verdicts.
const (
	Holds Verdict = "holds"
	Soft  Verdict = "soft"
	Runs  Verdict = "runs"
)

// Record is a water test that was made: of an ink on a paper, after waiting.
type Record struct {
	Of
	Waited   time.Duration `json:"waited_ns"`
	Heat     bool          `json:"heat"`
	Practice bool          `json:"practice"` // scanned by the practice scanner: it says nothing about any ink
	Image    string        `json:"image"`    // SHA-256 of the scan
	WaterTest
}

// Of is what was tested: an ink on a paper, by ids of package shelf, and by name
// where they are the maker's own.
type Of struct {
	Ink      string `json:"ink"`
	OwnInk   string `json:"own_ink,omitempty"`
	Paper    string `json:"paper"`
	OwnPaper string `json:"own_paper,omitempty"`
}

// Latest returns the first of the tests, the latest leading, that is of an ink on
// a paper and no practice; nil when there is none.
func Latest(tests []Record, of Of) *Record {
	for i := range tests {
		if tests[i].Of == of && !tests[i].Practice {
			return &tests[i]
		}
	}
	return nil
}

// MaxWaited is the longest an ink is let dry before its test.
const MaxWaited = 31 * 24 * time.Hour

// Check reports what is wrong with a record.
func (r Record) Check() error {
	if len(r.OwnInk)+len(r.OwnPaper) > 8*shelf.MaxText {
		return errors.New("the name of what was tested is too long")
	}
	if _, err := shelf.InkByID(r.Ink); err != nil {
		return err
	}
	if _, err := shelf.PaperByID(r.Paper); err != nil {
		return err
	}
	if r.Waited < 0 || r.Waited > MaxWaited {
		return errors.New("an ink is tested after nothing to a month of drying")
	}
	return nil
}

// limits of the verdicts, those of holding first.
var limits = []struct {
	verdict           Verdict
	bleed, tint, loss float64
}{{Holds, 0.15, 1.5, 0.05}, {Soft, 0.5, 4, 0.15}}

// VerdictOf judges a bleed in mm, a tint in ΔE00, and a loss as a share.
func VerdictOf(bleed, tint, loss float64) Verdict {
	for _, l := range limits {
		if bleed < l.bleed && tint < l.tint && loss < l.loss {
			return l.verdict
		}
	}
	return Runs
}

// Errors of reading a strip, worded for whoever scanned it.
var (
	ErrMarks = errors.New("the four black marks of the strip were not all found: scan the whole strip, marks and corners included, lying flat")
	ErrDark  = errors.New("the scan is too dark, or the paper not white enough, to read the strip; scan it in colour with the lid closed and no corrections")
	ErrNoInk = errors.New("there is no line on the strip, or a very pale one: rule or stamp the lines dark enough to be seen")
)

// Reading distances, mm.
const (
	reachMM = 4.6  // from a line's middle
	stepMM  = 0.02 // along the profile
	cutMM   = 4.0  // of the lines' ends and of the wet edge, left out
	tenth   = 0.10 // of the line's contrast: colour is seen until there
)

// ReadStrip reads the scan of a test strip, in colour, at any resolution that
// shows its lines and turned any way. Bleed is the distance from the line's edge
// at which darkness still exceeds a tenth of the line's contrast, wet less dry in
// squares, the median over lines and sides; tint the colour difference of
// brushed and unbrushed paper; loss the drop of the lines' darkness. The light is evened out
// by the strip's white border.
func ReadStrip(m image.Image) (*WaterTest, error) {
	s, err := square(m)
	if err != nil {
		return nil, err
	}
	t := &WaterTest{}
	var bleeds, losses []float64
	bare, brushed := s.mean(InkLeft, BareTop, WetFrom-cutMM, BareBottom), s.mean(WetFrom+cutMM, BareTop, InkRight, BareBottom)
	for _, l := range StripLines() {
		dry, wet := s.profile(l.Y, InkLeft+cutMM, WetFrom-cutMM, dark(bare)), s.profile(l.Y, WetFrom+cutMM, InkRight-cutMM, dark(brushed))
		if dry.peak < 0.12 {
			return nil, ErrNoInk
		}
		edge := dry.half() // the line is where it was made, wetted or not
		r := LineRead{Thick: l.Thick, Loss: max(0, 1-wet.peak/dry.peak)}
		for side := range 2 {
			d, w := dry.reach(side, edge, dry.peak), wet.reach(side, edge, wet.peak)
			r.Dry, r.Wet = r.Dry+d/2, r.Wet+w/2
			bleeds = append(bleeds, math.Sqrt(max(0, w*w-d*d))) // a scan's blur adds in squares
		}
		losses = append(losses, r.Loss)
		t.Lines = append(t.Lines, r)
	}
	t.BleedMM, t.Loss = median(bleeds), median(losses)
	t.Tint = pigment.Difference(pigment.FromSRGB(bare).Lab(), pigment.FromSRGB(brushed).Lab())
	t.Verdict = VerdictOf(t.BleedMM, t.Tint, t.Loss)
	return t, nil
}

func median(v []float64) float64 {
	v = slices.Clone(v)
	slices.Sort(v)
	return (v[(len(v)-1)/2] + v[len(v)/2]) / 2
}

// dark is the darkness of a colour, 0 white to 1 black.
func dark(c [3]float64) float64 { return 1 - (c[0]+c[1]+c[2])/3 }

// profile is the darkness across a line, from above to below it.
type profile struct {
	v    []float64 // 0 paper to 1 black
	peak float64
}

// profile averages the darkness across the line at y between two places along
// it; paper is how dark the bare paper of that half is.
func (s *squared) profile(y, x0, x1, paper float64) profile {
	n := int(2*reachMM/stepMM) + 1
	p := profile{v: make([]float64, n)}
	const along = 0.3
	for i := range n {
		sum, k := 0.0, 0.0
		for x := x0; x < x1; x += along {
			c := s.at(Point{X: x, Y: y - reachMM + float64(i)*stepMM})
			sum, k = sum+dark(c), k+1
		}
		p.v[i] = sum/k - paper
	}
	for i := n/2 - int(0.8/stepMM); i <= n/2+int(0.8/stepMM); i++ {
		p.peak = max(p.peak, p.v[i])
	}
	return p
}

// half returns where the line's two edges are, as steps of the profile: where it
// is half as dark as at its darkest.
func (p profile) half() [2]int {
	top := 0
	for i, v := range p.v {
		if v == p.peak {
			top = i
		}
	}
	var out [2]int
	for side, step := range [2]int{-1, 1} {
		i := top
		for i > 0 && i < len(p.v)-1 && p.v[i] > p.peak/2 {
			i += step
		}
		out[side] = i
	}
	return out
}

// reach is how far from the line's edge the profile stays above a tenth of the
// contrast, mm.
func (p profile) reach(side int, edge [2]int, contrast float64) float64 {
	step := [2]int{-1, 1}[side]
	i := edge[side]
	for i > 0 && i < len(p.v)-1 && p.v[i] > tenth*contrast {
		i += step
	}
	return math.Abs(float64(i-edge[side])) * stepMM
}
