package formats_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
	"pgregory.net/rapid"

	"cressa/core/diagram"
	"cressa/core/rough"
	"cressa/formats"
)

// What was written is read again as it was.
func TestRoughSurvivesItsFile(t *testing.T) {
	vec := rapid.Custom(func(t *rapid.T) r3.Vec {
		c := rapid.Float64Range(0.1, 20)
		return r3.Vec{X: c.Draw(t, "x"), Y: c.Draw(t, "y"), Z: -c.Draw(t, "z")}
	})
	rapid.Check(t, func(t *rapid.T) {
		p := &rough.Rough{Name: "lot 7, no. 3", Material: "Kunzite", Note: "two cracks", Carat: rapid.Float64Range(0.1, 50).Draw(t, "ct")}
		if rapid.Bool().Draw(t, "hull") {
			p.Solid = rough.Solid{Kind: rough.KindHull, Points: rapid.SliceOfN(vec, 4, 9).Draw(t, "points")}
		} else {
			p.Solid = rough.Solid{Kind: rough.KindPebble, Size: r3.Vec{X: 9, Y: 8, Z: 7}}
		}
		for range rapid.IntRange(0, 2).Draw(t, "trims") {
			p.Trims = append(p.Trims, rough.Trim{Normal: vec.Draw(t, "n"), Distance: 3, Kerf: 0.25})
		}
		for _, kind := range rough.FlawKinds[:rapid.IntRange(0, 3).Draw(t, "flaws")] {
			f := rough.Flaw{Name: string(kind), Kind: kind, At: vec.Draw(t, "at"), Rule: rapid.SampledFrom(rough.Rules).Draw(t, "rule")}
			if kind != rough.Point {
				f.Radius = 0.7
			}
			if kind == rough.Disc {
				f.Normal = vec.Draw(t, "normal")
			}
			p.Flaws = append(p.Flaws, f)
		}
		if rapid.Bool().Draw(t, "axis") {
			angle := rapid.Float64Range(0, 90).Draw(t, "toTable")
			p.Axis = &rough.Axis{Kind: rough.ColourAxis, Direction: vec.Draw(t, "axis"), ToTable: &angle}
			p.Colour = &rough.Colour{Along: [3]float64{0.1, 0.2, 0.3}, Zones: []rough.Zone{{Normal: vec.Draw(t, "zone"), From: -1, To: 2, RGB: [3]float64{1, 0, 0.5}}}}
		}
		data, err := formats.WriteRough(p)
		require.NoError(t, err)
		back, mistakes := formats.ReadRough(data)
		require.Empty(t, mistakes)
		require.Equal(t, p, back)
	})
}

func TestARoughFileWithoutItsPartsIsToldWhatIsMissing(t *testing.T) {
	_, mistakes := formats.ReadRough([]byte(`{"format": "cressa-rough/1", "flaws": [{"kind": "disc", "at": [1, 2]}]}`))
	var fields []string
	for _, m := range mistakes {
		fields = append(fields, string(m.Field)+" "+string(m.Code))
	}
	assert.ElementsMatch(t, []string{
		"material missing-field", "solid missing-field", "flaws.0. wrong-type",
		"flaws.0.rule missing-field", "flaws.0.radius missing-field", "flaws.0.normal missing-field",
	}, fields)
}

// Whatever is read without a mistake is written as a file that gives the same piece; its solid is worked out
// or refused with a place, and never brings the reader down.
func FuzzReadRough(f *testing.F) {
	f.Add([]byte(`{"format": "cressa-rough/1", "material": "quartz", "solid": {"kind": "box", "size": [4, 3, 2]}, "trims": [{"normal": [1, 0, 0], "distance": 1}]}`))
	f.Add([]byte(`{"format": "cressa-rough/1", "material": "quartz", "solid": {"kind": "hull", "points": [[0, 0, 0], [1, 0, 0], [0, 1, 0], [0, 0, 1e-9], [1, 1, 1]]}}`))
	f.Add([]byte(`{"format": "cressa-rough/1", "material": "quartz", "solid": {"kind": "pebble", "size": [1e-7, 900, 3]}, "flaws": [{"kind": "disc", "at": [0, 0, 0], "radius": 1, "normal": [1e-9, 0, 0], "rule": "hidden"}]}`))
	f.Fuzz(func(t *testing.T, data []byte) {
		p, mistakes := formats.ReadRough(data)
		if len(mistakes) > 0 {
			return
		}
		written, err := formats.WriteRough(p)
		require.NoError(t, err)
		again, mistakes := formats.ReadRough(written)
		require.Empty(t, mistakes)
		require.Equal(t, p, again)
		worked, err := p.Work()
		var problem diagram.Problem
		if err != nil {
			require.ErrorAs(t, err, &problem)
			require.Positive(t, formats.RoughMistake(data, problem).Line)
			return
		}
		require.GreaterOrEqual(t, worked.Whole.Volume(), worked.Body.Volume()-1e-6*worked.Whole.Volume())
	})
}
