package formats_test

import (
	"bytes"
	"encoding/csv"
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
	"cressa/core/printed"
	"cressa/demo"
	"cressa/formats"
	"cressa/internal/mutants"
)

// sheets are one diagram of seven tiers in the layouts that people print and send each other.
var sheets = map[string]string{
	"mail": `Evening Gift, 96 index, R.I. 1.54

Pavilion
P1 43.5 3-9-15-21-27-33-39-45-51-57-63-69-75-81-87-93 to a centre point
G1 90 3-9-15-21-27-33-39-45-51-57-63-69-75-81-87-93 size 0.5
P2 41 96-12-24-36-48-60-72-84 meet P1 G1
Crown
C1 42° 3-9-15-21-27-33-39-45-51-57-63-69-75-81-87-93  girdle 2 %
C2 36° 96-12-24-36-48-60-72-84  to meet C1/G1 corner
T  0° 96 table 55%
C3 22  6-18-30-42-54-66-78-90  C1 C2 corner`,
	"in words": `Evening Gift   96 index 1.54
 PAVILION
P1  43.50°  03-09-15-21-27-33-39-45-51-57-63-69-75-81-87-93  cut to a center point
G1  90.00°  same indexes   to size
P2  41.00°  96-12-…-84   to meet P1/G1 corner
 CROWN
C1  42.00   3-9-…-93    set girdle thickness 2%
C2  36.00   every 12 from 96   meet at girdle
Table 0  55% table
C3  22  06-18-30-42-54-66-78-90  to meet C1/C2 corner`,
	"tabs": "Name: Evening Gift\nGear: 96\nn = 1.54\nFacet\tAngle (deg)\tIndex settings\tInstructions\n" +
		"P1\t43.5°\t3, mirrored, 8-fold\tcentre\nG1\t90\t3 9 15 21 27 33 39 45\tsize 0.5\n\t\t51 57 63 69 75 81 87 93\n" +
		"P2\t41\tevery 12 from 96\tto meet P1 and G1\n" +
		"C1\t42\tevery 6 from 3\tgirdle 2 %\nC2\t36\t96-12-...-84\tmeet C1/G1\nT\t0\t96\twidth 0.55\nC3\t22\t6-18-...-90\tmeet C1-C2",
	"bars": `Evening Gift
| Tier | Angle | Index | Stop |
| P1 | 43.5 | every 6 from 3 | TCP |
| G1 | 90 | ditto | cut to size |
| P2 | 41 | every 12 from 96 | meet girdle |
| C1 | 42 | every 6 from 3 | girdle 2% |
| C2 | 36 | as P2 | to meet girdle line |
| T | 0 | 96 | width 0.55 |
| C3 | 22 | 6-18-30-42-54-66-78-90 | meet C1, C2 |
Gear 96; refractive index 1.54`,
	"semicolons": "name;Evening Gift\r\ngear;96\r\nrefractive index;1,54\r\ntier;angle;index;stop\r\nP1;43,5;\"3-9-15-21-27-33-39-45-51-57-63-69-75-81-87-93\";centre\r\n" +
		"G1;90,0;every 6 from 3;size 0,5\r\nP2;41;96-12-24-36-48-60-72-84;meet P1 G1\r\nC1;42;every 6 from 3;girdle 2 %\r\n" +
		"C2;36;96-12-24-36-48-60-72-84;meet C1 G1\r\nT;0;96;width 0,55\r\nC3;22;6-18-30-42-54-66-78-90;meet C1 C2",
	"stop below": `Evening Gift
Index 96   RI 1.54
P1   43.5°
     3-9-15-21-27-33-39-45-51-57-63-69-75-81-87-93
     cut to center point
G1   90°   3-9-15-21-27-33-39-45-
           51-57-63-69-75-81-87-93
     cut to size
P2   41°   96-12-24-36-48-60-72-84
     meet P1/G1
C1   42°   3-9-15-21-27-33-39-45-51-57-63-69-75-81-87-93
     leave a 2% girdle
C2   36°   96-12-24-36-48-60-72-84
     meet at girdle
T    0°    table 55 %
C3   22°   6-18-30-42-54-66-78-90
     meet C1/C2 corner`,
	"numbered": `Evening Gift - gear 96 - n 1.54
PAVILION
1  43.5  3-9-…-93      center point
2  90    same          size
3  41    96-12-…-84    meet 1 and 2
CROWN
4  42    3-9-…-93      set girdle 2 %
5  36    96-12-…-84    meet 4/2 corner
6  0     96            table 55 %
7  22    6-18-…-90     meet 4/5 corner`,
	"each side from 1": `Evening Gift (96 index, 1.54)
Pavilion facets:
1) 43.5° 3-9-…-93 to a centre point
2) 90.0° same indexes, to size
3) 41.0° 96-12-…-84, meets at girdle
Crown facets:
1) 42.0° 3-9-…-93, girdle 2 %
2) 36.0° 96-12-…-84, level the girdle
3) 0° table, 55 %
4) 22.0° 6-18-…-90, meet 1/2 corner`,
	"no heads, part by place": `Evening Gift
96 gear, 1.54
A: 43.5 @ 3-9-...-93, TCP
B: 90 @ same, to size
D: 41 @ 96-12-...-84, to meet A/B corner
E: 42 @ 3-9-...-93, set girdle thickness 2%
F: 36 @ 96-12-...-84, to meet E/B corner
T: 0 table 55%
H: 22 @ 6-18-...-90, to meet E/F corner`,
	"index first": `Evening Gift 96 index n=1.54
P1: 3-9-15-21-27-33-39-45-51-57-63-69-75-81-87-93 @ 43.5° center point
G1: 3-9-15-21-27-33-39-45-51-57-63-69-75-81-87-93 @ 90° size
P2: 96-12-24-36-48-60-72-84 @ 41° meet P1,G1
C1: 3-9-15-21-27-33-39-45-51-57-63-69-75-81-87-93 @ 42° 2% girdle
C2: 96-12-24-36-48-60-72-84 @ 36° meet C1,G1
T: 96 @ 0° table 55%
C3: 6-18-30-42-54-66-78-90 @ 22° meet C1,C2`,
	"two materials": `Evening Gift, 96 index
Angles for 1.54 / 1.62
P1 43.5/42.2 3-9-…-93 center point
G1 90/90 same indexes size
P2 41.0/39.5 96-12-…-84 meet P1/G1 corner
C1 42.0/40.5 3-9-…-93 girdle 2%
C2 36.0/34.5 96-12-…-84 meet C1/G1 corner
T 0 table 55%
C3 22.0/21.0 6-18-…-90 meet C1/C2 corner`,
	"two columns of angles": "Evening Gift\ngear: 96\nTier\tAngle 1.54\tAngle 1.62\tIndex\tCut\n" +
		"P1\t43.5\t42.2\t3-9-…-93\tto center point\nG1\t90\t90\tsame\tto size\nP2\t41\t39.5\t96-12-…-84\tmeet P1 G1\n" +
		"C1\t42\t40.5\t3-9-…-93\tgirdle 2 %\nC2\t36\t34.5\t96-12-…-84\tmeet C1 G1\nT\t0\t0\t96\t55 % table\nC3\t22\t21\t6-18-…-90\tmeet C1 C2",
	"main in brackets": `Evening Gift
Tooth gear 96, refractive index: 1.54
- P1 (breaks) 43.5 deg 3-9-15-21-27-33-39-45-51-57-63-69-75-81-87-93; temporary centre point
- G1 (girdle) 90 deg 3-9-15-21-27-33-39-45-51-57-63-69-75-81-87-93; to size
- P2 (mains) 41 deg 96-12-24-36-48-60-72-84; meetpoint P1 P1 G1
- C1 (breaks) 42 deg 3-9-15-21-27-33-39-45-51-57-63-69-75-81-87-93; girdle thickness 2 %
- C2 (mains) 36 deg 96-12-24-36-48-60-72-84; meetpoint C1 C1 G1
- T 0 deg; until the table is 55 %
- C3 (stars) 22 deg 6-18-30-42-54-66-78-90; meetpoint C1 C2`,
}

