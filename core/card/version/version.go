// Package version reads cards that older programs wrote: it rewrites their JSON, version by
// version, into what is written now.
package version

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"reflect"
	"strconv"
	"strings"

	"chromaqua/core/joint"
	"chromaqua/core/length"
	"chromaqua/core/nest"
	"chromaqua/core/shelf"
)

// Raise rewrites a card's JSON of one version as a later one.
func Raise(b []byte, from, to int) ([]byte, error) {
	for version := from; version < to; version++ {
		var err error
		if b, err = newer(b, version); err != nil {
			return nil, err
		}
	}
	return b, nil
}

// fromVersion1 rewrites a card from when it had one mat at most: its mat
// becomes a layer, and its widths are given where they were not the usual.
func fromVersion1(b []byte) ([]byte, error) {
	var old struct {
		Mat struct {
			On     bool          `json:"on"`
			Border length.Length `json:"border"`
			Reveal length.Length `json:"reveal"`
			Paper  string        `json:"paper"`
		} `json:"mat"`
	}
	var doc map[string]json.RawMessage
	if err := errors.Join(json.Unmarshal(b, &old), json.Unmarshal(b, &doc)); err != nil {
		return nil, fmt.Errorf("card.json cannot be read: %w", Explain(b, err))
	}
	given := func(l length.Length) nest.Margin {
		if l == length.Inch/8 { // what was usual then
			return nest.Margin{}
		}
		return nest.Even(l)
	}
	type sized struct {
		Kind   string      `json:"kind,omitempty"`
		Paper  string      `json:"paper,omitempty"`
		Margin nest.Margin `json:"margin,omitzero"`
	}
	layers, panel := []sized{}, sized{Margin: given(old.Mat.Border)}
	if old.Mat.On {
		layers = append(layers, sized{"mat", old.Mat.Paper, given(old.Mat.Border)})
		panel.Margin = given(old.Mat.Reveal)
	}
	delete(doc, "mat")
	return with(doc, map[string]any{"version": 2, "layers": layers, "panel": panel, "painting": map[string]length.Length{"border": 0, "tape": shelf.TapeWidth, "spare": 0}})
}

// fromVersion2 rewrites a card from when it had one image at most, which its
// areas and corrections did not have to name.
func fromVersion2(b []byte) ([]byte, error) {
	const only = "i1"
	var doc, line map[string]json.RawMessage
	var old struct {
		Line  json.RawMessage              `json:"line"`
		Areas []map[string]json.RawMessage `json:"areas"`
	}
	if err := errors.Join(json.Unmarshal(b, &old), json.Unmarshal(b, &doc)); err != nil {
		return nil, fmt.Errorf("card.json cannot be read: %w", Explain(b, err))
	}
	if len(old.Line) > 0 {
		if err := json.Unmarshal(old.Line, &line); err != nil {
			return nil, fmt.Errorf("card.json cannot be read: %w", Explain(b, err))
		}
	}
	images := []any{}
	if line != nil {
		if specks, ok := line["specks_mm2"]; ok {
			doc["specks_mm2"] = specks
			delete(line, "specks_mm2")
		}
		line["id"] = json.RawMessage(strconv.Quote(only))
		images = append(images, line)
	}
	for _, a := range old.Areas {
		var spots []map[string]any
		if err := json.Unmarshal(a["cells"], &spots); a["cells"] != nil && err != nil {
			return nil, fmt.Errorf("card.json cannot be read: %w", Explain(b, err))
		}
		for _, s := range spots {
			s["on"] = only
		}
		if line == nil { // they pointed at an image that is gone
			spots = nil
		}
		raw, err := json.Marshal(append([]map[string]any{}, spots...))
		if err != nil {
			return nil, fmt.Errorf("reading a card of version 2: %w", err)
		}
		a["cells"] = raw
	}
	delete(doc, "line")
	changed := map[string]any{"version": 3, "images": images}
	if old.Areas != nil {
		changed["areas"] = old.Areas
	}
	return with(doc, changed)
}

