package web

import (
	"bytes"
	"fmt"
	"net/http"
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/panel"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/internal/store"
)

// recipesShown is how many recipes are offered.
const recipesShown = 6

// recipesSought is how many are looked for: of mixed paints some cannot be used.
const recipesSought = 3 * recipesShown

// wantedView is the search for a wanted colour.
type wantedView struct {
	Hex     string // "" when none is asked for
	Depth   string // coats of the last wash that reach it
	Problem string
	Most    int
	Mine    int  // how many paints are on the maker's shelf
	All     bool // all generic paints are tried
	Recipes []recipeView
	From    []pigment.Swatch // the colours of other areas
	Kept    []pigment.Swatch
}

type recipeView struct {
	Mix      []card.Part
	Value    string // as a form sends it
	Strength pigment.Strength
	Tone     panel.Tone
	Away     float64
	Nearness string
	Leaning  string
}

// Name prints the mix.
func (r recipeView) Name() string { return card.MixName(r.Mix) }

// wanted answers which mixes dry to the colour a page asks for, on the paper of
// the card.
func (p *stationPage) wanted(r *http.Request, l *laid, own []shelf.Own) error {
	c := l.rev.Card
	v := &wantedView{Hex: r.FormValue("want"), Most: 2, Kept: c.Wanted}
	from := ingredientsOf(own)
	v.Mine, v.All = len(from), r.FormValue("from") == "all" || len(from) == 0
	if v.All {
		from = panel.Ingredients(pigment.Library())
	}
	if r.FormValue("most") == "3" {
		v.Most = 3
	}
	for i, a := range l.board.Areas {
		if a.ID != p.Open && len(a.Washes) > 0 {
			v.From = append(v.From, pigment.Swatch{Name: a.Name, Hex: l.facts.Looks[i].Dense.Dry})
		}
	}
	p.Colour.Wanted = v
	open := slices.IndexFunc(l.board.Areas, func(a panel.Area) bool { return a.ID == p.Open })
	if v.Hex == "" {
		return nil
	}
	want, err := pigment.ParseHex(v.Hex)
	if err != nil {
		v.Problem = upperFirst(err.Error()) + "."
		return nil
	}
	palette := panel.PaletteOf(c)
	if open >= 0 {
		v.Depth = depthOf(palette, l.board.Areas[open].Area, want.Lab().L)
	}
	found, err := pigment.Recipes(r.Context(), want.Lab(), panel.Ground(c.Paper), palette.Blends(from), v.Most, recipesSought)
	if err != nil {
		return err
	}
	for _, f := range found {
		mix, ok := panel.MixOf(f, from)
		twice := slices.ContainsFunc(v.Recipes, func(x recipeView) bool { return slices.Equal(x.Mix, mix) && x.Strength == f.Strength })
		if !ok || twice || len(v.Recipes) == recipesShown {
			continue
		}
		x := recipeView{Mix: mix, Strength: f.Strength, Away: f.Away, Nearness: pigment.Nearness(f.Away), Leaning: pigment.Leaning(want.Lab(), f.Dry.Lab())}
		x.Value = card.WriteMix(x.Mix)
		x.Tone = toneOf(palette, x.Mix, x.Strength)
		v.Recipes = append(v.Recipes, x)
	}
	return nil
}

// depthOf says how many coats of an area's last wash that covers take what lies below
// to a lightness; "" when none covers.
func depthOf(from panel.Palette, a *card.Area, want float64) string {
	k := a.LastCover()
	if k < 0 {
		return ""
	}
	w := a.Washes[k]
	coat := from.Coat(w)
	switch n, limit := pigment.Coats(from.Dry(a.Washes[:k]), coat.Paint, coat.Load, want); n {
	case 0:
		return fmt.Sprintf("No number of coats of %s takes the area to that depth: it ends at %.0f of 100 in value.", card.MixName(w.Mix), limit)
	case 1:
		return fmt.Sprintf("One coat of %s as %s takes the area to that depth.", card.MixName(w.Mix), w.Strength)
	default:
		return fmt.Sprintf("%d coats of %s as %s, each laid once the last is dry, take the area to that depth.", n, card.MixName(w.Mix), w.Strength)
	}
}

// paintsOf lists the pigments of which the maker has a paint, each once.
func paintsOf(own []shelf.Own) (out []pigment.Pigment) {
	all := ingredientsOf(own)
	for _, p := range pigment.Library() {
		if slices.ContainsFunc(all, func(in panel.Ingredient) bool { return len(in) == 1 && in[0].CI == p.CI }) {
			out = append(out, p)
		}
	}
	return out
}

// ingredientsOf lists what the maker's paints are made of, each kind once: those of
// one pigment, and those that are mixed.
func ingredientsOf(own []shelf.Own) (out []panel.Ingredient) {
	for _, o := range own {
		if o.What != shelf.OwnPaint {
			continue
		}
		portions, err := o.Pigments()
		if err != nil {
			continue // kept by an older program
		}
		var in panel.Ingredient
		for _, p := range portions {
			in = append(in, card.Part{CI: p.CI, Parts: p.Parts})
		}
		if !slices.ContainsFunc(out, func(x panel.Ingredient) bool { return slices.Equal(x, in) }) {
			out = append(out, in)
		}
	}
	return out
}

// palette sends the colours of a card's areas and its wanted ones.
func (s *Server) palette(w http.ResponseWriter, r *http.Request) error {
	rev, err := s.revision(r)
	if err != nil {
		return err
	}
	var all []pigment.Swatch
	for _, a := range rev.Card.Areas {
		if len(a.Washes) > 0 {
			all = append(all, pigment.Swatch{Name: a.Name, Hex: panel.PaletteOf(rev.Card).Look(a.Washes).Dense.Dry})
		}
	}
	var buf bytes.Buffer
	if err := pigment.WriteGPL(&buf, rev.Card.Name, append(all, rev.Card.Wanted...)); err != nil {
		return err
	}
	download(w, "application/x-gimp-palette", rev.Card.Name, ".gpl")
	_, _ = w.Write(buf.Bytes())
	return nil
}

// maxPalette bounds a palette file, bytes.
const maxPalette = 1 << 20

// importPalette keeps the colours of a palette as those that are wanted.
func (s *Server) importPalette(w http.ResponseWriter, r *http.Request) error {
	data, _, err := sentFile(w, r, maxPalette)
	return s.change(w, r, func(rev *store.Revision) (string, opened, error) {
		if err != nil {
			return "", opened{}, err
		}
		all, err := pigment.ReadGPL(bytes.NewReader(data))
		if err != nil {
			return "", opened{}, err
		}
		rev.Card.Wanted = all
		return "keeps " + plural(len(all), "wanted colour"), opened{}, nil
	})
}
