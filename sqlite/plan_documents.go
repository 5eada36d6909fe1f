package sqlite

import (
	"cmp"
	"time"

	"gonum.org/v1/gonum/num/quat"
	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/core/mending"
	"cressa/core/solid"
	"cressa/workshop"
)

// A plan as it is stored, with what habits share with it.

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
	// Layer came with schema 16.
	Layer []tierChangeDoc `json:"layer,omitempty"`
	// Mended, Came and Over came with schema 19.
	Mended *mendedDoc `json:"mended,omitempty"`
	Came   *cameDoc   `json:"came,omitempty"`
	Over   int        `json:"over,omitempty"`
}

// cameDoc is the stone that a recut begins with.
type cameDoc struct {
	MM           float64    `json:"mm"`
	Planes       []planeDoc `json:"planes"`
	Rest         []string   `json:"rest"`
	Polished     []string   `json:"polished"`
	PolishedFrom string     `json:"polishedFrom"`
}

type planeDoc struct {
	Facet  string     `json:"facet,omitempty"`
	Normal [3]float64 `json:"normal"`
	D      float64    `json:"d"`
}

func cameDocOf(c *workshop.Came) *cameDoc {
	if c == nil {
		return nil
	}
	d := &cameDoc{MM: c.MM, Planes: []planeDoc{}, Rest: c.Rest, Polished: c.Polished, PolishedFrom: c.PolishedFrom}
	for _, p := range c.Planes {
		d.Planes = append(d.Planes, planeDoc{p.Facet, numbersOf(p.Normal), p.D})
	}
	return d
}

func (d *cameDoc) came() *workshop.Came {
	if d == nil {
		return nil
	}
	c := &workshop.Came{MM: d.MM, Rest: d.Rest, Polished: d.Polished, PolishedFrom: d.PolishedFrom}
	for _, p := range d.Planes {
		c.Planes = append(c.Planes, workshop.CamePlane{Facet: p.Facet, Plane: solid.Plane{Normal: vectorOf(p.Normal), D: p.D}})
	}
	return c
}

func numbersOf(v r3.Vec) [3]float64 { return [3]float64{v.X, v.Y, v.Z} }

func vectorOf(n [3]float64) r3.Vec { return r3.Vec{X: n[0], Y: n[1], Z: n[2]} }

type mendedDoc struct {
	Way  string             `json:"way"`
	Plan int                `json:"plan"`
	At   map[string]float64 `json:"at"`
	Take map[string]float64 `json:"take"`
}

type tierChangeDoc struct {
	Tier  string  `json:"tier"`
	Angle float64 `json:"angle"`
	Stop  string  `json:"stop"`
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
	Holds []holdDoc `json:"holds,omitempty"`
	// DopUps and Cheats came with schema 20.
	DopUps []dopUpDoc `json:"dopUps,omitempty"`
	Cheats *cheatsDoc `json:"cheats,omitempty"`
}

// cheatsDoc says which teeth are dialled; plans of old dialled the nearest.
type cheatsDoc struct {
	From string `json:"from"`
	Skip []int  `json:"skip,omitempty"`
}

func cheatsDocOf(c gear.Cheating) *cheatsDoc {
	if c.Usual() {
		return nil
	}
	return &cheatsDoc{string(c.From), c.Skip}
}

func (d *cheatsDoc) cheats() gear.Cheating {
	if d == nil {
		return gear.Cheating{}
	}
	return gear.Cheating{From: gear.From(d.From), Skip: d.Skip}
}

type dopUpDoc struct {
	Tier  string  `json:"tier"`
	Index float64 `json:"index"`
}

// holdDoc is how a stone is held in a setup. It came with schema 12.
type holdDoc struct {
	Dop          string `json:"dop"`
	Adhesive     string `json:"adhesive"`
	DopItem      string `json:"dopItem,omitempty"`
	AdhesiveItem string `json:"adhesiveItem,omitempty"`
	// Tilt and Towards came with schema 19.
	Tilt    float64 `json:"tilt,omitempty"`
	Towards float64 `json:"towards,omitempty"`
}

type sizeDoc struct {
	Basis string  `json:"basis"`
	Tier  string  `json:"tier"`
	MM    float64 `json:"mm"`
	Typed string  `json:"typed"`
}

// lapsDoc is what plans and habits say of laps.
type lapsDoc struct {
	TableAt string `json:"tableAt"`
	// GirdleSpare came with schema 17.
	GirdleSpare float64   `json:"girdleSpare,omitempty"`
	Passes      []passDoc `json:"passes"`
	Uses        []useDoc  `json:"uses"`
	// GirdleFinish is how far the girdle is taken, in forms that knew no other exception.
	GirdleFinish string `json:"girdleFinish,omitempty"`
}

type passDoc struct {
	ID       string `json:"id"`
	Name     string `json:"name"`
	Lap      string `json:"lap"`
	Compound string `json:"compound,omitempty"`
	// LapItem and CompoundItem came with schema 12.
	LapItem      string `json:"lapItem,omitempty"`
	CompoundItem string `json:"compoundItem,omitempty"`
}

