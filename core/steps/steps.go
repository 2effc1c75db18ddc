// Package steps turns a card into operations: what has to be done, how long
// each takes and dries, and what must wait for what. The result is an instance
// for package order with a readable step beside each operation.
//
// What is painted is done in goes (goes.go): the cells of one area and one wash that
// one brush covers without leaving a wet edge. What waits for what, and why, stands
// in one table (waits.go).
//
// Times are estimates: painting speeds are general ones, drying follows
// package drying.
package steps

import (
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/drying"
	"chromaqua/core/learned"
	"chromaqua/core/mount"
	"chromaqua/core/order"
	"chromaqua/core/order/solver"
	"chromaqua/core/panel"
	"chromaqua/core/pigment"
	"chromaqua/core/school"
	"chromaqua/core/settings"
	"chromaqua/core/shelf"
	"chromaqua/core/wording"
)

// Kind is what a step does.
type Kind string

// The kinds of steps, in the order of the work.
const (
	Hold     Kind = "hold" // cut, and laid where the line is made
	Line     Kind = "line"
	Emboss   Kind = "emboss"
	Press    Kind = "press"
	Tape     Kind = "tape"
	Paint    Kind = "wash"
	Wet      Kind = "wet" // clean water
	Lift     Kind = "lift"
	Blot     Kind = "blot"
	Splatter Kind = "splatter"
	Strew    Kind = "spritz" // water or salt, as a wash dulls
	Detail   Kind = "detail" // the point of a brush, a pen, a pencil
	Untape   Kind = "untape"
	Flatten  Kind = "flatten"
	Trim     Kind = "trim"
	CutOut   Kind = "cut-out"
	Mount    Kind = "mount"
	Mask     Kind = "mask"
	Unmask   Kind = "unmask"
	Set      Kind = "set" // what is no paper, on the card that is put together
)

// Step is one operation in words.
type Step struct {
	ID      int // the operation's id in the instance
	Kind    Kind
	Title   string
	Detail  string
	Caution string   // shown where the step occurs, "" when there is none
	Tools   []string // what it is done with: a brush, one to cut in and one to fill, a pen; none for hands

	Piece int      // index into Plan.Pieces
	Deed  card.Ref // what of the piece's stack it does, "" for what only handles it
	Item  int      // of a piece that a card needs several times, from 0
	On    *On      // the wash it is a go of, nil for what is done to the whole piece
	Go    string   // its letter where the wash is laid in several goes, "" else
	plain string   // the title of a wash without its go
	Cells []int    // of the go, or pieces of zones
	Inks  []int    // the images it puts on, indices into those of its piece
	Mix   int      // its number in Plan.Mixes, from 1; 0 for none

	Dur        time.Duration
	Unattended bool

	// The film it leaves: of itself, or with the one it goes into. Gloss and Open run
	// from its end until the first of its cells has lost its gloss, and its sheen;
	// Dry and Bone until the last is touch-dry, and bone dry, by air.
	Water                  drying.GramsPerSquareMetre
	Gloss, Open, Dry, Bone time.Duration

	IntoWet  []int    // the steps whose wet coat it goes into on purpose
	Together Together // why touching cells of it are wet at once, "" when none are
	Joined   []int    // steps of other areas that may run into it

	Taped *Taping // the tape it takes, nil for none
	Kept  *Kept   // what it keeps white and what that takes, nil for none

	Ahead  bool  // it may have been done long before, as cutting and stamping may
	Lifts  bool  // a mask that comes off at once
	Mounts []int // pieces that are done before it puts them together
}

// On is a wash of an area, by indices; [Wetting] is clean water before the first.
type On struct{ Area, Wash int }

// Wetting is in place of a wash where clean water is drawn to the edge of a zone.
const Wetting = -1

// Together is why touching cells are wet at once.
type Together string

