package shelf

import (
	"fmt"
	"io"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

	"chromaqua/core/length"
	"chromaqua/core/mask"
	"chromaqua/core/pigment"
	"chromaqua/core/table"
)

// What is what a material of the maker's is.
type What string

// The kinds of material.
const (
	OwnInk    What = "ink"
	OwnPaper  What = "paper"
	OwnPowder What = "powder"
	OwnPaint  What = "paint"
	OwnBrush  What = "brush"
	OwnMask   What = "mask"
)

// Own is an ink, a pen, a way of printing, a paper, a powder, a paint or a brush of the
// maker's: like a general one, with what is known better. What is zero is as in general.
type Own struct {
	Name      string        `json:"name"`
	What      What          `json:"what"`
	Like      string        `json:"like"` // the general one, by its id
	Colour    string        `json:"colour,omitempty"`
	AirDry    time.Duration `json:"air_ns,omitempty"`
	HeatDry   time.Duration `json:"heat_ns,omitempty"`
	Thickness length.Length `json:"thickness,omitzero"`
	Note      string        `json:"note,omitempty"`
	Belly     length.Length `json:"belly,omitzero"` // of a brush: its width as measured

	Tried []Tried        `json:"tried,omitempty"` // of a mask: on which papers
	Form  Form           `json:"form,omitempty"`  // of a paint: what it comes as
	Paint *pigment.Paint `json:"paint,omitempty"` // of a paint: as found from its swatches
}

// Tried is how often a mask of the maker's came off a paper clean, and how often it took
// some of that along.
type Tried struct {
	Paper    string `json:"paper"` // id of a general one
	OwnPaper string `json:"own_paper,omitempty"`
	Clean    int    `json:"clean"`
	Tore     int    `json:"tore"`
}

// Limits of the maker's materials.
const (
	MaxOwn    = 500
	MaxText   = 120 // characters of a name or a colour
	MaxNote   = 500
	MaxDrying = 7 * 24 * time.Hour
	maxThick  = length.Inch / 4
	MaxCSV    = 1 << 20 // bytes
	MaxTried  = 1000    // tests of a mask on one paper
)

// Check reports the first thing wrong.
func (o Own) Check() error {
	name := strings.TrimSpace(o.Name)
	switch {
	case name == "" || utf8.RuneCountInString(o.Name) > MaxText:
		return fmt.Errorf("a material has a name of 1 to %d characters", MaxText)
	case strings.ContainsFunc(o.Name+o.Colour, func(r rune) bool { return r < ' ' }) || !utf8.ValidString(o.Name+o.Colour+o.Note):
		return fmt.Errorf("%q holds characters that cannot be written; type it again", o.Name)
	case utf8.RuneCountInString(o.Colour) > MaxText || utf8.RuneCountInString(o.Note) > MaxNote:
		return fmt.Errorf("keep the colour of %q to %d and its note to %d characters", o.Name, MaxText, MaxNote)
	case o.AirDry < 0 || o.HeatDry < 0 || max(o.AirDry, o.HeatDry) > MaxDrying:
		return fmt.Errorf("%q dries in nothing to a week", o.Name)
	case o.Thickness < 0 || o.Thickness > maxThick:
		return fmt.Errorf("%q cannot be %s thick", o.Name, o.Thickness.With(length.Millimetres))
	}
	switch o.What {
	case OwnInk:
		_, err := InkByID(o.Like)
		return err
	case OwnPaper:
		_, err := PaperByID(o.Like)
		return err
	case OwnPowder:
		_, err := PowderByID(o.Like)
		return err
	case OwnBrush:
		return o.checkBrush()
	case OwnMask:
		if w := mask.Way(o.Like); !w.Known() || !w.Facts().Lays {
			return fmt.Errorf("%q is like a mask that is listed, such as fluid or mask pen, not like %.20q", o.Name, o.Like)
		}
		return o.checkTried()
	case OwnPaint:
		if o.Paint != nil {
			for i := range o.Paint.K {
				if !(o.Paint.K[i] >= 0 && o.Paint.S[i] >= 0) {
					return fmt.Errorf("the measured colours of %q cannot be; measure it again", o.Name)
				}
			}
		}
		if _, err := o.Form.of(); err != nil {
			return err
		}
		_, err := o.Pigments()
		return err
	}
	return fmt.Errorf("%q is neither ink, paper, powder, paint, brush nor mask", string(o.What))
}

