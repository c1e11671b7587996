package thin

import (
	"strings"

	"draxel/core/circuit"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/signal"
)

func (s supplied) feed() bool   { return s.feeds > 0 && 2*s.feeds >= s.all }
func (s supplied) ground() bool { return !s.feed() && s.grounds > 0 && 2*s.grounds >= s.all }

func (t *thinning) sourcesOf() sources {
	kinds := make([]supplied, t.net.Circuits)
	for w := range t.loom.Wires {
		k := &kinds[t.net.Nodes[t.net.Ends[w][0]].Circuit]
		k.all++
		switch t.loom.Wires[w].Signal.Role {
		case signal.Battery, signal.Ignition:
			k.feeds++
		case signal.Ground:
			k.grounds++
		}
	}
	first := map[string]int32{} // by device: a feed that it is on
	passes := map[string]bool{}
	for i := range t.net.Nodes {
		n, d := &t.net.Nodes[i], t.net.DeviceOf(int32(i))
		if d == nil || d.Kind.Hub() || n.Kind != circuit.Terminal || !kinds[n.Circuit].feed() {
			continue
		}
		if other, two := first[d.ID]; two && other != n.Circuit {
			passes[d.ID] = true
		}
		first[d.ID] = n.Circuit
	}
	s := sources{of: make([]bool, len(t.net.Nodes)), strict: make([]bool, t.net.Circuits)}
	real := func(i int32) bool {
		n, d := &t.net.Nodes[i], t.net.DeviceOf(i)
		if d == nil || n.Kind != circuit.Terminal {
			return false
		}
		k := kinds[n.Circuit]
		return k.feed() && (d.Kind == harness.Fuses || passes[d.ID]) || k.ground() && d.Kind == harness.Grounds
	}
	for i := range t.net.Nodes {
		if real(int32(i)) {
			s.strict[t.net.Nodes[i].Circuit] = true
		}
	}
	for i := range t.net.Nodes {
		if s.strict[t.net.Nodes[i].Circuit] {
			s.of[i] = real(int32(i))
		} else {
			s.of[i] = t.net.Hub(int32(i)) && t.net.Nodes[i].Kind == circuit.Terminal
		}
	}
	return s
}

// takes says whether an end lives by what a circuit brings: where the sources are known a unit does too.
func (s *sources) takes(t *thinning, at int32) bool {
	return !s.of[at] && (s.strict[t.net.Nodes[at].Circuit] || !t.net.Hub(at))
}

// unfed tells what nobody has decided away and that loses its last feed or ground by what goes, through whatever
// splices and plugs.
func (t *thinning) unfed(part []int32, told map[int32]bool) {
	var ends []string
	at := int32(-1)
	for _, n := range part {
		if t.net.Nodes[n].Kind == circuit.Terminal && t.node[n].choice != Goes && !told[n] {
			ends = append(ends, strings.TrimSpace(t.loss(n).At+" "+t.loss(n).Function))
			if at < 0 {
				at = n
			}
		}
	}
	if at < 0 {
		return
	}
	shown := strings.Join(ends[:min(len(ends), 6)], "; ")
	if len(ends) > 6 {
		shown += "; and more"
	}
	t.find("feed-lost", finding.Wrong, t.loss(at).At, "Keep the wire that brings it, give it another source, or let "+
		"what hangs on it go too.", "What goes takes the last feed or ground of %d ends that stay: %s.", len(ends), shown)
}
