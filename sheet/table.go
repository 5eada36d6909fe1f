package sheet

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"cressa/core/diagram"
	"cressa/core/drawing"
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
	for _, settings := range w.settings {
		for i, t := range w.content.Stone.Diagram.Tiers {
			widest = math.Max(widest, w.measure(told(t, settings[i], w.content.Machine).dial, textSize, false)+4)
		}
	}
	c.stop = c.dial + math.Min(widest, (c.ticks-c.dial)*0.5)
	return c
}

// table lists the tiers in cutting order, setup by setup.
func (w *writer) table() {
	d := w.content.Stone.Diagram
	scale := words.Scale{MM: w.content.MM, Width: w.content.Stone.Measures().Width}
	w.tableHead()
	for no, settings := range w.settings {
		if !slices.ContainsFunc(settings, func(s []dialled) bool { return len(s) > 0 }) {
			continue
		}
		w.setupHead(no)
		for i, t := range d.Tiers {
			for _, group := range w.rows(settings[i]) {
				line := told(t, group, w.content.Machine)
				if line.stop == "" {
					line.stop = words.Stop(t, d.Gear, scale)
				}
				w.row(t, line)
			}
		}
	}
	w.y += 3
}

// rows are the facets of a tier, given as they are set in a setup, that share a row of the table: all, and on a solid those that are
// dialled at one angle and stop alike.
func (w *writer) rows(settings []dialled) [][]dialled {
	if len(settings) == 0 {
		return nil
	}
	if !w.content.dopUps() {
		return [][]dialled{settings}
	}
	key := func(d dialled) string {
		stop := ""
		if d.free != nil {
			stop = words.FreeStop(*d.free)
		}
		return short(d.Angle) + stop
	}
	var out [][]dialled
	for _, d := range settings {
		at := slices.IndexFunc(out, func(group []dialled) bool { return key(group[0]) == key(d) })
		if at < 0 {
			at, out = len(out), append(out, nil)
		}
		out[at] = append(out[at], d)
	}
	return out
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

func (w *writer) setupHead(no int) {
	text := w.upHead(no)
	switch {
	case no > 0 && w.content.dopUps():
		text = "Transfer. Then " + text
	case no > 0:
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

func (w *writer) row(t diagram.Tier, line line) {
	c, stop := w.columns(), line.stop
	dialLines := w.wrap(line.dial, textSize, c.stop-c.dial-2)
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
	w.write(c.angle, base, textSize, false, drawing.Left, line.angle)
	for i, line := range dialLines {
		w.write(c.dial, base+float64(i)*(textSize+0.9), textSize, false, drawing.Left, line)
	}
	for i, line := range stopLines {
		w.write(c.stop, base+float64(i)*(textSize+0.9), textSize, false, drawing.Left, line)
	}
	gets := w.content.Laps.Of(t)
	for i := range w.boxes() {
		if line.stays {
			break
		}
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

// line is what the table says of a tier: what is dialled, and where its facets stop; stop is "" where the tier's own says it.
type line struct {
	angle, dial, stop string
	// stays tells that no facet of it is touched.
	stays bool
}

// sameAngle and sameTake are how near two angles in degrees and two depths in mm are one on paper.
const sameAngle, sameTake = 0.005, 0.0005

// told writes what is dialled for a tier, one index after the other. On a stone that sits aslant each facet has an angle of its own,
// which stands behind its index; what comes off facets that were cut before stands there, too, where it differs.
func told(t diagram.Tier, settings []dialled, m workshop.Machine) line {
	cut := slices.DeleteFunc(slices.Clone(settings), func(d dialled) bool { return d.Stays || d.Polished })
	polished := slices.DeleteFunc(slices.Clone(settings), func(d dialled) bool { return !d.Polished })
	all := slices.Concat(cut, polished)
	if len(all) == 0 {
		return line{angle: angleOf(t.Angle, m), dial: "–", stop: "stays as it is", stays: true}
	}
	first := all[0]
	ownAngles := slices.ContainsFunc(all, func(d dialled) bool { return math.Abs(d.Angle-first.Angle) > sameAngle })
	ownTakes := slices.ContainsFunc(cut, func(d dialled) bool { return math.Abs(d.TakeMM-first.TakeMM) > sameTake })
	write := func(list []dialled) string {
		out := make([]string, len(list))
		for i, d := range list {
			out[i] = dial(d, m)
			if ownAngles {
				out[i] += " at " + short(m.Reading(d.Angle)) + "°"
			}
			if ownTakes && d.TakeMM > 0 {
				out[i] += fmt.Sprintf(" off %.3f", d.TakeMM)
			}
			if ownAngles || ownTakes {
				out[i] += ","
			}
		}
		return strings.TrimSuffix(strings.Join(out, " "), ",")
	}
	out := line{angle: angleOf(t.Angle, m), dial: write(cut)}
	switch {
	case ownAngles:
		out.angle = "each"
	case math.Abs(first.Angle-t.Angle) > sameAngle:
		out.angle = angleOf(first.Angle, m)
	}
	switch {
	case len(cut) == 0:
		out.dial, out.stop = write(polished), "only polished"
	case ownTakes:
		out.stop = "until so many mm are off"
	case first.TakeMM > 0:
		out.stop = words.TakeOff(first.TakeMM)
	case first.free != nil:
		out.stop = words.FreeStop(*first.free)
	}
	if len(cut) > 0 && len(polished) > 0 {
		out.dial += "; only polished " + write(polished)
	}
	return out
}

// dial writes an index with its cheat.
func dial(d dialled, m workshop.Machine) string {
	out := fmt.Sprint(d.Tooth)
	if d.Cheat == 0 || d.Angle < sameAngle {
		return out
	}
	if turns, ok := m.CheatTurns(d.Cheat); ok {
		return out + fmt.Sprintf("(%+.2f turn)", turns)
	}
	return out + fmt.Sprintf("(%+.2f°)", d.Cheat)
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
			held = append(held, fmt.Sprintf("for %s %s", w.held(i), strings.Join(on, " with ")))
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

// held names what is up in a setup, in a sentence.
func (w *writer) held(setup int) string {
	if w.content.dopUps() {
		return w.content.Ups[setup]
	}
	return "the " + w.content.Ups[setup]
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
