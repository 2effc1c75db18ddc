package plan_test

import (
	"context"
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/fold"
	"chromaqua/core/length"
	"chromaqua/core/order"
	"chromaqua/core/order/solver"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest/jobs"
	"chromaqua/core/plan"
	"chromaqua/core/plan/plancheck"
	"chromaqua/core/steps"
	"chromaqua/core/wording"
)

// madeJob is the plan of a job as JSON.
func madeJob(t testing.TB, s *jobs.Studio, copies int) ([]byte, *plan.Plan, *steps.Plan) {
	s.Card.Copies = copies
	return plannedAt(t, s, steps.UsualBench())
}

// plannedAt is the plan of a job at a bench as JSON.
func plannedAt(t testing.TB, s *jobs.Studio, bench steps.Bench) ([]byte, *plan.Plan, *steps.Plan) {
	require.NoError(t, s.Card.Check())
	pieces, err := s.Pieces(context.Background())
	require.NoError(t, err)
	p, err := steps.CompileAll(pieces, s.Card, bench)
	require.NoError(t, err)
	sch, err := solver.Solve(context.Background(), p.Instance, solver.Budget{Iterations: 300, Seed: 1})
	require.NoError(t, err)
	lettered := p.Lettered(sch)
	made := plan.Of(s.Card, lettered, sch)
	data, err := json.Marshal(made)
	require.NoError(t, err)
	goesInOrder(t, p, lettered, sch)
	return data, made, lettered
}

// goesInOrder holds that goes are lettered as they are begun, a first, and that nothing else of
// a plan has changed by that.
func goesInOrder(t testing.TB, was, p *steps.Plan, sch *order.Schedule) {
	assert.Equal(t, was.Keys(), p.Keys())
	first := map[string][]string{} // letters by area, in the order they are begun
	for _, at := range sch.Ops {
		st := &p.Steps[at.Op]
		if st.Go == "" {
			continue
		}
		area := p.Pieces[st.Piece].ID + p.AreaOf(st).ID
		if !slices.Contains(first[area], st.Go) {
			first[area] = append(first[area], st.Go)
		}
		if st.On.Wash != steps.Wetting {
			assert.Contains(t, st.Title, fmt.Sprintf(" (%s, %s)", st.Name(), wording.Count(len(st.Cells), "cell")))
		}
	}
	for area, letters := range first {
		assert.True(t, slices.IsSorted(letters), "%s: %v", area, letters)
		assert.Equal(t, "a", letters[0], area)
	}
	for i := range p.Steps {
		a, b := was.Steps[i], p.Steps[i]
		assert.Equal(t, a.Go == "", b.Go == "")
		a.Go, a.Title, b.Go, b.Title = "", "", "", ""
		assert.Equal(t, a, b)
	}
}

// Real jobs are planned without fault, one card and three.
func TestJobsArePlannedWithoutFault(t *testing.T) {
	for _, j := range jobs.All() {
		for _, copies := range []int{1, 3} {
			t.Run(fmt.Sprintf("%d×%d", j.Number, copies), func(t *testing.T) {
				t.Parallel()
				data, made, p := madeJob(t, j.Make(), copies)
				if dir := os.Getenv("CHROMAQUA_PLANS"); dir != "" {
					require.NoError(t, os.WriteFile(filepath.Join(dir, fmt.Sprintf("job%d-%d.json", j.Number, copies)), data, 0o644))
				}
				faults, err := plancheck.Faults(data, false)
				require.NoError(t, err)
				assert.Empty(t, faults)
				for _, s := range p.Pieces {
					assert.NotNil(t, s.Board)
					for _, a := range s.Board.Areas {
						assert.NotEmpty(t, a.Cells, "%s of %s has no place", a.Name, s.Name)
						assert.Empty(t, a.Lost, a.Name)
					}
				}
				assert.NotEmpty(t, made.Steps)
			})
		}
	}
}

// Paper without a line is painted by zones, pressed and mounted like any other.
func TestPaperWithoutALineIsPainted(t *testing.T) {
	data, made, _ := madeJob(t, jobs.Bare(), 2)
	faults, err := plancheck.Faults(data, false)
	require.NoError(t, err)
	assert.Empty(t, faults)
	said := ""
	for _, s := range made.Steps {
		said += s.Title + "\n"
	}
	for _, part := range []string{"Cut the panel and tape it down", "Ground: ", "Press the panel", "Sea: ", "Mount the panel"} {
		assert.Contains(t, said, part)
	}
	assert.NotContains(t, said, "Stamp")
}

