package server

import (
	"slices"
	"strings"
	"testing"
)

func TestAPageIsToldWhatItWillAskFor(t *testing.T) {
	if len(built()) == 0 {
		t.Skip("the page is not built: it has no parts to be told of")
	}
	p := pagesOf((&Server{}).stages())
	for address, want := range map[string][]string{
		"/jobs/sorrel-refit/match": {"/api/jobs/sorrel-refit", "/api/jobs/sorrel-refit?begun=1",
			"/api/jobs/sorrel-refit/match"},
		"/jobs/packhorse/thin": {"/api/jobs/packhorse", "/api/jobs/packhorse?begun=1",
			"/api/jobs/packhorse/thin?begun=1&amp;facts="},
		"/jobs/packhorse/reach": {"/api/jobs/packhorse", "/api/jobs/packhorse?begun=1"},
		"/jobs/packhorse/bench": nil, "/jobs/packhorse": nil, "/": nil, "/jobs/packhorse/elsewhere": nil,
		`/jobs/a"><script>/work`: {"/api/jobs/a%22%3E%3Cscript%3E", "/api/jobs/a%22%3E%3Cscript%3E?begun=1"},
	} {
		var got []string
		for _, link := range strings.Split(p.ahead(address), "<link ")[1:] {
			if strings.Contains(link, `as="fetch"`) {
				_, href, _ := strings.Cut(link, `href="`)
				got = append(got, strings.TrimSuffix(href, `">`))
			}
		}
		if !slices.Equal(got, want) {
			t.Errorf("%s: %q, want %q", address, got, want)
		}
	}
}

func TestModulesAreListedOnceWithTheirImports(t *testing.T) {
	all := map[string]chunk{
		"index.html": {File: "assets/index.js", Imports: []string{"_r"}}, "_r": {File: "assets/r.js"},
		"page": {File: "assets/page.js", Imports: []string{"index.html", "_a", "_r"}},
		"_a":   {File: "assets/a.js", Imports: []string{"_r", "page"}},
	}
	if got, want := modules(all, "page", nil), []string{"assets/page.js", "assets/a.js",
		"assets/r.js"}; !slices.Equal(got, want) {
		t.Errorf("%q, want %q", got, want)
	}
}
