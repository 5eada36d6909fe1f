package polyhedron

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/core/solid"
)

// Placing says how a shape is held on the dop.
type Placing struct {
	// Up points out of the table, in the frame of the shape.
	Up r3.Vec
	// ByCentroid puts the axis through the centroid, where the shape's own origin may
	// lie elsewhere.
	ByCentroid bool
	Name       string
	Gear       int
	// RefractiveIndex is what margins are reckoned with.
	RefractiveIndex float64
}

// turned is a frame whose z points up.
type turned struct{ x, y, z r3.Vec }

// frame returns one with the given direction up. Its 12 o'clock, y, is what is left of
// the old y, or of the old z turned back, where up is along y.
func frame(up r3.Vec) turned {
	z := r3.Unit(up)
	y := r3.Vec{Y: 1}
	if math.Abs(z.Y) > 1-1e-9 {
		y = r3.Vec{Z: -math.Copysign(1, z.Y)}
	}
	y = r3.Unit(r3.Sub(y, r3.Scale(r3.Dot(y, z), z)))
	return turned{x: r3.Cross(y, z), y: y, z: z}
}

func (t turned) of(v r3.Vec) r3.Vec {
	return r3.Vec{X: r3.Dot(t.x, v), Y: r3.Dot(t.y, v), Z: r3.Dot(t.z, v)}
}

// Angles and indexes within these are one, in degrees and teeth.
const (
	sameAngle = 0.01
	snap      = 2e-3
)

// Place turns a shape into a diagram of width 1, pavilion first: tiers of facets that
// share angle and distance, the turn that leaves the smallest cheats, an order and
// stops. Facets within a hundredth of a degree of level or upright are. The error is a Problem.
func (s *Shape) Place(ctx context.Context, p Placing) (*Placed, error) {
	f := frame(p.Up)
	middle := s.Origin
	if p.ByCentroid || !s.inside(middle) {
		middle = s.Solid.Centroid()
	}
	var planes []solid.Plane
	for _, plane := range s.Planes {
		planes = append(planes, solid.Plane{Normal: f.of(plane.Normal), D: plane.D - r3.Dot(plane.Normal, middle)})
	}
	at := Shape{Planes: planes}
	if err := at.close(); err != nil {
		return nil, err
	}
	box := at.Solid.Bounds().Size()
	unit := math.Min(box.X, box.Y)
	d, want, moved := tiers(planes, unit, s.Tolerance, p)
	if len(d.Tiers) > diagram.MaxTiers {
		return nil, diagram.Problem{Code: diagram.TooManyTiers, TierNo: -1, Value: float64(len(d.Tiers)), High: diagram.MaxTiers}
	}
	stone, err := cutting.PlanCuts(ctx, d, want, math.Max(cutting.Exactly, s.Tolerance))
	if err != nil {
		return nil, err
	}
	if stone, err = cutting.Cut(named(stone.Diagram)); err != nil {
		return nil, err
	}
	return &Placed{Stone: stone, Width: unit * s.Size, Moved: moved}, nil
}

// Placed is a shape as a diagram.
type Placed struct {
	Stone *cutting.Stone
	// Width is that of the shape in the unit that it came in.
	Width float64
	// Moved is the most that a facet was turned to share its tier's angle and stand on its tooth, in
	// degrees.
	Moved float64
}

func (s *Shape) inside(p r3.Vec) bool {
	return !slices.ContainsFunc(s.Planes, func(plane solid.Plane) bool { return plane.Above(p) > -1e-6 })
}

// facet is a plane as a tier holds it.
type facet struct {
	part           diagram.Part
	angle, azimuth float64
	distance       float64
}

func facetOf(p solid.Plane, unit float64) facet {
	n := p.Normal
	f := facet{
		part: diagram.Girdle, distance: p.D / unit,
		angle:   math.Atan2(math.Hypot(n.X, n.Y), math.Abs(n.Z)) * 180 / math.Pi,
		azimuth: gear.Circle(math.Atan2(n.X, n.Y) * 180 / math.Pi),
	}
	switch {
	case f.angle > 90-sameAngle:
		f.angle = 90
	case n.Z > 0:
		f.part = diagram.Crown
	default:
		f.part = diagram.Pavilion
	}
	if f.angle < sameAngle {
		f.angle, f.azimuth = 0, 0
	}
	return f
}

// named calls the tiers of each part by the order in which they are cut, and a table T.
func named(d *diagram.Diagram) *diagram.Diagram {
	letters := map[diagram.Part]string{diagram.Pavilion: "P", diagram.Girdle: "G", diagram.Crown: "C"}
	counts, names := map[diagram.Part]int{}, map[string]string{}
	for _, t := range d.Tiers {
		if t.Part == diagram.Crown && t.Angle == 0 {
			names[t.Name] = "T"
			continue
		}
		counts[t.Part]++
		names[t.Name] = fmt.Sprintf("%s%d", letters[t.Part], counts[t.Part])
	}
	return d.Renamed(names)
}

