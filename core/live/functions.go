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
)

// Leg is a circuit of a function: its ends, the wires that join them, and what it is in each position of the key.
type Leg struct {
	Function string           `json:"function"`
	Circuit  int              `json:"circuit"`
	Wires    []harness.WireID `json:"wires"`
	In       []feed.LiveIn    `json:"in,omitempty"` // where the network says it
}

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
		none := feed.Read(nil)
		var err error
		if drawn, err = f.Drawn(d.Wanted, &none, map[harness.WireID]network.Length{}); err != nil {
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

// partSockets lists the ends of the parts that are added, with the circuits that their leads bring them to: what a part
// serves comes to where its lead comes.
func partSockets(parts []join.Added, drawn *network.Drawn, c *copperCircuits) []join.Socket {
	heads := drawn.Heads()
	var out []join.Socket
	for i := range parts {
		a := &parts[i]
		for _, l := range a.Leads {
			if n, known := drawn.Nodes[a.Point(l.Point)]; known {
				out = append(out, join.Socket{At: harness.Ref{Connector: a.ID, Cavity: l.Point}, Device: a.ID, Text: a.What,
					Circuit: int(c.find(heads[n])), Function: a.Function})
			}
		}
	}
	return out
}

// copperCircuits numbers what copper and contacts join.
type copperCircuits struct {
	drawn  *network.Drawn
	parent []int32
}

func circuitsOf(d *network.Drawn) *copperCircuits {
	c := &copperCircuits{drawn: d, parent: make([]int32, len(d.Names))}
	for i := range c.parent {
		c.parent[i] = int32(i)
	}
	heads := d.Heads()
	for i := range d.Elements {
		e := &d.Elements[i]
		if e.Kind != network.Copper && e.Kind != network.Contact {
			continue
		}
		if a, b := heads[e.A], heads[e.B]; a != 0 && b != 0 && !d.Inner[network.Node(a)] && !d.Inner[network.Node(b)] {
			c.join(a, b)
		}
	}
	return c
}

func (c *copperCircuits) find(n int32) int32 {
	for c.parent[n] != n {
		c.parent[n] = c.parent[c.parent[n]]
		n = c.parent[n]
	}
	return n
}

func (c *copperCircuits) join(a, b int32) {
	if a, b = c.find(a), c.find(b); a != b {
		c.parent[max(a, b)] = min(a, b)
	}
}

// sockets lists the cavities of devices in the wanted harness with the circuits that they are on. What a switch
// parts, it can join: its cavities are one circuit here.
func sockets(f *fact.Facts, wanted harness.Harness, drawn *network.Drawn, c *copperCircuits) []join.Socket {
	heads := drawn.Heads()
	device := f.Devices()
	hub, unit := map[string]bool{}, map[string]bool{}
	for i := range f.Laid.Loom.Devices {
		if k := f.Laid.Loom.Devices[i].Kind; k == harness.Fuses || k == harness.Grounds {
			hub[f.Laid.Loom.Devices[i].ID] = true
		}
		unit[f.Laid.Loom.Devices[i].ID] = f.Laid.Loom.Devices[i].Kind == harness.Unit
	}
	seen := map[harness.Ref]bool{} // cavities whose wire somebody has followed to its other end
	for i := range f.Laid.Loom.Wires {
		w := &f.Laid.Loom.Wires[i]
		for end, e := range w.Ends {
			seen[e.At] = seen[e.At] || w.Ends[1-end].Seen()
		}
	}
	// Where there is no list of devices every plug is one of the harness's own, that of which nobody said more.
	plugs := len(f.Laid.Loom.Devices) == 0
	var out []join.Socket
	first := map[string]int32{}
	for _, at := range wanted.Cavities() {
		id := device[at.Connector]
		if plugs && id == "" {
			id = "harness"
		}
		n, known := drawn.Points[at]
		if _, full := wanted.In(at); !full || !known || id == "" || hub[id] || wanted.Free(at.Connector) {
			continue
		}
		reading, text := drawn.Read(at)
		node := heads[n]
		if !unit[id] && signal.Switches(reading.Device) && reading.Role != signal.Ground &&
			reading.Role != signal.SensorGround {
			if other, twice := first[id]; twice {
				c.join(other, node)
			} else {
				first[id] = node
			}
		}
		out = append(out, join.Socket{At: at, Device: id, Signal: reading, Text: text, Circuit: int(node), Unit: unit[id],
			Unfollowed: !seen[at]})
	}
	for i := range out {
		out[i].Circuit = int(c.find(int32(out[i].Circuit)))
	}
	slices.SortFunc(out, func(a, b join.Socket) int { return harness.CompareRefs(a.At, b.At) })
	return out
}

// knownOf notes what the network says of the sums: the current of the charge lamp, the volts at the pump.
func knownOf(in *join.Inputs, r *feed.Result) {
	tried := map[string]bool{}
	for _, s := range in.Sockets {
		switch s.Signal.Device {
		case "clutchswitch", "pnp", "transferneutral":
			if tried[s.Device] || !slices.Contains(r.Drawn.Own, s.Device) {
				continue
			}
			tried[s.Device] = true
			if turns, known := r.CranksWithout(s.Device); turns && known {
				in.Job.Cranks = append(in.Job.Cranks, s.Device)
			}
		}
		if s.Unit && (s.Signal.Role == signal.Analogue || s.Signal.Role == signal.Reference5V) {
			if v, known := r.VoltsAt("run", s.At); known && v > inputVolts {
				in.Job.Over = append(in.Job.Over, join.Over{At: s.At.String(), Text: s.Text, Volts: v})
			}
		}
		switch s.Signal.Device {
		case "alternatorlamp":
			if lit(r, s.Device) {
				in.Job.LampAmps = max(in.Job.LampAmps, r.In("run", "contact "+s.At.String()))
			}
		case "fuelpump":
			if v := r.Has("running", s.Device); v > in.Job.PumpVolts {
				in.Job.PumpVolts = v
			}
			in.Job.PumpAmps = max(in.Job.PumpAmps, r.In("running", "contact "+s.At.String()))
		}
	}
}

// lampSwitches are the devices of the vocabulary whose switches light the lamps of a function.
var lampSwitches = map[string]string{"brake": "brakeswitch", "reverse": "reverseswitch"}

// litBy notes what the network says of the lamps that a switch of the driver lights: the harness's own, or one that a
// list of Feed has.
func litBy(in *join.Inputs, r *feed.Result) {
	in.Lit = map[string]join.Lit{}
	are := map[string]map[string]bool{} // devices of the harness by what their wires are read as
	for _, s := range in.Sockets {
		if are[s.Signal.Device] == nil {
			are[s.Signal.Device] = map[string]bool{}
		}
		are[s.Signal.Device][s.Device] = true
	}
	lights := map[string][]string{} // switches by the device that they are, or are called
	for _, x := range r.Own() {
		called := signal.Read(x).Device
		for _, device := range lampSwitches {
			if are[device][x] || called == device {
				lights[device] = append(lights[device], x)
			}
		}
	}
	for function, device := range lampSwitches {
		switches := lights[device]
		if len(switches) == 0 {
			continue
		}
		lit, err := r.Lights(switches)
		if err != nil {
			continue
		}
		l := join.Lit{Switches: switches, On: map[string]bool{}}
		for at := range lit {
			l.On[at.String()] = true
		}
		in.Lit[function] = l
	}
}

// inputVolts is what an input for 5 V bears at most (common practice).
const inputVolts = 6

// lit says whether the network has a lamp in a device.
func lit(r *feed.Result, device string) bool {
	return slices.ContainsFunc(r.Drawn.Of[device], func(i int32) bool { return r.Drawn.Elements[i].Kind == network.Lamp })
}

// legs lists the circuits of each function with their wires: those that copper joins to its ends. What lies beyond a
// switch is one circuit with them and none of their wires: with the switch open the one is live and the other dead.
func (c *copperCircuits) legs(items []join.Item, r *feed.Result) []Leg {
	plain := circuitsOf(c.drawn)
	heads := c.drawn.Heads()
	wires, copper := map[int][]harness.WireID{}, map[harness.WireID]int32{}
	for name, i := range c.drawn.Wires {
		n := heads[c.drawn.Elements[i].A]
		if n == 0 {
			n = heads[c.drawn.Elements[i].B]
		}
		k := int(c.find(n))
		wires[k] = append(wires[k], name)
		copper[name] = plain.find(n)
	}
	out := []Leg{}
	for i := range items {
		near := map[int]map[int32]bool{} // by circuit: what copper joins to its ends
		for _, e := range items[i].Ends {
			if near[e.Circuit] == nil {
				near[e.Circuit] = map[int32]bool{}
			}
			if n, known := c.drawn.Points[e.Ref]; known {
				near[e.Circuit][plain.find(heads[n])] = true
			}
		}
		seen := map[int]bool{}
		for _, e := range items[i].Ends {
			if seen[e.Circuit] {
				continue
			}
			seen[e.Circuit] = true
			l := Leg{Function: items[i].ID, Circuit: e.Circuit, Wires: []harness.WireID{}}
			for _, w := range wires[e.Circuit] {
				if len(near[e.Circuit]) == 0 || near[e.Circuit][copper[w]] {
					l.Wires = append(l.Wires, w)
				}
			}
			slices.SortFunc(l.Wires, finding.Natural)
			if r != nil {
				l.In = r.LiveOf(l.Wires)
			}
			out = append(out, l)
		}
	}
	return out
}
