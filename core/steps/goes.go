package steps

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/drying"
	"chromaqua/core/lineart"
	"chromaqua/core/order"
	"chromaqua/core/panel"
	"chromaqua/core/technique"
	"chromaqua/core/wording"
)

// A patch is what is wet as one: a cell, or touching cells that may run together.
type patch struct {
	cells []int
	mm2   float64
	at    lineart.Point // label of its largest cell
}

// A sweep is what is painted at one go: patches that do not touch each other.
type sweep []patch

func (s sweep) cells() (out []int) {
	for _, p := range s {
		out = append(out, p.cells...)
	}
	return out
}

// A group is a wash with what goes into it while it is wet. All of it is done go by go.
type group struct {
	from, to int // washes, to excluded
	goes     []sweep
}

// spots reports whether a group is lines, dabs or drops, which do not reach from one
// cell to the next, and nothing goes into them.
func (g *group) spots(a *card.Area) bool {
	return g.to == g.from+1 && !a.Washes[g.from].Technique.Covers()
}

// A lay is how the washes of an area are laid.
type lay struct {
	touches  bool // cells of it touch across a line that is not raised
	together Together
	groups   []group
	ground   bool
}

// groupOf is the group a wash belongs to.
func (l *lay) groupOf(wash int) *group {
	for i := range l.groups {
		if g := &l.groups[i]; wash < g.to {
			return g
		}
	}
	return &l.groups[len(l.groups)-1]
}

// part parts every area into goes, and leaves out what would make more operations
// than can be put in order.
func (c *task) part(most int) {
	c.lays = make([]lay, len(c.board.Areas))
	inside := make([][]panel.Contact, len(c.board.Areas))
	on := map[int][]int{} // areas by cell
	for i := range c.board.Areas {
		for _, id := range c.board.Areas[i].Cells {
			on[id] = append(on[id], i)
		}
	}
	for _, t := range c.contacts {
		for _, a := range on[t.A] {
			if slices.Contains(on[t.B], a) {
				inside[a] = append(inside[a], t)
			}
		}
	}
	for i := range c.board.Areas {
		if a := &c.board.Areas[i]; len(a.Cells) > 0 && len(a.Washes) > 0 {
			c.lays[i] = c.partArea(i, inside[i])
		}
	}
	c.findGrounds()
	c.leaveOut(most)
}

func (c *task) partArea(i int, inside []panel.Contact) lay {
	a := &c.board.Areas[i]
	meet := slices.DeleteFunc(slices.Clone(inside), func(t panel.Contact) bool { return t.Raised })
	l := lay{touches: len(meet) > 0}
	switch {
	case len(meet) == 0:
	case a.Loose:
		l.together = Loosely
	case a.Run:
		l.together = Joined
	}
	for k := 0; k < len(a.Washes); {
		g := group{from: k, to: k + 1}
		for g.to < len(a.Washes) && a.Washes[g.to].IntoWet(g.to) && c.stage(i, g.to) == c.stage(i, k) && !c.maskBetween(i, k, g.to) {
			g.to++
		}
		if g.spots(a.Area) {
			g.goes = []sweep{c.each(a)}
		} else {
			for _, r := range c.rounds(a, meet, append(c.board.Open(inside, i, k), c.board.PaintedOver(inside, i)...), l.together) {
				g.goes = append(g.goes, c.inTime(a, g, r)...)
			}
		}
		l.groups = append(l.groups, g)
		k = g.to
	}
	return l
}

// rounds parts the cells of an area so that no two of a round touch; cells that may
// run together, or that nothing parts yet, make one patch.
func (c *task) rounds(a *panel.Area, meet, open []panel.Contact, together Together) []sweep {
	if together != OnItsOwn {
		return []sweep{c.patches(a, append(slices.Clone(meet), open...))}
	}
	whole := c.patches(a, open)
	at := map[int]int{} // patch by cell
	for i, p := range whole {
		for _, id := range p.cells {
			at[id] = i
		}
	}
	near := make([][]int, len(whole))
	for _, t := range meet {
		if i, j := at[t.A], at[t.B]; i != j {
			near[i], near[j] = append(near[i], j), append(near[j], i)
		}
	}
	var out []sweep
	for i, colour := range colours(near) {
		for len(out) <= colour {
			out = append(out, nil)
		}
		out[colour] = append(out[colour], whole[i])
	}
	return out
}

