package solver

import (
	"context"
	"encoding/json"
	"math/rand/v2"
	"os"
	"runtime"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/order"
)

// walks begins a walk on an instance of every kind: plain, with heat on the card and
// a mask, aimed, and a batch with a small rack.
func walks(t *testing.T) map[string]*walk {
	out := map[string]*walk{}
	for _, name := range []string{"c1", "f30", "f30h", "aimed", "batch"} {
		file := name
		switch name {
		case "aimed":
			file = "f30h"
		case "batch":
			file = "b2"
		}
		data, err := os.ReadFile("testdata/" + file + ".json")
		require.NoError(t, err)
		var in order.Instance
		require.NoError(t, json.Unmarshal(data, &in))
		switch name {
		case "aimed":
			for i := range in.Ops {
				if o := &in.Ops[i]; o.Dry > 0 && i%3 > 0 {
					o.HeatDry, o.HeatBone = 12, 20
				}
			}
		case "batch":
			in.Copies, in.Rack, in.Swap = 4, 1, 4
		}
		p, err := compile(&in)
		require.NoError(t, err)
		s := &search{
			problem: p, dec: newDecoder(p), bound: p.bound(), rng: rand.New(rand.NewPCG(7, 7)),
			budget: budget{ctx: context.Background(), tries: 1 << 30},
		}
		if in.Copies > 1 {
			require.True(t, s.bunch(0))
		} else {
			require.True(t, s.dispatch(0))
		}
		s.keep()
		out[name] = newWalk(s)
	}
	return out
}

// A decode that begins at the last kept state before a change ends in the state in
// which one from the start does, causes too; and a move never puts an operation
// before what must come before it.
func TestResumedDecodesEqualFullOnes(t *testing.T) {
	for name, w := range walks(t) {
		require.True(t, w.begin(w.best.seq), name)
		full := newDecoder(w.problem)
		adopted := 0
		for i := range 400 {
			lo, hi, ok := w.move()
			if !ok {
				continue
			}
			for x := range int32(w.total) {
				for _, b := range w.before[w.opOf[x]] {
					require.Less(t, w.pos[x-w.opOf[x]+b], w.pos[x], "%s: move %d", name, i)
				}
			}
			w.dec.limit = never
			w.loosen(lo, hi)
			resumed, whole := w.dec.decodeFrom(w.seq, lo), full.decode(w.seq)
			require.Equal(t, whole, resumed, "%s: move %d", name, i)
			if !resumed || i%3 == 0 {
				w.takeBack(lo, hi)
				continue
			}
			require.Equal(t, full.state, w.dec.state, "%s: move %d", name, i)
			require.Equal(t, full.actual, w.dec.actual, "%s: move %d", name, i)
			w.dirty = max(w.dirty, hi)
			w.adopt(lo)
			adopted++
			for p, x := range w.seq {
				require.Equal(t, full.start[x], w.start[x], "%s: move %d", name, i)
				require.Equal(t, p, int(w.pos[x]))
			}
		}
		assert.Greater(t, adopted, 60, name)
	}
}

// What is given up early could not have been accepted: a decode with a limit fails
// only where the finish comes after it.
func TestEarlyRejectionIsRight(t *testing.T) {
	for name, w := range walks(t) {
		if w.in.Heat.Allowed {
			continue // there rest is an estimate
		}
		require.True(t, w.begin(w.best.seq), name)
		full := newDecoder(w.problem)
		rejected := 0
		for i := range 400 {
			lo, hi, ok := w.move()
			if !ok {
				continue
			}
			limit := w.finish + 5
			w.dec.limit = limit
			w.loosen(lo, hi)
			if w.dec.decodeFrom(w.seq, lo) {
				w.dirty = max(w.dirty, hi)
				w.adopt(lo)
				continue
			}
			if full.decode(w.seq) {
				rejected++
				require.Greater(t, full.makespan, limit-5, "%s: move %d", name, i)
			}
			w.takeBack(lo, hi)
		}
		assert.Positive(t, rejected, name)
	}
}

// The same tries and seed give the same bytes, whatever the machine has to spare.
func TestTheSameOnAnyMachine(t *testing.T) {
	defer runtime.GOMAXPROCS(runtime.GOMAXPROCS(0))
	for name, w := range walks(t) {
		var all [][]byte
		for _, n := range []int{1, 2, 8} {
			runtime.GOMAXPROCS(n)
			s, err := Solve(context.Background(), w.in, Budget{Iterations: 1500, Seed: 5})
			require.NoError(t, err)
			b, err := json.Marshal(s)
			require.NoError(t, err)
			all = append(all, b)
		}
		assert.Len(t, slices.CompactFunc(all, func(a, b []byte) bool { return string(a) == string(b) }), 1, name)
	}
}
