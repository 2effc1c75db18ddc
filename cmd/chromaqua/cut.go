package main

import (
	"context"

	"github.com/spf13/cobra"

	"chromaqua/core/cutting"
)

func cutCommand() *cobra.Command {
	return solveCommand(&cobra.Command{
		Use:   "cut INSTANCE.json",
		Short: "Plan edge-to-edge cuts of parts from sheets",
		Long: `Plans which sheets to take and where to cut them (a file, or - for standard
input) and prints the plan as JSON: sheets with placements and leftovers, and
the cuts in an order that seldom changes the trimmer's fence.`,
		Example: "  chromaqua cut parts.json --ms 250",
	}, 250, cutting.Read, func(ctx context.Context, in *cutting.Instance, l *searchLimit) (*cutting.Plan, error) {
		return cutting.Solve(ctx, in, cutting.Budget{Tries: l.iterations, Seed: l.seed})
	})
}
