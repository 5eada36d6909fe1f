package server

import (
	"cmp"
	"time"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/workshop"
)

// Choices are what a cutter decides when planning a stone.
type Choices struct {
	Material string `json:"material" validate:"required,max=60"`
	// Machine is the ID of the machine it is cut on; the default where it is gone.
	Machine   string       `json:"machine" validate:"max=40"`
	Gear      int          `json:"gear" validate:"min=1,max=360"`
	Size      Size         `json:"size"`
	FirstSide diagram.Part `json:"firstSide" validate:"oneof=pavilion crown"`
	PlanHabits
	Laps
	// Cheats say which teeth are dialled where facets lie between them, on a machine with a cheater.
	Cheats Cheating `json:"cheats"`
	// DopUps are the facets that face up one time after the other, for a solid that is held otherwise than with one side up and then
	// the other; none for that.
	DopUps []DopUp `json:"dopUps" validate:"max=24,dive"`
	// Holds is how the stone is held in each setup, in their order; there may be fewer.
	Holds []Hold `json:"holds" validate:"max=24,dive"`
}

// Cheating says which tooth a facet between teeth is dialled from, and which teeth are not used.
type Cheating struct {
	From gear.From `json:"from" validate:"omitempty,oneof=nearest below above"`
	Skip []int     `json:"skip" validate:"max=60,dive,min=1,max=360"`
}

// DopUp is one of the times that a solid is held: the facet that faces up then, by its tier and its written index.
type DopUp struct {
	Tier  string  `json:"tier" validate:"required,max=12"`
	Index float64 `json:"index" validate:"min=0,max=360"`
}

// Size says how large the stone is to be.
type Size struct {
	// Basis is what the figure measures: the width or the length of the stone, or
	// across the flats of a girdle tier.
	Basis workshop.Basis `json:"basis" validate:"oneof=width length flats"`
	Tier  string         `json:"tier" validate:"max=12"`
	MM    float64        `json:"mm" validate:"min=0.1,max=500"`
	// Typed is the figure as it was typed.
	Typed string `json:"typed" validate:"max=40"`
}

// PlanHabits are the habits that a plan takes over and can change.
type PlanHabits struct {
	// Girdle and Table say when these are cut within their side.
	Girdle cutting.When `json:"girdle" validate:"oneof=drawn first last"`
	Table  cutting.When `json:"table" validate:"oneof=drawn first last"`
	// Visiting is the order of the facets within a tier.
	Visiting gear.Visiting `json:"visiting" validate:"oneof=written round pairs"`
	// TableAt is when the table goes through its laps: through all of them at one setting of the
	// adapter, or each with the other facets.
	TableAt workshop.TableAt `json:"tableAt" validate:"oneof=through each"`
	// Turning is how a stone is turned on its dop for another gear.
	Turning workshop.Turning `json:"turning" validate:"oneof=whole sides"`
	// GirdleSpare is by how many mm the girdle is left thicker until the second side is cut with its second lap.
	GirdleSpare float64 `json:"girdleSpare" validate:"min=0,max=2"`
}

// Laps are the passes of a plan in order, and who goes without some of them.
type Laps struct {
	Passes []Pass   `json:"passes" validate:"min=1,max=12,dive"`
	Uses   []LapUse `json:"uses" validate:"max=400,dive"`
}

// LapUse names the passes that a group of tiers goes without or, where Tier is set, that one tier of
// it goes without whatever its group does.
type LapUse struct {
	Group   workshop.Group `json:"group" validate:"oneof=pavilion girdle crown table"`
	Tier    string         `json:"tier" validate:"max=12"`
	Without []string       `json:"without" validate:"max=12,dive,max=40"`
}

// Pass is one trip with one lap over the facets that get it.
type Pass struct {
	// ID survives renaming and reordering; ticks name it.
	ID   string `json:"id" validate:"required,max=40"`
	Name string `json:"name" validate:"required,max=60"`
	Lap  string `json:"lap" validate:"max=60"`
	// Compound is what the lap is charged with, "" for one that cuts by itself.
	Compound string `json:"compound" validate:"max=60"`
	// LapItem and CompoundItem are those of the kit, by their IDs; "" where the words are all that is
	// known.
	LapItem      string `json:"lapItem" validate:"max=40"`
	CompoundItem string `json:"compoundItem" validate:"max=40"`
}

// Hold is how a stone is held in one setup: the dop and the adhesive, in words and, where they are
// things of the kit, by their IDs.
type Hold struct {
	Dop          string `json:"dop" validate:"max=60"`
	Adhesive     string `json:"adhesive" validate:"max=60"`
	DopItem      string `json:"dopItem" validate:"max=40"`
	AdhesiveItem string `json:"adhesiveItem" validate:"max=40"`
	// Tilt is by how many degrees the stone is tipped on purpose, towards an index that is dialled.
	Tilt    float64 `json:"tilt" validate:"min=0,max=30"`
	Towards float64 `json:"towards" validate:"min=0,max=360"`
}

func (c Choices) choices() workshop.Choices {
	return workshop.Choices{
		Material: c.Material, Machine: c.Machine, Gear: c.Gear, Size: workshop.Size(c.Size), FirstSide: c.FirstSide,
		PlanHabits: workshop.PlanHabits(c.PlanHabits), Laps: c.laps(), Holds: holdsOf(c.Holds), DopUps: c.dopUps(), Cheats: c.Cheats.cheats(),
	}
}

