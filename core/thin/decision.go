package thin

import "draxel/core/harness"

// Scope is how much a decision is about.
type Scope string

// The scopes, from the largest to the smallest. What is decided about a larger thing is inherited by the smaller ones
// in it; what is decided about the smaller wins.
const (
	System    Scope = "system"
	Module    Scope = "module" // a device with all its connectors
	Connector Scope = "connector"
	Wire      Scope = "wire"
	Joint     Scope = "splice" // only asked about: what dies if I cut here
)

// Choice is what becomes of a thing. The zero value is undecided: it stays in the harness.
type Choice string

// The choices.
const (
	Undecided Choice = ""
	Keep      Choice = "keep"
	Goes      Choice = "goes"
)

// Decision is what a person decided.
type Decision struct {
	On     Scope  `json:"on"`
	ID     string `json:"id"` // of a system its word, of others their id
	Choice Choice `json:"choice"`
	Reason string `json:"reason,omitempty"`
	// The earlier job that it was brought from, until somebody has verified it here.
	Verify string `json:"verify,omitempty"`
	Who    string `json:"who,omitempty"`
	When   int64  `json:"when,omitempty"` // Unix milliseconds
}

// status is what was decided about one node, and by which decision.
type status struct {
	choice Choice
	by     *Decision // nil where nothing was decided
	soft   bool      // a hub: it has no need of its own for each of its wires
	weak   bool      // a hub's end that follows the system of its wire's function
}

// decisions files what was decided.
type decisions struct {
	system, module, connector map[string]*Decision
	wire                      map[harness.WireID]*Decision
}

func file(all []Decision) decisions {
	d := decisions{map[string]*Decision{}, map[string]*Decision{}, map[string]*Decision{}, map[harness.WireID]*Decision{}}
	for i := range all {
		x := &all[i]
		if x.Choice == Undecided || x.Verify != "" {
			continue
		}
		switch x.On {
		case System:
			d.system[x.ID] = x
		case Module:
			d.module[x.ID] = x
		case Connector:
			d.connector[x.ID] = x
		case Wire:
			d.wire[harness.WireID(x.ID)] = x
		}
	}
	return d
}
