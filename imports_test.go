package chromaqua_test

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// rooms lists every package with the packages of this module it may know.
// Arrows point down only: cmd → internal → core, and in this order inside core.
var rooms = map[string][]string{
	"core/length":               {},
	"core/wording":              {},
	"core/drying":               {},
	"core/technique":            {"core/drying", "core/pigment"},
	"core/pigment":              {},
	"core/lineart":              {"core/parallel"},
	"core/parallel":             {},
	"core/order":                {},
	"core/order/solver":         {"core/order"},
	"core/school":               {},
	"core/settings":             {"core/drying", "core/school"},
	"core/table":                {},
	"core/cover":                {},
	"core/evening":              {"core/order"},
	"core/learned":              {},
	"core/practice":             {"core/drying"},
	"core/mask":                 {},
	"core/grey":                 {"core/lineart"},
	"core/fold":                 {"core/length"},
	"core/pouch":                {"core/fold", "core/length"},
	"core/cutting":              {},
	"core/shelf":                {"core/drying", "core/length", "core/mask", "core/pigment", "core/table"},
	"core/nest":                 {"core/length"},
	"core/joint":                {"core/length"},
	"core/viewfinder":           {"core/length"},
	"core/card/version":         {"core/joint", "core/length", "core/nest", "core/shelf"},
	"core/card":                 {"core/card/version", "core/drying", "core/fold", "core/joint", "core/length", "core/mask", "core/nest", "core/pigment", "core/school", "core/shelf", "core/technique", "core/viewfinder"},
	"core/paper":                {"core/card", "core/cutting", "core/fold", "core/length", "core/shelf", "core/table"},
	"core/panel":                {"core/card", "core/drying", "core/grey", "core/length", "core/lineart", "core/mask", "core/pigment", "core/shelf", "core/technique", "core/wording"},
	"core/panel/paneltest":      {"core/card", "core/drying", "core/length", "core/lineart", "core/panel", "core/pigment", "core/technique"},
	"core/photo":                {"core/card", "core/lineart", "core/panel", "core/parallel", "core/pigment", "core/proof", "core/technique"},
	"core/lesson":               {"core/card", "core/photo", "core/pigment", "core/technique"},
	"core/mount":                {"core/card", "core/drying", "core/fold", "core/joint", "core/length", "core/shelf", "core/wording"},
	"core/panel/paneltest/jobs": {"core/card", "core/grey", "core/joint", "core/length", "core/mask", "core/nest", "core/panel", "core/pigment", "core/shelf", "core/technique"},
	"core/change":               {"core/card", "core/drying", "core/fold", "core/joint", "core/length", "core/lineart", "core/mask", "core/mount", "core/nest", "core/panel", "core/pigment", "core/shelf", "core/technique", "core/wording"},
	"core/proof":                {"core/lineart", "core/pigment", "core/shelf"},
	"core/ink":                  {"core/drying", "core/proof", "core/shelf", "core/wording"},
	"core/steps":                {"core/card", "core/cover", "core/drying", "core/learned", "core/length", "core/lineart", "core/mask", "core/mount", "core/nest", "core/order", "core/order/solver", "core/panel", "core/pigment", "core/school", "core/settings", "core/shelf", "core/technique", "core/wording"},
	"core/wash":                 {"core/drying", "core/lineart", "core/parallel", "core/pigment"},
	"core/shading":              {"core/lineart"},
	"core/paint":                {"core/card", "core/drying", "core/lineart", "core/order", "core/panel", "core/pigment", "core/school", "core/shading", "core/shelf", "core/steps", "core/technique", "core/wash"},
	"core/run":                  {"core/card", "core/drying", "core/learned", "core/order", "core/order/solver", "core/panel", "core/shelf", "core/steps", "core/technique", "core/wording"},
	"core/needs":                {"core/card", "core/length", "core/mask", "core/mount", "core/paper", "core/pigment", "core/shelf", "core/steps"},
	"core/plan":                 {"core/card", "core/mask", "core/order", "core/panel", "core/steps"},
	"core/plan/plancheck":       {},
	"core/guide":                {"core/cutting", "core/lineart"},
	"core/keeping":              {"core/card", "core/change", "core/cover", "core/drying", "core/length", "core/mask", "core/order", "core/order/solver", "core/panel", "core/pigment", "core/reserve", "core/shelf", "core/steps", "core/technique"},
	"core/reserve":              {"core/cover", "core/length", "core/mask"},
	"core/advice":               {"core/card", "core/change", "core/drying", "core/fold", "core/ink", "core/joint", "core/keeping", "core/length", "core/lineart", "core/mask", "core/mount", "core/nest", "core/panel", "core/pigment", "core/proof", "core/school", "core/shelf", "core/steps", "core/technique", "core/wording"},

	".":                 {}, // the release: its version and its news
	"scripts/dist":      {},
	"internal/golden":   {},
	"internal/doctor":   {"internal/store"},
	"internal/svg":      {"core/length"},
	"internal/pdfpage":  {"core/grey", "core/length"},
	"internal/picture":  {"core/length", "core/lineart", "internal/pdfpage", "internal/svg"},
	"internal/standin":  {"core/lineart", "core/photo", "core/pigment", "core/proof", "core/wash"},
	"internal/store":    {"core/card", "core/learned", "core/length", "core/paper", "core/run", "core/proof", "core/settings", "core/shelf"},
	"internal/cardfile": {"core/card", "internal/picture", "internal/store"},
	"core/printing":     {"core/card", "core/cutting", "core/fold", "core/grey", "core/length", "core/panel", "core/shelf", "core/wording"},
	"internal/sheet":    {"core/wash", "core/card", "core/cutting", "core/fold", "core/guide", "core/length", "core/lineart", "core/mask", "core/mount", "core/needs", "core/order", "core/panel", "core/paper", "core/pigment", "core/pouch", "core/printing", "core/proof", "core/steps", "core/wording"},
	"internal/demo":     {"core/...", "internal/album", "internal/bench", "internal/desk", "internal/picture", "internal/standin", "internal/store"},
	"internal/album":    {"core/card", "core/panel", "core/photo", "core/pigment", "internal/desk", "internal/picture", "internal/standin", "internal/store"},
	"internal/logfile":  {"core/run", "core/wording", "internal/album", "internal/bench", "internal/desk", "internal/store"},
	"internal/bench":    {"core/drying", "core/learned", "core/order", "core/order/solver", "core/run", "core/settings", "core/steps", "core/wording", "internal/desk", "internal/standin", "internal/store"},
	"internal/desk":     {"core/...", "internal/picture", "internal/store"},
	"internal/easel":    {"core/...", "internal/desk", "internal/store"},

	// The web, from the ground up: a page, the board on it, what stations and what
	// drawers have in common, each of them, and all of them together.
	"internal/web/page":            {"core/card", "core/change", "core/length", "core/pigment", "core/shelf", "core/wording", "internal/cardfile", "internal/desk", "internal/picture", "internal/store"},
	"internal/web/board":           {"core/...", "internal/desk", "internal/easel", "internal/store", "internal/web/page"},
	"internal/web/station":         {"core/...", "internal/bench", "internal/desk", "internal/easel", "internal/picture", "internal/store", "internal/web/board", "internal/web/page"},
	"internal/web/station/format":  {"core/...", "internal/desk", "internal/sheet", "internal/store", "internal/web/board", "internal/web/page", "internal/web/station"},
	"internal/web/station/line":    {"core/...", "internal/desk", "internal/picture", "internal/sheet", "internal/standin", "internal/store", "internal/web/board", "internal/web/page", "internal/web/station"},
	"internal/web/station/colour":  {"core/...", "internal/desk", "internal/easel", "internal/store", "internal/web/board", "internal/web/page", "internal/web/station"},
	"internal/web/station/masks":   {"core/...", "internal/desk", "internal/sheet", "internal/web/board", "internal/web/page", "internal/web/station"},
	"internal/web/station/order":   {"core/...", "internal/desk", "internal/web/board", "internal/web/page", "internal/web/station"},
	"internal/web/station/mount":   {"core/...", "internal/desk", "internal/sheet", "internal/web/board", "internal/web/page", "internal/web/station"},
	"internal/web/station/log":     {"core/card", "core/drying", "core/lesson", "core/mount", "core/needs", "core/paper", "core/run", "core/table", "core/wording", "internal/album", "internal/bench", "internal/desk", "internal/logfile", "internal/picture", "internal/store", "internal/web/page", "internal/web/station"},
	"internal/web/station/bench":   {"core/mount", "core/needs", "core/paper", "core/steps", "core/wash", "internal/desk", "internal/easel", "internal/sheet", "internal/store", "internal/web/page", "internal/web/station", "internal/web/station/order"},
	"internal/web/door":            {"internal/store", "internal/web/page"},
	"internal/web/drawer":          {"core/length", "internal/bench", "internal/desk", "internal/easel", "internal/store", "internal/web/door", "internal/web/page"},
	"internal/web/drawer/bench":    {"core/...", "internal/bench", "internal/desk", "internal/easel", "internal/store", "internal/web/board", "internal/web/drawer", "internal/web/page"},
	"internal/web/drawer/cards":    {"core/card", "core/fold", "internal/cardfile", "internal/demo", "internal/desk", "internal/logfile", "internal/store", "internal/web/drawer", "internal/web/page"},
	"internal/web/drawer/newcard":  {"core/card", "core/fold", "core/length", "core/mount", "core/school", "internal/web/drawer", "internal/web/page"},
	"internal/web/drawer/paper":    {"core/card", "core/change", "core/length", "core/paper", "core/shelf", "core/wording", "internal/desk", "internal/store", "internal/web/drawer", "internal/web/page"},
	"internal/web/drawer/shelf":    {"core/...", "internal/desk", "internal/sheet", "internal/web/board", "internal/web/drawer", "internal/web/page"},
	"internal/web/drawer/logs":     {"core/card", "internal/desk", "internal/store", "internal/web/drawer", "internal/web/page"},
	"internal/web/drawer/library":  {"core/card", "core/change", "core/length", "core/shelf", "core/wording", "internal/desk", "internal/picture", "internal/store", "internal/web/drawer", "internal/web/page"},
	"internal/web/drawer/tests":    {"core/...", "internal/desk", "internal/picture", "internal/sheet", "internal/standin", "internal/store", "internal/web/drawer", "internal/web/page"},
	"internal/web/drawer/cut":      {"core/cutting", "core/length", "core/paper", "core/wording", "internal/desk", "internal/sheet", "internal/store", "internal/web/board", "internal/web/drawer", "internal/web/page"},
	"internal/web/drawer/guide":    {"internal/store", "internal/web/drawer", "internal/web/page"},
	"internal/web/drawer/settings": {"core/card", "core/drying", "core/learned", "core/paper", "core/school", "core/settings", "core/steps", "core/technique", "core/wording", "internal/cardfile", "internal/desk", "internal/doctor", "internal/picture", "internal/sheet", "internal/store", "internal/web/door", "internal/web/drawer", "internal/web/page"},
	"internal/web/webtest":         {"core/...", "internal/demo", "internal/standin", "internal/store", "internal/web", "internal/web/station"},
	"internal/web":                 {"internal/bench", "internal/desk", "internal/easel", "internal/standin", "internal/web/drawer/bench", "internal/store", "internal/web/board", "internal/web/door", "internal/web/drawer", "internal/web/drawer/cards", "internal/web/drawer/cut", "internal/web/drawer/guide", "internal/web/drawer/library", "internal/web/drawer/logs", "internal/web/drawer/newcard", "internal/web/drawer/paper", "internal/web/drawer/settings", "internal/web/drawer/shelf", "internal/web/drawer/tests", "internal/web/page", "internal/web/station", "internal/web/station/bench", "internal/web/station/colour", "internal/web/station/format", "internal/web/station/line", "internal/web/station/log", "internal/web/station/masks", "internal/web/station/mount", "internal/web/station/order"},

	"scripts/gaps":    {"core/lineart"},
	"scripts/mutants": {},
	"scripts/torture": {"core/shelf"},

	"cmd/chromaqua": {"core/...", "internal/cardfile", "internal/demo", "internal/doctor", "internal/picture", "internal/sheet", "internal/store", "internal/web"},
}

