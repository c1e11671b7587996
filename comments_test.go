package draxel

import (
	"os"
	"os/exec"
	"strings"
	"testing"
	"unicode/utf8"
)

// filled is how long, in characters, a line of a comment may at least become before the next one begins.
const filled = 100

// Comments are filled: no line stands alone with a word or two because a line before it was cut. Lists, and what an
// example puts out, are as they are.
func TestCommentsAreFilled(t *testing.T) {
	for file, lines := range sources(t) {
		for i := 1; i+1 < len(lines); i++ {
			line, next := strings.TrimLeft(lines[i], "\t"), strings.TrimLeft(lines[i+1], "\t")
			if !prose(line) || !prose(next) || listed(lines, i) {
				continue
			}
			word, _, _ := strings.Cut(strings.TrimPrefix(next, "// "), " ")
			if len(line)+len(word) < filled-(len(lines[i])-len(line)) && !strings.ContainsAny(line[len(line)-1:], ".:;!?") {
				t.Errorf("%s:%d: the comment goes on in the next line, and has room in this one", file, i+1)
			}
		}
	}
}

// widest is how many characters a line of code may have, a tab counted as one.
const widest = 120

// Lines are no wider than that, but for text that stands between backquotes as it is.
func TestLinesAreNotTooWide(t *testing.T) {
	for file, lines := range sources(t) {
		raw := false
		for i, line := range lines {
			within := raw
			raw = raw != (strings.Count(line, "`")%2 == 1)
			if n := utf8.RuneCountInString(line); n > widest && !within && !strings.Contains(line, "`") {
				t.Errorf("%s:%d has %d characters", file, i+1, n)
			}
		}
	}
}

// prose says whether a line is one of a comment's, and neither code nor an order to a tool.
func prose(line string) bool {
	return strings.HasPrefix(line, "// ") && len(line) > 3 && line[3] != ' ' && line[3] != '\t'
}

// listed says whether the comment that a line is of has lists, or what an example puts out.
func listed(lines []string, at int) bool {
	begin, end := at, at
	for begin > 0 && strings.HasPrefix(strings.TrimLeft(lines[begin-1], "\t"), "//") {
		begin--
	}
	for end < len(lines) && strings.HasPrefix(strings.TrimLeft(lines[end], "\t"), "//") {
		end++
	}
	for _, line := range lines[begin:end] {
		text := strings.TrimPrefix(strings.TrimLeft(line, "\t"), "// ")
		if strings.HasPrefix(text, "- ") || strings.HasPrefix(text, "Output:") || text != "" && text[0] >= '0' &&
			text[0] <= '9' {
			return true
		}
	}
	return false
}

// sources gives the lines of every Go file that is kept.
func sources(t *testing.T) map[string][]string {
	t.Helper()
	out, err := exec.Command("git", "ls-files", "*.go").Output()
	if err != nil {
		t.Fatal(err)
	}
	all := map[string][]string{}
	for _, file := range strings.Fields(string(out)) {
		if text, err := os.ReadFile(file); err == nil { // else it is being moved
			all[file] = strings.Split(string(text), "\n")
		}
	}
	return all
}
