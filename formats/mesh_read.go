package formats

import (
	"bufio"
	"bytes"
	"cmp"
	"encoding/binary"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/diagram"
	"cressa/core/polyhedron"
)

// MaxMeshBytes bounds a mesh file; a solid of flat faces needs far less.
const MaxMeshBytes = 5 << 20

// Why a mesh cannot be read.
const (
	// BadMesh: Text says what is wrong, Value in which line of a text, 0 elsewhere.
	BadMesh diagram.Code = "bad-mesh"
	// UnknownMesh: the file is neither OBJ nor STL nor PLY.
	UnknownMesh diagram.Code = "unknown-mesh"
)

func badMesh(line int, format string, args ...any) error {
	return diagram.Problem{Code: BadMesh, TierNo: -1, Value: float64(line), Text: fmt.Sprintf(format, args...)}
}

// ReadMesh reads a solid from an OBJ, STL or PLY file, text or binary, told apart by
// what is in it. The error is a diagram.Problem.
func ReadMesh(data []byte) (polyhedron.Mesh, error) {
	switch {
	case len(data) > MaxMeshBytes:
		return polyhedron.Mesh{}, diagram.Problem{Code: TooLarge, TierNo: -1, Value: float64(len(data)), High: MaxMeshBytes}
	case bytes.HasPrefix(data, []byte("ply")):
		return readPLY(data)
	case isBinarySTL(data):
		return readBinarySTL(data), nil
	case bytes.HasPrefix(bytes.TrimSpace(data), []byte("solid")):
		return readTextSTL(data)
	case bytes.HasPrefix(data, []byte("v ")) || bytes.Contains(data, []byte("\nv ")):
		return readOBJ(data)
	}
	return polyhedron.Mesh{}, diagram.Problem{Code: UnknownMesh, TierNo: -1}
}

// stlHead is the length of what stands before the triangles of a binary STL file, stlFace
// that of each.
const stlHead, stlFace = 84, 50

func isBinarySTL(data []byte) bool {
	return len(data) >= stlHead && len(data) == stlHead+stlFace*int(binary.LittleEndian.Uint32(data[80:stlHead]))
}

// welder gives equal points one number.
type welder struct {
	mesh   polyhedron.Mesh
	number map[r3.Vec]int
}

func (w *welder) point(p r3.Vec) int {
	if w.number == nil {
		w.number = map[r3.Vec]int{}
	}
	n, ok := w.number[p]
	if !ok {
		n = len(w.mesh.Points)
		w.number[p] = n
		w.mesh.Points = append(w.mesh.Points, p)
	}
	return n
}

func readBinarySTL(data []byte) polyhedron.Mesh {
	var w welder
	for at := stlHead; at < len(data); at += stlFace {
		var loop []int
		for corner := 1; corner <= 3; corner++ {
			var c [3]float64
			for i := range c {
				c[i] = float64(math.Float32frombits(binary.LittleEndian.Uint32(data[at+12*corner+4*i:])))
			}
			loop = append(loop, w.point(r3.Vec{X: c[0], Y: c[1], Z: c[2]}))
		}
		w.mesh.Faces = append(w.mesh.Faces, loop)
	}
	return finite(w.mesh)
}

// finite drops faces with corners that are no numbers.
func finite(m polyhedron.Mesh) polyhedron.Mesh {
	m.Faces = slices.DeleteFunc(m.Faces, func(loop []int) bool {
		return slices.ContainsFunc(loop, func(v int) bool {
			p := m.Points[v]
			sum := p.X + p.Y + p.Z
			return math.IsNaN(sum) || math.IsInf(sum, 0)
		})
	})
	return m
}

// eachLine calls read with the words of every line that has any, until it fails.
func eachLine(data []byte, read func(line int, words []string) error) error {
	lines := bufio.NewScanner(bytes.NewReader(data))
	lines.Buffer(nil, 1<<20)
	for n := 1; lines.Scan(); n++ {
		if words := strings.Fields(lines.Text()); len(words) > 0 {
			if err := read(n, words); err != nil {
				return err
			}
		}
	}
	if lines.Err() != nil {
		return badMesh(0, "a line is longer than a million letters")
	}
	return nil
}

