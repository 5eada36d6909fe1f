package e2e_test

import (
	"fmt"
	"net/http"
	"net/http/httptest"
	"testing"

	"github.com/stretchr/testify/require"
)

// A press that sends the page on is one press: its button is not looked for on the page
// that follows, however soon that one is there.
func TestAPressThatSendsThePageOnIsDone(t *testing.T) {
	t.Parallel()
	pages := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		w.Header().Set("Content-Type", "text/html; charset=utf-8")
		if r.URL.Path == "/next" {
			_, _ = fmt.Fprint(w, `<p>Arrived</p>`)
			return
		}
		_, _ = fmt.Fprint(w, `<button onmousedown="location.href = '/next'">Go on</button>`)
	}))
	t.Cleanup(pages.Close)
	u := open(t, 800, 600, pages.URL)
	const often = 12
	for range often {
		u.click("Go on")
		u.see("Arrived")
		require.NoError(t, u.Go(pages.URL))
	}
}
