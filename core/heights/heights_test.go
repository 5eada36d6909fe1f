package heights_test

import (
	"encoding/json"
	"flag"
	"math"
	"math/rand/v2"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/mat"
	"pgregory.net/rapid"

	"cressa/core/heights"
)

// cuts draws facets at angles that a machine can dial.
func cuts(t *rapid.T, least int) []heights.Cut {
	return rapid.SliceOfN(rapid.Custom(func(t *rapid.T) heights.Cut {
		return heights.Cut{Angle: float64(rapid.IntRange(20, 95).Draw(t, "degrees")), Distance: rapid.Float64Range(0.5, 20).Draw(t, "distance")}
	}), least, 9).Draw(t, "cuts")
}

// TestPredictionsComeOfLeastSquares holds the fit against the normal equations, solved as matrices.
func TestPredictionsComeOfLeastSquares(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		list := cuts(t, 3)
		asked := list[len(list)-1]
		length, zero := rapid.Float64Range(20, 200).Draw(t, "length"), rapid.Float64Range(-50, 50).Draw(t, "zero")
		var readings []heights.Reading
		x, y := mat.NewDense(len(list)-1, 2, nil), mat.NewVecDense(len(list)-1, nil)
		angles := map[float64]bool{}
		for i, c := range list[:len(list)-1] {
			cos := math.Cos(c.Angle * math.Pi / 180)
			mm := c.Distance + length*cos + zero + rapid.Float64Range(-0.05, 0.05).Draw(t, "error")
			readings, angles[c.Angle] = append(readings, heights.Reading{Cut: c, MM: mm}), true
			x.SetRow(i, []float64{cos, 1})
			y.SetVec(i, mm-c.Distance)
		}
		const sd = 0.02
		fit, err := heights.Calibrate(readings, sd)
		require.NoError(t, err)
		mm, got, ok := fit.At(asked, "")
		_, _, known := fit.Setting("")
		require.Equal(t, len(angles) > 1, known)
		if !known {
			require.Equal(t, angles[asked.Angle], ok)
			return
		}
		var normal, inverse mat.Dense
		normal.Mul(x.T(), x)
		require.NoError(t, inverse.Inverse(&normal))
		var xy, solved, spread mat.VecDense
		xy.MulVec(x.T(), y)
		solved.MulVec(&inverse, &xy)
		at := mat.NewVecDense(2, []float64{math.Cos(asked.Angle * math.Pi / 180), 1})
		spread.MulVec(&inverse, at)
		assert.InDelta(t, asked.Distance+mat.Dot(at, &solved), mm, 1e-5)
		assert.InEpsilon(t, sd*math.Sqrt(mat.Dot(at, &spread)), got, 1e-4)
	})
}

// Readings without an error give back the dial that they were made with.
func TestReadingsWithoutAnErrorFitAndForetell(t *testing.T) {
	read := func(c heights.Cut) float64 { return c.Distance + 61.089*math.Cos(c.Angle*math.Pi/180) + 3.482 }
	low, high, girdle := heights.Cut{Angle: 41, Distance: 2.6}, heights.Cut{Angle: 43, Distance: 2.7}, heights.Cut{Angle: 90, Distance: 4}
	fit, err := heights.Calibrate([]heights.Reading{{Cut: low, MM: read(low)}, {Cut: high, MM: read(high)}}, heights.UsualSD)
	require.NoError(t, err)
	length, zero, ok := fit.Setting("")
	require.True(t, ok)
	assert.InDelta(t, 61.089, length, 1e-9)
	assert.InDelta(t, 3.482, zero, 1e-9)
	mm, sd, _ := fit.At(girdle, "")
	assert.InDelta(t, read(girdle), mm, 1e-9)
	assert.InDelta(t, 45*heights.UsualSD, sd, heights.UsualSD, "41 and 43 magnify an error at 90 about 45 times")

	off, strange := fit.Misfit(heights.Reading{Cut: girdle, MM: read(girdle) + 0.3})
	assert.False(t, strange, "what is known so badly fits anything")
	assert.InDelta(t, 0.3, off, 1e-9)
	fit, err = heights.Calibrate([]heights.Reading{{Cut: low, MM: read(low)}, {Cut: girdle, MM: read(girdle)}}, heights.UsualSD)
	require.NoError(t, err)
	_, strange = fit.Misfit(heights.Reading{Cut: high, MM: read(high) + 0.06})
	assert.True(t, strange)

	// Another lap is thicker by an unknown amount: one reading on it tells its zero, the length is known.
	const thicker = 1.37
	_, _, ok = fit.At(high, "fine")
	assert.False(t, ok)
	fit, err = heights.Calibrate([]heights.Reading{
		{Cut: low, MM: read(low)}, {Cut: girdle, MM: read(girdle)}, {Cut: high, MM: read(high) + thicker, Lap: "fine"},
	}, heights.UsualSD)
	require.NoError(t, err)
	mm, _, ok = fit.At(girdle, "fine")
	assert.True(t, ok)
	assert.InDelta(t, read(girdle)+thicker, mm, 1e-9)

	_, err = heights.Calibrate(nil, heights.UsualSD)
	require.ErrorIs(t, err, heights.ErrNothingRead)
}

