package server_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"maps"
	"math"
	"net/http"
	"net/url"
	"os"
	"path/filepath"
	"reflect"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"cressa/copies"
	"cressa/core/diagram"
	"cressa/core/material"
	"cressa/core/sweep"
	"cressa/server"
	"cressa/workshop"
)

// schema is as much of JSON Schema as the contract uses.
type schema struct {
	Ref        string            `json:"$ref"`
	Type       string            `json:"type"`
	AnyOf      []schema          `json:"anyOf"`
	Enum       []any             `json:"enum"`
	Properties map[string]schema `json:"properties"`
	Required   []string          `json:"required"`
	Items      *schema           `json:"items"`
	// Open tells that an object may have properties that are not listed.
	Open bool `json:"additionalProperties"`
}

type content map[string]struct {
	Schema schema `json:"schema"`
}

type operation struct {
	Method, Path string
	Parameters   []struct {
		Name   string `json:"name"`
		In     string `json:"in"`
		Schema schema `json:"schema"`
	} `json:"parameters"`
	Request struct {
		Content content `json:"content"`
	} `json:"requestBody"`
	Responses map[string]struct {
		Content content `json:"content"`
	} `json:"responses"`
}

// contract is the document that clients are made from.
type contract struct {
	Paths      map[string]map[string]operation `json:"paths"`
	Components struct {
		Schemas map[string]schema `json:"schemas"`
	} `json:"components"`
}

func readContract(t *testing.T) (c contract, all []operation) {
	t.Helper()
	data, err := os.ReadFile("openapi.json")
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(data, &c))
	for _, path := range slices.Sorted(maps.Keys(c.Paths)) {
		for _, method := range slices.Sorted(maps.Keys(c.Paths[path])) {
			o := c.Paths[path][method]
			o.Method, o.Path = strings.ToUpper(method), path
			all = append(all, o)
		}
	}
	return c, all
}

func (c contract) resolve(s schema) schema {
	if s.Ref != "" {
		return c.Components.Schemas[strings.TrimPrefix(s.Ref, "#/components/schemas/")]
	}
	return s
}

// faults tells where a value is not what the schema says.
func (c contract) faults(s schema, v any, at string) []string {
	s = c.resolve(s)
	if len(s.AnyOf) > 0 {
		for _, one := range s.AnyOf {
			if len(c.faults(one, v, at)) == 0 {
				return nil
			}
		}
		return []string{at + " is none of the kinds it may be"}
	}
	if len(s.Enum) > 0 && !slices.Contains(s.Enum, v) {
		return []string{fmt.Sprintf("%s: %v is not in the list", at, v)}
	}
	var out []string
	switch v := v.(type) {
	case map[string]any:
		if s.Type != "object" {
			return []string{at + " is an object"}
		}
		for _, name := range s.Required {
			if _, there := v[name]; !there {
				out = append(out, at+"."+name+" is missing")
			}
		}
		for name, value := range v {
			property, known := s.Properties[name]
			if !known && s.Open {
				continue
			}
			if !known {
				out = append(out, at+"."+name+" is not in the contract")
				continue
			}
			out = append(out, c.faults(property, value, at+"."+name)...)
		}
	case []any:
		if s.Type != "array" {
			return []string{at + " is a list"}
		}
		for i, value := range v {
			out = append(out, c.faults(*s.Items, value, fmt.Sprintf("%s[%d]", at, i))...)
		}
	case string:
		if s.Type != "string" {
			out = append(out, at+" is a text")
		}
	case float64:
		if s.Type != "number" && (s.Type != "integer" || v != math.Trunc(v)) {
			out = append(out, at+" is a number")
		}
	case bool:
		if s.Type != "boolean" {
			out = append(out, at+" is true or false")
		}
	case nil:
		if s.Type != "null" {
			out = append(out, at+" is null")
		}
	}
	return out
}

// odd are values that someone might send by mistake or on purpose.
var odd = map[string][]any{
	"string":  {"", " ", "x", "P1", "G1", "96", "-1", "1e999", "NaN", "every 1", "3, 96-fold", "meet P1 P1 G1", "along P1 G1 > P1 at 2", "width 0", "centre -5", "\x00", "9,5", strings.Repeat("long ", 2000), "2026-02-30"},
	"number":  {0.0, -1.0, 1.0, 0.5, 2.2, 90.0, 360.0, 1e-300, 1e9, 1e308, -1e308},
	"integer": {0.0, 1.0, -1.0, 2.0, 3.0, 96.0, 360.0, 400.0, float64(1 << 52)},
	"boolean": {true, false},
}

