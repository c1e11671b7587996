package gather

import (
	"fmt"
	"slices"

	"draxel/core/harness"
)

// Saws lists what somebody can have seen who followed a wire.
func Saws() []Saw { return []Saw{GoesHere, JoinsAt, EndsOff, AddedTo, Differs, Stuck, NamedAs} }

// Check says why a reading cannot be.
func (m *Measurement) Check() error {
	switch {
	case m.At == (harness.Ref{}):
		return fmt.Errorf("a reading is taken at a cavity")
	case m.Key != "" && !slices.Contains(Keys(), m.Key):
		return fmt.Errorf("the key has no position %q", m.Key)
	case m.Volts != nil && !harness.Within(-30, 60, *m.Volts):
		return fmt.Errorf("%v V is not read in such a vehicle", *m.Volts)
	case !harness.Within(0, 1000, m.Watts):
		return fmt.Errorf("a lamp of %v W loads nothing", m.Watts)
	case m.Ohms != nil && !harness.Within(-MostZero, 1e9, *m.Ohms):
		return fmt.Errorf("%v Ω is no reading", *m.Ohms)
	case m.Volts == nil && m.Ohms == nil && m.Joined == nil:
		return fmt.Errorf("nothing was read")
	}
	return nil
}

// Check says why what was seen of a wire cannot be.
func (t *Trace) Check() error {
	if !slices.Contains(Saws(), t.Saw) || t.Wire == "" && t.At == (harness.Ref{}) {
		return fmt.Errorf("of a wire %q is not seen", t.Saw)
	}
	return nil
}

// Check says why what was noted at a connector cannot be.
func (l *Looked) Check() error {
	if l.Counted < 0 || l.Counted > 10000 {
		return fmt.Errorf("no plug has %d wires", l.Counted)
	}
	return nil
}
