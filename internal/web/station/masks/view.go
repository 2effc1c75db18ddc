package masks

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/keeping"
	"chromaqua/core/mask"
	"chromaqua/core/shelf"
	"chromaqua/core/steps"
	"chromaqua/core/wording"
	"chromaqua/internal/web/station"
)

// view is what the station shows.
type view struct {
	Kept      []keptView
	Open      string // id of what is spoken of
	All       string // the ways that decide everything, "" when nothing is to decide
	Decides   int
	Fronts    []frontView
	Front     *frontView // on the board
	Shapes    []card.Shape
	Areas     []card.Area
	Stamps    []*card.Image // that are laid to keep what they cover, and keep nothing yet
	Templates bool
	Bare      bool // nothing is painted yet
	Own       []shelf.Own
}

// keptView is something that is kept.
type keptView struct {
	keeping.Kept
	Now      choiceView
	Best     []choiceView // as good as each other
	Others   []choiceView
	Barred   []choiceView
	Open     bool
	Size     string
	Look     string
	From     string // what it is kept from, in words
	Moments  []momentView
	FromList string
	Froms    []fromView
	Strewn   *strewnView
}

// choiceView is one way of keeping it.
type choiceView struct {
	keeping.Choice
	Words string
	Cost  string
	Risk  string
	Value string // as a form sends it
	Best  bool
}

// momentView is something that a mask can be laid over or come off before.
type momentView struct {
	Ref  card.Ref
	Says string
}

// fromView is what something may be kept from.
type fromView struct{ Value, Says string }

// strewnView is how dots may be strewn anew.
type strewnView struct{ Least, Most string }

// frontView is a large wash and how long its edge stays open.
type frontView struct {
	keeping.Front
	N       int
	Name    string
	OpenFor string
	Takes   string
	Waits   string
	Says    string
	Level   string // "stop", "mind" or "" where it is safe
	Ways    []wayView
	Here    bool
}

// wayView is something that helps it.
type wayView struct {
	keeping.WayOut
	Chance string
	MoreIn string
}

func (f *frontView) cut() []int {
	for _, w := range f.Ways {
		if w.Cut != nil {
			return w.Cut
		}
	}
	return nil
}

func (p *place) viewOf(v *station.Visit) (*view, error) {
	c := v.Rev.Card
	shown := &view{Open: v.FormValue("keep"), Shapes: kept(), Areas: c.Areas, Bare: !c.Painted(), Own: v.Studio.Bench.Masks}
	d, at, err := p.weighed(v)
	if err != nil || d == nil {
		return shown, err
	}
	all, err := d.Weigh(v.Context(), at)
	if err != nil {
		return nil, err
	}
	shown.Stamps = stampsOf(c)
	for _, k := range all {
		kv := keptViewOf(k, v)
		kv.Open = k.ID == shown.Open || shown.Open == "" && len(all) == 1
		shown.Kept = append(shown.Kept, kv)
		shown.Templates = shown.Templates || k.Way.Or().Facts().Lays
	}
	by, n := keeping.Decide(all)
	shown.All, shown.Decides = by.Ways, n
	if plan, err := steps.CompileAll(d.Pieces, d.Card, d.Bench); err == nil {
		shown.fronts(plan, at, v)
	}
	return shown, nil
}

// stampsOf are resist stamps and stencils on a piece of which nothing is kept.
func stampsOf(c *card.Card) (out []*card.Image) {
	for i := range c.Images {
		m := &c.Images[i]
		kept := slices.ContainsFunc(c.Reserves, func(r card.Reserve) bool {
			return slices.ContainsFunc(r.Cells, func(s card.Spot) bool { return s.On == m.ID })
		})
		if (m.Is(shelf.ResistImage) || m.Is(shelf.Stencil)) && !kept {
			out = append(out, m)
		}
	}
	return out
}

// kept are the shapes that are drawn to keep something.
func kept() []card.Shape {
	return []card.Shape{card.DotsAt, card.Along, card.Within, card.Below, card.Above, card.Rim}
}

func keptViewOf(k keeping.Kept, v *station.Visit) keptView {
	b, c := v.Laid.Board, v.Rev.Card
	out := keptView{Kept: k, Look: k.Way.Or().Facts().Look, FromList: strings.Join(k.From, ",")}
	out.Size = wording.Count(len(k.Parts), "place")
	var from []string
	for _, g := range k.Grounds {
		from = append(from, b.Areas[g].Name)
	}
	if out.From = "nothing yet: paint round it or over it first"; len(from) > 0 {
		out.From = wording.And(from)
	}
	for i, ch := range k.Choices {
		cv := choiceView{Choice: ch, Words: ch.Way.Words(), Value: k.ID + "=" + string(ch.Way), Cost: costs(ch), Risk: riskWords(ch.Risk), Best: i < k.Either && ch.Barred == ""}
		if ch.Now {
			out.Now = cv
		}
		switch {
		case ch.Barred != "":
			out.Barred = append(out.Barred, cv)
		case i < k.Either:
			out.Best = append(out.Best, cv)
		default:
			out.Others = append(out.Others, cv)
		}
	}
	for _, d := range b.Deeds {
		if d.Kind == card.WashDeed {
			out.Moments = append(out.Moments, momentView{d.Ref, c.DeedName(d.Ref)})
		}
	}
	for i := range c.Areas {
		if a := &c.Areas[i]; len(a.Washes) > 0 && !slices.Contains(k.Areas, a.ID) {
			out.Froms = append(out.Froms, fromView{a.ID, "only " + a.Name})
		}
	}
	if len(k.From) > 1 {
		out.Froms = append(out.Froms, fromView{out.FromList, out.From})
	}
	if z := strewnOf(c, k.Zones); z != nil {
		out.Strewn = z
	}
	return out
}

