package match

import (
	"fmt"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/signal"
)

// NeverJoin says whether two wires must never be joined to one, and why in one sentence: what Veto forbids, and two
// different outputs or inputs, which would each drive or read the other's circuit.
func NeverJoin(a, b signal.Reading) (why string, never bool) {
	if why, vetoed := Veto(a, b); vetoed {
		return why, true
	}
	fa, fb := familyOf(a.Role), familyOf(b.Role)
	if fa != fb || a.Sure < sureEnough || b.Sure < sureEnough {
		return "", false
	}
	same := a.Device == b.Device && a.Aspect == b.Aspect && a.Cylinder == b.Cylinder && a.Bank == b.Bank &&
		a.Position == b.Position && a.Channel == b.Channel
	switch {
	case same:
		return "", false
	case fa == output:
		return fmt.Sprintf("%s and %s are two different outputs", a, b), true
	case fa == input:
		return fmt.Sprintf("%s and %s are two different signals", a, b), true
	}
	return "", false
}

// joints looks at what was decided to share a wire: it may have come to be what must never be, when a table was put
// right.
func (r *Result) joints() []finding.Finding {
	var out []finding.Finding
	look := func(side Side, at, with harness.Ref, a, b harness.Row) {
		if classes := differentSupplies(&a.Signal, &b.Signal); classes != "" {
			severity := finding.Wrong
			if mixesIgnition(&a.Signal, &b.Signal) {
				severity = finding.Danger
			}
			out = append(out, finding.Finding{Code: "supply-differs", Severity: severity, Side: string(side),
				Subject: at.String(),
				Text:    fmt.Sprintf("%s is to share a wire with %s: %s.", at, with, classes), Remedy: "Reopen the decision: one " +
					"feed would keep the other alive."})
		}
		if why, never := NeverJoin(a.Signal, b.Signal); never {
			out = append(out, finding.Finding{Code: "never-joined", Severity: finding.Danger, Side: string(side),
				Subject: at.String(),
				Text:    fmt.Sprintf("%s is to share a wire with %s: %s.", at, with, why), Remedy: "Reopen the decision."})
		}
	}
	fills := map[harness.Ref]harness.Ref{}
	for _, l := range r.Lines {
		if l.Feeds() && l.Decided {
			fills[l.To] = l.From
		}
	}
	for _, l := range r.Lines {
		if l.Verdict == Meets && l.Decided && l.Way != Into {
			a, b := r.from[r.fromAt[l.From]], r.to[r.toAt[l.To]]
			if mixesIgnition(&a.Signal, &b.Signal) { // of the rest the match itself says that it is wrong
				look(From, l.From, l.To, a, b)
			}
		}
		if d := r.byFrom[r.fromAt[l.From]]; d == nil || d.Choice != Joined {
			continue
		}
		a := r.from[r.fromAt[l.From]]
		look(From, l.From, l.To, a, r.to[r.toAt[l.To]])
		if other, ok := fills[l.To]; ok && other != l.From {
			look(From, l.From, other, a, r.from[r.fromAt[other]])
		}
	}
	for _, w := range r.Wants {
		if w.Verdict == NewWire && w.Origin.Kind == AtCavity {
			if i, ok := r.fromAt[w.Origin.At]; ok {
				look(To, w.To, w.Origin.At, r.to[r.toAt[w.To]], r.from[i])
			}
		}
		if w.Verdict == Branches {
			look(To, w.To, w.Of, r.to[r.toAt[w.To]], r.from[r.fromAt[w.Of]])
		}
	}
	return out
}

// NeverMeet says why two circuits must not become one, wherever in them the wires are that are joined: restraint and
// high voltage with anything, a supply with a ground, two different outputs. It is empty where they may.
func NeverMeet(a, b *signal.Reading) string {
	fa, fb := familyOf(a.Role), familyOf(b.Role)
	switch {
	case untouchable(a) || untouchable(b):
		return fmt.Sprintf("%s meets %s, which is left alone", a, b)
	case fa == supply && b.Role == signal.Ground, fb == supply && a.Role == signal.Ground:
		return fmt.Sprintf("%s meets %s: a supply on a ground", a, b)
	case fa == output && fb == output && a.Role != signal.OutputSignal && b.Role != signal.OutputSignal && differ(a, b):
		return fmt.Sprintf("%s meets %s: two different outputs on one wire", a, b)
	}
	return ""
}

// differ says whether two outputs are two things.
func differ(a, b *signal.Reading) bool {
	return a.Device != b.Device || a.Cylinder != b.Cylinder && a.Cylinder > 0 && b.Cylinder > 0 ||
		a.Channel != b.Channel && a.Channel > 0 && b.Channel > 0
}
