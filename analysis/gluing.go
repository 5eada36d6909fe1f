package analysis

import (
	"context"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/angles"
	"cressa/core/diagram"
	"cressa/core/dopping"
	"cressa/core/gear"
	"cressa/core/rough"
	"cressa/workshop"
)

// Gluing is what is looked at before a stone is glued: its preform, and how it can be held on each side.
type Gluing struct {
	Assessment *workshop.Assessment
	// Source is where the rough came from, nil where that is not on record.
	Source    *workshop.Source
	Allowance dopping.Allowance
	// Mains is the place of the tier that the preform's cone goes by, -1 where no cone comes of it.
	Mains    int
	Turned   dopping.Turned
	Mounting []Mounting
	// Other are the mountings where the other side is cut first.
	Other []Mounting
	// machine is what of the machine may come to the lap, as it is measured by now: it changes no cut, so the
	// plan need not have frozen it.
	machine dopping.Machine
	shelf   []workshop.Shelved
	// kerf is what a blade usually takes, in mm.
	kerf float64
}

// Mounting is how a stone can be held with one side up.
type Mounting struct {
	// Setup is the place among the plan's setups, Up what is up then: a side, or the facet that a solid is held with facing up.
	Setup int
	Up    string
	// Stone is the finished stone as it stands, Body what is held then: the preform on the first side.
	Stone, Body dopping.Held
	Foot        dopping.Foot
	Cuts        []dopping.Cut
	// Options are the dops of the shelf, or usual ones where it has none, the best first. Taken is the one
	// that the plan names, nil where it names none whose size is known.
	Options []DopOption
	Taken   *DopOption
}

// DopOption is a dop that was tried.
type DopOption struct {
	dopping.Option
	// Item is its ID in the kit, "" for one that is not there, Name what it is called; "" for a usual one.
	Item, Name string
	// Bonds are the adhesives on it, the best first.
	Bonds []dopping.Bond
	// Lever is how far the stone's end stands out of the dop, in mm.
	Lever float64
}

// Gluer is what of the workshop is asked before a stone is glued.
type Gluer interface {
	AssessStone(ctx context.Context, stone workshop.Stone) (*workshop.Assessment, error)
	Settings(ctx context.Context) (workshop.Settings, error)
	Shelf(ctx context.Context) ([]workshop.Shelved, error)
	SourceOf(ctx context.Context, stone workshop.Stone) (*workshop.Source, error)
}

// GluingOf looks at a planned stone before it is glued. Errors are those of AssessStone.
func GluingOf(ctx context.Context, shop Gluer, stone workshop.Stone) (*Gluing, error) {
	a, err := shop.AssessStone(ctx, stone)
	if err != nil {
		return nil, err
	}
	settings, err := shop.Settings(ctx)
	if err != nil {
		return nil, err
	}
	habits := settings.HabitsOf("")
	g := &Gluing{Assessment: a, Allowance: habits.Preform, kerf: habits.Kerf}
	machine := settings.MachineOf(a.Machine.ID)
	if machine.ID != a.Machine.ID {
		machine = a.Machine
	}
	g.machine = dopping.Machine{Quill: machine.QuillMM, Reach: machine.ReachMM}
	if g.Source, err = shop.SourceOf(ctx, stone); err != nil {
		return nil, err
	}
	if g.shelf, err = shop.Shelf(ctx); err != nil {
		return nil, err
	}
	g.shelf = slices.DeleteFunc(g.shelf, func(s workshop.Shelved) bool { return s.Gone })
	g.mount()
	g.preform()
	return g, nil
}

// usualDops are tried where the shelf has none of a shape.
func usualDops() (out []DopOption) {
	for _, shape := range []dopping.Shape{dopping.Flat, dopping.Cone, dopping.Vee} {
		for _, mm := range []float64{2, 3, 4, 5, 6, 8, 10, 12} {
			out = append(out, DopOption{Option: dopping.Option{Dop: dopping.Dop{Shape: shape, Diameter: mm}}})
		}
	}
	return out
}

// dops are those that can be taken: what is on the shelf, and usual ones of shapes that it lacks.
func (g *Gluing) dops() []DopOption {
	var out []DopOption
	owned := map[dopping.Shape]bool{}
	for _, s := range g.shelf {
		if s.Dop != nil {
			d := s.Dop.Dop()
			owned[d.Shape] = true
			out = append(out, DopOption{Option: dopping.Option{Dop: d}, Item: s.ID, Name: s.Name})
		}
	}
	for _, o := range usualDops() {
		if !owned[o.Dop.Shape] {
			out = append(out, o)
		}
	}
	return out
}

func (g *Gluing) mount() {
	setups := g.Assessment.Setups
	for no, s := range setups {
		g.Mounting = append(g.Mounting, g.mounting(no, s.Pose, no == 0, g.Assessment.Choices.Holds))
	}
	if len(g.Assessment.Choices.DopUps) > 0 {
		return
	}
	for no, s := range slices.Backward(setups) {
		g.Other = append(g.Other, g.mounting(no, s.Pose, no == len(setups)-1, nil))
	}
}

