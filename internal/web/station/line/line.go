package line

import (
	"bytes"
	"cmp"
	"context"
	"embed"
	"errors"
	"html/template"
	"image/png"
	"net/http"
	"net/url"
	"slices"

	"github.com/go-chi/chi/v5"
	lru "github.com/hashicorp/golang-lru/v2"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/lineart"
	"chromaqua/core/panel"
	"chromaqua/core/photo"
	"chromaqua/core/proof"
	"chromaqua/core/shelf"
	"chromaqua/internal/desk"
	"chromaqua/internal/picture"
	"chromaqua/internal/store"
	"chromaqua/internal/web/board"
	"chromaqua/internal/web/page"
	"chromaqua/internal/web/station"
)

//go:embed *.html *.js
var files embed.FS

// Entry is the station's row in the table of stations.
var Entry = station.Entry{
	Room: page.Room{Files: files, Funcs: template.FuncMap{
		"onshelf": func(all []shelf.Own, what shelf.What, name string) bool {
			return slices.ContainsFunc(all, func(o shelf.Own) bool { return o.What == what && o.Name == name })
		},
		"corner": func(i int) string { return []string{"Upper left", "Upper right", "Lower right", "Lower left"}[i] },
		"ghosts": func() []int { return []int{1, 2, card.MaxGhost} },
		"times":  func() []int { return []int{1, 2, 3, card.MaxTimes} },
		"ghost":  func(n int) int { return int(100*panel.GhostShare(n) + 0.5) },
	}},
	New: func(h *station.Host) station.Station { return &place{h, desk.Cache[string, *photo.Flat](keptFlat)} },
}

type place struct {
	host  *station.Host
	flats *lru.Cache[string, *photo.Flat]
}

// About says what the station is.
func (*place) About() station.About {
	return station.About{
		ID: "line", Name: "Line", Question: "Which image, how big, where, made with what?",
		Needs: desk.NeedsLibrary, PicksImages: true,
	}
}

// tools are what the pointer does on the board.
var tools = []board.Tool{
	{ID: "move", Name: "Move", Key: "m"}, {ID: "pen", Name: "Pen", Key: "p"}, {ID: "choose", Name: "Choose", Key: "c"},
	{ID: "measure", Name: "Measure", Key: "e"}, {ID: "bare", Name: "Bare", Key: "k"},
}

// Show shows the images on the panel and what they are made with.
func (p *place) Show(v *station.Visit) error {
	shown := viewOf(v.Laid, v.Studio, v.Page.Picked)
	if shown.Picked != nil {
		v.Page.Picked = shown.Picked.ID
	}
	shown.Print = p.printOf(v, cmp.Or(v.Rev.Piece, card.ThePanel))
	v.Page.View = shown
	b := &v.Page.Board
	b.Plain, b.AtLine, b.Tools, b.Says = true, true, tools, "Drag the image."
	if m := unreadPhoto(v.Laid); m != nil {
		b.Square = page.CardAddress(v.Rev.Address(), "photo/"+m.Image) + "?" + url.Values{"picked": {m.ID}, "instead": {"yes"}}.Encode()
	}
	if v.Laid.Board != nil {
		b.Leaks, b.Corrections, b.Frames = shown.Leaks, shown.Marks, board.FramesOf(v.Laid.Board, v.Page.Picked)
		if len(b.Frames) > 1 {
			b.Says = "Drag an image."
		}
	}
	return nil
}

// unreadPhoto is the image of a panel that cannot be read since it is a photograph, if one is.
func unreadPhoto(l *desk.Laid) *card.Image {
	if !errors.Is(l.Err, lineart.ErrNotLineArt) {
		return nil
	}
	var of *panel.ImageError
	if errors.As(l.Err, &of) {
		m, _ := l.Rev.Card.ImageByID(of.ID)
		return m
	}
	return l.Rev.Card.Line()
}

// Edits are the changes of images, of the line, and of what the card is made with.
func (p *place) Edits() []station.Edit {
	return append(station.Plain(
		change.Look{}, change.Place{}, change.Shift{}, change.Centre{}, change.Turn{}, change.Mirror{}, change.Bring{},
		change.Repeat{}, change.TakeAway{}, change.ImageKind{}, change.Ghost{}, change.Bare{}, change.Relief{}, change.Measure{},
		change.LieOver{}, change.CloseLeak{}, change.OpenLeak{}, change.JoinCells{}, change.Stroke{}, change.RemoveMark{}, change.Specks{}, change.PutWords{},
	),
		station.Edit{Name: change.NameOf(change.Materials{}), Do: p.setMaterials},
		station.Edit{Name: change.NameOf(change.Medium{}), Do: p.setMedium},
		station.Edit{Name: change.NameOf(change.LayImage{}), Do: p.useDrawing},
	)
}

// setMaterials chooses materials, the maker's own as the shelf has them.
func (p *place) setMaterials(e *station.Editing) (change.Done, error) {
	var c change.Materials
	if err := page.Decode(e.Request, &c); err != nil {
		return change.Done{}, err
	}
	for _, m := range []struct {
		what shelf.What
		is   *change.Material
	}{{shelf.OwnPaper, c.Paper}, {shelf.OwnInk, c.Ink}} {
		if m.is == nil {
			continue
		}
		var err error
		if m.is.ID, m.is.Own, err = p.host.Material(e.Context(), m.what, m.is.ID, m.is.Own); err != nil {
			return change.Done{}, err
		}
	}
	return e.Make(c)
}

