// Package plancheck verifies a plan from its JSON alone. It knows nothing of how plans
// are made and imports no other package of the program, so that it can disagree.
package plancheck

import (
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"sort"
	"strings"
)

type plan struct {
	Total   int `json:"total_s"`
	HandsOn int `json:"hands_on_s"`
	Bound   int `json:"bound_s"`
	Cells   []struct {
		ID  string  `json:"id"`
		MM2 float64 `json:"mm2"`
	} `json:"cells"`
	Areas []struct {
		ID     string   `json:"id"`
		Piece  string   `json:"piece"`
		Cells  []string `json:"cells"`
		Washes []struct {
			Wash      int    `json:"wash"`
			Technique string `json:"technique"`
			Coats     int    `json:"coats"`
		} `json:"washes"`
	} `json:"areas"`
	Touch []struct {
		A, B   string
		Raised bool
	} `json:"touch"`
	Steps []step `json:"steps"`
	Heat  []struct {
		Copy  int    `json:"copy"`
		Item  int    `json:"item"`
		Piece string `json:"piece"`
		Start int    `json:"start_s"`
		End   int    `json:"end_s"`
		For   string `json:"for"`
		Dries []struct {
			Step   string  `json:"step"`
			Factor float64 `json:"factor"`
		} `json:"dries"`
	} `json:"heat"`
}

type step struct {
	ID         string   `json:"id"`
	Copy       int      `json:"copy"`
	Item       int      `json:"item"`
	Piece      string   `json:"piece"`
	Pieces     []string `json:"pieces"`
	Kind       string   `json:"kind"`
	Title      string   `json:"title"`
	Why        string   `json:"why_now"`
	Area       string   `json:"area"`
	Wash       int      `json:"wash"`
	Cells      []string `json:"cells"`
	Start      int      `json:"start_s"`
	End        int      `json:"end_s"`
	Water      float64  `json:"water_gm2"`
	Gloss      int      `json:"gloss_s"`
	Sheen      int      `json:"sheen_s"`
	TouchDry   int      `json:"touch_dry_s"`
	BoneDry    int      `json:"bone_dry_s"`
	IntoWet    []string `json:"into_wet"`
	Together   string   `json:"together"`
	Joined     []string `json:"joined"`
	Unattended bool     `json:"unattended"`
	Mask       string   `json:"mask"`
}

// one is one of the pieces that are worked on.
type one struct {
	copy, item int
	piece      string
}

func (s *step) one() one { return one{s.Copy, s.Item, s.Piece} }

// second is how exactly times are held to.
const second = 1.5

// Faults returns what does not hold of a plan; drying figures are held against still
// air at 21 °C and 50 % on cotton where still is true.
func Faults(data []byte, still bool) ([]string, error) {
	c := &checker{still: still, touch: map[string]map[string]bool{}, wall: map[string]map[string]bool{}, mm2: map[string]float64{}}
	if err := json.Unmarshal(data, &c.plan); err != nil {
		return nil, err
	}
	for _, cell := range c.Cells {
		c.mm2[cell.ID] = cell.MM2
	}
	for _, t := range c.Touch {
		to := c.touch
		if t.Raised {
			to = c.wall
		}
		for _, p := range [2][2]string{{t.A, t.B}, {t.B, t.A}} {
			if to[p[0]] == nil {
				to[p[0]] = map[string]bool{}
			}
			to[p[0]][p[1]] = true
		}
	}
	sort.SliceStable(c.Steps, func(i, j int) bool { return c.Steps[i].Start < c.Steps[j].Start })
	c.figures()
	c.onePainter()
	c.wetness()
	c.handling()
	c.everyWash()
	c.lineBeforeTape()
	c.mountedLast()
	c.masks()
	return c.faults, nil
}

type checker struct {
	plan
	still       bool
	touch, wall map[string]map[string]bool
	mm2         map[string]float64
	faults      []string
}

func (c *checker) say(rule, format string, args ...any) {
	c.faults = append(c.faults, rule+": "+fmt.Sprintf(format, args...))
}

