package main

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"

	"github.com/spf13/cobra"

	"chromaqua/core/pigment"
)

// maxMixes and maxMixBytes bound one call of the mix command.
const (
	maxMixes    = 10_000
	maxMixBytes = 32 << 20
)

func mixCommand() *cobra.Command {
	return onRequest(&cobra.Command{
		Use:   "mix FILE",
		Short: "Compute the colour of washes on paper",
		Long: `Reads one JSON object, or an array of them, from a file or standard input (-) and
prints for each the reflectance in 36 bands (380 to 730 nm), CIELAB (D65) and sRGB:

  {"substrate": {"paper": "white"},
   "layers": [{"parts": [{"ci": "PB29", "parts": 2}, {"ci": "PV19", "parts": 1}],
               "load": "milk", "coats": 1}],
   "wetness": 0}

The bottom layer comes first. A substrate may be {"nm": […], "R": […]} instead, a
part {"K": [36 numbers], "S": [36 numbers], "parts": 1}, a load a number (milk is 1).`,
	}, func(_ context.Context, data []byte) (any, error) { return mixAll(data) })
}

// onRequest makes a command that answers one JSON document with another.
func onRequest(c *cobra.Command, answer func(ctx context.Context, data []byte) (any, error)) *cobra.Command {
	return onFile(c, func(c *cobra.Command, f io.Reader) error {
		data, err := io.ReadAll(io.LimitReader(f, maxMixBytes+1))
		if err != nil {
			return err
		}
		if len(data) > maxMixBytes {
			return fmt.Errorf("the request is larger than %d MB", maxMixBytes>>20)
		}
		result, err := answer(c.Context(), data)
		if err != nil {
			return err
		}
		return json.NewEncoder(c.OutOrStdout()).Encode(result)
	})
}

// mixAll answers one request or an array of them in kind.
func mixAll(data []byte) (any, error) {
	if !bytes.HasPrefix(bytes.TrimSpace(data), []byte("[")) {
		var one mixRequest
		if err := decode(data, &one); err != nil {
			return nil, err
		}
		return one.mix()
	}
	var many []mixRequest
	if err := decode(data, &many); err != nil {
		return nil, err
	}
	if len(many) > maxMixes {
		return nil, fmt.Errorf("%d mixes are more than %d; split the request", len(many), maxMixes)
	}
	results := make([]mixResult, len(many))
	for i, r := range many {
		var err error
		if results[i], err = r.mix(); err != nil {
			return nil, fmt.Errorf("mix %d: %w", i+1, err)
		}
	}
	return results, nil
}

// decode reads JSON strictly, so that a misspelt field is noticed.
func decode(data []byte, to any) error {
	d := json.NewDecoder(bytes.NewReader(data))
	d.DisallowUnknownFields()
	if err := d.Decode(to); err != nil {
		return fmt.Errorf("reading the request: %w", err)
	}
	if d.More() {
		return errors.New("reading the request: something follows the JSON; put several mixes into one array")
	}
	return nil
}

type mixRequest struct {
	Substrate substrate  `json:"substrate"`
	Layers    []mixLayer `json:"layers"`
	Wetness   float64    `json:"wetness"`
}

// substrate is a paper by its colour, or a measured reflectance.
type substrate struct {
	Paper string    `json:"paper"`
	NM    []float64 `json:"nm"`
	R     []float64 `json:"R"`
}

type mixLayer struct {
	Parts []mixPart `json:"parts"`
	Load  mixLoad   `json:"load"`
	Coats *float64  `json:"coats"` // 1 when absent
}

type mixPart struct {
	CI    string    `json:"ci"`
	K     []float64 `json:"K"`
	S     []float64 `json:"S"`
	Parts *float64  `json:"parts"` // 1 when absent
}

// mixLoad is a strength by name or a number.
type mixLoad pigment.Load

func (l *mixLoad) UnmarshalJSON(b []byte) error {
	var name pigment.Strength
	if json.Unmarshal(b, &name) == nil {
		load, err := name.Load()
		*l = mixLoad(load)
		return err
	}
	if json.Unmarshal(b, (*float64)(l)) != nil {
		return fmt.Errorf("a load is a number or a strength such as \"tea\", not %.40s", b)
	}
	return nil
}

type mixResult struct {
	R    pigment.Spectrum `json:"R"`
	Lab  [3]float64       `json:"lab"`
	SRGB string           `json:"srgb"`
}

func (q *mixRequest) mix() (mixResult, error) {
	if !(q.Wetness >= 0 && q.Wetness <= 1) {
		return mixResult{}, fmt.Errorf("a wetness of %g is outside 0 (dry) to 1 (gloss)", q.Wetness)
	}
	ground, err := q.Substrate.ground()
	if err != nil {
		return mixResult{}, err
	}
	var coats []pigment.Coat
	for i, l := range q.Layers {
		c, err := l.coat()
		if err != nil {
			return mixResult{}, fmt.Errorf("layer %d: %w", i+1, err)
		}
		coats = append(coats, c)
	}
	see := pigment.Seen
	if len(coats) == 0 {
		see = pigment.Wet // what is bare was measured with its surface
	}
	r := see(pigment.Stack(ground, coats...), pigment.Wetness(q.Wetness))
	lab := r.Lab()
	return mixResult{r, [3]float64{lab.L, lab.A, lab.B}, r.Hex()}, nil
}

func (s substrate) ground() (pigment.Spectrum, error) {
	switch {
	case s.Paper != "" && s.R != nil:
		return pigment.Spectrum{}, errors.New("a substrate is a paper or a spectrum, not both")
	case s.R != nil:
		return pigment.Resample(s.NM, s.R)
	case s.Paper == "":
		s.Paper = "white"
	}
	return pigment.Paper(s.Paper)
}

func (l *mixLayer) coat() (pigment.Coat, error) {
	var parts []pigment.Part
	for _, p := range l.Parts {
		part, err := p.part()
		if err != nil {
			return pigment.Coat{}, err
		}
		parts = append(parts, part)
	}
	paint, err := pigment.Mix(parts...)
	if err != nil {
		return pigment.Coat{}, err
	}
	load := pigment.Load(float64(l.Load) * orOne(l.Coats))
	if !(load >= 0 && load <= pigment.MaxLoad) {
		return pigment.Coat{}, fmt.Errorf("a load of %g is outside 0 to %g", load, pigment.MaxLoad)
	}
	return pigment.Coat{Paint: paint, Load: load}, nil
}

func (p *mixPart) part() (pigment.Part, error) {
	part := pigment.Part{Parts: orOne(p.Parts)}
	switch {
	case p.CI != "" && (p.K != nil || p.S != nil):
		return part, errors.New("a part has a ci or K and S, not both")
	case p.CI != "":
		known, err := pigment.ByCI(p.CI)
		if err != nil {
			return part, err
		}
		part.Paint = known.Paint()
		return part, nil
	case len(p.K) != pigment.Bands || len(p.S) != pigment.Bands:
		return part, fmt.Errorf("a part's K and S need %d numbers each, 380 to 730 nm; they have %d and %d", pigment.Bands, len(p.K), len(p.S))
	}
	part.Paint = pigment.Paint{K: pigment.Spectrum(p.K), S: pigment.Spectrum(p.S)}
	for i := range pigment.Bands {
		if !(part.Paint.K[i] >= 0 && part.Paint.S[i] >= 0) {
			return part, errors.New("a part's K and S cannot be negative")
		}
	}
	return part, nil
}

func orOne(v *float64) float64 {
	if v == nil {
		return 1
	}
	return *v
}
