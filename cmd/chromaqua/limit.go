package main

import (
	"context"
	"time"

	"github.com/spf13/cobra"
)

// searchLimit says how long a solver may look for something better.
type searchLimit struct {
	ms, iterations int
	seed           uint64
}

func (l *searchLimit) flags(c *cobra.Command, ms int) {
	c.Flags().IntVar(&l.ms, "ms", ms, "how long to look for something better, milliseconds")
	c.Flags().IntVar(&l.iterations, "iterations", 0, "make this many tries instead")
	c.Flags().Uint64Var(&l.seed, "seed", 1, "seed of the search")
	c.MarkFlagsMutuallyExclusive("ms", "iterations")
}

// context ends when the time is up; with iterations it does not.
func (l *searchLimit) context(ctx context.Context) (context.Context, context.CancelFunc) {
	if l.iterations > 0 {
		return context.WithCancel(ctx)
	}
	return context.WithTimeout(ctx, time.Duration(l.ms)*time.Millisecond)
}
