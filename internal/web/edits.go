package web

import (
	"bytes"
	"cmp"
	"context"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/panel"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/internal/store"
)

// editing is one change of a card, asked for by a form.
type editing struct {
	ctx      context.Context
	card     *card.Card
	values   url.Values
	store    *store.Store
	readings *readings
	open     opened // what to show afterwards, where it changes
}

// opened is what a station shows in full: an area, or an image on the panel.
// What is empty stays as it was.
type opened struct{ area, image string }

// edits are the changes a form may ask for. Each changes the card and says in
// a few words what it did; the words stand beside Undo.
var edits = map[string]func(*editing) (what string, err error){
	"name":      (*editing).rename,
	"notes":     (*editing).setNotes,
	"unit":      (*editing).setUnit,
	"format":    (*editing).setFormat,
	"fold":      (*editing).setFold,
	"envelope":  (*editing).setEnvelope,
	"size":      (*editing).setSize,
	"show":      (*editing).setShow,
	"drag":      (*editing).drag,
	"layer-add": (*editing).addLayer,
	"layer":     (*editing).setLayer,
	"layer-off": (*editing).removeLayer,
	"die":       (*editing).setDie,
	"stamp":     (*editing).setStamp,
	"insert":    (*editing).setInsert,
	"extra":     (*editing).setExtra,
	"painting":  (*editing).setPainting,
	"words":     (*editing).setWords,
	"focal":     (*editing).setFocal,

	"window":        (*editing).setWindow,
	"window-centre": (*editing).centreWindow,
	"window-off":    (*editing).removeWindow,

	"materials":   (*editing).setMaterials,
	"look":        (*editing).setLook,
	"drawing":     (*editing).useDrawing,
	"place":       (*editing).place,
	"shift":       (*editing).shift,
	"centre":      (*editing).centre,
	"turn":        (*editing).turn,
	"mirror":      (*editing).mirror,
	"bring":       (*editing).bring,
	"repeat":      (*editing).repeat,
	"image-off":   (*editing).takeAway,
	"image-kind":  (*editing).setKind,
	"ghost":       (*editing).setGhost,
	"bare":        (*editing).bare,
	"relief":      (*editing).setRelief,
	"measure":     (*editing).measure,
	"leak-close":  (*editing).closeLeak,
	"leak-open":   (*editing).openLeak,
	"cells-join":  (*editing).joinCells,
	"pen":         (*editing).pen,
	"mark-off":    (*editing).removeMark,
	"specks":      (*editing).setSpecks,
	"white":       (*editing).keepWhite,
	"white-off":   (*editing).paintWhite,
	"area-new":    (*editing).newArea,
	"gather":      (*editing).gather,
	"area-name":   (*editing).nameArea,
	"area-remove": (*editing).removeArea,
	"forget-lost": (*editing).forgetLost,
	"join":        (*editing).join,
	"wash-add":    (*editing).addWash,
	"wash-remove": (*editing).removeWash,
	"wash-move":   (*editing).moveWash,
	"technique":   (*editing).setTechnique,
	"wash-over":   (*editing).setOver,
	"area-meet":   (*editing).setMeet,
	"strength":    (*editing).setStrength,
	"dip":         (*editing).dip,
	"recipe":      (*editing).useRecipe,
	"wanted":      (*editing).setWanted,
	"same-washes": (*editing).sameWashes,
	"paint-alike": (*editing).paintAlike,
	"copies":      (*editing).setCopies,
	"measured":    (*editing).useMeasured,
	"drying":      (*editing).setDrying,
	"silence":     (*editing).silence,
}

// edit makes one change to a card as a new revision.
func (s *Server) edit(w http.ResponseWriter, r *http.Request) error {
	r.Body = http.MaxBytesReader(w, r.Body, maxForm)
	if err := r.ParseForm(); err != nil {
		return refusedForm(err)
	}
	return s.change(w, r, func(rev *store.Revision) (string, opened, error) {
		f, ok := edits[r.PostForm.Get("edit")]
		if !ok {
			return "", opened{}, errOldPage
		}
		e := &editing{ctx: r.Context(), card: rev.Card, values: r.PostForm, store: s.store, readings: s.readings}
		what, err := f(e)
		return what, e.open, err
	})
}

