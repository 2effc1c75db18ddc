package photo_test

import (
	"context"
	"fmt"
	"image"
	"image/png"
	"math"
	"math/rand/v2"
	"os"
	"slices"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest/jobs"
	"chromaqua/core/photo"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
	"chromaqua/internal/standin"
)

// jobPlans are the panels of the twenty jobs, but for the relief, which has no printed line.
func jobPlans(t testing.TB) (out []*photo.Plan) {
	for _, j := range jobs.All() {
		pieces, err := j.Make().Pieces(context.Background())
		require.NoError(t, err)
		if pieces[0].Board != nil && j.Number != 12 {
			out = append(out, photo.PlanOf(pieces[0].Board, pieces[0].Board.Grey))
		}
	}
	return out
}

// drawings are those of the sample studio that have cells to paint.
var drawings = []string{"hermit-crab", "sea-star", "storm-lantern", "lighthouse", "limpets", "kelp", "otter", "boathouse", "coral", "ray", "wave-border"}

// sheetOf is a panel with a drawing on it, and its cells.
func sheetOf(t testing.TB, name string) (*card.Card, *panel.Sheet) {
	f, err := os.Open("../../internal/demo/drawings/" + name + ".png")
	require.NoError(t, err)
	defer f.Close()
	m, err := png.Decode(f)
	require.NoError(t, err)
	grey := standin.Grey(m)
	c := card.New(name, length.Millimetres)
	c.Ink = "permanent"
	size := c.PanelSize()
	wide := min(0.86*size.W.MM(), 0.86*size.H.MM()*float64(grey.Rect.Dx())/float64(grey.Rect.Dy()))
	id, err := c.Lay(card.Scan{Image: "d", Title: name, WidthPX: grey.Rect.Dx(), HeightPX: grey.Rect.Dy(), Width: length.FromMM(wide)}, shelf.LineImage)
	require.NoError(t, err)
	on, err := c.ImageByID(id)
	require.NoError(t, err)
	on.X, on.Y = size.W/2, size.H/2
	s, err := panel.Read(context.Background(), c, panel.Scans{"d": grey}, nil)
	require.NoError(t, err)
	return c, s
}

// painted is a panel whose cells are gathered by chance into areas that are painted by chance
// in one to three washes, some left bare.
func painted(t testing.TB, bare *card.Card, s *panel.Sheet, seed uint64) *photo.Plan {
	c, err := bare.Clone()
	require.NoError(t, err)
	b := panel.Resolve(c, s)
	rng := rand.New(rand.NewPCG(seed, 3))
	paints := []string{"PB29", "PO62", "PV19", "PG7", "PY150", "PBr7", "PB15:3", "PR108"}
	strengths := []pigment.Strength{pigment.Tea, pigment.Milk, pigment.Cream}
	const areas = 6
	for k := range areas {
		var washes []card.Wash
		for n := range 1 + rng.IntN(3) {
			w := card.Wash{Technique: technique.Flat, Strength: strengths[rng.IntN(2+min(1, n))], Mix: []card.Part{{CI: paints[rng.IntN(len(paints))], Parts: 1}}}
			if n > 0 {
				w.Technique = []technique.Kind{technique.Glaze, technique.PullOut}[rng.IntN(2)]
			}
			washes = append(washes, w)
		}
		a, err := c.AreaByID(c.AddArea(fmt.Sprintf("Area %d", k+1)))
		require.NoError(t, err)
		a.Washes = washes
	}
	for i := range s.Cells {
		if k := rng.IntN(areas + 1); k < areas && !s.Cells[i].Outside {
			c.Areas[k].Cells = append(c.Areas[k].Cells, b.SpotOf(s.Cells[i].ID))
		}
	}
	return photo.PlanOf(panel.Resolve(c, s), s.Grey)
}

// tally is how well many photos were read.
type tally struct {
	photos, refused             int
	cells, found                int
	missing, recalled, called   int
	short, shortTold, shortSaid int
	off                         []float64
	over, overTold              int
}

func (s *tally) add(o tally) {
	s.photos, s.refused, s.cells, s.found = s.photos+o.photos, s.refused+o.refused, s.cells+o.cells, s.found+o.found
	s.missing, s.recalled, s.called = s.missing+o.missing, s.recalled+o.recalled, s.called+o.called
	s.short, s.shortTold, s.shortSaid = s.short+o.short, s.shortTold+o.shortTold, s.shortSaid+o.shortSaid
	s.off, s.over, s.overTold = append(s.off, o.off...), s.over+o.over, s.overTold+o.overTold
}

