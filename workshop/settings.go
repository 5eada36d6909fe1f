package workshop

import (
	"context"
	"slices"
	"strings"

	"cressa/core/abrasive"
	"cressa/core/diagram"
	"cressa/core/light"
	"cressa/core/material"
)

// Settings are the machines, habits and materials of the person who owns the
// workshop. One machine and one set of habits is the default.
type Settings struct {
	Version int
	// Answered tells whether the first opening's questions were answered or skipped.
	Answered bool
	// Machine and Habit are the IDs of the defaults.
	Machine  string    `validate:"required,max=40"`
	Machines []Machine `validate:"min=1,max=20,dive"`
	Habit    string    `validate:"required,max=40"`
	Habits   []Habits  `validate:"min=1,max=20,dive"`
	// Materials are the owner's own, beside those of the table.
	Materials []material.Material `validate:"max=200,dive"`
	// Abrasives are the rules by which the kit is judged.
	Abrasives Abrasives
	// Prices are what finished stones bring.
	Prices []Price `validate:"max=1000,dive"`
}

// Abrasives are what a ladder of grits is held to, and which stones are bad for a lap.
type Abrasives struct {
	abrasive.Rules
	abrasive.Limits
}

// UsualAbrasives are those that most cutters go by.
var UsualAbrasives = Abrasives{abrasive.UsualRules, abrasive.UsualLimits}

// Preferences keeps the settings.
type Preferences struct{ store PreferenceStore }

// PreferenceStore keeps the settings.
type PreferenceStore interface {
	// Settings returns the settings, the zero value before they were first saved.
	Settings(ctx context.Context) (Settings, error)
	SaveSettings(ctx context.Context, s Settings, version int) error
}

// DefaultSettings is what a new workshop starts with.
func DefaultSettings() Settings {
	m, h := DefaultMachine(), DefaultHabits()
	return Settings{
		Machine: m.ID, Machines: []Machine{m}, Habit: h.ID, Habits: []Habits{h},
		Materials: []material.Material{}, Abrasives: UsualAbrasives, Prices: []Price{},
	}
}

// Settings returns the workshop's settings. It returns only the errors of the store.
func (p *Preferences) Settings(ctx context.Context) (Settings, error) {
	s, err := p.store.Settings(ctx)
	if err == nil && s.Version == 0 {
		return DefaultSettings(), nil
	}
	return s, err
}

// Refusals of settings.
const (
	// NoDefault: the default names a machine or habits that are not there.
	NoDefault diagram.Code = "no-default"
	// SameName: two machines, two sets of habits or two materials share a name.
	SameName diagram.Code = "same-name"
	// BadMaterial: a figure of an own material cannot be.
	BadMaterial diagram.Code = "bad-material"
)

// Usual is what something new begins with where nothing is said.
type Usual struct {
	// Gear is that of the default machine, Gears all that it has.
	Gear  int
	Gears []int
	// RefractiveIndex is about that of Material. Width is in mm.
	RefractiveIndex float64
	Material        string
	Width           float64
	// LightModel and HeadAngle, in degrees, are how a stone is first looked at: by someone
	// who bends over it, since that is how it will be worn and judged.
	LightModel light.Model
	HeadAngle  float64
	// Allowance and Kerf are the default habits' for rough, in mm.
	Allowance float64
	Kerf      float64
}

// Usual returns what something new begins with: the largest or latest gear of the default
// machine, which its owner lists last, and quartz, which most diagrams are drawn for, at a
// width that most stones come near. It returns only the errors of the store.
func (p *Preferences) Usual(ctx context.Context) (Usual, error) {
	s, err := p.Settings(ctx)
	habits := s.HabitsOf("")
	out := Usual{
		Gear: 96, Gears: s.MachineOf("").Gears, RefractiveIndex: 1.54, Material: "Quartz", Width: 8, LightModel: light.Head, HeadAngle: light.HeadAngle,
		Allowance: habits.Allowance, Kerf: habits.Kerf,
	}
	if n := len(out.Gears); n > 0 {
		out.Gear = out.Gears[n-1]
	} else {
		out.Gears = []int{out.Gear}
	}
	return out, err
}

