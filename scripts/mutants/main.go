// Command mutants asks whether the tests would notice: it puts small faults into a
// package, one at a time, runs that package's short tests, and prints how many faults
// they noticed. The faults are a seeded sample, so that a run can be repeated.
//
// Changes between < and <= of floating point numbers are counted apart: a boundary
// that no number ever meets is no fault.
package main

import (
	"bytes"
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"go/types"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"sync"
	"time"

	"golang.org/x/tools/go/packages"
)

func main() {
	n := flag.Int("n", 60, "faults a package")
	seed := flag.Uint64("seed", 1, "seed of the sample")
	limit := flag.Duration("limit", 10*time.Minute, "time for all packages")
	show := flag.Bool("show", false, "print every fault that went unnoticed")
	workers := flag.Int("p", 2, "tests at a time")
	flag.Parse()
	if err := run(flag.Args(), *n, *seed, *limit, *workers, *show); err != nil {
		fmt.Fprintln(os.Stderr, "mutants:", err)
		os.Exit(1)
	}
}

func run(patterns []string, n int, seed uint64, limit time.Duration, workers int, show bool) error {
	if len(patterns) == 0 {
		return errors.New("name packages, such as ./core/card")
	}
	loaded, err := packages.Load(&packages.Config{
		Mode: packages.NeedName | packages.NeedFiles | packages.NeedSyntax | packages.NeedTypes | packages.NeedTypesInfo | packages.NeedImports | packages.NeedDeps,
	}, patterns...)
	if err != nil {
		return err
	}
	if packages.PrintErrors(loaded) > 0 {
		return errors.New("the packages do not compile")
	}
	dir, err := os.MkdirTemp("", "mutants-*")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	ctx, cancel := context.WithTimeout(context.Background(), limit)
	defer cancel()
	end := time.Now().Add(limit)
	for i, p := range loaded {
		all := faultsOf(p)
		rng := rand.New(rand.NewPCG(seed, 1))
		rng.Shuffle(len(all), func(i, j int) { all[i], all[j] = all[j], all[i] })
		share := time.Until(end) / time.Duration(len(loaded)-i) // what one does not need goes to those after it
		tried, err := try(ctx, p, all[:min(n, len(all))], dir, workers, share)
		if err != nil {
			return err
		}
		report(p, tried, len(all), show)
	}
	return nil
}

// verdict is what became of a fault.
type verdict uint8

const (
	untried verdict = iota
	noticed
	unnoticed
	senseless // it does not compile
)

// try runs the tests against each fault; what the time does not suffice for is left.
func try(ctx context.Context, p *packages.Package, faults []fault, dir string, workers int, limit time.Duration) ([]fault, error) {
	ctx, cancel := context.WithTimeout(ctx, limit)
	defer cancel()
	patience, err := usual(ctx, p)
	if err != nil {
		return nil, err
	}
	next := make(chan int)
	var wait sync.WaitGroup
	for w := range workers {
		wait.Go(func() {
			for i := range next {
				faults[i].became = test(ctx, p, &faults[i], patience, filepath.Join(dir, fmt.Sprint(w)))
			}
		})
	}
	for i := range faults {
		next <- i
	}
	close(next)
	wait.Wait()
	return faults, nil
}

// usual runs the tests without a fault and says how long to wait for them with one: a
// fault that makes them run for ever is noticed by then.
func usual(ctx context.Context, p *packages.Package) (patience time.Duration, err error) {
	var took time.Duration
	for range 2 { // the second time everything is compiled
		began := time.Now()
		if out, err := exec.CommandContext(ctx, "go", "test", "-vet=off", "-short", "-count=1", p.PkgPath).CombinedOutput(); err != nil {
			return 0, fmt.Errorf("the tests of %s do not pass as they are: %w\n%s", p.PkgPath, err, out)
		}
		took = time.Since(began)
	}
	return max(5*time.Second, 3*took), nil
}

// test runs the package's short tests with one fault in it.
func test(ctx context.Context, p *packages.Package, f *fault, patience time.Duration, dir string) verdict {
	if ctx.Err() != nil {
		return untried
	}
	src, err := f.source()
	if err != nil {
		return senseless
	}
	overlay, err := json.Marshal(map[string]map[string]string{"Replace": {f.file: dir + ".go"}})
	if err != nil || os.WriteFile(dir+".go", src, 0o600) != nil || os.WriteFile(dir+".json", overlay, 0o600) != nil {
		return untried
	}
	run := exec.CommandContext(ctx, "go", "test", "-vet=off", "-short", "-failfast", "-timeout", patience.String(), "-ldflags=-s -w", "-overlay", dir+".json", p.PkgPath)
	run.WaitDelay = time.Second
	switch out, err := run.CombinedOutput(); {
	case ctx.Err() != nil:
		return untried
	case err != nil && bytes.Contains(out, []byte("[build failed]")):
		return senseless
	case err != nil:
		return noticed
	}
	return unnoticed
}

// report prints the rate of a package.
func report(p *packages.Package, tried []fault, of int, show bool) {
	count := map[bool]map[verdict]int{true: {}, false: {}}
	for _, f := range tried {
		count[f.boundary][f.became]++
	}
	rate := func(c map[verdict]int) string {
		sum := c[noticed] + c[unnoticed]
		return fmt.Sprintf("%d of %d noticed (%d %%)", c[noticed], sum, 100*c[noticed]/max(1, sum))
	}
	fmt.Printf("%-28s %s", p.PkgPath, rate(count[false]))
	if b := count[true]; b[noticed]+b[unnoticed] > 0 {
		fmt.Printf("; float boundaries apart: %s", rate(b))
	}
	fmt.Printf("; sampled from %d", of)
	if late := count[true][untried] + count[false][untried]; late > 0 {
		fmt.Printf("; %d untried, the time was up", late)
	}
	fmt.Println()
	if !show {
		return
	}
	missed := slices.DeleteFunc(slices.Clone(tried), func(f fault) bool { return f.became != unnoticed })
	slices.SortFunc(missed, func(a, b fault) int { return cmp.Or(cmp.Compare(a.file, b.file), cmp.Compare(a.offset, b.offset)) })
	for _, f := range missed {
		kind := ""
		if f.boundary {
			kind = " (float boundary)"
		}
		fmt.Printf("    %s: %s%s\n", f.where, f.what, kind)
	}
}

// isFloat reports whether an expression is a floating point number.
func isFloat(t types.Type) bool {
	b, ok := t.Underlying().(*types.Basic)
	return ok && b.Info()&types.IsFloat != 0
}
