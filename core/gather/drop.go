package gather

import (
	"cmp"
	"math"
	"slices"

	"draxel/core/harness"
)

// Drop is what stands before a cavity, by its volts with nothing on it and with a load: a resistance wire, or a bad
// contact.
type Drop struct {
	At      harness.Ref
	Key     Key
	Bare    float64 // V with nothing on it
	Loaded  float64 // V with the load
	Watts   float64 // of the load at 12 V
	Ohms    float64 // before the cavity
	Fraught bool    // it is enough to be no feed: half an ohm or more
}

// lampWatts is the usual test lamp: 21 W at 12 V (common practice). It is taken as a plain resistance, which a filament
// near its working point is.
const lampWatts = 21

// fraught is from how many Ω a feed is taken for one through a resistance: a relay coil and a unit lose half a volt
// over half an ohm at an ampere (common practice).
const fraught = 0.5

// Drops gives what stands before each cavity that was read both with nothing on it and with a load, in the same
// position of the key, the greatest where it was read in several.
func Drops(all []Measurement) []Drop {
	type place struct {
		at  harness.Ref
		key Key
	}
	bare, loaded := map[place]float64{}, map[place]Measurement{}
	sorted := slices.Clone(all)
	sortByTime(sorted)
	for _, m := range sorted {
		switch p := (place{m.At, m.Key}); {
		case m.Volts == nil || m.Key == "":
		case m.Loaded:
			loaded[p] = m
		default:
			bare[p] = *m.Volts
		}
	}
	worst := map[harness.Ref]Drop{}
	for p, m := range loaded {
		open, two := bare[p]
		if !two || open < liveVolts || *m.Volts < 0.5 || *m.Volts >= open {
			continue
		}
		d := Drop{At: p.at, Key: p.key, Bare: open, Loaded: *m.Volts, Watts: cmp.Or(m.Watts, lampWatts)}
		amps := d.Loaded / (12 * 12 / d.Watts)
		d.Ohms = math.Round((d.Bare-d.Loaded)/amps*100) / 100
		d.Fraught = d.Ohms >= fraught
		if was, known := worst[p.at]; !known || d.Ohms > was.Ohms || d.Ohms == was.Ohms && d.Key < was.Key {
			worst[p.at] = d
		}
	}
	out := make([]Drop, 0, len(worst))
	for _, d := range worst {
		out = append(out, d)
	}
	slices.SortFunc(out, func(a, b Drop) int { return harness.CompareRefs(a.At, b.At) })
	return out
}