type useDoc struct {
	Group   string   `json:"group"`
	Tier    string   `json:"tier,omitempty"`
	Without []string `json:"without"`
}

func lapsDocOf(l workshop.Laps, h workshop.PlanHabits) lapsDoc {
	d := lapsDoc{TableAt: string(h.TableAt), GirdleSpare: h.GirdleSpare, Passes: []passDoc{}, Uses: []useDoc{}}
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

func planHabitsOf(girdle, table, visiting, turning, at string, spare float64) workshop.PlanHabits {
	return workshop.PlanHabits{
		Girdle: cutting.When(girdle), Table: cutting.When(table), Visiting: gear.Visiting(visiting), Turning: workshop.Turning(turning), TableAt: workshop.TableAt(at),
		GirdleSpare: spare,
	}
}

func choicesDocOf(c workshop.Choices) choicesDoc {
	var dopUps []dopUpDoc
	for _, up := range c.DopUps {
		dopUps = append(dopUps, dopUpDoc(up))
	}
	return choicesDoc{
		DopUps:   dopUps,
		Cheats:   cheatsDocOf(c.Cheats),
		Material: c.Material, Machine: c.Machine, Gear: c.Gear, Size: sizeDoc{string(c.Size.Basis), c.Size.Tier, c.Size.MM, c.Size.Typed}, FirstSide: string(c.FirstSide),
		Girdle: string(c.Girdle), Table: string(c.Table), Visiting: string(c.Visiting), Turning: string(c.Turning),
		lapsDoc: lapsDocOf(c.Laps, c.PlanHabits), Holds: holdDocs(c.Holds),
	}
}

func holdsOf(docs []holdDoc) []workshop.Hold {
	out := []workshop.Hold{}
	for _, h := range docs {
		out = append(out, workshop.Hold(h))
	}
	return out
}

func holdDocs(holds []workshop.Hold) []holdDoc {
	var out []holdDoc
	for _, h := range holds {
		out = append(out, holdDoc(h))
	}
	return out
}

func (d choicesDoc) choices() workshop.Choices {
	var dopUps []workshop.DopUp
	for _, up := range d.DopUps {
		dopUps = append(dopUps, workshop.DopUp(up))
	}
	return workshop.Choices{
		DopUps:   dopUps,
		Cheats:   d.Cheats.cheats(),
		Material: d.Material, Machine: d.Machine, Gear: d.Gear, Size: workshop.Size{Basis: workshop.Basis(d.Size.Basis), Tier: d.Size.Tier, MM: d.Size.MM, Typed: d.Size.Typed}, FirstSide: diagram.Part(d.FirstSide),
		// Plans that were made before there was a choice had every lap with the other facets.
		PlanHabits: planHabitsOf(d.Girdle, d.Table, d.Visiting, d.Turning, cmp.Or(d.TableAt, string(workshop.TableEach)), d.GirdleSpare), Laps: d.laps(), Holds: holdsOf(d.Holds),
	}
}

func planDocument(p workshop.Plan) string {
	d := planDoc{
		form: form{planForm}, No: p.No, DiagramID: p.DiagramID, DiagramName: p.DiagramName, Revision: p.Revision, AsCut: p.AsCut,
		Choices: choicesDocOf(p.Choices), Machine: machineDocOf(p.Machine), Material: materialDocOf(p.Material), Turns: turnsDoc(p.Turns),
		Setups: []setupDoc{}, Facets: []plannedDoc{}, Runs: []runDoc{}, Created: p.Created, Over: p.Over, Came: cameDocOf(p.Came),
	}
	for _, c := range p.Layer {
		d.Layer = append(d.Layer, tierChangeDoc(c))
	}
	if m := p.Mended; m != nil {
		d.Mended = &mendedDoc{string(m.Way), m.Plan, m.At, m.Take}
	}
	for _, s := range p.Setups {
		o := s.Pose
		d.Setups = append(d.Setups, setupDoc{
			ID: s.ID, Up: numbersOf(o.Up), Gear: o.Gear, Turn: o.Turn,
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
		Choices: d.Choices.choices(), Machine: d.Machine.machine(), Material: d.Material.material(), Turns: cutting.Turns(d.Turns), Created: d.Created, Over: d.Over, Came: d.Came.came(),
	}
	for _, c := range d.Layer {
		p.Layer = append(p.Layer, workshop.TierChange(c))
	}
	if m := d.Mended; m != nil {
		p.Mended = &workshop.Mended{Way: mending.Kind(m.Way), Plan: m.Plan, At: m.At, Take: m.Take}
	}
	for _, s := range d.Setups {
		p.Setups = append(p.Setups, workshop.Setup{ID: s.ID, Pose: gear.Pose{
			Up: vectorOf(s.Up), Gear: s.Gear, Turn: s.Turn, Cheats: p.Choices.Cheats,
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
