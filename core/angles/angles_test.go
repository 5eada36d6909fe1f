package angles_test

import (
	"context"
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"cressa/core/angles"
	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/material"
	"cressa/demo"
)

func shipped(t *testing.T) map[string]*cutting.Stone {
	all, err := demo.Diagrams()
	require.NoError(t, err)
	out := map[string]*cutting.Stone{}
	for name, d := range all {
		out[name], err = cutting.Cut(d)
		require.NoError(t, err)
	}
	return out
}

func share(v float64) *float64 { return &v }

// block is a stone of one pavilion and one crown tier, and more where wanted.
func block(t *testing.T, change func(*diagram.Diagram)) *cutting.Stone {
	ring := []float64{12, 36, 60, 84}
	d := &diagram.Diagram{Format: diagram.Format, Name: "block", Gear: 96, RefractiveIndex: 1.544, Tiers: []diagram.Tier{
		{Name: "P1", Part: diagram.Pavilion, Angle: 42.5, Indexes: ring, Stop: diagram.Stop{Kind: diagram.Centre}},
		{Name: "G1", Part: diagram.Girdle, Angle: 90, Indexes: ring, Stop: diagram.Stop{Kind: diagram.Size, Radius: 0.5}},
		{Name: "P2", Part: diagram.Pavilion, Angle: 41, Indexes: []float64{24, 48, 72, 96}, Stop: diagram.Stop{Kind: diagram.Centre, Drop: 0.1}},
		{Name: "C1", Part: diagram.Crown, Angle: 35, Indexes: ring, Stop: diagram.Stop{Kind: diagram.GirdleBand, Thickness: 0.02}},
		{Name: "T", Part: diagram.Crown, Angle: 0, Indexes: []float64{96}, Stop: diagram.Stop{Kind: diagram.Width, Ratio: 0.6}},
	}}
	d.FillDefaults()
	if change != nil {
		change(d)
	}
	s, err := cutting.Cut(d)
	require.NoError(t, err)
	return s
}

func TestRetargetByHand(t *testing.T) {
	r, err := angles.Retarget(block(t, nil), angles.Target{RefractiveIndex: 1.72, Margin: share(2), CrownFactor: 1})
	require.NoError(t, err)
	assert.InDelta(t, 0.884265, r.PavilionFactor, 1e-6)
	d := r.Stone.Diagram
	assert.InDelta(t, 37.5487, d.Tiers[2].Angle, 1e-4, "the shallowest stands at its margin")
	assert.InDelta(t, 39.0171, d.Tiers[0].Angle, 1e-4)
	assert.InDelta(t, 0.0884265, d.Tiers[2].Stop.Drop, 1e-6)
	assert.Equal(t, 35.0, d.Tiers[3].Angle, "the crown stays unless it is asked to move")
	assert.Equal(t, 1.72, d.RefractiveIndex)

	own, err := angles.Retarget(block(t, nil), angles.Target{RefractiveIndex: 1.544, CrownFactor: 1})
	require.NoError(t, err)
	assert.Equal(t, 1.0, own.Margin, "0.63 of its own is too little to choose unasked")

	optional := block(t, func(d *diagram.Diagram) { d.Tiers[2].Optional = true })
	lead, err := angles.Retarget(optional, angles.Target{RefractiveIndex: 1.72, CrownFactor: 1})
	require.NoError(t, err)
	assert.Zero(t, lead.Lead, "an optional tier does not lead")

	_, err = angles.Retarget(block(t, nil), angles.Target{RefractiveIndex: 1.01, Margin: share(20), CrownFactor: 1})
	assert.ErrorContains(t, err, string(angles.OutOfTarget))
}

// A stretch along the axis breaks no meet of an upright, level girdle, whatever the
// stops are written as; the same stretch on both sides none at all.
func TestRetargetKeepsMeets(t *testing.T) {
	stones := shipped(t)
	names := make([]string, 0, len(stones))
	for name := range stones {
		names = append(names, name)
	}
	slices.Sort(names)
	rapid.Check(t, func(t *rapid.T) {
		s := stones[rapid.SampledFrom(names).Draw(t, "diagram")]
		if rapid.Bool().Draw(t, "by distances") {
			// The frame's move is in the given distances only.
			d := *s.Diagram
			d.Tiers = slices.Clone(d.Tiers)
			for _, f := range s.Facets {
				d.Tiers[f.Tier].Stop = diagram.Stop{Kind: diagram.Depth, Distance: f.Plane.D}
			}
			byDepth, err := cutting.Cut(&d)
			require.NoError(t, err)
			s = byDepth
		}
		to := angles.Target{
			RefractiveIndex: rapid.Float64Range(1.4, 2.6).Draw(t, "index"),
			Margin:          share(rapid.Float64Range(0, 6).Draw(t, "margin")),
			CrownFactor:     rapid.Float64Range(0.6, 1.5).Draw(t, "crown"),
		}
		r, err := angles.Retarget(s, to)
		require.NoError(t, err)
		assert.InDelta(t, material.CriticalAngle(to.RefractiveIndex)+*to.Margin, r.Stone.Diagram.Tiers[r.Lead].Angle, 1e-9)
		for _, e := range r.Errors {
			assert.Less(t, e.Gap, 1e-9)
			assert.Less(t, e.Residual, 1e-9)
		}
		was, is := s.Measures(), r.Stone.Measures()
		assert.InDelta(t, was.LengthWidth, is.LengthWidth, 1e-9)
		assert.InDelta(t, *was.PavilionDepth*r.PavilionFactor, *is.PavilionDepth, 1e-8)
		assert.InDelta(t, *was.CrownHeight*r.CrownFactor, *is.CrownHeight, 1e-8)
		assert.InDelta(t, *was.GirdleBand, *is.GirdleBand, 1e-8)
	})
}

