package sqlite

import (
	"cmp"
	"encoding/json"
	"fmt"
	"time"

	"gonum.org/v1/gonum/num/quat"
	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/core/material"
	"cressa/workshop"
	"cressa/workshop/journal"
)

// The documents that records are stored as. They are neither the workshop's types nor the
// contract's: those may change, what is on disk is read as it was written. Form tells
// which of the shapes a document has; how one is added stands in docs/development.md.

const (
	planForm     = 3
	settingsForm = 2
	finishForm   = 1
	repairForm   = 1
	recutForm    = 1
)

// form is read first, to tell which shape follows. Documents of the first form carry none.
type form struct {
	Form int `json:"form"`
}

// read decodes a document of the newest form into a shape.
func read(text string, newest int, into any) error {
	var f form
	if err := json.Unmarshal([]byte(text), &f); err != nil {
		return fmt.Errorf("%w: %w", workshop.ErrUnreadable, err)
	}
	if cmp.Or(f.Form, 1) > newest {
		return fmt.Errorf("%w: it was written by a newer version of this application", workshop.ErrUnreadable)
	}
	return asDocument{into}.Scan(text)
}

type planDoc struct {
	form
	No          int          `json:"no"`
	DiagramID   string       `json:"diagramId"`
	DiagramName string       `json:"diagramName"`
	Revision    string       `json:"revision"`
	AsCut       string       `json:"asCut"`
	Choices     choicesDoc   `json:"choices"`
	Machine     machineDoc   `json:"machine"`
	Material    materialDoc  `json:"material"`
	Turns       turnsDoc     `json:"turns"`
	Setups      []setupDoc   `json:"setups"`
	Facets      []plannedDoc `json:"facets"`
	// Runs came with form 3. Before it every setup had all passes, one after the other.
	Runs    []runDoc     `json:"runs"`
	Left    []problemDoc `json:"left,omitempty"`
	Created time.Time    `json:"created"`
}

type choicesDoc struct {
	Material  string  `json:"material"`
	Machine   string  `json:"machine"`
	Gear      int     `json:"gear"`
	Size      sizeDoc `json:"size"`
	FirstSide string  `json:"firstSide"`
	Girdle    string  `json:"girdle"`
	Table     string  `json:"table"`
	Visiting  string  `json:"visiting"`
	Turning   string  `json:"turning"`
	lapsDoc
}

type sizeDoc struct {
	Basis string  `json:"basis"`
	Tier  string  `json:"tier"`
	MM    float64 `json:"mm"`
	Typed string  `json:"typed"`
}

// lapsDoc is what plans and habits say of laps.
type lapsDoc struct {
	TableAt string    `json:"tableAt"`
	Passes  []passDoc `json:"passes"`
	Uses    []useDoc  `json:"uses"`
	// GirdleFinish is how far the girdle is taken, in forms that knew no other exception.
	GirdleFinish string `json:"girdleFinish,omitempty"`
}

type passDoc struct {
	ID       string `json:"id"`
	Name     string `json:"name"`
	Lap      string `json:"lap"`
	Compound string `json:"compound,omitempty"`
}

type useDoc struct {
	Group   string   `json:"group"`
	Tier    string   `json:"tier,omitempty"`
	Without []string `json:"without"`
}

func lapsDocOf(l workshop.Laps, at workshop.TableAt) lapsDoc {
	d := lapsDoc{TableAt: string(at), Passes: []passDoc{}, Uses: []useDoc{}}
	for _, p := range l.Passes {
		d.Passes = append(d.Passes, passDoc(p))
	}
	for _, u := range l.Uses {
		d.Uses = append(d.Uses, useDoc{string(u.Group), u.Tier, u.Without})
	}
	return d
}

func (d lapsDoc) laps() workshop.Laps {
	l := workshop.Laps{Uses: []workshop.LapUse{}}
	for _, p := range d.Passes {
		l.Passes = append(l.Passes, workshop.Pass(p))
	}
	for _, u := range d.Uses {
		l.Uses = append(l.Uses, workshop.LapUse{Group: workshop.Group(u.Group), Tier: u.Tier, Without: u.Without})
	}
	if d.GirdleFinish != "" {
		l.Uses = append(l.Uses, workshop.GirdleFinish(d.GirdleFinish).Uses(l.Passes)...)
	}
	return l
}

type turnsDoc struct {
	Pavilion float64 `json:"pavilion"`
	Crown    float64 `json:"crown"`
}

