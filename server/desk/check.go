package desk

import (
	"net/http"
	"slices"

	"draxel/core/harness"
	"draxel/core/stored"
)

// Unsound is the reply to a value that cannot be, nil for one that can.
func Unsound(v any, pointer string) error {
	if err := stored.Sound(v); err != nil {
		return Refusal(http.StatusUnprocessableEntity, "bad-value", Sentence(err.Error()), pointer)
	}
	return nil
}

// CheckRef says whether a cavity is named.
func CheckRef(at harness.Ref, pointer string) error {
	if at.Connector == "" || at.Cavity == "" || len(at.Connector)+len(at.Cavity) > 100 {
		return Refusal(http.StatusUnprocessableEntity, "no-cavity", "Say which cavity: connector and number.", pointer)
	}
	return nil
}

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
