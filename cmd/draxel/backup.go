package main

import (
	"errors"
	"fmt"
	"os"
	"time"

	"github.com/spf13/cobra"

	"draxel/store"
)

func backupCommand() *cobra.Command {
	var data, out string
	c := &cobra.Command{
		Use:   "backup --out draxel-backup.db",
		Short: "Write a consistent copy of all jobs to one file",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) (err error) {
			s, err := store.Open(cmd.Context(), data, time.Now)
			if err != nil {
				return err
			}
			defer func() { err = errors.Join(err, s.Close()) }()
			f, err := os.OpenFile(out, os.O_CREATE|os.O_EXCL|os.O_WRONLY, 0o600)
			if err != nil {
				return fmt.Errorf("backup: %w", err)
			}
			return errors.Join(s.Backup(cmd.Context(), f), f.Close())
		},
	}
	c.Flags().StringVar(&data, "data", defaultData(), "folder of the jobs")
	c.Flags().StringVar(&out, "out", "", "file to write; it must not exist")
	if err := c.MarkFlagRequired("out"); err != nil {
		panic(err)
	}
	return c
}
