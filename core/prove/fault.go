package prove

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/network"
)

// Cause is what could be wrong.
type Cause struct {
	Kind   string          `json:"kind"`  // open, loose, blown, dead, stuck, short, swap, shell, ground, withheld
	Text   string          `json:"text"`  // what it is, in words
	Where  string          `json:"where"` // the element, the cavity
	Do     string          `json:"do"`    // what to do when it is found
	Faults []network.Fault `json:"faults"`
	Prior  float64         `json:"prior"` // before anything was measured, by kind and by what was done there
}

// How likely each kind is, one to another, before anything is known (common practice): what hands did comes before what
// the factory did.
var priors = map[string]float64{"open": 0.3, "loose": 1, "thin": 0.5, "blown": 1.5, "dead": 1, "stuck": 0.3,
	"short": 0.15,
	"swap":  0.5, "shell": 0.5, "ground": 1, "load": 0.6, "switch": 0.5, "withheld": 0.8}

// Causes lists every single fault of the stated kinds.
func (v *Vehicle) Causes() []Cause {
	v.ready()
	var out []Cause
	add := func(kind, where, do, text string, faults ...network.Fault) {
		p := priors[kind]
		if m := v.Made[where]; m > 0 {
			p *= m
		}
		out = append(out, Cause{kind, text, where, do, faults, p})
	}
	for i := range v.Net.Elements {
		e := &v.Net.Elements[i]
		open := network.Fault{Do: network.Open, Element: e.Name}
		worse := func(ohms float64) network.Fault {
			return network.Fault{Do: network.Worse, Element: e.Name, Ohms: ohms}
		}
		switch {
		case e.Kind == network.Copper && e.Wire != "":
			add("open", e.Name, "Follow it, and make it whole: its joints first.",
				fmt.Sprintf("%s is broken, or a joint of it open",
					e.Name), open)
			add("thin", e.Name, "Make its joints anew.", e.Name+" has some 8 Ω in it: a bad joint, a few strands", worse(8))
		case e.Kind == network.Copper:
			add("ground", e.Name, "Clean and tighten both its ends.", e.Name+" has a bad contact, some 0.4 Ω", worse(0.4))
			add("open", e.Name, "Fasten it.", e.Name+" is off", open)
		case e.Kind == network.Contact:
			at := strings.TrimPrefix(e.Name, "contact ")
			add("loose", e.Name, "Push it home until it clicks, and tug.",
				"the terminal in "+at+" is not seated, or does not touch",
				open)
			add("thin", e.Name, "Clean it, or crimp a new terminal.", "the terminal in "+at+" has a bad contact, some 4 Ω",
				worse(4))
		case e.Kind == network.Fuse:
			add("blown", e.Name, "Find what blew it before a new one goes in.", e.Name+" is blown, or missing", open)
		case (e.Kind == network.Load || e.Kind == network.Lamp) && v.Where[e.Name] != "" && e.Gate.Relay == 0:
			add("load", e.Name, "Replace it.", fmt.Sprintf("%s is dead inside", v.Where[e.Name]), open)
		case e.Kind == network.Switch && e.Gate.Relay == 0:
			add("switch", e.Name, "Look at its contact.", fmt.Sprintf("the contact of %s does not close", e.Name), open)
		}
	}
	for _, r := range v.Net.Relays {
		if strings.HasSuffix(r.Name, " awake") {
			continue // it stands for a unit that is fed
		}
		add("dead", r.Name, "Put another in its socket.", r.Name+" never pulls", network.Fault{Do: network.Dead,
			Element: r.Name})
		add("stuck", r.Name, "Put another in its socket.", r.Name+" stays pulled", network.Fault{Do: network.Stuck,
			Element: r.Name})
	}
	if len(v.Units) > 0 {
		var off []network.Fault
		for _, o := range v.Units {
			off = append(off, network.Fault{Do: network.Force, Element: o})
		}
		add("withheld", "immobiliser", "Have the key learned, or the immobiliser seen to by whoever programs the unit.",
			"the unit grants nothing: its immobiliser", off...)
	}
	v.touches(add)
	v.swaps(add)
	return out
}

