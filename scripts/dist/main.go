// Command dist builds the programs that makers fetch: one static file for each system, in a
// ZIP archive with what to read first and the licences, and the checksums of all. What this
// machine can run is tried.
package main

import (
	"archive/zip"
	"bytes"
	"crypto/sha256"
	_ "embed"
	"encoding/hex"
	"fmt"
	"io"
	"log"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"slices"
	"strings"
	"time"
)

// targets are the systems there are programs for.
var targets = []struct{ os, arch, words string }{
	{"linux", "amd64", "Linux, most machines"}, {"linux", "arm64", "Linux, ARM machines"},
	{"darwin", "amd64", "Mac with Intel"}, {"darwin", "arm64", "Mac with Apple silicon"},
	{"windows", "amd64", "Windows, most machines"}, {"windows", "arm64", "Windows, ARM machines"},
}

//go:embed READ-ME-FIRST.txt
var readFirst []byte

const into = "dist"

func main() {
	log.SetFlags(0)
	if err := build(); err != nil {
		log.Fatal("dist: ", err)
	}
}

func build() error {
	version, err := versionOf()
	if err != nil {
		return err
	}
	if err := os.RemoveAll(into); err != nil {
		return err
	}
	if err := os.MkdirAll(into, 0o755); err != nil {
		return err
	}
	licences, err := licencesOf()
	if err != nil {
		return err
	}
	notices, err := os.ReadFile("THIRD_PARTY.md")
	if err != nil {
		return err
	}
	var sums bytes.Buffer
	for _, t := range targets {
		program := "chromaqua"
		if t.os == "windows" {
			program += ".exe"
		}
		bin := filepath.Join(into, t.os+"-"+t.arch, program)
		c := exec.Command("go", "build", "-trimpath", "-ldflags=-s -w -X chromaqua.Version="+version, "-o", bin, "./cmd/chromaqua")
		c.Env = append(os.Environ(), "CGO_ENABLED=0", "GOOS="+t.os, "GOARCH="+t.arch)
		c.Stderr = os.Stderr
		if err := c.Run(); err != nil {
			return fmt.Errorf("%s %s: %w", t.os, t.arch, err)
		}
		tried := "not tried here"
		if t.os == runtime.GOOS && t.arch == runtime.GOARCH {
			said, err := exec.Command(bin, "version").Output()
			if err != nil || !strings.Contains(string(said), version) {
				return fmt.Errorf("%s does not start: %w, %q", bin, err, said)
			}
			tried = "starts here"
		}
		data, err := os.ReadFile(bin)
		if err != nil {
			return err
		}
		name := fmt.Sprintf("chromaqua-%s-%s-%s.zip", version, t.os, t.arch)
		packed, err := pack("chromaqua/", []file{{program, data, 0o755}, {"READ-ME-FIRST.txt", readFirst, 0o644}, {"THIRD-PARTY.md", notices, 0o644}, {"LICENCES.txt", licences, 0o644}})
		if err != nil {
			return err
		}
		if err := os.WriteFile(filepath.Join(into, name), packed, 0o644); err != nil {
			return err
		}
		sum := sha256.Sum256(packed)
		fmt.Fprintf(&sums, "%s  %s\n", hex.EncodeToString(sum[:]), name)
		fmt.Printf("%-22s %s: program %.1f MB, archive %.1f MB, %s\n", t.words, name, float64(len(data))/1e6, float64(len(packed))/1e6, tried)
		if err := os.RemoveAll(filepath.Dir(bin)); err != nil {
			return err
		}
	}
	return os.WriteFile(filepath.Join(into, "SHA256SUMS"), sums.Bytes(), 0o644)
}

// versionOf is the day of the revision that is built, and its name.
func versionOf() (string, error) {
	out, err := exec.Command("git", "log", "-1", "--format=%cd-%h", "--date=format:%Y.%m.%d").Output()
	if err != nil {
		return "", fmt.Errorf("asking git for the revision: %w", err)
	}
	return strings.TrimSpace(string(out)), nil
}

type file struct {
	name string
	data []byte
	mode os.FileMode
}

// pack makes a ZIP archive of files in a folder.
func pack(folder string, files []file) ([]byte, error) {
	var buf bytes.Buffer
	z := zip.NewWriter(&buf)
	for _, f := range files {
		h := &zip.FileHeader{Name: folder + f.name, Method: zip.Deflate, Modified: time.Now()}
		h.SetMode(f.mode)
		w, err := z.CreateHeader(h)
		if err != nil {
			return nil, err
		}
		if _, err := io.Copy(w, bytes.NewReader(f.data)); err != nil {
			return nil, err
		}
	}
	return buf.Bytes(), z.Close()
}

// licencesOf gathers the licence texts of Go and of every module in the program.
func licencesOf() ([]byte, error) {
	listed, err := exec.Command("go", "list", "-deps", "-f", "{{with .Module}}{{if not .Main}}{{.Path}} {{.Version}}\t{{.Dir}}{{end}}{{end}}", "./cmd/chromaqua").Output()
	if err != nil {
		return nil, fmt.Errorf("listing what the program is made with: %w", err)
	}
	root, err := exec.Command("go", "env", "GOROOT").Output()
	if err != nil {
		return nil, fmt.Errorf("asking where Go is: %w", err)
	}
	modules := strings.Split(strings.TrimSpace(string(listed)), "\n")
	modules = append(modules, "Go "+runtime.Version()+"\t"+strings.TrimSpace(string(root)))
	modules = append(modules, "Fonts\tinternal/sheet/fonts")
	slices.Sort(modules)
	var out bytes.Buffer
	for _, m := range slices.Compact(modules) {
		name, dir, is := strings.Cut(m, "\t")
		if !is {
			continue
		}
		found, err := filepath.Glob(filepath.Join(dir, "*"))
		if err != nil {
			return nil, err
		}
		texts := 0
		for _, path := range found {
			base := strings.ToUpper(filepath.Base(path))
			if info, err := os.Stat(path); err != nil || info.IsDir() || !strings.Contains(base, "LICEN") && !strings.Contains(base, "COPYING") && !strings.Contains(base, "OFL") && !strings.Contains(base, "NOTICE") {
				continue
			}
			text, err := os.ReadFile(path)
			if err != nil {
				return nil, err
			}
			fmt.Fprintf(&out, "==== %s: %s ====\n\n%s\n\n", name, filepath.Base(path), bytes.TrimSpace(text))
			texts++
		}
		if texts == 0 {
			log.Printf("no licence text lies in %s; see THIRD-PARTY.md", name)
		}
	}
	return out.Bytes(), nil
}
