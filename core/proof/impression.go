package proof

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"image"
	"math"
	"slices"
	"strings"

	"chromaqua/core/lineart"
)

// An Impression is what a scan of a stamped panel shows, held against the image
// it was stamped with. Places are on the reference.
type Impression struct {
	Match    Match
	Present  float64 // share of the reference's line that is there
	Missing  []Fault // where ink is missing, the longest first
	Doubles  []Fault // a second line beside the first
	Smudges  []Fault
	Again    bool   // it should be stamped again
	Where    string // to press, in words; "" where no place stands out
	Advice   []string
	WidthMM  float64 // of the reference
	HeightMM float64
}

// Fault is a place where line and impression differ.
type Fault struct {
	At     Point   `json:"at"` // its middle
	Radius float64 `json:"radius_mm"`
	Length float64 `json:"length_mm"`
}

// ErrOtherImage means that a scan does not show the image it is held against.
var ErrOtherImage = errors.New("the scan does not match the image: choose the scan of this very image, wholly on the glass, and give its real width")

// Measures of the check.
const (
	presentMM   = 0.30 // ink so near counts as there: scans are aligned to a tenth or two
	leastGapMM  = 0.5  // shorter breaks are texture
	linkMM      = 0.35 // breaks so near are one
	offMM       = 0.4  // ink so far off the line is no line
	leastExtra  = 1.5  // length of a double or smudge, mm
	enough      = 0.97 // of the line present; less is stamped again
	smudgeWidth = 1.6  // extra ink wider than so many lines is a smudge
)

// Check holds a scan of an impression against the image it was made from. The
// error is [ErrOtherImage] or [ErrNoLine].
func Check(ref, scan *lineart.Ink) (*Impression, error) {
	m, err := Align(ref, scan)
	if err != nil {
		return nil, err
	}
	if m.Agrees < sameAgrees-0.15 || m.Covers < sameCovers-0.25 {
		return nil, ErrOtherImage
	}
	out := &Impression{Match: m, WidthMM: float64(ref.W) * ref.MM, HeightMM: float64(ref.H) * ref.MM}
	back := m.Inverse()
	gone := apart(ref, scan, back, presentMM)
	whole, lost := 0, 0
	for i, on := range ref.On {
		if on {
			whole++
			if gone[i] {
				lost++
			}
		}
	}
	// Ends of a break lie near ink that is there, so it is longer than what is
	// found missing of it.
	for _, f := range faults(ref, gone, func(s spot) (float64, bool) {
		long := s.long*ref.MM + 2*presentMM - ref.Line
		return long, long >= leastGapMM && s.pixels*ref.MM*ref.MM >= 0.02
	}) {
		out.Missing = append(out.Missing, f.Fault)
	}
	out.Present = max(0, 1-float64(lost)/float64(max(1, whole)))
	extra := apart(scan, ref, m.Similarity, offMM)
	for _, f := range faults(scan, extra, func(s spot) (float64, bool) {
		return s.long * scan.MM, s.long*scan.MM >= leastExtra
	}) {
		f.At = m.Apply(f.At)
		if wide := f.area / f.Length; wide > smudgeWidth*scan.Line {
			out.Smudges = append(out.Smudges, f.Fault)
		} else {
			out.Doubles = append(out.Doubles, f.Fault)
		}
	}
	out.judge()
	return out, nil
}

// apart tells which places of a's line have no line of b within mm.
func apart(a, b *lineart.Ink, to Similarity, mm float64) []bool {
	dist2, _ := lineart.Nearest(b.W, b.H, b.On)
	out := make([]bool, len(a.On))
	far := mm / b.MM
	for y := range a.H {
		for x := range a.W {
			i := y*a.W + x
			if !a.On[i] {
				continue
			}
			p := to.Apply(Point{X: (float64(x) + 0.5) * a.MM, Y: (float64(y) + 0.5) * a.MM})
			px, py := int(p.X/b.MM), int(p.Y/b.MM)
			out[i] = p.X < 0 || p.Y < 0 || px >= b.W || py >= b.H || float64(dist2[py*b.W+px]) > far*far
		}
	}
	return out
}

// spot is a connected piece of a map.
type spot struct {
	x0, y0, x1, y1 int
	pixels         float64
	long           float64 // its greatest extent, pixels
}

type measured struct {
	Fault
	area float64 // mm²
}

