package pigment

import (
	"bufio"
	"errors"
	"fmt"
	"io"
	"math"
	"strings"
)

// MaxSwatches bounds a palette; nobody chooses from more.
const MaxSwatches = 256

// A Swatch is a named colour of a palette, "#rrggbb".
type Swatch struct {
	Name string `json:"name,omitempty"`
	Hex  string `json:"hex"`
}

// WriteGPL writes swatches as a GIMP palette, the text that many programs read.
func WriteGPL(w io.Writer, name string, swatches []Swatch) error {
	b := bufio.NewWriter(w)
	fmt.Fprintf(b, "GIMP Palette\nName: %s\n#\n", oneLine(name))
	for _, s := range swatches {
		c, err := ParseHex(s.Hex)
		if err != nil {
			return err
		}
		var v [3]int
		for i := range v {
			v[i] = int(math.Round(255 * encode(c[i])))
		}
		fmt.Fprintf(b, "%3d %3d %3d\t%s\n", v[0], v[1], v[2], oneLine(s.Name))
	}
	return b.Flush()
}

func oneLine(s string) string { return strings.Join(strings.Fields(s), " ") }

// ReadGPL reads a GIMP palette. Errors name the line; nothing is returned unless
// all of it is good.
func ReadGPL(r io.Reader) (out []Swatch, err error) {
	lines := bufio.NewScanner(r)
	for n := 1; lines.Scan(); n++ {
		text := strings.TrimSpace(strings.TrimPrefix(lines.Text(), "\ufeff"))
		switch {
		case n == 1 && text != "GIMP Palette":
			return nil, errors.New("this is no palette: its first line is not \"GIMP Palette\"")
		case n == 1, text == "", strings.HasPrefix(text, "#"), strings.HasPrefix(text, "Name:"), strings.HasPrefix(text, "Columns:"):
			continue
		}
		var v [3]int
		if got, err := fmt.Sscan(text, &v[0], &v[1], &v[2]); err != nil || got != 3 {
			return nil, fmt.Errorf("line %d of the palette: %.40q is no colour; three numbers from 0 to 255 and a name", n, text)
		}
		for _, x := range v {
			if x < 0 || x > 255 {
				return nil, fmt.Errorf("line %d of the palette: %d is outside 0 to 255", n, x)
			}
		}
		if len(out) == MaxSwatches {
			return nil, fmt.Errorf("line %d: the palette has more than %d colours; keep those you want to mix", n, MaxSwatches)
		}
		name := ""
		if f := strings.Fields(text); len(f) > 3 {
			name = strings.Join(f[3:], " ")
		}
		out = append(out, Swatch{Name: name, Hex: fmt.Sprintf("#%02x%02x%02x", v[0], v[1], v[2])})
	}
	if err := lines.Err(); err != nil {
		return nil, fmt.Errorf("the palette cannot be read: %w", err)
	}
	if len(out) == 0 {
		return nil, errors.New("the palette holds no colours")
	}
	return out, nil
}
