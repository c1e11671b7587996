package reach

import (
	"cmp"
	"fmt"
	"slices"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/route"
)

// settled knows where everything is.
type settled struct {
	half    map[string]*harness.Half
	device  map[string]*harness.Device
	splice  map[harness.JointID]*harness.Splice
	at      map[route.Thing]int // station by thing as a person put it
	wish    map[harness.WireID]*Wish
	measure map[harness.WireID]*Measured
	crimped map[harness.Ref]int // wires by the cavity that they end in
}

// settle gives everything its station: its own, else that of what it belongs to.
func (r *Result) settle() *settled {
	d := &r.in.Decisions
	s := &settled{map[string]*harness.Half{}, map[string]*harness.Device{}, map[harness.JointID]*harness.Splice{},
		map[route.Thing]int{}, map[harness.WireID]*Wish{}, map[harness.WireID]*Measured{}, map[harness.Ref]int{}}
	for i := range r.in.Wires {
		for _, e := range r.in.Wires[i].Ends {
			s.crimped[e.At]++
		}
	}
	for i := range r.in.Loom.Connectors {
		s.half[r.in.Loom.Connectors[i].ID] = &r.in.Loom.Connectors[i]
	}
	for i := range r.in.Loom.Devices {
		s.device[r.in.Loom.Devices[i].ID] = &r.in.Loom.Devices[i]
	}
	for i := range r.in.Loom.Splices {
		s.splice[r.in.Loom.Splices[i].ID] = &r.in.Loom.Splices[i]
	}
	for _, p := range d.Places {
		at, there := r.router.Number[p.Station]
		if !there {
			r.Findings = append(r.Findings, finding.Finding{Code: "place-gone", Place: finding.Place{Part: "places"},
				Severity: finding.Check, Stage: "reach", Subject: p.Thing.ID,
				Text:   fmt.Sprintf("The %s was put at %q, and there is no such station any more.", p.Thing, p.Station),
				Remedy: "Put it somewhere else."})
			continue
		}
		s.at[p.Thing] = at
	}
	for i := range d.Wishes {
		s.wish[d.Wishes[i].Wire] = &d.Wishes[i]
	}
	for i := range d.Measured {
		s.measure[d.Measured[i].Wire] = &d.Measured[i]
	}
	r.Placed = map[route.Thing]string{}
	for i := range r.in.Loom.Connectors {
		id := r.in.Loom.Connectors[i].ID
		if at, ok := s.connector(id); ok {
			r.Placed[route.Thing{Kind: route.AConnector, ID: id}] = r.router.Stations[at].ID
		}
	}
	for i := range r.in.Loom.Splices {
		if at, ok := s.ofSplice(r.in.Loom.Splices[i].ID); ok {
			r.Placed[route.Thing{Kind: route.ASplice, ID: string(r.in.Loom.Splices[i].ID)}] = r.router.Stations[at].ID
		}
	}
	for t, at := range s.at {
		r.Placed[t] = r.router.Stations[at].ID
	}
	return s
}

// connector gives a connector's station: its own, else its device's, else that of its other half, else the place where
// its branch breaks out.
func (s *settled) connector(id string) (int, bool) {
	if at, ok := s.ownOf(id); ok {
		return at, true
	}
	h := s.half[id]
	if h == nil {
		return 0, false
	}
	if h.Mate != "" {
		if at, ok := s.ownOf(h.Mate); ok {
			return at, true
		}
	}
	at, ok := s.at[route.Thing{Kind: route.ABranch, ID: h.Branch}]
	return at, ok && h.Branch != ""
}

func (s *settled) ownOf(id string) (int, bool) {
	if at, ok := s.at[route.Thing{Kind: route.AConnector, ID: id}]; ok {
		return at, true
	}
	h := s.half[id]
	if h == nil || h.Device == "" {
		return 0, false
	}
	at, ok := s.at[route.Thing{Kind: route.ADevice, ID: h.Device}]
	return at, ok
}

func (s *settled) ofSplice(id harness.JointID) (int, bool) {
	if at, ok := s.at[route.Thing{Kind: route.ASplice, ID: string(id)}]; ok {
		return at, true
	}
	x := s.splice[id]
	if x == nil || x.Branch == "" {
		return 0, false
	}
	at, ok := s.at[route.Thing{Kind: route.ABranch, ID: x.Branch}]
	return at, ok
}

