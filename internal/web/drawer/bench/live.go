package bench

import (
	"fmt"
	"net/http"
	"slices"
	"strings"
	"time"

	"chromaqua/core/drying"
	"chromaqua/core/run"
	"chromaqua/core/wording"
	"chromaqua/internal/bench"
	"chromaqua/internal/web/page"
)

// nowView is the live bench.
type nowView struct {
	page.Page
	ID      int64
	Once    string // names the next press
	Name    string
	Act     string // "do", "look", "wait", "warm", "late", "rest", "done"
	Kicker  string // which step of how many, on which card, where it lies
	Big     string // what to do, in a few words
	How     string
	Why     string
	Caution string
	Mix     *mixView
	Brush   string
	Water   string
	Keys    []keyView
	Board   *liveBoard
	Drying  []dryView
	Next    []nextView
	Rack    []rackView
	Clock   string        // since it began
	Ends    time.Time     // likely
	Left    time.Duration // hands on
	Until   int64         // ms, Unix, of what is waited for; 0 for none
	Ahead   string        // what that is the time of
	NowMS   int64         // ms, Unix: when all this is so
	Changes int64         // ms until the picture changes by itself; 0 never
	Says    string        // for the voice
	Done    int
	Of      int
	Paused  bool
	Ended   bool
	Back    string // what taking back takes back
	Newer   []bench.Newer
	Lost    []string
	Room    string
	Degrees drying.Degrees
	Sensor  string // what is wrong with it
	Basis   string // of the times
	Rounds  string // what is won by painting several cards at once
	Trouble string // where something went wrong is asked
	Notes   []string
	Logs    []logLink // where photos of it are kept
	Step    stepRef
	Cards   int
}

// stepRef names a step in forms.
type stepRef struct {
	Card int
	Step string
}

// keyView is one large key, and what it tells.
type keyView struct {
	Key, Label, Of string // Of: what it speaks of
	Kind           run.Kind
	stepRef
	Goal run.Goal
	Long float64
	Main bool
}

type mixView struct {
	Hex, Strength string
	Parts         []partView
}

type partView struct {
	Parts int
	Name  string
}

type dryView struct {
	Name, Stage, Slug string
	Left              time.Duration
	Until             int64  // ms, Unix, of its next stage
	Next              string // the stage it comes to
	Share             float64
	Sure              bool
	stepRef
	Cells []int
}

type nextView struct {
	Title string
	At    time.Time
	In    time.Duration
	stepRef
	On  string // its card, where there are several
	May bool   // it may be begun now instead
	Hex string
}

type rackView struct{ Place, Card int }

func (d *place) now(w http.ResponseWriter, r *http.Request) error {
	id, err := runOf(r)
	if err != nil {
		return err
	}
	return d.showNow(w, r, id, http.StatusOK, "")
}

func (d *place) showNow(w http.ResponseWriter, r *http.Request, id int64, status int, message string) error {
	b, err := d.Benches.Show(r.Context(), id)
	if err != nil {
		return err
	}
	if b.Setup.Timer != nil {
		http.Redirect(w, r, "/bench#timers", http.StatusSeeOther)
		return nil
	}
	v := viewOf(b)
	v.Page = page.Page{Title: v.Big, Place: "bench", Message: message}
	if err := d.Benches.Sensor(); err != nil {
		v.Sensor = wording.Sentence(err.Error())
	}
	if v.Board, err = d.boardOf(b, shown(b.State, b.Moment)); err != nil {
		return err
	}
	d.Render(w, r, status, "live.html", v)
	return nil
}

