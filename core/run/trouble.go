package run

import (
	"fmt"
	"slices"
	"strings"

	"chromaqua/core/drying"
	"chromaqua/core/order"
	"chromaqua/core/steps"
)

// Trouble is something that went wrong on a coat.
type Trouble string

// A Phase is how wet a coat is, as far as what can still be done about it goes.
type Phase uint8

// The phases.
const (
	Swims Phase = iota // puddle and gloss
	Dulls              // sheen and damp
	Dried              // touch-dry and later
	phases
)

// phaseOf is the phase of a stage.
func phaseOf(s drying.Stage) Phase {
	switch {
	case s < drying.Sheen:
		return Swims
	case s < drying.TouchDry:
		return Dulls
	}
	return Dried
}

// An Effect is what a remedy changes in the plan.
type Effect uint8

// The effects.
const (
	NoEffect  Effect = iota
	WetAgain         // the coat is wet from now on
	HandsOff         // nothing touches its places until it is bone dry
	AnotherGo        // a second coat over the whole go, once it is dry
	Cover            // opaque paint or the darker neighbour over the place
	Weight           // under weight, once it is bone dry
	RedoIt           // the step is to be done once more
)

// A Remedy is what can be done about a trouble in a phase.
type Remedy struct {
	ID     string
	Label  string
	Do     string
	With   string
	Colour string // what it costs the colour
	Effect Effect
	Lifts  bool   // it takes colour out, of which a stain gives little
	NoPulp bool   // it would hurt wood pulp
	Pulp   string // what is done on wood pulp instead
}

// A Row is a trouble and what can be done about it, by phase; none where nothing can.
type Row struct {
	ID    Trouble
	Name  string
	Looks string // what one sees
	By    [phases][]Remedy
}

var (
	wait     = Remedy{ID: "hands-off", Label: "Hands off until it is bone dry", Do: "Do not touch it, not even to look at it closely: each touch in a damp wash moves colour.", Effect: HandsOff, Colour: "Nothing is lost by waiting."}
	evenCoat = Remedy{ID: "another-coat", Label: "Another even coat", Do: "The same mix over the whole of it, edge to edge, in one go.", With: "the same brush", Colour: "A step darker.", Effect: AnotherGo}
	cover    = Remedy{ID: "cover", Label: "Cover it", Do: "Opaque white, or the darker neighbour led over it, as thinly as it covers.", With: "the smallest round", Colour: "The place is opaque there.", Effect: Cover}
	thirsty  = Remedy{ID: "thirsty", Label: "Lift with a thirsty brush", Do: "Rinse it, squeeze it out, touch, wipe, touch again.", With: "a clean damp brush", Colour: "A step paler where you lift.", Lifts: true}
	scrub    = Remedy{ID: "scrub", Label: "Scrub the edge once, lightly", Do: "A clean damp brush along it, blot at once, then leave it.", With: "a stiff damp brush, cloth", Colour: "Paler along the edge.", Effect: WetAgain, NoPulp: true, Pulp: "Wood pulp pills: leave the edge, or lay a coat over all of it."}
	reWet    = Remedy{ID: "re-wet", Label: "Wet it again and blot", Do: "Clean water on it, count to ten, press a cloth on it, do not rub.", With: "a clean brush, cloth", Colour: "Paler by what does not stain.", Effect: WetAgain, Lifts: true, NoPulp: true, Pulp: "Wood pulp pills when it is wetted twice: darken what lies beside it."}
	useIt    = Remedy{ID: "leave", Label: "Leave it and use it", Do: "Once all is dry it is seen less than now; let it be an edge of shade.", Colour: "As it is."}
	splatter = Remedy{ID: "splatter", Label: "Splatter, so that it looks meant", Do: "Cover what is to stay clean, tap drops of the same mix over it.", With: "a loaded brush", Colour: "Speckled.", Effect: AnotherGo}
	pressIt  = Remedy{ID: "press", Label: "Under weight", Do: "Bone dry and cool, between clean boards, overnight; damp its back if that is not enough.", With: "boards, weight", Colour: "None.", Effect: Weight}
	dab      = Remedy{ID: "dab", Label: "Dab it off", Do: "A corner of cloth straight down on the drop, lift, turn the cloth.", With: "a cloth", Colour: "A pale spot at most."}
	mop      = Remedy{ID: "mop", Label: "Take the bead up", Do: "A thirsty brush to the bead, or tilt the sheet so that it runs on.", With: "a thirsty brush", Colour: "None."}
	level    = Remedy{ID: "level", Label: "Let it level", Do: "Add nothing: while it swims it evens out by itself.", Colour: "None."}
	redo     = Remedy{ID: "again", Label: "Do it once more", Do: "In the positioner, exactly where it lay.", With: "the same stamp", Colour: "None.", Effect: RedoIt}
	darken   = Remedy{ID: "darken", Label: "Darken what lies beside it", Do: "Beside something darker it looks paler.", With: "the neighbour's mix", Colour: "Its neighbour a step darker.", Effect: Cover}
)

