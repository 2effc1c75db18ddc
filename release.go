// Package chromaqua is what a release brings along: its version, what is new in it, and the
// notices of what it is made with.
package chromaqua

import (
	_ "embed"
	"runtime/debug"
	"strings"
)

// Version is set when a release is built.
var Version = ""

//go:embed CHANGELOG.md
var changes string

// Named is the version, or of a program that was built by hand the revision it was built
// from.
func Named() string {
	if Version != "" {
		return Version
	}
	if info, ok := debug.ReadBuildInfo(); ok {
		for _, s := range info.Settings {
			if s.Key == "vcs.revision" && len(s.Value) > 10 {
				return "a build of " + s.Value[:10]
			}
		}
	}
	return "a build of your own"
}

// News lists what is new, the latest first.
func News() (out []string) {
	for line := range strings.Lines(changes) {
		if text, is := strings.CutPrefix(strings.TrimSpace(line), "- "); is {
			out = append(out, strings.ReplaceAll(text, "`", ""))
		}
	}
	return out
}
