package page

import (
	"fmt"
	"html/template"
)

// Term is a word of the craft that a newcomer may not know, with one sentence that says
// what it is and a small picture of it.
type Term struct {
	Word, Means string
	Picture     template.HTML // of an SVG, 60 × 36
}

// terms are all words that explain themselves, by the name templates ask for them.
var terms = map[string]Term{
	"cell": {"cell", "A closed shape of the line drawing: the smallest place that can have a colour of its own.",
		`<path d="M6 30C8 8 24 4 30 16S52 6 54 30Z" class="drawn"/><path d="M30 16v14" class="drawn"/><path d="M30 16C34 24 46 12 52 30H30Z" class="paint"/>`},
	"area": {"area", "Cells that are painted alike and at the same time, under one name.",
		`<circle cx="14" cy="20" r="9" class="paint drawn"/><circle cx="46" cy="20" r="9" class="paint drawn"/><circle cx="30" cy="12" r="6" class="drawn"/>`},
	"wash": {"wash", "One layer of thin paint, laid in one go and then left alone to dry.",
		`<path d="M4 8h52v20c-9 4-17-3-26 0s-17 2-26-1z" class="paint"/>`},
	"strength": {"strength", "How much paint there is in the water, named after what it flows like: weak tea, tea, milk, cream, paste.",
		`<path d="M4 10h8v16H4z" class="paint" opacity=".15"/><path d="M15 10h8v16h-8z" class="paint" opacity=".35"/><path d="M26 10h8v16h-8z" class="paint" opacity=".6"/><path d="M37 10h8v16h-8z" class="paint" opacity=".8"/><path d="M48 10h8v16h-8z" class="paint"/>`},
	"value": {"value", "How light or dark a colour is, whatever its hue; what you see of it with half-closed eyes.",
		`<path d="M4 8h13v20H4z" opacity=".1"/><path d="M17 8h13v20H17z" opacity=".35"/><path d="M30 8h13v20H30z" opacity=".65"/><path d="M43 8h13v20H43z"/>`},
	"reveal": {"reveal", "The strip of a mat that is still seen round the panel that lies on it.",
		`<path d="M8 4h44v28H8z" class="mat"/><path d="M14 9h32v18H14z" class="drawn bare"/>`},
	"go": {"go", "What one brush paints of an area without a wet edge drying: an area may need several, lettered a, b, c.",
		`<path d="M4 8h25v20H4z" class="paint"/><path d="M32 8h24v20H32z" class="paint" opacity=".5"/>`},
}

// term is a word that explains itself on a tap; shown is how it stands in the sentence. A
// word that is none is the template's mistake.
func term(name, shown string) (template.HTML, error) {
	t, known := terms[name]
	if !known {
		return "", fmt.Errorf("%q is no term", name)
	}
	id := "term-" + template.HTMLEscapeString(name)
	return template.HTML(`<span class="termed"><button type="button" class="term" popovertarget="` + id + `">` + template.HTMLEscapeString(shown) + `</button><span popover="" id="` + id + `" class="meaning"><svg viewBox="0 0 60 36" width="120" height="72" aria-hidden="true">` + string(t.Picture) + `</svg><span><dfn>` + template.HTMLEscapeString(t.Word) + `</dfn>: ` + template.HTMLEscapeString(t.Means) + `</span></span></span>`), nil
}