// troubles is the one table of what goes wrong.
var troubles = []Row{
	{"too-dark", "Too dark, too much", "deeper than it should be, or a puddle", [phases][]Remedy{
		{{ID: "towel", Label: "Corner of a towel", Do: "Touch the edge of the puddle with it and let it drink; then a thirsty brush.", With: "paper towel", Colour: "Paler, still even.", Lifts: true}, thirsty}, {thirsty, useIt}, {reWet, darken}}},
	{"too-pale", "Too pale", "weaker than it should be", [phases][]Remedy{
		{{ID: "add", Label: "Add colour now", Do: "Richer mix, not wetter, touched in and left.", With: "the same brush, less water", Colour: "As dark as you make it."}}, {wait}, {evenCoat}}},
	{"hard-edge", "A hard edge", "a line where it should be soft", [phases][]Remedy{
		{{ID: "soften", Label: "Soften it now", Do: "A clean damp brush along the edge, half on it, half on dry paper.", With: "a clean damp brush", Colour: "None."}}, {wait}, {scrub, useIt}}},
	{"over-line", "It runs over the line", "colour where it does not belong", [phases][]Remedy{
		{{ID: "push", Label: "Push it back", Do: "A thirsty brush from outside towards the line.", With: "a thirsty brush", Colour: "A breath of it stays."}}, {thirsty}, {cover}}},
	{"bead", "A bead at the edge", "a dark rim gathers", [phases][]Remedy{{mop}, {mop}, {scrub, useIt}}},
	{"bloom", "A bloom", "a pale cauliflower with a crinkled rim", [phases][]Remedy{{level}, {wait}, {evenCoat, splatter}}},
	{"blotchy", "Blotchy", "uneven, in patches", [phases][]Remedy{{level}, {wait}, {evenCoat, splatter}}},
	{"white-lost", "A white is lost", "paint where it should stay white", [phases][]Remedy{{thirsty}, {thirsty}, {cover}}},
	{"missed", "A cell was missed", "bare paper inside an area", [phases][]Remedy{
		{{ID: "fill", Label: "Fill it now", Do: "While the wash beside it still shines, with the same mix.", With: "the same brush", Colour: "None."}}, {wait}, {{ID: "fill-dry", Label: "Fill it now", Do: "Its neighbours are dry: the same mix, edge to edge.", With: "the same brush", Colour: "None.", Effect: WetAgain}}}},
	{"wrong-colour", "The wrong colour", "another than was planned", [phases][]Remedy{
		{thirsty, {ID: "drop", Label: "Drop the right one in", Do: "While it swims, and only if the two make no mud.", With: "the right mix", Colour: "Between the two."}}, {wait}, {{ID: "glaze", Label: "Glaze it towards the right one", Do: "A thin coat of what it lacks, over the whole of it.", With: "a thin mix", Colour: "Between the two, a step darker.", Effect: AnotherGo}}}},
	{"stray", "A stray drop", "splatter where it should not be", [phases][]Remedy{{dab}, {dab}, {thirsty, cover}}},
	{"weak-line", "The impression is weak", "gaps in the line", [phases][]Remedy{{wait}, {wait}, {redo, {ID: "draw", Label: "Draw it in", Do: "With a waterproof pen, once the paper is bone dry.", With: "a fine pen", Colour: "None.", Effect: HandsOff}}}},
	{"strong-line", "The line is too strong", "it should have gone into the paint", [phases][]Remedy{{level}, {wait}, {{ID: "mist", Label: "Mist and cloth", Do: "Only where its ink gives to water: one breath of mist, count to ten, press a cloth on it.", With: "a mister, cloth", Colour: "Paler line.", Effect: WetAgain, NoPulp: true, Pulp: "Not on wood pulp: a darker paint along the line."}, darken}}},
	{"relief", "The relief is lost", "the pressing has sunk in", [phases][]Remedy{{wait}, {wait}, {{ID: "press-again", Label: "Press it again", Do: "Clicked into its folder, with a shim, once it is bone dry.", With: "the folder", Colour: "None.", Effect: HandsOff}}}},
	{"seeped", "The stencil seeped", "paint under its edge", [phases][]Remedy{{thirsty}, {wait}, {{ID: "stencil-again", Label: "Dry the stencil and lay it again", Do: "Stronger, nearly dry, straight down.", With: "a stencil brush", Colour: "Stronger.", Effect: AnotherGo}}}},
	{"warped", "It has warped", "the paper waves", [phases][]Remedy{{wait}, {wait}, {pressIt}}},
	{"palette", "Mixes met on the palette", "the next colour is not clean", [phases][]Remedy{
		{{ID: "mix", Label: "Mix afresh", Do: "Before the next go: clean well, clean water.", With: "a clean well", Colour: "None on the paper."}}, {{ID: "mix", Label: "Mix afresh", Do: "Before the next go: clean well, clean water.", With: "a clean well", Colour: "None on the paper."}}, {{ID: "mix", Label: "Mix afresh", Do: "Before the next go: clean well, clean water.", With: "a clean well", Colour: "None on the paper."}}}},
	{"leaked", "The tape leaked, a grain, a smudge", "a mark on the border", [phases][]Remedy{{dab}, {wait}, {{ID: "scrape", Label: "Scrape or lift it", Do: "The point of a blade held flat, once; or a strip laid over it.", With: "a blade", Colour: "None.", Effect: HandsOff}, cover}}},
}