// strewnOf is the sizes of dots that are kept, nil where it is anything else.
func strewnOf(c *card.Card, zones []string) *strewnView {
	var least, most *card.Zone
	for _, id := range zones {
		z, err := c.ZoneByID(id)
		if err != nil || z.Shape != card.DotsAt {
			return nil
		}
		if least == nil || z.Width < least.Width {
			least = z
		}
		if most == nil || z.Width > most.Width {
			most = z
		}
	}
	if least == nil {
		return nil
	}
	return &strewnView{least.Width.Typed(c.Unit), most.Width.Typed(c.Unit)}
}

// costs says what a way costs of the whole work, or saves.
func costs(ch keeping.Choice) string {
	m := int(math.Round(ch.Costs.Minutes()))
	switch {
	case ch.Total == 0:
		return ""
	case ch.Now:
		return "as now"
	case m == 0:
		return "takes as long"
	case m > 0:
		return fmt.Sprintf("%d min more", m)
	}
	return fmt.Sprintf("%d min less", -m)
}

// riskWords says how likely it is that a way spoils the panel.
func riskWords(p float64) string {
	switch n := math.Round(1 / max(p, 0.001)); {
	case p < 0.03:
		return "safe"
	case p < 0.5:
		return fmt.Sprintf("goes wrong 1 time in %.0f", n)
	}
	return "mostly goes wrong"
}

// fronts looks at the large washes.
func (s *view) fronts(plan *steps.Plan, at int, v *station.Visit) {
	asked, worst := frontAsked(v), -1
	for i, f := range keeping.Fronts(plan, at) {
		b := v.Laid.Board
		fv := frontView{Front: f, N: i, Name: b.Areas[f.Area].Name, OpenFor: spell(f.Open), Takes: spell(f.Sweep.Total), Waits: spell(f.Sweep.Wait)}
		switch {
		case f.Rho > keeping.Stops:
			fv.Level, fv.Says = "stop", "its edge will dry before it is met"
		case f.Rho > keeping.Closes:
			fv.Level, fv.Says = "mind", fmt.Sprintf("its edge dries 1 time in %.0f", max(2, math.Round(1/f.Chance())))
		default:
			fv.Says = "it stays open long enough"
		}
		for _, w := range keeping.WaysOut(b, &f, plan.Bench) {
			more := "takes as long"
			if m := int(math.Round(w.More.Minutes())); m != 0 {
				more = fmt.Sprintf("%+d min", m)
			}
			fv.Ways = append(fv.Ways, wayView{w, chanceWords(w.Rho), more})
		}
		s.Fronts = append(s.Fronts, fv)
		if worst < 0 || f.Rho > s.Fronts[worst].Rho {
			worst = i
		}
	}
	if asked < 0 && worst >= 0 && s.Fronts[worst].Level != "" {
		asked = worst
	}
	if asked >= 0 && asked < len(s.Fronts) {
		s.Fronts[asked].Here = true
		s.Front = &s.Fronts[asked]
	}
}

func chanceWords(rho float64) string {
	f := keeping.Front{Rho: rho}
	switch p := f.Chance(); {
	case p < 0.06:
		return "safe"
	case p < 0.5:
		return fmt.Sprintf("dries 1 time in %.0f", math.Round(1/p))
	}
	return "still mostly dries"
}

// spell says a time to a second or a minute.
func spell(d time.Duration) string {
	if d < 100*time.Second {
		return fmt.Sprintf("%.0f s", d.Seconds())
	}
	return fmt.Sprintf("%.0f min", d.Minutes())
}

// Way is a way out as a form sends it.
func (w wayView) Values() map[string]string { return change.Values(w.Change) }

// Edit is the name of the change of a way out.
func (w wayView) Edit() string { return change.NameOf(w.Change) }

// Lays reports whether it is kept by a mask now.
func (k keptView) Lays() bool { return k.Way.Or().Facts().Lays }

// Masks are the maker's masks of the kind it is kept with.
func (v *view) Masks(way mask.Way) (out []shelf.Own) {
	for _, o := range v.Own {
		if o.Like == string(way) {
			out = append(out, o)
		}
	}
	return out
}
