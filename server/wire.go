package server

import (
	"encoding/json"
	"time"

	"cressa/core/cutting"
	"cressa/words"
	"cressa/workshop"
	"cressa/workshop/journal"
)

// What the workshop's records look like to the interface. The records themselves may
// change without the contract, and the other way round.

// each returns f of every value of a list; an empty list where there are none.
func each[From, To any](list []From, f func(From) To) []To {
	out := make([]To, len(list))
	for i, v := range list {
		out[i] = f(v)
	}
	return out
}

// StoneLine is a stone as lists show it, with where its present work stands.
type StoneLine struct {
	ID       string    `json:"id"`
	Number   int       `json:"number"`
	Name     string    `json:"name"`
	Created  time.Time `json:"created"`
	Version  int       `json:"version"`
	Run      string    `json:"run"`
	RunPlace int       `json:"runPlace"`
	WorkID   string    `json:"workId"`
	Task     string    `json:"task" validate:"oneof=first-cut recut repair"`
	// Diagram is what its plan's diagram is called and Picture that version's hash, ""
	// without a plan.
	Diagram  string  `json:"diagram"`
	Picture  string  `json:"picture"`
	Material string  `json:"material"`
	SizeMM   float64 `json:"sizeMM"`
	// Promised is the day that a repair was promised for, "" for none.
	Promised string `json:"promised"`
	// Cures is until when the bond that was told last cures, null where none was.
	Cures *time.Time `json:"cures"`
	State string     `json:"state" validate:"oneof=planned cutting cut finished"`
	// Of All visits Done are done; Skipped were left out and are still open.
	Done      int       `json:"done"`
	Skipped   int       `json:"skipped"`
	All       int       `json:"all"`
	Hours     float64   `json:"hours"`
	LastEvent time.Time `json:"lastEvent"`
	// Late counts what came in after the card was written.
	Late   int     `json:"late"`
	Finish *Finish `json:"finish"`
}

func stoneLine(l workshop.StoneLine) StoneLine {
	return StoneLine{
		ID: l.ID, Number: l.Number, Name: l.Name, Created: l.Created, Version: l.Version, Run: l.Run, RunPlace: l.RunPlace,
		WorkID: l.WorkID, Task: string(l.Task), Diagram: l.Diagram, Picture: l.Picture, Material: l.Material, SizeMM: l.SizeMM, Promised: l.Promised, Cures: momentOrNone(l.Cures),
		State: string(l.State), Done: l.Done, Skipped: l.Skipped, All: l.All, Hours: l.Hours, LastEvent: l.LastEvent, Late: l.Late, Finish: (*Finish)(l.Finish),
	}
}

func stoneLines(lines []workshop.StoneLine) []StoneLine { return each(lines, stoneLine) }

// StoneHead names a stone that was made or changed.
type StoneHead struct {
	ID      string `json:"id"`
	Number  int    `json:"number"`
	Name    string `json:"name"`
	Version int    `json:"version"`
	WorkID  string `json:"workId"`
}

func stoneHead(s workshop.Stone) StoneHead {
	return StoneHead{s.ID, s.Number, s.Name, s.Version, s.Work().ID}
}

// PlanView is what a stone is cut to.
type PlanView struct {
	No          int    `json:"no"`
	DiagramID   string `json:"diagramId"`
	DiagramName string `json:"diagramName"`
	// Revision is what the diagram held when it was planned.
	Revision string  `json:"revision"`
	Choices  Choices `json:"choices"`
	Machine  string  `json:"machine"`
}

func planView(p *workshop.Plan) PlanView {
	return PlanView{p.No, p.DiagramID, p.DiagramName, p.Revision, choicesView(p.Choices), p.Machine.Name}
}

// WorkHead is one of the works on a stone.
type WorkHead struct {
	ID      string    `json:"id"`
	Task    string    `json:"task" validate:"oneof=first-cut recut repair"`
	Created time.Time `json:"created"`
	// Finished is the day on its card, "" while there is none.
	Finished string `json:"finished"`
}

func workHeads(s workshop.Stone) []WorkHead {
	out := []WorkHead{}
	for _, w := range s.Works {
		head := WorkHead{ID: w.ID, Task: string(w.Task.Kind()), Created: w.Created}
		if w.Finish != nil {
			head.Finished = w.Finish.Finished
		}
		out = append(out, head)
	}
	return out
}

// Setup is how a stone stands on the machine.
type Setup struct {
	ID string `json:"id"`
	// Up is the side that points out of the dop. On a solid that is held by more than its two sides it is "", and Name is the facet
	// that faces up.
	Up   string `json:"up"`
	Name string `json:"name"`
	// Right and Above are the directions of the stone that lie right and above as it is seen from outside, at the wheel.
	Right Point `json:"right"`
	Above Point `json:"above"`
	// Turn is that of the stone on the dop, degrees clockwise as seen from that side.
	Turn float64 `json:"turn"`
}

func setupsOf(plan *workshop.Plan) []Setup {
	out := []Setup{}
	for i, s := range plan.Setups {
		right, above := s.Pose.Seen()
		one := Setup{ID: s.ID, Right: pointOf(right), Above: pointOf(above), Turn: s.Pose.Turn}
		if len(plan.Choices.DopUps) > 0 {
			one.Name = plan.Choices.UpName(i)
		} else {
			one.Up = string(s.Side())
		}
		out = append(out, one)
	}
	return out
}

