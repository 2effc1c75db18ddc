package mount

import (
	"errors"
	"fmt"
	"net/http"
	"strconv"
	"strings"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/mount"
	"chromaqua/core/pigment"
	"chromaqua/internal/desk"
	"chromaqua/internal/sheet"
	"chromaqua/internal/web/page"
)

// MaxLabels is how many labels are printed at once.
const MaxLabels = 200

// maxBy bounds the name of a maker on a label, characters.
const maxBy = 60

// assemblySheet sends the sheet a card is put together by.
func (p *place) assemblySheet(w http.ResponseWriter, r *http.Request) error {
	rev, err := p.host.Revision(r)
	if err != nil {
		return err
	}
	c := rev.Whole
	a, err := mount.Of(c)
	if err != nil {
		return desk.Refuse(err)
	}
	doc := &sheet.Assembly{Card: c, Made: a, Fits: "No standard envelope takes it."}
	if fit := fitOf(c); fit != nil {
		doc.Fits = "Envelope " + fit.Envelope.Name + ": " + fit.Why(c.Unit) + "."
	}
	for i := range a.Joints {
		j := &a.Joints[i]
		doc.Amounts = append(doc.Amounts, amountWords(a.Members[j.Members[0]].By, j.Amount, c.Unit))
	}
	for _, t := range wordsOn(c) {
		if t.inside {
			doc.Words = append(doc.Words, t.Words()+" on "+t.on)
		}
	}
	return page.SendFile(w, "application/pdf", c.Name, ", put together.pdf", doc.WritePDF)
}

// labels sends labels for the back of a card.
func (p *place) labels(w http.ResponseWriter, r *http.Request) error {
	rev, err := p.host.Revision(r)
	if err != nil {
		return err
	}
	many, err := strconv.Atoi(strings.TrimSpace(r.FormValue("many")))
	if err != nil || many < 1 || many > MaxLabels {
		return desk.Refuse(fmt.Errorf("labels are printed 1 to %d at a time", MaxLabels))
	}
	by := strings.TrimSpace(r.FormValue("by"))
	if len([]rune(by)) > maxBy {
		return desk.Refuse(fmt.Errorf("the name on a label is at most %d characters long", maxBy))
	}
	date := ""
	if on := r.FormValue("on"); on != "" {
		at, err := time.Parse(time.DateOnly, on)
		if err != nil {
			return desk.Refuse(errors.New("the date on a label is a day, as 2026-11-28"))
		}
		date = at.Format("2 January 2006")
	}
	c := rev.Whole
	doc := &sheet.Labels{Unit: c.Unit, Name: c.Name, By: by, Date: date, Materials: materials(c), Care: care, Many: many}
	return page.SendFile(w, "application/pdf", c.Name, ", labels.pdf", doc.WritePDF)
}

// care is how a painted card is kept, whatever is on it.
const care = "Watercolour: keep it dry, and out of strong sun."

// materials lists what a card is made of, as a label says it.
func materials(c *card.Card) (out []string) {
	out = append(out, c.PaperFacts().Name)
	if c.Inked() {
		out = append(out, c.InkFacts().Name)
	}
	var paints []string
	for _, p := range pigment.All() {
		if c.Uses(p.CI) {
			paints = append(paints, c.Called.Of(p.CI))
		}
	}
	if len(paints) > 0 {
		out = append(out, "watercolour: "+strings.Join(paints, ", "))
	}
	return out
}