type setupDoc struct {
	ID   string     `json:"id"`
	Up   [3]float64 `json:"up"`
	Gear int        `json:"gear"`
	Turn float64    `json:"turn"`
	// Rotation is a quaternion, its real part first.
	Rotation [4]float64 `json:"rotation"`
}

type plannedDoc struct {
	ID    string  `json:"id"`
	Tier  int     `json:"tier"`
	Index float64 `json:"index"`
	Setup string  `json:"setup"`
	// Passes is how many of the passes it gets, the first ones, in forms without runs.
	Passes int `json:"passes,omitempty"`
}

type runDoc struct {
	Setup   string   `json:"setup"`
	Pass    string   `json:"pass"`
	Adapter bool     `json:"adapter,omitempty"`
	Facets  []string `json:"facets"`
}

type problemDoc struct {
	Code   string  `json:"code"`
	Tier   string  `json:"tier"`
	TierNo int     `json:"tierNo"`
	Field  string  `json:"field"`
	Text   string  `json:"text"`
	Other  string  `json:"other"`
	Value  float64 `json:"value"`
	Low    float64 `json:"low"`
	High   float64 `json:"high"`
}

type machineDoc struct {
	ID    string `json:"id"`
	Name  string `json:"name"`
	Gears []int  `json:"gears"`
	// Setting is "" in what was written before there was a choice: a protractor.
	Setting       string    `json:"setting,omitempty"`
	Pegs          []float64 `json:"pegs,omitempty"`
	Holes         []float64 `json:"holes,omitempty"`
	AngleStep     float64   `json:"angleStep"`
	AngleLow      float64   `json:"angleLow"`
	AngleHigh     float64   `json:"angleHigh"`
	AngleZero     float64   `json:"angleZero"`
	Repeatability float64   `json:"repeatability"`
	Cheater       string    `json:"cheater"`
	CheatPerTurn  float64   `json:"cheatPerTurn"`
	HeightStep    float64   `json:"heightStep"`
	HeightSense   string    `json:"heightSense"`
	TableAdapter  float64   `json:"tableAdapter"`
}

func machineDocOf(m workshop.Machine) machineDoc {
	return machineDoc{
		ID: m.ID, Name: m.Name, Gears: m.Gears, Setting: string(m.Setting), Pegs: m.Pegs, Holes: m.Holes, AngleStep: m.AngleStep, AngleLow: m.AngleLow, AngleHigh: m.AngleHigh, AngleZero: m.AngleZero,
		Repeatability: m.Repeatability, Cheater: string(m.Cheater), CheatPerTurn: m.CheatPerTurn,
		HeightStep: m.HeightStep, HeightSense: string(m.HeightSense), TableAdapter: m.TableAdapter,
	}
}

func (d machineDoc) machine() workshop.Machine {
	return workshop.Machine{
		ID: d.ID, Name: d.Name, Gears: d.Gears, Setting: workshop.AngleSetting(cmp.Or(d.Setting, string(workshop.OnProtractor))), Pegs: append([]float64{}, d.Pegs...), Holes: append([]float64{}, d.Holes...), AngleStep: d.AngleStep, AngleLow: d.AngleLow, AngleHigh: d.AngleHigh, AngleZero: d.AngleZero,
		Repeatability: d.Repeatability, Cheater: workshop.Cheater(d.Cheater), CheatPerTurn: d.CheatPerTurn,
		HeightStep: d.HeightStep, HeightSense: workshop.HeightSense(d.HeightSense), TableAdapter: d.TableAdapter,
	}
}

type rangeDoc struct {
	Low  float64 `json:"low"`
	High float64 `json:"high"`
}

type materialDoc struct {
	Name            string   `json:"name"`
	RefractiveIndex rangeDoc `json:"refractiveIndex"`
	Optic           string   `json:"optic"`
	Birefringence   float64  `json:"birefringence"`
	Dispersion      float64  `json:"dispersion"`
	SG              float64  `json:"sg"`
	Hardness        rangeDoc `json:"hardness"`
	Heat            string   `json:"heat"`
	Solvent         string   `json:"solvent"`
	Dust            string   `json:"dust"`
	Cleavage        string   `json:"cleavage"`
	Polish          string   `json:"polish"`
}

