package thin

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/circuit"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/signal"
)

// findings says what keeping and deleting implies, each with what to do.
func (t *thinning) findings() {
	t.incomplete()
	t.groups()
	t.dying()
	t.feeds()
	t.offConnectors()
	t.passing()
	t.doubtful()
	finding.Sort(t.result.Findings)
}

func (t *thinning) find(code string, s finding.Severity, subject, remedy, format string, args ...any) *finding.Finding {
	t.result.Findings = append(t.result.Findings, finding.Finding{Code: code, Severity: s, Stage: "thin",
		Subject: subject, Text: fmt.Sprintf(format, args...), Remedy: remedy})
	return &t.result.Findings[len(t.result.Findings)-1]
}

// apart is what belongs together: the wires of it that stay, and those that go.
type apart struct{ stays, goes []int32 }

func (a *apart) take(w int32, stays bool) {
	if stays {
		a.stays = append(a.stays, w)
	} else {
		a.goes = append(a.goes, w)
	}
}

func (a *apart) torn() bool { return len(a.stays) > 0 && len(a.goes) > 0 }

// incomplete: a sensor or actuator of which some wires stay and others go does not work.
func (t *thinning) incomplete() {
	parts := make([]apart, len(t.loom.Devices))
	part := make([]int32, len(t.loom.Connectors)) // by connector: the part that it plugs into, −1 for none
	for h := range part {
		part[h] = -1
		if d := t.net.Plugged[h]; d >= 0 && !t.loom.Devices[d].Kind.Hub() && !t.off(int32(h)) {
			part[h] = d
		}
	}
	for x, h := range t.net.Halves {
		w, end := circuit.Tip(x).Wire(), circuit.Tip(x).End()
		if h >= 0 && part[h] >= 0 && t.net.Nodes[t.net.Ends[w][end]].Kind != circuit.Link { // a junction uses nothing
			parts[part[h]].take(w, t.stays[w])
		}
	}
	for d := range parts {
		if !parts[d].torn() {
			continue
		}
		device := &t.loom.Devices[d]
		t.find("part-incomplete", finding.Wrong, device.ID,
			fmt.Sprintf("Keep %s as well, or let %s go as a whole.", t.named(parts[d].goes), device.ID),
			"%s stays, but it loses %s.", device.ID, t.aspects(parts[d].goes)).Place = finding.Place{Of: "module"}
	}
}

// aspects names wires by what they are to their device: its 5 V reference, its ground.
func (t *thinning) aspects(ws []int32) string {
	var out []string
	for _, w := range ws {
		s := &t.loom.Wires[w].Signal
		word := map[signal.Aspect]string{signal.AspectGround: "its ground", signal.AspectReference: "its 5 V reference",
			signal.AspectSupply: "its supply", signal.AspectShield: "its shield",
			signal.AspectHeaterSupply: "its heater's supply", signal.AspectHeaterGround: "its heater's ground",
			signal.AspectSignal: "its signal"}[s.Aspect]
		switch {
		case s.Role == signal.Ground || s.Role == signal.SensorGround:
			word = "its ground"
		case s.Role == signal.Reference5V:
			word = "its 5 V reference"
		case s.Role == signal.Battery || s.Role == signal.Ignition:
			word = "its supply"
		}
		if word == "" {
			word = t.name(w)
		} else {
			word += " (" + t.loom.Wires[w].ID.Name() + ")"
		}
		out = append(out, word)
	}
	return strings.Join(out, ", ")
}

// named lists wires by number, the first few.
func (t *thinning) named(ws []int32) string {
	var out []string
	for _, w := range ws[:min(len(ws), 4)] {
		out = append(out, string(t.loom.Wires[w].ID))
	}
	if len(ws) > 4 {
		out = append(out, fmt.Sprintf("%d more", len(ws)-4))
	}
	return strings.Join(out, ", ")
}

// groups: what is twisted together or runs under one shield, and a wire left alone in a branch.
func (t *thinning) groups() {
	pairs, shields, branches := map[string]*apart{}, map[string]*apart{}, map[string]*apart{}
	for w := range t.loom.Wires {
		wire := &t.loom.Wires[w]
		t.sort(int32(w), wire.Pair, pairs)
		t.sort(int32(w), wire.Shield, shields)
		t.sort(int32(w), wire.Branch, branches)
	}
	for _, name := range sorted(pairs) {
		if a := pairs[name]; a.torn() {
			t.find("pair-split", finding.Wrong, string(t.loom.Wires[a.goes[0]].ID),
				"Keep both or let both go: one wire of a twisted pair picks up what the pair would cancel.",
				"Twisted pair %s: %s goes and %s stays.", name, t.named(a.goes), t.named(a.stays))
		}
	}
	for _, name := range sorted(shields) {
		a := shields[name]
		shield := func(ws []int32) bool {
			return slices.ContainsFunc(ws, func(w int32) bool { return t.loom.Wires[w].Signal.Role == signal.Shield })
		}
		if a.torn() && shield(a.goes) {
			t.find("shield-lost", finding.Wrong, string(t.loom.Wires[a.goes[0]].ID),
				"Keep the shield's drain; it is grounded at one end only.",
				"%s stays without its shield: %s goes.", t.named(a.stays), t.named(a.goes))
		}
	}
	for _, name := range sorted(branches) {
		if a := branches[name]; len(a.stays) == 1 && len(a.goes) >= 2 {
			t.find("lone-survivor", finding.Note, string(t.loom.Wires[a.stays[0]].ID),
				"Check that it is wanted; if it is, it can be led along another branch.",
				"%s is the only wire left in branch %s, all of whose other %d wires go.", t.name(a.stays[0]), name, len(a.goes))
		}
	}
}

