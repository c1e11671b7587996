package pin

import (
	"fmt"
	"slices"

	"draxel/core/face"
	"draxel/core/harness"
	"draxel/core/size"
	"draxel/core/terminal"
)

// Advice is what a step says beside its sentence. Ways of releasing, the travel of a secondary lock and the tug are
// common practice of the trade, no source.
type Advice struct {
	How   string       `json:"how,omitempty"`   // lock, tool, the way out
	After string       `json:"after,omitempty"` // how to know that it is done
	Warn  []string     `json:"warn,omitempty"`
	Fit   terminal.Fit `json:"fit,omitzero"` // whether the terminal can travel, and what has to be there
}

// Adviser knows the housings of a job.
type Adviser struct {
	Housings map[string]harness.Connector
	Near     func(a, b string) bool // whether two connectors lie within reach of each other; nil: no two do
	taken    map[string][]string    // by connector: what it could be taken for
}

// seat gives what a cavity takes.
func (a *Adviser) seat(at harness.Ref) terminal.Seat {
	c, ok := a.Housings[at.Connector]
	if !ok || c.Layout == nil {
		return terminal.Seat{}
	}
	return c.Seat(at.Cavity)
}

// Fits says whether the terminal of a cavity can wait in another: as it is, without a new terminal. Where nobody has
// said what the housings take, it can wait in its own.
func (a *Adviser) Fits(from, wait harness.Ref) bool {
	if v := terminal.Move(a.seat(from), a.seat(wait), 0).Verdict; v != terminal.Unknown {
		return v == terminal.Travels
	}
	return from.Connector == wait.Connector
}

// Fit says what becomes of the terminal of a cavity that is to go into another.
func (a *Adviser) Fit(from, to harness.Ref) terminal.Fit {
	return terminal.Move(a.seat(from), a.seat(to), 0)
}

// Anew says what it takes to crimp a new terminal for a cavity on a wire.
func (a *Adviser) Anew(to harness.Ref, wire size.Section) terminal.Fit {
	fit := terminal.New(a.seat(to), wire)
	fit.Verdict = terminal.Reterminated
	return fit
}

// Unknown says that too little is known of the housings to tell whether a terminal fits the other cavity.
func (a *Adviser) Unknown(from, to harness.Ref) bool {
	return terminal.Move(a.seat(from), a.seat(to), 0).Verdict == terminal.Unknown
}

// Fixed says whether the terminal of a cavity cannot be taken out.
func (a *Adviser) Fixed(at harness.Ref) bool { return a.seat(at).Ends.Fixed() }

// Advise says what a step needs and what to watch for. Goal is the cavity in which its terminal ends, the zero cavity
// where it ends in none; the wire's section is in mm², 0 where it is not known. What a terminal needs on its way is
// said once, when it is first taken out.
func (a *Adviser) Advise(s Step, goal harness.Ref, wire size.Section) Advice {
	var v Advice
	from, to := a.seat(s.From), a.seat(s.To)
	for _, c := range s.Opens {
		v.How = join(v.How, a.lock(c))
		v.Warn = append(v.Warn, a.alike(c)...)
	}
	switch s.Kind {
	case Move, Pull:
		v.Fit = terminal.Move(from, a.seat(goal), wire)
		v.How = join(v.How, release(from))
	case Seat:
		if s.From != (harness.Ref{}) {
			v.How = join(v.How, release(from))
		}
	case Out, Hold, Drop:
		v.Fit.Parts = terminal.Out(from)
		v.How = join(v.How, release(from))
	case New:
		v.Fit = terminal.New(to, wire)
	case Seal:
		v.Fit.Parts = terminal.Stopper(to)
		v.After = "It sits flush with its neighbours."
	case Close:
		v.After = a.finished(s)
	case Unseal:
	}
	if s.To != (harness.Ref{}) && s.Kind != Seal {
		v.After = "It clicks, and takes a tug."
	}
	v.Warn = append(v.Warn, a.otherShell(s)...)
	return v
}

