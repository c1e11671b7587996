package join

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/finding"
)

// List gives the functions of a job with how each stands. It is pure.
func List(in Inputs) ([]Item, []finding.Finding) {
	var out []Item
	var found []finding.Finding
	wish := map[string]FunctionWish{}
	for _, w := range in.Wishes {
		wish[w.Function] = w
	}
	for _, f := range catalogue() {
		it := Item{Function: f, Ends: []EndAt{}, devices: map[string]bool{}}
		w := wish[f.ID]
		it.Choice, it.Reason = w.Choice, w.Reason
		circuits := map[int]map[string]bool{}
		for _, s := range in.Sockets {
			if !slices.Contains(f.Ends, s.Signal.Device) && s.Function != f.ID {
				continue
			}
			it.member(&in, &s)
			if carries(s.Signal.Role) {
				continue
			}
			it.Ends = append(it.Ends, EndAt{Ref: s.At, At: s.At.String(), Device: s.Device, Text: s.Text,
				Circuit: s.Circuit,
				Unit:    s.Unit, Unfollowed: s.Unfollowed, Added: s.Function != "",
				lamp: s.Signal.Device == "stopfeed" || s.Signal.Device == "reversefeed"})
			it.devices[s.Signal.Device] = true
			if circuits[s.Circuit] == nil {
				circuits[s.Circuit] = map[string]bool{}
			}
			circuits[s.Circuit][s.Device] = true
		}
		it.stand(&in, circuits)
		it.sum(&in, w)
		out = append(out, it)
		found = append(found, it.findings(&in)...)
	}
	return out, found
}

