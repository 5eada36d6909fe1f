package gear

import (
	"errors"
	"math"
)

// ErrFlush is returned where readings of a flush adapter say nothing: there are none, or they differ by more than
// FlushWithin.
var ErrFlush = errors.New("the readings do not agree")

// FlushWithin is by how many degrees readings of one flush face may differ before one of them was misread.
const FlushWithin = 1.0

// AdapterAngle returns the true angle of a table adapter in degrees: the mean of what the protractor showed each time
// that the flat end of the aligning dop lay flush on the lap, without the protractor's zero, which is what it shows at 0.
func AdapterAngle(readings []float64, zero float64) (float64, error) {
	if len(readings) == 0 {
		return 0, ErrFlush
	}
	low, high, sum := math.Inf(1), math.Inf(-1), 0.0
	for _, r := range readings {
		low, high, sum = math.Min(low, r), math.Max(high, r), sum+r
	}
	if high-low > FlushWithin {
		return 0, ErrFlush
	}
	return sum/float64(len(readings)) - zero, nil
}

// AdapterTurn returns by how many degrees a stone on an adapter of angle A, in degrees over 0, is turned about the
// quill to tilt its table by so many degrees across the index plane: a turn φ tilts it by about φ·sin A.
func AdapterTurn(tilt, adapter float64) float64 {
	return tilt / math.Sin(adapter*math.Pi/180)
}
