package e2e_test

import (
	"bytes"
	"image"
	"image/color"
	"image/jpeg"
	"os"
	"path/filepath"
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/require"
)

// A stone comes in, is written down and photographed, worked on by the clock, with
// notes, and given back.
func TestARepairFromTheDoorToTheDoor(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := open(t, 1024, 768, app.URL)
	u.mentions("promised for")
	u.click("New repair")
	u.fill("What it is", "Brooch stone")
	u.fill("Whose it is", "Ms. Averill")
	u.fill("Material", "Iolite")
	u.fill("Weight", "1.42")
	u.fill("Damage", "abraded edges")
	u.fill("What was agreed", "polish the crown only")
	u.click("Take it in")
	u.see("polish the crown only")

	picture := image.NewRGBA(image.Rect(0, 0, 80, 60))
	for x := range 80 {
		picture.Set(x, x*60/80, color.White)
	}
	var data bytes.Buffer
	require.NoError(t, jpeg.Encode(&data, picture, nil))
	file := filepath.Join(t.TempDir(), "stone.jpg")
	require.NoError(t, os.WriteFile(file, data.Bytes(), 0o600))
	require.NoError(t, u.Upload(file))
	u.until(`document.querySelector('img[alt="Before, 1"]')?.naturalWidth === 80`)

	u.click("To the bench")
	u.see("Begin")
	u.press(kb.Enter)
	u.mentions("at work")
	u.press("n")
	u.see("What happened?")
	u.press("prepolish is on")
	u.press(kb.Enter)
	u.mentions("prepolish is on")
	// The clock runs on through a reload.
	u.see("on disk")
	require.NoError(t, u.Reload())
	u.mentions("at work")
	u.click("Pause")
	u.mentions("paused")
	u.see("on disk")
	u.press(kb.Escape)
	u.mentions("prepolish is on")

	u.click("Correct it")
	u.fill("Damage", "abraded edges, one nick")
	u.fill("What was agreed", "crown and table")
	u.click("Save")
	u.see("abraded edges, one nick")
	u.mentions("agreed anew: crown and table")
	u.click("Return to owner")
	u.fill("Weight now", "1.40")
	u.fill("What was done", "crown polished")
	u.click("Return to owner")
	u.mentions("finished")
	u.see("crown polished")
	u.see("1.40 ct")
	u.click("Logbook")
	u.mentions("Brooch stone")
	u.quiet()
}
