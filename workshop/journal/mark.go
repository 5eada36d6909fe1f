package journal

import "slices"

// Mark is a visit that is done or left out, and how long it took.
type Mark struct {
	Act
	Kind Kind `json:"kind"`
	// From are the devices of the Events, in their order.
	From []string `json:"from"`
	// Against are ticks that say otherwise: a facet that one screen says was cut is cut, whatever another says that did not
	// know of it. Both stay.
	Against []Said `json:"against,omitempty"`
	Time
	// Seq is the place in which its last event arrived among those of all logs.
	Seq int64 `json:"seq"`
}

// Said is an event of a device.
type Said struct {
	Event  string `json:"event"`
	Device string `json:"device"`
}

// and returns the mark with one more tick, which comes at a place among the events.
func (m Mark) and(e Event, n int) Mark {
	if m.Kind == Done && e.Kind == Skip {
		m.Against = append(m.Against, Said{e.ID, e.Device})
		return m
	}
	if m.Kind == Skip && e.Kind == Done {
		for i, id := range m.Events {
			m.Against = append(m.Against, Said{id, m.From[i]})
		}
		m.Events, m.From = nil, nil
	}
	m.N, m.Kind, m.Seq = n, e.Kind, e.Seq
	m.Events, m.From = append(m.Events, e.ID), append(m.From, e.Device)
	return m
}

// without returns the mark without what the device of an event has said of it; what others said stands. It is false where
// nothing of it is left.
func (m Mark) without(id string) (Mark, bool) {
	if i := slices.IndexFunc(m.Against, func(s Said) bool { return s.Event == id }); i >= 0 {
		device := m.Against[i].Device
		m.Against = slices.DeleteFunc(slices.Clone(m.Against), func(s Said) bool { return s.Device == device })
		return m, true
	}
	i := slices.Index(m.Events, id)
	if i < 0 {
		return m, true
	}
	var events, from []string
	for k, device := range m.From {
		if device != m.From[i] {
			events, from = append(events, m.Events[k]), append(from, device)
		}
	}
	if len(events) == 0 && len(m.Against) > 0 {
		m.Kind = Skip
		for _, s := range m.Against {
			events, from = append(events, s.Event), append(from, s.Device)
		}
		m.Against = nil
	}
	m.Events, m.From = events, from
	return m, len(events) > 0
}
