// Package sheet writes documents to print at true size.
package sheet

import (
	"bytes"
	"embed"
	"fmt"
	"image"
	"image/draw"
	"image/png"
	"io"
	"io/fs"
	"slices"
	"strconv"
	"strings"
	"time"

	"codeberg.org/go-pdf/fpdf"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/lineart"
	"chromaqua/core/needs"
	"chromaqua/core/order"
	"chromaqua/core/panel"
	"chromaqua/core/steps"
	"chromaqua/core/wording"
)

// Fonts are the fonts that sheets are set in.
func Fonts() fs.FS { return fonts }

//go:embed fonts/*.ttf
var fonts embed.FS

// Margins and sizes on the page, millimetres.
const (
	margin   = 14.0
	rowHigh  = 6.2
	smallest = 1.8 // radius of the smallest cell that has room for a number
)

// Bench is what a bench sheet is made from.
type Bench struct {
	Card     *card.Card // with all its pieces
	Plan     *steps.Plan
	Schedule *order.Schedule
	Lines    map[string][]byte // by id of the piece: PNG of its line as large as it is, clear where the paper is
	Made     time.Time
	Ready    []needs.Laid

	// Painted is a piece as it is painted, as a JPEG: after a step, or dry where that is nil.
	// Areas are flat tones without it, or where it has none.
	Painted func(piece int, after *steps.Step) ([]byte, error)
}

// Write writes the bench sheet as a PDF: what to cut, what to mix, the picture
// with numbered areas at true size, and the steps with the clock. Pages are US
// letter for a card in inches and A4 for one in millimetres; the picture's page
// is larger where the panel needs it.
func (b *Bench) Write(w io.Writer) error {
	d := &doc{Bench: b, unit: b.Card.Unit}
	d.start()
	d.cutAndMix()
	for i := range b.Plan.Pieces {
		d.piece = &b.Plan.Pieces[i]
		if d.Board = d.piece.Board; d.Board == nil || !shown(d.Board.Card) {
			continue
		}
		if err := d.picture(); err != nil {
			return err
		}
	}
	d.steps()
	return d.pdf.Output(w)
}

// shown reports whether there is something to see on a piece: not where it is only cut or
// trimmed.
func shown(c *card.Card) bool {
	return len(c.Images)+len(c.Zones)+len(c.Areas) > 0 ||
		slices.ContainsFunc(c.Acts, func(h card.Handling) bool { return h.Text != nil })
}

// doc is a bench sheet being written.
type doc struct {
	*Bench
	pdf   *fpdf.Fpdf
	unit  length.Unit
	piece *panel.Piece // of which the picture is drawn
	Board *panel.Board // its
}

func (d *doc) card() *card.Card { return d.Card }

// Names the fonts have in the document.
const (
	words   = "words"
	figures = "figures"
)

func (d *doc) start() {
	d.pdf = newPDF(pageOf(d.unit))
	d.pdf.SetTitle(d.card().Name+", bench sheet", true)
	d.pdf.SetCreationDate(d.Made)
	d.pdf.SetModificationDate(d.Made)
	d.pdf.SetFooterFunc(func() {
		d.pdf.SetY(-margin)
		d.pdf.SetFont(figures, "", 9)
		d.pdf.CellFormat(0, 4, fmt.Sprintf("%s, page %d", d.card().Name, d.pdf.PageNo()), "", 0, "R", false, 0, "")
	})
}

// newPDF starts a document with the house's fonts, ink and margins.
func newPDF(paper string) *fpdf.Fpdf {
	p := fpdf.New("P", "mm", paper, "")
	for _, f := range []struct{ family, style, file string }{
		{words, "", "alegreya-400.ttf"}, {words, "I", "alegreya-400-italic.ttf"},
		{figures, "", "atkinson-hyperlegible-next-400.ttf"}, {figures, "B", "atkinson-hyperlegible-next-600.ttf"},
	} {
		data, err := fonts.ReadFile("fonts/" + f.file)
		if err != nil {
			panic("sheet: embedded font: " + err.Error())
		}
		p.AddUTF8FontFromBytes(f.family, f.style, data)
	}
	p.SetMargins(margin, margin, margin)
	p.SetAutoPageBreak(true, margin+6)
	p.SetCatalogSort(true) // so that the same sheet is the same file
	p.SetTextColor(0x1e, 0x2a, 0x3a)
	p.SetDrawColor(0x1e, 0x2a, 0x3a)
	p.SetLineWidth(0.2)
	return p
}