func materialDocOf(m material.Material) materialDoc {
	return materialDoc{
		Name: m.Name, RefractiveIndex: rangeDoc(m.RefractiveIndex), Optic: string(m.Optic), Birefringence: m.Birefringence, Dispersion: float64(m.Dispersion),
		SG: m.SG, Hardness: rangeDoc(m.Hardness), Heat: string(m.Heat), Solvent: string(m.Solvent), Dust: string(m.Dust), Cleavage: string(m.Cleavage), Polish: string(m.Polish),
	}
}

func (d materialDoc) material() material.Material {
	return material.Material{
		Name: d.Name, RefractiveIndex: material.Range(d.RefractiveIndex), Optic: material.Optic(d.Optic), Birefringence: d.Birefringence, Dispersion: material.Dispersion(d.Dispersion),
		SG: d.SG, Hardness: material.Range(d.Hardness), Heat: material.Heat(d.Heat), Solvent: material.Solvent(d.Solvent), Dust: material.Dust(d.Dust), Cleavage: material.Cleavage(d.Cleavage), Polish: material.Polish(d.Polish),
	}
}

func planHabitsOf(girdle, table, visiting, turning, at string) workshop.PlanHabits {
	return workshop.PlanHabits{
		Girdle: cutting.When(girdle), Table: cutting.When(table), Visiting: gear.Visiting(visiting), Turning: workshop.Turning(turning), TableAt: workshop.TableAt(at),
	}
}

func choicesDocOf(c workshop.Choices) choicesDoc {
	return choicesDoc{
		Material: c.Material, Machine: c.Machine, Gear: c.Gear, Size: sizeDoc{string(c.Size.Basis), c.Size.Tier, c.Size.MM, c.Size.Typed}, FirstSide: string(c.FirstSide),
		Girdle: string(c.Girdle), Table: string(c.Table), Visiting: string(c.Visiting), Turning: string(c.Turning),
		lapsDoc: lapsDocOf(c.Laps, c.TableAt),
	}
}

func (d choicesDoc) choices() workshop.Choices {
	return workshop.Choices{
		Material: d.Material, Machine: d.Machine, Gear: d.Gear, Size: workshop.Size{Basis: workshop.Basis(d.Size.Basis), Tier: d.Size.Tier, MM: d.Size.MM, Typed: d.Size.Typed}, FirstSide: diagram.Part(d.FirstSide),
		// Plans that were made before there was a choice had every lap with the other facets.
		PlanHabits: planHabitsOf(d.Girdle, d.Table, d.Visiting, d.Turning, cmp.Or(d.TableAt, string(workshop.TableEach))), Laps: d.laps(),
	}
}

func planDocument(p workshop.Plan) string {
	d := planDoc{
		form: form{planForm}, No: p.No, DiagramID: p.DiagramID, DiagramName: p.DiagramName, Revision: p.Revision, AsCut: p.AsCut,
		Choices: choicesDocOf(p.Choices), Machine: machineDocOf(p.Machine), Material: materialDocOf(p.Material), Turns: turnsDoc(p.Turns),
		Setups: []setupDoc{}, Facets: []plannedDoc{}, Runs: []runDoc{}, Created: p.Created,
	}
	for _, s := range p.Setups {
		o := s.Pose
		d.Setups = append(d.Setups, setupDoc{
			ID: s.ID, Up: [3]float64{o.Up.X, o.Up.Y, o.Up.Z}, Gear: o.Gear, Turn: o.Turn,
			Rotation: [4]float64{o.Rotation.Real, o.Rotation.Imag, o.Rotation.Jmag, o.Rotation.Kmag},
		})
	}
	for _, f := range p.Facets {
		d.Facets = append(d.Facets, plannedDoc{ID: f.ID, Tier: f.Tier, Index: f.Index, Setup: f.Setup})
	}
	for _, r := range p.Runs {
		d.Runs = append(d.Runs, runDoc(r))
	}
	for _, q := range p.Left {
		d.Left = append(d.Left, problemDoc{string(q.Code), q.Tier, q.TierNo, string(q.Field), q.Text, q.Other, q.Value, q.Low, q.High})
	}
	return document(d)
}

