package settings

import (
	"maps"
	"math"
	"net/http"
	"slices"

	"chromaqua/core/learned"
	"chromaqua/core/steps"
	"chromaqua/core/wording"
	"chromaqua/internal/web/page"
)

// learnedView is one thing that was learned at the bench, beside its estimate.
type learnedView struct {
	Kind           learned.Kind
	Name           string // paper or technique
	Says           string
	Factor         float64
	Lo, Hi         float64
	N              int
	At, From, Wide float64 // on a scale of a third to three times, shares of it
}

var learnedWords = map[learned.Kind]string{
	learned.Air:  "dries by air",
	learned.Heat: "dries under the heat tool",
	learned.Pace: "takes you",
}

// learnedHere is all that was learned, by kind and name.
func (d *place) learnedHere(r *http.Request) (out []learnedView, err error) {
	book, err := d.Seen(r.Context(), 0)
	if err != nil {
		return nil, err
	}
	for _, k := range learned.Kinds {
		for _, name := range slices.Sorted(maps.Keys(book[k])) {
			b := book.Belief(k, name)
			called := name
			if k == learned.Pace {
				called = steps.PaceName(name)
			}
			v := learnedView{Kind: k, Name: name, Says: wording.Upper(called) + " " + learnedWords[k], Factor: b.Factor(), N: b.N}
			v.Lo, v.Hi = b.Range()
			v.At, v.From = onScale(v.Factor), onScale(v.Lo)
			v.Wide = onScale(v.Hi) - v.From
			out = append(out, v)
		}
	}
	return out, nil
}

// onScale is where a factor stands between a third and three times, logarithmically.
func onScale(f float64) float64 { return min(1, max(0, 0.5+math.Log(f)/(2*math.Log(3)))) }

// forget lets one thing be estimated again.
func (d *place) forget(w http.ResponseWriter, r *http.Request) error {
	if err := page.Read(w, r); err != nil {
		return err
	}
	err := d.Unlearn(r.Context(), learned.Kind(r.PostForm.Get("kind")), r.PostForm.Get("name"))
	return d.after(w, r, err, "#learned")
}
