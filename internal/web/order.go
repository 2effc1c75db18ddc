package web

import (
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/drying"
	"chromaqua/core/order"
	"chromaqua/core/panel"
	"chromaqua/core/steps"
)

// orderView is the Order station and the steps of the bench sheet.
type orderView struct {
	Steps   []stepView
	Rows    []rowView
	Ticks   []tickView
	Breaks  []float64 // where the axis leaves a long time out, on the chart
	Total   time.Duration
	HandsOn time.Duration
	Waiting time.Duration
	Lying   time.Duration // at the end, when nobody has to be there
	Parts   []partOfTime  // the four in words that add up
	Bound   time.Duration
	Reading time.Duration // 0 when reading order is impossible
	Saved   time.Duration
	Changes int
	Copies  int
	Dryings []card.Drying
	HeatCM2 float64
	Rack    int
	Width   float64 // of the chart, its own units
	Height  float64
	Proven  bool
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
	WaitFor    string        // and why
	Why        string
	On         string // which cards, "" for a single one
	Mix        *steps.Mix
}

// heatView is the use of the heat tool before a step.
type heatView struct {
	Long  time.Duration
	Words string // what is dried, and what for
	First bool   // on this plan: the caution stands there
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
	chartWidth  = 600.0
	chartRow    = 30.0
	chartLeft   = 160.0
	chartBroken = 46.0 // for a long time that is left out
	chartAfter  = 34.0 // for what comes after it
	letterWide  = 11.0 // a bar that has room for the letter of its go
)

func (s *Server) ordered(r *http.Request, p *stationPage, l *laid) error {
	if l.board == nil {
		p.NotReady = l.withoutBoard()
		return nil
	}
	plan, err := s.orders.of(r.Context(), l.orderKey, l.plan)
	if err != nil {
		_, words := s.explain(r, err)
		p.NotReady = upperFirst(words.Error()) + "."
		return nil
	}
	p.Order = plan.view(l.board)
	p.Order.HeatCM2 = l.heatCM2
	p.Board.Marks = l.goMarks(plan.plan)
	if p.Station.ID == "bench" {
		p.Bench = &benchView{Layout: l.layout(), Mixes: plan.plan.Mixes, PDF: cardPath(l.rev.ID, "bench.pdf"), Room: l.rev.Card.Room}
		return nil
	}
	p.Board.Ahead = plan.ahead()
	return nil
}

// benchView is what the bench sheet has beyond the steps.
type benchView struct {
	Layout layoutView
	Mixes  []steps.Mix
	PDF    string
	Room   drying.Room
}

func upperFirst(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:]
}

func seconds(n int) time.Duration { return time.Duration(n) * time.Second }

// A turn is one step taken on one card after the other.
type turn struct {
	op     int
	number int
	placed []int // indices into the schedule
	copies []int
}

// turns gathers what is done alike on several cards in a row; what nobody attends to
// counts once, wherever it begins.
func (p *planned) turns() (out []turn) {
	lying := map[int]int{}
	for i, at := range p.schedule.Ops {
		unattended := p.plan.Steps[at.Op].Unattended
		k, known := lying[at.Op]
		if n := len(out); !known && n > 0 && out[n-1].op == at.Op {
			k, known = n-1, true
		}
		if !known {
			k = len(out)
			out = append(out, turn{op: at.Op, number: k + 1})
			if unattended {
				lying[at.Op] = k
			}
		}
		out[k].placed, out[k].copies = append(out[k].placed, i), append(out[k].copies, at.Copy)
	}
	return out
}

// cardsWords names cards, "" when there is only one.
func cardsWords(copies []int, of int) string {
	if of == 1 {
		return ""
	}
	ids := slices.Clone(copies)
	slices.Sort(ids)
	ids = slices.Compact(ids)
	switch n := len(ids); {
	case n == of:
		return fmt.Sprintf("all %d cards", of)
	case n == 1:
		return fmt.Sprintf("card %d", ids[0]+1)
	case ids[n-1]-ids[0] == n-1:
		return fmt.Sprintf("cards %d to %d", ids[0]+1, ids[n-1]+1)
	}
	var names []string
	for _, id := range ids {
		names = append(names, strconv.Itoa(id+1))
	}
	return "cards " + strings.Join(names[:len(names)-1], ", ") + " and " + names[len(names)-1]
}

// An axis puts times on the chart; a long time in which nobody has to be there is left
// out of it.
type axis struct {
	from, to int // s, left out
	end      int
}

// axisOf leaves out what lies unattended once the last brush is laid down.
func (p *planned) axisOf() axis {
	a := axis{end: p.schedule.Makespan}
	painted, lain := 0, 0
	for _, at := range p.schedule.Ops {
		switch st := &p.plan.Steps[at.Op]; {
		case st.Unattended:
			lain = max(lain, at.End)
		case st.Kind != steps.Mount:
			painted = max(painted, at.End)
		}
	}
	if lain-painted > max(3600, painted/2) {
		a.from, a.to = painted, lain
	} else {
		a.from, a.to = a.end, a.end
	}
	return a
}

func (a axis) broken() bool { return a.to > a.from }

// x is where a time stands.
func (a axis) x(t int) float64 {
	width := chartWidth - chartLeft - 20
	if !a.broken() {
		return chartLeft + float64(t)*width/float64(max(1, a.end))
	}
	width -= chartBroken + chartAfter
	switch {
	case t <= a.from:
		return chartLeft + float64(t)*width/float64(max(1, a.from))
	case t <= a.to:
		return chartLeft + width + chartBroken*float64(t-a.from)/float64(a.to-a.from)
	}
	return chartLeft + width + chartBroken + chartAfter*float64(t-a.to)/float64(max(1, a.end-a.to))
}