func readPlan(text string) (*workshop.Plan, error) {
	var d planDoc
	if err := read(text, planForm, &d); err != nil {
		return nil, err
	}
	p := &workshop.Plan{
		No: d.No, DiagramID: d.DiagramID, DiagramName: d.DiagramName, Revision: d.Revision, AsCut: d.AsCut,
		Choices: d.Choices.choices(), Machine: d.Machine.machine(), Material: d.Material.material(), Turns: cutting.Turns(d.Turns), Created: d.Created,
	}
	for _, s := range d.Setups {
		p.Setups = append(p.Setups, workshop.Setup{ID: s.ID, Pose: gear.Pose{
			Up: r3.Vec{X: s.Up[0], Y: s.Up[1], Z: s.Up[2]}, Gear: s.Gear, Turn: s.Turn,
			Rotation: quat.Number{Real: s.Rotation[0], Imag: s.Rotation[1], Jmag: s.Rotation[2], Kmag: s.Rotation[3]},
		}})
	}
	for _, f := range d.Facets {
		p.Facets = append(p.Facets, workshop.PlannedFacet{ID: f.ID, Tier: f.Tier, Index: f.Index, Setup: f.Setup})
	}
	for _, r := range d.Runs {
		p.Runs = append(p.Runs, workshop.PlannedRun(r))
	}
	if d.Form < 3 {
		p.Runs = d.everyPass()
	}
	for _, q := range d.Left {
		p.Left = append(p.Left, diagram.Problem{
			Code: diagram.Code(q.Code), Tier: q.Tier, TierNo: q.TierNo, Field: diagram.Field(q.Field), Text: q.Text, Other: q.Other, Value: q.Value, Low: q.Low, High: q.High,
		})
	}
	return p, nil
}

// everyPass lists the runs of forms without them: setup by setup, pass by pass.
func (d planDoc) everyPass() []workshop.PlannedRun {
	var out []workshop.PlannedRun
	for _, setup := range d.Setups {
		for no, pass := range d.Choices.Passes {
			run := workshop.PlannedRun{Setup: setup.ID, Pass: pass.ID}
			for _, f := range d.Facets {
				if f.Setup == setup.ID && no < f.Passes {
					run.Facets = append(run.Facets, f.ID)
				}
			}
			if len(run.Facets) > 0 {
				out = append(out, run)
			}
		}
	}
	return out
}

type settingsDoc struct {
	form
	Version   int           `json:"version"`
	Answered  bool          `json:"answered"`
	Machine   string        `json:"machine"`
	Machines  []machineDoc  `json:"machines"`
	Habit     string        `json:"habit"`
	Habits    []habitsDoc   `json:"habits"`
	Materials []materialDoc `json:"materials"`
}

type habitsDoc struct {
	ID        string `json:"id"`
	Name      string `json:"name"`
	FirstSide string `json:"firstSide"`
	Tick      string `json:"tick"`
	Long      string `json:"long,omitempty"`
	Girdle    string `json:"girdle"`
	Table     string `json:"table"`
	Visiting  string `json:"visiting"`
	Turning   string `json:"turning"`
	lapsDoc
}

func settingsDocument(s workshop.Settings) string {
	d := settingsDoc{
		form: form{settingsForm}, Version: s.Version, Answered: s.Answered, Machine: s.Machine, Habit: s.Habit,
		Machines: []machineDoc{}, Habits: []habitsDoc{}, Materials: []materialDoc{},
	}
	for _, m := range s.Machines {
		d.Machines = append(d.Machines, machineDocOf(m))
	}
	for _, h := range s.Habits {
		d.Habits = append(d.Habits, habitsDoc{
			ID: h.ID, Name: h.Name, FirstSide: string(h.FirstSide), Tick: string(h.Tick), Long: string(h.Long),
			Girdle: string(h.Girdle), Table: string(h.Table), Visiting: string(h.Visiting), Turning: string(h.Turning),
			lapsDoc: lapsDocOf(h.Laps, h.TableAt),
		})
	}
	for _, m := range s.Materials {
		d.Materials = append(d.Materials, materialDocOf(m))
	}
	return document(d)
}

func readSettings(text string) (workshop.Settings, error) {
	var d settingsDoc
	if err := read(text, settingsForm, &d); err != nil {
		return workshop.Settings{}, err
	}
	s := workshop.Settings{
		Version: d.Version, Answered: d.Answered, Machine: d.Machine, Habit: d.Habit,
		Machines: []workshop.Machine{}, Habits: []workshop.Habits{}, Materials: []material.Material{},
	}
	for _, m := range d.Machines {
		s.Machines = append(s.Machines, m.machine())
	}
	for _, h := range d.Habits {
		s.Habits = append(s.Habits, workshop.Habits{
			ID: h.ID, Name: h.Name, FirstSide: workshop.FirstSide(h.FirstSide), Tick: workshop.TickOf(h.Tick), Long: workshop.Lying(cmp.Or(h.Long, string(workshop.Across))),
			PlanHabits: planHabitsOf(h.Girdle, h.Table, h.Visiting, h.Turning, cmp.Or(h.TableAt, string(workshop.TableThrough))), Laps: h.laps(),
		})
	}
	for _, m := range d.Materials {
		s.Materials = append(s.Materials, m.material())
	}
	return s, nil
}

