package thinapi

import (
	"draxel/core/finding"
	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/proof"
	"draxel/core/thin"
	"draxel/core/wanted"
	"draxel/server/desk"
)

// ThinView is the harness with what becomes of it. Facts names the state of the facts: the drawing changes with it
// alone.
type ThinView struct {
	Revision int64               `json:"revision"`
	Facts    string              `json:"facts"`
	Wires    []harness.Wire      `json:"wires"`          // none where those of the same facts are there already
	Kept     bool                `json:"kept,omitempty"` // they are those of the facts that were named
	Verdicts []WireVerdict       `json:"verdicts"`       // as the wires
	Systems  []thin.SystemLine   `json:"systems"`
	Joints   []thin.JointVerdict `json:"joints"`
	Brought  []thin.Decision     `json:"brought"` // from an earlier job, to be verified
	Drawing  thin.Drawing        `json:"drawing"`
	ThinRest
	Begun bool `json:"begun,omitempty"` // what follows from the whole plan is not in it
}

// ThinRest is what of Thin follows from the whole plan. It is asked for apart, so that the harness is shown before.
type ThinRest struct {
	Counts   thin.Counts       `json:"counts"`
	Proof    proof.Proof       `json:"proof"`
	Proposed []wanted.Proposal `json:"proposed"`
	Findings []finding.Finding `json:"findings"`
}

// WireVerdict is what becomes of a wire.
type WireVerdict struct {
	Choice    thin.Choice `json:"choice"`
	By        string      `json:"by,omitempty"` // the decision: "system emissions"
	Reason    string      `json:"reason,omitempty"`
	Exception bool        `json:"exception,omitempty"`
	Contested bool        `json:"contested,omitempty"`
	Circuit   int         `json:"circuit"`
	System    string      `json:"system,omitempty"`
}

// ThinChange is the reply to a decision: what it changed, so that the screen need not read everything anew.
type ThinChange struct {
	desk.Done
	Verdicts map[int]WireVerdict `json:"verdicts"` // by number of the wire, those that changed
	Systems  []thin.SystemLine   `json:"systems"`  // those that changed
	Joints   []thin.JointVerdict `json:"joints"`   // splices whose fate changed
	Limbs    []thin.Limb         `json:"limbs"`    // of the drawing, those that look different
	Spots    []thin.Spot         `json:"spots"`
}

// ThinRequest decides about one or several things. An empty choice takes the decision back.
type ThinRequest struct {
	ID        string         `json:"id"`
	Seen      int64          `json:"seen"`
	Decisions []ThinDecision `json:"decisions"`
}

// ThinDecision is one decision.
type ThinDecision struct {
	On     thin.Scope  `json:"on"`
	ID     string      `json:"id"`
	Choice thin.Choice `json:"choice"`
	Reason string      `json:"reason,omitempty"`
}

// CutView is what dies if a thing is cut.
type CutView struct {
	thin.Consequence
}

// CircuitView is a wire's whole circuit: its wires, and for each the limbs of the drawing that it runs through.
type CircuitView struct {
	Circuit int                         `json:"circuit"`
	Wires   []harness.WireID            `json:"wires"`
	Limbs   map[harness.WireID][]string `json:"limbs"`
	Beliefs []gather.Belief             `json:"beliefs"` // what was believed of its wires before
}

// BenchRequest sets how the person works.
type BenchRequest struct {
	ID    string     `json:"id"`
	Seen  int64      `json:"seen"`
	Bench thin.Bench `json:"bench"`
}