// sent draws a value that keeps to a schema's shape, and now and then does not. Where
// there is a real example under the same name it is taken, with a change somewhere.
func (c contract) sent(t *rapid.T, s schema, name string, samples map[string][]any) any {
	s = c.resolve(s)
	if known := samples[name]; len(known) > 0 && rapid.IntRange(0, 9).Draw(t, "real") > 0 {
		v := copied(rapid.SampledFrom(known).Draw(t, name))
		for range rapid.IntRange(0, 2).Draw(t, "changes") {
			v = changed(t, v)
		}
		return v
	}
	if len(s.AnyOf) > 0 {
		return c.sent(t, rapid.SampledFrom(s.AnyOf).Draw(t, "kind"), name, samples)
	}
	if len(s.Enum) > 0 {
		return rapid.SampledFrom(s.Enum).Draw(t, name)
	}
	switch s.Type {
	case "object":
		out := map[string]any{}
		for _, property := range slices.Sorted(maps.Keys(s.Properties)) {
			out[property] = c.sent(t, s.Properties[property], property, samples)
		}
		return out
	case "array":
		out := []any{}
		for range rapid.IntRange(0, 3).Draw(t, "length") {
			out = append(out, c.sent(t, *s.Items, name, samples))
		}
		return out
	case "null":
		return nil
	}
	return rapid.SampledFrom(odd[s.Type]).Draw(t, name)
}

// changed puts something odd in the place of one leaf.
func changed(t *rapid.T, v any) any {
	switch v := v.(type) {
	case map[string]any:
		if len(v) > 0 {
			name := rapid.SampledFrom(slices.Sorted(maps.Keys(v))).Draw(t, "field")
			v[name] = changed(t, v[name])
		}
		return v
	case []any:
		if len(v) > 0 {
			i := rapid.IntRange(0, len(v)-1).Draw(t, "place")
			if rapid.IntRange(0, 4).Draw(t, "drop") == 0 {
				return slices.Delete(v, i, i+1)
			}
			v[i] = changed(t, v[i])
		}
		return v
	case string:
		return rapid.SampledFrom(odd["string"]).Draw(t, "text")
	case float64:
		return rapid.SampledFrom(odd["number"]).Draw(t, "figure")
	case bool:
		return !v
	}
	return v
}

func copied(v any) any {
	data, err := json.Marshal(v)
	if err != nil {
		panic(err)
	}
	var out any
	if err := json.Unmarshal(data, &out); err != nil {
		panic(err)
	}
	return out
}

