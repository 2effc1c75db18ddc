package fold_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"chromaqua/core/fold"
	"chromaqua/core/length"
)

func size(t testing.TB, text string) length.Size {
	s, err := length.ParseSize(text, length.Inches)
	require.NoError(t, err)
	return s
}

func ExampleBlankFor() {
	a2, _ := fold.FormatByID("a2")
	b := fold.BlankFor(a2.Front, fold.Left, length.Inches)
	fmt.Println(b.Size.With(length.Inches), "scored at", b.Scores[0].At)
	// Output: 8 1/2 × 5 1/2 in scored at 4 1/4 in
}

func TestBlanks(t *testing.T) {
	for _, f := range fold.Formats() {
		side, top := fold.BlankFor(f.Front, fold.Left, length.Inches), fold.BlankFor(f.Front, fold.Top, length.Inches)
		assert.Equal(t, length.Size{W: 2 * f.Front.W, H: f.Front.H}, side.Size, f.Name)
		assert.Equal(t, length.Size{W: f.Front.W, H: 2 * f.Front.H}, top.Size, f.Name)
		assert.Equal(t, fold.Vertical, side.Grain, "the grain runs along the fold")
		assert.Equal(t, fold.Horizontal, top.Grain)
		assert.Equal(t, top.Size.H, 2*top.Scores[0].At)
		assert.Empty(t, fold.BlankFor(f.Front, fold.Flat, length.Inches).Scores)
	}
}

// Whatever the fold, the faces lie side by side and cover the blank, a score
// lies between each two, and the front is as large as it was asked for.
func TestFacesCoverTheBlank(t *testing.T) {
	for _, f := range fold.Formats() {
		for _, side := range fold.Sides() {
			b := fold.BlankFor(f.Front, side, length.Inches)
			assert.Len(t, b.Scores, len(b.Faces)-1)
			along := func(s length.Size) length.Length { return s.W }
			if b.Grain == fold.Horizontal {
				along = func(s length.Size) length.Length { return s.H }
			}
			sum := length.Length(0)
			for i, face := range b.Faces {
				assert.Equal(t, sum, face.X+face.Y, "%s %s", f.Name, side)
				if sum += along(face.Size); i < len(b.Scores) {
					assert.Equal(t, sum, b.Scores[i].At)
					assert.Equal(t, b.Grain, b.Scores[i].Runs, "the grain runs along the fold")
				}
			}
			assert.Equal(t, along(b.Size), sum)
			if front, ok := b.Front(); ok {
				assert.Equal(t, f.Front, front.Size)
			} else {
				assert.Equal(t, fold.Gate, side)
			}
		}
	}
}

// What is folded inwards is a little smaller than what it lies in.
func TestAllowances(t *testing.T) {
	front := size(t, "4 1/4 x 5 1/2")
	gate := fold.BlankFor(front, fold.Gate, length.Inches)
	assert.Equal(t, front.W-length.Sixteenth, gate.Faces[0].Size.W+gate.Faces[2].Size.W, "the flaps meet with a gap")
	assert.Equal(t, "8 7/16 × 5 1/2 in", gate.Size.With(length.Inches))
	assert.Equal(t, "209.5 × 148 mm", fold.BlankFor(length.Size{W: 105 * length.Millimetre, H: 148 * length.Millimetre}, fold.Gate, length.Millimetres).Size.With(length.Millimetres))
	tri := fold.BlankFor(front, fold.Tri, length.Inches)
	assert.Equal(t, "12 11/16 × 5 1/2 in", tri.Size.With(length.Inches))
	assert.Equal(t, front.W-length.Sixteenth, tri.Faces[0].Size.W)
	assert.Equal(t, 3, fold.Tri.Layers())
	for _, u := range []length.Unit{length.Inches, length.Millimetres} {
		for n := range 12 { // odd and even numbers of marks
			front := length.Size{W: (160 + length.Length(n)) * u.Mark(), H: 200 * u.Mark()}
			for _, side := range fold.Sides() {
				b := fold.BlankFor(front, side, u)
				for _, s := range b.Scores {
					assert.Zero(t, s.At%u.Mark(), "%s of %s: a trimmer has a mark for each score", side, front.With(u))
				}
				assert.Zero(t, b.Size.W%u.Mark())
			}
		}
	}
}

// Scored from the inside, a blank is its own mirror image.
func TestInsideUp(t *testing.T) {
	tri := fold.BlankFor(size(t, "4 1/4 x 5 1/2"), fold.Tri, length.Inches)
	in := tri.InsideUp()
	assert.Equal(t, "front", in.Faces[0].Name)
	assert.Zero(t, in.Faces[0].X)
	assert.Equal(t, size(t, "4 1/4 x 5 1/2").W, in.Scores[0].At)
	assert.Equal(t, fold.Valley, in.Scores[0].Way)
	assert.Equal(t, tri, in.InsideUp())
	top := fold.BlankFor(size(t, "4 x 6"), fold.Top, length.Inches).InsideUp()
	assert.Equal(t, "front", top.Faces[0].Name, "the front is above the fold, seen from the inside")
}

