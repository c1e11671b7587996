package plan

import (
	"slices"

	"draxel/core/feed"
	"draxel/core/finding"
	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/network"
	"draxel/core/signal"
)

// Leg is a circuit of a function: its ends, the wires that join them, and what it is in each position of the key.
type Leg struct {
	Function string        `json:"function"`
	Circuit  int           `json:"circuit"`
	Wires    []string      `json:"wires"`
	In       []feed.LiveIn `json:"in,omitempty"` // where the network says it
}

// functions says how what must work in the vehicle stands.
func (p *Plan) functions(f *Facts, d Decisions) {
	r := p.Feed.Result
	in := join.Inputs{Wishes: d.Functions, Before: f.Worked, Works: map[string]bool{}, Unfed: r == nil,
		Job: join.Known{Cylinders: f.Cylinders, Alternator: f.Alternator}}
	drawn := (*network.Drawn)(nil)
	if r != nil {
		drawn = r.Drawn
		in.Works = r.EverWorks()
	} else { // nobody has said what stands in the vehicle: copper is copper
		none := feed.Read(nil)
		var err error
		if drawn, err = f.drawn(p.Wanted, &none, map[string]network.Length{}); err != nil {
			return // a knot that no vehicle has: said where the network is
		}
	}
	c := circuitsOf(drawn)
	in.Sockets = p.sockets(f, drawn, c)
	if r != nil {
		p.knownOf(&in, r)
	}
	items, found := join.List(in)
	p.Join.Functions, p.Join.Settings, p.Join.Raised = items, join.Settings(items), join.Raised(items)
	p.Findings = append(p.Findings, found...)
	p.Findings = append(p.Findings, join.CheckRules(d.OutRules, drawn.Outputs)...)
	p.Join.Legs = c.legs(items, r)
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
func (p *Plan) sockets(f *Facts, drawn *network.Drawn, c *copperCircuits) []join.Socket {
	heads := drawn.Heads()
	device := map[string]string{}
	for i := range f.Laid.Loom.Connectors {
		device[f.Laid.Loom.Connectors[i].ID] = f.Laid.Loom.Connectors[i].Device
	}
	hub, unit := map[string]bool{}, map[string]bool{}
	for i := range f.Laid.Loom.Devices {
		if k := f.Laid.Loom.Devices[i].Kind; k == harness.Fuses || k == harness.Grounds {
			hub[f.Laid.Loom.Devices[i].ID] = true
		}
		unit[f.Laid.Loom.Devices[i].ID] = f.Laid.Loom.Devices[i].Kind == harness.Unit
	}
	var out []join.Socket
	first := map[string]int32{}
	for _, at := range p.Wanted.Cavities() {
		id := device[at.Connector]
		n, known := drawn.Points[at]
		if _, full := p.Wanted.In(at); !full || !known || id == "" || hub[id] || p.Wanted.Free(at.Connector) {
			continue
		}
		reading, text := drawn.Read(at)
		node := heads[n]
		if signal.Switches(reading.Device) && reading.Role != signal.Ground && reading.Role != signal.SensorGround {
			if other, twice := first[id]; twice {
				c.join(other, node)
			} else {
				first[id] = node
			}
		}
		out = append(out, join.Socket{At: at, Device: id, Signal: reading, Text: text, Circuit: int(node), Unit: unit[id]})
	}
	for i := range out {
		out[i].Circuit = int(c.find(int32(out[i].Circuit)))
	}
	slices.SortFunc(out, func(a, b join.Socket) int { return harness.CompareRefs(a.At, b.At) })
	return out
}

// knownOf notes what the network says of the sums: the current of the charge lamp, the volts at the pump.
func (p *Plan) knownOf(in *join.Inputs, r *feed.Result) {
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

// lit says whether the network has a lamp in a device.
func lit(r *feed.Result, device string) bool {
	return slices.ContainsFunc(r.Drawn.Of[device], func(i int32) bool { return r.Drawn.Elements[i].Kind == network.Lamp })
}

// legs lists the circuits of each function with their wires.
func (c *copperCircuits) legs(items []join.Item, r *feed.Result) []Leg {
	wires := map[int][]string{}
	heads := c.drawn.Heads()
	for name, i := range c.drawn.Wires {
		n := heads[c.drawn.Elements[i].A]
		if n == 0 {
			n = heads[c.drawn.Elements[i].B]
		}
		k := int(c.find(n))
		wires[k] = append(wires[k], name)
	}
	out := []Leg{}
	for i := range items {
		seen := map[int]bool{}
		for _, e := range items[i].Ends {
			if seen[e.Circuit] {
				continue
			}
			seen[e.Circuit] = true
			l := Leg{Function: items[i].ID, Circuit: e.Circuit, Wires: wires[e.Circuit]}
			slices.SortFunc(l.Wires, finding.Natural)
			if l.Wires == nil {
				l.Wires = []string{}
			}
			if r != nil {
				l.In = r.LiveOf(l.Wires)
			}
			out = append(out, l)
		}
	}
	return out
}

// worked gives by function whether it worked before the work began, as the baseline has it in words.
func worked(b *gather.Before) map[string]string {
	out := map[string]string{}
	if b == nil {
		return out
	}
	for _, x := range b.Baseline {
		f, known := join.FunctionNamed(x.Function)
		if !known {
			continue
		}
		switch x.Works {
		case gather.DidWork:
			out[f.ID] = "worked"
		case gather.DidNot:
			out[f.ID] = "did not"
		}
	}
	return out
}
