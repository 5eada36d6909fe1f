package server

import (
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"net/http"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/labstack/echo/v5"

	"cressa/words"
	"cressa/workshop"
)

//go:generate sh -c "go run ./contract > openapi.json"

// The request and response structs of this package are the one source of the
// contract. A route is registered once, with its types; binding, checking and the
// OpenAPI document all follow from them.
//
// A request struct has a field for each path parameter, tagged `path:"id"`, one for each
// parameter of the query, tagged `query:"name"`, that may be left out, and, where there is a
// body, one field called Body.

// none is the response of a route that only answers that it was done.
type none struct{}

// route is what the contract knows of one registered route.
type route struct {
	method, path, name, summary string
	// from says who may call it; paired devices unless it says otherwise.
	from from
	// lasts tells that the answer never changes: its address is its content.
	lasts bool
	// body is how many bytes a request may bring, maxBody where it is 0.
	body int64
	// lasting tells that it goes on as long as bytes come or go: it is a long file.
	lasting bool
	// computes tells that it may take a core for seconds: it waits for one.
	computes bool
	// creates tells that it makes a record; its client may name the request, see once.
	creates bool
	// live tells that it goes on for as long as a page is open.
	live bool
	// raw routes bring or send what is no JSON. They are not in the contract.
	raw               bool
	request, response reflect.Type
}

// from says from where a route may be called.
type from int

const (
	// Unless a route says otherwise it answers this machine and paired devices.
	_ from = iota
	// fromAnywhere also answers a device before it is paired.
	fromAnywhere
	// fromThisMachine answers no other.
	fromThisMachine
)

// handle registers a route. The context that f gets ends with the request.
func handle[In, Out any](s *Server, r route, f func(*echo.Context, In) (Out, error)) {
	r.request, r.response = reflect.TypeFor[In](), reflect.TypeFor[Out]()
	s.add(r, func(c *echo.Context) error {
		var in In
		if err := s.bind(c, reflect.ValueOf(&in).Elem()); err != nil {
			return err
		}
		if r.creates {
			made, err := s.once(c, func() (any, error) { return f(c, in) })
			if err != nil {
				return err
			}
			c.Response().Header().Set("Cache-Control", "no-store")
			return c.JSONBlob(http.StatusOK, made)
		}
		out, err := f(c, in)
		if err != nil {
			return err
		}
		c.Response().Header().Set("Cache-Control", "no-store")
		if r.lasts {
			c.Response().Header().Set("Cache-Control", forEver)
		}
		if _, nothing := any(out).(none); nothing {
			return c.NoContent(http.StatusNoContent)
		}
		return c.JSON(http.StatusOK, out)
	})
}

// raw registers a route that brings or sends what is no JSON.
func (s *Server) raw(r route, h echo.HandlerFunc) {
	r.raw = true
	s.add(r, h)
}

// add registers a route and lets in only whom it is for. It ends with the request, and when the time
// that is allowed is over.
func (s *Server) add(r route, h echo.HandlerFunc) {
	s.routes = append(s.routes, r)
	if r.computes {
		h = s.alone(h)
	}
	switch {
	case r.lasting:
		h = withoutDeadline(h)
	case r.raw || !r.streams():
		h = inTime(h)
	}
	s.echo.Add(r.method, r.path, func(c *echo.Context) error {
		if r.from == fromThisMachine && !fromHere(c.Request()) {
			return &Problem{Status: http.StatusForbidden, Detail: words.OnlyHere}
		}
		return h(c)
	})
}

// forEver lets a browser keep what never changes.
const forEver = "private, max-age=31536000, immutable"

// ndjson is the type of an answer that comes line by line.
const ndjson = "application/x-ndjson"

// stream registers a route that answers with one JSON value a line while it works. What
// goes wrong before the first line is answered as a problem; later the answer ends early.
func stream[In, Line any](s *Server, r route, f func(c *echo.Context, in In, send func(Line) error) error) {
	r.request, r.response = reflect.TypeFor[In](), reflect.TypeFor[lines[Line]]()
	s.add(r, func(c *echo.Context) error {
		var in In
		if err := s.bind(c, reflect.ValueOf(&in).Elem()); err != nil {
			return err
		}
		head := c.Response().Header()
		out := json.NewEncoder(c.Response())
		flush := http.NewResponseController(c.Response())
		begin := func() {
			head.Set("Content-Type", ndjson)
			head.Set("Cache-Control", "no-store")
		}
		err := f(c, in, func(line Line) error {
			begin()
			// A long answer is well as long as lines come.
			if err := flush.SetWriteDeadline(time.Now().Add(writeTimeout)); err != nil && !errors.Is(err, http.ErrNotSupported) {
				return err
			}
			if err := out.Encode(line); err != nil {
				return err
			}
			return flush.Flush()
		})
		if err == nil && head.Get("Content-Type") == "" {
			begin() // nothing to tell is an answer too
			c.Response().WriteHeader(http.StatusOK)
		}
		return err
	})
}

