package jobsapi

import (
	"cmp"
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/server/desk"
)

// mostFound is how many things are shown for some words: who wants others says more words.
const mostFound = 40

// mostWords is how many words are looked for.
const mostWords = 12

// FoundThing is something in a job that can be looked for by words.
type FoundThing struct {
	Kind string `json:"kind"` // wire, connector, device, cavity, function, step
	Name string `json:"name"`
	Says string `json:"says,omitempty"`
	// Where it is seen, as a finding about it would say.
	Stage   string         `json:"stage"`
	Side    match.Side     `json:"side,omitempty"`
	Subject string         `json:"subject,omitempty"`
	Place   *finding.Place `json:"place,omitempty"`
}

// FoundView is what some words found, the nearest first.
type FoundView struct {
	Things []FoundThing `json:"things"`
	All    int          `json:"all"` // how many there are, of which the nearest are shown
}

// find looks for things of the job by words, in any order.
func (s *API) find(c *gin.Context, j *desk.Computed) error {
	type kept struct{}
	all := desk.Kept(j, kept{}, func() []FoundThing { return things(j) })
	v := FoundView{Things: []FoundThing{}}
	v.Things, v.All = nearest(all, c.Query("words"), mostFound)
	c.JSON(http.StatusOK, v)
	return nil
}

// nearest gives the things that have all of the words in their name or in what is said of them, those whose name it is
// first, then those whose name begins so, and how many there are in all.
func nearest(all []FoundThing, words string, most int) (found []FoundThing, count int) {
	asked := strings.Fields(strings.ToLower(words))
	asked = asked[:min(len(asked), mostWords)]
	if len(asked) == 0 {
		return []FoundThing{}, 0
	}
	type hit struct {
		FoundThing
		rank int
	}
	var hits []hit
	whole := strings.Join(asked, " ")
	for _, t := range all {
		name := strings.ToLower(t.Name)
		text := name + " " + strings.ToLower(t.Says+" "+t.Kind)
		if slices.ContainsFunc(asked, func(w string) bool { return !strings.Contains(text, w) }) {
			continue
		}
		rank := 3
		switch {
		case t.Kind == "step": // its sentence has many words: the things themselves come first
			rank = 4
		case name == whole:
			rank = 0
		case strings.HasPrefix(name, whole):
			rank = 1
		case strings.Contains(name, asked[0]):
			rank = 2
		}
		hits = append(hits, hit{t, rank})
	}
	slices.SortStableFunc(hits, func(a, b hit) int {
		return cmp.Or(cmp.Compare(a.rank, b.rank), finding.Natural(a.Name, b.Name))
	})
	found = []FoundThing{}
	for _, h := range hits[:min(most, len(hits))] {
		found = append(found, h.FoundThing)
	}
	return found, len(hits)
}

// things lists everything of a job that has a name.
func things(j *desk.Computed) []FoundThing {
	var all []FoundThing
	loom := &j.Facts.Laid.Loom
	said := func(parts ...string) string {
		return strings.Join(slices.DeleteFunc(parts, func(s string) bool { return s == "" }), " · ")
	}
	for i := range loom.Wires {
		w := &loom.Wires[i]
		all = append(all, FoundThing{Kind: "wire", Name: string(w.ID), Stage: "thin", Subject: string(w.ID),
			Says: said(w.Colour.Written, w.Function, w.Ends[0].String()+" – "+w.Ends[1].String())})
	}
	for _, h := range loom.Connectors {
		all = append(all, FoundThing{Kind: "connector", Name: h.ID, Says: h.Mate, Stage: "thin", Subject: h.ID,
			Place: &finding.Place{Of: "connector"}})
	}
	for _, d := range loom.Devices {
		all = append(all, FoundThing{Kind: "device", Name: d.ID, Says: d.System, Stage: "thin", Subject: d.ID,
			Place: &finding.Place{Of: "module"}})
	}
	for i, rows := range [][]harness.Row{j.Facts.From.Rows, j.Facts.To.Rows} {
		side := []match.Side{match.From, match.To}[i]
		for _, r := range rows {
			all = append(all, FoundThing{Kind: "cavity", Name: r.Ref.String(), Stage: "match", Side: side,
				Subject: r.Ref.String(),
				Says:    said(string(side), r.Colour.Written, r.Function)})
		}
	}
	for i := range j.Plan().Join.Functions {
		f := &j.Plan().Join.Functions[i]
		all = append(all, FoundThing{Kind: "function", Name: f.Name, Says: string(f.State), Stage: "join", Subject: f.ID})
	}
	for _, w := range j.WorkSteps("") {
		all = append(all, FoundThing{Kind: "step", Name: w.Text, Says: w.Place, Stage: "work", Subject: w.ID,
			Place: &finding.Place{Of: "step"}})
	}
	return all
}
