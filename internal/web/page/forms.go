package page

import (
	"encoding"
	"errors"
	"fmt"
	"io"
	"maps"
	"mime/multipart"
	"net/http"
	"net/url"
	"reflect"
	"slices"
	"strconv"
	"strings"

	"github.com/go-playground/form/v4"

	"chromaqua/core/change"
	"chromaqua/core/length"
)

// maxForm bounds the body of a request that carries no file, bytes.
const maxForm = 1 << 20

// decoder reads forms into structs by the names that JSON has for their fields.
var decoder = func() *form.Decoder {
	d := form.NewDecoder()
	d.SetTagName("json")
	d.RegisterCustomTypeFunc(func(v []string) (any, error) {
		n, err := strconv.Atoi(v[0])
		if err != nil {
			return 0, fmt.Errorf("%.20q is no whole number", v[0])
		}
		return n, nil
	}, 0)
	d.RegisterCustomTypeFunc(func(v []string) (any, error) { return v[0] == "true" || v[0] == "yes", nil }, false)
	d.RegisterCustomTypeFunc(func(v []string) (any, error) { return change.ParseNumber(v[0]) }, 0.0)
	d.RegisterCustomTypeFunc(readText[change.Number], change.Number(0))
	d.RegisterCustomTypeFunc(readText[change.Temperature], change.Temperature(0))
	d.RegisterCustomTypeFunc(readText[change.Material], change.Material{})
	return d
}()

// readText reads what knows how to read itself.
func readText[T any, P interface {
	*T
	encoding.TextUnmarshaler
}](v []string) (any, error) {
	var out T
	err := P(&out).UnmarshalText([]byte(v[0]))
	return out, err
}

// Read reads the form of a request that carries no file.
func Read(w http.ResponseWriter, r *http.Request) error {
	r.Body = http.MaxBytesReader(w, r.Body, maxForm)
	if err := r.ParseForm(); err != nil {
		return refusedForm(err)
	}
	return nil
}

// Decode reads what a request says into a struct, by the names that JSON has for its
// fields; spaces round values are dropped. A number has to be there unless it is a
// pointer; one left empty counts as left out. The tag "words" names a field in errors
// where its own name would say nothing to the maker.
func Decode(r *http.Request, into any) error {
	if err := r.ParseForm(); err != nil {
		return refusedForm(err)
	}
	if r.Method == http.MethodGet {
		return decode(r.Form, into)
	}
	return decode(r.PostForm, into)
}

func decode(all url.Values, into any) error {
	trimmed := url.Values{}
	fields := fieldsOf(reflect.TypeOf(into).Elem())
	for name, v := range all {
		f, known := fields[name]
		if !known || len(v) == 0 {
			continue
		}
		if text := strings.TrimSpace(v[0]); text != "" || !f.number {
			trimmed[name] = []string{text}
		}
	}
	for _, name := range slices.Sorted(maps.Keys(fields)) {
		if f := fields[name]; f.number && !f.optional && trimmed[name] == nil {
			return fmt.Errorf("%s: write a number", f.words)
		}
	}
	err := decoder.Decode(into, trimmed)
	var failed form.DecodeErrors
	if !errors.As(err, &failed) {
		return err
	}
	name := slices.Min(slices.Collect(maps.Keys(failed))) // one at a time, and always the same
	return fmt.Errorf("%s: %w", fields[name].words, failed[name])
}

// field is what the decoding of a field depends on.
type field struct {
	words            string
	number, optional bool
}

func fieldsOf(t reflect.Type) map[string]field {
	out := map[string]field{}
	for i := range t.NumField() {
		f := t.Field(i)
		if f.Anonymous {
			for name, of := range fieldsOf(f.Type) {
				out[name] = of
			}
			continue
		}
		name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		if name == "" {
			continue
		}
		is := f.Type
		if is.Kind() == reflect.Pointer {
			is = is.Elem()
		}
		number := is.Kind() == reflect.Int || is.Kind() == reflect.Float64
		words := f.Tag.Get("words")
		if words == "" {
			words = name
		}
		out[name] = field{words, number, f.Type.Kind() == reflect.Pointer}
	}
	return out
}

// A File came with a form. It lies on the disk until it is read, so that many may come in
// at once.
type File struct {
	Name string
	Size int64
	Page int // of a PDF, from 1
	sent *multipart.FileHeader
}

// SentFile takes the file of a form in; limit bounds its size.
func SentFile(w http.ResponseWriter, r *http.Request, limit int64) (*File, error) {
	r.Body = http.MaxBytesReader(w, r.Body, limit+maxForm)
	if err := r.ParseMultipartForm(maxForm); err != nil {
		return nil, refusedForm(err)
	}
	sent := r.MultipartForm.File["file"]
	if len(sent) == 0 {
		return nil, Refused(errors.New("no file was chosen; choose one and send it again"))
	}
	if sent[0].Size == 0 {
		return nil, Refused(errors.New("the file is empty; choose another"))
	}
	at := 1
	if text := strings.TrimSpace(r.PostFormValue("page")); text != "" {
		var err error
		if at, err = strconv.Atoi(text); err != nil || at < 1 {
			return nil, Refused(fmt.Errorf("%.20q is no page of a PDF; count them from 1", text))
		}
	}
	return &File{sent[0].Filename, sent[0].Size, at, sent[0]}, nil
}

// Open opens the file where it lies.
func (f *File) Open() (multipart.File, error) { return f.sent.Open() }

// Data reads the file whole.
func (f *File) Data() ([]byte, error) {
	in, err := f.Open()
	if err != nil {
		return nil, err
	}
	defer in.Close()
	return io.ReadAll(in)
}

// BaseOf returns the revision a form was made on. Each names one, from 1, so that nothing
// is overwritten that its page did not show.
func BaseOf(r *http.Request) (int64, error) {
	base, err := strconv.ParseInt(r.PostFormValue("base"), 10, 64)
	if err != nil || base < 1 {
		return 0, Refused(ErrOldPage)
	}
	return base, nil
}

// UnitOf is the ruler a page without a card of its own is shown in.
func UnitOf(r *http.Request) length.Unit {
	if r.FormValue("unit") == length.Millimetres.String() {
		return length.Millimetres
	}
	return length.Inches
}
