package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"

	"github.com/spf13/cobra"

	"cressa/copies"
	"cressa/words"
)

func backupCommand() *cobra.Command {
	var asJSON bool
	var data string
	c := &cobra.Command{
		Use:   "backup FILE",
		Short: "Everything into one file, also while the application runs",
		Args:  cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			folder, err := recordsIn(data)
			if err != nil {
				return fail("%v", err)
			}
			m, err := folder.Write(c.Context(), args[0], nil)
			if errors.Is(err, fs.ErrNotExist) {
				if _, there := os.Stat(filepath.Join(string(folder), copies.Records)); there != nil {
					return fail("%s holds no records; name their folder with --data", folder)
				}
			}
			if err != nil {
				return fail("%v", err)
			}
			if asJSON {
				return printJSON(c.OutOrStdout(), m.Contents)
			}
			printContents(c.OutOrStdout(), m)
			if n := len(m.Missing); n > 0 {
				fmt.Fprintf(c.ErrOrStderr(), "cressa: %d pictures were not there to be copied; “cressa check” names them\n", n)
			}
			return nil
		},
	}
	c.Flags().StringVar(&data, "data", "", "folder of your records (default: cressa in your data folder)")
	c.Flags().BoolVar(&asJSON, "json", false, "print one JSON object")
	return c
}

func restoreCommand() *cobra.Command {
	var asJSON, look bool
	var data string
	c := &cobra.Command{
		Use:   "restore FILE",
		Short: "Everything back from a file; what was there is kept beside",
		Args:  cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			folder, err := recordsIn(data)
			if err != nil {
				return fail("%v", err)
			}
			m, err := copies.Read(args[0])
			if err != nil {
				return fail("%v", err)
			}
			out := io.Discard
			if !asJSON {
				out = c.OutOrStdout()
			}
			fmt.Fprintf(out, "%s was made on %s.\n", args[0], m.Made.Local().Format("2 January 2006, 15:04"))
			printContents(out, m)
			if !look {
				if err := restore(c.Context(), out, folder, args[0]); err != nil {
					return err
				}
			} else if now, err := folder.Contents(c.Context()); err == nil {
				fmt.Fprintf(out, "It would take the place of what is in %s:\n", folder)
				printContents(out, now)
			}
			if asJSON {
				return printJSON(c.OutOrStdout(), m.Contents)
			}
			return nil
		},
	}
	c.Flags().StringVar(&data, "data", "", "folder of your records (default: cressa in your data folder)")
	c.Flags().BoolVar(&asJSON, "json", false, "print one JSON object")
	c.Flags().BoolVar(&look, "look", false, "tell what is in the file and what it would replace, and change nothing")
	return c
}

// restore brings a copy back into a folder.
func restore(ctx context.Context, out io.Writer, folder copies.Folder, file string) error {
	if err := os.MkdirAll(string(folder), 0o700); err != nil {
		return fail("%v", err)
	}
	release, err := hold(string(folder), true)
	if err != nil {
		return fail("%v", err)
	}
	// One that was killed goes first.
	if _, err := folder.Finish(); err != nil {
		return errors.Join(fail("%v", err), release())
	}
	_, err = folder.Stage(ctx, file, nil)
	kept := ""
	if err == nil {
		kept, err = folder.Finish()
	}
	if err := errors.Join(err, folder.Tidy(), release()); err != nil {
		return fail("%v", err)
	}
	fmt.Fprintf(out, "It is back in %s.\n", folder)
	if kept != "" {
		fmt.Fprintf(out, "What was there before is kept in %s.\n", filepath.Join(string(folder), kept))
	}
	return nil
}

// recordsIn is the folder of the records that a command is about.
func recordsIn(data string) (copies.Folder, error) {
	if data != "" {
		return copies.Folder(data), nil
	}
	data, err := defaultData()
	if err != nil {
		return "", fmt.Errorf("%w; name a folder with --data", err)
	}
	return copies.Folder(data), nil
}

func printContents(out io.Writer, m copies.Manifest) {
	of := m.Contents
	fmt.Fprintf(out, "%d stones, %d diagrams, %d entries in the log, %d photos, %s\n", of.Stones, of.Diagrams, of.Events, of.Photos, words.Bytes(of.Bytes))
	if !m.Last.IsZero() {
		fmt.Fprintf(out, "The log runs from %s to %s.\n", m.First.Local().Format("2 January 2006"), m.Last.Local().Format("2 January 2006, 15:04"))
	}
}