// change loads the card of a request, lets f change it, saves it on top of the
// revision the form was made from, and goes back to the station. What cannot
// be done is shown there, with the card as it is.
func (s *Server) change(w http.ResponseWriter, r *http.Request, f func(*store.Revision) (what string, open opened, err error)) error {
	rev, err := s.revision(r)
	if err != nil {
		return err
	}
	base := baseOf(r, rev.Seq)
	if base != rev.Seq {
		return s.showStation(w, r, rev, http.StatusConflict, store.ErrStale.Error())
	}
	before, err := rev.Card.Encode()
	if err != nil {
		return err
	}
	what, open, err := f(rev)
	if err = asRefused(err); err == nil {
		err = refused(rev.Card.Check())
	}
	if err == nil {
		after, encodeErr := rev.Card.Encode()
		if encodeErr != nil {
			return encodeErr
		}
		if !bytes.Equal(before, after) {
			err = s.store.Save(r.Context(), rev.ID, base, rev.Card, what)
		}
	}
	if err != nil {
		status, words := s.explain(r, err)
		if rev, err = s.revision(r); err != nil {
			return err
		}
		return s.showStation(w, r, rev, status, words.Error())
	}
	http.Redirect(w, r, backTo(r, rev.ID, open), http.StatusSeeOther)
	return nil
}

// asRefused takes an error of the core, which is about what was entered, for a
// refusal; errors of the store and of the request stay what they are.
func asRefused(err error) error {
	if err == nil {
		return nil
	}
	var e *Error
	var tooLarge *http.MaxBytesError
	switch {
	case errors.As(err, &e), errors.As(err, &tooLarge), errors.Is(err, store.ErrNotFound), errors.Is(err, store.ErrStale),
		errors.Is(err, context.Canceled), errors.Is(err, errInternal):
		return err
	}
	return refused(err)
}

// backTo is the address of the station a form came from.
func backTo(r *http.Request, id int64, open opened) string {
	open.area = cmp.Or(open.area, r.PostFormValue("show"))
	open.image = cmp.Or(open.image, r.PostFormValue("picked"))
	if r.PostFormValue("back") == "rules" {
		return cardPath(id, "rules") + "#" + url.PathEscape(r.PostFormValue("rule"))
	}
	to := cardPath(id, stationOf(r))
	query := url.Values{}
	if open.area != "" {
		query.Set("area", open.area)
	}
	if open.image != "" && stationOf(r) == "line" {
		query.Set("image", open.image)
	}
	if len(query) > 0 {
		to += "?" + query.Encode()
	}
	return to
}

// stationOf returns the station a form came from.
func stationOf(r *http.Request) string {
	back := r.PostFormValue("back")
	for _, st := range stations {
		if st.ID == back {
			return back
		}
	}
	return stations[0].ID
}

func (s *Server) undo(w http.ResponseWriter, r *http.Request) error {
	return s.move(w, r, s.store.Undo)
}
func (s *Server) redo(w http.ResponseWriter, r *http.Request) error {
	return s.move(w, r, s.store.Redo)
}

func (s *Server) move(w http.ResponseWriter, r *http.Request, step func(ctx context.Context, id, base int64) error) error {
	r.Body = http.MaxBytesReader(w, r.Body, maxForm)
	rev, err := s.revision(r)
	if err != nil {
		return err
	}
	switch err := step(r.Context(), rev.ID, baseOf(r, rev.Seq)); {
	case errors.Is(err, store.ErrStale):
		return s.showStation(w, r, rev, http.StatusConflict, err.Error())
	case err != nil:
		return err
	}
	http.Redirect(w, r, backTo(r, rev.ID, opened{}), http.StatusSeeOther)
	return nil
}

func (e *editing) get(name string) string { return strings.TrimSpace(e.values.Get(name)) }

