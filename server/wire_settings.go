package server

import (
	"time"

	"cressa/core/abrasive"
	"cressa/core/dopping"
	"cressa/core/material"
	"cressa/workshop"
)

// Settings are the machines, habits and materials of the person who owns the workshop.
type Settings struct {
	Version int `json:"version"`
	// Answered tells whether the first opening's questions were answered or skipped.
	Answered bool `json:"answered"`
	// Machine and Habit are the IDs of the defaults.
	Machine  string    `json:"machine" validate:"required,max=40"`
	Machines []Machine `json:"machines" validate:"min=1,max=20,dive"`
	Habit    string    `json:"habit" validate:"required,max=40"`
	Habits   []Habits  `json:"habits" validate:"min=1,max=20,dive"`
	// Materials are the owner's own, beside those of the table.
	Materials []Material `json:"materials" validate:"max=200,dive"`
	// Abrasives are the rules by which the kit is judged.
	Abrasives Abrasives `json:"abrasives"`
	// Prices are what finished stones bring.
	Prices []Price `json:"prices" validate:"max=1000,dive"`
}

// Price is what a carat of a finished stone brings from a weight in carats on: an amount in minor units of the
// currency, "" for stones of parcels without one.
type Price struct {
	Material string  `json:"material" validate:"required,max=60"`
	Currency string  `json:"currency" validate:"omitempty,len=3,uppercase,alpha"`
	From     float64 `json:"from" validate:"min=0,max=10000"`
	Amount   int64   `json:"amount" validate:"min=0,max=1000000000"`
}

// Abrasives are what a ladder of grits is held to, and which stones are bad for a lap.
type Abrasives struct {
	// DamageLow and DamageHigh say how deep a step's damage goes, in grains.
	DamageLow  float64 `json:"damageLow" validate:"min=0.5,max=10"`
	DamageHigh float64 `json:"damageHigh" validate:"min=0.5,max=10,gtefield=DamageLow"`
	// CutRatio and PolishRatio are how many times coarser a lap may be than the next one, where
	// that cuts and where it polishes.
	CutRatio    float64 `json:"cutRatio" validate:"min=1.2,max=20"`
	PolishRatio float64 `json:"polishRatio" validate:"min=1.2,max=200"`
	// SoftBelow is the hardness, on the scale of Mohs, below which a stone's dust loads a lap,
	// SmearBelow that below which it smears.
	SoftBelow  float64 `json:"softBelow" validate:"min=1,max=10"`
	SmearBelow float64 `json:"smearBelow" validate:"min=1,max=10,ltefield=SoftBelow"`
	// Coarser is how many times larger a grain must be than the one that a lap works with to count
	// as coarse.
	Coarser float64 `json:"coarser" validate:"min=1,max=20"`
}

func (a Abrasives) abrasives() workshop.Abrasives {
	return workshop.Abrasives{
		Rules:  abrasive.Rules{DamageLow: a.DamageLow, DamageHigh: a.DamageHigh, CutRatio: a.CutRatio, PolishRatio: a.PolishRatio},
		Limits: abrasive.Limits{SoftBelow: a.SoftBelow, SmearBelow: a.SmearBelow, Coarser: a.Coarser},
	}
}

func abrasivesView(a workshop.Abrasives) Abrasives {
	return Abrasives{a.DamageLow, a.DamageHigh, a.CutRatio, a.PolishRatio, a.SoftBelow, a.SmearBelow, a.Coarser}
}

