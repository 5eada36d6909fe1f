package work_test

import (
	"context"
	"sync/atomic"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/work"
)

// few lends a number of hands and remembers how many were out at most.
type few struct {
	hands     chan struct{}
	out, most atomic.Int64
}

func (f *few) Take(ctx context.Context) error {
	select {
	case f.hands <- struct{}{}:
	case <-ctx.Done():
		return ctx.Err()
	}
	f.most.Store(max(f.most.Load(), f.out.Add(1)))
	return nil
}

func (f *few) Give() {
	f.out.Add(-1)
	<-f.hands
}

func TestEveryJobIsDoneOnceByTheHandsThatAreLent(t *testing.T) {
	hand := &few{hands: make(chan struct{}, 1)}
	ctx, stop := context.WithCancel(work.With(t.Context(), hand))
	defer stop()
	done := make([]atomic.Int64, 500)
	none := func() struct{} { return struct{}{} }
	require.NoError(t, work.Each(ctx, len(done), none, func(_ struct{}, i int) { done[i].Add(1) }))
	for i := range done {
		require.Equal(t, int64(1), done[i].Load(), "job %d", i)
	}
	assert.Equal(t, int64(1), hand.most.Load())
	assert.Empty(t, hand.hands, "every hand was given back")

	err := work.Each(ctx, 1000, none, func(_ struct{}, i int) {
		if i == 10 {
			stop()
		}
	})
	require.ErrorIs(t, err, context.Canceled)
	assert.Empty(t, hand.hands)
}
