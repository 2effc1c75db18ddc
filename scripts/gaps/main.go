// Gaps writes what the judge of gaps is taught with: for every scan NAME.jpg in a
// folder that has its true cells beside it (NAME.truth.png, 16 bits, 0 for the line
// and 1 to N for cells), the passages between basins with what is seen there, and
// whether they are gaps. bench/gaps.py learns from it.
//
//	go run ./scripts/gaps -dpi 300 FOLDER > passages.csv
//
// Each scan counts twice: with no passage open, and with some of the necks open, as
// when half is settled. Drawings are told apart by the name up to its first dot.
package main

import (
	"context"
	"encoding/csv"
	"flag"
	"fmt"
	"image"
	"image/draw"
	_ "image/jpeg"
	_ "image/png"
	"log"
	"math/rand/v2"
	"os"
	"path/filepath"
	"strconv"
	"strings"

	"chromaqua/core/lineart"
)

// openShare is how many of the necks are open where half is settled.
const openShare = 0.6

func main() {
	log.SetFlags(0)
	dpi := flag.Float64("dpi", 300, "resolution of the scans")
	flag.Parse()
	if flag.NArg() != 1 {
		log.Fatal("usage: gaps [-dpi 300] FOLDER > passages.csv")
	}
	out := csv.NewWriter(os.Stdout)
	write := func(row []string) {
		if err := out.Write(row); err != nil {
			log.Fatal(err)
		}
	}
	write(append([]string{"drawing", "gap"}, lineart.EvidenceNames()...))
	scans, err := filepath.Glob(filepath.Join(flag.Arg(0), "*.jpg"))
	if err != nil {
		log.Fatal(err)
	}
	for _, path := range scans {
		rows, err := passages(path, *dpi)
		if err != nil {
			log.Printf("%s is left out: %v", path, err)
			continue
		}
		for _, row := range rows {
			write(row)
		}
	}
	if out.Flush(); out.Error() != nil {
		log.Fatal(out.Error())
	}
}

// passages lists the passages of one scan as rows of the table.
func passages(path string, dpi float64) (rows [][]string, err error) {
	scan, err := read(path)
	if err != nil {
		return nil, err
	}
	truth, err := read(strings.TrimSuffix(path, ".jpg") + ".truth.png")
	if err != nil {
		return nil, err
	}
	cells, ok := truth.(*image.Gray16)
	if !ok || cells.Rect != scan.Bounds() {
		return nil, fmt.Errorf("its true cells are no grey picture of its size with 16 bits")
	}
	grey := image.NewGray(scan.Bounds())
	draw.Draw(grey, grey.Rect, scan, scan.Bounds().Min, draw.Src)
	s, err := lineart.NewSurvey(context.Background(), grey, dpi)
	if err != nil {
		return nil, err
	}
	drawing, _, _ := strings.Cut(filepath.Base(path), ".")
	list := func(cell map[int]int) {
		for _, p := range s.Passages() {
			a, b := cell[p.A], cell[p.B]
			if a == 0 || b == 0 {
				continue // in the line
			}
			row := []string{drawing, strconv.FormatBool(a != b)}
			for _, v := range p.Evidence {
				row = append(row, strconv.FormatFloat(v, 'g', 6, 64))
			}
			rows = append(rows, row)
		}
	}
	cell := trueCells(s, cells)
	list(cell)
	rng := rand.New(rand.NewPCG(1, uint64(len(rows))))
	open := map[[2]int]bool{}
	for _, p := range s.Passages() {
		border := [2]int{min(p.A, p.B), max(p.A, p.B)}
		if _, known := open[border]; !known {
			open[border] = cell[p.A] != 0 && cell[p.A] == cell[p.B] && rng.Float64() < openShare
		}
		if open[border] {
			s.Join(p.A, p.B)
		}
	}
	list(trueCells(s, cells))
	return rows, nil
}

// trueCells tells which cell most of each basin belongs to, 0 for the line.
func trueCells(s *lineart.Survey, truth *image.Gray16) map[int]int {
	pixels := map[int]map[int]int{}
	for y := range s.H {
		for x := range s.W {
			b := s.Basin(x, y)
			if b == 0 {
				continue
			}
			if pixels[b] == nil {
				pixels[b] = map[int]int{}
			}
			mid := s.Reduced / 2
			pixels[b][int(truth.Gray16At(x*s.Reduced+mid, y*s.Reduced+mid).Y)]++
		}
	}
	cell := map[int]int{}
	for b, of := range pixels {
		most := 0
		for c, n := range of {
			if n > most || n == most && c < cell[b] {
				most, cell[b] = n, c
			}
		}
	}
	return cell
}

func read(path string) (image.Image, error) {
	f, err := os.Open(path)
	if err != nil {
		return nil, err
	}
	defer f.Close()
	m, _, err := image.Decode(f)
	return m, err
}
