package card

import (
	"errors"
	"fmt"
	"math"
	"slices"

	"chromaqua/core/joint"
	"chromaqua/core/length"
	"chromaqua/core/school"
)

// Limits of the pieces of a card.
const (
	MaxPieces  = 24 // beside the panel
	MaxOfPiece = 50 // of one on a card
	MaxGlued   = 20 // under one, to make it thick
	MinPiece   = 5 * length.Millimetre
)

// ThePanel is the id of the panel among the pieces.
const ThePanel = "panel"

// Piece is something beside the panel that is cut from paper and worked on.
type Piece struct {
	ID      string      `json:"id"`
	Name    string      `json:"name"`
	Kind    PieceKind   `json:"kind"`
	Face    Face        `json:"face,omitempty"`    // of the base: which is worked on
	Count   int         `json:"count,omitempty"`   // so many on one card; one when 0
	Size    length.Size `json:"size,omitzero"`     // as given; what is zero follows
	Die     *DieSet     `json:"die,omitempty"`     // cut by the nearest of these
	Outline *Outline    `json:"outline,omitempty"` // cut along an image's own line
	Wrong   bool        `json:"wrong,omitempty"`   // worked on the wrong side of the sheet
	Colour  string      `json:"colour,omitempty"`  // of its paper, "" for any
	Sheet   string      `json:"sheet,omitempty"`   // pieces that name the same are cut from one sheet once they are done
	Layers  int         `json:"layers,omitempty"`  // of it are cut plain and glued under it; none when 0
	Place   *Place      `json:"place,omitempty"`   // nil while it lies nowhere
	Work
}

// Outline is how a piece is cut along the line of one of its images.
type Outline struct {
	Image   string        `json:"image"`
	Margin  length.Length `json:"margin"`            // of paper left round it; negative cuts into the line
	Partial bool          `json:"partial,omitempty"` // one side stays in the sheet
	Darken  bool          `json:"darken,omitempty"`  // its cut edge is darkened, so that no white shows
}

// Place is where a piece lies on the card.
type Place struct {
	On string `json:"on"` // [ThePanel], a face of the base, or the id of another piece
	At
	By   joint.By      `json:"by,omitempty"`   // what holds it; the best for it when empty
	High length.Length `json:"high,omitzero"`  // its foam; the usual when 0
	More []At          `json:"more,omitempty"` // of the others where there are several; beside it when not said
}

// At is how a piece lies: its middle from that of what it lies on.
type At struct {
	X    length.Length `json:"x"` // to the right
	Y    length.Length `json:"y"` // and down
	Turn float64       `json:"turn,omitzero"`
}

// halfPanel is half of the panel, on marks of the maker's ruler.
func (c *Card) halfPanel() length.Size {
	p, mark := c.PanelSize(), c.Unit.Mark()
	return length.Size{W: max(MinPiece, p.W/2/mark*mark), H: max(MinPiece, p.H/2/mark*mark)}
}

func (c *Card) leafSize() length.Size {
	leaf := *c
	if leaf.Insert == nil {
		usual := UsualInsert()
		leaf.Insert = &usual
	}
	return leaf.InsertSize()
}

var errNoPiece = errors.New("that piece is gone: it was removed or undone meanwhile; nothing was changed")

func (c *Card) pieceIndex(id string) int {
	return slices.IndexFunc(c.Pieces, func(p Piece) bool { return p.ID == id })
}

// PieceByID returns a piece beside the panel.
func (c *Card) PieceByID(id string) (*Piece, error) {
	if i := c.pieceIndex(id); i >= 0 {
		return &c.Pieces[i], nil
	}
	return nil, errNoPiece
}

// PieceIDs lists what is worked on, the panel first.
func (c *Card) PieceIDs() []string {
	out := []string{ThePanel}
	for _, p := range c.Pieces {
		out = append(out, p.ID)
	}
	return out
}

// PieceName is what a piece is called.
func (c *Card) PieceName(id string) string {
	if p, err := c.PieceByID(id); err == nil {
		return p.Name
	}
	return ThePanel
}

// Many is how many of a piece one card needs.
func (p *Piece) Many() int { return max(1, p.Count) }

// SizeOf is what a piece measures: as given, by its die, round its image, or as its kind
// begins.
func (c *Card) SizeOf(p *Piece) length.Size {
	follows := p.follows(c)
	size := p.Size
	if size.W == 0 {
		size.W = follows.W
	}
	if size.H == 0 {
		size.H = follows.H
	}
	if p.Die != nil {
		size = p.Die.Nearest(size, length.Size{W: length.Max, H: length.Max})
	}
	return size
}

