package pdfpage_test

import (
	"context"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"chromaqua/internal/pdfpage"
)

// plain is a PDF of one page, of a size and with what is drawn on it.
func plain(box, content, resources string) []byte {
	var b strings.Builder
	var at []int
	object := func(body string) {
		at = append(at, b.Len())
		fmt.Fprintf(&b, "%d 0 obj\n%s\nendobj\n", len(at), body)
	}
	b.WriteString("%PDF-1.4\n")
	object("<< /Type /Catalog /Pages 2 0 R >>")
	object("<< /Type /Pages /Kids [3 0 R] /Count 1 >>")
	object(fmt.Sprintf("<< /Type /Page /Parent 2 0 R /MediaBox [%s] /Contents 4 0 R /Resources << %s >> >>", box, resources))
	object(fmt.Sprintf("<< /Length %d >>\nstream\n%s\nendstream", len(content), content))
	object(fmt.Sprintf("<< /Type /XObject /Subtype /Form /BBox [0 0 100 100] /Resources << /XObject << /F 5 0 R >> >> /Length %d >>\nstream\n%s\nendstream", len("/F Do /F Do"), "/F Do /F Do"))
	start := b.Len()
	fmt.Fprintf(&b, "xref\n0 %d\n0000000000 65535 f \n", len(at)+1)
	for _, o := range at {
		fmt.Fprintf(&b, "%010d 00000 n \n", o)
	}
	fmt.Fprintf(&b, "trailer << /Size %d /Root 1 0 R >>\nstartxref\n%d\n%%%%EOF\n", len(at)+1, start)
	return []byte(b.String())
}

// What was made to break a reader of PDFs is drawn or refused, within its time and memory.
func TestHostileFiles(t *testing.T) {
	d, err := pdfpage.Draw(context.Background(), plain("0 0 200 200", "2 w 20 20 100 100 re S", ""), 1)
	assert.NoError(t, err)
	assert.InDelta(t, 102.0/72*25.4+4, d.Width.MM(), 0.3)
	for why, data := range map[string][]byte{
		"a page as large as a town": plain("0 0 1000000000 1000000000", "100 w 0 0 m 1000000000 1000000000 l S", ""),
		"a page of no size":         plain("0 0 0 0", "0 0 m 9 9 l S", ""),
		"a page that is no number":  plain("0 0 1e999 NaN", "0 0 m 9 9 l S", ""),
		"a drawing in itself":       plain("0 0 200 200", "/F Do", "/XObject << /F 5 0 R >>"),
		"dashes as fine as dust":    plain("0 0 14000 14000", "[0.0001 0.0001] 0 d 0 0 m 14000 14000 l S", ""),
	} {
		d, err := pdfpage.Draw(context.Background(), data, 1)
		if err == nil {
			assert.Positive(t, d.Width, why)
			assert.LessOrEqual(t, d.Rect.Dx()*d.Rect.Dy(), 5000*5000, why)
		}
	}
	// A page that takes for ever ends when nobody waits for it any more.
	soon, cancel := context.WithTimeout(context.Background(), 2*time.Second)
	defer cancel()
	_, err = pdfpage.Draw(soon, plain("0 0 200 200", strings.Repeat("0 0 m 200 200 l S 0 200 m 200 0 l S\n", 300_000), ""), 1)
	assert.ErrorIs(t, err, context.DeadlineExceeded)
}
