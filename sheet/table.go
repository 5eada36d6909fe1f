package sheet

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"cressa/core/diagram"
	"cressa/core/drawing"
	"cressa/core/gear"
	"cressa/words"
	"cressa/workshop"
)

// columns are the left edges of the table's columns and their heads.
type columns struct {
	tier, angle, dial, stop, ticks float64
	// box is the width of one column of ticks.
	box float64
}

func (w *writer) columns() columns {
	n := len(w.boxes())
	right := w.paper.Width - margin
	box := math.Min(5.6, 60/float64(n))
	c := columns{tier: margin, box: box, ticks: right - box*float64(n)}
	c.angle = c.tier + 13
	c.dial = c.angle + 17
	// The dial takes what its longest row needs, up to half of what is left.
	widest := 28.0
	for i, t := range w.content.Stone.Diagram.Tiers {
		widest = math.Max(widest, w.measure(dials(t, w.settings[i], w.content.Machine), textSize, false)+4)
	}
	c.stop = c.dial + math.Min(widest, (c.ticks-c.dial)*0.5)
	return c
}

// table lists the tiers in cutting order, side by side of the transfer.
func (w *writer) table() {
	d := w.content.Stone.Diagram
	scale := words.Scale{MM: w.content.MM, Width: w.content.Stone.Measures().Width}
	w.tableHead()
	up := diagram.Part("")
	for i, t := range d.Tiers {
		if side := d.CutWith(t.Part); side != up {
			up = side
			w.sideHead(up, i > 0)
		}
		w.row(t, dials(t, w.settings[i], w.content.Machine), words.Stop(t, d.Gear, scale))
	}
	w.y += 3
}

func (w *writer) tableHead() {
	c := w.columns()
	w.y++
	w.y += textSize + 0.6
	heads := []struct {
		x    float64
		text string
	}{{c.tier + 1, "Tier"}, {c.angle, "Angle"}, {c.dial, "Index, in order"}, {c.stop, "Cut"}}
	for _, h := range heads {
		w.write(h.x, w.y, smallSize, true, drawing.Left, h.text)
	}
	for i, head := range w.boxes() {
		w.write(c.ticks+(float64(i)+0.5)*c.box, w.y, math.Min(smallSize, c.box*0.7), true, drawing.Middle, head)
	}
	w.y += 1.2
	w.rule(0.35)
}

// boxes are the heads of the columns to tick: the stones of a run, or the passes of
// a single stone.
func (w *writer) boxes() []string {
	if len(w.content.Stones) > 0 {
		return w.content.Stones
	}
	if len(w.content.Laps.Passes) == 1 {
		return []string{"✓"}
	}
	out := make([]string, len(w.content.Laps.Passes))
	for i := range out {
		out[i] = fmt.Sprint(i + 1)
	}
	return out
}

func (w *writer) rule(stroke float64) {
	w.page.Line(drawing.Point{X: margin, Y: w.y}, drawing.Point{X: w.paper.Width - margin, Y: w.y}, stroke)
}

func (w *writer) sideHead(up diagram.Part, transfer bool) {
	text := "Pavilion up"
	if up == diagram.Crown {
		text = "Crown up"
	}
	if transfer {
		text = "Transfer. Then " + strings.ToLower(text[:1]) + text[1:]
	}
	if w.room(2 * (textSize + rowGap + 2)) {
		w.tableHead()
	}
	w.y += textSize + rowGap
	w.write(margin+1, w.y, textSize, true, drawing.Left, text)
	w.y += rowGap
	w.rule(0.2)
}

func (w *writer) row(t diagram.Tier, dial, stop string) {
	c := w.columns()
	dialLines := w.wrap(dial, textSize, c.stop-c.dial-2)
	if t.Note != "" {
		stop += ". " + t.Note
	}
	if t.Optional {
		stop += " (optional)"
	}
	stopLines := w.wrap(stop, textSize, c.ticks-c.stop-2)
	lines := float64(max(len(dialLines), len(stopLines)))
	height := lines*(textSize+0.9) + rowGap + 0.6
	if w.room(height) {
		w.tableHead()
	}
	top := w.y
	base := top + textSize + rowGap*0.6
	w.write(c.tier+1, base, textSize, true, drawing.Left, t.Name)
	w.write(c.angle, base, textSize, false, drawing.Left, angleOf(t.Angle, w.content.Machine))
	for i, line := range dialLines {
		w.write(c.dial, base+float64(i)*(textSize+0.9), textSize, false, drawing.Left, line)
	}
	for i, line := range stopLines {
		w.write(c.stop, base+float64(i)*(textSize+0.9), textSize, false, drawing.Left, line)
	}
	gets := w.content.Laps.Of(t)
	for i := range w.boxes() {
		if len(w.content.Stones) == 0 && !slices.Contains(gets, w.content.Laps.Passes[i]) {
			continue
		}
		side := math.Min(c.box-1.2, 3.4)
		w.page.Box(c.ticks+(float64(i)+0.5)*c.box-side/2, top+(height-side)/2, side, side, 0.2)
	}
	w.y = top + height
	w.rule(0.1)
}