// pointOf reads three numbers.
func pointOf(line int, words []string) (r3.Vec, error) {
	if len(words) < 3 {
		return r3.Vec{}, badMesh(line, "a point needs three numbers")
	}
	var c [3]float64
	for i := range c {
		v, err := strconv.ParseFloat(words[i], 64)
		if err != nil || math.IsNaN(v) || math.IsInf(v, 0) {
			return r3.Vec{}, badMesh(line, "%q is no number", words[i])
		}
		c[i] = v
	}
	return r3.Vec{X: c[0], Y: c[1], Z: c[2]}, nil
}

func readTextSTL(data []byte) (polyhedron.Mesh, error) {
	var w welder
	var loop []int
	err := eachLine(data, func(n int, words []string) error {
		switch words[0] {
		case "vertex":
			p, err := pointOf(n, words[1:])
			if err != nil {
				return err
			}
			loop = append(loop, w.point(p))
		case "endloop":
			if len(loop) < 3 {
				return badMesh(n, "a face needs three corners")
			}
			w.mesh.Faces = append(w.mesh.Faces, loop)
			loop = nil
		}
		return nil
	})
	return w.mesh, err
}

func readOBJ(data []byte) (polyhedron.Mesh, error) {
	var m polyhedron.Mesh
	err := eachLine(data, func(n int, words []string) error {
		switch words[0] {
		case "v":
			p, err := pointOf(n, words[1:])
			m.Points = append(m.Points, p)
			return err
		case "f":
			var loop []int
			for _, word := range words[1:] {
				// Corner, texture and normal: 3/1/2. Negative counts from the last point.
				text, _, _ := strings.Cut(word, "/")
				v, err := strconv.Atoi(text)
				if v < 0 {
					v += len(m.Points) + 1
				}
				if err != nil || v < 1 || v > len(m.Points) {
					return badMesh(n, "%q is no point of those above", word)
				}
				loop = append(loop, v-1)
			}
			if len(loop) < 3 {
				return badMesh(n, "a face needs three corners")
			}
			m.Faces = append(m.Faces, loop)
		}
		return nil
	})
	return m, err
}

// plyProperty is a value of an element of a PLY file; count is the type of a list's
// length, "" where it is no list.
type plyProperty struct{ name, kind, count string }

type plyElement struct {
	name       string
	count      int
	properties []plyProperty
}

// plySizes are the bytes of each type; the names of both generations are in use.
var plySizes = map[string]int{
	"char": 1, "uchar": 1, "short": 2, "ushort": 2, "int": 4, "uint": 4, "float": 4, "double": 8,
	"int8": 1, "uint8": 1, "int16": 2, "uint16": 2, "int32": 4, "uint32": 4, "float32": 4, "float64": 8,
}

// plyReader reads the values of a PLY file one after another.
type plyReader struct {
	words []string         // of a text file
	data  []byte           // of a binary one
	order binary.ByteOrder // nil for text
}

// mostPLYElements bounds the kinds of things in a PLY file; points and faces are two.
const mostPLYElements = 64

func readPLY(data []byte) (polyhedron.Mesh, error) {
	elements, r, err := readPLYHead(data)
	var m polyhedron.Mesh
	if err != nil {
		return m, err
	}
	var row plyRow
	for _, e := range elements {
		if !r.holds(e) {
			return m, errShortPLY
		}
		for range e.count {
			if err := r.element(e, &row); err != nil {
				return m, err
			}
			switch e.name {
			case "vertex":
				m.Points = append(m.Points, row.point)
			case "face":
				loop := slices.Clone(row.loop)
				if len(loop) < 3 || slices.Min(loop) < 0 || slices.Max(loop) >= len(m.Points) {
					return m, badMesh(0, "face %d names points that are not there", len(m.Faces)+1)
				}
				m.Faces = append(m.Faces, loop)
			}
		}
	}
	return finite(m), nil
}

