package fact

import (
	"fmt"
	"slices"

	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/pin"
	"draxel/core/reach"
	"draxel/core/stored"
)

// Pair gives the two cavities of a matched line on the model.
func (f *Facts) Pair(l *match.Line) Pairing {
	from, to := l.From, f.At(l.To)
	if f.Vehicle == match.From {
		return Pairing{from, to}
	}
	return Pairing{to, from}
}

// Used gives the cavities whose wires a person has put to use in Match, and how.
func (f *Facts) Used(r *match.Result) map[harness.Ref]string {
	used := map[harness.Ref]string{}
	for i := range r.Lines {
		l := &r.Lines[i]
		switch {
		case !l.Decided:
		case l.Verdict == match.Meets:
			used[l.From] = "is joined to the wire of " + l.To.String()
			used[f.At(l.To)] = "is joined to the wire of " + l.From.String()
		case l.Feeds():
			used[l.From] = "serves " + l.To.String()
		case l.Verdict == match.Joins:
			used[l.From] = "is joined to the wire of " + l.To.String()
		case l.Verdict == match.NeedsSource:
			used[l.From] = "needs a source"
		}
	}
	for _, w := range r.Wants {
		if w.Verdict == match.Branches {
			used[w.Of] = "serves " + w.To.String() + " too"
		}
		if (w.Verdict == match.Branches || w.Verdict == match.NewWire) &&
			f.Meetings[w.To.Connector].Met == match.Stays {
			used[f.At(w.To)] = "gets a new wire"
		}
		if w.Verdict == match.NewWire && w.Origin.Kind == match.AtCavity {
			used[w.Origin.At] = "serves " + w.To.String()
		}
	}
	delete(used, harness.Ref{})
	return used
}

// Moved gives the cavities whose terminals a decision takes elsewhere.
func (f *Facts) Moved(r *match.Result) map[harness.Ref]bool {
	out := map[harness.Ref]bool{}
	for i := range r.Lines {
		l := &r.Lines[i]
		switch {
		case !l.Decided || f.Leads(l):
		case l.Verdict == match.Moves,
			l.Verdict == match.MovesConnector,
			f.Repinned(l.From.Connector) && l.Verdict != match.Meets:
			out[l.From] = true
		}
	}
	return out
}

// WhyNotExchanged says why two outputs cannot be exchanged, empty where they can.
func (f *Facts) WhyNotExchanged(x pin.Exchange) string {
	a, okA := f.To.Row(x.A)
	b, okB := f.To.Row(x.B)
	if !okA || !okB {
		return "one of them is not in the table any more"
	}
	return match.CannotExchange(&a.Signal, &b.Signal)
}

// BlockID gives a name for a block that no connector has.
func (f *Facts) BlockID() string {
	for n := 0; ; n++ {
		id := "FB"
		if n > 0 {
			id = fmt.Sprint("FB", n+1)
		}
		if !slices.ContainsFunc(f.With(nil).Laid.Loom.Connectors, func(h harness.Half) bool { return h.ID == id }) {
			return id
		}
	}
}

// WeakFeed says whether a row of the vehicle is no feed for a unit or a coil: by its words a resistance wire or the
// by-pass of one, or by what was read there.
func (f *Facts) WeakFeed(at harness.Ref) bool {
	row, _ := f.From.Row(at)
	return row.Signal.Device == "ballast" || row.Signal.Device == "ballastbypass" ||
		slices.ContainsFunc(f.Drops, func(d gather.Drop) bool { return d.Fraught && d.At == at })
}

// Complete gives every row of From a wire, where the loom has none: a fact is not lost because another is missing.
func (f *Facts) Complete() {
	ends := make(map[harness.Ref]bool, 2*len(f.Laid.Loom.Wires))
	names := make(map[harness.WireID]bool, len(f.Laid.Loom.Wires))
	for i := range f.Laid.Loom.Wires {
		names[f.Laid.Loom.Wires[i].ID] = true
		for _, e := range f.Laid.Loom.Wires[i].Ends {
			ends[e.At] = true
		}
	}
	var more []harness.Wire
	lack := func(p harness.Pinout) {
		for _, r := range p.Rows {
			if id := harness.Listed(r.Ref.String()); !r.Empty && !ends[r.Ref] && !names[id] {
				ends[r.Ref] = true
				more = append(
					more,
					harness.Wire{
						ID:        id,
						Ends:      [2]harness.End{{At: r.Ref}},
						Conductor: r.Conductor,
						Implied:   true,
					},
				)
			}
		}
	}
	lack(f.From)
	lack(f.there())
	if len(more) > 0 {
		f.Laid.Loom.Wires = append(slices.Clone(f.Laid.Loom.Wires), more...)
	}
}

// PutOn lists the From connectors onto which plugs are put, for new wires that lead from there.
func (f *Facts) PutOn(r *match.Result) []string {
	var out []string
	for i := range r.Lines {
		if l := &r.Lines[i]; l.Decided && f.Leads(l) && !slices.Contains(out, l.From.Connector) {
			out = append(out, l.From.Connector)
		}
	}
	return out
}

// PlugsOn adds plugs that are put onto connectors.
func (f *Facts) PlugsOn(connectors []string) {
	all := slices.Clone(f.Laid.Loom.Connectors)
	for _, on := range connectors {
		id := Header(on)
		if slices.ContainsFunc(all, func(h harness.Half) bool { return h.ID == id }) {
			continue
		}
		c := f.Connector(on)
		c.ID, c.Name, c.Layout = id, id, nil
		all = append(all, harness.Half{Connector: c, Mate: on})
	}
	f.Laid.Loom.Connectors = all
}

// Part adds the plugs of disconnects that were taken.
func (f *Facts) Part(partings []reach.Parting) {
	for i := range partings {
		f.Laid.Loom.Connectors = append(slices.Clone(f.Laid.Loom.Connectors), partings[i].Halves()...)
	}
}

// Leads says whether a matched wire comes to its counterpart by a new wire from a plug that is put on.
func (f *Facts) Leads(l *match.Line) bool {
	if !l.Feeds() || f.Meetings[l.To.Connector].Met != match.NewHousing {
		return false
	}
	return l.Way == match.Lead || f.Kind == stored.Adapter && l.Way != match.Move && l.Way != match.Renew
}

// Pairing is a matched pair on the model: the vehicle's end and ours.
type Pairing struct {
	Vehicle, Ours harness.Ref // cavities of the model
}