// outside is what the core must not reach: the world, and ways to keep secrets.
var outside = []string{"net", "net/http", "database/sql", "os", "io/fs", "path/filepath", "html/template", "text/template", "log", "log/slog", "syscall", "unsafe"}

// sources calls each with every file of the program that is no test, parsed as far as
// mode says.
func sources(t *testing.T, mode parser.Mode, each func(room, file string, f *ast.File)) {
	err := filepath.WalkDir(".", func(file string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(file, ".go") || strings.HasSuffix(file, "_test.go") || strings.HasPrefix(file, "node_modules") {
			return err
		}
		f, err := parser.ParseFile(token.NewFileSet(), file, nil, mode)
		require.NoError(t, err)
		each(path.Dir(filepath.ToSlash(file)), file, f)
		return nil
	})
	require.NoError(t, err)
}

// Every package imports only what the plan of the house allows, and every
// package is in the plan.
func TestImportsFollowThePlan(t *testing.T) {
	seen := map[string]bool{}
	sources(t, parser.ImportsOnly, func(room, file string, f *ast.File) {
		allowed, planned := rooms[room]
		if !assert.True(t, planned, "package %s is not in the plan; add it, with what it may import", room) {
			return
		}
		seen[room] = true
		for _, spec := range f.Imports {
			name, err := strconv.Unquote(spec.Path.Value)
			require.NoError(t, err)
			if own, ok := strings.CutPrefix(name, "chromaqua/"); ok {
				fits := slices.Contains(allowed, own) || slices.Contains(allowed, "core/...") && strings.HasPrefix(own, "core/")
				assert.True(t, fits, "%s imports %s; the plan does not allow it", file, own)
			}
			if strings.HasPrefix(room, "core/") {
				assert.NotContains(t, outside, name, "%s: the core must not reach %s", file, name)
			}
		}
	})
	for room := range rooms {
		assert.True(t, seen[room], "the plan speaks of %s, which is empty", room)
	}
}

