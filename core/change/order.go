package change

import (
	"fmt"

	"chromaqua/core/card"
)

// Copies says how many cards are painted and mixed for.
type Copies struct {
	Copies int `json:"copies"`
}

// Do changes the number.
func (c Copies) Do(on *card.Card) (Done, error) {
	if c.Copies < 1 {
		return Done{}, fmt.Errorf("write how many cards there are to be, 1 to %d", card.MaxCopies)
	}
	on.Copies = c.Copies
	if c.Copies == 1 {
		return said("mixes for 1 card"), nil
	}
	return said("mixes for %d cards", c.Copies), nil
}

// Drying says how coats are dried, in which room, and for how many cards unless that
// is left open.
type Drying struct {
	Drying   card.Drying `json:"drying"`
	Celsius  Number      `json:"celsius"`
	Humidity Number      `json:"humidity"` // %
	Copies   *int        `json:"copies,omitempty"`
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