func heading(p *fpdf.Fpdf, text string, size float64) {
	p.SetFont(words, "", size)
	p.Ln(size / 8)
	p.MultiCell(0, size*0.45, text, "", "L", false)
	p.Ln(1)
}

// heading begins a part, with room for a line or two of it on its page.
func (d *doc) heading(text string, size float64) {
	room(d.pdf, size/2+14)
	heading(d.pdf, text, size)
}

// room begins a new page where less than some millimetres are left of this one.
func room(p *fpdf.Fpdf, high float64) {
	if _, ph := p.GetPageSize(); p.GetY()+high > ph-margin {
		p.AddPage()
	}
}

func (d *doc) text(text string) {
	d.pdf.SetFont(figures, "", 11)
	d.pdf.MultiCell(0, 5.2, text, "", "L", false)
}

func (d *doc) cutAndMix() {
	c := d.card()
	d.pdf.AddPage()
	d.heading(c.Name, 24)
	if c.Notes != "" {
		d.text(c.Notes)
	}
	d.text(fmt.Sprintf("In all %s, of which hands on %s; the rest is drying. Room %s humidity, drying %s. %s",
		wording.Time(d.Schedule.Makespan.Duration()), wording.Time(d.Schedule.HandsOn(d.Plan.Instance).Duration()), c.Room.Told(d.Plan.Bench.Degrees), dryingWords[c.Drying], d.Plan.Basis()))
	for _, n := range d.Plan.Notes {
		d.text("Mind: " + n.What + " " + n.Why)
	}
	d.heading("Cut"+d.forCards(", for each of %d cards"), 16)
	for _, row := range d.cuts() {
		d.row(row[0], row[1])
	}
	if len(d.Ready) > 0 {
		d.heading("Lay ready", 16)
	}
	for _, l := range d.Ready {
		d.row(wording.Upper(l.Kind), strings.Join(l.Things, "; "))
	}
	d.heading("Mix"+d.forCards(" for %d cards"), 16)
	for _, m := range d.Plan.Mixes {
		d.mix(m)
	}
	d.text("Amounts hold a third to spare. Parts are of paint, not of water. " + steps.PaletteNote(d.Plan.Ways))
}

// forCards says for how many cards a list is, where they are several.
func (d *doc) forCards(words string) string {
	if n := d.card().Copies; n > 1 {
		return fmt.Sprintf(words, n)
	}
	return ""
}

// row is something to tick off.
func (d *doc) row(what, text string) {
	p := d.pdf
	p.SetFont(figures, "B", 11)
	tickBox(p)
	p.CellFormat(30, rowHigh, what, "", 0, "L", false, 0, "")
	p.SetFont(figures, "", 11)
	p.MultiCell(0, rowHigh, text, "", "L", false)
}

// cuts lists what is cut, with its size in the maker's unit.
func (d *doc) cuts() [][2]string {
	var rows [][2]string
	for _, l := range d.card().CutList() {
		rows = append(rows, [2]string{wording.Upper(l.What), l.Text(d.unit)})
	}
	return rows
}

func tickBox(p *fpdf.Fpdf) {
	p.Rect(p.GetX(), p.GetY()+1.2, 3.6, 3.6, "D")
	p.SetX(p.GetX() + 6)
}

