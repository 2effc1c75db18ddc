package change

import (
	"strings"

	"chromaqua/core/card"
	"chromaqua/core/length"
)

// Name gives the card its name.
type Name struct {
	Name string `json:"name"`
}

// Do renames the card.
func (c Name) Do(on *card.Card) (Done, error) {
	on.Name = c.Name
	return said("renamed the card"), card.CheckName("card", on.Name)
}

// Notes are the maker's own words on the card.
type Notes struct {
	Notes string `json:"notes"`
}

// Do replaces the notes.
func (c Notes) Do(on *card.Card) (Done, error) {
	on.Notes = strings.ReplaceAll(c.Notes, "\r\n", "\n")
	return said("changed the notes"), nil
}

// Unit is the ruler the card is shown in.
type Unit struct {
	Unit string `json:"unit"`
}

// Do changes the ruler; no length changes.
func (c Unit) Do(on *card.Card) (Done, error) {
	var u length.Unit
	if err := u.UnmarshalText([]byte(c.Unit)); err != nil {
		return Done{}, err
	}
	on.Unit = u
	return said("changed the ruler"), nil
}

// Silence quietens a watch-out on the card, or lets it speak again. That there is such
// a rule is for package advice to check.
type Silence struct {
	Rule string `json:"rule"`
	On   bool   `json:"on"`
}

// Do silences the rule.
func (c Silence) Do(on *card.Card) (Done, error) {
	on.Silence(c.Rule, c.On)
	if c.On {
		return said("silenced a watch-out"), nil
	}
	return said("lets a watch-out speak again"), nil
}
