// Package ink answers "with what do I make this line?": it ranks the inks and
// methods of the shelf for the look that is wanted of the line, the paper, and
// the wettest wash that will go over it. General facts are outranked by the
// maker's own tests.
package ink

import (
	"cmp"
	"fmt"
	"slices"
	"time"

	"chromaqua/core/drying"
	"chromaqua/core/proof"
	"chromaqua/core/shelf"
	"chromaqua/core/wording"
)

// Need is what the line has to do.
type Need struct {
	Look   shelf.Look
	Paper  shelf.Paper
	Own    []shelf.Own    // inks of the maker's, ranked among the general ones
	OnOwn  string         // name of the paper when it is the maker's
	Wet    bool           // a real wash goes over it, wetter than a damp brush
	Heat   bool           // the maker dries with the heat tool
	LineMM float64        // thickness of its thinnest lines; 0 when not known
	Tests  []proof.Record // the maker's, the latest first
	Goes   bool           // a line that is to vanish goes into the paint, which is how the maker likes it
}

// Choice is one way of making the line.
type Choice struct {
	Ink         shelf.Ink
	Name        string        // of the maker's own, "" for a general one
	Verdict     proof.Verdict // under the washes planned
	Own         *proof.Record // the maker's test the verdict comes from; nil when it is general
	Fit         Fit
	Impressions string        // how often it is stamped, "" when it is not
	Positioner  string        // how the stamp goes into it
	Powder      string        // whether to emboss it, and with what
	Wait        time.Duration // until it may be painted, as the maker dries
	Reasons     []string
	Risks       []string
	score       float64
}

// Fit is how well a choice does what is needed.
type Fit string

// The fits, best first.
const (
	Right   Fit = "right for it"
	Passes  Fit = "will do"
	Doubted Fit = "doubtful"
	Wrong   Fit = "wrong for it"
)

// Thickness of lines from which powders hold detail, mm.
const (
	fineLine = 0.4 // thinner needs superfine powder
)

// goesBonus is what an ink that dissolves gains where a vanishing line is to go into the
// paint: it comes before those that hold, which are good for that look too.
const goesBonus = 2

// Rank returns all choices, the best first.
func Rank(n Need) []Choice {
	var out []Choice
	for _, k := range shelf.Inks() {
		out = append(out, judge(k, "", n))
	}
	for _, o := range n.Own {
		if o.What == shelf.OwnInk {
			out = append(out, judge(o.Ink(), o.Name, n))
		}
	}
	slices.SortStableFunc(out, func(a, b Choice) int { return cmp.Compare(b.score, a.score) })
	return out
}

func judge(k shelf.Ink, own string, n Need) Choice {
	c := Choice{Ink: k, Name: own, Verdict: proof.Runs, Wait: k.AirDry}
	if k.Holds {
		c.Verdict = proof.Holds
	}
	if t := proof.Latest(n.Tests, proof.Of{Ink: k.ID, OwnInk: own, Paper: n.Paper.ID, OwnPaper: n.OnOwn}); t != nil {
		c.Own, c.Verdict = t, t.Verdict
		c.Reasons = append(c.Reasons, fmt.Sprintf("Your own test on this paper: it %s (bleeds %.1f mm).", verb(t.Verdict), t.BleedMM))
	}
	if own != "" {
		c.score += 0.25 // at hand
	}
	if n.Heat && k.HeatDry > 0 {
		c.Wait = k.HeatDry
	}
	c.look(n)
	c.water(n)
	c.paper(n)
	c.powder(n)
	c.score -= min(2, c.Wait.Minutes()/60) // of two alike, the one that is sooner ready
	if k.Risk != "" {
		c.Risks = append(c.Risks, wording.Upper(k.Risk)+".")
	}
	switch {
	case c.score >= 3:
		c.Fit = Right
	case c.score >= 1:
		c.Fit = Passes
	case c.score >= -2:
		c.Fit = Doubted
	default:
		c.Fit = Wrong
	}
	return c
}

func verb(v proof.Verdict) string {
	return map[proof.Verdict]string{proof.Holds: "holds", proof.Soft: "softens", proof.Runs: "runs"}[v]
}

// look weighs whether the ink is meant for the look.
func (c *Choice) look(n Need) {
	if i := slices.Index(c.Ink.Looks, n.Look); i >= 0 {
		c.score += 4 - 0.5*float64(i)
		if n.Look == shelf.Vanishing && n.Goes && !c.Ink.Holds {
			c.score += goesBonus
			c.Reasons = append(c.Reasons, "It goes into the paint, as you like a vanishing line to.")
		}
		return
	}
	c.score -= 3
	c.Reasons = append(c.Reasons, fmt.Sprintf("It is not made for a %s line.", n.Look))
}

