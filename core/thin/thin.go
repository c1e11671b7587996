// Package thin says what of a harness stays, what goes, and how it is taken out.
//
// The harness is a net of copper: wires joined at splices, in junction connectors and across in-line pairs. A person
// decides about systems, modules, connectors and single wires; what follows for every other wire and for each splice is
// computed. In each circuit the wanted ends stay joined as they were, and whatever leads to no wanted end goes. Nothing
// goes that nobody decided away, and nobody decides about restraint, high voltage or another's half of a plug here.
//
// The work that leads there is planned as steps on the model of the harness: cut, seal, open, join, take off, let fall
// out. Carried out on the model as found they must give the harness as wanted, which is built from the verdicts alone.
package thin

import (
	"sync"

	"draxel/core/circuit"
	"draxel/core/finding"
	"draxel/core/harness"
)

// School says how a dead end in a connector that stays is dealt with.
type School string

// The two schools.
const (
	Extract School = "extract" // take the terminal out of its cavity, and plug the cavity
	CutSeal School = "cut"     // cut and seal at the back of the connector
)

// Bench is how the person works.
type Bench struct {
	School School  `json:"school"`
	Stub   float64 `json:"stub"`            // mm of a leg left at a splice, to show what it was
	Rates  Rates   `json:"rates"`           // minutes
	Usable float64 `json:"usable"`          // mm, from which a piece is worth keeping
	Worked float64 `json:"worked,omitzero"` // minutes logged so far, 0 where nothing was
	Hand   *int    `json:"hand,omitempty"`  // how many terminals may be in hand between two steps; nil: 1
}

// Standard gives the settings that a job begins with: common practice, no source.
func Standard() Bench {
	return Bench{School: Extract, Stub: 60, Usable: 300,
		Rates: Rates{Check: 1, Seal: 3, Splice: 6, Join: 8, Extract: 4, Out: 3, TakeOff: 5}}
}

// Input is what Compute works on.
type Input struct {
	Loom      *harness.Loom
	Decisions []Decision
	Bench     Bench
	Records   map[string]Record // by connector

	// Cavities whose terminals are taken elsewhere: their wires are not cut off a connector that comes off.
	Moved map[harness.Ref]bool
}

// Record is what a person noted at one connector before it came off.
type Record struct {
	Labelled bool `json:"labelled,omitempty"`
	Photos   int  `json:"photos,omitempty"`
	Counted  int  `json:"counted,omitempty"` // wires counted at the plug; 0 where nobody has
}

// Result is what follows from the decisions.
type Result struct {
	Wires    []Verdict         // as the wires of the loom
	Joints   []JointVerdict    // splices and other places where copper meets, those with something to do and all splices
	Off      []string          // connectors that come off
	Steps    []Step            // in the order of work, without what Pin extracts
	Extract  []Extraction      // terminals that Pin takes out
	Findings []finding.Finding // what keeping and deleting implies
	Systems  []SystemLine
	t        *thinning
}

// Verdict is what becomes of one wire.
type Verdict struct {
	Choice    Choice    `json:"choice"`
	By        *Decision `json:"by,omitempty"`        // the decision that it comes from, nil where it follows from the circuit or nothing was decided
	Exception bool      `json:"exception,omitempty"` // it was decided about this very wire
	Contested bool      `json:"contested,omitempty"` // one end is kept and the other goes
	Circuit   int       `json:"circuit"`
	System    string    `json:"system,omitempty"`
}

// thinning is the work in progress.
type thinning struct {
	in      Input
	loom    *harness.Loom
	net     *circuit.Graph
	decided decisions
	half    []status // by connector
	torn    []int32  // halves of in-line pairs that go although their mates are kept
	node    []status
	guard   circuit.Guard
	forced  []Choice // by wire: what was decided about it itself
	stays   []bool   // by wire
	src     sources
	result  *Result
	filing  sync.Once
	number  map[harness.WireID]int32 // wires by id, once somebody has asked
}

// Compute gives what follows. It is pure, and takes time that grows with the number of wires.
func Compute(in Input) *Result {
	t := &thinning{in: in, loom: in.Loom, net: circuit.Draw(in.Loom), decided: file(in.Decisions),
		forced: make([]Choice, len(in.Loom.Wires)), result: &Result{}}
	t.result.t = t
	t.src = t.sourcesOf()
	t.leaveAlone()
	t.halves()
	t.pairs()
	t.statuses()
	t.soften()
	t.prune()
	t.verdicts()
	t.joints()
	t.systems()
	t.steps()
	t.findings()
	return t.result
}

func (t *thinning) verdicts() {
	t.result.Wires = make([]Verdict, len(t.loom.Wires))
	kept := make([]bool, t.net.Circuits) // a kept end that still has its wire
	for w := range t.loom.Wires {
		for _, at := range t.net.Ends[w] {
			if t.stays[w] && t.node[at].choice == Keep {
				kept[t.net.Nodes[at].Circuit] = true
			}
		}
	}
	for w := range t.loom.Wires {
		v := &t.result.Wires[w]
		v.Circuit = int(t.net.Nodes[t.net.Ends[w][0]].Circuit)
		v.System = t.wireSystem(int32(w))
		if d := t.decided.wire[t.loom.Wires[w].ID]; d != nil && t.forced[w] == d.Choice && !t.guard.Wires[w] {
			v.Choice, v.By, v.Exception = d.Choice, d, true
			continue
		}
		keep, goes := t.deciding(int32(w), Keep), t.deciding(int32(w), Goes)
		switch {
		case !t.stays[w]:
			v.Choice, v.By = Goes, goes
		case keep != nil:
			v.Choice, v.By, v.Contested = Keep, keep, goes != nil
		case kept[v.Circuit] && t.between(int32(w)):
			v.Choice = Keep
		default:
			v.Contested = goes != nil
		}
	}
}

// deciding gives the decision at the wire's ends that chose so, the nearer scope first.
func (t *thinning) deciding(w int32, c Choice) *Decision {
	var best *Decision
	for _, at := range t.net.Ends[w] {
		if s := t.node[at]; s.choice == c && s.by != nil && (best == nil || narrower(s.by.On, best.On)) {
			best = s.by
		}
	}
	return best
}

func narrower(a, b Scope) bool { return depth(a) > depth(b) }

func depth(s Scope) int {
	switch s {
	case System:
		return 0
	case Module:
		return 1
	case Connector:
		return 2
	case Wire, Joint:
		return 3
	}
	return 0
}

// between says whether both ends of a wire only hand copper on or sit at a hub: it is kept for the sake of others.
func (t *thinning) between(w int32) bool {
	for _, at := range t.net.Ends[w] {
		if k := t.net.Nodes[at].Kind; !k.Passes() && !t.node[at].soft {
			return false
		}
	}
	return true
}
