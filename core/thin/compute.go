package thin

import "draxel/core/circuit"

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
