//go:build race

package ceiling

// slack is what the race detector costs.
const slack = 10
