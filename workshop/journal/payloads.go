package journal

import "slices"

// Visit is one facet in one pass of one setup: what a tick stands for.
type Visit struct {
	Setup string `json:"setup"`
	Pass  string `json:"pass"`
	Facet string `json:"facet"`
}

// Ticking is a visit that was done, and what the dials showed then, nil where nobody read them. Left tells that the screen
// knew that it had been left out before. Both came with form 2.
type Ticking struct {
	Visit
	Dials *Dials `json:"dials,omitempty"`
	Left  bool   `json:"left,omitempty"`
}

// Dials is what the dials of a machine showed when a facet was finished: degrees, a position on the gear that may lie between
// teeth, mm. What has no dial is nil.
type Dials struct {
	Angle  *float64 `json:"angle,omitempty"`
	Index  *float64 `json:"index,omitempty"`
	Height *float64 `json:"height,omitempty"`
}

// Surveyed is a stone as a machine told it: its facets' planes in mm, as outward normal and distance, in the frame of the
// plan's diagram.
type Surveyed struct {
	// From is what told it, as it is called.
	From   string       `json:"from"`
	Planes [][4]float64 `json:"planes"`
}

// Checked is an item of the transfer to a setup.
type Checked struct {
	Setup string `json:"setup"`
	Item  string `json:"item"`
}

// Transferred names the setup that begins.
type Transferred struct {
	Setup string `json:"setup"`
}

// Dopping is how a stone was glued for a setup: the dop and the adhesive as they are called, and how its
// long axis was set, in words. Minutes is how long the bond cures from then on, up to a week.
type Dopping struct {
	Setup    string  `json:"setup"`
	Dop      string  `json:"dop"`
	Adhesive string  `json:"adhesive"`
	Axis     string  `json:"axis,omitempty"`
	Minutes  float64 `json:"minutes"`
}

// Vetting is the number of a plan that was gone through, and what was left open then, in sentences.
type Vetting struct {
	Plan int      `json:"plan"`
	Open []string `json:"open"`
}

// Reopening names visits of a setup: these facets in these passes.
type Reopening struct {
	Setup  string   `json:"setup"`
	Passes []string `json:"passes"`
	Facets []string `json:"facets"`
}

// Happened is something that happened at the wheel.
type Happened struct {
	What What `json:"what"`
	// At is the visit that it happened at, nil where it is of no single facet.
	At *Visit `json:"at,omitempty"`
	// MM is how deep it goes, in mm from 0 to 20.
	MM *float64 `json:"mm,omitempty"`
	// Point is where it was seen on the stone, in mm in the frame of the plan's diagram, nil where nobody pointed at it: what has to go
	// then lies MM under it.
	Point *[3]float64 `json:"point,omitempty"`
	// By is by how much, from −360 to 360: teeth of a wrong index, degrees of a wrong angle and of a cheat.
	By *float64 `json:"by,omitempty"`
	// With is what was taken: a lap, a compound, a picture's name.
	With string `json:"with,omitempty"`
}

// What says what happened at the wheel.
type What string

// What can happen at the wheel.
const (
	// Overcut: a facet was cut MM too deep.
	Overcut What = "overcut"
	// Chip: a piece broke out, MM deep.
	Chip What = "chip"
	// FlawOpened: a facet met a flaw that goes MM deeper.
	FlawOpened What = "flaw"
	// Pit: a hole of MM stayed in a facet.
	Pit What = "pit"
	// WrongIndex: a facet was cut By teeth beside its index.
	WrongIndex What = "wrong-index"
	// WrongAngle: a facet was cut By degrees beside its angle.
	WrongAngle What = "wrong-angle"
	// LapCharged: the lap of a pass was charged, With a compound.
	LapCharged What = "lap-charged"
	// LapChanged: another lap, With its name, does the work of a pass from now on.
	LapChanged What = "lap-changed"
	// Cheated: a facet came in with By degrees of cheat that the plan does not have.
	Cheated What = "cheater"
	// Compound: another compound is polished With.
	Compound What = "compound"
	// BondFailed: the stone came off its dop.
	BondFailed What = "bond-failed"
	// Photographed: a picture was taken.
	Photographed What = "photo"
)

