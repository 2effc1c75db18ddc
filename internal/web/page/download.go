package page

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"math"
	"mime"
	"net/http"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"

	"chromaqua/core/length"
)

// CardPath is the address of a place of a card.
func CardPath(id int64, place string) string { return CardAddress(strconv.FormatInt(id, 10), place) }

// CardAddress is the path of a place of a card, or of one of its pieces, by its address.
func CardAddress(address, place string) string {
	return "/cards/" + address + "/" + place
}

// Download marks a response as a file to keep, with the name of what it is of.
func Download(w http.ResponseWriter, media, name, extension string) {
	safe := strings.Map(func(r rune) rune {
		if r < ' ' || strings.ContainsRune(`/\:*?"<>|`, r) {
			return '-'
		}
		return r
	}, name)
	w.Header().Set("Content-Type", media)
	w.Header().Set("Content-Disposition", mime.FormatMediaType("attachment", map[string]string{"filename": safe + extension}))
}

// SendFile sends a file once it has been written whole.
func SendFile(w http.ResponseWriter, media, name, extension string, write func(io.Writer) error) error {
	var buf bytes.Buffer
	if err := write(&buf); err != nil {
		return err
	}
	Download(w, media, name, extension)
	_, _ = w.Write(buf.Bytes()) // the reader may have gone
	return nil
}

// A Drawing can be sent at true size.
type Drawing interface {
	WritePDF(io.Writer) error
	WriteSVG(io.Writer) error
}

// SendDrawing sends a drawing as the address asks for it: ".svg", or PDF.
func SendDrawing(w http.ResponseWriter, r *http.Request, name string, d Drawing) error {
	if chi.URLParam(r, "as") == "svg" {
		return SendFile(w, "image/svg+xml", name, ".svg", d.WriteSVG)
	}
	return SendFile(w, "application/pdf", name, ".pdf", d.WritePDF)
}

// maxLengths bounds how many lengths are worded at once.
const maxLengths = 20

// Lengths words lengths, millimetres, for a script: it has no rules of its own for
// what stands on a ruler.
func Lengths(w http.ResponseWriter, r *http.Request) error {
	all := r.URL.Query()["mm"]
	words := []string{}
	for _, text := range all[:min(len(all), maxLengths)] {
		mm, err := strconv.ParseFloat(text, 64)
		if err != nil || !(math.Abs(mm) <= length.Max.MM()) {
			return Refused(fmt.Errorf("%.20q is no length in millimetres", text))
		}
		words = append(words, length.FromMM(mm).Near(UnitOf(r)))
	}
	return SendJSON(w, words)
}

// SendJSON answers a script.
func SendJSON(w http.ResponseWriter, v any) error {
	w.Header().Set("Content-Type", "application/json")
	w.Header().Set("Cache-Control", "no-store")
	return json.NewEncoder(w).Encode(v)
}
