package main

import (
	"archive/zip"
	"bytes"
	"compress/zlib"
	"context"
	"encoding/binary"
	"errors"
	"fmt"
	"hash/crc32"
	"math"
	"math/rand/v2"
	"net/http"
	"regexp"
	"strings"
	"sync"
	"time"
)

var regexpDone = regexp.MustCompile(`"done":true`)

// What the program may take.
const (
	mostMB     = 700
	atOnce     = 4 // hostile files at a time
	watchEvery = 20 * time.Millisecond
)

// hostile is a file that was made to break what reads it.
type hostile struct {
	name, file string
	data       []byte
	to         []string // paths that take files
}

// corpus feeds the program what was made to break it, and asks something else of it all
// the while.
func corpus(ctx context.Context, b *bench) error {
	return within(ctx, b.binary, "serve", func(s *server) error { return b.feed(ctx, s) })
}

func (b *bench) feed(ctx context.Context, s *server) error {
	card, err := s.newCard(ctx, "watched")
	if err != nil {
		return err
	}
	watching, stop := context.WithCancel(ctx)
	slowest := make(chan time.Duration, 1)
	go func() { slowest <- watch(watching, s, card+"/format") }()
	files, answers, failed := spoiled(), map[int]int{}, []string{}
	var mu sync.Mutex
	places := make(chan struct{}, atOnce)
	var all sync.WaitGroup
	for range b.copies {
		for _, f := range files {
			for _, to := range f.to {
				places <- struct{}{}
				all.Go(func() {
					defer func() { <-places }()
					a, err := s.feed(ctx, strings.ReplaceAll(to, "CARD", card), &f)
					mu.Lock()
					defer mu.Unlock()
					answers[a.status]++
					if err != nil || a.status >= http.StatusInternalServerError {
						failed = append(failed, fmt.Sprintf("%s to %s: %d %v", f.name, to, a.status, err))
					}
				})
			}
		}
	}
	all.Wait()
	stop()
	longest := <-slowest
	mb, err := s.peakMB()
	if err != nil {
		return err
	}
	b.say("corpus   %d files, answers %v, %d failed; peak %d MB; another request waited %d ms at most", len(files), answers, len(failed), mb, longest.Milliseconds())
	switch {
	case !s.alive():
		return fmt.Errorf("the program is gone: %.2000s", s.log)
	case len(failed) > 0:
		return errors.New(strings.Join(failed, "; "))
	case mb > mostMB:
		return fmt.Errorf("it took %d MB, more than %d", mb, mostMB)
	case longest > b.wait:
		return fmt.Errorf("another request waited %v, more than %v", longest, b.wait)
	}
	return s.close()
}

// feed sends a file on top of the revision that is shown where it goes.
func (s *server) feed(ctx context.Context, to string, f *hostile) (answer, error) {
	page := to
	switch {
	case strings.HasPrefix(to, "/cards/"):
		page = to[:strings.LastIndexByte(to, '/')] + "/format"
	case to == "/shelf/import":
		page = "/shelf"
	case to == "/paper/import":
		page = "/paper"
	case to == "/import":
		page = "/settings"
	}
	a, err := s.get(ctx, page)
	if err != nil {
		return a, err
	}
	base := "1"
	if m := baseIn.FindStringSubmatch(a.body); m != nil {
		base = m[1]
	}
	return s.send(ctx, to, f.file, f.data, "base", base, "back", "line", "width", "60", "ink", "pen", "paper", "cotton-cp", "minutes", "5", "ci", "PB29", "name", "x")
}

// watch asks for a page until it is told to stop, and returns the longest it took.
func watch(ctx context.Context, s *server, path string) (longest time.Duration) {
	for ctx.Err() == nil {
		start := time.Now()
		if _, err := s.get(ctx, path); err == nil {
			longest = max(longest, time.Since(start))
		}
		time.Sleep(watchEvery)
	}
	return longest
}

// pictures are the places that take pictures.
var pictures = []string{"/library", "/tests", "/swatches", "CARD/upload"}

