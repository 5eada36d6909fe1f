package journal

// Turned is a transfer: the stone sits in a setup from then on.
type Turned struct {
	Act
	Setup string `json:"setup"`
}

// transfer turns the stone over to a setup. Where it sits in it already another screen says the same.
func (w *Work) transfer(e Event, p Transferred) {
	if n := len(w.Turns); n > 0 && w.Turns[n-1].Setup == p.Setup {
		w.Turns[n-1].Act = w.with(w.Turns[n-1].Act, e)
		return
	}
	w.Turns = append(w.Turns, Turned{w.with(Act{}, e), p.Setup})
}

// SitsIn returns the setup that the stone sits in, which is the given one until it is turned over. Transfers alone tell: a tick
// can come in late, from a screen that had no network.
func (w *Work) SitsIn(first string) string {
	if len(w.Turns) == 0 {
		return first
	}
	return w.Turns[len(w.Turns)-1].Setup
}
