package e2e_test

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/e2e/browser"
)

// Files come in or say what is wrong with them; what is deleted can be brought back.
func TestTheLibraryOpensFilesAndBringsBackWhatWasDeleted(t *testing.T) {
	t.Parallel()
	app := start(t, "serve", "--data", t.TempDir())
	u := open(t, 1280, 800, app.URL+"/diagrams")
	u.see("Spiral Arm")
	u.click("Import")

	files := []string{}
	dir := t.TempDir()
	for _, name := range []string{"pinwheel", "emerald"} {
		good, err := os.ReadFile("../core/cutting/testdata/" + name + ".cressa.json")
		require.NoError(t, err)
		file := filepath.Join(dir, name+".cressa.json")
		require.NoError(t, os.WriteFile(file, good, 0o600))
		files = append(files, file)
		if name == "pinwheel" {
			bad := filepath.Join(dir, "bad.cressa.json")
			require.NoError(t, os.WriteFile(bad, []byte(strings.Replace(string(good), `"angle": 43`, `"angel": 43`, 1)), 0o600))
			files = append(files, bad)
		}
	}
	require.NoError(t, u.Upload(files...))
	u.see("could not be read")
	u.click("bad.cressa.json")
	u.mentions("Line 11, column 7")
	u.mentions(`There is no field "angel". Did you mean "angle"?`)
	u.click("Add all 2")
	u.see("2 diagrams added to the library")
	u.see("Type a new one")
	u.click("Six-Blade Pinwheel")
	// Once it is asked which way the indexes run, and then never again.
	u.see("Which way do its indexes run?")
	u.until(`document.querySelectorAll('[role=dialog] svg').length === 4`)
	renameElsewhere(t, app.URL, u.id(), "Six-Blade Pinwheel of theirs")
	u.click("They are dialled")
	u.mentions(changedElsewhere)
	renameElsewhere(t, app.URL, u.id(), "Six-Blade Pinwheel")
	require.NoError(t, u.Reload())
	u.click("They are dialled")
	u.until(`!document.querySelector('[role=dialog]')`)
	require.NoError(t, u.Reload())
	u.mentions("This stone has no mirror line")
	u.see("from pinwheel.cressa.json")
	u.until(`!document.querySelector('[role=dialog]')`)
	u.click("More")
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
	u.see("Ecliptic")
	u.quiet("422", "409")
}

// A table from a mail is recognised, what could not be read is marked, and nothing
// is dropped.
func TestAPastedTableIsLookedAtBeforeItIsAdded(t *testing.T) {
	t.Parallel()
	app := start(t, "serve", "--data", t.TempDir())
	u := open(t, 1280, 800, app.URL+"/diagrams/import")
	u.fill("Paste a table", "Lantern, 96 index, R.I. 1.54\n\nPavilion\nP1 43 every 12 from 6 to the centre point\nG1 90 every 12 from 6 size 0.5\n"+
		"Crown\nC1 36 every 12 from 6 girdle 2%\nT 0 96 somewhere up there\nMind the gap.")
	u.click("Read it")
	u.see("a table, 4 tiers")
	u.mentions("These words were not understood. The stop is left to be found")
	u.mentions("This line was not understood")
	// It is corrected where it stands.
	u.fill("The sheet as it is printed", "Lantern, 96 index, R.I. 1.54\n\nPavilion\nP1 43 every 12 from 6 to the centre point\nG1 90 same indexes, to size\n"+
		"Crown\nC1 36 every 12 from 6 set girdle 0.3 mm\nT 0 96 somewhere up there\nMind the gap.")
	u.mentions("0.30 mm, 3.75 % of the width")
	u.click("Add it to the library")
	u.see("Lantern")
	u.click("Edit")
	u.click("Choose a stop for T")
	u.click("Table width")
	u.click("Use this stop")
	u.see("until the table is 55 % of the width")
	u.click("Save")
	u.see("Kept")
	u.click("Done editing")
	u.see("Not read from the table: Mind the gap.")
	u.quiet()
}

// What leaves the room: the sheet on screen, and as a PDF.
func TestTheSheetIsShownAndSavedAsPDF(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := open(t, 1280, 800, app.URL+"/stones")
	u.click("Sea glass")
	u.click("Sheet")
	u.until(`document.querySelector('.sheet-pages img')?.naturalWidth > 100`)
	u.choose("Paper", "A4")
	u.choose("Pages", "on one page, if it fits")
	u.until(`[...document.querySelectorAll('a')].some((a) => a.href.endsWith('/sheet/a4/1/pdf'))`)
	_, err := browser.Eval[bool](u.Page, `fetch([...document.querySelectorAll('a')].find((a) => a.href.endsWith('/pdf')).href).then((r) => r.text()).then((t) => { window.pdf = t }), true`)
	require.NoError(t, err)
	u.until(`window.pdf`)
	pdf, err := browser.Eval[string](u.Page, `window.pdf`)
	require.NoError(t, err)
	assert.True(t, strings.HasPrefix(pdf, "%PDF-"))
	assert.Equal(t, 1, strings.Count(pdf, "/Type /Page\n"), "one page, as it was chosen")
	u.quiet()
}
