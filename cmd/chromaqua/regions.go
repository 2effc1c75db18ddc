package main

import (
	"encoding/binary"
	"encoding/json"
	"image"
	"image/png"
	"io"
	"math"
	"os"

	"github.com/spf13/cobra"

	"chromaqua/core/lineart"
	"chromaqua/internal/picture"
)

func regionsCommand() *cobra.Command {
	var dpi float64
	var labels, doc string
	c := onFile(&cobra.Command{
		Use:   "regions IMAGE",
		Short: "Find the cells of a line image",
		Long: `Finds the cells, neighbours and leaks of a scanned line image (PNG or JPEG, or - for standard input).

The JSON goes to standard output unless --json names a file. --labels writes a
16-bit grey PNG of the image's size: 0 is line, 1…N are the cells' ids.`,
		Example: "  chromaqua regions scan.png --dpi 300 --labels cells.png --json cells.json",
	}, func(c *cobra.Command, f io.Reader) error {
		data, err := io.ReadAll(io.LimitReader(f, picture.MaxBytes+1))
		if err != nil {
			return err
		}
		scan, err := picture.Grey(data)
		if err != nil {
			return err
		}
		d, err := lineart.Find(c.Context(), scan, dpi, nil)
		if err != nil {
			return err
		}
		if labels != "" {
			if err := writeFile(labels, func(w io.Writer) error { return encodeLabels(w, d) }); err != nil {
				return err
			}
		}
		write := func(w io.Writer) error { return json.NewEncoder(w).Encode(regionsOf(d)) }
		if doc != "" {
			return writeFile(doc, write)
		}
		return write(c.OutOrStdout())
	})
	c.Flags().Float64Var(&dpi, "dpi", 300, "resolution of the image, pixels per inch")
	c.Flags().StringVar(&labels, "labels", "", "write the label map to this PNG file")
	c.Flags().StringVar(&doc, "json", "", "write the JSON to this file")
	return c
}

// writeFile writes a file and reports what went wrong up to its closing.
func writeFile(name string, write func(io.Writer) error) (err error) {
	f, err := os.Create(name)
	if err != nil {
		return err
	}
	defer func() {
		if e := f.Close(); err == nil {
			err = e
		}
	}()
	return write(f)
}

func encodeLabels(w io.Writer, d *lineart.Drawing) error {
	m := image.NewGray16(image.Rect(0, 0, d.W, d.H))
	for i, l := range d.Labels {
		binary.BigEndian.PutUint16(m.Pix[2*i:], l)
	}
	return (&png.Encoder{CompressionLevel: png.BestSpeed}).Encode(w, m)
}

// regionsDoc is the JSON of the regions command.
type regionsDoc struct {
	WidthPX    int                 `json:"width_px"`
	HeightPX   int                 `json:"height_px"`
	DPI        float64             `json:"dpi"`
	Cells      []cellDoc           `json:"cells"`
	Neighbours []lineart.Neighbour `json:"neighbours"`
	Leaks      []lineart.Leak      `json:"leaks"`
}

type cellDoc struct {
	lineart.Cell
	Outline ring   `json:"outline"`
	Holes   []ring `json:"holes"`
}

// ring is a closed line of [x, y] in millimetres.
type ring [][2]float64

func regionsOf(d *lineart.Drawing) regionsDoc {
	doc := regionsDoc{d.W, d.H, d.DPI, []cellDoc{}, d.Neighbours, d.Leaks}
	for i, o := range d.Outlines() {
		c := cellDoc{Cell: d.Cells[i], Holes: []ring{}}
		for k, r := range o.Rings {
			if k == 0 {
				c.Outline = ringOf(r)
			} else {
				c.Holes = append(c.Holes, ringOf(r))
			}
		}
		doc.Cells = append(doc.Cells, c)
	}
	if doc.Neighbours == nil {
		doc.Neighbours = []lineart.Neighbour{}
	}
	if doc.Leaks == nil {
		doc.Leaks = []lineart.Leak{}
	}
	return doc
}

func ringOf(points []lineart.Point) ring {
	micron := func(mm float64) float64 { return math.Round(mm*1000) / 1000 }
	r := make(ring, len(points))
	for i, p := range points {
		r[i] = [2]float64{micron(p.X), micron(p.Y)}
	}
	return r
}
