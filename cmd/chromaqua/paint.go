package main

import (
	"fmt"
	"image/png"
	"io"
	"math"
	"os"
	"slices"
	"strconv"

	"github.com/spf13/cobra"

	"chromaqua/core/card"
	"chromaqua/core/paint"
	"chromaqua/core/panel"
	"chromaqua/core/steps"
	"chromaqua/core/wash"
)

func paintCommand() *cobra.Command {
	var at, out, piece string
	var dpi float64
	var line, grey bool
	c := &cobra.Command{
		Use:   "paint CARD.zip",
		Short: "Picture a card as it is painted: dry, or at any minute of its plan",
		Long: `Reads a card file of any version (or - for standard input), plans it, lets its
washes run and dry, and writes the painted panel as a PNG. How water and pigment
move is an estimate. What happens in it that nobody asked for, as a bloom, is
told on standard error. The answer depends only on the card and the flags.`,
		Example: "  chromaqua paint card.zip --at dry --dpi 300 --out card.png",
	}
	c.Flags().StringVar(&at, "at", "dry", `minutes from the start, or "dry"`)
	c.Flags().Float64Var(&dpi, "dpi", 150, "pixels to the inch")
	c.Flags().StringVar(&out, "out", "", "the PNG to write")
	c.Flags().StringVar(&piece, "piece", "", "id of the piece (the panel)")
	c.Flags().BoolVar(&line, "line", true, "with the line")
	c.Flags().BoolVar(&grey, "grey", false, "in values of grey")
	return onFile(c, func(c *cobra.Command, f io.Reader) error {
		when, err := moment(at)
		if err != nil {
			return err
		}
		if out == "" {
			return fmt.Errorf("say where to: --out FILE.png")
		}
		doc, pieces, _, err := readPieces(c.Context(), f, func(*card.Card) {})
		if err != nil {
			return err
		}
		p, err := steps.CompileAll(pieces, doc, steps.UsualBench())
		if err != nil {
			return err
		}
		k := slices.IndexFunc(p.Pieces, func(q panel.Piece) bool { return q.Board != nil && (piece == "" || q.ID == piece) })
		if k < 0 {
			return fmt.Errorf("no piece %q is painted on this card", piece)
		}
		b := p.Pieces[k].Board
		if _, err := paint.Size(b, dpi); err != nil {
			return err
		}
		s, err := solved(c.Context(), p, 0, 1)
		if err != nil {
			return err
		}
		q := paint.Of(p, s, k, 0, wash.UsualHand())
		m, err := q.Play(c.Context(), when, nil)
		if err != nil {
			return err
		}
		for _, e := range m.Events() {
			fmt.Fprintf(c.ErrOrStderr(), "minute %.0f: %s at %.0f, %.0f mm\n", e.At/60, e.Kind, e.X, e.Y)
		}
		img, err := paint.Draw(c.Context(), b, m.Picture(), paint.Shot{DPI: dpi, Line: line, View: wash.View{Grey: grey}})
		if err != nil {
			return err
		}
		w, err := os.Create(out)
		if err != nil {
			return err
		}
		if err := png.Encode(w, img); err != nil {
			w.Close()
			return err
		}
		return w.Close()
	})
}

// moment reads a time of a plan, s.
func moment(at string) (float64, error) {
	if at == "dry" {
		return wash.Dry, nil
	}
	m, err := strconv.ParseFloat(at, 64)
	if err != nil || !(m >= 0 && m <= 14*24*60) || math.IsNaN(m) {
		return 0, fmt.Errorf("--at %q is no time; give minutes from the start, or dry", at)
	}
	return 60 * m, nil
}
