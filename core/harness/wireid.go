package harness

import "strings"

// WireID names a length of wire for as long as the job lasts: a wire of a person's lists, a piece of one, or a wire
// that is new. It says itself what it is a part of; nothing else is read from it. A person's name may be any text, also
// one that reads like a piece of another wire: Listed keeps the two apart.
//
// As text, which is what ticks, decisions and job files keep, a part is named after the wire that it belongs to:
// "7004a stub 1", "7004a piece", "7004a new", "new wire A2".
type WireID string

// Piece says which part of a wire a length is.
type Piece string

// The parts of a wire.
const (
	WholeWire Piece = ""       // none: the wire itself
	FirstStub Piece = "stub 1" // what a cut leaves at its first end
	LastStub  Piece = "stub 2" // and at its second
	PutIn     Piece = "piece"  // what is let into it
	Successor Piece = "new"    // the wire that is laid in its place
)

// Stub says whether it is what a cut leaves at an end.
func (p Piece) Stub() bool { return p == FirstStub || p == LastStub }

var pieces = [...]Piece{FirstStub, LastStub, PutIn, Successor}

// newWire begins the text of a wire that nobody has listed.
const newWire = "new wire "

// unbroken is a space that does not break: it stands for each space of a listed name that reads like one of ours.
const unbroken = "\u00a0"

// Listed gives the id of a wire of a person's lists, whatever it is called. A space that does not break counts as one
// that does.
func Listed(name string) WireID {
	name = strings.ReplaceAll(name, unbroken, " ")
	if strings.HasPrefix(name, newWire) || name == strings.TrimSpace(newWire) {
		return WireID(strings.ReplaceAll(name, " ", unbroken))
	}
	return WireID(whole(name))
}

// NewWire gives the id of a new wire: for what it is there tells it from the others.
func NewWire(what string) WireID { return WireID(newWire + whole(what)) }

// whole gives a text in which no part of a wire can be read.
func whole(text string) string {
	for _, p := range pieces {
		if strings.Contains(text, " "+string(p)) { // also where more follows: one of its own parts is read from the end
			return strings.ReplaceAll(text, " ", unbroken)
		}
	}
	return text
}

// Stub gives the part that a cut leaves at an end, 0 or 1.
func (w WireID) Stub(end int) WireID { return w.part(pieces[end]) }

// LetIn gives the piece that is let into the wire.
func (w WireID) LetIn() WireID { return w.part(PutIn) }

// Instead gives the wire that is laid in place of this one.
func (w WireID) Instead() WireID { return w.part(Successor) }

func (w WireID) part(p Piece) WireID { return w + " " + WireID(p) }

// Piece says which part it is of the wire that Of gives.
func (w WireID) Piece() Piece {
	_, p := w.split()
	return p
}

// Of gives the wire that it is a part of, itself where it is none.
func (w WireID) Of() WireID {
	of, _ := w.split()
	return of
}

// Whole gives the wire that stands at the root of it: of the stub of a piece the wire that the piece was let into.
func (w WireID) Whole() WireID {
	for {
		of, p := w.split()
		if p == WholeWire {
			return w
		}
		w = of
	}
}

func (w WireID) split() (of WireID, p Piece) {
	for _, p := range pieces {
		of, is := strings.CutSuffix(string(w), " "+string(p))
		if is && of != strings.TrimSpace(newWire) { // else it is a new wire for something that is called like a part
			return WireID(of), p
		}
	}
	return w, WholeWire
}

// New says whether nobody has listed its root: it is ours from end to end.
func (w WireID) New() bool { return strings.HasPrefix(string(w), newWire) }

// Name gives the text in which it is written down: the person's own spelling of the wire, and the part.
func (w WireID) Name() string { return strings.ReplaceAll(string(w), unbroken, " ") }

// Names gives the names of several wires, in their order.
func Names(wires []WireID) []string {
	out := make([]string, len(wires))
	for i, w := range wires {
		out[i] = w.Name()
	}
	return out
}

// StubOf says whether it is a stub of the wire, or a part of one.
func (w WireID) StubOf(wire WireID) bool {
	for {
		of, p := w.split()
		if p == WholeWire {
			return false
		}
		if of == wire {
			return p.Stub()
		}
		w = of
	}
}

// CutOff says whether it is a stub, of a piece too, or a part of one: what is left where something was cut.
func (w WireID) CutOff() bool {
	for {
		of, p := w.split()
		if p == WholeWire || p.Stub() {
			return p.Stub()
		}
		w = of
	}
}