// touches lists wires that touch ground, and terminals that touch their neighbours.
func (v *Vehicle) touches(add func(kind, where, do, text string, faults ...network.Fault)) {
	done := map[network.Node]bool{}
	heads := v.Net.Heads()
	for i := range v.Plugs {
		p := &v.Plugs[i]
		for k, cavity := range p.Cavities {
			at := p.At(cavity)
			node, there := v.nodes[at+" wire"]
			if !there {
				continue
			}
			if h := network.Node(v.joined(heads[node])); !done[h] && h != network.Reference {
				done[h] = true
				add("short", at, "Find where it is chafed through.", "the wire of "+at+" touches ground",
					network.Fault{Do: network.Short, A: at + " wire", B: "battery −", Ohms: 0.02})
			}
			if k+1 < len(p.Cavities) {
				next := p.At(p.Cavities[k+1])
				if _, full := v.nodes[next+" wire"]; full && !v.one(at+" wire", next+" wire") {
					add("short", at, "Look for strands between the two.", fmt.Sprintf("%s touches %s beside it", at, next),
						network.Fault{Do: network.Short, A: at + " wire", B: next + " wire", Ohms: 0.02})
				}
			}
		}
	}
}

// exchanged is what two terminals make that stand in each other's cavities.
func exchanged(a, b string) []network.Fault {
	return []network.Fault{{Do: network.Open, Element: "contact " + a}, {Do: network.Open, Element: "contact " + b},
		{Do: network.Short, A: a + " wire", B: b, Ohms: network.ContactOhms},
		{Do: network.Short, A: b + " wire", B: a, Ohms: network.ContactOhms}}
}

// eitherWay says whether there is nothing behind two cavities but one load between them: it works either way round.
func (v *Vehicle) eitherWay(a, b string) bool {
	heads := v.Net.Heads()
	x, y := heads[v.nodes[a]], heads[v.nodes[b]]
	loads := 0
	for _, n := range []int32{x, y} {
		for _, i := range v.at[n] {
			e := &v.Net.Elements[i]
			p, q := heads[e.A], heads[e.B]
			switch {
			case e.Kind == network.Contact:
			case (e.Kind == network.Load || e.Kind == network.Lamp) && (p == x && q == y || p == y && q == x):
				loads++
			default:
				return false
			}
		}
	}
	return loads == 2 // seen from either end
}

// swaps lists neighbours that stand in each other's cavity, and terminals in the right cavity of a plug that looks the
// same.
func (v *Vehicle) swaps(add func(kind, where, do, text string, faults ...network.Fault)) {
	full := func(at string) bool { _, there := v.Net.Element("contact " + at); return there }
	for i := range v.Plugs {
		p := &v.Plugs[i]
		for k, cavity := range p.Cavities {
			a := p.At(cavity)
			if !full(a) {
				continue
			}
			if k+1 < len(p.Cavities) {
				if b := p.At(p.Cavities[k+1]); full(b) && !v.one(a, b) && !v.eitherWay(a, b) {
					add("swap", a, "Exchange the two terminals.", fmt.Sprintf("%s and %s stand in each other's cavity", a, b),
						exchanged(a, b)...)
				}
			}
			for _, like := range p.Like {
				j := slices.IndexFunc(v.Plugs, func(x Plug) bool { return x.ID == like })
				if j < 0 || !slices.Contains(v.Plugs[j].Cavities, cavity) {
					continue
				}
				b := v.Plugs[j].At(cavity)
				_, faces := v.nodes[b]
				switch {
				case full(b) && v.one(a, b):
				case full(b) && i < j:
					add("shell", a, "Exchange the two terminals.", fmt.Sprintf("%s and %s stand in each other's shell", a, b),
						exchanged(a, b)...)
				case !full(b) && faces:
					add("shell", a, "Take it out, and put it into "+a+".",
						fmt.Sprintf("the terminal of %s stands in %s, in the other shell",
							a, b), network.Fault{Do: network.Open, Element: "contact " + a},
						network.Fault{Do: network.Short, A: a + " wire", B: b, Ohms: network.ContactOhms})
				}
			}
		}
	}
}