// spoiled makes the corpus.
func spoiled() (out []hostile) {
	add := func(name, file string, data []byte, to ...string) { out = append(out, hostile{name, file, data, to}) }
	random := rand.New(rand.NewPCG(3, 4))
	noise := make([]byte, 1<<20)
	for i := range noise {
		noise[i] = byte(random.Uint32())
	}
	add("nothing", "x.png", nil, append(pictures, "/import", "/shelf/import", "/paper/import")...)
	add("noise", "x.png", noise, append(pictures, "/import", "/shelf/import", "/paper/import")...)
	for _, depth := range []byte{8, 16} {
		add(fmt.Sprintf("40 million pixels of %d bits", depth), "x.png", flatPNG(8000, 5000, depth, 2), pictures...)
	}
	add("more pixels than there are", "x.png", flatPNG(200_000, 200_000, 1, 0), pictures...)
	add("pixels that are not there", "x.png", flatPNG(6000, 6000, 8, 2)[:3000], pictures...)
	add("a picture of one row", "x.png", flatPNG(2_000_000, 16, 8, 0), pictures...)
	for name, body := range drawings(random) {
		add("drawing of "+name, "x.svg", []byte(`<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="100mm" viewBox="0 0 1000 1000">`+body+`</svg>`), "/library", "CARD/upload")
	}
	add("drawings in drawings", "x.svg", []byte(strings.Repeat(`<svg xmlns="http://www.w3.org/2000/svg" width="1000" height="1000">`, 100_000)), "/library")
	add("a billion laughs", "x.svg", laughs(), "/library")
	add("a ZIP of nothing but nulls", "x.zip", zipped(map[string][]byte{"card.json": make([]byte, 1<<30)}), "/import")
	add("a ZIP of many files", "x.zip", manyFiles(), "/import")
	add("JSON in JSON", "x.zip", zipped(map[string][]byte{"card.json": []byte(strings.Repeat(`{"a":`, 500_000))}), "/import")
	add("a ZIP without its end", "x.zip", zipped(map[string][]byte{"card.json": noise})[:200_000], "/import")
	add("too large a ZIP", "x.zip", make([]byte, 130<<20), "/import")
	tables := []string{"/shelf/import", "/paper/import"}
	add("a table of quotes", "x.csv", []byte(strings.Repeat(`"`, 1<<20)), tables...)
	add("a table of commas", "x.csv", []byte(strings.Repeat(`,`, 1<<20)), tables...)
	add("a table without end", "x.csv", []byte("what,name,like\n"+strings.Repeat("ink,x,pen\n", 100_000)), tables...)
	return out
}

// flatPNG is a PNG of one colour (PNG, second edition), small whatever it claims to hold.
func flatPNG(w, h uint32, depth, kind byte) []byte {
	var buf bytes.Buffer
	buf.WriteString("\x89PNG\r\n\x1a\n")
	chunk := func(name string, data []byte) {
		_ = binary.Write(&buf, binary.BigEndian, uint32(len(data))) // a buffer takes all
		at := buf.Len()
		buf.WriteString(name)
		buf.Write(data)
		_ = binary.Write(&buf, binary.BigEndian, crc32.ChecksumIEEE(buf.Bytes()[at:]))
	}
	head := binary.BigEndian.AppendUint32(nil, w)
	head = binary.BigEndian.AppendUint32(head, h)
	chunk("IHDR", append(head, depth, kind, 0, 0, 0))
	var packed bytes.Buffer
	z := zlib.NewWriter(&packed)
	channels := map[byte]int{0: 1, 2: 3}[kind]
	row := make([]byte, 1+(int(w)*channels*int(depth)+7)/8)
	for range min(h, 1<<30/uint32(len(row))) {
		_, _ = z.Write(row)
	}
	_ = z.Close()
	chunk("IDAT", packed.Bytes())
	chunk("IEND", nil)
	return buf.Bytes()
}

// drawings are what takes long to fill or to stroke.
func drawings(random *rand.Rand) map[string]string {
	var rings, lines, curve, wide strings.Builder
	for i := range 6000 {
		r := 20 + 480*float64(i)/6000
		fmt.Fprintf(&rings, "M%.1f 500A%.1f %.1f 0 1 0 %.1f 500A%.1f %.1f 0 1 0 %.1f 500Z", 500-r, r, r, 500+r, r, r, 500-r)
	}
	at := func() float64 { return 1000 * random.Float64() }
	for range 20_000 {
		fmt.Fprintf(&lines, "M%.0f %.0fL%.0f %.0f", at(), at(), at(), at())
		fmt.Fprintf(&curve, "C%.0f %.0f %.0f %.0f %.0f %.0f", at(), at(), at(), at(), at(), at())
	}
	for i := range 3000 {
		fmt.Fprintf(&wide, `<path d="M0 %d L1000 %.0f" stroke="#000" stroke-width="900"/>`, i%1000, 1000*math.Abs(math.Sin(float64(i))))
	}
	return map[string]string{
		"rings in rings": `<path fill-rule="evenodd" d="` + rings.String() + `"/>`,
		"crossing lines": `<path fill="none" stroke="#000" stroke-width="2" d="` + lines.String() + `"/>`,
		"a long curve":   `<path fill-rule="evenodd" d="M0 0` + curve.String() + `"/>`,
		"wide strokes":   wide.String(),
	}
}

// laughs are entities that grow tenfold nine times over.
func laughs() []byte {
	var b strings.Builder
	b.WriteString(`<!DOCTYPE svg [<!ENTITY a0 "M0 0L9 9">`)
	for i := 1; i < 10; i++ {
		fmt.Fprintf(&b, `<!ENTITY a%d "%s">`, i, strings.Repeat(fmt.Sprintf("&a%d;", i-1), 10))
	}
	b.WriteString(`]><svg xmlns="http://www.w3.org/2000/svg" width="100" height="100"><path d="&a9;"/></svg>`)
	return []byte(b.String())
}

func zipped(files map[string][]byte) []byte {
	var buf bytes.Buffer
	z := zip.NewWriter(&buf)
	for name, data := range files {
		if f, err := z.Create(name); err == nil {
			_, _ = f.Write(data) // a buffer takes all
		}
	}
	_ = z.Close()
	return buf.Bytes()
}

func manyFiles() []byte {
	files := map[string][]byte{}
	for i := range 60_000 {
		files[fmt.Sprintf("images/%d.png", i)] = nil
	}
	return zipped(files)
}
