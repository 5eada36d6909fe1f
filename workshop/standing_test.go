package workshop

import (
	"bytes"
	"encoding/json"
	"flag"
	"fmt"
	"math/rand/v2"
	"os"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/workshop/journal"
)

var update = flag.Bool("update", false, "write the fixtures that the browser's tests read")

const fixtures = "../ui/src/log/standing.fixtures.json"

// smallScript has two sides, two passes, a girdle that gets only the first of them and a table that
// goes through both on the adapter. P1 has two facets at one angle, P2 stands at another, and G1 is
// cut between them.
func smallScript() *Script {
	facet := func(id, tier string, part diagram.Part, setup, tooth int, angle float64) ScriptFacet {
		return ScriptFacet{ID: id, Tier: tier, Part: part, Setup: setup, Dial: gear.Position{Tooth: tooth}, Angle: angle, Reading: angle}
	}
	s := &Script{
		Setups: []Setup{{ID: "s1"}, {ID: "s2"}},
		Passes: []Pass{{ID: "cut"}, {ID: "polish"}},
		Facets: []ScriptFacet{
			facet("a", "P1", diagram.Pavilion, 0, 96, 42), facet("b", "P1", diagram.Pavilion, 0, 48, 42),
			facet("g", "G1", diagram.Girdle, 0, 24, 90), facet("c", "P2", diagram.Pavilion, 0, 12, 40),
			facet("d", "P3", diagram.Pavilion, 0, 90, 40),
			facet("e", "C1", diagram.Crown, 1, 48, 35), facet("f", "C1", diagram.Crown, 1, 40, 35),
			facet("t", "T", diagram.Crown, 1, 48, 0),
		},
	}
	s.Facets[7].Reading = 45
	s.Visits = visits(s, []PlannedRun{
		{Setup: "s1", Pass: "cut", Facets: []FacetID{"a", "b", "g", "c", "d"}}, {Setup: "s1", Pass: "polish", Facets: []FacetID{"a", "b", "c", "d"}},
		{Setup: "s2", Pass: "cut", Facets: []FacetID{"e", "f"}}, {Setup: "s2", Pass: "polish", Facets: []FacetID{"e", "f"}},
		{Setup: "s2", Pass: "cut", Adapter: true, Facets: []FacetID{"t"}}, {Setup: "s2", Pass: "polish", Adapter: true, Facets: []FacetID{"t"}},
	}, 96)
	return s
}

func TestAVisitKnowsItsRoundItsBlockAndTheMoveToIt(t *testing.T) {
	s := smallScript()
	var told []string
	for i, v := range s.Visits {
		from := "–"
		if v.Move.From != nil {
			from = fmt.Sprint(*v.Move.From)
		}
		told = append(told, fmt.Sprintf("%d %s %s %s: round to %d, block %d to %d, picture %d>%d, first %t pass %t from %s teeth %d",
			i, v.Setup, v.Pass, v.Facet, v.RoundEnd, v.Block, v.BlockEnd, v.Now, v.After, v.Move.First, v.Move.Pass, from, v.Move.Teeth))
	}
	assert.Equal(t, []string{
		"0 s1 cut a: round to 2, block 0 to 2, picture 0>1, first true pass false from – teeth 0",
		// Half-way round both ways are as long: on.
		"1 s1 cut b: round to 2, block 0 to 2, picture 1>2, first false pass false from – teeth 48",
		"2 s1 cut g: round to 3, block 1 to 3, picture 2>3, first false pass false from 42 teeth -24",
		// Two tiers at one angle are one round, and two blocks.
		"3 s1 cut c: round to 5, block 2 to 4, picture 3>4, first false pass false from 90 teeth -12",
		// From 12 to 90 it is shorter back over the top.
		"4 s1 cut d: round to 5, block 3 to 5, picture 4>5, first false pass false from – teeth -18",
		// Another pass: the side is cut, and the girdle is left out of it.
		"5 s1 polish a: round to 7, block 4 to 7, picture 5>5, first false pass true from 40 teeth 6",
		"6 s1 polish b: round to 7, block 4 to 7, picture 5>5, first false pass false from – teeth 48",
		"7 s1 polish c: round to 9, block 5 to 8, picture 5>5, first false pass false from 42 teeth -36",
		"8 s1 polish d: round to 9, block 6 to 9, picture 5>5, first false pass false from – teeth -18",
		// The other side is set anew.
		"9 s2 cut e: round to 11, block 7 to 11, picture 5>6, first true pass false from – teeth 0",
		"10 s2 cut f: round to 11, block 7 to 11, picture 6>7, first false pass false from – teeth -8",
		"11 s2 polish e: round to 13, block 8 to 13, picture 7>7, first false pass true from – teeth 8",
		"12 s2 polish f: round to 13, block 8 to 13, picture 7>7, first false pass false from – teeth -8",
		// The table keeps its setting through both laps, and is one block.
		"13 s2 cut t: round to 14, block 9 to 14, picture 7>8, first false pass true from 35 teeth 8",
		"14 s2 polish t: round to 15, block 9 to 15, picture 8>8, first false pass true from – teeth 0",
	}, told)
}

