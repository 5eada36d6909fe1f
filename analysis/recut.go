package analysis

import (
	"context"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/fit"
	"cressa/core/light"
	"cressa/core/mending"
	"cressa/core/rough"
	"cressa/workshop"
)

// RecutAtDesk is a way to recut a stone: the stone that it gives, and the work that it is.
type RecutAtDesk struct {
	WayOut
	Lit
	// Visits is how often facets are cut, pass by pass, Minutes how long that takes at the cutter's pace. The last pass over facets
	// that are only polished comes on top: PolishMinutes, where all are.
	Visits                 int
	Minutes, PolishMinutes float64
}

// Lit is the light of a stone face up, as shares.
type Lit struct{ Return, Window float64 }

// LitRecut looks at a stone in the material and the finish of one that is recut.
func LitRecut(ctx context.Context, w *workshop.RecutWays, s *cutting.Stone, lit FaceAsked) (Lit, error) {
	lit.RefractiveIndex = w.Material.RefractiveIndex.Low
	lit.FrostedGirdle, lit.Width = w.Laps.Frosted(w.Stone.Diagram), s.Measures().Width*w.MM
	f, err := light.Of(s).Trace(ctx, lit.Experiment)
	return Lit{f.Return(lit.Model), f.Window}, err
}

// RecutsAtDesk measures the ways to recut a stone and looks at each of them under light. It returns the errors of the light.
func RecutsAtDesk(ctx context.Context, w *workshop.RecutWays, lit FaceAsked) ([]RecutAtDesk, error) {
	out := make([]RecutAtDesk, len(w.Ways))
	for i, way := range w.Ways {
		out[i] = RecutAtDesk{WayOut: wayOut(w.Stone, w.MM, w.Material.SG, way, nil)}
		if way.Err != nil {
			continue
		}
		untouched := 0
		for place, take := range way.Take {
			switch {
			case take*w.MM > mending.Untouched:
				out[i].Visits += w.Visits(place)
			case way.Stone.Solid().Face(place) != nil:
				untouched++
			}
		}
		for _, added := range way.Added {
			out[i].Visits += w.Visits(added.Facet)
		}
		out[i].Minutes, out[i].PolishMinutes = float64(out[i].Visits)*w.Minutes, float64(untouched)*w.Minutes
		var err error
		if out[i].Lit, err = LitRecut(ctx, w, way.Stone, lit); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// Refitted is another diagram that lies in a stone that came back.
type Refitted struct {
	RecutAtDesk
	Place mending.Placed
	// Tilt is by how many degrees its table faces away from that of the stone.
	Tilt float64
	// Whole tells that the search went through to its end.
	Whole bool
}

// between are how many points stand for a damage between two of its own: all have to lie outside.
const between = 4

// Refit finds the largest stone of another diagram in one that came back, outside of all damages. It returns fit.NoRoom, and
// mending.ErrNoStone where the damages leave no room; a context that ends stops the search at the best so far.
func Refit(ctx context.Context, back *workshop.Returned, damages []mending.Damage, to *cutting.Stone, lit FaceAsked) (*Refitted, error) {
	points := []r3.Vec{}
	body := back.Stone.Solid()
	for _, v := range body.Vertices() {
		points = append(points, r3.Scale(back.MM, body.Point(v)))
	}
	piece := rough.Rough{Name: "stone", Material: back.Material.Name, Solid: rough.Solid{Kind: rough.KindHull, Points: points}}
	for _, d := range damages {
		for i, q := range d.Points {
			next := d.Points[(i+1)%len(d.Points)]
			for k := range between {
				at := r3.Add(q, r3.Scale(float64(k)/between, r3.Sub(next, q)))
				flaw := rough.Flaw{Kind: rough.Point, At: at, Rule: rough.Out}
				if d.Clearance > 0 {
					flaw.Kind, flaw.Radius = rough.Ball, d.Clearance
				}
				if piece.Flaws = append(piece.Flaws, flaw); len(d.Points) == 1 {
					break
				}
			}
		}
	}
	worked, err := piece.Of(back.Material)
	if err != nil {
		return nil, err
	}
	found, err := fit.Largest(ctx, worked, fit.NewShape(to), fit.Search{}, nil)
	if err != nil {
		return nil, err
	}
	if !(found.Scale > 0) {
		return nil, mending.ErrNoStone
	}
	turn := found.Turn
	out := &Refitted{Whole: found.Ended == fit.Done, Tilt: math.Acos(math.Max(-1, math.Min(1, turn.Table().Z))) * 180 / math.Pi}
	scale := found.Scale / back.MM
	out.Place = mending.Placed{Scale: scale, Turn: turn.Quat(), Offset: r3.Scale(1/back.MM, found.Offset)}
	m := to.Measures()
	width := m.Width * found.Scale
	carat := cutting.Carats(m.VolumeFactor, width, back.Material.SG)
	length := func(ratio *float64) *float64 {
		if ratio == nil {
			return nil
		}
		v := *ratio * width
		return &v
	}
	volume := body.Volume() * back.MM * back.MM * back.MM
	out.WayOut = WayOut{
		Way:   mending.Way{Kind: mending.AnotherDiagram, Stone: to, Again: len(to.Facets), Scale: &scale},
		Width: width, Length: m.Length * found.Scale, Height: m.Height * found.Scale,
		GirdleMin: length(m.GirdleMin), GirdleMax: length(m.GirdleMax), TableWidth: length(m.TableWidth),
		Carat: &carat, Lost: 1 - found.Volume()/volume, CuletOffset: CuletOffset(to.Solid()) * found.Scale,
	}
	for _, f := range to.Facets {
		out.Visits += len(back.Laps.Of(to.Diagram.Tiers[f.Tier]))
	}
	out.Minutes = float64(out.Visits) * back.Minutes
	lit.RefractiveIndex = back.Material.RefractiveIndex.Low
	lit.FrostedGirdle, lit.Width = back.Laps.Frosted(to.Diagram), width
	f, err := light.Of(to).Trace(ctx, lit.Experiment)
	out.Lit = Lit{f.Return(lit.Model), f.Window}
	return out, err
}
