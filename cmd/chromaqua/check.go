package main

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"chromaqua/core/advice"
	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/panel"
	"chromaqua/core/plan"
	"chromaqua/core/steps"
	"chromaqua/internal/cardfile"
)

// watch is a watch-out as `check` prints it.
type watch struct {
	Rule     string          `json:"rule"`
	Severity advice.Severity `json:"severity"`
	Station  advice.Station  `json:"station"`
	Piece    string          `json:"piece"`
	Says     string          `json:"says"`
	Why      string          `json:"why"`
	Cells    []string        `json:"cells"`
	Fix      *fix            `json:"fix"`
}

type fix struct {
	Label  string            `json:"label"`
	Edit   string            `json:"edit"`
	Values map[string]string `json:"values"`
}

func checkCommand() *cobra.Command {
	var rule, out string
	c := &cobra.Command{
		Use:   "check CARD.zip",
		Short: "What to watch out for on a card",
		Long: `Reads a card file of any version (or - for standard input) and prints its
watch-outs as JSON, worst first, each with the change that settles it where there
is one. What the card silences is left out.

With --apply it makes the change that the worst watch-out of a rule offers, writes
the card to --out, and prints what there is to watch out for then.`,
		Example: "  chromaqua check card.zip\n  chromaqua check card.zip --apply ink-runs --out fixed.zip",
	}
	c.Flags().StringVar(&rule, "apply", "", "make the change that this watch-out offers")
	c.Flags().StringVar(&out, "out", "", "where to write the changed card")
	return onFile(c, func(c *cobra.Command, f io.Reader) error {
		if (rule == "") != (out == "") {
			return usageError{fmt.Errorf("--apply and --out go together: what to change, and where to write the card")}
		}
		b, images, err := readBoard(c.Context(), f, func(*card.Card) {})
		if err != nil {
			return err
		}
		found := watchesOf(b)
		if rule != "" {
			if b, err = applied(b, found, rule); err != nil {
				return err
			}
			if err := writeCard(c.Context(), out, b.Card, images); err != nil {
				return err
			}
			found = watchesOf(b)
		}
		return json.NewEncoder(c.OutOrStdout()).Encode(printed(found))
	})
}

func watchesOf(b *panel.Board) []advice.Watch {
	p, err := steps.Compile(b, steps.UsualBench())
	if err != nil {
		p = nil // nothing to paint yet: what else is there is still worth saying
	}
	return advice.Watches(advice.Gather(b.Card, b, p, nil))
}

func printed(found []advice.Watch) []watch {
	out := []watch{}
	for _, w := range found {
		v := watch{w.Rule, w.Severity, w.Station, plan.ThePanel, w.What, w.Why, plan.CellIDs(w.Cells), nil}
		if w.Fix != nil {
			v.Fix = &fix{w.Fix.Label, change.NameOf(w.Fix.Change), change.Values(w.Fix.Change)}
		}
		out = append(out, v)
	}
	return out
}

// applied is the board with the change that the first watch-out of a rule offers.
func applied(b *panel.Board, found []advice.Watch, rule string) (*panel.Board, error) {
	if err := advice.Check(rule); err != nil {
		return nil, err
	}
	offers := func(w advice.Watch) bool { return w.Rule == rule && w.Fix != nil }
	i := slices.IndexFunc(found, offers)
	if i < 0 {
		return nil, fmt.Errorf("%s has no change to offer on this card; those that have: %s", rule, strings.Join(offering(found), ", "))
	}
	made, _, err := change.Try(found[i].Fix.Change, b.Card, b.Sheet)
	if err != nil {
		return nil, err
	}
	return panel.Resolve(made, b.Sheet), nil
}

// offering lists the rules that offer a change, "none" when no one does.
func offering(found []advice.Watch) (out []string) {
	for _, w := range found {
		if w.Fix != nil && !slices.Contains(out, w.Rule) {
			out = append(out, w.Rule)
		}
	}
	if out == nil {
		return []string{"none"}
	}
	return out
}

// writeCard writes a card file beside its place first, so that what is there is whole
// before it is replaced.
func writeCard(ctx context.Context, name string, c *card.Card, images cardfile.Images) error {
	file, err := cardfile.New(ctx, c, images, time.Now())
	if err != nil {
		return err
	}
	f, err := os.CreateTemp(filepath.Dir(name), ".card-*.zip")
	if err != nil {
		return err
	}
	defer os.Remove(f.Name()) // gone once it has its name
	if err = file.Write(ctx, f); err == nil {
		err = errors.Join(f.Chmod(0o644), f.Sync())
	}
	if closed := f.Close(); err == nil {
		err = closed
	}
	if err != nil {
		return err
	}
	return os.Rename(f.Name(), name)
}
