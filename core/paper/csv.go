package paper

import (
	"fmt"
	"io"
	"math"
	"strconv"
	"strings"

	"chromaqua/core/length"
	"chromaqua/core/table"
)

// MaxCSV bounds a CSV file, bytes.
const MaxCSV = 1 << 20

// asTable is the table of paper. Lengths carry their unit, prices are decimal.
var asTable = table.Layout{
	Columns: []string{"kind", "paper", "colour", "width", "height", "grain", "weight_gsm", "quantity", "price"},
	Needed:  []string{"kind", "paper", "width", "height", "quantity"},
	Of:      "kinds of paper", MaxBytes: MaxCSV, MaxRows: MaxItems,
}

// WriteCSV writes the stock as a table with a header.
func (s *Stock) WriteCSV(w io.Writer) error {
	var rows [][]string
	for _, it := range s.Items {
		rows = append(rows, []string{
			string(it.Kind), it.Paper, it.Colour, it.Size.W.String(), it.Size.H.String(), string(it.Grain),
			strconv.Itoa(it.Weight), strconv.Itoa(it.Qty), fmt.Sprintf("%d.%02d", it.Price/100, it.Price%100),
		})
	}
	return asTable.Write(w, rows)
}

// ReadCSV reads a table with a header; columns may stand in any order, and only
// kind, paper, width, height and quantity must be there. Bare lengths are in
// bare. Errors name line and column; nothing is returned unless all of it is
// good.
func ReadCSV(r io.Reader, bare length.Unit) (out []Item, err error) {
	err = asTable.Read(r, func(row table.Row) error {
		it, err := readItem(row, bare)
		out = append(out, it)
		return err
	})
	if err != nil {
		return nil, err
	}
	return out, nil
}

func readItem(row table.Row, bare length.Unit) (it Item, err error) {
	number := func(name string) (int, error) {
		if row.Get(name) == "" {
			return 0, nil
		}
		n, err := strconv.Atoi(row.Get(name))
		if err != nil {
			return 0, row.Fail(name, fmt.Errorf("%.40q is no whole number", row.Get(name)))
		}
		return n, nil
	}
	it.Kind, it.Paper, it.Colour, it.Grain = Kind(row.Get("kind")), row.Get("paper"), row.Get("colour"), Grain(row.Get("grain"))
	if it.Size.W, err = length.Parse(row.Get("width"), bare); err != nil {
		return it, row.Fail("width", err)
	}
	if it.Size.H, err = length.Parse(row.Get("height"), bare); err != nil {
		return it, row.Fail("height", err)
	}
	if it.Weight, err = number("weight_gsm"); err != nil {
		return it, err
	}
	if it.Qty, err = number("quantity"); err != nil {
		return it, err
	}
	if it.Price, err = ParsePrice(row.Get("price")); err != nil {
		return it, row.Fail("price", err)
	}
	return it, it.Check()
}

// ParsePrice reads a decimal price as hundredths; nothing is nought.
func ParsePrice(text string) (int, error) {
	if text == "" {
		return 0, nil
	}
	v, err := strconv.ParseFloat(strings.Replace(text, ",", ".", 1), 64)
	if err != nil || !(v >= 0 && v <= MaxPrice/100) {
		return 0, fmt.Errorf("%.40q is no price; write it like 2.50", text)
	}
	return int(math.Round(v * 100)), nil
}
