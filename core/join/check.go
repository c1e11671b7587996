package join

import (
	"fmt"
	"strings"

	"draxel/core/finding"
)

// findings says what is wrong with how a function stands.
func (it *Item) findings(in *Inputs) []finding.Finding {
	var out []finding.Finding
	add := func(code string, s finding.Severity, remedy, format string, args ...any) {
		out = append(out, finding.Finding{Code: code, Severity: s, Stage: "join", Subject: it.ID, Text: fmt.Sprintf(format,
			args...),
			Remedy: remedy})
	}
	before := in.Before[it.ID]
	switch {
	case it.Sum != nil && it.Sum.Error != "":
		add("sum-cannot-be", finding.Wrong, "Put it right among its facts.", "The sum of %s cannot be reckoned: %s.",
			it.Name, it.Sum.Error)
	case it.State == Gone && it.ID == "brake":
		add("brake-given-up", finding.Danger, "Take that back: "+it.Law, "The brake lamps are given up.")
	case it.State == Gone && it.Law != "":
		add("given-up-law", finding.Check, "Check local rules; an engineer's certificate where one is wanted.",
			"%s given up. %s",
			title(it.Name), it.Law)
	case it.State == NotThere && it.Choice == NotFitted && before == "worked":
		add("worked-before", finding.Check, "Want it, or give it up with a reason.",
			"%s worked before the work began, and is said not to be fitted.",
			title(it.Name))
	case it.ID == "interlock" && len(in.Job.Cranks) > 0:
		add("cranks-in-gear", finding.Danger, "Lead the start wire through the switch, or through a relay that the switch or the unit grants.",
			"With %s open the starter turns in crank all the same: it cranks in gear. Neutral, chocks, hands clear.",
			strings.Join(in.Job.Cranks, ", "))
	case it.State == Needs && it.ID == "interlock":
		add("interlock-missing", finding.Danger,
			"Lead the switch into the start path: the starter's relay coil, or the unit that grants it.",
			"The clutch or park and neutral switch is not joined: it may crank in gear.")
	case it.State == Needs && it.ID == "brake" && it.apart:
		add("brake-depends", finding.Danger, "Join the switch's wire to the lamps before the unit goes.",
			"The brake lamps and their switch are not on one circuit in the finished harness: %s.", it.Why)
	case it.State == Needs && it.Sum != nil && !it.Sum.Works && !it.Sum.Short:
		add("sum-off", severityOf(it.ID), "Choose one of its ways: "+firstWay(it.Sum)+".", "%s: %s", title(it.Name),
			it.Sum.Says)
	case it.State == Needs:
		add("function-needs", finding.Check, "Join it in Match, feed it in Feed, or give it up here.",
			"%s needs something: %s.", title(it.Name), it.Why)
	case it.State == Open && !it.unsaid:
		add("function-open", finding.Check, "Say what becomes of it.", "%s is open: %s.", title(it.Name), it.Why)
	}
	return out
}

func firstWay(s *Sum) string {
	if len(s.Ways) == 0 {
		return "state what it works with"
	}
	return s.Ways[0].Text
}

// severityOf says how bad it is that a sum does not work out.
func severityOf(id string) finding.Severity {
	switch id {
	case "speed", "pedal", "charge", "bus":
		return finding.Wrong
	}
	return finding.Check
}

func title(name string) string {
	if name == "" {
		return ""
	}
	return string(name[0]-32) + name[1:]
}

// Raised lists the generic fault codes that functions which are given up will raise (SAE J2012, from memory), for
// whoever programs the unit.
func Raised(items []Item) map[string][]string {
	out := map[string][]string{}
	for i := range items {
		if it := &items[i]; it.State == Gone && len(it.Codes) > 0 {
			out[it.Name] = it.Codes
		}
	}
	return out
}

// Settings lists what a unit is to be set to by the sums of the functions that the finished vehicle has.
func Settings(items []Item) []string {
	var out []string
	for i := range items {
		for _, a := range items[i].Asks {
			if a.Name == setting {
				out = append(out, a.Value)
			}
		}
	}
	return out
}