// passed is how far the drying clock of a step's coat is at t, s.
func (c *checker) passed(a *step, t int) float64 {
	x := float64(t - a.End)
	for _, h := range c.Heat {
		if (one{h.Copy, h.Item, h.Piece}) != a.one() {
			continue
		}
		for _, d := range h.Dries {
			if d.Step == a.ID {
				x += (d.Factor - 1) * math.Max(0, float64(min(t, h.End)-max(h.Start, a.End)))
			}
		}
	}
	return x
}

// figures holds totals, ids and drying times to what they say.
func (c *checker) figures() {
	end, hands := 0, 0
	ids := map[string]bool{}
	for i := range c.Steps {
		s := &c.Steps[i]
		end = max(end, s.End)
		if !s.Unattended {
			hands += s.End - s.Start
		}
		key := fmt.Sprint(s.ID, "#", s.Copy, "#", s.Item)
		if ids[key] {
			c.say("ids", "step %s of copy %d stands twice", s.ID, s.Copy)
		}
		ids[key] = true
		if s.Why == "" {
			c.say("why", "step %s does not say why it comes now", s.ID)
		}
		if s.BoneDry < s.TouchDry || s.Sheen > s.TouchDry || s.Gloss > s.Sheen {
			c.say("stages", "step %s: gloss %d, sheen %d, touch-dry %d, bone dry %d", s.ID, s.Gloss, s.Sheen, s.TouchDry, s.BoneDry)
		}
		if c.still && s.Water > 0 && len(s.Cells) > 0 {
			largest := 0.0
			for _, id := range s.Cells {
				largest = max(largest, c.mm2[id])
			}
			if least := touchDry(s.Water, largest); float64(s.TouchDry) < 0.97*least-second {
				c.say("dry-by-largest", "step %s is called dry after %d s; its largest cell takes %.0f", s.ID, s.TouchDry, least)
			}
		}
	}
	for _, h := range c.Heat {
		hands += h.End - h.Start
		if h.For == "" || len(h.Dries) == 0 {
			c.say("heat", "a pass at %d s does not say what it is for", h.Start)
		}
	}
	if end != c.Total || hands != c.HandsOn || c.Bound > c.Total {
		c.say("totals", "%d s in all, %d hands on, bound %d; the steps make %d and %d", c.Total, c.HandsOn, c.Bound, end, hands)
	}
}

// touchDry is how long a load takes on cotton in still air, s: a pool's evaporation and
// that of a small disc, constant down to 12 g/m² and exponential below.
func touchDry(load, mm2 float64) float64 {
	const celsius, rh, air = 21.0, 0.5, 0.1
	pressure := func(t float64) float64 { return 0.61094 * math.Exp(17.625*t/(t+243.04)) }
	r := 100 * rh
	wet := celsius*math.Atan(0.151977*math.Sqrt(r+8.313659)) + math.Atan(celsius+r) - math.Atan(r-1.676331) + 0.00391838*math.Pow(r, 1.5)*math.Atan(0.023101*r) - 4.686035
	surface := (celsius + wet) / 2
	density := func(t float64) float64 { return 1000 * pressure(t) * 18.015 / (8.314 * (t + 273.15)) }
	rate := 60000 * (0.089 + 0.0782*air) * (pressure(surface) - rh*pressure(celsius)) / 2450
	rate += 240 * 2.5e-5 * math.Pow((celsius+273.15)/293, 1.75) * (density(surface) - rh*density(celsius)) / (math.Pi * math.Sqrt(mm2/math.Pi) / 1000)
	minutes := 0.0
	if load > 12 {
		minutes, load = (load-12)/rate, 12
	}
	if load > 5 {
		minutes += 12 / rate * math.Log(load/5)
	}
	return 60 * minutes
}

// onePainter: two hands do one thing at a time.
func (c *checker) onePainter() {
	type event struct {
		start, end int
		what       string
	}
	var all []event
	for _, s := range c.Steps {
		if !s.Unattended {
			all = append(all, event{s.Start, s.End, "step " + s.ID})
		}
	}
	for _, h := range c.Heat {
		all = append(all, event{h.Start, h.End, "the heat tool"})
	}
	sort.Slice(all, func(i, j int) bool { return all[i].start < all[j].start })
	for i := 1; i < len(all); i++ {
		if all[i].start < all[i-1].end {
			c.say("one-painter", "%s and %s at %d s", all[i-1].what, all[i].what, all[i].start)
		}
	}
}

