package main

import (
	"context"
	"errors"
	"fmt"

	"github.com/spf13/cobra"

	"chromaqua/core/pigment"
)

func calibrateCommand() *cobra.Command {
	return onRequest(&cobra.Command{
		Use:   "calibrate FILE",
		Short: "Find a paint's absorption and scattering from its swatches",
		Long: `Reads one JSON object from a file or standard input (-): how swatches of one paint
dried, each a coat of a strength (or a load, milk is 1) on a paper. Several strengths,
and some of them over black, tell most. ci names the pigment the paint is said to be.

  {"ci": "PB29",
   "patches": [{"load": "tea", "srgb": "#a9bbe6"},
               {"load": "milk", "srgb": "#4d6fc4"},
               {"load": "milk", "srgb": "#10142b", "substrate": {"paper": "black"}}]}

Prints K and S in 36 bands, which mix takes as a part, and for each swatch what the
found paint makes of it and how far that is off (CIEDE2000).`,
	}, calibrate)
}

type calibrateRequest struct {
	CI      string `json:"ci"`
	Patches []struct {
		Load      mixLoad     `json:"load"`
		SRGB      string      `json:"srgb"`
		Lab       *[3]float64 `json:"lab"`
		Substrate substrate   `json:"substrate"`
	} `json:"patches"`
}

type calibrateAnswer struct {
	K       pigment.Spectrum `json:"K"`
	S       pigment.Spectrum `json:"S"`
	Patches []patchAnswer    `json:"patches"`
	Mean    float64          `json:"mean_dE00"`
}

type patchAnswer struct {
	SRGB string  `json:"srgb"`
	DE00 float64 `json:"dE00"`
}

func calibrate(_ context.Context, data []byte) (any, error) {
	var q calibrateRequest
	if err := decode(data, &q); err != nil {
		return nil, err
	}
	var like *pigment.Paint
	if q.CI != "" {
		p, err := pigment.ByCI(q.CI)
		if err != nil {
			return nil, err
		}
		paint := p.Paint()
		like = &paint
	}
	var patches []pigment.Patch
	for i, p := range q.Patches {
		ground, err := p.Substrate.ground()
		if err != nil {
			return nil, fmt.Errorf("patch %d: %w", i+1, err)
		}
		seen, err := seenColour(p.SRGB, p.Lab)
		if err != nil {
			return nil, fmt.Errorf("patch %d: %w", i+1, err)
		}
		patches = append(patches, pigment.Patch{Load: pigment.Load(p.Load), Ground: ground, Seen: seen})
	}
	f, err := pigment.Fit(patches, like)
	if err != nil {
		return nil, err
	}
	out := calibrateAnswer{K: f.Paint.K, S: f.Paint.S, Mean: f.Mean()}
	for i, made := range f.Made {
		out.Patches = append(out.Patches, patchAnswer{made.RGB().Hex(), f.Away[i]})
	}
	return out, nil
}

// seenColour is a colour given as sRGB or as CIELAB.
func seenColour(srgb string, lab *[3]float64) (pigment.Lab, error) {
	switch {
	case srgb != "" && lab != nil:
		return pigment.Lab{}, errors.New("a swatch has an srgb or a lab, not both")
	case lab != nil:
		return pigment.Lab{L: lab[0], A: lab[1], B: lab[2]}, nil
	}
	c, err := pigment.ParseHex(srgb)
	return c.Lab(), err
}