func readPLYHead(data []byte) ([]plyElement, *plyReader, error) {
	r := &plyReader{}
	var elements []plyElement
	line := 0
	for {
		head, rest, more := bytes.Cut(data, []byte("\n"))
		line++
		words := strings.Fields(string(head))
		data = rest
		switch {
		case !more:
			return nil, r, badMesh(line, "the head of the file does not end")
		case len(words) == 0:
		case words[0] == "format" && len(words) > 1:
			switch words[1] {
			case "binary_little_endian":
				r.order = binary.LittleEndian
			case "binary_big_endian":
				r.order = binary.BigEndian
			}
		case words[0] == "element" && len(words) == 3:
			n, err := strconv.Atoi(words[2])
			if err != nil || n < 0 || len(elements) == mostPLYElements {
				return nil, r, badMesh(line, "%q is no number of elements", words[2])
			}
			elements = append(elements, plyElement{name: words[1], count: n})
		case words[0] == "property" && len(elements) > 0 && len(words) >= 3:
			e := &elements[len(elements)-1]
			p := plyProperty{name: words[len(words)-1], kind: words[len(words)-2]}
			if words[1] == "list" && len(words) == 5 {
				p.count = words[2]
			}
			if plySizes[p.kind] == 0 || p.count != "" && plySizes[p.count] == 0 {
				return nil, r, badMesh(line, "the type of %q is not known", p.name)
			}
			e.properties = append(e.properties, p)
		case words[0] == "end_header":
			r.data = data
			if r.order == nil {
				r.words = strings.Fields(string(data))
			}
			return elements, r, nil
		}
	}
}

// holds tells whether the rest of the file is long enough for what it promises: every element
// takes a word, or a byte, for each of its properties at least.
func (r *plyReader) holds(e plyElement) bool {
	least, left := len(e.properties), len(r.words)
	if r.order != nil {
		least, left = 0, len(r.data)
		for _, p := range e.properties {
			least += cmp.Or(plySizes[p.count], plySizes[p.kind])
		}
	}
	return e.count == 0 || least > 0 && e.count <= left/least
}

// plyRow is what counts of one element: a point, or the corners of a face.
type plyRow struct {
	point r3.Vec
	loop  []int
}

func (r *plyReader) element(e plyElement, row *plyRow) error {
	row.loop = row.loop[:0]
	for _, p := range e.properties {
		n := 1.0
		if p.count != "" {
			var err error
			if n, err = r.value(p.count); err != nil {
				return err
			}
		}
		for range int(n) {
			v, err := r.value(p.kind)
			if err != nil {
				return err
			}
			switch {
			case p.count != "" && (p.name == "vertex_indices" || p.name == "vertex_index"):
				row.loop = append(row.loop, int(v))
			case p.count != "":
			case p.name == "x":
				row.point.X = v
			case p.name == "y":
				row.point.Y = v
			case p.name == "z":
				row.point.Z = v
			}
		}
	}
	return nil
}

var errShortPLY = badMesh(0, "it ends before all its points and faces have come")

func (r *plyReader) value(kind string) (float64, error) {
	if r.order == nil {
		if len(r.words) == 0 {
			return 0, errShortPLY
		}
		v, err := strconv.ParseFloat(r.words[0], 64)
		if err != nil {
			return 0, badMesh(0, "%q is no number", r.words[0])
		}
		r.words = r.words[1:]
		return v, nil
	}
	size := plySizes[kind]
	if len(r.data) < size {
		return 0, errShortPLY
	}
	b := r.data[:size]
	r.data = r.data[size:]
	switch kind {
	case "char", "int8":
		return float64(int8(b[0])), nil
	case "uchar", "uint8":
		return float64(b[0]), nil
	case "short", "int16":
		return float64(int16(r.order.Uint16(b))), nil
	case "ushort", "uint16":
		return float64(r.order.Uint16(b)), nil
	case "int", "int32":
		return float64(int32(r.order.Uint32(b))), nil
	case "uint", "uint32":
		return float64(r.order.Uint32(b)), nil
	case "float", "float32":
		return float64(math.Float32frombits(r.order.Uint32(b))), nil
	}
	return math.Float64frombits(r.order.Uint64(b)), nil
}