// Whatever is sent to whichever address: the answer keeps to the contract, and what
// goes wrong is a problem that says so, never a failure of the server.
func TestWhateverIsSentTheAnswerKeepsToTheContract(t *testing.T) {
	file := filepath.Join(t.TempDir(), copies.Records)
	demonstration(t, file)
	client := serve(t, file)
	c, operations := readContract(t)

	var diagrams server.DiagramList
	client.get("/api/diagrams", &diagrams)
	var stones server.StoneList
	client.get("/api/stones", &stones)
	var settings any
	client.get("/api/settings", &settings)
	samples := map[string][]any{"": {settings}, "paper": {"a4", "letter"}, "pages": {"1", "2"}, "gear": {96.0, 80.0, 64.0}, "tier": {0.0, 1.0, 2.0}, "width": {8.0}, "trials": {20.0}}
	for _, d := range diagrams.Diagrams[:6] {
		var page server.DiagramPage
		client.get("/api/diagrams/"+d.ID, &page)
		samples["draft"] = append(samples["draft"], page.Draft)
		samples["hash"] = append(samples["hash"], page.Revision)
		samples["diagramId"] = append(samples["diagramId"], d.ID)
		samples["id"] = append(samples["id"], d.ID)
	}
	for _, s := range stones.Stones {
		samples["id"] = append(samples["id"], s.ID, s.WorkID)
		samples["stream"] = append(samples["stream"], "work/"+s.WorkID)
		if s.Run != "" {
			samples["id"] = append(samples["id"], s.Run)
		}
		var log server.EventList
		client.get("/api/works/"+s.WorkID+"/events", &log)
		for _, e := range log.Events[max(0, len(log.Events)-2):] {
			samples["events"] = append(samples["events"], []server.SentEvent{e.SentEvent})
		}
		if s.Task == "repair" {
			var page server.RepairPage
			client.get("/api/repairs/"+s.ID, &page)
			samples["intake"] = append(samples["intake"], page.Intake)
			continue
		}
		var page server.StonePage
		client.get("/api/stones/"+s.ID, &page)
		samples["choices"] = append(samples["choices"], page.Plan.Choices)
	}
	samples["after"] = []any{stones.Next, diagrams.Next, 0.0}

	rapid.Check(t, func(t *rapid.T) {
		for range 4 {
			o := rapid.SampledFrom(operations).Draw(t, "operation")
			path := o.Path
			for _, name := range []string{"id", "hash", "photo", "paper", "pages", "name"} {
				value := fmt.Sprint(c.sent(t, schema{Type: "string"}, name, samples))
				if strings.Trim(value, " ./") == "" || strings.ContainsAny(value, "\x00/?#%") {
					value = "none"
				}
				path = strings.ReplaceAll(path, "{"+name+"}", strings.ReplaceAll(value, " ", "%20"))
			}
			query := url.Values{}
			for _, p := range o.Parameters {
				if p.In == "query" && rapid.Bool().Draw(t, p.Name+" is asked for") {
					query.Set(p.Name, fmt.Sprint(c.sent(t, p.Schema, p.Name, samples)))
				}
			}
			if len(query) > 0 {
				path += "?" + query.Encode()
			}
			body := ""
			if s, there := o.Request.Content["application/json"]; there {
				name := ""
				if !strings.HasSuffix(s.Schema.Ref, "/Settings") {
					name = "body"
				}
				data, err := json.Marshal(c.sent(t, s.Schema, name, samples))
				require.NoError(t, err)
				body = string(data)
			}
			status, head, data := client.send(o.Method, path, body)
			said := fmt.Sprintf("%s %s %s\n%d %s", o.Method, path, cut(body), status, cut(string(data)))
			require.Less(t, status, 500, said)
			kind := o.Responses["200"].Content["application/json"].Schema
			if status >= 400 {
				require.Equal(t, "application/problem+json", head.Get("Content-Type"), said)
				kind = o.Responses["default"].Content["application/problem+json"].Schema
			}
			if status == http.StatusNoContent {
				continue
			}
			// A stream holds a value a line, or nothing where there is nothing to tell.
			texts := [][]byte{data}
			if head.Get("Content-Type") == "application/x-ndjson" {
				kind = o.Responses["200"].Content["application/x-ndjson"].Schema
				texts = bytes.Split(bytes.TrimSpace(data), []byte("\n"))
				if len(data) == 0 {
					texts = nil
				}
			}
			for _, text := range texts {
				var answer any
				require.NoError(t, json.Unmarshal(text, &answer), said)
				assert.Empty(t, c.faults(kind, answer, "answer"), said)
			}
		}
	})
}

func cut(s string) string { return s[:min(len(s), 3000)] }

// What is sent has the ranges of the record that it becomes: the records check themselves,
// and the contract tells the same.
func TestTheContractHasTheRangesOfTheRecords(t *testing.T) {
	for sent, record := range map[reflect.Type]reflect.Type{
		reflect.TypeFor[server.Draft]():      reflect.TypeFor[diagram.Draft](),
		reflect.TypeFor[server.DraftTier]():  reflect.TypeFor[diagram.DraftTier](),
		reflect.TypeFor[server.Choices]():    reflect.TypeFor[workshop.Choices](),
		reflect.TypeFor[server.Size]():       reflect.TypeFor[workshop.Size](),
		reflect.TypeFor[server.PlanHabits](): reflect.TypeFor[workshop.PlanHabits](),
		reflect.TypeFor[server.Pass]():       reflect.TypeFor[workshop.Pass](),
		reflect.TypeFor[server.Finish]():     reflect.TypeFor[workshop.Finish](),
		reflect.TypeFor[server.Intake]():     reflect.TypeFor[workshop.Intake](),
		reflect.TypeFor[server.Settings]():   reflect.TypeFor[workshop.Settings](),
		reflect.TypeFor[server.Machine]():    reflect.TypeFor[workshop.Machine](),
		reflect.TypeFor[server.Habits]():     reflect.TypeFor[workshop.Habits](),
		reflect.TypeFor[server.Lighting]():   reflect.TypeFor[workshop.Lighting](),
		reflect.TypeFor[server.SweepAsked](): reflect.TypeFor[workshop.SweepAsked](),
		reflect.TypeFor[server.Material]():   reflect.TypeFor[material.Material](),
		reflect.TypeFor[server.Axis]():       reflect.TypeFor[sweep.Axis](),
	} {
		require.Equal(t, record.NumField(), sent.NumField(), sent.Name())
		for i := range record.NumField() {
			assert.Equal(t, record.Field(i).Name, sent.Field(i).Name, sent.Name())
			assert.Equal(t, record.Field(i).Tag.Get("validate"), sent.Field(i).Tag.Get("validate"), "%s.%s", sent.Name(), record.Field(i).Name)
		}
	}
}
