package e2e_test

import (
	"fmt"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/e2e/browser"
)

// An odd piece: a material of one's own, a diagram from a few figures, taken away in
// every format, and cut.
func TestAQuickDesignInAMaterialOfOnesOwn(t *testing.T) {
	t.Parallel()
	app := start(t, "serve", "--data", t.TempDir())
	u := open(t, 1280, 800, app.URL+"/machine?show=materials")
	u.click("Add a material of your own")
	u.fill("Material", "Observatory glass")
	u.choose("Begin with the figures of", "Fluorite")
	u.fill("Refractive index from", "1.62")
	u.fill("Refractive index to", "1.61")
	u.click("Take it over")
	u.click("Save")
	u.mentions("Observatory glass: its refractive index cannot be.")
	u.click("Change Observatory glass")
	u.fill("Refractive index to", "1.62")
	u.click("Take it over")
	u.click("Save")
	u.see("Saved")

	u.click("Diagrams")
	u.click("Quick design")
	u.mentions("For the odd piece")
	u.fill("Name", "Odd piece")
	u.fill("Length", "7")
	u.mentions("The length is the longer of the two")
	u.fill("Length", "9.6")
	u.choose("Outline", "cushion")
	u.choose("Girdle facets", "16")
	u.choose("Material", "Observatory glass")
	u.choose("Pavilion", "three rows of steps")
	u.until(`document.querySelectorAll('[role=dialog] polygon').length > 40`)
	u.click("Take it into the library")
	u.see("from quick design")
	u.see("n 1.62")
	u.see("On your gears")

	where, err := browser.Eval[string](u.Page, `location.pathname`)
	require.NoError(t, err)
	u.click("Export")
	links, err := browser.Eval[[]string](u.Page, `[...document.querySelectorAll('[role=menu] a')].map((a) => a.getAttribute('href'))`)
	require.NoError(t, err)
	assert.Len(t, links, 7)
	for _, link := range links {
		require.True(t, strings.HasPrefix(link, "/api"+where+"/file/"), link)
		answer, err := http.Get(app.URL + link)
		require.NoError(t, err)
		require.NoError(t, answer.Body.Close())
		assert.Equal(t, http.StatusOK, answer.StatusCode, link)
		format := link[strings.LastIndex(link, "/")+1:]
		assert.Contains(t, answer.Header.Get("Content-Disposition"), fmt.Sprintf(".%s", format))
	}
	u.click("Sheet to print")

	require.NoError(t, u.Go(app.URL+where))
	u.click("Plan a stone")
	u.choose("Material", "Observatory glass")
	u.fill("Size (mm)", "8")
	u.click("Plan this stone")
	u.click("Cut it")
	u.mentions("P1 · Cut")
	u.mentions("Observatory glass")
	u.quiet("422")
}

// The loupe shows what whole teeth cost at a meet, and that cheats close it again.
func TestTheLoupeShowsWhatWholeTeethCost(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := open(t, 1280, 800, app.URL+"/diagrams")
	u.click("First Light")
	u.see("On your gears")
	u.click("Loupe")
	u.mentions("the widest first")
	u.choose("Cut on", "64")
	u.choose("Between teeth", "at whole teeth, without a cheater")
	const gap = `[...document.querySelectorAll('[role=dialog] p, [role=dialog] span')].map((e) => e.textContent).find((s) => /^gap .* residual/.test(s))`
	u.until(`!` + gap + `.startsWith('gap 0 ')`)
	wide, err := browser.Eval[string](u.Page, gap)
	require.NoError(t, err)
	require.NoError(t, u.ClickOn("[role=dialog] [data-ring='9']"))
	u.until(gap + ` !== '` + wide + `'`)
	u.click("10×")
	u.until(`document.querySelector('[role=dialog] svg text').textContent !== '100 µm'`)
	u.choose("Between teeth", "with its cheats")
	u.until(gap + `.startsWith('gap 0 ')`)
	u.quiet()
}
