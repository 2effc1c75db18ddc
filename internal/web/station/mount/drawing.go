package mount

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/joint"
	"chromaqua/core/length"
	"chromaqua/core/mount"
	"chromaqua/internal/web/board"
	"chromaqua/internal/web/station"
)

// drawing is the card from the front, its inside, and its parts one above the other.
type drawing struct {
	Unit  length.Unit
	View  board.Box
	Text  float64 // mm, of letters
	Faces []faceView
	Side  sideView
	Alt   string
}

// faceView is one face of the card with what lies on it, in millimetres about its middle.
type faceView struct {
	Name  string
	X, Y  float64 // of its middle
	Box   board.Box
	Parts []memberView
}

// memberView is a part as it is drawn.
type memberView struct {
	Key     string // of the part, for dragging: "p1/0"
	Piece   string // "" for what is none
	Nth     int
	Name    string
	Kind    string
	X, Y    float64 // of its middle from that of its face
	Turn    float64
	Box     board.Box // about its own middle
	Hole    board.Box // of a frame
	Picture string
	Clip    string  // a path about its own middle that its picture is cut to, "" for its box
	OX, OY  float64 // the middle of what it lies on
	OTurn   float64
	Fault   bool
}

// sideView is the parts one above the other as seen from below, to one scale across; their
// thicknesses are drawn so many times as thick.
type sideView struct {
	Rows  []rowView
	Cut   rowView // the card closed, true to scale
	Times float64
}

// rowView is one part in the side view, with what holds it.
type rowView struct {
	Name, By string
	View     board.Box
	Bars     []board.Box // of paper
	Pads     []board.Box // of what holds it
	Thick    length.Length
}

// apart is how far faces stand from each other in the drawing, mm.
const apart = 14.0

// pictures are the addresses of the pictures of pieces, by their ids.
func pictures(v *station.Visit) map[string]string {
	out := map[string]string{}
	for _, p := range v.Page.Pieces {
		out[p.ID] = p.Picture
	}
	return out
}

func (p *place) drawingOf(v *station.Visit, a *mount.Assembly) drawing {
	c := v.Rev.Whole
	front := c.Front()
	w, h := front.W.MM(), front.H.MM()
	d := drawing{Unit: c.Unit, Text: max(w, h) * 0.035, Alt: fmt.Sprintf("The card from the front, %s, with %d parts on it", front.With(c.Unit), len(a.Members)-1)}
	at := map[card.Face]int{}
	face := func(f card.Face) *faceView {
		k, known := at[f]
		if !known {
			k = len(d.Faces)
			at[f] = k
			d.Faces = append(d.Faces, faceView{Name: string(f), X: w/2 + float64(k)*(w+apart), Y: h / 2, Box: board.At(-w/2, -h/2, w, h)})
		}
		return &d.Faces[k]
	}
	face(card.FrontFace)
	wrong := map[int]bool{}
	for _, f := range a.Faults {
		wrong[f.Member] = true
	}
	seen := pictures(v)
	for _, j := range a.Joints {
		for _, i := range j.Members {
			m := &a.Members[i]
			f := face(m.Face)
			part := p.partOf(v, m, seen)
			on := a.Members[m.On]
			part.OX, part.OY, part.OTurn, part.Fault = on.X.MM(), on.Y.MM(), on.Turn, wrong[i]
			f.Parts = append(f.Parts, part)
		}
	}
	d.View = board.At(-2, -2, float64(len(d.Faces))*(w+apart)-apart+4, h+4)
	d.Side = sideOf(a)
	return d
}

func (p *place) partOf(v *station.Visit, m *mount.Member, seen map[string]string) memberView {
	w, h := m.Size.W.MM(), m.Size.H.MM()
	out := memberView{Key: fmt.Sprintf("%s-%d", m.ID, m.Nth), Nth: m.Nth, Name: m.Title(), Kind: "paper", X: m.X.MM(), Y: m.Y.MM(), Turn: m.Turn, Box: board.At(-w/2, -h/2, w, h)}
	switch {
	case m.IsFrame():
		out.Kind = "frame"
		out.Hole = board.At(-m.Opening.W.MM()/2, -m.Opening.H.MM()/2, m.Opening.W.MM(), m.Opening.H.MM())
	case m.ID == card.PanelRing:
		out.Kind, out.Picture = "panel", seen[card.ThePanel]
	case m.Piece != nil:
		out.Kind, out.Piece, out.Picture = "piece", m.ID, seen[m.ID]
		out.Clip = p.cutLine(v, m)
	case m.ID == mount.LeafPart:
		out.Kind = "leaf"
	default:
		out.Kind = "mat"
	}
	return out
}

