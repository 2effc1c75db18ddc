package main

import (
	"context"
	"encoding/json"
	"io"
	"time"

	"github.com/spf13/cobra"
)

// searchLimit says how long a solver may look for something better.
type searchLimit struct {
	ms, iterations int
	seed           uint64
}

// context ends when the time is up; with iterations it does not.
func (l *searchLimit) context(ctx context.Context) (context.Context, context.CancelFunc) {
	if l.iterations > 0 {
		return context.WithCancel(ctx)
	}
	return context.WithTimeout(ctx, time.Duration(l.ms)*time.Millisecond)
}

// solveCommand completes a command that reads an instance, solves it within a
// limit (ms by default), and prints the answer.
func solveCommand[I, A any](c *cobra.Command, ms int, read func(io.Reader) (I, error), solve func(context.Context, I, *searchLimit) (A, error)) *cobra.Command {
	var limit searchLimit
	onFile(c, func(c *cobra.Command, f io.Reader) error {
		in, err := read(f)
		if err != nil {
			return err
		}
		ctx, cancel := limit.context(c.Context())
		defer cancel()
		answer, err := solve(ctx, in, &limit)
		if err != nil {
			return err
		}
		return json.NewEncoder(c.OutOrStdout()).Encode(answer)
	})
	c.Flags().IntVar(&limit.ms, "ms", ms, "how long to look for something better, milliseconds")
	c.Flags().IntVar(&limit.iterations, "iterations", 0, "make this many tries instead")
	c.Flags().Uint64Var(&limit.seed, "seed", 1, "seed of the search")
	c.MarkFlagsMutuallyExclusive("ms", "iterations")
	return c
}
