package joint_test

import (
	"fmt"
	"strings"
	"testing"

	"chromaqua/core/joint"
	"chromaqua/core/length"
	"chromaqua/internal/golden"
)

// The tables, what each way takes of three parts, and how every way is weighed for parts of
// each kind: in plain words, so that a change of the judgement is read.
func TestJointsAreWhatTheyWere(t *testing.T) {
	var out strings.Builder
	for _, f := range joint.Facts() {
		fmt.Fprintf(&out, "%+v\n", f)
		for _, size := range [][2]length.Size{{size(95, 127), {}}, {size(100, 50), size(60, 20)}, {size(30, 8), {}}} {
			a := f.By.Of(size[0], size[1])
			fmt.Fprintf(&out, "  %+v covers %.1f mm²\n", a, f.By.MM2(a))
		}
	}
	for _, f := range joint.Items() {
		fmt.Fprintf(&out, "%+v\n", f)
	}
	for _, a := range asked() {
		fmt.Fprintf(&out, "%+v\n", a)
		for _, c := range joint.Weigh(a) {
			fmt.Fprintf(&out, "  %d %s: %s\n", c.Grade, c.By, c.Why)
		}
	}
	golden.Same(t, "joints", out.String())
}

// asked are parts of every shape, plain and with each thing that may be asked of it; and sizes
// at which the judgement turns.
func asked() (out []joint.Asked) {
	for _, shape := range []joint.Shape{joint.Sheet, joint.Ring, joint.CutOut, joint.Word} {
		for _, say := range []func(*joint.Asked){
			func(*joint.Asked) {}, func(a *joint.Asked) { a.Textured = true }, func(a *joint.Asked) { a.Pressed = true }, func(a *joint.Asked) { a.Wet = true },
			func(a *joint.Asked) { a.Raised = true }, func(a *joint.Asked) { a.Raised, a.Wet = true, true }, func(a *joint.Asked) { a.Raised, a.Dark = true, true },
			func(a *joint.Asked) { a.Clear = true }, func(a *joint.Asked) { a.Covers = true }, func(a *joint.Asked) { a.Inside = true }, func(a *joint.Asked) { a.Layers = 3 },
		} {
			a := joint.Asked{Shape: shape, Size: size(95, 127)}
			if shape == joint.Word || shape == joint.CutOut {
				a.Size = size(40, 30)
			}
			say(&a)
			out = append(out, a)
		}
	}
	for _, s := range []length.Size{size(80, 14.9), size(80, 15), size(80, 50), size(80, 50.1), size(14, 14)} {
		out = append(out, joint.Asked{Shape: joint.Sheet, Size: s}, joint.Asked{Shape: joint.CutOut, Size: s, Layers: 2}, joint.Asked{Shape: joint.Sheet, Size: s, Raised: true})
	}
	return out
}
