package formats

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/solid"
)

// WriteOBJ returns a solid as a Wavefront OBJ text, scaled by mm per unit. Faces
// keep their corners and carry the group that name gives for their facet.
func WriteOBJ(title string, s *solid.Solid, mm float64, name func(facet int) string) []byte {
	var out bytes.Buffer
	fmt.Fprintf(&out, "# %s\n# lengths in mm, z out of the table\n", oneLine(title))
	places := map[int]int{}
	for _, v := range s.Vertices() {
		p := r3.Scale(mm, s.Point(v))
		places[v] = len(places) + 1
		fmt.Fprintf(&out, "v %.9g %.9g %.9g\n", p.X, p.Y, p.Z)
	}
	for _, f := range s.Faces() {
		fmt.Fprintf(&out, "g %s\nf", oneLine(name(f.ID)))
		for _, v := range f.Loop {
			fmt.Fprintf(&out, " %d", places[v])
		}
		out.WriteString("\n")
	}
	return out.Bytes()
}

// oneLine keeps a name from breaking a line of a text format.
func oneLine(text string) string {
	return string(bytes.Map(func(r rune) rune {
		if r < ' ' {
			return ' '
		}
		return r
	}, []byte(text)))
}

// WriteSTL returns a solid as a binary STL file, scaled by mm per unit, its faces
// cut into triangles that all have an area: other programs trip over those that have none.
func WriteSTL(title string, s *solid.Solid, mm float64) []byte {
	var out bytes.Buffer
	head := make([]byte, 80)
	copy(head, oneLine(title))
	out.Write(head)
	triangles := 0
	for _, f := range s.Faces() {
		triangles += len(triangulate(s, f.Loop))
	}
	word := func(v uint32) {
		var b [4]byte
		binary.LittleEndian.PutUint32(b[:], v)
		out.Write(b[:])
	}
	vector := func(v r3.Vec) {
		for _, c := range []float64{v.X, v.Y, v.Z} {
			word(math.Float32bits(float32(c)))
		}
	}
	word(uint32(triangles))
	for _, f := range s.Faces() {
		for _, triangle := range triangulate(s, f.Loop) {
			vector(f.Plane.Normal)
			for _, v := range triangle {
				vector(r3.Scale(mm, s.Point(v)))
			}
			out.Write([]byte{0, 0})
		}
	}
	return out.Bytes()
}

// triangulate cuts a convex face into triangles. It always cuts off the smallest corner that has an
// area, so that corners in one line with their neighbours come into triangles that have one too.
func triangulate(s *solid.Solid, loop []int) [][3]int {
	left := slices.Clone(loop)
	var out [][3]int
	for len(left) > 2 {
		at, least := -1, math.Inf(1)
		for i, v := range left {
			before, after := left[(i+len(left)-1)%len(left)], left[(i+1)%len(left)]
			area := r3.Norm(r3.Cross(r3.Sub(s.Point(v), s.Point(before)), r3.Sub(s.Point(after), s.Point(before))))
			if area > solid.MinArea && area < least {
				at, least = i, area
			}
		}
		if at < 0 {
			// What is left is a line.
			break
		}
		out = append(out, [3]int{left[(at+len(left)-1)%len(left)], left[at], left[(at+1)%len(left)]})
		left = slices.Delete(left, at, at+1)
	}
	return out
}

// WritePLY returns a solid as a PLY text, scaled by mm per unit. Faces keep their corners.
func WritePLY(title string, s *solid.Solid, mm float64) []byte {
	var out bytes.Buffer
	vertices := s.Vertices()
	fmt.Fprintf(&out, "ply\nformat ascii 1.0\ncomment %s\ncomment lengths in mm, z out of the table\n", oneLine(title))
	fmt.Fprintf(&out, "element vertex %d\nproperty double x\nproperty double y\nproperty double z\n", len(vertices))
	fmt.Fprintf(&out, "element face %d\nproperty list uchar int vertex_indices\nend_header\n", len(s.Faces()))
	places := map[int]int{}
	for i, v := range vertices {
		p := r3.Scale(mm, s.Point(v))
		places[v] = i
		fmt.Fprintf(&out, "%.9g %.9g %.9g\n", p.X, p.Y, p.Z)
	}
	for _, f := range s.Faces() {
		fmt.Fprintf(&out, "%d", len(f.Loop))
		for _, v := range f.Loop {
			fmt.Fprintf(&out, " %d", places[v])
		}
		out.WriteString("\n")
	}
	return out.Bytes()
}
