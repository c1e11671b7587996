package thin

import (
	"draxel/core/circuit"
	"draxel/core/harness"
)

// Alone says what is left to qualified hands: wires by their numbers, cavities and splices. Nothing of it is opened,
// cut, moved or joined onto.
type Alone struct {
	net   *circuit.Graph
	guard circuit.Guard
}

// Alone gives what is left to qualified hands.
func (r *Result) Alone() Alone { return Alone{r.t.net, r.t.guard} }

// Wire says whether a wire of the loom is left alone.
func (a Alone) Wire(w int) bool { return a.guard.Wires[w] }

// Cavity says whether what is in a cavity is left alone.
func (a Alone) Cavity(at harness.Ref) bool {
	h, known := a.net.Half(at.Connector)
	if !known || !a.guard.Plugs[h] {
		return false
	}
	node, there := a.net.Cavity(at)
	return there && a.guard.Nodes[node]
}

// Splice says whether a splice is left alone.
func (a Alone) Splice(id harness.JointID) bool {
	node, known := a.net.Joint(id)
	return known && a.guard.Nodes[node]
}
