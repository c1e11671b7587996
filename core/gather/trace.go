package gather

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"draxel/core/colour"
	"draxel/core/finding"
	"draxel/core/harness"
)

// Saw is what was seen when a wire was followed.
type Saw string

// What can be seen.
const (
	GoesHere Saw = "goes"   // it ends in that cavity
	JoinsAt  Saw = "joins"  // it ends at a splice, together with others
	EndsOff  Saw = "taped"  // it ends taped off
	AddedTo  Saw = "added"  // at a splice that somebody added
	Differs  Saw = "colour" // its colour is another
	Stuck    Saw = "stuck"  // it does not come out: there is a splice nobody has seen
	NamedAs  Saw = "named"  // it is now known what it is for
)

// Trace is something seen at the bench: a wire was followed from a cavity, or by its number, and this is where it led.
type Trace struct {
	ID     string         `json:"id"`
	Wire   harness.WireID `json:"wire,omitempty"`
	At     harness.Ref    `json:"at,omitzero"`
	Saw    Saw            `json:"saw"`
	To     harness.Ref    `json:"to,omitzero"` // of GoesHere
	Splice string         `json:"splice,omitempty"`
	With   []string       `json:"with,omitempty"` // of JoinsAt and AddedTo: wires or cavities that meet there
	Text   string         `json:"text,omitempty"` // the colour, or the name
	By     string         `json:"by,omitempty"`   // who added the splice
	Note   string         `json:"note,omitempty"`
	Who    string         `json:"who,omitempty"`
	When   int64          `json:"when,omitempty"` // Unix milliseconds
}

// traces lets what was seen correct the model, in the order in which it was seen.
func (b *builder) traces() {
	all := slices.Clone(b.in.Traces)
	slices.SortStableFunc(all, func(x, y Trace) int { return cmp.Compare(x.When, y.When) })
	for i := range all {
		if why := b.trace(&all[i]); why != "" {
			b.find("trace-lost", finding.Check, string(all[i].Wire)+all[i].At.String(), "Follow the wire again.",
				"It was noted where %s%s leads, but %s.", all[i].Wire, cavityOf(all[i].At),
				why).Place = finding.Place{Part: "readings"}
		}
	}
}

func cavityOf(at harness.Ref) string {
	if at == (harness.Ref{}) {
		return ""
	}
	return " " + at.String()
}

// subject gives the wire that a trace speaks of and which of its ends was followed to: the other one.
func (b *builder) subject(t *Trace) (wire, far int, why string) {
	i, ok := b.wire[harness.Listed(string(t.Wire))]
	if !ok {
		switch here := b.at[t.At]; len(here) {
		case 0:
			return 0, 0, "no wire is known there any more"
		case 1:
			i = here[0]
		default:
			return 0, 0, "several wires end there: say which"
		}
	}
	w := &b.loom.Wires[i]
	far = 1
	if w.Ends[1].At == t.At && t.At != (harness.Ref{}) || t.At == (harness.Ref{}) && w.Ends[1].Seen() &&
		!w.Ends[0].Seen() {
		far = 0
	}
	return i, far, ""
}

func (b *builder) trace(t *Trace) (why string) {
	i, far, why := b.subject(t)
	if why != "" {
		return why
	}
	w := &b.loom.Wires[i]
	switch t.Saw {
	case GoesHere:
		b.cavity(t.To)
		b.believe(t, w, w.Ends[far].String(), t.To.String())
		b.setEnd(i, far, harness.End{At: t.To})
		b.merge(i, t.To)
	case EndsOff:
		b.believe(t, w, w.Ends[far].String(), "taped off")
		b.setEnd(i, far, harness.End{Taped: true})
	case JoinsAt, AddedTo:
		return b.joins(t, i, far)
	case Differs:
		c := colour.Parse(t.Text, b.in.Habit)
		b.believe(t, w, "colour "+w.Colour.String(), "colour "+c.String())
		w.Colour = c
	case NamedAs:
		b.believe(t, w, "for "+or(w.Function, "nobody knows what"), "for "+t.Text)
		w.Function = t.Text
		w.Signal = readSignal(t.Text)
	case Stuck:
		b.stuck(t, i)
	default:
		return fmt.Sprintf("there is no such thing to see as %q", t.Saw)
	}
	b.loom.Wires[i].Implied = false
	return ""
}

func or(text, otherwise string) string {
	if text == "" {
		return otherwise
	}
	return text
}

func (b *builder) believe(t *Trace, w *harness.Wire, was, now string) {
	if was != now {
		b.beliefs = append(b.beliefs, Belief{Wire: w.ID, Was: was, Now: now, By: t.ID, Who: t.Who, When: t.When})
	}
}

