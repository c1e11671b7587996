package main

import (
	"bytes"
	"net"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"draxel/core/stored"
	"draxel/store"
)

// finds lets the doctor look, and gives what it says of one thing.
func finds(t *testing.T, p patient, what string) string {
	t.Helper()
	var out bytes.Buffer
	_ = p.examine(t.Context(), &out)
	for line := range strings.Lines(out.String()) {
		if f := strings.Fields(line); len(f) > 1 && f[1] == what {
			return line
		}
	}
	t.Fatalf("nothing is said of the %s: %s", what, out.String())
	return ""
}

func says(t *testing.T, got, mark string, words ...string) {
	t.Helper()
	if !strings.HasPrefix(got, mark) {
		t.Errorf("%q is not marked %s", got, mark)
	}
	for _, w := range words {
		if !strings.Contains(got, w) {
			t.Errorf("%q does not say %q", got, w)
		}
	}
}

// What is right is called right, and what is wrong is named with what to do: the folder, the port, the clock.
func TestTheDoctor(t *testing.T) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	port := l.Addr().(*net.TCPAddr).Port
	fresh := filepath.Join(t.TempDir(), "not", "there")
	says(t, finds(t, patient{fresh, port}, "folder"), isRight, "nothing in it yet")
	if _, err := os.Stat(filepath.Dir(fresh)); err == nil {
		t.Error("the doctor made the folder")
	}
	go func() {
		for {
			c, err := l.Accept()
			if err != nil {
				return
			}
			_ = c.Close()
		}
	}()
	says(t, finds(t, patient{fresh, port}, "port"), isWrong, "another program", "--port")
	_ = l.Close()
	says(t, finds(t, patient{fresh, port}, "port"), isRight, "is free")
	says(t, finds(t, patient{fresh, port}, "disk"), "", "GB are free")

	dir := t.TempDir()
	ahead := time.Now().Add(48 * time.Hour)
	s, err := store.Open(t.Context(), dir, func() time.Time { return ahead })
	if err != nil {
		t.Fatal(err)
	}
	if _, err := s.Create(t.Context(), "Ines", store.NewJob{ID: "j", Request: "r",
		Job: stored.Job{Title: "x"}}); err != nil {
		t.Fatal(err)
	}
	says(t, finds(t, patient{dir, port}, "folder"), isRight, "1 job") // while it is at work
	says(t, finds(t, patient{dir, port}, "clock"), isWrong, ahead.Format("2006-01-02"))
	if err := s.Close(); err != nil {
		t.Fatal(err)
	}
	if err := os.WriteFile(filepath.Join(dir, store.File), []byte("no database at all, whatever its name"),
		0o600); err != nil {
		t.Fatal(err)
	}
	says(t, finds(t, patient{dir, port}, "folder"), isWrong, "cannot be read")
	out, _, code := draxel(t, "doctor", "--data", dir)
	if code != 2 || !strings.Contains(out, isWrong+" folder") {
		t.Errorf("exit %d: %s", code, out)
	}
}
