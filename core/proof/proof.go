// Package proof proves the work: the steps of all stages, carried out on the model in their order, must lead to the
// wanted harness. It follows the copper and the terminals of what they lead to, and knows nothing of how the steps were
// made.
package proof

import (
	"fmt"
	"strings"
)

// Proof says whether the steps of all stages, carried out on the model in their order, reached the wanted harness.
type Proof struct {
	Reached     bool     `json:"reached"`
	Steps       int      `json:"steps"`  // that are left
	InHand      int      `json:"inHand"` // the most terminals that are loose at once
	Differences []string `json:"differences,omitempty"`
	Apart       []string `json:"apart,omitempty"` // accepted matches that are not one circuit in the end
	Meets       []string `json:"meets,omitempty"` // what must never meet, and does after a step
	// Accepted matches that are not carried out, since something holds them up: the findings say what.
	Left []string `json:"left,omitempty"`
	// Decisions of the person's own that contradict each other: then nothing is proven, and it is no fault of ours.
	Against []string `json:"against,omitempty"`
	// The steps can be carried out, but what was done and is not planned any more keeps the end from being compared.
	Partial bool   `json:"partial,omitempty"`
	Fault   string `json:"fault,omitempty"` // why the steps could not be made or carried out
}

// Line says in one sentence whether the work is proven.
func (p Proof) Line() string {
	switch {
	case len(p.Meets) > 0 && len(p.Against) > 0:
		return "DO NOT WORK FROM THIS: " + p.Meets[0] + ". And your own decisions contradict each other: " + p.Against[0]
	case len(p.Against) > 0:
		return "NOT PROVEN: your own decisions contradict each other. " + p.Against[0] + " Reopen one of the two."
	case p.Fault != "":
		return "DO NOT WORK FROM THIS. A fault of ours: the steps cannot be carried out on the model (" + p.Fault +
			"). Send us the job file."
	case len(p.Meets) > 0:
		return "DO NOT WORK FROM THIS: " + p.Meets[0] + "."
	case !p.Reached && len(p.Apart) > 0:
		return "DO NOT WORK FROM THIS. A fault of ours: in the end " + p.Apart[0] + " are not one circuit. Send us the " +
			"job file."
	case !p.Reached:
		return fmt.Sprintf(
			"DO NOT WORK FROM THIS. A fault of ours: the steps lead to %d differences from the wanted harness. Send us the "+
				"job file.",
			len(p.Differences),
		)
	case p.Partial:
		return fmt.Sprintf(
			"The %d steps that are left can be carried out on the model. Something was done that the plan no longer asks "+
				"for, or a circle of moves cannot begin, so the end is not compared with the wanted harness.",
			p.Steps,
		)
	case p.Steps == 0:
		return "Nothing is left to do: the harness is as it is wanted" + p.but() + "."
	}
	return fmt.Sprintf(
		"Proven on the model: the %d steps that are left, of all stages together, lead to the wanted harness, and every "+
			"accepted match is one circuit in it%s. No cavity ever held two terminals, and %s in hand.",
		p.Steps,
		p.but(),
		most(p.InHand),
	)
}

// mostNamed bounds the matches that the line of proof names.
const mostNamed = 6

// but counts out the accepted matches of which nothing is proven, by name.
func (p Proof) but() string {
	n := len(p.Left)
	if n == 0 {
		return ""
	}
	named := strings.Join(p.Left[:min(n, mostNamed)], ", ")
	if n > mostNamed {
		named += fmt.Sprintf(" and %d more", n-mostNamed)
	}
	return fmt.Sprintf(", but for %d that %s left off, and of which nothing is proven: %s", n, isAre(n), named)
}

func isAre(n int) string {
	if n == 1 {
		return "is"
	}
	return "are"
}

func most(inHand int) string {
	switch inHand {
	case 0:
		return "none was left"
	case 1:
		return "never more than one was"
	}
	return fmt.Sprintf("never more than %d were", inHand)
}
