package change

import (
	"fmt"

	"chromaqua/core/card"
	"chromaqua/core/wording"
)

// Copies says how many cards are painted and mixed for.
type Copies struct {
	Copies int `json:"copies" words:"how many cards, 1 to 200"`
}

// Do changes the number.
func (c Copies) Do(on *card.Card) (Done, error) {
	if c.Copies < 1 {
		return Done{}, fmt.Errorf("write how many cards there are to be, 1 to %d", card.MaxCopies)
	}
	on.Copies = c.Copies
	return said("mixes for %s", wording.Count(c.Copies, "card")), nil
}

// Drying says how coats are dried, in which room, and for how many cards unless that
// is left open.
type Drying struct {
	Drying   card.Drying `json:"drying"`
	Celsius  Temperature `json:"celsius" words:"temperature"`
	Humidity Number      `json:"humidity"` // %
	Copies   *int        `json:"copies,omitempty" words:"how many cards, 1 to 200"`
}

// Do changes the drying.
func (c Drying) Do(on *card.Card) (Done, error) {
	if c.Copies != nil {
		if _, err := (Copies{*c.Copies}).Do(on); err != nil {
			return Done{}, err
		}
	}
	on.Drying = c.Drying
	on.Room.Celsius, on.Room.Humidity = float64(c.Celsius), float64(c.Humidity)/100
	return said("changed drying, room or cards"), nil
}

// School departs from how the studio works in one question, on this card; without a way it
// is worked as the studio does.
type School struct {
	Question string `json:"question"`
	Way      string `json:"way"`
}

// Do answers the question for the card.
func (c School) Do(on *card.Card) (Done, error) {
	if err := on.Schools.Choose(c.Question, c.Way); err != nil {
		return Done{}, err
	}
	if c.Way == "" {
		return said("works on it as in the studio"), nil
	}
	return said("works on it otherwise than in the studio: %s", c.Way), nil
}
