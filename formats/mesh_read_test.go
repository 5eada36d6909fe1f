package formats_test

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/polyhedron"
	"cressa/demo"
	"cressa/formats"
	"cressa/internal/mutants"
)

// writePLY writes a solid as PLY, as text or in either order of bytes.
func writePLY(s *cutting.Stone, order binary.ByteOrder) []byte {
	var body bytes.Buffer
	places := map[int]int{}
	for _, v := range s.Solid().Vertices() {
		p := s.Solid().Point(v)
		places[v] = len(places)
		if order == nil {
			fmt.Fprintf(&body, "7 %.17g %.17g %.17g\n", p.X, p.Y, p.Z)
		} else {
			_ = binary.Write(&body, order, struct {
				Quality int16
				P       [3]float64
			}{7, [3]float64{p.X, p.Y, p.Z}})
		}
	}
	for _, f := range s.Solid().Faces() {
		if order == nil {
			fmt.Fprint(&body, len(f.Loop))
		} else {
			body.WriteByte(byte(len(f.Loop)))
		}
		for _, v := range f.Loop {
			if order == nil {
				fmt.Fprintf(&body, " %d", places[v])
			} else {
				_ = binary.Write(&body, order, int32(places[v]))
			}
		}
		if order == nil {
			body.WriteString("\n")
		}
	}
	kind := map[binary.ByteOrder]string{nil: "ascii", binary.LittleEndian: "binary_little_endian", binary.BigEndian: "binary_big_endian"}[order]
	return append([]byte(fmt.Sprintf("ply\nformat %s 1.0\ncomment ours\nelement vertex %d\nproperty short quality\nproperty double x\nproperty double y\nproperty double z\n"+
		"element face %d\nproperty list uchar int vertex_indices\nend_header\n", kind, len(places), len(s.Solid().Faces()))), body.Bytes()...)
}

// writeTextSTL writes every face as a fan of triangles in millimetres.
func writeTextSTL(s *cutting.Stone, mm float64) []byte {
	var out bytes.Buffer
	out.WriteString("solid stone\n")
	for _, f := range s.Solid().Faces() {
		for i := 1; i+1 < len(f.Loop); i++ {
			out.WriteString("facet normal 0 0 0\n outer loop\n")
			for _, v := range []int{f.Loop[0], f.Loop[i], f.Loop[i+1]} {
				p := r3.Scale(mm, s.Solid().Point(v))
				fmt.Fprintf(&out, "  vertex %e %e %e\n", p.X, p.Y, p.Z)
			}
			out.WriteString(" endloop\nendfacet\n")
		}
	}
	out.WriteString("endsolid\n")
	return out.Bytes()
}

// Every diagram that ships leaves as a mesh and comes back as the stone it was: tiers,
// order and stops found again from faces alone.
func TestAStoneComesBackFromItsMesh(t *testing.T) {
	all, err := demo.Diagrams()
	require.NoError(t, err)
	const mm = 8.0
	for name, d := range all {
		want, err := cutting.Cut(d)
		require.NoError(t, err)
		for kind, data := range map[string][]byte{
			"obj": formats.WriteOBJ(name, want.Solid(), mm, want.FacetName), "stl": formats.WriteSTL(name, want.Solid(), mm),
			"text stl": writeTextSTL(want, mm), "our ply": formats.WritePLY(name, want.Solid(), mm), "ply": writePLY(want, nil), "ply little": writePLY(want, binary.LittleEndian), "ply big": writePLY(want, binary.BigEndian),
		} {
			if strings.HasPrefix(kind, "ply") && name != "Meridian" || kind == "text stl" && name != "Prime Focus" {
				continue // the faces are the same; one stone shows that the format is read
			}
			mesh, err := formats.ReadMesh(data)
			require.NoError(t, err, "%s %s", name, kind)
			shape, err := mesh.Shape(t.Context(), false)
			require.NoError(t, err, "%s %s", name, kind)
			placed, err := shape.Place(t.Context(), polyhedron.Placing{Up: r3.Vec{Z: 1}, Name: name, Gear: d.Gear, RefractiveIndex: 1.5})
			require.NoError(t, err, "%s %s", name, kind)
			got := placed.Stone
			a, b := want.Measures(), got.Measures()
			assert.Equal(t, a.Facets, b.Facets, "%s %s", name, kind)
			assert.InDelta(t, a.VolumeFactor, b.VolumeFactor, 2e-6, "%s %s", name, kind)
			assert.LessOrEqual(t, len(got.Diagram.Tiers), len(d.Tiers), "%s %s", name, kind)
			scale := mm
			if strings.HasPrefix(kind, "ply") {
				scale = 1
			}
			assert.InDelta(t, a.Width*scale, placed.Width, 1e-4*scale, "%s %s", name, kind)
			for _, tier := range got.Diagram.Tiers {
				for _, index := range tier.Indexes {
					assert.InDelta(t, math.Round(index), index, 1e-9, "%s %s %s: no cheat came in", name, kind, tier.Name)
				}
			}
		}
	}
}

