package live

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/fact"
	"draxel/core/feed"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/network"
	"draxel/core/prove"
)

// Metered gives the wanted harness as what a meter is put on, by its network. It fails where nobody has said what
// stands in the vehicle: without sources and fuses no meter shows anything.
func Metered(f *fact.Facts, studs []string, r *feed.Result, found, wanted harness.Harness) (*prove.Vehicle, error) {
	if r == nil {
		return nil, fmt.Errorf(
			"say in Feed what stands in the vehicle: battery, fuses, key; then it can be said what a meter must show",
		)
	}
	v := &prove.Vehicle{Net: r.Drawn.Network, Of: r.Drawn.Of, Where: map[string]string{}, Made: handled(found, wanted),
		Drives: r.Drawn.Outputs, Switches: r.Own(),
		Usual: func(s prove.Setup) network.Condition {
			at := feed.Positions()[0]
			for _, x := range feed.Positions() {
				if x.Name == s.Key {
					at = x
				}
			}
			return r.Usual(at)
		}}
	for i, device := range r.Drawn.Device {
		if _, unit := r.Drawn.Units[device]; !unit {
			v.Where[r.Drawn.Elements[i].Name] = device
		}
	}
	kind := map[string]harness.DeviceKind{}
	for i := range f.Laid.Loom.Devices {
		kind[f.Laid.Loom.Devices[i].ID] = f.Laid.Loom.Devices[i].Kind
	}
	all := f.Laid.Loom.Connectors
	for i := range all {
		h := &all[i]
		if h.Device == "" && h.Mate == "" || wanted.Free(h.ID) {
			continue
		}
		x := prove.Plug{
			ID:       h.ID,
			Cavities: h.Cavities,
			Unit:     kind[h.Device] == harness.Unit,
			Trusted:  f.Trusted(h.ID),
		}
		for k := range all {
			o := &all[k]
			switch {
			case o.ID == h.ID || h.Ways() <= 2 || o.Device != h.Device || h.Device == "":
			case o.Ways() == h.Ways():
				x.Like = append(x.Like, o.ID)
			case o.Ways() > 2:
				x.Beside = append(x.Beside, o.ID)
			}
		}
		v.Plugs = append(v.Plugs, x)
	}
	for _, s := range studs {
		if _, known := r.Drawn.Nodes[s]; known {
			v.Studs = append(v.Studs, s)
		}
	}
	for at, drives := range r.Drawn.Outputs {
		for _, word := range []string{"pump", "starter", "injector", "ignition coil"} {
			if strings.Contains(strings.ToLower(drives), word) {
				v.Units = append(v.Units, at)
				break
			}
		}
	}
	slices.Sort(v.Units)
	return v, nil
}

// How many times likelier a fault is where hands were (common practice): at a joint that was made, at a terminal that
// was moved or crimped anew.
const (
	jointed = 3
	moved   = 3
	crimped = 4
)

// handled gives by element of the network how much likelier a fault is there by what the job does to it.
func handled(found, wanted harness.Harness) map[string]float64 {
	out := map[string]float64{}
	for _, w := range wanted.Wires() {
		was, there := found.Tips(w)
		is, _ := wanted.Tips(w)
		for end := range is {
			if is[end].State == harness.Joined && (!there || was[end] != is[end]) {
				out[string(w)] = jointed
			}
		}
	}
	for _, t := range wanted.Terminals() {
		is, _ := wanted.Place(t)
		if is.State != harness.Seated {
			continue
		}
		contact := network.ContactOf(is.At.String())
		switch was, there := found.Place(t); {
		case !there:
			out[contact] = crimped
		case was != is:
			out[contact] = moved
		}
	}
	return out
}

// MeasuredReads is what Measured follows from.
type MeasuredReads struct {
	Facts         *fact.Facts
	Studs         []string // points that no cavity is
	Feed          *Feeding
	Functions     *Functioning
	Found, Wanted harness.Harness
	Settings      []string // of the unit
	Prove         prove.Decisions
}

// Measured finds what disagrees with the plan in what was measured of wires that are as they are wanted, and what
// stands open in the records of Prove.
func Measured(r MeasuredReads) *[]finding.Finding {
	var expected []string
	for _, codes := range r.Functions.Raised {
		expected = append(expected, codes...)
	}
	out := r.Prove.Open(r.Settings, expected)
	if len(prove.Since(r.Prove.Readings, r.Prove.Mended)) == 0 {
		return &out
	}
	v, err := Metered(r.Facts, r.Studs, r.Feed.Result, r.Found, r.Wanted)
	if err != nil {
		return &out
	}
	out = append(out, v.OutOfBand(&r.Prove)...)
	return &out
}