// mounting tries the dops on a setup. The first side is cut of a preform, which has a flat at the dop.
func (g *Gluing) mounting(no int, pose gear.Pose, first bool, holds []workshop.Hold) Mounting {
	a := g.Assessment
	m := Mounting{Setup: no, Up: a.Choices.UpName(no), Stone: dopping.Hold(a.Stone.Solid(), a.MM, pose.Up).About(dopping.Standing(pose.Up)(r3.Scale(a.MM, a.Middle())))}
	m.Body = m.Stone
	if first {
		m.Body = m.Stone.Blank(g.Allowance)
	}
	m.Foot, m.Cuts = m.Body.Foot(), g.cuts(pose, no)
	for _, o := range g.dops() {
		m.Options = append(m.Options, g.try(m, o))
	}
	slices.SortStableFunc(m.Options, func(a, b DopOption) int { return a.Compare(b.Option) })
	if no < len(holds) {
		hold := holds[no]
		if d, ok := hold.DopOf(g.shelf); ok {
			taken := g.try(m, DopOption{Option: dopping.Option{Dop: d}, Item: hold.DopItem, Name: hold.Dop})
			m.Taken = &taken
		}
	}
	return m
}

func (g *Gluing) try(m Mounting, o DopOption) DopOption {
	a := g.Assessment
	o.Option = m.Body.Try(o.Dop, m.Cuts, g.machine)
	o.Lever = math.Max(0, m.Body.High()+o.Seat.Near)
	for _, adhesive := range dopping.Adhesives() {
		o.Bonds = append(o.Bonds, o.Seat.Glue(adhesive, a.Material, o.Lever))
	}
	dopping.RankBonds(o.Bonds)
	return o
}

// cuts are the facets that are cut in a setup, given by its place, but for those that go onto the table adapter.
func (g *Gluing) cuts(pose gear.Pose, setup int) []dopping.Cut {
	a := g.Assessment
	pose.Rotation = gear.Unmoved
	var out []dopping.Cut
	for i, f := range a.Stone.Facets {
		// Poses of the workshop's own can be dialled.
		if set, _ := gear.Dial(f.Plane.Normal, pose); a.In[i] == setup && !a.Machine.WithAdapter(set.Angle) {
			out = append(out, dopping.CutOf(i, dopping.Standing(pose.Up)(f.Plane.Normal), -f.Plane.Above(a.Middle())*a.MM))
		}
	}
	return out
}

// preform works out the turned preform of the side that is cut first.
func (g *Gluing) preform() {
	a, m := g.Assessment, g.Mounting[0]
	g.Mains = angles.ShallowestOf(a.Stone, diagram.Part(m.Up))
	if g.Mains < 0 {
		return
	}
	var ok bool
	if g.Turned, ok = m.Stone.Turn(a.Stone.Diagram.Tiers[g.Mains].Angle, g.Allowance); !ok {
		g.Mains = -1
	}
}

// Wedges tells what a saw on the machine takes off before the first side is ground, tier by tier. Kerf is
// that of the thinnest blade of the kit, the habit's without any. The piece is the one that the stone was
// found in, else the blank.
func (g *Gluing) Wedges(worked *rough.Piece) (wedges []dopping.Wedge, kerf float64) {
	kerf = math.Inf(1)
	for _, s := range g.shelf {
		if s.Blade != nil {
			kerf = math.Min(kerf, s.Blade.Kerf)
		}
	}
	if math.IsInf(kerf, 1) {
		kerf = g.kerf
	}
	m := g.Mounting[0]
	corners := m.Body.Points()
	if f := g.found(); f != nil && worked != nil {
		at := r3.Vec{X: f.Offset[0], Y: f.Offset[1], Z: f.Offset[2]}
		corners = dopping.InPiece(worked.Body.Points(), r3.NewMat(f.Rotation[:]), at, g.Assessment.Setups[0].Pose.Up)
	}
	return dopping.Saw(corners, m.Cuts, kerf, g.Allowance.Side), kerf
}

// found is the stone as it was found in its piece, nil where it was not.
func (g *Gluing) found() *workshop.Found {
	if g.Source == nil {
		return nil
	}
	return g.Source.Found
}

// Bottles are the adhesives of the shelf.
func (g *Gluing) Bottles() []workshop.Shelved {
	return slices.DeleteFunc(slices.Clone(g.shelf), func(s workshop.Shelved) bool { return s.Adhesive == nil })
}

// Kept is how much of the height the finished stone needs below its first side, in mm: the other side and
// the girdle.
func (g *Gluing) Kept() float64 {
	a := g.Assessment
	if g.Mounting[0].Up == string(diagram.Crown) {
		return a.HeightMM - a.CrownMM
	}
	return a.HeightMM - a.PavilionMM
}

// GlueOf returns the adhesive that the plan names for a mounting, false where it names none of a known sort.
func (g *Gluing) GlueOf(m Mounting) (dopping.Adhesive, bool) {
	holds := g.Assessment.Choices.Holds
	if m.Setup >= len(holds) {
		return dopping.Adhesive{}, false
	}
	a, _, ok := holds[m.Setup].AdhesiveOf(g.shelf)
	return a, ok
}
