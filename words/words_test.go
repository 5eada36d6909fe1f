package words_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/diagram"
	"cressa/words"
)

func TestStopsAreToldAsCuttersTellThem(t *testing.T) {
	mm := words.Scale{MM: 8, Width: 1}
	for _, c := range []struct {
		part    diagram.Part
		angle   float64
		indexes string
		stop    string
		scale   words.Scale
		want    string
	}{
		{diagram.Pavilion, 42, "96-24-48-72", "centre", mm, "to a centre point"},
		{diagram.Pavilion, 42, "96-48", "centre 0.1", mm, "to a keel through the centre, 0.80 mm below the one that is there"},
		{diagram.Pavilion, 42, "8-24", "meet P1 P1 G1 G1", mm, "to the meet of two P1 and two G1"},
		{diagram.Crown, 42, "8-24", "meet C1 G1@3 G2", mm, "to the meet of C1, G1 at 3 and G2"},
		{diagram.Crown, 42, "8-24", "girdle 0.025", mm, "until the girdle is 0.20 mm"},
		{diagram.Crown, 42, "8-24", "girdle 0.025", words.Scale{Width: 1}, "until the girdle is 2.5 % of the width"},
		{diagram.Girdle, 90, "96-48", "size 0.5", mm, "until it is 8.00 mm across"},
		{diagram.Girdle, 90, "96-32-64", "size 0.5", mm, "until it is 4.00 mm from the axis"},
		{diagram.Crown, 0, "96", "width 0.5", mm, "until the table is 4.00 mm, half of the width"},
		{diagram.Crown, 30, "96", "along C1 G1 > C1 C2 at 0.25", mm, "a quarter of the way from the meet of C1 and G1 to the meet of C1 and C2"},
	} {
		indexes, err := diagram.ParseIndexes(c.indexes)
		require.NoError(t, err)
		stop, err := diagram.ParseStop(c.stop)
		require.NoError(t, err)
		tier := diagram.Tier{Part: c.part, Angle: c.angle, Indexes: indexes, Stop: stop}
		assert.Equal(t, c.want, words.Stop(tier, 96, c.scale))
	}
}
