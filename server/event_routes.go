package server

import (
	"net/http"

	"github.com/labstack/echo/v5"
)

// EventsRequest adds a batch to the logs.
type EventsRequest struct {
	Events []SentEvent `json:"events" validate:"min=1,max=5000"`
}

// EventAnswers answers for each event that was sent, in their order.
type EventAnswers struct {
	Answers []EventAnswer `json:"answers"`
}

// EventsAfter asks for what a log got after a place.
type EventsAfter struct {
	ID    string `path:"id" json:"-"`
	After int64  `query:"after" json:"after" validate:"min=0"`
}

// EventList is a part of a log in the order in which it arrived.
type EventList struct {
	// Records names the records that the log is of: those that a copy has brought back are others,
	// and their logs may hold less.
	Records string  `json:"records"`
	Events  []Event `json:"events"`
	// More tells that the log goes on after them.
	More bool `json:"more"`
}

func (s *Server) eventRoutes() {
	handle(s, route{method: http.MethodPost, path: "/api/events", name: "addEvents", summary: "Add to the logs"}, s.addEvents)
	handle(s, route{method: http.MethodGet, path: "/api/works/:id/events", name: "getEvents", summary: "What a work's log got after a place"}, s.eventsAfter)
}

// mostEvents is how many events of a log are sent at once.
const mostEvents = 5000

func (s *Server) addEvents(c *echo.Context, in withBody[EventsRequest]) (EventAnswers, error) {
	answers, err := s.workshop.Append(c.Request().Context(), each(in.Body.Events, SentEvent.event))
	return EventAnswers{each(answers, eventAnswer)}, err
}

func (s *Server) eventsAfter(c *echo.Context, in EventsAfter) (EventList, error) {
	ctx := c.Request().Context()
	if _, err := s.workshop.WorkState(ctx, in.ID); err != nil {
		return EventList{}, err
	}
	records, err := s.workshop.Lineage(ctx)
	if err != nil {
		return EventList{}, err
	}
	events, err := s.workshop.EventsAfter(ctx, in.ID, in.After, mostEvents)
	return EventList{Records: records, Events: each(events, eventView), More: len(events) == mostEvents}, err
}
