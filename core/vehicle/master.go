package vehicle

import (
	"slices"
	"strings"

	"draxel/core/network"
	"draxel/core/signal"
)

// Master says whether a switch of its own parts the battery from what hangs on it: by its lines it stands in the
// lead of one of the battery's posts, with nothing but cables before it, and fuses, contacts or relays behind it.
// What is called one counts too, wherever it stands.
func (f *Facts) Master(name string) bool {
	if name == "" {
		return false
	}
	for _, c := range f.Inside.Switches {
		if c.Switch != name {
			continue
		}
		if strings.Contains(strings.ToLower(c.Name), "master") {
			return true
		}
		for _, s := range f.Inside.Sources {
			if s.Name != network.BatteryName {
				continue
			}
			minus := s.Minus
			if minus == "" {
				minus = "battery −"
			}
			for _, post := range []string{s.Plus, minus} {
				at := f.cabled(post)
				switch {
				case at[c.From] && !at[c.To] && f.divides(c.To, name, post == minus),
					at[c.To] && !at[c.From] && f.divides(c.From, name, post == minus):
					return true
				}
			}
		}
	}
	return false
}

// cabled gives the points that cables alone join to a point, itself included.
func (f *Facts) cabled(from string) map[string]bool {
	at := map[string]bool{from: true}
	for again := true; again; {
		again = false
		for _, c := range f.Inside.Cables {
			if at[c.From] != at[c.To] {
				at[c.From], at[c.To], again = true, true, true
			}
		}
	}
	return at
}

// divides says whether from a point, along cables, current is shared out: to fuses, to other contacts, to relays; on
// the side of the negative to straps and cables.
func (f *Facts) divides(from, not string, minus bool) bool {
	at := f.cabled(from)
	if minus {
		return len(at) > 1
	}
	return slices.ContainsFunc(f.Inside.Slots, func(s network.Slot) bool { return at[s.In] }) ||
		slices.ContainsFunc(f.Inside.Switches, func(c network.Contacts) bool {
			return c.Switch != not && (at[c.From] || at[c.To])
		}) ||
		slices.ContainsFunc(f.Inside.Relays, func(r network.Coiled) bool { return at[r.Common] })
}

// KeySwitches gives the devices that are the key's switch: those at which the lists have a contact of the key, and
// those that their wires show as one, fed from the battery and leading on what only a key does: a start signal, or
// two of ignition and accessory. What is called one counts too.
func KeySwitches(ends []Seen, contacts []Line) map[string]bool {
	out, fed, gives := map[string]bool{}, map[string]bool{}, map[string]map[string]bool{}
	cavities := map[string]bool{}
	for _, l := range contacts {
		if key, _ := positions(l.Cells["closed"]); key != 0 {
			cavities[l.Cells["from"]], cavities[l.Cells["to"]] = true, true
		}
	}
	for _, e := range ends {
		name := strings.ToLower(e.Device)
		if e.Device == "" || e.Kind.Hub() {
			continue
		}
		if cavities[e.At.String()] || strings.Contains(name, "ignition switch") || strings.Contains(name, "key switch") {
			out[e.Device] = true
		}
		if gives[e.Device] == nil {
			gives[e.Device] = map[string]bool{}
		}
		switch {
		case e.Signal.Role == signal.Battery:
			fed[e.Device] = true
		case e.Signal.Role == signal.Start:
			gives[e.Device]["start"] = true
		case e.Signal.Device == "accessory", e.Signal.Role == signal.Ignition:
			gives[e.Device][e.Signal.Device] = true
		}
	}
	for d := range fed {
		if gives[d]["start"] && len(gives[d]) > 1 || gives[d]["accessory"] && gives[d]["ignition"] {
			out[d] = true
		}
	}
	return out
}