func (o Own) checkTried() error {
	if len(o.Tried) > MaxOwn {
		return fmt.Errorf("%q was tried on more papers than %d", o.Name, MaxOwn)
	}
	for _, t := range o.Tried {
		if _, err := PaperByID(t.Paper); err != nil {
			return err
		}
		if t.Clean < 0 || t.Tore < 0 || t.Clean+t.Tore > MaxTried {
			return fmt.Errorf("%q was tried on a paper 0 to %d times", o.Name, MaxTried)
		}
	}
	return nil
}

// Ink is what is known of an ink of the maker's; o must be one that passes
// [Own.Check].
func (o Own) Ink() Ink {
	k, err := InkByID(o.Like)
	if err != nil {
		k = Inks()[0]
	}
	k.Name = o.Name
	if o.Colour != "" {
		k.Name += ", " + o.Colour
	}
	if ci := pigmentOf(o.Colour); ci != "" && k.Pulls != "" {
		k.Pulls = ci
	}
	if o.AirDry > 0 {
		k.AirDry = o.AirDry
	}
	if o.HeatDry > 0 {
		k.HeatDry = o.HeatDry
	}
	if o.Note != "" {
		k.Note = o.Note
	}
	return k
}

// pigmentOf is the pigment that a colour names, by its Colour Index name or by the one
// painters use; "" for any other word.
func pigmentOf(colour string) string {
	if p, err := pigment.ByCI(colour); err == nil {
		return p.CI
	}
	if p, err := pigment.Named(colour); err == nil {
		return p.CI
	}
	return ""
}

// Paper is what is known of a paper of the maker's.
func (o Own) Paper() Paper {
	p, err := PaperByID(o.Like)
	if err != nil {
		p = Papers()[0]
	}
	p.Name = o.Name
	if o.Thickness > 0 {
		p.Thickness = o.Thickness
	}
	if o.Note != "" {
		p.Note = o.Note
	}
	return p
}

// Powder is what is known of a powder of the maker's.
func (o Own) Powder() Powder {
	p, err := PowderByID(o.Like)
	if err != nil {
		p = Powders()[0]
	}
	p.Name = o.Name
	if o.Colour != "" {
		p.Name += ", " + o.Colour
	}
	if o.Note != "" {
		p.Note = o.Note
	}
	return p
}

// asTable is the table of materials.
var asTable = table.Layout{
	Columns: []string{"what", "name", "like", "colour", "air_minutes", "heat_seconds", "thickness", "note", "form", "belly", "tried"},
	Needed:  []string{"what", "name", "like"},
	Of:      "materials", MaxBytes: MaxCSV, MaxRows: MaxOwn,
}

// WriteCSV writes materials as a table with a header.
func WriteCSV(w io.Writer, all []Own) error {
	number := func(v float64) string {
		if v == 0 {
			return ""
		}
		return strconv.FormatFloat(v, 'f', -1, 64)
	}
	measure := func(l length.Length) string {
		if l == 0 {
			return ""
		}
		return l.String()
	}
	var rows [][]string
	for _, o := range all {
		rows = append(rows, []string{string(o.What), o.Name, o.Like, o.Colour, number(o.AirDry.Minutes()), number(o.HeatDry.Seconds()), measure(o.Thickness), o.Note, string(o.Form), measure(o.Belly), triedCSV(o.Tried)})
	}
	return asTable.Write(w, rows)
}