// Run is one plan for several stones that are cut together.
type Run struct {
	ID      string    `json:"id"`
	Name    string    `json:"name"`
	Order   string    `json:"order" validate:"oneof=tier stone"`
	Created time.Time `json:"created"`
}

func runView(r workshop.Run) Run { return Run{r.ID, r.Name, string(r.Order), r.Created} }

// SentEvent is an event as a screen sends it.
type SentEvent struct {
	ID string `json:"id"`
	// Stream names what it happened to: "work/…".
	Stream string `json:"stream"`
	// Device names the screen and DeviceSeq counts there.
	Device     string    `json:"device"`
	DeviceSeq  int64     `json:"deviceSeq"`
	DeviceTime time.Time `json:"deviceTime"`
	Kind       string    `json:"kind"`
	// Version is that of the payload's form.
	Version int             `json:"version"`
	Payload json.RawMessage `json:"payload"`
}

func (e SentEvent) event() journal.Event {
	return journal.Event{
		ID: e.ID, Stream: journal.Stream(e.Stream), Device: e.Device, DeviceSeq: e.DeviceSeq, DeviceTime: e.DeviceTime,
		Kind: journal.Kind(e.Kind), Version: e.Version, Payload: e.Payload,
	}
}

// Event is an entry of a log.
type Event struct {
	SentEvent
	// By is who did it, Seq its place in the log.
	By         string    `json:"by"`
	ServerTime time.Time `json:"serverTime"`
	Seq        int64     `json:"seq"`
}

func eventView(e journal.Event) Event {
	return Event{
		SentEvent{e.ID, string(e.Stream), e.Device, e.DeviceSeq, e.DeviceTime, string(e.Kind), e.Version, e.Payload},
		e.By.Name, e.ServerTime, e.Seq,
	}
}

// EventAnswer says what became of one event that was sent.
type EventAnswer struct {
	ID      string `json:"id"`
	Outcome string `json:"outcome" validate:"oneof=stored known refused"`
	// Seq is its place in the log, 0 where it was refused.
	Seq int64 `json:"seq"`
	// Reason is why it was refused, in a word and in a sentence.
	Reason  string `json:"reason"`
	Message string `json:"message"`
}

func eventAnswer(a workshop.Answer) EventAnswer {
	out := EventAnswer{ID: a.ID, Outcome: string(a.Outcome), Seq: a.Seq, Reason: string(a.Reason)}
	if a.Reason != "" {
		out.Message = words.Refusal(a.Reason)
	}
	return out
}

// Diagram is a diagram of the library, whole.
type Diagram struct {
	ID      string `json:"id"`
	Starter bool   `json:"starter"`
	// Revision is the hash of the present version, "" before the first.
	Revision string `json:"revision"`
	Draft    Draft  `json:"draft"`
	// Edited tells that the draft is not what the present version holds.
	Edited  bool      `json:"edited"`
	Version int       `json:"version"`
	Created time.Time `json:"created"`
	Updated time.Time `json:"updated"`
	// Origin is where it came from: a file's name, or that it was pasted.
	Origin string `json:"origin"`
	// VariantOf is the ID that variants of one diagram share, "" where it has none.
	VariantOf string `json:"variantOf"`
	// SenseChosen tells that the cutter has said which way its indexes run.
	SenseChosen bool `json:"senseChosen"`
	// Freehand tells that a stone is cut without a diagram into it, and was not made one yet.
	Freehand bool   `json:"freehand"`
	Facts    *Facts `json:"facts"`
}

func diagramView(d workshop.Diagram) Diagram {
	return Diagram{d.ID, d.Starter, d.Revision, draftView(d.Draft), d.Edited, d.Version, d.Created, d.Updated, d.Origin, d.VariantOf, d.SenseChosen, d.BeingCut(), (*Facts)(d.Facts)}
}

// DiagramPage is a diagram with how it looks to the default machine and its variants.
type DiagramPage struct {
	Diagram
	// Judged is null until the machine has judged it.
	Judged *Judged `json:"judged"`
	// Variants are the diagram itself and those it is tried against, by name.
	Variants []DiagramName `json:"variants"`
}

// DiagramName is a diagram by its name.
type DiagramName struct {
	ID   string `json:"id"`
	Name string `json:"name"`
}

// Judged is how a diagram looks to a machine.
type Judged struct {
	Difficulty cutting.Difficulty `json:"difficulty"`
	Level      string             `json:"level" validate:"oneof=easy moderate demanding hard"`
	// Cuttable tells that the machine can cut it as it is drawn.
	Cuttable     bool    `json:"cuttable"`
	LargestCheat float64 `json:"largestCheat"`
}

func judgedView(j *workshop.Judged) *Judged {
	if j == nil {
		return nil
	}
	return &Judged{j.Difficulty, string(j.Level), j.Cuttable, j.LargestCheat}
}

// DiagramLine is a diagram as the library lists it.
type DiagramLine struct {
	ID      string `json:"id"`
	Name    string `json:"name"`
	Starter bool   `json:"starter"`
	// Revision is the hash of the present version, "" before the first.
	Revision string  `json:"revision"`
	Edited   bool    `json:"edited"`
	Version  int     `json:"version"`
	Facts    *Facts  `json:"facts"`
	Judged   *Judged `json:"judged"`
}

func diagramLine(l workshop.DiagramLine) DiagramLine {
	return DiagramLine{l.ID, l.Name, l.Starter, l.Revision, l.Edited, l.Version, (*Facts)(l.Facts), judgedView(l.Judged)}
}