// each is every cell of an area by itself: lines, dabs and drops do not reach from one
// to the next.
func (c *task) each(a *panel.Area) (out sweep) {
	for _, id := range a.Cells {
		out = append(out, c.patch(id))
	}
	return out
}

func (c *task) patch(cells ...int) patch {
	p := patch{cells: cells}
	for k, id := range cells {
		cell := c.board.Part(id)
		if p.mm2 += cell.AreaMM2; k == 0 {
			p.at = cell.Label // cells are kept largest first
		}
	}
	return p
}

// patches gathers cells that contacts connect.
func (c *task) patches(a *panel.Area, by []panel.Contact) (out sweep) {
	at := map[int]int{}
	for i, id := range a.Cells {
		at[id] = i
	}
	near := make([][]int, len(a.Cells))
	for _, t := range by {
		i, j := at[t.A], at[t.B]
		near[i], near[j] = append(near[i], j), append(near[j], i)
	}
	seen := make([]bool, len(near))
	for i := range near {
		if seen[i] {
			continue
		}
		list := []int{i}
		seen[i] = true
		for k := 0; k < len(list); k++ {
			for _, j := range near[list[k]] {
				if !seen[j] {
					seen[j] = true
					list = append(list, j)
				}
			}
		}
		slices.Sort(list)
		var cells []int
		for _, j := range list {
			cells = append(cells, a.Cells[j])
		}
		out = append(out, c.patch(cells...))
	}
	return out
}

// colours colours a graph so that no two neighbours have one colour, greedily: the
// vertex whose neighbours have most colours first, of those the one with most
// neighbours (Brélaz 1979). It takes time quadratic in the vertices.
func colours(near [][]int) []int {
	out := make([]int, len(near))
	taken := make([]map[int]bool, len(near))
	for i := range out {
		out[i], taken[i] = -1, map[int]bool{}
	}
	for range near {
		pick := -1
		for i := range near {
			if out[i] < 0 && (pick < 0 || cmp.Or(cmp.Compare(len(taken[i]), len(taken[pick])), cmp.Compare(len(near[i]), len(near[pick]))) > 0) {
				pick = i
			}
		}
		colour := 0
		for taken[pick][colour] {
			colour++
		}
		out[pick] = colour
		for _, j := range near[pick] {
			taken[j][colour] = true
		}
	}
	return out
}

// openShare is the part of the time the first cell stays open in which a go is to be
// done, with all that is dropped into it.
const openShare = 0.6

// inTime parts a round so that each go is done while its first cell is open. A patch
// that is too large for that alone is a go of its own.
func (c *task) inTime(a *panel.Area, g group, round sweep) (out []sweep) {
	if g.to == g.from+1 {
		return []sweep{round}
	}
	// Every patch is led along; when an area is cut up the sums are near enough those
	// of whole goes, since edges count most.
	base := a.Washes[g.from].Technique
	var now sweep
	spent, smallest := time.Duration(0), math.Inf(1)
	for _, p := range shortWay(round) {
		t, least := c.takes(a, g, p), min(smallest, p.mm2)
		open := c.paper.Surface.Until(drying.Damp, base.Laid(), least, c.board.Card.Room)
		if len(now) > 0 && spent+t+c.rinses(g) > time.Duration(openShare*float64(open)) {
			out = append(out, now)
			now, spent, least = nil, 0, p.mm2
		}
		now = append(now, p)
		spent, smallest = spent+t, least
	}
	return append(out, now)
}

