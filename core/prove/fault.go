package prove

import (
	"fmt"
	"strings"

	"draxel/core/network"
)

// CauseKind is a kind of fault.
type CauseKind string

// The kinds of fault.
const (
	Broken        CauseKind = "open"
	NotSeated     CauseKind = "loose"
	BadContact    CauseKind = "thin" // a terminal, a joint
	Blown         CauseKind = "blown"
	DeadRelay     CauseKind = "dead"
	StuckRelay    CauseKind = "stuck"
	Touching      CauseKind = "short"
	OnAFeed       CauseKind = "supply"   // it touches a feed
	Swapped       CauseKind = "swap"     // with the neighbour
	CrossedPlugs  CauseKind = "crossed"  // two plugs that are alike
	WrongShell    CauseKind = "shell"    // the right cavity of the wrong plug
	Beside        CauseKind = "beside"   // one cavity off
	Misprint      CauseKind = "misprint" // the table of a unit is wrong
	Reversed      CauseKind = "diode"
	NotInPosition CauseKind = "position" // of the key
	PoorGround    CauseKind = "ground"
	DeadInside    CauseKind = "load"
	DeadSwitch    CauseKind = "switch"
	Withheld      CauseKind = "withheld" // by an immobiliser
)

// Cause is what could be wrong.
type Cause struct {
	Kind   CauseKind       `json:"kind"`
	Text   string          `json:"text"`  // what it is, in words
	Where  string          `json:"where"` // the element, the cavity
	Do     string          `json:"do"`    // what to do when it is found
	Faults []network.Fault `json:"faults"`
	Prior  float64         `json:"prior"` // before anything was measured, by kind and by what was done there
	// Where it shows: only with the units plugged in; only in one position of the key. Empty: everywhere.
	Plugged bool   `json:"plugged,omitempty"`
	Key     string `json:"key,omitempty"`
}

// In gives what the cause changes in the network of a setup: nothing where it does not show.
func (c *Cause) In(s Setup) []network.Fault {
	if c.Plugged && !s.Units || c.Key != "" && c.Key != s.Key {
		return nil
	}
	return c.Faults
}

// Faults gives what causes change together in the network of a setup.
func Faults(causes []Cause, s Setup) []network.Fault {
	if len(causes) == 1 {
		return causes[0].In(s)
	}
	var out []network.Fault
	for i := range causes {
		out = append(out, causes[i].In(s)...)
	}
	return out
}

// How likely each kind is, one to another, before anything is known (common practice): what hands did comes before
// what the factory did.
var priors = map[CauseKind]float64{Broken: 0.3, NotSeated: 1, BadContact: 0.5, Blown: 1.5, DeadRelay: 1,
	StuckRelay: 0.3,
	Touching:   0.15, OnAFeed: 0.08, Swapped: 0.5, CrossedPlugs: 0.4, WrongShell: 0.5, Beside: 0.15, Misprint: 0.15,
	Reversed:      0.2,
	NotInPosition: 0.2, PoorGround: 1, DeadInside: 0.6, DeadSwitch: 0.5, Withheld: 0.8}

