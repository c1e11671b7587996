package server_test

import (
	"os"
	"path/filepath"
	"regexp"
	"testing"

	"draxel/server/desk"
)

// Every change that the server writes has words, on the page and in the book.
func TestEveryChangeHasWords(t *testing.T) {
	files, err := filepath.Glob("*/*.go")
	if err != nil {
		t.Fatal(err)
	}
	what, n := regexp.MustCompile(`What:\s*"([a-z-]+)"`), 0
	for _, f := range files {
		text, err := os.ReadFile(f)
		if err != nil {
			t.Fatal(err)
		}
		for _, m := range what.FindAllStringSubmatch(string(text), -1) {
			if n++; desk.ChangeWords[m[1]] == "" {
				t.Errorf("%s: the change %q has no words", f, m[1])
			}
		}
	}
	if n < 40 {
		t.Errorf("%d changes were found in the code", n)
	}
}