// sort files a wire under the name of what it belongs to.
func (t *thinning) sort(w int32, name string, into map[string]*apart) {
	if name == "" {
		return
	}
	a := into[name]
	if a == nil {
		a = &apart{}
		into[name] = a
	}
	a.take(w, t.stays[w])
}

func sorted(m map[string]*apart) []string {
	out := make([]string, 0, len(m))
	for k := range m {
		out = append(out, k)
	}
	slices.SortFunc(out, finding.Natural)
	return out
}

// dying: a kept function whose circuit no longer reaches a fuse, a unit or a ground, though it did; or, where there was
// none of these, no longer reaches anything, as a lamp whose switch goes.
func (t *thinning) dying() {
	had := make([]bool, t.net.Circuits)
	ends := make([]int, t.net.Circuits)
	touched := make([]bool, t.net.Circuits)
	for i := range t.net.Nodes {
		x := &t.net.Nodes[i]
		if x.Kind != circuit.Terminal {
			continue
		}
		ends[x.Circuit]++
		had[x.Circuit] = had[x.Circuit] || t.src.of[i]
		if t.node[i].choice == Goes { // a wire may stay and yet be cut off what comes away
			touched[x.Circuit] = true
		}
	}
	for w := range t.loom.Wires {
		if !t.stays[w] {
			touched[t.net.Nodes[t.net.Ends[w][0]].Circuit] = true
		}
	}
	seen, told := make([]bool, len(t.net.Nodes)), map[int32]bool{}
	var part []int32
	for i := range t.net.Nodes {
		c := t.net.Nodes[i].Circuit
		if seen[i] || !touched[c] || ends[c] < 2 {
			continue
		}
		part = t.reach(int32(i), seen, part[:0])
		hubs, live := 0, 0
		for _, at := range part {
			if t.net.Nodes[at].Kind == circuit.Terminal && t.node[at].choice != Goes {
				live++
				if t.src.of[at] {
					hubs++
				}
			}
		}
		if had[c] && hubs > 0 || !had[c] && live > 1 {
			continue
		}
		for _, at := range part {
			if t.net.Nodes[at].Kind == circuit.Terminal && t.node[at].choice == Keep && t.src.takes(t, at) {
				t.dies(at)
				told[at] = true
			}
		}
		if t.src.strict[c] && len(part) > 1 {
			t.unfed(part, told)
		}
	}
}

func (t *thinning) dies(at int32) {
	loss := t.loss(at)
	severity, what := finding.Wrong, ""
	for _, x := range t.net.Tips(at) {
		if l := signal.Legal(&t.loom.Wires[x.Wire()].Signal); l != "" {
			severity, what = finding.Danger, " The law may want it: "+l+"."
		}
	}
	t.find("function-dies", severity, loss.At, "Keep the wire that feeds it, or give it another source.",
		"%s, %s: it is kept, and what feeds or reads it goes.%s", loss.At, loss.Function, what)
}

// feeds: one of several feeds or grounds of a unit goes and others stay.
func (t *thinning) feeds() {
	type key struct {
		device string
		role   signal.Role
	}
	all := map[key]*apart{}
	var order []key
	for w := range t.loom.Wires {
		role := t.loom.Wires[w].Signal.Role
		if role != signal.Battery && role != signal.Ignition && role != signal.Ground {
			continue
		}
		for _, at := range t.net.Ends[w] {
			d := t.net.DeviceOf(at)
			if d == nil || d.Kind != harness.Unit || t.net.Nodes[at].Kind != circuit.Terminal || t.off(t.net.Nodes[at].Half) {
				continue
			}
			k := key{d.ID, role}
			if all[k] == nil {
				all[k] = &apart{}
				order = append(order, k)
			}
			all[k].take(int32(w), t.stays[w])
		}
	}
	for _, k := range order {
		if a := all[k]; a.torn() {
			t.find("feed-thinned", finding.Check, string(t.loom.Wires[a.goes[0]].ID),
				"Makers run two where one would be overloaded or watched: keep it unless you know.",
				"%s loses one of its %s feeds: %s goes, %s stays.", k.device, k.role, t.named(a.goes), t.named(a.stays))
		}
	}
}
