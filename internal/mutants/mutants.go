// Package mutants spoils whole files, for the tests of their readers to begin with.
package mutants

import (
	"bytes"
	"math/rand/v2"
	"slices"
)

// Of returns n spoiled forms of the seeds, the same ones each time: of each up to four places are
// changed, cut out, cut off, repeated, made large numbers or replaced by a piece of another seed.
func Of(n int, seeds ...[]byte) [][]byte {
	random := rand.New(rand.NewPCG(1, 2))
	out := make([][]byte, n)
	for i := range out {
		data := bytes.Clone(seeds[i%len(seeds)])
		for range 1 + random.IntN(4) {
			data = spoiled(random, data, seeds)
		}
		out[i] = data
	}
	return out
}

func spoiled(random *rand.Rand, data []byte, seeds [][]byte) []byte {
	if len(data) == 0 {
		return data
	}
	// A span of up to 64 bytes.
	from := random.IntN(len(data))
	to := min(len(data), from+1+random.IntN(64))
	switch random.IntN(7) {
	case 0:
		data[from] ^= 1 << random.IntN(8)
		return data
	case 1:
		data[from] = []byte{0, 1, 0x7f, 0x80, 0xff, '\n', '"', '-', '9'}[random.IntN(9)]
		return data
	case 2:
		return slices.Delete(data, from, to)
	case 3:
		return data[:from]
	case 4:
		return slices.Insert(data, from, data[from:to]...)
	case 5:
		return slices.Replace(data, from, min(to, from+4), []byte("4294967296")...)
	}
	other := seeds[random.IntN(len(seeds))]
	at := random.IntN(len(other) + 1)
	return slices.Replace(data, from, to, other[at:min(len(other), at+64)]...)
}
