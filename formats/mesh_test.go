package formats_test

import (
	"bufio"
	"bytes"
	"encoding/binary"
	"fmt"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/demo"
	"cressa/formats"
)

// readOBJ reads corners, faces and their groups again, with nothing of the writer.
func readOBJ(t *testing.T, data []byte) (corners []r3.Vec, faces [][]int, groups []string) {
	t.Helper()
	lines := bufio.NewScanner(bytes.NewReader(data))
	for lines.Scan() {
		fields := strings.Fields(lines.Text())
		if len(fields) == 0 {
			continue
		}
		switch fields[0] {
		case "v":
			var p [3]float64
			for i := range p {
				v, err := strconv.ParseFloat(fields[i+1], 64)
				require.NoError(t, err)
				p[i] = v
			}
			corners = append(corners, r3.Vec{X: p[0], Y: p[1], Z: p[2]})
		case "g":
			groups = append(groups, fields[1])
		case "f":
			var face []int
			for _, f := range fields[1:] {
				n, err := strconv.Atoi(f)
				require.NoError(t, err)
				face = append(face, n-1)
			}
			faces = append(faces, face)
		}
	}
	return corners, faces, groups
}

// Every stone that ships leaves as a closed mesh of its volume, seen from outside,
// in both formats.
func TestMeshesAreClosedAndHaveTheStonesVolume(t *testing.T) {
	all, err := demo.Diagrams()
	require.NoError(t, err)
	const mm = 8.0
	for name, d := range all {
		s, err := cutting.Cut(d)
		require.NoError(t, err)
		want := s.Solid().Volume() * mm * mm * mm

		corners, faces, groups := readOBJ(t, formats.WriteOBJ("line\nbreak", s.Solid(), mm, func(i int) string { return fmt.Sprintf("f%d", i) }))
		assert.Len(t, groups, len(faces), name)
		edges := map[[2]int]int{}
		volume := 0.0
		for _, f := range faces {
			for i, a := range f {
				edges[[2]int{a, f[(i+1)%len(f)]}]++
			}
			for i := 1; i+1 < len(f); i++ {
				volume += r3.Dot(corners[f[0]], r3.Cross(corners[f[i]], corners[f[i+1]])) / 6
			}
		}
		for e, n := range edges {
			require.Equal(t, 1, n, "%s: an edge runs once this way", name)
			require.Equal(t, 1, edges[[2]int{e[1], e[0]}], "%s: and once that way", name)
		}
		assert.InEpsilon(t, want, volume, 1e-6, name)

		stl := formats.WriteSTL(name, s.Solid(), mm)
		n := int(binary.LittleEndian.Uint32(stl[80:]))
		require.Len(t, stl, 84+50*n, name)
		volume = 0
		for i := range n {
			var v [12]float32
			require.NoError(t, binary.Read(bytes.NewReader(stl[84+50*i:]), binary.LittleEndian, &v))
			at := func(k int) r3.Vec { return r3.Vec{X: float64(v[k]), Y: float64(v[k+1]), Z: float64(v[k+2])} }
			normal, a, b, c := at(0), at(3), at(6), at(9)
			across := r3.Cross(r3.Sub(b, a), r3.Sub(c, a))
			require.Positive(t, r3.Norm(across), "%s: a triangle has an area", name)
			if r3.Norm(across) > 1e-3 {
				assert.InDelta(t, 1, r3.Dot(normal, r3.Unit(across)), 1e-3, "%s: the normal looks out", name)
			}
			volume += r3.Dot(a, r3.Cross(b, c)) / 6
		}
		assert.InEpsilon(t, want, volume, 1e-4, name)
	}
}
