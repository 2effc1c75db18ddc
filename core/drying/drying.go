// Package drying answers "when is it dry enough?" for a wash on paper.
//
// A wet area is described by its water load in grams per square metre above
// the paper's own balance with the room. It loses water at a constant rate
// down to a critical load and exponentially below it, the two periods of
// standard drying theory. The rate is Carrier's pool-evaporation form (ASHRAE)
// and, since vapour leaves a small patch sideways too, that of a disc in still
// air (Weber 1873), with the saturation pressure of Alduchov and Eskridge 1996
// and the wet-bulb temperature of Stull 2011. All of it is an estimate until
// calibrated.
package drying

import (
	"errors"
	"fmt"
	"math"
	"time"
)

// GramsPerSquareMetre is a water load.
type GramsPerSquareMetre float64

// Water loads, by how a wash is laid. Most techniques leave what they lay; what
// is drawn out with water or skims the paper leaves less, since the brush takes
// some back.
const (
	DampBrush GramsPerSquareMetre = 24
	PulledOut GramsPerSquareMetre = 20
	Glaze     GramsPerSquareMetre = 35
	FlatWash  GramsPerSquareMetre = 38
	Loaded    GramsPerSquareMetre = 60
	WetOnWet  GramsPerSquareMetre = 90

	// DampLeft is what is left of a damp brush at the end of its stroke.
	DampLeft GramsPerSquareMetre = 14
)

// Room is the air the work dries in.
type Room struct {
	Celsius  float64 `json:"celsius"`
	Humidity float64 `json:"humidity"` // relative, 0 to 1
	Air      float64 `json:"air"`      // m/s; 0.1 in a still room, 1 before a fan
}

// StillRoom is the room estimates are anchored in.
var StillRoom = Room{Celsius: 21, Humidity: 0.5, Air: 0.1}

// A room is so cold and so warm, °C.
const coldest, warmest = 5.0, 45.0

// Check reports a room nobody paints in.
func (r Room) Check() error {
	switch {
	case !(r.Celsius >= coldest && r.Celsius <= warmest):
		return fmt.Errorf("a room of %s is outside %g to %g °C, 41 to 113 °F", Celsius.Say(r.Celsius), coldest, warmest)
	case !(r.Humidity >= 0.05 && r.Humidity <= 0.95):
		return fmt.Errorf("a humidity of %g %% is outside 5 to 95 %%", 100*r.Humidity)
	case !(r.Air >= 0 && r.Air <= 5):
		return errors.New("moving air is outside 0 to 5 m/s")
	}
	return nil
}

// Rate returns the evaporation from a wet patch of areaMM2, in grams per square
// metre and minute: that of a pool, and what a disc of that area loses sideways.
// Small patches dry faster.
func (r Room) Rate(areaMM2 float64) float64 {
	rh := 100 * r.Humidity
	wetBulb := r.Celsius*math.Atan(0.151977*math.Sqrt(rh+8.313659)) + math.Atan(r.Celsius+rh) -
		math.Atan(rh-1.676331) + 0.00391838*math.Pow(rh, 1.5)*math.Atan(0.023101*rh) - 4.686035
	surface := r.Celsius - (r.Celsius-wetBulb)/2
	pool := 60000 * (0.089 + 0.0782*r.Air) * (saturation(surface) - r.Humidity*saturation(r.Celsius)) / 2450
	diffusivity := 2.5e-5 * math.Pow((r.Celsius+273.15)/293, 1.75) // m²/s, of vapour in air
	radius := math.Sqrt(max(areaMM2, leastMM2)/math.Pi) / 1000     // m
	edge := 60 * 4 * diffusivity * (vapour(surface) - r.Humidity*vapour(r.Celsius)) / (math.Pi * radius)
	return max(pool+edge, 0.02) // air at its dew point dries nothing, but never adds water here
}

// leastMM2 is the smallest patch that is told from a point.
const leastMM2 = 0.05

// saturation is the pressure of saturated vapour over water, kPa.
func saturation(celsius float64) float64 {
	return 0.61094 * math.Exp(17.625*celsius/(celsius+243.04))
}

// vapour is the density of saturated vapour, g/m³, by the ideal gas law.
func vapour(celsius float64) float64 {
	const molar, gas = 18.015, 8.314 // g/mol, J/(mol·K)
	return 1000 * saturation(celsius) * molar / (gas * (celsius + 273.15))
}