// read takes a practice photo of a panel that was painted with slips, and reads it.
func read(t testing.TB, p *photo.Plan, seed uint64) (s tally) {
	cam := standin.Camera{Seed: seed, Wide: 1600, Tilt: 15 * float64(seed%4) / 3, Turn: float64(90*(seed%4)) + 12*math.Sin(float64(seed)), Light: 0.5 * float64(seed%3) / 2, Noise: 2 + float64(seed%4), Cast: 0.06}
	slips := standin.Slip(p, seed, 0.12, seed%2 == 0, seed%2 == 1)
	shot, err := cam.Photograph(p, slips)
	require.NoError(t, err)
	s.photos++
	r, err := photo.Read(context.Background(), shot.Photo, p)
	if err != nil {
		s.refused++
		t.Logf("seed %d: %v", seed, err)
		return s
	}
	gone := map[int]bool{}
	for _, id := range slips.Missing {
		gone[id] = true
	}
	short := map[int]bool{}
	for _, a := range slips.Short {
		short[a] = true
	}
	for i := range p.Cells {
		c, v := &p.Cells[i], r.Cells[i]
		if c.Radius < 0.8 {
			continue // no photo shows what is so small
		}
		s.cells++
		a, b := shot.To.Apply(c.At), r.To.Apply(c.At)
		side := shot.To.Apply(c.At)
		edge := c.At
		edge.X += c.Radius
		side2 := shot.To.Apply(edge)
		if math.Hypot(a.X-b.X, a.Y-b.Y) < 0.5*math.Hypot(side.X-side2.X, side.Y-side2.Y) {
			s.found++
		}
		if v.Places >= 6 {
			s.off = append(s.off, pigment.Difference(shot.Colours[i], v.Colour))
		}
		if c.Area < 0 || v.Verdict == photo.Unsure {
			continue
		}
		if gone[c.ID] {
			s.missing++
		}
		if v.Verdict == photo.Forgotten {
			s.called++
			if gone[c.ID] {
				s.recalled++
			}
		}
	}
	for a := range p.Areas {
		v := r.Areas[a]
		if len(p.Areas[a].Stages) < 3 || v.Verdict == photo.Unsure || v.Verdict == photo.Forgotten || !v.Sure {
			continue
		}
		apart := pigment.Difference(middle(p.Areas[a].Stages[len(p.Areas[a].Stages)-2]), v.WasPlans)
		if apart < 5 {
			continue
		}
		if short[a] {
			s.short++
			if v.Verdict == photo.Short {
				s.shortTold++
			}
		}
		if v.Verdict == photo.Short && !short[a] {
			s.shortSaid++
		}
	}
	for _, o := range slips.Over {
		s.over++
		for _, m := range r.Marks {
			if m.Kind == photo.OverLine && math.Hypot(m.At.X-o.X, m.At.Y-o.Y) < 2.5 {
				s.overTold++
				break
			}
		}
	}
	return s
}

func middle(s photo.Stage) pigment.Lab {
	return pigment.Lab{L: (s.Dense.L + s.Thin.L) / 2, A: (s.Dense.A + s.Thin.A) / 2, B: (s.Dense.B + s.Thin.B) / 2}
}

func share(n, of int) float64 { return float64(n) / float64(max(1, of)) }

// A hundred practice photos, tilted, turned, in falling light, with noise, are read as they
// were painted.
func TestAHundredPhotos(t *testing.T) {
	each := 8
	if testing.Short() {
		each = 1
	}
	var s tally
	var mu sync.Mutex
	var wg sync.WaitGroup
	for i, name := range drawings {
		wg.Go(func() {
			c, sheet := sheetOf(t, name)
			for k := range each {
				seed := uint64(100*i + k)
				one := read(t, painted(t, c, sheet, seed), seed)
				mu.Lock()
				s.add(one)
				mu.Unlock()
			}
		})
	}
	wg.Wait()
	if !testing.Short() {
		for i, p := range jobPlans(t)[:12] {
			s.add(read(t, p, uint64(5000+i)))
		}
	}
	slices.Sort(s.off)
	median := s.off[len(s.off)/2]
	t.Logf("%d photos, %d refused; cells found %d of %d, %.3f; missing: recall %.3f of %d, precision %.3f; median ΔE00 %.2f, nine tenths %.2f; short told %.3f of %d, wrongly %d; over the line %.2f of %d",
		s.photos, s.refused, s.found, s.cells, share(s.found, s.cells), share(s.recalled, s.missing), s.missing, share(s.recalled, s.called), median, s.off[len(s.off)*9/10], share(s.shortTold, s.short), s.short, s.shortSaid, share(s.overTold, s.over), s.over)
	assert.LessOrEqual(t, share(s.refused, s.photos), 0.02)
	assert.GreaterOrEqual(t, share(s.found, s.cells), 0.98)
	assert.GreaterOrEqual(t, share(s.recalled, s.missing), 0.97)
	assert.GreaterOrEqual(t, share(s.recalled, s.called), 0.95)
	assert.LessOrEqual(t, median, 4.0)
	assert.GreaterOrEqual(t, share(s.shortTold, s.short), 0.90)
}

// crab is the hermit crab, painted.
func crab(t testing.TB, seed uint64) *photo.Plan {
	c, s := sheetOf(t, "hermit-crab")
	return painted(t, c, s, seed)
}

func taken(t testing.TB, p *photo.Plan, cam standin.Camera, s standin.Slips) image.Image {
	shot, err := cam.Photograph(p, s)
	require.NoError(t, err)
	return shot.Photo
}

