package verdict_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"cressa/core/verdict"
)

// byCounting goes through everything that judges could have said.
func byCounting(entries, judges, leader int) float64 {
	all, asClear := 0, 0
	votes := make([]int, entries)
	var judge func(left int)
	judge = func(left int) {
		if left == 0 {
			all++
			if slices.Max(votes) >= leader {
				asClear++
			}
			return
		}
		for i := range votes {
			votes[i]++
			judge(left - 1)
			votes[i]--
		}
	}
	judge(judges)
	return float64(asClear) / float64(all)
}

func TestHowSureVerdictsCanBe(t *testing.T) {
	assert.Equal(t, 1.0, verdict.ByChance(nil))
	assert.Equal(t, 1.0, verdict.ByChance([]int{0, 0}))
	assert.InDelta(t, 1.0, verdict.ByChance([]int{1, 0}), 1e-12, "one judge says nothing")
	assert.InDelta(t, 2.0/32, verdict.ByChance([]int{5, 0}), 1e-12, "five of five: as five heads or five tails")
	assert.InDelta(t, 1.0, verdict.ByChance([]int{3, 3}), 1e-12)
	rapid.Check(t, func(t *rapid.T) {
		votes := rapid.SliceOfN(rapid.IntRange(0, 3), 2, 4).Draw(t, "votes")
		n := 0
		for _, v := range votes {
			n += v
		}
		if n == 0 {
			return
		}
		got := verdict.ByChance(votes)
		assert.InDelta(t, byCounting(len(votes), n, slices.Max(votes)), got, 1e-9)
		// One more voice for the leader never makes it less sure.
		at := slices.Index(votes, slices.Max(votes))
		more := slices.Clone(votes)
		more[at]++
		assert.LessOrEqual(t, verdict.ByChance(more), got+1e-12)
	})
}
