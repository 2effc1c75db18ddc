// Package mount answers "how does it go together, how thick and heavy is it, and does it
// hold?": the finished card as parts on each other, and the joints between them in the order
// they are made.
package mount

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/joint"
	"chromaqua/core/length"
	"chromaqua/core/wording"
)

// Assembly is how a card goes together.
type Assembly struct {
	Members []Member      // from the base up
	Joints  []Joint       // in the order they are made
	Items   []Item        // set on it that are no paper
	Thick   length.Length // of all, closed
	Grams   float64       // an estimate by area
	Faults  []Fault
}

// A Joint holds one part, or several alike, on what it lies on.
type Joint struct {
	Members []int // by their places among those of the assembly
	On      int
	Amount  joint.Amount  // for all of them
	Flush   length.Length // it reaches so far over what it lies on, and is trimmed
	Takes   time.Duration
}

// An Item is something set on the card that is not cut from paper.
type Item struct {
	*card.Embellishment
	On string // the name of what it is set on
}

// Of puts a card together. The error is that of its layout.
func Of(c *card.Card) (*Assembly, error) {
	all, err := Members(c)
	if err != nil {
		return nil, err
	}
	a := &Assembly{Members: all, Items: itemsOf(c)}
	a.Thick = bodyOf(c, all).Thickness()
	a.joints()
	a.weigh(c)
	a.judge(c)
	return a, nil
}

func itemsOf(c *card.Card) (out []Item) {
	for _, e := range c.Set() {
		out = append(out, Item{e, card.ThePanel})
	}
	for i := range c.Pieces {
		for _, e := range c.Pieces[i].Set() {
			out = append(out, Item{e, c.Pieces[i].Name})
		}
	}
	return out
}

// joints lists what is held, in the order it is put together: inside first, while the card
// lies flat; then from the base up, what is slotted under something before that, and what
// lies across a frame after it.
func (a *Assembly) joints() {
	n := len(a.Members)
	before := make([][]int, n) // by member, those that come first
	for i := 1; i < n; i++ {
		m := &a.Members[i]
		before[i] = append(before[i], m.On)
		for k := 1; k < n; k++ {
			o := &a.Members[k]
			switch {
			case k == i:
			case o.Inside() && !m.Inside(), a.slottedUnder(k, i):
				before[i] = append(before[i], k)
			case m.Piece != nil && m.By != joint.Slot && o.IsFrame() && (o.crossedBy(m) || m.On == k):
				before[i] = append(before[i], k)
			}
		}
	}
	done := make([]bool, n)
	done[0] = true
	for range n {
		i := slices.IndexFunc(done, func(d bool) bool { return !d })
		if i < 0 {
			break
		}
		for k := i; k < n; k++ {
			if !done[k] && !slices.ContainsFunc(before[k], func(b int) bool { return !done[b] }) {
				i = k
				break
			}
		}
		done[i] = true // the first that may be, or where all wait for each other the first
		a.join(i)
	}
}

// slottedUnder reports whether k is slotted under i.
func (a *Assembly) slottedUnder(k, i int) bool {
	s, over := &a.Members[k], &a.Members[i]
	if s.By != joint.Slot || over.By == joint.Slot || over.Inside() != s.Inside() || over.On < s.On && !over.IsFrame() || over.On == k || i == s.On {
		return false
	}
	if over.IsFrame() {
		return over.crossedBy(s)
	}
	return overlap(s, over)
}

// overlap reports whether two parts lie over each other somewhere, by their boxes.
func overlap(a, b *Member) bool {
	s, t := a.Size.Around(a.Turn), b.Size.Around(b.Turn)
	return max(a.X-b.X, b.X-a.X)*2 < s.W+t.W && max(a.Y-b.Y, b.Y-a.Y)*2 < s.H+t.H
}

// join adds a joint, or another part to the last one where it is alike.
func (a *Assembly) join(i int) {
	m := &a.Members[i]
	amount := m.By.Of(m.Size, m.Opening)
	takes := m.By.Facts().Takes
	if m.Layers > 1 {
		takes += time.Duration(m.Layers-1) * gluing
	}
	if n := len(a.Joints); n > 0 {
		last := &a.Joints[n-1]
		if o := &a.Members[last.Members[0]]; o.ID == m.ID && o.On == m.On {
			last.Members = append(last.Members, i)
			last.Amount.Tape += amount.Tape
			last.Amount.MM2 += amount.MM2
			last.Amount.Dots += amount.Dots
			last.Takes += takes
			return
		}
	}
	j := Joint{Members: []int{i}, On: m.On, Amount: amount, Takes: takes}
	if on := &a.Members[m.On]; m.Piece == nil && !m.IsFrame() && !on.IsFrame() && !m.Inside() {
		over := func(l, m, by, is length.Length) length.Length { return (is-by)/2 + max(l-m, m-l) }
		j.Flush = max(0, over(m.X, on.X, on.Size.W, m.Size.W), over(m.Y, on.Y, on.Size.H, m.Size.H))
	}
	a.Joints = append(a.Joints, j)
}