func (d *doc) mix(m steps.Mix) {
	p := d.pdf
	x, y := p.GetXY()
	d.fill(m.Hex)
	p.Rect(x, y+0.6, 9, 5, "DF")
	p.SetXY(x+12, y)
	p.SetFont(figures, "B", 12)
	p.CellFormat(92, rowHigh, d.card().Called.Mix(m.Parts), "", 0, "L", false, 0, "")
	p.SetFont(figures, "", 12)
	p.CellFormat(30, rowHigh, string(m.Strength), "", 0, "L", false, 0, "")
	p.CellFormat(22, rowHigh, fmt.Sprintf("%.1f ml", m.ML), "", 0, "L", false, 0, "")
	p.SetFont(figures, "", 10)
	p.CellFormat(0, rowHigh, pigments(m.Parts), "", 1, "L", false, 0, "")
	p.Ln(0.8)
}

// pigments are those of a mix by Colour Index name, for whoever buys them.
func pigments(parts []card.Part) string {
	var out []string
	for _, p := range parts {
		out = append(out, p.CI)
	}
	return strings.Join(out, " ")
}

func (d *doc) fill(hex string) { fillHex(d.pdf, hex) }

// fillHex sets the colour that is filled with.
func fillHex(p *fpdf.Fpdf, hex string) {
	v, err := strconv.ParseUint(hex[1:], 16, 32)
	if err != nil {
		panic("sheet: no colour: " + hex) // looks are made by the core
	}
	p.SetFillColor(int(v>>16), int(v>>8&0xff), int(v&0xff))
}

// title heads the picture of a piece.
func (d *doc) title() string {
	if d.piece.ID == card.ThePanel {
		return "The panel at true size"
	}
	name := wording.Upper(d.piece.Name) + " at true size"
	if d.piece.Many > 1 {
		name += fmt.Sprintf(", %d of it", d.piece.Many)
	}
	return name
}

// picture draws a piece at true size with its areas numbered.
func (d *doc) picture() error {
	p, size := d.pdf, d.Board.Card.PanelSize()
	w, h := size.W.MM(), size.H.MM()
	pw, ph, _ := p.PageSize(0)
	const around = 2*margin + 34 // heading and scale bar
	p.AddPageFormat("P", fpdf.SizeType{Wd: max(pw, w+2*margin), Ht: max(ph, h+around)})
	d.heading(d.title(), 16)
	x, y := margin, p.GetY()+2
	p.Rect(x, y, w, h, "D")
	looks := d.Board.Looks()
	painted, err := d.painted(slices.IndexFunc(d.Plan.Pieces, func(q panel.Piece) bool { return q.ID == d.piece.ID }), nil, x, y, w, h)
	if err != nil {
		return err
	}
	if !painted {
		d.flat(looks, x, y)
	}
	if m := d.Board.Card.Painting.Border.MM(); m > 0 { // masked, it stays white
		p.SetFillColor(255, 255, 255)
		for _, r := range [][4]float64{{0, 0, w, m}, {0, h - m, w, m}, {0, 0, m, h}, {w - m, 0, m, h}} {
			p.Rect(x+r[0], y+r[1], r[2], r[3], "F")
		}
		p.Rect(x, y, w, h, "D")
	}
	if err := d.line(x, y, w, h); err != nil {
		return err
	}
	d.overTheLine(looks, x, y)
	p.SetFont(figures, "B", 8)
	names := d.names()
	for i, c := range d.Board.Cells {
		if _, owned := d.Board.AreaOf(c.ID); owned && c.InscribedMM >= smallest {
			badge(p, min(x+w-3, max(x+3, x+c.Label.X)), min(y+h-3, max(y+3, y+c.Label.Y)), names[i])
		}
	}
	for i, a := range d.Board.Areas {
		for _, id := range a.Cells {
			if part := d.Board.Part(id); part.Zone {
				badge(p, min(x+w-3, max(x+3, x+part.Label.X)), min(y+h-3, max(y+3, y+part.Label.Y)), strconv.Itoa(i+1))
			}
		}
	}
	p.SetXY(margin, y+h+4)
	scaleBar(p, d.unit, margin, y+h+5)
	p.SetXY(margin, y+h+12)
	p.SetFont(figures, "", 11)
	for i, a := range d.Board.Areas {
		d.legend(i, a)
	}
	return nil
}