// SaveSettings stores the settings over the given version, 0 the first time. It returns
// the errors of Validate, a diagram.Problem for machines or habits that do not fit each
// other, and ErrStale where the version is not the stored one.
func (p *Preferences) SaveSettings(ctx context.Context, s Settings) (Settings, error) {
	if err := Validate(s); err != nil {
		return s, err
	}
	if err := s.check(); err != nil {
		return s, err
	}
	// The caller's machines stay as they are.
	s.Machines = slices.Clone(s.Machines)
	for i, m := range s.Machines {
		s.Machines[i].Gears = slices.Compact(slices.Sorted(slices.Values(m.Gears)))
	}
	if s.Materials == nil {
		s.Materials = []material.Material{}
	}
	if s.Prices == nil {
		s.Prices = []Price{}
	}
	version := s.Version
	s.Version++
	return s, p.store.SaveSettings(ctx, s, version)
}

func (s Settings) check() error {
	refuse := func(code diagram.Code, field diagram.Field, text string) error {
		return diagram.Problem{Code: code, TierNo: -1, Field: field, Text: text}
	}
	seen := map[string]bool{}
	twice := func(kind diagram.Field, name string) error {
		key := string(kind) + "/" + strings.ToLower(strings.TrimSpace(name))
		if seen[key] {
			return refuse(SameName, kind, name)
		}
		seen[key] = true
		return nil
	}
	for _, m := range s.Machines {
		if err := twice("machines", m.Name); err != nil {
			return err
		}
		if m.Setting == InHoles && len(m.HolesSorted()) == 0 {
			return refuse(NoHoles, "machines", m.Name)
		}
	}
	for _, h := range s.Habits {
		if err := twice("habits", h.Name); err != nil {
			return err
		}
		if err := h.check(); err != nil {
			return err
		}
	}
	for _, m := range s.Materials {
		if _, known := material.Find(m.Name); known {
			return refuse(SameName, "materials", m.Name)
		}
		if err := twice("materials", m.Name); err != nil {
			return err
		}
		if field, ok := m.Plausible(); !ok {
			return diagram.Problem{Code: BadMaterial, TierNo: -1, Field: "materials", Text: m.Name, Other: field}
		}
	}
	if !slices.ContainsFunc(s.Machines, func(m Machine) bool { return m.ID == s.Machine }) {
		return refuse(NoDefault, "machine", s.Machine)
	}
	if !slices.ContainsFunc(s.Habits, func(h Habits) bool { return h.ID == s.Habit }) {
		return refuse(NoDefault, "habit", s.Habit)
	}
	return nil
}

// MachineOf returns the machine with the given ID, the default where it is gone.
func (s Settings) MachineOf(id string) Machine {
	for _, want := range []string{id, s.Machine} {
		for _, m := range s.Machines {
			if m.ID == want {
				return m
			}
		}
	}
	return DefaultMachine()
}

// HabitsOf returns the habits with the given ID, the default where they are gone.
func (s Settings) HabitsOf(id string) Habits {
	for _, want := range []string{id, s.Habit} {
		for _, h := range s.Habits {
			if h.ID == want {
				return h
			}
		}
	}
	return DefaultHabits()
}

// AllMaterials returns the table and the owner's own, in the order of their names.
func (s Settings) AllMaterials() []material.Material {
	all := append(material.All(), s.Materials...)
	slices.SortStableFunc(all, func(a, b material.Material) int {
		return strings.Compare(strings.ToLower(a.Name), strings.ToLower(b.Name))
	})
	return all
}

// Material returns the material of the given name, whatever its case.
func (s Settings) Material(name string) (material.Material, bool) {
	for _, m := range s.Materials {
		if strings.EqualFold(m.Name, strings.TrimSpace(name)) {
			return m, true
		}
	}
	return material.Find(name)
}
