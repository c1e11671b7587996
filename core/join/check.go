package join

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/signal"
)

// findings says what is wrong with how a function stands.
func (it *Item) findings(in *Inputs) []finding.Finding {
	var out []finding.Finding
	add := func(code string, s finding.Severity, remedy, format string, args ...any) {
		out = append(out, finding.Finding{Code: code, Severity: s, Stage: "join", Subject: it.ID, Name: it.Name,
			Text: fmt.Sprintf(format,
				args...),
			Remedy: remedy})
	}
	before := in.Before[it.ID]
	switch {
	case it.Sum != nil && it.Sum.Error != "":
		add("sum-cannot-be", finding.Wrong, "Put it right among its facts.", "The sum of %s cannot be reckoned: %s.",
			it.Name, it.Sum.Error)
	case it.ID == "hvloop" && it.Sum != nil && !it.Sum.Works:
		code := "loop-open"
		severity := finding.Wrong
		if strings.Contains(it.Why, "by-passes") {
			code, severity = "loop-bypassed", finding.Danger
		}
		add(code, severity, "Put its 12 V side right in Match. The high-voltage side is left to qualified persons.",
			"High-voltage interlock loop: %s", it.Sum.Says)
	case it.ID == "gearbox" && len(in.Job.Gearbox) > 0:
		add("gearbox-items", finding.Check, "See to them in Gather, among what the vehicle has.",
			"The change of gearbox is not all seen to: %s.", strings.Join(in.Job.Gearbox[:min(len(in.Job.Gearbox), 3)], "; "))
	case it.ID == "reverse" && it.State == Needs && !it.has("reverseswitch"):
		add("reverse-no-switch", finding.Check, "Bring the gearbox's switch in Gather, and join it in Match.",
			"The reverse lamps have no switch.")
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
		add("cranks-in-gear", finding.Danger, "Lead the start wire through the switch, or through a relay that the switch "+
			"or the unit grants.",
			"With %s open the starter turns in crank all the same: it cranks in gear. Neutral, chocks, hands clear.",
			strings.Join(in.Job.Cranks, ", "))
	case it.State == Needs && it.ID == "interlock" && !it.granted():
		add("interlock-missing", finding.Danger,
			"Lead the switch into the start path: the starter's relay coil, or the unit that grants it.",
			"The clutch or park and neutral switch is not joined: it may crank in gear.")
	case it.State == Needs && it.ID == "brake" && it.apart:
		add("brake-depends", finding.Danger, "Join the switch's wire to the lamps before the unit goes.",
			"The brake lamps do not follow their switch in the finished harness: %s.", it.Why)
	case it.State == Needs && it.Sum != nil && !it.Sum.Works && !it.Sum.Short:
		add("sum-off", severityOf(it.ID), "Choose one of its ways: "+firstWay(it.Sum)+".", "%s: %s", title(it.Name),
			it.Sum.Says)
	case it.State == Needs:
		add("function-needs", finding.Check, "Join it in Match, feed it in Feed, or give it up here.",
			"%s needs something: %s.", title(it.Name), it.Why)
	case it.State == Open && !it.unsaid:
		add("function-open", finding.Check, "Say what becomes of it.", "%s is open: %s.", title(it.Name), it.Why)
	}
	for _, o := range in.Job.Over {
		if slices.ContainsFunc(it.Ends, func(e EndAt) bool { return e.At == o.At }) {
			add("volts-on-5v", finding.Danger, "Part it from what feeds it, or lead it through a divider.",
				"%s, %s, is an input for 5 V and has %.1f V.", o.At, o.Text, o.Volts)
		}
	}
	if at, who := it.crowded(); at != "" {
		add("two-sources", finding.Wrong, "Give the gauge a sender of its own, in a second port.",
			"%s: %s are on one circuit: a gauge takes one source, and one that a unit reads is shared by nobody.",
			title(it.Name), who)
	}
	return out
}

// granted says whether a part that was added serves the function.
func (it *Item) granted() bool {
	return slices.ContainsFunc(it.Ends, func(e EndAt) bool { return e.Added })
}

// has says whether a device of the vocabulary is among a function's ends.
func (it *Item) has(device string) bool { return it.devices[device] }

// crowded gives the circuit of a gauge on which there are more than a source and the gauge.
func (it *Item) crowded() (at, who string) {
	switch it.ID {
	case "coolantgauge", "oilgauge", "fuelgauge", "tach":
	default:
		return "", ""
	}
	for _, e := range it.Ends {
		var devices []string
		for _, o := range it.Ends {
			if o.Circuit == e.Circuit && !o.Added && !slices.Contains(devices, o.Device) {
				devices = append(devices, o.Device)
			}
		}
		if len(devices) > 2 {
			return e.At, strings.Join(devices, ", ")
		}
	}
	return "", ""
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
//
// Absent is what a unit of the finished harness has lost the circuit of, or has its cavity empty: what goes, stays away
// or is stood in for by a part raises codes like what is given up. Of several alike, only those that are absent do.
func Raised(items []Item, absent []signal.Reading) map[string][]string {
	out := map[string][]string{}
	for i := range items {
		it := &items[i]
		away := it.Choice == NotFitted && slices.ContainsFunc(it.Ends, func(e EndAt) bool { return e.Unit })
		list := it.Codes
		if it.State != Gone && !away && !it.stoodIn() {
			list = it.raisedBy(absent)
		}
		if len(list) > 0 {
			out[it.Name] = list
		}
	}
	return out
}

// raisedBy gives the codes of a function that what is absent raises.
func (it *Item) raisedBy(absent []signal.Reading) []string {
	var out []string
	for _, code := range it.Codes {
		at, one := it.of[code]
		if slices.ContainsFunc(absent, func(s signal.Reading) bool {
			return slices.Contains(it.Function.Ends, s.Device) && (!one ||
				(s.Bank == 0 || s.Bank == at.bank) && (s.Position == 0 || s.Position == at.position))
		}) {
			out = append(out, code)
		}
	}
	return out
}

// stoodIn says whether nothing of a function is there but parts that were added, and the unit that they are for.
func (it *Item) stoodIn() bool {
	added, unit := false, false
	for _, e := range it.Ends {
		if !e.Unit && !e.Added {
			return false
		}
		added, unit = added || e.Added, unit || e.Unit
	}
	return added && unit
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
