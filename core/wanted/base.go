package wanted

import (
	"draxel/core/harness"
	"draxel/core/thin"
	"draxel/core/work"
)

// base is the harness as Thin and Pin want it.
func (m *Model) base(goes *thin.Result) harness.Harness {
	base := m.Found.With(goes.Changes(), m.changes())
	crimped := harness.Changes{Tips: map[harness.WireID][2]harness.Tip{}}
	// Both ends of a wire may change: the second change knows the first.
	tipsOf := func(wire harness.WireID) ([2]harness.Tip, bool) {
		if told, twice := crimped.Tips[wire]; twice {
			return told, true
		}
		return base.Tips(wire)
	}
	for t, on := range m.Made {
		if _, seated := m.Wanted.Place(t); !seated {
			continue
		}
		if tips, there := tipsOf(on.Wire); there { // an end that was cut gets a terminal
			tips[on.End] = harness.Tip{State: harness.Crimped, Terminal: t}
			crimped.Tips[on.Wire] = tips
		}
	}
	for i := range m.Past.Ticks { // what was cut where it led to nothing stays an end
		for _, e := range m.Past.Ticks[i].Edits {
			tips, there := tipsOf(e.Wire)
			_, stub := m.Past.Now.Tips(e.Wire.Stub(e.End))
			if m.Past.Ticks[i].Stage != work.Join || e.Do != harness.Cut || !there || stub ||
				tips[e.End].State == harness.Crimped ||
				tips[e.End].State == harness.Joined {
				continue
			}
			tips[e.End] = harness.Tip{State: harness.Sealed}
			crimped.Tips[e.Wire] = tips
		}
	}
	for end, t := range m.bare {
		tips, there := tipsOf(end.Wire)
		if there && tips[end.End] == (harness.Tip{State: harness.Crimped, Terminal: t}) {
			tips[end.End] = harness.Tip{State: harness.Sealed}
			crimped.Tips[end.Wire] = tips
		}
	}
	return base.With(crimped)
}
