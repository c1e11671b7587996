// Package fact reads what is kept of a job as the facts that its plan rests on: both tables with what was measured
// outranking them, the harness laid between their connectors, how each To connector is met, and what stands in the
// vehicle beside its wires. It also says what of an earlier job holds for another.
package fact

import (
	"draxel/core/finding"
	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/network"
	"draxel/core/stored"
	"draxel/core/thin"
	"draxel/core/vehicle"
)

// Facts are what was found.
type Facts struct {
	Kind     stored.Kind
	From, To harness.Pinout
	Meetings match.Meetings // how each To connector is met
	Vehicle  match.Side     // whose wiring is the vehicle's own
	Laid     gather.Laid
	Records  map[string]thin.Noted // what was noted at each connector
	Measured map[harness.Ref]bool  // cavities at which a reading fits what the wire is said to be
	Against  map[harness.Ref]bool  // cavities at which a reading contradicts that
	Drops    []gather.Drop         // what stands before cavities that were read bare and loaded
	Worked   map[string]string     // by function: whether it worked before the work began
	// What the vehicle will have.
	Cylinders  int
	Alternator string
	Gearbox    []string          // what a change of gearbox brings with it and nobody has seen to
	Findings   []finding.Finding // what is wrong or doubtful in the facts themselves
	// What must be settled before the first cut, whatever is cut: it holds the gate.
	Unsettled []string
	Log       []gather.Unplugged               // what was unplugged to see what happens
	Feed      *vehicle.Facts                   // what stands in the vehicle beside its wires, nil where nobody has said
	Parts     map[harness.WireID]network.Metal // what the wires of added parts are
	Readings  map[match.Side]gather.Reading    // how the tables of the two sides were read
}

// Found are facts, and the same without what stands in the vehicle beside its wires, which are the very same for as
// long as nothing else has changed.
type Found struct {
	*Facts
	Bare *Facts
}

// Apart gives facts as Found.
func Apart(f *Facts) Found {
	bare := *f
	bare.Feed = nil
	return Found{f, &bare}
}
