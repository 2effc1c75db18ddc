package plan_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/panel/paneltest/jobs"
	"chromaqua/core/pigment"
	"chromaqua/core/plan"
	"chromaqua/core/plan/plancheck"
	"chromaqua/core/school"
	"chromaqua/core/steps"
	"chromaqua/core/technique"
)

// worked is the plan of a job in a studio that works so, without fault.
func worked(t testing.TB, s *jobs.Studio, studio school.Ways) (*plan.Plan, *steps.Plan) {
	bench := steps.UsualBench()
	bench.Schools = studio
	data, made, p := plannedAt(t, s, bench)
	faults, err := plancheck.Faults(data, false)
	require.NoError(t, err)
	assert.Empty(t, faults)
	return made, p
}

// job makes a job by its number.
func job(t testing.TB, number int) *jobs.Studio {
	for _, j := range jobs.All() {
		if j.Number == number {
			return j.Make()
		}
	}
	require.FailNow(t, "no such job")
	return nil
}

// from is when the first step whose title holds that begins, and when the last ends.
func from(t testing.TB, p *plan.Plan, title string) (first, last int) {
	first = -1
	for _, s := range p.Steps {
		if !strings.Contains(s.Title, title) {
			continue
		}
		if first < 0 || int(s.Start) < first {
			first = int(s.Start)
		}
		last = max(last, int(s.End))
	}
	require.GreaterOrEqual(t, first, 0, title)
	return first, last
}

// The plan follows how the maker works, and what one card departs in.
func TestPlansFollowSchools(t *testing.T) {
	subject := []string{"Hull: ", "Sail: ", "Floats: "}
	first, _ := worked(t, job(t, 1), school.Ways{Background: school.GroundFirst})
	last, _ := worked(t, job(t, 1), school.Ways{Background: school.GroundLast})
	own := job(t, 1)
	own.Card.Schools.Background = school.GroundFirst
	departs, _ := worked(t, own, school.Ways{Background: school.GroundLast})
	for _, part := range subject {
		_, skyEnds := from(t, first, "Sky: ")
		begins, _ := from(t, first, part)
		assert.LessOrEqual(t, skyEnds, begins, part)
		_, skyEnds = from(t, departs, "Sky: ")
		begins, _ = from(t, departs, part)
		assert.LessOrEqual(t, skyEnds, begins, "the card has its own way")
		sky, _ := from(t, last, "Wet Sky")
		_, ends := from(t, last, part)
		assert.LessOrEqual(t, ends, sky, part)
	}
	why := ""
	for _, s := range last.Steps {
		why += s.Why + "\n"
	}
	assert.Contains(t, why, "You paint the background last.")

	// What the card lays over what outranks it, and that is said.
	made, p := worked(t, job(t, 16), school.Ways{Background: school.GroundLast})
	_, ground := from(t, made, "Ground: ")
	suit, _ := from(t, made, "Suit: ")
	assert.LessOrEqual(t, ground, suit)
	require.NotEmpty(t, p.Notes)
	assert.Equal(t, "Ground is to come last, as you work, but it lies under Suit and Goggles.", p.Notes[len(p.Notes)-1].What)
}

// Paper is wetted to a shine or to pools, a panel flattened before or after it is glued.
func TestWaterAndFlattening(t *testing.T) {
	water := func(w school.Ways) float64 {
		_, p := worked(t, job(t, 1), w)
		for _, s := range p.Steps {
			if s.Title == "Wet Sky with clean water" {
				assert.Equal(t, w.Water == school.PoolsWelcome, strings.Contains(s.Detail, "until pools stand"))
				return float64(s.Water)
			}
		}
		return 0
	}
	assert.Less(t, water(school.Ways{}), water(school.Ways{Water: school.PoolsWelcome}))

	later := school.Ways{Flattening: school.FlatAfter}
	made, _ := worked(t, job(t, 1), later)
	_, mounted := from(t, made, "Mount")
	flat, _ := from(t, made, "Flatten the card under weight")
	assert.LessOrEqual(t, mounted, flat)
	made, _ = worked(t, job(t, 5), later)
	_, flat = from(t, made, "Flatten the panel under weight")
	mount, _ := from(t, made, "Mount the panel")
	assert.LessOrEqual(t, flat, mount, "weight would crush its foam")
}

// Whites are kept or put in, by how large they are, or as the maker works.
func TestWhites(t *testing.T) {
	whites := func(w school.Ways) (cells int) {
		s := job(t, 4)
		m := s.Card.Images[0]
		a, err := s.Card.AreaByID(s.Card.AddArea("Eye and chest"))
		require.NoError(t, err)
		a.White = true
		var kept []card.Spot
		for _, at := range [][2]float64{{9, 10}, {11, 15}} { // a small cell, and the head around it
			kept = append(kept, card.Spot{On: m.ID, UV: card.UV{U: at[0] / m.Width.MM(), V: at[1] / m.Width.MM()}, MM2: 5})
		}
		for i := range s.Card.Areas { // the head was fur
			s.Card.Areas[i].Cells = s.Card.Areas[i].Cells[:min(1, len(s.Card.Areas[i].Cells))]
		}
		a.Cells = kept
		_, p := worked(t, s, w)
		for _, st := range p.Steps {
			if strings.HasPrefix(st.Title, "Put in the white of") {
				assert.Positive(t, st.Dry)
				cells += len(st.Cells)
			}
		}
		return cells
	}
	assert.Equal(t, 0, whites(school.Ways{Whites: school.WhitesReserved}))
	assert.Equal(t, 2, whites(school.Ways{Whites: school.WhitesLate}))
	assert.LessOrEqual(t, whites(school.Ways{}), 1)
}