var whats = []What{Overcut, Chip, FlawOpened, Pit, WrongIndex, WrongAngle, LapCharged, LapChanged, Cheated, Compound, BondFailed, Photographed}

// Reading is what the height dial showed in mm when a facet was finished in a pass, from −10 000 to 10 000.
type Reading struct {
	At Visit   `json:"at"`
	MM float64 `json:"mm"`
}

// Measured is a measure in mm, over 0 and up to 1000, that was taken on the stone with calipers.
type Measured struct {
	What MeasureOf `json:"what"`
	MM   float64   `json:"mm"`
}

// MeasureOf says what was measured.
type MeasureOf string

// What is measured in the middle of the work.
const (
	// GirdleThick is the thickness of the girdle, Across its diameter, Tall the height of the whole stone.
	GirdleThick MeasureOf = "girdle"
	Across      MeasureOf = "diameter"
	Tall        MeasureOf = "height"
)

// Noted is a note's text, up to 4 000 characters, and the visit that it was made at, nil for none.
type Noted struct {
	Text string `json:"text"`
	At   *Visit `json:"at,omitempty"`
}

// Agreed is what was agreed before, and what is agreed now.
type Agreed struct {
	Was string `json:"was"`
	Is  string `json:"is"`
}

// TakenBack names the event that is taken back.
type TakenBack struct {
	Undoes string `json:"undoes"`
}

// Asked is what a plan asks for at the wheel, run by run, and the things of the kit that are used.
type Asked struct {
	No   int        `json:"no"`
	Runs []AskedRun `json:"runs"`
	// Things came with form 3.
	Things []AskedThing `json:"things,omitempty"`
}

// AskedThing is a thing of the kit that a plan uses: in one setup or pass, "" for every one.
type AskedThing struct {
	Setup string `json:"setup,omitempty"`
	Pass  string `json:"pass,omitempty"`
	// Item is the thing's ID, With that of what is used on it or on which it is used.
	Item string `json:"item"`
	With string `json:"with,omitempty"`
}

// AskedRun is facets that follow one another in one pass of one setup.
type AskedRun struct {
	Setup  string   `json:"setup"`
	Pass   string   `json:"pass"`
	Facets []string `json:"facets"`
}

// asked1 is the first form: setup by setup, in each pass by pass, in each facet by facet, and a
// facet gets the first so many of the passes.
type asked1 struct {
	No     int `json:"no"`
	Setups []struct {
		Setup  string   `json:"setup"`
		Passes []string `json:"passes"`
		Facets []struct {
			Facet  string `json:"facet"`
			Passes int    `json:"passes"`
		} `json:"facets"`
	} `json:"setups"`
}

// asked reads what a plan asks for, in whatever form it was written.
func asked(e Event) (Asked, bool) {
	if e.Version > 1 {
		return decode[Asked](e.Payload)
	}
	old, ok := decode[asked1](e.Payload)
	out := Asked{No: old.No, Runs: []AskedRun{}}
	for _, s := range old.Setups {
		for no, pass := range s.Passes {
			run := AskedRun{Setup: s.Setup, Pass: pass}
			for _, f := range s.Facets {
				if no < f.Passes {
					run.Facets = append(run.Facets, f.Facet)
				}
			}
			if len(run.Facets) > 0 {
				out.Runs = append(out.Runs, run)
			}
		}
	}
	return out, ok
}

// Visits lists what a plan asks for, in order.
func (a Asked) Visits() []Visit {
	var out []Visit
	for _, r := range a.Runs {
		for _, f := range r.Facets {
			out = append(out, Visit{r.Setup, r.Pass, f})
		}
	}
	return out
}

// asks tells whether a plan has such a visit, or had the facet and the pass in that setup.
func (a Asked) asks(v Visit) bool {
	pass, facet := false, false
	for _, r := range a.Runs {
		if r.Setup == v.Setup {
			pass, facet = pass || r.Pass == v.Pass, facet || slices.Contains(r.Facets, v.Facet)
		}
	}
	return pass && facet
}
