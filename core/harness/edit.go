package harness

import (
	"fmt"
	"maps"
)

// Do is what an edit does.
type Do string

// The edits of a harness.
const (
	Remove Do = "remove" // pull a terminal out of its cavity; it is then loose under its label
	Insert Do = "place"  // push a loose terminal into an empty cavity
	Add    Do = "add"    // a new wire's end, loose
	Cap    Do = "cap"    // seal a loose end off for good
	Park   Do = "park"   // seal a loose end that waits for its source
	Plug   Do = "plug"   // push a plug into an empty cavity
)

// Edit is one change of a harness.
type Edit struct {
	Do       Do         `json:"do"`
	Terminal TerminalID `json:"terminal,omitempty"`
	At       Ref        `json:"at,omitzero"`
	Label    string     `json:"label,omitempty"`
}

// Apply carries the edits out one after the other on a copy. It fails on the first that cannot be done and says why;
// the harness given is never changed.
func Apply(h Harness, edits ...Edit) (Harness, error) {
	next := Harness{cavities: h.cavities, at: maps.Clone(h.at), terminals: maps.Clone(h.terminals), plugs: maps.Clone(h.plugs)}
	for _, e := range edits {
		if err := next.apply(e); err != nil {
			return h, fmt.Errorf("%s %s: %w", e.Do, e.subject(), err)
		}
	}
	return next, nil
}

func (e Edit) subject() string {
	if e.Terminal == "" {
		return e.At.String()
	}
	return string(e.Terminal)
}

func (h *Harness) apply(e Edit) error {
	switch e.Do {
	case Remove:
		if h.at[e.At] != e.Terminal || e.Terminal == "" {
			return fmt.Errorf("it is not in %s", e.At)
		}
		if e.Label == "" {
			return fmt.Errorf("a terminal in hand needs a label")
		}
		delete(h.at, e.At)
		h.terminals[e.Terminal] = Place{State: Loose, Label: e.Label}
	case Insert:
		if err := h.loose(e.Terminal); err != nil {
			return err
		}
		if err := h.empty(e.At); err != nil {
			return err
		}
		h.at[e.At] = e.Terminal
		h.terminals[e.Terminal] = Place{State: Seated, At: e.At}
	case Add:
		if _, twice := h.terminals[e.Terminal]; twice || e.Terminal == "" {
			return fmt.Errorf("there is one of that name already")
		}
		h.terminals[e.Terminal] = Place{State: Loose, Label: e.Label}
	case Cap, Park:
		if err := h.loose(e.Terminal); err != nil {
			return err
		}
		h.terminals[e.Terminal] = Place{State: map[Do]State{Cap: Capped, Park: Parked}[e.Do], Label: e.Label}
	case Plug:
		if err := h.empty(e.At); err != nil {
			return err
		}
		h.plugs[e.At] = true
	default:
		return fmt.Errorf("no such edit")
	}
	return nil
}

func (h *Harness) loose(t TerminalID) error {
	p, ok := h.terminals[t]
	if !ok {
		return fmt.Errorf("there is no such terminal")
	}
	if p.State != Loose {
		return fmt.Errorf("it is not in hand but %s", p)
	}
	return nil
}

func (h *Harness) empty(at Ref) error {
	if !h.cavities[at] {
		return fmt.Errorf("there is no cavity %s", at)
	}
	if t, full := h.at[at]; full {
		return fmt.Errorf("cavity %s holds %s", at, t)
	}
	if h.plugs[at] {
		return fmt.Errorf("cavity %s is plugged", at)
	}
	return nil
}
