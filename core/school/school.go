// Package school holds the questions on which good makers disagree, the ways that each
// answers them, and why. A studio works in one way; a card may depart from it.
package school

import (
	"fmt"
	"slices"
	"strings"
)

// Ways are the ways that are chosen, by question. What is "" is as by default.
type Ways struct {
	Drying     string `json:"drying,omitempty"`
	Background string `json:"background,omitempty"`
	Neighbours string `json:"neighbours,omitempty"`
	Whites     string `json:"whites,omitempty"`
	Water      string `json:"water,omitempty"`
	Flattening string `json:"flattening,omitempty"`
	Mixing     string `json:"mixing,omitempty"`
	Palette    string `json:"palette,omitempty"`
	SecondCoat string `json:"second_coat,omitempty"`
	Subject    string `json:"subject,omitempty"`
	Pen        string `json:"pen,omitempty"`
	Line       string `json:"line,omitempty"`
	Vanishing  string `json:"vanishing,omitempty"`
	Lines      string `json:"lines,omitempty"`
	Edges      string `json:"edges,omitempty"`
	Relief     string `json:"relief,omitempty"`
	Paper      string `json:"paper,omitempty"`
	Hold       string `json:"hold,omitempty"`
	Fold       string `json:"fold,omitempty"`
	MaskHeat   string `json:"mask_heat,omitempty"`
}

// The ways that the program asks for by name; the first of a question is the default.
const (
	DecideGround, GroundFirst, GroundLast    = "decide", "first", "last"
	LightFirst, DarkFirst                    = "light", "dark"
	WhitesBySize, WhitesReserved, WhitesLate = "by size", "reserve", "opaque"
	ShineOnly, PoolsWelcome                  = "shine", "pools"
	FlatBefore, FlatAfter                    = "before", "after"
	MixedByWash, MixedOnPalette              = "by wash", "palette"
	MixedOnPaper                             = "paper"
	PaletteKept, PaletteWashed               = "kept", "washed"
	WholeCell, WhereNeeded                   = "whole", "softened"
	EdgesKept, EdgesLost                     = "kept", "lost"
	PenAsDrawn, PenAccents, PenAllRound      = "as drawn", "accents", "all round"
	Mixed, Air, Heat                         = "mixed", "air", "heat"
	CrispLine, SoftLine, VanishingLine       = "crisp", "soft", "vanishing"
	PulledLine                               = "pulled"
	StaysPale, GoesIntoPaint                 = "holds", "goes"
	Careful, LooseLines                      = "careful", "loose"
	EdgesByPlace, HardEdges, SoftEdges       = "by place", "hard", "softened"
	PaintThenPress, PressThenPaint           = "painted", "unpainted"
	PressTwice                               = "twice"
	Cotton, PulpForLight, Pulp               = "cotton", "pulp for light work", "pulp"
	Taped, SomeSides, OnBlock                = "taped", "some sides", "block"
	Unheld, StickySheet                      = "loose", "sticky sheet"
	FoldByPicture, FoldSide, FoldTop         = "by picture", "side", "top"
	NeverHeat, LowHeat                       = "never", "low"
)

// A Way is one answer, with its reason.
type Way struct{ ID, Words, Why string }

// A Question is one on which makers disagree.
type Question struct {
	ID   string
	Asks string
	Ways []Way // the default first
	// Fresh questions are answered when a card, a piece, an area or a zone is new, which
	// keeps its answer; the others are asked anew whenever a card is planned.
	Fresh bool
	of    func(*Ways) *string
}

// Questions is the table of them.
func Questions() []Question { return slices.Clone(questions) }