// useDrawing puts an image of the studio on the panel.
func (p *place) useDrawing(e *station.Editing) (change.Done, error) {
	var form struct {
		Image   string `json:"image"`
		Picked  string `json:"picked"`
		Instead bool   `json:"instead"`
	}
	if err := page.Decode(e.Request, &form); err != nil {
		return change.Done{}, err
	}
	m, err := p.host.Image(e.Context(), form.Image)
	if errors.Is(err, store.ErrNotFound) {
		return change.Done{}, errors.New("that image is no longer in the studio; choose another")
	}
	if err != nil {
		return change.Done{}, err
	}
	width := m.Real
	if width == 0 { // not measured yet: as wide as the panel until it is
		width = e.Card.PanelSize().W
	}
	return e.Make(change.LayImage{Scan: station.ScanOf(m, width), Kind: m.Kind, Picked: form.Picked, Instead: form.Instead})
}

// Routes answers with cut-outs to print, and takes scans.
func (p *place) Routes(r chi.Router) {
	r.Get("/masks.{as:svg|pdf}", p.host.Handle(p.cutOuts))
	r.Get("/print.pdf", p.host.Handle(p.printPDF))
	r.Get("/print-test.pdf", p.host.Handle(p.printTest))
	r.Post("/upload", p.host.Handle(p.upload))
	r.Post("/photo", p.host.Handle(p.takePhoto))
	r.Post("/photo/practice", p.host.Handle(p.practisePhoto))
	r.Post("/photo/{image}", p.host.Handle(p.takeStored))
	r.Get("/photo/{image}", p.host.Handle(p.photo))
	r.Get("/photo/{image}/flat.jpg", p.host.Handle(p.flat))
	r.Post("/photo/{image}/lay", p.host.Handle(p.layPhoto))
	r.Post("/impression", p.host.Handle(p.impression))
	r.Post("/impression/practice", p.host.Handle(p.practiseImpression))
}

// upload stores a scan and lays it on the panel: exactly on the picked image when both
// show the same.
func (p *place) upload(w http.ResponseWriter, r *http.Request) error {
	return p.host.TakeScan(w, r, func(e *station.Editing, m *store.Image) (change.Done, error) {
		m.Kept = true // whoever uploads a scan will want it again
		asPanel := m.Real == 0
		if asPanel {
			m.Real = e.Card.PanelSize().W
		}
		done, again, err := p.lay(e, m)
		if again || err != nil {
			return done, err
		}
		switch {
		case asPanel:
			done.Says += " as the panel is, since its file does not say"
		case e.FormValue("width") == "":
			done.Says += " as its file says"
		}
		return done, err
	})
}

// lay lays a picture on the panel; again tells that it shows an image that is on it, and
// lies exactly there.
func (p *place) lay(e *station.Editing, m *store.Image) (done change.Done, again bool, err error) {
	picked := e.Card.Line()
	if id := e.FormValue("picked"); id != "" {
		picked, _ = e.Card.ImageByID(id) // nil for one that is gone
	}
	if picked != nil {
		same, err := p.relay(e.Context(), e.Card, picked, m)
		if err != nil {
			return done, false, err
		}
		if same {
			done, err = e.Make(change.Rescan{Picked: picked.ID, Scan: station.ScanOf(m, m.Real)})
			return done, true, err
		}
	}
	done, err = e.Make(change.LayImage{Scan: station.ScanOf(m, m.Real), Kind: m.Kind, Picked: e.FormValue("picked"), Instead: e.FormValue("instead") != ""})
	done.Says += ", " + m.Real.Near(e.Card.Unit) + " wide"
	return done, false, err
}

// relay lays a new scan of an image that is on the panel exactly on the old one,
// so that areas and corrections stay where they are, and says whether the two
// show the same image. The picture becomes the scan as it was laid.
func (p *place) relay(ctx context.Context, c *card.Card, l *card.Image, m *store.Image) (same bool, err error) {
	if l.Image == m.Hash || len(c.Areas)+len(l.Marks) == 0 {
		return false, nil
	}
	old, err := p.host.Image(ctx, l.Image)
	if errors.Is(err, store.ErrNotFound) {
		return false, nil
	}
	if err != nil {
		return false, err
	}
	was, err := picture.Grey(old.Data)
	if err != nil {
		return false, err
	}
	scan, err := picture.Grey(m.Data)
	if err != nil {
		return false, err
	}
	laid, same, err := proof.Relay(ctx, was, l.DPI(), scan, float64(m.Width)/(m.Real.MM()/25.4))
	if ctx.Err() != nil {
		return false, ctx.Err()
	}
	if err != nil || !same { // what cannot be compared is another image
		return false, nil
	}
	var buf bytes.Buffer
	if err := png.Encode(&buf, laid); err != nil {
		return false, err
	}
	m.Data, m.Hash, m.Media = buf.Bytes(), store.Hash(buf.Bytes()), "image/png"
	m.Width, m.Height, m.Real = laid.Rect.Dx(), laid.Rect.Dy(), l.Width
	return true, nil
}
