package order

import (
	"fmt"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/drying"
	"chromaqua/core/order"
	"chromaqua/core/panel"
	"chromaqua/core/steps"
	"chromaqua/internal/desk"
	"chromaqua/internal/web/page"
)

// View is what the station shows, and the steps of the bench sheet.
type View struct {
	Near    bool // no order is much shorter
	Degrees drying.Degrees
	Schools []schoolView
	Departs []string // in what the card is otherwise than a new one would be
	Steps   []stepView
	Rows    []rowView
	Ticks   []tickView
	Breaks  []float64 // where the axis leaves a long time out, on the chart
	Total   time.Duration
	HandsOn time.Duration
	Waiting time.Duration
	Lying   time.Duration // of the long time when nobody has to be there: under weight, or while glue sets
	Parts   []partOfTime  // the four in words that add up
	Bound   time.Duration
	Reading time.Duration // 0 when reading order is impossible
	Saved   time.Duration
	Changes int
	Copies  int
	Dryings []card.Drying
	Drying  string // what is said of the way it dries
	Basis   string // on what its times stand
	Rack    int
	Width   float64 // of the chart, its own units
	Height  float64
	Proven  bool
	upView
}

// partOfTime is a time in words, with its exact one.
type partOfTime struct {
	Name, Words string
	Exact       time.Duration
}

// stepView is a step as it is taken, on one card after the other.
type stepView struct {
	steps.Step
	Number     int
	Start, End time.Duration
	DryAt      time.Duration
	Heat       *heatView     // of the tool before it, nil when it is not used
	Wait       time.Duration // idle before it
	Waits      bool          // that is worth saying
	WaitFor    string        // and why
	Why        string
	Cards      string // which cards, "" for a single one
	Again      int    // the earlier step at which its caution stands, 0 for none
	Mix        *steps.Mix
	Brief      steps.Brief      // on the bench sheet
	Into       []steps.Follower // what comes while it is wet
}

// heatView is the use of the heat tool before a step.
type heatView struct {
	Long    time.Duration
	Words   string // what is dried, and what for
	Names   string // of the goes, as the board shows them
	Caution string // where it begins
	Again   int
}

// rowView is one line of the time chart.
type rowView struct {
	Label string
	Y     float64
	Bars  []barView
	Heat  []barView
}

type barView struct {
	X, W        float64
	Tail, Sheen float64 // widths of the drying tail, and of its part that is still open
	Label       string
	Go          string // its letter
	Why         string
	Cells       string
	Hex         string
	Number      int
}

// chartName is how many characters of a name the chart has room for.
const chartName = 20

func shortened(s string, n int) string {
	if r := []rune(s); len(r) > n {
		return string(r[:n-1]) + "…"
	}
	return s
}

type tickView struct {
	X     float64
	Label string
}

// Chart geometry, in the chart's own units.
const (
	chartWidth = 600.0
	chartRow   = 30.0
	chartLeft  = 160.0
	letterWide = 11.0 // a bar that has room for the letter of its go
)

// near is the share of an order that none can undercut, from which on it is not worth a
// figure.
const near = 0.98

