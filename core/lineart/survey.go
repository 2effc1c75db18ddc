package lineart

import (
	"context"
	"fmt"
	"image"
)

// A Survey is a line image as it is before any passage is judged: what the judge of
// gaps is taught with (scripts/gaps). It is as large as the picture divided by
// Reduced.
type Survey struct {
	W, H    int // pixels
	Reduced int // how many pixels of the picture go into one, either way
	f       *flooding
}

// NewSurvey looks at a scan like [Find], up to where passages would be judged. It
// refuses what [Find] does, and scans that would be enlarged.
func NewSurvey(ctx context.Context, img *image.Gray, dpi float64) (*Survey, error) {
	if err := checkInput(img.Bounds().Dx(), img.Bounds().Dy(), dpi); err != nil {
		return nil, err
	}
	if dpi < workDPI/1.5 {
		return nil, fmt.Errorf("%g dpi are too few to learn from; scan at %d", dpi, workDPI)
	}
	w := &working{progress: func(string, float64) {}, ctx: ctx}
	w.load(img, dpi)
	for _, step := range []func() error{w.flatten, w.findInk} {
		if err := step(); err != nil {
			return nil, err
		}
	}
	f, err := w.flood()
	if err != nil {
		return nil, err
	}
	return &Survey{W: w.w, H: w.h, Reduced: max(1, w.reduced), f: f}, nil
}

// Basin is the basin that a pixel lies in, 0 for none.
func (s *Survey) Basin(x, y int) int { return int(find(s.f.parent, s.f.basin[s.f.pixel(x, y)])) }

// Join makes two basins one.
func (s *Survey) Join(a, b int) {
	if a, b := find(s.f.parent, int32(a)), find(s.f.parent, int32(b)); a != b {
		s.f.join(a, b, 0)
	}
}

// A Passage is what lies between two basins that are apart, and what is seen there.
type Passage struct {
	A, B     int
	Evidence []float64 // in the order of [EvidenceNames]
}

// EvidenceNames names what [Passage] has of evidence.
func EvidenceNames() []string { return evidenceNames[:] }

// Passages lists the passages between basins that are apart by now.
func (s *Survey) Passages() (all []Passage) {
	for _, p := range s.f.closed {
		a, b := find(s.f.parent, p.a), find(s.f.parent, p.b)
		if a == b {
			continue
		}
		s.f.addBasins(&p.seen, a, b)
		all = append(all, Passage{int(a), int(b), p.seen[:]})
	}
	return all
}
