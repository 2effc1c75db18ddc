package steps

import (
	"fmt"
	"slices"
	"strconv"

	"chromaqua/core/order"
	"chromaqua/core/wording"
)

// A Turn is one step as it is taken, on one card after the other.
type Turn struct {
	Step   int   // index into the plan's steps
	Number int   // from 1, as it is counted everywhere
	Placed []int // indices into the schedule's operations
	Copies []int // the cards, by placed operation

	Start, End order.Seconds
	Heat       []order.Pass  // of the tool, while the hands have nothing else to do before it
	Wait       order.Seconds // before it, beside the heat and a rinse
	Meanwhile  bool          // the next turn begins while it lies unattended, on each card
}

// longWait is from where on a wait is worth saying, s.
const longWait = 20

// Waits reports whether the wait before a turn is worth saying.
func (t Turn) Waits() bool { return t.Wait >= longWait }

// Heated is how long the heat tool is used before a turn.
func (t Turn) Heated() (secs order.Seconds) {
	for _, h := range t.Heat {
		secs += h.End - h.Start
	}
	return secs
}

// Turns gathers what a schedule does alike on several cards in a row. What nobody attends
// to is gathered too: it begins with the last card that is ready for it, or sooner where
// something waits for it.
func (p *Plan) Turns(s *order.Schedule) (out []Turn) {
	awaits := map[int][]int{} // by operation, what it waits for that nobody attends to
	for _, a := range p.Instance.Arcs {
		if p.Steps[a.From].Unattended {
			awaits[a.To] = append(awaits[a.To], a.From)
		}
	}
	tell := func(i int) {
		at := s.Ops[i]
		if n := len(out); n == 0 || out[n-1].Step != at.Op {
			out = append(out, Turn{Step: at.Op, Number: n + 1})
		}
		t := &out[len(out)-1]
		t.Placed, t.Copies = append(t.Placed, i), append(t.Copies, at.Copy)
	}
	lying := map[int][]int{} // by operation, what is placed and not told yet
	begun := map[int]int{}   // by operation, on how many cards
	begin := func(op int) {
		for _, i := range lying[op] {
			tell(i)
		}
		delete(lying, op)
	}
	for i, at := range s.Ops {
		for _, from := range awaits[at.Op] {
			if slices.ContainsFunc(lying[from], func(k int) bool { return s.Ops[k].Copy == at.Copy }) {
				begin(from)
			}
		}
		if !p.Steps[at.Op].Unattended {
			tell(i)
			continue
		}
		lying[at.Op] = append(lying[at.Op], i)
		if begun[at.Op]++; begun[at.Op] == p.Instance.Copies {
			begin(at.Op)
		}
	}
	for _, at := range s.Ops {
		begin(at.Op)
	}
	hands := order.Seconds(0) // since when they are free
	for i := range out {
		t := &out[i]
		t.Start, t.End = s.Ops[t.Placed[0]].Start, s.Ops[t.Placed[len(t.Placed)-1]].End
		if p.Steps[t.Step].Unattended {
			soonest := t.End
			for _, k := range t.Placed {
				soonest = min(soonest, s.Ops[k].End)
			}
			t.Meanwhile = i+1 < len(out) && s.Ops[out[i+1].Placed[0]].Start < soonest
			continue
		}
		t.Heat = s.HeatBetween(hands, t.Start)
		t.Wait = t.Start - hands - t.Heated()
		if p.Instance.Ops[t.Step].Color != 0 {
			t.Wait -= p.Instance.Rinse
		}
		t.Wait, hands = max(0, t.Wait), t.End
	}
	return out
}

// On names the cards of a turn of so many: "all 6 cards", "cards 1 to 4"; "" when
// there is only one.
func (t Turn) On(of int) string {
	if of == 1 {
		return ""
	}
	ids := slices.Clone(t.Copies)
	slices.Sort(ids)
	ids = slices.Compact(ids)
	switch n := len(ids); {
	case n == of && of == 2:
		return "both cards"
	case n == of:
		return fmt.Sprintf("all %d cards", of)
	case n == 1:
		return fmt.Sprintf("card %d", ids[0]+1)
	case n > 2 && ids[n-1]-ids[0] == n-1:
		return fmt.Sprintf("cards %d to %d", ids[0]+1, ids[n-1]+1)
	}
	var names []string
	for _, id := range ids {
		names = append(names, strconv.Itoa(id+1))
	}
	return "cards " + wording.And(names)
}

// A Follower is a turn that comes while what another one laid is still wet.
type Follower struct {
	Number   int           // of its turn
	While    string        // how the paper is then: "while it shines"
	From, To order.Seconds // since the other one was laid, by air
}

// Window is when it comes, in words behind what lays the other one.
func (f Follower) Window() string {
	if f.From > 0 {
		return fmt.Sprintf("after about %s to %s", wording.Time(f.From.Duration()), wording.Time(f.To.Duration()))
	}
	return "within about " + wording.Time(f.To.Duration())
}

// Followers are the turns that come while what a turn lays is wet, on its first card: what goes
// into it, and what lies beside it and is to run into it.
func (p *Plan) Followers(turns []Turn, t Turn) (out []Follower) {
	add := func(op int, while string, from, to order.Seconds) {
		n := slices.IndexFunc(turns, func(o Turn) bool { return o.Step == op && slices.Contains(o.Copies, t.Copies[0]) })
		if n < 0 || turns[n].Number <= t.Number || slices.ContainsFunc(out, func(f Follower) bool { return f.Number == turns[n].Number }) {
			return
		}
		out = append(out, Follower{turns[n].Number, while, from, to})
	}
	for _, a := range p.Instance.Arcs {
		while := "while it shines"
		switch {
		case a.From != t.Step || a.Type != order.Wet:
			continue
		case p.Steps[a.To].Kind == Emboss:
			while = "while the ink is sticky"
		case a.Clock > 0:
			while = "once its gloss is gone"
		}
		add(a.To, while, a.Clock, a.Max)
	}
	for _, j := range p.Instance.Joins {
		switch t.Step {
		case j.A:
			add(j.B, "while it shines", 0, j.Max)
		case j.B:
			back := j.Back
			if back == 0 {
				back = j.Max
			}
			add(j.A, "while it shines", 0, back)
		}
	}
	slices.SortFunc(out, func(a, b Follower) int { return a.Number - b.Number })
	return out
}