// The reasons.
const (
	OnItsOwn Together = ""
	Loosely  Together = "loose"
	Joined   Together = "joined"
	Spots    Together = "whole" // drops and dabs over all of it, which do not meet
	Zoned    Together = "zone"  // no line parts them: a zone, or cells that are parted later
)

// Name is the area and go of a step as the board shows it: "5b".
func (s *Step) Name() string {
	if s.On == nil {
		return ""
	}
	return fmt.Sprintf("%d%s", s.On.Area+1, s.Go)
}

// Mix is one mixture of the card with everything it is needed for.
type Mix struct {
	Parts    []card.Part
	Strength pigment.Strength
	Areas    []string // names of the areas, in order
	MM2      float64
	ML       float64 // how much to mix, with some to spare
	Hex      string  // one coat on the card's paper, dry
	light    int     // 1 to 100
}

// Bench is what is true whatever the card: how the maker works, and the brushes at
// hand, smallest belly first.
type Bench struct {
	settings.Settings
	Brushes []shelf.Brush
	Masks   []shelf.Own // of the maker's
	Learned learned.Factors
}

// Surface is how a paper holds water, with what was learned of how long it dries.
func (b *Bench) Surface(p shelf.Paper) drying.Surface {
	return p.Surface.Calibrated(b.Learned.Of(learned.Air, p.Name).By)
}

// UsualBench is a bench of the usual settings and brushes.
func UsualBench() Bench { return Bench{Settings: settings.Default(), Brushes: shelf.Brushes()} }

// Plan is a compiled card.
type Plan struct {
	Instance *order.Instance
	Steps    []Step // Steps[i].ID == i
	Mixes    []Mix
	Notes    []Note // what could not be planned as the maker wants it
	Pieces   []panel.Piece
	Bench    Bench // at which it was compiled
	Ways     school.Ways

	reasons map[pair]wait // why an operation waits for another
}

// pair is two operations, by id: one, and one that comes after it.
type pair struct{ first, then int }

// MixOf is the mix of a step, nil when it takes none.
func (p *Plan) MixOf(s *Step) *Mix {
	if s.Mix == 0 {
		return nil
	}
	return &p.Mixes[s.Mix-1]
}

// Of is the plan as far as it concerns one of its pieces, as if that were its only one. It
// is looked at, not put in order.
func (p *Plan) Of(piece int) *Plan {
	if len(p.Pieces) == 1 {
		return p
	}
	out := *p
	out.Pieces, out.Steps, out.Notes = p.Pieces[piece:piece+1], nil, nil
	for _, s := range p.Steps {
		if s.Piece == piece && s.Item == 0 {
			s.Piece = 0
			out.Steps = append(out.Steps, s)
		}
	}
	for _, n := range p.Notes {
		if n.Piece == piece || n.Subject == WholeCard && piece == 0 {
			n.Piece = 0
			out.Notes = append(out.Notes, n)
		}
	}
	return &out
}

// AreaOf is the area a step paints; it must paint one.
func (p *Plan) AreaOf(s *Step) *panel.Area { return &p.Pieces[s.Piece].Board.Areas[s.On.Area] }

// ErrNothingToPaint means that no area has a wash yet.
var ErrNothingToPaint = errors.New("nothing to paint yet: give at least one area a wash at the Colour station")

// Compile turns the card on the board into a plan for one painter: the panel alone, or
// one piece alone.
func Compile(b *panel.Board, with Bench) (*Plan, error) {
	return CompileAll([]panel.Piece{{Board: b, ID: card.ThePanel, Name: card.ThePanel, Many: 1}}, b.Card, with)
}