func envelope(t testing.TB, id string) fold.Envelope {
	for _, e := range fold.Envelopes() {
		if e.ID == id {
			return e
		}
	}
	t.Fatalf("no envelope %s", id)
	return fold.Envelope{}
}

func TestEveryFormatHasAnEnvelope(t *testing.T) {
	thin := length.Millimetre
	for _, f := range fold.Formats() {
		best := fold.FitAll(fold.Plain(f.Front, thin))[0]
		assert.True(t, best.Good(), "%s goes into nothing", f.Name)
	}
	for id, env := range map[string]string{
		"a2": "env-a2", "a6": "env-a6", "a7": "env-a7", "slim10": "env-10", "sq5.5": "env-sq5.75", "iso-a6": "env-c6", "dl": "env-dl", "iso-a5": "env-c5",
	} {
		f, err := fold.FormatByID(id)
		require.NoError(t, err)
		fit := fold.FitInto(fold.Plain(f.Front, thin), envelope(t, env))
		assert.True(t, fit.Good(), "%s does not fit its own envelope: %+v", id, fit)
	}
}

func TestFitSaysWhyNot(t *testing.T) {
	a2 := size(t, "4 1/4 x 5 1/2")
	fit := fold.FitInto(fold.Plain(a2, length.Millimetre), envelope(t, "env-a2"))
	assert.Equal(t, size(t, "1/4 x 1/8"), length.Size{W: fit.SpareW, H: fit.SpareH})
	assert.Equal(t, "5.5 mm and 2 mm to spare", fit.Why(length.Millimetres))
	assert.Equal(t, "3/8 in too long, 5/8 in too wide", fold.FitInto(fold.Plain(a2, 0), envelope(t, "env-a1")).Why(length.Inches))
	assert.Contains(t, fold.FitInto(fold.Plain(a2, 3*length.Millimetre), envelope(t, "env-a2")).Why(length.Millimetres), "its thickness takes 3 mm of the about 3.2 mm to spare along its width, and 1 mm has to be left")
	assert.Contains(t, fold.FitInto(fold.Plain(size(t, "4 3/8 x 5 3/4"), 0), envelope(t, "env-a2")).Why(length.Millimetres), "less than 1 mm")
	assert.Equal(t, fold.TooThick, fold.FitInto(fold.Plain(a2, 3*length.Millimetre), envelope(t, "env-a2")).Verdict)
	assert.Equal(t, fold.TooSmall, fold.FitInto(fold.Plain(a2, 0), envelope(t, "env-a1")).Verdict)
	assert.Equal(t, fold.Loose, fold.FitInto(fold.Plain(a2, 0), envelope(t, "env-a7")).Verdict)
	assert.Equal(t, fold.FitInto(fold.Plain(a2, 0), envelope(t, "env-a2")), fold.FitInto(fold.Plain(a2.Turned(), 0), envelope(t, "env-a2")), "turning changes nothing")
}

func TestFromPaper(t *testing.T) {
	options := fold.FromPaper(size(t, "5 1/8 x 9"), length.Millimetre)
	names := map[string]fold.Option{}
	for _, o := range options {
		names[o.Format.ID+" "+string(o.Side)] = o
	}
	assert.Contains(t, names, "a1 side")
	assert.Contains(t, names, "4bar side")
	assert.NotContains(t, names, "a2 side", "its blank is 8 1/2 × 5 1/2")
	assert.NotContains(t, names, "a7 top")
	half := names["free top"]
	assert.Equal(t, size(t, "5 1/8 x 4 1/2"), half.Format.Front)
	assert.Equal(t, 1, half.Up)
	assert.Empty(t, half.Leftovers)
	assert.Equal(t, []length.Size{size(t, "5 1/8 x 2"), size(t, "1/8 x 7")}, names["a1 side"].Leftovers)
	letter := fold.FromPaper(size(t, "8 1/2 x 11"), length.Millimetre)
	for _, o := range letter {
		if o.Format.ID == "a2" && o.Side == fold.Left {
			assert.Equal(t, 2, o.Up, "letter paper gives two A2 cards")
			assert.Empty(t, o.Leftovers)
		}
	}
}

// Whatever the piece, what is cut and what is left over add up to it.
func TestFromPaperLosesNothing(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		side := rapid.Int64Range(32, 400)
		piece := length.Size{W: length.Sixteenth * length.Length(side.Draw(t, "w")), H: length.Sixteenth * length.Length(side.Draw(t, "h"))}
		for _, o := range fold.FromPaper(piece, length.Millimetre) {
			area := func(s length.Size) int64 { return int64(s.W/length.Sixteenth*2) * int64(s.H/length.Sixteenth*2) }
			if o.Format.Basis == "ISO 216" || o.Blank.W%length.Sixteenth != 0 || o.Blank.H%length.Sixteenth != 0 {
				continue // not on the sixteenth grid this check counts in
			}
			sum := int64(o.Up) * area(o.Blank)
			for _, l := range o.Leftovers {
				sum += area(l)
			}
			require.Equal(t, area(piece), sum, "%s %s", o.Format.Name, o.Side)
		}
	})
}