func TestAMeshThatCannotBeReadSaysWhere(t *testing.T) {
	for name, c := range map[string]struct {
		text string
		code diagram.Code
		line float64
	}{
		"nothing":        {"", formats.UnknownMesh, 0},
		"a letter":       {"Dear Sirs,\nplease find enclosed", formats.UnknownMesh, 0},
		"no number":      {"v 0 0 0\nv 1 x 0\n", formats.BadMesh, 2},
		"no such point":  {"v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 4\n", formats.BadMesh, 4},
		"two corners":    {"v 0 0 0\nv 1 0 0\nf 1 2\n", formats.BadMesh, 3},
		"text STL":       {"solid x\nfacet\nouter loop\nvertex 0 0 0\nendloop\n", formats.BadMesh, 5},
		"headless PLY":   {"ply\nformat ascii 1.0\nelement vertex 3\n", formats.BadMesh, 4},
		"PLY type":       {"ply\nformat ascii 1.0\nelement vertex 3\nproperty complex x\nend_header\n", formats.BadMesh, 4},
		"PLY cut off":    {"ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nend_header\n1 2\n", formats.BadMesh, 0},
		"PLY stray face": {"ply\nformat ascii 1.0\nelement vertex 1\nproperty float x\nelement face 1\nproperty list uchar int vertex_index\nend_header\n1\n3 0 0 9\n", formats.BadMesh, 0},
	} {
		_, err := formats.ReadMesh([]byte(c.text))
		var p diagram.Problem
		require.ErrorAs(t, err, &p, name)
		assert.Equal(t, c.code, p.Code, name)
		assert.Equal(t, c.line, p.Value, name)
	}
	// No bytes whatever may bring the reader down.
	for _, start := range []string{"ply\nformat binary_little_endian 1.0\nelement face 900000\nproperty list uint int vertex_indices\nend_header\n\xff\xff\xff\xff", "v 1 1 1\nf -5 -4 -3", "solid\nendloop"} {
		_, err := formats.ReadMesh([]byte(start))
		assert.Error(t, err)
	}
}

// Whatever bytes come: they are refused with a problem, or are a mesh whose faces name its points.
func FuzzReadMesh(f *testing.F) {
	whole := [][]byte{
		[]byte("ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nelement face 1\nproperty list uchar int vertex_index\nend_header\n0 0 0\n1 0 0\n0 1 0\n3 0 1 2\n"),
		[]byte("v 0 0 0\nv 1 0 0\nv 0 1 0\nv 0 0 1\nf 1 2 3\nf 1/1/1 -1 2\n"),
		[]byte("solid x\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 0 1 0\nendloop\nendfacet\nendsolid\n"),
		binarySTL([][3]r3.Vec{{{}, {X: 1}, {Y: 1}}}),
	}
	for _, data := range append(whole, mutants.Of(500, whole...)...) {
		f.Add(data)
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		mesh, err := formats.ReadMesh(data)
		if err == nil {
			for _, loop := range mesh.Faces {
				for _, v := range loop {
					require.Less(t, v, len(mesh.Points))
				}
			}
			_, err = mesh.Shape(t.Context(), false)
		}
		if err != nil {
			require.ErrorAs(t, err, new(diagram.Problem))
		}
	})
}
