package wanted

import (
	"fmt"

	"draxel/core/fact"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/match"
)

// Joined is a joint that is to be made, or has been.
type Joined struct {
	Name  harness.JointID `json:"name"`
	Ends  []JoinedEnd     `json:"ends"`
	For   []harness.Ref   `json:"for"` // the cavities that it serves
	Why   string          `json:"why"`
	Made  bool            `json:"made,omitempty"`
	Proof string          `json:"proof,omitempty"` // what is to be measured before anything is cut; empty where it was
}

// JoinedEnd is an end that comes to a joint.
type JoinedEnd struct {
	Wire   harness.WireID `json:"wire"`
	Name   string         `json:"name"`
	At     harness.Ref    `json:"at,omitzero"`
	How    string         `json:"how"`
	Back   float64        `json:"back,omitempty"` // mm behind its plug
	Theirs bool           `json:"theirs,omitempty"`
}

// Laid is a new wire that is to be laid, or has been.
type Laid struct {
	ID    harness.WireID `json:"id"`
	Row   harness.Row    `json:"row"`
	Ends  [2]string      `json:"ends"`
	Owner string         `json:"owner,omitempty"` // who sees to an end that waits
	Open  bool           `json:"open,omitempty"`  // an end waits for its source
	There bool           `json:"there,omitempty"` // it is laid
}

// OpenEnds says what is left open by decisions that wait for somebody.
func OpenEnds(f *fact.Facts, laid []Laid) []finding.Finding {
	var out []finding.Finding
	for _, w := range laid {
		if w.Open && w.Owner == "" && f.Kind.MovesTerminals() && !w.There {
			continue // the crosswalk says of feeds that nothing feeds them; the rest is a new function's own
		}
		if w.Open && w.Owner == "" {
			out = append(out, finding.Finding{
				Code: "open-end", Severity: finding.Check, Stage: "match", Side: string(match.To), Subject: w.Row.Ref.String(),
				Text: fmt.Sprintf(
					"The new wire of %s is laid, its other end is open, and nobody sees to it.",
					w.Row.Ref,
				),
				Remedy: "Say in Match where it begins, or who sees to it.",
			})
		}
	}
	return out
}
