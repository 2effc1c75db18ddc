package steps

import (
	"cmp"
	"fmt"
	"hash/fnv"
	"slices"
	"strings"

	"chromaqua/core/card"
	"chromaqua/core/drying"
	"chromaqua/core/learned"
	"chromaqua/core/pigment"
	"chromaqua/core/technique"
	"chromaqua/core/wording"
)

// Keys name the steps of a plan, by their ids, as far as another plan of the same card
// has the same step: by its piece, what it does there, and on which cells. What cannot be
// told apart is numbered.
func (p *Plan) Keys() []string {
	out, nth := make([]string, len(p.Steps)), map[string]int{}
	for i := range p.Steps {
		s := &p.Steps[i]
		h := fnv.New64a()
		fmt.Fprint(h, s.Cells)
		if s.On == nil && (s.Kind != Line || s.Deed == "") { // an image is put on once, one of however many
			title := wording.Upper(strings.TrimPrefix(s.Title, p.onPiece(s))) // the key begins with the piece
			if of := &p.Pieces[s.Piece]; of.ID != card.ThePanel && of.Name != "" {
				title = strings.ReplaceAll(title, of.Name, "it") // which may get another name meanwhile
			}
			fmt.Fprint(h, title)
		}
		k := fmt.Sprintf("%s.%d/%s/%s/%x", p.Pieces[s.Piece].ID, s.Item, s.Kind, s.Deed, h.Sum64())
		if nth[k]++; nth[k] > 1 {
			k = fmt.Sprintf("%s/%d", k, nth[k])
		}
		out[i] = k
	}
	return out
}

// Spoken names what a step leaves, within a sentence: "Sand 2a", "the ink of the line".
func (p *Plan) Spoken(s *Step) string { return p.spoken(s.ID) }

// PaperOf names the paper a step is on, "" where nothing is laid on its piece.
func (p *Plan) PaperOf(s *Step) string {
	if b := p.Pieces[s.Piece].Board; b != nil {
		return b.Card.PaperFacts().Name
	}
	return ""
}

// OnPulp reports whether a step is on wood pulp.
func (p *Plan) OnPulp(s *Step) bool {
	b := p.Pieces[s.Piece].Board
	return b != nil && b.Card.PaperFacts().Surface == drying.Pulp
}

// stains is from which staining on a pigment hardly comes up again, of 3.
const stains = 3

// Stains reports whether a step lays a paint that stains.
func (p *Plan) Stains(s *Step) bool {
	m := p.MixOf(s)
	return m != nil && slices.ContainsFunc(m.Parts, func(part card.Part) bool {
		pig, err := pigment.ByCI(part.CI)
		return err == nil && pig.Staining >= stains
	})
}

// Pace names what a step's duration is learned by: its technique, or else its kind.
func (p *Plan) Pace(s *Step) string {
	if s.On != nil && s.On.Wash != Wetting {
		return string(p.AreaOf(s).Washes[s.On.Wash].Technique)
	}
	return string(s.Kind)
}

// deeds name steps that are no washes, which are learned by their kind.
var deeds = map[Kind]string{
	Hold: "cutting and placing", Line: "putting the line on", Emboss: "embossing", Press: "pressing", Tape: "taping down",
	Wet: "wetting with clean water", Untape: "taking tape off", Trim: "trimming", CutOut: "cutting out", Mount: "mounting",
	Mask: "laying masks", Unmask: "taking masks off", Set: "setting things on",
}

// PaceName says what is done of a pace.
func PaceName(pace string) string { return cmp.Or(deeds[Kind(pace)], technique.Kind(pace).Name()) }

// Expected is what was known of a step when it was planned: how its paper dries by air,
// its pace, and the room.
func (p *Plan) Expected(s *Step) (air, pace learned.Factor, room drying.Room) {
	room = drying.StillRoom
	if b := p.Pieces[s.Piece].Board; b != nil {
		room = b.Card.Room
	}
	return p.Bench.Learned.Of(learned.Air, p.PaperOf(s)), p.Bench.Learned.Of(learned.Pace, p.Pace(s)), room
}

// Largest is the area of the largest cell a step wets, mm².
func (p *Plan) Largest(s *Step) (mm2 float64) {
	b := p.Pieces[s.Piece].Board
	if b == nil {
		return 0
	}
	for _, id := range s.Cells {
		mm2 = max(mm2, b.Part(id).AreaMM2)
	}
	return mm2
}

// Basis says on what a plan's times stand: that they are estimates, or which of them the
// maker has measured at the bench.
func (p *Plan) Basis() string {
	var papers, paces []string
	for i := range p.Steps {
		s := &p.Steps[i]
		air, pace, _ := p.Expected(s)
		if text := fmt.Sprintf("drying on %s (%d ×)", p.PaperOf(s), air.N); air.N > 0 && s.Water > 0 && !slices.Contains(papers, text) {
			papers = append(papers, text)
		}
		if text := fmt.Sprintf("%s (%d ×)", PaceName(p.Pace(s)), pace.N); pace.N > 0 && !s.Unattended && !slices.Contains(paces, text) {
			paces = append(paces, text)
		}
	}
	if len(paces) > 0 {
		papers = append(papers, "your pace at "+wording.And(paces))
	}
	if len(papers) == 0 {
		return "Times are estimates."
	}
	return "Measured by you at the bench: " + wording.And(papers) + ". All other times are estimates."
}
