// Package settings holds what is true of the maker and the bench whatever the card:
// how fast and with which hand they work, how far the heat tool goes, how many wet
// cards find room. It is one document of the studio.
package settings

import (
	"encoding/json"
	"errors"
	"fmt"
	"net/url"
	"strings"
	"unicode"
	"unicode/utf8"

	"chromaqua/core/drying"
	"chromaqua/core/school"
)

// Hand is the hand that paints.
type Hand string

// The hands.
const (
	Right Hand = "right"
	Left  Hand = "left"
)

// Limits of the settings.
const (
	MinPace, MaxPace = 0.5, 6.0
	MaxHeatCM2       = 1000.0
	MaxRack          = 200
	MaxMaker         = 60      // characters
	MaxJSON          = 1 << 16 // bytes
)

// Settings is the document.
type Settings struct {
	Pace    float64 `json:"pace"`     // how many times longer than a quick hand the maker takes
	Hand    Hand    `json:"hand"`     // which must not rest on wet paint
	HeatCM2 float64 `json:"heat_cm2"` // a larger wet patch dries by air where drying is mixed
	Rack    int     `json:"rack"`     // wet cards that find room beside the one being painted

	Maker string `json:"maker,omitempty"` // the name on labels; "" for none

	Degrees drying.Degrees `json:"degrees,omitempty"` // temperatures are told in

	Sensor string `json:"sensor,omitempty"` // where the room is read: the address of a sensor, or [SimulatedSensor]; "" nowhere

	Schools school.Ways `json:"schools,omitzero"` // how the maker works

	Washes Washes `json:"washes,omitzero"` // as a card of test washes has shown them
}

// Washes is how far washes of the maker depart from the usual, each a factor of it: 1 where it
// was not measured.
type Washes struct {
	Spread float64 `json:"spread"`
	Rim    float64 `json:"rim"`
	Grain  float64 `json:"grain"`
	Paper  string  `json:"paper"` // on which the card was painted
}

// Limits of a factor of washes.
const MinWash, MaxWash = 0.25, 4.0

// Measured reports whether a card of test washes was read.
func (w Washes) Measured() bool { return w != Washes{} }

func (w Washes) check() error {
	for _, f := range []float64{w.Spread, w.Rim, w.Grain} {
		if w.Measured() && !(f >= MinWash && f <= MaxWash) {
			return fmt.Errorf("washes depart from the usual by a factor of %g to %g; read the card of test washes again", MinWash, MaxWash)
		}
	}
	return nil
}

// SimulatedSensor is the sensor that ships with the program, and makes its readings up.
const SimulatedSensor = "simulated"

// Default is what holds until the maker says otherwise: makers take about twice as
// long as a quick hand, and heat warps what is larger than a playing-card corner.
func Default() Settings { return Settings{Pace: 2, Hand: Right, HeatCM2: 25, Rack: 11} }

// Check reports the first thing wrong, in words that say what to do.
func (s Settings) Check() error {
	switch {
	case !(s.Pace >= MinPace && s.Pace <= MaxPace):
		return fmt.Errorf("a pace of %g is outside %g to %g: 1 is a quick hand, 2 the usual, 3 a slow one", s.Pace, MinPace, MaxPace)
	case s.Hand != Right && s.Hand != Left:
		return fmt.Errorf("%.20q is no hand; use right or left", string(s.Hand))
	case !(s.HeatCM2 >= 0 && s.HeatCM2 <= MaxHeatCM2):
		return fmt.Errorf("the largest patch to heat is 0 to %g cm²", MaxHeatCM2)
	case s.Degrees != drying.Celsius && s.Degrees != drying.Fahrenheit:
		return fmt.Errorf("%.20q is no scale of temperatures; leave it out for °C, or use fahrenheit", string(s.Degrees))
	case s.Rack < 0 || s.Rack > MaxRack:
		return fmt.Errorf("a rack holds 0 to %d wet cards", MaxRack)
	}
	if err := checkSensor(s.Sensor); err != nil {
		return err
	}
	if err := s.Washes.check(); err != nil {
		return err
	}
	if utf8.RuneCountInString(s.Maker) > MaxMaker || !utf8.ValidString(s.Maker) || strings.ContainsFunc(s.Maker, unicode.IsControl) {
		return fmt.Errorf("the name on labels is at most %d characters long, on one line", MaxMaker)
	}
	return s.Schools.Check()
}

// checkSensor reports an address at which no sensor can be asked.
func checkSensor(at string) error {
	if at == "" || at == SimulatedSensor {
		return nil
	}
	u, err := url.Parse(at)
	if err != nil || u.Scheme != "http" && u.Scheme != "https" || u.Host == "" || len(at) > 300 {
		return fmt.Errorf("%.60q is no address of a room sensor; it begins with http://", at)
	}
	return nil
}

// Decode reads and checks settings; what is not given is as by default.
func Decode(b []byte) (Settings, error) {
	s := Default()
	if len(b) > MaxJSON {
		return s, errors.New("the settings are too large to be any")
	}
	if err := json.Unmarshal(b, &s); err != nil {
		return Default(), fmt.Errorf("the settings cannot be read: %w", err)
	}
	return s, s.Check()
}