func TestAWavyGirdlePartsTheSides(t *testing.T) {
	// Two angles between the girdle and one point: the girdle climbs between them.
	wavy := block(t, func(d *diagram.Diagram) {
		d.Tiers[0].Indexes = []float64{12, 60}
		d.Tiers[2] = diagram.Tier{Name: "P2", Part: diagram.Pavilion, Angle: 46, Indexes: []float64{36, 84}, Stop: diagram.Stop{Kind: diagram.Centre}}
	})
	r, err := angles.Retarget(wavy, angles.Target{RefractiveIndex: 1.9, CrownFactor: 1})
	require.NoError(t, err)
	require.Greater(t, r.Wave, 0.01)
	want := math.Abs(r.PavilionFactor-r.CrownFactor) * r.Wave * math.Cos(35*math.Pi/180)
	assert.InDelta(t, want, r.Parting, 1e-9)
}

func TestRoundingAsksTheNeighbours(t *testing.T) {
	s := shipped(t)["Parallax"]
	for _, step := range []float64{0.1, 0.25, 0.5} {
		settable := angles.Steps(step)
		nearest, err := angles.Round(s, angles.Nearest(s, settable))
		require.NoError(t, err)
		best, _, err := angles.BestRounding(context.Background(), s, settable)
		require.NoError(t, err)
		assert.LessOrEqual(t, best.Gap(), nearest.Gap())
		for i, a := range best.Angles {
			assert.Less(t, math.Abs(a-s.Diagram.Tiers[i].Angle), step)
			assert.InDelta(t, math.Round(a/step), a/step, 1e-6, "every angle can be set")
		}
		// All of the 2³ neighbours of this small diagram, one by one.
		least := math.Inf(1)
		for bits := range 8 {
			to := angles.Nearest(s, settable)
			for k, no := range []int{4, 5, 0} {
				below, above := settable(s.Diagram.Tiers[no].Angle)
				to[no] = []float64{below, above}[bits>>k&1]
			}
			r, err := angles.Round(s, to)
			require.NoError(t, err)
			least = math.Min(least, r.Gap())
		}
		assert.InDelta(t, least, best.Gap(), 1e-9)
	}
	done, cancel := context.WithCancel(context.Background())
	cancel()
	stopped, status, err := angles.BestRounding(done, s, angles.Steps(0.1))
	require.NoError(t, err)
	assert.Equal(t, cutting.Stopped, status)
	assert.Equal(t, angles.Nearest(s, angles.Steps(0.1)), stopped.Angles, "the best that it has seen: where it began")
}

// A stop that names four facets of a meet that only the exact angles make still stops.
func TestAStopOutlivesItsMeet(t *testing.T) {
	all, err := demo.Diagrams()
	require.NoError(t, err)
	d := *all["Parallax"]
	d.Tiers = slices.Clone(d.Tiers)
	d.Tiers = append(d.Tiers[:6:6], append([]diagram.Tier{{
		Name: "P4", Part: diagram.Pavilion, Angle: 30, Indexes: []float64{18, 30, 66, 78},
		Stop: diagram.Stop{Kind: diagram.Meet, Tiers: []diagram.Ref{{Tier: "P1"}, {Tier: "P1"}, {Tier: "P2"}, {Tier: "P3"}}},
	}}, d.Tiers[6:]...)...)
	s, err := cutting.Cut(&d)
	require.NoError(t, err)
	to := angles.Nearest(s, angles.Steps(0.5))
	_, err = cutting.Cut(withAngles(&d, to))
	require.Error(t, err, "at these angles the four no longer meet")
	r, err := angles.Round(s, to)
	require.NoError(t, err)
	assert.NotEqual(t, d.Tiers[6].Stop, r.Stone.Diagram.Tiers[6].Stop)
}

func withAngles(d *diagram.Diagram, to []float64) *diagram.Diagram {
	out := *d
	out.Tiers = slices.Clone(d.Tiers)
	for i := range out.Tiers {
		out.Tiers[i].Angle = to[i]
	}
	return &out
}