// names are the number of each cell's area, with the letter of the go in which its
// first wash is laid.
func (d *doc) names() []string {
	out := make([]string, len(d.Board.Cells))
	for i, c := range d.Board.Cells {
		if area, owned := d.Board.AreaOf(c.ID); owned {
			out[i] = strconv.Itoa(area + 1)
		}
	}
	for i := range d.Plan.Steps {
		if st := &d.Plan.Steps[i]; st.On != nil && st.On.Wash == 0 && st.Item == 0 && d.Plan.Pieces[st.Piece].ID == d.piece.ID {
			for _, id := range st.Cells {
				if id <= len(out) && !d.Board.Areas[st.On.Area].Lies {
					out[id-1] = st.Name()
				}
			}
		}
	}
	return out
}

func (d *doc) legend(i int, a panel.Area) {
	p := d.pdf
	text := strconv.Itoa(i+1) + "  " + a.Name
	if a.White {
		text += "; stays paper white"
	}
	p.MultiCell(0, 5, text, "", "L", false)
}

// shape fills an outline.
func (d *doc) shape(o lineart.Outline, x, y float64) {
	d.path(o, x, y, "f*") // even-odd, so that holes stay open
}

// path draws an outline in a style of the PDF: "D" strokes it.
func (d *doc) path(o lineart.Outline, x, y float64, style string) {
	for _, ring := range o.Rings {
		for i, pt := range ring {
			if i == 0 {
				d.pdf.MoveTo(x+pt.X, y+pt.Y)
			} else {
				d.pdf.LineTo(x+pt.X, y+pt.Y)
			}
		}
		d.pdf.ClosePath()
	}
	if len(o.Rings) > 0 {
		d.pdf.DrawPath(style)
	}
}

// line lays the line over the colours. The PDF library reads smooth
// transparency from true-colour pictures only.
func (d *doc) line(x, y, w, h float64) error {
	m, err := png.Decode(bytes.NewReader(d.Lines[d.piece.ID]))
	if err != nil {
		return fmt.Errorf("bench sheet: the picture of the line: %w", err)
	}
	full := image.NewNRGBA(m.Bounds())
	draw.Draw(full, full.Rect, m, m.Bounds().Min, draw.Src)
	var buf bytes.Buffer
	if err := png.Encode(&buf, full); err != nil {
		return fmt.Errorf("bench sheet: the picture of the line: %w", err)
	}
	opt := fpdf.ImageOptions{ImageType: "PNG"}
	d.pdf.RegisterImageOptionsReader("line "+d.piece.ID, opt, &buf)
	d.pdf.ImageOptions("line "+d.piece.ID, x, y, w, h, false, opt, 0, "")
	return d.pdf.Error()
}

// bar draws a bar along its longer side, every other of its parts filled.
func bar(p *fpdf.Fpdf, x, y, w, h float64, parts int) {
	p.SetFillColor(0x1e, 0x2a, 0x3a)
	dx, dy := 0.0, 0.0
	if w > h {
		w /= float64(parts)
		dx = w
	} else {
		h /= float64(parts)
		dy = h
	}
	for i := range parts {
		style := map[bool]string{true: "DF", false: "D"}[i%2 == 0]
		p.Rect(x+dx*float64(i), y+dy*float64(i), w, h, style)
	}
}

// scaleBar shows whether the printer kept the size.
func scaleBar(p *fpdf.Fpdf, u length.Unit, x, y float64) {
	long, parts, label := 50.8, 4, "This bar is 2 in long. If it is not, print at 100 %."
	if u == length.Millimetres {
		long, parts, label = 50, 5, "This bar is 50 mm long. If it is not, print at 100 %."
	}
	bar(p, x, y, long, 2.4, parts)
	p.SetFont(figures, "", 9)
	p.SetXY(x+long+3, y-0.8)
	p.CellFormat(0, 4, label, "", 0, "L", false, 0, "")
}

// dryingWords say how coats are dried.
var dryingWords = map[card.Drying]string{card.Air: "by air", card.Heat: "by heat", card.Mixed: "by heat where small, by air where big"}