func read(t *testing.T, text string) *formats.Table {
	t.Helper()
	table, mistake := formats.ReadTable(text, formats.Reading{Width: "8"})
	require.Nil(t, mistake)
	return table
}

// Every layout makes the same stone, names aside, and all that is not sure is marked.
func TestASheetIsReadAsItIsPrinted(t *testing.T) {
	require.GreaterOrEqual(t, len(sheets), 12)
	whole := read(t, sheets["mail"])
	d, problems := printed.Diagram(whole.Draft)
	require.Empty(t, problems)
	want, err := cutting.Cut(d)
	require.NoError(t, err)
	for name, text := range sheets {
		t.Run(name, func(t *testing.T) {
			table := read(t, text)
			d, problems := printed.Diagram(table.Draft)
			require.Empty(t, problems, "%+v %+v", table.Mistakes, table.Draft)
			assert.Equal(t, "Evening Gift", d.Name)
			assert.Equal(t, 96, d.Gear)
			assert.Equal(t, 1.54, d.RefractiveIndex)
			stone, err := cutting.Cut(d)
			require.NoError(t, err)
			assert.InDelta(t, want.Measures().Volume, stone.Measures().Volume, 1e-6)
			assert.Equal(t, want.Measures().Facets, stone.Measures().Facets)
			for _, l := range table.Lines {
				assert.NotEqual(t, formats.LineUnread, l.Kind, l.Text)
			}
		})
	}
}

