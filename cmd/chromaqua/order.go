package main

import (
	"context"

	"github.com/spf13/cobra"

	"chromaqua/core/order"
	"chromaqua/core/order/solver"
)

func orderCommand() *cobra.Command {
	return solveCommand(&cobra.Command{
		Use:   "order INSTANCE.json",
		Short: "Find the order to paint in",
		Long: `Schedules the operations of an instance (a file, or - for standard input) and
prints the timed order as JSON. With --iterations the answer depends only on
the instance, the number and the seed; with --ms also on the machine.`,
		Example: "  chromaqua order card.json --ms 200",
	}, 50, order.Read, func(ctx context.Context, in *order.Instance, l *searchLimit) (*order.Schedule, error) {
		return solver.Solve(ctx, in, solver.Budget{Iterations: l.iterations, Seed: l.seed})
	})
}
