// Package work runs many jobs of one kind on all cores, as many at once as whoever owns
// the machine lets.
package work

import (
	"context"
	"runtime"
	"sync"
	"sync/atomic"
)

// Hands lends the right to compute. One taken is given back after each job, so that many
// who compute at once get their turns.
type Hands interface {
	// Take waits for a hand. It returns the context's error where that ends first.
	Take(ctx context.Context) error
	Give()
}

type handsKey struct{}

// With returns a context whose jobs are run by hands that are lent.
func With(ctx context.Context, h Hands) context.Context {
	return context.WithValue(ctx, handsKey{}, h)
}

// Each calls job with the numbers from 0 to under n, from as many goroutines as there are
// cores, in no order. Worker makes what each of them keeps for itself. It ends early, with
// the context's error, when that is done.
func Each[W any](ctx context.Context, n int, worker func() W, job func(w W, i int)) error {
	hands, lent := ctx.Value(handsKey{}).(Hands)
	var next atomic.Int64
	var wait sync.WaitGroup
	for range min(runtime.GOMAXPROCS(0), n) {
		w := worker()
		wait.Go(func() {
			for i := int(next.Add(1)) - 1; i < n && ctx.Err() == nil; i = int(next.Add(1)) - 1 {
				if lent {
					if hands.Take(ctx) != nil {
						return
					}
				}
				job(w, i)
				if lent {
					hands.Give()
				}
			}
		})
	}
	wait.Wait()
	return ctx.Err()
}
