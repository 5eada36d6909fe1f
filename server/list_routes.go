package server

import (
	"cmp"
	"context"
	"encoding/base64"
	"net/http"
	"strings"

	"github.com/labstack/echo/v5"

	"cressa/workshop"
	"cressa/workshop/journal"
)

// StoneList is a page of stones.
type StoneList struct {
	Stones []StoneLine `json:"stones"`
	// Next is where the next page begins, "" after the last; Total counts all that match.
	Next  string `json:"next"`
	Total int    `json:"total"`
}

// StonesRequest says which stones are looked for.
type StonesRequest struct {
	// Text holds words that must all be found; State is one state, "" for all.
	Text  string `query:"text" json:"text" validate:"max=200"`
	State string `query:"state" json:"state" validate:"omitempty,oneof=planned cutting cut finished"`
	// After is the Next of the page before.
	After string `query:"after" json:"after" validate:"max=400"`
	Limit int    `query:"limit" json:"limit" validate:"min=0,max=200"`
}

// Today is what is on the bench and around it: the first few of each.
type Today struct {
	Cutting []StoneLine `json:"cutting"`
	// Curing are those on a dop whose bond still cures.
	Curing   []StoneLine `json:"curing"`
	Due      []StoneLine `json:"due"`
	Cut      []StoneLine `json:"cut"`
	Planned  []StoneLine `json:"planned"`
	Finished []StoneLine `json:"finished"`
	// Freehand are stones that are cut without a diagram and were not made one yet.
	Freehand []FreehandLine `json:"freehand"`
}

// FreehandLine is a stone that is cut freehand.
type FreehandLine struct {
	ID   string `json:"id"`
	Name string `json:"name"`
}

// Logbook is a page of what was finished, the last first, and the sums of all of it.
type Logbook struct {
	StoneList
	RoughCarats    float64 `json:"roughCarats"`
	FinishedCarats float64 `json:"finishedCarats"`
	Hours          float64 `json:"hours"`
}

// usualPage is how many lines a page of a list has where nothing else is asked for.
const usualPage = 60

func (s *Server) stoneList(c *echo.Context, in StonesRequest) (StoneList, error) {
	f := workshop.StoneFilter{Words: strings.Fields(in.Text)}
	if in.State != "" {
		f.States = []journal.State{journal.State(in.State)}
	}
	return s.stonesOf(c.Request().Context(), f, in.After, in.Limit)
}

func (s *Server) stonesOf(ctx context.Context, f workshop.StoneFilter, after string, limit int) (StoneList, error) {
	from, err := readCursor(after)
	if err != nil {
		return StoneList{}, err
	}
	page, err := s.workshop.Stones.Stones(ctx, f, from, cmp.Or(limit, usualPage))
	return StoneList{stoneLines(page.Lines), writeCursor(page.Next), page.Total}, err
}

// fewOfEach is how many stones of a kind Today shows, fewFinished of those that are done.
const fewOfEach, fewFinished = 8, 3

func (s *Server) today(c *echo.Context, _ struct{}) (Today, error) {
	ctx := c.Request().Context()
	var out Today
	curing, err := s.workshop.Curing(ctx, fewOfEach)
	if err != nil {
		return out, err
	}
	out.Curing = stoneLines(curing)
	freehands, err := s.workshop.Freehands(ctx, fewOfEach)
	if err != nil {
		return out, err
	}
	out.Freehand = each(freehands, func(l workshop.DiagramLine) FreehandLine { return FreehandLine{l.ID, l.Name} })
	ownStones := []journal.Task{journal.FirstCut, journal.Recut}
	for _, group := range []struct {
		into  *[]StoneLine
		limit int
		f     workshop.StoneFilter
	}{
		{&out.Cutting, fewOfEach, workshop.StoneFilter{States: []journal.State{journal.Cutting}, Tasks: ownStones}},
		{&out.Due, fewOfEach, workshop.StoneFilter{States: []journal.State{journal.Planned, journal.Cutting, journal.Cut}, Owed: true, Sort: workshop.ByPromise}},
		{&out.Cut, fewOfEach, workshop.StoneFilter{States: []journal.State{journal.Cut}}},
		{&out.Planned, fewOfEach, workshop.StoneFilter{States: []journal.State{journal.Planned}, Tasks: ownStones}},
		{&out.Finished, fewFinished, workshop.StoneFilter{States: []journal.State{journal.Complete}}},
	} {
		group.f.Uncounted = true
		page, err := s.workshop.Stones.Stones(ctx, group.f, workshop.Cursor{}, group.limit)
		if err != nil {
			return out, err
		}
		*group.into = stoneLines(page.Lines)
	}
	return out, nil
}

// PageRequest asks for a page of a list.
type PageRequest struct {
	After string `query:"after" json:"after" validate:"max=400"`
	Limit int    `query:"limit" json:"limit" validate:"min=0,max=200"`
}

func (s *Server) listRoutes() {
	handle(s, route{method: http.MethodGet, path: "/api/stones", name: "listStones", summary: "A page of the stones, the one touched last first"}, s.stoneList)
	handle(s, route{method: http.MethodGet, path: "/api/today", name: "today", summary: "What is on the bench and around it"}, s.today)
	handle(s, route{method: http.MethodGet, path: "/api/logbook", name: "logbook", summary: "A page of what was finished"}, s.logbook)
}

func (s *Server) logbook(c *echo.Context, in PageRequest) (Logbook, error) {
	ctx := c.Request().Context()
	list, err := s.stonesOf(ctx, workshop.StoneFilter{Sort: workshop.ByFinish}, in.After, in.Limit)
	if err != nil {
		return Logbook{}, err
	}
	sums, err := s.workshop.Sums(ctx)
	return Logbook{list, sums.RoughCarats, sums.FinishedCarats, sums.Hours}, err
}

// A cursor travels as one text that means nothing to who holds it.
func writeCursor(c *workshop.Cursor) string {
	if c == nil {
		return ""
	}
	return base64.RawURLEncoding.EncodeToString([]byte(c.ID + " " + c.Key))
}

func readCursor(text string) (workshop.Cursor, error) {
	if text == "" {
		return workshop.Cursor{}, nil
	}
	data, err := base64.RawURLEncoding.DecodeString(text)
	id, key, ok := strings.Cut(string(data), " ")
	if err != nil || !ok || id == "" {
		return workshop.Cursor{}, &Problem{Status: http.StatusBadRequest, Detail: "That is not where a page of this list begins. Begin with the first."}
	}
	return workshop.Cursor{ID: id, Key: key}, nil
}
