package card

import (
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"
)

// MaxOver is how many departures from the usual order of layers a piece keeps.
const MaxOver = 200

// A Ref names what is done to a piece: an image "i3", an area with all its washes "a2",
// one of them "a2/1", an act "x4".
type Ref string

// WashRef names the nth wash of an area, from 0.
func WashRef(area string, n int) Ref { return Ref(fmt.Sprintf("%s/%d", area, n+1)) }

// split is the id a reference begins with, and the wash it names from 0; all when it
// names none.
func (r Ref) split() (id string, wash int, all bool) {
	id, n, one := strings.Cut(string(r), "/")
	if !one {
		return id, 0, true
	}
	wash, err := strconv.Atoi(n)
	if err != nil || wash < 1 || strconv.Itoa(wash) != n {
		return id, -1, false
	}
	return id, wash - 1, false
}

// Over says that one thing lies over another, where that is not as usual.
type Over struct {
	Above Ref `json:"above"`
	Below Ref `json:"below"`
}

// Handling is one thing done to a piece that neither images nor washes imply.
type Handling struct {
	ID   string       `json:"id"`
	Kind HandlingKind `json:"kind"`
}

// HandlingKind is what an act does.
type HandlingKind string

// The acts.
const (
	Flatten HandlingKind = "flatten" // under weight, dry
	Press   HandlingKind = "press"   // in an embossing folder
	Trim    HandlingKind = "trim"    // to its size
)

// HandlingKinds lists them.
func HandlingKinds() []HandlingKind { return []HandlingKind{Flatten, Press, Trim} }

var handlingWords = map[HandlingKind]string{Flatten: "flatten it under weight", Press: "press it in its folder", Trim: "trim it to its size"}

// Words says what it does.
func (k HandlingKind) Words() string { return handlingWords[k] }

// MaxActs is how many acts of its own a piece has.
const MaxActs = 20

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
// said: images, the one in front first, areas in their order, acts.
func (w *Work) usual() (out []Deed) {
	for i := range w.Images {
		out = append(out, Deed{Ref: Ref(w.Images[i].ID), Kind: ImageDeed, Image: i})
	}
	for i := range w.Areas {
		for k := range w.Areas[i].Washes {
			out = append(out, Deed{Ref: WashRef(w.Areas[i].ID, k), Kind: WashDeed, Area: i, Wash: k})
		}
	}
	for i := range w.Acts {
		out = append(out, Deed{Ref: Ref(w.Acts[i].ID), Kind: HandlingDeed, Act: i})
	}
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
	for _, x := range w.Acts {
		if x.ID == id {
			return "to " + x.Kind.Words()
		}
	}
	return string(r)
}

// checkRef reports a reference to what is not on the piece.
func (w *Work) checkRef(r Ref) error {
	id, wash, all := r.split()
	if k, ok := w.areaIndex(id); ok {
		if !all && (wash < 0 || wash >= len(w.Areas[k].Washes)) {
			return fmt.Errorf("%q has no wash %q", w.Areas[k].Name, string(r))
		}
		return nil
	}
	_, err := w.imageByID(id)
	isAct := slices.ContainsFunc(w.Acts, func(x Handling) bool { return x.ID == id })
	if !all || err != nil && !isAct {
		return fmt.Errorf("%.20q is neither image, area nor act of its piece", string(r))
	}
	return nil
}

func (w *Work) checkOver() error {
	if len(w.Acts) > MaxActs {
		return fmt.Errorf("%d acts are more than %d", len(w.Acts), MaxActs)
	}
	for _, x := range w.Acts {
		if !slices.Contains(HandlingKinds(), x.Kind) {
			return fmt.Errorf("%q is no act; use flatten, press or trim", string(x.Kind))
		}
	}
	if len(w.Over) > MaxOver {
		return fmt.Errorf("%d layers out of their usual order are more than %d", len(w.Over), MaxOver)
	}
	for i, o := range w.Over {
		if err := firstOf(func() error { return w.checkRef(o.Above) }, func() error { return w.checkRef(o.Below) }); err != nil {
			return err
		}
		a, _, _ := o.Above.split()
		b, _, _ := o.Below.split()
		if a == b {
			return fmt.Errorf("%s cannot lie over itself; washes of one area lie as they are listed", w.DeedName(o.Above))
		}
		if slices.Contains(w.Over[:i], o) {
			return fmt.Errorf("that %s lies over %s is said twice", w.DeedName(o.Above), w.DeedName(o.Below))
		}
	}
	_, err := w.Deeds()
	return err
}

