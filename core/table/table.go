// Package table answers "how do the maker's rows leave as CSV and come back the same?":
// columns by name in any order, errors that say where, cells that no spreadsheet takes
// for a formula.
package table

import (
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
)

// Layout is what a table has.
type Layout struct {
	Columns  []string // by name, in the order they are written
	Needed   []string // of them, those that must be there
	Of       string   // what a row is, in the plural
	MaxBytes int64
	MaxRows  int
}

// Row is one line of a table that is read.
type Row struct {
	cells []string
	at    map[string]int
}

// Get returns the cell of a column without spaces round it, "" where there is none.
func (r Row) Get(column string) string {
	if i, ok := r.at[column]; ok {
		return plain(strings.TrimSpace(r.cells[i]))
	}
	return ""
}

// Fail says of an error in which column it is.
func (r Row) Fail(column string, err error) error {
	return fmt.Errorf("column %d (%s): %w", r.at[column]+1, column, err)
}

// What makes a spreadsheet take a cell for a formula when it comes first, and the mark
// that keeps it from doing so.
const (
	formulas = "=+-@\t\r＝＋－＠"
	asText   = "'"
)

// safe marks a cell that a spreadsheet would compute, so that it is text there; plain
// takes the mark off again.
func safe(cell string) string {
	if bare := strings.TrimLeft(cell, asText); bare != "" && strings.ContainsRune(formulas, firstRune(bare)) {
		return asText + cell
	}
	return cell
}

func plain(cell string) string {
	rest, marked := strings.CutPrefix(cell, asText)
	if !marked {
		return cell
	}
	if bare := strings.TrimLeft(rest, asText); bare != "" && strings.ContainsRune(formulas, firstRune(bare)) {
		return rest
	}
	return cell
}

func firstRune(s string) rune {
	for _, r := range s {
		return r
	}
	return 0
}

// Write writes rows below a header, each as long as there are columns.
func (l Layout) Write(w io.Writer, rows [][]string) error {
	out := csv.NewWriter(w)
	if err := out.Write(l.Columns); err != nil {
		return err
	}
	for _, row := range rows {
		marked := make([]string, len(row))
		for i, cell := range row {
			marked[i] = safe(cell)
		}
		if err := out.Write(marked); err != nil {
			return err
		}
	}
	out.Flush()
	return out.Error()
}

// Read calls each with every row of a table. Errors name the line, and the column where
// it is one's.
func (l Layout) Read(r io.Reader, each func(Row) error) error {
	limited := &io.LimitedReader{R: r, N: l.MaxBytes + 1}
	in := csv.NewReader(limited)
	in.TrimLeadingSpace = true
	at, err := l.header(in)
	if err != nil {
		return err
	}
	for n := 0; ; n++ {
		cells, err := in.Read()
		switch {
		case limited.N == 0:
			return fmt.Errorf("the table is larger than %d MB; import it in parts", l.MaxBytes>>20)
		case errors.Is(err, io.EOF) && n == 0:
			return fmt.Errorf("the table holds no %s below its first line", l.Of)
		case errors.Is(err, io.EOF):
			return nil
		case err != nil:
			return broken(err)
		}
		line, _ := in.FieldPos(0)
		if n == l.MaxRows {
			return fmt.Errorf("line %d: more than %d %s; import them in parts", line, l.MaxRows, l.Of)
		}
		if err := each(Row{cells, at}); err != nil {
			return fmt.Errorf("line %d, %w", line, err)
		}
	}
}

// header reads which column stands where.
func (l Layout) header(in *csv.Reader) (map[string]int, error) {
	head, err := in.Read()
	if errors.Is(err, io.EOF) {
		return nil, fmt.Errorf("the table is empty; its first line names the columns: %s", strings.Join(l.Columns, ", "))
	}
	if err != nil {
		return nil, broken(err)
	}
	at := map[string]int{}
	for i, name := range head {
		name = strings.ToLower(strings.TrimSpace(strings.TrimPrefix(name, "\ufeff")))
		if !slices.Contains(l.Columns, name) {
			return nil, fmt.Errorf("line 1, column %d: %.40q is no column; use %s", i+1, name, strings.Join(l.Columns, ", "))
		}
		if _, twice := at[name]; twice {
			return nil, fmt.Errorf("line 1, column %d: %q stands twice", i+1, name)
		}
		at[name] = i
	}
	for _, name := range l.Needed {
		if _, ok := at[name]; !ok {
			return nil, fmt.Errorf("line 1: the column %q is missing", name)
		}
	}
	return at, nil
}

// broken says what a line that is no CSV suffers from.
func broken(err error) error {
	var e *csv.ParseError
	if !errors.As(err, &e) {
		return fmt.Errorf("the table cannot be read: %w", err)
	}
	why := "a quote stands where none may; double it, and put the cell in quotes"
	if errors.Is(e.Err, csv.ErrFieldCount) {
		why = "it has more or fewer cells than the first line"
	}
	return fmt.Errorf("line %d, column %d: %s", e.Line, e.Column, why)
}
