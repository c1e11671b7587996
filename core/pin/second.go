package pin

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/work"
)

// Second compares a second check with what is expected: each difference is a finding, and so is a check by the hands
// that did the work, on the day on which they did it. The checks of cavities of which nothing is expected are left out.
func Second(expected []Expected, checks []Check, ticks []work.Tick) []finding.Finding {
	var out []finding.Finding
	add := func(code string, s finding.Severity, subject, text, remedy string) *finding.Finding {
		out = append(out, finding.Finding{Code: code, Severity: s, Stage: "pin", Subject: subject, Text: text,
			Remedy: remedy})
		return &out[len(out)-1]
	}
	known := map[harness.Ref]Expected{}
	powers := 0
	for _, e := range expected {
		known[e.At] = e
		if e.Power {
			powers++
		}
	}
	checked, same := 0, map[string]bool{}
	for _, c := range checks {
		e, ok := known[c.At]
		if !ok {
			continue
		}
		if e.Power {
			checked++
		}
		if !c.OK {
			severity := finding.Wrong
			if e.Power {
				severity = finding.Danger
			}
			add("second-check", severity, c.At.String(), fmt.Sprintf("The second check found %s in %s, where %s should be.",
				orUnsaid(c.Saw), c.At, e), "Prove the wire by continuity before the unit is plugged in, then put right "+
				"whichever is wrong.").Place = finding.Place{Part: "check"}
		}
		for _, t := range ticks {
			if t.Who == c.Who && day(t.When) == day(c.When) && touches(t, c.At.Connector) {
				same[c.Who] = true
			}
		}
	}
	for _, who := range sortedKeys(same) {
		name := who
		if name == "" {
			name = "the same hands"
		}
		add("second-check-alike", finding.Check, name, fmt.Sprintf("The second check was made by %s, who pinned on the "+
			"same day.", name),
			"Have another person do it, or do it on another day: the same eyes see the same "+
				"thing.").Place = finding.Place{Part: "check"}
	}
	touched := func(t work.Tick) bool {
		return slices.ContainsFunc(t.At, func(r harness.Ref) bool { return known[r].Power })
	}
	switch {
	case len(checks) == 0 && slices.ContainsFunc(ticks, touched):
		add("second-check-none", finding.Check, "", fmt.Sprintf("Feeds or grounds were touched, and nobody has checked "+
			"them a second time: %d powers and grounds.", powers), "Have another person check them by the plugs, or do it "+
			"on another day, before the unit is plugged in.").Place = finding.Place{Part: "check"}
	case len(checks) > 0 && checked < powers:
		add("second-check-open", finding.Check, "", fmt.Sprintf("%d of %d powers and grounds are checked a second time.",
			checked, powers), "Check the rest before the unit is plugged in.").Place = finding.Place{Part: "check"}
	}
	return out
}

func touches(t work.Tick, connector string) bool {
	return slices.ContainsFunc(t.At, func(r harness.Ref) bool { return r.Connector == connector })
}

// day numbers the days, in UTC.
func day(ms int64) int64 { return ms / (24 * 3600 * 1000) }

// String says what is expected: BU 4413 coolant temperature signal.
func (e Expected) String() string {
	if e.Empty {
		return "nothing"
	}
	text := join(join(e.Colour, e.Circuit), e.Function)
	if len(e.Joined) == 0 {
		return text
	}
	others := make([]string, len(e.Joined))
	for i, r := range e.Joined {
		others[i] = r.String()
	}
	return text + ", one circuit with " + strings.Join(others, ", ")
}

func orUnsaid(saw string) string {
	if saw == "" {
		return "something else"
	}
	return saw
}

func sortedKeys(m map[string]bool) []string {
	out := make([]string, 0, len(m))
	for k := range m {
		out = append(out, k)
	}
	slices.Sort(out)
	return out
}
