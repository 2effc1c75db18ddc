package plan_test

import (
	"context"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/advice"
	"chromaqua/core/keeping"
	"chromaqua/core/panel/paneltest/jobs"
	"chromaqua/core/steps"
)

// Who takes over what a job has that nothing here does.
const (
	byBench  = "the live bench"
	byJoints = "joints"
)

// An item is what a maker decides, measures, waits for or gets wrong in a job, and what
// the plan, its watch-outs or its cut list say of it; or who is to say it.
type item struct{ what, says, later string }

var items = map[int][]item{
	1: {
		{what: "a tall panel alone, no border", says: "92 × 220 mm of cotton"}, {what: "base blank and score", says: "scored between"}, {what: "two floats and a boat repeated", says: "Stamp Float (3 of 3)"},
		{what: "water first in the sky", says: "Wet Sky with clean water"}, {what: "the sky fades", says: "take more water and less colour"}, {what: "its edge is soft", says: "Draw its edge out"},
		{what: "floats in rounds", says: "(4b, 1 cell)"}, {what: "no border fits", says: "front 92 mm"}, {what: "manganese", says: "may contain manganese"}, {what: "mask by time instead", says: "Floats by film"},
	},
	2: {
		{what: "held by a block", says: "Lay the block"}, {what: "pouch", says: "anti-static pouch"}, {what: "powder while sticky", says: "Powder the ink"}, {what: "melted", says: "Melt the powder"}, {what: "do not breathe it", says: "do not breathe over it"},
		{what: "blush into the wet", says: "Face: rose, tea, into the wet"}, {what: "shimmer", says: "shimmer"}, {what: "mica sinks", says: "the mica sinks"}, {what: "free from the block", says: "dull blade"}, {what: "odd size", says: "120 mm | front 120 mm"},
		{what: "only the line parts two colours that make mud", says: "mud-if-met"}, {what: "envelope from a strip with a band", later: byJoints},
	},
	3: {
		{what: "paper mask for the otter", says: "paper mask of Otter"}, {what: "on dry ink", says: "On dry ink only"}, {what: "another ink round it", says: "permanent ink"}, {what: "mask off", says: "take the mask off"}, {what: "bubbles over both", says: "Stamp Bubbles"},
		{what: "bone dry before powder", says: "powder clings to whatever is damp"}, {what: "tape left on", says: "mask tape left on"}, {what: "how long until powder", says: "powder-on-damp"}, {what: "strip of words as a piece", says: "Cut Words strip"}, {what: "its edge", says: "Edge: burnt umber, weak tea, dry brush"},
	},
	4: {
		{what: "sky by water, short of the edge", says: "To just short of its edge"}, {what: "reeds without their ends", says: "1 part of Reeds stays bare"}, {what: "watered on the stamp", says: "Mist the inked stamp once"}, {what: "once on purpose", says: "Once only, on purpose"},
		{what: "over the dry sky", says: "damp paper feathers the ink"}, {what: "stamped again when dry", says: "Stamp Otter (2 of 2)"}, {what: "in the same place", says: "in the positioner"}, {what: "drawn out", says: "draw it out with a damp brush"}, {what: "a darker blue kept off it", says: "River: ultramarine"}, {what: "it goes chalky", says: "chalky"},
	},
	5: {
		{what: "three mixes", says: "Lantern 3: cadmium red"}, {what: "cells in rounds", says: "(5b, 2 cells)"}, {what: "soft sky", says: "Draw its edge out"}, {what: "wide brush", says: "Sky brush cut in with"}, {what: "foam all over", says: "Foam all over"}, {what: "fold at the top", says: "139.7 mm | front 139.7 mm"}, {what: "a forgotten cell", says: "forgotten-cells"}, {what: "cadmium", says: "do not spray"},
	},
	6: {
		{what: "layered plumage", says: "One thin, even pass over the dry layer"}, {what: "halo", says: "Halo: "}, {what: "shadow below it", says: "Ground shadow: "}, {what: "second little panel", says: "Cut Little panel"}, {what: "and its own line", says: "Little panel, stamp Boat"}, {what: "soft line", says: "permanent ink"}, {what: "flattened", says: "Flatten Little panel"},
	},
	7: {
		{what: "wood pulp", says: "wood pulp cold press"}, {what: "loose, not taped", says: "Lay the panel loose"}, {what: "in one sweep", says: "Loosely, in one sweep"}, {what: "colour changed while wet", says: "let the two meet by themselves"}, {what: "the raised twin", says: "Cut Raised urchin"}, {what: "cut with its die", says: "with the die of urchin"}, {what: "on foam", says: "Mount Raised urchin on the panel | Foam"},
		{what: "splatter over the card", says: "Spray: rose, milk, splatter"}, {what: "cover what stays clean", says: "Cover what must stay clean"}, {what: "no room for words", says: "no-room-for-words"}, {what: "they go inside", says: "“all washed up” on Inside"}, {what: "words on a scrap", says: "on a scrap first"},
	},
	8: {
		{what: "part left uninked", says: "1 part of Boathouse stays bare"}, {what: "by tape", says: "tape"}, {what: "two inks, light first", says: "light before dark"}, {what: "stamped off", says: "stamped off once"}, {what: "dark sky", says: "Night: lamp black, tea, into the wet"}, {what: "posts freehand", says: "Posts: lamp black, marker line"}, {what: "wetted", says: "Water by the posts"},
		{what: "far masts as ghosts", says: "stamped off 2 times"}, {what: "over the dry sky", says: "Stamp Masts"}, {what: "roof out of the line", says: "draw its colour into the cell"}, {what: "snow", says: "Snow: opaque white"}, {what: "white as dust", says: "TiO2"}, {what: "mask-pen dots", says: "Mask pen on Snow far off"}, {what: "no heat on them", says: "No heat tool until it is off"},
	},
	9: {
		{what: "three at once", says: "copy 2"}, {what: "big stamp face up", says: "lay the stamp face up"}, {what: "like shapes alike, in rounds", says: "(1b, 1 cell)"}, {what: "drops into the wet", says: "the drops spread softly"}, {what: "words on the base in the positioner", says: "Lay Base in the positioner"}, {what: "before gluing", says: "tide” on Base"}, {what: "trimmed after gluing", says: "Trim Card"}, {what: "both sides heated", later: byBench},
	},
	10: {
		{what: "three paints", says: "ultramarine + magenta + golden yellow"}, {what: "vanishing line", says: "pale vanishing ink"}, {what: "a forgotten cell keeps it", says: "forgotten cells keep their pale outline"}, {what: "big ground", says: "Wet Ground"}, {what: "second glaze to even it", says: "Ground: ultramarine, weak tea | One thin, even pass"}, {what: "mixes for it", says: "mix magenta + golden yellow"}, {what: "squint", later: byBench},
	},
	11: {
		{what: "five layers", says: "Night: ultramarine, milk"}, {what: "splatter", says: "splatter"}, {what: "words over the painted night", says: "Stamp Words"}, {what: "powdered", says: "Melt the powder"}, {what: "bone dry first", says: "powder-on-damp"}, {what: "flattened before mounting", says: "Flatten the panel"}, {what: "masked frame", says: "Tape on Frame"}, {what: "off only bone dry", says: "Bone dry: pull it slowly"},
	},
	12: {
		{what: "pressed first", says: "Before it is taped down"}, {what: "water flattens it", says: "relief-flattened"}, {what: "pressed again", says: "in its folder again"}, {what: "exactly as before", says: "exactly as before"}, {what: "the folder is small", says: "folder-small"},
	},
	13: {
		{what: "two inks", says: "embossing ink"}, {what: "two rays", says: "Cut Ray 2 out"}, {what: "second coats whole", says: "One thin, even pass"}, {what: "bodies only", says: "Glue on its body only"}, {what: "antiqued ground first", says: "Aged ground: "}, {what: "text over it, bone dry", says: "Second panel, stamp Words"}, {what: "dye comes through", says: "comes through every wash"},
	},
	14: {
		{what: "own pad", says: "kelp pad"}, {what: "big stamp face up", says: "lay the stamp face up"}, {what: "its ink as paint", says: "draw its colour into the cell"}, {what: "stalk into head", says: "Head: bright orange, tea"}, {what: "they cannot all be wet at once", says: "water-into-damp"}, {what: "a flood", says: "flood-on-reactive"}, {what: "one word, the finest brush", says: "Letters brush round 2"}, {what: "its paper is weak", says: "paper-too-weak"}, {what: "a pocket", says: "three sides"},
	},
	15: {
		{what: "tape on three sides", says: "Left, right and bottom only"}, {what: "pale sky with water", says: "Wet Pale sky"}, {what: "colours side by side", says: "let the two meet"}, {what: "stars bone dry", says: "powder-on-damp"}, {what: "dark over them", says: "Night: ultramarine, cream"}, {what: "figure cut out", says: "Otter"}, {what: "a star under the figure", says: "stamped-under-piece"}, {what: "fluid on the posts", says: "Masking fluid on Pier posts"}, {what: "tape below them", says: "Tape on Below"}, {what: "fluid off before powder", says: "once masking fluid on Pier posts"},
	},
	16: {
		{what: "many colours on wet paper", says: "Ground: golden yellow, tea, into the wet"}, {what: "its edge runs", says: "Let its edge run"}, {what: "subject over it", says: "Suit: ultramarine, milk"}, {what: "goggles", says: "Goggles: "}, {what: "one dulls", says: "mud-inside"},
	},
	17: {
		{what: "stencil", says: "Hold the stencil down"}, {what: "nearly dry brush", says: "nearly dry"}, {what: "three colours", says: "Row 3: golden yellow"}, {what: "for more colour", says: "Row 1: phthalo blue, milk"}, {what: "a row forgotten", says: "forgotten-cells"}, {what: "laid again and wiped", says: "Wipe the stencil, lay it again"},
	},
	18: {
		{what: "dye under paint", says: "comes through every wash"}, {what: "colours meet on the paper", says: "let the two meet by themselves"}, {what: "alternate scales", says: "Even scales: "}, {what: "grey by mixing", says: "ultramarine + burnt umber 2:1"}, {what: "pencil", says: "Head: lamp black, pencil"}, {what: "once bone dry", says: "a lead scrapes damp paper up"}, {what: "white pen", says: "white pen"}, {what: "partial die cut", says: "one side left in the sheet"}, {what: "darkened edge", says: "marker of the same colour"}, {what: "scales melt together", says: "melts-together"},
	},
	19: {
		{what: "underpainting across all", says: "Underpainting: golden"}, {what: "two brushes", says: "draw it out with a damp brush"}, {what: "cupped shadow", says: "Cupped shadow: ultramarine"}, {what: "glazes", says: "One thin, even pass"}, {what: "white veil", says: "Opaque white, thinned"}, {what: "lost edge", says: "until it is lost"}, {what: "white again", says: "White again: opaque white"}, {what: "it sinks", says: "it sinks as it dries"}, {what: "no heat", says: "Overnight"}, {what: "two sides of tape", says: "Top and bottom only"}, {what: "fluid dots", says: "Masking fluid on Bubbles"}, {what: "splattered", says: "Splattered masking fluid on Spray"}, {what: "off with a clean finger", says: "roll it off with a clean finger"},
	},
	20: {
		{what: "rough paper", says: "cotton rough"}, {what: "sky first", says: "Sky: bright orange"}, {what: "solid once", says: "Once only, on purpose"}, {what: "it mottles", says: "mottles"}, {what: "two mats", says: "mat"}, {what: "water through the mass", says: "Draw clean water through the mass"}, {what: "a bar dragged out of it", says: "where you drag it"}, {what: "colours on the mass", says: "Hill: ultramarine, tea"}, {what: "an opaque over it", says: "Hill: opaque white"}, {what: "bone dry below", says: "damp paper feathers the ink"},
	},
}