func (p *Piece) follows(c *Card) length.Size {
	if p.Kind == BasePiece || p.Kind == WholeCard {
		return c.Front()
	}
	if p.Outline != nil {
		if m, err := p.imageByID(p.Outline.Image); err == nil {
			mark, s := c.Unit.Mark(), m.Size()
			up := func(l length.Length) length.Length {
				return max(MinPiece, (l+2*p.Outline.Margin+mark-1)/mark*mark)
			}
			return length.Size{W: up(s.W), H: up(s.H)}
		}
	}
	if starts := p.Kind.Facts().Starts; starts != nil {
		return starts(c)
	}
	return length.Size{W: MinPiece, H: MinPiece}
}

// Reshape changes what a piece measures; what lies on it keeps its distance from the
// middle.
func (c *Card) Reshape(p *Piece, change func()) {
	before := c.SizeOf(p)
	change()
	after := c.SizeOf(p)
	for i := range p.Images {
		p.Images[i].X += (after.W - before.W) / 2
		p.Images[i].Y += (after.H - before.H) / 2
	}
}

// AddPiece puts another piece of a kind on the card and returns its id, the first free
// "p<n>". It lies on the panel's middle; a base and a leaf where they belong.
func (c *Card) AddPiece(k PieceKind) (string, error) {
	facts := k.Facts()
	if facts.Kind == "" {
		return "", fmt.Errorf("%q is no kind of piece; choose one that is listed", string(k))
	}
	paper := facts.Paper
	if paper == "" {
		paper = c.Paper
	}
	p := Piece{Name: wordsOf(c, facts.Name), Kind: k, Work: NewWork(paper, c.Ink)}
	if facts.Paper == "" {
		p.OwnPaper = c.OwnPaper
	}
	if c.Schools.Paper == school.PulpForLight && facts.Paper == "" {
		p.Paper, p.OwnPaper = pulpPaper, nil
	}
	p.Hold = heldBy(c.Schools.Hold)
	p.OwnInk, p.Look = c.OwnInk, c.Look // an ink and what is wanted of it go together
	switch k {
	case BasePiece:
		p.Face, p.Paper, p.OwnPaper = FrontFace, c.Base.Paper, nil
	case WholeCard:
		p.Paper, p.OwnPaper = c.Base.Paper, nil
	case Leaf:
		p.Place = &Place{On: string(InsideRight)}
	default:
		p.Place = &Place{On: ThePanel}
	}
	return c.addPiece(p)
}

// wordsOf is a name with a number where it is taken.
func wordsOf(c *Card, name string) string {
	taken := func(n string) bool {
		return slices.ContainsFunc(c.Pieces, func(p Piece) bool { return p.Name == n })
	}
	for out, n := name, 2; ; n++ {
		if !taken(out) {
			return out
		}
		out = fmt.Sprintf("%s %d", name, n)
	}
}

func (c *Card) addPiece(p Piece) (string, error) {
	if len(c.Pieces) >= MaxPieces {
		return "", fmt.Errorf("a card takes at most %d pieces beside the panel; take one away first", MaxPieces)
	}
	if p.Kind == WholeCard && slices.ContainsFunc(c.Pieces, func(o Piece) bool { return o.Kind == WholeCard }) {
		return "", errors.New("the whole card is among the pieces already; open it above the board")
	}
	p.ID = c.freeID("p", len(c.Pieces))
	c.Pieces = append(c.Pieces, p)
	return p.ID, nil
}

// CopyPiece puts another like a piece, or like the panel, on the card, with ids of its
// own for all that is on it, and returns its id.
func (c *Card) CopyPiece(id string) (string, error) {
	made, err := c.Clone()
	if err != nil {
		return "", err
	}
	p := Piece{Kind: SecondPanel, Size: c.PanelSize(), Place: &Place{On: ThePanel}, Work: made.Work}
	name := p.Kind.Facts().Name
	if id != ThePanel {
		of, err := made.PieceByID(id)
		if err != nil {
			return "", err
		}
		p, name = *of, of.Name
	}
	p.Name = wordsOf(c, name)
	p.rename(c)
	return c.addPiece(p)
}