// Machine is a faceting machine as its owner knows it.
type Machine struct {
	// ID stays with the machine when it is renamed; plans name it.
	ID   string `json:"id" validate:"required,max=40"`
	Name string `json:"name" validate:"required,max=60"`
	// Gears lists the teeth of the index gears at hand.
	Gears []int `json:"gears" validate:"max=40,dive,min=1,max=360"`
	// Setting is how an angle is set: on a protractor, or by a peg in a hole of a jamb. Pegs are the
	// lengths of the pegs, Holes the heights of the holes above the lap, in mm.
	Setting workshop.AngleSetting `json:"setting" validate:"oneof=protractor holes"`
	Pegs    []float64             `json:"pegs" validate:"max=6,dive,min=10,max=1000"`
	Holes   []float64             `json:"holes" validate:"max=80,dive,min=0,max=1000"`
	// AngleStep is the finest step that the protractor reads, AngleLow and AngleHigh how
	// far it goes, in degrees.
	AngleStep float64 `json:"angleStep" validate:"min=0.001,max=5"`
	AngleLow  float64 `json:"angleLow" validate:"min=-30,max=90"`
	AngleHigh float64 `json:"angleHigh" validate:"min=30,max=180,gtfield=AngleLow"`
	// AngleZero is what the protractor reads too much, in degrees.
	AngleZero float64 `json:"angleZero" validate:"min=-5,max=5"`
	// Repeatability is by how much an angle differs when it is set again, in degrees (one
	// standard deviation).
	Repeatability float64          `json:"repeatability" validate:"min=0,max=2"`
	Cheater       workshop.Cheater `json:"cheater" validate:"oneof=none degrees turns"`
	// CheatPerTurn is how many degrees one turn of the cheater's knob is worth.
	CheatPerTurn float64 `json:"cheatPerTurn" validate:"min=0,max=30"`
	// HeightStep is one division of the height dial in mm, 0 without a dial, HeightSense
	// what a rising reading does to the stone.
	HeightStep  float64              `json:"heightStep" validate:"min=0,max=1"`
	HeightSense workshop.HeightSense `json:"heightSense" validate:"oneof=lifts lowers"`
	// TableAdapter is the angle in degrees to which the protractor is set when the table
	// goes on with the adapter, 0 without one.
	TableAdapter float64 `json:"tableAdapter" validate:"min=0,max=90"`
	// QuillMM is how wide the quill is at its nose, ReachMM how far the nose lies behind a dop's rim, in mm;
	// 0 where nobody has measured.
	QuillMM float64 `json:"quillMM" validate:"min=0,max=200"`
	ReachMM float64 `json:"reachMM" validate:"min=0,max=300"`
}

// Habits are how a cutter likes to work. New plans begin with them.
type Habits struct {
	ID   string `json:"id" validate:"required,max=40"`
	Name string `json:"name" validate:"required,max=60"`
	// FirstSide is the side cut first: drawn leaves it to the diagram.
	FirstSide workshop.FirstSide `json:"firstSide" validate:"oneof=drawn pavilion crown"`
	// Tick is what Done ticks at the bench.
	Tick workshop.TickOf `json:"tick" validate:"oneof=facet round tier"`
	// Long is which way a long stone lies: across is 3–9 o'clock, along 12–6.
	Long workshop.Lying `json:"long" validate:"oneof=across along"`
	// Allowance is what is left all round a stone that is to fit into a piece of rough, Kerf what the saw's
	// blade takes, both in mm.
	Allowance float64 `json:"allowance" validate:"min=0,max=10"`
	Kerf      float64 `json:"kerf" validate:"min=0,max=20"`
	// Preform is what is left on a preform.
	Preform PreformHabit `json:"preform"`
	PlanHabits
	// Laps are proposed for a new plan. A last pass without a lap and a compound gets what the
	// material is usually polished with.
	Laps
	// Holds is how a stone is usually held in its first setup and in the next; there may be fewer.
	Holds []Hold `json:"holds" validate:"max=12,dive"`
}

// PreformHabit is what is left on a preform, in mm: all round, and at the end that goes onto the dop. Under is by how
// many degrees the cone is flatter than the mains, 0 for the mains at once.
type PreformHabit struct {
	Side  float64 `json:"side" validate:"min=0,max=5"`
	Foot  float64 `json:"foot" validate:"min=0,max=5"`
	Under float64 `json:"under" validate:"min=0,max=10"`
}