// Words are put on in every way, on a scrap first; what is done to the whole card, and set
// on it, comes once it is put together.
func TestWordsAndTheWholeCard(t *testing.T) {
	for _, copies := range []int{1, 3} {
		data, made, _ := madeJob(t, jobs.Worded(), copies)
		faults, err := plancheck.Faults(data, false)
		require.NoError(t, err)
		assert.Empty(t, faults)
		at := map[string]int{}
		for _, s := range made.Steps {
			if _, seen := at[s.Title]; !seen {
				at[s.Title] = int(s.Start)
			}
		}
		for _, pair := range [][2]string{
			{"Stamp “calm waters” on a scrap first", "Stamp “calm waters” on the panel and emboss it"},
			{"Sky: ultramarine, tea", "Stamp “calm waters” on the panel and emboss it"},
			{"Take the tape off the panel", "Stamp “calm waters” on the panel and emboss it"},
			{"Stamp “calm waters” on the panel and emboss it", "Write “for you” on the panel"},
			{"Cut Strip", "Stamp “sea you soon” on Strip"},
			{"Print “With every tide a though…” for Leaf", "Cut Leaf"},
			{"Write “for you” on the panel", "Mount the panel on the mat"},
			{"Mount the panel on the mat", "Whole card, Spray: ultramarine, milk, splatter"},
			{"Whole card, Spray: ultramarine, milk, splatter", "Trim Whole card to about 108 × 139.7 mm"},
			{"Trim Whole card to about 108 × 139.7 mm", "Set clear gloss, on the eye on the panel"},
			{"Set clear gloss, on the eye on the panel", "Set 3 × gem on Whole card"},
			{"Set 3 × gem on Whole card", "Leave the card lying flat until all has set"},
		} {
			for _, title := range pair {
				assert.Contains(t, at, title)
			}
			assert.Less(t, at[pair[0]], at[pair[1]], "%s, then %s", pair[0], pair[1])
		}
	}
}

// A job is planned on a page that is no card: what lies on it is mounted, nothing is folded.
func TestAJobOnAPage(t *testing.T) {
	for _, j := range jobs.All() {
		if j.Number != 14 {
			continue
		}
		s := j.Make()
		panel := s.Card.PanelSize()
		s.Card.Base.Fold, s.Card.Layers = fold.Flat, nil
		require.NoError(t, s.Card.Give("panel", panel))
		require.NoError(t, s.Card.Give("front", length.Size{W: 210 * length.Millimetre, H: 297 * length.Millimetre}))
		data, made, _ := madeJob(t, s, 1)
		faults, err := plancheck.Faults(data, false)
		require.NoError(t, err)
		assert.Empty(t, faults)
		said := ""
		for _, st := range made.Steps {
			said += st.Title + "\n"
		}
		assert.Contains(t, said, "Mount the panel on the card base")
		assert.Contains(t, said, "Mount Word on the panel")
		assert.NotContains(t, said, "mat")
	}
}

// before is what comes before what on a job, by what titles hold.
var before = map[int][][2]string{
	1:  {{"Stamp Boat", "Tape the panel"}, {"Tape the panel", "Wet Sky"}, {"Wet Sky", "Sky: "}, {"Hull", "Take the tape off"}},
	2:  {{"Lay the block", "Stamp "}, {"Melt the powder", "Face: "}, {"into the wet", "Free the panel from its block"}, {"Helmet: ", "Free the panel"}},
	3:  {{"Stamp Otter", "Lay the paper mask"}, {"Lay the paper mask over Otter", "Stamp Reeds"}, {"Coat: ", "Stamp Bubbles"}, {"Water: ", "Stamp Bubbles"}, {"mask tape left on", "Stamp Bubbles"}, {"Melt the powder", "to its board again"}, {"to its board again", "Reed: "}},
	4:  {{"Wet Sky", "Sky: "}, {"Sky: ", "Stamp Reeds"}, {"Fur: ", "Stamp Otter (2"}, {"Stamp Reeds", "to its board again"}},
	5:  {{"Stamp Lantern (1", "Sky: "}, {"Wet Sky", "Sky: "}},
	6:  {{"Back: lamp black", "Back: ultramarine"}, {"Little hull", "Take the tape off Little panel"}, {"Flatten Little panel", "Mount"}},
	7:  {{"Stamp Urchin (1", "Urchin 1: rose, tea"}, {"Take the tape off Raised urchin", "Cut Raised urchin with the die"}, {"Cut Raised urchin with", "Mount"}, {"“all washed up” on Inside", "Mount"}, {"Mount", "Spray: "}},
	8:  {{"Wet Night", "Night: ultramarine"}, {"Night: lamp", "Stamp Masts"}, {"Stamp Boathouse", "Roof: pulled line"}, {"Posts: ", "Water by the posts"}, {"Stamp Masts", "to its board again"}},
	9:  {{"Wet Ground", "Ground: ultramarine"}, {"Ground: ultramarine", "wet splatter"}, {"Base in the positioner", "tide” on Base"}, {"tide” on a scrap", "tide” on Base"}, {"tide” on Base", "Mount"}, {"Mount", "Trim Card"}},
	10: {{"Wet Ground", "Ground: ultramarine"}, {"Fur: magenta", "Fur: ultramarine"}, {"Ground: ", "Sail: "}},
	11: {{"splatter", "Stamp Words"}, {"Take the tape off", "Stamp Words"}, {"Melt the powder", "Flatten the panel"}, {"Flatten the panel", "Mount"}},
	12: {{"Press the panel in its folder", "Tape"}, {"Tape", "Scallops: "}, {"Take the tape off", "Press the panel in its folder again"}},
	13: {{"Wings: ultramarine, tea", "Wings: ultramarine, milk"}, {"Aged ground", "Second panel, stamp Words"}, {"Wings: ", "Cut Ray 1 out"}, {"Cut Ray 2 out", "Mount"}},
	14: {{"Stamp Seahorse", "Scales: pulled line"}, {"Stamp Seahorse", "Head: "}, {"Letters: ", "Take the tape off Word"}, {"Flatten Word", "Mount"}},
	15: {{"Wet Pale sky", "Pale sky: "}, {"Pale sky: ", "Dust the panel"}, {"Dust the panel", "Stamp Star (1"}, {"Melt the powder", "Night: "}, {"to its board again", "Night: "}, {"Night: ", "Take the tape off the panel"}},
	16: {{"Wet Ground", "Ground: phthalo"}, {"Ground: phthalo", "Ground: rose"}, {"Ground: golden", "Suit: "}},
	17: {{"Row 1: phthalo blue, tea", "Row 1: phthalo blue, milk"}, {"Row 3: golden yellow, tea", "Row 3: golden yellow, milk"}, {"Stamp Float", "Float: "}},
	18: {{"Wash behind: phthalo", "Wash behind: rose"}, {"Wash behind: rose", "Odd scales: phthalo"}, {"Head: ultramarine", "Head: lamp"}, {"Head: ultramarine", "white pen"}, {"Fin star", "Cut Fin along"}, {"Cut Fin along", "Mount"}},
	19: {{"Wet Under", "Underpainting: golden"}, {"Underpainting: rose", "Arms: rose, tea"}, {"Arms: rose, milk", "white veil"}, {"Heart: cadmium", "highlight"}, {"Arms: rose, milk", "Cupped shadow: ultramarine"}, {"Cupped shadow: ultramarine", "lost edge"}, {"lost edge", "Take the tape off"}},
	20: {{"Sky: ", "Stamp Harbour"}, {"Stamp Harbour", "Water: "}, {"Stamp Harbour", "Shed: pulled line"}, {"Hill: ultramarine", "Hill: opaque white"}},
}

