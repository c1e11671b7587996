// Package plan composes the stages into the whole plan and proves it.
//
// Facts and decisions go in. What comes out, verdicts, steps and findings, is computed from them and nothing else, and is
// never edited or stored. Wanted, the harness as it should become, is built from the decisions alone; the steps come from
// Pin; and the steps are then carried out on a model of the harness as found. If they do not end in Wanted the plan says
// so: that would be a fault of ours.
package plan

import (
	"slices"

	"draxel/core/finding"
	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/pin"
	"draxel/core/reach"
	"draxel/core/thin"
	"draxel/core/work"
)

// Facts are what was found.
type Facts struct {
	Kind     Kind
	From, To harness.Pinout
	Kept     match.Kept // which From housing each To connector is
	Laid     gather.Laid
	Records  map[string]thin.Record // what was noted at each connector
	Findings []finding.Finding      // what is wrong or doubtful in the facts themselves
}

// Decisions are what the person chose, one field a stage.
type Decisions struct {
	Match []match.Decision
	Thin  []thin.Decision
	Bench thin.Bench
	Ticks []work.Tick // what has been carried out
	Pin   pin.Decisions
	Reach reach.Decisions
}

// Plan is everything that follows from facts and decisions.
type Plan struct {
	Moves    bool // this kind of job moves the terminals of matched wires; others join the wires
	Match    *match.Result
	Totals   match.Totals
	Findings []finding.Finding
	Steps    []Step
	Proof    Proof
	Withheld int                 // decided moves and new wires left off the steps, since an undecided wire holds a cavity
	Housings []harness.Connector // the connectors of the model: From's, and To's that are new
	Thin     Thinning
	Pin      Pinning
	Reach    Reaching
}

// Step is a step of the re-pin sheet with what tells its wire from others.
type Step struct {
	pin.Step
	pin.Advice
	Wire harness.Row `json:"wire"` // the wire's row; for a new wire the To row
	Goal harness.Row `json:"goal"` // the To row that it fills, zero when it fills none
}

// Proof says whether the steps, carried out on the model, reached the wanted harness.
type Proof struct {
	Reached     bool     `json:"reached"`
	Steps       int      `json:"steps"`
	InHand      int      `json:"inHand"` // the most terminals that are loose at once
	Differences []string `json:"differences,omitempty"`
	Partial     bool     `json:"partial,omitempty"` // the steps can be carried out, but what was done and is not planned any more keeps the end from being compared
	Fault       string   `json:"fault,omitempty"`   // why the steps could not be made or carried out
}

// Compute gives the plan. It is pure: the same facts and decisions give the same plan.
func Compute(f Facts, d Decisions) Plan {
	return Follow(f, d, match.Crosswalk(f.From, f.To, f.Kept, d.Match))
}

// Follow gives the plan where the crosswalk of these facts and decisions is known already.
func Follow(f Facts, d Decisions, crosswalk *match.Result) Plan {
	p := Plan{Moves: f.Kind.MovesTerminals(), Match: crosswalk}
	p.Totals = p.Match.Totals()
	p.Findings = append(slices.Clone(f.Findings), p.Match.Findings(f.From, f.To)...)
	p.decideThin(f, d)
	m := build(f, d, p.Match, p.Thin.Result.Extract)
	p.Housings, p.Withheld = m.housings, m.withheld
	p.Findings = append(p.Findings, m.findings...)
	p.steps(m, d)
	p.decideReach(f, d, m)
	p.workThin(f, d, m)
	finding.Sort(p.Findings)
	return p
}
