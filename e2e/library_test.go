package e2e_test

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// Files come in or say what is wrong with them; what is deleted can be brought back.
func TestTheLibraryOpensFilesAndBringsBackWhatWasDeleted(t *testing.T) {
	t.Parallel()
	app := start(t, "serve", "--data", t.TempDir())
	u := open(t, 1280, 800, app.URL+"/diagrams")
	u.see("Spiral Arm")

	file, err := filepath.Abs("../core/cutting/testdata/pinwheel.cressa.json")
	require.NoError(t, err)
	good, err := os.ReadFile(file)
	require.NoError(t, err)
	dir := t.TempDir()
	bad := filepath.Join(dir, "bad.cressa.json")
	require.NoError(t, os.WriteFile(bad, []byte(strings.Replace(string(good), `"angle": 43`, `"angel": 43`, 1)), 0o600))
	require.NoError(t, u.Upload(bad))
	u.see("tier P1")
	u.see(`There is no field "angel". Did you mean "angle"?`)

	require.NoError(t, u.Upload(file))
	u.see("This stone has no mirror line")
	u.click("Delete")
	u.see("Six-Blade Pinwheel deleted")
	u.click("Undo")
	u.click("Six-Blade Pinwheel")
	u.see("to the meet of two P1 and two G1")

	u.click("Diagrams")
	u.fill("Search", "pinwheel")
	u.until(`document.querySelectorAll('li').length === 1`)
	u.fill("Search", "nothing is called so")
	u.click("Clear the search")
	u.choose("Outline", "oval")
	u.until(`document.querySelectorAll('li').length === 1`)
	u.see("Ecliptic")
	u.quiet("422")
}
