package reserve

import (
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"chromaqua/core/drying"
	"chromaqua/core/length"
	"chromaqua/core/mask"
	"chromaqua/core/pigment"
)

// coat is one coat of a paint, as strong as a load.
type coat struct {
	ci   string
	load float64
}

func (c coat) on(s pigment.Spectrum) pigment.Spectrum {
	p, err := pigment.ByCI(c.ci)
	if err != nil {
		panic(err)
	}
	return pigment.Stack(s, pigment.Coat{Paint: p.Paint(), Load: pigment.Load(c.load)})
}

// maker is a case as a maker would describe it, with what a seasoned one does.
type maker struct {
	name           string
	pieces         int
	mm2, edge      float64
	widest, narrow float64
	straight       float64
	runs           int
	ground         float64
	wash, subject  coat // subject of no paint stays white
	pulp, dry      bool
	chance, stamp  bool
	stencil, taped bool
	keeps          bool
	does           []mask.Way // any of these first
	either         bool
	reason         string
}

// twelve are the cases that have to come out as a maker would have them.
var twelve = []maker{
	{name: "dots on a night", pieces: 60, mm2: 47, edge: 188, widest: 0.5, narrow: 1, ground: 11000, wash: coat{"PB15:3", 6}, chance: true, does: []mask.Way{mask.After, mask.Spatter}, reason: "white sinks"},
	{name: "leaves", pieces: 12, mm2: 2640, edge: 840, widest: 4, narrow: 2, ground: 9400, wash: coat{"PB29", 2}, does: []mask.Way{mask.Round, mask.Fluid}, either: true},
	{name: "a horizon", pieces: 1, mm2: 4500, edge: 128, straight: 128, runs: 1, widest: 17, narrow: 30, ground: 7500, wash: coat{"PB29", 1.5}, subject: coat{"PY42", 0.6}, does: []mask.Way{mask.Tape}, reason: "straight"},
	{name: "thirty flowers on cotton", pieces: 30, mm2: 2000, edge: 1900, widest: 3, narrow: 2, ground: 10000, wash: coat{"PB15:3", 2}, does: []mask.Way{mask.Fluid}, reason: "runs freely"},
	{name: "dark on a pale sky", pieces: 1, mm2: 1500, edge: 260, widest: 9, narrow: 1.5, ground: 10500, wash: coat{"PB29", 0.35}, subject: coat{"PBk9", 5}, does: []mask.Way{mask.Over}, reason: "hides the wash"},
	{name: "pale on a dark ground", pieces: 1, mm2: 1100, edge: 190, widest: 12, narrow: 4, ground: 11000, wash: coat{"PB29", 4}, subject: coat{"PY42", 0.4}, does: []mask.Way{mask.Round}, reason: "stays open"},
	{name: "thirty flowers on wood pulp", pieces: 30, mm2: 2000, edge: 1900, widest: 3, narrow: 2, ground: 10000, wash: coat{"PB15:3", 2}, pulp: true, does: []mask.Way{mask.Round}},
	{name: "a border", pieces: 1, mm2: 4500, edge: 430, straight: 430, runs: 4, widest: 5, narrow: 10, ground: 8000, wash: coat{"PB29", 2}, taped: true, does: []mask.Way{mask.Tape}, reason: "lies there anyway"},
	{name: "a ground through a stencil", pieces: 40, mm2: 3000, edge: 1500, widest: 4, narrow: 3, ground: 9000, wash: coat{"PB15:3", 1}, dry: true, stencil: true, does: []mask.Way{mask.Stencil}, reason: "a stencil of it is there"},
	{name: "highlights of a millimetre", pieces: 20, mm2: 16, edge: 63, widest: 0.5, narrow: 1, ground: 600, wash: coat{"PBr7", 3}, does: []mask.Way{mask.After, mask.Pen}, either: true},
	{name: "a frame and what breaks out of it", pieces: 1, mm2: 4000, edge: 430, straight: 370, runs: 4, widest: 5, narrow: 4, ground: 8000, wash: coat{"PB15:3", 3}, taped: true, does: []mask.Way{mask.Tape}, reason: "60 mm are cut in along"},
	{name: "two colours, the first kept", pieces: 25, mm2: 700, edge: 1100, widest: 1.2, narrow: 0.8, ground: 11000, wash: coat{"PB15:3", 3}, subject: coat{"PY150", 0.5}, stamp: true, keeps: true, does: []mask.Way{mask.Resist}, reason: "keeps the colour under it"},
}

