package terminal

import (
	"fmt"

	"draxel/core/size"
)

// Verdict says what becomes of a terminal that is to go into another cavity.
type Verdict string

// The verdicts.
const (
	Unknown      Verdict = ""         // too little is known of one of the cavities
	Travels      Verdict = "travels"  // it goes as it is
	Reterminated Verdict = "re-crimp" // cut off, and a new terminal crimped on
	Pigtail      Verdict = "pigtail"  // cut, and a lead with the right terminal joined on
)

// Fit is the verdict about one move, with why, and what has to be there for it.
type Fit struct {
	Verdict Verdict `json:"verdict,omitempty"`
	Why     string  `json:"why,omitempty"`
	Parts   []Part  `json:"parts,omitempty"`
}

// PartKind says what a part is.
type PartKind string

// The kinds of part.
const (
	Terminal PartKind = "terminal"
	Seal     PartKind = "seal"
	Plug     PartKind = "plug"
	Lead     PartKind = "lead"
	Joint    PartKind = "joint"
	Pick     PartKind = "pick"
	Crimper  PartKind = "crimper"
	Lock     PartKind = "lock"
)

// Tool says whether the part is a tool: one is enough.
func (k PartKind) Tool() bool { return k == Pick || k == Crimper }

// Part is one thing to have before a move begins.
type Part struct {
	Kind PartKind `json:"kind"`
	Name string   `json:"name"`
}

// Move says whether the terminal of a wire of the given section can go from one seat into the other. A section of 0
// means that the wire's size is not known.
func Move(from, to Seat, wire size.Section) Fit {
	if from.Ends.Fixed() {
		return withLead(to, wire, fmt.Sprintf("A %s end cannot be taken out: cut the wire and join a lead that has the "+
			"right terminal.", from.Ends))
	}
	if !from.Known() || !to.Known() {
		return Fit{Why: "The housing's terminals are not known: look before anything is ordered or pulled."}
	}
	why := differs(from, to)
	if why == "" {
		return Fit{Verdict: Travels, Why: "Both cavities take the same terminal.", Parts: picks(from)}
	}
	if from.Release == PullToSeat {
		why += " It leaves by the mating face: cut it off there, or thread the wire back."
	}
	f := New(to, wire)
	if f.Verdict == Pigtail {
		return withLead(to, wire, why+" "+f.Why)
	}
	f.Why = why + " Cut it off and crimp the new one on."
	if from.Release != PullToSeat {
		f.Parts = append(picks(from), f.Parts...)
	}
	return f
}

// differs says in one sentence why a terminal does not go from one seat into the other as it is, empty where it does.
func differs(from, to Seat) string {
	switch {
	case from.Release == PullToSeat:
		return "It is pulled to seat."
	case from.Family != to.Family:
		return fmt.Sprintf("The cavities are of different families, %s and %s.", from.Family, to.Family)
	case from.Blade != to.Blade:
		return fmt.Sprintf("The terminal is %g mm wide, the cavity takes %g mm.", from.Blade, to.Blade)
	case from.Gender != "" && to.Gender != "" && from.Gender != to.Gender:
		return fmt.Sprintf("The terminal is %s, the cavity takes %s ones.", from.Gender, to.Gender)
	case from.Plating != "" && to.Plating != "" && from.Plating != to.Plating:
		return fmt.Sprintf("The terminal is plated with %s, its new mate with %s: unlike metals eat each other.",
			from.Plating, to.Plating)
	case to.Sealing == WireSeal && from.Sealing != WireSeal:
		return "The cavity is sealed by a seal on each wire, and this wire has none: the seal goes on before the crimp."
	}
	return ""
}

// New gives what a new end of a wire needs to go into a seat. It is a lead where no terminal of the width takes the
// wire.
func New(to Seat, wire size.Section) Fit {
	if !to.Known() {
		return Fit{Why: "The housing's terminals are not known: look before anything is ordered."}
	}
	grip, ok := GripFor(to.Blade, wire)
	if wire > 0 && !ok {
		return Fit{Verdict: Pigtail, Why: fmt.Sprintf("No %g mm terminal takes a wire of %g mm².", to.Blade, float64(wire))}
	}
	name := to.String()
	if ok {
		name += ", for " + grip.String()
	} else {
		name += ", for the wire's size (not known)"
	}
	f := Fit{Verdict: Reterminated, Why: "A new terminal is crimped on.",
		Parts: []Part{{Terminal, name}, {Crimper, fmt.Sprintf("crimper for %g mm terminals%s", to.Blade,
			map[bool]string{true: ", with seal", false: ""}[to.Sealing == WireSeal])}}}
	if to.Sealing == WireSeal {
		f.Parts = append(f.Parts, Part{Seal, fmt.Sprintf("single-wire seal for %g mm, family %s", to.Blade, to.Family)})
	}
	return f
}

func withLead(to Seat, wire size.Section, why string) Fit {
	lead := "lead with the terminal of the new cavity"
	if to.Known() {
		lead = "lead with a " + to.String() + " terminal"
	}
	if wire > 0 {
		lead += fmt.Sprintf(", wire at least %g mm²", float64(wire))
	}
	return Fit{Verdict: Pigtail, Why: why, Parts: []Part{{Lead, lead}, {Joint, "joint, sealed"}}}
}

func picks(s Seat) []Part {
	if s.Blade == 0 || s.Ends.Fixed() {
		return nil
	}
	side := s.Release
	if side == "" {
		side = Rear
	}
	return []Part{{Pick, fmt.Sprintf("release pick for %g mm, %s release", s.Blade, side)}}
}

// Out gives what taking a terminal out for good needs: the pick, and nothing where it does not come out. The plug of
// the cavity is Stopper's.
func Out(from Seat) []Part { return picks(from) }

// Stopper gives the plug of a cavity that is left empty, none where the housing is not sealed.
func Stopper(s Seat) []Part {
	if s.Sealing == Unsealed || s.Blade == 0 {
		return nil
	}
	return []Part{{Plug, fmt.Sprintf("cavity plug for %g mm, family %s", s.Blade, s.Family)}}
}
