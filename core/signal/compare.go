package signal

import "slices"

// Likeness is how far two readings speak of one circuit.
type Likeness int

// From no comparison to the same wire.
const (
	NotCompared     Likeness = iota // one of them was not read, or they may well mean the same
	OtherDevice                     // different devices
	IndexConflict                   // same device, but another cylinder, bank, position, channel or end
	OtherAspect                     // another wire of the same device: its ground instead of its signal
	Interchangeable                 // feeds or grounds of one kind that are numbered differently: either may do
	IndexUnknown                    // the same wire as far as it goes: one side does not say which
	Same                            // the same wire with the same indices
)

// Compare sets two readings side by side.
func Compare(a, b Reading) Likeness { return compare(&a, &b) }

// Likeness is Compare without copying, for crosswalks of many rows.
func (a *Reading) Likeness(b *Reading) Likeness { return compare(a, b) }

func compare(a, b *Reading) Likeness {
	if !a.Read() || !b.Read() {
		return NotCompared
	}
	if a.Device != b.Device {
		if slices.Contains(a.Others, b.Device) || slices.Contains(b.Others, a.Device) || general(a, b) || general(b, a) {
			return NotCompared
		}
		return OtherDevice
	}
	indices := compareIndices(a, b)
	switch {
	case indices == IndexConflict || indices == Interchangeable:
		return indices
	case a.Aspect == b.Aspect:
		return indices
	case supplies(a) && supplies(b):
		return IndexUnknown
	}
	return OtherAspect
}

// general says that a is a plain sensor ground or 5 V reference and b is that wire of a named sensor.
func general(a, b *Reading) bool {
	return a.Exchangeable() && !b.Exchangeable() && a.Role == b.Role
}

// supplies joins "supply" and "5 V reference": a sensor has one of them, and half the tables do not say the voltage.
func supplies(r *Reading) bool { return r.Aspect == AspectSupply || r.Aspect == AspectReference }

func compareIndices(a, b *Reading) Likeness {
	level := compareCylinders(a, b)
	for _, pair := range [][2]int{{a.Bank, b.Bank}, {a.Position, b.Position}, {a.Channel, b.Channel}} {
		level = min(level, compareIndex(pair[0] == 0, pair[1] == 0, pair[0] == pair[1]))
	}
	for _, pair := range [][2]string{{a.Place, b.Place}, {a.Polarity, b.Polarity}} {
		level = min(level, compareIndex(pair[0] == "", pair[1] == "", pair[0] == pair[1]))
	}
	if a.Exchangeable() && max(a.Channel, 1) != max(b.Channel, 1) {
		return Interchangeable
	}
	return level
}

// compareCylinders: a coil of two cylinders may be the one that is named after one of them.
func compareCylinders(a, b *Reading) Likeness {
	if a.Also == 0 && b.Also == 0 || a.Cylinder == 0 || b.Cylinder == 0 {
		return compareIndex(a.Cylinder == 0, b.Cylinder == 0, a.Cylinder == b.Cylinder)
	}
	has := func(r *Reading, n int) bool { return n > 0 && (r.Cylinder == n || r.Also == n) }
	switch {
	case a.Cylinder == b.Cylinder && a.Also == b.Also:
		return Same
	case a.Also > 0 && b.Also > 0:
		return IndexConflict
	case has(a, b.Cylinder) || has(b, a.Cylinder):
		return IndexUnknown
	}
	return IndexConflict
}

func compareIndex(aBlank, bBlank, equal bool) Likeness {
	switch {
	case equal:
		return Same
	case aBlank || bBlank:
		return IndexUnknown
	}
	return IndexConflict
}
