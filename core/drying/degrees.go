package drying

import (
	"errors"
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"
)

// Degrees is the scale temperatures are told in.
type Degrees string

// The scales.
const (
	Celsius    Degrees = ""
	Fahrenheit Degrees = "fahrenheit"
)

// Sign is how the scale is written after a number.
func (d Degrees) Sign() string {
	if d == Fahrenheit {
		return "°F"
	}
	return "°C"
}

// Say words a temperature to a tenth of a degree: "21 °C", "69.8 °F".
func (d Degrees) Say(celsius float64) string {
	v := celsius
	if d == Fahrenheit {
		v = celsius*9/5 + 32
	}
	return strconv.FormatFloat(math.Round(10*v)/10, 'f', -1, 64) + " " + d.Sign()
}

// Told words a room: "21 °C, 50 %".
func (r Room) Told(d Degrees) string {
	return fmt.Sprintf("%s, %.0f %%", d.Say(r.Celsius), 100*r.Humidity)
}

// ParseRoom reads a room of still air as the maker reads it off: a temperature in either
// scale, and a humidity in per cent.
func ParseRoom(temperature, percent string) (r Room, err error) {
	r = StillRoom
	if r.Celsius, err = ParseTemperature(temperature); err != nil {
		return r, err
	}
	v, err := strconv.ParseFloat(strings.Replace(strings.TrimSpace(percent), ",", ".", 1), 64)
	if err != nil || math.IsNaN(v) || math.IsInf(v, 0) {
		return r, errors.New("humidity: write a number")
	}
	r.Humidity = v / 100
	return r, nil
}

var temperature = regexp.MustCompile(`^\s*(-?\d{1,3}(?:[.,]\d{1,20})?)\s*°?\s*([CcFf]?)\s*$`)

// ParseTemperature reads the temperature of a room as the maker types it: "21", "21,5 °C",
// "70 F". A bare number that is too warm for any room in degrees Celsius is Fahrenheit.
func ParseTemperature(text string) (celsius float64, err error) {
	parts := temperature.FindStringSubmatch(text)
	if parts == nil {
		return 0, fmt.Errorf("%.20q is no temperature; write it as 21 °C or 70 °F", text)
	}
	v, err := strconv.ParseFloat(strings.Replace(parts[1], ",", ".", 1), 64)
	if err != nil {
		return 0, fmt.Errorf("%.20q is no temperature: %w", text, err)
	}
	if scale := strings.ToUpper(parts[2]); scale == "F" || scale == "" && v > warmest {
		v = (v - 32) * 5 / 9
	}
	return v, nil
}