// CompileAll turns pieces of a card into one plan for one painter, the panel first. It
// always has an order: what the maker wants and cannot have is planned the safe way, and
// told in the plan's notes.
func CompileAll(pieces []panel.Piece, of *card.Card, with Bench) (*Plan, error) {
	if len(with.Brushes) == 0 {
		with.Brushes = shelf.Brushes()
	}
	base := &compiler{doc: of, pieces: pieces, bench: with, ways: of.Schools.Over(with.Schools), tones: map[toneKey]tone{}, settled: newSettled()}
	base.parts()
	for {
		c := base.again()
		if err := c.compile(); err != nil {
			return nil, err
		}
		misfits, err := solver.Misfits(c.in)
		if err != nil {
			return nil, err
		}
		if len(misfits) == 0 {
			return c.plan(), nil
		}
		for _, m := range misfits {
			c.settle(m)
		}
	}
}

// compiler is the state of one compilation. What it knows beforehand is shared by all
// tries, of which each settles what the one before could not tie.
type compiler struct {
	doc    *card.Card
	pieces []panel.Piece
	bench  Bench
	ways   school.Ways // how the card is worked
	tasks  []*task
	tones  map[toneKey]tone
	notes  []Note
	*settled

	in      *order.Instance
	steps   []Step
	mixes   []Mix
	mixOf   map[string]int // mix by its text
	reasons map[pair]wait
	made    *mount.Assembly // the card, put together
	painted bool            // some wash is planned
}

// task is what is to be done on one piece.
type task struct {
	*compiler
	panel.Piece
	index, item int // of the piece in the plan, and of it

	board    *panel.Board // nil where nothing is laid on it
	paper    shelf.Paper
	contacts []panel.Contact
	holds    []card.Hold      // one after the other, never none
	lays     []lay            // by area
	stages   map[card.Ref]int // when each deed is done, see [task.stagesOf]
	betweens []between
	warps    bool // water or heat has warped it

	first int            // its first operation
	lines []int          // operations that make the early line
	inked map[int]int    // by image, the operation from which its ink dries
	cut   int            // the operation that cut it, -1 for none
	taped int            // operation after which painting begins
	done  [][][]int      // operations by area, wash and go
	wets  [][]int        // operations that wet an area first, by go
	late  []int          // operations once the paint is dry
	words []int          // operations from which the ink of words dries
	named map[string]int // places of the instance by their operations
	opsOn map[int][]int  // operations by place, rising
	ready int            // the last operation on it, from which it is mounted

	covered []covered        // masks
	opaques []int            // operations that put white in once all is painted
	whites  []*panel.Reserve // that opaque white is put on after
}

// again begins another try.
func (c *compiler) again() *compiler {
	next := *c
	next.steps, next.mixes, next.mixOf, next.reasons, next.painted = nil, nil, map[string]int{}, map[pair]wait{}, false
	next.notes = append([]Note{}, c.notes...)
	next.tasks = nil
	for _, t := range c.tasks {
		fresh := *t
		fresh.compiler, fresh.lines, fresh.late, fresh.words, fresh.inked, fresh.covered, fresh.whites, fresh.opaques = &next, nil, nil, nil, map[int]int{}, nil, nil, nil
		next.tasks = append(next.tasks, &fresh)
	}
	return &next
}

// parts makes the tasks, and parts what is painted of each into goes.
func (c *compiler) parts() {
	most := order.MaxOps
	for i, p := range c.pieces {
		for item := range max(1, p.Many) {
			t := &task{compiler: c, Piece: p, index: i, item: item, board: p.Board}
			if t.board != nil {
				t.paper, t.contacts, t.holds = t.board.Card.PaperFacts(), t.board.Contacts(), heldAs(t.board, t.Whole)
				t.paper.Surface = c.bench.Surface(t.paper)
				t.stages = t.stagesOf()
				t.part(most)
				for _, l := range t.lays {
					for _, g := range l.groups {
						most -= len(g.goes) * (g.to - g.from)
					}
				}
			}
			c.tasks = append(c.tasks, t)
		}
	}
}

