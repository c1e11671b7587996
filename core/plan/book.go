package plan

import (
	"cmp"
	"fmt"

	"draxel/core/handover"
)

// Book gives what the book is made from: the harness as it is wanted, which of it is so already, and what is known of its wires.
func (p *Plan) Book(f *Facts) handover.Input {
	in := handover.Input{Harness: p.Wanted, Now: p.Past.Now, Connectors: f.Laid.Loom.Connectors, Devices: f.Laid.Loom.Devices,
		Splices: f.Laid.Loom.Splices, Wires: map[string]handover.Wire{}, Joints: map[string]handover.Joint{}}
	if f.Feed != nil {
		in.Inside = f.Feed.Inside
	}
	for i := range f.Laid.Loom.Wires {
		w := &f.Laid.Loom.Wires[i]
		in.Wires[w.ID] = handover.Wire{ID: w.ID, Colour: w.Colour, Square: w.Size, Circuit: w.Circuit, Function: w.Function,
			Signal: w.Signal, Mm: w.Length}
	}
	for name, l := range f.parts {
		in.Wires[name] = handover.Wire{ID: name, Square: l.Square, Function: l.Text, Signal: l.Signal, Mm: l.Mm, New: true}
	}
	if p.Reach.Result == nil {
		return in
	}
	for i, w := range p.Reach.Result.Wires() {
		l := &p.Reach.Result.Lines[i]
		x := handover.Wire{ID: w.ID, Colour: w.Colour, Square: cmp.Or(l.Size, w.Size), Circuit: w.Circuit, Function: w.Function,
			Signal: w.Signal, New: w.New, Mm: cmp.Or(l.Need, l.Had)}
		if !w.New && l.Had > 0 && l.By == 0 {
			x.Mm = l.Had
		}
		if l.Code != "" {
			x.Extended = "code " + l.Code
		}
		in.Wires[w.ID] = x
	}
	for _, j := range p.Reach.Result.Joints {
		in.Joints[j.ID] = handover.Joint{ID: j.ID, How: string(j.School), Place: fmt.Sprintf("%.0f mm from %s", j.At, j.From)}
	}
	return in
}
