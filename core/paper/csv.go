package paper

import (
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"math"
	"slices"
	"strconv"
	"strings"

	"chromaqua/core/length"
)

// MaxCSV bounds a CSV file, bytes.
const MaxCSV = 1 << 20

// columns are the names of the columns, in the order they are written. Lengths
// carry their unit, prices are decimal.
var columns = []string{"kind", "paper", "colour", "width", "height", "grain", "weight_gsm", "quantity", "price"}

// WriteCSV writes the stock as a table with a header.
func (s *Stock) WriteCSV(w io.Writer) error {
	out := csv.NewWriter(w)
	rows := [][]string{columns}
	for _, it := range s.Items {
		rows = append(rows, []string{
			string(it.Kind), it.Paper, it.Colour, it.Size.W.String(), it.Size.H.String(), string(it.Grain),
			strconv.Itoa(it.Weight), strconv.Itoa(it.Qty), fmt.Sprintf("%d.%02d", it.Price/100, it.Price%100),
		})
	}
	return out.WriteAll(rows)
}

// ReadCSV reads a table with a header; columns may stand in any order, and only
// kind, paper, width, height and quantity must be there. Bare lengths are in
// bare. Errors name line and column; nothing is returned unless all of it is
// good.
func ReadCSV(r io.Reader, bare length.Unit) ([]Item, error) {
	in := csv.NewReader(io.LimitReader(r, MaxCSV+1))
	in.TrimLeadingSpace = true
	head, err := in.Read()
	if errors.Is(err, io.EOF) {
		return nil, errors.New("the table is empty; its first line names the columns: " + strings.Join(columns, ", "))
	}
	if err != nil {
		return nil, fmt.Errorf("the table cannot be read: %w", err)
	}
	at := map[string]int{}
	for i, name := range head {
		name = strings.ToLower(strings.TrimSpace(strings.TrimPrefix(name, "\ufeff")))
		if !slices.Contains(columns, name) {
			return nil, fmt.Errorf("line 1, column %d: %.40q is no column; use %s", i+1, name, strings.Join(columns, ", "))
		}
		if _, twice := at[name]; twice {
			return nil, fmt.Errorf("line 1, column %d: %q stands twice", i+1, name)
		}
		at[name] = i
	}
	for _, name := range []string{"kind", "paper", "width", "height", "quantity"} {
		if _, ok := at[name]; !ok {
			return nil, fmt.Errorf("line 1: the column %q is missing", name)
		}
	}
	var out []Item
	for {
		row, err := in.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return nil, fmt.Errorf("the table cannot be read: %w", err)
		}
		line, _ := in.FieldPos(0)
		it, err := readItem(row, at, bare)
		if err != nil {
			return nil, fmt.Errorf("line %d, %w", line, err)
		}
		if out = append(out, it); len(out) > MaxItems {
			return nil, fmt.Errorf("line %d: more than %d kinds of paper", line, MaxItems)
		}
	}
	if len(out) == 0 {
		return nil, errors.New("the table holds no paper below its first line")
	}
	return out, nil
}

func readItem(row []string, at map[string]int, bare length.Unit) (it Item, err error) {
	get := func(name string) string {
		if i, ok := at[name]; ok {
			return strings.TrimSpace(row[i])
		}
		return ""
	}
	fail := func(name string, err error) error { return fmt.Errorf("column %d (%s): %w", at[name]+1, name, err) }
	number := func(name string) (int, error) {
		if get(name) == "" {
			return 0, nil
		}
		n, err := strconv.Atoi(get(name))
		if err != nil {
			return 0, fail(name, fmt.Errorf("%.40q is no whole number", get(name)))
		}
		return n, nil
	}
	it.Kind, it.Paper, it.Colour, it.Grain = Kind(get("kind")), get("paper"), get("colour"), Grain(get("grain"))
	if it.Size.W, err = length.Parse(get("width"), bare); err != nil {
		return it, fail("width", err)
	}
	if it.Size.H, err = length.Parse(get("height"), bare); err != nil {
		return it, fail("height", err)
	}
	if it.Weight, err = number("weight_gsm"); err != nil {
		return it, err
	}
	if it.Qty, err = number("quantity"); err != nil {
		return it, err
	}
	if it.Price, err = ParsePrice(get("price")); err != nil {
		return it, fail("price", err)
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
