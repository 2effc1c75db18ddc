package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"

	"github.com/spf13/cobra"

	"chromaqua/core/fold"
	"chromaqua/core/length"
	"chromaqua/core/pouch"
)

func foldCommand() *cobra.Command {
	return onFile(&cobra.Command{
		Use:   "fold FILE",
		Short: "Compute blanks, fits and envelopes made to measure",
		Long: `Reads one JSON object from a file or standard input (-) and prints what follows
from it. Lengths are text with a unit ("4 1/4 in", "108 mm").

  {"front": {"w": "4 1/4 in", "h": "5 1/2 in"}, "fold": "side", "inside_up": false,
   "thickness": "1.2 mm", "clearance": "1/8 in", "strip": "11 in", "unit": "in"}

prints the blank with faces, scores and grain, the standard envelopes it goes
into and does not, and the envelopes to make from a square and from a strip. A
format's id ("a2") may stand for the front. Everything but the front may be
left out.`,
	}, func(c *cobra.Command, f io.Reader) error {
		var q foldRequest
		d := json.NewDecoder(io.LimitReader(f, 1<<20))
		d.DisallowUnknownFields()
		if err := d.Decode(&q); err != nil {
			return fmt.Errorf("reading the card: %w", err)
		}
		answer, err := q.fold()
		if err != nil {
			return err
		}
		return json.NewEncoder(c.OutOrStdout()).Encode(answer)
	})
}

type foldRequest struct {
	Format    string         `json:"format"`
	Front     length.Size    `json:"front"`
	Fold      fold.Side      `json:"fold"`
	InsideUp  bool           `json:"inside_up"`
	Thickness length.Length  `json:"thickness"`
	Clearance *length.Length `json:"clearance"`
	Strip     length.Length  `json:"strip"`
	Unit      length.Unit    `json:"unit"`
}

type foldAnswer struct {
	Blank  blankDoc  `json:"blank"`
	Fits   []fitDoc  `json:"fits"`
	Misses []fitDoc  `json:"misses"`
	Square *pouchDoc `json:"from_square"`
	Strip  *pouchDoc `json:"from_strip"`
}

type blankDoc struct {
	Size   length.Size `json:"size"`
	Grain  fold.Axis   `json:"grain"`
	Faces  []faceDoc   `json:"faces"`
	Scores []scoreDoc  `json:"scores"`
}

type faceDoc struct {
	Name string        `json:"name"`
	X    length.Length `json:"x"`
	Y    length.Length `json:"y"`
	Size length.Size   `json:"size"`
}

type scoreDoc struct {
	Runs fold.Axis     `json:"runs"`
	At   length.Length `json:"at"`
	Way  fold.Way      `json:"way"`
}

type fitDoc struct {
	Envelope string        `json:"envelope"`
	Inside   length.Size   `json:"inside"`
	Verdict  fold.Verdict  `json:"verdict"`
	SpareW   length.Length `json:"spare_long"`
	SpareH   length.Length `json:"spare_short"`
	RoomW    length.Length `json:"room_long"` // of the spare, what the card's thickness leaves
	RoomH    length.Length `json:"room_short"`
}

// pouchDoc is an envelope made to measure, or why there is none.
type pouchDoc struct {
	Paper   length.Size    `json:"paper,omitzero"`
	Inside  length.Size    `json:"inside,omitzero"`
	Slant   float64        `json:"slant_degrees,omitempty"`
	Outline []pouch.Point  `json:"outline,omitempty"`
	Creases []pouch.Crease `json:"creases,omitempty"`
	Liner   []pouch.Point  `json:"lining,omitempty"`
	Band    *bandDoc       `json:"address_band,omitempty"`
	Steps   []string       `json:"steps,omitempty"`
	Why     string         `json:"impossible,omitempty"`
}

type bandDoc struct {
	Size  length.Size      `json:"size"`
	Folds [2]length.Length `json:"folds"`
}

func (q *foldRequest) fold() (*foldAnswer, error) {
	if q.Format != "" {
		f, err := fold.FormatByID(q.Format)
		if err != nil {
			return nil, err
		}
		q.Front = f.Front
	}
	if q.Fold == "" {
		q.Fold = fold.Left
	}
	if err := q.Fold.Check(); err != nil {
		return nil, err
	}
	if min(q.Front.W, q.Front.H) < fold.MinFront || max(q.Front.W, q.Front.H) > length.Max {
		return nil, errors.New("the front measures half an inch to 2 m either way; give it as \"front\" or name a \"format\"")
	}
	if q.Thickness < 0 || q.Thickness > length.Inch {
		return nil, errors.New("a card is at most an inch thick")
	}
	clearance := length.Inch / 8
	if q.Clearance != nil {
		clearance = *q.Clearance
	}
	blank := fold.BlankFor(q.Front, q.Fold, q.Unit)
	if q.InsideUp {
		blank = blank.InsideUp()
	}
	a := &foldAnswer{Blank: blankDoc{Size: blank.Size, Grain: blank.Grain, Scores: []scoreDoc{}}, Fits: []fitDoc{}, Misses: []fitDoc{}}
	for _, f := range blank.Faces {
		a.Blank.Faces = append(a.Blank.Faces, faceDoc(f))
	}
	for _, s := range blank.Scores {
		a.Blank.Scores = append(a.Blank.Scores, scoreDoc(s))
	}
	for _, f := range fold.FitAll(fold.Plain(q.Front, q.Thickness)) {
		long, short := f.Room()
		doc := fitDoc{f.Envelope.Name, f.Envelope.Inside, f.Verdict, f.SpareW, f.SpareH, long, short}
		if f.Good() {
			a.Fits = append(a.Fits, doc)
		} else {
			a.Misses = append(a.Misses, doc)
		}
	}
	a.Square = q.pouch(pouch.FromSquare(q.Front, clearance, q.Unit))
	a.Strip = q.pouch(pouch.FromStrip(q.Front, clearance, q.Strip, q.Unit))
	return a, nil
}

func (q *foldRequest) pouch(p *pouch.Pouch, err error) *pouchDoc {
	if err != nil {
		return &pouchDoc{Why: err.Error()}
	}
	return &pouchDoc{p.Paper, p.Inside, p.Slant, p.Outline, p.Creases, p.Liner, &bandDoc{p.Band.Size, p.Band.Folds}, append(p.Steps(q.Unit), p.Extras(q.Unit)...), ""}
}
