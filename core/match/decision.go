package match

import (
	"fmt"
	"slices"

	"draxel/core/harness"
)

// Side is one of the two pinouts.
type Side string

// The sides of a job.
const (
	From Side = "from" // the harness whose terminals are moved
	To   Side = "to"   // the cavities that the finished harness must fill
)

// Choice is what a person decided about a row.
type Choice string

// The choices: the first six about a From row, the last three about a To row.
const (
	Open    Choice = ""       // nothing decided, though candidates may be rejected
	Matched Choice = "match"  // goes to the To cavity named
	Gone    Choice = "goes"   // not wanted any more
	Sourced Choice = "source" // wanted, and fed from a source that the To side does not have
	Joined  Choice = "joins"  // joined to the wire of the To cavity named, which serves for both
	Vacant  Choice = "empty"  // the To cavity is left empty on purpose
	Branch  Choice = "branch" // the To cavity is served by a lead joined to the From wire named
	Wired   Choice = "wire"   // the To cavity is served by a new wire from the origin named
)

// Sources lists what a wire that needs a source can be fed from.
func Sources() []string { return []string{"battery", "ignition", "ground", "switch"} }

// Decision is what a person decided about one row.
type Decision struct {
	Side     Side          `json:"side"`
	At       harness.Ref   `json:"at"`
	Choice   Choice        `json:"choice,omitempty"`
	To       harness.Ref   `json:"to,omitzero"`        // of Matched and Joined
	Of       harness.Ref   `json:"of,omitzero"`        // of Branch: the From cavity whose wire it branches from
	Way      Way           `json:"way,omitempty"`      // of Matched; Proposed where nobody chose
	Source   string        `json:"source,omitempty"`   // of Sourced, one of Sources
	Origin   *Origin       `json:"origin,omitempty"`   // of Wired, and of Sourced where it is known: what it is fed from
	Rejected []harness.Ref `json:"rejected,omitempty"` // To cavities that this From row does not go to
	// Of Matched: how likely the pair was when it was accepted, from a millionth to 1; 0 where nobody noted it.
	Sure   float64 `json:"sure,omitempty"`
	Reason string  `json:"reason,omitempty"`
	// The earlier job that it was brought from, until somebody has verified it here.
	Verify string `json:"verify,omitempty"`
	Who    string `json:"who,omitempty"`
	When   int64  `json:"when,omitempty"` // Unix milliseconds
}

type pair struct{ i, j int }

// Check says why a decision cannot be, whatever the tables say.
func (d Decision) Check() error {
	from := []Choice{Open, Matched, Gone, Sourced, Joined}
	to := []Choice{Open, Vacant, Branch, Wired}
	switch {
	case d.Side != From && d.Side != To:
		return fmt.Errorf("a decision about %s is of no side", d.At)
	case d.Side == From && !slices.Contains(from, d.Choice), d.Side == To && !slices.Contains(to, d.Choice):
		return fmt.Errorf("about %s it cannot be decided %q", d.At, d.Choice)
	case d.Way != Proposed && !slices.Contains(Ways(), d.Way):
		return fmt.Errorf("%s comes to its counterpart in no way %q", d.At, d.Way)
	case !(d.Sure >= 0 && d.Sure <= 1):
		return fmt.Errorf("%s is matched at a certainty of %v", d.At, d.Sure)
	case d.Origin != nil:
		return d.Origin.Check()
	}
	return nil
}

// index files the decisions by row number.
func (r *Result) index(decisions []Decision) {
	r.fromAt, r.toAt = at(r.from), at(r.to)
	r.accepted = make([]int, len(r.from))
	r.taken = make([]bool, len(r.to))
	r.rejected = map[pair]bool{}
	r.byFrom, r.byTo = make([]*Decision, len(r.from)), make([]*Decision, len(r.to))
	for k := range decisions {
		d := &decisions[k]
		if d.Side == To {
			_, there := r.fromAt[d.Of]
			if j, ok := r.toAt[d.At]; ok && (d.Choice == Vacant || d.Choice == Wired || d.Choice == Branch && there) {
				r.byTo[j], r.taken[j] = d, d.Verify == ""
			} else {
				r.lost = append(r.lost, d)
			}
			continue
		}
		i, ok := r.fromAt[d.At]
		if !ok {
			r.lost = append(r.lost, d)
			continue
		}
		for _, no := range d.Rejected {
			if j, ok := r.toAt[no]; ok {
				r.rejected[pair{i, j}] = true
			}
		}
		if _, ok := r.toAt[d.To]; d.Choice == Joined && !ok {
			r.lost = append(r.lost, d)
			continue
		}
		if d.Choice == Matched {
			j, ok := r.toAt[d.To]
			if !ok || r.taken[j] {
				r.lost = append(r.lost, d)
				continue
			}
			r.accepted[i], r.taken[j] = j+1, true
		}
		if d.Choice != Open {
			r.byFrom[i] = d
		}
	}
	r.fillers()
}

// fillers: of the wires that are joined into one To cavity which no other fills, the first fills it and the rest are
// joined onto it.
func (r *Result) fillers() {
	for i, d := range r.byFrom {
		if d == nil || d.Choice != Joined {
			continue
		}
		if j := r.toAt[d.To]; !r.taken[j] {
			r.accepted[i], r.taken[j] = j+1, true
		}
	}
}

// free says whether the row is still to be decided.
func (r *Result) free(i int) bool { return r.byFrom[i] == nil }

func at(rows []harness.Row) map[harness.Ref]int {
	m := make(map[harness.Ref]int, len(rows))
	for i, row := range rows {
		m[row.Ref] = i
	}
	return m
}