// Causes lists every single fault of the stated kinds.
func (v *Vehicle) Causes() []Cause {
	v.ready()
	var out []Cause
	add := func(kind CauseKind, where, do, text string, faults ...network.Fault) {
		p := priors[kind]
		if m := v.Made[where]; m > 0 {
			p *= m
		}
		out = append(out, Cause{Kind: kind, Text: text, Where: where, Do: do, Faults: faults, Prior: p})
	}
	for i := range v.Net.Elements {
		e := &v.Net.Elements[i]
		open := network.Fault{Do: network.Open, Element: e.Name}
		worse := func(ohms float64) network.Fault {
			return network.Fault{Do: network.Worse, Element: e.Name, Ohms: ohms}
		}
		switch {
		case e.Kind == network.Copper && e.Wire != "":
			add(Broken, e.Name, "Follow it, and make it whole: its joints first.",
				fmt.Sprintf("%s is broken, or a joint of it open",
					e.Name), open)
			add(
				BadContact,
				e.Name,
				"Make its joints anew.",
				e.Name+" has some 8 Ω in it: a bad joint, a few strands",
				worse(8),
			)
		case e.Kind == network.Copper:
			add(
				PoorGround,
				e.Name,
				"Clean and tighten both its ends.",
				e.Name+" has a bad contact, some 0.4 Ω",
				worse(0.4),
			)
			add(Broken, e.Name, "Fasten it.", e.Name+" is off", open)
		case e.Kind == network.Diode:
			add(
				Reversed,
				e.Name,
				"Turn it: its ring is at the positive side.",
				e.Name+" is in the wrong way round",
				v.turned(int32(i)),
			)
		case e.Kind == network.Contact:
			at := e.At()
			add(NotSeated, e.Name, "Push it home until it clicks, and tug.",
				"the terminal in "+at+" is not seated, or does not touch",
				open)
			add(
				BadContact,
				e.Name,
				"Clean it, or crimp a new terminal.",
				"the terminal in "+at+" has a bad contact, some 4 Ω",
				worse(4),
			)
		case e.Kind == network.Fuse:
			add(Blown, e.Name, "Find what blew it before a new one goes in.", e.Name+" is blown, or missing", open)
		case (e.Kind == network.Load || e.Kind == network.Lamp) && v.Where[e.Name] != "" && e.Gate.Relay == 0:
			text, do := fmt.Sprintf("%s is dead inside", v.Where[e.Name]), "Replace it."
			if end := e.Ohms > 110 && e.Ohms < 130 && strings.Contains(strings.ToLower(e.Name), "terminat"); end {
				text, do = "an end of the data bus is gone: "+e.Name, "Put 120 Ω across the pair at that end (ISO 11898-2)."
			}
			add(DeadInside, e.Name, do, text, open)
		case e.Kind == network.Switch && e.Gate.Relay == 0:
			add(
				DeadSwitch,
				e.Name,
				"Look at its contact.",
				fmt.Sprintf("the contact of %s does not close", e.Name),
				open,
			)
			for _, k := range network.Keys() {
				if e.Gate.Key&k != 0 && e.Gate.Key != k && k != network.Off {
					add(
						NotInPosition,
						e.Name,
						"Look at its contact there; an ignition switch that drops out in crank is the usual one.",
						fmt.Sprintf("%s is closed elsewhere, and not in %s", e.Name, k),
						open,
					)
					out[len(out)-1].Key = k.String()
				}
			}
		}
	}
	for _, r := range v.Net.Relays {
		if r.Pull == network.Awake {
			continue // it stands for a unit that is fed
		}
		do := "Put another in its socket."
		if r.Pull == network.Solenoid {
			do = "Battery off; then the starter comes out and is looked at."
		}
		add(DeadRelay, r.Name, do, r.Name+" never pulls", network.Fault{Do: network.Dead,
			Element: r.Name})
		add(StuckRelay, r.Name, do, r.Name+" stays pulled", network.Fault{Do: network.Stuck,
			Element: r.Name})
	}
	if len(v.Units) > 0 {
		var off []network.Fault
		for _, o := range v.Units {
			off = append(off, network.Fault{Do: network.Force, Element: o})
		}
		add(
			Withheld,
			"immobiliser",
			"Have the key learned, or the immobiliser seen to by whoever programs the unit.",
			"the unit grants nothing: its immobiliser",
			off...)
	}
	v.touches(add)
	v.swaps(add)
	v.crossed(add)
	return append(out, v.misprints()...)
}

// turned is what a diode does that is in the wrong way round: where it lets current through as a rule it stops it,
// and where it stops it, across a coil, it takes all of it.
func (v *Vehicle) turned(i int32) network.Fault {
	e := &v.Net.Elements[i]
	if s, err := v.state(Setup{Key: "run", Battery: true, Units: true}); err == nil && s.Conducts(i) &&
		s.Across(i) > 0 {
		return network.Fault{Do: network.Open, Element: e.Name}
	}
	return network.Fault{Do: network.Short, A: v.Net.Names[e.A], B: v.Net.Names[e.B], Ohms: 0.1}
}

// touches lists wires that touch ground, and terminals that touch their neighbours.
func (v *Vehicle) touches(add func(kind CauseKind, where, do, text string, faults ...network.Fault)) {
	done, fed := map[network.Node]bool{}, map[int32]bool{}
	heads := v.Net.Heads()
	for i := range v.Plugs {
		p := &v.Plugs[i]
		for k, cavity := range p.Cavities {
			at := p.At(cavity)
			node, there := v.nodes[network.WireSide(at)]
			if !there {
				continue
			}
			if h := network.Node(v.joined(heads[node])); !done[h] && h != network.Reference {
				done[h] = true
				add(Touching, at, "Find where it is chafed through.", "the wire of "+at+" touches ground",
					network.Fault{Do: network.Short, A: network.WireSide(at), B: "battery −", Ohms: 0.02})
			}
			if _, there := v.nodes[plus]; there && !fed[v.joined(heads[node])] && !v.one(network.WireSide(at), plus) {
				fed[v.joined(heads[node])] = true
				add(OnAFeed, at, "Find where it touches a feed.", "the wire of "+at+" touches a feed",
					network.Fault{Do: network.Short, A: network.WireSide(at), B: plus, Ohms: 0.02})
			}
			if k+1 < len(p.Cavities) {
				next := p.At(p.Cavities[k+1])
				if _, full := v.nodes[network.WireSide(next)]; full && !v.one(network.WireSide(at), network.WireSide(next)) {
					add(
						Touching,
						at,
						"Look for strands between the two.",
						fmt.Sprintf("%s touches %s beside it", at, next),
						network.Fault{Do: network.Short, A: network.WireSide(at), B: network.WireSide(next), Ohms: 0.02},
					)
				}
			}
		}
	}
}
