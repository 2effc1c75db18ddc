package main

import (
	"encoding/json"

	"github.com/spf13/cobra"

	"chromaqua/core/order"
)

func orderCommand() *cobra.Command {
	var limit searchLimit
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
			ctx, cancel := limit.context(c.Context())
			defer cancel()
			s, err := order.Solve(ctx, in, order.Budget{Iterations: limit.iterations, Seed: limit.seed})
			if err != nil {
				return err
			}
			return json.NewEncoder(c.OutOrStdout()).Encode(s)
		},
	}
	limit.flags(c, 50)
	return c
}
