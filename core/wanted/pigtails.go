package wanted

import (
	"fmt"

	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/match"
	"draxel/core/size"
)

// coilSquare and feedSquare are what the wires of a block begin with, mm²: Reach makes them thicker where they carry
// more.
const (
	coilSquare size.Section = 0.5
	feedSquare size.Section = 1.5
)

// begins counts the new wires that begin at each cavity in which there is none yet.
func (m *Model) begins(r *match.Result) map[harness.Ref]int {
	n := map[harness.Ref]int{}
	count := func(o *match.Origin) {
		if o != nil && o.Kind == match.AtCavity && m.Ends.Wires[o.At] == nil {
			n[o.At]++
		}
	}
	for i := range r.Lines {
		if l := &r.Lines[i]; l.Decided && l.Verdict == match.NeedsSource {
			count(l.Origin)
		}
	}
	for i := range r.Wants {
		if w := &r.Wants[i]; w.Decided && w.Verdict == match.NewWire {
			count(w.Origin)
		}
	}
	for _, l := range m.block.Leads {
		if at, free := m.free(l.To); free {
			n[at]++
		}
	}
	return n
}

// pigtail leads from a cavity that several new wires begin at to the joint at which they come together: one terminal
// holds one wire.
func (g *planning) pigtail(at harness.Ref) harness.JointID {
	name := JointAt(at)
	n := newWire{pigtail: true, ID: harness.NewWire("pigtail of " + at.String()), lands: [2]harness.Ref{at, at},
		Row: harness.Row{Ref: at, Conductor: harness.Conductor{Function: "pigtail of " + at.String(), Size: coilSquare}}}
	known := g.Planned[name] != nil
	g.joint(at, fmt.Sprintf("%d new wires begin at %s: they come together close to it.", g.begins[at], at))
	if known {
		return name
	}
	n.ends = [2]join.Goal{{Terminal: NewEnd(at), At: at}, {Joint: name}}
	g.begin(name, n, 1)
	g.lay(n)
	return name
}

// lonelyPigtails leaves out the pigtails to which no wire comes that is laid.
func (m *Model) lonelyPigtails(goals map[harness.TerminalID]harness.Place) {
	comes := map[harness.JointID]int{}
	for _, n := range m.Fresh {
		laid := true
		for _, g := range n.ends {
			_, there := goals[g.Terminal]
			laid = laid && (g.Terminal == "" || there)
		}
		for _, g := range n.ends {
			if laid && g.Joint != "" && !n.pigtail {
				comes[g.Joint]++
			}
		}
	}
	for _, n := range m.Fresh {
		if n.pigtail && comes[n.ends[1].Joint] == 0 {
			delete(goals, n.ends[0].Terminal)
		}
	}
}

// farEnd names the terminal at the second end of a new wire: the one that is crimped on already, wherever it is, so
// that it moves when its wire is to begin elsewhere.
func (g *planning) farEnd(n *newWire) harness.TerminalID {
	if tips, there := g.Past.Now.Tips(n.ID); there && tips[1].State == harness.Crimped {
		return tips[1].Terminal
	}
	return harness.TerminalID("far end of " + n.ID)
}
