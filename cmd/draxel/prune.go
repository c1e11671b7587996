package main

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"draxel/exchange"
	"draxel/store"
)

func pruneCommand() *cobra.Command {
	var data, before, keep string
	c := &cobra.Command{
		Use:   "prune --before 2026-01-01 --keep FOLDER",
		Short: "Take the detail out of old changes, when every job has been kept as a job file",
		Long: "Who changed what, when and why is kept for ever. What it was before is needed to take a change back, " +
			"and of " +
			"changes before a day it is removed; the jobs stay as they are. Before that every job is written to a " +
			"folder as " +
			"a job file. Draxel must not be running.",
		Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) (err error) {
			day, err := time.Parse(time.DateOnly, before)
			if err != nil {
				return fmt.Errorf("--before is a date: 2026-01-01")
			}
			s, err := store.Open(cmd.Context(), data, time.Now)
			if err != nil {
				return err
			}
			defer func() { err = errors.Join(err, s.Close()) }()
			n, err := keepJobs(cmd.Context(), s, keep)
			if err != nil {
				return err
			}
			pruned, err := s.Prune(cmd.Context(), day)
			if err != nil {
				return err
			}
			fmt.Fprintf(
				cmd.OutOrStdout(),
				"%d jobs are kept in %s; %d changes before %s have no detail any more.\n",
				n,
				keep,
				pruned,
				before,
			)
			return nil
		},
	}
	c.Flags().StringVar(&data, "data", defaultData(), "folder of the jobs")
	c.Flags().StringVar(&before, "before", "", "day before which changes lose their detail")
	c.Flags().StringVar(&keep, "keep", "", "folder for the job files")
	for _, flag := range []string{"before", "keep"} {
		if err := c.MarkFlagRequired(flag); err != nil {
			panic(err)
		}
	}
	return c
}

// keepJobs writes every job as a job file into a folder, and gives how many.
func keepJobs(ctx context.Context, s *store.Store, dir string) (n int, err error) {
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return 0, fmt.Errorf("keep the jobs: %w", err)
	}
	jobs, err := s.Jobs(ctx)
	if err != nil {
		return 0, err
	}
	for _, j := range jobs {
		state, err := s.Load(ctx, j.ID)
		if err != nil {
			return n, err
		}
		ids := make([]string, len(state.Job.Photos))
		for i := range state.Job.Photos {
			ids[i] = state.Job.Photos[i].ID
		}
		name := strings.Map(func(r rune) rune {
			if strings.ContainsRune(`/\\:*?"<>|`, r) || r < 32 {
				return '_'
			}
			return r
		}, j.Head.Title)
		f, err := os.OpenFile(
			filepath.Join(dir, fmt.Sprintf("%.60s %s.draxel.json", name, j.ID)),
			os.O_CREATE|os.O_EXCL|os.O_WRONLY,
			0o600,
		)
		if err != nil {
			return n, fmt.Errorf("keep the jobs: %w", err)
		}
		err = exchange.StreamJob(f, state.Job, ids, func(id string) (exchange.Picture, error) {
			p, err := s.Photo(ctx, j.ID, id)
			if errors.Is(err, store.ErrNoPhoto) {
				return exchange.Picture{}, exchange.ErrNoPicture
			}
			return exchange.Picture{Data: p.Picture, Thumb: p.Thumb}, err
		})
		if err = errors.Join(err, f.Sync(), f.Close()); err != nil {
			return n, fmt.Errorf("keep %s: %w", j.Head.Title, err)
		}
		n++
	}
	return n, nil
}
