package journal

import (
	"cmp"
	"maps"
	"math"
	"slices"
	"time"
)

// step is where gaps are alike: one pass in one setup.
type step struct{ setup, pass string }

// Hours reckons the time at the wheel: the time between ticks, what nobody saw counted as
// the median of its step, and the stretches by the clock. It is rounded to hundredths.
func (w *Work) Hours() float64 {
	total, _ := w.Spent()
	gaps := w.gaps()
	w.eachTick(func(v Visit, m Mark) {
		total += time.Duration(m.Ms) * time.Millisecond
		total += time.Duration(m.Unseen) * median(gaps[step{v.Setup, v.Pass}])
	})
	return math.Round(total.Hours()*100) / 100
}

// Spent adds up the stretches by the clock that have ended, and tells since when the
// present one runs; the zero time where none does. Where begin and end come from two
// devices, their clocks say nothing of each other, and the times count at which they were
// heard.
func (w *Work) Spent() (spent time.Duration, since time.Time) {
	var from *Stretch
	for i, s := range w.Stretches {
		switch {
		case s.Kind == Begin && from == nil:
			from = &w.Stretches[i]
		case s.Kind == End && from != nil:
			took := s.At.Sub(from.At)
			if s.Device != from.Device {
				took = s.Heard.Sub(from.Heard)
			}
			spent += max(took, 0)
			from = nil
		}
	}
	if from != nil {
		since = from.At
	}
	return spent, since
}

// StageHours is the time at the wheel in one pass of one setup.
type StageHours struct {
	Setup, Pass string
	Hours       float64
}

// HoursByStage shares out Hours by setup and pass, in the order in which the present plan asks for them and behind
// that those of older plans, by name. Stages without any time are left out.
func (w *Work) HoursByStage() []StageHours {
	spent := map[step]time.Duration{}
	gaps := w.gaps()
	w.eachTick(func(v Visit, m Mark) {
		at := step{v.Setup, v.Pass}
		spent[at] += time.Duration(m.Ms)*time.Millisecond + time.Duration(m.Unseen)*median(gaps[at])
	})
	var order []step
	for _, v := range w.Now().Visits() {
		if at := (step{v.Setup, v.Pass}); !slices.Contains(order, at) {
			order = append(order, at)
		}
	}
	older := slices.DeleteFunc(slices.Collect(maps.Keys(spent)), func(at step) bool { return slices.Contains(order, at) })
	slices.SortFunc(older, func(a, b step) int {
		return cmp.Or(cmp.Compare(a.setup, b.setup), cmp.Compare(a.pass, b.pass))
	})
	var out []StageHours
	for _, at := range append(order, older...) {
		if hours := spent[at].Hours(); hours > 0 {
			out = append(out, StageHours{at.setup, at.pass, hours})
		}
	}
	return out
}

// gaps returns the times between ticks that were seen, by step.
func (w *Work) gaps() map[step][]time.Duration {
	out := map[step][]time.Duration{}
	w.eachTick(func(v Visit, m Mark) {
		if m.Unseen == 0 {
			at := step{v.Setup, v.Pass}
			out[at] = append(out[at], time.Duration(m.Ms)*time.Millisecond)
		}
	})
	return out
}

func median(d []time.Duration) time.Duration {
	if len(d) == 0 {
		return 0
	}
	sorted := slices.Sorted(slices.Values(d))
	if n := len(sorted); n%2 == 0 {
		return (sorted[n/2-1] + sorted[n/2]) / 2
	}
	return sorted[len(sorted)/2]
}

// Pace returns the median time between ticks that were seen, and how many those are.
func (w *Work) Pace() (usual time.Duration, ticks int) {
	var all []time.Duration
	for _, gaps := range w.gaps() {
		all = append(all, gaps...)
	}
	return median(all), len(all)
}

// UsualMinutes is what a visit takes before anything is known of a cutter's pace.
const UsualMinutes = 1.5

// Minutes tells for every visit how long it took or, where it is still to come or nobody
// saw it, how long such a one takes: the median of its step so far, else of all that was
// cut, else a usual minute and a half.
func (w *Work) Minutes(visits []Visit) []float64 {
	gaps := w.gaps()
	all, _ := w.Pace()
	out := make([]float64, len(visits))
	for i, v := range visits {
		usual := median(gaps[step{v.Setup, v.Pass}]).Minutes()
		if usual == 0 {
			usual = all.Minutes()
		}
		if usual == 0 {
			usual = UsualMinutes
		}
		out[i] = usual
		if m, ok := w.Mark(v); ok && m.Unseen == 0 {
			out[i] = (time.Duration(m.Ms) * time.Millisecond).Minutes()
		}
	}
	return out
}
