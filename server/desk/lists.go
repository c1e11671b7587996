package desk

import (
	"draxel/core/finding"
	"draxel/core/harness"
)

// OrEmpty gives a list that is written as [] and not as null.
func OrEmpty[T any](list []T) []T {
	if list == nil {
		return []T{}
	}
	return list
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
