package sqlite

import (
	"cmp"
	"encoding/json"
	"fmt"
	"time"

	"cressa/core/abrasive"
	"cressa/core/dopping"
	"cressa/core/fit"
	"cressa/core/material"
	"cressa/core/mending"
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
	firstCutForm = 1
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
	// QuillMM and ReachMM came with schema 14.
	QuillMM float64 `json:"quillMM,omitempty"`
	ReachMM float64 `json:"reachMM,omitempty"`
}

func machineDocOf(m workshop.Machine) machineDoc {
	return machineDoc{
		ID: m.ID, Name: m.Name, Gears: m.Gears, Setting: string(m.Setting), Pegs: m.Pegs, Holes: m.Holes, AngleStep: m.AngleStep, AngleLow: m.AngleLow, AngleHigh: m.AngleHigh, AngleZero: m.AngleZero,
		Repeatability: m.Repeatability, Cheater: string(m.Cheater), CheatPerTurn: m.CheatPerTurn,
		HeightStep: m.HeightStep, HeightSense: string(m.HeightSense), TableAdapter: m.TableAdapter, QuillMM: m.QuillMM, ReachMM: m.ReachMM,
	}
}

func (d machineDoc) machine() workshop.Machine {
	return workshop.Machine{
		ID: d.ID, Name: d.Name, Gears: d.Gears, Setting: workshop.AngleSetting(cmp.Or(d.Setting, string(workshop.OnProtractor))), Pegs: append([]float64{}, d.Pegs...), Holes: append([]float64{}, d.Holes...), AngleStep: d.AngleStep, AngleLow: d.AngleLow, AngleHigh: d.AngleHigh, AngleZero: d.AngleZero,
		Repeatability: d.Repeatability, Cheater: workshop.Cheater(d.Cheater), CheatPerTurn: d.CheatPerTurn,
		HeightStep: d.HeightStep, HeightSense: workshop.HeightSense(d.HeightSense), TableAdapter: d.TableAdapter, QuillMM: d.QuillMM, ReachMM: d.ReachMM,
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

type settingsDoc struct {
	form
	Version   int           `json:"version"`
	Answered  bool          `json:"answered"`
	Machine   string        `json:"machine"`
	Machines  []machineDoc  `json:"machines"`
	Habit     string        `json:"habit"`
	Habits    []habitsDoc   `json:"habits"`
	Materials []materialDoc `json:"materials"`
	// Abrasives came with schema 12; those before went by the usual rules.
	Abrasives *abrasivesDoc `json:"abrasives,omitempty"`
	Prices    []priceDoc    `json:"prices,omitempty"`
}

type priceDoc struct {
	Material string  `json:"material"`
	Currency string  `json:"currency"`
	From     float64 `json:"from"`
	Amount   int64   `json:"amount"`
}

type abrasivesDoc struct {
	DamageLow   float64 `json:"damageLow"`
	DamageHigh  float64 `json:"damageHigh"`
	CutRatio    float64 `json:"cutRatio"`
	PolishRatio float64 `json:"polishRatio"`
	SoftBelow   float64 `json:"softBelow"`
	SmearBelow  float64 `json:"smearBelow"`
	Coarser     float64 `json:"coarser"`
}

type habitsDoc struct {
	ID        string `json:"id"`
	Name      string `json:"name"`
	FirstSide string `json:"firstSide"`
	Tick      string `json:"tick"`
	Long      string `json:"long,omitempty"`
	// Allowance, Kerf and Preform came with schema 15; those before had the usual ones.
	Allowance *float64    `json:"allowance,omitempty"`
	Kerf      *float64    `json:"kerf,omitempty"`
	Preform   *preformDoc `json:"preform,omitempty"`
	Girdle    string      `json:"girdle"`
	Table     string      `json:"table"`
	Visiting  string      `json:"visiting"`
	Turning   string      `json:"turning"`
	lapsDoc
	Holds []holdDoc `json:"holds,omitempty"`
}

type preformDoc struct {
	Side  float64 `json:"side"`
	Foot  float64 `json:"foot"`
	Under float64 `json:"under"`
}

func settingsDocument(s workshop.Settings) string {
	d := settingsDoc{
		form: form{settingsForm}, Version: s.Version, Answered: s.Answered, Machine: s.Machine, Habit: s.Habit,
		Machines: []machineDoc{}, Habits: []habitsDoc{}, Materials: []materialDoc{},
	}
	a := s.Abrasives
	d.Abrasives = &abrasivesDoc{a.DamageLow, a.DamageHigh, a.CutRatio, a.PolishRatio, a.SoftBelow, a.SmearBelow, a.Coarser}
	for _, m := range s.Machines {
		d.Machines = append(d.Machines, machineDocOf(m))
	}
	for _, h := range s.Habits {
		d.Habits = append(d.Habits, habitsDoc{
			ID: h.ID, Name: h.Name, FirstSide: string(h.FirstSide), Tick: string(h.Tick), Long: string(h.Long),
			Allowance: &h.Allowance, Kerf: &h.Kerf, Preform: &preformDoc{h.Preform.Side, h.Preform.Foot, h.Preform.Under},
			Girdle: string(h.Girdle), Table: string(h.Table), Visiting: string(h.Visiting), Turning: string(h.Turning),
			lapsDoc: lapsDocOf(h.Laps, h.PlanHabits), Holds: holdDocs(h.Holds),
		})
	}
	for _, m := range s.Materials {
		d.Materials = append(d.Materials, materialDocOf(m))
	}
	for _, p := range s.Prices {
		d.Prices = append(d.Prices, priceDoc(p))
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
		Machines: []workshop.Machine{}, Habits: []workshop.Habits{}, Materials: []material.Material{}, Abrasives: workshop.UsualAbrasives,
		Prices: []workshop.Price{},
	}
	if a := d.Abrasives; a != nil {
		s.Abrasives = workshop.Abrasives{
			Rules:  abrasive.Rules{DamageLow: a.DamageLow, DamageHigh: a.DamageHigh, CutRatio: a.CutRatio, PolishRatio: a.PolishRatio},
			Limits: abrasive.Limits{SoftBelow: a.SoftBelow, SmearBelow: a.SmearBelow, Coarser: a.Coarser},
		}
	}
	for _, m := range d.Machines {
		s.Machines = append(s.Machines, m.machine())
	}
	for _, h := range d.Habits {
		s.Habits = append(s.Habits, workshop.Habits{
			ID: h.ID, Name: h.Name, FirstSide: workshop.FirstSide(h.FirstSide), Tick: workshop.TickOf(h.Tick), Long: workshop.Lying(cmp.Or(h.Long, string(workshop.Across))),
			Allowance: given(h.Allowance, fit.UsualAllowance), Kerf: given(h.Kerf, workshop.UsualKerf),
			Preform:    dopping.Allowance(given(h.Preform, preformDoc(dopping.UsualAllowance()))),
			PlanHabits: planHabitsOf(h.Girdle, h.Table, h.Visiting, h.Turning, cmp.Or(h.TableAt, string(workshop.TableThrough)), h.GirdleSpare), Laps: h.laps(), Holds: holdsOf(h.Holds),
		})
	}
	for _, m := range d.Materials {
		s.Materials = append(s.Materials, m.material())
	}
	for _, p := range d.Prices {
		s.Prices = append(s.Prices, workshop.Price(p))
	}
	return s, nil
}

// given returns what a document says, or what holds where it says nothing.
func given[V any](said *V, otherwise V) V {
	if said == nil {
		return otherwise
	}
	return *said
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
	Price          int64     `json:"price,omitempty"`
	Currency       string    `json:"currency,omitempty"`
	Saved          time.Time `json:"saved"`
}

func finishDocument(f workshop.Finish) string {
	return document(finishDoc{
		form{finishForm}, f.Version, f.RoughCarats, f.FinishedCarats, f.WidthMM, f.LengthMM, f.HeightMM, f.Started, f.Finished, f.Hours, f.Notes, f.Price, f.Currency, f.Saved,
	})
}

func readFinish(text string) (*workshop.Finish, error) {
	var d finishDoc
	if err := read(text, finishForm, &d); err != nil {
		return nil, err
	}
	return &workshop.Finish{
		Version: d.Version, RoughCarats: d.RoughCarats, FinishedCarats: d.FinishedCarats, WidthMM: d.WidthMM, LengthMM: d.LengthMM, HeightMM: d.HeightMM,
		Started: d.Started, Finished: d.Finished, Hours: d.Hours, Notes: d.Notes, Price: d.Price, Currency: d.Currency, Saved: d.Saved,
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
	// Way, Damages and Intake came with schema 19.
	Way     string      `json:"way,omitempty"`
	Damages []damageDoc `json:"damages,omitempty"`
	Intake  *repairDoc  `json:"intake,omitempty"`
}

type damageDoc struct {
	Points    [][3]float64 `json:"points"`
	Clearance float64      `json:"clearance,omitempty"`
}

// vectors brings vectors into or out of their form in documents.
func vectors[A, B any](in []A, form func(A) B) []B {
	out := make([]B, len(in))
	for i, v := range in {
		out[i] = form(v)
	}
	return out
}

func recutDocument(t workshop.Recut) string {
	d := recutDoc{form: form{recutForm}, Carats: t.Carats, WidthMM: t.WidthMM, LengthMM: t.LengthMM, HeightMM: t.HeightMM, Why: t.Why, Way: string(t.Way)}
	for _, damage := range t.Damages {
		d.Damages = append(d.Damages, damageDoc{vectors(damage.Points, numbersOf), damage.Clearance})
	}
	if t.Intake != nil {
		intake := repairDocOf(*t.Intake)
		d.Intake = &intake
	}
	return document(d)
}

func (d recutDoc) recut() workshop.Recut {
	t := workshop.Recut{Carats: d.Carats, WidthMM: d.WidthMM, LengthMM: d.LengthMM, HeightMM: d.HeightMM, Why: d.Why, Way: mending.Kind(d.Way)}
	for _, damage := range d.Damages {
		t.Damages = append(t.Damages, mending.Damage{Points: vectors(damage.Points, vectorOf), Clearance: damage.Clearance})
	}
	if d.Intake != nil {
		intake := d.Intake.intake()
		t.Intake = &intake
	}
	return t
}

// firstCutDoc is where a stone's rough came from. Documents came with schema 14; before, a first cut had
// none.
type firstCutDoc struct {
	form
	Piece     string    `json:"piece"`
	Found     *foundDoc `json:"found,omitempty"`
	Allowance float64   `json:"allowance,omitempty"`
	Why       string    `json:"why,omitempty"`
}

// taskDocument is the record of a task, "" for one that has none.
func taskDocument(t workshop.Task) string {
	switch t := t.(type) {
	case workshop.FirstCut:
		if t.From == nil {
			return ""
		}
		d := firstCutDoc{form: form{firstCutForm}, Piece: t.From.Piece, Allowance: t.From.Allowance, Why: t.From.Why}
		if t.From.Found != nil {
			found := foundDocOf(*t.From.Found)
			d.Found = &found
		}
		return document(d)
	case workshop.Recut:
		return recutDocument(t)
	case workshop.Repair:
		return repairDocument(t.Intake)
	}
	return ""
}

func repairDocument(in workshop.Intake) string { return document(repairDocOf(in)) }

func repairDocOf(in workshop.Intake) repairDoc {
	return repairDoc{form{repairForm}, in.Owner, in.Material, in.Carats, in.WidthMM, in.LengthMM, in.HeightMM, in.Damage, in.Agreed, in.Promised}
}

func (d repairDoc) intake() workshop.Intake {
	return workshop.Intake{
		Owner: d.Owner, Material: d.Material, Carats: d.Carats, WidthMM: d.WidthMM, LengthMM: d.LengthMM, HeightMM: d.HeightMM,
		Damage: d.Damage, Agreed: d.Agreed, Promised: d.Promised,
	}
}

func readTask(kind journal.Task, text string) (workshop.Task, error) {
	switch kind {
	case journal.FirstCut:
		if text == "" {
			return workshop.FirstCut{}, nil
		}
		var d firstCutDoc
		if err := read(text, firstCutForm, &d); err != nil {
			return nil, err
		}
		from := &workshop.FromPiece{Piece: d.Piece, Allowance: d.Allowance, Why: d.Why}
		if d.Found != nil {
			found := d.Found.found()
			from.Found = &found
		}
		return workshop.FirstCut{From: from}, nil
	case journal.Recut:
		var d recutDoc
		if err := read(text, recutForm, &d); err != nil {
			return nil, err
		}
		return d.recut(), nil
	case journal.Repair:
		var d repairDoc
		if err := read(text, repairForm, &d); err != nil {
			return nil, err
		}
		return workshop.Repair{Intake: d.intake()}, nil
	}
	return nil, fmt.Errorf("%w: no kind of work is called %q", workshop.ErrUnreadable, kind)
}