// linePatience is how long a page waits for the line of a cut-out; without it the whole piece
// of paper is drawn.
const linePatience = time.Second

// cutLine is the line a cut-out is cut along, about its middle, once it has been read.
func (p *place) cutLine(v *station.Visit, m *mount.Member) string {
	if m.Piece.Outline == nil {
		return ""
	}
	r := p.host.Reading(v.Rev.At(m.ID).Card)
	i := slices.IndexFunc(m.Piece.Images, func(o card.Image) bool { return o.ID == m.Piece.Outline.Image })
	if !r.Finished(linePatience) || r.Err != nil || i < 0 || i >= len(r.Sheet.Laid) {
		return ""
	}
	var b strings.Builder
	for _, ring := range r.Sheet.CutLine(i).Rings {
		for k, q := range ring {
			fmt.Fprintf(&b, "%c%.2f %.2f", "ML"[min(k, 1)], q.X-m.Size.W.MM()/2, q.Y-m.Size.H.MM()/2)
		}
		b.WriteByte('Z')
	}
	return b.String()
}

// timesHigh is how much thicker than true things are drawn from the side.
const timesHigh = 3.0

// sideOf draws the parts one above the other, the uppermost first.
func sideOf(a *mount.Assembly) sideView {
	s := sideView{Times: timesHigh}
	middle := a.Members[0].Size.W.MM() / 2
	least, most := 0.0, 2*middle
	across := func(i int) (m *mount.Member, all [][2]float64) {
		m = &a.Members[i]
		size := m.Size.Around(m.Turn)
		x, wide := middle+m.X.MM()-size.W.MM()/2, size.W.MM()
		least, most = min(least, x), max(most, x+wide)
		return m, bars(x, wide, (size.W-m.Opening.W).MM()/2, m.IsFrame())
	}
	for k := len(a.Joints); k >= 0; k-- {
		members := []int{0}
		if k > 0 {
			members = a.Joints[k-1].Members
		}
		first := &a.Members[members[0]]
		row := rowView{Name: first.Name, Thick: first.Paper.Thickness * length.Length(first.Layers)}
		thick, high := max(0.5, row.Thick.MM()*timesHigh), 0.0
		if k > 0 {
			row.By = first.By.Facts().Name
			high = max(0.3, first.High.MM()*timesHigh)
		}
		for _, i := range members {
			m, all := across(i)
			for _, bar := range all {
				row.Bars = append(row.Bars, board.At(bar[0], 0.3, bar[1], thick))
				if k == 0 {
					continue
				}
				for _, pad := range pads(bar[0], bar[1], m.By.Facts()) {
					row.Pads = append(row.Pads, board.At(pad[0], 0.3+thick, pad[1], high))
				}
			}
		}
		row.View.H = thick + high + 0.6
		s.Rows = append(s.Rows, row)
	}
	for i := range a.Members {
		m, all := across(i)
		for _, bar := range all {
			if !m.Inside() {
				s.Cut.Bars = append(s.Cut.Bars, board.At(bar[0], 0.3+(a.Thick-m.Top).MM(), bar[1], (m.Top-m.Bottom).MM()))
			}
		}
	}
	s.Cut.View.H = a.Thick.MM() + 0.6
	window := func(row *rowView) { row.View = board.At(least-1, 0, most-least+2, row.View.H) }
	for i := range s.Rows {
		window(&s.Rows[i])
	}
	window(&s.Cut)
	return s
}

// bars are where something from x on, so wide, is of paper: all of it, or at its two bars.
func bars(x, wide, bar float64, frame bool) [][2]float64 {
	if !frame {
		return [][2]float64{{x, wide}}
	}
	return [][2]float64{{x, bar}, {x + wide - bar, bar}}
}

// pads are where something is held: all along, or where it lies on pads at its sides and middle.
func pads(x, wide float64, by joint.Fact) [][2]float64 {
	each := min(8, wide/4)
	if by.Laid != joint.Pads {
		return [][2]float64{{x, wide}}
	}
	return [][2]float64{{x + 1, each}, {x + wide/2 - each/2, each}, {x + wide - each - 1, each}}
}
