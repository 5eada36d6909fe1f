package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net"
	"os"
	"os/signal"
	"path/filepath"
	"syscall"
	"time"

	"github.com/spf13/cobra"

	"cressa/demo"
	"cressa/server"
	"cressa/sqlite"
	"cressa/ui"
	"cressa/workshop"
)

const (
	defaultAddr  = "127.0.0.1:8473"
	databaseFile = "cressa.db"
)

func serveCommand() *cobra.Command {
	var data, addr string
	c := &cobra.Command{
		Use:   "serve",
		Short: "Run the application",
		Args:  cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			if data == "" {
				var err error
				if data, err = defaultData(); err != nil {
					return fail("%v; name a folder with --data", err)
				}
			}
			return serve(c, addr, data, func(ctx context.Context, w *workshop.Workshop, fresh bool) error {
				if !fresh {
					return nil
				}
				return demo.AddStarters(ctx, w)
			}, "Your records are kept in "+data)
		},
	}
	c.Flags().StringVar(&data, "data", "", "folder of your records (default: cressa in your data folder)")
	c.Flags().StringVar(&addr, "addr", defaultAddr, "`HOST:PORT` of this machine to listen on")
	return c
}

func demoCommand() *cobra.Command {
	var addr string
	c := &cobra.Command{
		Use:   "demo",
		Short: "Run the application on a fresh copy of the demo data",
		Args:  cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			data, err := os.MkdirTemp("", "cressa-demo-")
			if err != nil {
				return fail("%v", err)
			}
			defer os.RemoveAll(data)
			return serve(c, addr, data, func(ctx context.Context, _ *workshop.Workshop, _ bool) error {
				return demo.Fill(ctx, filepath.Join(data, databaseFile), time.Now())
			}, "This is the demo: what you change here is thrown away when it stops.\nTo keep your own records, run: "+os.Args[0]+" serve")
		},
	}
	c.Flags().StringVar(&addr, "addr", defaultAddr, "`HOST:PORT` of this machine to listen on")
	return c
}

// defaultData is the folder for records after the XDG base directory rules.
func defaultData() (string, error) {
	if dir := os.Getenv("XDG_DATA_HOME"); filepath.IsAbs(dir) {
		return filepath.Join(dir, "cressa"), nil
	}
	home, err := os.UserHomeDir()
	if err != nil {
		return "", errors.New("there is no home folder to keep records in")
	}
	return filepath.Join(home, ".local", "share", "cressa"), nil
}

// serve runs the application until it is told to stop. Prepare may fill the
// records before the first request; fresh tells that there were none.
func serve(c *cobra.Command, addr, data string, prepare func(_ context.Context, _ *workshop.Workshop, fresh bool) error, about string) (err error) {
	if err := checkLoopback(addr); err != nil {
		return err
	}
	ctx, stop := signal.NotifyContext(c.Context(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	if err := os.MkdirAll(data, 0o700); err != nil {
		return fail("%v; name another folder with --data", err)
	}
	listener, err := net.Listen("tcp", addr)
	if err != nil {
		return fail("%v; stop what runs there, or choose another port with --addr", err)
	}
	store, fresh, err := sqlite.Open(ctx, filepath.Join(data, databaseFile))
	if err != nil {
		return errors.Join(fail("%v", err), listener.Close())
	}
	defer func() { err = errors.Join(err, store.Close()) }()
	w := workshop.New(store, time.Now)
	if err := prepare(ctx, w, fresh); err != nil {
		return errors.Join(fail("%v", err), listener.Close())
	}
	log := slog.New(slog.NewTextHandler(c.ErrOrStderr(), nil))
	if err := server.New(w, ui.Files(), log).Serve(ctx, listener, announce(c.OutOrStdout(), about)); err != nil {
		return fail("%v", err)
	}
	return nil
}

func announce(out io.Writer, about string) func(net.Addr) {
	return func(addr net.Addr) {
		fmt.Fprintf(out, "%s\nCressa is at http://%s\nStop it with Ctrl+C.\n", about, addr)
	}
}

// checkLoopback: only this machine may connect.
func checkLoopback(addr string) error {
	host, _, err := net.SplitHostPort(addr)
	if err != nil {
		return fmt.Errorf("--addr %q is no HOST:PORT", addr)
	}
	if ip := net.ParseIP(host); host != "localhost" && (ip == nil || !ip.IsLoopback()) {
		return fmt.Errorf("--addr %q is not an address of this machine alone; use 127.0.0.1:PORT", addr)
	}
	return nil
}
