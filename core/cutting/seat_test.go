package cutting_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/cutting"
	"cressa/demo"
)

// A stone that came out too large fills the seat once what is told came off, on every diagram that ships.
func TestWhatIsTakenOffFillsTheSeat(t *testing.T) {
	all, err := demo.Diagrams()
	require.NoError(t, err)
	looked := 0
	for name, d := range all {
		s, err := cutting.Cut(d)
		require.NoError(t, err)
		m := s.Measures()
		for _, a := range s.InSeat(m.Width, m.Length) {
			assert.InDelta(t, a.Planned, a.Seat, 1e-9, "%s: its own outline", name)
		}
		const smaller = 0.97
		planes := s.Planes()
		seat := s.InSeat(smaller*m.Width, smaller*m.Length)
		for _, a := range seat {
			facet, opposite := a.Left(a.Planned)
			planes[a.Facet].D -= facet
			if a.Opposite >= 0 {
				planes[a.Opposite].D -= opposite
			}
		}
		now, err := s.WithPlanes(planes)
		require.NoError(t, err)
		for _, a := range seat {
			if s.Diagram.Tiers[s.Facets[a.Facet].Tier].Angle != 90 || now.Face(a.Facet) == nil {
				continue
			}
			looked++
			read := 0.0
			for _, sign := range []float64{1, -1} {
				far := -1e9
				n := s.Facets[a.Facet].Plane.Normal
				for _, v := range now.Vertices() {
					p := now.Point(v)
					far = max(far, sign*(n.X*p.X+n.Y*p.Y))
				}
				read += far
			}
			assert.InDelta(t, a.Seat, read, 1e-6, "%s %s", name, s.FacetName(a.Facet))
			facet, _ := a.Left(read)
			assert.InDelta(t, 0, facet, 1e-6)
		}
	}
	assert.Greater(t, looked, 50)
}
