package card

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
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
		return nil, fmt.Errorf("card.json cannot be read: %w", explain(err))
	}
	probe := Card{Kind: head.Kind, Version: head.Version}
	if head.Kind != Kind || head.Version != Version {
		return nil, probe.Check()
	}
	d := json.NewDecoder(bytes.NewReader(b))
	d.DisallowUnknownFields()
	var c Card
	if err := d.Decode(&c); err != nil {
		return nil, fmt.Errorf("card.json cannot be read: %w", explain(err))
	}
	return &c, c.Check()
}

// explain words JSON errors for somebody who may have edited the file.
func explain(err error) error {
	var syntax *json.SyntaxError
	var kind *json.UnmarshalTypeError
	switch {
	case errors.As(err, &syntax):
		return fmt.Errorf("at byte %d: %w", syntax.Offset, err)
	case errors.As(err, &kind):
		return fmt.Errorf("field %q should be a %s, not a %s", kind.Field, kind.Type, kind.Value)
	}
	return err
}
