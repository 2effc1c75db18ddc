package bench

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math"
	"net/http"
	"time"

	"chromaqua/core/drying"
	"chromaqua/core/run"
	"chromaqua/core/settings"
	"chromaqua/internal/desk"
	"chromaqua/internal/standin"
)

// Of the room sensor.
const (
	sensorEach  = time.Minute // how often it is asked
	sensorWaits = 3 * time.Second
	sensorBytes = 4 << 10
	sensorStale = 15 * time.Minute // a reading that old says nothing of now
	feltCelsius = 0.5              // changes that count
	feltPercent = 2.0
)

// Room tells what the maker reads off: the temperature in either scale, and %.
func (b *Benches) Room(ctx context.Context, id int64, celsius, humidity, once string) error {
	room, err := drying.ParseRoom(celsius, humidity)
	if err != nil {
		return desk.Refuse(err)
	}
	return b.tellRoom(ctx, id, room, once)
}

func (b *Benches) tellRoom(ctx context.Context, id int64, room drying.Room, once string) error {
	if err := room.Check(); err != nil {
		return desk.Refuse(fmt.Errorf("%w; look at the thermometer again", err))
	}
	return b.Tell(ctx, id, run.Event{Kind: run.RoomRead, Room: &room, Once: once})
}

// ReadRoom asks the sensor, if there is one, not more often than it is worth, and tells the
// run where the room has changed. What is wrong with it is kept for [Benches.Sensor].
func (b *Benches) ReadRoom(ctx context.Context, id int64) {
	set, err := b.desk.Settings(ctx)
	if err != nil || set.Settings.Sensor == "" {
		return
	}
	b.mu.Lock()
	due := b.now().Sub(b.asked[id]) >= sensorEach
	if due {
		b.asked[id] = b.now()
	}
	b.mu.Unlock()
	if !due {
		return
	}
	got, err := readSensor(ctx, set.Settings.Sensor, b.now())
	if err == nil {
		err = b.takeRoom(ctx, id, got)
	}
	b.mu.Lock()
	defer b.mu.Unlock()
	b.sensor = err
}

// Sensor is what is wrong with the sensor, nil while nothing is.
func (b *Benches) Sensor() error {
	b.mu.Lock()
	defer b.mu.Unlock()
	return b.sensor
}

func (b *Benches) takeRoom(ctx context.Context, id int64, got standin.RoomReading) error {
	v, err := b.Show(ctx, id)
	if err != nil || v.State.Ended {
		return err
	}
	was := v.State.Room
	if v.State.RoomRead && math.Abs(was.Celsius-got.Celsius) < feltCelsius && math.Abs(100*was.Humidity-got.Humidity) < feltPercent {
		return nil
	}
	return b.tellRoom(ctx, id, drying.Room{Celsius: got.Celsius, Humidity: got.Humidity / 100, Air: drying.StillRoom.Air}, "")
}

// readSensor asks a sensor that answers with {"celsius", "humidity", "at"}.
func readSensor(ctx context.Context, at string, now time.Time) (r standin.RoomReading, err error) {
	if at == settings.SimulatedSensor {
		return standin.Room(now), nil
	}
	ctx, cancel := context.WithTimeout(ctx, sensorWaits)
	defer cancel()
	req, err := http.NewRequestWithContext(ctx, http.MethodGet, at, nil)
	if err != nil {
		return r, err
	}
	answer, err := http.DefaultClient.Do(req)
	if err != nil {
		return r, errors.New("the room sensor does not answer; the room counts as it was last read")
	}
	defer answer.Body.Close()
	if err := json.NewDecoder(io.LimitReader(answer.Body, sensorBytes)).Decode(&r); err != nil || answer.StatusCode != http.StatusOK {
		return r, errors.New(`the room sensor does not answer with {"celsius", "humidity", "at"}; look at its address in Settings`)
	}
	if age := now.Sub(r.At); !r.At.IsZero() && (age > sensorStale || age < -sensorStale) {
		return r, fmt.Errorf("the room sensor's reading is of %s; it counts no more", r.At.Format("2 Jan 15:04"))
	}
	return r, nil
}
