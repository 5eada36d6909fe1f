package journal

import "slices"

// What can happen to a thing of the kit. Undo takes any of it back.
const (
	// Charged: a lap was charged. The payload is a Charging.
	Charged Kind = "charged"
	// Cleaned: a lap was cleaned. The payload is a Cleaning.
	Cleaned Kind = "cleaned"
	// Touched: something came onto a lap beside what was cut. The payload is a Touching.
	Touched Kind = "touched"
	// Renewed: another one takes its place: a disc, a bottle, a tube. The payload is a Renewing.
	Renewed Kind = "renewed"
	// Counted: the stock was counted. The payload is a Count.
	Counted Kind = "counted"
	// Gone: it is used up, broken, lent or lost. Back: it is there again. There is no payload.
	Gone Kind = "gone"
	Back Kind = "back"
)

// Span is what a thing had done when it was charged anew or replaced.
type Span struct {
	Stones int `json:"stones"`
	Facets int `json:"facets"`
}

// Charging says what a lap was charged with: a thing of the kit, "" for another, and its name, its
// family and the mean grain in µm as they were.
type Charging struct {
	Item   string  `json:"item,omitempty"`
	Name   string  `json:"name"`
	Family string  `json:"family"`
	Grain  float64 `json:"grain"`
	Had    Span    `json:"had"`
}

// Cleaning says how a lap was cleaned and, where it was measured then, by how many µm it is out of
// flat.
type Cleaning struct {
	Way      string   `json:"way"`
	Flatness *float64 `json:"flatness,omitempty"`
}

// Touching is what came onto a lap: grit, of a mean grain in µm, or a stone of a material with a
// hardness on the scale of Mohs.
type Touching struct {
	Family   string  `json:"family,omitempty"`
	Grain    float64 `json:"grain,omitempty"`
	Material string  `json:"material,omitempty"`
	Hardness float64 `json:"hardness,omitempty"`
}

// Renewing says since which day, YYYY-MM-DD, the new one is open or in use.
type Renewing struct {
	On  string `json:"on"`
	Had Span   `json:"had"`
}

// Count is how many or how much there is, in the thing's own unit.
type Count struct {
	Have float64 `json:"have"`
}

// Standing returns the events of a log that were not taken back, without those that take back.
func Standing(events []Event) []Event {
	gone := map[string]bool{}
	for _, e := range events {
		if id, ok := e.TakesBack(); ok {
			gone[id] = true
		}
	}
	return slices.DeleteFunc(slices.Clone(events), func(e Event) bool { return gone[e.ID] || e.Kind == Undo })
}

// Carried reads the payload of an event; it is false where the payload is of another form.
func Carried[P any](e Event) (P, bool) { return decode[P](e.Payload) }
