package bench

import (
	"encoding/base64"
	"fmt"
	"html/template"
	"slices"
	"strings"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/run"
	"chromaqua/internal/bench"
	"chromaqua/internal/store"
	"chromaqua/internal/web/board"
)

// liveBoard is the picture of the piece at hand, with what is wet on it.
type liveBoard struct {
	board.View
	Line   template.URL
	Lit    []string // outlines
	Keep   []string
	Bare   []string // of areas that are painted in part
	Wet    []overlay
	Called string
	Now    string // address of the piece as it should look by now
}

type overlay struct {
	Slug  string
	Paths []string
}

// boardPatience is how long a picture is waited for.
const boardPatience = 20 * time.Second

// boardOf draws the piece at hand; nil where nothing is laid on it.
func (d *place) boardOf(b *bench.View, op int) (*liveBoard, error) {
	s, m := b.State, b.Moment
	o := &s.Ops[op]
	plan := s.Plan(op)
	piece := plan.Pieces[o.Step.Piece]
	if piece.Board == nil {
		piece = plan.Pieces[0]
	}
	rev := b.Places[o.Card].Rev.At(pieceAddress(piece.ID))
	same := func(x int) bool {
		q := &s.Ops[x]
		return q.Card == o.Card && plan.Pieces[q.Step.Piece].ID == piece.ID && q.Step.Item == o.Step.Item
	}
	l := d.LayPicture(soFar(rev, s, same), boardPatience)
	if l.Board == nil {
		return nil, nil
	}
	v := &liveBoard{
		View: board.New(l), Called: rev.Whole.PieceName(rev.Piece),
		Now: fmt.Sprintf("/bench/%d/painted.jpg?op=%d&at=%d", b.ID, op, s.Now/nowEvery),
	}
	outlines := v.Outlines()
	paths := func(cells []int) (out []string) {
		for _, id := range cells {
			if p := outlines[id]; p != "" {
				out = append(out, p)
			}
		}
		return out
	}
	v.Line = template.URL("data:image/png;base64," + base64.StdEncoding.EncodeToString(l.Reading.Line))
	if m.Act != run.Finished {
		v.Lit = paths(s.Ops[op].Step.Cells)
	}
	for _, k := range m.Keep {
		if same(k) {
			v.Keep = append(v.Keep, paths(s.Ops[k].Step.Cells)...)
		}
	}
	for _, dr := range m.Drying {
		if q := &s.Ops[dr.Op]; same(dr.Op) && q.Step.Water > 0 {
			v.Wet = append(v.Wet, overlay{strings.ReplaceAll(dr.Stage.String(), " ", "-"), paths(q.Step.Cells)})
		}
	}
	laid := map[int]bool{}
	for _, x := range s.Laid() {
		laid[x] = true
	}
	for x := range s.Ops {
		if q := s.Ops[x].Step; same(x) && !laid[x] && q.On != nil && q.On.Wash == 0 {
			v.Bare = append(v.Bare, paths(q.Cells)...)
		}
	}
	return v, nil
}

// soFar is a revision on which only what is laid by now is painted: of each area the washes
// of which some go is laid.
func soFar(rev *store.Revision, s *run.State, same func(op int) bool) *store.Revision {
	most := map[int]int{}
	for _, x := range s.Laid() {
		if q := s.Ops[x].Step; same(x) && q.On != nil {
			most[q.On.Area] = max(most[q.On.Area], q.On.Wash+1)
		}
	}
	c := *rev.Card
	c.Areas = slices.Clone(c.Areas)
	for i := range c.Areas {
		c.Areas[i].Washes = c.Areas[i].Washes[:min(len(c.Areas[i].Washes), most[i])]
	}
	out := *rev
	out.Card = &c
	return &out
}

// shown is the operation whose cells are lit: the step at hand, what is asked for, or what
// was done last.
func shown(s *run.State, m *run.Moment) int {
	laid := s.Laid()
	switch {
	case m.Act == run.Look:
		return m.Ask()[0].On
	case m.Act == run.Finished && len(laid) > 0:
		return laid[len(laid)-1]
	}
	return m.Op
}

// pieceAddress is a piece's id as revisions are seen from it: "" for the panel.
func pieceAddress(id string) string {
	if id == card.ThePanel {
		return ""
	}
	return id
}
