// Package running builds the application and runs it as a process of its own, so
// that it can be stopped, killed and started again.
package running

import (
	"bufio"
	"context"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"
)

// Build builds the binary into dir and returns its path.
func Build(ctx context.Context, dir string) (string, error) {
	binary := filepath.Join(dir, "cressa")
	out, err := exec.CommandContext(ctx, "go", "build", "-o", binary, "cressa/cmd/cressa").CombinedOutput()
	if err != nil {
		return "", fmt.Errorf("go build: %w\n%s", err, out)
	}
	return binary, nil
}

// App is the application as it runs.
type App struct {
	// URL is where it is, without a slash at the end.
	URL     string
	process *exec.Cmd
}

// Start starts the binary with a command and its arguments on a free port, or on
// the address of an app that was stopped before.
func Start(binary, address string, args ...string) (*App, error) {
	if address == "" {
		address = "127.0.0.1:0"
	}
	c := exec.Command(binary, append(args, "--addr", strings.TrimPrefix(address, "http://"))...)
	c.Stderr = io.Discard
	out, err := c.StdoutPipe()
	if err != nil {
		return nil, err
	}
	if err := c.Start(); err != nil {
		return nil, err
	}
	lines := bufio.NewScanner(out)
	for lines.Scan() {
		if _, url, found := strings.Cut(lines.Text(), " is at http"); found {
			go io.Copy(io.Discard, out) //nolint:errcheck // what else it says is not needed
			return &App{URL: "http" + url, process: c}, nil
		}
	}
	return nil, fmt.Errorf("it ended before it listened: %w", c.Wait())
}

// Stop asks it to end and waits until it has.
func (a *App) Stop() error {
	if err := a.process.Process.Signal(os.Interrupt); err != nil {
		return err
	}
	return a.process.Wait()
}

// Kill ends it at once, as a power cut would.
func (a *App) Kill() error {
	if err := a.process.Process.Signal(syscall.SIGKILL); err != nil {
		return err
	}
	// Wait reports the kill itself.
	_ = a.process.Wait()
	return nil
}
