package main

import (
	"context"
	"encoding/json"
	"time"

	"github.com/spf13/cobra"

	"chromaqua/core/order"
)

func orderCommand() *cobra.Command {
	var ms, iterations int
	var seed uint64
	c := &cobra.Command{
		Use:   "order INSTANCE.json",
		Short: "Find the order to paint in",
		Long: `Schedules the operations of an instance (a file, or - for standard input) and
prints the timed order as JSON. With --iterations the answer depends only on
the instance, the number and the seed; with --ms also on the machine.`,
		Example: "  chromaqua order card.json --ms 200",
		Args:    calledWith(cobra.ExactArgs(1)),
		RunE: func(c *cobra.Command, args []string) error {
			f, err := open(c, args[0])
			if err != nil {
				return err
			}
			defer f.Close()
			in, err := order.Read(f)
			if err != nil {
				return err
			}
			ctx := c.Context()
			if iterations <= 0 {
				var cancel context.CancelFunc
				ctx, cancel = context.WithTimeout(ctx, time.Duration(ms)*time.Millisecond)
				defer cancel()
			}
			s, err := order.Solve(ctx, in, order.Budget{Iterations: iterations, Seed: seed})
			if err != nil {
				return err
			}
			return json.NewEncoder(c.OutOrStdout()).Encode(s)
		},
	}
	c.Flags().IntVar(&ms, "ms", 50, "how long to look for a better order, milliseconds")
	c.Flags().IntVar(&iterations, "iterations", 0, "look at this many orders instead")
	c.Flags().Uint64Var(&seed, "seed", 1, "seed of the search")
	c.MarkFlagsMutuallyExclusive("ms", "iterations")
	return c
}
