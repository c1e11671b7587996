package server

import (
	"encoding/json"
	"html/template"
	"io/fs"
	"net/url"
	"slices"
	"strings"
	"sync"
)

// chunk is one built file of the front end, as the bundler's manifest names it.
type chunk struct {
	File    string   `json:"file"`
	Imports []string `json:"imports"`
}

// built reads the bundler's manifest once; a front end that has not been built has none.
var built = sync.OnceValue(func() map[string]chunk {
	all := map[string]chunk{}
	if text, err := fs.ReadFile(dist, "dist/manifest.json"); err == nil {
		_ = json.Unmarshal(text, &all) // without it a page asks for its parts one after the other, as it would anyway
	}
	return all
})

// asker is a stage whose page asks the server for more than the job, which is worth asking before the page's own
// program is there: First gives the page's word and the address below the job.
type asker interface{ First() (page, ask string) }

// pageOf gives the module that draws the last word of a job's address: that of a stage by its folder; empty where there
// is none.
func pageOf(word string) string {
	switch word {
	case "work":
		return "src/work/WorkPage.tsx"
	case "bench":
		return "src/bench/BenchPage.tsx"
	}
	module := "src/stages/" + word + "/" + strings.ToUpper(word[:1]) + word[1:] + "Page.tsx"
	if _, is := built()[module]; !is {
		return ""
	}
	return module
}

// ahead gives the links by which a browser fetches the parts and the data of the view at an address while the page's
// own program is still being read. They are hints: without them the page asks for the same, later.
func (p *pages) ahead(address string) string {
	var b strings.Builder
	link := func(attributes, href string) {
		b.WriteString(`<link ` + attributes + ` crossorigin href="` + template.HTMLEscapeString(href) + `">`)
	}
	fetch := func(module string) {
		for _, file := range modules(built(), module, nil) {
			link(`rel="modulepreload"`, "/"+file)
		}
	}
	parts := strings.Split(strings.Trim(address, "/"), "/")
	if address == "/" {
		fetch("src/frame/JobsPage.tsx")
	}
	if len(parts) < 3 || parts[0] != "jobs" || parts[2] == "" {
		return b.String()
	}
	module := pageOf(parts[2])
	if module == "" {
		return ""
	}
	fetch(module)
	job := "/api/jobs/" + url.PathEscape(parts[1])
	asks := []string{job, job + "?begun=1"}
	if parts[2] == "bench" {
		asks = nil
	} else if first := p.first[parts[2]]; first != "" {
		asks = append(asks, job+first)
	}
	for _, href := range asks {
		link(`rel="preload" as="fetch"`, href)
	}
	return b.String()
}

// modules lists a module's file and those it imports, but for the entry, which every page names itself.
func modules(all map[string]chunk, name string, seen []string) []string {
	c := all[name]
	if c.File == "" || name == "index.html" || slices.Contains(seen, c.File) {
		return seen
	}
	seen = append(seen, c.File)
	for _, i := range c.Imports {
		seen = modules(all, i, seen)
	}
	return seen
}
