package card

import (
	"errors"
	"fmt"
	"slices"
)

// A Deed is one thing in the stack of a piece: an image that is put on, one wash of an
// area, or an act. Indices of what it is not are 0.
type Deed struct {
	Ref               Ref
	Kind              DeedKind
	Image, Area, Wash int
	Act               int
}

// DeedKind is what a deed is.
type DeedKind uint8

// The kinds, in the order they usually lie.
const (
	ImageDeed DeedKind = iota
	WashDeed
	HandlingDeed
)

// usual lists all that is done to the piece, bottom first, as it lies when nothing is
// said: what is printed, images, the one in front first, areas in their order, acts.
func (w *Work) usual() (out []Deed) {
	acts := func(first bool) {
		for i := range w.Acts {
			if w.Acts[i].First() == first {
				out = append(out, Deed{Ref: Ref(w.Acts[i].ID), Kind: HandlingDeed, Act: i})
			}
		}
	}
	acts(true)
	for i := range w.Images {
		out = append(out, Deed{Ref: Ref(w.Images[i].ID), Kind: ImageDeed, Image: i})
	}
	for i := range w.Areas {
		for k := range w.Areas[i].Washes {
			out = append(out, Deed{Ref: WashRef(w.Areas[i].ID, k), Kind: WashDeed, Area: i, Wash: k})
		}
	}
	acts(false)
	return out
}

// Deeds lists all that is done to the piece, bottom first: as usual but for what the
// maker put over something else. A circle is refused with two of its members.
func (w *Work) Deeds() ([]Deed, error) {
	all := w.usual()
	if len(w.Over) == 0 {
		return all, nil
	}
	s := newStacking(w, all)
	for _, o := range w.Over {
		s.put(o)
	}
	for _, o := range w.impliedOver() {
		if !s.reaches(o.Above, o.Below) { // what the maker says comes first
			s.put(o)
		}
	}
	return s.sorted()
}

// impliedOver lets paint on the cells of an image that lies over something come after
// that image.
func (w *Work) impliedOver() (out []Over) {
	for i := range w.Images {
		id := w.Images[i].ID
		if !w.Late(id) {
			continue
		}
		for k := range w.Areas {
			on, all := 0.0, 0.0
			for _, s := range w.Areas[k].Cells {
				if all += s.MM2; s.On == id {
					on += s.MM2
				}
			}
			if on > all/2 && len(w.Areas[k].Washes) > 0 {
				out = append(out, Over{Above: Ref(w.Areas[k].ID), Below: Ref(id)})
			}
		}
	}
	return out
}

// Late reports whether an image is said to lie over paint or an act, so that it is put
// on later than others.
func (w *Work) Late(image string) bool {
	return slices.ContainsFunc(w.Over, func(o Over) bool {
		if string(o.Above) != image {
			return false
		}
		_, err := w.imageByID(string(o.Below))
		return err != nil
	})
}

// LiesOver reports whether it is said that one thing lies over another, as a whole.
func (w *Work) LiesOver(above, below Ref) bool {
	return slices.Contains(w.Over, Over{above, below})
}

// stacking is the graph of what lies on what.
type stacking struct {
	work  *Work
	deeds []Deed
	at    map[Ref]int
	below [][]int // by deed
}

func newStacking(w *Work, deeds []Deed) *stacking {
	s := &stacking{work: w, deeds: deeds, at: map[Ref]int{}, below: make([][]int, len(deeds))}
	for i, d := range deeds {
		s.at[d.Ref] = i
		if d.Kind == WashDeed && d.Wash > 0 {
			s.below[i] = append(s.below[i], i-1)
		}
	}
	return s
}

// lowest and highest are the deeds of a reference that lie so; ok is false where it
// names none: an area without washes.
func (s *stacking) lowest(r Ref) (i int, ok bool) {
	id, _, all := r.split()
	if _, isArea := s.work.areaIndex(id); all && isArea {
		r = WashRef(id, 0)
	}
	i, ok = s.at[r]
	return i, ok
}

func (s *stacking) highest(r Ref) (i int, ok bool) {
	id, _, all := r.split()
	if k, isArea := s.work.areaIndex(id); all && isArea {
		r = WashRef(id, len(s.work.Areas[k].Washes)-1)
	}
	i, ok = s.at[r]
	return i, ok
}

func (s *stacking) put(o Over) {
	above, okA := s.lowest(o.Above)
	below, okB := s.highest(o.Below)
	if okA && okB {
		s.below[above] = append(s.below[above], below)
	}
}

// reaches reports whether below lies over above, so that the other way round would be a
// circle.
func (s *stacking) reaches(above, below Ref) bool {
	from, okF := s.highest(below)
	to, okT := s.lowest(above)
	if !okF || !okT {
		return false
	}
	seen := make([]bool, len(s.deeds))
	for todo := []int{from}; len(todo) > 0; {
		i := todo[len(todo)-1]
		todo = todo[:len(todo)-1]
		if i == to {
			return true
		}
		if !seen[i] {
			seen[i] = true
			todo = append(todo, s.below[i]...)
		}
	}
	return false
}

// sorted lists the deeds, each after all below it, and else as usual.
func (s *stacking) sorted() ([]Deed, error) {
	left := make([]int, len(s.deeds)) // how many below it are not listed yet
	over := make([][]int, len(s.deeds))
	for i, below := range s.below {
		left[i] = len(below)
		for _, k := range below {
			over[k] = append(over[k], i)
		}
	}
	out := make([]Deed, 0, len(s.deeds))
	listed := make([]bool, len(s.deeds))
	for range s.deeds {
		next := slices.Index(left, 0)
		if next < 0 {
			return nil, s.circle(listed)
		}
		left[next], listed[next] = -1, true
		out = append(out, s.deeds[next])
		for _, k := range over[next] {
			left[k]--
		}
	}
	return out, nil
}

// circle names two deeds of those that wait for each other.
func (s *stacking) circle(listed []bool) error {
	for i := range s.deeds {
		for _, k := range s.below[i] {
			a, b := s.deeds[i].Ref, s.deeds[k].Ref
			if !listed[i] && !listed[k] && s.reaches(a, b) {
				return fmt.Errorf("%s lies over %s, and that over it again; let one of the two lie as usual", s.work.DeedName(a), s.work.DeedName(b))
			}
		}
	}
	return errors.New("what lies over what goes round in a circle; let one lie as usual")
}

// DeedName names what a reference speaks of.
func (w *Work) DeedName(r Ref) string {
	id, wash, all := r.split()
	if m, err := w.imageByID(id); err == nil {
		return m.Title
	}
	if k, ok := w.areaIndex(id); ok {
		a := &w.Areas[k]
		if all || len(a.Washes) < 2 {
			return a.Name
		}
		return fmt.Sprintf("wash %d of %s", wash+1, a.Name)
	}
	if x, err := w.ActByID(id); err == nil {
		return "to " + x.Words()
	}
	if k, err := w.ReserveByID(id); err == nil {
		return k.Way.Or().Facts().Name + " on " + k.Name
	}
	return string(r)
}

// Painted reports whether any area has a wash.
func (w *Work) Painted() bool {
	return slices.ContainsFunc(w.Areas, func(a Area) bool { return len(a.Washes) > 0 })
}
