package printed_test

import (
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
)

// sheet is a draft of rows "name | part | angle | indexes | stop" on 96 teeth, planned 8 mm wide.
func sheet(rows ...string) diagram.Draft {
	d := diagram.Draft{Name: "sheet", Outline: "round", Gear: "96", RefractiveIndex: "1.54", Width: "8", FirstSide: "pavilion", Indexing: "dialled"}
	for _, row := range rows {
		f := strings.Split(row, "|")
		for i := range f {
			f[i] = strings.TrimSpace(f[i])
		}
		d.Tiers = append(d.Tiers, diagram.DraftTier{Key: f[0], Name: f[0], Part: f[1], Angle: f[2], Indexes: f[3], Stop: f[4]})
	}
	return d
}

// round is a draft to which rows are added: pavilion and girdle of a round.
func round(rows ...string) diagram.Draft {
	return sheet(append([]string{
		"P1 | | 43.5 | every 6 from 3 | TCP", "G1 | | 90 | same | to size", "P2 | | 41 | every 12 from 96 | to meet P1/G1 corner",
	}, rows...)...)
}

// of finds what was read of a field.
func of(t *testing.T, d diagram.Draft, tierNo int, field diagram.Field) (string, printed.Reading) {
	t.Helper()
	read, readings := printed.Read(d)
	i := slices.IndexFunc(readings, func(g printed.Reading) bool { return g.TierNo == tierNo && g.Field == field })
	row := read.Tiers[tierNo]
	text := map[diagram.Field]string{
		diagram.FieldPart: row.Part, diagram.FieldAngle: row.Angle, diagram.FieldIndexes: row.Indexes, diagram.FieldStop: row.Stop,
	}[field]
	if i < 0 {
		return text, printed.Reading{}
	}
	return text, readings[i]
}

func TestStopsAreReadInTheWordsThatSheetsUse(t *testing.T) {
	for _, c := range []struct {
		row, stop string
		code      printed.Way
	}{
		{"C1 | | 42 | every 6 from 3 | set girdle thickness 0.3", "girdle 0.038235", printed.LengthRead},
		{"C1 | | 42 | every 6 from 3 | set girdle 3 %", "girdle 0.030588", printed.LengthRead},
		{"C1 | | 42 | every 6 from 3 | leave 0.24mm girdle", "girdle 0.030588", printed.LengthRead},
		{"C1 | | 42 | every 6 from 3 | girdle 0.3", "girdle 0.038235", printed.LengthRead},
		{"C1 | | 42 | every 6 from 3 | 0.3 mm", "girdle 0.038235", printed.LengthRead},
		{"C1 | | 42 | every 6 from 3 | girdle 0.03", "girdle 0.03", ""},
		{"C1 | | 42 | every 6 from 3 | level the girdle", "girdle 0.020392", printed.FigureAssumed},
		{"C1 | | 42 | every 6 from 3 | girdle 1.5 mm", "girdle 0.191173", printed.GirdleOdd},
		{"C1 | | 42 | every 6 from 3 | girdle 0.005", "girdle 0.005", printed.GirdleOdd},
		{"P3 | | 38 | 6-18-30-42-54-66-78-90 | cut to a center point", "centre", printed.Understood},
		{"P3 | | 38 | 6-18-30-42-54-66-78-90 | c.p.", "centre", printed.Understood},
		{"P3 | | 38 | 6-18-30-42-54-66-78-90 | meet two P1 and P2", "meet P1 P1 P2", printed.Understood},
		{"P3 | | 38 | 6-18-30-42-54-66-78-90 | P1-P2 meetpoint", "meet P1 P2", printed.Understood},
		{"P3 | | 38 | 6-18-30-42-54-66-78-90 | kiss P1 and P2", "meet P1 P2", printed.StopGuessed},
		{"P3 | | 38 | 6-18-30-42-54-66-78-90 | as deep as it looks right", "", printed.StopNotRead},
		{"P3 | | 38 | 6-18-30-42-54-66-78-90 | meetpoint", "", printed.StopToFind},
		{"P3 | | 60 | 6-18-30-42-54-66-78-90 | level the girdle", "meet P1 P2 G1", printed.CornerTaken},
		{"P3 | | 38 | every 6 from 3 | meet P9", "meet P9", ""},
		{"P3 | | 41 | every 6 from 3 | girdle 0.3 mm", "girdle 0.038235", printed.LengthRead},
		{"T | | 0 | | table 4.4 mm", "width 0.55", printed.LengthRead},
		{"G2 | | 90 | every 12 from 96 | size 7.8 mm", "size 0.4875", printed.LengthRead},
	} {
		stop, g := of(t, round(c.row), 3, diagram.FieldStop)
		assert.Equal(t, c.stop, stop, c.row)
		assert.Equal(t, c.code, g.How, c.row)
		if c.code == printed.StopGuessed || c.code == printed.StopNotRead || c.code == printed.GirdleOdd || c.code == printed.FigureAssumed {
			assert.False(t, g.Sure, c.row)
		}
	}
	without := round("C1 | | 42 | every 6 from 3 | girdle 0.3 mm")
	without.Width = ""
	stop, g := of(t, without, 3, diagram.FieldStop)
	assert.Empty(t, stop)
	assert.Equal(t, printed.WidthNeeded, g.How)
}

