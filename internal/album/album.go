// Package album keeps photos of what was made, and what is read of them against the plan.
package album

import (
	"context"
	"encoding/json"
	"errors"
	"image"

	"chromaqua/core/panel"
	"chromaqua/core/photo"
	"chromaqua/core/pigment"
	"chromaqua/internal/desk"
	"chromaqua/internal/picture"
	"chromaqua/internal/standin"
	"chromaqua/internal/store"
)

// Sides of pictures that are kept, pixels.
const (
	keptSide     = 1800
	squaredSide  = 1400
	practiceWide = 1280 // of photos that the practice camera takes
)

// Reading is what was read of a photo, as it is kept.
type Reading struct {
	W      float64  `json:"w_mm"` // of the panel
	H      float64  `json:"h_mm"`
	Agrees float64  `json:"agrees"`
	Lit    float64  `json:"lit"` // the brightest paper by the darkest
	Unsure []string `json:"unsure,omitempty"`
	Cells  int      `json:"cells"` // that were read
	Areas  []Area   `json:"areas"`
	Marks  []Mark   `json:"marks,omitempty"`
}

// Area is one area, planned and seen.
type Area struct {
	ID      string        `json:"id"`
	Name    string        `json:"name"`
	Planned string        `json:"planned"` // "#rrggbb"
	Seen    string        `json:"seen"`
	Off     float64       `json:"off"` // ΔE00
	Verdict photo.Verdict `json:"verdict"`
	Leans   string        `json:"leans,omitempty"`
	Missing int           `json:"missing,omitempty"` // cells not painted
	Of      int           `json:"of"`                // cells
	Sure    bool          `json:"sure"`
}

// Mark is something seen at a place, mm.
type Mark struct {
	Says string  `json:"says"`
	X    float64 `json:"x_mm"`
	Y    float64 `json:"y_mm"`
	R    float64 `json:"r_mm"`
}

// Album keeps photos.
type Album struct{ *desk.Desk }

// Of is what a photo belongs to: a making of a card, at the bench or entered by hand, and the
// piece of it that is seen.
type Of struct {
	Run, Entry int64
	Card       int64
	Piece      string
}

// Shows reports whether a photo is one of the making.
func (o Of) Shows(p *store.Photo) bool { return p.Run == o.Run && p.Entry == o.Entry }

// Add reads a photo of a piece of a card and keeps it. What cannot be read is kept as a
// picture, with the reason; what is no picture is refused.
func (a *Album) Add(ctx context.Context, of Of, rev *store.Revision, data []byte) (int64, error) {
	release, err := a.OpenPicture(ctx)
	if err != nil {
		return 0, err
	}
	defer release()
	m, err := picture.Photo(data)
	if err != nil {
		return 0, desk.Refuse(err)
	}
	kept, err := picture.Small(m, keptSide)
	if err != nil {
		return 0, err
	}
	p := store.Photo{Run: of.Run, Entry: of.Entry, Card: of.Card, Piece: of.Piece, Data: kept}
	plan, err := a.plan(ctx, rev, of.Piece)
	if err != nil {
		p.Why = "its cells are not known, so it cannot be held against the plan"
		return a.put(ctx, p)
	}
	return a.keep(ctx, p, m, plan)
}

// keep reads a photo and keeps it.
func (a *Album) keep(ctx context.Context, p store.Photo, m image.Image, plan *photo.Plan) (int64, error) {
	r, err := photo.Read(ctx, m, plan)
	switch {
	case ctx.Err() != nil:
		return 0, ctx.Err()
	case err != nil:
		p.Why = err.Error()
		return a.put(ctx, p)
	}
	if p.Squared, err = picture.Small(r.Squared, squaredSide); err != nil {
		return 0, err
	}
	if p.Reading, err = json.Marshal(readingOf(plan, r)); err != nil {
		return 0, err
	}
	return a.put(ctx, p)
}