var questions = []Question{
	{"background", "When is the background painted?", []Way{
		{DecideGround, "as suits the card", "first where all that is on it is darker and covers what strays, else when the wet places let you"},
		{GroundFirst, "first", "what strays under the subject is painted over, and the subject is tuned to it"},
		{GroundLast, "last", "the subject is safe from its water, and its colour is chosen to suit"},
	}, false, func(w *Ways) *string { return &w.Background }},
	{"neighbours", "Which of two neighbours comes first?", []Way{
		{LightFirst, "the lighter", "a dark edge covers a light one that strayed, never the other way round"},
		{DarkFirst, "the darker", "the darkest accents set the range that all else is judged by"},
	}, false, func(w *Ways) *string { return &w.Neighbours }},
	{"whites", "How do whites stay white?", []Way{
		{WhitesBySize, "large ones kept, small ones put in", "paper is the cleanest white, but a speck cannot be painted round"},
		{WhitesReserved, "kept while painting", "paper is the cleanest white there is"},
		{WhitesLate, "put in with opaque white", "the wash is laid freely; opaque white sinks, and shows chalky where it is large"},
	}, false, func(w *Ways) *string { return &w.Whites }},
	{"water", "How wet is paper that is wetted first?", []Way{
		{ShineOnly, "a shine, no pools", "colour stays where it is put, and nothing runs back"},
		{PoolsWelcome, "pools are welcome", "colour finds its own way, and dries in edges nobody planned"},
	}, false, func(w *Ways) *string { return &w.Water }},
	{"flattening", "When is a warped panel flattened?", []Way{
		{FlatBefore, "before it is glued", "glue holds a warp; what is flat stays flat"},
		{FlatAfter, "after it is glued", "the card's own stiffness helps, and nothing waits overnight before it is put together"},
	}, false, func(w *Ways) *string { return &w.Flattening }},
	{"mixing", "Where do the paints of one wash mix?", []Way{
		{MixedByWash, "as each wash is", "an even wash needs one puddle, a lively one does not"},
		{MixedOnPalette, "on the palette", "it is the same colour to the last stroke"},
		{MixedOnPaper, "on the paper", "each paint stays to be seen"},
	}, false, func(w *Ways) *string { return &w.Mixing }},
	{"palette", "What becomes of the palette?", []Way{
		{PaletteKept, "kept, and wetted again", "the recipe can be matched tomorrow"},
		{PaletteWashed, "washed clean", "a dirty pan tints the next colour"},
	}, false, func(w *Ways) *string { return &w.Palette }},
	{"second_coat", "Where does a second coat end?", []Way{
		{WholeCell, "at the line: the whole cell", "a coat that stops short dries with an edge"},
		{WhereNeeded, "where it is needed, softened", "a shadow follows the form, not the drawing"},
	}, false, func(w *Ways) *string { return &w.SecondCoat }},
	{"subject", "What becomes of the subject's edges?", []Way{
		{EdgesKept, "kept", "it stands out from its ground"},
		{EdgesLost, "lost in places", "the ground flows into it, and the eye closes it"},
	}, false, func(w *Ways) *string { return &w.Subject }},
	{"pen", "Does a pen go over the print?", []Way{
		{PenAsDrawn, "where an area says so", "a pen is laid like a wash, and waits for bone-dry paper"},
		{PenAccents, "accents, at the end", "a few darker lines where things overlap bring a soft line forward"},
		{PenAllRound, "all round, at the end", "it closes what paint and texture have broken"},
	}, false, func(w *Ways) *string { return &w.Pen }},
	{"mask_heat", "May masking fluid be heated?", []Way{
		{NeverHeat, "never", "heated latex bonds to the fibres and tears them"},
		{LowHeat, "low heat is fine", "kept moving and well away, it saves the wait; at your own risk"},
	}, false, func(w *Ways) *string { return &w.MaskHeat }},
	{"drying", "How are coats dried between layers?", []Way{
		{Mixed, "small ones by heat, big ones by air", "heat warps and blooms large wet sheets"},
		{Air, "by air", "nothing blooms or warps for being hurried"},
		{Heat, "by heat", "the card is done today"},
	}, true, func(w *Ways) *string { return &w.Drying }},
	{"line", "What becomes of the line?", []Way{
		{CrispLine, "crisp", "it parts the colours and forgives a wobble"},
		{SoftLine, "soft", "a grey or brown one that the paint leads"},
		{VanishingLine, "vanishing", "only the paint is seen; shadows have to part what the line did"},
		{PulledLine, "pulled", "the line is the paint: water draws its colour out"},
	}, true, func(w *Ways) *string { return &w.Line }},
	{"vanishing", "With what is a vanishing line made?", []Way{
		{StaysPale, "a pale ink that holds, heat-set", "it stays where it is put, and shifts no colour"},
		{GoesIntoPaint, "a pale dye", "it goes into the paint, and nothing of it is left to see"},
	}, true, func(w *Ways) *string { return &w.Vanishing }},
	{"lines", "How are cells of one area painted?", []Way{
		{Careful, "in rounds, none beside a wet one", "each keeps its edge"},
		{LooseLines, "in one sweep, over the lines", "quick and fresh; the line holds the drawing together"},
	}, true, func(w *Ways) *string { return &w.Lines }},
	{"edges", "How does a zone end?", []Way{
		{EdgesByPlace, "skies and grounds softened, others hard", "air has no edge, a drawn shape has"},
		{HardEdges, "hard", "the bead is led along the drawn line"},
		{SoftEdges, "softened", "drawn out with clean water while it shines"},
	}, true, func(w *Ways) *string { return &w.Edges }},
	{"relief", "When is an embossing folder pressed?", []Way{
		{PaintThenPress, "once the paint is dry", "water flattens relief"},
		{PressThenPaint, "before any paint", "paint settles in the hollows; it is pressed again"},
		{PressTwice, "painted, pressed, touched up", "colour catches on the ridges"},
	}, true, func(w *Ways) *string { return &w.Relief }},
	{"paper", "What is painted on?", []Way{
		{Cotton, "cotton for everything", "it stays open, lifts, and takes many layers"},
		{PulpForLight, "cotton, pulp for small pieces", "a tag of one wash needs no cotton"},
		{Pulp, "pulp for everything", "cheap enough to try things; it dries fast and takes few layers"},
	}, true, func(w *Ways) *string { return &w.Paper }},
	{"hold", "How is the paper held?", []Way{
		{Taped, "taped all round", "it dries flat, with a clean edge, under any wash"},
		{SomeSides, "taped at top and bottom", "it may stretch sideways as it swells"},
		{OnBlock, "on a glued block", "nothing to tape; freed with a blade once dry"},
		{Unheld, "loose", "it can be turned and tilted; it curls under much water"},
		{StickySheet, "on a sticky sheet", "holds small and cut pieces flat"},
	}, true, func(w *Ways) *string { return &w.Hold }},
	{"fold", "Where is the card folded?", []Way{
		{FoldByPicture, "as the picture lies", "upright ones at the side, wide ones at the top, so that they stand"},
		{FoldSide, "at the side", "it opens like a book"},
		{FoldTop, "at the top", "it stands by itself"},
	}, true, func(w *Ways) *string { return &w.Fold }},
}

