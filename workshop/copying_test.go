package workshop_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"cressa/workshop"
)

func TestCopiesAreDueByTheirPlanAndWorryWhenTheyFail(t *testing.T) {
	now := time.Date(2026, 11, 29, 18, 0, 0, 0, time.UTC)
	ago := func(d time.Duration) time.Time { return now.Add(-d) }
	const day = 24 * time.Hour
	for name, c := range map[string]struct {
		state         workshop.CopyState
		due, worrying bool
	}{
		"never made":           {workshop.CopyState{}, true, false},
		"this morning":         {workshop.CopyState{Last: ago(9 * time.Hour)}, false, false},
		"yesterday":            {workshop.CopyState{Last: ago(day)}, true, false},
		"three days ago":       {workshop.CopyState{Last: ago(3 * day)}, true, true},
		"failed just now":      {workshop.CopyState{Last: ago(day), Failed: "the disk is full", FailedAt: ago(time.Minute)}, false, true},
		"failed two hours ago": {workshop.CopyState{Last: ago(day), Failed: "the disk is full", FailedAt: ago(2 * time.Hour)}, true, true},
	} {
		c.state.Plan = workshop.UsualCopies
		assert.Equal(t, c.due, c.state.Due(now), name)
		assert.Equal(t, c.worrying, c.state.Worrying(now), name)
		c.state.Plan.Every = workshop.Never
		assert.False(t, c.state.Due(now) || c.state.Worrying(now), "%s, and only by hand", name)
	}
	weekly := workshop.CopyState{Plan: workshop.CopyPlan{Every: workshop.Weekly, Keep: 1}, Last: ago(6 * day)}
	assert.False(t, weekly.Due(now))
}
