// Command torture asks what the application stands: it is killed while it writes, asked by
// many at once, fed what was made to break it, and run on a disk that fills up. Figures
// are printed, and it fails when one is not met. None of it leaves this machine.
package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"os"
	"os/signal"
	"slices"
	"strings"
	"time"
)

// extent is how much of each campaign is done.
type extent struct {
	kills   int
	clients int
	lasting time.Duration // of the clients, and of the readers
	copies  int           // of the hostile corpus
	wait    time.Duration // of another request beside it, at most
}

// whole is the campaign of `make torture`, which has the machine to itself; brief is part of
// `make test`, where other packages are tested beside it and a request may wait for them.
var (
	whole = extent{kills: 1000, clients: 50, lasting: time.Minute, copies: 2, wait: time.Second}
	brief = extent{kills: 6, clients: 8, lasting: 3 * time.Second, copies: 1, wait: 10 * time.Second}
)

// campaign is one way to hurt the program.
type campaign struct {
	name string
	run  func(context.Context, *bench) error
}

var campaigns = []campaign{{"kill", kills}, {"clients", clients}, {"disk", disk}, {"corpus", corpus}, {"readers", readers}}

func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt)
	defer stop()
	only := flag.String("only", "", "the campaigns to run, with commas; all when empty")
	against := flag.String("against", "", "another binary, to read from it too")
	short := flag.Bool("short", false, "a few seconds of each")
	e := whole
	flag.IntVar(&e.kills, "kills", e.kills, "how often the program is killed")
	flag.IntVar(&e.clients, "clients", e.clients, "clients at a time")
	flag.DurationVar(&e.lasting, "for", e.lasting, "how long clients and readers go on")
	flag.Parse()
	if *short {
		e = brief
	}
	if flag.NArg() != 1 {
		fmt.Fprintln(os.Stderr, "torture: name the binary to torture")
		os.Exit(2)
	}
	b := &bench{binary: flag.Arg(0), against: *against, extent: e, say: func(format string, args ...any) { fmt.Printf(format+"\n", args...) }}
	if err := b.runAll(ctx, *only); err != nil {
		fmt.Fprintln(os.Stderr, "torture:", err)
		os.Exit(1)
	}
}

// bench is what campaigns are run with.
type bench struct {
	binary, against string
	extent
	say func(format string, args ...any)
}

func (b *bench) runAll(ctx context.Context, only string) (err error) {
	for _, c := range campaigns {
		if only != "" && !slices.Contains(strings.Split(only, ","), c.name) {
			continue
		}
		start := time.Now()
		failed := c.run(ctx, b)
		b.say("%-8s %s, %.0f s", c.name, map[bool]string{true: "met", false: "NOT MET"}[failed == nil], time.Since(start).Seconds())
		if failed != nil {
			err = errors.Join(err, fmt.Errorf("%s: %w", c.name, failed))
		}
	}
	return err
}