func (p *planned) view(b *panel.Board) *orderView {
	sch, in, ax := p.schedule, p.plan.Instance, p.axisOf()
	v := &orderView{
		Total: seconds(sch.Makespan), HandsOn: seconds(sch.HandsOn(in)), Bound: seconds(sch.Bound), Lying: seconds(ax.to - ax.from),
		Changes: sch.Changes, Copies: in.Copies, Rack: in.Rack, Width: chartWidth, Proven: sch.Makespan == sch.Bound, Dryings: card.Dryings(),
	}
	v.Waiting = v.Total - v.HandsOn - v.Lying
	words, sum := together(v.HandsOn, v.Waiting, v.Lying)
	v.Parts = []partOfTime{{"In all", sum, v.Total}, {"Hands on", words[0], v.HandsOn}, {"Waiting", words[1], v.Waiting}}
	if v.Lying > 0 {
		v.Parts = append(v.Parts, partOfTime{"Under weight", words[2], v.Lying})
	}
	if p.reading != nil {
		v.Reading = seconds(p.reading.Makespan)
		v.Saved = v.Reading - v.Total
	}
	if ax.broken() {
		v.Breaks = []float64{ax.x(ax.from) + chartBroken/2}
	}
	looks := b.Looks()
	rows := map[int]int{} // row by area; -1 for the rest
	hands, heated := 0, false
	for _, t := range p.turns() {
		st := p.stepOf(t, &hands)
		if st.Heat != nil {
			st.Heat.First = !heated
			heated = true
		}
		key, label := -1, "Before and after"
		if st.Area >= 0 {
			key, label = st.Area, shortened(b.Areas[st.Area].Name, chartName)
		}
		row, ok := rows[key]
		if !ok {
			row = len(v.Rows)
			rows[key] = row
			v.Rows = append(v.Rows, rowView{Label: label, Y: 30 + float64(row)*chartRow})
		}
		bar := p.barOf(&st, ax)
		if st.Area >= 0 && st.Mix == nil {
			bar.Hex = looks[st.Area].Dense.Dry
		}
		v.Rows[row].Bars = append(v.Rows[row].Bars, bar)
		v.Steps = append(v.Steps, st)
	}
	if len(sch.Heat) > 0 {
		row := rowView{Label: "Heat tool", Y: 30 + float64(len(v.Rows))*chartRow}
		for _, h := range sch.Heat {
			row.Heat = append(row.Heat, barView{X: ax.x(h.Start), W: max(3, ax.x(h.End)-ax.x(h.Start)), Label: fmt.Sprintf("heat at %s for %d s: %s", clock(seconds(h.Start)), h.End-h.Start, p.plan.HeatWords([]order.Pass{h}))})
		}
		v.Rows = append(v.Rows, row)
	}
	v.Height = 40 + float64(len(v.Rows))*chartRow
	v.Ticks = ticksFor(ax)
	return v
}

// stepOf is a turn in words; hands is when the painter is free before it, and after.
func (p *planned) stepOf(t turn, hands *int) stepView {
	sch, in := p.schedule, p.plan.Instance
	first, last := sch.Ops[t.placed[0]], sch.Ops[t.placed[len(t.placed)-1]]
	st := stepView{
		Step: p.plan.Steps[t.op], Number: t.number, Start: seconds(first.Start), End: seconds(last.End),
		Why: p.why[t.placed[0]].Now, On: cardsWords(t.copies, in.Copies),
	}
	st.DryAt = seconds(sch.DryAt(in, last, order.TouchDry))
	if st.Step.Mix >= 0 {
		st.Mix = &p.plan.Mixes[st.Step.Mix]
	}
	if st.Unattended {
		return st
	}
	idle := first.Start - *hands
	if passes := sch.HeatBetween(*hands, first.Start); len(passes) > 0 {
		st.Heat = &heatView{Words: p.plan.HeatWords(passes)}
		for _, h := range passes {
			idle -= h.End - h.Start
			st.Heat.Long += seconds(h.End - h.Start)
		}
	}
	if in.Ops[t.op].Color != 0 {
		idle -= in.Rinse
	}
	st.Wait, st.WaitFor = seconds(max(0, idle)), p.why[t.placed[0]].Wait
	*hands = last.End
	return st
}

func (p *planned) barOf(st *stepView, ax axis) barView {
	start, end := int(st.Start/time.Second), int(st.End/time.Second)
	bar := barView{
		X: ax.x(start), W: max(3, ax.x(end)-ax.x(start)), Number: st.Number, Go: st.Go, Why: st.Why, Cells: cellList(st.Cells),
		Label: fmt.Sprintf("%d, %s, at %s", st.Number, st.Title, clock(st.Start)),
	}
	if bar.W < letterWide {
		bar.Go = ""
	}
	if st.On != "" {
		bar.Label += ", on " + st.On
	}
	if st.Mix != nil {
		bar.Hex = st.Mix.Hex
	}
	dry := int(st.DryAt / time.Second)
	bar.Tail = max(0, ax.x(dry)-ax.x(end))
	bar.Sheen = max(0, ax.x(min(dry, end+int(st.Open/time.Second)))-ax.x(end))
	return bar
}

// ticksFor marks the time axis in whole minutes that leave room for labels.
func ticksFor(ax axis) (out []tickView) {
	until := ax.from
	step := 60
	for _, m := range []int{1, 2, 5, 10, 15, 20, 30, 60, 120, 240, 480, 1440} {
		step = m * 60
		if until/step <= 6 {
			break
		}
	}
	for t := 0; t <= until; t += step {
		out = append(out, tickView{ax.x(t), fmt.Sprintf("%d:%02d", t/3600, t/60%60)})
	}
	return out
}
