package card

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"reflect"
	"strconv"
	"strings"

	"chromaqua/core/length"
	"chromaqua/core/nest"
	"chromaqua/core/shelf"
)

// MaxJSON bounds the size of a card's JSON, bytes.
const MaxJSON = 4 << 20

// Encode returns the card's JSON, indented for people.
func (c *Card) Encode() ([]byte, error) {
	b, err := json.MarshalIndent(c, "", "  ")
	if err != nil {
		return nil, fmt.Errorf("writing the card: %w", err)
	}
	return append(b, '\n'), nil
}

// Decode reads and checks a card's JSON. Fields it does not know are refused
// for files of its own version, since dropping them would lose work.
func Decode(b []byte) (*Card, error) {
	if len(b) > MaxJSON {
		return nil, fmt.Errorf("the card's JSON is larger than %d MB", MaxJSON>>20)
	}
	var head struct {
		Kind    string `json:"kind"`
		Version int    `json:"version"`
	}
	if err := json.Unmarshal(b, &head); err != nil {
		return nil, fmt.Errorf("card.json cannot be read: %w", explain(b, err))
	}
	probe := Card{Kind: head.Kind, Version: head.Version}
	if head.Kind != Kind || head.Version < 1 || head.Version > Version {
		return nil, probe.Check()
	}
	for _, rewrite := range []func([]byte) ([]byte, error){1: fromVersion1, 2: fromVersion2, 3: fromVersion3, 4: fromVersion4, 5: fromVersion5, 6: fromVersion6, 7: fromVersion7, 8: fromVersion8}[head.Version:] {
		var err error
		if b, err = rewrite(b); err != nil {
			return nil, err
		}
	}
	d := json.NewDecoder(bytes.NewReader(b))
	d.DisallowUnknownFields()
	var c Card
	if err := d.Decode(&c); err != nil {
		return nil, fmt.Errorf("card.json cannot be read: %w", explain(b, err))
	}
	return &c, c.Check()
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
		return nil, fmt.Errorf("card.json cannot be read: %w", explain(b, err))
	}
	given := func(l length.Length) nest.Margin {
		if l == length.Inch/8 { // what was usual then
			return nest.Margin{}
		}
		return nest.Even(l)
	}
	layers, panel := []Layer{}, Sizing{Margin: given(old.Mat.Border)}
	if old.Mat.On {
		layers = append(layers, Layer{Kind: Mat, Paper: old.Mat.Paper, Sizing: Sizing{Margin: given(old.Mat.Border)}})
		panel.Margin = given(old.Mat.Reveal)
	}
	delete(doc, "mat")
	return with(doc, map[string]any{"version": 2, "layers": layers, "panel": panel, "painting": Painting{Tape: shelf.TapeWidth}})
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
		return nil, fmt.Errorf("card.json cannot be read: %w", explain(b, err))
	}
	if len(old.Line) > 0 {
		if err := json.Unmarshal(old.Line, &line); err != nil {
			return nil, fmt.Errorf("card.json cannot be read: %w", explain(b, err))
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
			return nil, fmt.Errorf("card.json cannot be read: %w", explain(b, err))
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

// fromVersion3 rewrites a card from when cells of an area were always painted in one
// go, what is laid wet always went into the wet, and drying was by air or heat: what
// it says still holds.
func fromVersion3(b []byte) ([]byte, error) { return renumbered(b, 4) }

// fromVersion4 rewrites a card from when a grey could not be meant: none was.
func fromVersion4(b []byte) ([]byte, error) { return renumbered(b, 5) }

// fromVersion5 rewrites a card from when paints were known by their pigments only.
func fromVersion5(b []byte) ([]byte, error) { return renumbered(b, 6) }

// fromVersion6 rewrites a card from when the panel was all that was worked on, in one ink,
// and all paint lay over all of the line.
func fromVersion6(b []byte) ([]byte, error) { return renumbered(b, 7) }

// fromVersion7 rewrites a card from before marks, words and what is scattered by a draw.
func fromVersion7(b []byte) ([]byte, error) { return renumbered(b, 8) }

// fromVersion8 rewrites a card from before it could depart from how its studio works.
func fromVersion8(b []byte) ([]byte, error) { return renumbered(b, 9) }

// renumbered is a card whose fields mean in the next version what they meant.
func renumbered(b []byte, version int) ([]byte, error) {
	var doc map[string]json.RawMessage
	if err := json.Unmarshal(b, &doc); err != nil {
		return nil, fmt.Errorf("card.json cannot be read: %w", explain(b, err))
	}
	return with(doc, map[string]any{"version": version})
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

// explain words JSON errors for somebody who may have edited the file b.
func explain(b []byte, err error) error {
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

// Clone returns a copy that shares nothing with the card.
func (c *Card) Clone() (*Card, error) {
	doc, err := c.Encode()
	if err != nil {
		return nil, err
	}
	var out Card
	if err := json.Unmarshal(doc, &out); err != nil {
		return nil, fmt.Errorf("copying the card: %w", err)
	}
	out.elsewhere = c.elsewhere
	return &out, nil
}