// length reads a length; what names it in words.
func (e *editing) length(name, what string, parse func(string, length.Unit) (length.Length, error)) (length.Length, error) {
	l, err := parse(e.get(name), e.card.Unit)
	if err != nil {
		return 0, fmt.Errorf("%s: %w", what, err)
	}
	return l, nil
}

// retyped is length for a field that was shown holding now: sent back as it
// was, it stays exactly what it is.
func (e *editing) retyped(name, what string, now length.Length, parse func(string, length.Unit) (length.Length, error)) (length.Length, error) {
	if e.get(name) == now.Typed(e.card.Unit) {
		return now, nil
	}
	return e.length(name, what, parse)
}

func (e *editing) rename() (string, error) {
	e.card.Name = e.get("name")
	return "renamed the card", card.CheckName("card", e.card.Name)
}

func (e *editing) setNotes() (string, error) {
	e.card.Notes = strings.ReplaceAll(e.get("notes"), "\r\n", "\n")
	return "changed the notes", nil
}

func (e *editing) setUnit() (string, error) {
	return "changed the ruler", e.card.Unit.UnmarshalText([]byte(e.get("unit")))
}

func (e *editing) setMaterials() (string, error) {
	c := e.card
	if e.values.Has("paper") {
		id, own, err := e.material(shelf.OwnPaper, e.get("paper"))
		if err != nil {
			return "", err
		}
		c.Change(func() { c.Paper, c.OwnPaper = id, own })
	}
	if e.values.Has("ink") {
		id, own, err := e.material(shelf.OwnInk, e.get("ink"))
		if err != nil {
			return "", err
		}
		c.Ink, c.OwnInk = id, own
	}
	if e.values.Has("base-paper") {
		c.Change(func() { c.Base.Paper = e.get("base-paper") })
	}
	if e.values.Has("base-colour") {
		c.Base.Colour = e.get("base-colour")
	}
	return "changed paper or ink", nil // what they name is checked with the card
}

func (e *editing) setLook() (string, error) {
	e.card.Look = shelf.Look(e.get("look"))
	return "wants a " + string(e.card.Look) + " line", nil
}

// board returns the card laid out with its cells.
func (e *editing) board() (*panel.Board, error) {
	r, err := e.readings.wait(e.ctx, e.card)
	if err != nil {
		return nil, err
	}
	return panel.Resolve(e.card, r.sheet), nil
}

// cells reads cell numbers: "3, 5, 9-12".
func (e *editing) cells() ([]int, error) {
	var out []int
	for _, f := range strings.FieldsFunc(e.get("cells"), func(r rune) bool { return r == ',' || r == ' ' || r == ';' }) {
		from, to, isRange := strings.Cut(f, "-")
		if !isRange {
			to = from
		}
		a, errA := strconv.Atoi(from)
		b, errB := strconv.Atoi(to)
		if errA != nil || errB != nil || a < 1 || b < a || b-a > card.MaxSpots {
			return nil, fmt.Errorf("%.20q is no cell number; write numbers such as 3, 5, 9-12", f)
		}
		for id := a; id <= b; id++ {
			out = append(out, id)
		}
		if len(out) > card.MaxSpots {
			return nil, fmt.Errorf("more than %d cells", card.MaxSpots)
		}
	}
	if len(out) == 0 {
		return nil, errors.New("no cell is chosen; click cells on the picture, or type their numbers")
	}
	return out, nil
}

func (e *editing) newArea() (string, error) {
	cells, err := e.cells()
	if err != nil {
		return "", err
	}
	b, err := e.board()
	if err != nil {
		return "", err
	}
	e.open.area = e.card.AddArea(e.get("name"))
	if err := b.Assign(e.open.area, cells); err != nil {
		return "", err
	}
	return "gathered " + plural(len(cells), "cell") + " into a new area", nil
}

// gather gives cells to an area, or frees them when none is named.
func (e *editing) gather() (string, error) {
	cells, err := e.cells()
	if err != nil {
		return "", err
	}
	b, err := e.board()
	if err != nil {
		return "", err
	}
	id := e.get("area")
	if err := b.Assign(id, cells); err != nil {
		return "", err
	}
	if id == "" {
		return "freed " + plural(len(cells), "cell"), nil
	}
	a, err := e.card.AreaByID(id)
	if err != nil {
		return "", err
	}
	return "gave " + plural(len(cells), "cell") + " to " + a.Name, nil
}

