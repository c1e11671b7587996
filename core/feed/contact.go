package feed

import (
	"draxel/core/finding"
	"draxel/core/network"
	"draxel/core/signal"
)

// checkContacts finds terminals with more on them than contacts of their width carry.
func (r *Result) checkContacts() {
	for i := range r.Drawn.Elements {
		e := &r.Drawn.Elements[i]
		at := e.Of
		if limit := r.in.Contacts[at]; e.Role == network.AtCavity && limit > 0 && r.worst[i] > limit {
			r.find("contact-thin", finding.Wrong, at,
				"Spread it over two cavities, or lead it past this plug: the contact heats before the wire does.",
				"The contact in %s carries %.3g A, and one of its width about %.0f A for long (common practice; the data sheet "+
					"comes first).",
				at, r.worst[i], limit).Place = finding.Place{Part: "fuses"}
		}
	}
}

// sinks is what an output that is made for a relay or a lamp sinks for long, A (common practice: the unit's data
// first).
const sinks = 1.0

// checkOutputs finds outputs that are made for a relay or a lamp with more on them.
func (r *Result) checkOutputs() {
	for i := range r.Drawn.Elements {
		e := &r.Drawn.Elements[i]
		at := e.Of
		role := r.Drawn.Signal(at).Role
		if e.Role == network.OutputPin && (role == signal.RelayCoil || role == signal.Lamp) && r.worst[i] > sinks {
			r.find("output-overloaded", finding.Wrong, at, "Let it trigger a relay that carries the load.",
				"Output %s is made for a relay or a lamp, about %.0f A (common practice; the unit's data first), and carries "+
					"%.3g A.",
				at, sinks, r.worst[i])
		}
	}
}