func TestOptionalTiersBelowTheCriticalAngleArePointedOut(t *testing.T) {
	d := block(t, func(d *diagram.Diagram) { d.Tiers[2].Optional = true }).Diagram
	assert.Empty(t, angles.LeakingOptionals(d, 1.544), "41 stands above 40.37")
	leaking := angles.LeakingOptionals(d, 1.434)
	require.Len(t, leaking, 1)
	assert.Equal(t, "P2", leaking[0].Tier)
	assert.InDelta(t, 44.215-41, leaking[0].Value, 1e-3)
	r, err := angles.Retarget(block(t, func(d *diagram.Diagram) {
		d.Tiers[1].Angle, d.Tiers[2].Angle, d.Tiers[2].Optional = 88, 30, true
	}), angles.Target{RefractiveIndex: 1.6, CrownWithPavilion: true})
	require.NoError(t, err)
	assert.Equal(t, r.PavilionFactor, r.CrownFactor)
	var codes []diagram.Code
	for _, p := range r.Warnings() {
		codes = append(codes, p.Code)
	}
	assert.Contains(t, codes, angles.GirdleLeans)
	assert.Contains(t, codes, angles.OptionalLeaks)
}

// A protractor that reads a little too much would have every table tilted.
func TestRoundingLeavesLevelAndUprightFacets(t *testing.T) {
	s := shipped(t)["Parallax"]
	off := func(angle float64) (float64, float64) {
		below, above := angles.Steps(0.1)(angle + 0.03)
		return below - 0.03, above - 0.03
	}
	for i, a := range angles.Nearest(s, off) {
		if was := s.Diagram.Tiers[i].Angle; was == 0 || was == 90 {
			assert.Equal(t, was, a)
		}
	}
}

// Breaks that stop at the tip of a star come to the girdle's corner too at one angle: there the
// stone has fewer corners than beside it.
func TestBreaksAreBroughtToStarAndGirdleAtOnce(t *testing.T) {
	ring := func(from, step float64) (out []float64) {
		for i := from; i <= 96; i += step {
			out = append(out, i)
		}
		return out
	}
	meet := func(names ...string) diagram.Stop {
		out := diagram.Stop{Kind: diagram.Meet}
		for _, n := range names {
			out.Tiers = append(out.Tiers, diagram.Ref{Tier: n})
		}
		return out
	}
	const breaks = 5
	d := &diagram.Diagram{Format: diagram.Format, Name: "round", Gear: 96, RefractiveIndex: 1.54, Tiers: []diagram.Tier{
		{Name: "P1", Part: diagram.Pavilion, Angle: 43, Indexes: ring(3, 6), Stop: diagram.Stop{Kind: diagram.Centre}},
		{Name: "G1", Part: diagram.Girdle, Angle: 90, Indexes: ring(3, 6), Stop: diagram.Stop{Kind: diagram.Size, Radius: 0.5}},
		{Name: "C1", Part: diagram.Crown, Angle: 34, Indexes: ring(12, 12), Stop: diagram.Stop{Kind: diagram.GirdleBand, Thickness: 0.03}},
		{Name: "T", Part: diagram.Crown, Angle: 0, Indexes: []float64{96}, Stop: diagram.Stop{Kind: diagram.Width, Ratio: 0.56}},
		{Name: "C2", Part: diagram.Crown, Angle: 20, Indexes: ring(6, 12), Stop: diagram.Stop{
			Kind: diagram.Along, From: meet("C1", "C1", "T").Tiers, To: meet("C1", "C1", "G1").Tiers, At: 0.35,
		}},
		{Name: "C3", Part: diagram.Crown, Angle: 40, Indexes: ring(3, 6), Stop: meet("C1", "C1", "C2")},
	}}
	d.FillDefaults()
	found, err := angles.Find(t.Context(), d, breaks, angles.Steps(0.5))
	require.NoError(t, err)
	girdle := slices.IndexFunc(found, func(f angles.Found) bool {
		return slices.ContainsFunc(f.Facets, func(n string) bool { return strings.HasPrefix(n, "G1@") })
	})
	require.GreaterOrEqual(t, girdle, 0)
	f := found[girdle]
	corners := func(angle float64) int {
		with := *d
		with.Tiers = slices.Clone(d.Tiers)
		with.Tiers[breaks].Angle = angle
		s, err := cutting.Cut(&with)
		require.NoError(t, err)
		return s.Measures().Vertices
	}
	assert.Less(t, corners(f.Angle), corners(f.Angle+0.3))
	assert.Less(t, corners(f.Angle), corners(f.Angle-0.3))
	assert.LessOrEqual(t, f.Below, f.Angle)
	assert.GreaterOrEqual(t, f.Above, f.Angle)
	assert.Greater(t, f.BelowGap+f.AboveGap, 0.0)
	for i := range found[1:] {
		assert.LessOrEqual(t, math.Abs(found[i].Angle-40), math.Abs(found[i+1].Angle-40))
	}
}