// angleOf writes what to set: the angle, and what the protractor shows where its
// zero is off or the table adapter is on. An angle between two steps carries a mark; the cares explain it.
func angleOf(angle float64, m workshop.Machine) string {
	text := short(angle) + "°"
	if hole, ok := m.HoleFor(angle); ok {
		text = fmt.Sprintf("%s hole %d", text, hole.No)
		if len(m.Pegs) > 1 {
			text += fmt.Sprintf(", peg %s", short(hole.Peg))
		}
	}
	if m.WithAdapter(angle) {
		return text + " at " + short(m.Reading(angle)) + "°"
	}
	if reading := short(m.Reading(angle)); reading != short(angle) {
		text += " ∠" + reading
	}
	if below, above := m.SettableAngles(angle); below != above {
		text += " *"
	}
	return text
}

// short writes an angle to a hundredth.
func short(v float64) string { return diagram.FormatNumber(math.Round(v*100) / 100) }

// dials writes a tier's indexes as they are dialled one after the other.
func dials(t diagram.Tier, settings []gear.Setting, m workshop.Machine) string {
	out := make([]string, len(settings))
	for i, p := range settings {
		out[i] = fmt.Sprint(p.Tooth)
		if p.Cheat == 0 || t.Angle == 0 {
			continue
		}
		if turns, ok := m.CheatTurns(p.Cheat); ok {
			out[i] += fmt.Sprintf("(%+.2f turn)", turns)
		} else {
			out[i] += fmt.Sprintf("(%+.2f°)", p.Cheat)
		}
	}
	return strings.Join(out, " ")
}

// howTo says what the passes are, how the stone is held, how the table goes on and what calipers read.
func (w *writer) howTo() {
	var said []string
	if len(w.content.Laps.Passes) > 1 {
		var passes []string
		for i, p := range w.content.Laps.Passes {
			passes = append(passes, strings.Join(strings.Fields(fmt.Sprintf("%d %s %s %s", i+1, p.Name, p.Lap, p.Compound)), " "))
		}
		said = append(said, "Passes: "+strings.Join(passes, ", ")+".")
	}
	var held []string
	for i, h := range w.content.Holds {
		on := facts(h.Dop, h.Adhesive)
		if i < len(w.content.Setups) && len(on) > 0 {
			held = append(held, fmt.Sprintf("for the %s %s", w.content.Setups[i].Side(), strings.Join(on, " with ")))
		}
	}
	if len(held) > 0 {
		said = append(said, "Held "+strings.Join(held, ", ")+".")
	}
	flat := func(t diagram.Tier) bool { return w.content.Machine.WithAdapter(t.Angle) }
	if slices.ContainsFunc(w.content.Stone.Diagram.Tiers, flat) {
		said = append(said, fmt.Sprintf("Table with the adapter, the protractor at %s°.", short(w.content.Machine.Reading(0))))
	}
	var read []string
	for _, c := range w.content.Stone.Calipers() {
		across := "flat to flat"
		if !c.Flats {
			across = "flat to corner"
		}
		read = append(read, fmt.Sprintf("%s %s %s", w.content.Stone.Diagram.Tiers[c.TierNo].Name, across, w.length(c.Across)))
	}
	if len(read) > 0 {
		said = append(said, "Calipers read: "+strings.Join(read, ", ")+".")
	}
	if len(said) > 0 {
		w.lines(strings.Join(said, " "))
	}
}

func (w *writer) cares() {
	for _, c := range w.content.Cares {
		w.lines("! " + c)
	}
	w.lines("Cut wet, eyes covered, nothing loose near the lap. Local rules, labels and licensed trades decide.")
}

// lines writes a paragraph over the whole width.
func (w *writer) lines(text string) {
	for _, line := range w.wrap(text, smallSize, w.paper.Width-2*margin) {
		w.room(smallSize + 1.2)
		w.y += smallSize + 1.2
		w.write(margin, w.y, smallSize, false, drawing.Left, line)
	}
}

// notes leaves the rest of the page, or at least notesRoom, for a pencil.
func (w *writer) notes() {
	w.y += 3
	w.room(notesRoom)
	w.write(margin, w.y+smallSize, smallSize, true, drawing.Left, "Notes")
	for y := w.y + 11; y <= w.bottom(); y += 8 {
		w.page.Shapes = append(w.page.Shapes, drawing.Shape{
			Points: []drawing.Point{{X: margin, Y: y}, {X: w.paper.Width - margin, Y: y}}, Stroke: 0.1, Dashed: true,
		})
	}
	w.y = w.bottom()
}
