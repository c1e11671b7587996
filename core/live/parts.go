package live

import (
	"slices"

	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/network"
	"draxel/core/vehicle"
)

// withParts gives what stands in the vehicle with the resistors and relays that are added between wires.
func withParts(f *vehicle.Facts, parts []join.Added) *vehicle.Facts {
	if f == nil || len(parts) == 0 {
		return f
	}
	out := *f
	in := &out.Inside
	in.Uses, in.Relays = slices.Clone(in.Uses), slices.Clone(in.Relays)
	for i := range parts {
		a := &parts[i]
		point := func(name string) string {
			if slices.ContainsFunc(a.Leads, func(l join.PartLead) bool { return l.Point == name }) || a.In != (harness.Ref{}) &&
				(name == "30" || name == "87") {
				return string(a.Point(name))
			}
			return ""
		}
		switch {
		case a.Body == join.Resistor && a.In == (harness.Ref{}):
			in.Uses = append(in.Uses, network.Use{Name: a.ID, Plus: string(a.Point("1")), Minus: string(a.Point("2")), Volts: 12,
				Amps: 12 / a.Ohms})
		case a.Body == join.RelayBody && point("85") != "" && point("86") != "" && point("30") != "":
			in.Relays = append(in.Relays, network.Coiled{Name: a.ID,
				Coil:   [2]string{string(a.Point("86")), string(a.Point("85"))},
				Common: string(a.Point("30")), Make: point("87"), Break: point("87a")})
		}
	}
	return &out
}

// Site is an end of a function at which a part can be let in or joined on, or why none can.
type Site struct {
	At   string `json:"at"`
	Text string `json:"text"`
	Why  string `json:"why,omitempty"` // why not
}

// Sites lists where parts can come: the ends of all functions.
func Sites(functions []join.Item, before harness.Harness) []Site {
	seats := join.Crimped(before)
	out := []Site{}
	seen := map[string]bool{}
	for i := range functions {
		for _, e := range functions[i].Ends {
			if seen[e.At] {
				continue
			}
			seen[e.At] = true
			s := Site{At: e.At, Text: e.Device + ": " + e.Text}
			if _, err := join.Site(before, seats, e.Ref); err != nil {
				s.Why = err.Error()
			}
			out = append(out, s)
		}
	}
	return out
}
