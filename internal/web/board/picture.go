package board

import (
	"bytes"
	"encoding/base64"
	"html/template"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"

	"chromaqua/internal/desk"
	"chromaqua/internal/store"
	"chromaqua/internal/web/page"
)

// Pictures of the latest revisions shown are kept: each takes some 60 kB, and
// reading a panel again for its thumbnail a quarter of a second.
const (
	keptPictures    = 300
	picturePatience = time.Minute
)

// Pictures draws finished panels as SVG of their true size.
type Pictures struct {
	pages *page.Pages
	desk  *desk.Desk
	kept  *lru.Cache[desk.RevisionKey, []byte]
}

// NewPictures returns pictures of what lies on a desk.
func NewPictures(p *page.Pages, d *desk.Desk) *Pictures {
	return &Pictures{p, d, desk.Cache[desk.RevisionKey, []byte](keptPictures)}
}

// Of returns the picture of a revision.
func (p *Pictures) Of(rev *store.Revision) ([]byte, error) {
	key := desk.KeyOf(rev)
	if svg, ok := p.kept.Get(key); ok {
		return svg, nil
	}
	svg, known, err := p.Draw(rev, nil)
	if err == nil && (known || !rev.Card.Begun()) {
		p.kept.Add(key, svg)
	}
	return svg, err
}

// Draw draws the picture of a card, stored or not, and says whether its cells are known. Its
// washes are as in a JPEG of them, in flat tones when that is nil.
func (p *Pictures) Draw(rev *store.Revision, washes []byte) (svg []byte, known bool, err error) {
	l := p.desk.LayPicture(rev, picturePatience)
	v := struct {
		View
		Line, Washes template.URL // as data addresses: an image may not load others
	}{View: New(l)}
	if l.Board != nil {
		v.Line = template.URL("data:image/png;base64," + base64.StdEncoding.EncodeToString(l.Reading.Line))
	}
	if washes != nil {
		v.Washes = template.URL("data:image/jpeg;base64," + base64.StdEncoding.EncodeToString(washes))
	}
	var buf bytes.Buffer
	err = p.pages.Execute(&buf, "panel.svg.html", v)
	return buf.Bytes(), l.Board != nil, err
}

// Outlines are the outlines of cells and pieces of zones, by their ids, in hundredths of a
// millimetre.
func (v *View) Outlines() map[int]string {
	out := map[int]string{}
	for _, g := range v.Groups {
		for _, c := range g.Cells {
			out[c.ID] = c.Path
		}
	}
	for _, e := range v.Edges {
		out[e.ID] = e.Path
	}
	return out
}