func (e *editing) areaOf() (*card.Area, error) {
	e.open.area = e.get("area")
	return e.card.AreaByID(e.open.area)
}

func (e *editing) nameArea() (string, error) {
	a, err := e.areaOf()
	if err != nil {
		return "", err
	}
	a.Name = e.get("name")
	return "renamed an area", nil
}

func (e *editing) removeArea() (string, error) {
	a, err := e.areaOf()
	if err != nil {
		return "", err
	}
	what := "removed " + a.Name
	e.card.RemoveArea(a.ID)
	e.open.area = ""
	e.values.Del("show")
	return what, nil
}

func (e *editing) forgetLost() (string, error) {
	a, err := e.areaOf()
	if err != nil {
		return "", err
	}
	b, err := e.board()
	if err != nil {
		return "", err
	}
	for i := range b.Areas {
		if b.Areas[i].ID == a.ID {
			lost := b.Areas[i].Lost
			a.Cells = slices.DeleteFunc(a.Cells, func(s card.Spot) bool { return slices.Contains(lost, s) })
		}
	}
	return "let " + a.Name + " forget lost cells", nil
}

func (e *editing) join() (string, error) {
	a, err := e.card.AreaByID(e.get("a"))
	if err != nil {
		return "", err
	}
	b, err := e.card.AreaByID(e.get("b"))
	if err != nil {
		return "", err
	}
	on := e.get("on") == "true"
	e.card.SetJoin(a.ID, b.ID, on)
	if on {
		return fmt.Sprintf("let %s and %s run together", a.Name, b.Name), nil
	}
	return fmt.Sprintf("kept %s and %s apart", a.Name, b.Name), nil
}

func (e *editing) addWash() (string, error) {
	a, err := e.areaOf()
	if err != nil {
		return "", err
	}
	return "added a wash to " + a.Name, a.AddWash()
}

// wash returns the wash a form speaks of and its area.
func (e *editing) wash() (*card.Area, *card.Wash, error) {
	a, err := e.areaOf()
	if err != nil {
		return nil, nil, err
	}
	n, err := strconv.Atoi(e.get("wash"))
	if err != nil {
		n = -1
	}
	w, err := a.Wash(n)
	return a, w, err
}

func (e *editing) removeWash() (string, error) {
	a, w, err := e.wash()
	if err != nil {
		return "", err
	}
	for i := range a.Washes {
		if &a.Washes[i] == w {
			a.Washes = slices.Delete(a.Washes, i, i+1)
			break
		}
	}
	return "removed a wash of " + a.Name, nil
}

// moveWash lays a wash earlier, or later.
func (e *editing) moveWash() (string, error) {
	a, err := e.areaOf()
	if err != nil {
		return "", err
	}
	return "changed the order of washes on " + a.Name, a.MoveWash(e.nth("wash"), e.get("way") == "later")
}

// changeWash lets f change the wash a form speaks of; f says what it is now.
func (e *editing) changeWash(f func(*card.Wash) (now string, err error)) (string, error) {
	a, w, err := e.wash()
	if err != nil {
		return "", err
	}
	now, err := f(w)
	return a.Name + ": " + now, err
}

func (e *editing) setTechnique() (string, error) {
	a, err := e.areaOf()
	if err != nil {
		return "", err
	}
	t := card.Technique(e.get("technique"))
	return a.Name + ": " + string(t), a.LayAs(e.nth("wash"), t)
}

func (e *editing) setStrength() (string, error) {
	return e.changeWash(func(w *card.Wash) (string, error) {
		w.Strength = pigment.Strength(e.get("strength"))
		return string(w.Strength), nil
	})
}

// dip adds parts of a paint to a mix, or takes some out.
func (e *editing) dip() (string, error) {
	return e.changeWash(func(w *card.Wash) (string, error) {
		n, err := strconv.Atoi(e.get("parts"))
		if err != nil {
			return "", errors.New("parts are whole numbers")
		}
		err = w.Dip(e.get("ci"), n)
		return card.MixName(w.Mix), err
	})
}

