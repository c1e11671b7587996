package prove

import (
	"draxel/core/network"
)

// fuses measures across each fuse, in its place.
func (x *sheeter) fuses() {
	for i := range x.Net.Elements {
		e := &x.Net.Elements[i]
		if e.Kind == network.Fuse {
			x.add(SheetLine{Section: "fuses", First: true, Why: e.Name + " is in, and whole",
				Measure: Measure{Kind: Ohms, A: x.touchable(e.A), B: x.touchable(e.B), Setup: Bare}})
		}
	}
}

// touchable names a node as something that a probe can be put on: a cavity, else its own name.
func (x *sheeter) touchable(n network.Node) string {
	for _, s := range x.spots[x.island[n]] {
		if x.nodeOf[s] == x.Net.Heads()[n] {
			return s
		}
	}
	return x.Net.Names[n]
}

// feedWatts is the lamp with which a feed is loaded: a resistance wire shows full volts with nothing on it.
const feedWatts = 21

// feeds measures at the units' plugs what is fed in each position of the key, loaded.
func (x *sheeter) feeds(keys []string) {
	for k := range x.Plugs {
		p := &x.Plugs[k]
		if !p.Unit {
			continue
		}
		for _, cavity := range p.Cavities {
			at := p.At(cavity)
			if _, there := x.nodeOf[at]; !there {
				continue
			}
			fed := false
			var lines []SheetLine
			for _, key := range keys {
				m := Measure{Kind: Volts, A: at, B: "battery −", Setup: Setup{Key: key, Battery: true}, Lamp: feedWatts}
				s, err := x.state(m.Setup)
				if err != nil {
					continue
				}
				shown, err := x.shows(s, &m)
				fed = fed || err == nil && shown.Value > 6
				lines = append(lines, SheetLine{Section: "feeds", Measure: m, Why: "a feed of the unit, with a lamp of 21 W on it",
					Caution: "Units out. Hands clear of fans and starter: neutral, chocks."})
			}
			if fed {
				for _, l := range lines {
					x.add(l)
				}
			}
		}
	}
}

// relays works each relay by a fused jumper at the cavity that commands it.
func (x *sheeter) relays() {
	heads := x.Net.Heads()
	for _, r := range x.Net.Relays {
		if r.Pull == network.Awake {
			continue
		}
		coil := &x.Net.Elements[r.Coil]
		low := x.island[heads[coil.B]]
		at := ""
		for _, s := range x.spots[low] {
			if k := x.plugAt[s]; k >= 0 && x.Plugs[k].Unit {
				at = s
				break
			}
		}
		if at == "" || low == x.island[0] {
			continue
		}
		for i := range x.Net.Elements {
			e := &x.Net.Elements[i]
			if e.Gate.Relay == 0 || x.Net.Relays[e.Gate.Relay-1].Name != r.Name || e.Gate.Rest {
				continue
			}
			spots := x.spots[x.island[heads[e.B]]]
			if len(spots) == 0 {
				continue
			}
			x.add(SheetLine{Section: "relays", Why: r.Name + " by a fused jumper from " + at + " to ground: it clicks",
				Caution: "What it works may move or spray: fuel pump away from sparks, fans clear.",
				Measure: Measure{Kind: Volts, A: spots[0], B: "battery −", Setup: Setup{Key: "run", Battery: true}, Jumper: at}})
		}
	}
}