// onPurpose are kinds that may meet what is damp.
func onPurpose(kind string) bool {
	return slices.Contains([]string{"lift", "blot", "drops", "spritz"}, kind)
}

// wetness: nothing wet beside wet, nothing into the damp stage.
func (c *checker) wetness() {
	for i := range c.Steps {
		b := &c.Steps[i]
		if len(b.Cells) == 0 {
			continue
		}
		wets := b.Water > 0
		cb := set(b.Cells)
		if wets && b.Together == "" && c.touches(cb, cb) {
			c.say("no-wet-touch", "step %s paints touching cells at once", b.ID)
		}
		for j := range c.Steps[:i] {
			a := &c.Steps[j]
			if a.one() != b.one() || a.Water <= 0 || len(a.Cells) == 0 {
				continue
			}
			live := c.live(a, i)
			t := c.passed(a, b.Start)
			if len(live) == 0 {
				continue
			}
			if late := float64(a.Sheen) + float64(a.TouchDry-a.Sheen)/5; b.Kind == "spritz" && b.Area == a.Area && meet(live, cb) && t < float64(a.TouchDry)-second &&
				(t < float64(a.Gloss)-second || t > late+second) {
				c.say("as-it-dulls", "step %s on step %s after %.0f s, whose gloss lasts %d and sheen %d", b.ID, a.ID, t, a.Gloss, a.Sheen)
			}
			into := slices.Contains(b.IntoWet, a.ID)
			if b.Start < a.End {
				c.say("no-wet-touch", "step %s begins before step %s ends", b.ID, a.ID)
				continue
			}
			if onPurpose(b.Kind) && !wets && meet(live, cb) && t < float64(a.TouchDry)-second && b.Kind == "lift" && t < float64(a.Gloss)-second {
				c.say("too-wet", "step %s lifts from step %s while that has its gloss", b.ID, a.ID)
			}
			if t >= float64(a.TouchDry)-second {
				if into && t > float64(a.TouchDry)+second {
					c.say("no-water-into-damp", "step %s goes into step %s, which is dry", b.ID, a.ID)
				}
				continue
			}
			if !wets {
				if lifted := b.Kind == "unmask" && liftedAtOnce(b.Mask); meet(live, cb) && !onPurpose(b.Kind) && !lifted {
					c.say("no-water-into-damp", "step %s on wet step %s", b.ID, a.ID)
				}
				continue
			}
			joined := slices.Contains(a.Joined, b.ID) || slices.Contains(b.Joined, a.ID)
			if !into && c.touches(minus(live, cb), cb) {
				switch {
				case !joined:
					c.say("no-wet-touch", "step %s beside step %s, %.0f s too early", b.ID, a.ID, float64(a.TouchDry)-t)
				case t > float64(a.Sheen)+second:
					c.say("no-wet-touch", "step %s meets step %s when that is damp", b.ID, a.ID)
				}
			}
			if meet(live, cb) && !onPurpose(b.Kind) {
				switch {
				case !into:
					c.say("no-water-into-damp", "step %s on step %s after %.0f s, dry at %d, and not meant", b.ID, a.ID, t, a.TouchDry)
				case t > float64(a.Sheen)+second:
					c.say("no-water-into-damp", "step %s into step %s after %.0f s, whose sheen lasts %d", b.ID, a.ID, t, a.Sheen)
				}
			}
		}
	}
}

// live is what is left of a coat before the ith step: where another went into it, that
// counts instead.
func (c *checker) live(a *step, i int) map[string]bool {
	out := set(a.Cells)
	for k := range c.Steps[:i] {
		s := &c.Steps[k]
		if s.one() == a.one() && slices.Contains(s.IntoWet, a.ID) {
			for _, id := range s.Cells {
				delete(out, id)
			}
		}
	}
	return out
}

