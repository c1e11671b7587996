// Package draxel holds what is true of the whole house; its programs and packages are below it.
package draxel

import (
	"encoding/json"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
)

// rank gives a package's floor in the house. A package may import packages of lower floors only: imports point one
// way.
func rank(path string) (floor int, known bool) {
	switch p := strings.TrimPrefix(path, "draxel/"); {
	case p == "core/colour", p == "core/size", p == "core/signal", p == "core/part", p == "core/pack", p == "core/merge":
		return 0, true
	case p == "core/finding", p == "core/terminal", p == "core/stock":
		return 1, true
	case p == "core/face", p == "core/stagger":
		return 2, true
	case p == "core/harness":
		return 3, true
	case p == "core/work", p == "core/circuit", p == "core/route":
		return 4, true
	case p == "core/stored":
		return 8, true
	case p == "core/fact":
		return 9, true
	case p == "core/wanted":
		return 10, true
	case p == "core/live", p == "core/repin":
		return 11, true
	case p == "core/proof":
		return 12, true
	case p == "core/plan":
		return 13, true
	case p == "core/papers":
		return 14, true
	case p == "core/network", p == "core/diagram":
		return 5, true
	case p == "core/vehicle":
		return 6, true
	case strings.HasPrefix(p, "core/"): // the stages
		return 7, true
	case p == "exchange", p == "standins":
		return 15, true
	case p == "store", p == "demo":
		return 16, true
	case p == "server/desk":
		return 17, true
	case p == "server/jobsapi": // it looks at what all stages answer
		return 19, true
	case strings.HasPrefix(p, "server/"): // the stages
		return 18, true
	case p == "server":
		return 20, true
	case strings.HasPrefix(p, "cmd/"), p == "browser", strings.HasPrefix(p, "scripts/"):
		return 21, true
	}
	return 0, false
}

type goPackage struct {
	ImportPath string
	Imports    []string
}

func packages(t *testing.T) []goPackage {
	t.Helper()
	out, err := exec.Command("go", "list", "-json=ImportPath,Imports", "./...").Output()
	if err != nil {
		t.Fatal(err)
	}
	var all []goPackage
	for d := json.NewDecoder(strings.NewReader(string(out))); ; {
		var p goPackage
		if err := d.Decode(&p); err == io.EOF {
			return all
		} else if err != nil {
			t.Fatal(err)
		}
		all = append(all, p)
	}
}

func TestImportsPointOneWay(t *testing.T) {
	seen := 0
	for _, p := range packages(t) {
		from, ok := rank(p.ImportPath)
		if !ok {
			if p.ImportPath != "draxel" {
				t.Errorf("%s has no floor in the house: give it one here", p.ImportPath)
			}
			continue
		}
		for _, imported := range p.Imports {
			if !strings.HasPrefix(imported, "draxel/") {
				continue
			}
			seen++
			to, ok := rank(imported)
			if !ok || to >= from {
				t.Errorf("%s imports %s, which is not below it", p.ImportPath, imported)
			}
		}
	}
	if seen < 30 {
		t.Errorf("only %d imports seen: the test looks in the wrong place", seen)
	}
}

// The core does no I/O, reads no clock, and knows neither HTTP nor SQL nor a database.
func TestTheCoreIsPure(t *testing.T) {
	forbidden := []string{
		"os",
		"io/ioutil",
		"net",
		"net/http",
		"time",
		"database/sql",
		"log",
		"log/slog",
		"math/rand",
		"math/rand/v2",
		"crypto/rand",
	}
	for _, p := range packages(t) {
		if !strings.HasPrefix(p.ImportPath, "draxel/core/") {
			continue
		}
		for _, imported := range p.Imports {
			for _, f := range forbidden {
				if imported == f {
					t.Errorf("%s imports %s", p.ImportPath, imported)
				}
			}
			if strings.Contains(imported, ".") && !strings.HasPrefix(imported, "gonum.org/") {
				t.Errorf("%s imports %s from outside", p.ImportPath, imported)
			}
		}
	}
}

// One word per stage: where there is a screen there is a core package, a package that answers and a page of
// documentation.
func TestOneWordPerStage(t *testing.T) {
	screens, err := filepath.Glob("web/src/stages/*")
	if err != nil || len(screens) == 0 {
		t.Fatalf("no screens: %v", err)
	}
	for _, s := range screens {
		stage := filepath.Base(s)
		if stage == "index.ts" {
			continue
		}
		for _, want := range []string{"core/" + stage, "server/" + stage + "api", "docs/" + stage + ".md",
			"web/src/stages/" + stage + "/index.ts"} {
			if _, err := os.Stat(want); err != nil {
				t.Errorf("stage %s: %v", stage, err)
			}
		}
	}
}

func TestFilesStayReadable(t *testing.T) {
	for _, pattern := range []string{"*/*.go", "*/*/*.go", "web/src/*/*.tsx", "web/src/*/*.ts", "web/src/*/*/*.tsx",
		"web/src/*/*/*.ts", "web/src/*.css", "web/src/*/*.css", "web/src/*/*/*.css"} {
		most := 420
		if strings.HasSuffix(pattern, ".css") {
			most = 300
		}
		files, err := filepath.Glob(pattern)
		if err != nil {
			t.Fatal(err)
		}
		for _, f := range files {
			if strings.Contains(f, ".gen.") {
				continue
			}
			text, err := os.ReadFile(f)
			if err != nil {
				t.Fatal(err)
			}
			if n := strings.Count(string(text), "\n"); n > most {
				t.Errorf("%s has %d lines", f, n)
			}
		}
	}
}