func TestHalfwayIsTakenOnTheLongestEdgeOfTheTierBefore(t *testing.T) {
	d := sheet("P1 | | 60 | 96-24-48-72 | centre", "G1 | | 90 | 96-24-48-72 | size 0.5", "P2 | | 45 | 96-24-48-72 | by eye, about halfway")
	_, g := of(t, d, 2, diagram.FieldStop)
	assert.Equal(t, printed.StopByEye, g.How)
	assert.False(t, g.Sure)
	read, problems := printed.Diagram(d)
	require.Empty(t, problems)
	s, err := cutting.UpTo(read, 3)
	require.NoError(t, err)
	// The corners of the square pyramid run from the girdle, at z = 0.5·tan 60, to the centre.
	assert.InDelta(t, 0.433, s.Facets[8].Target.Z, 1e-3)
}

func TestThePartFollowsAngleNameAndPlace(t *testing.T) {
	for _, c := range []struct {
		row, part string
		code      printed.Way
	}{
		{"2 | | 90 | same | size", "girdle", printed.PartByAngle},
		{"P7 | | 30 | same | ", "pavilion", printed.PartByName},
		{"Star | | 22 | same | ", "crown", printed.PartByName},
		{"T | | 0 | | ", "crown", printed.PartByName},
		{"G2 | | 88 | same | ", "girdle", printed.PartByName},
		{"G2 | | 40.5 | same | ", "pavilion", printed.PartAsked},
		{"4 | | 34 | same | ", "crown", printed.PartAsked},
		{"4 | | 34 | same | set girdle thickness", "crown", printed.PartByPlace},
		{"4 | | 34 | same | meet P1/G1", "pavilion", printed.PartByPlace},
		{"4 | crown | 34 | same | ", "crown", ""},
	} {
		part, g := of(t, round(c.row), 3, diagram.FieldPart)
		assert.Equal(t, c.part, part, c.row)
		assert.Equal(t, c.code, g.How, c.row)
		assert.Equal(t, c.code != printed.PartAsked && c.code != "", g.Sure, c.row)
	}
	part, g := of(t, round("C1 | | 40 | same | girdle 3 %", "5 | | 30 | same | "), 4, diagram.FieldPart)
	assert.Equal(t, "crown", part)
	assert.Equal(t, printed.PartByPlace, g.How, "the second side has begun")
}

