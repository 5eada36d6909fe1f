package main

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"

	"github.com/spf13/cobra"

	"cressa/demo"
)

func seedCommand() *cobra.Command {
	var size demo.Size
	c := &cobra.Command{
		Use:   "seed DIR",
		Short: "A drawn workshop of any size in an empty folder, for trials",
		Args:  cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			for name, n := range map[string]int{"--stones": size.Stones, "--diagrams": size.Diagrams, "--events": size.Events} {
				if n < 0 {
					return fmt.Errorf("%s takes a number from 0, not %d", name, n)
				}
			}
			if size.Stones > 0 && size.Diagrams == 0 || size.Events > 0 && size.Stones == 0 {
				return errors.New("stones need diagrams, and events need stones")
			}
			dir := args[0]
			switch entries, err := os.ReadDir(dir); {
			case errors.Is(err, fs.ErrNotExist):
			case err != nil:
				return fail("%v", err)
			case len(entries) > 0:
				return fail("%s is not empty; name a folder that is, or does not exist yet", dir)
			}
			if err := os.MkdirAll(dir, 0o700); err != nil {
				return fail("%v", err)
			}
			if err := demo.Seed(c.Context(), filepath.Join(dir, databaseFile), size); err != nil {
				return fail("%v", err)
			}
			fmt.Fprintf(c.OutOrStdout(), "%d stones, %d diagrams and %d events are in %s. Look at them with: cressa serve --data %s\n",
				size.Stones, size.Diagrams, size.Events, dir, dir)
			return nil
		},
	}
	c.Flags().IntVar(&size.Stones, "stones", 200, "how many stones")
	c.Flags().IntVar(&size.Diagrams, "diagrams", 50, "how many diagrams")
	c.Flags().IntVar(&size.Events, "events", 10_000, "how many events")
	c.Flags().Uint64Var(&size.Seed, "seed", 1, "the same `S` draws the same workshop")
	return c
}
