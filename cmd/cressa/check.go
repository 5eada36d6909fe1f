package main

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"time"

	"github.com/spf13/cobra"

	"cressa/photos"
	"cressa/sqlite"
	"cressa/words"
	"cressa/workshop"
)

type checkReport struct {
	Problems []checkProblem `json:"problems"`
}

type checkProblem struct {
	What       string `json:"what"`
	Where      string `json:"where"`
	Repairable bool   `json:"repairable"`
}

func checkCommand() *cobra.Command {
	var asJSON, repair bool
	var data string
	c := &cobra.Command{
		Use:   "check",
		Short: "Whether the records and the photos are whole",
		Args:  cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			found, err := check(c.Context(), data, repair)
			if err != nil {
				return fail("%v", err)
			}
			r := checkReport{Problems: []checkProblem{}}
			left := 0
			for _, f := range found {
				r.Problems = append(r.Problems, checkProblem(f))
				if !f.Repairable || !repair {
					left++
				}
			}
			if asJSON {
				if err := printJSON(c.OutOrStdout(), r); err != nil {
					return err
				}
			} else {
				for _, f := range found {
					fmt.Fprintf(c.OutOrStdout(), "%s: %s\n", f.Where, words.Finding(f.What))
				}
				fmt.Fprintln(c.OutOrStdout(), words.Checked(len(found), len(found)-left))
			}
			if left > 0 {
				return fail("%d of the problems stay; what is derived is made anew with --repair, for the rest take a backup", left)
			}
			return nil
		},
	}
	c.Flags().StringVar(&data, "data", "", "folder of your records (default: cressa in your data folder)")
	c.Flags().BoolVar(&repair, "repair", false, "make anew what is derived")
	c.Flags().BoolVar(&asJSON, "json", false, "print one JSON object")
	return c
}

// check looks at the records in a folder. It changes nothing but, with repair, what is
// derived.
func check(ctx context.Context, data string, repair bool) (found []workshop.Finding, err error) {
	if data == "" {
		if data, err = defaultData(); err != nil {
			return nil, err
		}
	}
	file := filepath.Join(data, databaseFile)
	if _, err := os.Stat(file); errors.Is(err, fs.ErrNotExist) {
		return nil, fmt.Errorf("%s holds no records; name their folder with --data", data)
	}
	store, err := sqlite.Open(ctx, file)
	if err != nil {
		return nil, err
	}
	defer func() { err = errors.Join(err, store.Close()) }()
	if found, err = store.Check(ctx); err != nil {
		return found, err
	}
	states, err := workshop.New(store, time.Now).CheckStates(ctx, repair)
	if err != nil {
		return found, err
	}
	found = append(found, states...)
	hashes, err := store.PhotoHashes(ctx)
	for _, hash := range hashes {
		if what := photos.Dir(filepath.Join(data, photoFolder)).Check(hash); what != "" {
			found = append(found, workshop.Finding{What: what, Where: "photo " + hash})
		}
	}
	return found, err
}
