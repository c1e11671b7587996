package main

import (
	"bytes"
	"encoding/csv"
	"encoding/json"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"testing"
	"time"

	"draxel/store"
)

const asProgram = "DRAXEL_TEST_AS_PROGRAM"

// TestMain lets the test binary be the program itself, so that its exit codes can be seen.
func TestMain(m *testing.M) {
	if os.Getenv(asProgram) != "" {
		main()
		os.Exit(0)
	}
	os.Exit(m.Run())
}

func draxel(t *testing.T, args ...string) (out, complaint string, code int) {
	t.Helper()
	cmd := exec.Command(os.Args[0], args...)
	cmd.Env = append(os.Environ(), asProgram+"=1")
	var stdout, stderr bytes.Buffer
	cmd.Stdout, cmd.Stderr = &stdout, &stderr
	if err := cmd.Run(); err != nil && cmd.ProcessState == nil {
		t.Fatal(err)
	}
	return stdout.String(), stderr.String(), cmd.ProcessState.ExitCode()
}

func write(t *testing.T, name, text string) string {
	t.Helper()
	path := filepath.Join(t.TempDir(), name)
	if err := os.WriteFile(path, []byte(text), 0o600); err != nil {
		t.Fatal(err)
	}
	return path
}

const (
	from = "Connector,Pin,Color,Circuit,Function\nA,1,RED,101,Fuel Injector 1 Control\nA,2,BLU,102,Fuel Injector 2 " +
		"Control\nA,3,,,not used\nA,4,TAN,104,Radiator Fan Relay Control\nA,5,RED,105,Battery Positive " +
		"Voltage\nA,6,WHT,106,zqx vgk\n"
	to = "Plug;Contact;Designation\nA;1;Injection valve cyl. 1, control\nA;7;Injection valve cyl. 2, " +
		"control\nP;3;Coolant temperature sender\n"
)

func TestMatchCSV(t *testing.T) {
	out, complaint, code := draxel(t, "match", "--from", write(t, "a.csv", from), "--to", write(t, "b.csv", to),
		"--format", "csv")
	if code != 0 || complaint != "" {
		t.Fatalf("exit %d: %s", code, complaint)
	}
	rows, err := csv.NewReader(strings.NewReader(out)).ReadAll()
	if err != nil {
		t.Fatal(err)
	}
	if got := strings.Join(rows[0],
		","); got != "from_connector,from_cavity,verdict,to_connector,to_cavity,"+
		"probability,runner_up_connector,runner_up_cavity,evidence" {
		t.Errorf("heading %s", got)
	}
	var got []string
	for _, r := range rows[1:] {
		got = append(got, strings.Join(r[:5], " "))
		if p, err := strconv.ParseFloat(r[5], 64); err != nil || p < 0 || p > 1 {
			t.Errorf("probability %q", r[5])
		}
	}
	want := "A 1 stays A 1|A 2 moves A 7|A 4 goes  |A 5 needs-source  |A 6 undecided P 3|  needs-wire P 3"
	if strings.Join(got, "|") != want {
		t.Errorf("verdicts\n%s\nwant\n%s", strings.Join(got, "|"), want)
	}
	if again, _, _ := draxel(t, "match", "--from", write(t, "a.csv", from), "--to", write(t, "b.csv", to), "--format",
		"csv"); again != out {
		t.Error("the same input gave another output")
	}
}

func TestMatchJSONAndTable(t *testing.T) {
	a, b := write(t, "a.csv", from), write(t, "b.csv", to)
	out, _, code := draxel(t, "match", "--from", a, "--to", b, "--format", "json")
	var lines []line
	if err := json.Unmarshal([]byte(out), &lines); err != nil || code != 0 || len(lines) != 6 || lines[1].ToCavity != "7" {
		t.Errorf("exit %d, %v: %+v", code, err, lines)
	}
	out, _, code = draxel(t, "match", "--from", a, "--to", b)
	if code != 0 || !strings.Contains(out, "A2    moves") || !strings.Contains(out, "words +") {
		t.Errorf("exit %d:\n%s", code, out)
	}
}

func TestOneClearLine(t *testing.T) {
	a := write(t, "a.csv", from)
	for name, args := range map[string][]string{
		"no such file":     {"match", "--from", "none.csv", "--to", a},
		"a folder":         {"match", "--from", t.TempDir(), "--to", a},
		"not a table":      {"match", "--from", a, "--to", write(t, "b.csv", "\x7fELF\x00\x01")},
		"no cavity column": {"match", "--from", a, "--to", write(t, "c.csv", "hello, you\nthere, too")},
		"empty":            {"match", "--from", a, "--to", write(t, "d.csv", "")},
		"unknown format":   {"match", "--from", a, "--to", a, "--format", "pdf"},
		"a missing flag":   {"match", "--from", a},
		"no such command":  {"burn"},
	} {
		t.Run(name, func(t *testing.T) {
			out, complaint, code := draxel(t, args...)
			if code != 2 || out != "" || strings.Count(complaint, "\n") != 1 || !strings.HasPrefix(complaint, "draxel: ") {
				t.Errorf("exit %d, out %q, complaint %q", code, out, complaint)
			}
		})
	}
}

func TestBackup(t *testing.T) {
	data, folder := t.TempDir(), t.TempDir()
	out := filepath.Join(folder, "copy.db")
	if _, complaint, code := draxel(t, "backup", "--data", data, "--out", out); code != 2 ||
		!strings.Contains(complaint, "no jobs") {
		t.Errorf("a folder without a database: exit %d, %s", code, complaint)
	}
	if made, err := os.ReadDir(data); err != nil || len(made) > 0 {
		t.Errorf("asked for a copy it made %v, %v", made, err)
	}
	s, err := store.Open(t.Context(), data, time.Now)
	if err != nil {
		t.Fatal(err)
	}
	if err := s.Close(); err != nil {
		t.Fatal(err)
	}
	if _, complaint, code := draxel(t, "backup", "--data", data, "--out", out); code != 0 {
		t.Fatalf("exit %d: %s", code, complaint)
	}
	if text, err := os.ReadFile(out); err != nil || !bytes.HasPrefix(text, []byte("SQLite format 3")) {
		t.Errorf("%.20q, %v", text, err)
	}
	if _, _, code := draxel(t, "backup", "--data", data, "--out", out); code != 2 {
		t.Errorf("a backup was overwritten: exit %d", code)
	}
	if left, err := os.ReadDir(folder); err != nil || len(left) != 1 {
		t.Errorf("beside the copy lie %v, %v", left, err)
	}
}
