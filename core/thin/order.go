package thin

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/work"
)

// systemOrder is the order in which systems are taken out: what is on its own first. Common practice, no source.
var systemOrder = []string{"restraint", "brakes", "emissions", "climate", "body", "security", "gearbox", "driveline",
	"suspension", "lighting", "instruments",
	"network", "starting", "cooling", "lubrication", "air", "fuel", "ignition", "engine", "power", "", "high-voltage"}

func systemRank(s string) int {
	if i := slices.Index(systemOrder, s); i >= 0 {
		return i
	}
	return len(systemOrder)
}

// ordered gives the steps a system at a time, each after those that it needs, between the cautions and the last look.
func (p *planner) ordered() []Step {
	ranks := map[string]int32{}
	rank := make([]int32, len(p.all))
	order := make([]int32, len(p.all))
	for i := range p.all {
		r, known := ranks[p.all[i].System]
		if !known {
			r = int32(systemRank(p.all[i].System))
			ranks[p.all[i].System] = r
		}
		rank[i], order[i] = r, int32(i)
	}
	slices.SortFunc(order, func(a, b int32) int {
		if rank[a] != rank[b] {
			return cmp.Compare(rank[a], rank[b])
		}
		return cmp.Or(strings.Compare(p.all[a].System, p.all[b].System), cmp.Compare(a, b))
	})
	before := p.before()
	out := make([]Step, 0, len(p.all)+len(before)+1)
	out = append(out, before...)
	done := make([]bool, len(p.all))
	var emit func(i int32)
	emit = func(i int32) {
		if done[i] {
			return
		}
		done[i] = true
		for _, need := range p.all[i].Needs {
			emit(int32(p.byID[need]))
		}
		out = append(out, p.all[i])
	}
	for _, i := range order {
		emit(i)
	}
	return append(out, p.after()...)
}

// before gives what comes before the first cut. Where nothing goes there is nothing to be careful about.
func (p *planner) before() []Step {
	if len(p.all) == 0 && len(p.result.Extract) == 0 {
		return []Step{}
	}
	check := func(kind work.Kind, text, why string, about ...string) Step {
		s := Step{Stage: work.Thin, Kind: kind, Text: text, Why: why, Minutes: p.in.Bench.Rates.Check}
		return s.As(work.Check(append([]string{string(kind)}, about...)...))
	}
	out := []Step{work.BatteryOff(work.Thin, p.in.Bench.Rates.Check)}
	restraint, hv := false, false
	for w := range p.loom.Wires {
		restraint = restraint || p.loom.Wires[w].Signal.System == "restraint"
		hv = hv || p.loom.Wires[w].Signal.System == "high-voltage"
	}
	if restraint {
		out = append(out, check(Caution, "This harness carries restraint circuits: battery off, wait as the maker says, "+
			"never probe them. No step here touches them; leave them to qualified hands.", "", "restraint"))
	}
	if hv {
		out = append(out, check(Caution, "This harness carries high voltage: only qualified persons, service plug out, "+
			"proven dead. No step here touches it; local rules apply.", "", "high-voltage"))
	}
	out = append(out, p.result.GateStep())
	kept := map[string]int{}
	for w := range p.loom.Wires {
		if p.result.Wires[w].Choice == Keep {
			kept[p.loom.Wires[w].Branch]++
		}
	}
	for _, b := range p.loom.Branches {
		if n := kept[b.ID]; n > 0 {
			out = append(out, check(Tie, fmt.Sprintf("Tie branch %s as kept, at the trunk, with a tie that no factory "+
				"fitted: %s.", b.ID, wires(n)), "", "tie", b.ID))
		}
	}
	return out
}

func (p *planner) after() []Step {
	opened := map[string]bool{}
	for w := range p.loom.Wires {
		if b := p.loom.Wires[w].Branch; !p.stays[w] && b != "" {
			opened[b] = true
		}
	}
	if len(p.all) == 0 {
		return nil
	}
	where := "along everything that was opened"
	if len(opened) > 0 {
		names := make([]string, 0, len(opened))
		for b := range opened {
			names = append(names, b)
		}
		slices.SortFunc(names, finding.Natural)
		where = "along " + strings.Join(names, ", ")
	}
	last := Step{Stage: work.Thin, Kind: Nicks, Minutes: p.in.Bench.Rates.Check * float64(1+len(opened)),
		Text: fmt.Sprintf("Look for nicks %s: a blade that opens tape opens insulation too.", where)}
	return []Step{last.As(work.Check("nicks"))}
}

// GateStep gives the gate before the first cut. What is missing at the connectors that the work touches is for whoever
// knows all of the work to say.
func (r *Result) GateStep() Step {
	s := Step{Stage: work.Thin, Kind: Gate, Minutes: r.t.in.Bench.Rates.Check, Text: "Before the first cut: map, " +
		"labels, photographs and counts are complete.",
		Why: "From here on steps cannot be taken back in the metal."}
	return s.As(work.Check(string(Gate), "gate"))
}

// Missing lists what is not yet complete of labels, photographs and counts at the connectors that work touches.
func (r *Result) Missing(touched map[string]bool) []string {
	t := r.t
	wires := make([]int, len(t.loom.Connectors))
	for _, h := range t.net.Halves {
		if h >= 0 {
			wires[h]++
		}
	}
	out := []string{}
	for h := range t.loom.Connectors {
		c := &t.loom.Connectors[h]
		if !touched[c.ID] {
			continue
		}
		record := t.in.Records[c.ID]
		var not []string
		if !record.Labelled {
			not = append(not, "no label")
		}
		if record.Photos == 0 {
			not = append(not, "no photograph")
		}
		switch {
		case record.Counted == 0:
			not = append(not, "wires not counted")
		case record.Counted != wires[h]:
			not = append(not, fmt.Sprintf("%d wires counted, %d known", record.Counted, wires[h]))
		}
		if len(not) > 0 {
			out = append(out, c.ID+": "+strings.Join(not, ", "))
		}
	}
	return out
}

// list names the wires of some tips in a row, with their colours, the first few in full.
func (p *planner) list(at int32, stays bool) string {
	var names []string
	for _, x := range p.net.Tips(at) {
		if p.stays[x.Wire()] == stays {
			wire := &p.loom.Wires[x.Wire()]
			names = append(names, strings.TrimSpace(string(wire.ID+" ")+wire.Colour.String()))
		}
	}
	if len(names) > 6 {
		return fmt.Sprintf("%s and %d more", strings.Join(names[:6], ", "), len(names)-6)
	}
	return strings.Join(names, ", ")
}

func refs(at []harness.Ref) string {
	names := make([]string, len(at))
	for i, r := range at {
		names[i] = r.String()
	}
	return strings.Join(names, ", ")
}

func mm(v float64) string { return fmt.Sprintf("%.0f mm", v) }

func wires(n int) string {
	if n == 1 {
		return "1 wire in it is kept"
	}
	return fmt.Sprintf("%d wires in it are kept", n)
}
