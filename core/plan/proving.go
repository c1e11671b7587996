package plan

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/fact"
	"draxel/core/feed"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/network"
	"draxel/core/pin"
	"draxel/core/prove"
)

// Vehicle gives the wanted harness as what a meter is put on. It fails where nobody has said what stands in the
// vehicle:
// without sources and fuses no meter shows anything.
func (p *Plan) Vehicle(f *fact.Facts) (*prove.Vehicle, error) {
	r := p.Feed.Result
	if r == nil {
		return nil, fmt.Errorf(
			"say in Feed what stands in the vehicle: battery, fuses, key; then it can be said what a meter must show",
		)
	}
	v := &prove.Vehicle{Net: r.Drawn.Network, Of: r.Drawn.Of, Where: map[string]string{}, Made: p.handled(),
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
		if h.Device == "" && h.Mate == "" || p.Wanted.Free(h.ID) {
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
	for _, s := range f.Studs() {
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

// Settings lists what the unit is to be set to: for outputs that were exchanged, and by the sums of functions.
func (p *Plan) Settings() []string { return slices.Concat(p.Pin.Settings, p.Join.Settings) }

// proved finds what disagrees with the plan in what was measured of wires that are as they are wanted, and what
// stands open in the
// records of Prove.
func (p *Plan) proved(f *fact.Facts, d *prove.Decisions) []finding.Finding {
	var expected []string
	for _, codes := range p.Join.Raised {
		expected = append(expected, codes...)
	}
	out := d.Open(p.Settings(), expected)
	if len(prove.Since(d.Readings, d.Mended)) == 0 {
		return out
	}
	v, err := p.Vehicle(f)
	if err != nil {
		return out
	}
	return append(out, v.OutOfBand(d)...)
}

// How many times likelier a fault is where hands were (common practice): at a joint that was made, at a terminal that
// was
// moved or crimped anew.
const (
	jointed = 3
	moved   = 3
	crimped = 4
)

// handled gives by element of the network how much likelier a fault is there by what the job does to it.
func (p *Plan) handled() map[string]float64 {
	out := map[string]float64{}
	for _, w := range p.Wanted.Wires() {
		was, found := p.Found.Tips(w)
		is, _ := p.Wanted.Tips(w)
		for end := range is {
			if is[end].State == harness.Joined && (!found || was[end] != is[end]) {
				out[string(w)] = jointed
			}
		}
	}
	for _, t := range p.Wanted.Terminals() {
		is, _ := p.Wanted.Place(t)
		if is.State != harness.Seated {
			continue
		}
		contact := "contact " + is.At.String()
		switch was, found := p.Found.Place(t); {
		case !found:
			out[contact] = crimped
		case was != is:
			out[contact] = moved
		}
	}
	return out
}

// Unbuilt names the wires that are not yet as they are wanted: what is measured at them says nothing.
func (p *Plan) Unbuilt() map[harness.WireID]bool {
	out := map[harness.WireID]bool{}
	for _, w := range p.Wanted.Wires() {
		is, there := p.Past.Now.Tips(w)
		want, _ := p.Wanted.Tips(w)
		differs := !there || is != want
		for _, t := range want {
			if t.State != harness.Crimped || differs {
				continue
			}
			now, seated := p.Past.Now.Place(t.Terminal)
			then, _ := p.Wanted.Place(t.Terminal)
			differs = !seated || now != then
		}
		if differs {
			out[w.Whole()] = true
			out[w] = true
		}
	}
	return out
}

// TwiceChecked says whether every power and ground cavity of the finished connectors was checked a second time, and
// found as
// it should be.
func (p *Plan) TwiceChecked(checks []pin.Check) bool {
	ok := map[harness.Ref]bool{}
	for _, c := range checks {
		ok[c.At] = c.OK
	}
	return !slices.ContainsFunc(p.Pin.Expected, func(e pin.Expected) bool { return e.Power && !ok[e.At] })
}
