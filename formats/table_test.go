package formats_test

import (
	"maps"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/demo"
	"cressa/formats"
)

// The same diagram in the layouts that people send each other.
var layouts = map[string]string{
	"mail": `Evening Round, 96 index, R.I. 1.54

Pavilion
P1 41.0 3-9-15-21-27-33-39-45-51-57-63-69-75-81-87-93 to a centre point
G1 90 3-9-15-21-27-33-39-45-51-57-63-69-75-81-87-93 size 0.5
Crown
C1 34° 3-9-15-21-27-33-39-45-51-57-63-69-75-81-87-93  girdle 2 %
T  0° 96 table 55%`,
	"tabs": "Name: Evening Round\nGear: 96\nn = 1.54\nFacet\tAngle (deg)\tIndex settings\tInstructions\n" +
		"P1\t41.0°\t3, mirrored, 8-fold\tcentre\nG1\t90\t3 9 15 21 27 33 39 45\tsize 0.5\n\t\t51 57 63 69 75 81 87 93\n" +
		"C1\t34\tevery 6 from 3\tgirdle 0.02\nT\t0\t96\twidth 0.55",
	"bars": `Evening Round
| Tier | Angle | Index | Stop |
| P1 | 41 | every 6 from 3 | centre |
| G1 | 90 | every 6 from 3 | size 0.5 |
| C1 | 34 | every 6 from 3 | girdle 0.02 |
| T | 0 | 96 | width 0.55 |
Gear 96; refractive index 1.54`,
	"semicolons": "name;Evening Round\r\ngear;96\r\nrefractive index;1,54\r\ntier;angle;index;stop\r\nP1;41,0;\"3-9-15-21-27-33-39-45-51-57-63-69-75-81-87-93\";centre\r\nG1;90,0;every 6 from 3;size 0,5\r\nC1;34;every 6 from 3;girdle 0,02\r\nT;0;96;width 0,55",
}

func TestATableIsRecognisedInAnySensibleLayout(t *testing.T) {
	var volume float64
	for name, text := range layouts {
		table, mistake := formats.ReadTable(text)
		require.Nil(t, mistake, name)
		d, problems := table.Draft.Read()
		require.Empty(t, problems, "%s: %+v", name, table.Mistakes)
		assert.Equal(t, "Evening Round", d.Name, name)
		assert.Equal(t, 1.54, d.RefractiveIndex, name)
		stone, err := cutting.Cut(d)
		require.NoError(t, err, name)
		if volume == 0 {
			volume = stone.Measures().Volume
		}
		assert.InDelta(t, volume, stone.Measures().Volume, 1e-9, name)
	}
}

func TestWhatCannotBeReadIsMarkedWithItsLineAndKept(t *testing.T) {
	table, mistake := formats.ReadTable("Odd piece\nthis line is a remark of somebody else: beware\n" +
		"P1 41.0 3-9-15 until it looks right\n1 38 6-12 two P1\nG1 90 12-x\n")
	require.Nil(t, mistake)
	at := map[diagram.Code]formats.Mistake{}
	for _, m := range table.Mistakes {
		if _, had := at[m.Code]; !had {
			at[m.Code] = m
		}
	}
	assert.Equal(t, 2, at[formats.LineNotRead].Line)
	assert.Contains(t, table.Draft.Note, "beware", "nothing is dropped")
	assert.Equal(t, 3, at[formats.StopNotRead].Line)
	assert.Equal(t, 16, at[formats.StopNotRead].Column)
	assert.Contains(t, table.Draft.Tiers[0].Note, "until it looks right")
	assert.Equal(t, "meet P1 P1", at[formats.StopGuessed].Text)
	assert.Equal(t, 4, at[formats.PartGuessed].Line)
	assert.EqualValues(t, 64, at[formats.GearGuessed].Value)

	table, _ = formats.ReadTable("nothing of the kind")
	assert.Equal(t, formats.NoTable, table.Mistakes[0].Code)
	_, mistake = formats.ReadTable(strings.Repeat("x", formats.MaxTableBytes+1))
	assert.Equal(t, formats.TooLarge, mistake.Code)
}

