package words_test

import (
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/diagram"
	"cressa/core/dopping"
	"cressa/core/gear"
	"cressa/core/material"
	"cressa/core/printed"
	"cressa/words"
	"cressa/workshop"
	"cressa/workshop/journal"
)

func TestStopsAreToldAsCuttersTellThem(t *testing.T) {
	mm := words.Scale{MM: 8, Width: 1}
	for _, c := range []struct {
		part    diagram.Part
		angle   float64
		indexes string
		stop    string
		scale   words.Scale
		want    string
	}{
		{diagram.Pavilion, 42, "96-24-48-72", "centre", mm, "to a centre point"},
		{diagram.Pavilion, 42, "96-48", "centre 0.1", mm, "to a keel through the centre, 0.80 mm below the one that is there"},
		{diagram.Pavilion, 42, "8-24", "meet P1 P1 G1 G1", mm, "to the meet of two P1 and two G1"},
		{diagram.Crown, 42, "8-24", "meet C1 G1@3 G2", mm, "to the meet of C1, G1 at 3 and G2"},
		{diagram.Crown, 42, "8-24", "meet C1 G1@5.333333333 G2", mm, "to the meet of C1, G1 at 5.333 and G2"},
		{diagram.Crown, 42, "8-24", "girdle 0.025", mm, "until the girdle is 0.20 mm"},
		{diagram.Crown, 42, "8-24", "girdle 0.025", words.Scale{Width: 1}, "until the girdle is 2.5 % of the width"},
		{diagram.Girdle, 90, "96-48", "size 0.5", mm, "until it is 8.00 mm across"},
		{diagram.Girdle, 90, "96-32-64", "size 0.5", mm, "until it is 4.00 mm from the axis"},
		{diagram.Crown, 0, "96", "width 0.5", mm, "until the table is 4.00 mm, half of the width"},
		{diagram.Crown, 30, "96", "along C1 G1 > C1 C2 at 0.25", mm, "a quarter of the way from the meet of C1 and G1 to the meet of C1 and C2"},
	} {
		indexes, err := diagram.ParseIndexes(c.indexes, 96)
		require.NoError(t, err)
		stop, err := diagram.ParseStop(c.stop)
		require.NoError(t, err)
		tier := diagram.Tier{Part: c.part, Angle: c.angle, Indexes: indexes, Stop: stop}
		assert.Equal(t, c.want, words.Stop(tier, 96, c.scale))
	}
}

// Every code that the packages below declare has a sentence.
func TestEveryProblemHasItsWords(t *testing.T) {
	declared := regexp.MustCompile(`(?m)^\s*[A-Z]\w*\s+(?:diagram\.)?Code\s*= "([a-z-]+)"|^(?:const\s+)[A-Z]\w*\s+diagram\.Code = "([a-z-]+)"`)
	found := 0
	for _, pattern := range []string{"../core/*/*.go", "../formats/*.go", "../analysis/*.go", "../workshop/*.go"} {
		files, err := filepath.Glob(pattern)
		require.NoError(t, err)
		for _, file := range files {
			source, err := os.ReadFile(file)
			require.NoError(t, err)
			for _, m := range declared.FindAllStringSubmatch(string(source), -1) {
				found++
				code := diagram.Code(m[1] + m[2])
				p := diagram.Problem{Code: code, TierNo: -1, Field: diagram.FieldAngle, Text: "x", Other: "P1"}
				assert.NotContains(t, words.Problem(p), string(code), "%s in %s has no sentence", code, file)
			}
		}
	}
	assert.Greater(t, found, 30)
}

// Every reason for which an entry is refused says what to do.
func TestEveryRefusalHasItsWords(t *testing.T) {
	source, err := os.ReadFile("../workshop/journal/journal.go")
	require.NoError(t, err)
	declared := regexp.MustCompile(`(?m)^\t\w+\s+Reason = "([a-z-]+)"`).FindAllStringSubmatch(string(source), -1)
	require.Greater(t, len(declared), 8)
	for _, m := range declared {
		assert.NotEmpty(t, words.Refusal(journal.Reason(m[1])), m[1])
	}
}

// Every way in which a field of a sheet is read is said, but for what is simply understood.
func TestEveryWayOfReadingHasItsWords(t *testing.T) {
	source, err := os.ReadFile("../core/printed/printed.go")
	require.NoError(t, err)
	declared := regexp.MustCompile(`(?m)^\t\w+\s+Way = "([a-z-]+)"`).FindAllStringSubmatch(string(source), -1)
	require.Greater(t, len(declared), 10)
	for _, m := range declared {
		said := words.Reading(printed.Reading{How: printed.Way(m[1]), Read: "crown", Value: 0.5}, 8)
		assert.Equal(t, printed.Way(m[1]) == printed.Understood, said == "", m[1])
	}
}

func TestEveryMaterialHasItsCautions(t *testing.T) {
	for _, m := range material.All() {
		cautions := words.Cautions(m)
		require.NotEmpty(t, cautions, m.Name)
		assert.Regexp(t, "wet", cautions[0], "%s: the dust comes first", m.Name)
	}
}

