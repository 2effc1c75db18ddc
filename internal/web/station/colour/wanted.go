package colour

import (
	"bytes"
	"io"
	"net/http"
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/panel"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/core/wording"
	"chromaqua/internal/desk"
	"chromaqua/internal/web/page"
	"chromaqua/internal/web/station"
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
	Nearness string
	Leaning  string
	names    card.Names
}

// Name prints the mix.
func (r recipeView) Name() string { return r.names.Mix(r.Mix) }

// wanted answers which mixes dry to the colour a page asks for, on the paper of
// the card.
func wanted(r *http.Request, l *desk.Laid, own []shelf.Own, area string) (*wantedView, error) {
	c := l.Rev.Card
	v := &wantedView{Hex: r.FormValue("want"), Most: 2, Kept: c.Wanted}
	from := panel.IngredientsOf(own)
	v.Mine, v.All = len(from), r.FormValue("from") == "all" || len(from) == 0
	if v.All {
		from = panel.Ingredients(pigment.Library())
	}
	if r.FormValue("most") == "3" {
		v.Most = 3
	}
	for i, a := range l.Board.Areas {
		if a.ID != area && len(a.Washes) > 0 {
			v.From = append(v.From, pigment.Swatch{Name: a.Name, Hex: l.Facts.Looks[i].Dense.Dry})
		}
	}
	open := slices.IndexFunc(l.Board.Areas, func(a panel.Area) bool { return a.ID == area })
	if v.Hex == "" {
		return v, nil
	}
	want, err := pigment.ParseHex(v.Hex)
	if err != nil {
		v.Problem = wording.Sentence(err.Error())
		return v, nil
	}
	palette := panel.PaletteOf(c)
	if open >= 0 {
		v.Depth = palette.DepthOf(l.Board.Areas[open].Area, c.Called, want.Lab().L)
	}
	found, err := pigment.Recipes(r.Context(), want.Lab(), panel.Ground(c.Paper), palette.Blends(from), v.Most, recipesSought)
	if err != nil {
		return nil, err
	}
	for _, f := range found {
		mix, ok := panel.MixOf(f, from)
		twice := slices.ContainsFunc(v.Recipes, func(x recipeView) bool { return slices.Equal(x.Mix, mix) && x.Strength == f.Strength })
		if !ok || twice || len(v.Recipes) == recipesShown {
			continue
		}
		x := recipeView{names: panel.NamesOf(own), Mix: mix, Strength: f.Strength, Nearness: pigment.Nearness(f.Away), Leaning: pigment.Leaning(want.Lab(), f.Dry.Lab())}
		x.Value = card.WriteMix(x.Mix)
		x.Tone = palette.ToneOf(x.Mix, x.Strength)
		v.Recipes = append(v.Recipes, x)
	}
	return v, nil
}

// palette sends the colours of a card's areas and its wanted ones.
func (p *place) palette(w http.ResponseWriter, r *http.Request) error {
	rev, err := p.host.Revision(r)
	if err != nil {
		return err
	}
	var all []pigment.Swatch
	for _, a := range rev.Card.Areas {
		if len(a.Washes) > 0 {
			all = append(all, pigment.Swatch{Name: a.Name, Hex: panel.PaletteOf(rev.Card).Look(a.Washes).Dense.Dry})
		}
	}
	return page.SendFile(w, "application/x-gimp-palette", rev.Card.Name, ".gpl", func(to io.Writer) error {
		return pigment.WriteGPL(to, rev.Card.Name, append(all, rev.Card.Wanted...))
	})
}

// maxPalette bounds a palette file, bytes.
const maxPalette = 1 << 20

// importPalette keeps the colours of a palette as those that are wanted.
func (p *place) importPalette(w http.ResponseWriter, r *http.Request) error {
	file, err := page.SentFile(w, r, maxPalette)
	return p.host.Change(w, r, func(e *station.Editing) (change.Done, error) {
		if err != nil {
			return change.Done{}, err
		}
		data, err := file.Data()
		if err != nil {
			return change.Done{}, err
		}
		all, err := pigment.ReadGPL(bytes.NewReader(data))
		if err != nil {
			return change.Done{}, err
		}
		return e.Make(change.Palette{Colours: all})
	})
}
