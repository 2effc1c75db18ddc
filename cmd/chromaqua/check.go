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
		doc, pieces, images, err := readPieces(c.Context(), f, func(*card.Card) {})
		if err != nil {
			return err
		}
		found := watchesOf(pieces, doc)
		if rule != "" {
			if pieces, err = applied(pieces, doc, found, rule); err != nil {
				return err
			}
			if err := writeCard(c.Context(), out, doc, images); err != nil {
				return err
			}
			found = watchesOf(pieces, doc)
		}
		return json.NewEncoder(c.OutOrStdout()).Encode(printed(found))
	})
}

// onPiece is a watch-out on one of the pieces.
type onPiece struct {
	advice.Watch
	of *panel.Piece
}

// watchesOf looks every piece over, the panel with the card as a whole first.
func watchesOf(pieces []panel.Piece, doc *card.Card) (out []onPiece) {
	whole, err := steps.CompileAll(pieces, doc, steps.UsualBench())
	if err != nil {
		whole = nil // nothing to paint yet: what else is there is still worth saying
	}
	for i := range pieces {
		of := &pieces[i]
		for _, w := range advice.Watches(advice.OfPiece(doc, pieces, i, whole, nil)) {
			out = append(out, onPiece{w, of})
		}
	}
	return out
}

func printed(found []onPiece) []watch {
	out := []watch{}
	for _, w := range found {
		v := watch{w.Rule, w.Severity, w.Station, w.of.ID, w.What, w.Why, plan.CellIDs(w.of.ID, w.of.Board, w.Cells), nil}
		if w.Fix != nil {
			v.Fix = &fix{w.Fix.Label, change.NameOf(w.Fix.Change), change.Values(w.Fix.Change)}
		}
		out = append(out, v)
	}
	return out
}

// applied is the pieces with the change that the first watch-out of a rule offers, which
// is made on the card too.
func applied(pieces []panel.Piece, doc *card.Card, found []onPiece, rule string) ([]panel.Piece, error) {
	if err := advice.Check(rule); err != nil {
		return nil, err
	}
	i := slices.IndexFunc(found, func(w onPiece) bool { return w.Rule == rule && w.Fix != nil })
	if i < 0 {
		return nil, fmt.Errorf("%s has no change to offer on this card; those that have: %s", rule, strings.Join(offering(found), ", "))
	}
	of := found[i].of
	alone, err := doc.Alone(of.ID)
	if err != nil {
		return nil, err
	}
	var sheet *panel.Sheet
	if of.Board != nil {
		sheet = of.Board.Sheet
	}
	made, _, err := change.Try(found[i].Fix.Change, alone, sheet)
	if err != nil {
		return nil, err
	}
	if of.ID == card.ThePanel {
		*doc = *made
	} else if err := doc.Return(of.ID, made); err != nil {
		return nil, err
	}
	sheets := map[string]*panel.Sheet{}
	for _, p := range pieces {
		if p.Board != nil {
			sheets[p.ID] = p.Board.Sheet
		}
	}
	out := slices.Clone(pieces)
	for k := range out {
		if s := sheets[out[k].ID]; s != nil {
			if alone, err = doc.Alone(out[k].ID); err != nil {
				return nil, err
			}
			out[k].Board = panel.Resolve(alone, s)
		}
	}
	return out, doc.Check()
}

// offering lists the rules that offer a change, "none" when no one does.
func offering(found []onPiece) (out []string) {
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
