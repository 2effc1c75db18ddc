// Package logs is the page of all that was made, across cards: found by what was used where.
package logs

import (
	"context"
	"embed"
	"net/http"
	"strings"

	"github.com/go-chi/chi/v5"
	lru "github.com/hashicorp/golang-lru/v2"

	"chromaqua/core/card"
	"chromaqua/internal/desk"
	"chromaqua/internal/store"
	"chromaqua/internal/web/drawer"
	"chromaqua/internal/web/page"
)

//go:embed *.html
var files embed.FS

// Entry is the drawer's row in the table of drawers.
var Entry = drawer.Entry{
	Room: page.Room{Files: files},
	Link: page.Link{Place: "logs", Name: "Made", Path: "/log"},
	Routes: func(k drawer.Kit, r chi.Router) {
		d := &place{k, desk.Cache[wordsKey, []line](keptWords)}
		r.Get("/log", d.Handle(d.show))
	},
}

// Limits of the page.
const (
	mostMade  = 10_000 // makings that are looked through
	shownMade = 60     // at once
	keptWords = 3000   // cards whose words are kept, each some 2 kB
	maxQuery  = 200    // characters
)

type place struct {
	drawer.Kit
	words *lru.Cache[wordsKey, []line]
}

// wordsKey is a card as it was made.
type wordsKey struct{ card, rev int64 }

// line is something that can be found of a card: an area with what it was painted with, its
// paper, its ink.
type line struct{ says, low string }

// view is the page.
type view struct {
	page.Page
	Query string
	Made  []made
	All   int // that were found
	None  bool
}

// made is one making on the page.
type made struct {
	store.Making
	When  string
	Lines []string // that were asked for
	To    string
}

// show lists what was made, or what of it was asked for.
func (d *place) show(w http.ResponseWriter, r *http.Request) error {
	all, err := d.Makings(r.Context(), mostMade)
	if err != nil {
		return err
	}
	q := strings.TrimSpace(r.FormValue("q"))
	q = string([]rune(q)[:min(len([]rune(q)), maxQuery)])
	v := view{Page: page.Page{Title: "All that was made", Place: "logs"}, Query: q, None: len(all) == 0}
	asked := terms(q)
	for _, m := range all {
		lines, found, err := d.find(r.Context(), m, asked)
		if err != nil {
			return err
		}
		if !found {
			continue
		}
		if v.All++; v.All <= shownMade {
			v.Made = append(v.Made, made{m, m.At.Format("2 January 2006"), lines, page.CardPath(m.Card, "log")})
		}
	}
	d.Render(w, r, http.StatusOK, "logs.html", v)
	return nil
}

// small are words of a question that say nothing of what is looked for.
var small = map[string]bool{"which": true, "what": true, "was": true, "were": true, "it": true, "on": true, "the": true, "a": true, "an": true, "in": true, "of": true, "did": true, "i": true, "use": true, "used": true, "with": true, "for": true, "how": true, "when": true, "is": true}

// terms are the words that are looked for, in lower case.
func terms(q string) (out []string) {
	for _, f := range strings.FieldsFunc(strings.ToLower(q), func(r rune) bool { return strings.ContainsRune(" \t\n,.;:?!\"'“”’", r) }) {
		if f = strings.TrimSuffix(f, "s"); !small[f] && f != "" {
			out = append(out, f)
		}
	}
	return out
}

// find reports whether a making has all that is asked for, and the lines that answer it.
func (d *place) find(ctx context.Context, m store.Making, asked []string) (lines []string, found bool, err error) {
	if len(asked) == 0 {
		return nil, true, nil
	}
	said := strings.ToLower(m.Name + " " + m.Turned + " " + m.Went)
	words, err := d.wordsOf(ctx, wordsKey{m.Card, m.Rev})
	if err != nil {
		return nil, false, err
	}
	most := 0
	for _, term := range asked {
		met := strings.Contains(said, term)
		for _, l := range words {
			met = met || strings.Contains(l.low, term)
		}
		if !met {
			return nil, false, nil
		}
	}
	for _, l := range words {
		n := 0
		for _, term := range asked {
			if strings.Contains(l.low, term) {
				n++
			}
		}
		if n > most {
			lines, most = nil, n
		}
		if n == most && n > 0 {
			lines = append(lines, l.says)
		}
	}
	return lines, true, nil
}

// wordsOf are what can be found of a card as it was; of one that is gone, nothing.
func (d *place) wordsOf(ctx context.Context, key wordsKey) ([]line, error) {
	if out, ok := d.words.Get(key); ok {
		return out, nil
	}
	rev, err := d.CardAt(ctx, key.card, key.rev)
	switch {
	case ctx.Err() != nil:
		return nil, ctx.Err()
	case err != nil:
		return nil, nil
	}
	out := linesOf(rev.Whole)
	d.words.Add(key, out)
	return out, nil
}

// linesOf are the lines of a card: its paper, its ink, and each area with its washes by the
// maker's own names.
func linesOf(c *card.Card) (out []line) {
	add := func(says string) { out = append(out, line{says, strings.ToLower(says)}) }
	of := func(name string, w *card.Work) {
		add(name + w.PaperFacts().Name + ", " + w.InkFacts().Name)
		for i := range w.Areas {
			a := &w.Areas[i]
			var washes []string
			for _, x := range a.Washes {
				washes = append(washes, c.WashName(x))
			}
			add(name + a.Name + ": " + strings.Join(washes, "; "))
		}
	}
	of("", &c.Work)
	for i := range c.Pieces {
		of(c.Pieces[i].Name+", ", &c.Pieces[i].Work)
	}
	return out
}