// end gives where an end of a wire is to be: a station, or the thing that has none, or nothing where it ends nowhere.
func (s *settled) end(w *Run, end int, stations map[string]int) (at int, missing *route.Thing, nowhere bool) {
	e := w.Ends[end]
	ref := e.At
	if w.Lands[end] != (harness.Ref{}) {
		ref = w.Lands[end]
	}
	switch {
	case w.Dead[end]:
		return 0, nil, true
	case ref != (harness.Ref{}):
		if at, ok := s.connector(ref.Connector); ok {
			return at, nil, false
		}
		return 0, &route.Thing{Kind: route.AConnector, ID: ref.Connector}, false
	case e.Splice != "":
		if at, ok := s.ofSplice(e.Splice); ok {
			return at, nil, false
		}
		return 0, &route.Thing{Kind: route.ASplice, ID: string(e.Splice)}, false
	}
	if x := s.wish[w.ID]; x != nil && x.Far != "" {
		if at, ok := stations[x.Far]; ok {
			return at, nil, false
		}
	}
	return 0, nil, true
}

// alone says whether an end has a terminal to itself, so that a new one can take its place.
func (s *settled) alone(w *Run, end int) bool {
	at := w.Ends[end].At
	return at != (harness.Ref{}) && s.crimped[at] == 1
}

// deviceAt gives the device that an end of a wire goes to, nil where there is none.
func (s *settled) deviceAt(w *Run, end int) *harness.Device {
	ref := w.Ends[end].At
	if w.Lands[end] != (harness.Ref{}) {
		ref = w.Lands[end]
	}
	if h := s.half[ref.Connector]; h != nil {
		return s.device[h.Device]
	}
	return nil
}

// missing notes a thing that wires end at and that has no station.
func (r *Result) missing(t route.Thing) {
	if r.unplaced[t] {
		return
	}
	if r.unplaced == nil {
		r.unplaced = map[route.Thing]bool{}
	}
	r.unplaced[t] = true
	r.Unplaced = append(r.Unplaced, t)
}

// tape gives every station's distance from the control unit along the bundle.
func (r *Result) tape(s *settled) {
	r.Unit = r.in.Decisions.Rules.Unit
	if r.Unit == "" {
		r.Unit = s.busiestUnit(r.in.Wires)
	}
	at, ok := s.at[route.Thing{Kind: route.ADevice, ID: r.Unit}]
	if !ok {
		for i := range r.in.Loom.Connectors {
			if h := &r.in.Loom.Connectors[i]; h.Device == r.Unit && r.Unit != "" && !ok {
				at, ok = s.connector(h.ID)
			}
		}
	}
	if !ok {
		return
	}
	for to := range r.router.Stations {
		if way, there := r.router.Between(at, to, nil); there {
			r.Tape = append(r.Tape, Mark{r.router.Stations[to].ID, way.Length})
		}
	}
	slices.SortStableFunc(r.Tape, func(a, b Mark) int { return cmp.Compare(a.At, b.At) })
	for i := range r.Lines {
		l := &r.Lines[i]
		if n := len(l.route.Stations); l.ok && n > 0 && l.route.Stations[n-1] == at && l.route.Stations[0] != at {
			for k := range l.Marks { // measured from its second end, which is at the unit
				l.Marks[k].At = l.route.Length - l.Marks[k].At
			}
			l.FromUnit = true
		} else if l.ok && n > 0 && l.route.Stations[0] == at {
			l.FromUnit = true
		}
	}
}

// busiestUnit is the control unit that most wires end at.
func (s *settled) busiestUnit(wires []Run) string {
	n := map[string]int{}
	for i := range wires {
		for end := range 2 {
			if d := s.deviceAt(&wires[i], end); d != nil && d.Kind == harness.Unit {
				n[d.ID]++
			}
		}
	}
	best := ""
	for id, k := range n {
		if best == "" || k > n[best] || k == n[best] && finding.Natural(id, best) < 0 {
			best = id
		}
	}
	return best
}

// Propose gives the stations at which things that have none usually are; it is never applied unasked.
func (r *Result) Propose() []route.Place {
	return r.in.Decisions.Map.Propose(r.in.Loom, r.Placed, r.Unit)
}