// Stage is a stage of a drying wash, wettest first.
type Stage uint8

// The stages by their usual names.
const (
	Puddle Stage = iota
	Gloss
	Sheen
	Damp
	TouchDry
	BoneDry
)

var stageNames = [...]string{"puddle", "gloss", "sheen", "damp", "touch-dry", "bone dry"}

func (s Stage) String() string { return stageNames[s] }

// A Surface is how a kind of paper holds water: the load below which each
// stage begins, and the critical load.
type Surface struct {
	below    [6]GramsPerSquareMetre // by Stage; Puddle has no limit
	critical GramsPerSquareMetre
	slower   float64 // how many times longer it takes here than estimated, less 1
}

// Below is the load below which a stage begins; nothing limits a puddle.
func (s Surface) Below(stage Stage) GramsPerSquareMetre { return s.below[stage] }

// Critical is the load below which it dries ever slower.
func (s Surface) Critical() GramsPerSquareMetre { return s.critical }

// Calibrated is the surface where drying takes factor times as long as estimated.
func (s Surface) Calibrated(factor float64) Surface {
	s.slower = factor - 1
	return s
}

// The surfaces washes are laid on. Sealed covers hot-press and coated card,
// which absorb less: gloss lasts longer and sheen is short. Wood pulp holds less
// water than cotton in its sheet, so that a wash on it is dry sooner, and patchier.
var (
	Cotton = Surface{below: [6]GramsPerSquareMetre{math.MaxFloat64, 110, 45, 25, 5, 1.5}, critical: 12}
	Pulp   = Surface{below: [6]GramsPerSquareMetre{math.MaxFloat64, 110, 28, 18, 5, 1.5}, critical: 8}
	Sealed = Surface{below: [6]GramsPerSquareMetre{math.MaxFloat64, 90, 35, 25, 5, 1.5}, critical: 9}
)

// Stage returns the stage of a load.
func (s Surface) Stage(load GramsPerSquareMetre) Stage {
	for st := BoneDry; st > Puddle; st-- {
		if load < s.below[st] {
			return st
		}
	}
	return Puddle
}

// Until returns how long a load laid on areaMM2 takes to reach stage, 0 when
// it is there already.
func (s Surface) Until(stage Stage, load GramsPerSquareMetre, areaMM2 float64, room Room) time.Duration {
	goal := s.below[stage]
	if load <= goal {
		return 0
	}
	rate := room.Rate(areaMM2)
	minutes := 0.0
	if load > s.critical {
		to := max(goal, s.critical)
		minutes = float64(load-to) / rate
		load = to
	}
	if goal < load {
		minutes += float64(s.critical) / rate * math.Log(float64(load/goal))
	}
	return time.Duration(minutes * (1 + s.slower) * float64(time.Minute)).Round(time.Second)
}

// LoadAfter returns what is left of a load laid on areaMM2 after d.
func (s Surface) LoadAfter(d time.Duration, load GramsPerSquareMetre, areaMM2 float64, room Room) GramsPerSquareMetre {
	rate := GramsPerSquareMetre(room.Rate(areaMM2))
	m := GramsPerSquareMetre(d.Minutes() / (1 + s.slower))
	if load > s.critical {
		t := (load - s.critical) / rate
		if m <= t {
			return load - rate*m
		}
		load, m = s.critical, m-t
	}
	return load * GramsPerSquareMetre(math.Exp(-float64(rate*m/s.critical)))
}

// What a heat tool does, general figures.
const (
	HeatPerMinute = 0.3             // g of water it takes where it points
	HeatLeast     = 8 * time.Second // the shortest useful pass over one spot
)

// Heating returns how long a heat tool takes to bring a load on areaMM2 to a
// stage: it takes so much water a minute whatever the room, and no pass is shorter
// than [HeatLeast].
func (s Surface) Heating(stage Stage, load GramsPerSquareMetre, areaMM2 float64) time.Duration {
	grams := float64(load-s.below[stage]) * areaMM2 / 1e6
	if grams <= 0 {
		return 0
	}
	return max(HeatLeast, time.Duration(grams/HeatPerMinute*float64(time.Minute)).Round(time.Second))
}
