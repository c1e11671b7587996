package reach

import (
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/route"
)

// Compute gives what follows from the input. It is pure.
func Compute(in Input) *Result {
	r := &Result{in: &in, router: route.NewRouter(&in.Decisions.Map), Lines: make([]Line, len(in.Wires)),
		wires: make(map[harness.WireID]int, len(in.Wires))}
	for i := range in.Wires {
		r.wires[in.Wires[i].ID] = i
	}
	r.Findings = in.Decisions.Map.Doubts()
	s := r.settle()
	r.Learned = learn(in.Decisions.Leftover, in.Decisions.Rules)
	r.lengths(s)
	r.loads(s)
	r.verdicts(s)
	r.bundles()
	r.join(s)
	r.sinceCut()
	r.provide()
	r.walls(s)
	r.keepApart()
	r.disconnect(s)
	r.offered = r.Disconnects
	r.tape(s)
	r.figure()
	r.plan(s)
	r.hours(nil)
	r.find(s)
	finding.Sort(r.Findings)
	return r
}
