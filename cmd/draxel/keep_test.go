package main

import (
	"io"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/spf13/cobra"

	"draxel/core/stored"
	"draxel/demo"
	"draxel/exchange"
	"draxel/server/desk"
	"draxel/store"
)

// The passcode comes from a file, from the environment or from the line, which warns; it stands in no help.
func TestWhereThePasscodeComesFrom(t *testing.T) {
	t.Setenv(passcodeVariable, "from the air")
	out, _, _ := draxel(t, "serve", "--help")
	if strings.Contains(out, "from the air") {
		t.Error("the passcode stands in the help")
	}
	for want, o := range map[string]serveOptions{
		"from a file":  {lan: true, passcodeFile: write(t, "code", "from a file\r\nand more\n")},
		"from the air": {lan: true},
		"as it is":     {lan: true, passcode: "as it is"},
		"":             {},
	} {
		cmd := &cobra.Command{}
		var said strings.Builder
		cmd.SetErr(&said)
		cmd.SetOut(io.Discard)
		if err := o.asked(cmd); err != nil || o.passcode != want {
			t.Errorf("%q, %v; it is %q", o.passcode, err, want)
		}
		if warned := strings.Contains(said.String(), "list of processes"); warned != (want == "as it is") {
			t.Errorf("%q: warned %v", want, warned)
		}
	}
	if err := (&serveOptions{lan: true, passcodeFile: "nowhere"}).asked(&cobra.Command{}); err == nil {
		t.Error("a file that is not there is a passcode")
	}
	if len("from a file") < desk.LeastPasscode {
		t.Error("too short to say anything")
	}
}

// A copy is taken while Draxel works, and opens; old detail is pruned only when every job has been kept, and what was
// kept is read again.
func TestACopyWhileItWorksAndPruning(t *testing.T) {
	data, folder := t.TempDir(), t.TempDir()
	s, err := store.Open(t.Context(), data, time.Now)
	if err != nil {
		t.Fatal(err)
	}
	if err := putDemo(t.Context(), s); err != nil {
		t.Fatal(err)
	}
	out := filepath.Join(folder, "copy.db")
	if _, complaint, code := draxel(t, "backup", "--data", data, "--out", out); code != 0 {
		t.Fatalf("exit %d: %s", code, complaint)
	}
	if _, complaint, code := draxel(t, "prune", "--data", data, "--before", "2099-01-01", "--keep",
		filepath.Join(folder, "kept")); code != 2 ||
		!strings.Contains(complaint, "another Draxel") {
		t.Errorf("pruned while it works: exit %d, %s", code, complaint)
	}
	if err := s.Close(); err != nil {
		t.Fatal(err)
	}
	restored := t.TempDir()
	text, err := os.ReadFile(out)
	if err != nil {
		t.Fatal(err)
	}
	if err := os.WriteFile(filepath.Join(restored, store.File), text, 0o600); err != nil {
		t.Fatal(err)
	}
	kept := filepath.Join(folder, "kept")
	said, complaint, code := draxel(t, "prune", "--data", restored, "--before", "2099-01-01", "--keep", kept)
	if code != 0 || !strings.Contains(said, "3 jobs are kept") {
		t.Fatalf("exit %d: %s%s", code, said, complaint)
	}
	files, err := os.ReadDir(kept)
	if err != nil || len(files) != len(demo.IDs()) {
		t.Fatalf("%v, %v", files, err)
	}
	var titles []string
	for _, f := range files {
		data, err := os.ReadFile(filepath.Join(kept, f.Name()))
		if err != nil {
			t.Fatal(err)
		}
		var j stored.Job
		if j, _, err = exchange.ReadJob(data); err != nil {
			t.Fatal(err)
		}
		titles = append(titles, j.Title)
	}
	if all := strings.Join(titles, ", "); !strings.Contains(all, "Sorrel refit") ||
		!strings.Contains(all, "Packhorse fuse block") {
		t.Errorf("kept are %s", all)
	}
	if _, _, code := draxel(t, "prune", "--data", restored, "--before", "2099-01-01", "--keep", kept); code != 2 {
		t.Error("what was kept before is overwritten")
	}
	for _, bad := range []string{"tomorrow", ""} {
		if _, _, code := draxel(t, "prune", "--data", restored, "--before", bad, "--keep", kept+bad+"x"); code != 2 {
			t.Errorf("--before %q is taken", bad)
		}
	}
}

// A connector that calls itself a formula, with the narrow sign or the wide one, is none in the CSV of the shell.
func TestTheShellGuardsNames(t *testing.T) {
	from := write(t, "a.csv", "Connector,Pin,Colour,Function\n=1+1,1,BK,Ground\n＝cmd,1,RD,Battery\n")
	to := write(t, "b.csv", "Connector,Pin,Colour,Function\nA,1,BK,Ground\nA,2,RD,Battery\n")
	out, complaint, code := draxel(t, "match", "--from", from, "--to", to, "--format", "csv")
	if code != 0 {
		t.Fatal(complaint)
	}
	for _, line := range strings.Split(out, "\n") {
		if strings.HasPrefix(line, "=") || strings.HasPrefix(line, "＝") {
			t.Errorf("%q is a formula", line)
		}
	}
	if !strings.Contains(out, "'=1+1") || !strings.Contains(out, "'＝cmd") {
		t.Errorf("the names are not there: %s", out)
	}
}