func TestTheAnglesForAnotherMaterialAreTakenAndTheFirstKept(t *testing.T) {
	for _, name := range []string{"two materials", "two columns of angles"} {
		table, mistake := formats.ReadTable(sheets[name], formats.Reading{Angles: 1})
		require.Nil(t, mistake)
		require.Len(t, table.Angles, 2, name)
		assert.Equal(t, "1.62", table.Draft.RefractiveIndex, name)
		assert.Equal(t, "42.2", table.Draft.Tiers[0].Angle, name)
		assert.Contains(t, table.Draft.Tiers[0].Note, "1.54", name)
		assert.Contains(t, table.Draft.Tiers[0].Note, "43.5", name)
	}
}

func TestWhatCannotBeReadIsMarkedWithItsLineAndKept(t *testing.T) {
	table := read(t, "Odd piece\nthis line is a remark of somebody else: beware\n"+
		"P1 41.0 3-9-15 until it looks right\n1 38 6-12 two P1\nG1 90 12-x\n")
	at := map[diagram.Code]formats.Mistake{}
	for _, m := range table.Mistakes {
		if _, had := at[m.Code]; !had {
			at[m.Code] = m
		}
	}
	assert.Equal(t, 2, at[formats.LineNotRead].Line)
	assert.Contains(t, table.Draft.Note, "beware", "nothing is dropped")
	assert.EqualValues(t, 64, at[formats.GearGuessed].Value)
	assert.Equal(t, "until it looks right", table.Draft.Tiers[0].Stop, "words that say nothing stay where they stood")
	_, readings := printed.Read(table.Draft)
	i := slices.IndexFunc(readings, func(g printed.Reading) bool { return g.TierNo == 0 && g.Field == diagram.FieldStop })
	assert.Equal(t, printed.StopNotRead, readings[i].How)
	assert.False(t, readings[i].Sure)

	assert.Equal(t, formats.NoTable, read(t, "nothing of the kind").Mistakes[0].Code)
	_, mistake := formats.ReadTable(strings.Repeat("x", formats.MaxTableBytes+1), formats.Reading{})
	assert.Equal(t, formats.TooLarge, mistake.Code)
}

func TestAWrittenTableReadsBack(t *testing.T) {
	for _, name := range []string{"round", "squarestep", "emerald", "pinwheel", "skew"} {
		d := example(t, name)
		data, err := formats.WriteCSV(d)
		require.NoError(t, err)
		table, mistake := formats.ReadTable(string(data), formats.Reading{})
		require.Nil(t, mistake)
		assert.Empty(t, table.Mistakes, name)
		back, problems := printed.Diagram(table.Draft)
		require.Empty(t, problems)
		assert.Equal(t, d, back, name)
	}
}

func TestATableHoldsNoFormulas(t *testing.T) {
	d := example(t, "round")
	d.Name, d.Designer, d.Note, d.Tiers[0].Note = `=HYPERLINK("x","y")`, "+1", "-2+3", "@SUM(A1)"
	d.Tiers[0].Indexes[0] -= float64(d.Gear)
	data, err := formats.WriteCSV(d)
	require.NoError(t, err)
	rows := csv.NewReader(bytes.NewReader(data))
	rows.FieldsPerRecord = -1
	cells, err := rows.ReadAll()
	require.NoError(t, err)
	for _, cell := range slices.Concat(cells...) {
		assert.NotRegexp(t, `^[=+@\t\r-]`, cell)
	}
	table, mistake := formats.ReadTable(string(data), formats.Reading{})
	require.Nil(t, mistake)
	back, problems := printed.Diagram(table.Draft)
	require.Empty(t, problems)
	d.Tiers[0].Indexes[0] += float64(d.Gear)
	assert.Equal(t, d, back)
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
		table, mistake := formats.ReadTable(text, formats.Reading{})
		require.Nil(t, mistake, text)
		require.Equal(t, draft.Gear, table.Draft.Gear, text)
		back, problems := printed.Diagram(table.Draft)
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
	var whole [][]byte
	for _, text := range sheets {
		f.Add(text)
		whole = append(whole, []byte(text))
	}
	for _, data := range mutants.Of(500, whole...) {
		f.Add(string(data))
	}
	f.Add("Tier|Angle\n|||\nP1 4° 1-2 meet")
	f.Fuzz(func(t *testing.T, text string) {
		table, mistake := formats.ReadTable(text, formats.Reading{})
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
		// Whatever it was read as can be looked at, and reads the same again.
		once, _ := printed.Read(table.Draft)
		again, _ := printed.Read(once)
		assert.Equal(t, len(table.Draft.Tiers), len(again.Tiers))
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