// Material is a row of the material table, or one of the owner's own.
type Material struct {
	Name string `json:"name" validate:"required,max=60"`
	// RefractiveIndex spans the rays and the varieties. The lower one decides
	// whether light is kept.
	RefractiveIndex material.Range `json:"refractiveIndex"`
	Optic           material.Optic `json:"optic" validate:"oneof=isotropic uniaxial biaxial"`
	// Birefringence is the largest difference between the indexes of the two rays
	// of one stone; 0 where light is not split.
	Birefringence float64 `json:"birefringence"`
	// Dispersion is the difference of the indexes for the lines B and G (687 and
	// 431 nm); null where it is not known.
	Dispersion *float64 `json:"dispersion"`
	// SG is the specific gravity that weights are reckoned with.
	SG       float64           `json:"sg"`
	Hardness material.Range    `json:"hardness"` // Mohs
	Heat     material.Heat     `json:"heat" validate:"oneof=sturdy careful avoid"`
	Solvent  material.Solvent  `json:"solvent" validate:"oneof=safe acid soaks"`
	Dust     material.Dust     `json:"dust" validate:"oneof=nuisance silica toxic fibrous"`
	Cleavage material.Cleavage `json:"cleavage" validate:"oneof=none distinct perfect"`
	Polish   material.Polish   `json:"polish" validate:"oneof=cerium alumina diamond"`
}

func (m Material) material() material.Material {
	out := material.Material{
		Name: m.Name, RefractiveIndex: m.RefractiveIndex, Optic: m.Optic, Birefringence: m.Birefringence, SG: m.SG, Hardness: m.Hardness,
		Heat: m.Heat, Solvent: m.Solvent, Dust: m.Dust, Cleavage: m.Cleavage, Polish: m.Polish,
	}
	if m.Dispersion != nil {
		out.Dispersion = material.Dispersion(*m.Dispersion)
	}
	return out
}

func materialOnWire(m material.Material) Material {
	out := Material{
		Name: m.Name, RefractiveIndex: m.RefractiveIndex, Optic: m.Optic, Birefringence: m.Birefringence, SG: m.SG, Hardness: m.Hardness,
		Heat: m.Heat, Solvent: m.Solvent, Dust: m.Dust, Cleavage: m.Cleavage, Polish: m.Polish,
	}
	if m.Dispersion != 0 {
		figure := float64(m.Dispersion)
		out.Dispersion = &figure
	}
	return out
}

func (s Settings) settings() workshop.Settings {
	return workshop.Settings{
		Version: s.Version, Answered: s.Answered, Machine: s.Machine, Habit: s.Habit,
		Materials: each(s.Materials, Material.material), Abrasives: s.Abrasives.abrasives(),
		Prices:   each(s.Prices, func(p Price) workshop.Price { return workshop.Price(p) }),
		Machines: each(s.Machines, func(m Machine) workshop.Machine { return workshop.Machine(m) }),
		Habits: each(s.Habits, func(h Habits) workshop.Habits {
			return workshop.Habits{
				ID: h.ID, Name: h.Name, FirstSide: h.FirstSide, Tick: h.Tick, Long: h.Long, Allowance: h.Allowance, Kerf: h.Kerf,
				Preform: dopping.Allowance(h.Preform), PlanHabits: workshop.PlanHabits(h.PlanHabits), Laps: h.laps(), Holds: holdsOf(h.Holds),
			}
		}),
	}
}

func settingsView(s workshop.Settings) Settings {
	return Settings{
		Version: s.Version, Answered: s.Answered, Machine: s.Machine, Habit: s.Habit,
		Materials: each(s.Materials, materialOnWire), Abrasives: abrasivesView(s.Abrasives),
		Prices:   each(s.Prices, func(p workshop.Price) Price { return Price(p) }),
		Machines: each(s.Machines, func(m workshop.Machine) Machine { return Machine(m) }),
		Habits: each(s.Habits, func(h workshop.Habits) Habits {
			return Habits{
				ID: h.ID, Name: h.Name, FirstSide: h.FirstSide, Tick: h.Tick, Long: h.Long, Allowance: h.Allowance, Kerf: h.Kerf,
				Preform: PreformHabit(h.Preform), PlanHabits: PlanHabits(h.PlanHabits), Laps: lapsView(h.Laps), Holds: holdViews(h.Holds),
			}
		}),
	}
}

// Device is a tablet or another screen that may enter over the network.
type Device struct {
	ID     string    `json:"id"`
	Name   string    `json:"name"`
	Paired time.Time `json:"paired"`
	// Seen is when it last asked for something, to the minute.
	Seen time.Time `json:"seen"`
}
