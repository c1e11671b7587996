package main

import (
	"context"
	"fmt"
	"net/http"
	"os"
	"os/exec"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/spf13/cobra"

	"draxel/demo"
	"draxel/store"
)

// Other devices are let in only when asked to, and only for a passcode.
func TestListening(t *testing.T) {
	for _, c := range []struct {
		o    serveOptions
		at   string
		lan  bool
		says string
	}{
		{serveOptions{port: 8321}, "127.0.0.1:8321", false, ""},
		{serveOptions{port: 8321, passcode: "brass screw"}, "127.0.0.1:8321", false, ""},
		{serveOptions{port: 8321, lan: true, passcode: "brass screw"}, ":8321", true, ""},
		{serveOptions{port: 8321, lan: true, passcode: "short"}, "", false, "at least 6 characters"},
		{serveOptions{port: 8321, lan: true}, "", false, "--lan wants a passcode"},
		{serveOptions{port: 8321, lan: true, tls: true, passcode: "brass screw"}, "127.0.0.1:8321", true, ""},
		{serveOptions{port: 8321, tls: true}, "", false, "wants --lan"},
		{serveOptions{port: 8321, lan: true, passcode: "brass screw", tlsCert: "a.pem"}, "", false, "wants --tls"},
	} {
		at, lan, err := c.o.listens()
		if at != c.at || (lan != nil) != c.lan || (err == nil) != (c.says == "") || err != nil &&
			!strings.Contains(err.Error(), c.says) {
			t.Errorf("%+v: %q, %v, %v", c.o, at, lan, err)
		}
	}
	if _, complaint, code := draxel(t, "serve", "--lan", "--data", t.TempDir()); code != 2 ||
		!strings.Contains(complaint, "--lan wants a passcode") {
		t.Errorf("let in without a passcode: %d, %q", code, complaint)
	}
}

// Every demonstration job is put into an empty store, once.
func TestTheDemonstrationIsPut(t *testing.T) {
	s, err := store.Open(t.Context(), t.TempDir(), time.Now)
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	all, err := demo.Jobs()
	if err != nil {
		t.Fatal(err)
	}
	for range 2 {
		if err := putDemo(t.Context(), s); err != nil {
			t.Fatal(err)
		}
		if jobs, err := s.Jobs(t.Context()); err != nil || len(jobs) != len(all) {
			t.Errorf("%d jobs of %d, %v", len(jobs), len(all), err)
		}
	}
}

// Stopped in the middle of its work the server finishes what it has begun or says that it is stopping, never that it
// made a mistake; a page that listens, or reads slowly, does not make an error of the exit.
func TestStoppingInTheMiddle(t *testing.T) {
	for range 3 {
		ctx, stop := context.WithCancel(t.Context())
		out := &said{pieces: make(chan string, 8)}
		c := &cobra.Command{}
		c.SetContext(ctx)
		c.SetOut(out)
		ended := make(chan error, 1)
		dir := t.TempDir()
		go func() { ended <- serve(ctx, c, serveOptions{data: dir, demo: true}) }()
		var url string
		if _, err := fmt.Sscanf(<-out.pieces, "Draxel is at %s", &url); err != nil {
			t.Fatal(err)
		}
		listening, err := http.Get(url + "/api/jobs/packhorse/events")
		if err != nil {
			t.Fatal(err)
		}
		defer listening.Body.Close()
		var asking sync.WaitGroup
		for range 8 {
			asking.Add(1)
			go func() {
				defer asking.Done()
				for {
					reply, err := http.Get(url + "/api/jobs/packhorse/match")
					if err != nil {
						return // nobody listens any more
					}
					if reply.StatusCode != http.StatusOK && reply.StatusCode != http.StatusServiceUnavailable {
						t.Errorf("answered %s", reply.Status)
					}
					_ = reply.Body.Close()
				}
			}()
		}
		time.Sleep(150 * time.Millisecond)
		stop()
		select {
		case err := <-ended:
			if err != nil {
				t.Errorf("it ended with %v", err)
			}
		case <-time.After(20 * time.Second):
			t.Fatal("it does not end")
		}
		asking.Wait()
	}
}

// said hands on what is written, a piece at a time.
type said struct{ pieces chan string }

func (s *said) Write(p []byte) (int, error) {
	s.pieces <- string(p)
	return len(p), nil
}

// A start with --demo that is killed leaves all of the demonstration or none, and the next start puts in what is
// missing.
func TestAKilledDemoIsWholeOrNotThere(t *testing.T) {
	whole, none := 0, 0
	for round := 0; (whole < 3 || none < 6) && round < 60; round++ {
		dir := t.TempDir()
		cmd := exec.Command(os.Args[0], "serve", "--demo", "--port", "0", "--data", dir)
		cmd.Env = append(os.Environ(), asProgram+"=1")
		if err := cmd.Start(); err != nil {
			t.Fatal(err)
		}
		time.Sleep(time.Duration(round*37%600) * time.Millisecond)
		_ = cmd.Process.Kill()
		_ = cmd.Wait()
		s, err := store.Open(t.Context(), dir, time.Now)
		if err != nil {
			t.Fatal(err)
		}
		jobs, err := s.Jobs(t.Context())
		switch {
		case err != nil:
			t.Fatal(err)
		case len(jobs) == 0:
			none++
		case len(jobs) == len(demo.IDs()):
			whole++
		default:
			t.Errorf("%d of %d jobs are there", len(jobs), len(demo.IDs()))
		}
		if err := s.Close(); err != nil {
			t.Fatal(err)
		}
	}
	t.Logf("killed before %d times, after %d times", none, whole)
}