// takes is how long all washes of a group take on a patch.
func (c *task) takes(a *panel.Area, g group, p patch) (sum time.Duration) {
	for k := g.from; k < g.to; k++ {
		d, _ := c.takesOf(a.Washes[k], c.indexOf(a), k, p.cells)
		sum += d
	}
	return sum
}

// indexOf is the place of an area of the board.
func (c *task) indexOf(a *panel.Area) int {
	return slices.IndexFunc(c.board.Areas, func(o panel.Area) bool { return o.ID == a.ID })
}

func (c *compiler) rinses(g group) time.Duration { return time.Duration(g.to-g.from-1) * rinseTime }

// shortWay orders patches so that each is near the one before, from the top left.
func shortWay(patches sweep) sweep {
	left := slices.Clone(patches)
	out := make(sweep, 0, len(left))
	at := lineart.Point{}
	for len(left) > 0 {
		best, least := 0, math.Inf(1)
		for i, p := range left {
			if d := math.Hypot(p.at.X-at.X, p.at.Y-at.Y); d < least {
				best, least = i, d
			}
		}
		at = left[best].at
		out = append(out, left[best])
		left = slices.Delete(left, best, best+1)
	}
	return out
}

// letter names the nth of several goes: a, b … z, aa.
func letter(n, of int) string {
	if of < 2 {
		return ""
	}
	name := ""
	for n++; n > 0; n = (n - 1) / 26 {
		name = string(rune('a'+(n-1)%26)) + name
	}
	return name
}

// lettered gives a step the letter of its go.
func (s *Step) lettered(letter string) {
	s.Go = letter
	if s.plain == "" {
		return
	}
	if s.Title = s.plain; letter != "" {
		s.Title += fmt.Sprintf(" (%s, %s)", s.Name(), wording.Count(len(s.Cells), "cell"))
	}
}

// Lettered is the plan with the goes of each area named in the order in which they are begun:
// a before b. Its keys and all else are as they were.
func (p *Plan) Lettered(s *order.Schedule) *Plan {
	type area struct{ piece, area int }
	type of struct {
		area
		letter string
	}
	goOf := func(st *Step) of { return of{area{st.Piece, st.On.Area}, st.Go} }
	begun, now := map[area]int{}, map[of]string{}
	for _, at := range s.Ops {
		if st := &p.Steps[at.Op]; st.Go != "" && now[goOf(st)] == "" {
			o := goOf(st)
			now[o] = letter(begun[o.area], 2)
			begun[o.area]++
		}
	}
	out := *p
	out.Steps = slices.Clone(p.Steps)
	for i := range out.Steps {
		if st := &out.Steps[i]; st.Go != "" {
			st.lettered(now[goOf(st)])
		}
	}
	return &out
}

// film is the water of a wash, of itself or with the film it goes into.
type film struct{ laid, left drying.GramsPerSquareMetre }

func filmOf(t technique.Kind) film { return film{t.Laid(), t.Left()} }

// into is what stands when a wash goes into the film below: a brush tops that up to
// what it would leave on dry paper, it does not add its water to it.
func (f film) into(below film) film {
	return film{max(f.laid, below.left), max(f.left, below.left)}
}

// dries fills in how long a step's film stays open and wet: the largest patch is dry
// last, the smallest loses its sheen first.
func (c *task) dries(s *Step, patches sweep, f film) {
	largest, smallest := 0.0, math.Inf(1)
	for _, p := range patches {
		largest, smallest = max(largest, p.mm2), min(smallest, p.mm2)
	}
	on, room := c.paper.Surface, c.board.Card.Room
	s.Water = f.left
	s.Dry, s.Bone = on.Until(drying.TouchDry, f.left, largest, room), on.Until(drying.BoneDry, f.left, largest, room)
	after := func(stage drying.Stage) time.Duration {
		return min(s.Dry, max(0, on.Until(stage, f.laid, smallest, room)-s.Dur))
	}
	s.Gloss, s.Open = after(drying.Sheen), after(drying.Damp)
}
