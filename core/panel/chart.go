package panel

import (
	"errors"
	"fmt"

	"chromaqua/core/card"
	"chromaqua/core/pigment"
	"chromaqua/core/technique"
)

// MaxChart bounds the paints of a mixing chart: 45 pairs fill four pages.
const MaxChart = 10

// ChartRatios are the ratios of a pair in a mixing chart, in parts.
func ChartRatios() [][2]int { return [][2]int{{3, 1}, {1, 1}, {1, 3}} }

// ChartStrengths are the strengths of each mix of a chart.
func ChartStrengths() []pigment.Strength {
	return []pigment.Strength{pigment.WeakTea, pigment.Tea, pigment.Milk, pigment.Cream}
}

// ChartPair is two paints of a mixing chart: a row of strengths for each ratio.
type ChartPair struct {
	A, B *pigment.Pigment
	Rows [][]Tone // by ChartRatios and ChartStrengths
}

// Chart mixes every pair of some paints.
func (p Palette) Chart(paints []string) (out []ChartPair, err error) {
	if len(paints) < 2 || len(paints) > MaxChart {
		return nil, fmt.Errorf("a mixing chart takes 2 to %d paints", MaxChart)
	}
	for i, a := range paints {
		for _, b := range paints[i+1:] {
			pair, err := p.pair(a, b)
			if err != nil {
				return nil, err
			}
			out = append(out, pair)
		}
	}
	return out, nil
}

func (from Palette) pair(a, b string) (p ChartPair, err error) {
	if a == b {
		return p, fmt.Errorf("%s stands twice; a chart takes each paint once", a)
	}
	var errs [2]error
	p.A, errs[0] = pigment.ByCI(a)
	p.B, errs[1] = pigment.ByCI(b)
	if err := errors.Join(errs[:]...); err != nil {
		return p, err
	}
	for _, r := range ChartRatios() {
		var row []Tone
		for _, s := range ChartStrengths() {
			row = append(row, from.Look([]card.Wash{{Technique: technique.Flat, Strength: s, Mix: []card.Part{{CI: p.A.CI, Parts: r[0]}, {CI: p.B.CI, Parts: r[1]}}}}).Dense)
		}
		p.Rows = append(p.Rows, row)
	}
	return p, nil
}