// isStream tells the routes whose answers must not be held back to be packed.
func (s *Server) isStream(c *echo.Context) bool {
	return slices.ContainsFunc(s.routes, func(r route) bool {
		return (r.streams() || r.live) && r.method == c.Request().Method && r.path == c.Path()
	})
}

// streams tells whether a route answers line by line.
func (r route) streams() bool { return !r.raw && strings.HasPrefix(r.response.Name(), "lines[") }

// lines marks the response of a stream in the contract.
type lines[Line any] struct{ Line Line }

// bind fills a request struct and checks it.
func (s *Server) bind(c *echo.Context, in reflect.Value) error {
	for i := range in.NumField() {
		field := in.Type().Field(i)
		if name := field.Tag.Get("path"); name != "" {
			in.Field(i).SetString(c.Param(name))
		}
		if name := field.Tag.Get("query"); name != "" {
			if err := readQuery(c, name, in.Field(i)); err != nil {
				return err
			}
		}
		if field.Name == "Body" {
			if err := readBody(c, in.Field(i).Addr().Interface()); err != nil {
				return err
			}
		}
	}
	return workshop.Validate(in.Interface())
}

// readQuery reads one parameter of the query. One that is missing leaves the zero value.
func readQuery(c *echo.Context, name string, into reflect.Value) error {
	text := c.QueryParam(name)
	if text == "" {
		return nil
	}
	var err error
	switch into.Kind() {
	case reflect.String:
		into.SetString(text)
	case reflect.Bool:
		var v bool
		v, err = strconv.ParseBool(text)
		into.SetBool(v)
	case reflect.Int, reflect.Int64:
		var v int64
		v, err = strconv.ParseInt(text, 10, 64)
		into.SetInt(v)
	case reflect.Float64:
		var v float64
		if v, err = strconv.ParseFloat(text, 64); err == nil && (math.IsNaN(v) || math.IsInf(v, 0)) {
			err = strconv.ErrRange
		}
		into.SetFloat(v)
	default:
		panic(fmt.Sprintf("the contract reads no %v from a query", into.Type()))
	}
	if err != nil {
		return &Problem{Status: http.StatusBadRequest, Detail: fmt.Sprintf("The query's %s is no such value: %q.", name, text)}
	}
	return nil
}

var tooLarge = &Problem{Status: http.StatusRequestEntityTooLarge, Detail: "The request is larger than this program takes."}

// cutOff is what to answer where a body did not come whole: too large, or the client left.
func cutOff(err error) error {
	if errors.As(err, new(*http.MaxBytesError)) {
		return tooLarge
	}
	return &Problem{Status: http.StatusBadRequest, Detail: "The request did not arrive whole. Try again."}
}

// readBody reads exactly one JSON value without unknown fields.
func readBody(c *echo.Context, into any) error {
	d := json.NewDecoder(c.Request().Body)
	d.DisallowUnknownFields()
	err := d.Decode(into)
	switch {
	case errors.As(err, new(*http.MaxBytesError)):
		return tooLarge
	case err != nil:
		return &Problem{Status: http.StatusBadRequest, Detail: fmt.Sprintf("The request is not the JSON that belongs here: %v.", err)}
	case d.More():
		return &Problem{Status: http.StatusBadRequest, Detail: "The request has more text after its JSON."}
	}
	return nil
}

// OpenAPI returns the OpenAPI 3.1 document of the routes, those of the simulated machine among them. It returns an error only where a
// schema cannot be written as JSON.
func (s *Server) OpenAPI() ([]byte, error) {
	doc := documenter{map[string]any{}, map[string]reflect.Type{}}
	paths := map[string]map[string]any{}
	simulator := NewSimulator(nil, "", nil, s.echo.Logger)
	for _, r := range slices.Concat(s.routes, simulator.routes) {
		if r.raw {
			continue
		}
		path := openAPIPath(r.path)
		if paths[path] == nil {
			paths[path] = map[string]any{}
		}
		paths[path][strings.ToLower(r.method)] = doc.operation(r)
	}
	return json.MarshalIndent(map[string]any{
		"openapi":    "3.1.0",
		"info":       map[string]any{"title": "Cressa", "version": "1"},
		"paths":      paths,
		"components": map[string]any{"schemas": doc.schemas},
	}, "", "  ")
}

// openAPIPath writes /api/stones/:id as /api/stones/{id}.
func openAPIPath(path string) string {
	parts := strings.Split(path, "/")
	for i, p := range parts {
		if strings.HasPrefix(p, ":") {
			parts[i] = "{" + p[1:] + "}"
		}
	}
	return strings.Join(parts, "/")
}

// documenter derives schemas from types.
type documenter struct {
	schemas map[string]any
	types   map[string]reflect.Type
}

