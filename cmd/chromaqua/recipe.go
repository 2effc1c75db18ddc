package main

import (
	"context"

	"github.com/spf13/cobra"

	"chromaqua/core/pigment"
)

// recipesShown is how many recipes the command lists.
const recipesShown = 12

func recipeCommand() *cobra.Command {
	return onRequest(&cobra.Command{
		Use:   "recipe FILE",
		Short: "Find mixes that dry to a wanted colour",
		Long: `Reads one JSON object from a file or standard input (-) and prints the mixes that
dry nearest to the wanted colour, the best first, with what is left in CIEDE2000:

  {"target": "#7a8fc2", "paints": ["PB29", "PV19", "PBr7"],
   "substrate": {"paper": "white"}, "max_paints": 3}

Without paints, all generic ones are tried; without max_paints, up to three are mixed.`,
	}, recipes)
}

type recipeRequest struct {
	Target    string    `json:"target"`
	Paints    []string  `json:"paints"`
	Substrate substrate `json:"substrate"`
	MaxPaints *int      `json:"max_paints"`
}

type recipeAnswer struct {
	Parts []recipePart     `json:"parts"`
	Load  pigment.Strength `json:"load"`
	SRGB  string           `json:"srgb"`
	DE00  float64          `json:"dE00"`
}

type recipePart struct {
	CI    string `json:"ci"`
	Parts int    `json:"parts"`
}

func recipes(ctx context.Context, data []byte) (any, error) {
	var q recipeRequest
	if err := decode(data, &q); err != nil {
		return nil, err
	}
	want, err := pigment.ParseHex(q.Target)
	if err != nil {
		return nil, err
	}
	ground, err := q.Substrate.ground()
	if err != nil {
		return nil, err
	}
	if q.Paints == nil {
		for _, p := range pigment.Library() {
			q.Paints = append(q.Paints, p.CI)
		}
	}
	var paints []pigment.Paint
	for _, ci := range q.Paints {
		p, err := pigment.ByCI(ci)
		if err != nil {
			return nil, err
		}
		paints = append(paints, p.Paint())
	}
	most := pigment.MaxInRecipe
	if q.MaxPaints != nil {
		most = *q.MaxPaints
	}
	found, err := pigment.Recipes(ctx, want.Lab(), ground, paints, most, recipesShown)
	if err != nil {
		return nil, err
	}
	out := []recipeAnswer{}
	for _, r := range found {
		a := recipeAnswer{Load: r.Strength, SRGB: r.Dry.Hex(), DE00: r.Away}
		for _, p := range r.Parts {
			a.Parts = append(a.Parts, recipePart{q.Paints[p.Paint], p.Parts})
		}
		out = append(out, a)
	}
	return out, nil
}
