package sqlite_test

import (
	"errors"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/demo"
	"cressa/sqlite"
	"cressa/workshop"
)

// However many stones there are: a page of any list takes the same statements.
func TestTheCountOfStatementsDoesNotGrowWithTheRows(t *testing.T) {
	ctx := t.Context()
	count := func(stones int) map[string]int {
		file := filepath.Join(t.TempDir(), "records.db")
		require.NoError(t, demo.Seed(ctx, file, demo.Size{Stones: stones, Diagrams: stones / 2, Events: stones * 8, Seed: 5}))
		store, err := sqlite.Open(ctx, file)
		require.NoError(t, err)
		defer store.Close()
		w := workshop.New(store, time.Now)
		page, err := store.Stones(ctx, workshop.StoneFilter{}, workshop.Cursor{}, 200)
		require.NoError(t, err)
		asked := 0
		store.OnStatement(func(string) { asked++ })
		out := map[string]int{}
		for what, f := range map[string]func() error{
			"stones": func() error {
				_, err := w.Stones.Stones(ctx, workshop.StoneFilter{}, workshop.Cursor{}, 200)
				return err
			},
			"diagrams": func() error { _, err := w.Diagrams(ctx, workshop.DiagramFilter{}, workshop.Cursor{}, 200); return err },
			"rough": func() error {
				_, err := w.Pieces(ctx, workshop.PieceFilter{}, workshop.Cursor{}, 200)
				return err
			},
			"sums": func() error { _, err := w.Sums(ctx); return err },
			"pace": func() error { _, _, err := w.Pace(ctx); return err },
			"run": func() error {
				for _, l := range page.Lines {
					if l.Run != "" {
						_, _, err := w.Run(ctx, l.Run)
						return err
					}
				}
				return errors.New("there is no run")
			},
		} {
			asked = 0
			require.NoError(t, f(), what)
			out[what] = asked
		}
		return out
	}
	few := count(24)
	assert.Equal(t, few, count(48))
	assert.Equal(t, 2, few["stones"], "how many there are, and the page")
}
