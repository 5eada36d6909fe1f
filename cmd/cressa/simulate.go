package main

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"os/signal"
	"syscall"

	"github.com/spf13/cobra"

	"cressa/core/wheel"
	"cressa/device/simulated"
	"cressa/server"
	"cressa/ui"
)

// simulatedAddr is where the page of the simulated machine stands.
const simulatedAddr = "127.0.0.1:8474"

// practiceStone is what stands on the machine at first: practice glass for a round of 8 mm.
var practiceStone = wheel.Setup{Width: 9, Height: 12, Hardness: 6, SG: 2.5, Gear: 96, Seed: 1}

func simulateCommand() *cobra.Command {
	var addr, lines string
	c := &cobra.Command{
		Use:   "simulate",
		Short: "Run a simulated machine to learn and to try on",
		Args:  cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			if err := checkLoopback(addr); err != nil {
				return err
			}
			if err := checkLoopback(lines); err != nil {
				return fmt.Errorf("--lines: %w", err)
			}
			return simulate(c, addr, lines)
		},
	}
	c.Flags().StringVar(&addr, "addr", simulatedAddr, "`HOST:PORT` of this machine for its page")
	c.Flags().StringVar(&lines, "lines", server.SimulatedLines, "`HOST:PORT` of this machine for its readings")
	return c
}

// simulate runs the simulated machine until it is told to stop.
func simulate(c *cobra.Command, addr, lines string) error {
	ctx, stop := signal.NotifyContext(c.Context(), syscall.SIGINT, syscall.SIGTERM)
	defer stop()
	page, err := net.Listen("tcp", addr)
	if err != nil {
		return fail("%v; stop what runs there, or choose another port with --addr", err)
	}
	readings, err := net.Listen("tcp", lines)
	if err != nil {
		return errors.Join(fail("%v; stop what runs there, or choose another port with --lines", err), page.Close())
	}
	bench := simulated.New(wheel.New(practiceStone, wheel.Usual))
	ctx, end := context.WithCancel(ctx)
	served := make(chan error, 1)
	go func() {
		defer end() // one that fails ends both
		served <- bench.ServeLines(ctx, readings)
	}()
	log := slog.New(slog.NewTextHandler(c.ErrOrStderr(), &slog.HandlerOptions{Level: slog.LevelWarn}))
	err = server.NewSimulator(bench, readings.Addr().String(), ui.Files(), log).Serve(ctx, page, func(at net.Addr) {
		fmt.Fprintf(c.OutOrStdout(), "The simulated machine is at http://%s\nIts readings are lines at %s; put that in under Machine and habits, Instruments.\nStop it with Ctrl+C.\n", at, readings.Addr())
	})
	end()
	if err = errors.Join(err, <-served); err != nil {
		return fail("%v", err)
	}
	return nil
}
