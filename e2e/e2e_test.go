package e2e_test

import (
	"context"
	"fmt"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/e2e/browser"
	"cressa/e2e/running"
)

var (
	binary   string
	chromium context.Context
	// certificate is one that somebody made for the own network and trusts.
	certificate owned
)

func TestMain(m *testing.M) { os.Exit(run(m)) }

// run builds the application once and starts one browser for all tests.
func run(m *testing.M) int {
	ctx := context.Background()
	dir, err := os.MkdirTemp("", "cressa-e2e-")
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		return 1
	}
	defer os.RemoveAll(dir)
	if binary, err = running.Build(ctx, dir); err != nil {
		fmt.Fprintln(os.Stderr, err)
		return 1
	}
	if certificate, err = certify(dir); err != nil {
		fmt.Fprintln(os.Stderr, err)
		return 1
	}
	started, stop, err := browser.Start(ctx, certificate.hash)
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		return 1
	}
	defer stop()
	chromium = started
	return m.Run()
}

// start runs the application until the test ends.
func start(t *testing.T, args ...string) *running.App {
	t.Helper()
	app, err := running.Start(binary, "", args...)
	require.NoError(t, err)
	t.Cleanup(func() { _ = app.Kill() })
	return app
}

// user is a person at a tab. Every step must succeed.
type user struct {
	t *testing.T
	*browser.Page
	actions int
}

func open(t *testing.T, width, height int, url string) *user {
	t.Helper()
	return openIn(t, chromium, width, height, url)
}

// openIn opens a tab of another browser than the usual one.
func openIn(t *testing.T, in context.Context, width, height int, url string) *user {
	t.Helper()
	p, err := browser.Open(in, width, height)
	require.NoError(t, err)
	t.Cleanup(p.Stop)
	require.NoError(t, p.Scheme("light"))
	require.NoError(t, p.Go(url))
	return &user{t: t, Page: p}
}

func (u *user) click(name string) {
	u.t.Helper()
	u.actions++
	require.NoError(u.t, u.Click(name))
}

func (u *user) fill(label, text string) {
	u.t.Helper()
	u.actions++
	require.NoError(u.t, u.Fill(label, text))
}

func (u *user) choose(label, option string) {
	u.t.Helper()
	u.actions++
	require.NoError(u.t, u.Choose(label, option))
}

func (u *user) press(keys string) {
	u.t.Helper()
	u.actions++
	require.NoError(u.t, u.Press(keys))
}

func (u *user) see(text string) {
	u.t.Helper()
	require.NoError(u.t, u.See(text))
}

// mentions waits until the page says this as a part of something.
func (u *user) mentions(text string) {
	u.t.Helper()
	require.NoError(u.t, u.Mentions(text))
}

func (u *user) until(script string) {
	u.t.Helper()
	require.NoError(u.t, u.Until(script))
}

// quiet checks that the page reported no errors but those expected.
func (u *user) quiet(expected ...string) {
	u.t.Helper()
	assert.Empty(u.t, u.Complaints(expected...))
}
