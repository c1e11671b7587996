package plan

import (
	"slices"

	"draxel/core/fact"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/pin"
	"draxel/core/prove"
)

// Vehicle gives the wanted harness as what a meter is put on. It fails where nobody has said what stands in the
// vehicle: without sources and fuses no meter shows anything.
func (p *Plan) Vehicle(f *fact.Facts) (*prove.Vehicle, error) {
	return Metered(f, p.Feed.Result, p.Found, p.Wanted)
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
