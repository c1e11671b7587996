package wanted

import (
	"draxel/core/harness"
	"draxel/core/thin"
)

// ends says where a wire's copper ends in the loom: by cavity the wire and which end of it.
type ends struct {
	Wires  map[harness.Ref]*harness.Wire
	end    map[harness.Ref]int
	halves map[string]*harness.Half
	off    map[string]bool
}

func newEnds(l *harness.Loom, r *thin.Result) *ends {
	e := &ends{
		Wires:  make(map[harness.Ref]*harness.Wire, 2*len(l.Wires)),
		end:    make(map[harness.Ref]int, 2*len(l.Wires)),
		halves: make(map[string]*harness.Half, len(l.Connectors)),
		off:    map[string]bool{},
	}
	for i := range l.Wires {
		for k, x := range l.Wires[i].Ends {
			if x.At != (harness.Ref{}) && e.Wires[x.At] == nil {
				e.Wires[x.At], e.end[x.At] = &l.Wires[i], k
			}
		}
	}
	for i := range l.Connectors {
		e.halves[l.Connectors[i].ID] = &l.Connectors[i]
	}
	for _, c := range r.Off {
		e.off[c] = true
	}
	return e
}

// live says whether a connector is plugged into something that stays.
func (e *ends) live(connector string) bool {
	h := e.halves[connector]
	return h != nil && !e.off[connector] && (h.Device != "" || h.Mate != "")
}