// lock says how the secondary lock of a connector is opened.
func (a *Adviser) lock(connector string) string {
	kind := face.NoLock
	if l := a.Housings[connector].Layout; l != nil {
		kind = l.Secondary
	}
	switch kind {
	case face.Comb:
		return fmt.Sprintf("Draw the comb of %s out at its side until it stops.", connector)
	case face.Wedge:
		return fmt.Sprintf("Lift the wedge out of the mating face of %s.", connector)
	case face.Cover:
		return fmt.Sprintf("Open the cover at the back of %s.", connector)
	case face.Slide:
		return fmt.Sprintf("Lift the slide of %s, 1 to 1.5 mm.", connector)
	default:
		return fmt.Sprintf("Open the outer cover of %s and lift its secondary lock, about 1 to 1.5 mm.", connector)
	}
}

func release(s terminal.Seat) string {
	switch {
	case s.Ends.Fixed():
		return "It does not come out: cut the wire a hand's breadth behind the housing."
	case s.Release == terminal.PullToSeat:
		return "It leaves by the mating face: free the tang, push it out to the front, and cut it off or thread the wire " +
			"back."
	case s.Release == terminal.Front:
		return "Push the wire in to take the load off, free the tang from the mating face with the right pick, draw it " +
			"out at the back."
	}
	return "Push the wire in to take the load off, free the tang with the right pick, draw it out at the back."
}

// alike names the housings that a connector could be taken for, looked for once.
func (a *Adviser) alike(connector string) []string {
	out, known := a.taken[connector]
	if !known {
		if a.taken == nil {
			a.taken = map[string][]string{}
		}
		out = a.lookAlike(connector)
		a.taken[connector] = out
	}
	return out
}

func (a *Adviser) lookAlike(connector string) []string {
	c, ok := a.Housings[connector]
	if !ok {
		return nil
	}
	if c.Layout == nil {
		return a.sameWays(c)
	}
	var out []string
	for _, id := range sortedNames(a.Housings) {
		o := a.Housings[id]
		if id == connector || o.Layout == nil || !face.Alike(*c.Layout, *o.Layout) {
			continue
		}
		if c.Layout.Colour != "" && c.Layout.Colour != o.Layout.Colour && o.Layout.Colour != "" {
			out = append(out, fmt.Sprintf("%s and %s are the same shell in %s and %s: with their covers off they can be "+
				"exchanged. This is %s.", connector, id, c.Layout.Colour, o.Layout.Colour, connector))
		} else if a.Near != nil && a.Near(connector, id) {
			out = append(out, fmt.Sprintf("%s lies within reach of %s and takes the same plug. Make sure that this is %s.", id,
				connector, connector))
		} else {
			out = append(out, fmt.Sprintf("%s looks the same as %s. Make sure that this is %s.", id, connector, connector))
		}
	}
	return out
}

// sameWays names the plugs within reach of one whose face nobody has said, that have as many cavities: they may be
// alike.
func (a *Adviser) sameWays(c harness.Connector) []string {
	var out []string
	for _, id := range sortedNames(a.Housings) {
		if o := a.Housings[id]; id != c.ID && o.Layout == nil && o.Ways() == c.Ways() && a.Near != nil && a.Near(c.ID, id) {
			out = append(out, fmt.Sprintf("%s lies within reach of %s and has %d cavities too. Make sure that this is %s, "+
				"and say in Faces what both are like.", id, c.ID, c.Ways(), c.ID))
		}
	}
	return out
}

// otherShell warns where a terminal changes its shell and the one that it leaves has a cavity of the same number.
func (a *Adviser) otherShell(s Step) []string {
	from := s.From
	if from == (harness.Ref{}) {
		from = s.Origin // it waited in hand
	}
	if from.Connector == s.To.Connector || from.Cavity == "" || s.To.Cavity == "" ||
		!a.Housings[from.Connector].Has(s.To.Cavity) {
		return nil
	}
	return []string{fmt.Sprintf("It changes its plug: cavity %s of %s, not that of %s.", s.To.Cavity, s.To.Connector,
		from.Connector)}
}

func (a *Adviser) finished(s Step) string {
	if s.Again {
		return ""
	}
	return "The lock is home when it is flush. Then the outer cover."
}

func join(a, b string) string {
	if a == "" {
		return b
	}
	return a + " " + b
}

func sortedNames(m map[string]harness.Connector) []string {
	names := make([]string, 0, len(m))
	for n := range m {
		names = append(names, n)
	}
	slices.Sort(names)
	return names
}