type finishDoc struct {
	form
	Version        int       `json:"version"`
	RoughCarats    float64   `json:"roughCarats"`
	FinishedCarats float64   `json:"finishedCarats"`
	WidthMM        float64   `json:"widthMM"`
	LengthMM       float64   `json:"lengthMM"`
	HeightMM       float64   `json:"heightMM"`
	Started        string    `json:"started"`
	Finished       string    `json:"finished"`
	Hours          *float64  `json:"hours"`
	Notes          string    `json:"notes"`
	Saved          time.Time `json:"saved"`
}

func finishDocument(f workshop.Finish) string {
	return document(finishDoc{
		form{finishForm}, f.Version, f.RoughCarats, f.FinishedCarats, f.WidthMM, f.LengthMM, f.HeightMM, f.Started, f.Finished, f.Hours, f.Notes, f.Saved,
	})
}

func readFinish(text string) (*workshop.Finish, error) {
	var d finishDoc
	if err := read(text, finishForm, &d); err != nil {
		return nil, err
	}
	return &workshop.Finish{
		Version: d.Version, RoughCarats: d.RoughCarats, FinishedCarats: d.FinishedCarats, WidthMM: d.WidthMM, LengthMM: d.LengthMM, HeightMM: d.HeightMM,
		Started: d.Started, Finished: d.Finished, Hours: d.Hours, Notes: d.Notes, Saved: d.Saved,
	}, nil
}

type repairDoc struct {
	form
	Owner    string  `json:"owner"`
	Material string  `json:"material"`
	Carats   float64 `json:"carats"`
	WidthMM  float64 `json:"widthMM"`
	LengthMM float64 `json:"lengthMM"`
	HeightMM float64 `json:"heightMM"`
	Damage   string  `json:"damage"`
	Agreed   string  `json:"agreed"`
	Promised string  `json:"promised"`
}

type recutDoc struct {
	form
	Carats   float64 `json:"carats"`
	WidthMM  float64 `json:"widthMM"`
	LengthMM float64 `json:"lengthMM"`
	HeightMM float64 `json:"heightMM"`
	Why      string  `json:"why"`
}

// taskDocument is the record of a task, "" for one that has none.
func taskDocument(t workshop.Task) string {
	switch t := t.(type) {
	case workshop.Recut:
		return document(recutDoc{form{recutForm}, t.Carats, t.WidthMM, t.LengthMM, t.HeightMM, t.Why})
	case workshop.Repair:
		return repairDocument(t.Intake)
	}
	return ""
}

func repairDocument(in workshop.Intake) string {
	return document(repairDoc{form{repairForm}, in.Owner, in.Material, in.Carats, in.WidthMM, in.LengthMM, in.HeightMM, in.Damage, in.Agreed, in.Promised})
}

func readTask(kind journal.Task, text string) (workshop.Task, error) {
	switch kind {
	case journal.FirstCut:
		return workshop.FirstCut{}, nil
	case journal.Recut:
		var d recutDoc
		if err := read(text, recutForm, &d); err != nil {
			return nil, err
		}
		return workshop.Recut{Carats: d.Carats, WidthMM: d.WidthMM, LengthMM: d.LengthMM, HeightMM: d.HeightMM, Why: d.Why}, nil
	case journal.Repair:
		var d repairDoc
		if err := read(text, repairForm, &d); err != nil {
			return nil, err
		}
		return workshop.Repair{Intake: workshop.Intake{
			Owner: d.Owner, Material: d.Material, Carats: d.Carats, WidthMM: d.WidthMM, LengthMM: d.LengthMM, HeightMM: d.HeightMM,
			Damage: d.Damage, Agreed: d.Agreed, Promised: d.Promised,
		}}, nil
	}
	return nil, fmt.Errorf("%w: no kind of work is called %q", workshop.ErrUnreadable, kind)
}