// fixOf finds a remedy by its name, "trouble/phase/remedy".
func fixOf(name string) (row *Row, r *Remedy, ok bool) {
	parts := strings.Split(name, "/")
	if len(parts) != 3 || len(parts[1]) != 1 || parts[1][0] < '0' || parts[1][0] >= '0'+byte(phases) {
		return nil, nil, false
	}
	for i := range troubles {
		if row := &troubles[i]; string(row.ID) == parts[0] {
			list := row.By[parts[1][0]-'0']
			for k := range list {
				if list[k].ID == parts[2] {
					return row, &list[k], true
				}
			}
		}
	}
	return nil, nil, false
}

// Fix names a remedy of a trouble in a phase.
func Fix(t Trouble, p Phase, r Remedy) string {
	return string(t) + "/" + string(rune('0'+p)) + "/" + r.ID
}

// FixWords says what was done about what.
func FixWords(name string) (trouble, remedy string) {
	if row, r, ok := fixOf(name); ok {
		return row.Name, r.Label
	}
	return name, ""
}

// An Answer is what can be done about a trouble on a coat now.
type Answer struct {
	*Row
	Phase    Phase
	Remedies []Remedy
	Until    order.Seconds // for so long it is possible; 0 for as long as one likes
}

// Answers are the troubles with what can be done about each on a coat now; not ok where
// nothing was laid.
func (s *State) Answers(op int) (out []Answer, ok bool) {
	c := s.coats[op]
	if c == nil || c.skipped || s.need(op, touch) == 0 {
		return nil, false
	}
	phase := phaseOf(s.stage(c))
	until := order.Seconds(0)
	switch phase {
	case Swims:
		until = s.shines(c)
	case Dulls:
		until = s.leftTo(c, touch)
	}
	pulp := s.Ops[op].pulp
	for i := range troubles {
		row := &troubles[i]
		a := Answer{Row: row, Phase: phase, Until: until}
		for _, r := range row.By[phase] {
			if pulp && r.NoPulp {
				r = Remedy{ID: r.ID, Label: "Leave it", Do: r.Pulp, Colour: "As it is."}
			}
			if r.Lifts && s.Plan(op).Stains(s.Ops[op].Step) {
				r.Do += " Its paints stain: do it at once, and expect little."
			}
			a.Remedies = append(a.Remedies, r)
		}
		out = append(out, a)
	}
	return out, true
}

