package e2e_test
import ("testing";"github.com/stretchr/testify/require")
func TestZZ(t *testing.T){
 app := start(t,"demo")
 u := open(t,1280,800,app.URL+"/rough")
 u.until(`[...document.querySelectorAll('a')].some(a => a.getAttribute('aria-label')?.includes('olive'))`)
 require.NoError(t, u.Shot("/tmp/p1.png"))
 u.until(`(() => { const a=[...document.querySelectorAll('a')].find(a => a.getAttribute('aria-label')?.includes('lump')); a.click(); return true })()`)
 u.until(`document.querySelectorAll('svg').length > 5`)
 u.until(`document.querySelector('main').dataset.busy === 'false'`)
 u.click("Add a saw cut")
 u.until(`document.querySelector('main').dataset.busy === 'false'`)
 require.NoError(t, u.Shot("/tmp/p2.png"))
 u.click("Onto the table")
 u.click("bubblemust come out")
 u.until(`document.querySelector('main').dataset.busy === 'false'`)
 require.NoError(t, u.Shot("/tmp/p3.png"))
}