// rename gives all that is on a piece ids that nothing on the card has.
func (p *Piece) rename(c *Card) {
	taken := c.taken()
	to := map[string]string{}
	fresh := func(prefix, id string) string {
		n := 1
		for taken[fmt.Sprintf("%s%d", prefix, n)] {
			n++
		}
		to[id] = fmt.Sprintf("%s%d", prefix, n)
		taken[to[id]] = true
		return to[id]
	}
	ref := func(r Ref) Ref {
		id, n, all := r.split()
		if all {
			return Ref(to[id])
		}
		return WashRef(to[id], n)
	}
	for i := range p.Images {
		p.Images[i].ID = fresh("i", p.Images[i].ID)
	}
	for i := range p.Zones {
		z := &p.Zones[i]
		if z.ID = fresh("z", z.ID); z.On != "" {
			z.On = to[z.On]
		}
	}
	for i := range p.Acts {
		p.Acts[i].ID = fresh("x", p.Acts[i].ID)
	}
	for i := range p.Areas {
		a := &p.Areas[i]
		a.ID = fresh("a", a.ID)
		for k := range a.Cells {
			a.Cells[k].On = to[a.Cells[k].On]
		}
		for k := range a.Zones {
			a.Zones[k] = to[a.Zones[k]]
		}
	}
	for i, j := range p.Joins {
		p.Joins[i] = [2]string{to[j[0]], to[j[1]]}
	}
	for i, o := range p.Over {
		p.Over[i] = Over{ref(o.Above), ref(o.Below)}
	}
	for i := range p.Hold {
		if p.Hold[i].From != "" {
			p.Hold[i].From = ref(p.Hold[i].From)
		}
	}
	if p.Outline != nil {
		p.Outline.Image = to[p.Outline.Image]
	}
	for i := range p.Reserves {
		r := &p.Reserves[i]
		r.ID = fresh("r", r.ID)
		for k := range r.Cells {
			r.Cells[k].On = to[r.Cells[k].On]
		}
		for _, ids := range [][]string{r.Zones, r.Areas, r.From} {
			for k := range ids {
				ids[k] = to[ids[k]]
			}
		}
		for _, at := range []*Ref{&r.Under, &r.Off} {
			if *at != "" {
				*at = ref(*at)
			}
		}
	}
}

// RemovePiece takes a piece off the card; what lay on it lies on what it lay on.
func (c *Card) RemovePiece(id string) error {
	i := c.pieceIndex(id)
	if i < 0 {
		return errNoPiece
	}
	on := &Place{On: ThePanel}
	if at := c.Pieces[i].Place; at != nil {
		on = at
	}
	c.Pieces = slices.Delete(c.Pieces, i, i+1)
	for k := range c.Pieces {
		if at := c.Pieces[k].Place; at != nil && at.On == id {
			at.On = on.On
		}
	}
	return nil
}

// MovePiece moves a piece one place in the order of the pieces.
func (c *Card) MovePiece(id string, later bool) error {
	i := c.pieceIndex(id)
	if i < 0 {
		return errNoPiece
	}
	to := Beside(i, later)
	if to < 0 || to >= len(c.Pieces) {
		return errors.New("it is the first or the last piece already; nothing was changed")
	}
	c.Pieces[i], c.Pieces[to] = c.Pieces[to], c.Pieces[i]
	return nil
}

// PlaceName names what a piece lies on, within a sentence.
func (c *Card) PlaceName(on string) string {
	if p, err := c.PieceByID(on); err == nil {
		return p.Name
	}
	switch Face(on) {
	case FrontFace, BackFace:
		return "the " + on + " of the base"
	case InsideLeft, InsideRight:
		return "the " + on
	}
	return "the panel"
}

// sheetGap is what is left between pieces on a sheet they share, and round them.
const sheetGap = length.Inch / 4

// SharedSheet is the size of a sheet for all pieces that name it, side by side.
func (c *Card) SharedSheet(name string) (out length.Size) {
	out = length.Size{W: sheetGap, H: 2 * sheetGap}
	for i := range c.Pieces {
		p := &c.Pieces[i]
		if p.Sheet != name {
			continue
		}
		s := c.SizeOf(p)
		out.W += (s.W + sheetGap) * length.Length(p.Many())
		out.H = max(out.H, s.H+2*sheetGap)
	}
	return out
}

// Lies lists where a piece of a size lies on what it lies on, as often as the card needs it.
// Those nobody has placed lie beside the others.
func (p *Piece) Lies(size length.Size) []At {
	const apart = 1.1 // of its width
	out := append([]At{p.Place.At}, p.Place.More...)
	for n := len(out); n < p.Many(); n++ {
		at := out[n-1]
		at.X += length.Length(apart * float64(size.W))
		out = append(out, at)
	}
	return out[:p.Many()]
}

// Seen is where something lies on the front that lies so on what lies there itself.
func (a At) Seen(on At) At {
	sin, cos := math.Sincos(on.Turn * math.Pi / 180)
	x, y := float64(a.X), float64(a.Y)
	return At{on.X + length.Length(math.Round(x*cos-y*sin)), on.Y + length.Length(math.Round(x*sin+y*cos)), math.Remainder(on.Turn+a.Turn, 360)}
}