// An Addition is what a repair adds to the plan.
type Addition struct {
	Title  string
	Detail string
	Effect Effect
}

// with is the work with what repairs have added.
func (w *Work) with(events []Event) *Work {
	out, own := w, false
	done := map[int]bool{}
	for _, e := range events {
		op, ok := out.Find(e.Card, e.Step)
		if !ok {
			continue
		}
		switch e.Kind {
		case Done:
			done[op] = true
		case Repaired:
			_, r, known := fixOf(e.Fix)
			if !known || r.NoPulp && out.Ops[op].pulp || !r.adds() || len(out.Ops) >= len(w.Ops)+MaxAdded {
				continue
			}
			if !own {
				out, own = w.clone(), true
			}
			out.extend(op, r, done)
		}
	}
	if own {
		out.index()
	}
	return out
}

// MaxAdded is how many steps repairs add to a run; after so many it had better be begun
// afresh.
const MaxAdded = 200

// adds reports whether a remedy changes the plan.
func (r *Remedy) adds() bool { return r.Effect != NoEffect }

func (w *Work) clone() *Work {
	out, in := *w, *w.In
	in.Ops, in.Arcs = append([]order.Op(nil), in.Ops...), append([]order.Arc(nil), in.Arcs...)
	out.In, out.Ops = &in, append([]Op(nil), w.Ops...)
	out.byKey = map[key]int{}
	for k, v := range w.byKey {
		out.byKey[k] = v
	}
	return &out
}

// extend adds what a remedy asks for after an operation, when others are done: whatever
// has to wait for that one waits for it too.
func (w *Work) extend(op int, r *Remedy, done map[int]bool) {
	switch r.Effect {
	case HandsOff: // all that waits until it is touch-dry waits until it is bone dry
		for i := range w.In.Arcs {
			if a := &w.In.Arcs[i]; a.From == op && a.Type == order.Dry {
				a.Type = order.Bone
			}
		}
		return
	case WetAgain: // it may have been dry enough to be handled before
		w.handled(op, op, done, w.earlier([]int{op}))
		return
	}
	id := w.addition(op, r)
	dry := order.Dry
	if r.Effect == RedoIt || r.Effect == Weight {
		dry = order.Bone
	}
	before := []int{op}
	w.wait(op, id, dry)
	for x := range id {
		kind, share := w.Ops[x].Step.Kind, w.share(x, op)
		switch {
		case x == op || w.Ops[x].Card != w.Ops[op].Card || !w.onPiece(x, op):
		case r.Effect == Weight && (w.Ops[x].washed && !w.afterHandling(x, op) || kind == steps.Untape || kind == steps.Unmask),
			share && (done[x] || w.meets(op, x)):
			w.wait(x, id, dry)
			before = append(before, x)
		}
	}
	earlier := w.earlier(before)
	w.handled(id, op, done, earlier)
	for x := range id {
		if r.Effect != Weight && !done[x] && !earlier[x] && w.Ops[x].Card == w.Ops[op].Card && w.onPiece(x, op) && w.share(x, op) {
			w.wait(id, x, order.Dry)
		}
	}
}

// handled lets all handling of an operation's piece wait until what another has laid there
// is bone dry.
func (w *Work) handled(id, op int, done, earlier map[int]bool) {
	weight := w.In.Ops[id].Kind == order.Kind(steps.Flatten)
	for x := range w.Ops {
		kind := w.Ops[x].Step.Kind
		if x != id && !done[x] && !earlier[x] && w.Ops[x].Card == w.Ops[op].Card && w.onPiece(x, op) && handles[kind] && (!weight || bends[kind]) {
			w.wait(id, x, order.Bone)
		}
	}
}