func (c *compiler) compile() (err error) {
	doc := c.doc
	if c.made, err = mount.Of(doc); err != nil {
		return err
	}
	c.in = &order.Instance{
		Name: doc.Name, Copies: max(1, doc.Copies), Rack: c.bench.Rack, Rinse: order.Floor(rinseTime), Swap: order.Floor(swapTime),
		Hand: order.Hand(c.bench.Hand),
		Heat: order.Heat{Allowed: doc.Drying != card.Air, Factor: 1, Min: order.Floor(drying.HeatLeast), WithMask: c.ways.MaskHeat == school.LowHeat},
	}
	for _, t := range c.tasks {
		switch {
		case t.Whole:
			continue
		case t.board == nil:
			t.plain()
			continue
		}
		t.before()
		t.paint()
		t.overlaps()
		t.masks()
		t.inTurn()
		t.joins()
		t.regions()
	}
	for _, t := range c.tasks {
		if t.board != nil && !t.Whole {
			t.finish()
		}
	}
	c.faceAfterFace()
	c.mount()
	c.onMounted()
	switch {
	case c.painted:
	case len(c.notes) > 0:
		return errors.New(sentence(c.notes[0].What, c.notes[0].Way))
	default:
		return ErrNothingToPaint
	}
	c.inLots()
	return nil
}

// inLots plans as many copies as can be put in order, and says how often that is to
// be repeated.
func (c *compiler) inLots() {
	most := max(1, order.MaxPlaced/len(c.in.Ops))
	if c.in.Copies <= most {
		return
	}
	all := c.in.Copies
	c.in.Copies = min(most, c.bench.Rack+1)
	c.note(c.lots(all, (all+c.in.Copies-1)/c.in.Copies))
}

func (c *compiler) plan() *Plan {
	for i := range c.steps {
		s := &c.steps[i]
		var into []string
		for _, j := range s.Joined {
			if name := c.areaOf(&c.steps[j]).Name; !slices.Contains(into, name) {
				into = append(into, name)
			}
		}
		if len(into) > 0 {
			s.Detail = sentence(s.Detail, "It may run into "+wording.And(into)+": while one shines, lay the other beside it.")
		}
	}
	return &Plan{Instance: c.in, Steps: c.steps, Mixes: c.amounts(), Notes: c.notes, Pieces: c.pieces, Bench: c.bench, Ways: c.ways, reasons: c.reasons}
}

// areaOf is the area a step paints.
func (c *compiler) areaOf(s *Step) *panel.Area { return &c.pieces[s.Piece].Board.Areas[s.On.Area] }

// add appends a step on the piece and its operation and returns the id of both.
func (c *task) add(s Step, o order.Op) int {
	s.Piece, s.Item = c.index, c.item
	return c.push(s, o)
}

// push appends a step and its operation and returns the id of both.
func (c *compiler) push(s Step, o order.Op) int {
	id := len(c.steps)
	s.ID, o.ID, o.Attended = id, id, !s.Unattended
	if o.Kind == "" {
		o.Kind = order.Kind(s.Kind)
	}
	if s.On == nil && !s.Unattended {
		s.Dur = time.Duration(c.bench.Learned.Of(learned.Pace, string(s.Kind)).By * float64(s.Dur))
	}
	o.Dur, o.Dry, o.Bone = order.Ceil(s.Dur), order.Ceil(s.Dry), order.Ceil(s.Bone)
	if o.Regions == nil {
		o.Regions = []int{}
	}
	c.steps = append(c.steps, s)
	c.in.Ops = append(c.in.Ops, o)
	return id
}

// after lets one operation wait for another, as the table says.
func (c *compiler) after(from, to int, w wait) {
	kind := map[until]order.ArcType{atOnce: order.After, inkDry: order.Dry, touchDry: order.Dry, boneDry: order.Bone}[w.until]
	c.in.Arcs = append(c.in.Arcs, order.Arc{From: from, To: to, Type: kind})
	c.reasons[pair{from, to}] = w
}

// sentence joins what is not empty into sentences.
func sentence(parts ...string) string {
	var out []string
	for _, p := range parts {
		if p != "" {
			out = append(out, p)
		}
	}
	return strings.Join(out, " ")
}
