package draxel

import (
	"os"
	"path"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"
)

var imported = regexp.MustCompile(`(?:from|import\()\s*'(\.[^']+)'`)

// webFloor gives a folder's floor in the front end: what is on one floor may use what is below it. The two that carry
// a page each, the bench and the list of work, are used by the stages; the frame and the entry use all.
func webFloor(file string) int {
	switch dir, _, _ := strings.Cut(strings.TrimPrefix(file, "web/src/"), "/"); dir {
	case "api":
		return 1
	case "outbox", "keys", "harness":
		return 1
	case "frame", "lists":
		return 3
	case "work":
		return 3
	case "bench", "stages":
		return 4
	}
	return 9
}

// The front end's imports go round in no circle, and point downward.
func TestImportsOfThePagePointOneWay(t *testing.T) {
	imports := map[string][]string{}
	err := filepath.WalkDir("web/src", func(file string, d os.DirEntry, err error) error {
		if err != nil || d.IsDir() || filepath.Ext(file) != ".ts" && filepath.Ext(file) != ".tsx" {
			return err
		}
		text, err := os.ReadFile(file)
		if err != nil {
			return err
		}
		for _, m := range imported.FindAllStringSubmatch(string(text), -1) {
			at := path.Join(path.Dir(filepath.ToSlash(file)), m[1])
			for _, ending := range []string{".ts", ".tsx", ""} {
				if _, err := os.Stat(at + ending); err == nil {
					imports[filepath.ToSlash(file)] = append(imports[filepath.ToSlash(file)], at+ending)
					break
				}
			}
		}
		return nil
	})
	if err != nil {
		t.Fatal(err)
	}
	if len(imports) < 80 {
		t.Fatalf("only %d files import anything: the test looks in the wrong place", len(imports))
	}
	for file, all := range imports {
		for _, other := range all {
			if strings.HasSuffix(other, ".css") || webFloor(file) == 9 {
				continue
			}
			if webFloor(other) > webFloor(file) {
				t.Errorf("%s imports %s, which stands above it", file, other)
			}
		}
	}
	done := map[string]bool{}
	var walk func(file string, on []string)
	walk = func(file string, on []string) {
		if i := slices.Index(on, file); i >= 0 {
			t.Errorf("a circle: %s", strings.Join(append(on[i:], file), " → "))
			return
		}
		if done[file] {
			return
		}
		for _, other := range imports[file] {
			walk(other, append(slices.Clip(on), file))
		}
		done[file] = true
	}
	for file := range imports {
		walk(file, nil)
	}
}

var (
	cssComment = regexp.MustCompile(`(?s)/\*.*?\*/`)
	cssRule    = regexp.MustCompile(`(?:^|[{}])\s*([^{}@;]+)\{`)
	cssFirst   = regexp.MustCompile(`^\s*\.([a-zA-Z0-9_-]+)`)
)

// A class is styled in one file: a rule of one stage does not change the look of another, in whatever order they load.
// What a small window does to all of them at once stands in a file of its own, and its rules weigh more wherever it
// loads.
func TestAClassIsStyledInOneFile(t *testing.T) {
	styled := map[string]string{}
	files := 0
	err := filepath.WalkDir("web/src", func(file string, d os.DirEntry, err error) error {
		if err != nil || d.IsDir() || filepath.Ext(file) != ".css" || d.Name() == "small.css" {
			return err
		}
		text, err := os.ReadFile(file)
		if err != nil {
			return err
		}
		files++
		for _, rule := range cssRule.FindAllStringSubmatch(cssComment.ReplaceAllString(string(text), ""), -1) {
			for selector := range strings.SplitSeq(rule[1], ",") {
				m := cssFirst.FindStringSubmatch(selector)
				if m == nil {
					continue
				}
				if was := styled[m[1]]; was != "" && was != file {
					t.Errorf(".%s is styled in %s and in %s", m[1], was, file)
				}
				styled[m[1]] = file
			}
		}
		return nil
	})
	if err != nil {
		t.Fatal(err)
	}
	if files < 6 || len(styled) < 100 {
		t.Errorf("only %d files and %d classes: the test looks in the wrong place", files, len(styled))
	}
}