func TestIndexesAndAnglesAreReadAsPrinted(t *testing.T) {
	for text, want := range map[string]string{
		"3-9-…-93":            "3-9-15-21-27-33-39-45-51-57-63-69-75-81-87-93",
		"96, 24 ... 72":       "96-24-48-72",
		"12-36 etc.":          "12-36-60-84",
		"90-6-…-74":           "90-6-18-30-42-54-66-78", // no run of twelves ends at 74
		"same as G1":          "every 6 from 3",
		"ditto":               "every 12 from 96",
		"index 3/93 & 45, 51": "3-93-45, 51",
	} {
		got, _ := of(t, round("P3 | | 39 | "+text+" | centre"), 3, diagram.FieldIndexes)
		if strings.HasSuffix(text, "74") {
			want = text
		}
		assert.Equal(t, want, got, text)
	}
	for text, want := range map[string]string{"41,5°": "41,5", "41°30'": "41.5", "42.0/40.5": "42.0", "41 deg.": "41", "steep": "steep"} {
		got, g := of(t, round("P3 | | "+text+" | same | centre"), 3, diagram.FieldAngle)
		assert.Equal(t, want, got)
		assert.Equal(t, text == "42.0/40.5", g.How == printed.AngleChosen)
	}
}

// A draft in the language of package diagram needs no reading and is not touched.
func TestWhatIsADiagramAlreadyStaysAsItIs(t *testing.T) {
	all, err := demo.Diagrams()
	require.NoError(t, err)
	for name, d := range all {
		draft := diagram.DraftOf(d)
		draft.Width = "8"
		read, readings := printed.Read(draft)
		draft.Width = ""
		assert.Equal(t, draft, read, name)
		assert.Empty(t, readings, name)
	}
}

// Whatever stands in the fields, tiers keep their number and place, what was read reads the same
// again, and nothing that was typed is lost.
func TestAnythingCanBeRead(t *testing.T) {
	words := []string{"meet", "P1", "G1", "girdle", "0.3", "mm", "halfway", "3-9-…-93", "same", "%", "to", "centre", "point", "P1/G1", "…", "96", "every", "6", "(", "table", ""}
	text := rapid.Custom(func(t *rapid.T) string {
		return strings.Join(rapid.SliceOfN(rapid.SampledFrom(words), 0, 5).Draw(t, "words"), " ")
	})
	rapid.Check(t, func(t *rapid.T) {
		d := round()
		for i := range rapid.IntRange(0, 4).Draw(t, "rows") {
			d.Tiers = append(d.Tiers, diagram.DraftTier{
				Key: string(rune('a' + i)), Name: rapid.SampledFrom([]string{"", "1", "P3", "C1", "a", "T"}).Draw(t, "name"),
				Angle: rapid.SampledFrom([]string{"", "0", "34", "42/40", "90", "x"}).Draw(t, "angle"), Indexes: text.Draw(t, "indexes"), Stop: text.Draw(t, "stop"),
			})
		}
		read, readings := printed.Read(d)
		require.Len(t, read.Tiers, len(d.Tiers))
		again, _ := printed.Read(read)
		require.Equal(t, read, again)
		for _, g := range readings {
			require.Less(t, g.TierNo, len(d.Tiers))
		}
	})
}

func TestWordsStayWhereTheyStillHoldAndGoIntoTheNoteWhereNot(t *testing.T) {
	d := round("C1 | | 42 | every 6 from 3 | about where it looks right", "T | | 0 | | table 55 %")
	by, problems := printed.Diagram(func() diagram.Draft {
		found := d
		found.Tiers = slices.Clone(d.Tiers)
		found.Tiers[3].Stop = "girdle 0.02"
		return found
	}())
	require.Empty(t, problems)
	out := printed.Rewritten(d, by, nil)
	assert.Equal(t, "TCP", out.Tiers[0].Stop)
	assert.Equal(t, "same", out.Tiers[1].Indexes)
	assert.Equal(t, "girdle 0.02", out.Tiers[3].Stop)
	assert.Equal(t, "about where it looks right", out.Tiers[3].Note)
	assert.Equal(t, "table 55 %", out.Tiers[4].Stop)

	moved := printed.Rewritten(d, &diagram.Diagram{Tiers: []diagram.Tier{by.Tiers[1], by.Tiers[0], by.Tiers[2], by.Tiers[3], by.Tiers[4]}, RefractiveIndex: 1.54}, []int{1, 0, 2, 3, 4})
	assert.Equal(t, "every 6 from 3", moved.Tiers[0].Indexes, "the same as the row above would be another row's")
}