// water weighs what the washes do to the line: ruin for a line that should stay,
// the point of one that is to be pulled.
func (c *Choice) water(n Need) {
	reacts := n.Look == shelf.Pulled || n.Look == shelf.Solid
	switch {
	case reacts && c.Verdict == proof.Holds:
		c.score -= 5
		c.Reasons = append(c.Reasons, "It holds, so no colour can be drawn out of it.")
	case reacts:
		c.Reasons = append(c.Reasons, "Water draws colour out of it, which is what you want.")
	case !n.Wet:
		if c.Verdict != proof.Holds {
			c.score--
			c.Reasons = append(c.Reasons, "It stands a damp brush if you are quick, not a wash.")
		}
	case c.Verdict == proof.Holds:
		c.Reasons = append(c.Reasons, "It stands the washes you plan once it is dry.")
	case n.Look == shelf.Vanishing:
		c.Reasons = append(c.Reasons, "It dissolves into the wash and tints it a little.")
	case c.Verdict == proof.Soft:
		c.score -= 2
		c.Reasons = append(c.Reasons, "It softens under a wash.")
	default:
		c.score -= 6
		c.Reasons = append(c.Reasons, "It runs under the washes you plan.")
	}
	if c.Own != nil && c.Verdict == proof.Holds && !reacts {
		c.score++ // seen is surer than said
	}
}

// paper weighs the paper's texture, and says how to stamp on it.
func (c *Choice) paper(n Need) {
	if c.Ink.Method == shelf.Stamped {
		c.Impressions = n.Paper.Texture.Impressions()
		if n.Paper.Texture != shelf.Smooth {
			c.Positioner = "in a positioner: thick cling rubber without its foam insert, thin photopolymer with it"
		}
	}
	switch {
	case n.Paper.Texture == shelf.Smooth:
	case c.Ink.ID == "solvent", c.Ink.ID == "laser":
		c.score -= 1.5
	case c.Ink.Method == shelf.Printed:
		c.score--
	}
	if n.Paper.Texture == shelf.Rough && n.LineMM > 0 && n.LineMM < fineLine && c.Ink.Method == shelf.Stamped {
		c.score--
		c.Risks = append(c.Risks, "Fine lines break on rough paper however often they are stamped.")
	}
	if c.Ink.ID == "pigment-slow" && n.Paper.Surface == drying.Sealed {
		c.score -= 2
	}
}

// powder says whether to emboss, and with which powder.
func (c *Choice) powder(n Need) {
	grain := n.clearPowder()
	switch c.Ink.Powder {
	case shelf.IsPowder:
		c.Powder = grain + ", melted until it shines"
		if fine, err := shelf.PowderByID(shelf.Superfine); err == nil && n.LineMM > 0 && n.LineMM < fine.Finest {
			c.score--
			c.Risks = append(c.Risks, "Lines as fine as these fill up with powder.")
		} else if !n.hasPowder() {
			c.Risks = append(c.Risks, "None of your powders is clear and fine enough for this line.")
		}
	case shelf.TakesPowder:
		c.Powder = grain + " over it makes it sure"
		if n.Wet && c.Own == nil {
			c.score--
		}
	case shelf.WhileWet:
		c.Powder = grain + " only while it is wet"
	default:
		c.Powder = "it dries too fast to take powder"
		if c.Ink.Method != shelf.Stamped {
			c.Powder = ""
		}
	}
}

// clearPowder is the clear powder for the line: the maker's own where there is
// one, or else a general one.
func (n Need) clearPowder() string {
	if n.LineMM == 0 {
		return "superfine clear powder for lines under half a millimetre, ordinary for thicker ones"
	}
	best := shelf.Powder{}
	for _, o := range n.Own {
		if p := o.Powder(); o.What == shelf.OwnPowder && n.suits(p) && p.Finest > best.Finest {
			best = p
		}
	}
	if best.Name != "" {
		return "your " + best.Name
	}
	id := shelf.PlainPowder
	if plain, err := shelf.PowderByID(id); err != nil || !n.suits(plain) {
		id = shelf.Superfine
	}
	p, err := shelf.PowderByID(id)
	if err != nil {
		panic(err) // the table holds both
	}
	return p.Name
}

// suits reports whether a powder is clear and leaves the line open, but is no
// coarser than it need be: what is for solids is for nothing else.
func (n Need) suits(p shelf.Powder) bool { return p.Clear && p.Finest <= n.LineMM && p.Finest < 1 }

// hasPowder reports whether the maker has a powder for the line, or has said
// nothing of powders.
func (n Need) hasPowder() bool {
	said := false
	for _, o := range n.Own {
		if o.What == shelf.OwnPowder {
			if said = true; n.LineMM == 0 || n.suits(o.Powder()) {
				return true
			}
		}
	}
	return !said
}