// What makers decide, wait for and get wrong in each job is said, but for what the bench and
// joints say.
func TestJobsSayWhatTheyHave(t *testing.T) {
	total, later := 0, 0
	for _, j := range jobs.All() {
		t.Run(fmt.Sprint(j.Number), func(t *testing.T) {
			said := allSaid(t, j.Make())
			require.NotEmpty(t, items[j.Number])
			for _, it := range items[j.Number] {
				total++
				if it.later != "" {
					later++
					continue
				}
				assert.Contains(t, said, it.says, it.what)
			}
		})
	}
	assert.Len(t, jobs.All(), 20)
	assert.Greater(t, total, 150)
	assert.Less(t, 10*later, total, "at most a tenth is left to others")
}

// A wash that goes round a reactive line floods nothing; one in its cells does.
func TestWhatFloods(t *testing.T) {
	assert.NotContains(t, allSaid(t, job(t, 4)), "flood-on-reactive")
	assert.Contains(t, allSaid(t, job(t, 14)), "flood-on-reactive The flat on Head")
}

// allSaid is all that the program says of a job: its steps, what lies over what and why,
// its watch-outs, its mixes and what is cut.
func allSaid(t *testing.T, s *jobs.Studio) string {
	var out strings.Builder
	_, made, p := madeJob(t, s, max(1, s.Card.Copies))
	for _, st := range made.Steps {
		fmt.Fprintf(&out, "copy %d: %s\n", st.Copy, st.Title)
	}
	for _, st := range p.Steps {
		fmt.Fprintln(&out, st.Title, "|", st.Detail, "|", st.Caution)
		if st.On != nil {
			fmt.Fprintln(&out, p.Pieces[st.Piece].Board.Areas[st.On.Area].Name, "brush", st.Brush())
		}
	}
	for _, m := range p.Mixes {
		fmt.Fprintln(&out, "mix", s.Card.Called.Mix(m.Parts))
	}
	pieces, err := s.Pieces(context.Background())
	require.NoError(t, err)
	for i := range pieces {
		for _, w := range advice.All(advice.OfPiece(s.Card, pieces, i, p, nil)) {
			fmt.Fprintln(&out, w.Rule, w.What)
		}
		for _, l := range p.FromThePaperUp(i) {
			fmt.Fprintln(&out, l.Says, l.Wait)
		}
	}
	d := &keeping.Desk{Pieces: pieces, Card: s.Card, Bench: steps.UsualBench()}
	for i := range pieces {
		kept, err := d.Weigh(context.Background(), i)
		require.NoError(t, err)
		for _, k := range kept {
			for _, ch := range k.Choices {
				fmt.Fprintln(&out, k.Name, "by", ch.Way, ch.Costs, ch.Reason, ch.Barred)
			}
		}
	}
	for _, l := range s.Card.CutList() {
		fmt.Fprintln(&out, l.Text(s.Card.Unit))
	}
	return out.String()
}