func TestTheBestPairIsFarApartAndEarly(t *testing.T) {
	at := func(angles ...float64) []heights.Cut {
		out := make([]heights.Cut, len(angles))
		for i, a := range angles {
			out[i].Angle = a
		}
		return out
	}
	pair, ok := heights.BestPair(at(43, 90, 41, 42))
	require.True(t, ok)
	assert.Equal(t, heights.Pair{First: 0, Second: 1}, pair)
	_, ok = heights.BestPair(at(43, 41, 90))
	assert.False(t, ok, "two steep neighbours foretell nothing at 90")
	_, ok = heights.BestPair(at(43, 43, 43))
	assert.False(t, ok)
}

var update = flag.Bool("update", false, "write the fixtures that the bench's own reckoning is held to")

const fixtures = "../../ui/src/log/heights.fixtures.json"

type fixtureCut struct {
	Angle    float64 `json:"angle"`
	Distance float64 `json:"distance"`
	Lap      string  `json:"lap"`
	MM       float64 `json:"mm"`
}

type fixture struct {
	Readings []fixtureCut `json:"readings"`
	Asked    fixtureCut   `json:"asked"`
	// Want is null where nothing is foretold.
	Want *struct {
		MM      float64 `json:"mm"`
		SD      float64 `json:"sd"`
		Strange bool    `json:"strange"`
	} `json:"want"`
}

// The bench foretells without a network: what it is held to is drawn here.
func TestHeightsFixtures(t *testing.T) {
	random := rand.New(rand.NewPCG(4, 17)) // the fixtures are the same on every run
	cut := func() fixtureCut {
		c := fixtureCut{Angle: float64(30 + 5*random.IntN(14)), Distance: math.Round(random.Float64()*400) / 100, Lap: []string{"cut", "polish"}[random.IntN(2)]}
		c.MM = math.Round((c.Distance+60*math.Cos(c.Angle*math.Pi/180)+random.Float64()/10)*100) / 100
		return c
	}
	var all []fixture
	for n := range 60 {
		f := fixture{Readings: []fixtureCut{}, Asked: cut()}
		for range n % 6 {
			f.Readings = append(f.Readings, cut())
		}
		of := func(c fixtureCut) heights.Reading {
			return heights.Reading{Cut: heights.Cut{Angle: c.Angle, Distance: c.Distance}, Lap: c.Lap, MM: c.MM}
		}
		var readings []heights.Reading
		for _, r := range f.Readings {
			readings = append(readings, of(r))
		}
		if fit, err := heights.Calibrate(readings, heights.UsualSD); err == nil {
			if mm, sd, ok := fit.At(of(f.Asked).Cut, f.Asked.Lap); ok {
				f.Want = new(struct {
					MM      float64 `json:"mm"`
					SD      float64 `json:"sd"`
					Strange bool    `json:"strange"`
				})
				f.Want.MM, f.Want.SD = math.Round(mm*1e6)/1e6, math.Round(sd*1e6)/1e6
				_, f.Want.Strange = fit.Misfit(of(f.Asked))
			}
		}
		all = append(all, f)
	}
	data, err := json.Marshal(all)
	require.NoError(t, err)
	if *update {
		require.NoError(t, os.WriteFile(fixtures, append(data, '\n'), 0o644))
	}
	kept, err := os.ReadFile(fixtures)
	require.NoError(t, err)
	require.JSONEq(t, string(data), string(kept), "write them with: go test ./core/heights -run Fixtures -update")
}