// Put lets one thing lie over another; as it usually does when it is not put over. What
// contradicts it directly gives way.
func (w *Work) Put(above, below Ref, over bool) error {
	w.Over = slices.DeleteFunc(w.Over, func(o Over) bool {
		return o == Over{above, below} || over && o == Over{below, above}
	})
	if over {
		w.Over = append(w.Over, Over{above, below})
	}
	return w.checkOver()
}

// Raise moves a deed one place up the stack, over what lies on it next, or down. What has
// no need to be said is not kept.
func (w *Work) Raise(r Ref, higher bool) error {
	deeds, err := w.Deeds()
	if err != nil {
		return err
	}
	at := slices.IndexFunc(deeds, func(d Deed) bool { return d.Ref == r })
	if at < 0 {
		return errors.New("that is not on the piece any more; nothing was changed")
	}
	id, _, _ := r.split()
	to := Beside(at, higher)
	for to >= 0 && to < len(deeds) {
		if other, _, _ := deeds[to].Ref.split(); other != id {
			break
		}
		to = Beside(to, higher)
	}
	if to < 0 || to >= len(deeds) {
		return errors.New("it is the first or the last already; nothing was changed")
	}
	above, below := r, deeds[to].Ref
	if !higher {
		above, below = below, above
	}
	w.Over = slices.DeleteFunc(w.Over, func(o Over) bool { return o == Over{below, above} })
	if w.lies(above, below) {
		return w.checkOver()
	}
	return w.Put(above, below, true)
}

// lies reports whether one deed lies over another as it is said now.
func (w *Work) lies(above, below Ref) bool {
	deeds, err := w.Deeds()
	place := func(r Ref) int { return slices.IndexFunc(deeds, func(d Deed) bool { return d.Ref == r }) }
	return err == nil && place(above) > place(below)
}

// AddAct puts an act over all that is done so far, under the first free id "x<n>".
func (c *Card) AddAct(k HandlingKind) string {
	id := c.freeID("x", len(c.Acts))
	c.Acts = append(c.Acts, Handling{ID: id, Kind: k})
	return id
}

// RemoveAct takes an act away.
func (w *Work) RemoveAct(id string) {
	w.Acts = slices.DeleteFunc(w.Acts, func(x Handling) bool { return x.ID == id })
	w.forget(id)
}

// forget drops what is said of something that is gone.
func (w *Work) forget(id string) {
	speaks := func(r Ref) bool {
		of, _, _ := r.split()
		return of == id
	}
	w.Over = slices.DeleteFunc(w.Over, func(o Over) bool { return speaks(o.Above) || speaks(o.Below) })
	w.Hold = slices.DeleteFunc(w.Hold, func(h Hold) bool { return h.From != "" && speaks(h.From) })
}

// Tidy drops what is said of washes that are gone.
func (w *Work) Tidy() {
	gone := func(r Ref) bool { return r != "" && w.checkRef(r) != nil }
	w.Over = slices.DeleteFunc(w.Over, func(o Over) bool { return gone(o.Above) || gone(o.Below) })
	w.Hold = slices.DeleteFunc(w.Hold, func(h Hold) bool { return gone(h.From) })
}

// Renumber tells that wash n of an area is now wash to(n), from 0; gone when that is
// negative. What is said of one that is gone is dropped.
func (w *Work) Renumber(area string, to func(n int) int) {
	moved := func(r *Ref) (there bool) {
		id, n, all := r.split()
		if id != area || all {
			return true
		}
		if n = to(n); n < 0 {
			return false
		}
		*r = WashRef(area, n)
		return true
	}
	kept := w.Over[:0]
	for _, o := range w.Over {
		if a, b := moved(&o.Above), moved(&o.Below); a && b {
			kept = append(kept, o)
		}
	}
	w.Over = kept
	holds := w.Hold[:0]
	for _, h := range w.Hold {
		if moved(&h.From) {
			holds = append(holds, h)
		}
	}
	w.Hold = holds
}