// put keeps a photo, where there is room for it.
func (a *Album) put(ctx context.Context, p store.Photo) (int64, error) {
	id, err := a.AddPhoto(ctx, p)
	if errors.Is(err, store.ErrManyPhotos) {
		err = desk.Refuse(err)
	}
	return id, err
}

// plan is what a photo of a piece of a card is held against.
func (a *Album) plan(ctx context.Context, rev *store.Revision, piece string) (*photo.Plan, error) {
	alone := rev.At(piece).Card
	read, err := a.Read(ctx, alone)
	if err != nil {
		return nil, err
	}
	line, err := picture.Grey(read.Line)
	if err != nil {
		return nil, err
	}
	return photo.PlanOf(panel.Resolve(alone, read.Sheet), line), nil
}

// ErrNoPractice means that the practice camera has nothing to photograph.
var ErrNoPractice = errors.New("nothing is painted on it yet that could be photographed; paint it at the Colour station first")

// Practise takes a photo with the practice camera, as if the piece had been painted, with a
// few slips: it is simulated, and kept as such.
func (a *Album) Practise(ctx context.Context, of Of, rev *store.Revision, seed uint64) (int64, error) {
	plan, err := a.plan(ctx, rev, of.Piece)
	if err != nil {
		return 0, desk.Refuse(err)
	}
	if !rev.At(of.Piece).Card.Painted() {
		return 0, desk.Refuse(ErrNoPractice)
	}
	camera := standin.Camera{Seed: seed, Wide: practiceWide, Tilt: float64(seed % 13), Turn: float64(seed%9) - 4, Light: 0.12 * float64(seed%4), Noise: 3, Cast: 0.05}
	shot, err := camera.Photograph(plan, standin.Slip(plan, seed, 0.06, seed%2 == 0, true))
	if err != nil {
		return 0, err
	}
	kept, err := picture.Small(shot.Photo, keptSide)
	if err != nil {
		return 0, err
	}
	return a.keep(ctx, store.Photo{Run: of.Run, Entry: of.Entry, Card: of.Card, Piece: of.Piece, Data: kept, Simulated: true}, shot.Photo, plan)
}

func readingOf(p *photo.Plan, r *photo.Reading) Reading {
	out := Reading{W: p.W, H: p.H, Agrees: r.Agrees, Lit: r.Lit, Unsure: r.Unsure}
	cells := make([]int, len(p.Areas))
	for i, c := range r.Cells {
		if c.Verdict != photo.Unsure {
			out.Cells++
		}
		of := &p.Cells[i]
		if of.Area >= 0 {
			cells[of.Area]++
		}
		if c.Verdict == photo.Forgotten {
			out.Marks = append(out.Marks, Mark{"not painted: a cell of " + p.Areas[of.Area].Name, of.At.X, of.At.Y, max(1.5, of.Radius)})
		}
	}
	for i, a := range r.Areas {
		if cells[i] == 0 && a.Verdict == photo.Unsure {
			continue
		}
		out.Areas = append(out.Areas, Area{
			ID: p.Areas[i].ID, Name: p.Areas[i].Name, Planned: hex(a.WasPlans), Seen: hex(a.Colour), Off: a.Off, Verdict: a.Verdict,
			Leans: a.Leans, Missing: len(a.Missing), Of: cells[i], Sure: a.Sure,
		})
	}
	for _, m := range r.Marks {
		out.Marks = append(out.Marks, Mark{string(m.Kind), m.At.X, m.At.Y, 2.2})
	}
	return out
}

func hex(l pigment.Lab) string { return l.RGB().Clip().Hex() }

// ReadingOf reads what is kept of a photo, nil when it was not read.
func ReadingOf(p *store.Photo) *Reading {
	var r Reading
	if len(p.Reading) == 0 || json.Unmarshal(p.Reading, &r) != nil {
		return nil
	}
	return &r
}