// The index moves the shorter way, on where both are as long, and gets there.
func TestTheShorterWayRoundTheGearGetsThere(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		teeth := rapid.IntRange(1, 360).Draw(t, "teeth")
		tooth := rapid.IntRange(1, teeth)
		s := &Script{Facets: []ScriptFacet{{Dial: gear.Position{Tooth: tooth.Draw(t, "from")}}, {Dial: gear.Position{Tooth: tooth.Draw(t, "to")}}}}
		by := s.move(ScriptVisit{FacetNo: 0}, ScriptVisit{FacetNo: 1}, teeth).Teeth
		assert.Zero(t, (s.Facets[0].Dial.Tooth+by-s.Facets[1].Dial.Tooth)%teeth)
		assert.LessOrEqual(t, 2*by, teeth)
		assert.Greater(t, 2*by, -teeth)
	})
}

// standingFixture is a case that the browser has to see as the server does.
type standingFixture struct {
	Name string `json:"name"`
	// Done and Skipped are places of visits; Turned lists setups that the stone was turned over
	// to, Checked what was checked in s2.
	Done    []int    `json:"done"`
	Skipped []int    `json:"skipped"`
	Turned  []string `json:"turned"`
	Checked []string `json:"checked"`
	// Then is what happened after all that, in order.
	Then []happened `json:"then"`
	Want struct {
		At      int   `json:"at"`
		Step    int   `json:"step"`
		Gate    Gate  `json:"gate"`
		Skipped []int `json:"skipped"`
	} `json:"want"`
}

type happened struct {
	Kind    journal.Kind    `json:"kind"`
	Payload json.RawMessage `json:"payload"`
}

type runFixture struct {
	Order  string     `json:"order"`
	Stones []runStone `json:"stones"`
	// Want is the place of the stone that comes next, −1 where none is left.
	Want int `json:"want"`
}

type runStone struct {
	At     int  `json:"at"`
	Closed bool `json:"closed"`
}

