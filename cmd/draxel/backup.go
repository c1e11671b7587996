package main

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"time"

	"github.com/spf13/cobra"

	"draxel/store"
)

func backupCommand() *cobra.Command {
	var data, out string
	c := &cobra.Command{
		Use:   "backup --out draxel-backup.db",
		Short: "Write a consistent copy of all jobs to one file, also while Draxel is running",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			if _, err := os.Stat(filepath.Join(data, store.File)); err != nil {
				return fmt.Errorf("backup: there are no jobs in %s: %w", data, err)
			}
			if _, err := os.Lstat(out); !errors.Is(err, fs.ErrNotExist) {
				return fmt.Errorf("backup: %s is there already", out)
			}
			return backup(cmd.Context(), data, out)
		},
	}
	c.Flags().StringVar(&data, "data", defaultData(), "folder of the jobs")
	c.Flags().StringVar(&out, "out", "", "file to write; it must not exist")
	if err := c.MarkFlagRequired("out"); err != nil {
		panic(err)
	}
	return c
}

// aDay is how old a half written copy is when nobody writes at it any more.
const aDay = 24 * time.Hour

var halfWritten = regexp.MustCompile(`^draxel.*\.db\.[0-9]+\.part$`) // what others keep there is theirs

// clearParts takes away what backups left half written that were killed.
func clearParts(dir string) error {
	files, err := os.ReadDir(dir)
	if err != nil {
		return fmt.Errorf("backup: %w", err)
	}
	for _, f := range files {
		info, e := f.Info()
		if e == nil && halfWritten.MatchString(f.Name()) && time.Since(info.ModTime()) > aDay {
			err = errors.Join(err, os.Remove(filepath.Join(dir, f.Name())))
		}
	}
	return err
}

// backup writes beside the file that is wanted and gives it its name when it is whole: a full disk leaves nothing.
func backup(ctx context.Context, data, out string) (err error) {
	if err := clearParts(filepath.Dir(out)); err != nil {
		return err
	}
	f, err := os.CreateTemp(filepath.Dir(out), filepath.Base(out)+".*.part")
	if err != nil {
		return fmt.Errorf("backup: %w", err)
	}
	part := f.Name()
	defer func() {
		if err != nil {
			err = errors.Join(err, os.Remove(part))
		}
	}()
	if err := errors.Join(store.Copy(ctx, data, f), f.Sync(), f.Close()); err != nil {
		return fmt.Errorf("backup: %w", err)
	}
	if err := os.Link(part, out); err != nil { // unlike a rename it takes nobody's place
		return fmt.Errorf("backup: %w", err)
	}
	return os.Remove(part)
}