// gluing is how long it takes to glue one more layer of a die cut on the last.
const gluing = 45 * time.Second

// Ounce is an avoirdupois ounce in grams.
const Ounce = 28.349523125

// weigh adds up what the card weighs: its papers by their area, what holds them, what is set
// on it. Shapes count as their boxes by half of what is cut away, an estimate.
func (a *Assembly) weigh(c *card.Card) {
	const mm2PerM2 = 1e6
	for i := range a.Members {
		m := &a.Members[i]
		size := m.Size
		if i == 0 {
			size = c.Blank().Size
		}
		mm2 := size.W.MM()*size.H.MM() - m.Opening.W.MM()*m.Opening.H.MM()
		if m.Piece != nil && (m.Piece.Outline != nil || m.Piece.Kind == card.DieCut) {
			mm2 *= shapeShare
		}
		a.Grams += mm2 / mm2PerM2 * m.Paper.GSM * float64(m.Layers)
		if i > 0 {
			a.Grams += m.By.MM2(m.By.Of(m.Size, m.Opening)) / mm2PerM2 * m.By.Facts().GSM
		}
	}
	for _, it := range a.Items {
		a.Grams += float64(it.Many()) * it.Kind.Facts().Grams
	}
}

// shapeShare is how much of its box a shape covers, about.
const shapeShare = 0.6

// Title says a joint as a step: "Mount the panel on the mat".
func (a *Assembly) Title(j *Joint) string {
	return "Mount " + a.what(j) + " on " + a.where(j)
}

// what names what a joint holds.
func (a *Assembly) what(j *Joint) string {
	m := &a.Members[j.Members[0]]
	if n := len(j.Members); n > 1 {
		return fmt.Sprintf("%d × %s", n, m.Name)
	}
	return a.name(j.Members[0])
}

// name names a part that others lie on.
func (a *Assembly) name(i int) string {
	m := &a.Members[i]
	if m.Piece != nil || strings.ContainsAny(m.Name, "0123456789") { // "mat 2" is a name too
		return m.Name
	}
	return "the " + m.Name
}

// where names where a joint lies, with its face where that is not the front.
func (a *Assembly) where(j *Joint) string {
	m := &a.Members[j.Members[0]]
	if j.On == 0 && m.Face != card.FrontFace && m.Face != "" {
		return "the " + string(m.Face)
	}
	return a.name(j.On)
}

// Detail says how a joint is made, in unit u.
func (a *Assembly) Detail(j *Joint, u length.Unit) string {
	m := &a.Members[j.Members[0]]
	f := m.By.Facts()
	held := f.Words
	if f.Raised && m.High != f.Height {
		held = m.High.With(u) + " " + held
	}
	says := wording.Upper(held)
	if m.Choice.Grade >= joint.Holds && !f.Raised && !f.Says {
		says += "; " + m.Choice.Why
	}
	if m.Layers > 1 {
		says = fmt.Sprintf("Glue %d cut alike on each other first, edges flush, and press. ", m.Layers) + says
	}
	says = wording.Sentence(says)
	if m.By == joint.Pocket {
		says += " No wet glue at its mouth."
	}
	if j.Flush > 0 {
		says += fmt.Sprintf(" It reaches %s over: trim %s flush with %s from behind.", j.Flush.With(u), a.what(j), a.name(j.On))
	}
	return says
}

// Sets is how long the card lies until all its glue holds.
func (a *Assembly) Sets() (longest time.Duration) {
	for i := range a.Members[1:] {
		m := &a.Members[i+1]
		longest = max(longest, m.By.Facts().Sets)
		if m.Layers > 1 {
			longest = max(longest, joint.Glue.Facts().Sets)
		}
	}
	return longest
}

// Raised reports whether something stands up on the card, which weight would crush.
func (a *Assembly) Raised() bool {
	return slices.ContainsFunc(a.Members, func(m Member) bool { return m.By.Facts().Raised || m.Layers > 1 })
}
