package formats_test

import (
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
	"cressa/core/printed"
	"cressa/formats"
	"cressa/internal/ceiling"
)

// binarySTL writes triangles.
func binarySTL(triangles [][3]r3.Vec) []byte {
	out := binary.LittleEndian.AppendUint32(make([]byte, 80), uint32(len(triangles)))
	for _, t := range triangles {
		out = append(out, make([]byte, 12)...)
		for _, p := range t {
			for _, v := range []float64{p.X, p.Y, p.Z} {
				out = binary.LittleEndian.AppendUint32(out, math.Float32bits(float32(v)))
			}
		}
		out = append(out, 0, 0)
	}
	return out
}

// ball is a sphere of flat triangles, no two of them in one plane.
func ball(rings, sectors int) (out [][3]r3.Vec) {
	at := func(ring, sector int) r3.Vec {
		latitude, longitude := math.Pi*float64(ring)/float64(rings), 2*math.Pi*(float64(sector)+0.37*float64(ring))/float64(sectors)
		return r3.Vec{X: math.Sin(latitude) * math.Cos(longitude), Y: math.Sin(latitude) * math.Sin(longitude), Z: math.Cos(latitude)}
	}
	for ring := range rings {
		for sector := range sectors {
			a, b, c, d := at(ring, sector), at(ring, sector+1), at(ring+1, sector), at(ring+1, sector+1)
			if ring > 0 {
				out = append(out, [3]r3.Vec{a, b, c})
			}
			if ring < rings-1 {
				out = append(out, [3]r3.Vec{b, d, c})
			}
		}
	}
	return out
}

// parted cuts every facet of a stone into so many triangles at least.
func parted(s *cutting.Stone, least int) [][3]r3.Vec {
	var out [][3]r3.Vec
	for _, f := range s.Solid().Faces() {
		for i := 1; i+1 < len(f.Loop); i++ {
			out = append(out, [3]r3.Vec{s.Solid().Point(f.Loop[0]), s.Solid().Point(f.Loop[i]), s.Solid().Point(f.Loop[i+1])})
		}
	}
	for i := 0; len(out) < least; i++ {
		// Halved by a line from the middle of one side to the corner across.
		t := out[i]
		middle := r3.Scale(0.5, r3.Add(t[1], t[2]))
		out[i] = [3]r3.Vec{middle, t[0], t[1]}
		out = append(out, [3]r3.Vec{middle, t[2], t[0]})
	}
	return out
}

// mostTriangles is about as many as a file of the largest size holds.
const mostTriangles = 100_000

func TestWhatTablesCostHasACeiling(t *testing.T) {
	for what, cell := range map[string]string{
		"many folds": strings.Repeat("2.1 2.9 3.3 3.4 3.6 3.7 ", 7) + "90-fold, mirrored",
		"gaps":       strings.Repeat("3-9-…-93 ", 9),
		"all round":  "every .05",
	} {
		var sheet strings.Builder
		sheet.WriteString("Tier,Angle,Index,Stop\n")
		for i := 0; sheet.Len() < formats.MaxTableBytes-2*len(cell)-100; i++ {
			fmt.Fprintf(&sheet, "P%d,40,\"%s\",meet P1 P2\n", i, cell)
		}
		ceiling.Hold(t, what, 500, func() {
			table, mistake := formats.ReadTable(sheet.String(), formats.Reading{})
			require.Nil(t, mistake)
			_, problems := printed.Diagram(table.Draft)
			assert.NotEmpty(t, problems)
		})
	}
}

func TestWhatDiagramFilesCostHasACeiling(t *testing.T) {
	const head = `{"format":"cressa-diagram/1","name":"x","gear":96,"refractiveIndex":1.5,"tiers":[`
	for what, text := range map[string]string{
		"indexes": head + `{"name":"P1","part":"pavilion","angle":40,"stop":{"kind":"centre"},"indexes":[` + strings.Repeat("1,", formats.MaxDiagramBytes/2-100) + `1]}]}`,
		"tiers":   head + strings.Repeat(`{},`, formats.MaxDiagramBytes/3-100) + `{}]}`,
		"depth":   strings.Repeat("[", formats.MaxDiagramBytes-1),
		"letters": head[:len(head)-1] + `"` + strings.Repeat("x", formats.MaxDiagramBytes-200) + `"}`,
	} {
		ceiling.Hold(t, what, 500, func() {
			_, mistakes := formats.ReadDiagram([]byte(text))
			assert.NotEmpty(t, mistakes, what)
		})
	}
}

func TestWhatMeshesCostHasACeiling(t *testing.T) {
	stone, err := cutting.Cut(example(t, "round"))
	require.NoError(t, err)
	shape := func(data []byte) (*polyhedron.Shape, error) {
		mesh, err := formats.ReadMesh(data)
		if err != nil {
			return nil, err
		}
		return mesh.Shape(t.Context(), false)
	}
	ceiling.Hold(t, "a stone of many triangles", 300, func() {
		s, err := shape(binarySTL(parted(stone, mostTriangles)))
		require.NoError(t, err)
		assert.Len(t, s.Planes, stone.Measures().Facets)
	})
	refused := map[string]struct {
		data []byte
		code diagram.Code
	}{
		"a ball":                  {binarySTL(ball(250, 200)), diagram.TooManyFacets},
		"a PLY of promises":       {[]byte("ply\nformat ascii 1.0\nelement vertex 5242880\nproperty float x\nend_header\n1\n"), formats.BadMesh},
		"a PLY of nothing":        {[]byte("ply\nformat ascii 1.0\nelement vertex 5242880\nend_header\n"), formats.BadMesh},
		"a PLY of kinds":          {[]byte("ply\nformat ascii 1.0\n" + strings.Repeat("element vertex 5\n", 100000) + "end_header\n"), formats.BadMesh},
		"a PLY of empty lists":    {append([]byte("ply\nformat binary_little_endian 1.0\nelement other 5200000\nproperty list uchar int a\nelement face 4\nproperty list uchar int vertex_index\nend_header\n"), make([]byte, 5_200_004)...), formats.BadMesh},
		"a PLY of endless lists":  {append([]byte("ply\nformat binary_little_endian 1.0\nelement face 1\nproperty list double uchar vertex_index\nend_header\n"), make([]byte, 5_000_000)...), formats.BadMesh},
		"an OBJ of one long face": {[]byte("v 0 0 0\nf" + strings.Repeat(" 1", 500_000)), polyhedron.TooFewFaces},
	}
	for what, r := range refused {
		ceiling.Hold(t, what, 400, func() {
			_, err := shape(r.data)
			var p diagram.Problem
			require.ErrorAs(t, err, &p, what)
			assert.Equal(t, r.code, p.Code, what)
		})
	}
}
