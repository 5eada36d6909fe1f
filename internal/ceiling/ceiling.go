// Package ceiling is for tests of readers: what a stranger's file may cost at most. It counts
// what a busy machine does not change: bytes that were allocated, and the processor's time.
package ceiling

import (
	"runtime"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
)

// mostWork is many times what any reader takes, and far below what growth by the square costs.
const mostWork = 10 * time.Second

// Hold runs f and fails the test where it allocates more than so many MB in all, or keeps the
// processor for more than ten seconds; ten times as much under the race detector, which costs that.
// Nothing else may run in the test's process meanwhile.
func Hold(t testing.TB, what string, mostMB uint64, f func()) {
	t.Helper()
	var before, after runtime.MemStats
	runtime.ReadMemStats(&before)
	began := worked(t)
	f()
	took := worked(t) - began
	runtime.ReadMemStats(&after)
	assert.LessOrEqual(t, (after.TotalAlloc-before.TotalAlloc)>>20, mostMB*slack, "%s: MB", what)
	assert.Less(t, took, mostWork*slack, "%s: time of the processor", what)
}

// worked is the time that the process has kept processors busy for itself.
func worked(t testing.TB) time.Duration {
	var use syscall.Rusage
	if err := syscall.Getrusage(syscall.RUSAGE_SELF, &use); err != nil {
		t.Fatal(err)
	}
	return time.Duration(use.Utime.Nano())
}
