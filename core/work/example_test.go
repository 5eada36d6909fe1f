package work_test

import (
	"context"
	"fmt"
	"sync/atomic"

	"cressa/core/work"
)

// Jobs are shared out over the cores, each worker with something of its own to work in.
func ExampleEach() {
	var sum atomic.Int64
	err := work.Each(context.Background(), 100, func() []int { return make([]int, 0, 100) }, func(seen []int, i int) {
		sum.Add(int64(i))
	})
	fmt.Println(sum.Load(), err)

	ended, end := context.WithCancel(context.Background())
	end()
	err = work.Each(ended, 100, func() int { return 0 }, func(int, int) {})
	fmt.Println(err)
	// Output:
	// 4950 <nil>
	// context canceled
}
