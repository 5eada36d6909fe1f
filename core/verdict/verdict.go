// Package verdict tells how sure verdicts can be that were given blind.
package verdict

import "math"

// ByChance returns how likely it is, 0 to 1, that judges who cannot tell the entries apart, and so
// choose each alike often, would favour one of them as clearly as they did: that some entry gets at
// least as many of the votes as the leader has. It is 1 without votes and with fewer than two entries.
// The distribution is the multinomial one, summed exactly.
func ByChance(votes []int) float64 {
	n, leader := 0, 0
	for _, v := range votes {
		n, leader = n+v, max(leader, v)
	}
	if n == 0 || len(votes) < 2 {
		return 1
	}
	// ways[s] is the probability that the entries so far share s votes among them with each below the
	// leader's, times the probability of that many in all; entries are added one at a time, each
	// taking its share of the votes that are left by the binomial distribution.
	ways := make([]float64, n+1)
	ways[0] = 1
	for i := range votes {
		share := 1 / float64(len(votes)-i)
		next := make([]float64, n+1)
		for s, p := range ways {
			if p == 0 {
				continue
			}
			for got := 0; got < leader && s+got <= n; got++ {
				next[s+got] += p * binomial(n-s, got, share)
			}
		}
		ways = next
	}
	return math.Min(1, math.Max(0, 1-ways[n]))
}

// binomial is the probability of k successes in n tries of probability p.
func binomial(n, k int, p float64) float64 {
	if p >= 1 {
		if k == n {
			return 1
		}
		return 0
	}
	lg := func(x int) float64 { v, _ := math.Lgamma(float64(x) + 1); return v }
	return math.Exp(lg(n) - lg(k) - lg(n-k) + float64(k)*math.Log(p) + float64(n-k)*math.Log(1-p))
}