// Each job is done in the order its layers ask for, whatever the search finds.
func TestJobsKeepTheirLayers(t *testing.T) {
	for _, j := range jobs.All() {
		t.Run(j.Name, func(t *testing.T) {
			t.Parallel()
			_, made, p := madeJob(t, j.Make(), 1)
			find := func(part string, last bool) (at int) {
				at = -1
				for i, s := range made.Steps {
					if strings.Contains(s.Title, part) && (last || at < 0) {
						at = i
					}
				}
				require.GreaterOrEqual(t, at, 0, "no step %q", part)
				return at
			}
			require.NotEmpty(t, before[j.Number])
			for _, pair := range before[j.Number] {
				a, b := made.Steps[find(pair[0], pair[0] == "Mount")], made.Steps[find(pair[1], pair[1] == "Mount")]
				assert.LessOrEqual(t, a.End, b.Start, "%s before %s", a.Title, b.Title)
			}
			for _, s := range made.Steps[find("Mount", true)+1:] {
				n := slices.IndexFunc(p.Pieces, func(d panel.Piece) bool { return d.ID == s.Piece })
				assert.True(t, n >= 0 && p.Pieces[n].Whole || s.Kind == "set", s.Title)
			}
			for i := range p.Pieces {
				for k, l := range p.FromThePaperUp(i) {
					assert.NotEmpty(t, l.Says)
					assert.False(t, k == 0 && l.Free)
					if l.Late {
						assert.Contains(t, l.Wait, "bone dry", l.Says)
					}
				}
			}
		})
	}
}

// What is said of single media stands on their steps.
func TestMediaAreSaid(t *testing.T) {
	titles := func(number int) (out string) {
		for _, j := range jobs.All() {
			if j.Number == number {
				_, _, p := madeJob(t, j.Make(), 1)
				for _, s := range p.Steps {
					out += s.Title + ". " + s.Detail + "\n"
				}
			}
		}
		return out
	}
	river := titles(4)
	assert.Contains(t, river, "Mist the inked stamp once")
	assert.Contains(t, river, "1 part of Reeds stays bare: wipe the ink off before you stamp.")
	assert.Contains(t, river, "Once only, on purpose: it mottles on texture.")
	assert.Contains(t, river, "Draw its edge out with a clean damp brush")
	assert.Contains(t, titles(16), "Let its edge run on the wet paper.")
	stars := titles(15)
	assert.Contains(t, stars, "Left, right and bottom only; the rest stays free. Painter's tape, 12 mm wide")
	assert.Contains(t, stars, "The paint below has to be bone dry.")
	assert.Contains(t, titles(13), "Glue on its body only")
}
