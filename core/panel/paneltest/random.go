package paneltest

import (
	"cmp"
	"hash/crc32"
	"math"
	"math/rand/v2"
	"slices"
	"strconv"
	"testing"

	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/drying"
	"chromaqua/core/length"
	"chromaqua/core/lineart"
	"chromaqua/core/panel"
	"chromaqua/core/pigment"
	"chromaqua/core/technique"
)

// randomDPI is the resolution of boards that are made by code: two pixels a millimetre.
const randomDPI = 2 * 25.4

// Sites makes a sheet by code, without a scan: cells round so many random places of
// an egg in the middle of the panel, some with another cell inside, and the ground
// about them.
func Sites(r *rand.Rand, size length.Size, sites int) *panel.Sheet {
	w, h := int(size.W.MM()*2), int(size.H.MM()*2)
	type place struct{ x, y, nested float64 }
	var at []place
	for range sites {
		p := place{x: float64(w) * (0.12 + 0.76*r.Float64()), y: float64(h) * (0.12 + 0.76*r.Float64())}
		if r.IntN(5) == 0 {
			p.nested = 3 + 5*r.Float64()
		}
		at = append(at, p)
	}
	owner := make([]int, w*h) // 0 the ground, 1…sites, then what is nested
	for y := range h {
		for x := range w {
			dx, dy := (float64(x)/float64(w)-0.5)/0.42, (float64(y)/float64(h)-0.5)/0.42
			if dx*dx+dy*dy > 1 {
				continue
			}
			best, least := 0, math.Inf(1)
			for i, p := range at {
				if d := math.Hypot(float64(x)-p.x, float64(y)-p.y); d < least {
					best, least = i, d
				}
			}
			owner[y*w+x] = 1 + best
			if least < at[best].nested {
				owner[y*w+x] = 1 + sites + best
			}
		}
	}
	return sheetOf(owner, w, h)
}

// sheetOf draws a line of a pixel between owners and measures what it bounds.
func sheetOf(owner []int, w, h int) *panel.Sheet {
	label := make([]int, w*h)
	for y := range h {
		for x := range w {
			i := y*w + x
			edge := x+1 < w && owner[i+1] != owner[i] || y+1 < h && owner[i+w] != owner[i]
			if !edge {
				label[i] = owner[i] + 1
			}
		}
	}
	cells, sizes := numbered(label, w, h)
	d := &lineart.Drawing{W: w, H: h, DPI: randomDPI, Labels: cells}
	s := &panel.Sheet{Drawing: d, Laid: []panel.Laid{{}}}
	far := distances(cells, w, h)
	best := make([]int, len(sizes))
	edges := make([]float64, len(sizes))
	outside := make([]bool, len(sizes))
	for y := range h {
		for x := range w {
			i := y*w + x
			id := int(cells[i])
			if id == 0 {
				continue
			}
			if far[i] > far[best[id-1]] || cells[best[id-1]] != cells[i] {
				best[id-1] = i
			}
			outside[id-1] = outside[id-1] || x == 0 || y == 0 || x == w-1 || y == h-1
			for _, k := range []int{i - 1, i + 1, i - w, i + w} {
				if k >= 0 && k < len(cells) && cells[k] != cells[i] {
					edges[id-1] += 0.5 * 0.8 // a staircase is longer than the line it stands for
				}
			}
		}
	}
	for id, px := range sizes {
		at := best[id]
		d.Cells = append(d.Cells, lineart.Cell{
			ID: id + 1, AreaMM2: float64(px) / 4, InscribedMM: max(0.2, float64(far[at])/2), Outside: outside[id],
			Label: lineart.Point{X: (float64(at%w) + 0.5) / 2, Y: (float64(at/w) + 0.5) / 2},
		})
		s.Edges, s.Tight = append(s.Edges, edges[id]), append(s.Tight, edges[id]/5)
	}
	d.Neighbours = contacts(cells, w, h)
	return s
}

// numbered gives connected pixels of one label a number, largest first from 1.
func numbered(label []int, w, h int) (cells []uint16, sizes []int) {
	group := make([]int, len(label))
	var count []int
	for i := range label {
		if label[i] == 0 || group[i] > 0 {
			continue
		}
		count = append(count, 0)
		n := len(count)
		stack := []int{i}
		group[i] = n
		for len(stack) > 0 {
			k := stack[len(stack)-1]
			stack = stack[:len(stack)-1]
			count[n-1]++
			for _, j := range []int{k - 1, k + 1, k - w, k + w} {
				if j >= 0 && j < len(label) && group[j] == 0 && label[j] == label[k] && (j/w == k/w || j%w == k%w) {
					group[j] = n
					stack = append(stack, j)
				}
			}
		}
	}
	order := make([]int, len(count))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(count[b], count[a]) })
	rank := make([]uint16, len(count)+1)
	for k, g := range order {
		rank[g+1] = uint16(k + 1)
		sizes = append(sizes, count[g])
	}
	cells = make([]uint16, len(label))
	for i, g := range group {
		cells[i] = rank[g]
	}
	return cells, sizes
}

// distances are those to the nearest line or edge, in pixels, by steps.
func distances(cells []uint16, w, h int) []int {
	far := make([]int, len(cells))
	at := func(x, y int) int {
		if x < 0 || y < 0 || x >= w || y >= h {
			return 0
		}
		return far[y*w+x]
	}
	for y := range h {
		for x := range w {
			if cells[y*w+x] > 0 {
				far[y*w+x] = 1 + min(at(x-1, y), at(x, y-1))
			}
		}
	}
	for y := h - 1; y >= 0; y-- {
		for x := w - 1; x >= 0; x-- {
			if cells[y*w+x] > 0 {
				far[y*w+x] = min(far[y*w+x], 1+min(at(x+1, y), at(x, y+1)))
			}
		}
	}
	return far
}

