package server

import (
	"context"
	"errors"
	"fmt"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// linesOf is what a follower gets, line by line, each ending with how the work ended.
func linesOf(ctx context.Context, r *relay[string], key string) ([]string, error) {
	var out []string
	err := r.follow(ctx, key, func(l string) error {
		out = append(out, l)
		return nil
	})
	return out, err
}

func end(err error) string { return fmt.Sprint("end: ", err) }

func TestWhoeverComesLaterIsToldAll(t *testing.T) {
	r := newRelay[string]()
	nothing, err := linesOf(t.Context(), r, "a")
	require.NoError(t, err)
	assert.Empty(t, nothing, "nothing was started")

	half, rest := make(chan struct{}), make(chan struct{})
	r.start(t.Context(), "a", "first", func(_ context.Context, tell func(string)) error {
		tell("one")
		close(half)
		<-rest
		tell("two")
		return nil
	}, end)
	<-half
	// One who leaves in the middle takes nothing with him.
	left := errors.New("left")
	count := 0
	assert.ErrorIs(t, r.follow(t.Context(), "a", func(string) error {
		if count++; count == 2 {
			return left
		}
		return nil
	}), left)
	want := []string{"first", "one", "two", "end: <nil>"}
	var all sync.WaitGroup
	for range 3 {
		all.Go(func() {
			lines, err := linesOf(t.Context(), r, "a")
			assert.NoError(t, err)
			assert.Equal(t, want, lines)
		})
	}
	close(rest)
	all.Wait()
	again, err := linesOf(t.Context(), r, "a")
	require.NoError(t, err)
	assert.Equal(t, want, again, "the result is found again")
}

func TestARunIsStoppedAndReplaced(t *testing.T) {
	r := newRelay[string]()
	until := func(ctx context.Context, _ func(string)) error {
		<-ctx.Done()
		return ctx.Err()
	}
	r.start(t.Context(), "a", "1", until, end)
	r.start(t.Context(), "b", "2", until, end)
	r.stop("a")
	r.stop("nobody")
	lines, err := linesOf(t.Context(), r, "a")
	require.NoError(t, err)
	assert.Equal(t, []string{"1", "end: context canceled"}, lines)

	// Who starts again wants the newer; the older has ended by then or ends.
	before := r.find("b")
	r.start(t.Context(), "b", "3", func(context.Context, func(string)) error { return nil }, end)
	lines, err = linesOf(t.Context(), r, "b")
	require.NoError(t, err)
	assert.Equal(t, []string{"3", "end: <nil>"}, lines)
	r.working.Wait()
	assert.True(t, before.ended)

	// A follower that is gone waits for nothing.
	ended, gone := context.WithCancel(t.Context())
	ctx, stop := context.WithCancel(t.Context())
	r.start(ctx, "c", "4", until, end)
	gone()
	_, err = linesOf(ended, r, "c")
	assert.ErrorIs(t, err, context.Canceled)
	// The end of the server ends them all.
	stop()
	r.working.Wait()
}

func TestARelayRemembersOnlySoManyRuns(t *testing.T) {
	r := newRelay[string]()
	for i := range mostRuns + 3 {
		r.start(t.Context(), fmt.Sprint(i), "x", func(context.Context, func(string)) error { return nil }, end)
	}
	r.start(t.Context(), "5", "newer", func(context.Context, func(string)) error { return nil }, end)
	r.working.Wait()
	assert.Len(t, r.runs, mostRuns)
	assert.Nil(t, r.find("2"))
	assert.NotNil(t, r.find("3"))
	assert.Equal(t, "5", r.order[len(r.order)-1])
}
