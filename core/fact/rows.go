package fact

import (
	"slices"

	"draxel/core/face"
	"draxel/core/feed"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/match"
	"draxel/core/network"
	"draxel/core/signal"
)

// LoomRow gives what the list of wires says of the wire in a cavity, as a row of a table would.
func (f *Facts) LoomRow(at harness.Ref) harness.Row {
	for i := range f.Laid.Loom.Wires {
		for _, e := range f.Laid.Loom.Wires[i].Ends {
			if e.At == at {
				return RowOfWire(&f.Laid.Loom.Wires[i], at)
			}
		}
	}
	return harness.Row{Ref: at}
}

// RoleAt gives what the wire in a cavity is said to be.
func (f *Facts) RoleAt(at harness.Ref) signal.Role { return f.rowAt(at).Signal.Role }

// rowAt gives the row of a cavity of the model: of a table, else of the wire that ends there.
func (f *Facts) rowAt(at harness.Ref) harness.Row {
	if row, ok := f.From.Row(at); ok {
		return row
	}
	for _, r := range f.To.Rows {
		if f.At(r.Ref) == at {
			return r
		}
	}
	return f.LoomRow(at)
}

// RowOf describes a wire as a pinout's row would, at the first of its ends that is in a cavity.
func RowOf(w *harness.Wire) harness.Row {
	if w.Ends[0].At == (harness.Ref{}) {
		return RowOfWire(w, w.Ends[1].At)
	}
	return RowOfWire(w, w.Ends[0].At)
}

// RowOfWire describes a wire as the row of a pinout would that has it in a cavity.
func RowOfWire(w *harness.Wire, at harness.Ref) harness.Row {
	return harness.Row{
		Ref:       at,
		Conductor: w.Conductor,
	}
}

// Rows names for each thing that a function needs the row of Match in which it is decided.
func (f *Facts) Rows(items []join.Item) {
	row := map[string]string{}
	for i := range f.To.Rows {
		if r := &f.To.Rows[i]; !r.Empty {
			row[f.At(r.Ref).String()] = "to " + r.Ref.String()
		}
	}
	for i := range f.From.Rows {
		if r := &f.From.Rows[i]; !r.Empty {
			row[r.Ref.String()] = "from " + r.Ref.String()
		}
	}
	for i := range items {
		for k := range items[i].Needs {
			if n := &items[i].Needs[k]; n.Stage == "match" {
				n.Row = row[n.At]
			}
		}
	}
}

// Connector gives a connector of the harness by its id, else that of From, and one without cavities where there is
// none.
func (f *Facts) Connector(id string) harness.Connector {
	for i := range f.Laid.Loom.Connectors {
		if c := &f.Laid.Loom.Connectors[i]; c.ID == id {
			return c.Connector
		}
	}
	if c, ok := f.From.Connector(id); ok {
		return c
	}
	return harness.Connector{ID: id, Name: id, First: face.TopLeft, Rows: 1, Assumed: true}
}

// Cavity reads a text as a cavity of the connectors that are known.
func (f *Facts) Cavity(text string) (harness.Ref, bool) {
	return network.Cavity(text, func(id string) (harness.Connector, bool) {
		for i := range f.Laid.Loom.Connectors {
			if c := &f.Laid.Loom.Connectors[i]; c.ID == id {
				return c.Connector, true
			}
		}
		return harness.Connector{}, false
	})
}

// With gives the facts with a fuse block of one's own in the harness, and no other such block.
func (f Facts) With(b *feed.Block) Facts {
	l := &f.Laid.Loom
	had := slices.IndexFunc(l.Devices, func(d harness.Device) bool { return d.Added == feed.OwnBlock })
	if b == nil && had < 0 {
		return f
	}
	l.Connectors, l.Devices = slices.Clone(l.Connectors), slices.Clone(l.Devices)
	if had >= 0 {
		id := l.Devices[had].ID
		l.Devices = slices.Delete(l.Devices, had, had+1)
		l.Connectors = slices.DeleteFunc(l.Connectors, func(h harness.Half) bool { return h.Device == id })
	}
	if b != nil {
		l.Connectors, l.Devices = append(l.Connectors, b.Half()), append(l.Devices, b.Device())
	}
	return f
}

// Ours says whether a cavity of the model is on the side that is not the vehicle's.
func (f *Facts) Ours(at harness.Ref) bool {
	_, from := f.From.Connector(at.Connector)
	if f.Repinned(at.Connector) || f.Vehicle == match.To {
		return from || f.Repinned(at.Connector)
	}
	return slices.ContainsFunc(f.To.Connectors, func(c harness.Connector) bool {
		return f.Housing(match.To, c.ID) == at.Connector
	})
}

// Stud says whether there is a stud or another point of that name, that wires are brought to.
func (f *Facts) Stud(name string) bool { return slices.Contains(f.Studs(), name) }

// Studs lists the points that leads can be brought to and that are no cavity: ground points, the ends of sources and of
// cables, what fuses feed.
func (f *Facts) Studs() []string {
	var out []string
	add := func(name string) {
		if _, cavity := f.Cavity(name); name != "" && !cavity && !slices.Contains(out, name) {
			out = append(out, name)
		}
	}
	for i := range f.Laid.Loom.Devices {
		if d := &f.Laid.Loom.Devices[i]; d.Kind == harness.Grounds {
			add(d.ID)
		}
	}
	if f.Feed != nil {
		in := &f.Feed.Inside
		for _, s := range in.Sources {
			add(s.Minus)
			add(s.Plus)
		}
		for _, c := range in.Cables {
			add(c.From)
			add(c.To)
		}
		for _, s := range in.Slots {
			add(s.Out)
		}
	}
	slices.SortFunc(out, finding.Natural)
	return out
}

// Devices gives the device of each connector as it was found, empty where it has none.
func (f *Facts) Devices() map[string]string {
	device := map[string]string{}
	for i := range f.Laid.Loom.Connectors {
		device[f.Laid.Loom.Connectors[i].ID] = f.Laid.Loom.Connectors[i].Device
	}
	return device
}

// Trusted says whether what stands in a connector's cavities comes from its maker, or was measured.
func (f *Facts) Trusted(connector string) bool {
	for _, x := range []*harness.Pinout{&f.From, &f.To} {
		if _, there := x.Connector(connector); there {
			return x.Trust.Verified()
		}
	}
	return false
}