// faults gathers what is on into pieces, those near each other together, and
// keeps those that keep says, with their length, longest first.
func faults(ink *lineart.Ink, on []bool, keep func(spot) (mm float64, ok bool)) (out []measured) {
	reach := int(math.Ceil(linkMM / ink.MM / 2))
	seen := make([]bool, len(on))
	for start, is := range on {
		if !is || seen[start] {
			continue
		}
		s := spot{x0: ink.W, y0: ink.H}
		var points []int
		stack := []int{start}
		seen[start] = true
		for len(stack) > 0 {
			i := stack[len(stack)-1]
			stack = stack[:len(stack)-1]
			x, y := i%ink.W, i/ink.W
			s.x0, s.y0, s.x1, s.y1 = min(s.x0, x), min(s.y0, y), max(s.x1, x), max(s.y1, y)
			points = append(points, i)
			for ny := max(0, y-reach); ny <= min(ink.H-1, y+reach); ny++ {
				for nx := max(0, x-reach); nx <= min(ink.W-1, x+reach); nx++ {
					if j := ny*ink.W + nx; on[j] && !seen[j] {
						seen[j] = true
						stack = append(stack, j)
					}
				}
			}
		}
		s.pixels = float64(len(points))
		s.long = math.Hypot(float64(s.x1-s.x0+1), float64(s.y1-s.y0+1))
		if mm, ok := keep(s); ok {
			out = append(out, measured{Fault{
				At:     Point{X: float64(s.x0+s.x1+1) / 2 * ink.MM, Y: float64(s.y0+s.y1+1) / 2 * ink.MM},
				Radius: s.long*ink.MM/2 + 1, Length: mm,
			}, s.pixels * ink.MM * ink.MM})
		}
	}
	slices.SortStableFunc(out, func(a, b measured) int { return cmp.Compare(b.Length, a.Length) })
	return out
}

// judge says what to do.
func (p *Impression) judge() {
	if len(p.Doubles) > 0 {
		p.Advice = append(p.Advice, "There is a second line beside the first: the stamp or the paper moved. Lay the paper into the corner of the positioner and hold it with magnets before stamping again.")
	}
	if len(p.Smudges) > 0 {
		p.Advice = append(p.Advice, "Ink is smudged: let it dry longer before anything touches it, and wipe the rim of the stamp.")
	}
	p.Again = p.Present < enough
	if !p.Again {
		if len(p.Missing) > 0 {
			p.Advice = append(p.Advice, "The few breaks can be drawn in with a waterproof pen.")
		}
		return
	}
	p.Where = p.region()
	press := "Stamp again in the positioner, without moving the paper, and press evenly."
	if p.Where != "" {
		press = fmt.Sprintf("Stamp again in the positioner, without moving the paper, and press on the %s of the image.", p.Where)
	}
	p.Advice = append(p.Advice, press)
	if p.Present < 0.75 {
		p.Advice = append(p.Advice, "So much is missing that the stamp wants more ink too.")
	}
}

// region names the part of the image where most is missing; "" when it is missing
// all over.
func (p *Impression) region() string {
	var count [3][3]float64
	total := 0.0
	third := func(v, of float64) int { return min(2, max(0, int(3*v/of))) }
	for _, f := range p.Missing {
		count[third(f.At.Y, p.HeightMM)][third(f.At.X, p.WidthMM)] += f.Length
		total += f.Length
	}
	const most = 0.6
	rows, columns := []string{"top", "", "bottom"}, []string{"left", "", "right"}
	for y := range 3 {
		for x := range 3 {
			if count[y][x] >= most*total {
				if words := strings.TrimSpace(rows[y] + " " + columns[x]); words != "" {
					return words
				}
				return "middle"
			}
		}
	}
	for k := range 3 {
		row, column := 0.0, 0.0
		for i := range 3 {
			row, column = row+count[k][i], column+count[i][k]
		}
		if row >= most*total {
			return map[int]string{0: "top", 1: "middle", 2: "bottom"}[k]
		}
		if column >= most*total {
			return map[int]string{0: "left", 1: "middle", 2: "right"}[k]
		}
	}
	return ""
}

// CheckScan is [Check] for pictures with their resolutions, pixels per inch.
func CheckScan(ctx context.Context, ref *image.Gray, refDPI float64, scan *image.Gray, scanDPI float64) (*Impression, error) {
	a, err := lineart.FindInk(ctx, ref, refDPI)
	if err != nil {
		return nil, fmt.Errorf("the image of the card: %w", err)
	}
	b, err := lineart.FindInk(ctx, scan, scanDPI)
	if err != nil {
		return nil, fmt.Errorf("the scan: %w", err)
	}
	return Check(a, b)
}
