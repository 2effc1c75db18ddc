// Package pdfpage answers "what line does this page of a PDF hold?": it draws one page in
// grey on white paper, cut to what is on it. The file is read by PDFium inside a
// WebAssembly sandbox, which has no files, so much memory and so much time.
package pdfpage

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"image"
	"image/draw"
	"io"
	"math"
	"time"

	"github.com/klippa-app/go-pdfium"
	pdfiumerrors "github.com/klippa-app/go-pdfium/errors"
	"github.com/klippa-app/go-pdfium/references"
	"github.com/klippa-app/go-pdfium/requests"
	"github.com/klippa-app/go-pdfium/webassembly"
	"github.com/tetratelabs/wazero"
	"github.com/tetratelabs/wazero/api"
	"github.com/tetratelabs/wazero/experimental"

	"chromaqua/core/grey"
	"chromaqua/core/length"
)

// Limits of a file; whatever exceeds them is no line art.
const (
	MaxBytes = 24 << 20
	MaxPages = 2000
	MaxTime  = 30 * time.Second // for one page

	dpi        = 300
	longest    = 14   // in, of the longer side; larger pages are drawn coarser
	memory     = 8192 // pages of 64 KB
	maxLetters = 300  // of text on a page of line art: its title, and who drew it
	rim        = 2.0  // mm of paper left round what is on it
)

// What of a page is line art, by the grey of its pixels.
const (
	paper     = 245 // or lighter
	tones     = 0.3 // of the way from its darkest to white, from where on a pixel is no ink
	away      = 3   // pixels from an edge
	maxShaded = 0.3 // share of what is on the page
)

// A Drawing is a page as it was drawn, cut to what is on it.
type Drawing struct {
	*image.Gray
	Width length.Length // real
}

var (
	errDamaged = errors.New("the PDF is damaged or cut short; save it again")
	errLocked  = errors.New("the PDF asks for a password; save it without one")
	errSlow    = fmt.Errorf("the page takes longer than %.0f s to draw; save it as a PNG of 300 dpi", MaxTime.Seconds())
)

// Is reports whether data looks like a PDF.
func Is(data []byte) bool { return bytes.Contains(data[:min(len(data), 1024)], []byte("%PDF-")) }

// compiled is the sandbox's programme, which takes seconds to compile the first time.
var compiled = wazero.NewCompilationCache()

// Draw draws a page of a PDF, from 1, at 300 dpi, or coarser where it is larger than
// 14 in. What is blank, a text or a photo is refused. It ends early with ctx's error.
func Draw(ctx context.Context, data []byte, page int) (*Drawing, error) {
	if len(data) > MaxBytes {
		return nil, fmt.Errorf("the PDF is larger than %d MB; save the page you want by itself", MaxBytes>>20)
	}
	limited, cancel := context.WithTimeout(ctx, MaxTime)
	defer cancel()
	m, scale, err := draws(limited, data, page, dpi, checkText)
	switch {
	case ctx.Err() != nil:
		return nil, ctx.Err()
	case limited.Err() != nil:
		return nil, errSlow
	case err != nil:
		return nil, err
	}
	cut, err := lineOf(m, page, scale)
	if err != nil {
		return nil, err
	}
	return &Drawing{cut, length.FromMM(float64(cut.Rect.Dx()) / scale)}, nil
}

// Render draws the whole of a page in grey, whatever is on it, coarser where it is larger
// than 14 in; scale is in pixels per mm.
func Render(ctx context.Context, data []byte, page, dpi int) (m *image.Gray, scale float64, err error) {
	return draws(ctx, data, page, dpi, func(pdfium.Pdfium, requests.Page) error { return nil })
}