// tiers groups the planes of a solid of the given width.
// Moved is the most that a facet is turned for that, in degrees.
func tiers(planes []solid.Plane, unit, tolerance float64, p Placing) (d *diagram.Diagram, want cutting.Distances, moved float64) {
	d = &diagram.Diagram{
		Format: diagram.Format, Name: p.Name, Gear: p.Gear, RefractiveIndex: p.RefractiveIndex,
	}
	d.FillDefaults()
	var groups [][]facet
	var azimuths []float64
	for _, plane := range planes {
		f := facetOf(plane, unit)
		if f.angle > 0 {
			azimuths = append(azimuths, f.azimuth)
		}
		at := slices.IndexFunc(groups, func(g []facet) bool {
			const sameDistance = 1e-4
			return g[0].part == f.part && math.Abs(g[0].angle-f.angle) < sameAngle && math.Abs(g[0].distance-f.distance) < sameDistance
		})
		if at < 0 {
			groups = append(groups, []facet{f})
		} else {
			groups[at] = append(groups[at], f)
		}
	}
	turn := wholeTurn(azimuths, p.Gear)
	slices.SortStableFunc(groups, func(a, b []facet) int {
		return cmp.Or(rank(a[0].part)-rank(b[0].part), cmp.Compare(reach(b[0]), reach(a[0])))
	})
	for i, g := range groups {
		t := diagram.Tier{Name: fmt.Sprintf("F%d", i+1), Part: g[0].part}
		angle, distance := 0.0, 0.0
		for _, f := range g {
			angle += f.angle / float64(len(g))
			distance += f.distance / float64(len(g))
			turned := f.azimuth + turn
			if d.CutWith(f.part) == diagram.Pavilion {
				turned = -turned
			}
			index := gear.Normal(turned*float64(p.Gear)/360, p.Gear)
			if whole := math.Round(index); math.Abs(index-whole) < snap {
				moved = math.Max(moved, math.Abs(index-whole)*360/float64(p.Gear)*math.Sin(f.angle*math.Pi/180))
				index = gear.Normal(whole, p.Gear)
			}
			index = math.Round(index*1e9) / 1e9
			t.Indexes = append(t.Indexes, index)
		}
		t.Angle = tidy(angle, tolerance)
		for _, f := range g {
			moved = math.Max(moved, math.Abs(f.angle-t.Angle))
		}
		slices.Sort(t.Indexes)
		if g[0].angle == 0 {
			t.Indexes = []float64{float64(p.Gear)}
		}
		d.Tiers = append(d.Tiers, t)
		want = append(want, slices.Repeat([]float64{distance}, len(t.Indexes)))
	}
	return d, want, moved
}

// wholeTurn returns the turn that carries most facets to whole teeth, in degrees. A
// cutter would rather cheat few facets a lot than all of them a little.
func wholeTurn(azimuths []float64, teeth int) float64 {
	tooth := 360 / float64(teeth)
	off := func(azimuth, turn float64) float64 { return math.Abs(math.Remainder(azimuth+turn, tooth)) }
	best, most := 0.0, -1
	for _, a := range append([]float64{0}, azimuths...) {
		turn := -math.Remainder(a, tooth)
		whole := 0
		for _, b := range azimuths {
			if off(b, turn) < snap*tooth {
				whole++
			}
		}
		if whole > most || whole == most && math.Abs(turn) < math.Abs(best)-1e-9 {
			best, most = turn, whole
		}
	}
	return best
}

func rank(p diagram.Part) int { return slices.Index(diagram.Parts, p) }

// reach orders the tiers of a side: those of the pavilion that come lowest on the axis
// first, those of the crown that come lowest at the girdle; level ones last.
func reach(f facet) float64 {
	const girdle = 0.5
	sin, cos := math.Sincos(f.angle * math.Pi / 180)
	switch {
	case f.angle == 0:
		return math.Inf(-1)
	case f.part == diagram.Crown:
		return -(f.distance - girdle*sin) / cos
	case f.part == diagram.Pavilion:
		return -f.distance / cos
	}
	return -f.distance
}

// tidy drops the digits of an angle that are the mesh's or the arithmetic's.
func tidy(angle, tolerance float64) float64 {
	const perUnit = 5 // degrees that an angle may be off for a plane as far off as 1
	if short := math.Round(angle*100) / 100; math.Abs(angle-short) < math.Max(perUnit*tolerance, 1e-10) {
		return short
	}
	return angle
}
