package standin

import (
	"encoding/json"
	"math"
	"net/http"
	"time"
)

// A RoomReading is what a room sensor tells, as JSON. Any sensor that speaks like this can
// take the place of the stand-in.
type RoomReading struct {
	Celsius   float64   `json:"celsius"`
	Humidity  float64   `json:"humidity"` // relative, %
	At        time.Time `json:"at"`
	Simulated bool      `json:"simulated,omitempty"`
}

// Room is what a sensor in an ordinary work room might tell at a time: warmer in the
// afternoon, drier when it is warm, with the window opened now and then.
func Room(at time.Time) RoomReading {
	h := float64(at.Unix()) / 3600
	day := math.Sin(2 * math.Pi * (h - 9) / 24)
	window := max(0, math.Sin(2*math.Pi*h/5.3)-0.85) * 12
	c := 20.6 + 1.6*day + 0.25*math.Sin(2*math.Pi*h/0.7) - window
	rh := 51 - 5*day + 1.5*math.Sin(2*math.Pi*h/1.9) + 2.5*window
	return RoomReading{math.Round(10*c) / 10, math.Round(10*rh) / 10, at.UTC().Truncate(time.Second), true}
}

// ServeRoom answers like a room sensor.
func ServeRoom(w http.ResponseWriter, _ *http.Request) {
	w.Header().Set("Content-Type", "application/json")
	w.Header().Set("Cache-Control", "no-store")
	_ = json.NewEncoder(w).Encode(Room(time.Now())) // the reader may have gone
}