// A transfer has the steps of this stone's adhesives: which dop comes off, and how the other bond holds.
func TestATransferHasTheStepsOfItsAdhesives(t *testing.T) {
	quartz, _ := material.Find("Quartz")
	kunzite, _ := material.Find("Kunzite")
	mount := func(dop string, sort dopping.Sort) words.Mount {
		a, _ := dopping.AdhesiveOf(sort)
		return words.Mount{Dop: dop, Glue: string(sort), Adhesive: a}
	}
	steps := func(of words.Transfer) map[string]words.Check {
		out := map[string]words.Check{}
		for _, step := range words.TransferSteps(of) {
			require.NotEmpty(t, step.Text)
			out[step.Item] = step
		}
		for _, item := range workshop.TransferChecks {
			require.Contains(t, out, item)
		}
		return out
	}
	of := words.Transfer{
		Flat: true, OneAxis: true, Up: "crown", Material: quartz, First: mount("Cone 6 mm", dopping.Wax), Second: mount("Flat 7 mm", dopping.Epoxy),
		Alignment: workshop.Alignment{Tier: "G1", At: gear.Position{Tooth: 2}, Then: []gear.Position{{Tooth: 34}, {Tooth: 18, Cheat: 0.25}}},
	}
	told := steps(of)
	assert.Contains(t, told["second-dop"].Text, "Flat 7 mm with epoxy")
	assert.Contains(t, told["second-dop"].Text, "on one axis")
	assert.InDelta(t, 720, told["bond"].Minutes, 1e-9)
	assert.Contains(t, told["release"].Text, "the first dop (Cone 6 mm), not the stone: it lets go at about 65 °C, and the second bond bears 70 °C")
	assert.Positive(t, told["cool"].Minutes)
	assert.Contains(t, told["turn"].Text, "lay G1 at 2 flat on the lap")
	assert.Contains(t, told["companions"].Text, "34 and 18 with +0.25°")

	of.First, of.Second = mount("Cone 6 mm", dopping.Cyano), mount("Flat 7 mm", dopping.Epoxy)
	assert.Contains(t, steps(of)["release"].Text, "solvent")
	of.Second = of.First
	assert.Contains(t, steps(of)["release"].Text, "wet cloth", "both let go alike")
	of.Material = kunzite
	assert.Contains(t, steps(of)["release"].Text, "blade", "warmth would crack it")
	of.First, of.Second, of.Flat, of.OneAxis, of.Alignment = words.Mount{}, words.Mount{}, false, false, workshop.Alignment{}
	told = steps(of)
	assert.Contains(t, told["second-dop"].Text, "opposite the one that comes up")
	assert.Contains(t, told["bed"].Text, "no flat")
	assert.Contains(t, told["turn"].Text, "by eye")
}

// No stone leaves its dop in a way that harms it, whatever holds it.
func TestAStoneLeavesItsDopUnharmed(t *testing.T) {
	for _, m := range material.All() {
		for _, sort := range []dopping.Sort{dopping.Wax, dopping.Cyano, dopping.Epoxy, dopping.WaxCyano, dopping.FillCyano} {
			a, ok := dopping.AdhesiveOf(sort)
			require.True(t, ok)
			told := ""
			steps := words.FinishSteps(words.Mount{Dop: "Cone 6 mm", Adhesive: a}, m, []string{"G1 8.00 mm"})
			for _, s := range steps {
				told += s.Text + "\n"
			}
			assert.Contains(t, told, "(Cone 6 mm)", m.Name)
			assert.Contains(t, told, "Planned: G1 8.00 mm.")
			if m.Heat == material.HeatAvoid {
				assert.NotContains(t, steps[0].Text, "Warm", "%s: %s", m.Name, sort)
				assert.NotContains(t, told, "hot", m.Name)
			}
			if m.Solvent == material.SolventSoaks {
				assert.NotContains(t, told, "Stand stone", m.Name)
				assert.NotContains(t, told, "alcohol", m.Name)
			}
			if strings.Contains(told, "°C") {
				assert.Contains(t, told, "cool by itself", m.Name)
			}
		}
	}
	unknown := words.FinishSteps(words.Mount{}, material.All()[0], nil)
	assert.Contains(t, unknown[0].Text, "label")
}

func TestWhateverSpeaksAgainstADopOrAnAdhesiveHasItsWords(t *testing.T) {
	for _, f := range []dopping.Fault{dopping.InTheWay, dopping.OffStone, dopping.NoRim, dopping.Tight, dopping.OverRim, dopping.OtherShape} {
		assert.NotEmpty(t, words.Fault(f, -0.1, 0.2, -3), f)
	}
	for _, c := range []dopping.Concern{
		dopping.HotToGlue, dopping.TooWeak, dopping.HotToFree, dopping.WarmSlowly, dopping.Barely, dopping.RunsHot, dopping.SolventSlow,
	} {
		assert.NotEmpty(t, words.Concern(c, 1.2), c)
	}
	for _, m := range material.All() {
		for _, a := range dopping.Adhesives() {
			assert.NotEmpty(t, words.AdhesiveName(a.Sort))
			assert.NotEmpty(t, words.Release(a, m))
			steps := words.GlueSteps(a, m)
			require.NotEmpty(t, steps)
			assert.Equal(t, a.Minutes, steps[len(steps)-1].Minutes, "the last one is the cure")
			cautioned, judged := false, false
			for _, s := range steps {
				cautioned = cautioned || s.Caution != ""
				judged = judged || strings.Contains(s.Text, "too old") || strings.Contains(s.Text, "lets go")
			}
			assert.True(t, judged, "%s: what it looks like and how it flows tells whether it is still good", a.Sort)
			assert.True(t, cautioned, a.Sort)
		}
	}
}
