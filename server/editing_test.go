package server_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/diagram"
	"cressa/server"
)

// A tier is pulled to a meet and let go between two, and the stone is solved with
// the stop that comes of it.
func TestATierIsPulledOverTheWire(t *testing.T) {
	c := start(t)
	draft := c.diagramCalled("First Light").Draft
	no := 2
	require.Equal(t, "P2", draft.Tiers[no].Name)
	draft.Tiers[no].Stop = "being typed"
	var pulled server.Pull
	c.put("POST", "/api/pull", server.PullRequest{Draft: draft, Tier: no}, &pulled)
	require.NotEmpty(t, pulled.Reaches)
	assert.Equal(t, 24, pulled.Step, "the stone as it stands before P2")
	assert.Greater(t, pulled.From, pulled.Reaches[0].Distance)
	assert.Contains(t, pulled.Reaches[0].Words, "to the meet of")
	assert.Len(t, pulled.Reaches[0].Points, 12)

	draft.Tiers[no].Stop = pulled.Reaches[0].Stop
	var solved server.Solved
	c.put("POST", "/api/solve", server.SolveRequest{Draft: draft}, &solved)
	assert.Equal(t, pulled.Reaches[0].Words, solved.Stone.Tiers[no].Stop)
	assert.Equal(t, pulled.Reaches[0].Points[0], solved.Stone.Facets[pulled.Step].Target)

	var stop server.StopText
	between := (pulled.From + pulled.Reaches[0].Distance) / 2
	c.put("POST", "/api/pull/stop", server.PullStopRequest{PullRequest: server.PullRequest{Draft: draft, Tier: no}, Distance: between}, &stop)
	assert.Contains(t, stop.Stop, "depth ")

	// On another gear the wheel, the teeth and the turn are that gear's.
	c.put("POST", "/api/solve", server.SolveRequest{Draft: draft, Gear: 80}, &solved)
	assert.Len(t, solved.Stone.Wheel, 80)
	assert.NotZero(t, solved.Stone.Tiers[0].Dials[0].Cheat)

	// A tier that is left off is not on the stone, and the table says so.
	last := len(draft.Tiers) - 1
	var without server.Solved
	c.put("POST", "/api/solve", server.SolveRequest{Draft: draft, Off: []string{draft.Tiers[last].Key}}, &without)
	assert.True(t, without.Stone.Tiers[last].LeftOff)
	assert.Nil(t, without.Stone.Measures.TableWidth)
}

func TestGearsAndLoupeTellWhatAMissingCheaterCosts(t *testing.T) {
	c := start(t)
	draft := c.diagramCalled("First Light").Draft
	var gears server.GearReport
	c.put("POST", "/api/gears", server.GearsRequest{Draft: draft, Width: 8}, &gears)
	require.Len(t, gears.Gears, 1)
	assert.Equal(t, 96, gears.Gears[0].Teeth)
	assert.Zero(t, gears.Gears[0].Gap)
	assert.Nil(t, gears.Proposed)

	ask := func(gear int, whole bool) server.Loupe {
		var l server.Loupe
		c.put("POST", "/api/loupe", server.LoupeRequest{Draft: draft, Width: 8, Gear: gear, WholeTeeth: whole}, &l)
		require.NotEmpty(t, l.Meets)
		return l
	}
	assert.Zero(t, ask(80, false).Meets[0].Gap, "with its cheats every meet comes in")
	small := ask(80, true)
	assert.Greater(t, small.Meets[0].Gap, 20.0)
	assert.GreaterOrEqual(t, len(small.Meets[0].Facets), 4)
	assert.NotEmpty(t, small.Mesh.Steps[0].Set)
}

func TestReshapingKeepsTheDraftWhereItCannotBeDone(t *testing.T) {
	c := start(t)
	draft := c.diagramCalled("First Light").Draft
	var out server.Reshaped
	c.put("POST", "/api/reshape", server.ReshapeRequest{Draft: draft, Tier: 0, How: server.Reshape{Kind: diagram.Copied}}, &out)
	assert.Len(t, out.Draft.Tiers, len(draft.Tiers)+1)
}

// A plane that is held stands where the hand holds it, whatever its stop says.
func TestAHeldPlaneStandsWhereItIsHeld(t *testing.T) {
	c := start(t)
	draft := c.diagramCalled("First Light").Draft
	no := len(draft.Tiers) - 1 // the table: nothing after it makes good what it takes
	solve := func(held *server.Held) server.Solved {
		var out server.Solved
		c.put("POST", "/api/solve", server.SolveRequest{Draft: draft, Held: held}, &out)
		require.NotNil(t, out.Stone)
		return out
	}
	free := solve(nil)
	var pulled server.Pull
	c.put("POST", "/api/pull", server.PullRequest{Draft: draft, Tier: no}, &pulled)
	distance := func(s server.Solved) float64 {
		for _, f := range s.Stone.Facets {
			if f.Tier == no {
				return f.Target.X*pulled.Normal.X + f.Target.Y*pulled.Normal.Y + f.Target.Z*pulled.Normal.Z
			}
		}
		t.Fatal("the tier is not on the stone")
		return 0
	}
	at := distance(free)
	held := solve(&server.Held{Tier: no, Distance: at - 0.02})
	assert.InDelta(t, at-0.02, distance(held), 1e-7)
	assert.Less(t, held.Stone.Measures.VolumeFactor, free.Stone.Measures.VolumeFactor, "deeper leaves less")
	// Held where it stands anyway, it is the same stone.
	assert.InDelta(t, free.Stone.Measures.VolumeFactor, solve(&server.Held{Tier: no, Distance: at}).Stone.Measures.VolumeFactor, 1e-7)
	c.problem("POST", "/api/solve", `{"draft":{"name":"x","tiers":[]},"held":{"tier":-1,"distance":0}}`, 422)
}

// A stop is taken apart for those who choose its parts, and put together as it is typed.
func TestStopsAreTakenApartAndPutTogether(t *testing.T) {
	c := start(t)
	var fields server.DiagramFields
	c.get("/api/fields", &fields)
	seen := map[diagram.Part]bool{}
	for _, k := range fields.Stops {
		for _, p := range k.Parts {
			seen[p] = true
		}
		if k.Usual == nil {
			continue
		}
		// What is proposed reads back as it is.
		var text server.StopText
		c.put("POST", "/api/stops/text", server.StopParts{Kind: k.Kind, Figure: *k.Usual, From: []string{"P1", "P1"}, To: []string{"G1", "G1"}}, &text)
		var parts server.StopParts
		c.put("POST", "/api/stops/parts", server.StopText{Stop: text.Stop}, &parts)
		assert.Equal(t, k.Kind, parts.Kind)
		assert.Equal(t, *k.Usual, parts.Figure, text.Stop)
	}
	assert.Len(t, seen, 3, "every part of a stone has stops")

	for stop, want := range map[string]server.StopParts{
		"meet P1 P1 G1@3":             {Kind: diagram.Meet, From: []string{"P1", "P1", "G1@3"}, To: []string{}},
		"along P1 G1 > C1 C1 at 0.25": {Kind: diagram.Along, Figure: "0.25", From: []string{"P1", "G1"}, To: []string{"C1", "C1"}},
		"size 0,5":                    {Kind: diagram.Size, Figure: "0.5", From: []string{}, To: []string{}},
	} {
		var parts server.StopParts
		c.put("POST", "/api/stops/parts", server.StopText{Stop: stop}, &parts)
		assert.Equal(t, want, parts, stop)
	}
}
