package main

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"

	"github.com/spf13/cobra"

	"chromaqua/core/card"
	"chromaqua/core/order"
	"chromaqua/core/order/solver"
	"chromaqua/core/panel"
	"chromaqua/core/plan"
	"chromaqua/core/settings"
	"chromaqua/core/steps"
	"chromaqua/internal/cardfile"
	"chromaqua/internal/picture"
)

func planCommand() *cobra.Command {
	var copies, rack, tries int
	var drying string
	var seed uint64
	c := &cobra.Command{
		Use:   "plan CARD.zip",
		Short: "Plan a card: every step with its times, and what is wet when",
		Long: `Reads a card file of any version (or - for standard input), puts its work in
order and prints the plan as JSON: steps with what they leave wet, which cells
touch, uses of the heat tool, and what could not be planned as it was wanted.
The answer depends only on the card, the flags and the seed.`,
		Example: "  chromaqua plan card.zip --copies 6 --drying mixed",
	}
	c.Flags().IntVar(&copies, "copies", 0, "how many cards (as the card says)")
	c.Flags().IntVar(&rack, "rack", settings.Default().Rack, "wet cards that find room beside the one being painted")
	c.Flags().StringVar(&drying, "drying", "", "air, heat or mixed (as the card says)")
	c.Flags().IntVar(&tries, "tries", 0, "how many orders to try (as many as a screen does)")
	c.Flags().Uint64Var(&seed, "seed", 1, "seed of the search")
	return onFile(c, func(c *cobra.Command, f io.Reader) error {
		doc, pieces, _, err := readPieces(c.Context(), f, func(doc *card.Card) {
			if copies != 0 {
				doc.Copies = copies
			}
			if drying != "" {
				doc.Drying = card.Drying(drying)
			}
		})
		if err != nil {
			return err
		}
		bench := steps.UsualBench()
		bench.Rack = rack
		if err := bench.Check(); err != nil {
			return err
		}
		p, err := steps.CompileAll(pieces, doc, bench)
		if err != nil {
			return err
		}
		s, err := solved(c.Context(), p, tries, seed)
		if err != nil {
			return err
		}
		return json.NewEncoder(c.OutOrStdout()).Encode(plan.Of(doc, p.Lettered(s), s))
	})
}

// readPieces reads a card file, lets set change the card, and finds the cells of all its
// pieces.
func readPieces(ctx context.Context, f io.Reader, set func(*card.Card)) (doc *card.Card, pieces []panel.Piece, images cardfile.Images, err error) {
	data, err := io.ReadAll(io.LimitReader(f, cardfile.MaxBytes+1))
	if err != nil {
		return nil, nil, nil, err
	}
	doc, images, err = cardfile.Read(ctx, bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return nil, nil, nil, err
	}
	set(doc)
	if err := doc.Check(); err != nil {
		return nil, nil, nil, err
	}
	scans := panel.Scans{}
	for _, m := range images {
		if scans[m.Hash], err = picture.Grey(m.Data); err != nil {
			return nil, nil, nil, fmt.Errorf("the image %q: %w", m.Title, err)
		}
	}
	pieces, err = panel.Pieces(doc, func(alone *card.Card) (*panel.Board, error) {
		sheet, err := panel.Read(ctx, alone, scans, nil)
		if err != nil {
			return nil, err
		}
		return panel.Resolve(alone, sheet), nil
	})
	if errors.Is(err, panel.ErrNothingLaid) {
		return nil, nil, nil, fmt.Errorf("%q has no line image yet; lay one on it at the Line station", doc.Name)
	}
	return doc, pieces, images, err
}

// solved puts a plan in order by so many tries, as many as a screen does when 0.
func solved(ctx context.Context, p *steps.Plan, tries int, seed uint64) (*order.Schedule, error) {
	if tries <= 0 {
		tries = solver.Tries(p.Instance)
	}
	return solver.Solve(ctx, p.Instance, solver.Budget{Iterations: tries, Seed: seed})
}
