package analysis

import (
	"context"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/light"
	"cressa/workshop"
)

// Adapted is what follows where the stone of a plan gets other angles or stops at the wheel.
type Adapted struct {
	*workshop.Adapting
	Tiers []AdaptedTier
	// Gap is the widest gap of a meet in µm, with facets that stand too deep left as they are.
	Gap float64
	// Before and After are the stone's figures.
	Before, After AdaptedStone
}

// AdaptedTier is a tier before and after.
type AdaptedTier struct {
	Name string
	Part diagram.Part
	// WasAngle and Angle are in degrees, WasStop and Stop as the editor writes them.
	WasAngle, Angle float64
	WasStop, Stop   string
	// Margin is how far the angle stands above the critical one, nil where that says nothing.
	Margin *float64
	// Cut tells how many of its facets had a cut.
	Cut int
	// Again tells that those have to be cut anew because their angle is another.
	Again bool
	// Deeper is by how many mm facets that were cut have to come deeper at most, TooDeep by how many they stand
	// too deep already: their meets stay open.
	Deeper, TooDeep float64
}

// AdaptedStone is the figures of a whole stone, lengths in mm.
type AdaptedStone struct {
	Carats, Width, Height, Crown, Girdle, Table float64
	// Return and Window are shares of the light, face up.
	Return, Window float64
}

// half a micrometre: less is the arithmetic's.
const noticed = 0.0005

// Adapt tells what follows of a layer, with the light as asked. It returns the context's error, and a
// diagram.Problem where the facets as they stand make no solid.
func Adapt(ctx context.Context, a *workshop.Adapting, lit FaceAsked) (*Adapted, error) {
	out := &Adapted{Adapting: a}
	now := a.Is.Stone
	type key struct {
		tier  string
		index float64
	}
	places := map[key]int{}
	for i, f := range now.Facets {
		places[key{now.Diagram.Tiers[f.Tier].Name, f.Index}] = i
	}
	margins := workshop.Margins(now.Diagram, a.Is.Material.RefractiveIndex.Low)
	for i, t := range now.Diagram.Tiers {
		was := a.Was.Stone.Diagram.Tiers[i]
		out.Tiers = append(out.Tiers, AdaptedTier{
			Name: t.Name, Part: t.Part, WasAngle: was.Angle, Angle: t.Angle, WasStop: was.Stop.String(), Stop: t.Stop.String(), Margin: margins[i],
		})
	}
	planes := now.Planes()
	for i, f := range a.Was.Stone.Facets {
		place, there := places[key{a.Was.Stone.Diagram.Tiers[f.Tier].Name, f.Index}]
		if !there || !a.Cut[i] {
			continue
		}
		is := now.Facets[place]
		t := &out.Tiers[is.Tier]
		t.Cut++
		if r3.Norm(r3.Sub(f.Plane.Normal, is.Plane.Normal)) > 1e-6 {
			t.Again = true
			continue
		}
		deeper := f.Plane.D*a.Was.MM - is.Plane.D*a.Is.MM
		switch {
		case deeper > noticed:
			t.Deeper = math.Max(t.Deeper, deeper)
		case deeper < -noticed:
			t.TooDeep = math.Max(t.TooDeep, -deeper)
			planes[place].D = f.Plane.D * a.Was.MM / a.Is.MM
		}
	}
	meets, err := now.MeetErrors(planes)
	if err != nil {
		return nil, err
	}
	for _, m := range meets {
		out.Gap = math.Max(out.Gap, m.Gap*a.Is.MM*1000)
	}
	if out.Before, err = figuresOf(ctx, a.Was, lit); err != nil {
		return nil, err
	}
	if slices.EqualFunc(now.Diagram.Tiers, a.Was.Stone.Diagram.Tiers, func(a, b diagram.Tier) bool {
		return a.Angle == b.Angle && a.Stop.String() == b.Stop.String()
	}) {
		out.After = out.Before
		return out, nil
	}
	out.After, err = figuresOf(ctx, a.Is, lit)
	return out, err
}

// FaceUp looks at the stone of a plan.
func FaceUp(ctx context.Context, a *workshop.Assessment, lit FaceAsked) (AdaptedStone, error) {
	return figuresOf(ctx, a, lit)
}

// lightOf looks at a stone in the material and the finish of a plan.
func lightOf(ctx context.Context, a *workshop.Assessment, s *cutting.Stone, lit FaceAsked) (light.Figures, error) {
	lit.RefractiveIndex = a.Material.RefractiveIndex.Low
	lit.FrostedGirdle, lit.Width = a.Choices.Frosted(a.Stone.Diagram), s.Measures().Width*a.MM
	return light.Of(s).Trace(ctx, lit.Experiment)
}

func figuresOf(ctx context.Context, a *workshop.Assessment, lit FaceAsked) (AdaptedStone, error) {
	out := AdaptedStone{Carats: a.Carats, Width: a.WidthMM, Height: a.HeightMM, Crown: a.CrownMM, Girdle: a.GirdleMinMM, Table: a.TableMM}
	f, err := lightOf(ctx, a, a.Stone, lit)
	out.Return, out.Window = f.Return(lit.Model), f.Window
	return out, err
}