// ViewOf is what is shown of a card in order beside the board of one of its pieces: steps on
// another have no cells there.
func ViewOf(p *desk.Planned, piece string) *View {
	sch, in := p.Schedule, p.Plan.Instance
	ax := axisOf(in, sch)
	v := &View{
		Total: sch.Makespan.Duration(), HandsOn: sch.HandsOn(in).Duration(), Bound: sch.Bound.Duration(), Lying: ax.lying(in, sch).Duration(),
		Changes: sch.Changes, Copies: in.Copies, Rack: in.Rack, Width: chartWidth, Proven: sch.Makespan == sch.Bound, Near: float64(sch.Bound) >= near*float64(sch.Makespan), Dryings: card.Dryings(),
	}
	v.Waiting = v.Total - v.HandsOn - v.Lying
	words, sum := page.Together(v.HandsOn, v.Waiting, v.Lying)
	v.Parts = []partOfTime{{"In all", sum, v.Total}, {"Hands on", words[0], v.HandsOn}, {"Waiting", words[1], v.Waiting}}
	if v.Lying > 0 {
		v.Parts = append(v.Parts, partOfTime{"Under weight", words[2], v.Lying})
	}
	if p.Reading != nil {
		v.Reading = p.Reading.Makespan.Duration()
		v.Saved = v.Reading - v.Total
	}
	if ax.broken() {
		v.Breaks = []float64{ax.x(ax.from) + chartBroken/2}
	}
	looks := looksOf(p.Plan)
	type key struct{ piece, item, area int }
	const rest = -1       // what is on no area
	rows := map[key]int{} // row by area
	told := steps.Told{}
	turns := p.Plan.Turns(p.Schedule)
	for _, t := range turns {
		st := stepOf(p, t)
		if st.Heat != nil {
			st.Heat.Caution, st.Heat.Again = told.Say(steps.HeatCaution, t.Number)
		}
		st.Caution, st.Again = told.Say(st.Caution, t.Number)
		st.Brief, st.Into = p.Plan.Brief(&st.Step), p.Plan.Followers(turns, t)
		at, label := key{area: rest}, "Before and after"
		if st.On != nil {
			at, label = key{st.Piece, st.Item, st.On.Area}, shortened(rowName(p.Plan, &st.Step), chartName)
		}
		row, ok := rows[at]
		if !ok {
			row = len(v.Rows)
			rows[at] = row
			v.Rows = append(v.Rows, rowView{Label: label, Y: 30 + float64(row)*chartRow})
		}
		if p.Plan.Pieces[st.Piece].ID != piece {
			st.Cells = nil
		}
		bar := barOf(p, &st, ax)
		if st.On != nil && st.Mix == nil {
			bar.Hex = looks[st.Piece][st.On.Area].Dense.Dry
		}
		v.Rows[row].Bars = append(v.Rows[row].Bars, bar)
		v.Steps = append(v.Steps, st)
	}
	if len(sch.Heat) > 0 {
		row := rowView{Label: "Heat tool", Y: 30 + float64(len(v.Rows))*chartRow}
		for _, h := range sch.Heat {
			row.Heat = append(row.Heat, barView{X: ax.x(h.Start), W: max(3, ax.x(h.End)-ax.x(h.Start)), Label: fmt.Sprintf("heat at %s for %d s: %s", page.Clock(h.Start.Duration()), h.End-h.Start, p.Plan.HeatWords([]order.Pass{h}))})
		}
		v.Rows = append(v.Rows, row)
	}
	v.Height = 40 + float64(len(v.Rows))*chartRow
	v.Ticks = ax.ticks()
	return v
}

// rowName names the row of a wash: its area, behind the piece where that is not the panel.
func rowName(p *steps.Plan, s *steps.Step) string {
	if name := p.PieceOf(s); name != "" && s.Piece > 0 {
		return name + ": " + p.AreaOf(s).Name
	}
	return p.AreaOf(s).Name
}

// looksOf are the looks of the areas of all pieces.
func looksOf(p *steps.Plan) (out [][]panel.Look) {
	for i := range p.Pieces {
		var looks []panel.Look
		if b := p.Pieces[i].Board; b != nil {
			looks = b.Looks()
		}
		out = append(out, looks)
	}
	return out
}

// stepOf is a turn in words.
func stepOf(p *desk.Planned, t steps.Turn) stepView {
	sch, in := p.Schedule, p.Plan.Instance
	st := stepView{
		Step: p.Plan.Steps[t.Step], Number: t.Number, Start: t.Start.Duration(), End: t.End.Duration(),
		Why: p.Why[t.Placed[0]].Now, Cards: t.On(in.Copies), Wait: t.Wait.Duration(), Waits: t.Waits(), WaitFor: p.Why[t.Placed[0]].Wait,
	}
	st.DryAt = sch.DryAt(in, sch.Ops[t.Placed[len(t.Placed)-1]], order.TouchDry).Duration()
	st.Mix = p.Plan.MixOf(&st.Step)
	if len(t.Heat) > 0 {
		st.Heat = &heatView{Long: t.Heated().Duration(), Words: p.Plan.HeatWords(t.Heat), Names: p.Plan.HeatNames(t.Heat)}
	}
	return st
}

func barOf(p *desk.Planned, st *stepView, ax axis) barView {
	start, end := order.Floor(st.Start), order.Floor(st.End)
	bar := barView{
		X: ax.x(start), W: max(3, ax.x(end)-ax.x(start)), Number: st.Number, Go: st.Go, Why: st.Why, Cells: page.CellList(st.Cells),
		Label: fmt.Sprintf("%d, %s, at %s", st.Number, st.Title, page.Clock(st.Start)),
	}
	if bar.W < letterWide {
		bar.Go = ""
	}
	if st.Cards != "" {
		bar.Label += ", on " + st.Cards
	}
	if st.Mix != nil {
		bar.Hex = st.Mix.Hex
	}
	dry := order.Floor(st.DryAt)
	bar.Tail = max(0, ax.x(dry)-ax.x(end))
	bar.Sheen = max(0, ax.x(min(dry, end+order.Floor(st.Open)))-ax.x(end))
	return bar
}
