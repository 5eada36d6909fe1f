package wheel

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/abrasive"
	"cressa/core/gear"
	"cressa/core/solid"
)

const (
	// appetite is how much a lap takes off, in mm³/s for a grain of 1 µm, a force of 1 N and a speed of 1 m/s, of a stone of
	// hardness 7. It is of the order of what is seen: on a coarse lap a facet of 5 mm² goes down by 0.3 mm in two seconds.
	appetite = 1e-3
	// life is how many mm³ a lap takes off until it is worn to 1/e, dullest how sharp a worn one stays.
	life, dullest = 400.0, 0.15
	// loud is the rate in mm³/s that is as loud as it gets.
	loud = 0.7
	// touching is how near to the lap, in mm, a face lies on it.
	touching = 1e-6
	// halvings find an angle to a billionth of a degree, finely one to a ten-thousandth of what is looked through.
	halvings, finely = 36, 14
	// least is the smallest step, in degrees, that is tried.
	least = 1e-6
)

// Speed is how fast the lap runs under the stone, in m/s.
func (w *Wheel) Speed() float64 { return abrasive.Speed(lapRadius, w.controls.RPM) }

// Rate is how much the lap takes off in mm³/s while the stone lies on it. What is taken off grows with force and speed
// (Preston's equation), with the grain, and falls with the third power of the hardness.
func (w *Wheel) Rate() float64 {
	lap := Laps[w.controls.Lap]
	softer := 7 / w.setup.Hardness
	return appetite * lap.Grain * w.controls.Force * w.Speed() * w.Sharpness() * softer * softer * softer
}

// Step lets so many seconds pass.
func (w *Wheel) Step(seconds float64) {
	if !w.controls.Down {
		return
	}
	if w.controls.Free {
		w.turned = gear.Normal(w.turned+w.controls.Turns/60*seconds*float64(w.setup.Gear), w.setup.Gear)
	}
	before := w.contact.Face
	w.contact = Contact{}
	stop := w.stop()
	w.at = w.rest(stop)
	if gap := w.gap(w.at); w.at == stop && gap > -touching {
		// Nothing is left to grind here.
		w.contact.AtStop = true
		if gap < touching {
			w.contact.lies(w, before)
		}
		return
	}
	if w.at >= stop+swing {
		w.contact.Blocked = true
		return
	}
	w.grind(stop, w.Rate()*seconds, seconds)
}

// rest is the angle at which the quill comes to rest: on the stop, or above it on the stone.
func (w *Wheel) rest(stop float64) float64 {
	if w.gap(stop) > -touching {
		return stop
	}
	low, high := stop, stop+swing
	if w.gap(high) < 0 {
		return high
	}
	for range halvings {
		if middle := (low + high) / 2; w.gap(middle) < 0 {
			low = middle
		} else {
			high = middle
		}
	}
	return high
}

// gap is how far the stone stays off the lap while the quill stands at an angle, in mm; less than 0 where it would have to
// stand in it.
func (w *Wheel) gap(angle float64) float64 {
	p := w.plane(angle)
	return p.D - w.reach(p.Normal)
}

// reach is how far the stone goes along a direction from the middle of the rough, in mm.
func (w *Wheel) reach(n r3.Vec) float64 {
	out := math.Inf(-1)
	for _, v := range w.stone.Vertices() {
		out = math.Max(out, r3.Dot(n, w.stone.Point(v)))
	}
	return out * w.setup.Width
}

// Touching is what the dial of the mast shows when the stone just touches the lap with the quill on its stop, as far as
// the dials can be trusted.
func (w *Wheel) Touching() float64 { return w.HeightAt(w.reach(w.plane(w.stop()).Normal)) }

// HeightAt is what the dial of the mast shows when a facet at the angle that is set lies at a distance from the middle of the
// rough, in mm.
func (w *Wheel) HeightAt(distance float64) float64 {
	return w.controls.Height - (w.plane(w.stop()).D - distance)
}

// grind takes off so many mm³ in so many seconds, or what is left until the stop.
func (w *Wheel) grind(stop, most, seconds float64) {
	cubic := w.cubic()
	had := w.stone.Volume()
	high := w.at
	cut, removed := w.cutAt(stop, had)
	if cut == nil {
		return
	}
	if w.at = stop; removed*cubic > most {
		// The stone comes down about as far as in the step before.
		low := math.Max(stop, high-2*w.sank)
		for low > stop {
			if _, gone := w.cutAt(low, had); gone*cubic > most {
				break
			}
			low = math.Max(stop, high-4*(high-low))
		}
		from := high
		cut = nil
		for range finely {
			middle := (low + high) / 2
			if try, gone := w.cutAt(middle, had); try != nil && gone*cubic <= most {
				high, cut, removed = middle, try, gone
			} else {
				low = middle
			}
		}
		w.sank, w.at = math.Max(from-high, least), high
		if cut == nil {
			return
		}
	}
	w.contact.AtStop = w.at == stop
	w.stone = cut.Compact()
	removed *= cubic
	if lap := &w.sharp[w.controls.Lap]; w.errors.Dull {
		*lap = math.Max(dullest, *lap*math.Exp(-removed/life))
	}
	w.contact.Rate = removed / seconds
	w.contact.Sound = math.Min(1, math.Sqrt(w.contact.Rate/loud))
	w.contact.lies(w, w.next)
	w.next++
}

// cubic is how many mm³ a cube of the stone's unit has.
func (w *Wheel) cubic() float64 { return w.setup.Width * w.setup.Width * w.setup.Width }

// cutAt returns the stone ground down until the quill stands at an angle, and the volume that went; nil where nothing, or
// all, would.
func (w *Wheel) cutAt(angle, had float64) (*solid.Solid, float64) {
	p := w.plane(angle)
	p.D /= w.setup.Width
	out, outcome := w.stone.Compact().Cut(w.next, p)
	if outcome != solid.Made {
		return nil, 0
	}
	return out, had - out.Volume()
}

// lies notes the face that lies on the lap.
func (c *Contact) lies(w *Wheel, face int) {
	if f := w.stone.Face(face); face > 0 && f != nil {
		c.Face, c.Area = face, w.stone.Area(f)*w.setup.Width*w.setup.Width
	}
}

// Readings are what the dials show.
type Readings struct {
	// Angle is in degrees, Index a position on the gear that may lie between teeth, Height in mm.
	Angle, Index, Height float64
}

// Readings returns what the dials show now, in their divisions.
func (w *Wheel) Readings() Readings {
	return Readings{
		Angle:  divisions(w.at + w.errors.Zero),
		Index:  divisions(w.position()),
		Height: divisions(w.controls.Height),
	}
}

// Across is what calipers read across the stone at the index that is set, in mm.
func (w *Wheel) Across() float64 {
	n := w.pose().Facing(90, w.position())
	return w.reach(n) + w.reach(r3.Scale(-1, n))
}

// Carats is what the stone weighs.
func (w *Wheel) Carats() float64 {
	return w.stone.Volume() * w.cubic() * w.setup.SG / 200
}

// divisions rounds to whole divisions, without the rounding of binary fractions.
func divisions(v float64) float64 { return math.Round(v/Division) / math.Round(1/Division) }
