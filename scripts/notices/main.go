// Command notices writes the notices of everything that is linked into the program or into the page: for each its name,
// its version, and the text of its licence as its makers ship it.
//
//	go run ./scripts/notices > server/dist/licences.txt
package main

import (
	"bufio"
	"cmp"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"runtime"
	"slices"
	"strings"
)

func main() {
	all, err := gather(".")
	if err == nil {
		w := bufio.NewWriter(os.Stdout)
		err = errors.Join(write(w, all), w.Flush())
	}
	if err != nil {
		fmt.Fprintln(os.Stderr, "notices:", err)
		os.Exit(1)
	}
}

// part is something that is linked in.
type part struct {
	name, version, licence, text string
}

// gather finds every part of the program and of the page in the project's folder. It fails where one has no licence.
func gather(project string) ([]part, error) {
	program, err := modules(project)
	if err != nil {
		return nil, err
	}
	page, err := packages(filepath.Join(project, "web"))
	if err != nil {
		return nil, err
	}
	fonts, err := texts(filepath.Join(project, "exchange", "fonts"))
	if err != nil {
		return nil, err
	}
	all := slices.Concat(program, page, []part{{"the fonts of the papers", "", "", fonts}})
	for _, p := range all {
		if p.text == "" && p.licence == "" {
			return nil, fmt.Errorf("%s %s says nothing of its licence", p.name, p.version)
		}
	}
	slices.SortStableFunc(all, func(a, b part) int {
		return cmp.Or(cmp.Compare(a.name, b.name), cmp.Compare(a.version, b.version))
	})
	return slices.Compact(all), nil
}

// modules gives the Go modules that the program links in on any of the systems that it is made for, and Go itself.
func modules(project string) ([]part, error) {
	seen := map[string]part{}
	for _, system := range []string{"linux", "windows", "darwin"} {
		cmd := exec.Command("go", "list", "-deps", "-f", "{{with .Module}}{{.Path}}\t{{.Version}}\t{{.Dir}}{{end}}",
			"./cmd/draxel")
		cmd.Dir, cmd.Env = project, append(os.Environ(), "GOOS="+system, "CGO_ENABLED=0")
		out, err := cmd.Output()
		if err != nil {
			return nil, fmt.Errorf("list what is linked in: %w", err)
		}
		for line := range strings.Lines(string(out)) {
			f := strings.Split(strings.TrimSpace(line), "\t")
			if len(f) != 3 || f[1] == "" {
				continue // the standard library, and the project itself
			}
			if _, known := seen[f[0]]; known {
				continue
			}
			text, err := texts(f[2])
			if err != nil {
				return nil, err
			}
			seen[f[0]] = part{name: f[0], version: f[1], text: text}
		}
	}
	root, err := exec.Command("go", "env", "GOROOT").Output()
	if err != nil {
		return nil, fmt.Errorf("where Go is: %w", err)
	}
	text, err := texts(strings.TrimSpace(string(root)))
	if err != nil {
		return nil, err
	}
	all := []part{{name: "Go, with its standard library", version: runtime.Version(), text: text}}
	for _, p := range seen {
		all = append(all, p)
	}
	return all, nil
}

// packages gives the packages that the page may link in: what its manifest depends on, and what those do.
func packages(web string) ([]part, error) {
	cmd := exec.Command("npm", "ls", "--omit=dev", "--all", "--parseable")
	cmd.Dir = web
	out, err := cmd.Output()
	if err != nil {
		return nil, fmt.Errorf("list what the page links in: %w", err)
	}
	var all []part
	for line := range strings.Lines(string(out)) {
		dir := strings.TrimSpace(line)
		if !strings.Contains(filepath.ToSlash(dir), "/node_modules/") {
			continue // the page itself
		}
		data, err := os.ReadFile(filepath.Join(dir, "package.json"))
		if err != nil {
			return nil, fmt.Errorf("read a manifest: %w", err)
		}
		var m struct{ Name, Version, License string }
		if err := json.Unmarshal(data, &m); err != nil {
			return nil, fmt.Errorf("read the manifest in %s: %w", dir, err)
		}
		text, err := texts(dir)
		if err != nil {
			return nil, err
		}
		all = append(all, part{m.Name, m.Version, m.License, text})
	}
	return all, nil
}

var ofLicence = regexp.MustCompile(`(?i)^(licen[cs]e|notice|copying|ofl|.*-ofl)([-.].*)?$`)

// texts gives what a folder says of its licence.
func texts(dir string) (string, error) {
	files, err := os.ReadDir(dir)
	if err != nil {
		return "", fmt.Errorf("read a licence: %w", err)
	}
	var out []string
	for _, f := range files {
		if !ofLicence.MatchString(f.Name()) || f.Type()&fs.ModeDir != 0 {
			continue
		}
		text, err := os.ReadFile(filepath.Join(dir, f.Name()))
		if err != nil {
			return "", fmt.Errorf("read a licence: %w", err)
		}
		out = append(out, strings.TrimSpace(strings.ReplaceAll(string(text), "\r\n", "\n")))
	}
	return strings.Join(out, "\n\n"), nil
}

// write writes the list of all, then each with its text.
func write(w io.Writer, all []part) error {
	_, err := fmt.Fprintln(w, "What is linked into this program and its page, with the licence of each.")
	_, e := fmt.Fprintln(w)
	err = errors.Join(err, e)
	for _, p := range all {
		_, e := fmt.Fprintf(w, "  %s\n", strings.Join(strings.Fields(p.name+" "+p.version+" "+p.licence), " "))
		err = errors.Join(err, e)
	}
	for _, p := range all {
		text := p.text
		if text == "" {
			text = "Licence: " + p.licence
		}
		_, e := fmt.Fprintf(w, "\n%s\n%s %s\n\n%s\n", strings.Repeat("=", 72), p.name, p.version, text)
		err = errors.Join(err, e)
	}
	return err
}