// setEnd moves an end of a wire. A cavity that it leaves and that a row speaks of has a wire still, whose other end
// nobody has seen.
func (b *builder) setEnd(i, end int, e harness.End) {
	w := &b.loom.Wires[i]
	left := w.Ends[end].At
	if left != (harness.Ref{}) && w.Ends[1-end].At != left {
		b.at[left] = slices.DeleteFunc(b.at[left], func(k int) bool { return k == i })
	}
	w.Ends[end] = e
	if e.At != (harness.Ref{}) && !slices.Contains(b.at[e.At], i) {
		b.at[e.At] = append(b.at[e.At], i)
	}
	if r := b.rows[left]; r != nil && len(b.at[left]) == 0 {
		b.addWire(b.wireOf(r))
	}
}

// merge takes the wire that was only a row of that cavity, with nothing known of its other end, into the wire that was
// seen to end there. One that was implied from circuit numbers gives way too.
func (b *builder) merge(into int, at harness.Ref) {
	for _, k := range slices.Clone(b.at[at]) {
		o := &b.loom.Wires[k]
		if k == into {
			continue
		}
		near := 0
		if o.Ends[1].At == at {
			near = 1
		}
		if o.Ends[1-near].Seen() && !o.Implied {
			continue
		}
		w := &b.loom.Wires[into]
		if w.Function == "" {
			w.Function, w.Signal = o.Function, o.Signal
		}
		if w.Circuit == "" {
			w.Circuit = o.Circuit
		}
		b.remove(k)
	}
}

// remove takes a wire out of the loom.
func (b *builder) remove(k int) {
	for end := range 2 {
		b.setEnd(k, end, harness.End{})
	}
	delete(b.wire, b.loom.Wires[k].ID)
	b.loom.Wires[k].ID = ""
}

func (b *builder) joins(t *Trace, i, far int) string {
	id := harness.ListedSplice(strings.TrimSpace(t.Splice))
	if id == "" {
		id = b.newSplice()
	}
	b.addSplice(harness.Splice{ID: id, Branch: b.loom.Wires[i].Branch})
	s := &b.loom.Splices[b.splice[id]]
	s.Implied = false
	if t.Saw == AddedTo {
		s.Added = or(t.By, "somebody")
	}
	b.believe(t, &b.loom.Wires[i], b.loom.Wires[i].Ends[far].String(), "splice "+string(id))
	b.setEnd(i, far, harness.End{Splice: id})
	for _, name := range t.With {
		k, ok := b.wireNamed(strings.TrimSpace(name))
		if !ok {
			return fmt.Sprintf("%q, which it is said to join, is no wire and no cavity with one", name)
		}
		o := &b.loom.Wires[k]
		if k == i || o.Ends[0].Splice == id || o.Ends[1].Splice == id {
			continue
		}
		end := 1
		if o.Ends[1].At != (harness.Ref{}) && (!o.Ends[0].Seen() || o.Ends[0].Splice != "" &&
			b.loom.Splices[b.splice[o.Ends[0].Splice]].Implied) {
			end = 0
		}
		b.believe(t, o, o.Ends[end].String(), "splice "+string(id))
		b.setEnd(k, end, harness.End{Splice: id})
		b.loom.Wires[k].Implied = false
	}
	return ""
}

func (b *builder) newSplice() harness.JointID {
	for n := len(b.loom.Splices) + 1; ; n++ {
		id := harness.JointID(fmt.Sprint("S", n))
		if _, taken := b.splice[id]; !taken {
			return id
		}
	}
}

// stuck: a wire that does not come out is held by a splice that nobody has seen. It becomes two wires that meet there,
// and a third that leads nobody knows where.
func (b *builder) stuck(t *Trace, i int) {
	id := cmp.Or(harness.ListedSplice(strings.TrimSpace(t.Splice)), b.newSplice())
	b.addSplice(harness.Splice{ID: id, Branch: b.loom.Wires[i].Branch, Note: "found because " +
		b.loom.Wires[i].ID.Name() + " did not come out"})
	w := b.loom.Wires[i]
	b.believe(t, &w, fmt.Sprintf("one wire from %s to %s", w.Ends[0], w.Ends[1]), "held by splice "+string(id))
	rest := w
	rest.ID = b.freeID(w.ID.Name() + " beyond " + string(id))
	rest.Ends[0] = harness.End{Splice: id}
	hidden := w
	hidden.ID = b.freeID(w.ID.Name() + " hidden leg")
	hidden.Ends = [2]harness.End{{Splice: id}, {}}
	hidden.Function, hidden.Signal, hidden.Implied, hidden.Length, rest.Length = "", readSignal(""), true, 0, 0
	b.addWire(rest)
	b.addWire(hidden)
	b.setEnd(i, 1, harness.End{Splice: id})
	b.loom.Wires[i].Length = 0
}

// tidy drops the wires that were merged into others.
func (b *builder) tidy() {
	b.loom.Wires = slices.DeleteFunc(b.loom.Wires, func(w harness.Wire) bool { return w.ID == "" })
}
