package workshop_test

import (
	"database/sql"
	"maps"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"cressa/core/diagram"
	"cressa/demo"
)

// spoil changes the records behind the workshop's back.
func (s *shop) spoil(t *testing.T, statement string, args ...any) {
	t.Helper()
	db, err := sql.Open("sqlite", s.file)
	require.NoError(t, err)
	defer db.Close()
	_, err = db.Exec(statement, args...)
	require.NoError(t, err)
}

func (s *shop) starters(t *testing.T) []*diagram.Diagram {
	t.Helper()
	all, err := demo.Diagrams()
	require.NoError(t, err)
	return slices.Collect(maps.Values(all))
}