// stand says how a function stands by its circuits.
func (it *Item) stand(in *Inputs, circuits map[int]map[string]bool) {
	joined := false
	for _, devices := range circuits {
		joined = joined || len(devices) > 1
	}
	var loose []string // ends at units that nothing of the function comes to
	for _, e := range it.Ends {
		if e.Unit && len(circuits[e.Circuit]) == 1 {
			loose = append(loose, e.At)
		}
	}
	var at []string
	for _, e := range it.Ends {
		at = append(at, e.At)
	}
	before := in.Before[it.ID]
	lit, dark, unseen := it.lamps(in)
	switch {
	case it.Choice == GivenUp:
		it.State, it.Why = Gone, "it was decided"
	case it.Choice == NotFitted:
		it.State, it.Why = NotThere, "it was decided"
	case len(it.Ends) == 0 && it.Choice == Unsaid && before == "":
		it.State, it.Why = NotThere, "no wire of the tables is for it"
	case len(it.Ends) == 0:
		it.State, it.Why = Open, "no wire of the finished harness is for it"
		it.need("gather", "", "say in Gather which wires are for it, or give it up here")
	case it.Kind == WherePlan:
		it.State, it.Why = Open, "nothing is said of what becomes of it"
		if it.Choice == Wanted {
			it.State, it.Why = OnPaper, "it was decided"
		}
	case it.Kind == WhereLoop:
		it.loop(in.Sockets, in.Lost)
	case it.Kind == WhereFed && slices.ContainsFunc(it.Ends, func(e EndAt) bool { return !e.Unit && in.Live[e.At] }):
		it.State, it.Why = OnPaper, "it has volts"
	case it.Kind == WhereFed && in.Unfed, it.Kind == WhereWorks && len(it.works) == 0 && in.Unfed:
		it.State, it.Why, it.unsaid = Open, "nobody has said what stands in the vehicle", true
		it.need("feed", "", "say in Feed what feeds it")
	case it.Kind == WhereFed:
		it.State, it.Why = Needs, "none of its ends has volts in any position"
		it.need("feed", it.first(), "a feed with a fuse before it: look at it in Feed")
	case it.Kind == WhereWorks && len(it.works) > 0 && len(it.dead) > 0:
		it.State = Needs
		it.Why = fmt.Sprintf("%s %s volts with everything on, and %s none in any position", few(it.works),
			has(len(it.works)), few(it.dead)+" "+has(len(it.dead)))
		it.need("feed", it.at(it.dead[0]), "a feed, a ground or what switches it: look at "+it.dead[0]+" in Feed")
	case it.Kind == WhereWorks && len(it.works) > 0:
		it.State, it.Why = OnPaper, fmt.Sprintf("%s %s volts with everything on", few(it.works), has(len(it.works)))
		if len(it.untried) > 0 {
			it.Why += "; nobody has said what is inside of " + few(it.untried)
		}
	case it.Kind == WhereWorks:
		it.State, it.Why = Needs, "nothing in it has volts in any position"
		it.need("feed", it.first(), "a feed, a ground or what switches it: look at it in Feed")
	case it.ID == "pedal" && it.pair(in) != "":
		it.State, it.Why = Needs, it.pair(in)
		it.need("match", it.first(), "lead every wire of the pedal and of the throttle to the unit, or exchange "+
			"them as a pair")
	case it.ID == "interlock" && len(in.Job.Cranks) > 0:
		it.State, it.Why = Needs, "the starter turns without it"
		it.need("match", it.first(), "lead the start wire through the switch, or let the unit grant it")
	case it.ID == "gearbox" && len(in.Job.Gearbox) > 0:
		it.State, it.Why = Needs, fmt.Sprintf("%d things that the change of gearbox brings are not seen to",
			len(in.Job.Gearbox))
		for _, text := range in.Job.Gearbox {
			it.need("gather", "", text)
		}
	case len(dark) > 0:
		it.State, it.apart = Needs, true
		it.Why = fmt.Sprintf("with %s on and off nothing changes at %s", strings.Join(in.Lit[it.ID].Switches, ", "),
			strings.Join(dark[:min(len(dark), 6)], ", "))
		for _, at := range dark {
			it.need("match", at, "lead "+at+" to the switch, and the switch to its feed")
		}
	case len(unseen) > 0:
		it.State = Open
		it.Why = "nobody has followed its wires beyond " + strings.Join(unseen[:min(len(unseen), 6)], ", ")
		for _, at := range unseen {
			it.need("gather", at, "follow the wire of "+at+" with the meter, and say in Gather where it ends")
		}
	case (joined || len(lit) > 0) && len(loose) > 0:
		it.State, it.Why = Needs, "nothing of it comes to "+strings.Join(loose[:min(len(loose), 6)], ", ")
		for _, at := range loose {
			it.need("match", at, "join what it wants to "+at+" in Match, or say that the unit is set to do without")
		}
	case len(lit) > 0:
		it.State, it.Why = OnPaper, fmt.Sprintf("%s lights %s", strings.Join(in.Lit[it.ID].Switches, ", "),
			strings.Join(lit, ", "))
	case joined:
		it.State, it.Why = OnPaper, "its ends are one circuit"
	case !slices.ContainsFunc(it.Ends, func(e EndAt) bool { return !e.Unfollowed }):
		it.State, it.unsaid = Open, it.ID != "brake" && it.ID != "interlock"
		it.Why = "nobody has followed its wires beyond " + strings.Join(at[:min(len(at), 6)], ", ")
		for _, e := range it.Ends {
			it.need("gather", e.At, "follow the wire of "+e.At+" with the meter, and say in Gather where it ends")
		}
	default:
		it.State, it.apart = Needs, true
		it.Why = "its ends are not one circuit: " + strings.Join(at[:min(len(at), 6)], ", ")
		for _, e := range it.Ends {
			it.need("match", e.At, "join "+e.At+" in Match, or name what feeds it")
		}
	}
}

// lamps parts the ends of a function that are lamps, at no unit and at none of the switches that light them: those that
// the switches light, those that stay dark, and of these the ones whose wires nobody has followed. There are none where
// the network says nothing of it.
func (it *Item) lamps(in *Inputs) (lit, dark, unseen []string) {
	l := in.Lit[it.ID]
	if len(l.Switches) == 0 {
		return nil, nil, nil
	}
	for _, e := range it.Ends {
		switch {
		case !e.lamp || e.Unit || slices.Contains(l.Switches, e.Device):
		case l.On[e.At]:
			lit = append(lit, e.At)
		case e.Unfollowed:
			unseen = append(unseen, e.At)
		default:
			dark = append(dark, e.At)
		}
	}
	return lit, dark, unseen
}
