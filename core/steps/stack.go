package steps

import (
	"fmt"
	"slices"
	"strings"

	"chromaqua/core/card"
	"chromaqua/core/shelf"
	"chromaqua/core/wording"
)

// A Layer is one deed of a piece as it lies over the others, in words.
type Layer struct {
	card.Deed
	Says string // what is done
	Wait string // what it waits for, and why; "" for nothing that lies below
	Free bool   // it shares no place with what lies below it, so that the order finds when
	Late bool   // it is put on once paint is dry
}

// FromThePaperUp lists what is done to a piece, bottom first, with the wait each needs.
func (p *Plan) FromThePaperUp(piece int) (out []Layer) {
	b := p.Pieces[piece].Board
	if b == nil {
		return nil
	}
	waits := p.waitsOf(piece)
	for i, d := range b.Deeds {
		l := Layer{Deed: d, Says: deedWords(b.Card, d), Late: d.Kind == card.ImageDeed && b.Card.Late(string(d.Ref))}
		all := waits[d.Ref]
		l.Wait = wording.Sentence(strings.Join(all, "; "))
		if len(all) == 0 {
			l.Wait = ""
		}
		l.Free = i > 0 && len(all) == 0 && d.Kind != card.HandlingDeed
		out = append(out, l)
	}
	return out
}

// waitsOf words by deed what it waits for of what lies below, each once.
func (p *Plan) waitsOf(piece int) map[card.Ref][]string {
	out := map[card.Ref][]string{}
	var pairs []pair
	for k := range p.reasons {
		pairs = append(pairs, k)
	}
	slices.SortFunc(pairs, func(a, b pair) int { return slices.Compare([]int{a.then, a.first}, []int{b.then, b.first}) })
	b := p.Pieces[piece].Board
	for _, k := range pairs {
		from, to := &p.Steps[k.first], &p.Steps[k.then]
		w := p.reasons[k]
		if to.Piece != piece || from.Piece != piece || to.Item > 0 || to.Deed == "" || from.Deed == "" || from.Deed == to.Deed {
			continue
		}
		name := b.Card.DeedName(from.Deed)
		text := ""
		switch {
		case dryWords[w.until] != "":
			text = fmt.Sprintf("once %s is %s, for %s", name, dryWords[w.until], w.reason)
		case w.until == whileShining:
			text = fmt.Sprintf("while %s shines, for %s", name, w.reason)
		case from.Kind == Unmask:
			text = fmt.Sprintf("once %s is off, for %s", name, w.reason)
		case w.until == atOnce && b.Card.HandlingDone(from.Deed) != "":
			text = "once it is " + b.Card.HandlingDone(from.Deed)
		case w.until == whileDulling:
			text = fmt.Sprintf("as the sheen of %s goes: %s", name, w.reason)
		case w.until == whileWet:
			text = fmt.Sprintf("while %s is wet, for %s", name, w.reason)
		}
		if text != "" && !slices.Contains(out[to.Deed], text) {
			out[to.Deed] = append(out[to.Deed], text)
		}
	}
	return out
}

// deedWords say what a deed is.
func deedWords(c *card.Card, d card.Deed) string {
	switch d.Kind {
	case card.ImageDeed:
		m := &c.Images[d.Image]
		if !m.Inked() {
			return fmt.Sprintf("%s, %s", m.Title, m.Kind)
		}
		var inks []string
		for _, k := range c.PadsOf(m) {
			inks = append(inks, k.Name)
		}
		return fmt.Sprintf("%s, %s in %s", m.Title, putOnWords[c.InkOf(m).Method], wording.And(inks))
	case card.HandlingDeed:
		return wording.Upper(c.Acts[d.Act].Words())
	}
	a := &c.Areas[d.Area]
	return a.Name + ": " + c.WashName(a.Washes[d.Wash])
}

// putOnWords say how an ink comes on the paper.
var putOnWords = map[shelf.Method]string{shelf.Stamped: "stamped", shelf.Printed: "printed", shelf.Drawn: "drawn"}
