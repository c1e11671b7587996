package live

import (
	"fmt"
	"strings"

	"draxel/core/fact"
	"draxel/core/feed"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/thin"
	"draxel/core/work"
)

// liveVolts is from how many volts an end that hangs in the air is told to be live (common practice).
const liveVolts = 6

// capMinutes is what it takes to cap an end and tie it back: common practice, no source.
const capMinutes = 4

// EndReads is what Ends follow from.
type EndReads struct {
	Facts  *fact.Facts
	Alone  thin.Alone
	Wanted harness.Harness
	Feed   *feed.Result         // nil where nobody has said what stands in the vehicle
	Done   map[string]work.Tick // by step
}

// Ends finds the ends of the wanted harness that are live in some position and end in nothing, bare or in a plug
// that hangs: each is a danger, and a step caps it unless it is led somewhere.
func Ends(p EndReads) (steps []work.Step, found []finding.Finding) {
	r := p.Feed
	if r == nil {
		return nil, nil
	}
	heads := r.Drawn.Heads()
	live := func(wire harness.WireID, end int) string {
		i, known := r.Drawn.Wires[wire]
		if !known {
			return ""
		}
		n := heads[r.Drawn.Elements[i].A]
		if end == 1 {
			n = heads[r.Drawn.Elements[i].B]
		}
		var in []string
		for k, s := range r.States {
			if !s.Floating[n] && s.Volts[n] >= liveVolts {
				in = append(in, feed.Positions()[k].Name)
			}
		}
		return strings.Join(in, ", ")
	}
	hang := hangingIn(&p)
	for _, wire := range p.Wanted.Wires() {
		tips, _ := p.Wanted.Tips(wire)
		for end, tip := range tips {
			where := hang.where(p.Wanted, harness.TipID{Wire: wire, End: end}, tip)
			if where == "" {
				continue
			}
			in := live(wire, end)
			if in == "" {
				continue
			}
			s := work.Step{Stage: work.Join, Kind: join.Seal, Wires: []harness.WireID{wire}, Minutes: capMinutes,
				Text: fmt.Sprintf("Cap the end of %s %s and tie it back, or lead it where it belongs.", wire, where),
				Why:  "It is live in " + in + ", and touches whatever it falls on.",
				Warn: []string{"Battery off before it is touched."}}
			s = s.As(work.Check("join", "cap", string(wire), fmt.Sprint(end)))
			steps = append(steps, s)
			if _, done := p.Done[s.ID]; done {
				continue
			}
			found = append(found, finding.Finding{Code: "live-end", Severity: finding.Danger, Stage: "feed",
				Subject: string(wire), Text: fmt.Sprintf("%s is live in %s and ends in nothing (%s).", wire, in, where),
				Remedy: "Cap it, and tick the step that says so; or say in Match or in the lists where it leads."})
		}
	}
	return steps, found
}

// hanging is what is known of ends that hang in the air.
type hanging struct {
	bare  map[harness.TipID]bool // ends that a list says are bare
	plugs map[string]bool        // connectors that are plugged into nothing
	links map[harness.Ref]bool   // cavities that are joined inside of theirs
	alone map[string]bool        // wires that are left to qualified hands
}

func hangingIn(p *EndReads) hanging {
	l := &p.Facts.Laid.Loom
	h := hanging{map[harness.TipID]bool{}, map[string]bool{}, map[harness.Ref]bool{}, map[string]bool{}}
	for i := range l.Wires {
		for end, e := range l.Wires[i].Ends {
			h.bare[harness.TipID{Wire: l.Wires[i].ID, End: end}] = e.Open
		}
		h.alone[string(l.Wires[i].ID)] = p.Alone.Wire(i)
	}
	for i := range l.Connectors {
		c := &l.Connectors[i]
		// Where no devices are listed a plug without one says nothing.
		h.plugs[c.ID] = len(l.Devices) > 0 && c.Device == "" && c.Mate == "" || p.Wanted.Free(c.ID)
		for _, row := range c.Links {
			for _, cavity := range row {
				h.links[harness.Ref{Connector: c.ID, Cavity: cavity}] = true
			}
		}
	}
	return h
}

// where says where an end hangs in the air, empty where it does not: bare, or in a plug that is plugged into nothing.
func (h *hanging) where(wanted harness.Harness, l harness.TipID, tip harness.Tip) string {
	if h.alone[string(l.Wire)] {
		return ""
	}
	switch tip.State {
	case harness.Bare:
		return "that is bare"
	case harness.Ended:
		if h.bare[l] {
			return "that is bare"
		}
	case harness.Crimped:
		place, there := wanted.Place(tip.Terminal)
		if there && place.State == harness.Seated && h.plugs[place.At.Connector] && !h.links[place.At] {
			return "in " + place.At.String() + ", whose plug hangs"
		}
	}
	return ""
}