// wait lets an operation wait for another.
func (w *Work) wait(from, to int, as order.ArcType) {
	w.In.Arcs = append(w.In.Arcs, order.Arc{From: from, To: to, Type: as})
}

// earlier are some operations and all that come before them.
func (w *Work) earlier(of []int) map[int]bool {
	into := map[int][]int{}
	for _, a := range w.In.Arcs {
		into[a.To] = append(into[a.To], a.From)
	}
	out := map[int]bool{}
	for len(of) > 0 {
		x := of[len(of)-1]
		of = of[:len(of)-1]
		if !out[x] {
			out[x] = true
			of = append(of, into[x]...)
		}
	}
	return out
}

// addition adds the operation that a remedy is, and returns its number.
func (w *Work) addition(op int, r *Remedy) int {
	o, in, id := w.Ops[op], w.In.Ops[op], len(w.In.Ops)
	in.ID = id
	o.Again = &Addition{Title: r.Label + ": " + w.Spoken(op), Detail: r.Do, Effect: r.Effect}
	planned, _, _ := strings.Cut(o.Key, "+")
	for n, taken := 1, true; taken; n++ {
		o.Key = fmt.Sprintf("%s+%d", planned, n)
		_, taken = w.byKey[key{o.Card, o.Key}]
	}
	switch r.Effect {
	case Cover:
		in.Color, in.Dur = 0, 90
	case Weight:
		in.Color, in.Dur, in.Dry, in.Bone, in.Attended, in.Regions = 0, 8*3600, 0, 0, false, []int{}
		in.Kind, o.washed, o.open, o.gloss = order.Kind(steps.Flatten), false, 0, 0
	}
	w.In.Ops, w.Ops = append(w.In.Ops, in), append(w.Ops, o)
	w.byKey[key{o.Card, o.Key}] = id
	return id
}

// share reports whether two operations of a card are on one place.
func (w *Work) share(x, y int) bool {
	return slices.ContainsFunc(w.In.Ops[x].Regions, func(r int) bool { return slices.Contains(w.In.Ops[y].Regions, r) })
}

// meets reports whether an operation goes into the wet coat of another.
func (w *Work) meets(op, x int) bool {
	return slices.ContainsFunc(w.In.Arcs, func(a order.Arc) bool { return a.From == op && a.To == x && a.Type == order.Wet }) ||
		slices.ContainsFunc(w.In.Joins, func(j order.Join) bool { return j.A == op && j.B == x || j.A == x && j.B == op })
}

// afterHandling reports whether an operation comes only after its piece was trimmed, cut
// out or mounted.
func (w *Work) afterHandling(x, op int) bool {
	for y := range w.Ops {
		if bends[w.Ops[y].Step.Kind] && w.Ops[y].Card == w.Ops[op].Card && w.onPiece(y, op) && w.Plan(y).Before(w.Ops[y].Step.ID, w.Ops[x].Step.ID) {
			return true
		}
	}
	return false
}

// handles are the kinds of steps that press on a piece, or bend it: it has to be bone dry.
var handles = map[steps.Kind]bool{
	steps.Unmask: true, steps.Mask: true, steps.Untape: true, steps.Press: true, steps.Flatten: true, steps.Trim: true, steps.CutOut: true, steps.Mount: true,
}

// bends are those of them that come after flattening.
var bends = map[steps.Kind]bool{steps.Trim: true, steps.CutOut: true, steps.Mount: true}

// onPiece reports whether an operation is done to the piece that another is on: mounting is
// done to all that it puts together.
func (w *Work) onPiece(x, op int) bool {
	a, b := w.Ops[x].Step, w.Ops[op].Step
	if a.Kind == steps.Mount {
		return slices.Contains(a.Mounts, b.Piece)
	}
	return a.Piece == b.Piece && a.Item == b.Item
}

// repair takes into account what a remedy does at once.
func (s *State) repair(op int, fix string, t order.Seconds) {
	_, r, ok := fixOf(fix)
	c := s.coats[op]
	if !ok || c == nil || r.Effect != WetAgain || r.NoPulp && s.Ops[op].pulp {
		return
	}
	*c = coat{op: op, start: c.start, end: t, from: t}
}