// draws draws a page that passes a check, within a sandbox of its own.
func draws(ctx context.Context, data []byte, page, dpi int, check func(pdfium.Pdfium, requests.Page) error) (m *image.Gray, scale float64, err error) {
	pool, err := webassembly.Init(webassembly.Config{
		Context: ctx, MaxIdle: 1, MaxTotal: 1, FSConfig: wazero.NewFSConfig(), Stdout: io.Discard, Stderr: io.Discard,
		RuntimeConfig: wazero.NewRuntimeConfig().WithCoreFeatures(api.CoreFeaturesV2 | experimental.CoreFeaturesExceptionHandling).
			WithCompilationCache(compiled).WithCloseOnContextDone(true).WithMemoryLimitPages(memory),
	})
	if err != nil {
		return nil, 0, fmt.Errorf("opening the PDF: %w", err)
	}
	defer func() { _ = pool.Close() }()
	in, err := pool.GetInstance(MaxTime)
	if err != nil {
		return nil, 0, fmt.Errorf("opening the PDF: %w", err)
	}
	defer func() { _ = in.Close() }()
	opened, err := in.OpenDocument(&requests.OpenDocument{File: &data})
	if err != nil {
		if errors.Is(err, pdfiumerrors.ErrPassword) || errors.Is(err, pdfiumerrors.ErrSecurity) {
			return nil, 0, errLocked
		}
		return nil, 0, errDamaged
	}
	if err := checkPage(in, opened.Document, page); err != nil {
		return nil, 0, err
	}
	at := requests.Page{ByIndex: &requests.PageByIndex{Document: opened.Document, Index: page - 1}}
	if err := check(in, at); err != nil {
		return nil, 0, err
	}
	size, err := in.GetPageSize(&requests.GetPageSize{Page: at})
	if err != nil || !(min(size.Width, size.Height) > 1) { // points
		return nil, 0, errDamaged
	}
	fine := max(1, min(dpi, int(float64(dpi)*longest*72/max(size.Width, size.Height))))
	drawn, err := in.RenderPageInDPI(&requests.RenderPageInDPI{DPI: fine, Page: at})
	if err != nil {
		return nil, 0, errDamaged
	}
	defer drawn.Cleanup()
	m = image.NewGray(drawn.Result.RenderedImage.Bounds())
	draw.Draw(m, m.Rect, image.White, image.Point{}, draw.Src)
	draw.Draw(m, m.Rect, drawn.Result.RenderedImage, image.Point{}, draw.Over)
	return m, float64(fine) / 25.4, nil
}

// checkPage refuses a page that is not there.
func checkPage(in pdfium.Pdfium, doc references.FPDF_DOCUMENT, page int) error {
	count, err := in.FPDF_GetPageCount(&requests.FPDF_GetPageCount{Document: doc})
	switch {
	case err != nil || count.PageCount == 0:
		return errDamaged
	case count.PageCount > MaxPages:
		return fmt.Errorf("the PDF has more than %d pages; save the one you want by itself", MaxPages)
	case page < 1 || page > count.PageCount:
		return fmt.Errorf("the PDF has %d pages; page %d is none of them", count.PageCount, page)
	}
	return nil
}

// checkText refuses a page of text.
func checkText(in pdfium.Pdfium, page requests.Page) error {
	text, err := in.GetPageText(&requests.GetPageText{Page: page})
	if err != nil {
		return nil // what it holds is drawn all the same
	}
	if n := len([]rune(text.Text)); n > maxLetters {
		return fmt.Errorf("page %d holds a text of %d letters, no line art; choose another page, or cut the drawing out of it", page.ByIndex.Index+1, n)
	}
	return nil
}

// lineOf cuts a page to what is on it, and refuses what is no line.
func lineOf(g *image.Gray, page int, scale float64) (*image.Gray, error) {
	box, drawn, ink := grey.Bounds(g, paper), 0, uint8(paper)
	for _, v := range g.Pix {
		if v < paper {
			ink = min(ink, v)
			drawn++
		}
	}
	switch {
	case drawn == 0:
		return nil, fmt.Errorf("there is nothing on page %d of the PDF; choose another", page)
	case float64(shaded(g, ink)) > maxShaded*float64(drawn):
		return nil, fmt.Errorf("page %d of the PDF is shaded or a photo, no line art; a drawing in lines of one colour can be read", page)
	}
	box = box.Inset(-int(math.Round(rim * scale))).Intersect(g.Rect)
	cut := image.NewGray(image.Rect(0, 0, box.Dx(), box.Dy()))
	draw.Draw(cut, cut.Rect, g, box.Min, draw.Src)
	return cut, nil
}

// shaded counts the pixels of tones between those of ink and paper, away from any edge:
// a line has such tones at its edges only, however fine it is.
func shaded(g *image.Gray, ink uint8) (n int) {
	pale := ink + uint8(tones*float64(255-ink))
	for y := away; y < g.Rect.Dy()-away; y++ {
		for x := away; x < g.Rect.Dx()-away; x++ {
			i := y*g.Stride + x
			if v := g.Pix[i]; v > pale && v < paper && g.Pix[i-away] < paper && g.Pix[i+away] < paper && g.Pix[i-away*g.Stride] < paper && g.Pix[i+away*g.Stride] < paper {
				n++
			}
		}
	}
	return n
}
