package main

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
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
				return fail("%d of the problems stay; --repair makes anew what is derived, for the rest bring back a copy with “cressa restore”", left)
			}
			return nil
		},
	}
	c.Flags().StringVar(&data, "data", "", "folder of your records (default: cressa in your data folder)")
	c.Flags().BoolVar(&repair, "repair", false, "make anew what is derived, and set aside what belongs to nothing; stop Cressa before")
	c.Flags().BoolVar(&asJSON, "json", false, "print one JSON object")
	return c
}

// check looks at the records in a folder. It changes nothing but, with repair, what is
// derived, and sets aside what belongs to nothing.
func check(ctx context.Context, data string, repair bool) (found []workshop.Finding, err error) {
	folder, err := recordsIn(data)
	if err != nil {
		return nil, err
	}
	data = string(folder)
	file := filepath.Join(data, databaseFile)
	open := sqlite.OpenToRead
	if _, err := os.Stat(file); errors.Is(err, fs.ErrNotExist) {
		return nil, fmt.Errorf("%s holds no records; name their folder with --data", data)
	}
	if repair {
		release, held := hold(data, true)
		if held != nil {
			return nil, held
		}
		defer func() { err = errors.Join(err, release()) }()
		found, err = sqlite.Repair(ctx, file)
		switch {
		case err == nil:
			open = sqlite.Open
		case !errors.As(err, &sqlite.Refusal{}): // otherwise what can be read is looked at all the same
			return found, err
		}
	}
	store, err := open(ctx, file)
	refusal := sqlite.Refusal{}
	switch {
	case errors.As(err, &refusal):
		return append(found, workshop.Finding{What: string(refusal.Why), Where: refusal.File, Repairable: refusal.Repairable()}), nil
	case err != nil:
		return nil, err
	}
	defer func() { err = errors.Join(err, store.Close()) }()
	records, err := checkRecords(ctx, store, repair && !store.Reads())
	if err != nil {
		return append(found, records...), err
	}
	pictures, err := checkPhotos(ctx, store, photos.Dir(filepath.Join(data, photoFolder)), repair && !store.Reads())
	return slices.Concat(found, records, pictures), err
}

func checkRecords(ctx context.Context, store *sqlite.Store, repair bool) ([]workshop.Finding, error) {
	found, err := store.Check(ctx)
	if err != nil {
		return found, err
	}
	for _, f := range found {
		if f.What == sqlite.FileDamaged {
			return found, nil // what else is wrong follows from that
		}
	}
	if repair {
		if err := store.SetAside(ctx); err != nil {
			return found, err
		}
	}
	states, err := workshop.New(store, time.Now).CheckStates(ctx, repair)
	return append(found, states...), err
}

// checkPhotos holds the pictures against their records, and the files against those.
func checkPhotos(ctx context.Context, store *sqlite.Store, pictures photos.Dir, repair bool) ([]workshop.Finding, error) {
	hashes, err := store.PhotoHashes(ctx)
	if errors.Is(err, workshop.ErrDamaged) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	var found []workshop.Finding
	for _, hash := range hashes {
		if what := pictures.Check(hash); what != "" {
			found = append(found, workshop.Finding{What: what, Where: "photo " + hash})
		}
	}
	orphans, err := pictures.Orphans(hashes)
	for _, name := range orphans {
		found = append(found, workshop.Finding{What: photos.Orphaned, Where: "photo " + name, Repairable: true})
		if repair {
			err = errors.Join(err, pictures.SetAside(name))
		}
	}
	return found, err
}