// fromVersion10 rewrites a card from when a layer was on foam or not, instead of being held
// by something.
func fromVersion10(b []byte, doc map[string]json.RawMessage) ([]byte, error) {
	held := func(raw map[string]json.RawMessage) {
		if string(raw["foam"]) == "true" {
			raw["by"] = json.RawMessage(strconv.Quote(string(joint.FullFoam)))
		}
		delete(raw, "foam")
	}
	var old struct {
		Panel  map[string]json.RawMessage   `json:"panel"`
		Layers []map[string]json.RawMessage `json:"layers"`
	}
	if err := json.Unmarshal(b, &old); err != nil {
		return nil, fmt.Errorf("card.json cannot be read: %w", Explain(b, err))
	}
	changed := map[string]any{"version": 11}
	if held(old.Panel); old.Panel != nil {
		changed["panel"] = old.Panel
	}
	for _, l := range old.Layers {
		held(l)
	}
	if old.Layers != nil {
		changed["layers"] = old.Layers
	}
	return with(doc, changed)
}

// newer rewrites a card for the version after its own. What a card said from version 3 on
// still holds: cells of an area were painted in one go and what is laid wet went into the
// wet (3), no grey was meant (4), paints were known by their pigments (5), the panel was all
// that was worked on (6), there were no marks, words or draws (7), no card departed from its
// studio (8), and nothing was kept white by a mask (9); a layer was on foam, or not (10).
func newer(b []byte, version int) ([]byte, error) {
	switch version {
	case 1:
		return fromVersion1(b)
	case 2:
		return fromVersion2(b)
	}
	var doc map[string]json.RawMessage
	if err := json.Unmarshal(b, &doc); err != nil {
		return nil, fmt.Errorf("card.json cannot be read: %w", Explain(b, err))
	}
	if version == 10 {
		return fromVersion10(b, doc)
	}
	return with(doc, map[string]any{"version": version + 1})
}

// with is a document with some of its fields changed.
func with(doc map[string]json.RawMessage, fields map[string]any) ([]byte, error) {
	for name, v := range fields {
		raw, err := json.Marshal(v)
		if err != nil {
			return nil, fmt.Errorf("reading a card of an older version: %w", err)
		}
		doc[name] = raw
	}
	return json.Marshal(doc)
}

// inFile takes the names of embedded structs out of the name of a field.
var inFile = strings.NewReplacer("Scan.", "", "Sizing.", "", "Work.", "")

// kinds are what Go's kinds are called in a file.
var kinds = map[reflect.Kind]string{
	reflect.String: "text", reflect.Bool: "true or false", reflect.Slice: "list", reflect.Array: "list", reflect.Struct: "group in braces", reflect.Map: "group in braces",
}

// Explain words JSON errors for somebody who may have edited the file b.
func Explain(b []byte, err error) error {
	var syntax *json.SyntaxError
	var kind *json.UnmarshalTypeError
	switch {
	case errors.As(err, &syntax), errors.Is(err, io.ErrUnexpectedEOF), errors.Is(err, io.EOF):
		at := len(b)
		if syntax != nil {
			at = min(at, int(syntax.Offset))
		}
		if at == len(b) {
			return errors.New("its end is missing; fetch it again where it was made")
		}
		line := bytes.Count(b[:at], []byte("\n"))
		return fmt.Errorf("line %d, character %d: this is no JSON there; a comma, quote or brace is missing or too many", line+1, at-1-bytes.LastIndexByte(b[:at], '\n'))
	case errors.As(err, &kind):
		words, named := kinds[kind.Type.Kind()]
		if !named {
			words = "number"
		}
		return fmt.Errorf("the field %q should be a %s, not a %s", inFile.Replace(kind.Field), words, kind.Value)
	}
	if name, unknown := strings.CutPrefix(err.Error(), "json: unknown field "); unknown {
		return fmt.Errorf("the field %s is not known; take it out, or open the file with the program that wrote it", name)
	}
	return err
}