// A plan that allowed a circle would forbid nothing.
func TestThePlanHasNoCircles(t *testing.T) {
	var visit func(room string, trail []string)
	visit = func(room string, trail []string) {
		require.NotContains(t, trail, room, "circle")
		for _, next := range rooms[room] {
			if next != "core/..." {
				visit(next, append(slices.Clone(trail), room))
			}
		}
	}
	for room := range rooms {
		visit(room, nil)
	}
}

// What starts goroutines is tested with the race detector.
func TestWhatSharesMemoryIsRaced(t *testing.T) {
	makefile, err := os.ReadFile("Makefile")
	require.NoError(t, err)
	_, list, ok := strings.Cut(string(makefile), "SHARING := ")
	require.True(t, ok)
	list, _, _ = strings.Cut(list, "\n")
	raced := strings.Fields(list)
	sources(t, 0, func(room, file string, f *ast.File) {
		ast.Inspect(f, func(n ast.Node) bool {
			if _, starts := n.(*ast.GoStmt); starts && !strings.HasSuffix(room, "test") {
				assert.Contains(t, raced, "./"+room, "%s starts a goroutine; add it to SHARING in the Makefile", file)
			}
			return true
		})
	})
}

// A room that grows too large, or a file, is two. Of a room the lines of code are
// counted, of a file all.
func TestNothingIsTooLarge(t *testing.T) {
	const mostOfARoom, mostOfAFile = 4500, 450
	lines := map[string]int{}
	err := filepath.WalkDir(".", func(file string, d fs.DirEntry, err error) error {
		kind := filepath.Ext(file)
		if err != nil || d.IsDir() || !slices.Contains([]string{".go", ".js", ".css"}, kind) || strings.Contains(file, "node_modules") {
			return err
		}
		data, err := os.ReadFile(file)
		n := strings.Count(string(data), "\n")
		assert.LessOrEqual(t, n, mostOfAFile, "%s has %d lines; it holds two things", file, n)
		if kind == ".go" && !strings.HasSuffix(file, "_test.go") {
			lines[path.Dir(filepath.ToSlash(file))] += codeLines(string(data))
		}
		return err
	})
	require.NoError(t, err)
	for room, n := range lines {
		assert.LessOrEqual(t, n, mostOfARoom, "%s has %d lines; it is two rooms", room, n)
	}
}

func codeLines(text string) (n int) {
	for line := range strings.Lines(text) {
		if line = strings.TrimSpace(line); line != "" && !strings.HasPrefix(line, "//") {
			n++
		}
	}
	return n
}
