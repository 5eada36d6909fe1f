package formats_test

import (
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/diagram"
	"cressa/demo"
	"cressa/formats"
	"cressa/internal/mutants"
	"cressa/words"
)

// base is a good file; each case spoils it in one place.
const base = `{
  "format": "cressa-diagram/1",
  "name": "Bench Square",
  "gear": 96,
  "refractiveIndex": 1.544,
  "tiers": [
    {"name": "P1", "part": "pavilion", "angle": 42, "indexes": [96, 24, 48, 72], "stop": {"kind": "centre"}},
    {"name": "G1", "part": "girdle", "angle": 90, "indexes": [96, 24, 48, 72], "stop": {"kind": "size", "radius": 0.5}},
    {"name": "C1", "part": "crown", "angle": 35, "indexes": [96, 24, 48, 72], "stop": {"kind": "girdle", "thickness": 0.02}},
    {"name": "T", "part": "crown", "angle": 0, "indexes": [96], "stop": {"kind": "width", "ratio": 0.6}}
  ]
}`

func TestMistakesAreToldWithTheirPlace(t *testing.T) {
	for _, c := range []struct {
		old, new string
		line     int
		code     diagram.Code
		says     string
	}{
		{`"angle": 42`, `"angel": 42`, 7, formats.UnknownField, `"angle"`},
		{`"angle": 42`, `"angle": "42"`, 7, formats.WrongType, "a number"},
		{`"angle": 42`, `"angle": 42, "angle": 43`, 7, formats.TwiceField, "twice"},
		{`"angle": 42, `, ``, 7, formats.MissingField, `"angle" is missing`},
		{`"angle": 42`, `"angle": 90`, 7, diagram.BadAngle, "belong to the girdle"},
		{`"radius": 0.5`, `"radius": -1`, 8, diagram.OutOfRange, "over 0"},
		{`"radius": 0.5`, `"ratio": 0.5`, 8, formats.UnknownField, "no field"},
		{`"kind": "width"`, `"kind": "widht"`, 10, diagram.BadStop, "widht"},
		{`"name": "T"`, `"name": "P1"`, 10, diagram.TwiceTierName, "already"},
		{`"indexes": [96],`, `"indexes": [0, 96],`, 10, diagram.SameIndex, "96"},
		{`"gear": 96`, `"gear": 0`, 4, diagram.OutOfRange, "from 1 to 360"},
		{`"gear": 96`, `"gear": 1e99`, 4, formats.WrongType, "whole number"},
		{`"kind": "centre"`, `"kind": "meet", "tiers": ["G7"]`, 7, diagram.UnknownTier, "G7"},
		{`"kind": "centre"`, `"kind": "meet", "tiers": ["G1@5"]`, 7, diagram.UnknownIndex, "index 5"},
		{`"kind": "centre"`, `"kind": "girdle", "thickness": 0.1, "at": 1`, 7, formats.UnknownField, `"at"`},
		{`"part": "girdle"`, `"part": "belt"`, 8, diagram.UnknownValue, "belt"},
		{`"tiers": [`, `"tiers": [,`, 6, formats.NotJSON, "cannot be read"},
		{"\n}", "", 11, formats.NotJSON, "end of the file"},
		{"\n}", "\n} {}", 12, formats.NotJSON, "more text"},
	} {
		t.Run(c.new, func(t *testing.T) {
			require.Contains(t, base, c.old)
			_, mistakes := formats.ReadDiagram([]byte(strings.Replace(base, c.old, c.new, 1)))
			require.NotEmpty(t, mistakes)
			assert.Equal(t, c.code, mistakes[0].Code)
			assert.Equal(t, c.line, mistakes[0].Line)
			assert.Contains(t, words.Mistake("x", mistakes[0]), c.says)
		})
	}
}

// A misspelt field or a slip of the finger anywhere in a diagram is told
// with its own line, and what is right about the rest does not hide it.
func TestEveryBrokenLineIsTold(t *testing.T) {
	all, err := demo.Diagrams()
	require.NoError(t, err)
	field := regexp.MustCompile(`"(\w+)":`)
	number := regexp.MustCompile(`(:?) -?[0-9.]+(,?)$`)
	// Between them they have every kind of stop and of field but a distance.
	for _, name := range []string{"Three Sisters", "Little Dipper"} {
		data, err := formats.WriteDiagram(all[name])
		require.NoError(t, err)
		lines := strings.Split(string(data), "\n")
		for i, line := range lines {
			broken := func(text string) []formats.Mistake {
				changed := slices.Clone(lines)
				changed[i] = text
				_, mistakes := formats.ReadDiagram([]byte(strings.Join(changed, "\n")))
				return mistakes
			}
			at := func(m formats.Mistake) bool { return m.Line == i+1 }
			if f := field.FindStringSubmatch(line); f != nil {
				mistakes := broken(strings.Replace(line, f[1], f[1]+"x", 1))
				require.True(t, slices.ContainsFunc(mistakes, at), "%s, line %d: %s: %v", name, i+1, line, mistakes)
			}
			if number.MatchString(line) {
				mistakes := broken(number.ReplaceAllString(line, "$1 ?$2"))
				require.True(t, slices.ContainsFunc(mistakes, at), "%s, line %d: %s: %v", name, i+1, line, mistakes)
			}
		}
	}
}

func TestADiagramComesBackAsItWasWritten(t *testing.T) {
	files, err := filepath.Glob("../core/cutting/testdata/*.cressa.json")
	require.NoError(t, err)
	require.NotEmpty(t, files)
	for _, name := range files {
		data, err := os.ReadFile(name)
		require.NoError(t, err)
		d, mistakes := formats.ReadDiagram(data)
		require.Empty(t, mistakes, name)
		written, err := formats.WriteDiagram(d)
		require.NoError(t, err)
		again, mistakes := formats.ReadDiagram(written)
		require.Empty(t, mistakes, name)
		assert.Equal(t, d, again)

		// And through the editor's text, as somebody would type it.
		read, problems := diagram.DraftOf(d).Read()
		require.Empty(t, problems)
		assert.Equal(t, d, read)
	}
}

// Whatever comes in, the reader answers: with a diagram or with what is wrong.
func FuzzReadDiagram(f *testing.F) {
	f.Add([]byte(base))
	f.Add([]byte(`{"tiers":[{"stop":{"kind":"along","from":["P1@"]}}]}`))
	f.Add([]byte("\xff\xfe"))
	for _, data := range mutants.Of(500, []byte(base)) {
		f.Add(data)
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		d, mistakes := formats.ReadDiagram(data)
		if d == nil && len(mistakes) == 0 {
			t.Fatal("neither a diagram nor a mistake")
		}
	})
}
