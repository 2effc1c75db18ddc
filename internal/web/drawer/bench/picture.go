package bench

import (
	"encoding/base64"
	"fmt"
	"html/template"
	"net/http"
	"strings"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/run"
	"chromaqua/core/steps"
	"chromaqua/internal/bench"
	"chromaqua/internal/web/board"
	"chromaqua/internal/web/page"
)

// liveBoard is the picture of the piece at hand, with what is wet on it.
type liveBoard struct {
	board.View
	Line   template.URL
	Lit    []int
	Keep   []int
	Wet    []overlay
	Goes   string // what is laid, for the board to show only that
	Laid   int
	Called string
}

type overlay struct {
	Slug  string
	Cells []int
}

// boardPatience is how long a picture is waited for.
const boardPatience = 20 * time.Second

// boardOf draws the piece at hand; nil where nothing is laid on it.
func (d *place) boardOf(r *http.Request, b *bench.View) (*liveBoard, error) {
	s, m := b.State, b.Moment
	op := m.Op
	if m.Act == run.Finished {
		if laid := s.Laid(); len(laid) > 0 {
			op = laid[len(laid)-1]
		}
	}
	if m.Act == run.Look {
		op = m.Ask()[0].On
	}
	o := &s.Ops[op]
	plan := s.Plan(op)
	piece := plan.Pieces[o.Step.Piece]
	if piece.Board == nil {
		piece = plan.Pieces[0]
	}
	rev := b.Places[o.Card].Rev.At(pieceAddress(piece.ID))
	l := d.LayPicture(rev, boardPatience)
	if l.Board == nil {
		return nil, nil
	}
	v := &liveBoard{View: board.New(l), Called: rev.Whole.PieceName(rev.Piece)}
	v.Line = template.URL("data:image/png;base64," + base64.StdEncoding.EncodeToString(l.Reading.Line))
	same := func(x int) bool {
		q := &s.Ops[x]
		return q.Card == o.Card && plan.Pieces[q.Step.Piece].ID == piece.ID && q.Step.Item == o.Step.Item
	}
	if m.Act != run.Finished && same(m.Op) {
		v.Lit = s.Ops[op].Step.Cells
	}
	for _, k := range m.Keep {
		if same(k) {
			v.Keep = append(v.Keep, s.Ops[k].Step.Cells...)
		}
	}
	for _, dr := range m.Drying {
		if q := &s.Ops[dr.Op]; same(dr.Op) && q.Step.Water > 0 {
			v.Wet = append(v.Wet, overlay{strings.ReplaceAll(dr.Stage.String(), " ", "-"), q.Step.Cells})
		}
	}
	var lines []string
	for _, x := range s.Laid() {
		if q := s.Ops[x].Step; same(x) && q.On != nil && q.On.Wash != steps.Wetting && s.Ops[x].Again == nil {
			lines = append(lines, fmt.Sprintf("%d %d %s|%s", q.On.Area+1, q.On.Wash+1, page.CellList(q.Cells), q.Title))
		}
	}
	v.Goes, v.Laid = strings.Join(lines, "\n"), len(lines)
	v.LookAhead(l.Board, &board.Ahead{})
	return v, nil
}

// pieceAddress is a piece's id as revisions are seen from it: "" for the panel.
func pieceAddress(id string) string {
	if id == card.ThePanel {
		return ""
	}
	return id
}