// useRecipe mixes a wash as a recipe says.
func (e *editing) useRecipe() (string, error) {
	return e.changeWash(func(w *card.Wash) (string, error) {
		mix, err := card.ReadMix(e.get("mix"))
		if err != nil {
			return "", err
		}
		w.Mix, w.Strength = mix, pigment.Strength(e.get("strength"))
		return card.MixName(mix) + ", " + string(w.Strength), nil
	})
}

// sameWashes paints an area as another is painted.
func (e *editing) sameWashes() (string, error) {
	a, err := e.areaOf()
	if err != nil {
		return "", err
	}
	as, err := e.card.AreaByID(e.get("as"))
	if err != nil {
		return "", err
	}
	a.PaintAs(as)
	return fmt.Sprintf("painted %s as %s", a.Name, as.Name), nil
}

// paintAlike paints other areas as one is painted, all in one step.
func (e *editing) paintAlike() (string, error) {
	a, err := e.areaOf()
	if err != nil {
		return "", err
	}
	var names []string
	for _, id := range strings.Fields(e.get("to")) {
		o, err := e.card.AreaByID(id)
		if err != nil {
			return "", err
		}
		o.PaintAs(a)
		names = append(names, o.Name)
	}
	if len(names) == 0 {
		return "", errors.New("choose at least one area to paint like " + a.Name)
	}
	return fmt.Sprintf("painted %s as %s", strings.Join(names, ", "), a.Name), nil
}

// setCopies says how many cards paint is mixed for.
func (e *editing) setCopies() (string, error) {
	n, err := strconv.Atoi(strings.TrimSpace(e.get("copies")))
	if err != nil || n < 1 {
		return "", fmt.Errorf("write how many cards there are to be, 1 to %d", card.MaxCopies)
	}
	e.card.Copies = n
	return "mixes for " + plural(n, "card"), nil
}

// setWanted forgets the wanted colours, or keeps one more.
func (e *editing) setWanted() (string, error) {
	if e.get("hex") == "" {
		e.card.Wanted = nil
		return "forgot the wanted colours", nil
	}
	e.card.Wanted = append(e.card.Wanted, pigment.Swatch{Name: e.get("name"), Hex: e.get("hex")})
	return "keeps a wanted colour", nil
}

// setOver says whether a wash goes over dry paint or into the wet.
func (e *editing) setOver() (string, error) {
	return e.changeWash(func(w *card.Wash) (string, error) {
		w.OverDry = e.get("over") == "dry"
		if w.OverDry {
			return string(w.Technique) + " over dry", nil
		}
		return string(w.Technique) + " into the wet", nil
	})
}

// setMeet says what becomes of cells of an area that touch.
func (e *editing) setMeet() (string, error) {
	a, err := e.areaOf()
	if err != nil {
		return "", err
	}
	how := e.get("meet")
	a.Loose, a.Run = how == "loose", how == "run"
	switch {
	case a.Loose:
		return "paints " + a.Name + " loosely", nil
	case a.Run:
		return "lets the cells of " + a.Name + " run together", nil
	}
	return "paints " + a.Name + " in rounds", nil
}

func (e *editing) setDrying() (string, error) {
	if e.values.Has("copies") {
		if _, err := e.setCopies(); err != nil {
			return "", err
		}
	}
	e.card.Drying = card.Drying(e.get("drying"))
	celsius, err := number(e.get("celsius"), "temperature")
	if err != nil {
		return "", err
	}
	humidity, err := number(e.get("humidity"), "humidity")
	if err != nil {
		return "", err
	}
	e.card.Room.Celsius, e.card.Room.Humidity = celsius, humidity/100
	return "changed drying, room or cards", nil
}

func number(text, what string) (float64, error) {
	v, err := strconv.ParseFloat(strings.Replace(text, ",", ".", 1), 64)
	if err != nil {
		return 0, fmt.Errorf("%s: %.20q is no number; write it in figures", what, text)
	}
	return v, nil
}
