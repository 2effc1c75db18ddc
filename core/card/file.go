package card

import (
	"bytes"
	"encoding/json"
	"fmt"

	"chromaqua/core/card/version"
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
		return nil, fmt.Errorf("card.json cannot be read: %w", version.Explain(b, err))
	}
	probe := Card{Kind: head.Kind, Version: head.Version}
	if head.Kind != Kind || head.Version < 1 || head.Version > Version {
		return nil, probe.Check()
	}
	b, err := version.Raise(b, head.Version, Version)
	if err != nil {
		return nil, err
	}
	d := json.NewDecoder(bytes.NewReader(b))
	d.DisallowUnknownFields()
	var c Card
	if err := d.Decode(&c); err != nil {
		return nil, fmt.Errorf("card.json cannot be read: %w", version.Explain(b, err))
	}
	return &c, c.Check()
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