// ReadCSV reads a table of materials with a header; columns may stand in any
// order, and what, name and like must be there. Errors name line and column;
// nothing is returned unless all of it is good.
func ReadCSV(r io.Reader, bare length.Unit) (out []Own, err error) {
	err = asTable.Read(r, func(row table.Row) error {
		o, err := readOwn(row, bare)
		if err == nil {
			err = o.Check()
		}
		out = append(out, o)
		return err
	})
	if err != nil {
		return nil, err
	}
	return out, nil
}

// triedCSV prints tests of a mask: "cotton-cp 6/0; pulp-cp (rain pad) 1/3", clean and torn.
func triedCSV(all []Tried) string {
	var out []string
	for _, t := range all {
		own := ""
		if t.OwnPaper != "" {
			own = " (" + t.OwnPaper + ")"
		}
		out = append(out, fmt.Sprintf("%s%s %d/%d", t.Paper, own, t.Clean, t.Tore))
	}
	return strings.Join(out, "; ")
}

// tried is one test as [triedCSV] prints it.
var tried = regexp.MustCompile(`^(\S+)(?: \((.+)\))? (\d{1,4})/(\d{1,4})$`)

func readTried(text string) (out []Tried, err error) {
	for part := range strings.SplitSeq(text, "; ") {
		m := tried.FindStringSubmatch(part)
		if m == nil {
			return nil, fmt.Errorf("%.40q is no test of a mask; write such as cotton-cp 6/0, clean and torn", part)
		}
		clean, _ := strconv.Atoi(m[3]) // four digits fit
		tore, _ := strconv.Atoi(m[4])
		out = append(out, Tried{Paper: m[1], OwnPaper: m[2], Clean: clean, Tore: tore})
	}
	return out, nil
}

// TriedOn is how often a mask tore a paper, and how often it came off that clean.
func (o *Own) TriedOn(paper, ownPaper string) (torn, clean int) {
	for _, t := range o.Tried {
		if t.Paper == paper && t.OwnPaper == ownPaper {
			torn, clean = torn+t.Tore, clean+t.Clean
		}
	}
	return torn, clean
}

// Try notes that a mask came off a paper, and whether it took some of it along.
func (o *Own) Try(paper, ownPaper string, tore bool) {
	i := slices.IndexFunc(o.Tried, func(t Tried) bool { return t.Paper == paper && t.OwnPaper == ownPaper })
	if i < 0 {
		o.Tried = append(o.Tried, Tried{Paper: paper, OwnPaper: ownPaper})
		i = len(o.Tried) - 1
	}
	if tore {
		o.Tried[i].Tore++
	} else {
		o.Tried[i].Clean++
	}
}

func readOwn(row table.Row, bare length.Unit) (o Own, err error) {
	o = Own{What: What(row.Get("what")), Name: row.Get("name"), Like: row.Get("like"), Colour: row.Get("colour"), Note: row.Get("note"), Form: Form(row.Get("form"))}
	for _, f := range []struct {
		name string
		to   *time.Duration
		unit time.Duration
	}{{"air_minutes", &o.AirDry, time.Minute}, {"heat_seconds", &o.HeatDry, time.Second}} {
		text := row.Get(f.name)
		if text == "" {
			continue
		}
		v, err := strconv.ParseFloat(strings.Replace(text, ",", ".", 1), 64)
		if err != nil || !(v >= 0 && v <= MaxDrying.Seconds()) {
			return o, row.Fail(f.name, fmt.Errorf("%.40q is no time", text))
		}
		*f.to = time.Duration(v * float64(f.unit))
	}
	for _, f := range []struct {
		name string
		to   *length.Length
	}{{"thickness", &o.Thickness}, {"belly", &o.Belly}} {
		if text := row.Get(f.name); text != "" {
			if *f.to, err = length.Parse(text, bare); err != nil {
				return o, row.Fail(f.name, err)
			}
		}
	}
	if text := row.Get("tried"); text != "" {
		if o.Tried, err = readTried(text); err != nil {
			return o, row.Fail("tried", err)
		}
	}
	return o, nil
}
