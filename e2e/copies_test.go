package e2e_test

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A copy is made, a stone planned after it, and the copy brought back: the stone is gone from the
// records, kept in a folder, and the browser shows what the copy had.
func TestACopyIsMadeAndBroughtBackInTheApplication(t *testing.T) {
	t.Parallel()
	data := t.TempDir()
	app := start(t, "serve", "--data", data)
	first := planOne(t, app.URL)
	u := open(t, 1280, 800, app.URL+"/machine?show=copies")
	u.see("No copy was made yet.")
	u.click("Make a copy now")
	u.mentions("The last copy was made")
	u.until(`document.querySelectorAll('tbody tr').length === 2`)
	files, err := filepath.Glob(filepath.Join(data, "copies", "*.cressa.zip"))
	require.NoError(t, err)
	require.Len(t, files, 1)

	// A plan that cannot work is refused at its field, and one that can is kept.
	u.fill("Into the folder", "copies")
	u.click("Save the plan")
	u.mentions("Write the folder from its root on")
	elsewhere := filepath.Join(t.TempDir(), "stick")
	u.fill("Into the folder", elsewhere)
	u.choose("Make a copy", "every week")
	u.click("Save the plan")
	u.see("The plan is saved")
	require.DirExists(t, elsewhere)
	u.fill("Into the folder", "")
	u.click("Save the plan")
	u.until(`document.querySelectorAll('tbody tr').length === 2`)

	second := planOne(t, app.URL)
	require.NotEqual(t, first, second)
	require.NoError(t, u.Reload())
	u.until(`document.querySelectorAll('tbody tr').length === 2`)
	u.until(`[...document.querySelectorAll('tbody tr')[0].cells][2].innerText === '2'`)
	u.click("Bring back")
	u.mentions("It takes the place of everything")
	u.click("Replace the records")
	u.until(`document.querySelectorAll('tbody tr')[0]?.cells[2]?.innerText === '1'`)
	kept, err := filepath.Glob(filepath.Join(data, "replaced-*", "cressa.db"))
	require.NoError(t, err)
	require.Len(t, kept, 1)
	info, err := os.Stat(kept[0])
	require.NoError(t, err)
	assert.Positive(t, info.Size())
	require.NoError(t, u.Go(app.URL+"/stones"))
	u.mentions("Gift")
	u.until(`document.querySelectorAll('tbody tr').length === 1`)
	u.quiet("Failed to load resource", "ERR_CONNECTION", "422")
}
