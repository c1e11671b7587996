package live

import (
	"maps"
	"slices"

	"draxel/core/fact"
	"draxel/core/feed"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/network"
	"draxel/core/signal"
	"draxel/core/vehicle"
)

// Functioning says how what must work in the vehicle stands.
type Functioning struct {
	Items    []join.Item
	Settings []string            // of the unit, by the sums
	Raised   map[string][]string // generic fault codes of what is given up, by function
	Legs     []Leg
	Findings []finding.Finding
}

// FunctionReads is what Functions follow from.
type FunctionReads struct {
	Facts  *fact.Facts
	Wanted harness.Harness
	Feed   *Feeding
	Empty  []harness.Ref // To cavities that are left empty
	Wishes []join.FunctionWish
	Rules  []join.OutputRule
	Added  []join.Added
}

// Functions gives it.
func Functions(d FunctionReads) *Functioning {
	f, r, out := d.Facts, d.Feed.Result, &Functioning{}
	in := join.Inputs{Wishes: d.Wishes, Before: f.Worked, Works: map[string]bool{}, Unfed: r == nil,
		Job: join.Known{Cylinders: f.Cylinders, Alternator: f.Alternator, Gearbox: f.Gearbox, Rules: d.Rules}}
	drawn := (*network.Drawn)(nil)
	if r != nil {
		drawn = r.Drawn
		in.Works = r.EverWorks()
		in.Unknown = map[string]bool{}
		for _, d := range drawn.Open {
			in.Unknown[d] = true
		}
	} else { // nobody has said what stands in the vehicle: copper is copper
		none := vehicle.Read(nil)
		var err error
		if drawn, err = f.Drawn(d.Wanted, &none, map[harness.WireID]network.Metal{}); err != nil {
			return out // a knot that no vehicle has: said where the network is
		}
	}
	c := circuitsOf(drawn)
	in.Sockets = append(sockets(f, d.Wanted, drawn, c), partSockets(d.Added, drawn, c)...)
	in.Lost = lost(f, d.Wanted)
	worked := map[string]string{} // by output: what it is read as, the first stage first
	for _, s := range in.Sockets {
		switch s.Signal.Device {
		case "fan", "fanpwm":
			if s.Unit {
				worked[s.Text+" "+s.At.String()] = s.At.String()
			}
		case "acclutch":
			if in.Job.Cools = true; s.Unit && !slices.Contains(in.Job.Clutch, s.At.String()) {
				in.Job.Clutch = append(in.Job.Clutch, s.At.String())
			}
		}
	}
	for _, text := range slices.SortedFunc(maps.Keys(worked), finding.Natural) {
		in.Job.Fans = append(in.Job.Fans, worked[text])
	}
	if r != nil {
		knownOf(&in, r)
		litBy(&in, r)
		in.Live = map[string]bool{}
		for _, s := range in.Sockets {
			for _, p := range feed.Positions() {
				if v, known := r.VoltsAt(p.Name, s.At); known && v >= 6 {
					in.Live[s.At.String()] = true
				}
			}
		}
	}
	items, found := join.List(in)
	f.Rows(items)
	out.Items, out.Settings, out.Raised = items, join.Settings(items), join.Raised(items, absent(f, d.Wanted, d.Empty))
	out.Findings = append(found, join.CheckRules(d.Rules, drawn.Outputs)...)
	out.Legs = c.legs(items, r)
	return out
}

// absent gives what a unit of the finished harness does without: the wire of its cavity goes, or its cavity is left
// empty.
func absent(f *fact.Facts, wanted harness.Harness, empty []harness.Ref) []signal.Reading {
	var out []signal.Reading
	for _, at := range empty {
		row, _ := f.To.Row(at)
		out = append(out, row.Signal)
	}
	device, full := f.Devices(), map[string]int{}
	for _, at := range wanted.Cavities() {
		if _, there := wanted.In(at); there && !wanted.Free(at.Connector) {
			full[device[at.Connector]]++
		}
	}
	unit := map[string]bool{}
	for i := range f.Laid.Loom.Devices {
		d := &f.Laid.Loom.Devices[i]
		unit[d.ID] = d.Kind == harness.Unit && full[d.ID] > 0
	}
	for i := range f.Laid.Loom.Wires {
		w := &f.Laid.Loom.Wires[i]
		if _, there := wanted.Tips(wanted.Standing(w.ID)); there {
			continue
		}
		for _, e := range w.Ends {
			if unit[device[e.At.Connector]] {
				out = append(out, w.Signal)
			}
		}
	}
	return out
}
