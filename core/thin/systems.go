package thin

import (
	"cmp"
	"slices"

	"draxel/core/finding"
)

// systems counts the wires of each system and lists its devices.
func (t *thinning) systems() {
	at := map[string]int{}
	line := func(system string) *SystemLine {
		i, known := at[system]
		if !known {
			i = len(t.result.Systems)
			at[system] = i
			l := SystemLine{System: system, Devices: []Device{}}
			if d := t.decided.system[system]; d != nil {
				l.Choice, l.By = d.Choice, d
			}
			switch system {
			case "restraint":
				l.Locked = "Restraint circuits are left to qualified hands."
			case "high-voltage":
				l.Locked = "High voltage is left to qualified persons."
			}
			t.result.Systems = append(t.result.Systems, l)
		}
		return &t.result.Systems[i]
	}
	for w := range t.result.Wires {
		v := &t.result.Wires[w]
		l := line(v.System)
		l.Wires++
		switch v.Choice {
		case Keep:
			l.Keep++
		case Goes:
			l.Goes++
		case Undecided:
			l.Undecided++
		}
	}
	t.devices(line)
	slices.SortFunc(t.result.Systems, func(a, b SystemLine) int {
		return cmp.Or(cmp.Compare(systemRank(a.System), systemRank(b.System)), cmp.Compare(a.System, b.System))
	})
}

func (t *thinning) devices(line func(string) *SystemLine) {
	wires := make([]int, len(t.loom.Connectors))
	for _, h := range t.net.Halves {
		if h >= 0 {
			wires[h]++
		}
	}
	of := make([][]int32, len(t.loom.Devices))
	for h, d := range t.net.Plugged {
		if d >= 0 {
			of[d] = append(of[d], int32(h))
		}
	}
	for i := range t.loom.Devices {
		d := &t.loom.Devices[i]
		x := Device{ID: d.ID, Kind: string(d.Kind), Added: d.Added}
		if own := t.decided.module[d.ID]; own != nil {
			x.Choice, x.Own, x.By = own.Choice, true, own
		} else if s := t.decided.system[d.System]; s != nil && d.System != "" {
			x.Choice, x.By = s.Choice, s
		}
		x.Plugs = make([]PlugLine, 0, len(of[i]))
		for _, h := range of[i] {
			c := &t.loom.Connectors[h]
			x.Plugs = append(x.Plugs, PlugLine{c.ID, t.half[h].choice, t.half[h].by, c.Locked})
			x.Wires += wires[h]
		}
		l := line(d.System)
		l.Devices = append(l.Devices, x)
	}
	for i := range t.result.Systems {
		slices.SortFunc(t.result.Systems[i].Devices, func(a, b Device) int { return finding.Natural(a.ID, b.ID) })
	}
}
