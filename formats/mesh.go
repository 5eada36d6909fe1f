package formats

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"math"

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
// cut into triangles from their first corner.
func WriteSTL(title string, s *solid.Solid, mm float64) []byte {
	var out bytes.Buffer
	head := make([]byte, 80)
	copy(head, oneLine(title))
	out.Write(head)
	triangles := 0
	for _, f := range s.Faces() {
		triangles += len(f.Loop) - 2
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
		for i := 1; i+1 < len(f.Loop); i++ {
			vector(f.Plane.Normal)
			for _, v := range []int{f.Loop[0], f.Loop[i], f.Loop[i+1]} {
				vector(r3.Scale(mm, s.Point(v)))
			}
			out.Write([]byte{0, 0})
		}
	}
	return out.Bytes()
}