// cheats are empty where they are the usual ones, as in a plan.
func (c Cheating) cheats() gear.Cheating {
	if out := gear.Cheating(c); !out.Usual() {
		return out
	}
	return gear.Cheating{}
}

// dopUps are nil where there are none, as in a plan.
func (c Choices) dopUps() []workshop.DopUp {
	if len(c.DopUps) == 0 {
		return nil
	}
	return each(c.DopUps, func(d DopUp) workshop.DopUp { return workshop.DopUp(d) })
}

func choicesView(c workshop.Choices) Choices {
	return Choices{
		Material: c.Material, Machine: c.Machine, Gear: c.Gear, Size: Size(c.Size), FirstSide: c.FirstSide,
		PlanHabits: PlanHabits(c.PlanHabits), Laps: lapsView(c.Laps), Holds: holdViews(c.Holds),
		DopUps: each(c.DopUps, func(d workshop.DopUp) DopUp { return DopUp(d) }),
		Cheats: Cheating{cmp.Or(c.Cheats.From, gear.NearestTooth), append([]int{}, c.Cheats.Skip...)},
	}
}

func (l Laps) laps() workshop.Laps {
	return workshop.Laps{
		Passes: each(l.Passes, func(p Pass) workshop.Pass { return workshop.Pass(p) }),
		Uses:   each(l.Uses, func(u LapUse) workshop.LapUse { return workshop.LapUse(u) }),
	}
}

func lapsView(l workshop.Laps) Laps {
	return Laps{Passes: passViews(l.Passes), Uses: each(l.Uses, func(u workshop.LapUse) LapUse { return LapUse(u) })}
}

func holdsOf(list []Hold) []workshop.Hold {
	return each(list, func(h Hold) workshop.Hold { return workshop.Hold(h) })
}

func holdViews(list []workshop.Hold) []Hold {
	return each(list, func(h workshop.Hold) Hold { return Hold(h) })
}

func passViews(list []workshop.Pass) []Pass {
	return each(list, func(p workshop.Pass) Pass { return Pass(p) })
}

// Division is what one division of the height dial does to a facet.
type Division struct {
	// Deeper is how much further the facet's plane moves into the stone, in mm.
	Deeper float64 `json:"deeper"`
	// Girdle is how much that takes off the girdle, in mm; 0 where the facet does not
	// run down to it at a slope.
	Girdle float64 `json:"girdle"`
	// Rising tells that the reading rises as the facet is cut deeper.
	Rising bool `json:"rising"`
}

// Finish is the stone's card in the logbook. Figures that were not taken are 0.
type Finish struct {
	Version        int     `json:"version"`
	RoughCarats    float64 `json:"roughCarats" validate:"min=0,max=100000"`
	FinishedCarats float64 `json:"finishedCarats" validate:"min=0,max=100000"`
	WidthMM        float64 `json:"widthMM" validate:"min=0,max=1000"`
	LengthMM       float64 `json:"lengthMM" validate:"min=0,max=1000"`
	HeightMM       float64 `json:"heightMM" validate:"min=0,max=1000"`
	Started        string  `json:"started" validate:"omitempty,datetime=2006-01-02"`
	Finished       string  `json:"finished" validate:"required,datetime=2006-01-02"`
	// Hours is what the cutter corrected the reckoned hours to, null where they were
	// left.
	Hours *float64 `json:"hours" validate:"omitempty,min=0,max=10000"`
	Notes string   `json:"notes" validate:"max=20000"`
	// Price is what is asked for the stone, in minor units of the currency, 0 where nothing is said of it.
	Price    int64     `json:"price" validate:"min=0,max=1000000000000"`
	Currency string    `json:"currency" validate:"omitempty,len=3,uppercase,alpha"`
	Saved    time.Time `json:"saved"`
}

// Intake is what is written down when a stone comes in. Figures that were not taken are 0,
// texts that were not said empty.
type Intake struct {
	Owner    string  `json:"owner" validate:"max=200"`
	Material string  `json:"material" validate:"max=60"`
	Carats   float64 `json:"carats" validate:"min=0,max=100000"`
	WidthMM  float64 `json:"widthMM" validate:"min=0,max=1000"`
	LengthMM float64 `json:"lengthMM" validate:"min=0,max=1000"`
	HeightMM float64 `json:"heightMM" validate:"min=0,max=1000"`
	Damage   string  `json:"damage" validate:"max=20000"`
	Agreed   string  `json:"agreed" validate:"max=20000"`
	// Promised is the day it was promised for.
	Promised string `json:"promised" validate:"omitempty,datetime=2006-01-02"`
}

// Photo is a picture of a stone. The file is found by its hash.
type Photo struct {
	ID    string    `json:"id"`
	Hash  string    `json:"hash"`
	Taken time.Time `json:"taken"`
	Note  string    `json:"note"`
	// Work is the ID of the work that it belongs to, Shows when in that it was taken.
	Work  string          `json:"work"`
	Shows workshop.Moment `json:"shows" validate:"oneof=before after"`
}
