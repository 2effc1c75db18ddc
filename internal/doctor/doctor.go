// Package doctor answers "is all well with this studio and this machine?": its file, the
// disk, the copies, the fonts, a browser and the clock, each with what to do.
package doctor

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"time"

	"golang.org/x/image/font/sfnt"

	"chromaqua/internal/store"
)

// State is how well something is.
type State string

// The states, worst last.
const (
	Well State = "well"
	Mind State = "mind"
	Ill  State = "ill"
)

// Finding is one thing that was looked at.
type Finding struct {
	Of    string // "The studio's file"
	State State
	Says  string
	Do    string // "" when nothing has to be done
}

// Measures of what is well.
const (
	tightDisk  = 500 << 20 // bytes left, below which a maker should know
	fullDisk   = 50 << 20  // and below which changes may soon not be stored
	largeFile  = 4 << 30
	oldCopy    = 14 * 24 * time.Hour // of use, without a daily copy
	aheadClock = 26 * time.Hour      // by which the latest change may lie ahead: journeys
)

// built is a day before which no clock is right.
var built = time.Date(2026, 11, 1, 0, 0, 0, 0, time.UTC)

// Patient is what is looked at.
type Patient struct {
	Data  string // the studio's file; it may be open
	Fonts fs.FS  // the fonts of pages to print
	Now   time.Time
	Path  func(program string) (string, error) // finds programs; exec.LookPath when nil
}

// Examine looks at everything. It never fails: what cannot be looked at is a finding.
func Examine(ctx context.Context, p Patient) []Finding {
	if p.Path == nil {
		p.Path = exec.LookPath
	}
	file, latest := p.file(ctx)
	return []Finding{file, p.folder(), p.disk(), p.copies(), p.fonts(), p.browser(), p.clock(latest)}
}

// file reads the studio from its first page to its last, and tells when it was changed last.
func (p Patient) file(ctx context.Context) (f Finding, latest time.Time) {
	f = Finding{Of: "The studio's file", State: Well}
	info, err := os.Stat(p.Data)
	switch {
	case errors.Is(err, fs.ErrNotExist), err == nil && info.Size() == 0:
		f.Says = p.Data + " is not there yet; it is made at the first start"
		return f, latest
	case err != nil:
		f.State, f.Says, f.Do = Ill, err.Error(), "see whether the disk it is on is there, and whether you may read it"
		return f, latest
	}
	in, err := store.Summarise(ctx, p.Data)
	switch {
	case errors.Is(err, store.ErrForeign), errors.Is(err, store.ErrNewer):
		f.State, f.Says, f.Do = Ill, err.Error(), "start the program with --data and the right file"
		return f, latest
	case err != nil:
		f.State, f.Says, f.Do = Ill, err.Error(), "close the program, and go back to a copy: chromaqua restore FILE --yes; the copies lie in the folder beside it"
		return f, latest
	}
	f.Says = fmt.Sprintf("%s, %s, all of it can be read", p.Data, size(store.Bytes(p.Data)))
	if info.Size() > largeFile {
		f.State, f.Do = Mind, "clear unused pictures in Settings"
	}
	return f, in.Latest
}

func (p Patient) folder() Finding {
	f := Finding{Of: "Its folder", State: Well}
	dir := existing(filepath.Dir(p.Data))
	try, err := os.CreateTemp(dir, ".chromaqua-*")
	if err != nil {
		f.State, f.Says, f.Do = Ill, fmt.Sprintf("nothing can be written in %s: %v", dir, err), "make it writable, or keep the studio elsewhere with --data"
		return f
	}
	if err := errors.Join(try.Close(), os.Remove(try.Name())); err != nil {
		f.State, f.Says = Mind, err.Error()
		return f
	}
	f.Says = dir + " can be written"
	return f
}

// existing is the nearest folder that is there.
func existing(dir string) string {
	for {
		if _, err := os.Stat(dir); err == nil || dir == filepath.Dir(dir) {
			return dir
		}
		dir = filepath.Dir(dir)
	}
}

func (p Patient) disk() Finding {
	f := Finding{Of: "The disk", State: Well}
	left, err := free(existing(filepath.Dir(p.Data)))
	switch {
	case err != nil:
		f.State, f.Says = Mind, fmt.Sprintf("how full it is cannot be told: %v", err)
	case left < fullDisk:
		f.State, f.Says, f.Do = Ill, size(int64(left))+" are left", "make room before you go on: changes may not be stored"
	case left < tightDisk+2*uint64(max(0, store.Bytes(p.Data))):
		f.State, f.Says, f.Do = Mind, size(int64(left))+" are left, which daily copies soon take", "make room"
	default:
		f.Says = size(int64(left)) + " are left"
	}
	return f
}

func (p Patient) copies() Finding {
	f := Finding{Of: "Daily copies", State: Well}
	all, err := store.CopiesOf(p.Data)
	info, there := os.Stat(p.Data)
	switch {
	case err != nil:
		f.State, f.Says = Mind, err.Error()
	case there != nil:
		f.Says = "none yet"
	case len(all) == 0 || info.ModTime().Sub(all[0].Made) > oldCopy:
		f.State, f.Says, f.Do = Mind, "there is none of late", "leave the program open for a minute; if there is none then, look whether the folder beside the studio can be written"
	default:
		f.Says = fmt.Sprintf("%d, the latest of %s", len(all), all[0].Made.Format("2 January 2006"))
	}
	return f
}

func (p Patient) fonts() Finding {
	f := Finding{Of: "Fonts", State: Well, Says: "those of pages to print can be read"}
	n := 0
	err := fs.WalkDir(p.Fonts, ".", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || filepath.Ext(path) != ".ttf" {
			return err
		}
		data, err := fs.ReadFile(p.Fonts, path)
		if err == nil {
			_, err = sfnt.Parse(data)
		}
		n++
		return err
	})
	if err != nil || n == 0 {
		f.State, f.Says, f.Do = Ill, fmt.Sprintf("%d are in the program, and one cannot be read: %v", n, err), "the program file is damaged: fetch it again"
	}
	return f
}

// browsers are programs that open an address, by system; where there are none the system
// itself does.
var browsers = map[string][]string{
	"linux": {"xdg-open", "x-www-browser", "www-browser", "wslview", "firefox", "chromium", "chromium-browser"},
}

func (p Patient) browser() Finding {
	f := Finding{Of: "A browser", State: Well, Says: "the system opens its own"}
	names := browsers[runtime.GOOS]
	if names == nil {
		return f
	}
	for _, name := range names {
		if at, err := p.Path(name); err == nil {
			f.Says = at + " opens the program"
			return f
		}
	}
	f.State, f.Says, f.Do = Mind, "none was found that could be opened", "install one, or type the address the program prints into a browser on another device"
	return f
}

func (p Patient) clock(latest time.Time) Finding {
	f := Finding{Of: "The clock", State: Well, Says: p.Now.Format("2 January 2006, 15:04")}
	const set = "set the clock of this machine: drying times, copies and the log go by it"
	if p.Now.Before(built) {
		f.State, f.Says, f.Do = Ill, f.Says+" is before this program was made", set
		return f
	}
	if latest.Sub(p.Now) > aheadClock {
		f.State, f.Says, f.Do = Mind, fmt.Sprintf("%s is before the latest change of the studio, of %s", f.Says, latest.Format("2 January 2006")), set
	}
	return f
}

func size(n int64) string {
	if n >= 1<<30 {
		return fmt.Sprintf("%.1f GB", float64(n)/(1<<30))
	}
	return fmt.Sprintf("%.1f MB", float64(n)/(1<<20))
}