// contacts are the pairs of cells on either side of a line.
func contacts(cells []uint16, w, h int) (out []lineart.Neighbour) {
	border := map[[2]int]float64{}
	for y := 1; y+1 < h; y++ {
		for x := 1; x+1 < w; x++ {
			if cells[y*w+x] > 0 {
				continue
			}
			var near []int
			for dy := -1; dy <= 1; dy++ {
				for dx := -1; dx <= 1; dx++ {
					if id := int(cells[(y+dy)*w+x+dx]); id > 0 && !slices.Contains(near, id) {
						near = append(near, id)
					}
				}
			}
			slices.Sort(near)
			for i, a := range near {
				for _, b := range near[i+1:] {
					border[[2]int{a, b}] += 0.5
				}
			}
		}
	}
	for k, mm := range border {
		out = append(out, lineart.Neighbour{A: k[0], B: k[1], BorderMM: mm, LineMin: 0.5, LineMed: 0.5})
	}
	slices.SortFunc(out, func(a, b lineart.Neighbour) int { return cmp.Or(cmp.Compare(a.A, b.A), cmp.Compare(a.B, b.B)) })
	return out
}

// Random returns a card made by code that passes its own check: areas of touching and
// nested cells, any technique over any other, joins, loose areas, air, heat and mixed,
// pulp and cotton, embossed and flat, one card or six. The same seed makes the same
// card.
func Random(t testing.TB, seed uint64) *panel.Board {
	r := rand.New(rand.NewPCG(seed, 0xca4d))
	c := card.New("random", length.Millimetres)
	_, err := c.Lay(card.Scan{
		Image: "0123456789abcdef0123456789abcdef0123456789abcdef0123456789abcdef", Title: "Made",
		WidthPX: 200, HeightPX: 260, Width: c.PanelSize().W,
	}, "")
	require.NoError(t, err)
	c.Line().X, c.Line().Y = 0, 0
	c.Paper = []string{"cotton-cp", "cotton-cp", "pulp-cp", "cotton-hp"}[r.IntN(4)]
	c.Ink = []string{"pigment-quick", "embossed", "solvent", "laser"}[r.IntN(4)]
	c.Drying = card.Dryings()[r.IntN(3)]
	c.Copies = []int{1, 1, 6}[r.IntN(3)]
	if r.IntN(3) == 0 {
		c.Room = drying.Room{Celsius: 12 + 20*r.Float64(), Humidity: 0.2 + 0.6*r.Float64(), Air: 0.1}
	}
	s := Sites(r, c.PanelSize(), 4+r.IntN(16))
	owner := make([]int, len(s.Cells))
	areas := 2 + r.IntN(5)
	for i := range owner {
		owner[i] = r.IntN(areas + 1) // the last stays free
	}
	owner[len(owner)-1] = 0 // so that there is something to paint
	for a := range areas {
		randomArea(t, r, c, s, owner, a)
	}
	for i := range c.Areas {
		for j := range i {
			if r.IntN(4) == 0 {
				c.SetJoin(c.Areas[i].ID, c.Areas[j].ID, true)
			}
		}
	}
	require.NoError(t, c.Check())
	return panel.Resolve(c, s.Anew())
}

// Usual are the techniques that are not rare.
func Usual() (out []technique.Kind) {
	for _, g := range technique.Groups(false) {
		out = append(out, g.All...)
	}
	return out
}

// Pick takes one of a table's rows by name, so that a row that is added to the table is
// taken now and then and leaves all other picks as they were.
func Pick[T ~string](r *rand.Rand, names []T) (best T) {
	draw, most := strconv.FormatUint(r.Uint64(), 36), uint32(0)
	for _, name := range names {
		if h := crc32.ChecksumIEEE([]byte(draw + string(name))); h >= most {
			best, most = name, h
		}
	}
	return best
}

func randomArea(t testing.TB, r *rand.Rand, c *card.Card, s *panel.Sheet, owner []int, n int) {
	id := c.AddArea("")
	var cells []int
	for i, o := range owner {
		if o == n {
			cells = append(cells, i+1)
		}
	}
	require.NoError(t, panel.Resolve(c, s).Assign(id, cells))
	a, err := c.AreaByID(id)
	require.NoError(t, err)
	a.Loose, a.Run = r.IntN(6) == 0, r.IntN(6) == 0
	techniques := Usual()
	var paints []string
	for _, p := range pigment.Library() {
		paints = append(paints, p.CI)
	}
	for range 1 + r.IntN(4) {
		w := card.Wash{Technique: technique.Flat, Strength: pigment.Tea, Mix: []card.Part{{CI: Pick(r, paints), Parts: 1}}}
		before := slices.Clone(a.Washes)
		a.Washes = append(a.Washes, w)
		require.NoError(t, a.LayAs(len(a.Washes)-1, Pick(r, techniques)))
		if last := &a.Washes[len(a.Washes)-1]; last.Technique.IntoWet() && last.Technique.Tool() == technique.PaintedBrush {
			last.OverDry = r.IntN(3) == 0
		}
		if c.Check() != nil { // water on nothing wet
			a.Washes = before
		}
	}
	if len(a.Washes) == 0 {
		Begin(t, a)
	}
}