func (d *documenter) operation(r route) map[string]any {
	op := map[string]any{"operationId": r.name, "summary": r.summary}
	parameters := []any{}
	for i := range r.request.NumField() {
		f := r.request.Field(i)
		if name := f.Tag.Get("path"); name != "" {
			parameters = append(parameters, map[string]any{
				"name": name, "in": "path", "required": true, "schema": map[string]any{"type": "string"},
			})
		}
		if name := f.Tag.Get("query"); name != "" {
			parameters = append(parameters, map[string]any{
				"name": name, "in": "query", "required": false, "schema": constrain(d.schema(f.Type), f.Tag.Get("validate")),
			})
		}
		if f.Name == "Body" {
			op["requestBody"] = map[string]any{"required": true, "content": jsonContent("application/json", d.schema(f.Type))}
		}
	}
	if r.creates {
		parameters = append(parameters, map[string]any{"name": keyHeader, "in": "header", "required": false, "schema": map[string]any{"type": "string"}})
	}
	if len(parameters) > 0 {
		op["parameters"] = parameters
	}
	done := map[string]any{"description": "done"}
	status := "204"
	switch {
	case r.streams():
		status = "200"
		done["content"] = jsonContent(ndjson, d.schema(r.response.Field(0).Type))
	case r.response != reflect.TypeFor[none]():
		status = "200"
		done["content"] = jsonContent("application/json", d.schema(r.response))
	}
	op["responses"] = map[string]any{status: done, "default": map[string]any{
		"description": "a problem (RFC 9457)",
		"content":     jsonContent("application/problem+json", d.schema(reflect.TypeFor[Problem]())),
	}}
	return op
}

func jsonContent(mime string, schema any) map[string]any {
	return map[string]any{mime: map[string]any{"schema": schema}}
}

func (d *documenter) schema(t reflect.Type) any {
	switch {
	case t == reflect.TypeFor[json.RawMessage]():
		return map[string]any{"type": "object", "additionalProperties": true}
	case t == reflect.TypeFor[time.Time]():
		return map[string]any{"type": "string", "format": "date-time"}
	case t.Kind() == reflect.Pointer:
		return map[string]any{"anyOf": []any{d.schema(t.Elem()), map[string]any{"type": "null"}}}
	}
	switch t.Kind() {
	case reflect.Struct:
		return d.object(t)
	case reflect.Slice:
		return map[string]any{"type": "array", "items": d.schema(t.Elem())}
	case reflect.Array:
		return map[string]any{"type": "array", "items": d.schema(t.Elem()), "minItems": t.Len(), "maxItems": t.Len()}
	case reflect.Bool:
		return map[string]any{"type": "boolean"}
	case reflect.Int, reflect.Int64:
		return map[string]any{"type": "integer"}
	case reflect.Float64:
		return map[string]any{"type": "number"}
	case reflect.String:
		return map[string]any{"type": "string"}
	}
	panic(fmt.Sprintf("the contract has no word for %v", t))
}

// object names a struct's schema after its type, so that TypeScript gets one type
// for it. Embedded structs are part of the one that embeds them.
func (d *documenter) object(t reflect.Type) any {
	ref := map[string]any{"$ref": "#/components/schemas/" + t.Name()}
	if known, ok := d.types[t.Name()]; ok {
		if known != t {
			panic(fmt.Sprintf("the contract has two types called %s: %v and %v", t.Name(), known, t))
		}
		return ref
	}
	properties, required := map[string]any{}, []string{}
	d.types[t.Name()] = t // before its fields, so that a type may contain itself
	for _, f := range reflect.VisibleFields(t) {
		name, options, _ := strings.Cut(f.Tag.Get("json"), ",")
		if name == "" || name == "-" || len(f.Index) > 1 && !promoted(t, f) {
			continue
		}
		properties[name] = constrain(d.schema(f.Type), f.Tag.Get("validate"))
		if !strings.Contains(options, "omitempty") {
			required = append(required, name)
		}
	}
	d.schemas[t.Name()] = map[string]any{"type": "object", "properties": properties, "required": required, "additionalProperties": false}
	return ref
}

// promoted tells whether a field reaches t through embedding alone.
func promoted(t reflect.Type, f reflect.StructField) bool {
	for _, i := range f.Index[:len(f.Index)-1] {
		embedding := t.Field(i)
		if !embedding.Anonymous {
			return false
		}
		t = embedding.Type
	}
	return true
}

// constrain adds to a schema what the validate tag says of its range and choices, and of
// those of its items.
func constrain(schema any, rules string) any {
	m, ok := schema.(map[string]any)
	if !ok {
		return schema
	}
	// What may be missing is held to the rules where it is there.
	if choices, ok := m["anyOf"].([]any); ok {
		choices[0] = constrain(choices[0], rules)
	}
	for rule := range strings.SplitSeq(rules, ",") {
		key, value, _ := strings.Cut(rule, "=")
		if key == "dive" {
			_, ofItems, _ := strings.Cut(rules, "dive,")
			m["items"] = constrain(m["items"], ofItems)
			break
		}
		bound, err := strconv.ParseFloat(value, 64)
		numeric := err == nil && (m["type"] == "number" || m["type"] == "integer")
		switch {
		case key == "oneof":
			choices := strings.Fields(value)
			if strings.HasPrefix(rules, "omitempty") {
				choices = append(choices, "")
			}
			m["enum"] = choices
		case key == "min" && numeric:
			m["minimum"] = bound
		case key == "max" && numeric:
			m["maximum"] = bound
		}
	}
	return m
}