// viewOf words a bench.
func viewOf(b *bench.View) *nowView {
	s, m := b.State, b.Moment
	v := &nowView{
		ID: b.ID, Once: bench.OnceName(), Name: nameOf(b), Done: m.Done, Of: m.Of, Paused: s.Paused, Ended: s.Ended, Newer: b.Newer, Cards: len(s.Cards),
		Clock: page.Clock(s.Now.Duration()), Ends: s.Zero.Add(m.Finish.Duration()), Left: m.HandsOn.Duration(), Changes: 1000 * int64(m.Change), NowMS: s.At.UnixMilli(),
		Trouble: fmt.Sprintf("/bench/%d/trouble", b.ID),
	}
	if b.Back != nil {
		v.Back = strings.TrimSuffix(string(b.Back.Kind)+": "+b.Back.Title, ": ")
	}
	for _, e := range s.Lost {
		v.Lost = append(v.Lost, e.Title)
	}
	for _, e := range s.Repairs {
		trouble, remedy := run.FixWords(e.Fix)
		v.Notes = append(v.Notes, fmt.Sprintf("%s, %s: %s. %s.", e.At.Format("15:04"), e.Title, trouble, remedy))
	}
	for _, l := range b.Setup.Lots {
		v.Logs = append(v.Logs, logLink{l.Name, page.CardPath(l.Card, "log")})
	}
	for _, e := range s.Notes {
		v.Notes = append(v.Notes, e.At.Format("15:04")+", "+e.Text)
	}
	v.Degrees = s.Cards[0].Plan.Bench.Degrees
	v.Room = s.Room.Told(v.Degrees)
	if !s.RoomRead {
		v.Room = "as planned"
	}
	v.drying(b)
	v.next(b)
	if m.Act != run.Finished {
		v.Step = ref(s, m.Op)
		v.Basis = basis(s, m.Op)
	}
	v.act(b)
	hand, held := s.Hand()
	for card, place := range s.Rack() {
		if held && card == hand && m.Act != run.Finished && s.Ops[m.Op].Card == hand {
			continue // it stays in the maker's hands
		}
		v.Rack = append(v.Rack, rackView{place, card + 1})
	}
	slices.SortFunc(v.Rack, func(a, b rackView) int { return a.Place - b.Place })
	v.Says = v.Big
	if saved := b.Alone - b.Rinses; saved > 0 {
		v.Rounds = fmt.Sprintf("In rounds over %d cards: %s of the brush fewer than card by card.", len(s.Cards), wording.Count(saved, "rinse"))
	}
	return v
}

func nameOf(b *bench.View) string {
	var names []string
	for _, l := range b.Setup.Lots {
		names = append(names, l.Name)
	}
	return wording.And(names)
}

func ref(s *run.State, op int) stepRef { return stepRef{s.Ops[op].Card, s.Ops[op].Key} }

// basis says how well drying is known.
func basis(s *run.State, op int) string {
	n, lo, hi := s.Known(op)
	if n == 0 {
		return "Times are estimates: tell when things are dry, and they become yours."
	}
	return fmt.Sprintf("Drying on this paper is measured by you (%d): %.2f to %.2f times the estimate.", n, lo, hi)
}

// drying lists what dries.
func (v *nowView) drying(b *bench.View) {
	s := b.State
	names := map[run.Goal]string{run.Dull: "damp", run.Touch: "touch-dry", run.Bone: "bone dry"}
	for _, dr := range b.Moment.Drying {
		o := dryView{Name: wording.Upper(s.Spoken(dr.Op)), Stage: dr.Stage.String(), Share: dr.Share, Sure: dr.Sure, stepRef: ref(s, dr.Op), Cells: s.Ops[dr.Op].Step.Cells}
		switch {
		case dr.Lies:
			o.Stage, o.Next = "rests", "ready"
		case dr.Touch > 0 && dr.Next < dr.Touch:
			o.Next = names[run.Dull]
		case dr.Touch > 0:
			o.Next = names[run.Touch]
		default:
			o.Next = names[run.Bone]
		}
		if dr.Touch == 0 && !dr.Sure && dr.Stage < drying.BoneDry {
			o.Stage += ", likely"
		}
		o.Slug = strings.ReplaceAll(dr.Stage.String(), " ", "-")
		o.Left = dr.Next.Duration()
		if dr.Next > 0 {
			o.Until = s.At.Add(o.Left).UnixMilli()
		}
		v.Drying = append(v.Drying, o)
	}
}

// next lists the next steps.
func (v *nowView) next(b *bench.View) {
	s := b.State
	for _, at := range b.Moment.Next {
		n := nextView{Title: titleOf(s, at.Op), At: s.Zero.Add(at.Start.Duration()), In: max(0, at.Start-s.Now).Duration(), stepRef: ref(s, at.Op)}
		c := s.Check(at.Op)
		n.May = c.Met() != run.NotYet && len(c.Late) == 0
		if len(s.Cards) > 1 {
			n.On = fmt.Sprintf("card %d", s.Ops[at.Op].Card+1)
		}
		if mix := s.Plan(at.Op).MixOf(s.Ops[at.Op].Step); mix != nil {
			n.Hex = mix.Hex
		}
		v.Next = append(v.Next, n)
	}
}

// logLink leads to the log of a card on the bench.
type logLink struct{ Name, To string }
