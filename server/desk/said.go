package desk

import (
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"

	"draxel/core/feed"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/stored"
)

// HasCavity says whether a connector of the harness or of the finished one has that cavity.
func (j *Computed) HasCavity(at harness.Ref) bool {
	for i := range j.Facts.Laid.Loom.Connectors {
		if c := &j.Facts.Laid.Loom.Connectors[i]; c.ID == at.Connector {
			return c.Has(at.Cavity)
		}
	}
	return slices.ContainsFunc(j.Plan().Housings,
		func(c harness.Connector) bool { return c.ID == at.Connector && c.Has(at.Cavity) })
}

// LongestName bounds the names of what is kept for comparing.
const LongestName = 80

// Unsound is the reply to a value that cannot be, nil for one that can.
func Unsound(v any, pointer string) error {
	if err := stored.Sound(v); err != nil {
		return Refusal(http.StatusUnprocessableEntity, "bad-value", Sentence(err.Error()), pointer)
	}
	return nil
}

// StageFindings gives the findings of a stage.
func StageFindings(all []finding.Finding, stage string) []finding.Finding {
	out := []finding.Finding{}
	for _, f := range all {
		if f.Stage == stage {
			out = append(out, f)
		}
	}
	return out
}

// Fed gives the network of a job and the position that is asked about, or why there is none.
func (s *Desk) Fed(c *gin.Context) (*feed.Result, *Computed, string, error) {
	at := c.Query("position")
	if !slices.ContainsFunc(feed.Positions(), func(p feed.Position) bool { return p.Name == at }) {
		return nil, nil, "", Refusal(http.StatusUnprocessableEntity, "no-such-position", "The key has no such position.",
			"/position")
	}
	j, err := s.Compute(c.Request.Context(), c.Param("job"))
	if err != nil {
		return nil, nil, "", err
	}
	r := j.Plan().Feed.Result
	if r == nil {
		return nil, nil, "", Refusal(http.StatusUnprocessableEntity, "nothing-said",
			"Nobody has said yet what stands in the vehicle: sources, fuses and switches.", "")
	}
	return r, j, at, nil
}

// OrEmpty gives a list that is written as [] and not as null.
func OrEmpty[T any](list []T) []T {
	if list == nil {
		return []T{}
	}
	return list
}

// WireCounts counts the wires of each connector and each branch.
func WireCounts(l *harness.Loom) (connectors, branches map[string]int) {
	connectors, branches = map[string]int{}, map[string]int{}
	for i := range l.Wires {
		branches[l.Wires[i].Branch]++
		for _, e := range l.Wires[i].Ends {
			connectors[e.At.Connector]++
		}
	}
	return connectors, branches
}

// CheckRef says whether a cavity is named.
func CheckRef(at harness.Ref, pointer string) error {
	if at.Connector == "" || at.Cavity == "" || len(at.Connector)+len(at.Cavity) > 100 {
		return Refusal(http.StatusUnprocessableEntity, "no-cavity", "Say which cavity: connector and number.", pointer)
	}
	return nil
}
