package solver_test

import (
	"context"
	"errors"
	"fmt"
	"hash/crc32"
	"math/rand/v2"
	"runtime"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"chromaqua/core/order"
	"chromaqua/core/order/solver"
	"chromaqua/internal/golden"
)

// told is a schedule with all it counts.
func told(in *order.Instance, s *order.Schedule) string {
	var b strings.Builder
	fmt.Fprintf(&b, "makespan %d bound %d changes %d hands %d:", s.Makespan, s.Bound, s.Changes, s.HandsOn(in))
	for i, p := range s.Ops {
		if i == 14 {
			fmt.Fprintf(&b, " … %d", len(s.Ops))
			break
		}
		fmt.Fprintf(&b, " %d/%d@%d", p.Op, p.Copy, p.Start)
	}
	for i, h := range s.Heat {
		if i < 6 {
			fmt.Fprintf(&b, " heat %d/%d %s %d-%d", h.Op, h.Copy, h.For, h.Start, h.End)
		}
	}
	return b.String()
}

// small is a generated flower of which everything is known that makes an order friendly,
// on benches of every kind.
func small(seed uint64) *order.Instance {
	kind := []string{"single", "heated", "aimed", "batch"}[seed%4]
	in := generated(kind, seed)
	r := rand.New(rand.NewPCG(seed, 3))
	in.Hand = []order.Hand{order.Right, order.Left, order.Right, order.NoHand}[seed/4%4]
	in.Copies = min(in.Copies, 1+int(seed/4%5))
	in.Rack = min(in.Rack, 2)
	for i := range in.Ops {
		o := &in.Ops[i]
		if o.Kind == "wash" {
			o.Light, o.Ground = 20+r.IntN(75), r.IntN(9) == 0
		}
		if o.HeatDry > 0 && r.IntN(3) == 0 {
			o.HeatDry = 0
		}
	}
	if in.Heat.Allowed {
		in.Heat.Factor, in.Heat.Min = 2+r.IntN(8), 3
	}
	for _, a := range in.Adjacent {
		if r.IntN(6) == 0 {
			in.Raised = append(in.Raised, a)
		}
	}
	return in
}

// The search is bounded by tries alone, so that the same problem has the same order
// wherever it is solved. A change of the search changes these lines, and the figures of
// TestQuality say whether it is for the better.
func TestOrdersAreWhatTheyWere(t *testing.T) {
	if runtime.GOARCH != "amd64" {
		t.Skip("other processors round the search's odds otherwise")
	}
	var b strings.Builder
	solve := func(name string, in *order.Instance, tries int) {
		s, err := solver.Solve(context.Background(), in, solver.Budget{Iterations: tries, Seed: 7})
		require.NoError(t, err, name)
		fmt.Fprintf(&b, "%s %d: %s\n", name, tries, told(in, s))
	}
	for _, name := range []string{"a1", "a3", "b2", "c1", "f30", "f30h"} {
		in := load(t, name)
		for _, tries := range []int{1, 400, 3000} {
			solve(name, in, tries)
		}
		read, err := solver.InReadingOrder(in)
		if errors.Is(err, order.ErrNoOrder) {
			fmt.Fprintf(&b, "%s has no reading order\n", name)
			continue
		}
		require.NoError(t, err)
		fmt.Fprintf(&b, "%s read: %s, %d tries\n", name, told(in, read), solver.Tries(in))
	}
	for _, kind := range []string{"30x2", "batch", "heated", "aimed"} {
		solve(kind, generated(kind, 3), 300)
	}
	for seed := range uint64(24) {
		in := small(seed)
		require.NoError(t, in.Check())
		s, err := solver.Solve(context.Background(), in, solver.Budget{Iterations: 250, Seed: 7})
		require.NoError(t, err)
		require.NoError(t, check(in, s))
		fmt.Fprintf(&b, "small %d %s, %d tries: %s\n", seed, in.Hand, solver.Tries(in), told(in, s))
	}
	late := load(t, "b2")
	late.Arcs = append(late.Arcs, order.Arc{From: late.Ops[0].ID, To: late.Ops[len(late.Ops)-1].ID, Type: order.Wet, Max: 1})
	misfits, err := solver.Misfits(late)
	fmt.Fprintf(&b, "misfits %v %v\n", misfits, err)
	golden.Same(t, "orders", b.String())
}

// The orders of hundreds of problems of every kind, each in a line: how long, and a sum
// over all its placements.
func TestManyOrdersAreWhatTheyWere(t *testing.T) {
	if runtime.GOARCH != "amd64" {
		t.Skip("other processors round the search's odds otherwise")
	}
	var b strings.Builder
	drawn := rapid.Custom(instances)
	for seed := range 250 {
		in := drawn.Example(seed)
		misfits, err := solver.Misfits(in)
		require.NoError(t, err)
		fmt.Fprintf(&b, "%d: %d misfits", seed, len(misfits))
		s, err := solver.Solve(context.Background(), in, solver.Budget{Iterations: 60, Seed: 5})
		if err != nil {
			fmt.Fprintf(&b, ", %v\n", err)
			continue
		}
		require.NoError(t, check(in, s))
		fmt.Fprintf(&b, ", %d s of %d, %d changes, %d waits, %d heated, %08x", s.Makespan, s.Bound, s.Changes, s.Waits, len(s.Heat), crc32.ChecksumIEEE(fmt.Append(nil, s.Ops, s.Heat)))
		if read, err := solver.InReadingOrder(in); err == nil {
			fmt.Fprintf(&b, ", as it is read %d %08x", read.Makespan, crc32.ChecksumIEEE(fmt.Append(nil, read.Ops, read.Heat)))
		}
		b.WriteString("\n")
	}
	for seed := range uint64(120) {
		in := small(1000 + seed)
		tries := []int{1, 40, 700}[seed%3]
		s, err := solver.Solve(context.Background(), in, solver.Budget{Iterations: tries, Seed: seed})
		require.NoError(t, err)
		fmt.Fprintf(&b, "small %d, %d tries of %d: %d s of %d, %08x\n", seed, tries, solver.Tries(in), s.Makespan, s.Bound, crc32.ChecksumIEEE(fmt.Append(nil, s.Ops, s.Heat)))
	}
	golden.Same(t, "many", b.String())
}