// opaque reports a step of mica or opaque white, over which a pen goes once it is touch-dry.
func opaque(c *checker, s *step) bool {
	for _, a := range c.Areas {
		if a.ID == s.Area {
			for _, w := range a.Washes {
				if w.Wash == s.Wash {
					return w.Technique == "shimmer" || w.Technique == "white-veil"
				}
			}
		}
	}
	return false
}

// everyWash: each cell of each area gets each wash once on each of each copy's pieces.
func (c *checker) everyWash() {
	type key struct {
		one
		wash       int
		area, cell string
	}
	seen := map[key]int{}
	on := map[one]bool{}
	for i := range c.Steps {
		s := &c.Steps[i]
		if s.Wash < 0 {
			continue
		}
		on[s.one()] = true
		for _, id := range s.Cells {
			seen[key{s.one(), s.Wash, s.Area, id}]++
		}
	}
	if len(seen) == 0 {
		c.say("every-wash-once", "no wash in the plan")
	}
	for n := range on {
		for _, a := range c.Areas {
			if a.Piece != n.piece {
				continue
			}
			for _, w := range a.Washes {
				for _, id := range a.Cells {
					if k := seen[key{n, w.Wash, a.ID, id}]; k != 1 {
						c.say("every-wash-once", "cell %s of %s gets wash %d %d times", id, a.ID, w.Wash, k)
					}
				}
			}
		}
	}
}

// lineBeforeTape: a piece is stamped in the positioner, before it is taped or once it is
// off its board again.
func (c *checker) lineBeforeTape() {
	taped := map[one]int{}
	for i := range c.Steps {
		s := &c.Steps[i]
		switch s.Kind {
		case "tape":
			taped[s.one()] = s.Start
		case "untape", "hold":
			delete(taped, s.one())
		case "line", "emboss":
			if at, is := taped[s.one()]; is && s.End > at {
				c.say("line-before-tape", "step %s", s.ID)
			}
		}
	}
}

// mountedLast: a piece is mounted once all is done on it, every piece in the end; what is
// done to the whole card, and what is set on it, comes after. What was painted wet is
// flattened before it is mounted, or with the card.
func (c *checker) mountedLast() {
	mounted := map[int]map[string]bool{} // by copy, the pieces
	for i := range c.Steps {
		if m := &c.Steps[i]; m.Kind == "mount" {
			if mounted[m.Copy] == nil {
				mounted[m.Copy] = map[string]bool{}
			}
			for _, p := range m.Pieces {
				mounted[m.Copy][p] = true
			}
		}
	}
	for i := range c.Steps {
		m := &c.Steps[i]
		if m.Kind != "mount" {
			continue
		}
		for k := range c.Steps {
			s := &c.Steps[k]
			if s.Copy != m.Copy || s.Kind == "mount" {
				continue
			}
			whole := s.Kind == "set" || !mounted[s.Copy][s.Piece]
			switch {
			case !whole && slices.Contains(m.Pieces, s.Piece) && s.End > m.Start:
				c.say("mounted-last", "step %s ends after %s begins", s.ID, m.ID)
			case whole && s.Start < m.End:
				c.say("after-mounting", "step %s begins before %s ends", s.ID, m.ID)
			}
			if !whole && s.Water >= warps && slices.Contains(m.Pieces, s.Piece) && !c.flattened(s, m) {
				c.say("warped-glued", "step %s warps %s, which %s glues", s.ID, s.Piece, m.ID)
			}
		}
	}
}

// warps is from how much water a sheet is flattened, g/m².
const warps = 35

// flattened reports whether the piece of a wash lies under weight, or is pressed in a folder,
// before it is mounted, or with the card.
func (c *checker) flattened(wash, m *step) bool {
	return slices.ContainsFunc(c.Steps, func(s step) bool {
		if s.Copy != wash.Copy {
			return false
		}
		flat := (s.Kind == "flatten" || s.Kind == "press") && s.Piece == wash.Piece && s.Start >= wash.End && s.End <= m.Start
		return flat || s.Kind == "set" && strings.Contains(s.Title, "Flatten") && s.Start >= m.End
	})
}
