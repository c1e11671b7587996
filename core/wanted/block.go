package wanted

import (
	"fmt"

	"draxel/core/fact"
	"draxel/core/feed"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/match"
	"draxel/core/signal"
	"draxel/core/size"
)

// Block is what the wanted harness needs of a fuse block of one's own: which it is, and the wires that lead to it and
// from it. Its zero value is none.
type Block struct {
	ID    string
	Leads []feed.Lead
}

// BlockOf gives it of a block, nil where there is none.
func BlockOf(b *feed.Block) Block {
	if b == nil {
		return Block{}
	}
	return Block{ID: b.ID, Leads: b.Leads()}
}

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

// free gives the cavity that a text names, and whether no wire is known in it.
func (m *Model) free(text string) (harness.Ref, bool) {
	at, is := m.cavity(text)
	return at, is && m.Ends.Wires[at] == nil
}

// cavity reads a text as a cavity of the model.
func (m *Model) cavity(text string) (harness.Ref, bool) { return m.Facts.Cavity(text) }

// Uses lists the cavities of the harness that wires of the block are led to.
func (b Block) Uses(f *fact.Facts) []harness.Ref {
	var out []harness.Ref
	for _, l := range b.Leads {
		if at, is := f.Cavity(l.To); is {
			out = append(out, at)
		}
	}
	return out
}

// pigtail leads from a cavity that several new wires begin at to the joint at which they come together: one terminal
// holds one wire.
func (g *planning) pigtail(at harness.Ref) string {
	name := JointAt(at)
	n := newWire{pigtail: true, Id: harness.NewWire("pigtail of " + at.String()), lands: [2]harness.Ref{at, at},
		Row: harness.Row{Ref: at, Function: "pigtail of " + at.String(), Size: coilSquare}}
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
	comes := map[string]int{}
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
	if tips, there := g.Past.Now.Tips(n.Id); there && tips[1].State == harness.Crimped {
		return tips[1].Terminal
	}
	return harness.TerminalID("far end of " + n.Id)
}

// coilSquare and feedSquare are what the wires of a block begin with, mm²: Reach makes them thicker where they carry
// more.
const (
	coilSquare size.Section = 0.5
	feedSquare size.Section = 1.5
)

// leadsOf lays the wires that a block of one's own needs: what feeds its groups, and the ends of its coils.
func (g *planning) leadsOf(b Block) {
	for _, l := range b.Leads {
		row := harness.Row{Ref: l.At, Function: "feed of the fuse block", Size: feedSquare,
			Signal: signal.Reading{Role: signal.Battery}}
		if l.Coil {
			row.Function, row.Size, row.Signal = "relay coil of the fuse block", coilSquare,
				signal.Reading{Role: signal.RelayCoil}
		}
		t := NewEnd(l.At)
		n := newWire{Id: NewWireOf(l.At), Row: row, lands: [2]harness.Ref{l.At}}
		n.ends[0] = join.Goal{Terminal: t, At: l.At}
		origin := &match.Origin{Kind: match.AtFuse, Name: l.To}
		if at, is := g.cavity(l.To); is {
			origin = &match.Origin{Kind: match.AtCavity, At: at}
		}
		g.originate(&n, origin)
		g.lay(n)
	}
}
