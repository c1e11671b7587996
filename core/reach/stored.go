package reach

import "draxel/core/route"

// Record is all that is stored of this stage: the map, where things live, and what was measured and decided of lengths.
type Record struct {
	Map    *route.Map    `json:"map,omitempty" kept:"map" grain:"fields" along:"map" word:"the map"`
	Rules  *Rules        `json:"rules,omitempty" kept:"rules" grain:"fields" along:"yes" word:"how we work in Reach"`
	Places []route.Place `json:"places,omitempty" kept:"place/Thing.Kind/Thing.ID" said:"{1}" along:"places"`
	// What was measured at wires.
	Lengths []Measured `json:"lengths,omitempty" kept:"length/Wire" grain:"fields" said:"{0}" word:"a length of"`
	// What was decided about single wires in Reach.
	Spans    []Wish         `json:"spans,omitempty" kept:"span/Wire" grain:"fields" said:"{0}" word:"a decision about wire"`
	Options  []route.Option `json:"options,omitempty" kept:"option/ID" grain:"fields" along:"yes" word:"a placement to compare"`
	Leftover []Leftover     `json:"leftover,omitempty" kept:"leftover/ID" grain:"fields" word:"a leftover"`
	// Disconnects that were taken.
	Partings []Parting `json:"partings,omitempty" kept:"parting/Between.0/Between.1" said:"{0} from {1}" along:"places"`
}

// Entry is an entry of one of its lists.
type Entry interface {
	route.Place | Measured | Wish | route.Option | Leftover | Parting
}

// Single is what it has one of.
type Single interface{ route.Map | Rules }

// Chosen gives what Compute goes by: the standard rules where the job has none of its own.
func (r *Record) Chosen() Decisions {
	d := Decisions{Rules: Standard(), Places: r.Places, Wishes: r.Spans, Measured: r.Lengths, Options: r.Options,
		Leftover: r.Leftover, Partings: r.Partings}
	if r.Map != nil {
		d.Map = *r.Map
	}
	if r.Rules != nil {
		d.Rules = *r.Rules
	}
	return d
}