// What cannot be read is refused by its reason, and nothing is made up.
func TestPhotosThatCannotBeRead(t *testing.T) {
	p := crab(t, 1)
	c, s := sheetOf(t, "sea-star")
	star := painted(t, c, s, 2)
	usual := standin.Camera{Seed: 3, Wide: 1400, Tilt: 6, Turn: 5, Light: 0.2, Noise: 3}
	cat := image.NewRGBA(image.Rect(0, 0, 1200, 900)) // soft shapes without a line
	for i := range cat.Pix {
		x, y := float64(i/4%1200), float64(i/4/1200)
		cat.Pix[i] = uint8(128 + 90*math.Sin(x/170)*math.Cos(y/130))
	}
	dark, blurred, close := usual, usual, usual
	dark.Level, blurred.Blur, close.Fills = 0.012, 14, 1.5
	for name, try := range map[string]struct {
		m    image.Image
		want []error
	}{
		"another card": {taken(t, star, usual, standin.Slips{}), []error{photo.ErrOther}},
		"the cat":      {cat, []error{photo.ErrOther, photo.ErrBlurred, photo.ErrSmall}},
		"dark":         {taken(t, p, dark, standin.Slips{}), []error{photo.ErrDark}},
		"blurred":      {taken(t, p, blurred, standin.Slips{}), []error{photo.ErrBlurred}},
		"cut off":      {taken(t, p, close, standin.Slips{}), []error{photo.ErrCutOff, photo.ErrOther}},
		"tiny":         {image.NewRGBA(image.Rect(0, 0, 300, 200)), []error{photo.ErrSmall}},
		"black":        {image.NewRGBA(image.Rect(0, 0, 900, 700)), []error{photo.ErrDark}},
	} {
		_, err := photo.Read(context.Background(), try.m, p)
		assert.Contains(t, try.want, err, name)
	}
	stopped, cancel := context.WithCancel(context.Background())
	cancel()
	_, err := photo.Read(stopped, taken(t, p, usual, standin.Slips{}), p)
	assert.ErrorIs(t, err, context.Canceled)
}

// On a cutting mat a painted panel is found as on a plain table.
func TestOnACuttingMat(t *testing.T) {
	p := crab(t, 4)
	r, err := photo.Read(context.Background(), taken(t, p, standin.Camera{Seed: 9, Wide: 1400, Turn: 6, Tilt: 5, Noise: 2, Table: standin.Tables()[5], Grid: 12.7}, standin.Slips{}), p)
	require.NoError(t, err)
	for _, a := range r.Areas {
		assert.NotEqual(t, photo.Forgotten, a.Verdict)
	}
}

// A panel that lies sideways, or upside down, is turned; where no paper is bare that is said.
func TestSidewaysAndUnsure(t *testing.T) {
	p := crab(t, 4)
	for _, turn := range []float64{0, 90, 180, 270} {
		r, err := photo.Read(context.Background(), taken(t, p, standin.Camera{Seed: 9, Wide: 1400, Turn: turn, Noise: 2}, standin.Slips{}), p)
		require.NoError(t, err, turn)
		assert.Empty(t, r.Unsure)
		assert.Equal(t, int(p.W*5), r.Squared.Rect.Dx(), "upright")
		for _, a := range r.Areas {
			assert.NotEqual(t, photo.Forgotten, a.Verdict, "turned by %g", turn)
		}
	}
	full := *p
	full.Cells = slices.Clone(p.Cells)
	for i := range full.Cells {
		if c := &full.Cells[i]; c.Area < 0 {
			c.Area, c.Colour = 0, p.Areas[0].Stages[1].Dense
		}
	}
	r, err := photo.Read(context.Background(), taken(t, &full, standin.Camera{Seed: 9, Wide: 1400, Noise: 2}, standin.Slips{}), &full)
	require.NoError(t, err)
	assert.NotEmpty(t, r.Unsure)
}

// Too little paint on the whole is told as paler, where there is paper to tell it by.
func TestTooPaleOnTheWhole(t *testing.T) {
	p := crab(t, 6)
	r, err := photo.Read(context.Background(), taken(t, p, standin.Camera{Seed: 2, Wide: 1400, Noise: 2, Light: 0.4}, standin.Slips{Load: 0.45}), p)
	require.NoError(t, err)
	paler := 0
	for _, a := range r.Areas {
		if a.Verdict == photo.Paler || a.Verdict == photo.Short {
			paler++
			assert.NotEmpty(t, a.Leans)
		}
	}
	assert.GreaterOrEqual(t, paler, 3)
	assert.InDelta(t, 1/(1-0.4), r.Lit, 0.45, "the light is told")
}

// BenchmarkRead reads a photo of twelve million pixels.
func BenchmarkRead(b *testing.B) {
	p := crab(b, 1)
	m := taken(b, p, standin.Camera{Seed: 3, Wide: 4000, Tilt: 9, Turn: 100, Light: 0.5, Noise: 4}, standin.Slip(p, 3, 0.1, true, true))
	for b.Loop() {
		if _, err := photo.Read(context.Background(), m, p); err != nil {
			b.Fatal(err)
		}
	}
}
