package main

import (
	"os"
	"os/exec"
	"strings"
	"testing"
)

// Every module that the linker puts into the program has its notice, and every package that the page depends on, each
// with the words that its licence must be given with.
func TestEveryPartHasItsNotice(t *testing.T) {
	if _, err := os.Stat("../../web/node_modules"); err != nil {
		t.Skip("the page's packages are not installed: make build")
	}
	all, err := gather("../..")
	if err != nil {
		t.Fatal(err)
	}
	var b strings.Builder
	if err := write(&b, all); err != nil {
		t.Fatal(err)
	}
	text := b.String()
	program := t.TempDir() + "/draxel"
	if out, err := exec.Command("go", "build", "-o", program, "../../cmd/draxel").CombinedOutput(); err != nil {
		t.Fatalf("%v: %s", err, out)
	}
	out, err := exec.Command("go", "version", "-m", program).Output() // what the linker says itself
	if err != nil {
		t.Fatal(err)
	}
	deps := 0
	for line := range strings.Lines(string(out)) {
		if f := strings.Fields(line); len(f) > 2 && f[0] == "dep" {
			deps++
			if !strings.Contains(text, "\n  "+f[1]+" "+f[2]+"\n") || !strings.Contains(text, "\n"+f[1]+" "+f[2]+"\n\n") {
				t.Errorf("%s %s has no notice", f[1], f[2])
			}
		}
	}
	for _, name := range []string{"react-dom", "antd", "@fontsource-variable/atkinson-hyperlegible-next", "Go, with its"} {
		if !strings.Contains(text, "\n  "+name) {
			t.Errorf("%s has no notice", name)
		}
	}
	if deps < 20 || strings.Count(text, "Permission is hereby granted") < 20 {
		t.Errorf("%d modules, %d of them with that licence", deps, strings.Count(text, "Permission is hereby granted"))
	}
}
