package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"time"

	"github.com/shirou/gopsutil/v4/disk"
	"github.com/spf13/cobra"

	"draxel/store"
)

func doctorCommand() *cobra.Command {
	var x patient
	c := &cobra.Command{
		Use:   "doctor",
		Short: "Say what is missing or wrong on this machine: folder, port, disk, clock, browser",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			return x.examine(cmd.Context(), cmd.OutOrStdout())
		},
	}
	c.Flags().StringVar(&x.data, "data", defaultData(), "folder of the jobs")
	c.Flags().IntVar(&x.port, "port", usualPort, "port that Draxel is to listen on")
	return c
}

// patient is what is looked at.
type patient struct {
	data string
	port int
}

// diagnosis is what was found of one thing: it is right, is missing without harm, or is wrong.
type diagnosis struct {
	mark, what, says string
}

const (
	isRight   = "✓"
	isMissing = "–"
	isWrong   = "✕"
)

// examine says of each thing how it is. It fails where one is wrong.
func (p patient) examine(ctx context.Context, out io.Writer) error {
	all := []diagnosis{p.folder(ctx), p.listening(ctx), p.room(), p.clock(ctx), browserThere(), pageBuilt()}
	wrong := 0
	for _, d := range all {
		if d.mark == isWrong {
			wrong++
		}
		fmt.Fprintf(out, "%s %-8s %s\n", d.mark, d.what, d.says)
	}
	if wrong > 0 {
		return fmt.Errorf("%d of %d things are wrong", wrong, len(all))
	}
	return nil
}

// folder opens the jobs as a start would, or says why that is not possible. Where nothing is there nothing is made.
func (p patient) folder(ctx context.Context) diagnosis {
	d := diagnosis{isRight, "folder", p.data}
	if _, err := os.Stat(filepath.Join(p.data, store.File)); errors.Is(err, os.ErrNotExist) {
		if err := writable(nearest(p.data)); err != nil {
			return diagnosis{isWrong, d.what, "no jobs can be kept in " + p.data + ": " + err.Error()}
		}
		d.says += ": nothing in it yet, and it can be made"
		return d
	}
	s, err := store.Look(ctx, p.data)
	switch {
	case errors.Is(err, store.ErrNewer):
		return diagnosis{isWrong, d.what, "the jobs in " + p.data + " were written by a newer Draxel: take that one"}
	case err != nil:
		return diagnosis{isWrong, d.what, "the jobs in " + p.data + " cannot be read: " + err.Error()}
	}
	if err := writable(p.data); err != nil {
		return diagnosis{isWrong, d.what, err.Error()}
	}
	d.says = fmt.Sprintf("%s: %d jobs", p.data, s.Jobs)
	if s.Jobs == 1 {
		d.says = p.data + ": 1 job"
	}
	if s.Older {
		d.says += ", which the next start brings up to date after making a copy"
	}
	return d
}

// nearest gives the folder that is there above one that may not be.
func nearest(dir string) string {
	for {
		if _, err := os.Stat(dir); err == nil || dir == filepath.Dir(dir) {
			return dir
		}
		dir = filepath.Dir(dir)
	}
}

func writable(dir string) error {
	f, err := os.CreateTemp(dir, "draxel-doctor-*.part")
	if err != nil {
		return fmt.Errorf("nothing can be written in %s: whose is it, and is the disk mounted to be written?", dir)
	}
	return errors.Join(f.Close(), os.Remove(f.Name()))
}

// listening says whether the port is free, or whose it is.
func (p patient) listening(ctx context.Context) diagnosis {
	address := fmt.Sprintf("127.0.0.1:%d", p.port)
	l, err := (&net.ListenConfig{}).Listen(ctx, "tcp", address)
	if err == nil {
		return diagnosis{isRight, "port", fmt.Sprintf("%d is free", p.port) + closed(l)}
	}
	ctx, cancel := context.WithTimeout(ctx, 2*time.Second)
	defer cancel()
	r, err := http.NewRequestWithContext(ctx, http.MethodGet, "http://"+address+"/api/kinds", nil)
	if err == nil {
		var reply *http.Response
		if reply, err = http.DefaultClient.Do(r); err == nil {
			defer func() { _ = reply.Body.Close() }()
			head, _ := io.ReadAll(io.LimitReader(reply.Body, 64))
			if strings.Contains(string(head), `"kinds"`) || reply.StatusCode == http.StatusUnauthorized {
				return diagnosis{isRight, "port", fmt.Sprintf("%d: Draxel runs there already, at http://%s", p.port, address)}
			}
		}
	}
	return diagnosis{isWrong, "port",
		fmt.Sprintf("%d is taken by another program, or is not allowed: choose another with "+
			"--port", p.port)}
}

func closed(c io.Closer) string {
	if err := c.Close(); err != nil {
		return " (" + err.Error() + ")"
	}
	return ""
}

// leastRoom is how much of a disk has to be free for a workshop's photographs and a copy before an update.
const leastRoom = 1 << 30

func (p patient) room() diagnosis {
	use, err := disk.Usage(nearest(p.data))
	if err != nil {
		return diagnosis{isMissing, "disk", "how much is free cannot be told: " + err.Error()}
	}
	d := diagnosis{isRight, "disk", fmt.Sprintf("%.1f GB are free", float64(use.Free)/1e9)}
	if use.Free < leastRoom {
		d.mark = isWrong
		d.says += ": less than a gigabyte is soon full of photographs"
	}
	return d
}

// clock says whether the machine's clock can be right: it is not before what was written down last.
func (p patient) clock(ctx context.Context) diagnosis {
	now := time.Now()
	d := diagnosis{isRight, "clock", now.Format("2006-01-02 15:04 MST")}
	if s, err := store.Look(ctx, p.data); err == nil && s.Last.After(now.Add(time.Minute)) {
		return diagnosis{isWrong, d.what, d.says + ", and something was written down on " +
			s.Last.Format("2006-01-02 15:04") + ": put it right, since times stand in the papers"}
	}
	if now.Year() < 2026 {
		return diagnosis{isWrong, d.what, d.says + ": that is before there was a Draxel"}
	}
	return d
}

// browserThere says with what a page is opened.
func browserThere() diagnosis {
	for _, name := range []string{"xdg-open", "open", "rundll32", "chromium", "firefox"} {
		if path, err := exec.LookPath(name); err == nil {
			return diagnosis{isRight, "browser", "opened by " + path}
		}
	}
	return diagnosis{isMissing, "browser", "none is found: open the address that is printed, on this machine or with " +
		"--lan " +
		"on another"}
}
