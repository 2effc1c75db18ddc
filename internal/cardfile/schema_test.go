package cardfile_test

import (
	"bytes"
	"context"
	"encoding/json"
	"os"
	"path/filepath"
	"reflect"
	"strings"
	"testing"

	generator "github.com/invopop/jsonschema"
	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/joint"
	"chromaqua/core/length"
	"chromaqua/core/nest"
	"chromaqua/core/panel/paneltest/jobs"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
	"chromaqua/internal/demo"
	"chromaqua/internal/store"
)

// schemaFile is the schema as it is published.
const schemaFile = "../../docs/card-file.schema.json"

// words are the types of which only some words are written.
var words = map[reflect.Type][]string{
	reflect.TypeFor[technique.Kind]():    texts(technique.Kinds()),
	reflect.TypeFor[card.PieceKind]():    kinds(),
	reflect.TypeFor[card.Face]():         texts(card.Faces()),
	reflect.TypeFor[joint.By]():          joints(),
	reflect.TypeFor[card.Shape]():        texts(card.Shapes()),
	reflect.TypeFor[card.ZoneEdge]():     texts(card.ZoneEdges()),
	reflect.TypeFor[card.HandlingKind](): texts(append(card.HandlingKinds(), card.PutWords, card.Embellish)),
	reflect.TypeFor[card.TextWay]():      texts(card.TextWays()),
	reflect.TypeFor[joint.Item]():        embellishments(),
	reflect.TypeFor[card.BareWay]():      texts(card.BareWays()),
	reflect.TypeFor[card.MarkKind]():     {string(card.Pen), string(card.Join), string(card.Bare)},
	reflect.TypeFor[card.LayerKind]():    {string(card.Mat), string(card.Frame)},
	reflect.TypeFor[card.Relief]():       texts(card.Reliefs()),
	reflect.TypeFor[card.Drying]():       texts(card.Dryings()),
	reflect.TypeFor[card.Edge]():         texts(card.Edges()),
	reflect.TypeFor[card.HoldKind]():     holds(),
	reflect.TypeFor[card.TapeKind]():     tapes(),
	reflect.TypeFor[shelf.Look]():        texts(shelf.Looks()),
	reflect.TypeFor[shelf.ImageKind]():   texts(shelf.ImageKinds()),
	reflect.TypeFor[nest.Side]():         {string(nest.Left), string(nest.Right), string(nest.Top), string(nest.Bottom)},
	reflect.TypeFor[length.Unit]():       {"in", "mm"},
	reflect.TypeFor[pigment.Strength]():  strengths(),
}

func embellishments() (out []string) {
	for _, f := range joint.Items() {
		out = append(out, string(f.Item))
	}
	return out
}

func texts[T ~string](all []T) (out []string) {
	for _, v := range all {
		out = append(out, string(v))
	}
	return out
}

func kinds() (out []string) {
	for _, f := range card.PieceFacts() {
		out = append(out, string(f.Kind))
	}
	return out
}

func joints() (out []string) {
	for _, f := range joint.Facts() {
		out = append(out, string(f.By))
	}
	return out
}

func holds() (out []string) {
	for _, f := range card.HoldFacts() {
		out = append(out, string(f.Kind))
	}
	return out
}

func tapes() (out []string) {
	for _, f := range card.TapeFacts() {
		out = append(out, string(f.Kind))
	}
	return out
}

func strengths() (out []string) {
	for _, s := range pigment.Strengths() {
		out = append(out, string(s))
	}
	return out
}

// schema is that of a card's JSON, made from the types that are read and written.
func schema(t *testing.T) []byte {
	r := generator.Reflector{Anonymous: true, Mapper: func(of reflect.Type) *generator.Schema {
		if of == reflect.TypeFor[length.Length]() {
			return &generator.Schema{Type: "string", Pattern: `^-?[0-9]+(\.[0-9]+)?( [0-9]+/[0-9]+)?( in| mm)$|^-?[0-9]+/[0-9]+ in$`, Description: "a length, exact: 4 1/4 in, 105 mm"}
		}
		if all, known := words[of]; known {
			s := &generator.Schema{Type: "string"}
			for _, w := range all {
				s.Enum = append(s.Enum, w)
			}
			return s
		}
		return nil
	}}
	s := r.Reflect(&card.Card{})
	s.Title = "Chromaqua card, version " + json.Number(jsonInt(card.Version)).String()
	doc, err := json.MarshalIndent(s, "", "  ")
	require.NoError(t, err)
	return append(doc, '\n')
}

func jsonInt(n int) string { b, _ := json.Marshal(n); return string(b) }

// compiled is the published schema, ready to be held against documents.
func compiled(t *testing.T) *jsonschema.Schema {
	doc, err := os.ReadFile(schemaFile)
	require.NoError(t, err)
	parsed, err := jsonschema.UnmarshalJSON(bytes.NewReader(doc))
	require.NoError(t, err)
	c := jsonschema.NewCompiler()
	require.NoError(t, c.AddResource("card.json", parsed))
	s, err := c.Compile("card.json")
	require.NoError(t, err)
	return s
}

// The published schema is that of the program.
func TestSchemaIsPublished(t *testing.T) {
	doc := schema(t)
	if os.Getenv("CHROMAQUA_UPDATE") != "" {
		require.NoError(t, os.WriteFile(schemaFile, doc, 0o644))
	}
	published, err := os.ReadFile(schemaFile)
	require.NoError(t, err)
	assert.Equal(t, string(doc), string(published), "run the tests with CHROMAQUA_UPDATE=1, and read what changed")
}

// Every sample holds to the schema; what does not is told.
func TestSamplesHoldToTheSchema(t *testing.T) {
	s := compiled(t)
	ctx := context.Background()
	st, err := store.Open(ctx, filepath.Join(t.TempDir(), "demo.db"))
	require.NoError(t, err)
	defer st.Close()
	require.NoError(t, demo.Fill(ctx, st))
	all, _, err := st.Cards(ctx, store.Shown)
	require.NoError(t, err)
	var cards []*card.Card
	for _, r := range all {
		cards = append(cards, r.Card)
	}
	for _, j := range jobs.All() {
		cards = append(cards, j.Make().Card)
	}
	cards = append(cards, jobs.Worded().Card, jobs.Bits().Card, jobs.Bare().Card)
	require.Greater(t, len(cards), 15)
	for _, c := range cards {
		doc, err := c.Encode()
		require.NoError(t, err)
		assert.NoError(t, held(s, doc), c.Name)
	}
	doc, err := cards[len(cards)-1].Encode()
	require.NoError(t, err)
	for what, spoil := range map[string][2]string{
		"another technique": {`"graded"`, `"grated"`},
		"a length in feet":  {` mm"`, ` ft"`},
		"a field too many":  {`"name":`, `"nome": 1, "name":`},
		"a number as text":  {`"u": 0`, `"u": "0"`},
	} {
		bad := strings.Replace(string(doc), spoil[0], spoil[1], 1)
		require.NotEqual(t, string(doc), bad, what)
		assert.Error(t, held(s, []byte(bad)), what)
	}
}

func held(s *jsonschema.Schema, doc []byte) error {
	v, err := jsonschema.UnmarshalJSON(bytes.NewReader(doc))
	if err != nil {
		return err
	}
	return s.Validate(v)
}