// The bench has the rules of Standing and NextInRun a second time, for when the network is
// away: what it is held to is drawn here.
func TestStandingFixtures(t *testing.T) {
	s := smallScript()
	random := rand.New(rand.NewPCG(12, 11)) // the fixtures are the same on every run
	out := struct {
		Facets []string          `json:"facets"`
		Visits []map[string]any  `json:"visits"`
		Stand  []standingFixture `json:"standings"`
		Runs   []runFixture      `json:"runs"`
	}{}
	for _, f := range s.Facets {
		out.Facets = append(out.Facets, f.ID)
	}
	for _, v := range s.Visits {
		out.Visits = append(out.Visits, map[string]any{"setup": v.Setup, "pass": v.Pass, "facet": v.FacetNo, "block": v.Block, "adapter": v.Adapter})
	}
	all := len(s.Visits)
	var then []happened
	later := func(kind journal.Kind, payload any) { then = append(then, happened{kind, journal.Payload(payload)}) }
	visitAt := func(i int) journal.Visit {
		return journal.Visit{Setup: s.Visits[i].Setup, Pass: s.Visits[i].Pass, Facet: s.Visits[i].Facet}
	}
	add := func(name string, done, skipped []int, turned []string, checked ...string) {
		checked = append([]string{}, checked...)
		w := journal.NewWork(journal.FirstCut)
		act := func(kind journal.Kind, payload any) {
			n := w.Count + 1
			w.Apply(journal.Event{ID: fmt.Sprint(n), Stream: journal.OfWork("w"), Kind: kind, Version: 1, Payload: journal.Payload(payload), Device: "a", DeviceSeq: int64(n)})
		}
		for _, i := range done {
			act(journal.Done, journal.Visit{Setup: s.Visits[i].Setup, Pass: s.Visits[i].Pass, Facet: s.Visits[i].Facet})
		}
		for _, i := range skipped {
			act(journal.Skip, journal.Visit{Setup: s.Visits[i].Setup, Pass: s.Visits[i].Pass, Facet: s.Visits[i].Facet})
		}
		for _, setup := range turned {
			act(journal.Transfer, journal.Transferred{Setup: setup})
		}
		for _, item := range checked {
			act(journal.Check, journal.Checked{Setup: "s2", Item: item})
		}
		for _, h := range then {
			act(h.Kind, h.Payload)
		}
		f := standingFixture{Name: name, Done: done, Skipped: skipped, Turned: turned, Checked: checked, Then: append([]happened{}, then...)}
		then = nil
		at := s.Standing(w)
		f.Want.At, f.Want.Step, f.Want.Gate, f.Want.Skipped = at.At, at.Step, at.Gate, at.Skipped
		out.Stand = append(out.Stand, f)
	}
	upTo := func(n int) []int {
		places := []int{}
		for i := range n {
			places = append(places, i)
		}
		return places
	}
	add("nothing is cut", upTo(0), upTo(0), []string{})
	add("the first side is done", upTo(9), upTo(0), []string{})
	add("the stone is turned over", upTo(9), upTo(0), []string{"s2"})
	add("it is turned over to a side that is gone", upTo(9), upTo(0), []string{"s7"})
	add("the table goes onto the adapter", upTo(13), upTo(0), []string{"s2"})
	add("it sits level", upTo(13), upTo(0), []string{"s2"}, "adapter-fit", "adapter-on")
	add("the adapter comes off", upTo(all), upTo(0), []string{"s2"}, "adapter-on")
	add("all is cut", upTo(all), upTo(0), []string{"s2"}, "adapter-on", "adapter-off")
	add("one is left out, one was cut later", []int{0, 2, 3, 4, 5, 7}, []int{1, 8}, []string{})
	add("what was left out is cut later", []int{0, 2, 3, 4, 6}, []int{1}, []string{})
	later(journal.Jump, visitAt(7))
	add("the work goes on with another tier", upTo(6), upTo(0), []string{})
	later(journal.Jump, visitAt(7))
	later(journal.Done, visitAt(7))
	later(journal.Done, visitAt(8))
	add("and comes back to what it passed over", upTo(6), upTo(0), []string{})
	later(journal.Again, journal.Reopening{Setup: "s1", Passes: []string{"cut", "polish"}, Facets: []string{"c"}})
	add("a tier goes back to the lap before", upTo(8), upTo(0), []string{})
	later(journal.Again, journal.Reopening{Setup: "s1", Passes: []string{"cut", "polish"}, Facets: []string{"c"}})
	later(journal.Done, visitAt(3))
	add("and through the next one again, before the rest", upTo(8), upTo(0), []string{})
	later(journal.Again, journal.Reopening{Setup: "s2", Passes: []string{"cut"}, Facets: []string{"e", "f"}})
	add("a tier again while the stone sits on the adapter", upTo(14), upTo(0), []string{"s2"}, "adapter-on")
	later(journal.Check, journal.Checked{Setup: "s2", Item: "adapter-off"})
	later(journal.Again, journal.Reopening{Setup: "s2", Passes: []string{"cut"}, Facets: []string{"e", "f"}})
	later(journal.Done, visitAt(9))
	later(journal.Done, visitAt(10))
	add("and the adapter is put on again", upTo(14), upTo(0), []string{"s2"}, "adapter-on")
	later(journal.Happen, journal.Happened{What: journal.BondFailed})
	add("the stone comes off its dop", upTo(3), upTo(0), []string{})
	later(journal.Happen, journal.Happened{What: journal.BondFailed})
	later(journal.Check, journal.Checked{Setup: "s1", Item: LinedUp})
	add("it is glued again and lined up", upTo(3), upTo(0), []string{})
	later(journal.Check, journal.Checked{Setup: "s1", Item: LinedUp})
	later(journal.Happen, journal.Happened{What: journal.BondFailed})
	add("it comes off a second time", upTo(3), upTo(0), []string{})
	again := journal.Reopening{Setup: "s1", Passes: []string{"cut", "polish"}, Facets: []string{"c"}}
	back, over := journal.Transferred{Setup: "s1"}, journal.Transferred{Setup: "s2"}
	later(journal.Again, again)
	add("a facet of the first side again", upTo(11), upTo(0), []string{"s2"})
	later(journal.Again, again)
	add("and the adapter comes off before that", upTo(14), upTo(0), []string{"s2"}, "adapter-on")
	later(journal.Again, again)
	later(journal.Transfer, back)
	add("the stone is turned back", upTo(11), upTo(0), []string{"s2"})
	later(journal.Again, again)
	later(journal.Transfer, back)
	later(journal.Done, visitAt(3))
	later(journal.Done, visitAt(7))
	add("and over again for the rest", upTo(11), upTo(0), []string{"s2"})
	later(journal.Again, again)
	later(journal.Transfer, back)
	later(journal.Done, visitAt(3))
	later(journal.Done, visitAt(7))
	later(journal.Transfer, over)
	add("it is turned over a second time", upTo(11), upTo(0), []string{"s2"})
	later(journal.Done, visitAt(8))
	add("a tick of the first side comes in late", upTo(10), upTo(0), []string{"s2"})
	for range 20 {
		order := random.Perm(all)
		done, skipped := order[:random.IntN(all)], []int{}
		if n := len(done); n > 0 {
			k := random.IntN(n)
			done, skipped = slices.Clone(done[:k]), slices.Clone(done[k:])
		}
		add(fmt.Sprintf("drawn %d", len(out.Stand)), done, skipped, [][]string{{}, {"s2"}}[random.IntN(2)], [][]string{{}, {"adapter-on"}, {"adapter-on", "adapter-off"}}[random.IntN(3)]...)
	}
	for range 30 {
		f := runFixture{Order: string([]RunOrder{TierByTier, StoneByStone}[random.IntN(2)]), Want: -1}
		var stones []InRun
		for range 1 + random.IntN(5) {
			f.Stones = append(f.Stones, runStone{At: random.IntN(all + 1), Closed: random.IntN(5) == 0})
			stones = append(stones, InRun(f.Stones[len(f.Stones)-1]))
		}
		if place, left := s.NextInRun(RunOrder(f.Order), stones); left {
			f.Want = place
		}
		out.Runs = append(out.Runs, f)
	}
	var gates []Gate
	for _, f := range out.Stand[:8] {
		gates = append(gates, f.Want.Gate)
	}
	assert.Equal(t, []Gate{"", TurnOver, "", TurnOver, AdapterOn, "", AdapterOff, ""}, gates)
	assert.Equal(t, []int{1, 8}, out.Stand[8].Want.Skipped)
	assert.Empty(t, out.Stand[9].Want.Skipped)
	var moved []string
	for _, f := range out.Stand[10:25] {
		moved = append(moved, fmt.Sprintf("%d %s", f.Want.At, f.Want.Gate))
	}
	assert.Equal(t, []string{"7 ", "6 ", "3 ", "7 ", "9 adapter-off", "14 adapter-on", "3 off-dop", "3 ", "3 off-dop",
		"3 transfer", "3 adapter-off", "3 ", "11 transfer", "11 ", "10 "}, moved)

	var data bytes.Buffer
	require.NoError(t, json.NewEncoder(&data).Encode(out))
	if *update {
		require.NoError(t, os.WriteFile(fixtures, data.Bytes(), 0o644))
	}
	kept, err := os.ReadFile(fixtures)
	require.NoError(t, err)
	require.JSONEq(t, data.String(), string(kept), "write them with: go test ./workshop -run StandingFixtures -update")
}

