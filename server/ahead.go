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

// stagePages gives, for the last word of a job's address, the module that draws it and what it asks the server for.
var stagePages = map[string]struct{ module, asks string }{
	"gather": {"src/stages/gather/GatherPage.tsx", ""},
	"match":  {"src/stages/match/MatchPage.tsx", "/match"},
	"thin":   {"src/stages/thin/ThinPage.tsx", "/thin?begun=1&facts="},
	"pin":    {"src/stages/pin/PinPage.tsx", ""},
	"reach":  {"src/stages/reach/ReachPage.tsx", ""},
	"feed":   {"src/stages/feed/FeedPage.tsx", ""},
	"join":   {"src/stages/join/JoinPage.tsx", ""},
	"work":   {"src/work/WorkPage.tsx", ""},
	"bench":  {"src/bench/BenchPage.tsx", ""},
}

// ahead gives the links by which a browser fetches the parts and the data of the view at an address while the page's
// own program is still being read. They are hints: without them the page asks for the same, later.
func ahead(address string) string {
	parts := strings.Split(strings.Trim(address, "/"), "/")
	if len(parts) < 3 || parts[0] != "jobs" {
		return ""
	}
	stage, known := stagePages[parts[2]]
	if !known {
		return ""
	}
	var b strings.Builder
	link := func(attributes, href string) {
		b.WriteString(`<link ` + attributes + ` crossorigin href="` + template.HTMLEscapeString(href) + `">`)
	}
	for _, file := range modules(built(), stage.module, nil) {
		link(`rel="modulepreload"`, "/"+file)
	}
	job := "/api/jobs/" + url.PathEscape(parts[1])
	asks := []string{job, job + "?begun=1"}
	switch {
	case parts[2] == "bench":
		asks = nil
	case stage.asks != "":
		asks = append(asks, job+stage.asks)
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