// of is a maker's case, all sizes by factors of their own.
func (m *maker) of(factor func() float64) Case {
	white, err := pigment.Paper("white")
	if err != nil {
		panic(err)
	}
	surface, lifts := drying.Cotton, -1.0
	if m.pulp {
		surface = drying.Pulp
	}
	c := Case{Unit: length.Millimetres,
		Shape:     mask.Shape{Pieces: m.pieces, MM2: m.mm2 * factor(), EdgeMM: m.edge * factor(), Straight: m.straight, Runs: m.runs, Widest: m.widest * factor(), Narrow: m.narrow * factor()},
		GroundMM2: m.ground * factor(), Front: 96, Along: 128, Fill: 19, Pace: 2, Dry: m.dry, Pulp: m.pulp, Lifts: lifts,
		Chance: m.chance, Stamp: m.stamp, Stencilled: m.stencil, Taped: m.taped, Keeps: m.keeps,
	}
	c.Straight = min(c.EdgeMM, m.straight*factor())
	if m.straight == m.edge {
		c.Straight = c.EdgeMM
	}
	c.Open = surface.Until(drying.Damp, drying.FlatWash, c.GroundMM2, drying.StillRoom)
	c.Unheated = max(0, surface.Until(drying.BoneDry, drying.FlatWash, c.GroundMM2, drying.StillRoom)-5*time.Minute)
	c.Shift, c.White = colours(func(ground bool, whites int) pigment.Lab {
		at := white
		if ground {
			at = m.wash.on(at)
		}
		for range whites {
			at = coat{"PW6", 1.5}.on(at)
		}
		if m.subject.ci != "" {
			at = m.subject.on(at)
		}
		return at.Lab()
	})
	return c
}

func exactly() float64 { return 1 }

func TestTwelveCases(t *testing.T) {
	for _, m := range twelve {
		c := m.of(exactly)
		all := Compare(c)
		for _, o := range all[:4] {
			t.Logf("%s: %-16s %5.1f (hands %.1f, waiting %.0f, risk %.3f) %s %s", m.name, o.Way, o.Score, o.HandsOn.Minutes(), o.Waiting.Minutes(), o.Risk, o.Reason, o.Barred)
		}
		assert.Contains(t, m.does, all[0].Way, m.name)
		assert.Contains(t, all[0].Reason, m.reason, m.name)
		if m.either {
			assert.Greater(t, Either(all), 1, m.name)
			assert.Contains(t, m.does, all[1].Way, m.name)
		}
		for _, o := range all {
			assert.True(t, o.Reason != "" || o.Barred != "", "%s: %s has a reason", m.name, o.Way)
		}
	}
}

// Two percent more or less of anything flips no advice, but between ways that are as good.
func TestALittleFlipsNothing(t *testing.T) {
	r := rand.New(rand.NewPCG(9, 9))
	for _, m := range twelve {
		first := Compare(m.of(exactly))
		as := map[mask.Way]bool{}
		for _, o := range first[:Either(first)] {
			as[o.Way] = true
		}
		for range 300 {
			moved := Compare(m.of(func() float64 { return 0.98 + 0.04*r.Float64() }))
			assert.True(t, as[moved[0].Way], "%s: %s instead of %s", m.name, moved[0].Way, first[0].Way)
		}
	}
}

// Fluid on wood pulp is never first where it can be painted round, be the room or the pace
// what it may; a test of the maker's own outranks what is generally known.
func TestFluidOnPulp(t *testing.T) {
	r := rand.New(rand.NewPCG(4, 4))
	for range 500 {
		m := twelve[r.IntN(len(twelve))]
		m.pulp = true
		c := m.of(func() float64 { return 0.5 + r.Float64() })
		c.Pace, c.Open = 1+2*r.Float64(), time.Duration(float64(c.Open)*(0.3+r.Float64()))
		all := Compare(c)
		if round := c.option(mask.Round); round.Barred == "" {
			assert.False(t, all[0].Way.Facts().Soft, m.name)
		}
	}
	m := twelve[3]
	c := m.of(exactly)
	c.Lifts = 1
	assert.NotEqual(t, mask.Fluid, Compare(c)[0].Way, "it tore every time")
}

// Lengths are told as they stand on the maker's ruler.
func TestReasonsAreInTheMakersUnit(t *testing.T) {
	c := Case{Shape: mask.Shape{EdgeMM: 254, Straight: 127, Runs: 4, Narrow: 20, MM2: 4000, Pieces: 1}, GroundMM2: 9000, Open: time.Hour, Fill: 19, Pace: 1}
	for unit, want := range map[length.Unit][2]string{
		length.Millimetres: {"254 mm to cut in along, 127 mm of it straight, which no free hand keeps", "127 mm of it are straight; 127 mm are cut in along"},
		length.Inches:      {"10 in to cut in along, 5 in of it straight, which no free hand keeps", "5 in of it are straight; 5 in are cut in along"},
	} {
		c.Unit = unit
		assert.Equal(t, want[0], c.option(mask.Round).Reason)
		assert.Equal(t, want[1], c.option(mask.Tape).Reason)
	}
}

// How near opaque white has to come to what is wanted, ΔE00, and how often it is put on at
// most.
const (
	whiteNear = 8
	whiteMost = 5
)

// colours returns how far a wash below shifts what comes on it, ΔE00, and how many coats of
// opaque white on that wash bring it to what it is without, 0 where none do. seen is what
// comes on it, with the wash below or not and so many coats of white between.
func colours(seen func(ground bool, whites int) pigment.Lab) (shift float64, white int) {
	wanted := seen(false, 0)
	shift = pigment.Difference(wanted, seen(true, 0))
	for n := 1; n <= whiteMost; n++ {
		if pigment.Difference(wanted, seen(true, n)) <= whiteNear {
			return shift, n
		}
	}
	return shift, 0
}
