package server

import (
	"context"
	"net/http"

	"github.com/labstack/echo/v5"

	"cressa/analysis"
	"cressa/core/angles"
	"cressa/core/tolerance"
)

// MachineErrors are those of the default machine: standard deviations, angle and index in
// degrees, depth in mm.
type MachineErrors struct {
	Machine string  `json:"machine"`
	Angle   float64 `json:"angle"`
	Index   float64 `json:"index"`
	Depth   float64 `json:"depth"`
	// Trials is how many stones make the figures steady.
	Trials int `json:"trials"`
}

// ToleranceRequest asks what a machine's errors do to the meets.
type ToleranceRequest struct {
	Draft Draft   `json:"draft"`
	Width float64 `json:"width" validate:"min=0.1,max=500"`
	// Angle and Index are standard deviations in degrees, Depth in mm.
	Angle  float64 `json:"angle" validate:"min=0,max=5"`
	Index  float64 `json:"index" validate:"min=0,max=5"`
	Depth  float64 `json:"depth" validate:"min=0,max=1"`
	Trials int     `json:"trials" validate:"min=20,max=50000"`
}

// ToleranceLine is how far the trials have come, and at the end the result.
type ToleranceLine struct {
	Progress
	// Asked is what was asked for, in the first line alone.
	Asked  *ToleranceRequest `json:"asked"`
	Result *ToleranceResult  `json:"result"`
}

// ToleranceResult is what came of the trials.
type ToleranceResult struct {
	Meets  []ScatteredMeet `json:"meets"`
	ByTier []TierShare     `json:"byTier"`
	// Rounding holds coarser steps against the worst meet.
	Rounding []RoundingStep `json:"rounding"`
}

// ScatteredMeet is a meet with the gaps in µm that half of the stones exceed, and one in
// twenty.
type ScatteredMeet struct {
	Point  Point    `json:"point"`
	Facets []string `json:"facets"`
	P50    float64  `json:"p50"`
	P95    float64  `json:"p95"`
	// Kind is shared by meets that a symmetry maps onto each other, with their figures. It
	// counts from 0, the worst first.
	Kind int `json:"kind"`
}

// TierShare is a tier's part of the variance of the worst meet's gap, 0 to 1.
type TierShare struct {
	Name  string  `json:"name"`
	Share float64 `json:"share"`
}

// RoundingStep is what rounding every angle to a step would open by itself.
type RoundingStep struct {
	Step float64 `json:"step"`
	Gap  float64 `json:"gap"`
	// Noticed tells that it is more than the machine opens in half of the stones.
	Noticed bool `json:"noticed"`
}

func (s *Server) errorRoutes() {
	handle(s, route{method: http.MethodGet, path: "/api/tolerance", name: "machineErrors", summary: "By how much the default machine repeats"}, s.machineErrors)
	handle(s, route{method: http.MethodPost, path: "/api/diagrams/:id/tolerance", name: "startTolerance", summary: "Cut a draft many times with a machine's errors"}, s.startTolerance)
	stream(s, route{method: http.MethodGet, path: "/api/diagrams/:id/tolerance", name: "tolerance", summary: "What a machine's errors do to the meets, as it is found"}, func(c *echo.Context, in byID, send func(ToleranceLine) error) error {
		return s.trials.follow(c.Request().Context(), in.ID, send)
	})
	handle(s, route{method: http.MethodDelete, path: "/api/diagrams/:id/tolerance", name: "stopTolerance", summary: "Stop the trials"}, func(_ *echo.Context, in byID) (none, error) {
		s.trials.stop(in.ID)
		return none{}, nil
	})
}

func (s *Server) machineErrors(c *echo.Context, _ struct{}) (MachineErrors, error) {
	settings, err := s.workshop.Settings(c.Request().Context())
	if err != nil {
		return MachineErrors{}, err
	}
	m := settings.MachineOf("")
	out := MachineErrors{Machine: m.Name, Trials: tolerance.Usual}
	out.Angle, out.Index, out.Depth = m.Repeats()
	return out, nil
}

func (s *Server) startTolerance(c *echo.Context, in byIDWithBody[ToleranceRequest]) (none, error) {
	ctx := c.Request().Context()
	b := in.Body
	if _, err := s.workshop.Diagram(ctx, in.ID); err != nil {
		return none{}, err
	}
	stone, err := analysis.Whole(b.Draft.draft())
	if err != nil {
		return none{}, err
	}
	settings, err := s.workshop.Settings(ctx)
	if err != nil {
		return none{}, err
	}
	ask := analysis.ErrorsAsked{Width: b.Width, Angle: b.Angle, Index: b.Index, Depth: b.Depth, Trials: b.Trials, Seed: 1}
	total := b.Trials
	var result *ToleranceResult
	var reached int
	s.trials.start(s.background, in.ID, ToleranceLine{Progress: Progress{Total: total}, Asked: &b},
		func(ctx context.Context, tell func(ToleranceLine)) error {
			news := newNews()
			found, err := analysis.MachineErrors(s.parallel(ctx), stone, ask, func(done, total int) {
				news.tell(func() {
					reached = done
					tell(ToleranceLine{Progress: Progress{Done: done, Total: total}})
				})
			})
			if err != nil {
				return err
			}
			machine := settings.MachineOf("")
			result = toleranceResult(found, func(step float64) angles.Settable { return machine.WithStep(step).SettableAngles })
			return nil
		},
		func(err error) ToleranceLine {
			return ToleranceLine{Progress: ended(reached, total, err), Result: result}
		})
	return none{}, nil
}

func toleranceResult(e *analysis.Errors, settable func(step float64) angles.Settable) *ToleranceResult {
	out := &ToleranceResult{Meets: []ScatteredMeet{}, ByTier: []TierShare{}, Rounding: []RoundingStep{}}
	for _, m := range e.Meets {
		out.Meets = append(out.Meets, ScatteredMeet{pointOf(m.Point), m.Facets, m.P50, m.P95, m.Kind})
	}
	for _, t := range e.ByTier {
		out.ByTier = append(out.ByTier, TierShare(t))
	}
	for _, r := range e.Roundings(settable) {
		out.Rounding = append(out.Rounding, RoundingStep(r))
	}
	return out
}
