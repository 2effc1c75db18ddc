package main

import (
	"encoding/json"

	"github.com/spf13/cobra"

	"chromaqua/core/cutting"
)

func cutCommand() *cobra.Command {
	var limit searchLimit
	c := &cobra.Command{
		Use:   "cut INSTANCE.json",
		Short: "Plan edge-to-edge cuts of parts from sheets",
		Long: `Plans which sheets to take and where to cut them (a file, or - for standard
input) and prints the plan as JSON: sheets with placements and leftovers, and
the cuts in an order that seldom changes the trimmer's fence.`,
		Example: "  chromaqua cut parts.json --ms 250",
		Args:    calledWith(cobra.ExactArgs(1)),
		RunE: func(c *cobra.Command, args []string) error {
			f, err := open(c, args[0])
			if err != nil {
				return err
			}
			defer f.Close()
			in, err := cutting.Read(f)
			if err != nil {
				return err
			}
			ctx, cancel := limit.context(c.Context())
			defer cancel()
			plan, err := cutting.Solve(ctx, in, cutting.Budget{Tries: limit.iterations, Seed: limit.seed})
			if err != nil {
				return err
			}
			return json.NewEncoder(c.OutOrStdout()).Encode(plan)
		},
	}
	limit.flags(c, 250)
	return c
}