// What is done before a visit leads through every gate before it, and through no other.
func TestWhatIsDoneBeforeAVisitLeadsToIt(t *testing.T) {
	s := smallScript()
	w := journal.NewWork(journal.FirstCut)
	act := func(kind journal.Kind, payload any) {
		n := w.Count + 1
		w.Apply(journal.Event{ID: fmt.Sprint(n), Stream: journal.OfWork("w"), Kind: kind, Version: 1, Payload: journal.Payload(payload), Device: "a", DeviceSeq: int64(n)})
	}
	for i := range len(s.Visits) + 1 {
		before := s.Before(i)
		require.Equal(t, len(before) > 0, s.Standing(w).Gate != "")
		for _, h := range before {
			act(h.Kind, h.Payload)
		}
		require.Empty(t, s.Standing(w).Gate)
		if i < len(s.Visits) {
			v := s.Visits[i]
			act(journal.Done, journal.Visit{Setup: v.Setup, Pass: v.Pass, Facet: v.Facet})
		}
	}
	assert.Len(t, w.Checks["s2"], len(TransferChecks)+len(AdapterChecks)+2)
}

// Tier by tier nobody runs ahead: the stone that comes next is among those that are furthest
// behind, and each of them comes in turn until all are cut.
func TestARunTierByTierKeepsItsStonesTogether(t *testing.T) {
	s := smallScript()
	for _, by := range []RunOrder{TierByTier, StoneByStone} {
		stones := make([]InRun, 3)
		var order []int
		for {
			i, left := s.NextInRun(by, stones)
			if !left {
				break
			}
			if by == TierByTier {
				for _, o := range stones {
					require.True(t, o.At == len(s.Visits) || s.Visits[stones[i].At].Block <= s.Visits[o.At].Block)
				}
			}
			order = append(order, i)
			stones[i].At++
		}
		require.Len(t, order, 3*len(s.Visits))
		if by == StoneByStone {
			assert.True(t, slices.IsSorted(order))
		} else {
			assert.Equal(t, []int{0, 0, 1, 1, 2, 2, 0, 1, 2}, order[:9], "both facets of P1 on every stone, then the girdle")
		}
	}
}