// The darker of two neighbours comes first where the maker works so.
func TestDarkBeforeLight(t *testing.T) {
	_, light := worked(t, job(t, 12), school.Ways{})
	_, dark := worked(t, job(t, 12), school.Ways{Neighbours: school.DarkFirst})
	for i, op := range light.Instance.Ops {
		if op.Light > 0 {
			assert.Equal(t, 101-op.Light, dark.Instance.Ops[i].Light)
		}
	}
}

// A background that lies over what lies over something else cannot come before that, though
// it does not touch it.
func TestABackgroundThatComesLate(t *testing.T) {
	s := &jobs.Studio{Card: card.New("Late", length.Millimetres), Files: map[string][]byte{}}
	wash := card.Wash{Technique: technique.Flat, Strength: pigment.Tea, Mix: []card.Part{{CI: "PB29", Parts: 1}}}
	jobs.Zone(s.Card, "Under all", card.Zone{Shape: card.Within}, []float64{10, 10, 60, 10, 60, 40, 10, 40}, wash)
	jobs.Zone(s.Card, "Between", card.Zone{Shape: card.Within}, []float64{20, 30, 50, 30, 50, 90, 20, 90}, wash)
	jobs.Zone(s.Card, "Ground", card.Zone{Shape: card.Below}, []float64{0, 70, 110, 70}, wash)
	jobs.Zone(s.Card, "Aside", card.Zone{Shape: card.Within}, []float64{70, 10, 90, 10, 90, 40, 70, 40}, wash)
	made, p := worked(t, s, school.Ways{Background: school.GroundFirst})
	_, under := from(t, made, "Under all")
	between, ends := from(t, made, "Between")
	ground, grounded := from(t, made, "Ground")
	aside, _ := from(t, made, "Aside")
	assert.LessOrEqual(t, under, between)
	assert.LessOrEqual(t, ends, ground)
	assert.LessOrEqual(t, grounded, aside, "what is free follows")
	require.Len(t, p.Notes, 1)
	assert.Equal(t, "Ground is to come first, as you work, but it lies over Between.", p.Notes[0].What)
}

// What else a maker always does one way is said on the steps it touches, and on no others
// where nothing is said.
func TestSchoolsAreSaidOnTheirSteps(t *testing.T) {
	said := func(number int, w school.Ways) string {
		_, p := worked(t, job(t, number), w)
		var all strings.Builder
		for _, s := range p.Steps {
			all.WriteString(s.Title + ": " + s.Detail + "\n")
		}
		return all.String()
	}
	for _, tc := range []struct {
		job   int
		ways  school.Ways
		words string
	}{
		{10, school.Ways{Mixing: school.MixedOnPalette}, "Mix enough of it on the palette first"},
		{10, school.Ways{Mixing: school.MixedOnPaper}, "let them mix on the paper"},
		{10, school.Ways{Subject: school.EdgesLost}, "lose the edge between them"},
		{3, school.Ways{SecondCoat: school.WhereNeeded}, "Where it ends, soften it with a damp brush"},
		{6, school.Ways{Pen: school.PenAccents}, "Set accents with the pen on the panel"},
		{6, school.Ways{Pen: school.PenAllRound}, "Go over the line of the panel with the pen"},
	} {
		assert.Contains(t, said(tc.job, tc.ways), tc.words)
		assert.NotContains(t, said(tc.job, school.Ways{}), tc.words)
	}
	assert.NotContains(t, said(6, school.Ways{Mixing: school.MixedOnPaper}), "let them mix on the paper", "each wash is of one paint")

	made, p := worked(t, job(t, 6), school.Ways{Pen: school.PenAllRound})
	pen, ends := from(t, made, "Go over the line of the panel")
	_, painted := from(t, made, "Back: ultramarine")
	tape, _ := from(t, made, "Take the tape off the panel")
	assert.LessOrEqual(t, painted, pen)
	assert.LessOrEqual(t, ends, tape)
	long := 0.0
	for _, mm := range p.Pieces[0].Board.Edges {
		long += mm / 2
	}
	for _, s := range p.Steps {
		if strings.HasPrefix(s.Title, "Go over the line of the panel") {
			assert.InDelta(t, 2*long/10, s.Dur.Seconds(), 0.01, "ten millimetres a second, at a pace of 2")
			assert.Positive(t, s.Dry)
		}
	}
	assert.Contains(t, steps.PaletteNote(school.Ways{}), "wetted again")
	assert.Contains(t, steps.PaletteNote(school.Ways{Palette: school.PaletteWashed}), "Wash the palette")
}