// Of is how a question is answered.
func (w Ways) Of(q *Question) *Way {
	chosen := *q.of(&w)
	if i := slices.IndexFunc(q.Ways, func(o Way) bool { return o.ID == chosen }); i >= 0 {
		return &q.Ways[i]
	}
	return &q.Ways[0]
}

// Chosen is the way that is chosen by its id, "" where it is as by default.
func (w Ways) Chosen(q *Question) string { return *q.of(&w) }

// Choose answers a question by its id; "" is as by default.
func (w *Ways) Choose(question, way string) error {
	i := slices.IndexFunc(questions, func(q Question) bool { return q.ID == question })
	if i < 0 {
		return fmt.Errorf("%.30q is nothing makers are asked", question)
	}
	*questions[i].of(w) = way
	return w.Check()
}

// Over is how things are done where w departs from the ways of the studio.
func (w Ways) Over(studio Ways) Ways {
	for _, q := range questions {
		if own := *q.of(&w); own != "" {
			*q.of(&studio) = own
		}
	}
	return studio
}

// Fresh are the answers to what is asked when something is new.
func (w Ways) Fresh() (out Ways) {
	for _, q := range questions {
		if q.Fresh {
			*q.of(&out) = *q.of(&w)
		}
	}
	return out
}

// Check reports the first answer that is none.
func (w Ways) Check() error {
	for _, q := range questions {
		way := *q.of(&w)
		if way == "" || slices.ContainsFunc(q.Ways, func(o Way) bool { return o.ID == way }) {
			continue
		}
		var ids []string
		for _, o := range q.Ways {
			ids = append(ids, o.ID)
		}
		return fmt.Errorf("%s %.30q is no answer; it is one of %s", q.Asks, way, strings.Join(ids, ", "))
	}
	return nil
}
