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

// Of is the id of what a reference names, or of the area whose wash it names.
func (r Ref) Of() string {
	id, _, _ := r.split()
	return id
}

// Over says that one thing lies over another, where that is not as usual.
type Over struct {
	Above Ref `json:"above"`
	Below Ref `json:"below"`
}

// Handling is one thing done to a piece that neither images nor washes imply.
type Handling struct {
	ID   string         `json:"id"`
	Kind HandlingKind   `json:"kind"`
	Text *Text          `json:"text,omitempty"` // of words, and of nothing else
	Item *Embellishment `json:"item,omitempty"` // of what embellishes, and of nothing else
}

// HandlingKind is what an act does.
type HandlingKind string

// The acts.
const (
	Flatten HandlingKind = "flatten" // under weight, dry
	Press   HandlingKind = "press"   // in an embossing folder
	Trim    HandlingKind = "trim"    // to its size
	Tear    HandlingKind = "tear"    // its edges, for a rough one
	Stitch  HandlingKind = "stitch"  // a line round it, with thread or drawn

	PutWords  HandlingKind = "words"
	Embellish HandlingKind = "embellish" // once the card is put together
)

// HandlingKinds lists those that say all there is to say.
func HandlingKinds() []HandlingKind { return []HandlingKind{Flatten, Press, Trim, Tear, Stitch} }

var handlingWords = map[HandlingKind]string{
	Flatten: "flatten it under weight", Press: "press it in its folder", Trim: "trim it to its size", Tear: "tear its edges", Stitch: "stitch round it",
}

var handlingDone = map[HandlingKind]string{
	Flatten: "flattened", Press: "pressed", Trim: "trimmed", Tear: "torn", Stitch: "stitched", PutWords: "there", Embellish: "set",
}

// First reports whether an act comes before all else: words that are printed.
func (x *Handling) First() bool { return x.Text != nil && x.Text.By == TextPrinted }

// Words says what an act does.
func (x *Handling) Words() string {
	switch {
	case x.Text != nil:
		return fmt.Sprintf("put %s on, %s", x.Text.Words(), x.Text.By)
	case x.Item != nil:
		return "set " + x.Item.Words()
	}
	return x.Kind.Words()
}

func (x *Handling) check() error {
	switch {
	case (x.Kind == PutWords) != (x.Text != nil) || (x.Kind == Embellish) != (x.Item != nil):
		return fmt.Errorf("act %s says too little, or too much, of what it does", x.ID)
	case x.Text != nil:
		return x.Text.check()
	case x.Item != nil:
		return x.Item.check()
	case !slices.Contains(HandlingKinds(), x.Kind):
		return fmt.Errorf("%q is no act; use flatten, press, trim, tear, stitch, words or embellish", string(x.Kind))
	}
	return nil
}

// HandlingDone says what has been done to the piece once an act is done, "" for what is no
// act.
func (w *Work) HandlingDone(r Ref) string {
	for _, x := range w.Acts {
		if x.ID == string(r) {
			return handlingDone[x.Kind]
		}
	}
	return ""
}

// Words says what it does.
func (k HandlingKind) Words() string { return handlingWords[k] }

// MaxActs is how many acts of its own a piece has.
const MaxActs = 40

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
	for i := range w.Acts {
		if err := w.Acts[i].check(); err != nil {
			return err
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
func (c *Card) AddAct(x Handling) string {
	x.ID = c.freeID("x", len(c.Acts))
	c.Acts = append(c.Acts, x)
	return x.ID
}

// ActByID returns an act of the piece.
func (w *Work) ActByID(id string) (*Handling, error) {
	if i := slices.IndexFunc(w.Acts, func(x Handling) bool { return x.ID == id }); i >= 0 {
		return &w.Acts[i], nil
	}
	return nil, errors.New("that is gone: it was taken away or undone meanwhile; nothing was changed")
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
	w.tidyReserves(gone)
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
	for i := range w.Reserves {
		for _, at := range []*Ref{&w.Reserves[i].Under, &w.Reserves[i].Off} {
			if !moved(at) {
				*at = ""
			}
		}
	}
}