func TestAWrittenTableReadsBack(t *testing.T) {
	for _, name := range []string{"round", "squarestep", "emerald", "pinwheel", "skew"} {
		d := example(t, name)
		data, err := formats.WriteCSV(d)
		require.NoError(t, err)
		table, mistake := formats.ReadTable(string(data))
		require.Nil(t, mistake)
		assert.Empty(t, table.Mistakes, name)
		back, problems := table.Draft.Read()
		require.Empty(t, problems)
		assert.Equal(t, d, back, name)
	}
}

// Whatever order, signs and separators somebody used: what a table of a diagram that
// ships says is read as it was meant, or marked.
func TestTablesInManyHandsReadTheSame(t *testing.T) {
	all, err := demo.Diagrams()
	require.NoError(t, err)
	names := slices.Sorted(maps.Keys(all))
	rapid.Check(t, func(t *rapid.T) {
		d := all[rapid.SampledFrom(names).Draw(t, "diagram")]
		draft := diagram.DraftOf(d)
		between := rapid.SampledFrom([]string{"\t", " | ", ";", "   "}).Draw(t, "separator")
		joined := rapid.SampledFrom([]string{"-", " ", ", "}).Draw(t, "indexes")
		degree := rapid.SampledFrom([]string{"", "°"}).Draw(t, "degree")
		comma := between != "   " && joined != ", " && rapid.Bool().Draw(t, "comma")
		order := rapid.Permutation([]int{0, 1, 2, 3}).Draw(t, "order")
		heads := rapid.SampledFrom([][]string{{"Tier", "Angle", "Index", "Stop"}, {"Facet", "Angle (deg)", "Index settings", "Instructions"}}).Draw(t, "heads")
		decimal := func(text string) string {
			if comma {
				return strings.ReplaceAll(text, ".", ",")
			}
			return text
		}
		row := func(cells []string) string {
			var out []string
			for _, i := range order {
				out = append(out, cells[i])
			}
			return strings.Join(out, between)
		}
		lines := []string{d.Name, "Gear " + draft.Gear, "n = " + decimal(draft.RefractiveIndex), row(heads)}
		for _, tier := range draft.Tiers {
			lines = append(lines, row([]string{tier.Name, decimal(tier.Angle) + degree, strings.ReplaceAll(tier.Indexes, "-", joined), tier.Stop}))
		}
		text := strings.Join(lines, "\n")
		table, mistake := formats.ReadTable(text)
		require.Nil(t, mistake, text)
		require.Equal(t, draft.Gear, table.Draft.Gear, text)
		back, problems := table.Draft.Read()
		require.Empty(t, problems, "%s\n%+v", text, table.Mistakes)
		assert.Equal(t, d.RefractiveIndex, back.RefractiveIndex, text)
		want := slices.Clone(d.Tiers)
		for i := range want {
			want[i].Note, want[i].Optional = "", false
		}
		assert.Equal(t, want, back.Tiers, "%s\n%+v", text, table.Mistakes)
	})
}

// Every line that is not blank must be accounted for, whatever the text.
func FuzzReadTable(f *testing.F) {
	for _, text := range layouts {
		f.Add(text)
	}
	f.Add("Tier|Angle\n|||\nP1 4° 1-2 meet")
	f.Fuzz(func(t *testing.T, text string) {
		table, mistake := formats.ReadTable(text)
		if mistake != nil {
			return
		}
		lines := 0
		for _, line := range strings.Split(strings.TrimPrefix(strings.ReplaceAll(text, "\r", "\n"), "\ufeff"), "\n") {
			if strings.TrimSpace(line) != "" {
				lines++
			}
		}
		assert.Len(t, table.Lines, lines)
		assert.LessOrEqual(t, len(table.Draft.Tiers), diagram.MaxTiers)
		for _, m := range table.Mistakes {
			assert.Positive(t, m.Line)
			assert.Positive(t, m.Column)
		}
	})
}

func example(t *testing.T, name string) *diagram.Diagram {
	t.Helper()
	data, err := os.ReadFile("../core/cutting/testdata/" + name + ".cressa.json")
	require.NoError(t, err)
	d, mistakes := formats.ReadDiagram(data)
	require.Empty(t, mistakes)
	return d
}
